"""When a tree stands on its own: the dry spell that proves it, seasons of proofs, the ring it is watered on then."""

import math
import unittest
from datetime import date, timedelta

import numpy as np

from june_shade.core.looking import handover
from june_shade.core.looking.handover import PROOFS, missing, so_far_days, spell
from june_shade.core.water import reach, refill, routine
from june_shade.core.water.reach import Ball
from june_shade.core.water.schools import Routine
from june_shade.core.water.trees import build
from june_shade.core.water.weather import Weather
from tests.support import spec

LAST = date(2026, 7, 14)


def found(*, days=30, leaf=1.0, rain=(), water=()):
    """The spell of so many days; rain in mm and water in litres by days ago (0 = the last)."""
    wet, poured = np.zeros(days), np.zeros(days)
    for ago, mm in rain:
        wet[days - 1 - ago] = mm
    for ago, litres in water:
        poured[days - 1 - ago] = litres
    return spell(LAST, np.full(days, leaf), wet, poured)


class DrySpell(unittest.TestCase):
    def test_two_weeks_in_leaf_without_water_and_hardly_any_rain(self):
        self.assertEqual(found(water=[(14, 20)]).days, 14)
        self.assertIsNone(found(water=[(13, 20)]))
        self.assertIsNone(found(leaf=0.1))
        self.assertEqual(found(rain=[(3, 4), (9, 5)], water=[(20, 9)]).rain_mm, 9)
        self.assertIsNone(found(rain=[(3, 6), (9, 5)], water=[(20, 9)]))

    def test_it_may_have_ended_a_few_days_ago_but_not_long_ago(self):
        ended = found(water=[(1, 20), (20, 20)])
        self.assertEqual((ended.last, ended.days), (LAST - timedelta(2), 18))
        self.assertIsNone(found(water=[(4, 20), (25, 20)]))

    def test_days_so_far_count_from_the_last_water(self):
        poured = np.zeros(20)
        poured[14] = 5.0
        self.assertEqual(so_far_days(np.ones(20), poured), 5)
        self.assertEqual(so_far_days(np.ones(20), np.zeros(20)), 20)


class Proofs(unittest.TestCase):
    def test_a_proof_holds_a_season(self):
        all_of_them = dict.fromkeys(PROOFS, LAST)
        self.assertEqual(missing(all_of_them, LAST + timedelta(handover.HOLDS_DAYS - 1)), ())
        self.assertEqual(missing(all_of_them | {"growth": LAST - timedelta(30)}, LAST + timedelta(340)), ("growth",))
        self.assertEqual(missing({}, LAST), PROOFS)


class DeepRoutine(unittest.TestCase):
    """Outward from half the root radius to a third beyond it, never at the trunk, to 60 to 90 cm (common practice)."""

    def test_water_lands_outside_the_ball_on_a_ring_round_it(self):
        landing = reach.of_deep(Ball(0.3, 2.4, "balled", 50.0, 10.0))
        self.assertEqual(landing.share, 0.0)
        self.assertEqual(landing.wetted_m2[0], 0.0)
        self.assertAlmostEqual(landing.wetted_m2[-1], math.pi * (2.4**2 - 1.2**2))
        self.assertEqual(list(landing.wetted_m2), sorted(landing.wetted_m2))

    def test_an_established_tree_asks_every_ten_days_to_four_weeks_in_a_dry_hot_season(self):
        one = spec("2 in balled", ball_share=None, basin_diameter_m=None, root_depth_max_m=reach.DEEP_ROOTS_M)
        trees = build([one])
        roots = float(trees.established_radius_m[0])
        ball = Ball(float(trees.ball_radius_m[0]), roots, "balled", float(trees.ball_taw_l[0]), 10.0)
        days = [Weather(6.0, 0.0, 26.0, 26.0)] * 120
        start = routine.Start(root_spread_beyond_ball_m=roots - float(trees.ball_radius_m[0]))
        run = routine.run(trees, reach.stack([reach.of_deep(ball)]), start, days, Routine("balance"), 0.9)
        on = [n for n, day in enumerate(run) if day.gross_l[0] > 0]
        gaps = np.diff(on)
        self.assertGreaterEqual(len(on), 4)
        self.assertTrue(np.all((gaps >= 10) & (gaps <= 28)), gaps)
        self.assertFalse(any(bool(day.findings["once_is_not_enough"][0]) for day in run))
        self.assertGreater(float(refill.refill(run[0].ground, run[on[0]].state).net_l[0]), -1e-9)


if __name__ == "__main__":
    unittest.main()
