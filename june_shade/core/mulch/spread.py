"""Mulch over many rings: each square metre counted once, cut by paving and walls. Lengths m, areas m2, volumes L.

At a place it lies as deep as the deepest ring there, but within any tree's taper never deeper than that tree's own.
So the ground where it is deeper than z is the union of the outer circles less a circle round each trunk, as wide as
that tree's slope is there; the volume is the integral of that area over z (Gauss and Legendre). Unions and clipping
are Shapely's.
"""

import itertools
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from june_shade.core.mulch.ring import BALL_FIRST_SEASON_M, TAPER_M, settled_volume_l
from june_shade.core.numbers import Numbers

SEGMENTS = 32
NODES = 8
MOST_PARTS = 12
_EQUAL_AREA = np.sqrt(2 * np.pi / (4 * SEGMENTS * np.sin(2 * np.pi / (4 * SEGMENTS))))
"""A circle's polygon is drawn this much larger, so that its area is the circle's."""


@dataclass(frozen=True, slots=True)
class Rings:
    """Rings of mulch, arrays (trees,): place, trunk, outer radius, bare gap from the bark [m].

    thin_radius_m: within it mulch lies no deeper than over a new ball, 0 = nowhere.
    """

    x_m: np.ndarray
    y_m: np.ndarray
    trunk_diameter_m: np.ndarray
    outer_radius_m: np.ndarray
    clear_gap_m: np.ndarray
    thin_radius_m: np.ndarray

    @classmethod
    def of(
        cls,
        x_m: Numbers,
        y_m: Numbers,
        trunk_diameter_m: Numbers,
        outer_radius_m: Numbers,
        clear_gap_m: Numbers,
        thin_radius_m: Numbers = 0.0,
    ) -> "Rings":
        """Rings from anything that makes arrays of one length."""
        given = (x_m, y_m, trunk_diameter_m, outer_radius_m, clear_gap_m, thin_radius_m)
        return cls(*np.broadcast_arrays(*(np.atleast_1d(np.asarray(v, dtype=float)) for v in given)))

    def __len__(self) -> int:
        return len(self.x_m)

    @property
    def bare_radius_m(self) -> np.ndarray:
        """r0: bare so far from the trunk's middle [m]."""
        return self.trunk_diameter_m / 2 + self.clear_gap_m

    def shallower_within_m(self, level_m: float, depth_m: float, taper_m: float) -> np.ndarray:
        """How far from each trunk mulch of this depth is shallower than a level [m]."""
        slope = self.bare_radius_m + taper_m * level_m / depth_m
        if level_m <= BALL_FIRST_SEASON_M:
            return slope
        return np.maximum(slope, np.minimum(self.thin_radius_m, self.outer_radius_m))


@dataclass(frozen=True, slots=True)
class Spread:
    """What is covered [m2] and the settled volume [L]; ground: the covered ground itself."""

    area_m2: float
    settled_l: float
    ground: BaseGeometry


def circles(x_m: Numbers, y_m: Numbers, radius_m: Numbers) -> Numbers:
    """Circles as polygons of the circle's own area."""
    return shapely.buffer(shapely.points(x_m, y_m), np.asarray(radius_m) * _EQUAL_AREA, quad_segs=SEGMENTS)


def spread(
    rings: Rings,
    depth_m: float,
    taper_m: float = TAPER_M,
    obstacles: Sequence[BaseGeometry] = (),
    own: Sequence[BaseGeometry | None] | None = None,
) -> Spread:
    """Area and settled volume of rings of one depth.

    obstacles: ground that has none. own: for each ring, ground that only this ring can't have, None = nothing.
    """
    outer = circles(rings.x_m, rings.y_m, rings.outer_radius_m)
    if own is not None:
        outer = np.array([
            shape if taken is None else shape.difference(taken) for shape, taken in zip(outer, own, strict=True)
        ])  # fmt: skip
    ground = shapely.union_all(outer)
    if len(obstacles):
        ground = ground.difference(shapely.union_all(list(obstacles)))
    widest = rings.shallower_within_m(depth_m, depth_m, taper_m)
    alone = _alone(rings, ground, widest)
    bare = rings.bare_radius_m
    covered = ground.area - np.pi * float(np.sum(bare[alone] ** 2)) - _within(ground, rings, bare, ~alone)
    missing_m2 = 0.0
    for share, weight in _levels(rings, depth_m, taper_m):
        radius = rings.shallower_within_m(share * depth_m, depth_m, taper_m)
        missing_m2 += weight * (np.pi * float(np.sum(radius[alone] ** 2)) + _within(ground, rings, radius, ~alone))
    trunks = shapely.union_all(circles(rings.x_m, rings.y_m, bare))
    volume_l = 1000 * depth_m * (ground.area - missing_m2)
    return Spread(max(0.0, covered), max(0.0, volume_l), ground.difference(trunks))


def _alone(rings: Rings, ground: BaseGeometry, radius_m: np.ndarray) -> np.ndarray:
    """Which trees' slopes lie wholly on mulched ground and touch no other slope."""
    slopes = circles(rings.x_m, rings.y_m, radius_m)
    first, second = shapely.STRtree(slopes).query(slopes, predicate="intersects")
    touched = np.zeros(len(rings), bool)
    touched[first[first != second]] = True
    shapely.prepare(ground)
    return ~touched & shapely.contains(ground, slopes)


def _within(ground: BaseGeometry, rings: Rings, radius_m: np.ndarray, which: np.ndarray) -> float:
    """Area of mulched ground within these distances of these trunks [m2], each place once."""
    if not np.any(which):
        return 0.0
    union = shapely.union_all(circles(rings.x_m[which], rings.y_m[which], radius_m[which]))
    return float(ground.intersection(union).area)


def _levels(rings: Rings, depth_m: float, taper_m: float) -> list[tuple[float, float]]:
    """Levels as shares of the depth, with their weights; parted where a ring ends on its slope or a ball thins it."""
    bare = rings.bare_radius_m
    bends = [(rings.outer_radius_m - bare) / taper_m]
    if np.any(rings.thin_radius_m > 0) and depth_m > BALL_FIRST_SEASON_M:
        bends += [np.array([BALL_FIRST_SEASON_M / depth_m]), (rings.thin_radius_m - bare) / taper_m]
    bend = np.unique(np.round(np.concatenate(bends), 4))
    bend = bend[(bend > 0.001) & (bend < 0.999)]
    parts = np.concatenate([[0.0], bend if len(bend) < MOST_PARTS else [], [1.0]])
    points, weights = np.polynomial.legendre.leggauss(NODES)
    return [
        (float(low + (high - low) * (p + 1) / 2), float((high - low) * w / 2))
        for low, high in itertools.pairwise(parts)
        for p, w in zip(points, weights, strict=True)
    ]


def shares_l(rings: Rings, depth_m: float, total_l: float) -> np.ndarray:
    """How a total [L] falls on each ring, (trees,): in proportion to what each would take alone."""
    alone = settled_volume_l(rings.trunk_diameter_m, rings.clear_gap_m, rings.outer_radius_m, depth_m)
    whole = float(np.sum(alone))
    return alone * (total_l / whole) if whole > 0 else alone
