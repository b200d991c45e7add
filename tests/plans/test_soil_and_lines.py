"""Plans over a soil of tests, lines that serve many trees, boxes: the cache and the log agree with a plan made anew."""

import unittest
from datetime import timedelta
from uuid import uuid4

import numpy as np

from june_shade.plans import clock, log, register, soil, soil_in_force, water, whatif
from june_shade.store.session import transaction
from june_shade.store.tree_tables import TreeState
from tests.support import DAY, database, plant_id, small_site, tree_body, water_body

START = DAY - timedelta(days=30)


def tree_values(site, plant, **changed):
    from june_shade.api.schemas.trees import TreeIn

    return TreeIn.model_validate(tree_body(site, plant, planted_on=START.isoformat()) | changed).model_dump()


class PlanTest(unittest.TestCase):
    def setUp(self):
        self.sessions = self.enterContext(database())
        with transaction(self.sessions) as session:
            site = small_site(session)
            clock.pin(session, START)
            self.site_id, self.plant = site.id, plant_id(session)

    def plant_trees(self, **trees):
        """Trees by tag, planted a month ago; the clock then stands at today."""
        ids = {tag: uuid4() for tag in trees}
        with transaction(self.sessions) as session:
            for tag, changed in trees.items():
                register.save_tree(session, tree_values(self.site_id, self.plant, tag=tag, **changed), ids[tag])
            clock.pin(session, DAY)
        return ids

    def pour(self, tree_id, litres, day):
        body = water_body(tree_id, litres, day=day)
        from datetime import datetime

        with transaction(self.sessions) as session:
            entry = log.NewEntry(
                uuid4(), tree_id, "water", datetime.fromisoformat(body["happened_at"]), "d", volume_l=litres
            )
            log.put(session, entry)

    def plan(self, session, **options):
        return water.plan_site(session, register.site(session, self.site_id), **options)


class Cache(PlanTest):
    def test_a_wiped_cache_gives_the_same_plan_with_boxes_and_lines(self):
        valve = {"line": "Valve", "method": "emitters", "emitter_count": 4, "emitter_flow_l_per_h": 4.0}
        ids = self.plant_trees(A={"method": "wicked", "reservoir_l": 60.0}, B=valve, C=valve | {"emitter_count": 8})
        for back in (28, 21, 12, 5):
            for tree_id in ids.values():
                self.pour(tree_id, 40.0, DAY - timedelta(days=back))
        with transaction(self.sessions) as session:
            first = self.plan(session)
        with transaction(self.sessions) as session:
            second = self.plan(session)
            anew = self.plan(session, use_cache=False)
            self.assertGreater(session.query(TreeState).count(), 0)
        for other in (second, anew):
            for name in ("late_days", "neediest", "now_dryness"):
                np.testing.assert_array_equal(getattr(first.plan, name), getattr(other.plan, name), err_msg=name)
            for i in range(len(first.rows)):
                days = [made.day(int(made.plan.visit[i])) for made in (first, other)]
                self.assertEqual(days[0], days[1])
        today = [made.plan.reservoir_l[made.course.today :] for made in (first, second, anew)]
        np.testing.assert_array_equal(today[0], today[1])
        np.testing.assert_array_equal(today[0], today[2])

    def test_one_tree_of_a_line_is_planned_with_its_mates(self):
        valve = {"line": "Valve", "method": "emitters", "emitter_flow_l_per_h": 4.0}
        ids = self.plant_trees(A=valve | {"emitter_count": 2}, B=valve | {"emitter_count": 10}, C={})
        with transaction(self.sessions) as session:
            whole = self.plan(session)
            alone = self.plan(session, tree_ids=[ids["B"]])
            self.assertEqual({row.tag for row in alone.rows}, {"A", "B"})
            i, j = whole.index_of(ids["B"]), alone.index_of(ids["B"])
            self.assertEqual(whole.day(int(whole.plan.visit[i])), alone.day(int(alone.plan.visit[j])))
            self.assertTrue(alone.on_a_line(j))
            self.assertFalse(whole.on_a_line(whole.index_of(ids["C"])))


class WhatIf(PlanTest):
    def test_the_same_soil_changes_nothing_and_nothing_is_stored(self):
        self.plant_trees(A={}, B={"kind": "container"})
        with transaction(self.sessions) as session:
            site = register.site(session, self.site_id)
            change = whatif.other_soil(session, site, soil_in_force.in_force(session, site))
            self.assertEqual((change.trees, change.changed), (2, 0))
            self.assertEqual(change.litres_before, change.litres_after)
            self.assertEqual(session.query(TreeState).count(), 0)

    def test_a_tub_of_rock_changes_the_plan(self):
        self.plant_trees(A={})
        rock = soil.NewTest(uuid4(), self.site_id, "hardpan", DAY, "", {"depth_m": 0.3}, True)
        with transaction(self.sessions) as session:
            site = register.site(session, self.site_id)
            told = whatif.other_soil(session, site, soil_in_force.in_force(session, site, rock))
            before = self.plan(session, use_cache=False)
            soil.put(session, rock)
            after = self.plan(session, use_cache=False)
            self.assertEqual(told, whatif.compare(before, after))

    def test_a_site_without_trees_or_weather_has_no_change_to_show(self):
        with transaction(self.sessions) as session:
            site = register.site(session, self.site_id)
            self.assertIsNone(whatif.other_soil(session, site, soil_in_force.in_force(session, site)))


if __name__ == "__main__":
    unittest.main()
