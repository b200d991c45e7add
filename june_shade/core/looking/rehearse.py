"""A season under several routines side by side: what each takes, what it costs the tree, and why it does not fit."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

import numpy as np

from june_shade.core.water import routine
from june_shade.core.water.balance import FULL_LEAF, thirsty
from june_shade.core.water.routine import Routine, SideDay, Sky, Start
from june_shade.core.water.stores import Reach, Trees
from june_shade.core.water.weather import Weather

TOO_DRY, TOO_WET, WASTEFUL = 0.05, 0.15, 0.40
"""Shares of days thirsty and soggy, and of the water that drains beyond what rain alone drains, from which on a routine
does not fit (calibrated)."""


@dataclass(frozen=True, slots=True)
class Month:
    """A month of a rehearsed season."""

    month: str
    waterings: int
    gross_l: float
    thirsty_days: int


@dataclass(frozen=True, slots=True)
class Rehearsed:
    """A routine's season: water [L], days, least uptake, how far the tree has established itself 0..1 and since when;
    reasons against it as codes."""

    name: str
    waterings: int
    gross_l: float
    drained_l: float
    transpired_l: float
    thirsty_days: int
    longest_thirst_days: int
    lowest_ks: float
    soggy_days: int
    establishment: float
    established_on: date | None
    reasons: tuple[str, ...]
    months: tuple[Month, ...]


@dataclass(frozen=True, slots=True)
class Stage:
    """What is rehearsed: one tree, where it opens, its days with their dates and sky, efficiency of the delivery."""

    trees: Trees
    reach: Reach
    start: Start
    dates: Sequence[date]
    days: list[Weather]
    sky: Sky
    efficiency: float

    def run(self, followed: Sequence[Routine]) -> list[SideDay]:
        """The season under each routine."""
        return routine.side_by_side(self.trees, self.reach, self.start, self.days, followed, self.efficiency, self.sky)


def rehearse(stage: Stage, routines: Sequence[Routine]) -> list[Rehearsed]:
    """Each routine's season, in the order asked for."""
    days = stage.run([*routines, Routine("none")])
    rain_alone_l = _sum(days, "drained_l", len(routines))
    return [_summed(stage, followed.name, days, column, rain_alone_l) for column, followed in enumerate(routines)]


def _sum(days: Sequence[SideDay], name: str, column: int) -> float:
    return float(sum(getattr(day.moved, name)[column] for day in days))


def _summed(stage: Stage, name: str, days: list[SideDay], column: int, rain_alone_l: float) -> Rehearsed:
    dry = [
        bool(thirsty(weather.leaf, day.moved.ks, day.moved.air)[column])
        for weather, day in zip(stage.days, days, strict=True)
    ]
    in_leaf = [bool(np.max(weather.leaf) > FULL_LEAF) for weather in stage.days]
    soggy = sum(bool(day.moved.soggy[column]) for day in days)
    gross = [float(day.gross_l[column]) for day in days]
    drained, net, transpired = (_sum(days, name, column) for name in ("drained_l", "net_l", "transpired_l"))
    established = next(
        (when for when, day in zip(stage.dates, days, strict=True) if day.ground.establishment[column] >= 1), None
    )
    reasons = [code for code, holds in (
        ("too_dry", sum(dry) > TOO_DRY * len(days)), ("too_wet", soggy > TOO_WET * len(days)),
        ("wasteful", drained - rain_alone_l > WASTEFUL * net),
    ) if holds]  # fmt: skip
    return Rehearsed(
        name, sum(litres > 0 for litres in gross), sum(gross), drained, transpired, sum(dry),
        _longest(dry, in_leaf), float(min(day.moved.ks[column] for day in days)), soggy,
        float(days[-1].ground.establishment[column]), established, tuple(reasons), _months(stage.dates, gross, dry),
    )  # fmt: skip


def _longest(dry: Sequence[bool], in_leaf: Sequence[bool]) -> int:
    """The longest run of thirsty days; a leafless day ends one."""
    longest = run = 0
    for is_dry, leafy in zip(dry, in_leaf, strict=True):
        run = run + 1 if is_dry and leafy else 0
        longest = max(longest, run)
    return longest


def _months(dates: Sequence[date], gross_l: Sequence[float], dry: Sequence[bool]) -> tuple[Month, ...]:
    found: dict[str, tuple[int, float, int]] = {}
    for day, litres, is_dry in zip(dates, gross_l, dry, strict=True):
        n, sum_l, thirst = found.get(f"{day:%Y-%m}", (0, 0.0, 0))
        found[f"{day:%Y-%m}"] = n + (litres > 0), sum_l + litres, thirst + is_dry
    return tuple(Month(month, *values) for month, values in found.items())
