"""The mulch ring: exact geometry, settling, wasting, and what is said of it."""

import math
import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from june_shade.core.errors import InputError
from june_shade.core.mulch import ring
from tests.support import published


def tapered(bare_m, full_m, outer_m, depth_m):
    return ring.settled_volume_l(0.0, bare_m, outer_m, depth_m, taper_m=full_m - bare_m)


class Published(unittest.TestCase):
    QUANTITIES = {
        "ring_flat": lambda outer_m, bare_m, depth_m: ring.settled_volume_l(0.0, bare_m, outer_m, depth_m, 1e-9),
        "ring_tapered": tapered,
        "loose_depth_mm": lambda target_mm, settling: target_mm / (1 - settling),
        "wasted_depth_mm": lambda loose_mm, settling, per_year, years: ring.wasted_depth_m(
            loose_mm * (1 - settling), years, 1 / per_year
        ),
    }

    def test_published_values(self):
        seen = set()
        for check in published("trade"):
            if check.quantity in self.QUANTITIES:
                seen.add(check.quantity)
                with self.subTest(check.source):
                    found = float(self.QUANTITIES[check.quantity](**check.inputs))
                    self.assertAlmostEqual(found, check.expected, delta=check.tolerance)
        self.assertEqual(seen, set(self.QUANTITIES))


class Geometry(unittest.TestCase):
    @given(st.floats(0.01, 0.15), st.floats(0.02, 0.2), st.floats(0.1, 2.0), st.floats(0.01, 0.15))
    def test_the_closed_form_is_the_integral_of_the_profile(self, trunk, gap, outer, depth):
        r0 = trunk / 2 + gap
        edges = np.linspace(0, outer, 20_001)
        r = (edges[1:] + edges[:-1]) / 2
        profile = depth * np.clip((r - r0) / ring.TAPER_M, 0, 1)
        volume = 1000 * np.sum(2 * math.pi * r * profile * np.diff(edges))
        self.assertAlmostEqual(float(ring.settled_volume_l(trunk, gap, outer, depth)), volume, delta=0.02)

    @given(st.floats(0.3, 1.5), st.floats(0.01, 0.5))
    def test_wider_and_deeper_is_more(self, outer, more):
        volume = ring.settled_volume_l(0.05, 0.08, outer, 0.075)
        self.assertGreater(ring.settled_volume_l(0.05, 0.08, outer + more, 0.075), volume)
        self.assertGreater(ring.settled_volume_l(0.05, 0.08, outer, 0.075 + more), volume)

    def test_arrays_equal_single_rings(self):
        outer = np.array([0.3, 0.6, 1.2])
        together = ring.settled_volume_l(0.05, 0.08, outer, 0.075)
        for i, radius in enumerate(outer):
            self.assertEqual(float(together[i]), float(ring.settled_volume_l(0.05, 0.08, radius, 0.075)))


class Order(unittest.TestCase):
    def made(self, depth_now=0.0, **changed):
        values = {"trunk_diameter_m": 0.05, "outer_radius_m": 0.9, "target_m": 0.075, "material_name": "wood_chips"}
        return ring.ring(depth_now_m=depth_now, **(values | changed))

    def test_loose_mulch_settles_to_what_is_missing(self):
        bare = self.made()
        self.assertAlmostEqual(bare.missing_settled_l, bare.full_settled_l)
        self.assertAlmostEqual(bare.missing_loose_l * (1 - 0.33), bare.missing_settled_l)
        self.assertAlmostEqual(bare.cubic_metres * 1000, bare.missing_loose_l)
        self.assertAlmostEqual(bare.cubic_yards * ring.LITRES_PER_CUBIC_YARD, bare.missing_loose_l)

    def test_carried_units_cover_the_order_without_one_to_spare(self):
        order = self.made()
        for name, count in order.carried.items():
            size = ring.CARRIED_L[name]
            self.assertGreaterEqual(count * size, order.missing_loose_l - 1e-6)
            self.assertLess((count - 1) * size, order.missing_loose_l)

    def test_a_full_ring_wants_nothing(self):
        self.assertEqual(self.made(0.075).missing_loose_l, 0.0)
        self.assertEqual(set(self.made(0.09).carried.values()), {0})

    def test_findings(self):
        codes = lambda r: {f.code for f in r.findings}  # noqa: E731
        self.assertEqual(codes(self.made(0.075)), set())
        self.assertEqual(codes(self.made(0.03)), {"too_shallow"})
        self.assertEqual(codes(self.made(0.15)), {"too_deep"})
        self.assertEqual(codes(self.made(0.075, clear_gap_m=0.02)), {"gap_small"})
        self.assertEqual(codes(self.made(0.075, outer_radius_m=0.35)), {"ring_small"})

    def test_the_working_ends_in_the_order(self):
        order = self.made(0.02)
        self.assertAlmostEqual(order.working[-1].value, order.missing_loose_l)
        for step in order.working:
            self.assertTrue(step.formula and step.source and step.unit in ("m", "L"))

    def test_a_ring_inside_its_own_gap_is_refused(self):
        with self.assertRaises(InputError) as caught:
            self.made(outer_radius_m=0.1)
        self.assertEqual(caught.exception.field, "mulch.outer_radius_m")

    def test_a_material_that_is_none_is_refused(self):
        with self.assertRaises(InputError):
            self.made(material_name="gold leaf")

    def test_the_ball_lies_under_five_centimetres_in_its_first_season(self):
        self.assertEqual(ring.target_depth_m(15.0, True), 0.05)
        self.assertEqual(ring.target_depth_m(15.0, False), 0.075)
        self.assertEqual(ring.target_depth_m(3.0, False), 0.05)

    def test_gravel_does_not_waste(self):
        self.assertIsNone(ring.material("gravel").wasting_years)
        self.assertEqual(float(ring.wasted_depth_m(0.075, 5.0, np.inf)), 0.075)
        self.assertLess(float(ring.wasted_depth_m(0.075, 1.0, 2.5)), 0.075)


if __name__ == "__main__":
    unittest.main()
