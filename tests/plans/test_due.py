"""What is due at a site: plantings and tasks on the round, drip that outgrows itself, rings that are measured."""

from datetime import timedelta
from uuid import uuid4

from june_shade.core.drip.choice import LayoutChoice
from june_shade.plans import care, changes, clock, register, rounds
from june_shade.plans.drip import layouts
from june_shade.plans.mulch import records
from june_shade.plans.planting import batches, planted
from june_shade.store.drip_tables import DripLayout
from june_shade.store.session import transaction
from june_shade.store.tree_tables import Tree
from tests.plans.test_soil_and_lines import START, PlanTest
from tests.support import DAY

DRIP = {"method": "emitters", "emitter_count": 4, "emitter_flow_l_per_h": 4.0, "basin_diameter_m": None}
RING = {"mulch_material": "wood_chips", "mulch_depth_m": 0.08, "mulch_outer_radius_m": 0.8}


class Round(PlanTest):
    def plan_batch(self, session, planned_on):
        values = {
            "site_id": self.site_id, "stop": "", "planned_on": planned_on, "plant_id": self.plant,
            "stock_size_id": None, "kind": "container", "caliper_m": 0.03, "ball_diameter_m": 0.44,
            "ball_height_m": 0.395, "ball_volume_l": None, "flare_below_top_m": 0.0, "count": 2, "tag": "N-1",
            "place": "", "microclimate": 1.0, "surround": "bare", "method": "hose", "note": "",
        }  # fmt: skip
        return batches.save(session, uuid4(), values, None, None).id

    def round(self, session):
        (site,) = rounds.round_of_today(session)["sites"]
        return site

    def test_a_planting_stands_on_its_days_round_until_it_is_done(self):
        with transaction(self.sessions) as session:
            clock.pin(session, DAY)
            coming = self.plan_batch(session, DAY + timedelta(days=1))
            self.assertEqual(self.round(session)["plantings"], [])
            clock.pin(session, DAY + timedelta(days=1))
            self.assertEqual([p["id"] for p in self.round(session)["plantings"]], [coming])
            planted.plant_out(session, coming, None, "d", None, None)
            self.assertEqual(self.round(session)["plantings"], [])

    def test_planted_a_day_late_it_still_opens_on_planting_day(self):
        with transaction(self.sessions) as session:
            clock.pin(session, DAY)
            made = self.plan_batch(session, DAY - timedelta(days=3))
            trees = planted.plant_out(session, made, DAY - timedelta(days=2), "d", None, 12.0)
            self.assertEqual({tree.opened_on for tree in trees}, {DAY - timedelta(days=2)})
            self.assertEqual({tree.planting_id for tree in trees}, {made})
            self.assertEqual(batches.planting(session, made).first_water_l, 12.0)

    def test_tasks_come_due_as_days_go_by(self):
        self.plant_trees(a=RING)
        with transaction(self.sessions) as session:
            site = register.site(session, self.site_id)
            thin = next(d.task.due_on for d in care.of_site(session, site) if d.task.kind == "mulch_top_up")
            clock.pin(session, thin - timedelta(days=1))
            self.assertNotIn("mulch_top_up", [d.task.kind for d in care.due_by(session, site)])
            clock.pin(session, thin)
            self.assertIn("mulch_top_up", [d.task.kind for d in care.due_by(session, site)])

    def test_a_reading_moves_the_day_and_not_the_task(self):
        ids = self.plant_trees(a=RING)
        with transaction(self.sessions) as session:
            site = register.site(session, self.site_id)
            records.put_laid(session, uuid4(), ids["a"], START)
            tasks = {d.task.key: d.task.due_on for d in care.of_site(session, site) if d.task.kind == "mulch_top_up"}
            records.put_look(session, uuid4(), ids["a"], records.Look((0.055,) * 4, "clear", True), DAY)
            later = {d.task.key: d.task.due_on for d in care.of_site(session, site) if d.task.kind == "mulch_top_up"}
            self.assertEqual(set(tasks), set(later))
            self.assertLess(min(later.values()), min(tasks.values()))


class Outgrown(PlanTest):
    def test_a_ring_that_is_outgrown_is_a_task_and_grows_with_the_day(self):
        ids = self.plant_trees(a=DRIP)
        with transaction(self.sessions) as session:
            site = register.site(session, self.site_id)
            layouts.save(
                session, uuid4(), ids["a"], LayoutChoice("on_ball", radius_m=0.1, points=2, flow_l_per_h=2.0), START
            )
            layout = session.get_one(DripLayout, session.get_one(Tree, ids["a"]).layout_id)
            self.assertIsNotNone(layout.move_on)
            keys = [d.task.key for d in care.of_site(session, site) if d.task.kind == "ring_move"]
            self.assertEqual(keys, [f"ring_move:{layout.move_on.year}"])
            layout.move_on = None
            session.flush()
            self.assertEqual([d for d in care.of_site(session, site) if d.task.kind == "ring_move"], [])
            changes.grown(session, site.id)
            self.assertIsNotNone(layout.move_on)
