"""Soil tests that need a jar, a spade and a watch: what was read, and what it says."""

import math
from dataclasses import dataclass

from june_shade.core.errors import InputError
from june_shade.core.soil import triangle

SAND_AFTER_S, SILT_AFTER_H, CLAY_AFTER_H = 60.0, 2.0, 48.0
"""When the tops of the layers are read (common practice)."""
HOLE_CLASSES = ((3.0, "very_poor", 0.05), (13.0, "poor", 0.15), (25.0, "slow", 0.30))
"""Fall below [mm/h], class, and the cap it puts on what the ring drains in a day (calibrated)."""
GOOD_TO_MM_H = 75.0
HOLE_RADIUS_M = 0.15
SAND_LATE_S, SILT_EARLY_H, SILT_LATE_H, CLAY_EARLY_H = 120.0, 1.0, 8.0, 24.0
"""Readings of a jar outside of these have part of the next layer in them, or miss part of their own."""
RUNS_LIKE_A_TAP_MM_H = 2000.0


@dataclass(frozen=True, slots=True)
class Jar:
    """Percentages and USDA class of a jar, and the classes beside it: settled clay is fluffy, a jar overstates it."""

    sand_percent: float
    silt_percent: float
    clay_percent: float
    texture: str
    less_clay: str


def jar(sand_top_mm: float, silt_top_mm: float, clay_top_mm: float) -> Jar:
    """A jar from the tops of its layers above the bottom [mm], read in this order (common practice).

    less_clay: the class with a third of the clay layer taken for its fluff. Raises InputError for readings that go
    down or that were given as thicknesses in another order.
    """
    if sand_top_mm < 0:
        raise InputError(f"must be at least 0, not {sand_top_mm:g}", "sand_top_mm")
    if not clay_top_mm > 0:
        raise InputError(f"must be above 0, not {clay_top_mm:g}", "clay_top_mm")
    for name, low, high in (("silt_top_mm", sand_top_mm, silt_top_mm), ("clay_top_mm", silt_top_mm, clay_top_mm)):
        if high < low:
            raise InputError("layers rise: each top is measured from the bottom, sand first, clay last", name)
    sand, silt = sand_top_mm, silt_top_mm - sand_top_mm
    clay = clay_top_mm - silt_top_mm
    firm = sand + silt + clay * 2 / 3
    firmer = triangle.texture(100 * sand / firm, 100 * silt / firm, 100 * clay * 2 / 3 / firm)
    shares = (100 * sand / clay_top_mm, 100 * silt / clay_top_mm, 100 * clay / clay_top_mm)
    return Jar(shares[0], shares[1], shares[2], triangle.texture(*shares), firmer)


def jar_doubts(sand_after_s: float | None, silt_after_h: float | None, clay_after_h: float | None) -> tuple[str, ...]:
    """What the reading times of a jar do to it, as codes; None where a time was not noted.

    sand_late, silt_early, silt_late, clay_early. Raises InputError for times in the wrong order.
    """
    given = [
        (name, hours)
        for name, hours in (
            ("sand_at", None if sand_after_s is None else sand_after_s / 3600),
            ("silt_at", silt_after_h), ("clay_at", clay_after_h),
        )
        if hours is not None
    ]  # fmt: skip
    for (_, before), (name, after) in zip([("", 0.0), *given], given, strict=False):
        if after <= before:
            raise InputError("the layers are read in this order: sand, then silt, then clay", name)
    found = (
        ("sand_late", sand_after_s is not None and sand_after_s > SAND_LATE_S),
        ("silt_early", silt_after_h is not None and silt_after_h < SILT_EARLY_H),
        ("silt_late", silt_after_h is not None and silt_after_h > SILT_LATE_H),
        ("clay_early", clay_after_h is not None and clay_after_h < CLAY_EARLY_H),
    )
    return tuple(code for code, is_so in found if is_so)


def settling_s(diameter_um: float, depth_m: float, temperature_c: float = 20.0) -> float:
    """Time [s] in which a grain falls through still water, by Stokes' law (quartz, 2650 kg/m3)."""
    viscosity = 1.002e-3 * 10 ** (
        (1.3272 * (20 - temperature_c) - 0.001053 * (temperature_c - 20) ** 2) / (temperature_c + 105)
    )
    speed = (2650.0 - 998.2) * 9.81 * (diameter_um * 1e-6) ** 2 / (18 * viscosity)
    return depth_m / speed


@dataclass(frozen=True, slots=True)
class DrainHole:
    """fall_mm_h; its class; the cap on what the ring drains in a day, None = none; the conductivity it means."""

    fall_mm_h: float
    klass: str
    drain_share_cap: float | None
    conductivity_mm_h: float


def drain_hole(first_depth_m: float, last_depth_m: float, hours: float, radius_m: float = HOLE_RADIUS_M) -> DrainHole:
    """A pre-wetted hole from the depth of water in it before and after (common practice; bands calibrated).

    conductivity_mm_h by the inverse auger hole, K = 1.15 r (log10(h0 + r/2) - log10(ht + r/2)) / t. Source: [ILRI16].
    hours: between the two readings [h].
    """
    if not first_depth_m > 0:
        raise InputError(f"must be above 0, not {first_depth_m:g}", "first_depth_m")
    if not 0 <= last_depth_m <= first_depth_m:
        raise InputError("water in the hole falls: the last depth can't be over the first", "last_depth_m")
    if not hours > 0:
        raise InputError(f"must be above 0, not {hours:g}", "hours")
    if not radius_m > 0:
        raise InputError(f"must be above 0, not {radius_m:g}", "radius_m")
    fall = 1000 * (first_depth_m - last_depth_m) / hours
    klass = "good" if fall <= GOOD_TO_MM_H else "fast"
    cap: float | None = None
    for below, name, share in HOLE_CLASSES:
        if fall < below:
            klass, cap = name, share
            break
    half = radius_m / 2
    ks = 1.15 * radius_m * (math.log10(first_depth_m + half) - math.log10(last_depth_m + half)) / hours * 1000
    return DrainHole(fall, klass, cap, ks)


def intake_mm_h(fallen_m: float, minutes: float) -> float:
    """Intake [mm/h] from how far the water in a pressed-in ring fell in the last filling (common practice).

    minutes: that the fall took [min].
    """
    if fallen_m < 0:
        raise InputError(f"must be at least 0, not {fallen_m:g}", "fallen_m")
    if not minutes > 0:
        raise InputError(f"must be above 0, not {minutes:g}", "minutes")
    found = 1000 * fallen_m * 60 / minutes
    if found > RUNS_LIKE_A_TAP_MM_H:
        raise InputError(f"{found:.0f} mm/h is a hole or a leak under the ring, not soil: press it in anew", "fallen_m")
    return found
