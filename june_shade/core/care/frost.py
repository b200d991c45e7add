"""When frost usually comes and goes at a station, from its own years. Days; the rule is common practice."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from statistics import median_low

FREEZES_C = 0.0
"""A night this cold or colder is a frost."""
LEAST_YEARS = 3
WHOLE_HALF_DAYS = 160
"""A half year counts where so many of its nights were measured."""
YOUNG_YEARS = 3
"""So long after planting a tender tree is covered (common practice)."""


def young_since(today: date) -> date:
    """Trees planted from this day on are young."""
    return today - timedelta(days=365 * YOUNG_YEARS)


@dataclass(frozen=True, slots=True)
class Half:
    """Half a calendar year at a station: the first (January to June) or the second; nights measured; the first and the
    last frost in it, None where there was none."""

    year: int
    second: bool
    nights: int
    first: date | None
    last: date | None


@dataclass(frozen=True, slots=True)
class Season:
    """The usual first frost of autumn and last one of spring, (month, day) each."""

    first: tuple[int, int]
    last: tuple[int, int]


def usual(halves: Sequence[Half], southern: bool) -> Season | None:
    """The middle one of a station's years; None where under three years are known or most have no frost.

    southern: south of the equator autumn is in the first half of the year.
    """
    whole = [half for half in halves if half.nights >= WHOLE_HALF_DAYS]
    autumns = [half.first for half in whole if half.second != southern]
    springs = [half.last for half in whole if half.second == southern]
    first, last = _middle(autumns), _middle(springs)
    return Season(first, last) if first and last else None


def _middle(days: Sequence[date | None]) -> tuple[int, int] | None:
    frosty = sorted((day.month, day.day) for day in days if day is not None)
    if len(days) < LEAST_YEARS or 2 * len(frosty) <= len(days):
        return None
    return median_low(frosty)
