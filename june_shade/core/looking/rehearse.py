"""A season under several routines side by side: what each takes, what it costs the tree, and why it does not fit."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

import numpy as np

from june_shade.core.water import routine
from june_shade.core.water.balance import FULL_LEAF, Fluxes, thirsty
from june_shade.core.water.ground import Ground
from june_shade.core.water.routine import SideDay, Start
from june_shade.core.water.schools import Routine, Sky
from june_shade.core.water.stores import Array, Reach, Trees
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
class Seasons:
    """One tree's season under several routines, arrays (days, routines): leaf 0..1; water poured, arrived, drained and
    transpired [L]; uptake share ks and what of the demand air lets roots take, 0..1; soggy; how far established 0..1.
    """

    dates: Sequence[date]
    leaf: Array
    gross_l: Array
    net_l: Array
    drained_l: Array
    transpired_l: Array
    ks: Array
    air: Array
    soggy: Array
    establishment: Array

    @classmethod
    def of_days(
        cls, dates: Sequence[date], leaf: Sequence[Array | float], gross_l: Sequence[Array], moved: Sequence[Fluxes],
        grounds: Sequence[Ground],
    ) -> "Seasons":  # fmt: skip
        """From days as they were walked. dates: of each; leaf: its leaves; gross_l: poured [L]; moved: what it came
        to; grounds: the ground of each."""

        def rows(name: str) -> Array:
            return np.stack([getattr(day, name) for day in moved])

        poured = np.stack(gross_l)
        shown = np.stack([np.broadcast_to(np.asarray(one, float), poured.shape[1:]) for one in leaf])
        return cls(
            dates, shown, poured, rows("net_l"), rows("drained_l"), rows("transpired_l"), rows("ks"), rows("air"),
            rows("soggy"), np.stack([g.establishment for g in grounds]),
        )  # fmt: skip


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
    leaf = [day.leaf for day in stage.days]
    found = Seasons.of_days(
        stage.dates, leaf, [day.gross_l for day in days], [day.moved for day in days], [day.ground for day in days]
    )
    return judge(found, [one.name for one in routines])


def judge(seasons: Seasons, names: Sequence[str]) -> list[Rehearsed]:
    """What each season came to, and what is against its routine. names: of each routine but the last, which is none:
    what drains beyond it was poured in vain."""
    rain_alone_l = float(np.sum(seasons.drained_l[:, -1]))
    return [_summed(seasons, name, column, rain_alone_l) for column, name in enumerate(names)]


MORE_THAN, LESS_THAN = 1.25, 0.75
"""A routine pours about what the balance does between these shares of it (calibrated)."""


def fit(one: Rehearsed, balance: Rehearsed) -> str:
    """How a routine fits, as a code: what is against it, else how it compares with the balance's season."""
    if one.name == "balance":
        return "is_balance"
    if one.reasons:
        return one.reasons[0]
    if one.gross_l > MORE_THAN * balance.gross_l:
        return "more_than_balance"
    return "less_than_balance" if one.gross_l < LESS_THAN * balance.gross_l else "fits"


def _summed(seasons: Seasons, name: str, column: int, rain_alone_l: float) -> Rehearsed:
    dry = thirsty(seasons.leaf, seasons.ks, seasons.air)[:, column]
    in_leaf = seasons.leaf[:, column] > FULL_LEAF
    soggy = int(np.sum(seasons.soggy[:, column]))
    gross = [float(litres) for litres in seasons.gross_l[:, column]]
    drained, net, transpired = (
        float(np.sum(one[:, column])) for one in (seasons.drained_l, seasons.net_l, seasons.transpired_l)
    )
    established = np.flatnonzero(seasons.establishment[:, column] >= 1)
    reasons = [code for code, holds in (
        ("too_dry", np.sum(dry) > TOO_DRY * len(dry)), ("too_wet", soggy > TOO_WET * len(dry)),
        ("wasteful", drained - rain_alone_l > WASTEFUL * net),
    ) if holds]  # fmt: skip
    return Rehearsed(
        name, sum(litres > 0 for litres in gross), sum(gross), drained, transpired, int(np.sum(dry)),
        _longest(dry, in_leaf), float(np.min(seasons.ks[:, column])), soggy, float(seasons.establishment[-1, column]),
        seasons.dates[int(established[0])] if len(established) else None, tuple(reasons),
        _months(seasons.dates, gross, dry),
    )  # fmt: skip


def _longest(dry: Array, in_leaf: Array) -> int:
    """The longest run of thirsty days; a leafless day ends one."""
    longest = run = 0
    for is_dry, leafy in zip(dry, in_leaf, strict=True):
        run = run + 1 if is_dry and leafy else 0
        longest = max(longest, run)
    return longest


def _months(dates: Sequence[date], gross_l: Sequence[float], dry: Array) -> tuple[Month, ...]:
    found: dict[str, tuple[int, float, int]] = {}
    for day, litres, is_dry in zip(dates, gross_l, dry, strict=True):
        n, sum_l, thirst = found.get(f"{day:%Y-%m}", (0, 0.0, 0))
        found[f"{day:%Y-%m}"] = n + (litres > 0), sum_l + litres, thirst + bool(is_dry)
    return tuple(Month(month, *values) for month, values in found.items())
