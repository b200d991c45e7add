"""The mulch ring: exact geometry, unions that count ground once, settling, wasting, looks, orders."""

import itertools
import math
import unittest
from datetime import date, timedelta

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import box

from june_shade.core.errors import InputError
from june_shade.core.mulch import lay, look, materials, order, ring, underlay, wasting
from june_shade.core.mulch.lay import RingChoice, Stand
from june_shade.core.mulch.spread import Rings, shares_l, spread
from june_shade.core.mulch.wasting import Reading
from tests.support import published


def tapered(bare_m, full_m, outer_m, depth_m):
    return ring.settled_volume_l(0.0, bare_m, outer_m, depth_m, taper_m=full_m - bare_m)


def by_cells(rings: Rings, depth_m: float, cells: int = 900) -> tuple[float, float]:
    """Area [m2] and volume [L] of rings by looking at every cell of a grid."""
    left, right = np.min(rings.x_m - rings.outer_radius_m), np.max(rings.x_m + rings.outer_radius_m)
    low, high = np.min(rings.y_m - rings.outer_radius_m), np.max(rings.y_m + rings.outer_radius_m)
    x, y = np.meshgrid(left + (np.arange(cells) + 0.5) / cells * (right - left),
                       low + (np.arange(cells) + 0.5) / cells * (high - low))  # fmt: skip
    deepest, most = np.zeros_like(x), np.full_like(x, np.inf)
    for i in range(len(rings)):
        away = np.hypot(x - rings.x_m[i], y - rings.y_m[i])
        bare = rings.bare_radius_m[i]
        slope = depth_m * np.clip((away - bare) / ring.TAPER_M, 0, 1)
        deepest = np.maximum(deepest, np.where(away <= rings.outer_radius_m[i], slope, 0))
        most = np.where(away < bare + ring.TAPER_M, np.minimum(most, slope), most)
    depth = np.minimum(deepest, most)
    cell = (right - left) * (high - low) / cells**2
    return float(np.sum(depth > 0) * cell), float(np.sum(depth) * cell * 1000)


class Published(unittest.TestCase):
    QUANTITIES = {
        "ring_flat": lambda outer_m, bare_m, depth_m: ring.settled_volume_l(0.0, bare_m, outer_m, depth_m, 1e-9),
        "ring_tapered": tapered,
        "loose_depth_mm": lambda target_mm, material: materials.loose_l(material, target_mm),
        "wasted_depth_mm": lambda loose_mm, settling, per_year, years: wasting.wasted_depth_m(
            loose_mm * (1 - settling), years, 1 / per_year
        ),
        "bag_cover_l": lambda settled_l, settling: materials.loose_l("wood_chips", settled_l),
        "sheets": lambda area_m2, width_m, length_m, overlap_m: (
            underlay.underlay("card", area_m2, 0.3, width_m, length_m, overlap_m).sheets
        ),
    }

    def test_published_values(self):
        seen = set()
        for one in published("trade"):
            if one.quantity in self.QUANTITIES:
                seen.add(one.quantity)
                with self.subTest(one.source):
                    found = float(self.QUANTITIES[one.quantity](**one.inputs))
                    self.assertAlmostEqual(found, one.expected, delta=one.tolerance)
        self.assertEqual(seen, set(self.QUANTITIES))


class Profile(unittest.TestCase):
    @given(st.floats(0.01, 0.15), st.floats(0.02, 0.2), st.floats(0.1, 2.0), st.floats(0.01, 0.15))
    def test_the_closed_form_is_the_integral_of_the_profile(self, trunk, gap, outer, depth):
        r0 = trunk / 2 + gap
        edges = np.linspace(0, outer, 20_001)
        r = (edges[1:] + edges[:-1]) / 2
        profile = ring.depth_at_m(r, r0, outer, depth)
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

    def test_depths_lie_in_the_ranges_of_the_trade(self):
        # common practice: 5 to 7.5 cm where drainage is slow, 7.5 to 10 on sand and in heat, 10 the ceiling
        self.assertTrue(0.05 <= ring.target_depth_m("slow") <= 0.075)
        self.assertTrue(0.075 <= ring.target_depth_m("free") <= 0.10)
        self.assertTrue(0.075 <= ring.target_depth_m("usual", microclimate=1.4) <= 0.10)
        self.assertEqual(ring.target_depth_m("usual"), 0.075)

    def test_measures_keep_within_the_standard(self):
        # ANSI A300 part 6 (2012, from memory): 50 to 100 mm of mulch, 50 to 150 mm off the trunk
        for drains in ("slow", "usual", "free"):
            self.assertTrue(0.05 <= ring.target_depth_m(drains) <= 0.10)
        self.assertTrue(0.05 <= ring.CLEAR_GAP_M <= 0.15)
        self.assertEqual(ring.DEEPEST_M, 0.10)

    def test_a_new_ball_lies_thin_for_a_year(self):
        self.assertEqual(ring.thin_radius_m("balled", 0.3, 364), 0.3)
        self.assertEqual(ring.thin_radius_m("balled", 0.3, 365), 0.0)
        self.assertEqual(ring.thin_radius_m("bare_root", 0.3, 1), 0.0)
        over = float(ring.depth_at_m(0.29, 0.1, 0.9, 0.09, thin_radius_m=0.3))
        self.assertEqual((over, float(ring.depth_at_m(0.31, 0.1, 0.9, 0.09, thin_radius_m=0.3))), (0.05, 0.09))

    def test_what_is_wrong_with_measures(self):
        codes = lambda *given: [f.code for f in ring.findings(*given)]  # noqa: E731
        self.assertEqual(codes(0.075, 0.08, 0.9), [])
        self.assertEqual(codes(0.03, 0.08, 0.9), ["too_shallow"])
        self.assertEqual(codes(0.12, 0.02, 0.3), ["gap_small", "ring_small", "too_deep"])


class Union(unittest.TestCase):
    def test_one_ring_is_its_closed_form(self):
        for trunk, outer, gap in ((0.06, 0.9, 0.08), (0.05, 0.2, 0.08), (0.0, 0.6, 0.0), (0.1, 0.12, 0.02)):
            made = spread(Rings.of(0, 0, trunk, outer, gap), 0.075)
            self.assertAlmostEqual(made.settled_l, float(ring.settled_volume_l(trunk, gap, outer, 0.075)), places=4)
            bare = trunk / 2 + gap
            self.assertAlmostEqual(made.area_m2, math.pi * (outer**2 - bare**2), places=6)

    def test_rings_that_overlap_are_the_sum_over_cells(self):
        for x, y, trunk, outer, gap in (
            ([0, 1.2], [0, 0], [0.06, 0.06], [0.9, 0.9], [0.08, 0.08]),
            ([0, 0.3, 0.5], [0, 0.1, -0.2], [0.06, 0.1, 0.05], [0.9, 0.25, 0.5], [0.08, 0.05, 0.0]),
            ([0, 0.25], [0, 0], [0.06, 0.06], [0.6, 0.6], [0.08, 0.08]),
        ):
            rings = Rings.of(x, y, trunk, outer, gap)
            made, (area, litres) = spread(rings, 0.075), by_cells(rings, 0.075)
            self.assertAlmostEqual(made.settled_l / litres, 1, delta=0.002)
            self.assertAlmostEqual(made.area_m2 / area, 1, delta=0.003)

    @settings(max_examples=60, deadline=None)
    @given(st.lists(st.tuples(st.floats(-2, 2), st.floats(-2, 2), st.floats(0.3, 1.2)), min_size=1, max_size=6))
    def test_a_union_is_never_more_than_the_sum_nor_less_than_what_each_keeps(self, trees):
        x, y, outer = np.array(trees).T
        rings = Rings.of(x, y, 0.06, outer, 0.08)
        made = spread(rings, 0.075)
        alone = ring.settled_volume_l(0.06, 0.08, outer, 0.075)
        self.assertLessEqual(made.settled_l, float(np.sum(alone)) + 1e-6)
        self.assertLessEqual(made.settled_l, 1000 * made.area_m2 * 0.075 + 1e-6)
        self.assertAlmostEqual(float(np.sum(shares_l(rings, 0.075, made.settled_l))), made.settled_l, places=6)

    def test_far_apart_is_the_sum_and_turned_round_is_the_same(self):
        apart = spread(Rings.of([0, 10], [0, 0], 0.06, [0.9, 0.5], 0.08), 0.075)
        self.assertAlmostEqual(
            apart.settled_l, float(np.sum(ring.settled_volume_l(0.06, 0.08, np.array([0.9, 0.5]), 0.075))), places=4
        )
        one = spread(Rings.of([0, 0.8], [0, 0.3], 0.06, [0.9, 0.6], 0.08), 0.075)
        other = spread(Rings.of([0, -0.8], [0, -0.3], 0.06, [0.9, 0.6], 0.08), 0.075)
        self.assertAlmostEqual(one.settled_l, other.settled_l, places=4)

    def test_paving_takes_what_it_covers(self):
        rings = Rings.of(0, 0, 0.06, 0.9, 0.08)
        whole = spread(rings, 0.075)
        half = spread(rings, 0.075, obstacles=[box(0, -2, 2, 2)])
        self.assertAlmostEqual(half.settled_l, whole.settled_l / 2, places=3)
        self.assertAlmostEqual(half.area_m2, whole.area_m2 / 2, places=5)
        own = spread(Rings.of([0, 1.0], [0, 0], 0.06, 0.6, 0.08), 0.075, own=[box(0.3, -2, 3, 2), None])
        every = spread(Rings.of([0, 1.0], [0, 0], 0.06, 0.6, 0.08), 0.075, obstacles=[box(0.3, -2, 3, 2)])
        self.assertGreater(own.settled_l, every.settled_l)

    def test_a_thin_middle_takes_less(self):
        whole = spread(Rings.of(0, 0, 0.06, 0.9, 0.08), 0.09).settled_l
        thin = spread(Rings.of(0, 0, 0.06, 0.9, 0.08, 0.3), 0.09).settled_l
        edges = np.linspace(0, 0.9, 90_001)
        r = (edges[1:] + edges[:-1]) / 2
        depth = ring.depth_at_m(r, 0.11, 0.9, 0.09, thin_radius_m=0.3)
        self.assertAlmostEqual(thin, 1000 * float(np.sum(2 * np.pi * r * depth * np.diff(edges))), delta=0.01)
        self.assertLess(thin, whole)


USUAL = RingChoice("wood_chips", 0.075, 0.9, 0.08)


class Laying(unittest.TestCase):
    def test_loose_mulch_settles_to_what_is_missing(self):
        bare = lay.lay(USUAL, Stand(0.05, 0.3))
        self.assertAlmostEqual(bare.missing_settled_l, bare.full_settled_l)
        self.assertAlmostEqual(materials.settled_l("wood_chips", bare.missing_loose_l), bare.missing_settled_l)
        self.assertAlmostEqual(bare.working[-1].value, bare.missing_loose_l)
        for step in bare.working:
            self.assertTrue(step.formula and step.source and step.unit)

    def test_depth_that_is_there_is_credited_side_by_side(self):
        even = lay.lay(USUAL, Stand(0.05, 0.3, depths_m=(0.05,)))
        heaped = lay.lay(USUAL, Stand(0.05, 0.3, depths_m=(0.20, 0.0, 0.0, 0.0)))  # the same mean, all to one side
        self.assertAlmostEqual(even.missing_settled_l, even.full_settled_l / 3)
        self.assertAlmostEqual(heaped.missing_settled_l, heaped.full_settled_l * 3 / 4)
        self.assertEqual(lay.lay(USUAL, Stand(0.05, 0.3, depths_m=(0.09,))).missing_loose_l, 0.0)

    def test_a_row_shares_what_is_common(self):
        stands = [Stand(0.05, 0.3, at=(1.0 * n, 0.0)) for n in range(4)]
        row = lay.lay_all([USUAL] * 4, stands)
        alone = lay.lay(USUAL, Stand(0.05, 0.3))
        self.assertTrue(all(one.shared and one.full_settled_l < alone.full_settled_l for one in row))
        rings = Rings.of([0, 1, 2, 3], 0, 0.05, 0.9, 0.08)
        self.assertAlmostEqual(sum(one.full_settled_l for one in row), spread(rings, 0.075).settled_l, places=4)

    def test_a_wall_is_told(self):
        cut = lay.lay(USUAL, Stand(0.05, 0.3, taken=box(0.5, -5, 5, 5)))
        self.assertTrue(cut.cut)
        self.assertIn("ring_cut", [f.code for f in cut.findings])
        self.assertLess(cut.full_settled_l, cut.alone_l)

    def test_card_leaves_the_ball_bare_and_a_skirt_does_not(self):
        card = RingChoice("wood_chips", 0.075, 0.9, 0.08, underlay="card")
        bare = lay.lay(card, Stand(0.05, 0.3)).underlay
        skirt = lay.lay(RingChoice("wood_chips", 0.075, 0.9, 0.08, underlay="card", over_ball=True), Stand(0.05, 0.3))
        self.assertAlmostEqual(bare.area_m2, math.pi * (0.9**2 - 0.3**2), delta=0.01)
        self.assertGreater(skirt.underlay.area_m2, bare.area_m2)
        self.assertAlmostEqual(bare.wetting_l, 2 * bare.area_m2)

    def test_what_can_not_be_laid_names_its_field(self):
        for choice, field in (
            (RingChoice("wood_chips", 0.11, 0.9, 0.08), "depth_m"),
            (RingChoice("wood_chips", 0.0, 0.9, 0.08), "depth_m"),
            (RingChoice("wood_chips", 0.075, 0.1, 0.08), "outer_radius_m"),
            (RingChoice("wood_chips", 0.075, 0.9, -0.01), "clear_gap_m"),
            (RingChoice("gold leaf", 0.075, 0.9, 0.08), "mulch.material"),
            (RingChoice("wood_chips", 0.075, 0.9, 0.08, compost_m=0.2), "compost_m"),
            (RingChoice("wood_chips", 0.075, 0.9, 0.08, underlay="card", sheet_w_m=0.1), "underlay.width_m"),
            (RingChoice("wood_chips", 0.075, 0.9, 0.08, underlay="tin"), "underlay.kind"),
        ):
            with self.subTest(choice), self.assertRaises(InputError) as caught:
                lay.lay(choice, Stand(0.05, 0.3))
            self.assertEqual(caught.exception.field, field)


class Wasting(unittest.TestCase):
    DAY = date(2026, 4, 1)

    def later(self, days):
        return self.DAY + timedelta(days=days)

    def test_gravel_does_not_waste(self):
        self.assertIsNone(materials.material("gravel").wasting_years)
        self.assertEqual(float(wasting.wasted_depth_m(0.075, 5.0, np.inf)), 0.075)
        self.assertIsNone(wasting.thin_on(0.06, self.DAY, None))
        self.assertEqual(wasting.thin_on(0.04, self.DAY, None), self.DAY)

    def test_half_is_gone_in_its_half_life(self):
        months = wasting.half_life_months(2.5)
        self.assertAlmostEqual(float(wasting.wasted_depth_m(0.08, months / 12, 2.5)), 0.04)
        self.assertIsNone(wasting.half_life_months(None))

    def test_the_day_it_is_thin_is_the_day_the_curve_says(self):
        when = wasting.thin_on(0.08, self.DAY, 2.5)
        years = (when - self.DAY).days / wasting.DAYS_A_YEAR
        self.assertAlmostEqual(float(wasting.wasted_depth_m(0.08, years, 2.5)), 0.05, delta=0.0002)

    def test_readings_correct_the_pace(self):
        # half gone in a year: T = 1 / ln 2 = 1.44 years; half a year of trust in the table pulls toward 2.5
        fast = wasting.own_years(2.5, [Reading(self.DAY, 0.10, True), Reading(self.later(365), 0.05, False)])
        self.assertTrue(1.44 < fast < 2.5)
        same = wasting.own_years(2.5, [Reading(self.DAY, 0.10, True),
                                       Reading(self.later(365), 0.10 * math.exp(-1 / 2.5), False)])  # fmt: skip
        self.assertAlmostEqual(same, 2.5, delta=0.01)
        self.assertEqual(wasting.own_years(2.5, [Reading(self.DAY, 0.10, True)]), 2.5)
        self.assertIsNone(wasting.own_years(None, []))

    def test_laying_between_readings_is_no_loss_and_days_apart_tell_nothing(self):
        topped = [Reading(self.DAY, 0.05, False), Reading(self.later(200), 0.09, True)]
        self.assertEqual(wasting.own_years(2.5, topped), 2.5)
        self.assertEqual(
            wasting.own_years(2.5, [Reading(self.DAY, 0.10, True), Reading(self.later(7), 0.05, False)]), 2.5
        )

    @given(st.floats(0.01, 0.3), st.floats(0.01, 0.3), st.integers(30, 2000))
    def test_a_pace_stays_within_reason(self, before, after, days):
        found = wasting.own_years(2.5, [Reading(self.DAY, before, True), Reading(self.later(days), after, False)])
        self.assertTrue(2.5 / 3 - 1e-9 <= found <= 7.5 + 1e-9)


class Looks(unittest.TestCase):
    def look(self, *depths, gap=0.08, flare=True, **changed):
        return look.judged(depths, gap, flare, 0.075, **changed)

    def test_each_verdict(self):
        for given_, verdict in (
            (self.look(0.07, 0.07, 0.07, 0.07), "fine"),
            (self.look(0.04, 0.04, 0.04, 0.04), "top_up"),
            (self.look(0.12, 0.09, 0.09, 0.09), "thin_out"),
            (self.look(0.07, 0.07, 0.07, 0.07, gap=0.0), "pull_back"),
            (self.look(0.07, 0.07, 0.07, 0.07, flare=False), "pull_back"),
            (self.look(0.20, 0.20, 0.20, 0.20, gap=0.0, years_planted=6), "in_stages"),
            (self.look(0.20, 0.20, 0.20, 0.20, gap=0.0, years_planted=1), "pull_back"),
            (self.look(0.07, 0.07, 0.07, 0.07, gap=0.0, roots_in_mulch=True), "in_stages"),
            (self.look(0.20, 0.20, 0.20, 0.20, gap=0.0, years_planted=6, roots_in_mulch=False), "pull_back"),
        ):
            self.assertEqual(given_.verdict, verdict)
            self.assertEqual(given_.urgent, verdict in ("pull_back", "in_stages"))

    def test_only_what_is_missing_is_added(self):
        found = self.look(0.02, 0.06, 0.02, 0.04)
        self.assertEqual([round(m, 6) for m in found.missing_m], [0.055, 0.015, 0.055, 0.035])
        self.assertEqual(self.look(0.07, 0.07, 0.07, 0.03).missing_m, (0.0,) * 4)
        self.assertIn("uneven", self.look(0.07, 0.07, 0.07, 0.03).also)

    def test_a_large_old_heap_is_an_arborists(self):
        self.assertIn("arborist", self.look(0.3, 0.3, 0.3, 0.3, gap=0.0, years_planted=9, caliper_m=0.3).also)

    @given(st.lists(st.floats(0, 0.6), min_size=4, max_size=4), st.floats(0.02, 0.10))
    def test_a_top_up_never_passes_the_ceiling_or_the_target(self, depths, target):
        found = look.judged(depths, 0.08, True, target)
        for there, more in zip(depths, found.missing_m, strict=True):
            self.assertLessEqual(there + more, max(there, target) + 1e-12)
            self.assertLessEqual(there + more, max(there, ring.DEEPEST_M) + 1e-12)

    def test_readings_that_can_not_be(self):
        for depths, gap, field in (
            ((0.05, 0.05, 0.05), 0.08, "depths_m"),
            ((0.05, -0.01, 0.05, 0.05), 0.08, "depths_m[1]"),
            ((0.05, 0.05, 0.05, 2.0), 0.08, "depths_m[3]"),
            ((0.05, 0.05, 0.05, 0.05), -0.1, "bark_gap_m"),
        ):
            with self.subTest(field), self.assertRaises(InputError) as caught:
                look.judged(depths, gap, True, 0.075)
            self.assertEqual(caught.exception.field, field)

    def test_stages_follow_each_other(self):
        days = look.stage_days(date(2026, 5, 1))
        self.assertEqual(days[0], date(2026, 5, 1))
        self.assertEqual(len({b - a for a, b in itertools.pairwise(days)}), 1)


class Orders(unittest.TestCase):
    def test_carriers_cover_the_order_without_one_to_spare(self):
        for litres in (1.0, 84.9, 85.0, 85.1, 1234.5):
            for name, count in order.carried(litres).items():
                self.assertGreaterEqual(count * order.CARRIED_L[name], litres - 1e-6)
                self.assertLess((count - 1) * order.CARRIED_L[name], litres)

    def test_what_lies_there_is_not_bought_again(self):
        made = order.order(1000, on_hand_l=300, truck_l=500)
        self.assertAlmostEqual(made.spare_l, 50)
        self.assertAlmostEqual(made.buy_l, 750)
        self.assertEqual(made.loads, 3)
        self.assertEqual(order.order(1000, on_hand_l=2000).buy_l, 0.0)
        self.assertEqual(order.order(0.0).buy_yards, 0.0)

    def test_bulk_is_bought_in_whole_steps(self):
        made = order.order(1000)
        self.assertGreaterEqual(made.buy_yards * order.LITRES_PER_CUBIC_YARD, made.buy_l)
        self.assertGreaterEqual(made.buy_m3 * 1000, made.buy_l)
        self.assertEqual((made.buy_yards * 4) % 1, 0)

    def test_a_truck_without_room_is_refused(self):
        with self.assertRaises(InputError) as caught:
            order.order(10, truck_l=0)
        self.assertEqual(caught.exception.field, "truck_l")

    def test_every_material_is_thought_of(self):
        self.assertEqual(set(materials.materials()), {s.name for s in materials.suitability() if s.verdict != "avoid"})
        for suits in materials.suitability():
            self.assertTrue(suits.reasons and suits.source)


if __name__ == "__main__":
    unittest.main()
