"""Soaks and aids for a batch, dosed right. The evidence for them is weak: recorded, never recommended.

Source: common practice (tables/planting_aids.csv).
"""

import math
from dataclasses import dataclass
from functools import cache

from june_shade.core import tables
from june_shade.core.errors import InputError

AIDS = ("inoculant_dip", "hydrogel_slurry", "hydrogel_dry", "succulent_pads", "reservoir_box")
SEEDLING_CALIPER_M = 0.02
"""Slurries are for seedlings and whips, thinner than this (common practice)."""


@dataclass(frozen=True, slots=True)
class Dose:
    """What a batch takes of one aid: liquid [L], powder [g], pieces, sachets, minutes it stands; doubts as codes."""

    aid: str
    trees: int
    litres: float
    grams: float
    pieces: int
    sachets: int
    minutes: float
    doubts: tuple[str, ...]


@cache
def _rows() -> dict[str, dict[str, str]]:
    return {row["aid"]: row for row in tables.read("planting_aids")}


def dose(aid: str, trees: int, caliper_m: float, kind: str) -> Dose:
    """The dose of an aid for so many trees. Raises InputError for an aid that is none, for no trees."""
    if aid not in AIDS:
        raise InputError(f"must be one of {', '.join(AIDS)}, not {aid!r}", "aids")
    if trees < 1:
        raise InputError(f"a dose is for at least one tree, not {trees}", "count")
    row, n = _rows()[aid], tables.number
    each = 100 * math.pi * caliper_m if row["per"] == "girth_cm" else 1.0
    litres = n(row, "litres") * each * trees
    sachet = n(row, "litres_per_sachet")
    doubts = []
    if aid == "hydrogel_slurry" and (kind != "bare_root" or caliper_m > SEEDLING_CALIPER_M):
        doubts.append("for_seedlings")
    if aid == "inoculant_dip" and kind != "bare_root":
        doubts.append("for_bare_roots")
    return Dose(
        aid, trees, litres, n(row, "grams") * trees + n(row, "grams_per_l") * litres, int(n(row, "pieces")) * trees,
        math.ceil(litres / sachet - 1e-9) if sachet > 0 else 0, n(row, "minutes"), tuple(doubts),
    )  # fmt: skip
