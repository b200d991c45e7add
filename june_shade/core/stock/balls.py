"""Balls: the small store that the roots start in. Shape, volume and what the mix holds."""

import math
from dataclasses import dataclass
from functools import cache

import numpy as np

from june_shade.core import tables
from june_shade.core.numbers import Numbers
from june_shade.core.soil.textures import Soil

KINDS = ("container", "box", "fabric_bag", "balled", "bare_root")
"""Boxes and fabric bags hold container mix and count as containers in the water model."""
FIELD_SOIL_KINDS = frozenset({"balled"})
CONTAINER_MIX_KINDS = frozenset({"container", "box", "fabric_bag"})

ESTABLISHED_SPREAD_PER_CALIPER = 14.5
"""Radius beyond the ball at which a tree is established, in calipers (calibrated).

0.37 m per inch of caliper: what the growth rate below makes of the published 3 months per inch in warm and
12 in cold-winter climates [Gilman; Watson85].
"""

COLLAR_M = 0.10
"""Backfill round the ball that belongs to the ring from day one (calibrated)."""

CROWN_PER_CALIPER = 36.0
"""Crown diameter over caliper for young shade trees until it is measured (common practice: 1.8 m at 2 in)."""


@dataclass(frozen=True, slots=True)
class Medium:
    """What a ball is made of: shape factor k, wilting point, available water and drainable space [m3/m3], drained share
    a day.

    suction: what of a full difference in wetness crosses its face in a day (calibrated).
    """

    shape_k: float
    wilting_point: float
    awc: float
    drainable: float
    drain_share: float
    suction: float
    source: str


@cache
def _media() -> dict[str, Medium]:
    n = tables.number
    return {
        row["kind"]: Medium(
            n(row, "shape_k"),
            n(row, "wilting_point"),
            n(row, "awc"),
            n(row, "drainable"),
            n(row, "drain_share_per_day"),
            n(row, "suction"),
            row["source"],
        )
        for row in tables.read("ball_media")
    }


def medium(kind: str, site_soil: Soil) -> Medium:
    """The ball's medium by kind of stock; bare root stands in the site's own soil."""
    found = _media()[kind]
    if kind == "bare_root":
        own = site_soil.wilting_point, site_soil.awc, site_soil.drainable, site_soil.drain_share
        return Medium(found.shape_k, *own, found.suction, site_soil.source)
    return found


def radius_m(kind: str, across_m: float) -> float:
    """Radius [m] of the circle that a ball fills: half its diameter; for a box, whose side is measured, by its area."""
    return across_m / math.sqrt(math.pi) if kind == "box" else across_m / 2


def frustum_l(top_m: float, bottom_m: float, height_m: float) -> float:
    """Volume of a tapered pot [L] from its diameters and height: 1000 pi h/12 (D2 + D d + d2). Exact geometry."""
    return 1000 * math.pi * height_m / 12 * (top_m**2 + top_m * bottom_m + bottom_m**2)


def ball_volume_l(shape_k: Numbers, ball_radius_m: Numbers, ball_height_m: Numbers) -> Numbers:
    """Ball volume V_b = 1000 k pi r_b^2 h_b [L]. Source: [Z60] practice for k. Arrays broadcast.

    shape_k: share of a cylinder that the ball fills, 0..1.
    """
    return 1000.0 * shape_k * np.pi * ball_radius_m**2 * ball_height_m


def established_radius_m(ball_radius_m: Numbers, caliper_m: Numbers) -> Numbers:
    """Radius of the roots at which the tree counts as established, R_T [m] (calibrated). Arrays broadcast."""
    return ball_radius_m + ESTABLISHED_SPREAD_PER_CALIPER * caliper_m


def crown_diameter_from_caliper_m(caliper_m: Numbers) -> Numbers:
    """Crown diameter [m] until it is measured, from caliper [m] (common practice)."""
    return CROWN_PER_CALIPER * caliper_m


def caliper_from_girth_m(girth_m: Numbers) -> Numbers:
    """Caliper [m] from trunk girth [m]: girth / pi."""
    return girth_m / np.pi
