"""Common landscape trees and stock sizes: the typed readers of their tables, and what a water-need class means."""

from dataclasses import dataclass
from functools import cache

from june_shade.core import tables
from june_shade.core.errors import InputError

PLANT_FACTOR = {"very_low": 0.1, "low": 0.2, "moderate": 0.5, "high": 0.8}
"""Plant factor of an established tree by water-need class: the classes' middles [Costello2000] (from memory)."""

DROUGHT_TOLERANCES = ("low", "moderate", "high")
"""What an established tree of the kind stands of drought; a new one stands none."""

FRUITS = ("none", "small", "heavy")
"""What a kind bears for people: nothing, small fruit, heavy fruit."""
FRUIT_SUN_H = {"none": 0.0, "small": 6.0, "heavy": 8.0}
"""Least direct sun a day that fruit wants, judged in summer (common practice: 6 to 8 h small, 8 or more heavy)."""
PESTS = ("borers", "scale", "mites", "aphids", "leafminer", "fire_blight", "bagworms")
"""What a kind is looked over for each year, most often (from memory)."""

NEW_PLANT_FACTOR = 0.5
NEW_PLANT_FACTOR_HUMID = 0.7
"""Least plant factor while nothing is established: woody plants in dry and in humid climates [S623]."""


@dataclass(frozen=True, slots=True)
class PlantKind:
    """One kind of tree as the table has it. Mature sizes in m, hours of direct sun a day that it wants in summer.

    Tolerances are of an established tree. depletion_fraction: p, how far it draws its water down free of stress.
    fruit: as in FRUITS. frost_c: from here down frost hurts it while it is young [degC], None = frost does not. pests:
    of PESTS.
    """

    key: str
    botanical: str
    common: str
    water_need: str
    evergreen: bool
    drought_tolerance: str
    salt_tolerance: str
    mature_height_m: float
    mature_spread_m: float
    sun_hours: float
    depletion_fraction: float
    fruit: str
    frost_c: float | None
    pests: tuple[str, ...]
    source: str


@dataclass(frozen=True, slots=True)
class StockSize:
    """One class of stock with its published dimensions [m] and the volume range its class allows [L], or None."""

    key: str
    kind: str
    label: str
    caliper_m: float
    ball_diameter_m: float
    ball_height_m: float
    volume_l_low: float | None
    volume_l_high: float | None
    source: str


@cache
def plant_kinds() -> tuple[PlantKind, ...]:
    """Every kind of tree of the table."""
    n = tables.number
    return tuple(
        PlantKind(
            row["key"], row["botanical"], row["common"], row["water_need"], row["evergreen"] == "1",
            row["drought_tolerance"], row["salt_tolerance"],
            n(row, "mature_height_m"), n(row, "mature_spread_m"), n(row, "sun_hours"), n(row, "depletion_fraction"),
            row["fruit"], float(row["frost_c"]) if row["frost_c"] else None, tuple(row["pests"].split()),
            row["source"],
        )
        for row in tables.read("plants")
    )  # fmt: skip


@cache
def stock_sizes() -> tuple[StockSize, ...]:
    """Every size of the table."""
    n = tables.number
    return tuple(
        StockSize(
            row["key"], row["kind"], row["label"], n(row, "caliper_m"), n(row, "ball_diameter_m"),
            n(row, "ball_height_m"), n(row, "volume_l_low") if row["volume_l_low"] else None,
            n(row, "volume_l_high") if row["volume_l_high"] else None, row["source"],
        )
        for row in tables.read("stock_sizes")
    )  # fmt: skip


def plant_factor(water_need: str) -> float:
    """Plant factor by water-need class. Raises InputError for a class that does not exist."""
    try:
        return PLANT_FACTOR[water_need]
    except KeyError:
        raise InputError(f"must be one of {', '.join(PLANT_FACTOR)}, not {water_need!r}", "water_need") from None


def sun_wanted_h(sun_hours: float, fruit: str) -> float:
    """Direct sun a day in summer that a kind wants [h]: no less than its fruit does. sun_hours: its own [h]."""
    return max(sun_hours, FRUIT_SUN_H[fruit])


def size_doubts(kind: str, caliper_m: float, ball_diameter_m: float, ball_height_m: float) -> tuple[str, ...]:
    """What is possible but unlikely about a tree's measures, as codes.

    ball_small: a ball under 7 calipers across ([Z60] asks for 10 to 12; from memory). ball_large: over 30.
    ball_tall: taller than 1.3 times its width. caliper_large: over 15 cm for a tree that is planted.
    """
    doubts = []
    if ball_diameter_m < 7 * caliper_m:
        doubts.append("ball_small")
    if kind != "bare_root" and ball_diameter_m > 30 * caliper_m:
        doubts.append("ball_large")
    if ball_height_m > 1.3 * ball_diameter_m:
        doubts.append("ball_tall")
    if caliper_m > 0.15:
        doubts.append("caliper_large")
    return tuple(doubts)
