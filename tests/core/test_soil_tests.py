"""Soil from percentages and from simple tests, against what was published and as relations."""

import itertools
import unittest

from hypothesis import assume, given
from hypothesis import strategies as st

from june_shade.core.errors import InputError
from june_shade.core.soil import field_tests, pedotransfer, triangle
from june_shade.core.soil.textures import textures
from tests.support import published


def sr(sand, clay, om, factor=1.0):
    return pedotransfer.water(sand, clay, om, factor)


class Published(unittest.TestCase):
    QUANTITIES = {
        "wp": lambda **i: sr(**i).wilting_point,
        "fc": lambda **i: sr(**i).field_capacity,
        "sat": lambda **i: sr(**i).saturation,
        "ks": lambda **i: sr(**i).conductivity_mm_h,
        "bd": lambda **i: sr(**i).bulk_density,
        "hole_ks": lambda h0, ht, hours: field_tests.drain_hole(h0, ht, hours).conductivity_mm_h,
        "settling_s": lambda um, depth: field_tests.settling_s(um, depth),
    }

    def test_published_values(self):
        for check in published("soil"):
            with self.subTest(check.source, inputs=check.inputs):
                self.assertAlmostEqual(
                    self.QUANTITIES[check.quantity](**check.inputs), check.expected, delta=check.tolerance
                )


class Triangle(unittest.TestCase):
    # points inside each class, on which public libraries agree, then points on an edge by the manual's inequalities
    POINTS = {
        (92, 5, 3): "sand", (82, 12, 6): "loamy_sand", (65, 25, 10): "sandy_loam", (40, 40, 20): "loam",
        (20, 65, 15): "silt_loam", (6, 88, 6): "silt", (60, 13, 27): "sandy_clay_loam", (33, 33, 34): "clay_loam",
        (10, 56, 34): "silty_clay_loam", (6, 47, 47): "silty_clay", (52, 6, 42): "sandy_clay", (20, 20, 60): "clay",
        (45, 28, 27): "clay_loam", (70, 30, 0): "sandy_loam", (8, 80, 12): "silt_loam",
    }  # fmt: skip

    def test_points(self):
        for point, wanted in self.POINTS.items():
            self.assertEqual(triangle.texture(*point), wanted, point)

    @given(st.integers(0, 100), st.integers(0, 100))
    def test_every_soil_has_one_of_the_twelve(self, sand, clay):
        assume(sand + clay <= 100)
        self.assertIn(triangle.texture(sand, 100 - sand - clay, clay), textures())

    def test_small_slips_are_scaled_and_large_ones_refused(self):
        self.assertEqual(triangle.texture(40, 40, 21), "loam")
        for bad in ((40, 40, 30), (40, 40, 10), (-5, 60, 45), (140, 0, 0)):
            with self.assertRaises(InputError):
                triangle.texture(*bad)


class Pedotransfer(unittest.TestCase):
    def test_compaction_slows_water_and_squeezes_its_room(self):
        made = [sr(40, 20, 2.5, f) for f in (0.9, 1.0, 1.1, 1.2)]
        for looser, denser in itertools.pairwise(made):
            self.assertGreater(looser.conductivity_mm_h, denser.conductivity_mm_h)
            self.assertGreater(looser.drainable, denser.drainable)
            self.assertEqual(looser.wilting_point, denser.wilting_point)

    def test_organic_matter_holds_more(self):
        self.assertGreater(sr(40, 20, 5).awc, sr(40, 20, 1).awc)

    def test_beyond_their_range_the_equations_are_not_used(self):
        for field, args in (
            ("clay", (10, 70, 2.5)),
            ("organic_matter", (40, 20, 12)),
            ("density_factor", (40, 20, 2, 2)),
        ):
            with self.assertRaises(InputError) as caught:
                sr(*args)
            self.assertEqual(caught.exception.field, field)


class JarTest(unittest.TestCase):
    def test_layers_make_percentages_and_a_class(self):
        found = field_tests.jar(40, 80, 100)
        self.assertEqual((found.sand_percent, found.silt_percent, found.clay_percent), (40, 40, 20))
        self.assertEqual(found.texture, "loam")

    def test_a_jar_overstates_clay_and_says_the_class_beside_it(self):
        found = field_tests.jar(33, 66, 100)
        self.assertEqual((found.texture, found.less_clay), ("clay_loam", "loam"))

    def test_layers_in_the_wrong_order_are_refused(self):
        for tops, field in (((60, 40, 100), "silt_top_mm"), ((40, 80, 70), "clay_top_mm"), ((0, 0, 0), "clay_top_mm")):
            with self.assertRaises(InputError) as caught:
                field_tests.jar(*tops)
            self.assertEqual(caught.exception.field, field)


class DrainHole(unittest.TestCase):
    def test_classes_and_caps(self):
        for fall_mm, klass, cap in (
            (2, "very_poor", 0.05), (3, "poor", 0.15), (12, "poor", 0.15), (13, "slow", 0.30), (25, "good", None),
            (74, "good", None), (120, "fast", None),
        ):  # fmt: skip
            found = field_tests.drain_hole(0.30, 0.30 - fall_mm / 1000, 1.0)
            self.assertEqual((found.klass, found.drain_share_cap), (klass, cap), fall_mm)

    @given(st.floats(0.05, 0.5), st.floats(0, 1), st.floats(0.1, 24))
    def test_a_hole_that_falls_faster_lets_more_through(self, depth, share, hours):
        slow = field_tests.drain_hole(depth, depth * share, hours)
        fast = field_tests.drain_hole(depth, depth * share, hours / 2)
        self.assertGreaterEqual(fast.conductivity_mm_h, slow.conductivity_mm_h)
        self.assertGreaterEqual(fast.fall_mm_h, slow.fall_mm_h)

    def test_readings_that_can_not_be(self):
        for field, args in (("last_depth_m", (0.2, 0.3, 1)), ("hours", (0.3, 0.2, 0)), ("first_depth_m", (0, 0, 1))):
            with self.assertRaises(InputError) as caught:
                field_tests.drain_hole(*args)
            self.assertEqual(caught.exception.field, field)


if __name__ == "__main__":
    unittest.main()
