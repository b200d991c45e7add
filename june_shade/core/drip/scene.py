"""What a layout is made for: one tree with its roots and soil, and what stands in the way of tubes and roots.

Plan view: origin at the trunk, x east, y north, metres; bearings in degrees, 0 north, 90 east.
"""

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from june_shade.core.errors import InputError
from june_shade.core.geometry import bulb, wetting
from june_shade.core.numbers import Numbers
from june_shade.core.stock.balls import COLLAR_M
from june_shade.core.units import in_m
from june_shade.core.water.ground import ROOT_DENSITY_RING

OBSTACLES = (
    "paving", "wall", "post", "pit", "root_barrier", "buried_line", "turf", "fence", "foundation", "drain_field",
)  # fmt: skip
"""post: round. pit: an opening round the tree, everything outside it. buried_line: a strip. All others: everything
beyond their edge. turf: grass, which takes no ground."""
EDGES = frozenset({"paving", "wall", "fence", "foundation", "pit"})
"""Where the ground ends for tubes, mulch and whoever works there."""
TAKES_GROUND = EDGES | {"post", "drain_field", "root_barrier"}
"""No tube lies there and no emitter drips there: over a buried drain field it would drown it and call roots in; beyond
a root barrier no root drinks it."""
NO_MULCH = EDGES | {"post"}
WIDE = frozenset({"post", "pit"})
"""Kinds that have a width of their own."""
HAND_DIG_M = 0.6
"""So near a buried line nothing is driven or dug in but by hand (common practice: 18 to 24 in by most states' law)."""
LEAST_STRIP_M = 0.05
FAR_M = 100.0
SEASON_DAYS = 180
"""A growing season (common practice)."""
BALL_COUNTS_UPTAKE = 0.3
"""While the tree drinks more than this share from its ball, the ball must be wetted."""
DEEP_ENOUGH = 0.8
"""One watering should wet so much of the ball's height, or of the root depth."""
ARRIVES = 0.9
"""Share of what drip pours that arrives (common practice)."""
BALL_SHAPE = 2.0 / 3.0
MISSING = 0.08
"""Water that a loam half empty lacks to field capacity [m3/m3]. Source: [FAO56] table 19."""
CLEAR_OF_OBSTACLE_M = 0.05


@dataclass(frozen=True, slots=True)
class Obstacle:
    """Something beside a tree: its edge lies `distance_m` away toward `bearing_deg`; a post is `across_m` wide.

    A pit reaches as far on the other side and is `across_m` wide from side to side, the trunk in its middle. A buried
    line's near edge is meant, as it is marked on the ground.
    """

    kind: str
    bearing_deg: float
    distance_m: float
    across_m: float = 0.0


def check(obstacle: Obstacle, trunk_diameter_m: float, field: str) -> None:
    """Refuse an obstacle that can't be: unknown, inside the trunk, a post without width."""
    if obstacle.kind not in OBSTACLES:
        raise InputError(f"must be one of {', '.join(OBSTACLES)}, not {obstacle.kind!r}", f"{field}.kind")
    if obstacle.distance_m <= trunk_diameter_m / 2:
        raise InputError(f"must be above {in_m(trunk_diameter_m / 2)}: the trunk stands there", f"{field}.distance_m")
    if obstacle.kind == "post" and not obstacle.across_m > 0:
        raise InputError("a post needs its width", f"{field}.across_m")
    if obstacle.kind == "pit" and obstacle.across_m <= trunk_diameter_m:
        raise InputError(f"must be above {in_m(trunk_diameter_m)}: the trunk stands there", f"{field}.across_m")


def toward(bearing_deg: float, distance_m: float) -> tuple[float, float]:
    """Place so far away in a direction."""
    turn = math.radians(bearing_deg)
    return distance_m * math.sin(turn), distance_m * math.cos(turn)


def shape(obstacle: Obstacle) -> BaseGeometry:
    """The ground that an obstacle covers, cut off far away."""
    if obstacle.kind == "post":
        x, y = toward(obstacle.bearing_deg, obstacle.distance_m + obstacle.across_m / 2)
        return wetting.disc(x, y, obstacle.across_m / 2)
    if obstacle.kind == "pit":
        opening = _block(obstacle.bearing_deg, -obstacle.distance_m, obstacle.distance_m, obstacle.across_m / 2)
        return wetting.disc(0.0, 0.0, FAR_M, 1).difference(opening)
    far = max(LEAST_STRIP_M, obstacle.across_m) if obstacle.kind == "buried_line" else FAR_M
    return _block(obstacle.bearing_deg, obstacle.distance_m, obstacle.distance_m + far, FAR_M)


def _block(bearing_deg: float, near_m: float, far_m: float, half_m: float) -> shapely.Polygon:
    """Ground between two distances from the trunk in a direction, as far to either side."""
    ahead = toward(bearing_deg, 1.0)
    side = (ahead[1], -ahead[0])
    corners = ((near_m, -half_m), (near_m, half_m), (far_m, half_m), (far_m, -half_m))
    return shapely.Polygon([
        (ahead[0] * far + side[0] * wide, ahead[1] * far + side[1] * wide) for far, wide in corners
    ])  # fmt: skip


@lru_cache(maxsize=512)
def hand_dug(obstacles: tuple[Obstacle, ...]) -> BaseGeometry | None:
    """Ground so near a buried line that nothing is driven or dug in but by hand, None where there is none."""
    lines = [shape(o).buffer(HAND_DIG_M) for o in obstacles if o.kind == "buried_line"]
    return shapely.union_all(lines) if lines else None


def seen(obstacle: Obstacle, frame: BaseGeometry) -> list[shapely.Polygon]:
    """What of an obstacle lies in a frame, in pieces without holes."""
    there = shape(obstacle).intersection(frame)
    if there.is_empty:
        return []
    if not there.interiors:
        return [there]
    left, _, right, _ = frame.bounds
    halves = (shapely.box(left, -FAR_M, 0.0, FAR_M), shapely.box(0.0, -FAR_M, right, FAR_M))
    return [there.intersection(half) for half in halves]


def crossed(path: Sequence[tuple[float, float]], obstacles: Iterable[Obstacle]) -> list[str]:
    """Kinds of what the path of a tube runs across that takes the ground.

    path: [(x m, y m)].
    """
    line = shapely.LineString(path)
    return [o.kind for o in obstacles if o.kind in TAKES_GROUND and shape(o).intersects(line)]


def edge_along_m(obstacles: Iterable[Obstacle], bearing_deg: float) -> float | None:
    """How far from the trunk the ground ends in a direction [m], None where it never does. Exact geometry."""
    found = []
    for obstacle in obstacles:
        ahead = math.cos(math.radians(obstacle.bearing_deg - bearing_deg))
        if obstacle.kind == "pit":
            ahead = abs(ahead)
            aside = abs(math.sin(math.radians(obstacle.bearing_deg - bearing_deg)))
            found.append(min(
                obstacle.distance_m / max(ahead, 1e-9), obstacle.across_m / 2 / max(aside, 1e-9),
            ))  # fmt: skip
        elif obstacle.kind in EDGES and ahead > 1e-6:
            found.append(obstacle.distance_m / ahead)
    return min(found, default=None)


@dataclass(frozen=True, slots=True)
class Row:
    """A tree's place in a row: the way it goes, and how far the trees stand apart."""

    bearing_deg: float
    spacing_m: float


@dataclass(frozen=True, slots=True)
class Scene:
    """One tree as a layout sees it. Lengths m, water L, pace mm/h, shares 0..1.

    roots_now_m, roots_next_m, roots_year_m: radius of the roots now, a growing season on and a
    year on. root_depth_m: how deep they go. uptake_from_ball:
    f. volume_l: one watering, as poured; arrives: share of it that gets to the soil; missing: what the soil lacks to
    field capacity then [m3/m3]. proven_conductivity_mm_h: what a proof in the field found, None = the soil's.
    rain_scarce: a dry climate, where more of the root zone must be wetted. feed_at_m: how far from the trunk the feed
    comes by, None = just outside the layout. row: in a row with others. season_days: until roots rest for the winter.
    """

    kind: str
    ball_radius_m: float
    ball_height_m: float
    trunk_diameter_m: float
    roots_now_m: float
    roots_next_m: float
    roots_year_m: float
    root_depth_m: float
    uptake_from_ball: float
    conductivity_mm_h: float
    intake_mm_h: float
    volume_l: float
    obstacles: tuple[Obstacle, ...] = ()
    cover: str = "bare"
    rain_scarce: bool = False
    proven_conductivity_mm_h: float | None = None
    feed_at_m: float | None = None
    row: Row | None = None
    missing: float = MISSING
    arrives: float = ARRIVES
    season_days: int = SEASON_DAYS

    @property
    def dry_m(self) -> float:
        """Radius of the circle round the trunk that is kept dry [m]."""
        return wetting.dry_radius_m(self.trunk_diameter_m, self.ball_radius_m)

    def zone(self, segments: int = wetting.SEGMENTS) -> BaseGeometry:
        """The root zone a season on, less what is taken and the dry trunk circle."""
        return _zone(self.roots_next_m, self.dry_m, self.obstacles, segments)

    def conductivity_at(self, distance_m: Numbers) -> Numbers:
        """Conductivity under emitters at these distances from the trunk [mm/h]."""
        return bulb.conductivity_at(
            distance_m, self.ball_radius_m, self.kind, self.conductivity_mm_h, self.proven_conductivity_mm_h
        )

    @property
    def wanted_depth_m(self) -> float:
        """How deep one watering must wet: most of the ball while the tree drinks from it, of the root depth after."""
        on_ball = self.uptake_from_ball > BALL_COUNTS_UPTAKE
        return DEEP_ENOUGH * (self.ball_height_m if on_ball else self.root_depth_m)

    def sunk_depth_m(self, end_depth_m: Numbers, union_m2: Numbers) -> Numbers:
        """Depth [m] that one watering wets once it has sunk in: the bulb's at its end, or deeper where what the wet
        ground lacks is less than what was poured on it (arithmetic); never deeper than the roots. Arrays broadcast."""
        spread = self.volume_l * self.arrives / (1000.0 * union_m2 * self.missing)
        return np.minimum(self.root_depth_m, np.maximum(end_depth_m, spread))

    def reach_at(self, roots_m: Numbers, beside_m2: Numbers) -> Numbers:
        """Share of the uptake that drip reaches, 0..1, once roots are so far out [m]; beside_m2: wet ground beside the
        ball. Arrays broadcast."""
        ball_l = np.pi * self.ball_radius_m**2 * self.ball_height_m
        rooted = np.pi * roots_m**2 * self.root_depth_m - ball_l
        f_b = 1.0 / (1.0 + ROOT_DENSITY_RING * np.maximum(0.0, rooted) / (BALL_SHAPE * ball_l))
        outer = np.maximum(roots_m, self.ball_radius_m + COLLAR_M)
        ring = np.pi * (outer**2 - self.ball_radius_m**2)
        return f_b + (1.0 - f_b) * np.minimum(1.0, beside_m2 / ring)

    def mirrored(self) -> "Scene":
        """East for west."""
        flipped = tuple(replace(o, bearing_deg=-o.bearing_deg % 360) for o in self.obstacles)
        row = None if self.row is None else replace(self.row, bearing_deg=-self.row.bearing_deg % 360)
        return replace(self, obstacles=flipped, row=row)


@lru_cache(maxsize=512)
def _taken(obstacles: tuple[Obstacle, ...]) -> tuple[BaseGeometry | None, BaseGeometry | None]:
    """Ground that tubes and roots can't have, and the same with a hand's breadth round it."""
    shapes = [shape(o) for o in obstacles if o.kind in TAKES_GROUND]
    if not shapes:
        return None, None
    taken = shapely.union_all(shapes)
    return taken, taken.buffer(CLEAR_OF_OBSTACLE_M, quad_segs=4)


def kept_clear(obstacles: tuple[Obstacle, ...]) -> BaseGeometry | None:
    """Where no tube may lie: what is taken, and a hand's breadth round it; None where nothing stands there."""
    return _taken(obstacles)[1]


@lru_cache(maxsize=512)
def _zone(roots_m: float, dry_m: float, obstacles: tuple[Obstacle, ...], segments: int) -> BaseGeometry:
    taken = _taken(obstacles)[0]
    return wetting.root_zone(roots_m, dry_m, [] if taken is None else [taken], segments)
