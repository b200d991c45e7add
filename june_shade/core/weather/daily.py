"""Daily weather as it was given, and the ETo that it allows: which equation, with which substitutes.

Missing is NaN. The choice is made day by day; each day says what made it.
"""

from collections.abc import Sequence
from dataclasses import dataclass, fields
from datetime import date

import numpy as np

from june_shade.core.errors import InputError
from june_shade.core.numbers import Numbers
from june_shade.core.weather import et

METHODS = ("auto", "penman_monteith", "hargreaves")
DEFAULT_WIND_M_S = 2.0
LEAST_WIND_M_S = 0.5
SUBSTITUTES = (
    "wind_2_m_s",
    "wind_floor",
    "radiation_from_sunshine",
    "humidity_from_tmin",
    "radiation_from_temperature",
)


@dataclass(frozen=True, slots=True)
class Days:
    """Daily weather, arrays of shape (days,), NaN where missing.

    dates: datetime64[D]. tmin_c, tmax_c, dew_point_c [degC]; rain_mm; rh_* [percent]; wind_m_s at the station's
    wind height; sun_h; radiation_mj_m2 a day; eto_station_mm: the station's own.
    """

    dates: np.ndarray
    tmin_c: np.ndarray
    tmax_c: np.ndarray
    rain_mm: np.ndarray
    dew_point_c: np.ndarray
    rh_percent: np.ndarray
    rh_min_percent: np.ndarray
    rh_max_percent: np.ndarray
    wind_m_s: np.ndarray
    sun_h: np.ndarray
    radiation_mj_m2: np.ndarray
    eto_station_mm: np.ndarray

    def __len__(self) -> int:
        return len(self.dates)

    def until(self, count: int) -> "Days":
        """The first so many of them."""
        return Days(*(getattr(self, f.name)[:count] for f in fields(self)))

    @classmethod
    def of(cls, dates: Sequence[date], **values: Sequence[float | None]) -> "Days":
        """Days from whatever columns there are; the others are missing."""
        count = len(dates)
        columns = {f.name: np.full(count, np.nan) for f in fields(cls) if f.name != "dates"}
        for name, value in values.items():
            columns[name] = np.array([np.nan if v is None else v for v in value], dtype=float)
        return cls(np.array(dates, dtype="datetime64[D]"), **columns)


@dataclass(frozen=True, slots=True)
class ReferenceEt:
    """ETo [mm] a day, NaN where it can't be had, and the method words of each day ("" there)."""

    eto_mm: np.ndarray
    method: tuple[str, ...]


def day_of_year(dates: np.ndarray) -> np.ndarray:
    """Day of the year 1..366 of datetime64[D] dates."""
    return (dates - dates.astype("datetime64[Y]").astype("datetime64[D]")).astype(int) + 1


def vapour_pressure_kpa(days: Days) -> np.ndarray:
    """Actual vapour pressure by the best form present, NaN where there is no humidity.

    Dew point; both humidities; maximum; mean ([FAO56] eq. 14, 17, 18, 19). The minimum alone is no humidity.
    """
    forms = (
        et.vapour_pressure_from_dew_point_kpa(days.dew_point_c),
        et.vapour_pressure_from_humidities_kpa(days.tmin_c, days.tmax_c, days.rh_min_percent, days.rh_max_percent),
        et.vapour_pressure_from_rh_max_kpa(days.tmin_c, days.rh_max_percent),
        et.vapour_pressure_from_rh_mean_kpa(days.tmin_c, days.tmax_c, days.rh_percent),
    )
    result = forms[0]
    for form in forms[1:]:
        result = np.where(np.isnan(result), form, result)
    return result


def reference_et(
    days: Days, latitude_deg: float, elevation_m: float, wind_height_m: float = 2.0, method: str = "auto"
) -> ReferenceEt:
    """ETo of each day and how it was made.

    auto: the station's own ETo; else Penman-Monteith where humidity and radiation or sunshine are there; else
    Hargreaves-Samani. penman_monteith asked for with gaps: Tdew = Tmin, Rs by the temperature range.
    Source: [FAO56] ch. 3 and 4. Raises InputError for a method or a place that does not exist.
    """
    if method not in METHODS:
        raise InputError(f"must be one of {', '.join(METHODS)}, not {method!r}", "method")
    if not -90 <= latitude_deg <= 90:
        raise InputError(f"must lie between -90 and 90 degrees, not {latitude_deg:g}", "latitude")
    if not -500 <= elevation_m <= 9000:
        raise InputError(f"must lie between -500 and 9000 m, not {elevation_m:g}", "elevation")
    if not 0.1 < wind_height_m <= 200:
        raise InputError(f"must lie between 0.1 and 200 m, not {wind_height_m:g}", "wind_height")
    phi, day = np.radians(latitude_deg), day_of_year(days.dates)
    ra = et.extraterrestrial_radiation_mj(phi, day)
    pm, marks, complete = _penman_monteith(days, phi, day, ra, elevation_m, wind_height_m)
    hargreaves = et.hargreaves_samani_mm(days.tmin_c, days.tmax_c, ra)

    station = ~np.isnan(days.eto_station_mm) & (method == "auto")
    use_pm = ~station & (complete if method == "auto" else np.full(len(days), method == "penman_monteith"))
    eto = np.where(station, days.eto_station_mm, np.where(use_pm, pm, hargreaves))
    words = []
    for i in range(len(days)):
        if np.isnan(eto[i]):
            words.append("")
        elif station[i]:
            words.append("station")
        elif use_pm[i]:
            words.append("+".join(["penman_monteith", *(name for name in SUBSTITUTES if marks[name][i])]))
        else:
            words.append("hargreaves")
    return ReferenceEt(eto, tuple(words))


def _penman_monteith(
    days: Days, phi: float, day: Numbers, ra: Numbers, elevation_m: float, wind_height_m: float
) -> tuple[np.ndarray, dict[str, np.ndarray], np.ndarray]:
    """Penman-Monteith with every substitute allowed: ETo, the marks of each day, and where none was needed
    for humidity and radiation."""
    rso = et.clear_sky_radiation_mj(elevation_m, ra)
    no_wind = np.isnan(days.wind_m_s)
    wind = np.where(no_wind, DEFAULT_WIND_M_S, et.wind_at_2m(days.wind_m_s, wind_height_m))
    slow = wind < LEAST_WIND_M_S
    wind = np.maximum(wind, LEAST_WIND_M_S)

    ea = vapour_pressure_kpa(days)
    dry = np.isnan(ea)
    ea = np.where(dry, et.saturation_vapour_pressure_kpa(days.tmin_c), ea)

    no_radiation, no_sun = np.isnan(days.radiation_mj_m2), np.isnan(days.sun_h)
    from_sun = et.radiation_from_sunshine_mj(days.sun_h, et.daylight_h(phi, day), ra)
    from_range = et.radiation_from_temperature_mj(days.tmin_c, days.tmax_c, ra, rso)
    rs = np.where(no_radiation, np.where(no_sun, from_range, from_sun), days.radiation_mj_m2)

    net = et.net_shortwave_mj(rs) - et.net_longwave_mj(days.tmin_c, days.tmax_c, ea, rs, rso)
    pressure = et.atmospheric_pressure_kpa(elevation_m)
    eto = et.penman_monteith_mm(days.tmin_c, days.tmax_c, ea, net, wind, pressure)
    marks = {
        "wind_2_m_s": no_wind,
        "wind_floor": slow,
        "radiation_from_sunshine": no_radiation & ~no_sun,
        "humidity_from_tmin": dry,
        "radiation_from_temperature": no_radiation & no_sun,
    }
    return eto, marks, ~dry & ~(no_radiation & no_sun)
