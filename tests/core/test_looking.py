"""Which trees are looked at first, which one of a row is odd, how long a learned thirst holds."""

import unittest

import numpy as np

from june_shade.core.looking import queue, rows
from june_shade.core.looking.fading import HALF_YEAR_DAYS, thirst


def risk(dryness=0.3, sd=0.1, limit=0.5, x=0.0, due=False, odd=False):
    return float(queue.risk(*(np.array([v]) for v in (dryness, sd, limit, x, due, odd)))[0])


class Queue(unittest.TestCase):
    def test_doubt_a_near_limit_youth_and_what_does_not_fit_come_first(self):
        for more, less in (
            ({"sd": 0.2}, {"sd": 0.1}), ({"dryness": 0.45}, {"dryness": 0.3}), ({"x": 0.0}, {"x": 0.9}),
            ({"odd": True}, {"odd": False}), ({"due": False}, {"due": True}),
        ):  # fmt: skip
            self.assertGreater(risk(**more), risk(**less), more)

    def test_a_tree_at_its_limit_is_a_toss_of_the_coin_and_one_known_well_is_none(self):
        self.assertAlmostEqual(risk(dryness=0.5, sd=0.1, limit=0.5), 2 * 0.5 * 3.0, 3)  # carrying on in a dry one: 3 d
        self.assertLess(risk(dryness=0.2, sd=0.02), 1e-6)

    def test_no_more_are_asked_for_than_the_minutes_allow_nor_where_it_saves_nothing(self):
        risks = np.array([0.5, 3.0, 0.1, 1.0, 2.0, 0.2, 0.9])
        self.assertEqual(queue.chosen(risks, 6.0).tolist(), [1, 4, 3])
        self.assertEqual(queue.chosen(risks, 60.0).tolist(), [1, 4, 3, 6, 0, 5])
        self.assertEqual(queue.chosen(np.zeros(4)).tolist(), [])


class Rows(unittest.TestCase):
    def test_the_one_that_parts_from_its_neighbors_is_named(self):
        found = rows.odd(np.array([1.0, 1.05, 0.95, 1.7, 1.1]), np.full(5, 0.1))
        self.assertEqual(found.tolist(), [False, False, False, True, False])

    def test_a_wide_doubt_and_two_trees_make_no_news(self):
        self.assertFalse(np.any(rows.odd(np.array([1.0, 1.05, 1.7]), np.full(3, 0.5))))
        self.assertFalse(np.any(rows.odd(np.array([1.0, 2.0]), np.full(2, 0.01))))


class Fading(unittest.TestCase):
    def test_it_holds_while_somebody_reads_and_is_gone_after_half_a_year(self):
        found = thirst(np.full(4, 1.6), np.array([0, HALF_YEAR_DAYS / 2, HALF_YEAR_DAYS, 1000]))
        np.testing.assert_allclose(found, [1.6, 1.3, 1.0, 1.0])
        self.assertLess(thirst(np.array([0.7]), np.array([10]))[0], 1.0)


if __name__ == "__main__":
    unittest.main()
