"""Which layout is chosen over two years: least harm, then what it misses, then work, then water; minutes by hand."""

import unittest
from dataclasses import replace

from june_shade.core.drip import years
from june_shade.core.drip.parts import Part
from june_shade.core.drip.years import TwoYears

ONE = TwoYears(dry_days=10, wet_days=0, waterings=50, litres=2000, run_h=40, lay_min=30, stand_min=100, moves=0)


class Chosen(unittest.TestCase):
    def test_harm_comes_first_then_what_is_missed_then_work_then_water(self):
        cheap = replace(ONE, lay_min=1, stand_min=1, litres=1)
        for found, missed, wins in (
            ((replace(cheap, dry_days=20), ONE), (0, 3), 1),
            ((replace(cheap, wet_days=20), ONE), (0, 3), 1),
            ((cheap, ONE), (2, 1), 1),
            ((ONE, replace(ONE, stand_min=50)), (1, 1), 1),
            ((ONE, replace(ONE, litres=1500)), (1, 1), 1),
        ):
            self.assertEqual(years.chosen(found, missed), wins, (found, missed))

    def test_a_day_or_two_of_thirst_is_no_difference(self):
        self.assertEqual(years.chosen((ONE, replace(ONE, dry_days=12, lay_min=1)), (0, 0)), 1)
        self.assertEqual(years.chosen((ONE, replace(ONE, dry_days=13, lay_min=1)), (0, 0)), 0)

    def test_minutes_to_lay_by_hand(self):
        """Six emitters of a minute, 4 m of tube, one tee and one closure of two, four pins of a quarter: 15 min."""
        bought = [Part("emitter", 4.0, 6), Part("tube", 13.6, length_m=4.0), Part("tee", count=1),
                  Part("closure", count=1), Part("pin", count=4)]  # fmt: skip
        self.assertAlmostEqual(years.lay_min(bought), 15.0)


if __name__ == "__main__":
    unittest.main()
