"""What suits a tree, what it brings, what it costs and in what order: by hand."""

import unittest

import numpy as np

from june_shade.core.errors import InputError
from june_shade.core.saving import measures, worth
from june_shade.core.saving.measures import Stands
from june_shade.core.saving.worth import Prices, Season


def named(**changed) -> dict[str, measures.Try]:
    tree = Stands(**({"method": "hose", "ball_radius_m": 0.3, "roots_m": 0.7, "basin_diameter_m": 1.0} | changed))
    return {one.measure: one for one in measures.tries(tree)}


class WhatSuits(unittest.TestCase):
    def test_a_basin_is_narrowed_to_the_ball_and_widened_to_the_roots(self):
        found = named()
        self.assertEqual(found["basin_narrow"].fields, {"basin_diameter_m": 0.6})
        self.assertEqual(found["basin_wide"].fields, {"basin_diameter_m": 1.4})
        self.assertEqual(named(basin_diameter_m=0.65).keys() & {"basin_narrow"}, set(), "no task for two inches")
        self.assertNotIn("basin_wide", named(roots_m=0.5))

    def test_what_stands_on_a_valve_gets_no_basin_bag_or_box(self):
        self.assertEqual(set(named(method="emitters")), set())
        self.assertEqual({"bag", "box"} & set(named(on_line=True)), set())
        self.assertLessEqual({"bag", "box"}, set(named(method="bucket")))

    def test_work_grows_with_what_is_to_be_done(self):
        less, more = (named(turf_m2=m2)["turf"].minutes for m2 in (1.0, 3.0))
        self.assertAlmostEqual(more, 3 * less)
        ring = {"mulch_depth_m": 0.075}
        self.assertAlmostEqual(named(ring=ring, ring_l=200.0)["mulch"].parts["mulch_m3"], 0.2)

    def test_only_open_water_poured_in_the_afternoon_is_better_at_dawn(self):
        self.assertIn("dawn", named(afternoons=True))
        self.assertNotIn("dawn", named())
        self.assertNotIn("dawn", named(method="bag", afternoons=True))


class WhatItBrings(unittest.TestCase):
    def test_litres_and_minutes_a_week_and_who_thirsts(self):
        one = Season(np.array([140.0, 140.0]), np.array([60.0, 60.0]), np.ones(2), np.ones(2), 14)
        then = Season(np.array([100.0, 60.0]), np.array([70.0, 20.0]), np.array([1.0, 0.9]), np.array([1.0, 0.4]), 14)
        found = worth.gains([one], [then])
        self.assertEqual(found.litres.tolist(), [[20.0, 40.0]])
        self.assertEqual(found.minutes.tolist(), [[-5.0, 20.0]])
        self.assertEqual(found.holds.tolist(), [True, False])

    def test_cost_and_days_until_it_has_paid(self):
        prices = Prices(hour=60.0, water_m3=5.0, parts={"bag": 20.0})
        spent = worth.cost(30.0, {"bag": 2.0}, prices)
        self.assertAlmostEqual(spent, 70.0)  # half an hour and two bags
        # 100 L a week at 5 a cubic metre is 0.5, half an hour a week is 30: 30.5 a week against 70
        self.assertAlmostEqual(worth.days_to_pay(100.0, 30.0, 30.0, spent, prices), 7 * 70 / 30.5)
        self.assertIsNone(worth.days_to_pay(10.0, -30.0, 30.0, spent, prices))
        self.assertIsNone(worth.cost(30.0, {"box": 1.0}, prices), "nobody priced a box")
        self.assertAlmostEqual(worth.days_to_pay(10.0, 15.0, 30.0, None, Prices()), 14.0)

    def ranked(self, spent, weekly=(0.0, 0.0, 0.0)):
        litres, minutes = (100.0, 90.0, 10.0), (10.0, 5.0, 0.0)
        return worth.rank([worth.Taken(*of, 30.0) for of in zip(litres, weekly, minutes, spent, strict=True)])

    def test_the_order_is_by_money_where_all_is_priced_and_by_minutes_else(self):
        self.assertEqual(self.ranked((5.0, 50.0, 1.0)), [0, 2, 1])
        self.assertEqual(self.ranked((5.0, None, 1.0)), [2, 1, 0])

    def test_more_work_every_week_is_what_a_change_takes_and_less_of_it_is_not_counted_twice(self):
        for spent in ((5.0, 50.0, 1.0), (None, None, None)):
            usual = self.ranked(spent)
            self.assertEqual(self.ranked(spent, (20.0, 20.0, 20.0)), usual)
            more = [0.0, 0.0, 0.0]
            more[usual[0]] = -60.0
            self.assertEqual(self.ranked(spent, more)[-1], usual[0])

    def test_a_price_that_is_none(self):
        for prices, named_ in (({"gold": 1.0}, "prices"), ({"bag": -1.0}, "prices.bag")):
            with self.assertRaises(InputError) as caught:
                measures.check_prices(prices)
            self.assertEqual(caught.exception.field, named_)


if __name__ == "__main__":
    unittest.main()
