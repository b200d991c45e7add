"""Visits on given days: the plan's own give the plan's own path; shares, lines and days beyond the forecast."""

import unittest
from dataclasses import replace

import numpy as np

from june_shade.core.water import planner
from june_shade.core.water.course import Course
from june_shade.core.water.visits import Standing, next_morning, walked
from june_shade.core.water.walk import Era, Opening
from tests.core.test_planner import TODAY, kept, plan_of, series_of, usual
from tests.support import full, of_specs, one, spec

MIXED = ("2 in balled", "#5 container", "1 in bare root")


def standing(made, plan, series, pouring=None, tail=0) -> Standing:
    """Trees as their plan left them yesterday, over its days ahead."""
    trees, reach = made
    count, days = len(trees), len(series)
    zero = np.zeros((days, count))
    course = Course.of(series, np.ones((days, count)), zero, zero, zero, np.zeros(count, bool), TODAY)
    opening = Opening(np.zeros(count, int), full(trees, reach), np.ones(count, bool), np.zeros(count))
    era = Era(0, reach, pouring or usual(count))
    return Standing.of(
        trees, opening, plan.yesterday, np.zeros(count), course.lengthened(tail), era, np.full(count, np.nan)
    )


class TheSamePath(unittest.TestCase):
    def test_the_plans_own_visits_give_the_plans_own_days(self):
        for texture in ("sand", "loam", "clay"):
            made = of_specs(*(spec(label, texture) for label in MIXED))
            series = series_of(rain={3: 6.0, 8: 1.0})
            plan = kept(made, series)
            share = (np.nan_to_num(plan.visit_gross_l[TODAY:]) > 0).astype(float)
            found = walked(standing(made, plan, series), share)
            with self.subTest(texture):
                self.assertGreater(share.sum(), 0)
                np.testing.assert_allclose(found.dryness, plan.dryness[TODAY:], atol=1e-12)
                np.testing.assert_allclose(found.ks, plan.ks[TODAY:], atol=1e-12)

    def test_many_ways_at_once_are_the_same_as_each_by_itself(self):
        made, series = of_specs(*(spec(label) for label in MIXED)), series_of()
        stands = standing(made, kept(made, series), series)
        ways = np.zeros((14, 4))
        ways[2, 0] = ways[5, 1] = ways[1, 3] = ways[9, 3] = 1.0
        trees = np.array([0, 1, 2, 0])
        together = walked(stands.of_some(trees, np.arange(4)), ways)
        for n, tree in enumerate(trees):
            alone = walked(stands.of_some(np.array([tree]), np.array([0])), ways[:, [n]])
            np.testing.assert_allclose(together.dryness[:, [n]], alone.dryness, atol=1e-12)
            np.testing.assert_allclose(together.litres[:, [n]], alone.litres, atol=1e-12)

    def test_less_of_a_refill_leaves_a_tree_no_wetter(self):
        made, series = one(), series_of()
        stands = standing(made, kept(made, series), series)
        ways = np.zeros((14, 3))
        ways[6] = (0.0, 0.5, 1.0)
        found = walked(stands.of_some(np.zeros(3, int), np.arange(3)), ways)
        dry = found.dryness[6]
        self.assertTrue(dry[0] > dry[1] > dry[2])
        self.assertAlmostEqual(found.litres[6, 1], 0.5 * found.litres[6, 2], delta=1.0)
        self.assertEqual(found.litres[6, 0], 0.0)

    def test_a_line_runs_for_all_that_are_on_it_and_copies_have_their_own(self):
        made = of_specs(spec("2 in balled"), spec("#5 container"))
        pouring = usual(2, line=np.array([0, 0]), flow_l_per_h=np.array([40.0, 20.0]))
        series = series_of()
        stands = standing(made, kept(made, series, pouring=pouring), series, pouring)
        ways = np.zeros((14, 4))
        ways[3, :2] = 1.0
        found = walked(stands.of_some(np.array([0, 1, 0, 1]), np.array([0, 0, 1, 1])), ways)
        self.assertAlmostEqual(found.litres[3, 0], 2 * found.litres[3, 1], places=6)
        np.testing.assert_array_equal(found.litres[3, 2:], 0.0)


class DayByDay(unittest.TestCase):
    def test_morning_after_morning_is_the_same_as_all_at_once(self):
        made, series = of_specs(*(spec(label) for label in MIXED)), series_of(rain={5: 9.0})
        stands = standing(made, kept(made, series), series)
        ways = np.zeros((14, 3))
        ways[2, 0] = ways[6, 1] = ways[7, 2] = 1.0
        whole = walked(stands, ways)
        for day in range(14):
            stands, today = next_morning(stands, ways[day])
            for name in ("litres", "dryness", "ks", "soggy", "leaf"):
                np.testing.assert_allclose(getattr(today, name)[0], getattr(whole, name)[day], atol=1e-12)


class Beyond(unittest.TestCase):
    def test_days_past_the_forecast_are_like_the_last_week_and_dry(self):
        made, series = one(), series_of(rain={12: 20.0})
        series = replace(series, eto_mm=np.where(np.arange(len(series)) >= TODAY + 7, 8.0, 6.0))
        longer = standing(made, kept(made, series), series, tail=7).course
        self.assertEqual(len(longer), len(series) + 7)
        np.testing.assert_allclose(longer.eto_mm[-7:], 8.0)
        self.assertEqual(longer.rain_mm[-7:].sum(), 0.0)
        self.assertFalse(longer.workable[-7:].any())


class Chosen(unittest.TestCase):
    def plan(self, chosen: np.ndarray):
        made, series = one(), series_of()
        trees, reach = made
        days = len(series)
        watered = np.zeros((days, 1))
        watered[:TODAY] = 60.0
        zero = np.zeros((days, 1))
        course = Course.of(series, np.ones((days, 1)), zero, watered, zero, np.zeros(1, bool), TODAY)
        course = replace(course, chosen=chosen)
        opening = Opening(np.zeros(1, int), full(trees, reach), np.ones(1, bool), np.zeros(1))
        return planner.run(trees, opening, course, (Era(0, reach, usual(1)),))

    def test_a_plan_under_limits_decides_where_it_says_so_and_the_balance_elsewhere(self):
        chosen = np.full((34, 1), np.nan)
        free = self.plan(chosen)
        first = int(free.visit[0])
        chosen[TODAY:] = 0.0
        chosen[first + 3] = 1.0
        held = self.plan(chosen)
        self.assertEqual(np.flatnonzero(np.nan_to_num(held.visit_gross_l[:, 0])).tolist(), [first + 3])
        self.assertEqual((int(held.visit[0]), int(held.due[0])), (first + 3, first), "it is due when it was, and waits")
        chosen[first + 4 :] = np.nan
        self.assertGreater(np.count_nonzero(np.nan_to_num(self.plan(chosen).visit_gross_l[:, 0])), 1)

    def test_a_visit_that_the_soil_takes_nothing_of_is_none(self):
        chosen = np.zeros((34, 1))
        chosen[TODAY] = chosen[TODAY + 1] = 1.0
        poured = np.nan_to_num(self.plan(chosen).visit_gross_l[TODAY:, 0])
        self.assertGreaterEqual(poured[0], 0.0)
        self.assertEqual(poured[2:].sum(), 0.0)

    def test_nothing_is_chosen_of_days_that_are_rehearsed(self):
        made, series = one(), series_of()
        course = standing(made, plan_of(made, series), series).course
        again = replace(course, chosen=np.zeros_like(course.chosen)).rehearsed(5, 20, np.ones(34, bool))
        self.assertTrue(np.all(np.isnan(again.chosen)))


if __name__ == "__main__":
    unittest.main()
