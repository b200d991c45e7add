"""What a visit costs that leaves a day after all: against the plan gone through without it."""

import unittest

import numpy as np

from june_shade.core.choosing import leave, offered, offers, outcomes
from june_shade.core.choosing.offers import PLAN_DAYS
from tests.core.test_fortnight import group


class Costs(unittest.TestCase):
    def setUp(self):
        self.hands = offers.Hands(*(np.full((1, PLAN_DAYS), value) for value in (1e6, 1.0, 1.0)))

    def plan_of(self, of):
        return outcomes.of_visits(of, offers.plain(of), self.hands, of.wanted.astype(float))

    def test_it_is_what_the_plan_without_the_visit_comes_to_more(self):
        of = group(3)
        plan = self.plan_of(of)
        day = int(np.argmax(of.wanted.sum(axis=1)))
        units = np.flatnonzero(of.wanted[day])
        found = leave.costs(of, plan, day, units)
        for unit, cost in zip(units, found, strict=True):
            share = plan.share.copy()
            share[day, unit] = 0.0
            without = outcomes.of_visits(of, plan.plain, self.hands, share)
            more = of.weight[unit] * (without.outcome.harm[unit] - plan.outcome.harm[unit])
            dies = without.outcome.dies[unit] and not plan.outcome.dies[unit]
            self.assertAlmostEqual(cost % offered.PIN_FIRST, max(0.0, more) % offered.PIN_FIRST, places=6)
            self.assertEqual(cost >= offered.PIN_FIRST, dies)
        self.assertTrue(np.all(found >= 0.0))

    def test_a_pinned_visit_leaves_last(self):
        of = group(3)
        day = int(np.argmax(of.wanted.sum(axis=1)))
        units = np.flatnonzero(of.wanted[day])
        of.pinned[day, units[0]] = True
        found = leave.costs(of, self.plan_of(of), day, units)
        self.assertTrue(np.all(found[0] > 100 * found[1:]))

    def test_trees_on_a_line_leave_together(self):
        of = group(4, units=(np.array([0, 1]), np.array([2]), np.array([3])))
        day = int(np.argmax(np.all(of.wanted[:, :2], axis=1)))
        plan = self.plan_of(of)
        apart = group(4)
        both = leave.costs(of, plan, day, np.array([0]))[0]
        each = leave.costs(apart, plan, day, np.array([0, 1]))
        self.assertAlmostEqual(both, each.sum())


class Order(unittest.TestCase):
    def test_least_for_a_minute_first_and_the_longest_of_those_that_cost_nothing(self):
        self.assertEqual(leave.first_to_leave(np.array([3.0, 2.0, 9.0]), np.array([10.0, 2.0, 40.0])), 2)
        self.assertEqual(leave.first_to_leave(np.array([0.0, 0.0, 1.0]), np.array([4.0, 9.0, 90.0])), 1)


if __name__ == "__main__":
    unittest.main()
