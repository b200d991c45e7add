"""The soil a plan goes by: tests laid over the table, texture classes beside an independent library, bad readings."""

import random
import unittest
from datetime import date, timedelta

import pedotri
from hypothesis import given
from hypothesis import strategies as st

from june_shade.core.errors import InputError
from june_shade.core.soil import by_hand, field_tests, triangle
from june_shade.core.soil.in_force import KINDS, SoilTest, in_force, outcome
from june_shade.core.soil.textures import soil, textures

DAY = date(2026, 5, 4)
READINGS = {
    "crumble": {"found": "sticky"},
    "clump": {"found": "holds"},
    "jar": {"sand_top_m": 0.04, "silt_top_m": 0.08, "clay_top_m": 0.10},
    "ribbon": {"ribbon": "medium", "pinch": "gritty"},
    "percentages": {"sand_percent": 40.0, "silt_percent": 40.0, "clay_percent": 20.0, "organic_percent": 2.5},
    "drain_hole": {"first_depth_m": 0.30, "last_depth_m": 0.29, "minutes": 60.0, "across_m": 0.30},
    "infiltration": {"fallen_m": 0.012, "minutes": 60.0},
    "hardpan": {"depth_m": 0.35},
}


def taken(kind, days=0, **changed):
    return SoilTest(kind, DAY + timedelta(days=days), READINGS[kind] | changed)


class BesideALibrary(unittest.TestCase):
    """Classes of pedotri, a public library, wherever the point lies over 1 % away from an edge of its diagram."""

    def test_texture_classes(self):
        rng = random.Random(7)
        compared = set()
        for _ in range(1500):
            sand = rng.uniform(0, 100)
            clay = rng.uniform(0, 100 - sand)
            theirs = pedotri.classify(sand=sand, clay=clay, classification="USDA", detailed=True)
            if theirs.distance is None or theirs.distance < 1:
                continue
            compared.add(theirs.key)
            self.assertEqual(triangle.texture(sand, 100 - sand - clay, clay), theirs.key.replace(" ", "_"))
        self.assertEqual(len(compared), 12)


class ByHand(unittest.TestCase):
    # Thien 1979, the flow diagram (from memory)
    FLOW = {
        ("no_ball", "gritty"): "sand", ("no_ribbon", "neither"): "loamy_sand", ("short", "gritty"): "sandy_loam",
        ("short", "smooth"): "silt_loam", ("short", "neither"): "loam", ("medium", "gritty"): "sandy_clay_loam",
        ("medium", "smooth"): "silty_clay_loam", ("medium", "neither"): "clay_loam", ("long", "gritty"): "sandy_clay",
        ("long", "smooth"): "silty_clay", ("long", "neither"): "clay",
    }  # fmt: skip

    def test_texture_by_feel(self):
        for (length, pinch), wanted in self.FLOW.items():
            self.assertEqual(by_hand.ribbon(length, pinch), wanted)

    def test_a_longer_ribbon_never_takes_water_in_faster(self):
        for pinch in by_hand.PINCHES:
            intakes = [soil(by_hand.ribbon(length, pinch)).intake_mm_h for length in by_hand.RIBBONS]
            self.assertEqual(intakes, sorted(intakes, reverse=True))

    def test_sticky_ground_waits_and_dry_crumbs_after_heavy_rain_prove_nothing(self):
        self.assertTrue(by_hand.crumble("crumbles").today)
        for found, rain, code in (("sticky", 0, "wait"), ("crumbles", 25, "after_rain"), ("powder", 0, "moisten")):
            said = by_hand.crumble(found, rain)
            self.assertEqual((said.today, said.code), (False, code))

    def test_words_that_are_not_there(self):
        for act in (lambda: by_hand.crumble("soft"), lambda: by_hand.clump("x"), lambda: by_hand.ribbon("endless")):
            with self.assertRaises(InputError):
                act()


class Clocks(unittest.TestCase):
    def test_late_marks_are_doubted(self):
        self.assertEqual(field_tests.jar_doubts(60, 2, 36), ())
        self.assertEqual(field_tests.jar_doubts(600, 12, 20), ("sand_late", "silt_late", "clay_early"))
        self.assertEqual(field_tests.jar_doubts(None, 0.5, None), ("silt_early",))

    def test_layers_read_in_the_wrong_order(self):
        for times, field in (((7200, 1, 40), "silt_at"), ((60, 30, 2), "clay_at"), ((-5, 2, 40), "sand_at")):
            with self.assertRaises(InputError) as caught:
                field_tests.jar_doubts(*times)
            self.assertEqual(caught.exception.field, field)


class Laid(unittest.TestCase):
    def test_without_tests_the_table_counts(self):
        for texture in textures():
            found = in_force(texture, 0.6, [])
            self.assertEqual((found.soil, found.root_depth_max_m, found.origin), (soil(texture), 0.6, {}))

    @given(st.permutations([k for k in KINDS if k not in ("crumble", "clump")]), st.sampled_from(sorted(textures())))
    def test_a_measured_value_always_wins(self, order, texture):
        found = in_force(texture, 0.6, [taken(kind, days) for days, kind in enumerate(order)])
        self.assertAlmostEqual(found.soil.intake_mm_h, 12.0)
        self.assertEqual(found.root_depth_max_m, 0.35)
        hole = outcome("drain_hole", READINGS["drain_hole"])
        self.assertEqual(found.soil.conductivity_mm_h, hole.measured["conductivity_mm_h"])
        self.assertLessEqual(found.soil.drain_share, 0.15)
        self.assertEqual(found.origin["intake_mm_h"].kind, "infiltration")

    def test_of_two_the_newer_counts_whatever_the_order_of_typing(self):
        old, new = taken("infiltration", 0), taken("infiltration", 9, fallen_m=0.03)
        for order in ([old, new], [new, old]):
            self.assertAlmostEqual(in_force("loam", 0.6, order).soil.intake_mm_h, 30)

    def test_a_later_texture_forgets_what_the_earlier_one_computed(self):
        found = in_force("sand", 0.6, [taken("percentages", 0, packing="compacted"), taken("ribbon", 5)])
        self.assertEqual(found.soil, soil("sandy_clay_loam"))
        self.assertEqual(set(found.origin), {"texture"})

    def test_organic_matter_and_packing_are_computed_by_saxton_and_rawls(self):
        # [SR06] table 3, loam: wilting point 13.7 %, field capacity 28.0 %, conductivity 15.5 mm/h
        found = in_force("clay", 0.6, [taken("percentages")]).soil
        self.assertEqual(found.texture, "loam")
        self.assertAlmostEqual(found.wilting_point, 0.137, delta=0.0005)
        self.assertAlmostEqual(found.awc, 0.2796 - 0.137, delta=0.001)
        self.assertAlmostEqual(found.conductivity_mm_h, 15.5, delta=0.05)
        packed = in_force("clay", 0.6, [taken("percentages", packing="compacted")]).soil
        self.assertLess(packed.intake_mm_h, found.intake_mm_h)

    def test_a_hole_that_drains_well_lifts_an_older_cap(self):
        poor, good = taken("drain_hole"), taken("drain_hole", 9, last_depth_m=0.25)
        self.assertEqual(in_force("loam", 0.6, [poor]).soil.drain_share, 0.15)
        self.assertEqual(in_force("loam", 0.6, [poor, good]).soil.drain_share, soil("loam").drain_share)

    def test_the_hand_tells_a_day_not_the_soil(self):
        for kind in ("crumble", "clump"):
            self.assertFalse(outcome(kind, READINGS[kind]).changes_plans)
            self.assertEqual(in_force("loam", 0.6, [taken(kind)]).soil, soil("loam"))

    def test_packed_clay_stops_roots(self):
        said = outcome(
            "percentages", {"sand_percent": 25, "silt_percent": 20, "clay_percent": 55, "packing": "compacted"}
        )
        self.assertIn("roots_stopped", said.codes)


class BadReadings(unittest.TestCase):
    def test_each_is_refused_with_its_field(self):
        for kind, changed, field in (
            ("percentages", {"sand_percent": 60}, "sand_percent"), ("percentages", {"packing": "rocky"}, "packing"),
            ("percentages", {"sand_percent": 10, "silt_percent": 20, "clay_percent": 70}, "clay_percent"),
            ("jar", {"silt_top_m": 0.02}, "silt_top_m"), ("drain_hole", {"last_depth_m": 0.5}, "last_depth_m"),
            ("drain_hole", {"minutes": 0}, "minutes"), ("infiltration", {"minutes": 0}, "minutes"),
            ("infiltration", {"fallen_m": 0.3, "minutes": 1}, "fallen_m"), ("hardpan", {"depth_m": 0}, "depth_m"),
        ):  # fmt: skip
            with self.subTest(kind, changed=changed), self.assertRaises(InputError) as caught:
                outcome(kind, READINGS[kind] | changed)
            self.assertEqual(caught.exception.field, field)
        with self.assertRaises(InputError):
            outcome("taste", {})


if __name__ == "__main__":
    unittest.main()
