"""Soil by USDA texture: what it holds, how it drains, how fast it takes water in.

Knows the table and a drain hole's caps. Measured values are laid over it by `override`.
"""

from dataclasses import dataclass, replace
from functools import cache
from typing import Any, Literal

from june_shade.core import tables
from june_shade.core.errors import InputError

SLOW_INTAKE_MM_H, QUICK_INTAKE_MM_H = 8.0, 25.0
"""Where nobody dug a hole, ground that takes in less drains slowly, from so much on freely (calibrated)."""
SANDS = frozenset({"sand", "loamy_sand"})
HOLE_SLOW, HOLE_FREE = frozenset({"very_poor", "poor"}), frozenset({"fast"})
"""Classes of a drain hole in which ground is too slow for usual planting, or lets water run through."""


@dataclass(frozen=True, slots=True)
class Soil:
    """One soil. Fractions are m3 water per m3 soil; drain_share is per day, of the water above field capacity.

    hole_class: what the newest drain hole said, None where nobody dug one.
    """

    texture: str
    wilting_point: float
    awc: float
    drainable: float
    drain_share: float
    intake_mm_h: float
    conductivity_mm_h: float
    source: str
    hole_class: str | None = None

    @property
    def drains(self) -> Literal["slow", "usual", "free"]:
        """How water goes down: what planting depth and mulch depth go by. A hole that was dug tells it, else how
        quickly ground of this kind takes water in (common practice)."""
        if self.hole_class is not None:
            return "slow" if self.hole_class in HOLE_SLOW else "free" if self.hole_class in HOLE_FREE else "usual"
        if self.intake_mm_h < SLOW_INTAKE_MM_H:
            return "slow"
        return "free" if self.intake_mm_h >= QUICK_INTAKE_MM_H or self.texture in SANDS else "usual"


@cache
def textures() -> dict[str, Soil]:
    """Every texture of the table by its USDA name with underscores."""
    n = tables.number
    return {
        row["texture"]: Soil(
            row["texture"],
            n(row, "wilting_point"),
            n(row, "awc"),
            n(row, "drainable"),
            n(row, "drain_share_per_day"),
            n(row, "intake_mm_h"),
            n(row, "conductivity_mm_h"),
            row["source"],
        )
        for row in tables.read("soil_textures")
    }


def soil(texture: str) -> Soil:
    """The table's soil for a USDA texture name (underscores). Raises InputError for any other word."""
    try:
        return textures()[texture]
    except KeyError:
        raise InputError(f"must be one of {', '.join(textures())}, not {texture!r}", "texture") from None


def override(base: Soil, *, hole_class: str | None = None, **measured: float | None) -> Soil:
    """`base` with every measured value that is not None laid over it (a measured value beats a table)."""
    given: dict[str, Any] = {name: value for name, value in measured.items() if value is not None}
    if not given:
        return replace(base, hole_class=hole_class)
    return replace(base, **given, hole_class=hole_class, source=f"{base.source}; measured: {', '.join(given)}")
