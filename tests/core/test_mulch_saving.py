"""What mulch saves: the daily balance with a ring and without, and FAO-56's rule of organic mulch."""

import unittest

import numpy as np

from june_shade.core.mulch.saving import saving
from june_shade.core.water.balance import Weather, ground, pass_day
from tests.support import full, one, published


class Saving(unittest.TestCase):
    DAYS = [Weather(eto_mm=6.0, rain_mm=0.0, tmean_c=24.0)] * 120

    def saved(self, radius_m=0.9, share=1.0, loss_l=0.0, days=None):
        days = days or self.DAYS
        return saving(one(), 0, np.pi * radius_m**2, np.pi * 0.1**2, 0.0, days, [share] * len(days), 0.8, loss_l)

    def test_a_ring_saves_and_a_full_one_saves_more_than_a_thin_one(self):
        self.assertGreater(self.saved().saved_l, 0)
        self.assertGreater(self.saved().saved_l, self.saved(share=0.3).saved_l)
        self.assertLess(self.saved().waterings_with, self.saved().waterings_without)

    def test_no_depth_in_the_same_circle_saves_nothing(self):
        # the basin of 0.9 m across is kept either way; a ring inside it without depth changes nothing
        self.assertAlmostEqual(self.saved(radius_m=0.45, share=0.0).saved_l, 0.0)

    def test_water_that_only_wets_the_mulch_is_counted(self):
        dry, wet = self.saved(), self.saved(loss_l=2.0)
        self.assertAlmostEqual(wet.with_l - dry.with_l, dry.waterings_with * 2.0 / 0.8)
        self.assertEqual(wet.without_l, dry.without_l)

    def test_evaporation_falls_as_fao_56_says(self):
        (check,) = [c for c in published("trade") if c.quantity == "mulched_evaporation"]
        cover, bare_mm = check.inputs["cover"], check.inputs["bare_mm"]
        found = []
        for covered in (0.0, cover):
            tree = one(mulch_cover=covered, ball_share=0.6)
            state = full(tree)
            _, moved = pass_day(tree, ground(tree, state.root_radius_m), state, self.DAYS[0], np.zeros(1))
            found.append(float(moved.evaporated_l[0]))
        self.assertAlmostEqual(found[1] / found[0] * bare_mm, check.expected, delta=0.05)


if __name__ == "__main__":
    unittest.main()
