"""Ways of pouring: shares, minutes, goes, steps."""

import math
import unittest
from dataclasses import replace

from hypothesis import given
from hypothesis import strategies as st

from june_shade.core.errors import InputError
from june_shade.core.geometry import bulb
from june_shade.core.geometry.wetting import circle_overlap_m2
from june_shade.core.units import LITRES_PER_US_GALLON
from june_shade.core.water import delivery
from june_shade.core.water.delivery import Delivery
from tests.support import published

HOSE = Delivery("hose", 400.0, basin_diameter_m=0.9, basin_depth_m=0.08)
BAG = Delivery("bag", 400.0, bag_capacity_l=75.0)
DRIP = Delivery("emitters", 0.0, emitters=4, emitter_flow_l_per_h=4.0)
BALL_M = 0.305


class Published(unittest.TestCase):
    QUANTITIES = {
        "wetted_diameter": lambda litres, flow, conductivity_mm_h: bulb.diameter_m(litres, flow, conductivity_mm_h),
        "go_min": lambda storage_mm, rate_mm_h, intake_mm_h: delivery.longest_go_min(
            rate_mm_h, intake_mm_h, storage_mm
        ),
        "run_min": lambda litres, emitters, flow: (
            delivery.pour(
                Delivery("emitters", 0.0, emitters=int(emitters), emitter_flow_l_per_h=flow), litres, BALL_M, 15.0, 1.0
            ).run_min
        ),
    }

    def test_published_values(self):
        seen = set()
        for check in published("trade"):
            if check.quantity in self.QUANTITIES:
                seen.add(check.quantity)
                with self.subTest(check.source):
                    self.assertAlmostEqual(
                        self.QUANTITIES[check.quantity](**check.inputs), check.expected, delta=check.tolerance
                    )
        self.assertEqual(seen, set(self.QUANTITIES))


class Shares(unittest.TestCase):
    def test_a_basin_shares_by_area(self):
        self.assertAlmostEqual(
            delivery.ball_share(HOSE, BALL_M, "balled", 13.2, 10), math.pi * BALL_M**2 / (math.pi / 4 * 0.81)
        )
        narrow = replace(HOSE, basin_diameter_m=0.5)
        self.assertEqual(delivery.ball_share(narrow, BALL_M, "balled", 13.2, 10), 1.0)

    def test_a_bag_wets_thirty_centimetres(self):
        self.assertAlmostEqual(delivery.ball_share(BAG, 0.15, "container", 13.2, 10), 0.25)
        self.assertEqual(delivery.ball_share(BAG, 0.4, "balled", 13.2, 10), 1.0)

    def test_faster_emitters_spread_wider_and_miss_the_ball_more(self):
        slow = delivery.ball_share(DRIP, 0.22, "container", 13.2, 8.0)
        fast = delivery.ball_share(replace(DRIP, emitter_flow_l_per_h=16.0), 0.22, "container", 13.2, 8.0)
        self.assertLess(fast, slow)
        self.assertTrue(0 < fast < slow <= 1)

    def test_emitters_without_count_or_flow_are_refused(self):
        for bad in (replace(DRIP, emitters=0), replace(DRIP, emitter_flow_l_per_h=0.0)):
            with self.assertRaises(InputError) as caught:
                delivery.ball_share(bad, BALL_M, "balled", 13.2, 10)
            self.assertEqual(caught.exception.field, "delivery.emitters")

    def test_an_unknown_way_is_refused(self):
        with self.assertRaises(InputError):
            delivery.efficiency("rain dance")


class Circles(unittest.TestCase):
    def test_closed_forms(self):
        self.assertEqual(circle_overlap_m2(1, 1, 2), 0.0)
        self.assertAlmostEqual(circle_overlap_m2(1, 0.5, 0.2), math.pi * 0.25)
        # two unit circles a radius apart: 2 pi / 3 - sqrt(3) / 2 (exact geometry)
        self.assertAlmostEqual(circle_overlap_m2(1, 1, 1), 2 * math.pi / 3 - math.sqrt(3) / 2)

    @given(st.floats(0.01, 3), st.floats(0.01, 3), st.floats(0, 6))
    def test_symmetric_and_never_more_than_the_smaller(self, a, b, distance):
        overlap = circle_overlap_m2(a, b, distance)
        self.assertAlmostEqual(overlap, circle_overlap_m2(b, a, distance), places=9)
        self.assertLessEqual(overlap, math.pi * min(a, b) ** 2 + 1e-9)
        self.assertGreaterEqual(overlap, -1e-12)


class HowLong(unittest.TestCase):
    def test_litres_over_flow(self):
        self.assertAlmostEqual(delivery.pour(HOSE, 40.0, BALL_M, 1000.0, 1.0).run_min, 6.0)

    def test_rounded_up_never_down(self):
        self.assertEqual(delivery.pour(HOSE, 40.2, BALL_M, 15.0, 1.0).litres, 41.0)
        self.assertEqual(delivery.pour(HOSE, 40.0, BALL_M, 15.0, 1.0).litres, 40.0)
        half_gallons = delivery.pour(HOSE, 40.0, BALL_M, 15.0, delivery.US_STEP_L).litres / LITRES_PER_US_GALLON
        self.assertEqual(half_gallons, 11.0)
        self.assertEqual(delivery.pour(replace(HOSE, step_l=12.0), 40.0, BALL_M, 15.0, 1.0).litres, 48.0)

    def test_ground_that_keeps_up_takes_it_in_one_go(self):
        goes = delivery.cycle_and_soak(30.0, 10.0, 12.0, 5.0)
        self.assertEqual((goes.count, goes.run_min, goes.rest_min), (1, 30.0, 0.0))

    @given(st.floats(1, 300), st.floats(1, 900), st.floats(1, 60), st.floats(2, 120))
    def test_the_goes_add_up(self, minutes, rate, intake, storage):
        goes = delivery.cycle_and_soak(minutes, rate, intake, storage)
        self.assertAlmostEqual((goes.count - 1) * goes.run_min + goes.last_min, minutes, places=6)
        self.assertLessEqual(goes.last_min, goes.run_min + 1e-6)
        if goes.count > 1:
            # what stands when a go ends is just the storage, and the rest lets it soak in
            stands = (rate - intake) * goes.run_min / 60
            self.assertLessEqual(stands, storage + 1e-6, "it does not run off")
            self.assertAlmostEqual(intake * goes.rest_min / 60, stands, places=6, msg="it has sunk before the next")
            self.assertAlmostEqual(goes.last_min, goes.run_min, places=6, msg="no splash of seconds at the end")
            fewer = (rate - intake) * minutes / (goes.count - 1) / 60
            self.assertGreater(fewer, storage - 1e-6, "one go less would run off")

    def test_what_a_day_takes_is_all_that_is_poured_of_it(self):
        """A hose on clay: as many goes as a working day has room for, the rest is another day's."""
        most = delivery.day_limit(HOSE, BALL_M, 1.0)
        whole = delivery.pour(HOSE, 500.0, BALL_M, 1.0, 1.0, most)
        self.assertLess(whole.litres, 500.0)
        self.assertLessEqual(whole.litres, most.litres + 1e-9)
        self.assertLessEqual(whole.total_min, delivery.WORKING_DAY_MIN + 1e-6)
        one_more = delivery.pour(HOSE, whole.litres * (most.goes + 1) / most.goes, BALL_M, 1.0, 1.0)
        self.assertGreater(one_more.total_min, delivery.WORKING_DAY_MIN)
        self.assertIsNone(delivery.day_limit(Delivery("bag", 400.0), BALL_M, 1.0), "a bag drips on by itself")

    def test_slower_soil_takes_more_goes(self):
        counts = [delivery.pour(HOSE, 120.0, BALL_M, intake, 1.0).goes.count for intake in (50.0, 15.0, 3.0)]
        self.assertEqual(counts, sorted(counts))
        self.assertGreater(counts[-1], 1)

    def test_a_bag_is_filled_as_often_as_it_needs_and_drips_for_hours(self):
        small = delivery.pour(BAG, 60.0, BALL_M, 3.0, 1.0)
        self.assertEqual((small.fills, small.goes.count), (1, 1))
        self.assertAlmostEqual(small.total_min, small.run_min + 360)
        self.assertEqual(delivery.pour(BAG, 76.0, BALL_M, 3.0, 1.0).fills, 2)


class Losses(unittest.TestCase):
    def test_gross_and_net_are_one_another_turned_round(self):
        gross = delivery.gross_l(20.0, 0.85, 1.2, 0.1)
        self.assertAlmostEqual(float(delivery.net_l(gross * 0.9, 0.85, 1.2)), 20.0)
        self.assertEqual(float(delivery.gross_l(0.0, 0.85, 1.2)), 0.0)

    def test_hose_onto_mulch_loses_what_wets_it_and_emitters_do_not(self):
        self.assertAlmostEqual(delivery.mulch_loss_l(HOSE, BALL_M, 2.0, 1.0), 2 * math.pi / 4 * 0.81)
        self.assertEqual(delivery.mulch_loss_l(DRIP, BALL_M, 2.0, 1.0), 0.0)
        self.assertEqual(delivery.mulch_loss_l(HOSE, BALL_M, 2.0, 0.0), 0.0)

    def test_too_little_to_wet_the_mulch_brings_nothing(self):
        self.assertEqual(float(delivery.net_l(1.0, 0.85, 1.2)), 0.0)


if __name__ == "__main__":
    unittest.main()
