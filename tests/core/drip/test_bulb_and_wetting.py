"""Bulbs and what they wet: against the published form, closed forms for circles, and as relations."""

import math
import unittest

import numpy as np
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import box

from june_shade.core.errors import InputError
from june_shade.core.geometry import bulb, wetting
from tests.support import published

QUANTITIES = {
    "width_m": lambda litres, flow, ks: float(bulb.diameter_m(litres, flow, ks)),
    "depth_m": lambda litres, flow, ks: float(bulb.depth_m(litres, flow, ks)),
    "part_wetted": lambda n, width, across: _apart(int(n), width, across),
}


def _apart(n: int, width_m: float, across_m: float) -> float:
    """Wetted part of a root circle under n circles that don't meet, all inside it."""
    turn = 2 * np.pi * np.arange(n) / n
    x, y = 0.55 * np.cos(turn), 0.55 * np.sin(turn)
    zone = wetting.root_zone(across_m / 2, 1e-6)
    return wetting.wet(x, y, np.ones(n), np.full(n, width_m), 0.3, zone).fraction


class Published(unittest.TestCase):
    def test_published_values(self):
        seen = set()
        for check in published("drip"):
            if check.quantity in QUANTITIES:
                seen.add(check.quantity)
                with self.subTest(check.source):
                    self.assertAlmostEqual(
                        QUANTITIES[check.quantity](**check.inputs), check.expected, delta=check.tolerance
                    )
        self.assertEqual(seen, set(QUANTITIES))

    def test_the_two_printed_forms_agree(self):
        # Schwartzman and Zur in pure SI: w = 1.82 V^0.22 (Ks/q)^-0.17, z = 2.54 V^0.63 (Ks/q)^0.45
        litres, flow, ks = 14.0, 2.0, 26.0
        ratio = (ks / 3.6e6) / (flow / 3.6e6)  # m/s over m3/s
        width, depth = 1.82 * 0.014**0.22 * ratio**-0.17, 2.54 * 0.014**0.63 * ratio**0.45
        self.assertAlmostEqual(bulb.diameter_m(litres, flow, ks), width, delta=0.02 * width)
        self.assertAlmostEqual(bulb.depth_m(litres, flow, ks), depth, delta=0.02 * depth)

    def test_loam_is_a_bulb_and_clay_a_pond(self):
        wide, deep = bulb.diameter_m(8.0, 2.0, 0.6), bulb.depth_m(8.0, 2.0, 0.6)
        self.assertTrue(bulb.is_shallow(wide, deep))
        self.assertFalse(bulb.is_shallow(bulb.diameter_m(8.0, 2.0, 13.2), bulb.depth_m(8.0, 2.0, 13.2)))


class Proof(unittest.TestCase):
    def test_a_measured_depth_gives_back_the_soil_that_makes_it(self):
        for ks in (0.6, 4.3, 13.2, 61.0, 210.0):
            deep = float(bulb.depth_m(4.0 * 1.5, 4.0, ks))
            self.assertAlmostEqual(bulb.proven_conductivity_mm_h(deep, 90.0, 4.0), ks, delta=1e-6 * ks)

    def test_deeper_than_thought_means_narrower(self):
        thought = bulb.ground_mm_h(13.2)
        proven = bulb.proven_conductivity_mm_h(1.4 * float(bulb.depth_m(6.0, 4.0, thought)), 90.0, 4.0)
        self.assertGreater(proven, thought)
        self.assertLess(bulb.diameter_m(6.0, 4.0, proven), bulb.diameter_m(6.0, 4.0, thought))

    def test_minutes_to_a_depth_wet_that_depth(self):
        minutes = bulb.minutes_to_depth(0.4, 4.0, 13.2)
        self.assertAlmostEqual(float(bulb.depth_m(4.0 * minutes / 60, 4.0, 13.2)), 0.4, places=9)

    def test_a_depth_that_no_soil_gives_is_refused_with_what_could_be(self):
        with self.assertRaises(InputError) as caught:
            bulb.proven_conductivity_mm_h(3.0, 60.0, 2.0)
        self.assertEqual(caught.exception.field, "depth_m")
        for name, values in (
            ("minutes", (0.3, 0.0, 4.0)),
            ("flow_l_per_h", (0.3, 60.0, 0.0)),
            ("depth_m", (0.0, 60.0, 4.0)),
        ):
            with self.assertRaises(InputError) as caught:
                bulb.proven_conductivity_mm_h(*values)
            self.assertEqual(caught.exception.field, name)

    def test_on_bark_mix_water_goes_down_as_in_sand_and_beside_it_as_in_the_soil(self):
        found = bulb.conductivity_at([0.1, 0.5], 0.22, "container", 13.2, proven_mm_h=20.0)
        np.testing.assert_allclose(found, [210.0, 20.0])
        np.testing.assert_allclose(bulb.conductivity_at([0.1, 0.5], 0.22, "balled", 0.6), [2.0, 2.0])


radii = st.floats(0.05, 1.5)


class Circles(unittest.TestCase):
    def test_two_circles_meet_in_the_lens_of_the_textbook(self):
        self.assertAlmostEqual(float(wetting.circle_overlap_m2(1, 1, 1)), 2 * math.pi / 3 - math.sqrt(3) / 2)
        self.assertEqual(float(wetting.circle_overlap_m2(1, 0.4, 1.4)), 0.0)
        self.assertAlmostEqual(float(wetting.circle_overlap_m2(1, 0.4, 0.5)), math.pi * 0.16)

    @given(radii, radii, st.floats(0.0, 3.0))
    def test_the_closed_form_and_the_polygons_agree(self, a, b, distance):
        drawn = wetting.disc(0, 0, a).intersection(wetting.disc(distance, 0, b)).area
        self.assertAlmostEqual(float(wetting.circle_overlap_m2(a, b, distance)), drawn, delta=2e-3 * max(a, b) ** 2)

    def test_a_drawn_circle_is_within_a_thousandth(self):
        self.assertAlmostEqual(wetting.disc(0, 0, 1).area, math.pi, delta=0.001 * math.pi)


def _ring(n: int, rho: float, turn: float = 0.0):
    angle = turn + 2 * np.pi * np.arange(n) / n
    return rho * np.cos(angle), rho * np.sin(angle)


class Wetting(unittest.TestCase):
    ZONE = wetting.root_zone(0.9, 0.15)

    def wet(self, x, y, width=0.5, flow=None, ball=0.3, zone=None):
        flow = np.ones(len(x)) if flow is None else np.asarray(flow)
        return wetting.wet(x, y, flow, np.full(len(x), width), ball, self.ZONE if zone is None else zone)

    def test_one_circle_on_a_bigger_ball_gives_it_everything(self):
        self.assertEqual(wetting.ball_share([0.05], [0.0], [4.0], [0.3], 0.3), 1.0)
        self.assertEqual(wetting.ball_share([0.9], [0.0], [4.0], [0.3], 0.3), 0.0)

    def test_the_share_goes_by_flow(self):
        even = wetting.ball_share([0.0, 2.0], [0, 0], [2.0, 2.0], [0.3, 0.3], 0.3)
        more = wetting.ball_share([0.0, 2.0], [0, 0], [6.0, 2.0], [0.3, 0.3], 0.3)
        self.assertAlmostEqual(even, 0.5)
        self.assertAlmostEqual(more, 0.75)

    def test_paving_takes_its_ground_out_of_the_zone_and_of_what_is_wet(self):
        half = wetting.root_zone(0.9, 0.15, [box(0, -5, 5, 5)])
        x, y = _ring(8, 0.5)
        self.assertAlmostEqual(half.area, self.ZONE.area / 2, places=6)
        self.assertAlmostEqual(self.wet(x, y, zone=half).fraction, self.wet(x, y).fraction, places=6)

    def test_an_obstacle_over_everything_leaves_no_number(self):
        nothing = wetting.root_zone(0.9, 0.15, [box(-5, -5, 5, 5)])
        self.assertTrue(math.isnan(self.wet(*_ring(4, 0.5), zone=nothing).fraction))

    @given(st.integers(1, 9), st.floats(0.0, 1.2), st.floats(0.1, 1.2), st.floats(0.05, 0.6))
    def test_shares_lie_between_nothing_and_all(self, n, rho, width, ball):
        found = self.wet(*_ring(n, rho), width=width, ball=ball)
        self.assertTrue(0 <= found.ball_share <= 1 and 0 <= found.fraction <= 1)

    @given(st.lists(st.tuples(st.floats(-1, 1), st.floats(-1, 1)), min_size=2, max_size=7), st.floats(0.1, 1.0))
    def test_more_emitters_never_wet_less(self, places, width):
        x, y = np.array(places).T
        fewer, all_ = self.wet(x[:-1], y[:-1], width=width), self.wet(x, y, width=width)
        self.assertGreaterEqual(all_.fraction, fewer.fraction - 1e-9)
        self.assertGreaterEqual(all_.union_m2, fewer.union_m2 - 1e-9)

    @given(st.lists(st.tuples(st.floats(-1, 1), st.floats(-1, 1)), min_size=1, max_size=6), st.floats(0.2, 0.8))
    def test_a_mirrored_layout_has_mirrored_figures(self, places, width):
        x, y = np.array(places).T
        wall = box(0.4, -3, 3, 3)
        mirrored = shapely.affinity.scale(wall, -1, 1, origin=(0, 0))
        one = self.wet(x, y, width=width, zone=wetting.root_zone(0.9, 0.15, [wall]))
        other = self.wet(-x, y, width=width, zone=wetting.root_zone(0.9, 0.15, [mirrored]))
        self.assertAlmostEqual(one.ball_share, other.ball_share, places=9)
        self.assertAlmostEqual(one.fraction, other.fraction, places=6)

    def test_the_dry_circle_is_half_a_small_ball_and_never_under_the_trunk(self):
        self.assertEqual(wetting.dry_radius_m(0.05, 0.2), 0.1)
        self.assertEqual(wetting.dry_radius_m(0.05, 0.6), 0.15)
        self.assertEqual(wetting.dry_radius_m(0.5, 0.6), 0.25)


if __name__ == "__main__":
    unittest.main()
