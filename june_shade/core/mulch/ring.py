"""The profile of a mulch ring: bare to the clear gap, rising straight over the taper to full depth, level from there.

Lengths m, volumes L. Source: exact geometry; the limits are common practice but for what lies over a new ball [GG04].
"""

from dataclasses import dataclass

import numpy as np

from june_shade.core.mulch.wasting import FULL_COVER_DEPTH_M
from june_shade.core.numbers import Numbers

TAPER_M = 0.15
CLEAR_GAP_M = 0.08
LEAST_GAP_M = 0.05
DEEPEST_M = 0.10
"""The ceiling: deeper mulch sheds water, takes the air and draws roots up into it (common practice)."""
SAME_M = 0.002
"""To a crew 4 in and 10 cm are one ceiling: typed and read depths are taken so."""
BALL_FIRST_SEASON_M = 0.05
"""Over the ball at most this in its first season: deep mulch there drinks small waterings [GG04]."""
FIRST_SEASON_DAYS = 365
LEAST_RADIUS_M = 0.45
USUAL_RADIUS_M = 0.9
"""Ring of about 3 ft out where nothing else limits it (common practice)."""
SLOW_DEPTH_M, USUAL_DEPTH_M, QUICK_DEPTH_M = 0.06, 0.075, 0.09
"""Within 5 to 7.5 cm on slow ground, 7.5 to 10 cm on sand and in heat (common practice)."""
HOT = 1.2


@dataclass(frozen=True, slots=True)
class Finding:
    """A judgement: closed code, what is wrong in one sentence, whether it can't wait."""

    code: str
    message: str
    urgent: bool = False


def settled_volume_l(
    trunk_diameter_m: Numbers,
    clear_gap_m: Numbers,
    outer_radius_m: Numbers,
    depth_m: Numbers,
    taper_m: Numbers = TAPER_M,
) -> Numbers:
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


def depth_at_m(
    distance_m: Numbers,
    bare_radius_m: Numbers,
    outer_radius_m: Numbers,
    depth_m: Numbers,
    taper_m: Numbers = TAPER_M,
    thin_radius_m: Numbers = 0.0,
) -> Numbers:
    """Depth so far from the trunk's middle [m]; within thin_radius_m at most what lies on a new ball. Arrays."""
    rise = depth_m * np.clip((distance_m - bare_radius_m) / taper_m, 0.0, 1.0)
    rise = np.where(distance_m < thin_radius_m, np.minimum(rise, BALL_FIRST_SEASON_M), rise)
    return np.where(distance_m <= outer_radius_m, rise, 0.0)


def target_depth_m(drains: str, microclimate: float = 1.0) -> float:
    """Settled depth to aim for [m]: 6 cm where water goes down slowly, 9 where it runs through and in heat, else 7.5.

    drains: as `Soil.drains`.
    microclimate: factor on the air's thirst, 1 = open.
    """
    if drains == "slow":
        return SLOW_DEPTH_M
    return QUICK_DEPTH_M if drains == "free" or microclimate >= HOT else USUAL_DEPTH_M


def target_radius_m(crown_radius_m: float, ball_radius_m: float, spread_radius_m: float) -> float:
    """Outer radius to aim for [m]: the drip line, at least about 3 ft and past the ball, never past the grown crown."""
    wanted = max(crown_radius_m, USUAL_RADIUS_M, ball_radius_m + TAPER_M)
    return max(LEAST_RADIUS_M, ball_radius_m + TAPER_M, min(wanted, max(USUAL_RADIUS_M, spread_radius_m)))


def thin_radius_m(kind: str, ball_radius_m: float, days_planted: int) -> float:
    """How far from the trunk mulch is kept thin [m]: a ball's radius in its first season, else nothing [GG04]."""
    return ball_radius_m if kind != "bare_root" and days_planted < FIRST_SEASON_DAYS else 0.0


def findings(depth_m: float, clear_gap_m: float, outer_radius_m: float) -> tuple[Finding, ...]:
    """What is wrong with a ring's measures."""
    found = []
    if clear_gap_m < LEAST_GAP_M:
        found.append(
            Finding(
                "gap_small",
                f"mulch begins {clear_gap_m:g} m off the bark; keep it {LEAST_GAP_M:g} m off at least",
                True,
            )
        )
    if outer_radius_m < LEAST_RADIUS_M:
        found.append(
            Finding("ring_small", f"reaches {outer_radius_m:g} m; grass stays out from {LEAST_RADIUS_M:g} m on")
        )
    if depth_m > DEEPEST_M:
        found.append(Finding("too_deep", f"{depth_m:g} m settled is over the ceiling of {DEEPEST_M:g} m", True))
    elif depth_m < FULL_COVER_DEPTH_M:
        found.append(
            Finding("too_shallow", f"{depth_m:g} m settled is under {FULL_COVER_DEPTH_M:g} m: weeds come through")
        )
    return tuple(found)  # fmt: skip
