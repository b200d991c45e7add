"""How mulch wastes away, what measured depths say of it, when it wants topping up. Depths m, settled."""

import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np

from june_shade.core.numbers import Numbers

FULL_COVER_DEPTH_M = 0.05
"""Depth that works as full cover in the water model; also where a top-up is called for."""
DAYS_A_YEAR = 365.25
TRUST_YEARS = 0.5
"""Readings weigh against the table's pace as so many years of watching (calibrated: a reading is good to 12 mm)."""
LEAST_DAYS = 30
"""Readings closer together than this tell their own error, not a pace."""
SLOWEST, FASTEST = 3.0, 1 / 3
"""A tree's own time constant stays within these times the table's."""


def wasted_depth_m(depth_m: Numbers, years: Numbers, wasting_years: Numbers) -> Numbers:
    """Depth left after `years` [m]: d0 exp(-t/T), T in years (inf = does not waste). Arrays broadcast."""
    return depth_m * np.exp(-np.maximum(0.0, years) / wasting_years)


def half_life_months(wasting_years: float | None) -> float | None:
    """Months in which half of it is gone: 12 T ln 2; None = it does not waste."""
    return None if wasting_years is None else 12 * wasting_years * float(np.log(2))


def depth_share(depth_m: Numbers) -> Numbers:
    """How much of the depth that works as full cover is there, 0..1."""
    return np.clip(depth_m / FULL_COVER_DEPTH_M, 0.0, 1.0)


@dataclass(frozen=True, slots=True)
class Reading:
    """A settled depth on a day. laid: mulch was put there that day, so that it begins anew."""

    day: date
    depth_m: float
    laid: bool


def own_years(table_years: float | None, readings: Sequence[Reading]) -> float | None:
    """A tree's own time constant T [years] by its readings in order of time, None for what does not waste.

    1/T = (sum ln(d1/d2) + w/T0) / (sum t + w), over pairs without laying between them; T0 the table's, w years of
    trust in it (calibrated). Held between a third and three times the table's.
    """
    if table_years is None:
        return None
    lost, watched = 0.0, 0.0
    for before, after in itertools.pairwise(readings):
        days = (after.day - before.day).days
        if after.laid or days < LEAST_DAYS or before.depth_m <= 0 or after.depth_m <= 0:
            continue
        lost += float(np.log(before.depth_m / after.depth_m))
        watched += days / DAYS_A_YEAR
    pace = max(1e-9, (lost + TRUST_YEARS / table_years) / (watched + TRUST_YEARS))
    return float(np.clip(1 / pace, FASTEST * table_years, SLOWEST * table_years))


def thin_on(depth_m: float, measured: date, wasting_years: float | None) -> date | None:
    """The day on which it is thinner than full cover, None where it never will be: t = T ln(d/5 cm)."""
    if wasting_years is None:
        return measured if depth_m < FULL_COVER_DEPTH_M else None
    if depth_m <= FULL_COVER_DEPTH_M:
        return measured
    return measured + timedelta(days=DAYS_A_YEAR * wasting_years * float(np.log(depth_m / FULL_COVER_DEPTH_M)))
