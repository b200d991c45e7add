"""A probe's hours by hand: what each depth stands for, calibration, what is no reading, a day's reading of a store."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from june_shade.core.devices import probe
from june_shade.core.errors import InputError

DAY = 24


def hours(count: int, value: float = 0.2) -> np.ndarray:
    """One depth that dries a little each hour."""
    return (value - 0.001 * np.arange(count))[:, None]


def doubts(theta: np.ndarray, wetted=(), cold: float = 15.0, eto: float = 0.2) -> list[str]:
    wet = np.zeros(len(theta), bool)
    wet[list(wetted)] = True
    found = probe.doubts(theta, np.full(theta.shape, cold), np.full(len(theta), eto), wet, 0.45)
    return [str(one) for one in found[:, 0]]


class Depths(unittest.TestCase):
    def test_each_stands_for_halfway_to_its_neighbours(self):
        """10, 20 and 40 cm stand for 0-15, 15-30 and 30-50 cm; a ball 35 cm deep holds 15, 15 and 5 of them."""
        np.testing.assert_allclose(probe.shares([0.1, 0.2, 0.4], 0.0, 0.35), np.array([15, 15, 5]) / 35)
        np.testing.assert_allclose(probe.shares([0.1, 0.2, 0.4], 0.2, 0.6), np.array([0, 10, 20]) / 30)
        np.testing.assert_allclose(probe.shares([0.15], 0.0, 0.3), [1.0])
        np.testing.assert_allclose(probe.shares([0.1, 0.2], 0.5, 0.8), [0, 0])
        for wrong in ([], [0.0, 0.2], [0.2, 0.1]):
            with self.assertRaises(InputError):
                probe.shares(wrong, 0.0, 0.3)

    def test_a_store_is_read_by_the_depths_in_it_that_were_read(self):
        share = probe.shares([0.1, 0.2, 0.4], 0.0, 0.3)
        self.assertAlmostEqual(probe.of_store(np.array([0.10, 0.20, 0.9]), share), 0.15)
        self.assertAlmostEqual(probe.of_store(np.array([np.nan, 0.20, 0.9]), share), 0.20)
        self.assertTrue(np.isnan(probe.of_store(np.array([np.nan, np.nan, 0.9]), share)))


class Calibrated(unittest.TestCase):
    def test_two_points_give_a_line_one_shifts_none_leaves(self):
        """Read 0.10 and 0.30 where 0.15 and 0.35 less a tenth were: by hand 0.20 is 0.15 + 0.5 * 0.19 = 0.245."""
        self.assertAlmostEqual(float(probe.calibrated(0.20, [(0.10, 0.15), (0.30, 0.34)])), 0.245)
        self.assertAlmostEqual(float(probe.calibrated(0.20, [(0.10, 0.15)])), 0.25)
        self.assertEqual(float(probe.calibrated(0.20, [])), 0.20)
        for wrong in ([(0.1, 0.1), (0.11, 0.3)], [(0.1, 0.1), (0.2, 0.2), (0.3, 0.3)]):
            with self.assertRaises(InputError):
                probe.calibrated(0.2, wrong)

    @settings(max_examples=40)
    @given(st.floats(0.02, 0.2), st.floats(0.25, 0.45), st.floats(0.02, 0.2), st.floats(0.25, 0.45))
    def test_what_is_known_is_read_as_it_is(self, dry, wet, true_dry, true_wet):
        points = [(dry, true_dry), (wet, true_wet)]
        np.testing.assert_allclose(probe.calibrated(np.array([dry, wet]), points), [true_dry, true_wet], atol=1e-12)


class Doubted(unittest.TestCase):
    def test_what_no_soil_has_is_from_mars(self):
        theta = hours(6)
        theta[2], theta[4] = -0.01, 0.48
        self.assertEqual(doubts(theta, wetted=[4]), ["", "", "mars", "", "mars", ""])

    def test_a_jump_without_water_is_a_spike_and_with_water_it_is_none(self):
        theta = hours(12)
        theta[6:] += 0.15
        self.assertEqual(doubts(theta)[6], "spike")
        self.assertEqual(doubts(theta).count("spike"), 1)
        for wet in (0, 6):
            self.assertEqual(doubts(theta, wetted=[wet])[6], "", "water in the six hours before")
        theta[3:6] = np.nan  # a gap before the jump does not hide it
        self.assertEqual(doubts(theta)[6], "spike")

    def test_what_never_moves_while_the_air_takes_water_is_stuck(self):
        theta = np.full((3 * DAY, 1), 0.2)
        self.assertEqual(set(doubts(theta)), {"stuck"})
        self.assertEqual(set(doubts(theta, eto=0.01)), {""}, "in winter it stands still by right")
        self.assertEqual(set(doubts(hours(3 * DAY))), {""})
        self.assertEqual(set(doubts(theta[:47])), {""})

    def test_frozen_soil_says_nothing_of_water(self):
        self.assertEqual(set(doubts(hours(5), cold=0.2)), {"frozen"})


class Nights(unittest.TestCase):
    def test_it_is_the_median_of_at_least_four_hours(self):
        theta = np.array([[0.20], [0.21], [0.90], [0.22], [0.23], [np.nan]])
        doubted = np.array([[""], [""], ["mars"], [""], [""], [""]])
        self.assertAlmostEqual(probe.night_m3_m3(theta, doubted)[0], 0.215)
        doubted[0] = "spike"
        self.assertTrue(np.isnan(probe.night_m3_m3(theta, doubted)[0]))


if __name__ == "__main__":
    unittest.main()
