"""What a change sets off: a name nothing, a soil everything; each site's revision goes up with what changed there."""

import unittest
from datetime import timedelta
from unittest import mock
from uuid import uuid4

from sqlalchemy import func, select

from june_shade.core.drip.choice import LayoutChoice
from june_shade.plans import changes, clock, log, places, register, water
from june_shade.plans.drip import layouts
from june_shade.plans.log import NewEntry
from june_shade.store.session import transaction
from june_shade.store.site_tables import Site
from june_shade.store.tree_tables import TreeState
from tests.plans.test_soil_and_lines import START, PlanTest

DRIP = {"method": "emitters", "emitter_count": 4, "emitter_flow_l_per_h": 4.0, "basin_diameter_m": None}
KEPT = ("trees", "revision", "organisation_id")


class Told(PlanTest):
    def save_site(self, session, **changed):
        row = register.site(session, self.site_id)
        values = {c.name: getattr(row, c.name) for c in Site.__table__.columns if c.name not in ("id", *KEPT)}
        places.save_site(session, values | changed, self.site_id)

    def revision(self) -> int:
        with transaction(self.sessions) as session:
            return session.scalars(select(Site.revision).where(Site.id == self.site_id)).one()

    def states(self, session) -> int:
        return session.scalar(select(func.count()).select_from(TreeState))

    def test_a_new_name_runs_no_plan_and_drops_nothing_but_is_seen(self):
        ids = self.plant_trees(a=DRIP, b={})
        with transaction(self.sessions) as session:
            layouts.save(
                session, uuid4(), ids["a"], LayoutChoice("on_ball", radius_m=0.2, points=4, flow_l_per_h=4.0), START
            )
            water.plan_site(session, register.site(session, self.site_id))
        before = self.revision()
        with transaction(self.sessions) as session:
            kept = self.states(session)
            self.assertGreater(kept, 0)
            with mock.patch("june_shade.plans.water.plan_site", side_effect=AssertionError("a plan was made")):
                self.save_site(session, name="Another name")
            self.assertEqual(self.states(session), kept)
        self.assertEqual(self.revision(), before + 1)

    def test_another_soil_drops_the_states_and_lays_anew(self):
        ids = self.plant_trees(a=DRIP)
        with transaction(self.sessions) as session:
            layout = layouts.save(
                session, uuid4(), ids["a"], LayoutChoice("on_ball", radius_m=0.2, points=4, flow_l_per_h=4.0), START
            )
            share = layout.ball_share
            water.plan_site(session, register.site(session, self.site_id))
            self.save_site(session, texture="sand")
            self.assertNotEqual(layout.ball_share, share)
            self.assertEqual(self.states(session), 0)

    def test_a_whole_stop_logged_is_one_change(self):
        ids = self.plant_trees(a={}, b={}, c={})
        before = self.revision()
        with transaction(self.sessions) as session:
            at = clock.now(session)
            poured = [NewEntry(uuid4(), tree, "water", at, "test", volume_l=20.0) for tree in ids.values()]
            undone = NewEntry(uuid4(), ids["c"], "void", at, "test", voids=poured[2].id)
            log.put_all(session, [*poured, undone])
            made = water.plan_site(session, register.site(session, self.site_id))
            first = made.course.first_net_l[made.course.today]
            self.assertEqual([first[made.index_of(ids[name])] > 0 for name in "abc"], [True, True, False])
        self.assertEqual(self.revision(), before + 1)
        with transaction(self.sessions) as session:
            log.put_all(session, [*poured, undone])
        self.assertEqual(self.revision(), before + 1, "sent again it changes nothing")

    def test_a_morning_on_which_drip_does_what_it_did_is_no_change(self):
        ids = self.plant_trees(a=DRIP)
        with transaction(self.sessions) as session:
            layouts.save(
                session, uuid4(), ids["a"], LayoutChoice("on_ball", radius_m=0.2, points=4, flow_l_per_h=4.0), START
            )
        with transaction(self.sessions) as session:
            changes.grown(session, self.site_id)
        before = self.revision()
        with transaction(self.sessions) as session:
            changes.grown(session, self.site_id)
        self.assertEqual(self.revision(), before, "nobody's page is made anew for it")

    def test_the_same_site_saved_again_is_no_change(self):
        before = self.revision()
        with transaction(self.sessions) as session:
            self.save_site(session)
        self.assertEqual(self.revision(), before)

    def test_one_day_dropped_leaves_what_was_before_it(self):
        ids = self.plant_trees(a={})
        with transaction(self.sessions) as session:
            site = register.site(session, self.site_id)
            made = water.plan_site(session, site)
            before = self.revision()
        with transaction(self.sessions) as session:
            from tests.plans.test_plan import pour

            pour(session, register.tree(session, ids["a"]), 20.0, made.today - timedelta(days=3))
            days = session.scalars(select(TreeState.day)).all()
            self.assertTrue(all(day < made.today - timedelta(days=3) for day in days))
        self.assertEqual(self.revision(), before + 1)


if __name__ == "__main__":
    unittest.main()
