"""What a change brings against what it takes: litres and minutes a week, cost, when it has paid, in what order."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from june_shade.core.water.stores import Array

WEEK_DAYS = 7
SUMMER_WEEKS = 13
"""Weeks over which more work a week is counted as what a change takes (calibrated)."""
LEAST_SAVED_L = 1.0
"""What saves less a week is not worth telling [L]."""
THIRST = 0.02
"""A change after which a tree takes up so much less of what it would drink, on the mean or on its worst day, is no
saving."""


@dataclass(frozen=True, slots=True)
class Season:
    """Trees gone through the days of one season, as they are or with something changed: litres poured and minutes of
    work in all, mean and least uptake share 0..1, arrays (trees,); days of it."""

    litres: Array
    minutes: Array
    mean_ks: Array
    least_ks: Array
    days: int

    def of_some(self, chosen: Sequence[int]) -> "Season":
        """The season of some of the trees. chosen: positions."""
        at = np.asarray(chosen, int)
        return Season(self.litres[at], self.minutes[at], self.mean_ks[at], self.least_ks[at], self.days)


@dataclass(frozen=True, slots=True)
class Gains:
    """What a change brings each tree a week, arrays (seasons, trees), the season of now first: litres, minutes.

    holds: no tree is thirstier for it, in any season (trees,).
    """

    litres: Array
    minutes: Array
    holds: Array


def gains(as_is: Sequence[Season], changed: Sequence[Season]) -> Gains:
    """What a change brings, season by season. Both in the same order of seasons and trees."""
    pairs = list(zip(as_is, changed, strict=True))
    weekly = [WEEK_DAYS / one.days for one, _ in pairs]
    litres = np.array([week * (one.litres - then.litres) for week, (one, then) in zip(weekly, pairs, strict=True)])
    minutes = np.array([week * (one.minutes - then.minutes) for week, (one, then) in zip(weekly, pairs, strict=True)])
    holds = np.all(
        [(then.mean_ks >= one.mean_ks - THIRST) & (then.least_ks >= one.least_ks - THIRST) for one, then in pairs],
        axis=0,
    )
    return Gains(litres, minutes, holds)


@dataclass(frozen=True, slots=True)
class Prices:
    """What things cost, None where nobody said: an hour of work, 1000 L of water, parts by name."""

    hour: float | None = None
    water_m3: float | None = None
    parts: Mapping[str, float] | None = None


def cost(minutes: float, parts: Mapping[str, float], prices: Prices) -> float | None:
    """What a change takes in money; None where the price of an hour or of a part that it needs is not known.

    minutes: of work [min]; parts: how many, by name.
    """
    known = prices.parts or {}
    needed = {name: count for name, count in parts.items() if count > 0}
    if (prices.hour is None and minutes > 0) or any(name not in known for name in needed):
        return None
    return minutes / 60.0 * (prices.hour or 0.0) + sum(count * known[name] for name, count in needed.items())


def days_to_pay(
    litres_a_week: float, minutes_a_week: float, minutes: float, spent: float | None, prices: Prices
) -> float | None:
    """Days until a change has paid: in money where all prices are known, else until its minutes are won back.

    None where it never does. litres_a_week [L] and minutes_a_week [min]: saved; minutes: that it takes [min];
    spent: its cost, None = not known.
    """
    if spent is not None and (prices.water_m3 is not None or prices.hour is not None):
        won = litres_a_week / 1000.0 * (prices.water_m3 or 0.0) + minutes_a_week / 60.0 * (prices.hour or 0.0)
        taken = spent
    else:
        won, taken = minutes_a_week, minutes
    if taken <= 0:
        return 0.0
    return WEEK_DAYS * taken / won if won > 0 else None


@dataclass(frozen=True, slots=True)
class Taken:
    """What a change saves and takes: litres a week [L], minutes a week, below 0 = more work than before, minutes once
    [min], cost once in money, None = not known; the price of an hour, None = nobody said."""

    litres_a_week: float
    minutes_a_week: float
    minutes: float
    spent: float | None
    hour: float | None

    @property
    def every_week(self) -> float:
        """More work of all weeks of a summer [min]."""
        return SUMMER_WEEKS * max(0.0, -self.minutes_a_week)

    @property
    def all_spent(self) -> float | None:
        """The cost with that of the work of every week; None where it is not known."""
        if self.spent is None or (self.hour is None and self.every_week > 0):
            return None
        return self.spent + self.every_week / 60.0 * (self.hour or 0.0)


def rank(changes: Sequence[Taken]) -> list[int]:
    """The order in which changes are told: by litres for all that they cost where that is known of each, else for a
    minute of all their work; what takes nothing first."""
    spent = [one.all_spent for one in changes]
    known = [one for one in spent if one is not None]
    takes = known if len(known) == len(changes) else [one.minutes + one.every_week for one in changes]
    litres = [one.litres_a_week for one in changes]
    each = [saved / taken if taken > 0 else np.inf for saved, taken in zip(litres, takes, strict=True)]
    return sorted(range(len(each)), key=lambda n: (-each[n], -litres[n]))
