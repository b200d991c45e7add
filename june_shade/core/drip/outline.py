"""Where the parts of a layout go: rings or what obstacles leave of them, arms, stretches of line, emitters on each."""

import math
from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from june_shade.core.drip.choice import LEAST_ARM_M, LayoutChoice, bore_mm, check
from june_shade.core.drip.scene import Obstacle, Scene, kept_clear, toward
from june_shade.core.errors import InputError

LEAST_ON_RING = 3
LEAST_ARC_DEG = 40.0
BEND_M = 0.22
"""Tighter than this a wide tube kinks: take quarter-inch (common practice)."""
SPOKE_TURN_DEG = 20.0


@lru_cache(maxsize=8192)
def _free_arc(radius: float, bearing: float, scene_room: "_Room") -> tuple[float, float] | None:
    """The longest free part of a circle: bearing of its beginning, degrees of turn; 360 = all of it, from the bearing.

    None where too little is left.
    """
    room = scene_room.shape
    if room is None:
        return bearing, 360.0
    turn = np.arange(0.0, 360.0, 1.0)
    at = np.deg2rad(turn)
    blocked = shapely.contains_xy(room, radius * np.sin(at), radius * np.cos(at))
    if not np.any(blocked):
        return bearing, 360.0
    if np.all(blocked):
        return None
    first = int(np.argmax(blocked))
    rolled = np.roll(blocked, -first)
    edges = np.flatnonzero(np.diff(np.concatenate([[1], rolled.astype(int), [1]])))
    starts, ends = edges[::2], edges[1::2]
    longest = int(np.argmax(ends - starts))
    span = float(ends[longest] - starts[longest])
    return None if span < LEAST_ARC_DEG else ((first + float(starts[longest])) % 360.0, span)


@dataclass(frozen=True, slots=True)
class _Room:
    """Where no tube may lie, known by the obstacles that make it."""

    obstacles: tuple[Obstacle, ...]

    @property
    def shape(self) -> BaseGeometry | None:
        """Where no tube may lie, None where nothing stands."""
        return kept_clear(self.obstacles)


@dataclass(frozen=True, slots=True)
class Arc:
    """A ring, or what an obstacle leaves of it: where it begins and how far it turns [deg], emitters on it."""

    kind: str
    radius_m: float
    begin_deg: float
    span_deg: float
    emitters: int
    bore_mm: float

    @property
    def closed(self) -> bool:
        """Whether it goes all the way round."""
        return self.span_deg >= 360.0

    @property
    def length_m(self) -> float:
        """Length of its tube [m]."""
        return math.radians(self.span_deg) * self.radius_m

    def turns(self) -> np.ndarray:
        """Degrees from the beginning to each emitter."""
        return (np.arange(self.emitters) + 0.5) * self.span_deg / self.emitters

    def places(self) -> np.ndarray:
        """Where its emitters are, array (emitters, 2)."""
        at = np.deg2rad(self.begin_deg + self.turns())
        return np.column_stack([self.radius_m * np.sin(at), self.radius_m * np.cos(at)])

    def within(self, bearing: float) -> float | None:
        """Degrees from the beginning to a bearing; None where the ring does not go there."""
        turn = (bearing - self.begin_deg) % 360.0
        return turn if turn <= self.span_deg else None

    def nearest(self, bearing: float) -> float:
        """Degrees from the beginning to the bearing, or to the end that lies nearer."""
        turn = self.within(bearing)
        if turn is not None:
            return turn
        beyond = (bearing - self.begin_deg) % 360.0 - self.span_deg
        return self.span_deg if beyond < (360.0 - self.span_deg) / 2 else 0.0


@dataclass(frozen=True, slots=True)
class Arm:
    """A straight tube off the ring: its bearing, length and emitters, the last at its end."""

    bearing_deg: float
    from_m: float
    length_m: float
    emitters: int

    def along(self) -> np.ndarray:
        """Metres from the ring to each emitter."""
        return self.length_m * (np.arange(self.emitters) + 1) / self.emitters

    def places(self) -> np.ndarray:
        """Where its emitters are, array (emitters, 2)."""
        ahead = np.array(toward(self.bearing_deg, 1.0))
        return np.outer(self.from_m + self.along(), ahead)


@dataclass(frozen=True, slots=True)
class Stretch:
    """A tree's own part of a line along its row: how far beside the trunks, its length and emitters.

    apart_m: emitters so far apart beside the trunk; None = evenly spread over its length.
    """

    bearing_deg: float
    offset_m: float
    length_m: float
    emitters: int
    apart_m: float | None = None

    def at(self, along_m: float) -> tuple[float, float]:
        """Place so many metres along, counted from beside the trunk."""
        ahead, side = toward(self.bearing_deg, 1.0), toward(self.bearing_deg + 90.0, 1.0)
        return ahead[0] * along_m + side[0] * self.offset_m, ahead[1] * along_m + side[1] * self.offset_m

    def along(self) -> np.ndarray:
        """Metres from its beginning to each emitter."""
        if self.apart_m is not None:
            return self.length_m / 2 + (np.arange(self.emitters) - (self.emitters - 1) / 2) * self.apart_m
        return (np.arange(self.emitters) + 0.5) * self.length_m / self.emitters

    def places(self) -> np.ndarray:
        """Where its emitters are, array (emitters, 2)."""
        return np.array([self.at(along - self.length_m / 2) for along in self.along()])


@dataclass(frozen=True)
class Outline:
    """A layout before its tubes are joined. skipped_arms: left out for what stands there; cut: shortened by it."""

    arcs: tuple[Arc, ...]
    arms: tuple[Arm, ...]
    stretches: tuple[Stretch, ...]
    skipped_arms: int
    cut: bool

    @cached_property
    def at(self) -> np.ndarray:
        """Where all emitters are in the order of their numbers, array (emitters, 2)."""
        parts: list[Arc | Arm | Stretch] = [*self.arcs[:1], *self.arms, *self.arcs[1:], *self.stretches]
        return np.concatenate([part.places() for part in parts])

    @property
    def tees(self) -> int:
        """Tees that join it."""
        return (2 * len(self.arcs) - 1 if self.arcs else 0) + len(self.arms)

    @cached_property
    def tube_m(self) -> float:
        """Tube of its rings, arms and lines [m]."""
        lengths = [arc.length_m for arc in self.arcs] + [arm.length_m for arm in self.arms]
        return sum(lengths) + sum(stretch.length_m for stretch in self.stretches)


def count_on(length_m: float, spacing_m: float, least: int) -> int:
    """Emitters on a tube so long, none farther apart than the spacing."""
    return max(least, math.ceil(length_m / spacing_m - 1e-9))


def _arc(kind: str, radius: float, bearing: float, choice: LayoutChoice, scene: Scene, points: int = 0) -> Arc | None:
    free = _free_arc(radius, bearing, _Room(scene.obstacles))
    if free is None:
        return None
    length = math.radians(free[1]) * radius
    count = points or count_on(length, choice.spacing_m, LEAST_ON_RING if free[1] >= 360.0 else 2)
    bore = bore_mm("quarter_inch") if radius < BEND_M else choice.bore_mm
    return Arc(kind, radius, free[0], free[1], count, bore)


def outline(choice: LayoutChoice, scene: Scene) -> Outline:
    """Where the parts of a layout go. Raises InputError for measures that can't be laid, or where there is no room."""
    check(choice, scene)
    if choice.pattern == "row_lines":
        return _along_row(choice, scene)
    points = choice.points if choice.pattern == "on_ball" else 0
    outer = _arc("ring", choice.radius_m, choice.feed_bearing_deg, choice, scene, points)
    if outer is None:
        raise InputError("what stands in the way leaves no room for a ring of this size", "radius_m")
    arcs, arms, skipped, cut = [outer], [], 0, not outer.closed
    if choice.pattern == "two_rings":
        bearing = choice.feed_bearing_deg + SPOKE_TURN_DEG
        inner = _arc("inner", choice.inner_radius_m, bearing, choice, scene, choice.points)
        if inner is not None:
            arcs.append(inner)
    if choice.pattern == "ring_arms":
        for j in range(choice.arms):
            arm = _arm(choice.feed_bearing_deg + (j + 0.5) * 360.0 / choice.arms, outer, choice, scene)
            if arm is None:
                skipped += 1
            else:
                arms.append(arm)
                cut |= arm.length_m < choice.arm_reach_m - choice.radius_m - 1e-9
    return Outline(tuple(arcs), tuple(arms), (), skipped, cut)


def _arm(bearing: float, outer: Arc, choice: LayoutChoice, scene: Scene) -> Arm | None:
    """An arm, ended before what stands in its way; None where that leaves too little."""
    if outer.within(bearing) is None:
        return None
    length = choice.arm_reach_m - choice.radius_m
    room = _Room(scene.obstacles).shape
    if room is not None:
        ray = shapely.LineString([toward(bearing, choice.radius_m), toward(bearing, choice.arm_reach_m)])
        hit = ray.intersection(room)
        if not hit.is_empty:
            length = shapely.Point(toward(bearing, choice.radius_m)).distance(hit)
    if length < LEAST_ARM_M:
        return None
    return Arm(bearing, choice.radius_m, length, count_on(length, choice.spacing_m, 1))


def _along_row(choice: LayoutChoice, scene: Scene) -> Outline:
    """A tree's own stretch of the lines along its row, from halfway to its neighbours on either side."""
    assert scene.row is not None
    cell = scene.row.spacing_m
    apart = min(choice.spacing_m, cell / choice.points) if choice.points else None
    count = choice.points or count_on(cell, choice.spacing_m, 2)
    offsets = (choice.offset_m, -choice.offset_m)[: choice.lines]
    room = _Room(scene.obstacles).shape
    found = []
    for offset in offsets:
        stretch = Stretch(scene.row.bearing_deg, offset, cell, count, apart)
        path = shapely.LineString([stretch.at(-cell / 2), stretch.at(cell / 2)])
        if room is None or not path.intersects(room):
            found.append(stretch)
    if not found:
        raise InputError("what stands in the way leaves no room for a line so far from the trunks", "offset_m")
    return Outline((), (), tuple(found), 0, len(found) < len(offsets))
