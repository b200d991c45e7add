"""Stock against the nursery standard and trade tables; weights, boxes, girth; what plastic and gravel do."""

import itertools
import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from june_shade.core.soil.textures import soil
from june_shade.core.stock import balls, look, measures, weight
from june_shade.core.stock.plants import plant_kinds, stock_sizes
from june_shade.core.units import METRES_PER_INCH as INCH
from june_shade.core.water import trees
from june_shade.core.water.balance import pass_day
from june_shade.core.water.ground import ground
from june_shade.core.water.weather import Weather
from june_shade.core.weather.series import leaf_by_dates, month_day
from tests.support import full, one


class NurseryStandard(unittest.TestCase):
    # ANSI Z60.1, shade trees: caliper in, least ball in; bare root: caliper in, least spread in (from memory)
    BALLS = {
        0.5: 12,
        0.75: 14,
        1: 16,
        1.25: 18,
        1.75: 22,
        2: 24,
        2.5: 28,
        3: 32,
        4: 42,
        4.5: 48,
        5: 54,
        6: 60,
        7: 70,
        8: 80,
    }
    SPREADS = {0.5: 12, 0.75: 16, 1: 18, 1.5: 22, 2: 28, 2.5: 32, 3: 38}

    def test_least_balls_and_spreads(self):
        for caliper, ball in self.BALLS.items():
            self.assertAlmostEqual(float(measures.least_ball_m(caliper * INCH)), ball * INCH)
        for caliper, spread in self.SPREADS.items():
            self.assertAlmostEqual(float(measures.least_spread_m(caliper * INCH)), spread * INCH)

    def test_every_dug_size_of_the_table_meets_the_standard(self):
        for size in stock_sizes():
            if size.kind == "balled" and size.label.endswith("in balled"):
                self.assertGreaterEqual(
                    size.ball_diameter_m, float(measures.least_ball_m(size.caliper_m)) - 0.006, size.label
                )

    def test_the_trunk_is_measured_higher_once_it_is_thick(self):
        self.assertEqual(measures.caliper_height_m(4 * INCH), 0.15)
        self.assertEqual(measures.caliper_height_m(4.5 * INCH), 0.30)

    def test_girth(self):
        # a girth of 16 cm is a trunk of 5.093 cm (arithmetic); a 16/18 has a ball of about 50 cm (common practice)
        self.assertAlmostEqual(measures.caliper_from_girth_m(0.16), 0.05093, delta=0.00002)
        self.assertAlmostEqual(float(measures.ball_from_girth_m(0.17)), 0.50, delta=0.02)

    def test_ball_depth_shares(self):
        for inches, share in ((16, 0.65), (24, 0.60), (42, 0.60), (48, 0.55), (60, 0.50), (80, 0.50)):
            self.assertAlmostEqual(float(measures.ball_depth_m(inches * INCH)), share * inches * INCH)


class Weights(unittest.TestCase):
    # trade tables of dug balls (common practice): ball in, depth share, litres, kilograms; they agree within 15 %
    TABLE = (
        (16, 0.65, 22.8, 40),
        (24, 0.60, 71.2, 125),
        (32, 0.60, 169, 297),
        (42, 0.60, 381, 671),
        (60, 0.50, 927, 1631),
    )

    def test_dug_balls(self):
        for inches, share, litres, kg in self.TABLE:
            made = look.ball("balled", 0.05, inches * INCH, inches * INCH * share)
            self.assertAlmostEqual(made.volume_l, litres, delta=0.01 * litres)
            self.assertAlmostEqual(made.weight_kg, kg, delta=0.15 * kg)

    def test_boxes_hold_what_the_trade_says(self):
        for inches, litres in ((24, 160), (30, 310), (36, 515), (42, 820), (48, 1200), (60, 2240)):
            size = next(s for s in stock_sizes() if s.label == f"{inches} in box")
            made = look.ball("box", size.caliper_m, size.ball_diameter_m, size.ball_height_m)
            self.assertAlmostEqual(made.volume_l, litres, delta=0.02 * litres)

    def test_pots_hold_what_their_class_allows(self):
        for size in stock_sizes():
            if size.volume_l_low is not None:
                made = look.ball("container", size.caliper_m, size.ball_diameter_m, size.ball_height_m).volume_l
                self.assertGreater(made, 0.85 * size.volume_l_low, size.label)
                self.assertLess(made, 1.15 * size.volume_l_high, size.label)

    def test_how_it_is_lifted(self):
        for kg, word in (
            (23, "one_person"),
            (24, "two_people"),
            (45, "two_people"),
            (46, "cart_or_sling"),
            (101, "machine"),
        ):
            self.assertEqual(weight.lift(kg), word)

    @given(st.sampled_from(balls.KINDS), st.floats(0.2, 1.5), st.floats(0.2, 1.0))
    def test_a_soaked_ball_is_never_lighter_and_bare_root_weighs_nothing(self, kind, across, height):
        made = look.ball(kind, 0.05, across, height)
        self.assertGreaterEqual(made.soaked_kg, made.weight_kg)
        self.assertEqual(made.weight_kg == 0, kind == "bare_root")

    def test_a_measured_volume_wins(self):
        self.assertEqual(look.ball("container", 0.03, 0.44, 0.395, 47.5).volume_l, 47.5)

    def test_a_tapered_pot_lies_between_its_cylinders(self):
        cylinder = balls.frustum_l(0.4, 0.4, 0.3)
        self.assertAlmostEqual(cylinder, 1000 * np.pi * 0.2**2 * 0.3)
        self.assertLess(balls.frustum_l(0.4, 0.3, 0.3), cylinder)


class WaterModel(unittest.TestCase):
    def test_boxes_and_bags_count_as_containers(self):
        found = [balls.medium(kind, soil("loam")) for kind in ("container", "box", "fabric_bag")]
        for a, b in itertools.pairwise(found):
            self.assertEqual((a.awc, a.drainable, a.drain_share), (b.awc, b.drainable, b.drain_share))

    def test_a_box_is_as_wide_as_its_side(self):
        self.assertAlmostEqual(np.pi * balls.radius_m("box", 0.6) ** 2, 0.36)
        self.assertEqual(balls.radius_m("balled", 0.6), 0.3)

    def test_rain_gets_through_sheets_as_their_holes_let_it(self):
        rain = {}
        for surround in ("bare", "plastic_holed", "plastic"):
            tree, reach = one(surround=surround, mulch_cover=0.0)
            state, g = full(tree, reach), ground(tree, reach, tree.ball_radius_m)
            rain[surround] = float(pass_day(tree, g, state, Weather(5.0, 20.0, 20.0, 20.0), np.zeros(1))[1].rain_l[0])
        self.assertEqual(rain["plastic"], 0.0)
        self.assertAlmostEqual(rain["plastic_holed"], rain["bare"] / 2)

    def test_gravel_adds_heat_once_and_never_past_the_hottest(self):
        self.assertAlmostEqual(trees.microclimate(1.0, "gravel", None), 1.1)
        self.assertAlmostEqual(trees.microclimate(1.0, "gravel", "gravel"), 1.1)
        self.assertEqual(trees.microclimate(1.4, "gravel", None), 1.4)
        self.assertEqual(trees.microclimate(1.0, "turf", "bark"), 1.0)


class Leaf(unittest.TestCase):
    DAYS = np.arange("2025-01-01", "2027-01-01", dtype="datetime64[D]")

    def at(self, leaf, day):
        return float(leaf[int((np.datetime64(day, "D") - self.DAYS[0]).astype(int))])

    def test_by_the_kinds_dates_in_the_north(self):
        leaf = leaf_by_dates(self.DAYS, "04-20", "10-15")
        self.assertEqual((self.at(leaf, "2026-02-01"), self.at(leaf, "2026-07-01")), (0.1, 1.0))
        self.assertTrue(0.1 < self.at(leaf, "2026-05-01") < 1)
        self.assertTrue(0.1 < self.at(leaf, "2026-10-25") < 1)

    def test_and_in_the_south(self):
        leaf = leaf_by_dates(self.DAYS, "09-20", "04-15")
        self.assertEqual((self.at(leaf, "2026-01-15"), self.at(leaf, "2026-07-15")), (1.0, 0.1))

    def test_a_day_that_is_none(self):
        for bad in ("13-01", "04-31", "spring"):
            with self.assertRaises(Exception) as caught:
                month_day(bad, "leaf_out")
            self.assertEqual(caught.exception.field, "leaf_out")
        self.assertEqual(month_day("02-29", "leaf_out"), (2, 29))
        self.assertEqual(len(leaf_by_dates(self.DAYS, "02-29", "11-01")), len(self.DAYS))

    def test_every_kind_of_the_table_has_its_tolerances(self):
        self.assertGreater(len({(k.drought_tolerance, k.salt_tolerance) for k in plant_kinds()}), 5)


if __name__ == "__main__":
    unittest.main()
