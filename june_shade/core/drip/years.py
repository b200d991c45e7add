"""What layouts are worth over two years: the minutes that they take to lay and to move, and which one is chosen.

By least harm first: days of thirst or of wet feet, then what it misses of the six; then by what it costs: minutes of
work before litres.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from june_shade.core.drip.parts import Part

YEARS = 2
EMITTER_MIN, FITTING_MIN, PIN_MIN, TUBE_MIN_PER_M = 1.0, 2.0, 0.25, 1.0
"""Minutes of one hand to put an emitter in, to join a fitting, to drive a pin, to roll out and cut a metre of tube
(common practice; they rank layouts, they are no quote)."""
FITTINGS = frozenset({"tee", "coupler", "closure", "plug"})
SAME_DAYS = 2
"""Layouts whose bad days differ by no more than this do the tree the same (calibrated)."""


@dataclass(frozen=True, slots=True)
class TwoYears:
    """What a layout came to over two years, moved as its tree grows. dry_days, wet_days: with thirst, with wet feet;
    waterings, litres [L], run_h: how long its valve is open; lay_min: to lay and to move it; stand_min: at its
    waterings; moves: how often it is changed."""

    dry_days: int
    wet_days: int
    waterings: int
    litres: float
    run_h: float
    lay_min: float
    stand_min: float
    moves: int

    @property
    def bad_days(self) -> int:
        """Days that cost the tree growth."""
        return self.dry_days + self.wet_days

    @property
    def hands_min(self) -> float:
        """All that somebody works at it [min]."""
        return self.lay_min + self.stand_min


def lay_min(parts: Iterable[Part]) -> float:
    """Minutes to put parts together where they are wanted; spare tube is not laid."""
    each = {"emitter": EMITTER_MIN, "pin": PIN_MIN} | dict.fromkeys(FITTINGS, FITTING_MIN)
    return sum(each.get(part.item, 0.0) * part.count + TUBE_MIN_PER_M * part.length_m for part in parts)


def chosen(found: Sequence[TwoYears], missed: Sequence[int]) -> int:
    """Position of the one to choose. missed: how many of the six each does not achieve. Raises ValueError where there
    is none."""
    least = min(one.bad_days for one in found)
    good = [i for i, one in enumerate(found) if one.bad_days <= least + SAME_DAYS]
    return min(good, key=lambda i: (missed[i], round(found[i].hands_min), found[i].litres))
