"""Mulch materials: how they settle and waste away, what speaks for and against them."""

import math
from dataclasses import dataclass
from functools import cache

from june_shade.core import tables
from june_shade.core.errors import InputError
from june_shade.core.mulch.wasting import half_life_months
from june_shade.core.numbers import Numbers

USUAL = "wood_chips"


@dataclass(frozen=True, slots=True)
class Material:
    """settling: share of the loose volume lost as it settles; wasting_years: time constant, None = does not waste."""

    name: str
    settling: float
    wasting_years: float | None
    source: str


@dataclass(frozen=True, slots=True)
class Suits:
    """What is thought of a material: good, with_care or avoid, why as codes, whether it burns near buildings.

    settling, half_life_months: as of the material, None for what is never laid or does not waste.
    """

    name: str
    verdict: str
    reasons: tuple[str, ...]
    burns: bool
    settling: float | None
    half_life_months: float | None
    source: str


@cache
def materials() -> dict[str, Material]:
    """Every material of the table by name."""
    result = {}
    for row in tables.read("mulch_materials"):
        years = tables.number(row, "wasting_years")
        result[row["material"]] = Material(
            row["material"], tables.number(row, "settling_share"), None if math.isnan(years) else years, row["source"]
        )
    return result


def material(name: str) -> Material:
    """A material of the table. Raises InputError for any other word."""
    try:
        return materials()[name]
    except KeyError:
        raise InputError(f"must be one of {', '.join(materials())}, not {name!r}", "mulch.material") from None


@cache
def suitability() -> tuple[Suits, ...]:
    """Every material that is met with, also those that are never laid (common practice)."""
    found = []
    for row in tables.read("mulch_suitability"):
        kind = materials().get(row["material"])
        found.append(Suits(
            row["material"], row["verdict"], tuple(row["reasons"].split()), row["burns"] == "1",
            kind.settling if kind else None, half_life_months(kind.wasting_years) if kind else None, row["source"],
        ))  # fmt: skip
    return tuple(found)


def settled_l(name: str, loose_l: Numbers) -> Numbers:
    """What so much loose mulch settles to [L]. Arrays broadcast."""
    return loose_l * (1.0 - material(name).settling)


def loose_l(name: str, settled: Numbers) -> Numbers:
    """Loose mulch to bring [L] that settles to so much: settled / (1 - settling). Arrays broadcast."""
    return settled / (1.0 - material(name).settling)
