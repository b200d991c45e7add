"""Card or paper under mulch: how many sheets, how much water wets them, how long weeds stay down.

Default is none: card slows air and water, and gains little over chips alone [Shahzad2019]; it serves where weeds are
up already, never over the ball.
"""

import math
from dataclasses import dataclass

from june_shade.core.errors import InputError
from june_shade.core.units import in_m

KINDS = ("card", "paper", "roll")
"""Brown corrugated card in sheets, builder's paper in sheets, either from a roll."""
OVERLAP_M = 0.15
WASTE = 1.1
WETTING_L_M2 = 2.0
WEEDS_HELD_MONTHS, WEEDS_HELD_WITHOUT_MONTHS = 12, 3
"""How long weeds stay down with and without (common practice)."""


@dataclass(frozen=True, slots=True)
class Underlay:
    """Sheets, or metres of a roll; the area they cover [m2]; water that wets them [L]; bare so far from the trunk."""

    kind: str
    area_m2: float
    sheets: int
    roll_m: float
    wetting_l: float
    inner_radius_m: float


def underlay(
    kind: str,
    area_m2: float,
    inner_radius_m: float,
    width_m: float,
    length_m: float = 0.0,
    overlap_m: float = OVERLAP_M,
) -> Underlay:
    """Sheets n = ceil(1.1 A / ((w - o)(l - o))), of a roll 1.1 A / (w - o) (common practice).

    Raises InputError for a kind that is none, for sheets no wider than their overlap.
    """
    if kind not in KINDS:
        raise InputError(f"must be one of {', '.join(KINDS)}, not {kind!r}", "underlay.kind")
    for name, value in (("width_m", width_m), *((("length_m", length_m),) if kind != "roll" else ())):
        if not value > overlap_m:
            raise InputError(f"must be above the overlap of {in_m(overlap_m)}, not {in_m(value)}", f"underlay.{name}")
    needed = WASTE * area_m2
    sheets, roll = 0, 0.0
    if kind == "roll":
        roll = needed / (width_m - overlap_m)
    else:
        sheets = math.ceil(needed / ((width_m - overlap_m) * (length_m - overlap_m)) - 1e-9)
    return Underlay(kind, area_m2, sheets, roll, WETTING_L_M2 * area_m2, inner_radius_m)


def weeds_held_months(kind: str | None) -> int:
    """Months until weeds come through."""
    return WEEDS_HELD_MONTHS if kind else WEEDS_HELD_WITHOUT_MONTHS
