"""Flags that drop nothing, the season against its own other years, and the sum behind an ETo."""

import unittest
from datetime import date, timedelta

import numpy as np

from june_shade.core.weather import daily, explain, normals, quality
from june_shade.core.weather.daily import Days
from june_shade.core.weather.place import distance_km
from tests.support import weather_days

PLACE = (40.0, 1500.0)


def days_of(**columns):
    count = len(next(iter(columns.values())))
    return Days.of([date(2026, 6, 1) + timedelta(days=i) for i in range(count)], **columns)


class Flags(unittest.TestCase):
    def flags(self, **columns):
        return quality.flags(days_of(**columns), *PLACE)

    def test_a_spike_is_flagged_and_a_warm_spell_is_not(self):
        highs = [30, 31, 52, 30, 31, 29, 28]
        found = self.flags(tmin_c=[12] * 7, tmax_c=highs)
        self.assertIn("spike_high", found[2])
        self.assertEqual([i for i, codes in enumerate(found) if "spike_high" in codes], [2])
        spell = self.flags(tmin_c=[12, 13, 14, 13, 12], tmax_c=[20, 37, 38, 37, 20])
        self.assertFalse(any("spike_high" in codes for codes in spell))

    def test_a_stuck_sensor(self):
        found = self.flags(tmin_c=[10, 11, 11, 11, 11, 12], tmax_c=[25, 26, 26, 26, 26, 27])
        self.assertEqual([("stuck" in codes) for codes in found], [False, True, True, True, True, False])
        self.assertFalse(any(self.flags(tmin_c=[11, 11, 11], tmax_c=[26, 26, 26])))

    def test_physical_limits(self):
        # Ra of June at 40 north is near 42 MJ/m2 [FAO56 table 2.6]: a clear sky gives about 33, never 45
        found = self.flags(
            tmin_c=[10, -50, 10], tmax_c=[51, -20, 30], radiation_mj_m2=[25, 20, 45], rain_mm=[0, 300, 0]
        )
        self.assertIn("hot", found[0])
        self.assertTrue({"cold", "rain_rare"} <= set(found[1]))
        self.assertIn("sun_over_clear_sky", found[2])

    def test_ordinary_days_and_missing_values_carry_none(self):
        count = 30
        highs = [28 + 3 * np.sin(i) for i in range(count)]
        self.assertFalse(any(self.flags(tmin_c=[h - 14 for h in highs], tmax_c=highs, rain_mm=[None] * count)))
        self.assertEqual(quality.flags(Days.of([]), *PLACE), ())


class Season(unittest.TestCase):
    def test_it_is_counted_from_the_winter_of_its_half_of_the_world(self):
        self.assertEqual(normals.season_start(date(2026, 7, 15), 40), date(2026, 1, 1))
        self.assertEqual(normals.season_start(date(2026, 7, 15), -34), date(2026, 7, 1))
        self.assertEqual(normals.season_start(date(2026, 2, 1), -34), date(2025, 7, 1))

    def test_sums_stand_beside_the_mean_of_the_other_years(self):
        today = date(2026, 7, 15)
        days = weather_days(date(2023, 1, 1), today - timedelta(days=1), rain_mm=1.0)
        years = days.dates.astype("datetime64[Y]").astype(int) + 1970
        eto = np.where(years == 2026, 5.0, 4.0)
        found = normals.season(days, eto, today, 40)
        length = (today - date(2026, 1, 1)).days
        self.assertEqual((found.days, found.measured_days, found.years), (length, length, 3))
        self.assertAlmostEqual(found.eto_mm, 5 * length)
        self.assertAlmostEqual(found.eto_usual_mm, 4 * length)
        self.assertAlmostEqual(found.rain_usual_mm, length)

    def test_a_year_with_gaps_does_not_count_and_none_is_said(self):
        today = date(2026, 7, 15)
        days = weather_days(date(2025, 5, 1), today - timedelta(days=1))
        found = normals.season(days, np.full(len(days), 4.0), today, 40)
        self.assertEqual((found.years, found.eto_usual_mm), (0, None))


class Places(unittest.TestCase):
    def test_distances(self):
        # a degree of latitude is 111.2 km on a sphere of 6371 km; half way round the equator 20015 km (arithmetic)
        self.assertAlmostEqual(distance_km(40, -105, 41, -105), 111.19, delta=0.01)
        self.assertAlmostEqual(distance_km(0, 0, 0, 180), 20015, delta=1)
        self.assertEqual(distance_km(52.3, 4.8, 52.3, 4.8), 0)


class EtoWorking(unittest.TestCase):
    def last(self, days, **place):
        lines = explain.eto(days, 0, place.get("lat", 50.8), place.get("elev", 100.0), place.get("wind", 10.0))
        return lines, daily.reference_et(days, 50.8, 100.0, 10.0)

    def test_the_published_example_of_a_day(self):
        # [FAO56] example 18, Uccle 6 July: es 1.997, ea 1.409, u2 2.078, Ra 41.09, Rs 22.07, Rn 13.28, ETo 3.9
        days = Days.of(
            [date(2025, 7, 6)], tmin_c=[12.3], tmax_c=[21.5], rh_min_percent=[63], rh_max_percent=[84],
            wind_m_s=[10 / 3.6], sun_h=[9.25],
        )  # fmt: skip
        lines, made = self.last(days)
        value = {one.key: one.value for one in lines}
        for key, printed, delta in (
            ("es", 1.997, 0.001), ("ea", 1.409, 0.001), ("u2", 2.078, 0.001), ("ra", 41.09, 0.05), ("rs", 22.07, 0.05),
            ("rn", 13.28, 0.05), ("eto_pm", 3.9, 0.05),
        ):  # fmt: skip
            self.assertAlmostEqual(value[key], printed, delta=delta, msg=key)
        self.assertEqual(value["eto_pm"], float(made.eto_mm[0]))

    def test_every_way_ends_in_the_figure_that_counts(self):
        for columns in (
            {}, {"eto_station_mm": [5.5]}, {"radiation_mj_m2": [25.0], "rh_percent": [40]},
            {"radiation_mj_m2": [25.0], "dew_point_c": [6.0], "wind_m_s": [1.0]},
            {"sun_h": [9.0], "rh_max_percent": [80]},
        ):  # fmt: skip
            days = Days.of([date(2025, 7, 6)], tmin_c=[12.0], tmax_c=[28.0], **columns)
            lines, made = self.last(days)
            self.assertAlmostEqual(lines[-1].value, float(made.eto_mm[0]))
            self.assertTrue(all(one.source for one in lines))
        self.assertEqual(explain.eto(Days.of([date(2025, 7, 6)]), 0, 40, 0, 2), ())


if __name__ == "__main__":
    unittest.main()
