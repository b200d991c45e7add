"""The daily balance: water closes, arrays equal single trees, and a day moves what the equations say."""

import unittest
from dataclasses import fields, replace

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from june_shade.core.soil.textures import override, soil, textures
from june_shade.core.stock.plants import stock_sizes
from june_shade.core.water import balance
from june_shade.core.water.balance import State, Weather, demand_l, ground, grow, pass_day, uptake_l
from june_shade.core.water.trees import SURROUNDS, build
from tests.support import full, one, published, spec

CLOSES_TO_L = 1e-9


def stored_l(trees, g, state) -> np.ndarray:
    """Water in both stores above the wilting point [L]."""
    return trees.ball_taw_l - state.ball_depletion_l + g.ring_taw_l - state.ring_depletion_l


@st.composite
def seasons(draw):
    """A few trees of any stock in any soil, and days of any weather and watering."""
    specs = [
        spec(
            draw(st.sampled_from([s.label for s in stock_sizes()])),
            draw(st.sampled_from(sorted(textures()))),
            plant_factor=draw(st.floats(0.1, 0.9)),
            microclimate=draw(st.floats(0.5, 1.4)),
            basin_diameter_m=draw(st.one_of(st.none(), st.floats(0.3, 2))),
            mulch_outer_radius_m=draw(st.floats(0, 2)),
            surround=draw(st.sampled_from(sorted(SURROUNDS))),
            ball_share=draw(st.one_of(st.none(), st.floats(0, 1))),
            root_depth_max_m=draw(st.floats(0.2, 1)),
        )
        for _ in range(draw(st.integers(1, 3)))
    ]
    days = [
        Weather(
            eto_mm=draw(st.floats(0, 12)),
            rain_mm=draw(st.one_of(st.just(0.0), st.floats(0, 120))),
            tmean_c=draw(st.floats(-15, 40)),
            leaf=draw(st.floats(0, 1)),
            rain_share=draw(st.sampled_from([1.0, 1.0, 0.6, 0.0])),
            mulch_depth_share=draw(st.floats(0, 1)),
        )
        for _ in range(draw(st.integers(1, 8)))
    ]
    poured = draw(st.lists(st.floats(0, 150), min_size=len(days), max_size=len(days)))
    twice = draw(st.lists(st.booleans(), min_size=len(days), max_size=len(days)))
    return build(specs), days, poured, twice


class Closes(unittest.TestCase):
    @settings(max_examples=150, deadline=None)
    @given(seasons())
    def test_no_water_is_made_or_lost(self, season):
        trees, days, poured, twice = season
        state = full(trees)
        before = ground(trees, state.root_radius_m)
        for weather, litres, second in zip(days, poured, twice, strict=True):
            held = stored_l(trees, before, state)
            state, g, joined = grow(trees, state, weather, before)
            first = np.full(len(trees), litres)
            extra = first / 2 if second else None
            state, moved = pass_day(trees, g, state, weather, first, extra)
            flows_in = joined + moved.net_l + moved.rain_l
            flows_out = moved.drained_l + moved.transpired_l + moved.evaporated_l
            change = stored_l(trees, g, state) - held
            np.testing.assert_allclose(change, flows_in - flows_out, rtol=0, atol=CLOSES_TO_L)
            for name in ("net_l", "rain_l", "drained_l", "transpired_l", "evaporated_l"):
                self.assertTrue(np.all(getattr(moved, name) >= 0), name)
            self.assertTrue(np.all((moved.ks >= 0) & (moved.ks <= 1 + 1e-12)))
            self.assertTrue(np.all(state.ball_depletion_l <= trees.ball_taw_l + CLOSES_TO_L))
            self.assertTrue(np.all(state.ring_depletion_l <= g.ring_taw_l + CLOSES_TO_L))
            self.assertTrue(np.all(-state.ball_depletion_l <= trees.ball_space_l + CLOSES_TO_L))
            before = g

    @settings(max_examples=40, deadline=None)
    @given(seasons())
    def test_arrays_equal_single_trees(self, season):
        trees, days, poured, _ = season
        together = self.run_all(trees, days, poured)
        for i in range(len(trees)):
            alone = type(trees)(**{f.name: getattr(trees, f.name)[i : i + 1] for f in fields(trees)})
            for name, value in zip(State.__dataclass_fields__, self.run_all(alone, days, poured), strict=True):
                position = list(State.__dataclass_fields__).index(name)
                np.testing.assert_array_equal(value[0], together[position][i], name)

    @staticmethod
    def run_all(trees, days, poured):
        state = full(trees)
        g = ground(trees, state.root_radius_m)
        for weather, litres in zip(days, poured, strict=True):
            state, g, _ = grow(trees, state, weather, g)
            state, _ = pass_day(trees, g, state, weather, np.full(len(trees), litres))
        return [getattr(state, name) for name in State.__dataclass_fields__]


class Uptake(unittest.TestCase):
    def test_eq_84_is_what_a_vanishing_demand_takes(self):
        """Within a day uptake follows Ks at every moment: at a tiny demand, Ks of the start."""
        for check in published("trade"):
            if check.quantity != "uptake_share":
                continue
            with self.subTest(check.source):
                i = check.inputs
                # the core's p is 0.5: the check's threshold (1 - p) TAW is met by a store of the same threshold
                taw = i["taw"] * (1 - i["p"]) / (1 - balance.DEPLETION_FRACTION_P)
                left = i["taw"] - i["depletion"]
                taken = uptake_l(np.array([left]), np.array([taw]), np.array([1e-6]))
                self.assertAlmostEqual(float(taken[0]) / 1e-6, check.expected, delta=check.tolerance)

    @given(st.floats(0, 40), st.floats(1, 40), st.floats(0, 60))
    def test_a_store_gives_no_more_than_it_has_nor_than_is_asked(self, available, taw, demand):
        available = min(available, taw)
        taken = float(uptake_l(np.array([available]), np.array([taw]), np.array([demand]))[0])
        self.assertLessEqual(taken, min(available, demand) + 1e-12)
        self.assertGreaterEqual(taken, 0.0)

    def test_a_demand_next_to_nothing_takes_no_more_than_it_is(self):
        for demand in (0.0, 5e-324, 1e-310, 1e-300, 1e-12):
            taken = float(uptake_l(np.array([3.0]), np.array([10.0]), np.array([demand]))[0])
            self.assertLessEqual(taken, demand)

    @given(st.floats(1, 40), st.floats(0.1, 30))
    def test_it_is_the_integral_of_eq_84(self, taw, demand):
        """Against ten thousand small steps of Ks = A / a held to 1."""
        left = start = 0.7 * taw
        threshold = 0.5 * taw
        for _ in range(10_000):
            left -= demand * min(1.0, left / threshold) / 10_000
        taken = float(uptake_l(np.array([start]), np.array([taw]), np.array([demand]))[0])
        self.assertAlmostEqual(taken, start - left, delta=1e-3 * start)

    def test_demand_is_the_landscape_form(self):
        seen = 0
        for check in published("trade"):
            if check.quantity != "demand":
                continue
            seen += 1
            i = check.inputs
            trees = one(crown_diameter_m=i["crown_m"], plant_factor=i["factor"])
            found = demand_l(trees, ground(trees, trees.ball_radius_m), Weather(i["eto_mm"], 0, 20))
            self.assertAlmostEqual(float(found[0]), check.expected, delta=check.tolerance)
        self.assertEqual(seen, 2)

    def test_a_thrifty_species_is_thirsty_until_it_is_established(self):
        trees = one(plant_factor=0.2, new_plant_factor=0.5)
        young = demand_l(trees, ground(trees, trees.ball_radius_m), Weather(6.0, 0, 20))
        old = demand_l(trees, ground(trees, trees.established_radius_m), Weather(6.0, 0, 20))
        self.assertAlmostEqual(float(young[0] / old[0]), 0.5 / 0.2)


class RootsAndRing(unittest.TestCase):
    def test_roots_grow_best_from_25_to_32_degrees_and_not_below_5_or_above_40(self):
        found = balance.growth_factor(np.array([-5.0, 5.0, 15.0, 25.0, 30.0, 32.0, 36.0, 40.0, 45.0]))
        np.testing.assert_allclose(found, [0, 0, 0.5, 1, 1, 1, 0.5, 0, 0])

    def test_thirst_and_standing_water_slow_them(self):
        trees = one()
        grown = [
            float(balance.grown_radius_m(trees, trees.ball_radius_m, 28.0, np.array([ks]), np.array([soggy]))[0])
            for ks, soggy in ((1.0, False), (0.5, False), (1.0, True))
        ]
        start = float(trees.ball_radius_m[0])
        self.assertAlmostEqual(grown[0] - start, 0.0045)
        self.assertAlmostEqual(grown[1] - start, 0.00225)
        self.assertAlmostEqual(grown[2] - start, 0.00225)

    def test_established_is_reached_at_the_published_pace(self):
        # 12 months per inch of caliper in cold-winter and 3 in warm climates [Gilman; Watson85]: 0.37 m an inch
        trees = one()
        reach = float(trees.established_radius_m[0] - trees.ball_radius_m[0])
        self.assertAlmostEqual(reach / 2, 0.37, delta=0.005)
        warm_days = reach / 0.0045
        self.assertTrue(5 <= warm_days / 30.4 <= 6.5, "a 2 in tree takes about 6 months where it is always warm")

    def test_new_soil_joins_as_dry_as_it_lay_outside(self):
        trees = one()
        dry = replace(full(trees), outside_depletion_mm=0.5 * trees.outside_taw_mm)
        state, g, joined = grow(trees, dry, Weather(5, 0, 28), ground(trees, trees.established_radius_m * 0.7))
        self.assertTrue(np.isfinite(joined).all())
        # from a ring beyond its collar on, growth adds soil: half of what it can give is missing
        wide = replace(dry, root_radius_m=trees.collar_radius_m + 0.1)
        before = ground(trees, wide.root_radius_m)
        state, g, joined = grow(trees, wide, Weather(5, 0, 28), before)
        gained = float((g.ring_taw_l - before.ring_taw_l)[0])
        self.assertGreater(gained, 0)
        self.assertAlmostEqual(float(joined[0]), 0.5 * gained)
        self.assertAlmostEqual(float(state.ring_depletion_l[0]), 0.5 * gained)


class TooMuch(unittest.TestCase):
    def test_a_full_ring_in_clay_is_a_bathtub_for_the_ball(self):
        soggy = {}
        for texture in ("sand", "clay"):
            trees = build([spec(texture=texture, soil=soil(texture))])
            state, g = full(trees), ground(trees, trees.ball_radius_m)
            drowned = replace(state, ball_depletion_l=-trees.ball_space_l, ring_depletion_l=-g.ring_space_l)
            count = 0
            for _ in range(10):
                drowned, moved = pass_day(trees, g, drowned, Weather(2, 0, 20), np.zeros(1))
                count += bool(moved.soggy[0])
            soggy[texture] = count
        self.assertGreater(soggy["clay"], soggy["sand"])

    def test_water_beyond_all_room_is_drained_the_same_day(self):
        trees = one()
        state, g = full(trees), ground(trees, trees.ball_radius_m)
        _, moved = pass_day(trees, g, state, Weather(0, 0, 20), np.array([5000.0]))
        self.assertGreater(float(moved.drained_l[0]), 5000 - float((trees.ball_space_l + g.ring_space_l)[0]) - 1e-9)

    def test_one_day_of_two_waterings_moves_what_one_of_the_same_total_does_when_nothing_is_short(self):
        trees = one(plant_factor=0.1)
        state, g = full(trees), ground(trees, trees.ball_radius_m)
        state = replace(state, ring_depletion_l=0.2 * g.ring_taw_l, ball_depletion_l=0.2 * trees.ball_taw_l)
        _, once = pass_day(trees, g, state, Weather(1, 0, 20), np.array([1.0]))
        _, twice = pass_day(trees, g, state, Weather(1, 0, 20), np.array([0.5]), np.array([0.5]))
        self.assertAlmostEqual(float(once.transpired_l[0]), float(twice.transpired_l[0]), places=9)
        self.assertAlmostEqual(float(once.net_l[0]), float(twice.net_l[0]))


class RainAndMulch(unittest.TestCase):
    def test_a_tenth_of_the_rain_is_lost_and_dry_mulch_takes_two_millimetres_once(self):
        self.assertAlmostEqual(float(balance.effective_rain_mm(10.0, 1.0, 0.0, 0.0)), 9.0)
        self.assertAlmostEqual(float(balance.effective_rain_mm(10.0, 1.0, 1.0, 0.0)), 7.0)
        self.assertAlmostEqual(float(balance.effective_rain_mm(10.0, 1.0, 1.0, 1.0)), 9.0)
        self.assertEqual(float(balance.effective_rain_mm(1.5, 1.0, 1.0, 0.0)), 0.0)
        self.assertAlmostEqual(float(balance.effective_rain_mm(10.0, 0.6, 1.0, 0.0)), 4.2)

    def test_mulch_halves_the_evaporation_of_soil(self):
        check = next(c for c in published("trade") if c.quantity == "mulched_evaporation")
        bare = check.inputs["bare_mm"]
        ours = bare * (1 - balance.MULCH_EVAPORATION_CUT * check.inputs["cover"])
        self.assertAlmostEqual(ours, check.expected, delta=check.tolerance)
        lost = []
        for cover in (0.0, 1.0):
            trees = one(mulch_cover=cover, surround="paved", basin_diameter_m=3.0)
            g = ground(trees, trees.ball_radius_m)
            _, moved = pass_day(trees, g, full(trees), Weather(6, 0, 25), np.zeros(1))
            lost.append(float(moved.evaporated_l[0]))
        self.assertAlmostEqual(lost[1] / lost[0], 0.5, delta=0.02)

    def test_mulch_beyond_the_roots_neither_feeds_nor_dries_the_ring(self):
        near, far = (one(basin_diameter_m=None, mulch_outer_radius_m=r) for r in (0.6, 6.0))
        radius = near.collar_radius_m
        self.assertAlmostEqual(
            float(ground(near, radius, 1.0).kept_area_m2[0]), float(ground(far, radius, 1.0).kept_area_m2[0])
        )

    def test_paving_lets_no_rain_through_and_turf_drinks_beside_the_tree(self):
        moved = {}
        for surround in SURROUNDS:
            trees = one(surround=surround, basin_diameter_m=None)
            g = ground(trees, trees.collar_radius_m + 0.4)
            state = replace(full(trees), root_radius_m=trees.collar_radius_m + 0.4)
            _, moved[surround] = pass_day(trees, g, state, Weather(6, 20, 25), np.zeros(1))
        self.assertLess(moved["paved"].rain_l[0], moved["bare"].rain_l[0])
        self.assertEqual(moved["turf"].rain_l[0], moved["bare"].rain_l[0])
        self.assertGreater(moved["turf"].evaporated_l[0], moved["bare"].evaporated_l[0])
        self.assertLess(moved["paved"].evaporated_l[0], moved["bare"].evaporated_l[0])


class ReadilyAvailableWater(unittest.TestCase):
    """[FAO56] ch. 8, example 36 (from memory): onion, tomato and maize on loamy sand, silt and silty clay [mm]."""

    SOILS = {"loamy_sand": 0.09, "silt": 0.17, "silty_clay": 0.12}
    CROPS = {(0.4, 0.30): (11, 20, 14), (0.8, 0.40): (29, 54, 38), (1.2, 0.55): (59, 112, 79)}

    def test_what_roots_can_readily_take(self):
        for (depth, p), printed in self.CROPS.items():
            for (texture, awc), raw in zip(self.SOILS.items(), printed, strict=True):
                trees = build([spec(soil=override(soil(texture), awc=awc), root_depth_max_m=depth)])
                self.assertAlmostEqual(p * float(trees.outside_taw_mm[0]), raw, delta=0.61)


if __name__ == "__main__":
    unittest.main()
