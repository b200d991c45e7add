"""The mulch ring of one tree: volume, what to order, how it wastes away.

Bare to the clear gap, rising straight over the taper to full depth, level to the outer radius. Lengths m,
volumes L. Sources: exact geometry; settling and wasting are common practice (tables/mulch_materials.csv).
"""

import math
from dataclasses import dataclass
from functools import cache

import numpy as np

from june_shade.core import tables
from june_shade.core.errors import InputError
from june_shade.core.working import COMMON_PRACTICE, Line, line

TAPER_M = 0.15
CLEAR_GAP_M = 0.08
LEAST_GAP_M = 0.05
FULL_COVER_DEPTH_M = 0.05
"""Depth that works as full cover in the water model; also where a top-up is called for."""
DEEPEST_M = 0.10
BALL_FIRST_SEASON_M = 0.05
"""Over the ball at most this in its first season: deep mulch there drinks small waterings [GG04]."""
LEAST_RADIUS_M = 0.45
LITRES_PER_CUBIC_YARD = 764.554857984
CARRIED_L = {"barrow_85_l": 85.0, "tub_57_l": 57.0, "bin_121_l": 121.0, "bag_57_l": 57.0}
"""What mulch is carried in (common practice: barrow, 15-gal tub, 32-gal bin, 2 ft3 bag)."""


@dataclass(frozen=True, slots=True)
class Material:
    """settling: share of the loose volume lost as it settles; wasting_years: time constant, None = does not waste."""

    name: str
    settling: float
    wasting_years: float | None
    source: str


@dataclass(frozen=True, slots=True)
class Finding:
    """A judgement: closed code, and whether it is urgent."""

    code: str
    urgent: bool = False


@dataclass(frozen=True, slots=True)
class Ring:
    """The ring's figures: area m2, settled and loose litres for the full depth and for what is missing."""

    area_m2: float
    full_settled_l: float
    missing_settled_l: float
    missing_loose_l: float
    depth_now_m: float
    target_depth_m: float
    carried: dict[str, int]
    cubic_yards: float
    cubic_metres: float
    findings: tuple[Finding, ...]
    working: tuple[Line, ...]


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


def settled_volume_l(trunk_diameter_m, clear_gap_m, outer_radius_m, depth_m, taper_m=TAPER_M):
    """Settled volume of a ring [L].

    2 pi d [(r2^2 - r1^2)/2 + (r1^3/3 - r0 r1^2/2 + r0^3/6)/(r1 - r0)] with r0 = trunk/2 + gap, r1 = r0 + taper;
    where r2 < r1 the profile is cut at r2. Exact geometry. Arrays broadcast.
    """
    r0 = trunk_diameter_m / 2 + clear_gap_m
    r1 = r0 + taper_m
    end = np.clip(outer_radius_m, r0, r1)
    rise = (end**3 / 3 - r0 * end**2 / 2 + r0**3 / 6) / taper_m
    level = np.maximum(0.0, outer_radius_m**2 - r1**2) / 2
    return 1000.0 * 2.0 * np.pi * depth_m * (rise + level)


def wasted_depth_m(depth_m, years, wasting_years):
    """Depth left after `years` [m]: d0 exp(-t/T), T in years (inf = does not waste). Arrays broadcast."""
    return depth_m * np.exp(-np.maximum(0.0, years) / wasting_years)


def depth_share(depth_m):
    """How much of the depth that works as full cover is there, 0..1."""
    return np.clip(depth_m / FULL_COVER_DEPTH_M, 0.0, 1.0)


def target_depth_m(intake_mm_h: float, first_season: bool) -> float:
    """Settled depth to aim for [m]: 5 on the ball's first season and slow ground, 7.5 else (common practice).

    Clay and slow drainage (intake under 8 mm/h) take 5 to 7.5 cm; others 7.5 to 10; the ball's first season caps it.
    """
    if first_season or intake_mm_h < 8:
        return BALL_FIRST_SEASON_M
    return 0.075


def ring(
    trunk_diameter_m: float,
    outer_radius_m: float,
    depth_now_m: float,
    target_m: float,
    material_name: str,
    clear_gap_m: float = CLEAR_GAP_M,
) -> Ring:
    """What one tree's ring holds and lacks. Raises InputError for a ring that can't be."""
    r0 = trunk_diameter_m / 2 + clear_gap_m
    if outer_radius_m <= r0:
        raise InputError(f"must reach beyond the clear gap round the trunk ({r0:.2f} m)", "mulch.outer_radius_m")
    kind = material(material_name)
    full = float(settled_volume_l(trunk_diameter_m, clear_gap_m, outer_radius_m, target_m))
    lacking = max(0.0, target_m - depth_now_m)
    missing = full * lacking / target_m
    loose = missing / (1.0 - kind.settling)
    area = math.pi * (outer_radius_m**2 - r0**2)
    findings = []
    if clear_gap_m < LEAST_GAP_M:
        findings.append(Finding("gap_small", True))
    if outer_radius_m < LEAST_RADIUS_M:
        findings.append(Finding("ring_small"))
    if depth_now_m > DEEPEST_M:
        findings.append(Finding("too_deep", True))
    elif depth_now_m < FULL_COVER_DEPTH_M:
        findings.append(Finding("too_shallow"))
    working = (
        line("mulch.r0", "r0 = trunk/2 + gap", r0, "m", COMMON_PRACTICE,
             trunk=(trunk_diameter_m, "m"), gap=(clear_gap_m, "m")),
        line("mulch.full", "V = 2π d [(r2² − r1²)/2 + (r1³/3 − r0 r1²/2 + r0³/6)/(r1 − r0)]", full, "L",
             "exact geometry", d=(target_m, "m"), r0=(r0, "m"), r1=(r0 + TAPER_M, "m"), r2=(outer_radius_m, "m")),
        line("mulch.missing", "V × (target − now)/target", missing, "L", "exact geometry",
             V=(full, "L"), target=(target_m, "m"), now=(depth_now_m, "m")),
        line("mulch.loose", "missing / (1 − settling)", loose, "L", kind.source,
             missing=(missing, "L"), settling=(kind.settling, "")),
    )  # fmt: skip
    return Ring(
        area_m2=area,
        full_settled_l=full,
        missing_settled_l=missing,
        missing_loose_l=loose,
        depth_now_m=depth_now_m,
        target_depth_m=target_m,
        carried={name: math.ceil(loose / size - 1e-9) for name, size in CARRIED_L.items()},
        cubic_yards=loose / LITRES_PER_CUBIC_YARD,
        cubic_metres=loose / 1000.0,
        findings=tuple(findings),
        working=working,
    )
