"""What the wetted circles of a layout cover: the share that lands on the ball, the wetted part of the root zone.

Plan view of one tree: origin at the trunk, x east, y north, metres. Circles overlap by exact geometry; unions and
clipping are Shapely's, circles drawn with `segments` to a quarter turn.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from june_shade.core.numbers import Numbers

SEGMENTS = 64
"""Segments to a quarter turn: a circle's area comes out 0.01 % small."""
DRY_TRUNK_M = 0.15
"""Round a trunk the ground is kept dry so far out, on a small ball half its radius (common practice)."""


@dataclass(frozen=True, slots=True)
class Wetted:
    """ball_share 0..1 (flow-weighted); fraction of the root zone that is wetted 0..1, NaN where nothing of the zone is
    left; zone_m2: its area less obstacles and dry trunk; union_m2: all wetted ground, in the zone or not."""

    ball_share: float
    fraction: float
    zone_m2: float
    union_m2: float


def circle_overlap_m2(r1: Numbers, r2: Numbers, distance: Numbers) -> Numbers:
    """Area common to two circles [m2]: radii and distance of centres in m. Exact geometry. Arrays broadcast.

    r1, r2: radii [m].
    """
    r1, r2, d = np.broadcast_arrays(*(np.asarray(v, dtype=float) for v in (r1, r2, distance)))
    small = np.minimum(r1, r2)
    apart, inside = d >= r1 + r2, d <= np.abs(r1 - r2) + 1e-9 * small
    lens = ~(apart | inside)
    safe = np.where(lens, d, 1.0)
    with np.errstate(divide="ignore", invalid="ignore"):
        a = np.arccos(np.clip((safe**2 + r1**2 - r2**2) / (2 * safe * r1), -1, 1))
        b = np.arccos(np.clip((safe**2 + r2**2 - r1**2) / (2 * safe * r2), -1, 1))
    kite = np.maximum(0.0, (-d + r1 + r2) * (d + r1 - r2) * (d - r1 + r2) * (d + r1 + r2))
    both = r1**2 * a + r2**2 * b - 0.5 * np.sqrt(kite)
    return np.where(apart, 0.0, np.where(inside, np.pi * small**2, both))


def ball_share(x_m: Numbers, y_m: Numbers, flow_l_per_h: Numbers, diameter_m: Numbers, ball_radius_m: float) -> float:
    """Share of the water that lands on the ball, 0..1: each flow spread evenly on its circle. Arrays (emitters,)."""
    flow, radius = np.asarray(flow_l_per_h, float), np.asarray(diameter_m, float) / 2
    on_ball = circle_overlap_m2(ball_radius_m, radius, np.hypot(x_m, y_m)) / (np.pi * radius**2)
    return float(np.clip(np.sum(flow * on_ball) / np.sum(flow), 0.0, 1.0))


def dry_radius_m(trunk_diameter_m: float, ball_radius_m: float) -> float:
    """Radius of the dry circle round the trunk [m]: max(trunk/2, min(0.15 m, r_b/2)) (common practice)."""
    return max(trunk_diameter_m / 2, min(DRY_TRUNK_M, ball_radius_m / 2))


def disc(x_m: Numbers, y_m: Numbers, radius_m: Numbers, segments: int = SEGMENTS) -> Numbers:
    """Circles as polygons. Arrays give arrays."""
    return shapely.buffer(shapely.points(x_m, y_m), radius_m, quad_segs=segments)


def root_zone(
    roots_radius_m: float, dry_m: float, obstacles: Sequence[BaseGeometry] = (), segments: int = SEGMENTS
) -> BaseGeometry:
    """The roots' circle less the dry trunk circle and whatever stands in the way; may be empty."""
    zone = disc(0.0, 0.0, roots_radius_m, segments).difference(disc(0.0, 0.0, dry_m, segments))
    return zone.difference(shapely.union_all(list(obstacles))) if len(obstacles) else zone


PROFILE_STEPS = 16
"""Radii between ball and established roots at which a layout's wetted ground is told."""
PROFILE_SEGMENTS = 16


def profile_m2(
    x_m: Numbers, y_m: Numbers, diameter_m: Numbers, from_radius_m: float, to_radius_m: float
) -> tuple[float, ...]:
    """Wetted ground within radii round the trunk [m2], each square metre once, in equal steps (PROFILE_STEPS + 1,).

    x_m, y_m, diameter_m: arrays (emitters,) of places and wetted circles. The first radius is from_radius_m.
    """
    circles = disc(np.asarray(x_m, float), np.asarray(y_m, float), np.asarray(diameter_m, float) / 2, PROFILE_SEGMENTS)
    radii = np.linspace(from_radius_m, to_radius_m, PROFILE_STEPS + 1)
    within = disc(np.zeros(len(radii)), np.zeros(len(radii)), radii, PROFILE_SEGMENTS)
    return tuple(shapely.area(shapely.intersection(within, shapely.union_all(circles))).tolist())


def wet(
    x_m: Numbers,
    y_m: Numbers,
    flow_l_per_h: Numbers,
    diameter_m: Numbers,
    ball_radius_m: float,
    zone: BaseGeometry,
    segments: int = SEGMENTS,
) -> Wetted:
    """What these emitters wet. Arrays (emitters,): place, flow and wetted diameter of each; zone from `root_zone`."""
    circles = disc(np.asarray(x_m, float), np.asarray(y_m, float), np.asarray(diameter_m, float) / 2, segments)
    union = shapely.union_all(circles)
    left = float(zone.area)
    covered = float(union.intersection(zone).area)
    return Wetted(
        ball_share=ball_share(x_m, y_m, flow_l_per_h, diameter_m, ball_radius_m),
        fraction=min(1.0, covered / left) if left > 1e-9 else float("nan"),
        zone_m2=left,
        union_m2=float(union.area),
    )
