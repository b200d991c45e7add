"""Checks of measured days: physical limits, spikes, stuck sensors. They flag for a person to look and drop nothing."""

import numpy as np

from june_shade.core.weather import et
from june_shade.core.weather.daily import Days, day_of_year

FLAGS = (
    "hot", "cold", "wide", "rain_rare", "windy", "sun_over_clear_sky", "spike_high", "spike_low", "stuck", "eto_rare",
)  # fmt: skip
HOTTEST_C, COLDEST_C = 50.0, -45.0
WIDEST_C = 35.0
RARE_RAIN_MM = 250.0
RARE_ETO_MM = 14.0
WINDIEST_M_S = 20.0
CLEAR_SKY_SLACK = 1.1
SPIKE_C, NEIGHBOURS_AGREE_C = 15.0, 8.0
"""A day that stands so far from both its neighbours, while they agree with each other (common practice)."""
STUCK_DAYS = 4
"""The same low and high for so many days in a row: no weather does that."""


def flags(days: Days, latitude_deg: float, elevation_m: float) -> tuple[tuple[str, ...], ...]:
    """What is unlikely about each day, as codes of FLAGS. Days need not be next to each other; spikes ask that."""
    count = len(days)
    if not count:
        return ()
    ra = et.extraterrestrial_radiation_mj(np.radians(latitude_deg), day_of_year(days.dates))
    clear = et.clear_sky_radiation_mj(elevation_m, ra)
    with np.errstate(invalid="ignore"):
        found = {
            "hot": days.tmax_c > HOTTEST_C,
            "cold": days.tmin_c < COLDEST_C,
            "wide": days.tmax_c - days.tmin_c > WIDEST_C,
            "rain_rare": days.rain_mm > RARE_RAIN_MM,
            "windy": days.wind_m_s > WINDIEST_M_S,
            "sun_over_clear_sky": days.radiation_mj_m2 > CLEAR_SKY_SLACK * clear,
            "spike_high": _spikes(days.dates, days.tmax_c),
            "spike_low": _spikes(days.dates, days.tmin_c),
            "stuck": _stuck(days),
            "eto_rare": days.eto_station_mm > RARE_ETO_MM,
        }
    return tuple(tuple(code for code in FLAGS if found[code][i]) for i in range(count))


def _spikes(dates: np.ndarray, values: np.ndarray) -> np.ndarray:
    """True where a value stands alone against the days before and after it."""
    result = np.zeros(len(values), bool)
    if len(values) < 3:
        return result
    before, after = values[:-2], values[2:]
    next_to = (dates[2:] - dates[:-2]).astype(int) == 2
    up = np.minimum(values[1:-1] - before, values[1:-1] - after)
    down = np.minimum(before - values[1:-1], after - values[1:-1])
    alone = np.maximum(up, down) > SPIKE_C
    result[1:-1] = next_to & alone & (np.abs(after - before) < NEIGHBOURS_AGREE_C)
    return result


def _stuck(days: Days) -> np.ndarray:
    """True for days of a run with the same low and high."""
    count = len(days)
    same = np.zeros(count, bool)
    if count < 2:
        return same
    same[1:] = (
        (days.tmin_c[1:] == days.tmin_c[:-1])
        & (days.tmax_c[1:] == days.tmax_c[:-1])
        & ((days.dates[1:] - days.dates[:-1]).astype(int) == 1)
    )
    result = np.zeros(count, bool)
    start = 0
    for i in range(1, count + 1):
        if i == count or not same[i]:
            if i - start >= STUCK_DAYS:
                result[start:i] = True
            start = i
    return result
