"""Room and light for the grown tree: findings, never walls. Lengths m, light hours a day.

Slight overlap of grown crowns is tolerated, a structure inside the grown radius is told. Source: common practice.
"""

from collections.abc import Iterable
from dataclasses import dataclass

from june_shade.core.drip.scene import Obstacle

LEAST_SPACING_SHARE = 2.0 / 3.0
"""Trees from two thirds of their grown spread apart overlap, but are accepted (common practice: 30 ft at 20 ft)."""
STRUCTURES = frozenset({"wall", "post", "fence", "foundation", "drain_field"})
BLOCKS_MOWER = frozenset({"wall", "post", "fence", "foundation"})
MOWER_M = 0.55
"""A small push mower (common practice: a 21 or 22 in deck)."""


@dataclass(frozen=True, slots=True)
class Room:
    """One finding on a place: a code, what there is and what is wanted [m or h]."""

    code: str
    has: float
    wants: float


def clearances(
    mature_spread_m: float,
    obstacles: Iterable[Obstacle],
    spacing_m: float | None,
    sun_h: float | None,
    sun_wants_h: float,
    *,
    mower_m: float | None = None,
    ring_radius_m: float = 0.0,
) -> tuple[Room, ...]:
    """What the place lacks for the grown tree. mower_m: how wide the mower is, None = none passes.

    ring_radius_m: ground round the trunk that is kept free of grass.
    """
    radius = mature_spread_m / 2
    found = []
    nearest: dict[str, float] = {}
    for obstacle in obstacles:
        nearest[obstacle.kind] = min(obstacle.distance_m, nearest.get(obstacle.kind, obstacle.distance_m))
    for kind, distance in nearest.items():
        if kind in STRUCTURES and distance < radius:
            found.append(Room(f"{kind}_inside", distance, radius))
    if spacing_m is not None and spacing_m < mature_spread_m:
        close = spacing_m < LEAST_SPACING_SHARE * mature_spread_m
        found.append(Room("crowns_crowd" if close else "crowns_touch", spacing_m, mature_spread_m))
    if mower_m is not None:
        strips = [d - ring_radius_m for kind, d in nearest.items() if kind in BLOCKS_MOWER]
        if spacing_m is not None:
            strips.append(spacing_m - 2 * ring_radius_m)
        narrow = [strip for strip in strips if 0 < strip < mower_m]
        if narrow:
            found.append(Room("mower_stuck", min(narrow), mower_m))
    if sun_h is not None and sun_h < sun_wants_h:
        found.append(Room("little_sun", sun_h, sun_wants_h))
    return tuple(found)
