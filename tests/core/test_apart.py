"""Groups that share neither a crew nor litres are planned apart, and together as one plan."""

import time
import unittest
from dataclasses import replace

import numpy as np

from june_shade.core.choosing import apart, fortnight
from june_shade.core.choosing.offers import PLAN_DAYS, Hands, Limits
from tests.core.test_fortnight import group

WEEK = tuple(range(7))


def limits(crew_of, minutes, **changed) -> Limits:
    """Stops of these crews, each crew with so many minutes a day."""
    of, crews = np.repeat(np.array(crew_of, int)[:, None], PLAN_DAYS, axis=1), len(minutes)
    hands = Hands(
        np.repeat(np.array(minutes, float)[:, None], PLAN_DAYS, axis=1), np.ones((crews, PLAN_DAYS)),
        np.ones((crews, PLAN_DAYS)),
    )  # fmt: skip
    return replace(Limits(hands, np.full(of.shape, 12.0), of), **changed)


def planned(groups, stops, of: Limits, seconds: float = 3.0):
    """A plan with nothing promised."""
    none = [np.zeros(one.wanted.shape) for one in groups]
    return fortnight.plan(groups, stops, of, none, seconds=seconds, slack=0.0, clock=time.monotonic)


class Parts(unittest.TestCase):
    def setUp(self):
        self.stops = [np.array([0, 0]), np.array([1, 2]), np.array([3])]

    def names(self, of: Limits) -> list[list[int]]:
        return [part.groups.tolist() for part in apart.parts(self.stops, of)]

    def test_each_crew_has_its_own(self):
        found = apart.parts(self.stops, limits([0, 1, 1, 0], [60, 60]))
        self.assertEqual([(p.groups.tolist(), p.stops.tolist()) for p in found], [([0, 2], [0, 3]), ([1], [1, 2])])
        self.assertEqual([own.tolist() for own in found[0].at_stops(self.stops)], [[0, 0], [1]])

    def test_a_crew_that_helps_out_on_one_day_joins_what_it_goes_to(self):
        of = limits([0, 1, 1, 2], [60, 60, 60])
        self.assertEqual(self.names(of), [[0], [1], [2]])
        of.crew_of[1, 9] = 2
        self.assertEqual(self.names(of), [[0], [1, 2]])

    def test_litres_join_those_whose_water_counts(self):
        of = limits([0, 1, 1, 2], [60, 60, 60])
        self.assertEqual(self.names(replace(of, periods=((WEEK, 90.0, ((0, 1), (), (0,))),))), [[0, 2], [1]])
        self.assertEqual(self.names(replace(of, periods=((WEEK, 90.0, ((0,), (), ())),))), [[0], [1], [2]])

    def test_what_holds_for_a_part_is_told_by_its_own_numbers(self):
        of = limits(
            [0, 1, 1, 0], [60, 60], periods=((WEEK, 90.0, ((), (1,), ())), (WEEK, 50.0, ((0,), (), (0,)))),
            closings=((3, 20.0, 2, (0,)), (4, 30.0, 1, (1,))),
        )  # fmt: skip
        first, second = (part.limits(of) for part in apart.parts(self.stops, of))
        self.assertEqual((first.periods, first.closings), (((WEEK, 50.0, ((0,), (0,))),), ((3, 20.0, 1, (0,)),)))
        self.assertEqual((second.periods, second.closings), (((WEEK, 90.0, ((1,),)),), ((4, 30.0, 0, (1,)),)))
        self.assertEqual((first.crew_of.tolist(), second.crew_of[:, 0].tolist()), ([[0] * PLAN_DAYS] * 2, [1, 1]))

    def test_time_that_a_part_does_not_use_is_left_to_those_that_come(self):
        parts = apart.parts(self.stops, limits([0, 1, 1, 2], [60, 60, 60]))
        for used_s, threads, want_s in (
            (0, 1, [10.0, 24.0, 60.0]),
            (10, 1, [10.0, 20.0, 40.0]),
            (0, 3, [30.0, 60.0, 60.0]),
        ):
            now_s = [0.0]

            def work(part: apart.Part, some: float, at=now_s, used=used_s) -> float:
                at[0] += used
                return some

            found = apart.each(parts, [2, 3, 1], 60.0, work, clock=lambda at=now_s: at[0], threads=threads)
            self.assertEqual([part.groups.tolist() for part, _ in found], [[2], [0], [1]], "the smallest first")
            np.testing.assert_allclose([some for _, some in found], want_s)


class Together(unittest.TestCase):
    def setUp(self):
        self.groups = [group(3), group(4)]
        self.stops = [np.array([0, 0, 1]), np.array([2, 3, 2, 3])]

    def test_parts_come_to_what_each_comes_to_by_itself(self):
        of = limits([0, 0, 1, 1], [40, 50])
        whole = planned(self.groups, self.stops, of)
        alone = [
            planned([self.groups[0]], [self.stops[0]], limits([0, 0], [40])),
            planned([self.groups[1]], [self.stops[1] - 2], limits([0, 0], [50])),
        ]
        for name in ("harm", "deaths", "litres", "minutes"):
            total = sum(getattr(one.choice.plan, name) for one in alone)
            self.assertAlmostEqual(getattr(whole.choice.plan, name), total, delta=0.03 * abs(total) + 1e-6)
        self.assertLessEqual(whole.choice.bound, whole.choice.least_harm + 1e-9)
        self.assertTrue(np.all(whole.crew_minutes <= of.hands.minutes + 1e-6))
        np.testing.assert_array_equal(
            whole.open_stops[2:], [np.any(whole.groups[1].share[:, self.stops[1] == s] > 0, axis=1) for s in (2, 3)]
        )
        self.assertEqual([one.share.shape[1] for one in whole.groups], [3, 4])

    def test_who_has_hours_enough_gets_what_is_wanted_beside_one_who_is_short(self):
        found = planned(self.groups, self.stops, limits([0, 0, 1, 1], [1e4, 30]))
        np.testing.assert_array_equal(found.groups[0].share > 0, self.groups[0].wanted)
        self.assertLess(found.groups[1].share.sum(), self.groups[1].wanted.sum())
        self.assertLessEqual(found.choice.bound, found.choice.least_harm)

    def test_with_hardly_any_time_it_is_a_plan_all_the_same(self):
        of = limits([0, 0, 1, 1], [40, 50])
        found = planned(self.groups, self.stops, of, seconds=0.05)
        self.assertTrue(np.all(found.crew_minutes <= of.hands.minutes + 1e-6))
        self.assertLessEqual(found.choice.bound, found.choice.least_harm + 1e-9)
        none = sum(float(one.weight @ made.none.harm) for one, made in zip(self.groups, found.groups, strict=True))
        self.assertLess(found.choice.plan.harm, none)

    def test_closed_hours_hold_for_their_own_group(self):
        closings = tuple((day, 0.0, 1, (0, 1, 2, 3)) for day in range(PLAN_DAYS))
        found = planned(self.groups, self.stops, limits([0, 0, 1, 1], [40, 50], closings=closings))
        self.assertEqual(float(found.groups[1].share.sum()), 0.0)
        self.assertGreater(float(found.groups[0].share.sum()), 0.0)

    def test_no_trees_no_plan(self):
        found = planned([], [], limits([0], [40]))
        self.assertEqual((found.groups, found.choice.gap, found.pins_missed), ((), 0.0, 0))


if __name__ == "__main__":
    unittest.main()
