"""The daily balance: water closes, arrays equal single trees, and a day moves what the equations say."""

import unittest
from dataclasses import replace

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from june_shade.core.soil.textures import override, soil, textures
from june_shade.core.stock.plants import stock_sizes
from june_shade.core.water import balance, use
from june_shade.core.water.balance import drain, grow, pass_day, suction
from june_shade.core.water.ground import ground
from june_shade.core.water.stores import Reach, State, some
from june_shade.core.water.trees import SURROUNDS
from june_shade.core.water.use import demand_l, uptake_l
from june_shade.core.water.weather import Weather, effective_rain_mm
from tests.support import dried, full, of_specs, one, published, spec

CLOSES_TO_L = 1e-9


def stored_l(trees, g, state) -> np.ndarray:
    """Water in all stores above the wilting point [L]."""
    held = trees.ball_taw_l - state.ball_depletion_l + g.near_taw_l - state.near_depletion_l
    return held + g.far_taw_l - state.far_depletion_l


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
            ring_wetted_share=draw(st.one_of(st.none(), st.floats(0, 1))),
            depletion_fraction=draw(st.floats(0.2, 0.8)),
            root_depth_max_m=draw(st.floats(0.2, 1)),
        )
        for _ in range(draw(st.integers(1, 3)))
    ]
    days = [
        Weather(
            eto_mm=draw(st.floats(0, 12)),
            rain_mm=draw(st.one_of(st.just(0.0), st.floats(0, 120))),
            month_c=draw(st.floats(-15, 40)),
            five_days_c=draw(st.floats(-15, 40)),
            leaf=draw(st.floats(0, 1)),
            rain_share=draw(st.sampled_from([1.0, 1.0, 0.6, 0.0])),
            mulch_depth_share=draw(st.floats(0, 1)),
        )
        for _ in range(draw(st.integers(1, 8)))
    ]
    poured = draw(st.lists(st.floats(0, 150), min_size=len(days), max_size=len(days)))
    twice = draw(st.lists(st.booleans(), min_size=len(days), max_size=len(days)))
    spread = draw(st.floats(0, 1.2))
    return of_specs(*specs), spread, days, poured, twice


def opened(made, spread):
    """Full, with roots so far beyond the ball, never past the established radius."""
    trees, reach = made
    return full(trees, reach, np.minimum(trees.established_radius_m, trees.ball_radius_m + spread))


class Closes(unittest.TestCase):
    @settings(max_examples=150, deadline=None)
    @given(seasons())
    def test_no_water_is_made_or_lost(self, season):
        made, spread, days, poured, twice = season
        trees, reach = made
        state = opened(made, spread)
        before = ground(trees, reach, state.root_radius_m)
        for weather, litres, second in zip(days, poured, twice, strict=True):
            held = stored_l(trees, before, state)
            state, g, joined = grow(trees, reach, state, weather)
            first = np.full(len(trees), litres)
            extra = first / 2 if second else None
            state, moved = pass_day(trees, g, state, weather, first, extra)
            flows_in = joined + moved.net_l * (g.share + g.near_lands) + moved.rain_l
            flows_out = moved.drained_l + moved.transpired_l + moved.evaporated_l
            change = stored_l(trees, g, state) - held
            np.testing.assert_allclose(change, flows_in - flows_out, rtol=0, atol=CLOSES_TO_L)
            np.testing.assert_allclose(moved.outside_l, moved.net_l * g.beyond)
            for name in ("net_l", "rain_l", "drained_l", "transpired_l", "evaporated_l", "outside_l"):
                self.assertTrue(np.all(getattr(moved, name) >= 0), name)
            self.assertTrue(np.all((moved.ks >= 0) & (moved.ks <= 1 + 1e-12)))
            for depletion, taw, space in (
                (state.ball_depletion_l, trees.ball_taw_l, trees.ball_space_l),
                (state.near_depletion_l, g.near_taw_l, g.near_space_l),
                (state.far_depletion_l, g.far_taw_l, g.far_space_l),
            ):
                self.assertTrue(np.all(depletion <= taw + CLOSES_TO_L))
                self.assertTrue(np.all(-depletion <= space + CLOSES_TO_L))
            before = g

    @settings(max_examples=40, deadline=None)
    @given(seasons())
    def test_arrays_equal_single_trees(self, season):
        (trees, reach), spread, days, poured, _ = season
        together = self.run_all((trees, reach), spread, days, poured)
        for i in range(len(trees)):
            alone = some(trees, slice(i, i + 1)), some(reach, slice(i, i + 1))
            single = self.run_all(alone, spread, days, poured)
            for name in State.__dataclass_fields__:
                np.testing.assert_array_equal(getattr(single, name)[0], getattr(together, name)[i], name)

    @staticmethod
    def run_all(made, spread, days, poured):
        trees, reach = made
        state = opened(made, spread)
        for weather, litres in zip(days, poured, strict=True):
            state, g, _ = grow(trees, reach, state, weather)
            state, _ = pass_day(trees, g, state, weather, np.full(len(trees), litres))
        return state


class HowFarWaterReaches(unittest.TestCase):
    def test_a_circle_wets_ball_ring_and_what_lies_beyond_by_area(self):
        trees, reach = one(ball_share=None, basin_diameter_m=1.4)
        g = ground(trees, reach, trees.ball_radius_m + 0.2)
        circle, ball, ring = 0.7**2, float(trees.ball_radius_m[0]) ** 2, float(g.ring_radius_m[0]) ** 2
        self.assertAlmostEqual(float(g.share[0]), ball / circle)
        self.assertAlmostEqual(float(g.near_lands[0]), (ring - ball) / circle)
        self.assertAlmostEqual(float(g.beyond[0]), 1 - ring / circle)
        self.assertEqual(float(g.near_share[0]), 1.0)

    def test_past_the_circle_and_what_creeps_on_lies_the_far_ring(self):
        trees, reach = one(ball_share=None, basin_diameter_m=0.9)
        g = ground(trees, reach, trees.established_radius_m)
        ball, ring = float(trees.ball_radius_m[0]) ** 2, float(g.ring_radius_m[0]) ** 2
        self.assertAlmostEqual(float(g.near_share[0]), (0.55**2 - ball) / (ring - ball))
        whole = ground(trees, replace(reach, ring_share=np.ones(1)), trees.established_radius_m)
        self.assertAlmostEqual(float((g.near_volume_l + g.far_volume_l)[0]), float(whole.near_volume_l[0]))
        self.assertEqual(float(whole.far_volume_l[0]), 0.0)
        np.testing.assert_allclose(np.sum(g.uptake, axis=0), 1.0)

    def test_drip_reaches_what_its_circles_cover_as_far_as_roots_go(self):
        trees, _ = one()
        r_b, r_t = float(trees.ball_radius_m[0]), float(trees.established_radius_m[0])
        wetted = np.pi * np.linspace(r_b, r_t, 17)[:, None] ** 2  # a disc out to the established radius
        none = np.full(1, np.nan)
        drip = Reach(none, np.array([0.4]), none, np.zeros(1), wetted)
        for radius in (r_b + 0.15, r_b + 0.4, r_t):
            self.assertAlmostEqual(float(ground(trees, drip, np.array([radius])).near_share[0]), 1.0, delta=0.02)
        half = replace(drip, wetted_m2=np.minimum(wetted, np.pi * (r_b + 0.3) ** 2))
        shares = [float(ground(trees, half, np.array([r])).near_share[0]) for r in (r_b + 0.2, r_b + 0.5, r_t)]
        self.assertEqual(shares, sorted(shares, reverse=True))
        self.assertLess(shares[-1], 0.5)

    def test_soil_changes_sides_with_its_water_when_the_circle_does(self):
        trees, tight = one(ball_share=None, basin_diameter_m=0.7)
        _, wide = one(ball_share=None, basin_diameter_m=1.4)
        state, _ = dried(trees, tight, 0.1, 0.1, trees.established_radius_m)
        state = replace(state, far_depletion_l=0.6 * trees.soil_awc * state.far_volume_l)
        after, g, joined = grow(trees, wide, state, Weather(5, 0, 0, 0))
        self.assertEqual(float(joined[0]), 0.0)
        was, now = (float((s.near_depletion_l + s.far_depletion_l)[0]) for s in (state, after))
        self.assertAlmostEqual(was, now)
        self.assertAlmostEqual(float((after.far_depletion_l / g.far_taw_l)[0]), 0.6)
        self.assertTrue(0.1 < float((after.near_depletion_l / g.near_taw_l)[0]) < 0.6)


class Crossing(unittest.TestCase):
    def test_free_water_in_the_ring_soaks_into_a_dry_ball(self):
        trees, reach = one()
        state, g = dried(trees, reach, 0.5, 0.0)
        d_near = -0.8 * g.near_space_l
        ball, near, _, lost = drain(trees, g, state.ball_depletion_l, d_near, np.zeros(1))
        crossed = float((state.ball_depletion_l - ball)[0])
        self.assertAlmostEqual(crossed, min(float(state.ball_depletion_l[0]), 0.5 * -float(d_near[0])))
        self.assertAlmostEqual(float((near - d_near)[0]), crossed + float(lost[0]))

    def test_suction_goes_from_wet_to_dry_and_a_pots_mix_lets_little_through(self):
        moved = {}
        for label in ("2 in balled", "#15 container", "1 in bare root"):
            trees, reach = one(label=label)
            state, g = dried(trees, reach, 0.6, 0.1)
            ball, near, _ = suction(trees, g, state.ball_depletion_l, state.near_depletion_l, np.zeros(1))
            moved[label] = float((state.ball_depletion_l - ball)[0] / np.minimum(trees.ball_taw_l, g.near_taw_l)[0])
            self.assertAlmostEqual(float((ball + near)[0]), float((state.ball_depletion_l + state.near_depletion_l)[0]))
        self.assertTrue(0 < moved["#15 container"] < moved["2 in balled"] < moved["1 in bare root"])
        self.assertAlmostEqual(moved["2 in balled"], 0.12 * 0.5)


class AirAndCold(unittest.TestCase):
    def test_roots_in_water_drink_less_from_the_third_day_and_need_days_to_recover(self):
        days = np.zeros(1)
        air = []
        for soggy in [True] * 10 + [False] * 5:
            air.append(float(use.air_factor(days)[0]))
            days = use.counted_soggy_days(days, np.array([soggy]))
        np.testing.assert_allclose(air[:4], [1, 1, 1, 0.85])
        self.assertAlmostEqual(air[10], 0.2)
        self.assertTrue(air[10] < air[11] < air[12] < air[13])

    def test_cold_soil_drinks_little(self):
        found = use.cold_factor(np.array([-5.0, 0.0, 1.0, 5.0, 10.0, 25.0]))
        np.testing.assert_allclose(found, [0.1, 0.1, 0.1, 0.5, 1, 1])


class Uptake(unittest.TestCase):
    def test_eq_84_is_what_a_vanishing_demand_takes(self):
        """Within a day uptake follows Ks at every moment: at a tiny demand, Ks of the start."""
        for check in published("trade"):
            if check.quantity != "uptake_share":
                continue
            with self.subTest(check.source):
                i = check.inputs
                threshold, left = i["taw"] * (1 - i["p"]), i["taw"] - i["depletion"]
                taken = uptake_l(np.array([left]), np.array([threshold]), np.array([1e-6]))
                self.assertAlmostEqual(float(taken[0]) / 1e-6, check.expected, delta=check.tolerance)

    @given(st.floats(0, 40), st.floats(1, 40), st.floats(0, 60))
    def test_a_store_gives_no_more_than_it_has_nor_than_is_asked(self, available, taw, demand):
        available = min(available, taw)
        taken = float(uptake_l(np.array([available]), np.array([0.5 * taw]), np.array([demand]))[0])
        self.assertLessEqual(taken, min(available, demand) + 1e-12)
        self.assertGreaterEqual(taken, 0.0)

    def test_a_demand_next_to_nothing_takes_no_more_than_it_is(self):
        for demand in (0.0, 5e-324, 1e-310, 1e-300, 1e-12):
            taken = float(uptake_l(np.array([3.0]), np.array([5.0]), np.array([demand]))[0])
            self.assertLessEqual(taken, demand)

    @given(st.floats(1, 40), st.floats(0.1, 30))
    def test_it_is_the_integral_of_eq_84(self, taw, demand):
        """Against ten thousand small steps of Ks = A / a held to 1."""
        left = start = 0.7 * taw
        threshold = 0.5 * taw
        for _ in range(10_000):
            left -= demand * min(1.0, left / threshold) / 10_000
        taken = float(uptake_l(np.array([start]), np.array([threshold]), np.array([demand]))[0])
        self.assertAlmostEqual(taken, start - left, delta=1e-3 * start)

    def test_stores_that_drink_freely_make_up_for_a_dry_one(self):
        """[Jarvis89]: a third more at most, and never more in all than the tree wants."""
        wanted = np.array([[6.0], [3.0], [1.0]])
        free, dry = np.array([[50.0], [50.0], [50.0]]), np.array([[0.0], [50.0], [50.0]])
        threshold = np.full((3, 1), 5.0)
        np.testing.assert_allclose(use.drunk_l(free, threshold, wanted), wanted)
        taken = use.drunk_l(dry, threshold, wanted)
        np.testing.assert_allclose(taken, [[0.0], [4.0], [4.0 / 3.0]])
        short = use.drunk_l(np.array([[5.9], [50.0], [50.0]]), np.array([[6.5], [5.0], [5.0]]), wanted)
        self.assertLessEqual(float(np.sum(short)), 10.0 + 1e-12)

    def test_demand_is_the_landscape_form(self):
        seen = 0
        for check in published("trade"):
            if check.quantity != "demand":
                continue
            seen += 1
            i = check.inputs
            trees, reach = one(crown_diameter_m=i["crown_m"], plant_factor=i["factor"])
            found = demand_l(trees, ground(trees, reach, trees.ball_radius_m), Weather(i["eto_mm"], 0, 20, 20))
            self.assertAlmostEqual(float(found[0]), check.expected, delta=check.tolerance)
        self.assertEqual(seen, 2)

    def test_a_thrifty_species_is_thirsty_until_it_is_established(self):
        trees, reach = one(plant_factor=0.2, new_plant_factor=0.5)
        young = demand_l(trees, ground(trees, reach, trees.ball_radius_m), Weather(6.0, 0, 20, 20))
        old = demand_l(trees, ground(trees, reach, trees.established_radius_m), Weather(6.0, 0, 20, 20))
        self.assertAlmostEqual(float(young[0] / old[0]), 0.5 / 0.2)


class RootsAndRing(unittest.TestCase):
    def test_roots_grow_best_from_25_to_32_degrees_and_not_below_5_or_above_40(self):
        found = balance.growth_factor(np.array([-5.0, 5.0, 15.0, 25.0, 30.0, 32.0, 36.0, 40.0, 45.0]))
        np.testing.assert_allclose(found, [0, 0, 0.5**1.5, 1, 1, 1, 0.5, 0, 0])

    def test_thirst_and_standing_water_slow_them(self):
        trees, _reach = one()
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
        trees, reach = one()
        reach = float(trees.established_radius_m[0] - trees.ball_radius_m[0])
        self.assertAlmostEqual(reach / 2, 0.37, delta=0.005)
        warm_days = reach / 0.0045
        self.assertTrue(5 <= warm_days / 30.4 <= 6.5, "a 2 in tree takes about 6 months where it is always warm")

    def test_new_soil_joins_as_dry_as_it_lay_outside(self):
        for basin, joins in ((3.0, "near_depletion_l"), (0.7, "far_depletion_l")):
            trees, reach = one(ball_share=None, basin_diameter_m=basin)
            wide = full(trees, reach, trees.collar_radius_m + 0.2)
            wide = replace(wide, outside_depletion_mm=0.5 * trees.outside_taw_mm)
            before = ground(trees, reach, wide.root_radius_m)
            state, g, joined = grow(trees, reach, wide, Weather(5, 0, 28, 28))
            gained = float((g.near_taw_l + g.far_taw_l - before.near_taw_l - before.far_taw_l)[0])
            self.assertGreater(gained, 0)
            self.assertAlmostEqual(float(joined[0]), 0.5 * gained)
            self.assertAlmostEqual(float(getattr(state, joins)[0]), 0.5 * gained, delta=0.02 * gained)


class TooMuch(unittest.TestCase):
    def test_a_full_ring_in_clay_is_a_bathtub_for_the_ball(self):
        soggy = {}
        for texture in ("sand", "clay"):
            trees, reach = of_specs(spec(texture=texture, soil=soil(texture)))
            state, g = full(trees, reach), ground(trees, reach, trees.ball_radius_m)
            drowned = replace(state, ball_depletion_l=-trees.ball_space_l, near_depletion_l=-g.near_space_l)
            count = 0
            for _ in range(10):
                drowned, moved = pass_day(trees, g, drowned, Weather(2, 0, 20, 20), np.zeros(1))
                count += bool(moved.soggy[0])
            soggy[texture] = count
        self.assertGreater(soggy["clay"], soggy["sand"])

    def test_water_beyond_all_room_is_drained_the_same_day(self):
        trees, reach = one()
        state, g = full(trees, reach), ground(trees, reach, trees.ball_radius_m)
        _, moved = pass_day(trees, g, state, Weather(0, 0, 20, 20), np.array([5000.0]))
        self.assertGreater(float(moved.drained_l[0]), 5000 - float((trees.ball_space_l + g.near_space_l)[0]) - 1e-9)

    def test_one_day_of_two_waterings_moves_what_one_of_the_same_total_does_when_nothing_is_short(self):
        trees, reach = one(plant_factor=0.1)
        state, g = full(trees, reach), ground(trees, reach, trees.ball_radius_m)
        state = replace(state, near_depletion_l=0.2 * g.near_taw_l, ball_depletion_l=0.2 * trees.ball_taw_l)
        _, once = pass_day(trees, g, state, Weather(1, 0, 20, 20), np.array([1.0]))
        _, twice = pass_day(trees, g, state, Weather(1, 0, 20, 20), np.array([0.5]), np.array([0.5]))
        self.assertAlmostEqual(float(once.transpired_l[0]), float(twice.transpired_l[0]), places=9)
        self.assertAlmostEqual(float(once.net_l[0]), float(twice.net_l[0]))


class RainAndMulch(unittest.TestCase):
    def test_a_tenth_of_the_rain_is_lost_and_dry_mulch_takes_two_millimetres_once(self):
        self.assertAlmostEqual(float(effective_rain_mm(10.0, 1.0, 0.0, 0.0)), 9.0)
        self.assertAlmostEqual(float(effective_rain_mm(10.0, 1.0, 1.0, 0.0)), 7.0)
        self.assertAlmostEqual(float(effective_rain_mm(10.0, 1.0, 1.0, 1.0)), 9.0)
        self.assertEqual(float(effective_rain_mm(1.5, 1.0, 1.0, 0.0)), 0.0)
        self.assertAlmostEqual(float(effective_rain_mm(10.0, 0.6, 1.0, 0.0)), 4.2)

    def test_mulch_halves_the_evaporation_of_soil(self):
        check = next(c for c in published("trade") if c.quantity == "mulched_evaporation")
        bare = check.inputs["bare_mm"]
        ours = bare * (1 - use.MULCH_EVAPORATION_CUT * check.inputs["cover"])
        self.assertAlmostEqual(ours, check.expected, delta=check.tolerance)
        lost = []
        for cover in (0.0, 1.0):
            trees, reach = one(mulch_cover=cover, surround="paved", basin_diameter_m=3.0)
            g = ground(trees, reach, trees.ball_radius_m)
            _, moved = pass_day(trees, g, full(trees, reach), Weather(6, 0, 25, 25), np.zeros(1))
            lost.append(float(moved.evaporated_l[0]))
        self.assertAlmostEqual(lost[1] / lost[0], 0.5, delta=0.02)

    def test_mulch_beyond_the_roots_neither_feeds_nor_dries_the_ring(self):
        near, far = (one(basin_diameter_m=None, mulch_outer_radius_m=r) for r in (0.6, 6.0))
        radius = near[0].collar_radius_m
        kept = [float(np.sum(ground(*made, radius, 1.0).kept_m2)) for made in (near, far)]
        self.assertAlmostEqual(kept[0], kept[1])

    def test_paving_lets_no_rain_through_and_turf_drinks_beside_the_tree(self):
        moved = {}
        for surround in SURROUNDS:
            trees, reach = one(surround=surround, basin_diameter_m=None)
            state, g = dried(trees, reach, 0.2, 0.2, trees.collar_radius_m + 0.4)
            _, moved[surround] = pass_day(trees, g, state, Weather(6, 20, 25, 25), np.zeros(1))
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
                trees, _ = of_specs(spec(soil=override(soil(texture), awc=awc), root_depth_max_m=depth))
                self.assertAlmostEqual(p * float(trees.outside_taw_mm[0]), raw, delta=0.61)


if __name__ == "__main__":
    unittest.main()
