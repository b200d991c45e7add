"""A soil probe: what its hourly values say of a store, and which of them are no readings (docs/devices.md).

Values are arrays (hours, depths), an hour apart, NaN where an hour is missing.
"""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from june_shade.core.errors import InputError
from june_shade.core.numbers import Numbers

MARS, SPIKE, STUCK, FROZEN = DOUBTS = ("mars", "spike", "stuck", "frozen")
"""What a value may be instead of a reading: none that any soil has, a jump, one that never moves, of frozen soil."""
OVER_SATURATION = 0.02
SPIKE_M3_M3, WET_HOURS = 0.10, 6
STUCK_WITHIN, STUCK_HOURS, STUCK_ETO_MM = 0.0005, 48, 2.0
FROZEN_C = 0.5
"""From where on a value is none (common practice)."""
NIGHT_HOURS, LEAST_HOURS = 6, 4
"""A day's reading is of the hours from midnight on when nothing is drunk, of so many of them at least."""
GAP, ELSEWHERE = "gap", "elsewhere"
"""Why a night has no reading, besides doubts: too few hours; no sensor that lies in the store."""
WHYS = ("", GAP, ELSEWHERE, *DOUBTS)
LOOK_BACK_HOURS = 72
"""So many hours before a night's end are looked at: what moved, what jumped."""
LEAST_APART = 0.03
"""Two points of a calibration that lie closer say nothing of its slope [m3/m3] (calibrated)."""


def shares(depths_m: Sequence[float], top_m: float, bottom_m: float) -> np.ndarray:
    """How much of a store each depth stands for, array (depths,) that adds up to 1; all 0 where none lies in it.

    depths_m: of the sensors, rising; each stands for the soil from halfway to the one above to halfway to the one
    below, the first from the surface on, the last as far down as up. top_m, bottom_m: of the store. Raises InputError
    for depths that do not rise from above 0.
    """
    at = np.asarray(depths_m, float)
    if len(at) == 0 or at[0] <= 0 or np.any(np.diff(at) <= 0):
        raise InputError("must rise from above 0", "depths_m")
    halfway = (at[1:] + at[:-1]) / 2
    last = at[-1] + (at[-1] - (halfway[-1] if len(halfway) else 0.0))
    tops, bottoms = np.concatenate([[0.0], halfway]), np.concatenate([halfway, [last]])
    inside = np.maximum(0.0, np.minimum(bottoms, bottom_m) - np.maximum(tops, top_m))
    whole = inside.sum()
    return inside / whole if whole > 0 else inside


def calibrated(theta_m3_m3: Numbers, points: Sequence[tuple[float, float]]) -> np.ndarray:
    """Values on the line through what is known: two points (read, true) give its slope, one shifts it, none leaves it.

    Raises InputError for more than two points, two that lie too close, or the wrong way round.
    """
    values = np.asarray(theta_m3_m3, float)
    if not points:
        return values
    if len(points) == 1:
        (read, true), slope = points[0], 1.0
    else:
        if len(points) > 2:
            raise InputError("takes two points at most, a dry and a wet one", "points")
        (read, true), (other, its) = points
        if abs(other - read) < LEAST_APART:
            raise InputError("lie too close to say how it scales: take one dry and one wet", "points")
        slope = (its - true) / (other - read)
        if slope <= 0:
            raise InputError(
                "read less where the soil was wetter: one of the two is a slip, take it back first", "points"
            )
    return np.asarray(true + slope * (values - read))


def doubts(
    theta_m3_m3: np.ndarray, temperature_c: np.ndarray, eto_mm: np.ndarray, wetted: np.ndarray, saturation_m3_m3: float
) -> np.ndarray:
    """What each value is instead of a reading, '' where it is one; array of text (hours, depths).

    eto_mm: what the air took in each hour, wetted: whether rain or a watering fell in it, arrays (hours,).
    """
    found = np.full(theta_m3_m3.shape, "", dtype="<U6")
    with np.errstate(invalid="ignore"):
        found[temperature_c < FROZEN_C] = FROZEN
        found[_stuck(theta_m3_m3, eto_mm)] = STUCK
        mars = (theta_m3_m3 < 0) | (theta_m3_m3 > saturation_m3_m3 + OVER_SATURATION)
        before = _filled(np.where(mars, np.nan, theta_m3_m3))  # what can't be is nothing to rise from
        rise = np.vstack([np.zeros((1, theta_m3_m3.shape[1])), np.diff(before, axis=0)])
        lately = np.convolve(wetted.astype(float), np.ones(WET_HOURS + 1))[: len(wetted)] > 0
        found[(rise > SPIKE_M3_M3) & ~lately[:, None]] = SPIKE
        found[mars] = MARS
    return found


def _filled(values: np.ndarray) -> np.ndarray:
    """Missing hours with the last value before them, to see what a value jumped from."""
    at = np.where(np.isnan(values), 0, np.arange(len(values))[:, None])
    np.maximum.accumulate(at, axis=0, out=at)
    return np.take_along_axis(values, at, axis=0)


def _stuck(values: np.ndarray, eto_mm: np.ndarray) -> np.ndarray:
    """Values that have not moved for two days on which the air took water, each hour of those days."""
    found = np.zeros(values.shape, bool)
    taken = np.concatenate([[0.0], np.cumsum(eto_mm)])
    for end in range(STUCK_HOURS, len(values) + 1):
        part = values[end - STUCK_HOURS : end]
        still = np.ptp(part, axis=0) <= STUCK_WITHIN  # an hour that is missing is not still
        if taken[end] - taken[end - STUCK_HOURS] > STUCK_ETO_MM:
            found[end - STUCK_HOURS : end] |= still
    return found


def night_m3_m3(theta_m3_m3: np.ndarray, doubted: np.ndarray) -> np.ndarray:
    """A day's reading of each depth: the median of its hours from midnight to 6 that are readings, NaN where there are
    too few; array (depths,). theta_m3_m3, doubted: of those hours, arrays (hours, depths)."""
    good = (doubted == "") & ~np.isnan(theta_m3_m3)
    enough = good.sum(axis=0) >= LEAST_HOURS
    kept = np.where(good & enough, theta_m3_m3, np.nan)
    found = np.full(theta_m3_m3.shape[1], np.nan)
    if np.any(enough):
        found[enough] = np.nanmedian(kept[:, enough], axis=0)
    return found


def of_store(night: np.ndarray, share: np.ndarray) -> float:
    """What a day's reading says of a store [m3/m3]; NaN where no depth in it was read.

    night: of each depth [m3/m3]; share: of the store that each stands for.
    """
    there = ~np.isnan(night) & (share > 0)
    return float(np.sum(night[there] * share[there]) / np.sum(share[there])) if np.any(there) else float("nan")


@dataclass(frozen=True, slots=True)
class Night:
    """A day's reading of a store [m3/m3], NaN where it has none; why it has none: '' = it has one, GAP, ELSEWHERE, or
    what most of its hours were instead."""

    theta_m3_m3: float
    why: str


def night(theta_m3_m3: np.ndarray, doubted: np.ndarray, share: np.ndarray) -> Night:
    """What the hours up to six in the morning say of a store: the last of these arrays (hours, depths).

    doubted: see `doubts`; share: of the store that each depth stands for, array (depths,).
    """
    if not np.any(share > 0):
        return Night(float("nan"), ELSEWHERE)
    values, wrong = theta_m3_m3[-NIGHT_HOURS:], doubted[-NIGHT_HOURS:]
    found = of_store(night_m3_m3(values, wrong), share)
    if not np.isnan(found):
        return Night(found, "")
    inside = wrong[:, share > 0][~np.isnan(values[:, share > 0])]
    counted = Counter(inside[inside != ""].tolist())
    return Night(found, counted.most_common(1)[0][0] if counted else GAP)
