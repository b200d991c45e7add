"""ETo on real weather that other packages ship, against refet (ASCE-EWRI 2005 daily, the same equation).

Seattle: vega_datasets, daily 2012 to 2015, no humidity or radiation. Greensboro NC and Miami FL: pvlib's typical
years, hourly, summed to days here. The files give no wind height; both sides take 10 m.
"""

import csv
import unittest
from datetime import date
from functools import cache
from importlib import resources
from pathlib import Path

import numpy as np
import pvlib
import refet

from june_shade.core.weather import et
from june_shade.core.weather.daily import Days, day_of_year, reference_et

WIND_HEIGHT_M = 10.0


@cache
def seattle() -> Days:
    """vega_datasets' Seattle file."""
    path = resources.files("vega_datasets").joinpath("_data/seattle-weather.csv")
    rows = list(csv.DictReader(path.read_text(encoding="utf-8").splitlines()))
    return Days.of(
        [date.fromisoformat(r["date"].replace("/", "-")) for r in rows],
        tmin_c=[float(r["temp_min"]) for r in rows], tmax_c=[float(r["temp_max"]) for r in rows],
        rain_mm=[float(r["precipitation"]) for r in rows], wind_m_s=[float(r["wind"]) for r in rows],
    )  # fmt: skip


def typical_year(hours) -> tuple[Days, np.ndarray]:
    """Days from hourly temperature, dew point, radiation and wind; and the mean vapour pressure of each [kPa]."""
    shape = (365, 24)
    air, dew, sun, wind = (np.asarray(hours[c], float).reshape(shape) for c in ("air", "dew", "ghi", "wind"))
    vapour = et.saturation_vapour_pressure_kpa(dew).mean(axis=1)
    # the dew point whose vapour pressure is the day's mean: FAO-56 eq. 14 turned round
    log = np.log(vapour / 0.6108)
    dates = np.datetime64("2026-01-01") + np.arange(365)
    days = Days.of(
        dates, tmin_c=air.min(axis=1), tmax_c=air.max(axis=1), dew_point_c=237.3 * log / (17.27 - log),
        wind_m_s=wind.mean(axis=1), radiation_mj_m2=sun.sum(axis=1) * 0.0036,
    )  # fmt: skip
    return days, vapour


def shipped(name: str) -> Path:
    return Path(pvlib.__file__).parent / "data" / name


@cache
def greensboro() -> tuple[Days, np.ndarray]:
    frame, _ = pvlib.iotools.read_tmy3(shipped("723170TYA.CSV"), map_variables=False, coerce_year=2001)
    hours = {"air": "Dry-bulb (C)", "dew": "Dew-point (C)", "ghi": "GHI (W/m^2)", "wind": "Wspd (m/s)"}
    return typical_year({name: frame[column] for name, column in hours.items()})


@cache
def miami() -> tuple[Days, np.ndarray]:
    frame, _ = pvlib.iotools.read_tmy2(shipped("12839.tm2"))
    return typical_year(
        {"air": frame["DryBulb"] / 10, "dew": frame["DewPoint"] / 10, "ghi": frame["GHI"], "wind": frame["Wspd"] / 10}
    )


def by_refet(days: Days, vapour, radiation, z_m: float, latitude: float) -> np.ndarray:
    """refet's short reference ET [mm] of the same days."""
    made = refet.Daily(
        tmin=days.tmin_c, tmax=days.tmax_c, ea=vapour, rs=radiation, uz=days.wind_m_s, zw=WIND_HEIGHT_M, elev=z_m,
        lat=latitude, doy=day_of_year(days.dates), method="asce", rso_type="simple", input_units={"lat": "deg"},
    )  # fmt: skip
    return np.asarray(made.eto())


class PenmanMonteith(unittest.TestCase):
    def check(self, year, z_m, latitude):
        days, vapour = year
        ours = reference_et(days, latitude, z_m, WIND_HEIGHT_M)
        self.assertEqual(len(ours.eto_mm), 365)
        theirs = by_refet(days, vapour, days.radiation_mj_m2, z_m, latitude)
        slow = np.array(["wind_floor" in word for word in ours.method])
        # refet has no floor under the wind; the others differ by constants rounded in FAO-56 (0.082, 0.408)
        np.testing.assert_allclose(ours.eto_mm[~slow], theirs[~slow], atol=0.01)
        return float(ours.eto_mm.sum()), days, ours

    def test_greensboro(self):
        total, days, ours = self.check(greensboro(), 273.0, 36.1)
        self.assertAlmostEqual(total, 1116.9, delta=2.0)
        july = days.dates.astype("datetime64[M]") == np.datetime64("2026-07")
        self.assertAlmostEqual(float(ours.eto_mm[july].sum()), 156.5, delta=0.3)

    def test_miami(self):
        total, days, _ = self.check(miami(), 2.0, 25.8)
        self.assertAlmostEqual(total, 1573.9, delta=3.0)
        without = Days.of(days.dates, tmin_c=days.tmin_c, tmax_c=days.tmax_c)
        humid_coast = float(reference_et(without, 25.8, 2.0).eto_mm.sum())
        self.assertAlmostEqual(humid_coast, 1191.5, delta=3.0)
        self.assertLess(humid_coast, 0.8 * total, "on a windy humid coast temperatures alone say far too little")

    def test_seattle_with_every_substitute(self):
        days = seattle()
        ours = reference_et(days, 47.45, 132.0, WIND_HEIGHT_M, "penman_monteith")
        vapour = et.saturation_vapour_pressure_kpa(days.tmin_c)
        ra = et.extraterrestrial_radiation_mj(np.radians(47.45), day_of_year(days.dates))
        radiation = 0.16 * np.sqrt(days.tmax_c - days.tmin_c) * ra
        theirs = by_refet(days, vapour, radiation, 132.0, 47.45)
        slow = np.array(["wind_floor" in word for word in ours.method])
        self.assertEqual(int(slow.sum()), int((et.wind_at_2m(days.wind_m_s, WIND_HEIGHT_M) < 0.5).sum()))
        np.testing.assert_allclose(ours.eto_mm[~slow], theirs[~slow], atol=0.01)
        year = days.dates.astype("datetime64[Y]") == np.datetime64("2014")
        self.assertAlmostEqual(float(ours.eto_mm[year].sum()), 826.7, delta=1.5)


class Hargreaves(unittest.TestCase):
    def test_seattle_year_by_year(self):
        days = seattle()
        self.assertEqual(len(days), 1461)
        result = reference_et(days, 47.45, 132.0)
        self.assertEqual(set(result.method), {"hargreaves"})
        # totals computed apart from this program; pyet's, which lets the latent heat vary, are 0.5 % lower
        for year, total in (("2012", 799.1), ("2013", 832.0), ("2014", 866.2), ("2015", 898.8)):
            chosen = days.dates.astype("datetime64[Y]") == np.datetime64(year)
            self.assertAlmostEqual(float(result.eto_mm[chosen].sum()), total, delta=1.0, msg=year)
        july = days.dates.astype("datetime64[M]") == np.datetime64("2014-07")
        self.assertAlmostEqual(float(result.eto_mm[july].sum()), 158.3, delta=0.3)
        self.assertAlmostEqual(float(result.eto_mm[days.dates == np.datetime64("2014-07-01")][0]), 7.242, delta=0.005)


if __name__ == "__main__":
    unittest.main()
