"""Reference ET against the printed examples, and the rules of what stands in for what is missing."""

import unittest
from datetime import date, timedelta

import numpy as np

from june_shade.core.errors import InputError
from june_shade.core.weather import daily, et
from june_shade.core.weather.daily import Days, reference_et
from tests.support import published


def day_of(number: float) -> date:
    """The date of a day of the year, in a year without a 29 February."""
    return date(2026, 1, 1) + timedelta(days=int(number) - 1)


def one_day(day: float, **values: float) -> Days:
    return Days.of([day_of(day)], **{name: [value] for name, value in values.items()})


def eto_of(days: Days, latitude: float, z_m: float, wind_height_m: float = 2.0, method: str = "auto") -> float:
    return float(reference_et(days, latitude, z_m, wind_height_m, method).eto_mm[0])


def sunshine_radiation(latitude, day, sun_h):
    phi = np.radians(latitude)
    return et.radiation_from_sunshine_mj(sun_h, et.daylight_h(phi, day), et.extraterrestrial_radiation_mj(phi, day))


def net_radiation(latitude, day, z_m, tmin_c, tmax_c, ea, rs):
    rso = et.clear_sky_radiation_mj(z_m, et.extraterrestrial_radiation_mj(np.radians(latitude), day))
    return et.net_shortwave_mj(rs) - et.net_longwave_mj(tmin_c, tmax_c, ea, rs, rso)


def radiation_from_temperature(latitude, day, tmin_c, tmax_c, z_m):
    ra = et.extraterrestrial_radiation_mj(np.radians(latitude), day)
    return et.radiation_from_temperature_mj(tmin_c, tmax_c, ra, et.clear_sky_radiation_mj(z_m, ra))


def eto_with_soil_heat(latitude, day, z_m, tmin_c, tmax_c, ea, wind_2m, sun_h, g):
    net = net_radiation(latitude, day, z_m, tmin_c, tmax_c, ea, sunshine_radiation(latitude, day, sun_h))
    return et.penman_monteith_mm(tmin_c, tmax_c, ea, net, wind_2m, et.atmospheric_pressure_kpa(z_m), g)


def eto_radiation(latitude, day, z_m, tmin_c, tmax_c, ea, rs, wind, height_m):
    net = net_radiation(latitude, day, z_m, tmin_c, tmax_c, ea, rs)
    speed = et.wind_at_2m(wind, height_m)
    return et.penman_monteith_mm(tmin_c, tmax_c, ea, net, speed, et.atmospheric_pressure_kpa(z_m))


def example_18_net(latitude, day, z_m, tmin_c, tmax_c, rh_max, rh_min, sun_h):
    ea = et.vapour_pressure_from_humidities_kpa(tmin_c, tmax_c, rh_min, rh_max)
    return net_radiation(latitude, day, z_m, tmin_c, tmax_c, ea, sunshine_radiation(latitude, day, sun_h))


def eto(latitude, day, z_m, tmin_c, tmax_c, rh_max, rh_min, wind_10m, sun_h):
    days = one_day(
        day, tmin_c=tmin_c, tmax_c=tmax_c, rh_max_percent=rh_max, rh_min_percent=rh_min, wind_m_s=wind_10m, sun_h=sun_h
    )
    return eto_of(days, latitude, z_m, 10.0)


QUANTITIES = {
    "pressure": lambda z_m: et.atmospheric_pressure_kpa(z_m),
    "saturation_vapour_pressure": lambda t_c: et.saturation_vapour_pressure_kpa(t_c),
    "vapour_pressure": lambda tmin_c, tmax_c, rh_max, rh_min: et.vapour_pressure_from_humidities_kpa(
        tmin_c, tmax_c, rh_min, rh_max
    ),
    "extraterrestrial_radiation": lambda latitude, day: et.extraterrestrial_radiation_mj(np.radians(latitude), day),
    "daylight": lambda latitude, day: et.daylight_h(np.radians(latitude), day),
    "net_longwave": lambda tmin_c, tmax_c, ea, rs, rso: et.net_longwave_mj(tmin_c, tmax_c, ea, rs, rso),
    "wind_2m": lambda wind, height_m: et.wind_at_2m(wind, height_m),
    "radiation_from_temperature": radiation_from_temperature,
    "eto_with_soil_heat": eto_with_soil_heat,
    "eto": eto,
    "net_radiation": example_18_net,
    "eto_missing": lambda latitude, day, z_m, tmin_c, tmax_c: eto_of(
        one_day(day, tmin_c=tmin_c, tmax_c=tmax_c), latitude, z_m, method="penman_monteith"
    ),
    "hargreaves": lambda latitude, day, tmin_c, tmax_c: eto_of(one_day(day, tmin_c=tmin_c, tmax_c=tmax_c), latitude, 0),
    "eto_radiation": eto_radiation,
}


class Published(unittest.TestCase):
    def test_every_printed_value(self):
        for check in published("reference_et"):
            with self.subTest(check.source):
                found = float(QUANTITIES[check.quantity](**check.inputs))
                self.assertAlmostEqual(found, check.expected, delta=check.tolerance)


class WhichEquation(unittest.TestCase):
    """The choice is made day by day, and each day says what made it."""

    FULL = {"tmin_c": 12.0, "tmax_c": 30.0, "rh_percent": 40.0, "wind_m_s": 2.5, "radiation_mj_m2": 26.0}

    def words(self, method="auto", **changed):
        values = {name: value for name, value in (self.FULL | changed).items() if value is not None}
        return reference_et(one_day(200, **values), 40.0, 1500.0, 2.0, method).method[0]

    def test_humidity_and_radiation_make_penman_monteith(self):
        self.assertEqual(self.words(), "penman_monteith")

    def test_missing_wind_is_two_metres_a_second_and_marked(self):
        self.assertEqual(self.words(wind_m_s=None), "penman_monteith+wind_2_m_s")
        calm = reference_et(one_day(200, **(self.FULL | {"wind_m_s": 2.0})), 40.0, 1500.0).eto_mm
        values = {k: v for k, v in self.FULL.items() if k != "wind_m_s"}
        np.testing.assert_array_equal(reference_et(one_day(200, **values), 40.0, 1500.0).eto_mm, calm)

    def test_a_still_day_has_half_a_metre_a_second(self):
        self.assertEqual(self.words(wind_m_s=0.0), "penman_monteith+wind_floor")

    def test_sunshine_stands_in_for_radiation(self):
        self.assertEqual(self.words(radiation_mj_m2=None, sun_h=10.0), "penman_monteith+radiation_from_sunshine")

    def test_without_humidity_or_radiation_hargreaves(self):
        self.assertEqual(self.words(rh_percent=None), "hargreaves")
        self.assertEqual(self.words(radiation_mj_m2=None), "hargreaves")

    def test_the_lowest_humidity_alone_is_no_humidity(self):
        self.assertEqual(self.words(rh_percent=None, rh_min_percent=25.0), "hargreaves")

    def test_penman_monteith_asked_for_with_gaps_says_all_substitutes_in_order(self):
        self.assertEqual(
            self.words("penman_monteith", rh_percent=None, radiation_mj_m2=None, wind_m_s=None),
            "penman_monteith+wind_2_m_s+humidity_from_tmin+radiation_from_temperature",
        )

    def test_a_stations_own_value_is_used_as_given(self):
        result = reference_et(one_day(200, eto_station_mm=7.25, **self.FULL), 40.0, 1500.0)
        self.assertEqual((result.eto_mm[0], result.method[0]), (7.25, "station"))

    def test_a_day_without_temperatures_has_none(self):
        result = reference_et(one_day(200, rain_mm=3.0), 40.0, 1500.0)
        self.assertTrue(np.isnan(result.eto_mm[0]))
        self.assertEqual(result.method[0], "")

    def test_each_day_is_chosen_on_its_own(self):
        days = Days.of(
            [day_of(200), day_of(201)], tmin_c=[12, 12], tmax_c=[30, 30], rh_percent=[40, None],
            radiation_mj_m2=[26, 26], wind_m_s=[2.5, 2.5],
        )  # fmt: skip
        self.assertEqual(reference_et(days, 40.0, 1500.0).method, ("penman_monteith", "hargreaves"))


class Relations(unittest.TestCase):
    def test_arrays_equal_single_days(self):
        rng = np.random.default_rng(3)
        n = 40
        low = rng.uniform(-10, 20, n)
        columns = {
            "tmin_c": low, "tmax_c": low + rng.uniform(1, 20, n), "rh_percent": rng.uniform(20, 95, n),
            "wind_m_s": rng.uniform(0, 6, n), "radiation_mj_m2": rng.uniform(2, 30, n),
        }  # fmt: skip
        dates = [day_of(1 + 9 * i) for i in range(n)]
        together = reference_et(Days.of(dates, **columns), 35.0, 300.0, 10.0).eto_mm
        for i in range(n):
            alone = Days.of([dates[i]], **{name: [column[i]] for name, column in columns.items()})
            self.assertEqual(reference_et(alone, 35.0, 300.0, 10.0).eto_mm[0], together[i])

    def test_more_sun_wind_and_dryness_take_more_water(self):
        base = dict(WhichEquation.FULL)
        least = eto_of(one_day(200, **base), 40.0, 1500.0)
        for name, step in (("radiation_mj_m2", 2.0), ("wind_m_s", 1.0), ("rh_percent", -10.0)):
            self.assertGreater(eto_of(one_day(200, **(base | {name: base[name] + step})), 40.0, 1500.0), least, name)

    def test_the_better_form_of_humidity_wins(self):
        both = one_day(200, tmin_c=15.0, tmax_c=25.0, dew_point_c=12.0, rh_percent=99.0)
        self.assertEqual(float(daily.vapour_pressure_kpa(both)[0]), float(et.vapour_pressure_from_dew_point_kpa(12.0)))

    def test_polar_night_has_no_sun_and_no_error(self):
        result = reference_et(one_day(355, **WhichEquation.FULL), 75.0, 10.0)
        self.assertTrue(np.isfinite(result.eto_mm[0]))
        self.assertEqual(float(et.daylight_h(np.radians(75.0), 355)), 0.0)

    def test_day_of_year_counts_leap_days(self):
        dates = np.array(["2024-02-29", "2024-12-31", "2025-12-31"], dtype="datetime64[D]")
        self.assertEqual(daily.day_of_year(dates).tolist(), [60, 366, 365])

    def test_a_place_or_method_that_is_none_is_refused_by_name(self):
        days = one_day(200, **WhichEquation.FULL)
        for field, args in (
            ("latitude", (91.0, 0.0)), ("elevation", (40.0, 9999.0)), ("wind_height", (40.0, 0.0, 0.05)),
            ("method", (40.0, 0.0, 2.0, "guess")),
        ):  # fmt: skip
            with self.subTest(field), self.assertRaises(InputError) as caught:
                reference_et(days, *args)
            self.assertEqual(caught.exception.field, field)


if __name__ == "__main__":
    unittest.main()
