"""What mulch saves, and why it may save nothing; FAO-56's rule of organic mulch."""

import unittest

import numpy as np

from june_shade.core.mulch.saving import Saving
from june_shade.core.water.balance import pass_day
from june_shade.core.water.ground import ground
from june_shade.core.water.weather import Weather
from tests.support import full, one, published


class Saved(unittest.TestCase):
    def test_less_water_is_a_saving_and_more_is_none_with_its_reason(self):
        saves = Saving(800.0, 1000.0, 20, 25, 120, wetting_l=30.0)
        self.assertEqual((saves.saved_l, saves.none_because), (200.0, None))
        drinks = Saving(1010.0, 1000.0, 25, 25, 120, wetting_l=60.0)
        self.assertEqual((drinks.saved_l, drinks.none_because), (0.0, "mulch_drinks"))
        drip = Saving(1000.0, 1000.0, 25, 25, 120)
        self.assertEqual((drip.saved_l, drip.none_because), (0.0, "little_evaporates"))

    def test_evaporation_falls_as_fao_56_says(self):
        (check,) = [c for c in published("trade") if c.quantity == "mulched_evaporation"]
        cover, bare_mm = check.inputs["cover"], check.inputs["bare_mm"]
        found = []
        for covered in (0.0, cover):
            trees, reach = one(mulch_cover=covered, ball_share=0.6)
            state = full(trees, reach)
            weather = Weather(eto_mm=6.0, rain_mm=0.0, month_c=24.0, five_days_c=24.0)
            g = ground(trees, reach, state.root_radius_m)
            _, moved = pass_day(trees, g, state, weather, np.zeros(1))
            found.append(float(moved.evaporated_l[0]))
        self.assertAlmostEqual(found[1] / found[0] * bare_mm, check.expected, delta=0.05)


if __name__ == "__main__":
    unittest.main()
