"""A plan taken apart and put together again: never worse, within its limits, past what trees find one by one."""

import unittest
from itertools import count

import numpy as np

from june_shade.core.choosing import again
from june_shade.core.choosing.choose import _Programme
from june_shade.core.choosing.patterns import Pattern, Period, Problem, Stop, Tree, better, keeps, nothing
from tests.core.test_schedules import DAYS, case


def by_steps(steps: int):
    """A clock that goes on by the call, so that what is found does not hang on the machine: to be given `steps`."""
    ticks = count()
    return lambda: next(ticks) / steps


def searched(problem: Problem, steps: int = 150, plan=None):
    """The plan after so many rebuildings, from the one that trees find one by one."""
    programme, begun = _Programme(problem), plan or better(problem, nothing(problem))
    limits = programme.limits()
    return begun, again.searched(
        problem, problem.rows.harm, limits, begun, np.zeros(len(limits)), seconds=1.0, clock=by_steps(steps)
    )


class Search(unittest.TestCase):
    def test_it_is_never_worse_keeps_to_the_limits_and_is_alike_each_time(self):
        for seed in range(4):
            problem = case(seed, stops=4, trees=12)
            with self.subTest(seed):
                begun, found = searched(problem)
                self.assertTrue(keeps(problem, found))
                self.assertLessEqual(found.harm, begun.harm + 1e-9)
                np.testing.assert_array_equal(found.chosen, searched(problem)[1].chosen)

    def test_a_stop_that_one_tree_can_not_open_is_opened_by_all_of_its_trees(self):
        """Two stops, a day that has room for one: the one that is worth less was there first, tree by tree it stays."""
        here = Tree(0, 1.0, (Pattern((), (), (), 3.0), Pattern((0,), (9.0,), (8.0,), 0.0)))
        there = [Tree(1, 1.0, (Pattern((), (), (), 2.0), Pattern((0,), (9.0,), (4.0,), 0.0))) for _ in range(3)]
        stops = [Stop(10.0), Stop(10.0)]
        problem = Problem.of(stops, [here, *there], np.array([[22.0, 0.0]]), np.full(2, np.inf))
        begun = again.plan_of(problem, np.array([1, 0, 0, 0]))
        self.assertEqual(better(problem, begun).harm, 6.0)
        self.assertEqual(searched(problem, plan=begun)[1].harm, 3.0)

    def test_litres_of_a_period_hold_too(self):
        problem = case(3, stops=3, trees=9, minutes=60.0)
        free = searched(problem)[1]
        short = Problem(
            problem.stop_minutes, problem.crew_of, problem.stop_of, problem.rows, problem.minutes, problem.litres,
            (Period(tuple(range(DAYS)), 0.6 * free.litres),),
        )  # fmt: skip
        begun, found = searched(short)
        self.assertTrue(keeps(short, found))
        self.assertLessEqual(found.litres, 0.6 * free.litres + 1e-6)
        self.assertTrue(free.harm <= found.harm <= begun.harm)

    def test_more_steps_never_find_less(self):
        problem = case(11, stops=5, trees=15)
        few, many = (searched(problem, steps)[1].harm for steps in (5, 200))
        self.assertLessEqual(many, few + 1e-9)

    def test_stops_that_share_no_limit_are_not_taken_apart_together(self):
        problem = case(5, stops=4, trees=8)
        crew_of = np.repeat(np.array([0, 0, 1, 1])[:, None], DAYS, axis=1)
        two = Problem(
            problem.stop_minutes, crew_of, problem.stop_of, problem.rows, np.full((2, DAYS), 26.0), problem.litres
        )
        limits = _Programme(two).limits()
        search = again.Search(two, two.rows.harm, limits, np.zeros(len(limits)), nothing(two))
        self.assertEqual([search.beside(n).tolist() for n in range(4)], [[0, 1], [0, 1], [2, 3], [2, 3]])


if __name__ == "__main__":
    unittest.main()
