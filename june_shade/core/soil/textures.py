"""Soil by USDA texture: what it holds, how it drains, how fast it takes water in.

Knows the table and a drain hole's caps. Measured values are laid over it by `override`.
"""

from dataclasses import dataclass, replace
from functools import cache
from typing import Any

from june_shade.core import tables
from june_shade.core.errors import InputError


@dataclass(frozen=True, slots=True)
class Soil:
    """One soil. Fractions are m3 water per m3 soil; drain_share is per day, of the water above field capacity."""

    texture: str
    wilting_point: float
    awc: float
    drainable: float
    drain_share: float
    intake_mm_h: float
    ks_mm_h: float
    source: str


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
            n(row, "ks_mm_h"),
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


def override(base: Soil, **measured: float | None) -> Soil:
    """`base` with every measured value that is not None laid over it (a measured value beats a table)."""
    given: dict[str, Any] = {name: value for name, value in measured.items() if value is not None}
    return replace(base, **given, source=f"{base.source}; measured: {', '.join(given)}") if given else base
