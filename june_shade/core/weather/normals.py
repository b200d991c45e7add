"""The season so far against the station's own other years, on the same calendar days."""

from dataclasses import dataclass
from datetime import date

import numpy as np

from june_shade.core.weather.daily import Days

MOST_MISSING = 0.1
"""A year counts where at most so much of the season's days are missing."""


@dataclass(frozen=True, slots=True)
class Season:
    """Sums [mm] from a day on, today left out, beside the mean of `years` other years (None where there are none).

    measured_days of days: what this year's sums rest on.
    """

    since: date
    days: int
    measured_days: int
    years: int
    eto_mm: float
    rain_mm: float
    eto_usual_mm: float | None
    rain_usual_mm: float | None


def season_start(today: date, latitude_deg: float) -> date:
    """Where the season is counted from: 1 January in the north, 1 July in the south."""
    if latitude_deg >= 0:
        return date(today.year, 1, 1)
    return date(today.year if today.month >= 7 else today.year - 1, 7, 1)


def season(days: Days, eto_mm: np.ndarray, today: date, latitude_deg: float) -> Season:
    """The season so far at a station beside its own other years. eto_mm: (days,), NaN where it can't be had."""
    start = season_start(today, latitude_deg)
    length = (today - start).days
    own = _sums(days, eto_mm, start, length)
    others = []
    first_year = days.dates[0].item().year if len(days) else today.year
    for year in range(first_year - 1, start.year):
        begin = start.replace(year=year)
        found = _sums(days, eto_mm, begin, length)
        if length and found[2] >= (1 - MOST_MISSING) * length:
            others.append(found[:2])
    usual = np.mean(others, axis=0) if others else (None, None)
    return Season(
        start, length, own[2], len(others), own[0], own[1],
        None if usual[0] is None else float(usual[0]), None if usual[1] is None else float(usual[1]),
    )  # fmt: skip


def _sums(days: Days, eto_mm: np.ndarray, start: date, length: int) -> tuple[float, float, int]:
    """ETo and rain of `length` days from a day on [mm] and how many were measured."""
    since = (days.dates - np.datetime64(start, "D")).astype(int)
    within = (since >= 0) & (since < length)
    eto, rain = eto_mm[within], days.rain_mm[within]
    known = int(np.sum(~np.isnan(eto)))
    return float(np.nansum(eto)), float(np.nansum(rain)), known
