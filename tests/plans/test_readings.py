"""Readings in the log move the plan, today and in its past: site by site or all at once, with the cache or without."""

import unittest
from datetime import datetime, time, timedelta
from uuid import uuid4

import numpy as np
from sqlalchemy import delete, select

from june_shade.plans import clock, log, water
from june_shade.plans.log import NewEntry
from june_shade.plans.water.run import plan_sites
from june_shade.store import trees as tree_store
from june_shade.store.session import transaction
from june_shade.store.site_tables import Site
from june_shade.store.tree_tables import TreeState
from tests.plans.test_plan import planned, pour
from tests.plans.test_workings import reckoned
from tests.support import DAY, ZONE, database


def felt(session, tree, day, ball=None, ring=None, at=time(5, 30), how="finger"):
    when = datetime.combine(day, at, ZONE)
    log.put(session, NewEntry(uuid4(), tree.id, "reading", when, "test", how=how, ball_feel=ball, ring_feel=ring))


def town_is_felt(session):
    """Some trees of every site felt: days ago, yesterday before and after water, this morning, at noon."""
    for site in tree_store.sites(session):
        trees = tree_store.all_trees(session, site.id)
        felt(session, trees[0], DAY - timedelta(days=6), "dry", "drying")
        felt(session, trees[1], DAY - timedelta(days=1), "like_clay", None, time(5, 0), "trowel")
        pour(session, trees[1], 12.0, DAY - timedelta(days=1))
        felt(session, trees[1], DAY - timedelta(days=1), "wet", "moist", time(9, 0))
        felt(session, trees[2], DAY, "drying", None)
        felt(session, trees[2], DAY, None, "dry", time(5, 40))
    session.flush()


class Town(unittest.TestCase):
    def test_every_sum_still_adds_up_and_says_what_was_felt(self):
        seen = set()
        with database("demo") as sessions, transaction(sessions) as session:
            town_is_felt(session)
            for site in session.scalars(select(Site)):
                made = water.plan_site(session, site, history_days=water.HISTORY_DAYS, keep_days=True)
                for i, row in enumerate(made.rows[:4]):
                    for one in water.working(made, i):
                        seen.add(one.key)
                        close = abs(reckoned(one) - one.value) <= 1e-9 * max(1.0, abs(one.value))
                        self.assertTrue(close, f"{row.tag} {one.key}: {one.formula}, not {one.value}")
        self.assertIn("ball_read", seen)

    def test_with_the_cache_without_it_and_all_sites_at_once_it_is_one_plan(self):
        with database("demo") as sessions, transaction(sessions) as session:
            town_is_felt(session)
            sites = tree_store.sites(session)
            for site in sites:
                first = planned(session, site, use_cache=True)
                self.assertEqual(planned(session, site, use_cache=False), first)
                session.execute(delete(TreeState))
                self.assertEqual(planned(session, site, use_cache=True), first)
            clock.pin(session, DAY + timedelta(days=1))
            alone = {site.id: water.plan_site(session, site, use_cache=False) for site in sites}
            for site_id, made in plan_sites(session, sites).items():
                expected = alone[site_id]
                np.testing.assert_array_equal(
                    made.plan.visit_gross_l[made.course.today :], expected.plan.visit_gross_l[expected.course.today :]
                )


if __name__ == "__main__":
    unittest.main()
