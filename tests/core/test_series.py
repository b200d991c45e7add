"""One unbroken series: what fills a gap, how snow and leaves move, when ground is closed."""

import unittest

import numpy as np

from june_shade.core.errors import NoWeatherError
from june_shade.core.weather import series
from june_shade.core.weather.series import FORECAST, MEASURED, NEIGHBOURS, NORMALS, RECENT, Known, assemble


def known(first, eto, *, low=15.0, high=28.0, rain=0.0, chance=1.0) -> Known:
    """Days from a date on; each value a number for all days or a list."""
    n = len(eto)
    column = lambda value: np.full(n, value, float) if np.isscalar(value) else np.array(value, float)  # noqa: E731
    dates = np.datetime64(first, "D") + np.arange(n)
    return Known(dates, np.array(eto, float), column(low), column(high), column(rain), column(chance))


class Filling(unittest.TestCase):
    def test_measured_beats_forecast_beats_fill(self):
        measured = known("2026-07-01", [5, 5, np.nan, 5])
        forecast = known("2026-07-03", [6, 6, 6, 6], rain=9.0, chance=0.9)
        made = assemble(measured, forecast, "2026-07-01", "2026-07-08", "2026-07-05")
        self.assertEqual(
            made.basis.tolist(), [MEASURED, MEASURED, FORECAST, MEASURED] + [FORECAST] * 2 + [NEIGHBOURS] * 2
        )
        self.assertEqual(made.eto_mm[:6].tolist(), [5, 5, 6, 5, 6, 6])

    def test_a_forecast_of_a_day_gone_by_brings_no_rain(self):
        forecast = known("2026-07-03", [6, 6, 6], rain=20.0, chance=0.9)
        made = assemble(known("2026-07-01", [5, 5]), forecast, "2026-07-01", "2026-07-05", "2026-07-05")
        self.assertEqual(made.rain_mm[2:4].tolist(), [0, 0])
        self.assertEqual(made.rain_mm[4], 20.0)

    def test_a_gap_takes_the_mean_of_its_time_of_year(self):
        measured = known("2025-07-01", [4] * 31)
        made = assemble(measured, Known.nothing(), "2026-07-10", "2026-07-12", "2026-07-11")
        self.assertEqual(made.eto_mm.tolist(), [4, 4, 4])
        self.assertEqual(set(made.basis.tolist()), {NEIGHBOURS})
        self.assertEqual(made.rain_mm.tolist(), [0, 0, 0])

    def test_twelve_monthly_figures_are_the_last_resort(self):
        monthly = list(range(1, 13))
        made = assemble(Known.nothing(), Known.nothing(), "2026-06-30", "2026-07-01", "2026-07-01", monthly)
        self.assertEqual(made.eto_mm.tolist(), [6, 7])
        self.assertEqual(set(made.basis.tolist()), {NORMALS})

    def test_the_last_measured_week_goes_on_where_nothing_else_is_known_of_the_days_ahead(self):
        measured = known("2026-07-01", [4.0] * 7 + [6.0] * 7)
        made = assemble(measured, Known.nothing(), "2026-07-01", "2026-07-28", "2026-07-15")
        ahead = made.basis[-14:]
        self.assertEqual(str(made.dates[-1]), "2026-07-28")
        self.assertEqual(ahead.tolist(), [NEIGHBOURS] * 7 + [RECENT] * 7)
        self.assertEqual(made.eto_mm[-7:].tolist(), [6.0] * 7)
        self.assertEqual(made.rain_mm[-14:].tolist(), [0.0] * 14)
        self.assertEqual(made.tmean_c[-1], np.mean((measured.tmin_c + measured.tmax_c)[-7:]) / 2)

    def test_it_ends_where_nothing_is_known_of_the_days_ahead(self):
        made = assemble(known("2025-07-01", [5] * 3), Known.nothing(), "2026-07-01", "2026-07-28", "2026-07-05")
        self.assertEqual(str(made.dates[-1]), "2026-07-10", "a week on, the same time of year is still known")
        self.assertEqual(len(made.dates), len(made.eto_mm))

    def test_without_anything_there_is_no_series(self):
        with self.assertRaises(NoWeatherError):
            assemble(Known.nothing(), Known.nothing(), "2026-07-01", "2026-07-02", "2026-07-01")

    def test_over_three_filled_days_in_fourteen_are_said(self):
        basis = np.array([MEASURED] * 11 + [NEIGHBOURS] * 3)
        self.assertFalse(series.filled_too_many(basis))
        basis[0] = FORECAST
        self.assertTrue(series.filled_too_many(basis))

    def test_the_turn_of_the_year_is_no_edge(self):
        measured = known("2025-12-28", [1.0] * 4)
        made = assemble(measured, Known.nothing(), "2026-01-02", "2026-01-02", "2026-01-02")
        self.assertEqual(made.eto_mm[0], 1.0)


class RainAhead(unittest.TestCase):
    def test_a_chance_counts_from_one_half_up(self):
        np.testing.assert_allclose(series.counted_rain_share(np.array([0.2, 0.49, 0.5, 0.9])), [0, 0, 0.5, 0.9])


class Snow(unittest.TestCase):
    def test_snow_is_held_until_it_thaws_and_nothing_is_lost(self):
        mean = np.array([3.0, -5, -2, 1, 3, 8])
        rain = np.array([1.0, 10, 5, 2, 0, 1])
        fallen, share = series.hold_snow(rain, np.ones(6), mean)
        self.assertEqual(fallen.tolist(), [1, 0, 0, 2, 15, 1])
        self.assertAlmostEqual(float((fallen * share).sum()), float(rain.sum()))


class Leaves(unittest.TestCase):
    def test_they_come_in_spring_and_go_in_autumn_thirty_days_each(self):
        year = 10 - 14 * np.cos(2 * np.pi * (np.arange(730) - 15) / 365)
        leaf = series.leaf_share(year)
        self.assertAlmostEqual(leaf[365 + 200], 1.0)
        self.assertAlmostEqual(leaf[365 + 15], series.LEAFLESS)
        rising = np.flatnonzero(np.diff(leaf[365:]) > 1e-12)
        self.assertAlmostEqual(len(rising), 30, delta=1)
        self.assertTrue(np.all((leaf >= series.LEAFLESS - 1e-12) & (leaf <= 1 + 1e-12)))

    def test_bare_root_waits_for_bud_break(self):
        dates = np.datetime64("2026-04-01") + np.arange(60)
        self.assertEqual(set(series.leaf_after_bud_break(dates, None).tolist()), {series.LEAFLESS})
        leaf = series.leaf_after_bud_break(dates, "2026-04-20")
        self.assertEqual(leaf[10], series.LEAFLESS)
        self.assertEqual(leaf[-1], 1.0)
        self.assertTrue(np.all(np.diff(leaf) >= 0))


class ClosedGround(unittest.TestCase):
    def test_frozen_ground_and_cold_days_are_closed(self):
        mean = np.array([5.0] * 5 + [-6] * 6)
        high = np.where(mean > 0, 9.0, -1.0)
        open_days = series.workable_days(mean, high)
        self.assertTrue(open_days[:5].all())
        self.assertFalse(open_days[5:].any())
        # a warm day on ground that is still frozen stays closed
        self.assertFalse(series.workable_days(np.array([-8.0] * 5 + [3.0]), np.array([-2.0] * 5 + [9.0]))[-1])

    def test_running_mean_opens_with_what_there_is(self):
        np.testing.assert_allclose(series.running_mean(np.array([2.0, 4, 6, 8]), 3), [2, 3, 4, 6])


if __name__ == "__main__":
    unittest.main()
