"""The choice among patterns: against trying all of them, relations that must hold, and what can't be is named."""

import itertools
import json
import random
import time
import unittest
from dataclasses import replace

import numpy as np

from june_shade.core.choosing.choose import choose, sureness
from june_shade.core.choosing.patterns import Pattern, Period, Problem, Stop, Tree, better, keeps, nothing, plan_of
from june_shade.core.errors import InputError
from june_shade.formats import rounds_json

EMPTY = {"days": [], "litres": [], "minutes": [], "harm": 3.0}


def made_up(seed: int, trees: int = 5, patterns: int = 5, days: int = 5, stops: int = 3) -> Problem:
    """A random problem of at most these sizes, some of its days closed, some of its trees in danger."""
    r = random.Random(seed)
    n_days, n_stops = r.randint(1, days), r.randint(1, stops)

    def pattern() -> Pattern:
        on = tuple(sorted(r.sample(range(n_days), r.randint(1, min(3, n_days)))))
        return Pattern(
            on, tuple(round(r.uniform(5, 40), 1) for _ in on), tuple(round(r.uniform(1, 10), 1) for _ in on),
            round(r.uniform(0, 2), 2), r.random() < 0.05,
        )  # fmt: skip

    def tree() -> Tree:
        own = [Pattern((), (), (), round(r.uniform(0.5, 4), 2), r.random() < 0.3)]
        own += [pattern() for _ in range(r.randint(0, patterns - 1))]
        r.shuffle(own)
        return Tree(r.randrange(n_stops), r.choice((0.5, 1.0, 1.5, 2.0)), tuple(own))

    return Problem.of(
        tuple(Stop(float(r.randint(0, 20)), r.randint(0, 1)) for _ in range(n_stops)),
        tuple(tree() for _ in range(r.randint(1, trees))),
        np.array([[r.choice((np.inf, 0.0, 20.0, 40.0, 60.0)) for _ in range(n_days)] for _ in range(2)]),
        np.array([r.choice((np.inf, 30.0, 60.0, 100.0)) for _ in range(n_days)]),
        (Period(tuple(range(min(n_days, 3))), r.uniform(20, 200)),),
    )


def tried(problem: Problem, slack: float) -> tuple[float, float, float, float]:
    """The goals one after the other by trying every choice: deaths, least harm, litres, minutes."""
    counts = np.bincount(problem.rows.tree, minlength=problem.trees)
    every = itertools.product(*(range(n) for n in counts))
    plans = [plan for plan in (plan_of(problem, np.array(chosen)) for chosen in every) if keeps(problem, plan)]
    deaths = min(plan.deaths for plan in plans)
    plans = [plan for plan in plans if plan.deaths <= deaths + 1e-6]
    harm = min(plan.harm for plan in plans)
    plans = [plan for plan in plans if plan.harm <= harm * (1 + slack) + 1e-6]
    litres = min(plan.litres for plan in plans)
    return deaths, harm, litres, min(plan.minutes for plan in plans if plan.litres <= litres + 1e-6)


class AgainstTryingAll(unittest.TestCase):
    def test_every_goal_is_the_least_there_is(self):
        for seed in range(60):
            problem, slack = made_up(seed), (0.0, 0.0, 0.02, 0.2)[seed % 4]
            found = choose(problem, slack=slack, clock=time.monotonic)
            with self.subTest(seed=seed):
                self.assertTrue(found.optimal and keeps(problem, found.plan))
                got = found.plan.deaths, found.least_harm, found.plan.litres, found.plan.minutes
                np.testing.assert_allclose(got, tried(problem, slack), rtol=0, atol=2e-6)
                self.assertAlmostEqual(found.bound, found.least_harm, places=6)

    def test_twelve_trees_are_chosen_for_to_the_end(self):
        for seed in range(3):
            found = choose(made_up(100 + seed, 12, 8, 10, 4), clock=time.monotonic)
            self.assertTrue(found.optimal)
            self.assertLessEqual(found.bound, found.least_harm + 1e-9)


class Relations(unittest.TestCase):
    def test_more_hours_or_litres_never_cost_harm_and_no_plan_beats_its_bound(self):
        for seed in range(20):
            problem = made_up(seed)
            usual = choose(problem, clock=time.monotonic)
            more = replace(problem, minutes=problem.minutes + 15, litres=problem.litres + 20)
            found = choose(more, clock=time.monotonic)
            self.assertLessEqual(found.plan.deaths, usual.plan.deaths + 1e-6)
            if abs(found.plan.deaths - usual.plan.deaths) < 1e-6:
                self.assertLessEqual(found.least_harm, usual.least_harm + 2e-6)
            quick = better(problem, nothing(problem))
            self.assertTrue(keeps(problem, quick))
            if abs(quick.deaths - usual.plan.deaths) < 1e-6:
                self.assertGreaterEqual(quick.harm, usual.bound - 1e-6)

    def test_without_time_the_plan_that_is_there_stands_and_says_so(self):
        problem = made_up(7, 12, 8, 10, 4)
        now = iter(itertools.chain([0.0], itertools.repeat(1e9)))
        found = choose(problem, seconds=1.0, clock=lambda: next(now))
        self.assertTrue(keeps(problem, found.plan))
        self.assertLessEqual(found.bound, found.least_harm + 1e-9)

    def test_an_order_that_forbids_everything_leaves_a_plan_without_visits(self):
        problem = made_up(3)
        shut = replace(problem, minutes=problem.minutes * 0)
        shut.minutes[~np.isfinite(shut.minutes)] = 0.0
        found = choose(shut, clock=time.monotonic)
        self.assertEqual(float(found.plan.minutes), 0.0)
        self.assertTrue(found.optimal)

    def test_how_sure_a_plan_is_told_to_be(self):
        self.assertEqual([sureness(gap) for gap in (-0.0, 0.0, 0.004, 0.25, 0.26, 5.0)],
                         ["best", "best", "gap", "gap", "open", "open"])  # fmt: skip

    def test_slack_buys_litres_and_never_more_harm_than_it_says(self):
        for seed in range(20):
            problem = made_up(seed)
            strict, loose = (choose(problem, slack=slack, clock=time.monotonic) for slack in (0.0, 0.2))
            self.assertLessEqual(loose.plan.litres, strict.plan.litres + 2e-6)
            self.assertLessEqual(loose.plan.harm, 1.2 * loose.least_harm + 2e-6)


class Case(unittest.TestCase):
    CASE = {
        "days": 3, "day_minutes": [20, None, 0], "periods": [{"days": [0, 1], "litres": 40}],
        "stops": [{"name": "gate", "minutes": 12}],
        "trees": [
            {"name": "HL-01", "stop": "gate", "weight": 1.5, "patterns": [EMPTY, {"days": [0, 1], "litres": [17, 20],
             "minutes": [5, 6], "harm": 0.1}]},
            {"name": "HL-02", "stop": "gate", "patterns": [EMPTY | {"harm": 1.0, "dies": True}, {"days": [1],
             "litres": [30], "minutes": [5], "harm": 0.5, "dies": False}]},
        ],
    }  # fmt: skip

    def answer(self, **changed):
        return rounds_json.run(rounds_json.parse(json.dumps(self.CASE | changed)))

    def test_no_tree_is_let_die_for_another_s_harm_and_a_stop_counts_once_a_day(self):
        found = self.answer()
        self.assertEqual(found["chosen"], {"HL-01": 0, "HL-02": 1})
        self.assertEqual((found["deaths"], found["harm"]), (0.0, 1.5 * 3.0 + 0.5))
        both = self.answer(periods=[])
        self.assertEqual(both["chosen"], {"HL-01": 1, "HL-02": 1})
        self.assertEqual([day["minutes"] for day in both["days"]], [17.0, 23.0, 0.0])
        self.assertEqual([day["stops"] for day in both["days"]], [["gate"], ["gate"], []])
        self.assertEqual(both["minutes"], sum(day["minutes"] for day in both["days"]))

    def test_each_crew_has_its_own_hours_and_litres_are_common(self):
        stops = [{"name": "gate", "minutes": 12, "crew": "A"}, {"name": "yard", "minutes": 1, "crew": "B"}]
        trees = [self.CASE["trees"][0], self.CASE["trees"][1] | {"stop": "yard"}]
        hours = {"A": [0, 0, 0], "B": [60, 60, 60]}
        self.assertEqual(self.answer(stops=stops, trees=trees, day_minutes=hours)["chosen"], {"HL-01": 0, "HL-02": 1})
        hours = {"A": [60, 60, 60], "B": [60, 60, 60]}
        dry = self.answer(stops=stops, trees=trees, day_minutes=hours, periods=[], day_litres=[None, 25, None])
        self.assertEqual(dry["chosen"], {"HL-01": 1, "HL-02": 0})

    def test_what_can_not_be_names_its_field(self):
        tree = self.CASE["trees"][0]
        with_pattern = lambda **changed: [tree | {"patterns": [EMPTY, tree["patterns"][1] | changed]}]  # noqa: E731
        for changed, field in (
            ({"trees": [tree | {"patterns": [tree["patterns"][1]]}]}, "trees[0].patterns"),
            ({"trees": with_pattern(days=[1, 0])}, "trees[0].patterns[1].days"),
            ({"trees": with_pattern(days=[0, 3])}, "trees[0].patterns[1].days[1]"),
            ({"trees": with_pattern(litres=[1])}, "trees[0].patterns[1].litres"),
            ({"trees": with_pattern(harm=-1)}, "trees[0].patterns[1].harm"),
            ({"trees": [tree | {"stop": "moon"}]}, "trees[0].stop"), ({"trees": [tree, tree]}, "trees[1].name"),
            ({"day_minutes": [1, 2]}, "day_minutes"), ({"day_minutes": {"A": [1, 2, 3]}}, "stops[0].crew"),
            ({"day_litres": [1, -2, 3]}, "day_litres[1]"), ({"periods": [{"days": [5], "litres": 1}]}, "days[0]"),
            ({"days": 0}, "days"), ({"seconds": 0}, "seconds"), ({"harm_slack": -0.1}, "harm_slack"),
        ):  # fmt: skip
            with self.subTest(field=field), self.assertRaises(InputError) as refused:
                self.answer(**changed)
            self.assertIn(field, refused.exception.field)


if __name__ == "__main__":
    unittest.main()
