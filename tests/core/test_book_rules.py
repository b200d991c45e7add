"""The books' rules: volumes and calendars as published, and why the balance parts from them."""

import unittest

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
    def why(self, weekly_l, **changed):
        values = {"eto_mm": 6.0, "rain_mm": 0.0, "uptake_from_ball": 0.9, "ball_takes_l": 20.0, "capped": False}
        return book_rules.parting(book_rules.rules(TWO_INCHES, 30), weekly_l, **(values | changed))

    def test_among_them_there_is_nothing_to_explain(self):
        self.assertEqual(self.why(60.0), ())

    def test_less_than_all_of_them_has_its_reasons(self):
        self.assertEqual(self.why(2.0, eto_mm=2.0), ("cool",))
        self.assertEqual(self.why(2.0, rain_mm=40.0), ("rain",))
        self.assertEqual(self.why(2.0, ball_takes_l=3.0, capped=True), ("capped", "small_ball"))
        self.assertEqual(self.why(2.0), ("weather_soil_stock",))

    def test_more_than_all_of_them_is_a_tree_whose_roots_are_out(self):
        self.assertEqual(self.why(900.0, uptake_from_ball=0.2), ("roots_out",))
        self.assertEqual(self.why(900.0), ("weather_soil_stock",))


if __name__ == "__main__":
    unittest.main()
