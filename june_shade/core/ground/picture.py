"""A picture laid under the plan by two points: how large it is on the ground, how it is turned, where it lies.

Points of the picture are pixels from its upper left corner, to the right and down; of the ground metres east and north.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from june_shade.core.errors import InputError
from june_shade.core.ground.rows import Point

LEAST_APART_PX, LEAST_APART_M = 20.0, 1.0
"""Two points that lie closer say nothing of how it lies."""


@dataclass(frozen=True, slots=True)
class Lies:
    """How a picture lies.

    m_per_px: its size; turned_deg: clockwise, how far its upper edge runs off east. corners: on the ground, upper left,
    upper right, lower right, lower left. matrix: a b c d e f from pixel to ground, x = a px + c py + e and
    y = b px + d py + f.
    """

    m_per_px: float
    turned_deg: float
    corners: tuple[Point, Point, Point, Point]
    matrix: tuple[float, float, float, float, float, float]


def lies(points: Sequence[tuple[Point, Point]], width_px: int, height_px: int) -> Lies:
    """A picture by two points of it and where these are on the ground: moved, turned and scaled, never stretched.

    points: two pairs (pixel, ground). Raises InputError for points that lie too close or outside the picture.
    """
    if len(points) != 2:
        raise InputError("needs two points", "points")
    for n, ((px, py), _) in enumerate(points):
        if not (0 <= px <= width_px and 0 <= py <= height_px):
            raise InputError("lies outside the picture", f"points[{n}]")
    (pixel_a, ground_a), (pixel_b, ground_b) = points
    # as complex numbers, with the picture's down turned up: ground = whole * pixel + shift
    a, b = complex(pixel_a[0], -pixel_a[1]), complex(pixel_b[0], -pixel_b[1])
    to_a, to_b = complex(*ground_a), complex(*ground_b)
    if abs(b - a) < LEAST_APART_PX:
        raise InputError("must lie farther apart in the picture", "points[1]")
    if abs(to_b - to_a) < LEAST_APART_M:
        raise InputError("must lie farther apart on the ground", "points[1]")
    whole = (to_b - to_a) / (b - a)
    shift = to_a - whole * a

    def at(px: float, py: float) -> Point:
        found = whole * complex(px, -py) + shift
        return found.real, found.imag

    corners = (at(0, 0), at(width_px, 0), at(width_px, height_px), at(0, height_px))
    matrix = (whole.real, whole.imag, whole.imag, -whole.real, shift.real, shift.imag)
    return Lies(abs(whole), float(-np.degrees(np.angle(whole))), corners, matrix)
