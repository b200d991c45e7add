"""How much: back to field capacity, the cap, and what a way of pouring can't do."""

import unittest
from dataclasses import replace

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from june_shade.core.water import amount
from june_shade.core.water.balance import Weather, ground, pass_day
from tests.support import full, one


def dried(trees, ball_share: float, ring_share: float):
    """The trees just planted, with these shares of both stores gone."""
    g = ground(trees, trees.ball_radius_m)
    state = replace(
        full(trees), ball_depletion_l=ball_share * trees.ball_taw_l, ring_depletion_l=ring_share * g.ring_taw_l
    )
    return state, g


class Refill(unittest.TestCase):
    def test_all_on_the_ball_has_no_cap(self):
        trees = one(ball_share=1.0)
        state, g = dried(trees, 0.5, 0.5)
        found = amount.refill(trees, g, state)
        self.assertAlmostEqual(float(found.net_l[0]), float((state.ball_depletion_l + state.ring_depletion_l)[0]))
        self.assertFalse(found.capped[0])

    def test_a_small_share_asks_for_more_than_is_missing(self):
        trees = one(ball_share=0.4)
        state, g = dried(trees, 0.5, 0.05)
        found = amount.refill(trees, g, state)
        self.assertAlmostEqual(float(found.wanted_l[0]), float(state.ball_depletion_l[0]) / 0.4)

    def test_the_cap_binds_where_the_ring_is_wet_and_the_ball_dry(self):
        trees = one(ball_share=0.2)
        state, g = dried(trees, 0.8, -0.1)
        found = amount.refill(trees, g, state)
        self.assertTrue(found.capped[0])
        self.assertLess(float(found.net_l[0]), float(found.wanted_l[0]))

    def test_water_standing_in_the_ring_counts_against_the_cap(self):
        trees = one(ball_share=0.2)
        caps = [
            float(amount.refill(trees, g, s).cap_l[0]) for s, g in (dried(trees, 0.8, 0.0), dried(trees, 0.8, -0.2))
        ]
        self.assertLess(caps[1], caps[0])

    def test_nothing_on_the_ball_fills_the_ring_and_says_so(self):
        trees = one(ball_share=0.0)
        state, g = dried(trees, 0.5, 0.3)
        found = amount.refill(trees, g, state)
        self.assertAlmostEqual(float(found.net_l[0]), float(state.ring_depletion_l[0]))
        self.assertTrue(found.capped[0])

    def test_a_full_tree_wants_nothing(self):
        trees = one()
        state, g = dried(trees, 0.0, 0.0)
        self.assertEqual(float(amount.refill(trees, g, state).net_l[0]), 0.0)
        wet, g = dried(trees, -0.2, -0.2)
        self.assertEqual(float(amount.refill(trees, g, wet).net_l[0]), 0.0)

    @settings(max_examples=100, deadline=None)
    @given(st.floats(0.05, 1.0), st.floats(0, 1), st.floats(0, 1))
    def test_it_never_asks_for_less_than_nothing_and_fills_what_it_says(self, share, ball, ring):
        trees = one(ball_share=share)
        state, g = dried(trees, ball, ring)
        found = amount.refill(trees, g, state)
        net = float(found.net_l[0])
        self.assertGreaterEqual(net, 0.0)
        if not found.capped[0]:
            after, _ = pass_day(trees, g, state, Weather(0.0, 0.0, 20.0), np.array([net]))
            self.assertLessEqual(float(after.ball_depletion_l[0]), 1e-9, "the ball is at field capacity")
        else:
            missing = float((state.ball_depletion_l + state.ring_depletion_l)[0])
            self.assertGreaterEqual(net, missing - 1e-9, "the cap never withholds what both stores together lack")


class Due(unittest.TestCase):
    def test_a_limit_reached_sooner_is_due_sooner(self):
        trees = one(dryness_limit=np.array(0.3))
        state, g = dried(trees, 0.35, 0.2)
        _, moved = pass_day(trees, g, state, Weather(2.0, 0.0, 20.0), np.zeros(1))
        self.assertTrue(amount.breaks(trees, moved)[0])
        patient = one(dryness_limit=0.8, ks_floor=0.1)
        self.assertFalse(amount.breaks(patient, moved)[0])

    def test_ready_is_half_the_limit(self):
        trees = one()
        for share, ready in ((0.24, False), (0.26, True)):
            state, g = dried(trees, share, share)
            self.assertEqual(bool(amount.is_ready(trees, g, state)[0]), ready)

    def test_one_watering_a_day_may_not_be_enough(self):
        hot, mild = Weather(14.0, 0.0, 35.0), Weather(1.0, 0.0, 15.0)
        trees = one(label="#15 container", crown_diameter_m=2.0, plant_factor=0.8)
        state, g = dried(trees, 0.0, 0.0)
        self.assertLess(float(amount.full_day(trees, g, state, hot).ks[0]), 0.9)
        self.assertGreaterEqual(float(amount.full_day(trees, g, state, mild).ks[0]), 0.9)

    def test_a_dry_ball_is_a_fault_only_while_the_tree_drinks_from_it(self):
        trees = one(ball_share=0.1)
        new = ground(trees, trees.ball_radius_m)
        old = ground(trees, trees.established_radius_m)
        self.assertTrue(amount.dry_ball_fault(new)[0])
        self.assertFalse(amount.dry_ball_fault(old)[0])
        well = one(ball_share=0.6)
        self.assertFalse(amount.dry_ball_fault(ground(well, well.ball_radius_m))[0])


if __name__ == "__main__":
    unittest.main()
