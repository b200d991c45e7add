"""Balls, stock sizes, plants, soils: the tables against what was published, and the checks on what is typed."""

import itertools
import unittest

import numpy as np

from june_shade.core.care import cautions
from june_shade.core.errors import InputError
from june_shade.core.soil import feel
from june_shade.core.soil.textures import override, soil, textures
from june_shade.core.stock import balls, plants
from june_shade.core.units import METRES_PER_INCH
from june_shade.core.water.trees import build
from tests.support import published, spec

SIZES = {size.label: size for size in plants.stock_sizes()}


class Published(unittest.TestCase):
    QUANTITIES = {
        "ball_volume": lambda k, diameter_m, height_m: balls.ball_volume_l(k, diameter_m / 2, height_m),
        "caliper_cm": lambda girth_m: 100 * balls.caliper_from_girth_m(girth_m),
        "class_low": lambda label: SIZES[f"{label} container"].volume_l_low,
        "class_high": lambda label: SIZES[f"{label} container"].volume_l_high,
        "ball_in": lambda caliper_in: SIZES[f"{caliper_in:g} in balled"].ball_diameter_m / METRES_PER_INCH,
        "intake": lambda texture: soil(texture).intake_mm_h,
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


class Soils(unittest.TestCase):
    # Allen et al. 1998 table 19: available water [m3/m3], the ranges printed there (from memory)
    TABLE_19 = {
        "sand": (0.05, 0.11), "loamy_sand": (0.06, 0.12), "sandy_loam": (0.11, 0.15), "loam": (0.13, 0.18),
        "silt_loam": (0.13, 0.19), "silt": (0.16, 0.20), "silty_clay_loam": (0.13, 0.18),
        "silty_clay": (0.13, 0.19), "clay": (0.12, 0.20),
    }  # fmt: skip

    def test_available_water_lies_within_the_published_ranges(self):
        for name, (low, high) in self.TABLE_19.items():
            self.assertTrue(low <= soil(name).awc <= high, name)

    def test_all_twelve_textures_are_there_and_hold_together(self):
        self.assertEqual(len(textures()), 12)
        for name, found in textures().items():
            self.assertTrue(0 < found.wilting_point + found.awc + found.drainable < 0.6, name)
            self.assertTrue(0 < found.drain_share <= 1 and found.intake_mm_h > 0, name)
            self.assertTrue(found.source, name)

    def test_coarser_soil_drains_and_takes_water_in_faster(self):
        row = [soil(name) for name in ("sand", "sandy_loam", "loam", "clay_loam", "clay")]
        for a, b in itertools.pairwise(row):
            self.assertGreater(a.drain_share, b.drain_share)
            self.assertGreater(a.intake_mm_h, b.intake_mm_h)
            self.assertGreater(a.conductivity_mm_h, b.conductivity_mm_h)

    def test_a_measured_value_beats_the_table_and_is_said(self):
        measured = override(soil("loam"), intake_mm_h=4.0)
        self.assertEqual((measured.intake_mm_h, measured.awc), (4.0, soil("loam").awc))
        self.assertIn("measured: intake_mm_h", measured.source)
        self.assertEqual(override(soil("loam"), intake_mm_h=None), soil("loam"))

    def test_a_texture_that_is_none_is_refused(self):
        with self.assertRaises(InputError) as caught:
            soil("gumbo")
        self.assertEqual(caught.exception.field, "texture")


class Stock(unittest.TestCase):
    def test_each_size_fits_its_own_class(self):
        for size in SIZES.values():
            if size.volume_l_low is None:
                continue
            k = balls.medium(size.kind, soil("loam")).shape_k
            volume = float(balls.ball_volume_l(k, size.ball_diameter_m / 2, size.ball_height_m))
            # what is soil in a pot stands below its rim: down to a fifth under the class's least volume
            self.assertTrue(0.8 * size.volume_l_low <= volume <= size.volume_l_high, size.label)
            self.assertEqual(
                plants.size_doubts(size.kind, size.caliper_m, size.ball_diameter_m, size.ball_height_m), ()
            )

    def test_about_forty_trees_are_there_with_their_sources(self):
        kinds = plants.plant_kinds()
        self.assertGreaterEqual(len(kinds), 38)
        self.assertEqual(len({k.botanical for k in kinds}), len(kinds))
        for kind in kinds:
            self.assertIn(kind.water_need, plants.PLANT_FACTOR)
            self.assertTrue(kind.source and kind.mature_height_m > 1 and kind.mature_spread_m > 0.5, kind.botanical)
        self.assertTrue(any(k.evergreen for k in kinds) and not all(k.evergreen for k in kinds))

    def test_unlikely_measures_are_doubted_not_refused(self):
        self.assertIn("ball_small", plants.size_doubts("container", 0.05, 0.18, 0.17))  # a 5 cm tree in a 4 L pot
        self.assertIn("ball_tall", plants.size_doubts("container", 0.02, 0.2, 0.5))
        self.assertIn("caliper_large", plants.size_doubts("balled", 0.2, 2.0, 1.0))
        self.assertEqual(plants.size_doubts("balled", 0.0508, 0.61, 0.366), ())

    def test_bare_root_stands_in_the_sites_own_soil(self):
        bare, potted = balls.medium("bare_root", soil("clay")), balls.medium("container", soil("clay"))
        self.assertEqual((bare.awc, bare.drain_share), (soil("clay").awc, soil("clay").drain_share))
        self.assertNotEqual(potted.awc, bare.awc)

    def test_a_measured_volume_overrides_the_shape(self):
        self.assertEqual(float(build([spec(ball_volume_l=55.0)]).ball_volume_l[0]), 55.0)

    def test_a_volume_that_no_such_ball_can_have_is_refused(self):
        with self.assertRaises(InputError) as caught:
            build([spec(ball_volume_l=900.0)])
        self.assertEqual(caught.exception.field, "tree.ball_volume_l")

    def test_a_class_of_need_that_is_none_is_refused(self):
        with self.assertRaises(InputError):
            plants.plant_factor("enormous")

    def test_arrays_keep_the_order_of_trees(self):
        trees = build([spec("2 in balled"), spec("#15 container"), spec("1 in bare root")])
        np.testing.assert_allclose(2 * trees.ball_radius_m, [0.6096, 0.44, 0.4572])


class Care(unittest.TestCase):
    def test_cautions_come_with_the_weather(self):
        self.assertEqual(cautions.for_day(20.0, True, {"hose"}), ())
        self.assertEqual(cautions.for_day(30.0, True, {"hose"}), ("hot_hose",))
        self.assertEqual(cautions.for_day(30.0, True, {"emitters"}), ())
        self.assertEqual(cautions.for_day(36.0, True, {"bag"}), ("hot_hose", "heat"))
        self.assertEqual(cautions.for_day(2.0, False, {"hose"}), ("frozen",))

    def test_feel_is_a_share_of_available_water(self):
        shares = [feel.wetness(word) for word in ("wet", "moist", "drying", "dry")]
        self.assertEqual(shares, sorted(shares, reverse=True))
        with self.assertRaises(InputError):
            feel.wetness("crunchy")


if __name__ == "__main__":
    unittest.main()
