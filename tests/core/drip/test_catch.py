"""The catch test, against figures worked out by hand, and as it must behave whatever was caught."""

import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from june_shade.core.drip import catch
from june_shade.core.errors import InputError

CUPS = (980.0, 1010.0, 240.0, 1000.0, 1560.0, 700.0)
"""In 15 min: 3.92, 4.04, 0.96, 4.00, 6.24, 2.80 L/h; the middle of them 3.96."""
caught_ml = st.lists(st.integers(0, 5000), min_size=1, max_size=24)


class ByHand(unittest.TestCase):
    """Each figure worked out on paper by the definitions of [MK78]."""

    def setUp(self):
        self.found = catch.caught(15, CUPS, 4.0)

    def test_flows(self):
        for flow, by_hand in zip(self.found.flows_l_per_h, (3.92, 4.04, 0.96, 4.00, 6.24, 2.80), strict=True):
            self.assertAlmostEqual(flow, by_hand)

    def test_evenness(self):
        self.assertAlmostEqual(self.found.mean_l_per_h, 21.96 / 6)
        self.assertAlmostEqual(self.found.low_quarter_l_per_h, 0.96, msg="one of six")
        self.assertAlmostEqual(self.found.uniformity, 0.2623, places=4)
        self.assertAlmostEqual(self.found.variation, 1.73284 / 3.66, places=4)
        self.assertAlmostEqual(self.found.of_nominal, 0.915)

    def test_which_are_wrong(self):
        self.assertEqual((self.found.blocked, self.found.weak, self.found.leaking), ((3,), (6,), (5,)))
        self.assertEqual(
            [(f.code, f.where) for f in catch.findings(self.found)],
            [("emitter_blocked", "3"), ("emitter_weak", "6"), ("emitter_leaking", "5")],
        )

    def test_the_least_quarter_of_eight_is_two(self):
        found = catch.caught(60, (4000, 2000, 3000, 4000, 4000, 4000, 4000, 4000), 4.0)
        self.assertAlmostEqual(found.low_quarter_l_per_h, 2.5)

    def test_borders(self):
        """At a quarter of the middle it is blocked, at three quarters no more weak, at half as much again no leak."""
        found = catch.caught(60, (1000, 250, 750, 1500, 1000, 251, 749, 1501, 1000), 1.0)
        self.assertEqual((found.blocked, found.weak, found.leaking), ((2,), (6, 7), (8,)))

    def test_emitters_of_other_flows_are_held_against_what_each_is_sold_as(self):
        # 15 min of emitters sold as 4, 8 and 2 L/h, all giving half of it: 500, 1000 and 250 mL
        mixed = catch.caught(15.0, [500, 1000, 250, 60], np.array([4.0, 8.0, 2.0, 2.0]))
        self.assertEqual((mixed.blocked, mixed.weak, mixed.leaking), ((4,), (), ()))
        even = catch.caught(15.0, [500, 1000, 250], np.array([4.0, 8.0, 2.0]))
        self.assertAlmostEqual(even.uniformity, 1.0)
        self.assertAlmostEqual(even.of_nominal, 0.5)


class OverALine(unittest.TestCase):
    def test_each_tree_counts_as_one(self):
        """Means of 4, 3, 4 and 2 L/h, whatever the number of cups: the least of four over 3.25."""
        cups = ((1000, 1000), (750,) * 6, (1000,), (400, 600))
        found = catch.over_trees([catch.caught(15, one, 4.0) for one in cups])
        self.assertEqual((found.tested, found.least), (4, 3))
        self.assertAlmostEqual(found.uniformity, 2 / 3.25)


class Whatever(unittest.TestCase):
    def test_one_cup(self):
        found = catch.caught(10, (500,), 4.0)
        self.assertEqual((found.uniformity, found.variation, found.of_nominal), (1.0, 0.0, 0.75))
        self.assertEqual(catch.findings(found), [])

    def test_nothing_at_all(self):
        found = catch.caught(10, (0, 0, 0), 4.0)
        self.assertEqual((found.uniformity, found.variation, found.of_nominal), (None, None, 0.0))
        self.assertEqual(found.blocked, (1, 2, 3))

    def test_no_cup_is_no_test(self):
        with self.assertRaisesRegex(InputError, "caught_ml"):
            catch.caught(10, (), 4.0)

    @given(caught_ml, st.floats(1, 240))
    def test_each_emitter_is_one_thing_and_the_low_quarter_is_no_more_than_the_mean(self, cups, minutes):
        found = catch.caught(minutes, cups, 4.0)
        numbers = [*found.blocked, *found.weak, *found.leaking]
        self.assertEqual(len(numbers), len(set(numbers)))
        self.assertTrue(set(numbers) <= set(range(1, len(cups) + 1)))
        self.assertLessEqual(found.low_quarter_l_per_h, found.mean_l_per_h * (1 + 1e-12))

    @given(caught_ml, st.floats(1, 120))
    def test_twice_the_time_and_twice_the_water_say_the_same(self, cups, minutes):
        once, twice = (catch.caught(k * minutes, [k * ml for ml in cups], 4.0) for k in (1, 2))
        self.assertEqual(once, twice)

    @given(st.permutations(range(len(CUPS))))
    def test_the_order_of_cups_only_changes_their_numbers(self, order):
        found, mixed = catch.caught(15, CUPS, 4.0), catch.caught(15, [CUPS[i] for i in order], 4.0)
        self.assertAlmostEqual(found.mean_l_per_h, mixed.mean_l_per_h)
        for which in ("blocked", "weak", "leaking"):
            self.assertEqual(
                sorted(order[n - 1] + 1 for n in getattr(mixed, which)), sorted(getattr(found, which)), which
            )


if __name__ == "__main__":
    unittest.main()
