"""One unbroken series of days for the balance: gaps filled and said, snow held back, leaves in and out.

A filled day never has rain: rain is not invented. Where nothing can stand in for a day's ETo the series
says so by raising, since an unknown state is not a fine one.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any

import numpy as np

from june_shade.core.errors import InputError, NoWeatherError
from june_shade.core.numbers import Numbers
from june_shade.core.weather.daily import day_of_year

Day = Any
"""A date, a datetime64 or a text like 2026-07-15."""
Monthly = Sequence[float] | None
"""Twelve figures, January first, or none."""

MEASURED, FORECAST, NEIGHBOURS, NORMALS, RECENT = 0, 1, 2, 3, 4
"""How a day came to be: measured; a forecast; the mean of the 15 calendar days around it over stored years;
twelve monthly figures; for a day ahead that none of them knows, the mean of the last measured days."""
RECENT_DAYS = 7
RECENT_WITHIN_DAYS = 14
"""ETo of the weeks ahead is within about 15-25 % of the mean of the last 7 days (common practice)."""
WINDOW_DAYS = 7
"""Days on each side in the mean of 15 calendar days."""
FILLED_SAID_OVER = 3
FILLED_SAID_WITHIN_DAYS = 14
"""Over 3 filled days in 14 are said on every figure that rests on them."""

USUAL_MEAN_C, USUAL_TO_HIGH_C = 15.0, 6.0
"""A day's mean and how far over it its high is, where no temperature is known at all (common practice)."""
SNOW_BELOW_C = 0.0
MELT_ABOVE_C = 2.0
"""Rain of a day below 0 degC is held as snow and counts on the first day above 2 degC (calibrated)."""

LEAF_OUT_C = 10.0
LEAF_FALL_C = 7.0
LEAF_RAMP_DAYS = 30
LEAFLESS = 0.1
"""Leaves come when the 30-day mean temperature passes 10 degC, go below 7 degC, 30 days each (calibrated)."""
MONTH_DAYS = 30
"""Soil follows the mean of so many days of air temperature (calibrated)."""
COLD_DAYS = 5
"""Cold soil cuts the demand by the mean of so many days (calibrated)."""
FROZEN_MEAN_DAYS = 5
LEAST_HIGH_C = 4.0
"""No watering on frozen ground (mean of 5 days below 0 degC) or when the day's high stays below 4 degC [CSU]."""


@dataclass(frozen=True, slots=True)
class Series:
    """Days without a gap, arrays of shape (days,).

    dates datetime64[D]; eto_mm, tmean_c, tmax_c; rain_mm and rain_share (chance that is counted); chance 0..1;
    leaf of a deciduous tree; basis: one of the codes above; workable: ground not frozen and the day warm enough;
    month_c, five_days_c: mean temperature of up to 30 and up to 5 days ending that day.
    """

    dates: np.ndarray
    eto_mm: np.ndarray
    tmean_c: np.ndarray
    tmax_c: np.ndarray
    rain_mm: np.ndarray
    rain_share: np.ndarray
    chance: np.ndarray
    leaf: np.ndarray
    basis: np.ndarray
    workable: np.ndarray
    month_c: np.ndarray
    five_days_c: np.ndarray

    def __len__(self) -> int:
        return len(self.dates)

    def index(self, day: Day) -> int:
        """Position of a day; it may lie outside."""
        return int((np.datetime64(day, "D") - self.dates[0]).astype(int))

    def days(self, first: int = 0, end: int | None = None) -> "Series":
        """Some of the days: from the position of the first up to, not including, that of the end."""
        return Series(*(getattr(self, name)[first:end] for name in Series.__dataclass_fields__))


@dataclass(frozen=True, slots=True)
class Known:
    """What is known of a station: measured days and forecast days, arrays of shape (days,), NaN where missing.

    dates, eto_mm, tmin_c, tmax_c, rain_mm; chance 0..1 for the forecast (1 when measured).
    """

    dates: np.ndarray
    eto_mm: np.ndarray
    tmin_c: np.ndarray
    tmax_c: np.ndarray
    rain_mm: np.ndarray
    chance: np.ndarray

    @classmethod
    def nothing(cls) -> "Known":
        """No days at all."""
        empty = np.array([])
        return cls(np.array([], dtype="datetime64[D]"), empty, empty, empty, empty, empty)


def counted_rain_share(chance: Numbers) -> Numbers:
    """Share of a forecast rain that is counted: its chance, from one half up, else none."""
    return np.where(chance >= 0.5, chance, 0.0)


def assemble(
    measured: Known,
    forecast: Known,
    first: Day,
    last: Day,
    today: Day,
    monthly_eto_mm: Monthly = None,
    monthly_tmean_c: Monthly = None,
) -> Series:
    """An unbroken series first..last (both included), shorter where nothing is known of the days ahead.

    Before today: measured, else that day's last forecast (its rain left out: rain is never invented), else fill.
    From today on: measured where it is there, else forecast, else fill, else the mean of the last 7 measured days; it
    ends before the first day that nothing can stand in for. Raises NoWeatherError where that is today or earlier.
    """
    begins, ends, now = (np.datetime64(d, "D") for d in (first, last, today))
    dates = np.arange(begins, ends + 1)
    count = len(dates)
    eto, low, high = (np.full(count, np.nan) for _ in range(3))
    rain, chance = np.zeros(count), np.zeros(count)
    basis = np.full(count, -1)
    for known, code in ((forecast, FORECAST), (measured, MEASURED)):
        at = (known.dates - begins).astype(int)
        usable = (at >= 0) & (at < count) & ~np.isnan(known.eto_mm)
        at, source = at[usable], np.flatnonzero(usable)
        eto[at], low[at], high[at] = known.eto_mm[source], known.tmin_c[source], known.tmax_c[source]
        counted = code == MEASURED or dates[at] >= now
        rain[at] = np.where(counted, np.nan_to_num(known.rain_mm[source]), 0.0)
        chance[at] = np.where(counted, np.nan_to_num(known.chance[source]), 0.0)
        basis[at] = code
    mean = (low + high) / 2
    _fill(dates, eto, mean, high, basis, measured, monthly_eto_mm, monthly_tmean_c)
    _go_on(dates, eto, mean, high, basis, measured, now)
    known_days = _known_length(dates, eto, now)
    dates, basis = dates[:known_days], basis[:known_days]
    eto, mean, high, rain, chance = (a[:known_days] for a in (eto, mean, high, rain, chance))
    share = np.where(basis == MEASURED, 1.0, counted_rain_share(chance))
    rain, share = hold_snow(rain, share, mean)
    leaf = leaf_share(mean)
    month, five = running_mean(mean, MONTH_DAYS), running_mean(mean, COLD_DAYS)
    return Series(dates, eto, mean, high, rain, share, chance, leaf, basis, workable_days(mean, high), month, five)


def _fill(
    dates: np.ndarray,
    eto: np.ndarray,
    mean: np.ndarray,
    high: np.ndarray,
    basis: np.ndarray,
    measured: Known,
    monthly_eto_mm: Monthly,
    monthly_tmean_c: Monthly,
) -> None:
    """Fill the gaps of an array set in place (these are assemble's own arrays)."""
    missing = np.flatnonzero(np.isnan(eto))
    no_temperature = np.flatnonzero(np.isnan(mean))
    if not len(missing) and not len(no_temperature):
        return
    near_eto = _near_mean(measured.dates, measured.eto_mm, dates)
    near_mean = _near_mean(measured.dates, (measured.tmin_c + measured.tmax_c) / 2, dates)
    near_high = _near_mean(measured.dates, measured.tmax_c, dates)
    month = dates.astype("datetime64[M]").astype(int) % 12
    for i in missing:
        if not np.isnan(near_eto[i]):
            eto[i], basis[i] = near_eto[i], NEIGHBOURS
        elif monthly_eto_mm is not None:
            eto[i], basis[i] = monthly_eto_mm[month[i]], NORMALS
    for i in no_temperature:
        normal = USUAL_MEAN_C if monthly_tmean_c is None else monthly_tmean_c[month[i]]
        mean[i] = near_mean[i] if not np.isnan(near_mean[i]) else normal
        high[i] = near_high[i] if not np.isnan(near_high[i]) else mean[i] + USUAL_TO_HIGH_C


def _go_on(
    dates: np.ndarray,
    eto: np.ndarray,
    mean: np.ndarray,
    high: np.ndarray,
    basis: np.ndarray,
    measured: Known,
    today: np.datetime64,
) -> None:
    """Let the last measured days stand in for days ahead that nothing else does (in place, as `_fill`)."""
    before = (measured.dates < today) & (measured.dates >= today - RECENT_WITHIN_DAYS) & ~np.isnan(measured.eto_mm)
    last = np.flatnonzero(before)[-RECENT_DAYS:]
    open_days = np.isnan(eto) & (dates >= today)
    if not len(last) or not np.any(open_days):
        return
    eto[open_days], basis[open_days] = np.mean(measured.eto_mm[last]), RECENT
    lows, highs = measured.tmin_c[last], measured.tmax_c[last]
    warm = ~np.isnan(lows + highs)
    if np.any(warm):
        mean[open_days], high[open_days] = np.mean((lows + highs)[warm]) / 2, np.mean(highs[warm])


def _known_length(dates: np.ndarray, eto: np.ndarray, today: np.datetime64) -> int:
    """How many days from the first on have an ETo; it must reach today."""
    missing = np.flatnonzero(np.isnan(eto))
    if not len(missing):
        return len(dates)
    if dates[missing[0]] <= today:
        raise NoWeatherError(
            f"no weather for {dates[missing[0]]}, and nothing to stand in for it: import days, fetch a forecast "
            "or type twelve monthly figures",
            "weather",
        )
    return int(missing[0])


def _near_mean(known_dates: Numbers, values: Numbers, dates: Numbers) -> Numbers:
    """Mean of the values within 7 calendar days of each date, over all years; NaN where there are none."""
    good = ~np.isnan(values)
    by_day = np.zeros(367)
    count = np.zeros(367)
    days = np.minimum(day_of_year(known_dates[good]), 365)
    np.add.at(by_day, days, values[good])
    np.add.at(count, days, 1)
    ring_sum, ring_count = by_day[1:366], count[1:366]
    span = range(-WINDOW_DAYS, WINDOW_DAYS + 1)
    total = sum(np.roll(ring_sum, k) for k in span)
    seen = sum(np.roll(ring_count, k) for k in span)
    with np.errstate(invalid="ignore", divide="ignore"):
        mean = np.where(seen > 0, total / seen, np.nan)
    return mean[np.minimum(day_of_year(dates), 365) - 1]


def hold_snow(rain_mm: Numbers, rain_share: Numbers, mean_c: Numbers) -> Numbers:
    """Rain [mm] and its counted share with snow held to the first day above 2 degC; nothing is lost."""
    rain, share = rain_mm.copy(), rain_share.copy()
    held = 0.0
    for i in range(len(rain)):
        if mean_c[i] < SNOW_BELOW_C:
            held += rain[i] * share[i]
            rain[i] = 0.0
        elif held and mean_c[i] > MELT_ABOVE_C:
            rain[i], share[i] = rain[i] * share[i] + held, 1.0
            held = 0.0
    return rain, share


def running_mean(values: Numbers, days: int) -> Numbers:
    """Mean of the last `days` values up to and including each; of fewer at the start."""
    total = np.concatenate([[0.0], np.cumsum(values)])
    at = np.arange(1, len(values) + 1)
    start = np.maximum(0, at - days)
    return (total[at] - total[start]) / (at - start)


def leaf_share(mean_c: Numbers) -> Numbers:
    """Leaf of a deciduous tree 0.1..1 from mean temperatures [degC] (calibrated)."""
    mean = running_mean(mean_c, LEAF_RAMP_DAYS)
    step = (1.0 - LEAFLESS) / LEAF_RAMP_DAYS
    leaf = np.empty(len(mean))
    in_leaf = len(mean) > 0 and mean[0] >= (LEAF_OUT_C + LEAF_FALL_C) / 2
    now = 1.0 if in_leaf else LEAFLESS
    for i, value in enumerate(mean):
        if value > LEAF_OUT_C:
            in_leaf = True
        elif value < LEAF_FALL_C:
            in_leaf = False
        now = min(1.0, now + step) if in_leaf else max(LEAFLESS, now - step)
        leaf[i] = now
    return leaf


def month_day(text: str, field: str) -> tuple[int, int]:
    """A day of any year written MM-DD, as (month, day). Raises InputError for what is none."""
    try:
        found = date.fromisoformat(f"2024-{text}")
    except ValueError:
        raise InputError(f"{text!r} is not a day of the year like 04-20", field) from None
    return found.month, found.day


def leaf_by_dates(dates: np.ndarray, out: str, fall: str) -> np.ndarray:
    """Leaf of a kind that comes into leaf and drops it on known days (MM-DD), 30 days each (calibrated).

    dates: datetime64[D], without gaps. Works in both hemispheres.
    """

    def since(text: str, field: str) -> np.ndarray:
        month, day = month_day(text, field)
        years = dates.astype("datetime64[Y]").astype(int) + 1970
        starts = np.array([np.datetime64(date(int(y), month, min(day, 28) if month == 2 else day), "D") for y in years])
        days = (dates - starts).astype(int)
        before = np.array(
            [np.datetime64(date(int(y) - 1, month, min(day, 28) if month == 2 else day), "D") for y in years]
        )
        return np.where(days >= 0, days, (dates - before).astype(int))

    up, down = since(out, "leaf_out"), since(fall, "leaf_fall")
    rising = LEAFLESS + (1 - LEAFLESS) * np.clip((up + 1) / LEAF_RAMP_DAYS, 0, 1)
    falling = 1 - (1 - LEAFLESS) * np.clip((down + 1) / LEAF_RAMP_DAYS, 0, 1)
    return np.maximum(LEAFLESS, np.where(up < down, rising, falling))


def leaf_after_bud_break(dates: np.ndarray, bud_break: date | None) -> np.ndarray:
    """Leaf of bare-root stock: leafless until bud break is logged, then 30 days to full. bud_break: date or None.

    dates: datetime64[D], array (days,).
    """
    if bud_break is None:
        return np.full(len(dates), LEAFLESS)
    days = (dates - np.datetime64(bud_break, "D")).astype(int)
    return np.clip(LEAFLESS + (1.0 - LEAFLESS) * (days + 1) / LEAF_RAMP_DAYS, LEAFLESS, 1.0)


def workable_days(mean_c: Numbers, high_c: Numbers) -> Numbers:
    """True where water may be given: ground not frozen, and the day's high at 4 degC or more."""
    return (running_mean(mean_c, FROZEN_MEAN_DAYS) >= 0.0) & (high_c >= LEAST_HIGH_C)


def filled_too_many(basis: Numbers) -> bool:
    """Whether over 3 of the last 14 days given were filled (a measured day or a forecast ahead is not).

    basis: codes of how each day came to be, array (days,).
    """
    recent = basis[-FILLED_SAID_WITHIN_DAYS:]
    return int(np.sum(recent != MEASURED)) > FILLED_SAID_OVER
