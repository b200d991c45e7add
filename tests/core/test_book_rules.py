"""The books' rules: volumes and calendars as published, and why the balance parts from them."""

import unittest
from dataclasses import replace

from june_shade.core.care import book_rules
from june_shade.core.units import LITRES_PER_US_GALLON, METRES_PER_INCH

TWO_INCHES = 2 * METRES_PER_INCH


class Rules(unittest.TestCase):
    def of(self, key, days, caliper_m=TWO_INCHES):
        return next(r for r in book_rules.rules(caliper_m, days) if r.key == key)

    def test_volumes_of_a_two_inch_tree(self):
        # 1.5 gal an inch: 11.36 L; 10 gal an inch: 75.71 L (University of Minnesota, Colorado State; from memory)
        self.assertAlmostEqual(self.of("umn", 0).litres_high, 11.36, delta=0.005)
        self.assertAlmostEqual(self.of("csu", 0).litres_low, 75.71, delta=0.005)
        self.assertAlmostEqual(self.of("uf", 0).litres_low, 4 * LITRES_PER_US_GALLON)

    def test_minnesota_goes_from_daily_to_weekly_in_twelve_weeks(self):
        self.assertEqual([self.of("umn", d).days_high for d in (0, 13, 14, 83, 84, 400)], [1, 1, 3, 3, 7, 7])
        # 14 to 21 gal a week in the first two weeks (from memory)
        first = self.of("umn", 0)
        self.assertAlmostEqual(first.weekly_low_l / LITRES_PER_US_GALLON, 14)
        self.assertAlmostEqual(first.weekly_high_l / LITRES_PER_US_GALLON, 21)

    def test_florida_waters_larger_trees_daily_for_longer(self):
        small, large = (self.of("uf", 20, inches * METRES_PER_INCH) for inches in (1.5, 3))
        self.assertEqual((small.days_low, large.days_low), (2, 1))
        huge = self.of("uf", 40, 5 * METRES_PER_INCH)
        self.assertEqual(huge.days_low, 1)


class Parting(unittest.TestCase):
    USUAL = book_rules.Week(
        weekly_l=60.0, waterings=3, eto_mm=5.0, microclimate=1.0, plant_factor=0.5, rain_l=0.0, uptake_from_ball=0.9,
        ball_takes_l=20.0, arrives=1.0, behind_l=0.0, saving=False, capped=False, shared=False, wide=False,
    )  # fmt: skip

    def why(self, weekly_l, **changed):
        week = replace(self.USUAL, weekly_l=weekly_l, **changed)
        return book_rules.parting(book_rules.rules(TWO_INCHES, 30), week)

    def test_among_them_there_is_nothing_to_explain(self):
        self.assertEqual(self.why(60.0), ())

    def test_less_than_all_of_them_has_its_reasons(self):
        # the least of the rules at 30 days is 2 gal every third day: 17.7 L a week
        self.assertEqual(self.why(8.0, eto_mm=2.0), ("cool",))
        self.assertEqual(self.why(8.0, microclimate=0.5), ("shade",))
        self.assertEqual(self.why(8.0, plant_factor=0.2), ("low_need",))
        self.assertEqual(self.why(8.0, rain_l=9.0), ("rain",))
        self.assertEqual(self.why(8.0, saving=True), ("saving",))
        self.assertEqual(self.why(8.0, ball_takes_l=3.0, capped=True), ("capped", "small_ball"))
        self.assertEqual(self.why(8.0, shared=True), ("shared",))
        self.assertEqual(self.why(8.0, limited=True, eto_mm=2.0), ("limited", "cool"))
        self.assertEqual(self.why(8.0), ("weather_soil_stock",))

    def test_a_reason_that_explains_next_to_nothing_is_not_given(self):
        self.assertEqual(self.why(8.0, eto_mm=4.9, rain_l=0.5), ("weather_soil_stock",))
        self.assertEqual(self.why(8.0, eto_mm=8.0), ("weather_soil_stock",), "heat is no reason for less")
        self.assertEqual(self.why(200.0, eto_mm=2.0, rain_l=40.0), ("weather_soil_stock",), "nor cool for more")

    def test_more_than_all_of_them_has_its_own(self):
        self.assertEqual(self.why(150.0, eto_mm=9.0), ("hot",))
        self.assertEqual(self.why(150.0, microclimate=1.4), ("hot_place",))
        self.assertEqual(self.why(150.0, plant_factor=0.8), ("high_need",))
        self.assertEqual(self.why(150.0, arrives=0.6), ("lost",))
        self.assertEqual(self.why(150.0, behind_l=60.0), ("behind",))
        self.assertEqual(self.why(150.0, wide=True), ("wide",))

    def test_more_than_all_of_them_is_a_tree_whose_roots_are_out(self):
        self.assertEqual(self.why(900.0, uptake_from_ball=0.2), ("roots_out",))
        self.assertEqual(self.why(900.0), ("weather_soil_stock",))
        daily_sips = self.why(150.0, waterings=14, uptake_from_ball=0.2)
        self.assertEqual(daily_sips, ("weather_soil_stock",), "it is not more at a time")


if __name__ == "__main__":
    unittest.main()
