"""When to plant: a usual year, bare ground through days, months and days judged."""

import unittest
from datetime import date
from types import SimpleNamespace

import numpy as np

from june_shade.core.planting import when
from june_shade.core.soil.textures import textures
from june_shade.core.weather.series import MEASURED, NORMALS

LOAM = textures()["loam"]


def series(first: str, days: int, eto, rain=0.0, mean=15.0, high=25.0):
    """Measured days as far as these functions look."""
    dates = np.datetime64(first, "D") + np.arange(days)
    eto, rain, mean, high = (np.broadcast_to(np.asarray(v, float), days) for v in (eto, rain, mean, high))
    return SimpleNamespace(
        dates=dates, eto_mm=eto, rain_mm=rain, rain_share=np.ones(days), tmean_c=mean, tmax_c=high,
        basis=np.full(days, MEASURED), leaf=np.ones(days),
        index=lambda day: int((np.datetime64(day) - dates[0]).astype(int)),
    )  # fmt: skip


class UsualYear(unittest.TestCase):
    def test_each_month_is_that_of_the_year_in_which_it_was_most_usual(self):
        years = np.repeat([2.0, 9.0, 4.0], [365, 365, 365])
        found = when.usual_year(series("2021-01-01", 3 * 365, years))
        self.assertEqual(len(found.dates), when.YEARS * 365)
        self.assertEqual(set(found.eto_mm.tolist()), {4.0})

    def test_rain_counts_against_demand(self):
        rain = np.repeat([0.0, 8.0, 3.0], 365)
        found = when.usual_year(series("2021-01-01", 3 * 365, 5.0, rain))
        self.assertEqual(set(found.rain_mm.tolist()), {3.0})

    def test_a_month_that_was_never_measured_whole_leaves_none(self):
        known = series("2021-01-01", 365, 4.0)
        known.basis[185:200] = NORMALS
        self.assertIsNone(when.usual_year(known))
        self.assertIsNone(when.usual_year(series("2021-01-01", 300, 4.0)))


class Proposed(unittest.TestCase):
    """What is told beside the best month and the best day."""

    def months(self, *litres: float, against: dict | None = None) -> list[when.Month]:
        against = against or {}
        return [
            when.Month(n + 1, litre, 0.0, 0.0, leafless=True, against=against.get(n + 1, ()))
            for n, litre in enumerate(litres)
        ]

    def day(self, n: int, *against: str) -> when.PlantingDay:
        return when.PlantingDay(date(2026, 7, n), 10.0, 20.0, None, 100.0 + n, against, dig_dry=False)

    def test_the_share_saved_is_against_the_planned_month_and_never_below_none(self):
        found = self.months(200.0, 150.0, 300.0)
        self.assertAlmostEqual(when.saved_share(found, 1), 0.25)
        self.assertAlmostEqual(when.saved_share(found, 3), 0.5)
        self.assertEqual(when.saved_share(found, 2), 0.0, "it is the best one")
        shut = self.months(200.0, 150.0, against={2: ("heat",)})
        self.assertEqual(when.saved_share(shut, 2), 0.0, "what is planned is too hot, and the other takes more")
        self.assertIsNone(when.saved_share(self.months(1.0, against={1: ("frost",)}), 1))

    def test_where_no_day_is_fit_the_first_that_least_speaks_against_is_nearest(self):
        days = [self.day(1, "heat", "no_hands"), self.day(2, "heat"), self.day(3, "frost")]
        self.assertIsNone(when.best_day(days))
        self.assertEqual(when.nearest_day(days).day, date(2026, 7, 2))
        self.assertIsNone(when.nearest_day([]))


class Summers(unittest.TestCase):
    def test_every_planting_has_two_whole_summers(self):
        for day, north, south in (
            (date(2001, 4, 15), date(2002, 10, 31), date(2003, 5, 2)),
            (date(2001, 7, 15), date(2003, 10, 31), date(2003, 5, 2)),
            (date(2001, 12, 15), date(2003, 10, 31), date(2004, 5, 1)),
        ):
            self.assertEqual(when.season_end(day, southern=False), north)
            self.assertEqual(when.season_end(day, southern=True), south)

    def test_the_usual_year_reaches_to_the_end_of_every_second_summer_on_both_sides(self):
        last = when.usual_year(series("2021-01-01", 365, 4.0)).dates[-1].item()
        for southern in (False, True):
            ends = [when.season_end(day, southern=southern) for day in when.planting_days()]
            self.assertLessEqual(max(ends), last)


class Ground(unittest.TestCase):
    def test_a_heavy_rain_makes_it_too_wet_to_dig_until_it_has_drained(self):
        found = when.topsoil([2.0] * 12, [0, 0, 60, *[0] * 9], LOAM)
        self.assertEqual(found.over[1], 0)
        self.assertGreater(found.over[2], when.TOO_WET_SHARE)
        self.assertTrue(np.all(np.diff(found.over[2:]) <= 1e-9))
        self.assertLess(found.over[-1], when.TOO_WET_SHARE)

    def test_bare_ground_dries_at_full_pace_and_then_ever_slower_as_the_equation_says(self):
        """[FAO56] eq. 74 on the whole 0.3 m, worked by hand for loam."""
        found = when.topsoil([6.0] * 40, [0.0] * 40, LOAM)
        gone_mm = (1 - found.available) * 300 * LOAM.awc
        self.assertAlmostEqual(gone_mm[0], 1.15 * 6.0, 6)
        can_leave = 300 * (LOAM.awc + LOAM.wilting_point / 2)
        readily = 0.4 * can_leave / 3
        pace = (can_leave - gone_mm[3]) / (can_leave - readily)
        self.assertAlmostEqual(gone_mm[4] - gone_mm[3], pace * 1.15 * 6.0, 6)
        steps = np.diff(gone_mm)
        self.assertTrue(np.all(np.diff(steps) <= 1e-9))
        self.assertLess(when.topsoil([9.0] * 60, [0.0] * 60, LOAM).available[-1], when.DRY_SHARE)


class Judged(unittest.TestCase):
    def day(self, **changed):
        given = {"low_c": 8.0, "high_c": 20.0, "over": 0.0, "available": 0.6, "left_min": None, "needs_min": 90.0,
                 "litres": 100.0} | changed  # fmt: skip
        return when.day_of(date(2026, 10, 1), **given)

    def test_what_speaks_against_a_day(self):
        self.assertEqual(self.day().against, ())
        for changed, code in (
            ({"over": 0.4}, "too_wet"), ({"low_c": -2.1}, "frost"), ({"high_c": 32.5}, "heat"),
            ({"left_min": 89.0}, "no_hands"),
        ):  # fmt: skip
            self.assertEqual(self.day(**changed).against, (code,))
        self.assertEqual(self.day(over=1 / 3, low_c=-2.0, high_c=32.0, left_min=90.0).against, ())
        self.assertTrue(self.day(available=0.2).dig_dry)

    def test_the_best_day_is_a_fit_one_with_least_water(self):
        hot, wet, good = self.day(high_c=40.0, litres=1.0), self.day(litres=120.0), self.day(litres=90.0)
        self.assertIs(when.best_day([hot, wet, good]), good)
        self.assertIsNone(when.best_day([hot]))

    def test_balled_stock_is_planted_leafless_and_containers_at_any_mild_time(self):
        year = series("2025-01-01", 365, 4.0, mean=np.repeat([0.0, 20.0, 0.0], [90, 185, 90]), high=24.0)
        year.leaf = np.repeat([0.1, 1.0, 0.1], [90, 185, 90])
        year.tmax_c = np.repeat([8.0, 24.0, 8.0], [90, 185, 90])  # low = 2 mean - high: 16 in summer, -8 in winter
        usual = series("2001-01-01", 365, 4.0)
        usual.leaf = year.leaf
        litres = [float(n) for n in range(12)]
        balled = when.months(year, usual, litres, "balled")
        container = when.months(year, usual, litres, "container")
        self.assertEqual((balled[0].against, balled[6].against), (("frost",), ("in_leaf",)))
        self.assertIsNone(when.best_month(balled))
        self.assertEqual(when.best_month(container).month, 4)
        self.assertEqual(when.months(year, usual, litres, "balled", evergreen=True)[6].against, ())


if __name__ == "__main__":
    unittest.main()
