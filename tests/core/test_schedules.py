"""Whole schedules of stops: against HiGHS on small cases, and where setting up takes much of a short day."""

import time
import unittest

import numpy as np

from june_shade.core.choosing import schedules
from june_shade.core.choosing.choose import _Programme, choose
from june_shade.core.choosing.patterns import Pattern, Problem, Stop, Tree, better, keeps, nothing, plan_of

DAYS = 6


def case(seed: int, stops: int = 3, trees: int = 8, minutes: float = 26.0, set_up: float = 11.0) -> Problem:
    """Trees that suffer more the longer they wait, a few minutes each, at stops that take long to set up."""
    rng = np.random.default_rng(seed)
    found = []
    for n in range(trees):
        thirst, each = rng.uniform(0.5, 2.0), rng.uniform(2.0, 5.0)
        patterns = [Pattern((), (), (), thirst * DAYS)]
        for days in ([d] for d in range(DAYS)):
            patterns.append(Pattern(tuple(days), (10.0,), (each,), thirst * max(days[0], DAYS - 1 - days[0])))
        for a in range(DAYS):
            for b in range(a + 2, DAYS):
                waits = max(a, b - a - 1, DAYS - 1 - b)
                patterns.append(Pattern((a, b), (8.0, 8.0), (each, each), thirst * waits / 2))
        found.append(Tree(n % stops, float(rng.choice([1.0, 2.0])), tuple(patterns)))
    return Problem.of([Stop(set_up)] * stops, found, np.full((1, DAYS), minutes), np.full(DAYS, np.inf))


def by_schedules(problem: Problem, seconds: float = 4.0):
    """A plan by schedules and what they prove of the harm."""
    programme, plan = _Programme(problem), better(problem, nothing(problem))
    goal, opens = programme.split(programme.goal(problem.rows.harm))
    found, bound = schedules.least(
        problem, goal, opens, programme.limits(), plan, plan.harm, seconds=seconds, gap=0.0,
        good=lambda one: keeps(problem, one), worth=lambda one: one.harm, clock=time.monotonic,
    )  # fmt: skip
    return found or plan, bound


class AgainstTheSolver(unittest.TestCase):
    def test_the_bound_never_lies_above_the_optimum_and_the_plan_is_near_it(self):
        for seed in range(4):
            problem = case(seed)
            best = choose(problem, seconds=30.0, clock=time.monotonic)
            with self.subTest(seed):
                self.assertTrue(best.optimal)
                plan, bound = by_schedules(problem)
                self.assertTrue(keeps(problem, plan))
                self.assertLessEqual(bound, best.least_harm + 1e-5)
                self.assertGreaterEqual(plan.harm, best.least_harm - 1e-5)
                self.assertLessEqual(plan.harm, 1.1 * best.least_harm + 1e-6)

    def test_it_proves_at_least_as_much_as_stops_opened_by_parts(self):
        problem = case(7)
        programme = _Programme(problem)
        relaxed = programme.relaxed(programme.goal(problem.rows.harm), 10.0)
        self.assertGreaterEqual(by_schedules(problem)[1], relaxed.least - 1e-4)


class ShortDays(unittest.TestCase):
    def test_where_setting_up_takes_most_of_a_day_whole_schedules_beat_tree_by_tree(self):
        better_by, worse = 0, 0
        for seed in range(6):
            problem = case(20 + seed, stops=6, trees=30)
            greedy = better(problem, nothing(problem))
            plan, _ = by_schedules(problem)
            better_by += plan.harm < greedy.harm - 1e-6
            worse += plan.harm > greedy.harm + 1e-6
        self.assertEqual(worse, 0)
        self.assertGreaterEqual(better_by, 4)

    def test_a_choice_that_begins_with_a_plan_is_never_worse_than_it(self):
        problem = case(40, stops=6, trees=30)
        start = by_schedules(problem)[0].chosen
        found = choose(problem, [start], seconds=2.0, gap=0.05, clock=time.monotonic)
        self.assertLessEqual(found.least_harm, plan_of(problem, start).harm + 1e-6)


if __name__ == "__main__":
    unittest.main()
