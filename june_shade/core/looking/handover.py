"""When a tree stands on its own: what proves it, and where it is watered from then on.

Proofs and measures are common practice unless said.
"""

from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np

from june_shade.core.care.calendar import OF_PROOFS
from june_shade.core.water.balance import FULL_LEAF
from june_shade.core.water.stores import Array

READY = 0.9
"""A tree this far established is offered for hand-over (calibrated)."""
PROOFS = tuple(task.removeprefix("prove_") for task in OF_PROOFS)
BY_CHECKUP = {"firm": ("push", "firm"), "flare": ("flare", "seen")}
"""Proofs that a check-up brings along: its question and the answer."""
HOLDS_DAYS = 365
"""A proof is of this season: it holds a year."""
SPELL_DAYS, SPELL_RAIN_MM, SPELL_AGO_DAYS = 14, 10.0, 3
"""Two weeks in leaf without water and with hardly any rain; looked at within three days after them."""
MOIST_FROM_M, MOIST_TO_M = 0.30, 0.45
"""After the dry spell the soil beside the ball is moist so deep down."""
GROWTH_M = 0.10
"""Twigs of a tree that stands on its own grew this much this season."""
ENTERED_LATE_DAYS = 3 * 365
"""A tree that had stood so long when its record opened is past its establishment: it needs no proofs."""
BACK_AFTER = frozenset({"water_now", "water_on_ball"})
"""A tree that was handed over comes back where a check-up says to water it."""


def entered_late(planted_on: date, opened_on: date) -> bool:
    """Whether a tree was past its establishment when its record opened: it needs no proofs then."""
    return (opened_on - planted_on).days >= ENTERED_LATE_DAYS


@dataclass(frozen=True, slots=True)
class Spell:
    """Days in leaf without water: first and last, how many, rain in them [mm]."""

    first: date
    last: date
    days: int
    rain_mm: float


def spell(last: date, leaf: Array, rain_mm: Array, poured_l: Array) -> Spell | None:
    """The newest dry spell that is long enough and has just ended, or goes on; None where there is none.

    last: day of the arrays' last row; leaf 0..1, rain [mm] and poured [L] of each day up to there, arrays (days,).
    """
    for ago in range(min(SPELL_AGO_DAYS + 1, len(leaf))):
        end = len(leaf) - ago
        fell, first = 0.0, end
        while first > 0 and poured_l[first - 1] <= 0 and leaf[first - 1] > FULL_LEAF:
            if fell + rain_mm[first - 1] >= SPELL_RAIN_MM:
                break
            fell += float(rain_mm[first - 1])
            first -= 1
        if end - first >= SPELL_DAYS:
            day = last - timedelta(days=ago)
            return Spell(day - timedelta(days=end - first - 1), day, end - first, fell)
    return None


def so_far_days(leaf: Array, poured_l: Array) -> int:
    """For how many days up to the last row nobody poured while in leaf, arrays (days,)."""
    dry = (poured_l <= 0) & (leaf > FULL_LEAF)
    return int(len(dry) if np.all(dry) else np.argmin(dry[::-1]))


def missing(proven_on: dict[str, date], today: date) -> tuple[str, ...]:
    """Proofs that are missing, or are of a season before."""
    latest = today - timedelta(days=HOLDS_DAYS)
    return tuple(name for name in PROOFS if proven_on.get(name, date.min) <= latest)
