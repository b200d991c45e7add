"""What lies at a site besides its trees, as people show it: the spots that a kind needs, and what they make."""

from collections.abc import Sequence

import shapely
from shapely.geometry.base import BaseGeometry

from june_shade.core.errors import InputError
from june_shade.core.ground.rows import Point

SHAPES = {
    "hydrant": "point", "valve": "point", "gate": "point", "wall": "line", "path": "line", "paving": "area",
    "building": "area", "bed": "area", "water": "area", "other": "point",
}  # fmt: skip
"""What a thing of each kind is on a plan."""
LEAST_SPOTS = {"point": 1, "line": 2, "area": 3}
MOST_SPOTS = 200
LEAST_M2, LEAST_M = 0.05, 0.1
"""What is smaller was not meant."""


def shown(kind: str, spots: Sequence[Point]) -> BaseGeometry:
    """A thing as its spots show it: a point, a line through them, an area with them round its edge [m].

    kind: of SHAPES; spots: east and north [m], in turn. Raises InputError for too few or too many, and for an edge that
    crosses itself or has nothing inside.
    """
    what = SHAPES[kind]
    least = LEAST_SPOTS[what]
    if len(spots) < least:
        raise InputError(f"needs at least {least} spots", "spots")
    if what == "point":
        if len(spots) > 1:
            raise InputError("is at one spot", "spots")
        return shapely.Point(spots[0])
    if len(spots) > MOST_SPOTS:
        raise InputError(f"takes {MOST_SPOTS} spots at most", "spots")
    if what == "line":
        line = shapely.LineString(spots)
        if line.length < LEAST_M:
            raise InputError("its spots are the same one", "spots")
        return line
    area = shapely.Polygon(spots)
    if area.convex_hull.area < LEAST_M2:
        raise InputError("its spots lie on one line: nothing is inside", "spots")
    if not area.is_valid:
        raise InputError("its edge crosses itself: show the corners in turn", "spots")
    return area
