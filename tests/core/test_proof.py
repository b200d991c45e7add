"""How deep one watering wets: arithmetic of what the ground lacks, the bulb of a point source, and what bounds both."""

import math
import unittest

from hypothesis import given
from hypothesis import strategies as st

from june_shade.core.water import proof
from june_shade.core.water.delivery import Delivery

AREA = st.floats(0.05, 5.0)
LACK = st.floats(0.005, 0.3)
LITRES = st.floats(0.1, 500.0)
ROOTS_M = 0.6


class Circle(unittest.TestCase):
    def test_an_inch_of_water_into_ground_that_lacks_a_tenth(self):
        # 25.4 mm over 1 m2 into soil lacking 0.1 m3/m3: 254 mm (arithmetic)
        self.assertAlmostEqual(proof.circle_depth_m(25.4, 1.0, 0.1, ROOTS_M), 0.254)

    @given(LITRES, AREA, LACK)
    def test_the_water_is_all_in_what_it_wets(self, litres, area, lack):
        depth = proof.circle_depth_m(litres, area, lack, 1e9)
        self.assertAlmostEqual(depth * area * lack * 1000, litres, places=6)

    @given(LITRES, AREA, LACK)
    def test_more_goes_deeper_a_wider_or_drier_ground_less_deep(self, litres, area, lack):
        depth = proof.circle_depth_m(litres, area, lack, 1e9)
        self.assertGreater(proof.circle_depth_m(2 * litres, area, lack, 1e9), depth)
        self.assertLess(proof.circle_depth_m(litres, 2 * area, lack, 1e9), depth)
        self.assertLess(proof.circle_depth_m(litres, area, 2 * lack, 1e9), depth)

    @given(LITRES, AREA, st.floats(-0.1, 0.3))
    def test_never_past_the_roots(self, litres, area, lack):
        self.assertLessEqual(proof.circle_depth_m(litres, area, lack, ROOTS_M), ROOTS_M)

    def test_ground_that_lacks_nothing_is_wet_to_the_roots(self):
        for lack in (0.0, -0.05):
            self.assertEqual(proof.circle_depth_m(1.0, 1.0, lack, ROOTS_M), ROOTS_M)


class Points(unittest.TestCase):
    def test_emitters_are_counted_and_a_hose_has_none(self):
        self.assertEqual(proof.emitters_of(Delivery("emitters", 900.0, emitters=6, emitter_flow_l_per_h=4.0)), 6)
        self.assertEqual(proof.emitters_of(Delivery("hose", 900.0)), 0)
        self.assertEqual(proof.emitters_of(Delivery("bag", 900.0, bag_capacity_l=75.0)), 0)

    @given(st.floats(0.1, 3.0))
    def test_a_soaker_wets_like_emitters_along_its_loop(self, across):
        loop = Delivery("soaker", 900.0, soaker_across_m=across, soaker_flow_l_per_h_m=6.0)
        longer = Delivery("soaker", 900.0, soaker_across_m=2 * across, soaker_flow_l_per_h_m=6.0)
        self.assertGreaterEqual(proof.emitters_of(loop), 1)
        self.assertAlmostEqual(proof.emitters_of(longer), 2 * proof.emitters_of(loop), delta=2)

    def test_the_published_form(self):
        # z = 29.2 V^0.63 (Ks/q)^0.45, V in L, q in L/h, Ks in m/s [SZ86]
        expected = 29.2 * 8.0**0.63 * (13.0 / 3.6e6 / 4.0) ** 0.45
        self.assertAlmostEqual(proof.bulb_depth_m(32.0, 4, 16.0, 13.0), expected)

    def test_shared_by_more_emitters_of_the_same_flow_it_goes_less_deep(self):
        depths = [proof.bulb_depth_m(20.0, n, 4.0 * n, 13.0) for n in (1, 2, 4, 8)]
        self.assertEqual(depths, sorted(depths, reverse=True))
        self.assertEqual(proof.bulb_depth_m(0.0, 4, 16.0, 13.0), 0.0)


class Sunk(unittest.TestCase):
    @given(st.floats(0.0, 0.8), LITRES, AREA, LACK)
    def test_at_least_the_bulb_at_most_the_roots(self, bulb, litres, area, lack):
        depth = proof.sunk_depth_m(bulb, litres, area, lack, ROOTS_M)
        self.assertGreaterEqual(depth, min(bulb, ROOTS_M))
        self.assertLessEqual(depth, ROOTS_M)

    def test_fine_soil_that_lacks_little_is_wet_deeper_than_its_bulb_at_the_run_s_end(self):
        bulb = proof.bulb_depth_m(8.0, 4, 16.0, 2.0)
        area = 4 * math.pi * 0.2**2
        self.assertGreater(proof.sunk_depth_m(bulb, 8.0, area, 0.03, ROOTS_M), bulb)


if __name__ == "__main__":
    unittest.main()
