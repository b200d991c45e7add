"""Hours to days: what a day's figures are where a file gives them by the hour."""

from dataclasses import dataclass, field
from datetime import date

import numpy as np

from june_shade.core.weather.daily import Days

LEAST_HOURS = 20
"""A day with fewer hours of a quantity has none of it."""
MJ_PER_WH = 0.0036


@dataclass
class DayOfHours:
    """The hours of one day as they come in; None where an hour is missing."""

    temperature_c: list[float | None] = field(default_factory=list)
    dew_point_c: list[float | None] = field(default_factory=list)
    rh_percent: list[float | None] = field(default_factory=list)
    radiation_wh_m2: list[float | None] = field(default_factory=list)
    wind_m_s: list[float | None] = field(default_factory=list)
    rain_mm: list[float | None] = field(default_factory=list)


def _of(values: list[float | None], how) -> float | None:
    known = [v for v in values if v is not None]
    return float(how(known)) if len(known) >= LEAST_HOURS else None


def days_of(hours: dict[date, DayOfHours]) -> Days:
    """Days from hours: lowest and highest, means of dew point and wind, both humidities, sums of rain and radiation."""
    order = list(hours)
    rows = [hours[day] for day in order]
    radiation = [_of(h.radiation_wh_m2, np.sum) for h in rows]
    return Days.of(
        order,
        tmin_c=[_of(h.temperature_c, np.min) for h in rows],
        tmax_c=[_of(h.temperature_c, np.max) for h in rows],
        dew_point_c=[_of(h.dew_point_c, np.mean) for h in rows],
        rh_min_percent=[_of(h.rh_percent, np.min) for h in rows],
        rh_max_percent=[_of(h.rh_percent, np.max) for h in rows],
        wind_m_s=[_of(h.wind_m_s, np.mean) for h in rows],
        rain_mm=[_of(h.rain_mm, np.sum) for h in rows],
        radiation_mj_m2=[None if r is None else r * MJ_PER_WH for r in radiation],
    )
