"""How dry a season is beside others: against a gamma distribution whose shape is known."""

import unittest

import numpy as np
from scipy.stats import gamma, norm

from june_shade.core.weather import spi

CHANCES = (np.arange(80) + 0.5) / 80


class Index(unittest.TestCase):
    def setUp(self):
        self.years_mm = gamma.ppf(CHANCES, 2.0, scale=30.0)  # eighty years, evenly spread over what can be

    def test_a_sum_is_as_many_deviates_out_as_its_chance_says(self):
        for chance in (0.05, 0.2, 0.5, 0.8, 0.95):
            rain_mm = float(gamma.ppf(chance, 2.0, scale=30.0))
            self.assertAlmostEqual(spi.index(rain_mm, self.years_mm), norm.ppf(chance), delta=0.06)

    def test_less_rain_is_never_wetter_and_no_rain_counts_by_how_often_there_is_none(self):
        values = [spi.index(mm, self.years_mm) for mm in (0.5, 5.0, 40.0, 90.0, 400.0)]
        self.assertEqual(values, sorted(values))
        some_dry = np.where(CHANCES < 0.3, 0.0, self.years_mm)
        self.assertAlmostEqual(spi.index(0.0, some_dry), norm.ppf(0.15), places=6)

    def test_few_years_have_a_rank_and_no_index(self):
        found = spi.against(10.0, np.array([5.0, 20.0, 40.0]))
        self.assertEqual((found.years, found.drier, found.usual_mm, found.spi), (3, 2, 20.0, None))
        self.assertIsNone(spi.against(10.0, np.array([])))
        self.assertIsNotNone(spi.against(10.0, self.years_mm).spi)
        self.assertIsNone(spi.index(0.0, np.zeros(40)), "a desert has none")


if __name__ == "__main__":
    unittest.main()
