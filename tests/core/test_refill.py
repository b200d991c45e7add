"""How much: back to field capacity, the cap, and what a way of pouring can't do."""

import unittest
from dataclasses import replace

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from june_shade.core.water import refill as amount
from june_shade.core.water.balance import pass_day
from june_shade.core.water.ground import ground
from june_shade.core.water.weather import Weather
from tests.support import dried, one

CALM = Weather(0.0, 0.0, 20.0, 20.0)


class Refill(unittest.TestCase):
    def test_all_on_the_ball_has_no_cap(self):
        trees, reach = one(ball_share=1.0)
        state, g = dried(trees, reach, 0.5, 0.5)
        found = amount.refill(g, state)
        self.assertAlmostEqual(float(found.net_l[0]), float((state.ball_depletion_l + state.near_depletion_l)[0]))
        self.assertFalse(found.capped[0])

    def test_a_small_share_asks_for_more_than_is_missing(self):
        trees, reach = one(ball_share=0.4)
        state, g = dried(trees, reach, 0.5, 0.05)
        found = amount.refill(g, state)
        ball, near = float(state.ball_depletion_l[0]), float(state.near_depletion_l[0])
        self.assertAlmostEqual(float(found.wanted_l[0]), (ball + 0.5 * near) / (0.4 + 0.5 * 0.6))
        self.assertGreater(float(found.wanted_l[0]), ball + near)

    def test_the_cap_binds_where_the_ring_is_wet_and_the_ball_dry(self):
        trees, reach = one(ball_share=0.2)
        state, g = dried(trees, reach, 0.8, -0.1)
        found = amount.refill(g, state)
        self.assertTrue(found.capped[0])
        self.assertLess(float(found.net_l[0]), float(found.wanted_l[0]))

    def test_water_standing_in_the_ring_counts_against_the_cap(self):
        trees, reach = one(ball_share=0.2)
        caps = [
            float(amount.refill(g, s).cap_l[0])
            for s, g in (dried(trees, reach, 0.8, 0.0), dried(trees, reach, 0.8, -0.2))
        ]
        self.assertLess(caps[1], caps[0])

    def test_nothing_on_the_ball_fills_the_ring_and_says_so(self):
        trees, reach = one(ball_share=0.0)
        state, g = dried(trees, reach, 0.5, 0.3)
        found = amount.refill(g, state)
        self.assertAlmostEqual(float(found.net_l[0]), float(state.near_depletion_l[0]))
        self.assertTrue(found.capped[0])

    def test_a_full_tree_wants_nothing(self):
        trees, reach = one()
        state, g = dried(trees, reach, 0.0, 0.0)
        self.assertEqual(float(amount.refill(g, state).net_l[0]), 0.0)
        wet, g = dried(trees, reach, -0.2, -0.2)
        self.assertEqual(float(amount.refill(g, wet).net_l[0]), 0.0)

    @settings(max_examples=100, deadline=None)
    @given(st.floats(0.05, 1.0), st.floats(0, 1), st.floats(0, 1))
    def test_it_never_asks_for_less_than_nothing_and_fills_what_it_says(self, share, ball, near):
        trees, reach = one(ball_share=share)
        state, g = dried(trees, reach, ball, near)
        found = amount.refill(g, state)
        net = float(found.net_l[0])
        self.assertGreaterEqual(net, 0.0)
        missing = float((state.ball_depletion_l + state.near_depletion_l)[0])
        self.assertGreaterEqual(net, missing - 1e-9, "it never withholds what both stores together lack")
        if not found.capped[0]:
            self.assertGreaterEqual(net * share + 0.5 * max(0.0, net * (1 - share)), 0.0)

    def test_poured_into_a_circle_each_store_gets_back_what_it_lacks(self):
        trees, reach = one(ball_share=None, basin_diameter_m=0.9)
        for ball, near in ((0.5, 0.1), (0.1, 0.5), (0.4, 0.4)):
            state, g = dried(trees, reach, ball, near)
            net = amount.refill(g, state).net_l
            after, _ = pass_day(trees, g, state, CALM, net)
            self.assertLessEqual(float(after.ball_depletion_l[0]), 1e-9, (ball, near))
            self.assertLessEqual(float(after.near_depletion_l[0]), 0.35 * float(trees.ball_taw_l[0]))

    def test_a_circle_past_the_roots_asks_for_what_is_lost_there_too(self):
        tight, wide = (one(ball_share=None, basin_diameter_m=d) for d in (0.9, 2.0))
        litres = []
        for trees, reach in (tight, wide):
            state, g = dried(trees, reach, 0.4, 0.4)
            litres.append(float(amount.refill(g, state).net_l[0]))
        self.assertGreater(litres[1], 2 * litres[0])

    def test_the_basin_that_wastes_nothing_takes_less(self):
        trees, reach = one(ball_share=None, basin_diameter_m=2.0)
        state, g = dried(trees, reach, 0.4, 0.4)
        across, litres = amount.narrowed(trees, reach, g, state, 0.0)
        self.assertTrue(amount.basin_wide(g)[0])
        self.assertAlmostEqual(float(across[0]), 2 * float(g.ring_radius_m[0]))
        self.assertLess(float(litres[0]), float(amount.refill(g, state).net_l[0]))
        other, within = one(ball_share=None, basin_diameter_m=float(across[0]))
        self.assertEqual(float(ground(other, within, state.root_radius_m).beyond[0]), 0.0)


class Due(unittest.TestCase):
    def test_a_limit_reached_sooner_is_due_sooner(self):
        trees, reach = one(dryness_limit=0.3)
        state, g = dried(trees, reach, 0.35, 0.2)
        _, moved = pass_day(trees, g, state, Weather(2.0, 0.0, 20.0, 20.0), np.zeros(1))
        self.assertTrue(amount.breaks(trees, moved)[0])
        patient, _ = one(dryness_limit=0.8, ks_floor=0.1)
        self.assertFalse(amount.breaks(patient, moved)[0])

    def test_ready_is_half_the_limit(self):
        trees, reach = one()
        for share, ready in ((0.24, False), (0.26, True)):
            state, g = dried(trees, reach, share, share)
            self.assertEqual(bool(amount.is_ready(trees, g, state)[0]), ready)

    def test_one_watering_a_day_may_not_be_enough(self):
        hot, mild = Weather(14.0, 0.0, 35.0, 35.0), Weather(1.0, 0.0, 15.0, 15.0)
        trees, reach = one(label="#15 container", crown_diameter_m=2.0, plant_factor=0.8)
        state, g = dried(trees, reach, 0.0, 0.0)
        self.assertLess(float(amount.full_day(trees, g, state, hot).ks[0]), 0.9)
        self.assertGreaterEqual(float(amount.full_day(trees, g, state, mild).ks[0]), 0.9)

    def test_only_what_a_visit_mends_is_due(self):
        """A grown tree whose small basin is full: more water there helps no root further out."""
        trees, reach = one(ball_share=None, basin_diameter_m=0.7)
        state, g = dried(trees, reach, 0.05, 0.05, trees.established_radius_m)
        state = replace(state, far_depletion_l=0.95 * g.far_taw_l)
        hot = Weather(9.0, 0.0, 30.0, 30.0)
        none = pass_day(trees, g, state, hot, np.zeros(1))[1]
        wet = pass_day(trees, g, state, hot, amount.refill(g, state).net_l)[1]
        self.assertTrue(amount.breaks(trees, none)[0])
        self.assertFalse(amount.mends(trees, none, wet)[0])
        full = amount.full_day(trees, g, state, hot)
        self.assertTrue(amount.roots_outgrown(trees, g, full)[0])
        self.assertFalse(amount.once_is_not_enough(trees, g, full)[0])

    def test_how_wide_to_pour_to_reach_the_roots(self):
        trees, reach = one(ball_share=None, basin_diameter_m=0.7)
        g = ground(trees, reach, trees.established_radius_m)
        self.assertLess(float(g.reach[0]), amount.OUTGROWN_REACH)
        wide = float(amount.width_reaching_m(g, trees)[0])
        other, within = one(ball_share=None, basin_diameter_m=wide)
        self.assertAlmostEqual(float(ground(other, within, trees.established_radius_m).reach[0]), amount.WANTED_REACH)

    def test_a_dry_ball_is_told_by_what_the_watering_leaves(self):
        """Off the ball of a young tree it is a fault, of an old one a custom."""
        for share, radius, fault in ((0.0, None, True), (0.6, None, False), (0.0, 1.04, False)):
            trees, reach = one(ball_share=share, root_depth_max_m=0.6)
            state, g = dried(trees, reach, 0.7, 0.4, radius)
            wet = pass_day(trees, g, state, CALM, amount.refill(g, state).net_l)[1]
            self.assertEqual(bool(amount.dry_ball(g, wet)[0]), fault, (share, radius))


if __name__ == "__main__":
    unittest.main()
