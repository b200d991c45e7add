"""When to plant: the months of a usual year side by side, then the days of the coming fortnight.

A usual year is put together of whole months that were measured, each from the year in which it was most usual.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

import numpy as np

from june_shade.core.numbers import Numbers
from june_shade.core.soil.textures import Soil
from june_shade.core.weather.series import LEAFLESS, MEASURED, Known, Series

FROST_C, HEAT_C = -2.0, 32.0
"""Nothing is planted on a day colder or hotter than this (common practice)."""
MOST_BAD_DAYS = 3.0
"""A month with so many days of frost or of heat on the mean is none to plan for (common practice)."""
MONTHS, YEARS, MONTH_OF_DAYS, LEAST_SHARE = 12, 4, 15, 0.9
"""Plantings are compared on the middle of each month, over so many years: a planting late in the southern year ends
its second summer in the fourth. A month counts if this share of its days was measured."""
FIRST_YEAR = 2001
"""The usual year is laid out in years without a leap day."""
SUMMER_BEGINS, SEASON_ENDS_DAYS = {False: (5, 31), True: (11, 30)}, 153
"""A summer is one of the tree's first two if it is planted by then, in the north and in the south: what is left of one
that has begun comes on top, so that all months have two whole summers. Its season ends so many days later."""
LEAFLESS_UNDER = (1.0 + LEAFLESS) / 2
LEAVES_MIND = ("balled", "bare_root")
"""Stock that is moved while it is leafless (common practice)."""
TOPSOIL_M, BARE_KC, READILY_SHARE = 0.3, 1.15, 0.4
"""Ground that is dug; evaporation from wet bare soil against ETo, and which share of what can evaporate leaves at full
pace ([FAO56] ch. 7, tables 17 and 19: readily evaporable water is some two fifths of all)."""
TOO_WET_SHARE, DRY_SHARE = 1.0 / 3.0, 0.25
"""Too wet to dig over field capacity and that share of the drainable water; dug dry under that share of the
available."""
PLANTING_MIN = 45.0
"""Minutes of a crew to dig, plant and water in one tree by hand (common practice)."""
DAYS = 14


def usual_year(series: Series) -> Known | None:
    """A usual year, laid out YEARS times from the first of January on; None where a month was never measured whole.

    Of each calendar month the year is taken whose ETo less rain is the median of the years measured, as typical
    meteorological years are made, by what matters to a balance.
    """
    months = series.dates.astype("datetime64[M]")
    of_month = months.astype(int) % MONTHS
    chosen: list[np.ndarray] = []
    for month in range(MONTHS):
        whole = []
        for one in np.unique(months[of_month == month]):
            at = np.flatnonzero(months == one)
            days = int(((one + 1).astype("datetime64[D]") - one.astype("datetime64[D]")).astype(int))
            if len(at) == days and np.mean(series.basis[at] == MEASURED) >= LEAST_SHARE:
                whole.append(at[:28] if month == 1 else at)
        if not whole:
            return None
        need = [float(np.sum(series.eto_mm[at] - series.rain_mm[at] * series.rain_share[at])) for at in whole]
        chosen.append(whole[int(np.argsort(need, kind="stable")[(len(need) - 1) // 2])])
    at = np.tile(np.concatenate(chosen), YEARS)
    first = np.datetime64(f"{FIRST_YEAR}-01-01", "D")
    dates = first + np.arange(len(at))
    low = 2 * series.tmean_c[at] - series.tmax_c[at]
    rain = series.rain_mm[at] * series.rain_share[at]
    return Known(dates, series.eto_mm[at], low, series.tmax_c[at], rain, np.ones(len(at)))


def planting_days() -> list[date]:
    """The middle of each month of the first year."""
    return [date(FIRST_YEAR, month + 1, MONTH_OF_DAYS) for month in range(MONTHS)]


def season_end(planted_on: date, *, southern: bool) -> date:
    """The last day of the second whole summer's season of a tree planted then."""
    month, day = SUMMER_BEGINS[southern]
    years = [year for year in range(planted_on.year, planted_on.year + 4) if date(year, month, day) >= planted_on]
    return date.fromordinal(date(years[1], month, day).toordinal() + SEASON_ENDS_DAYS)


@dataclass(frozen=True, slots=True)
class Month:
    """A month to plant in, 1..12: water to the end of the second whole summer [L] a tree; days of hard frost and of
    heat in it on the mean; leafless: trees that drop their leaves have none; why it is not proposed, as codes."""

    month: int
    litres: float
    frost_days: float
    heat_days: float
    leafless: bool
    against: tuple[str, ...]


def months(
    series: Series, usual: Series, litres: Sequence[float], kind: str, *, evergreen: bool = False
) -> tuple[Month, ...]:
    """The twelve months. series: all days measured; usual: the usual year; litres: of a planting in each [L]; kind: of
    stock; evergreen: it never is leafless."""
    measured = series.basis == MEASURED
    low = 2 * series.tmean_c - series.tmax_c
    of_month = series.dates.astype("datetime64[M]").astype(int) % MONTHS
    found = []
    for month, day in enumerate(planting_days()):
        at = measured & (of_month == month)
        per = 30.0 / max(1, int(np.sum(at)))
        frost, heat = (float(np.sum(one[at])) * per for one in (low < FROST_C, series.tmax_c > HEAT_C))
        leafless = bool(usual.leaf[usual.index(day)] < LEAFLESS_UNDER) and not evergreen
        against = []
        if frost >= MOST_BAD_DAYS:
            against.append("frost")
        if heat >= MOST_BAD_DAYS:
            against.append("heat")
        if kind in LEAVES_MIND and not leafless and not evergreen:
            against.append("in_leaf")
        found.append(Month(month + 1, float(litres[month]), frost, heat, leafless, tuple(against)))
    return tuple(found)


def best_month(found: Sequence[Month]) -> Month | None:
    """The month with least water among those that nothing speaks against, None where something always does."""
    good = [one for one in found if not one.against]
    return min(good, key=lambda one: one.litres) if good else None


def saved_share(found: Sequence[Month], planned_month: int) -> float | None:
    """By which share a tree planted in the best month takes less water than in the planned one, 0 where it takes as
    much or more; None where no month is proposed.

    planned_month: 1..12.
    """
    best = best_month(found)
    if best is None:
        return None
    planned = next(one.litres for one in found if one.month == planned_month)
    return max(0.0, 1.0 - best.litres / planned) if planned > 0 else 0.0


@dataclass(frozen=True, slots=True)
class Topsoil:
    """Bare ground of the top 0.3 m at each day's end, arrays (days,): water above field capacity as a share of the
    drainable, water left as a share of the available; both 0..1."""

    over: np.ndarray
    available: np.ndarray


def topsoil(eto_mm: Numbers, rain_mm: Numbers, soil: Soil) -> Topsoil:
    """Bare soil through days from field capacity: rain fills, what is over drains, the surface dries.

    Evaporation by the coefficient Kr of [FAO56] eq. 74: at full pace until the readily evaporable water is gone, then
    less in proportion. eto_mm, rain_mm: of each day [mm], arrays (days,); rain as it counts.
    """
    holds, drains = 1000.0 * TOPSOIL_M * soil.awc, 1000.0 * TOPSOIL_M * soil.drainable
    can_leave = 1000.0 * TOPSOIL_M * (soil.awc + 0.5 * soil.wilting_point)
    readily = READILY_SHARE * can_leave / 3.0
    water = 0.0  # above field capacity where positive, gone from it where negative
    over, left = [], []
    for eto, rain in zip(eto_mm, rain_mm, strict=True):
        water = min(drains, water + float(rain))
        if water > 0:
            water -= water * soil.drain_share
        gone = max(0.0, -water)
        pace = 1.0 if gone <= readily else max(0.0, (can_leave - gone) / (can_leave - readily))
        water = max(-can_leave, water - pace * BARE_KC * float(eto))
        over.append(max(0.0, water) / drains)
        left.append(float(np.clip(1.0 + water / holds, 0.0, 1.0)))
    return Topsoil(np.array(over), np.array(left))


@dataclass(frozen=True, slots=True)
class PlantingDay:
    """A day to plant on: low and high [degC], minutes that the crew has left [min], None = no limit; water of the
    batch's first fortnight [L], its first soaking among it; why it is not one, as codes; dig_dry: water the ground the
    day before."""

    day: date
    low_c: float
    high_c: float
    left_min: float | None
    litres: float
    against: tuple[str, ...]
    dig_dry: bool


def day_of(
    day: date, *, low_c: float, high_c: float, over: float, available: float, left_min: float | None,
    needs_min: float, litres: float,
) -> PlantingDay:  # fmt: skip
    """One day judged: ground, frost, heat, hands. over, available: of the topsoil that morning, shares 0..1.

    low_c, high_c [degC]; left_min, needs_min: minutes left and needed [min]; litres: first fortnight's water [L].
    """
    against = []
    if over > TOO_WET_SHARE:
        against.append("too_wet")
    if low_c < FROST_C:
        against.append("frost")
    if high_c > HEAT_C:
        against.append("heat")
    if left_min is not None and left_min < needs_min:
        against.append("no_hands")
    return PlantingDay(day, low_c, high_c, left_min, litres, tuple(against), available < DRY_SHARE)


def best_day(found: Sequence[PlantingDay]) -> PlantingDay | None:
    """The day with least water in its first fortnight among those that nothing speaks against."""
    good = [one for one in found if not one.against]
    return min(good, key=lambda one: (one.litres, one.day)) if good else None


def nearest_day(found: Sequence[PlantingDay]) -> PlantingDay | None:
    """The first of the days that least speaks against, None where there are no days."""
    return min(found, key=lambda one: (len(one.against), one.day)) if found else None
