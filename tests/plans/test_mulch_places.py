"""Who stands near whom: rings of a row on one line, of trees with coordinates; a hedge counted once; laying undone."""

from datetime import date, timedelta
from uuid import uuid4

from sqlalchemy import select

from june_shade.core.mulch.lay import lay_all
from june_shade.core.stock import series_of_trees as tree_rows
from june_shade.plans import clock, orders, register, yard
from june_shade.plans.mulch import records, stands
from june_shade.plans.orders import Scope
from june_shade.store.session import transaction
from june_shade.store.site_tables import Line
from june_shade.store.tree_tables import Tree
from tests.plans.test_soil_and_lines import START, PlanTest
from tests.support import DAY

RING = {"mulch_material": "wood_chips", "mulch_depth_m": 0.02, "mulch_outer_radius_m": 0.8, "surround": "turf"}
DRIP = {"method": "emitters", "emitter_count": 4, "emitter_flow_l_per_h": 4.0, "basin_diameter_m": None}


class Near(PlanTest):
    def hedge(self, count=4, spacing_m=1.2):
        trees = {f"H-{n}": RING | DRIP | {"line": "Hedge", "row_place": n} for n in range(count)}
        ids = self.plant_trees(**trees)
        with transaction(self.sessions) as session:
            line = session.scalars(select(Line)).one()
            line.spacing_m, line.bearing_deg = spacing_m, 90.0
        return ids

    def near(self, session, tree_id):
        return stands.near(session, register.tree(session, tree_id), DAY)

    def test_a_tree_of_a_row_stands_at_the_middle_of_its_own_view(self):
        ids = self.hedge()
        with transaction(self.sessions) as session:
            found = self.near(session, ids["H-1"])
        self.assertEqual(found[0].tree.tag, "H-1")
        self.assertEqual(found[0].stand.at, (0.0, 0.0))
        east = {m.tree.tag: round(m.stand.at[0], 6) for m in found}
        self.assertEqual(east, {"H-1": 0.0, "H-0": -1.2, "H-2": 1.2, "H-3": 2.4})

    def test_trees_with_coordinates_stand_as_far_apart_as_they_do(self):
        here = (40.0, -105.0)
        there = tree_rows.position(*here, 5.0, 90.0, 1)
        ids = self.plant_trees(
            a=RING | {"latitude_deg": here[0], "longitude_deg": here[1]},
            b=RING | {"latitude_deg": there[0], "longitude_deg": there[1]},
            c=RING,
        )
        with transaction(self.sessions) as session:
            found = self.near(session, ids["a"])
            self.assertEqual([m.tree.tag for m in found], ["a", "b"])
            self.assertAlmostEqual(found[1].stand.at[0], 5.0, delta=0.01)
            self.assertEqual(len(self.near(session, ids["c"])), 1)

    def test_a_hedge_is_counted_once_in_its_order(self):
        ids = self.hedge()
        with transaction(self.sessions) as session:
            listed = orders.order_list(session, Scope(self.site_id))
            alone = sum(
                lay_all([m.choice], [m.stand])[0].missing_loose_l
                for tree_id in ids.values()
                for m in self.near(session, tree_id)[:1]
            )
        total = sum(row.loose_l for row in listed.mulched)
        self.assertEqual(len(listed.mulched), 4)
        self.assertLess(total, alone)
        self.assertAlmostEqual(listed.materials[0].order.loose_l, total)

    def test_far_apart_they_are_the_sum(self):
        ids = self.hedge(spacing_m=5.0)
        with transaction(self.sessions) as session:
            listed = orders.order_list(session, Scope(self.site_id))
            one = self.near(session, ids["H-0"])[0]
            alone = lay_all([one.choice], [one.stand])[0].missing_loose_l
        self.assertAlmostEqual(sum(row.loose_l for row in listed.mulched), 4 * alone, places=6)


class Undone(PlanTest):
    def laid(self, session, tree_id, day: date, loose_l=None):
        entry = uuid4()
        records.put_laid(session, entry, tree_id, day, loose_l)
        return entry

    def test_entries_taken_back_in_any_order_leave_what_stood_before(self):
        ids = self.plant_trees(a=RING | {"mulch_measured_on": START.isoformat()})
        tree_id = ids["a"]
        with transaction(self.sessions) as session:
            tree = session.get_one(Tree, tree_id)
            before = {name: getattr(tree, name) for name in records.COLUMNS}
            first = self.laid(session, tree_id, DAY - timedelta(days=10))
            second = self.laid(session, tree_id, DAY)
            self.assertEqual(tree.mulch_measured_on, DAY)
            records.withdraw(session, first)
            self.assertEqual(tree.mulch_measured_on, DAY)
            records.withdraw(session, second)
            self.assertEqual({name: getattr(tree, name) for name in records.COLUMNS}, before)

    def test_an_entry_of_an_earlier_day_does_not_undo_a_later_one(self):
        ids = self.plant_trees(a=RING)
        with transaction(self.sessions) as session:
            tree = session.get_one(Tree, ids["a"])
            look = records.Look((0.06, 0.06, 0.06, 0.06), "clear", True)
            records.put_look(session, uuid4(), tree.id, look, DAY)
            self.laid(session, tree.id, DAY - timedelta(days=5))
            self.assertEqual((tree.mulch_measured_on, round(tree.mulch_depth_m, 6)), (DAY, 0.06))

    def test_the_yard_closes_over_a_days_work(self):
        ids = self.plant_trees(a=RING, b=RING)
        with transaction(self.sessions) as session:
            clock.pin(session, DAY)
            yard.put(session, uuid4(), "wood_chips", "counted", 100.0, DAY)
            job = records.Job(tuple(ids.values()), "wood_chips", 700.0, 750.0, 130.0, DAY)
            kept = records.put_job(session, uuid4(), job)
            there = yard.on_hand(session)["wood_chips"]
            self.assertAlmostEqual(100 + 700 - 750 + 130, there)
            self.assertAlmostEqual(sum(row.loose_l for row in kept), 750 - 130)
