"""Patterns of visits and limits: parts of a problem add up to it, plans get better and thriftier, by rule."""

import itertools
import unittest
from dataclasses import replace

import numpy as np

from june_shade.core.choosing.patterns import (
    Closing,
    Pattern,
    Period,
    Problem,
    Stop,
    Tree,
    better,
    keeps,
    nothing,
    plan_of,
    thriftier,
)

DAYS = 5


def problem(seed: int, crews: int = 2, trees: int = 8, minutes: float = 30.0, **changed) -> Problem:
    """Invented trees at four stops, two of each crew; a visit more harms a tree less."""
    rng = np.random.default_rng(seed)
    stops = [Stop(float(rng.uniform(2, 8)), n % crews) for n in range(4)]
    found = []
    for n in range(trees):
        need = rng.uniform(1.0, 4.0)
        patterns = [Pattern((), (), (), need, dies=need > 3.0)]
        for days in itertools.chain(itertools.combinations(range(DAYS), 1), itertools.combinations(range(DAYS), 2)):
            litres = tuple(float(rng.uniform(5, 20)) for _ in days)
            harm = need / (1 + len(days)) * float(rng.uniform(0.5, 1.0))
            patterns.append(Pattern(days, litres, tuple(litre / 3 for litre in litres), harm))
        found.append(Tree(n % 4, float(rng.choice([0.5, 1.0, 2.0])), tuple(patterns)))
    made = Problem.of(stops, found, np.full((crews, DAYS), minutes), np.full(DAYS, np.inf))
    return replace(made, **changed)


def any_plan(of: Problem, seed: int):
    """Some pattern for each tree, whether it keeps to limits or not."""
    rng = np.random.default_rng(seed)
    counts = np.bincount(of.rows.tree)
    return plan_of(of, np.array([rng.integers(count) for count in counts]))


class Reckoned(unittest.TestCase):
    def test_a_stop_counts_once_a_day_for_all_of_its_trees(self):
        visit = Pattern((1,), (10.0,), (4.0,), 0.0)
        trees = [Tree(0, 1.0, (Pattern((), (), (), 2.0), visit)) for _ in range(3)]
        of = Problem.of([Stop(9.0)], trees, np.full((1, 2), np.inf), np.full(2, np.inf))
        one, all_three = plan_of(of, np.array([1, 0, 0])), plan_of(of, np.array([1, 1, 1]))
        self.assertEqual((one.minutes, all_three.minutes), (13.0, 21.0))
        self.assertEqual(all_three.crew_minutes.tolist(), [[0.0, 21.0]])
        self.assertEqual((one.harm, one.litres), (4.0, 10.0))

    def test_some_of_the_patterns_are_still_a_problem_with_an_empty_one_each(self):
        of = problem(3)
        kept = np.arange(len(of.rows.tree)) % 3 == 0
        kept[of.rows.first + of.rows.empty] = True
        few = replace(of, rows=of.rows.some(kept))
        self.assertEqual(nothing(few).harm, nothing(of).harm)
        self.assertEqual(nothing(few).litres, 0.0)


class Limits(unittest.TestCase):
    def test_each_limit_is_one_that_can_be_broken(self):
        of = problem(2, minutes=1e6)
        full = plan_of(of, np.bincount(of.rows.tree) - 1)
        self.assertTrue(keeps(of, full))
        day = int(np.argmax(full.day_litres))
        for changed in (
            {"litres": np.where(np.arange(DAYS) == day, full.day_litres[day] - 0.1, np.inf)},
            {"minutes": full.crew_minutes - 0.1},
            {"periods": (Period(tuple(range(DAYS)), full.litres - 0.1),)},
            {"closings": (Closing(tuple(range(of.trees)), (0, 1, 2, 3), day, 0.1),)},
        ):
            self.assertFalse(keeps(replace(of, **changed), full), changed)

    def test_hours_that_are_closed_to_others_leave_a_tree_alone(self):
        of = problem(2, minutes=1e6)
        full = plan_of(of, np.bincount(of.rows.tree) - 1)
        away = tuple(t for t in range(of.trees) if t % 4 == 3)
        self.assertTrue(keeps(replace(of, closings=(Closing(away, (3,), 0, 1e6),)), full))


class Better(unittest.TestCase):
    def test_a_plan_gets_better_for_as_long_as_it_keeps_to_the_limits(self):
        for seed in range(8):
            of = problem(seed, periods=(Period((0, 1, 2), 60.0), Period((2, 3, 4), 45.0, (0, 1, 2))))
            begun = nothing(of)
            found = better(of, begun)
            with self.subTest(seed):
                self.assertTrue(keeps(of, found))
                self.assertLessEqual((round(found.deaths, 6), found.harm), (begun.deaths, begun.harm))
                again = better(of, found)
                self.assertAlmostEqual(again.harm, found.harm, msg="nothing single is left to be had")

    def test_with_all_the_time_there_is_every_tree_has_its_best(self):
        of = problem(4, minutes=1e6)
        best = [of.rows.harm[of.rows.tree == t].min() for t in range(of.trees)]
        self.assertAlmostEqual(better(of, nothing(of)).harm, sum(best))

    def test_no_tree_is_let_die_for_another_s_harm(self):
        saved = Pattern((0,), (5.0,), (10.0,), 0.5)
        dying = Tree(0, 1.0, (Pattern((), (), (), 1.0, dies=True), saved))
        thirsty = Tree(0, 1.0, (Pattern((), (), (), 90.0), Pattern((0,), (5.0,), (10.0,), 0.0)))
        of = Problem.of([Stop(0.0)], [thirsty, dying], np.array([[10.0]]), np.array([np.inf]))
        self.assertEqual(better(of, nothing(of)).chosen.tolist(), [0, 1])


class Thriftier(unittest.TestCase):
    def test_it_saves_litres_within_the_harm_that_it_may_cost(self):
        for seed in range(6):
            of = problem(seed, minutes=60.0)
            begun = better(of, nothing(of))
            last = begun.litres
            for slack in (0.0, 0.1, 0.5):
                found = thriftier(of, begun, begun.harm * (1 + slack))
                with self.subTest(seed=seed, slack=slack):
                    self.assertTrue(keeps(of, found))
                    self.assertLessEqual(found.harm, begun.harm * (1 + slack) + 1e-6)
                    self.assertLessEqual(found.deaths, begun.deaths + 1e-6)
                    self.assertLessEqual(found.litres, begun.litres + 1e-6)
            self.assertLessEqual(found.litres, last)


if __name__ == "__main__":
    unittest.main()
