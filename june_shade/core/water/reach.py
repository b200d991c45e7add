"""Where each way of pouring lands its water: on the ball, in the ring, beyond; one tree's, then stacked into arrays."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from june_shade.core.geometry import bulb, wetting
from june_shade.core.numbers import Numbers
from june_shade.core.stock.balls import COLLAR_M
from june_shade.core.water import delivery
from june_shade.core.water.delivery import BAG_RADIUS_M, EMITTER_RADIUS_SHARE, INTO_A_BASIN, Delivery
from june_shade.core.water.ground import Ground
from june_shade.core.water.stores import Array, Reach, Trees

NAN = float("nan")


@dataclass(frozen=True, slots=True)
class Landing:
    """Where one tree's water lands. circle_m2: that it is poured into, NaN without one. share: on the ball, NaN = by
    the circle. basin_m2: the circle that is kept, 0 = none. wetted_m2: drip's wetted ground within radii, or ().
    deep_m: down to where a tree on its own is watered, NaN for others.
    """

    circle_m2: float
    share: float
    basin_m2: float
    wetted_m2: tuple[float, ...] = ()
    deep_m: float = NAN


@dataclass(frozen=True, slots=True)
class Ball:
    """What a way of pouring needs to know of a tree: radius of its ball and of its established roots [m], kind, what
    the ball can give [L], and the conductivity of the ground [mm/h]."""

    radius_m: float
    established_radius_m: float
    kind: str
    taw_l: float
    conductivity_mm_h: float


def of_way(how: Delivery, ball: Ball) -> Landing:
    """Where a way of pouring lands its water round this ball. Drip that was laid out: `of_layout`."""
    basin = math.pi / 4 * how.basin_diameter_m**2 if how.basin_diameter_m else 0.0
    if how.method in INTO_A_BASIN:
        return Landing(delivery.basin_area_m2(how, ball.radius_m), NAN, basin)
    if how.method == "bag":
        return Landing(math.pi * BAG_RADIUS_M**2, NAN, basin)
    if how.method == "sprinkler":
        return Landing(delivery.wetted_area_m2(how, ball.radius_m), NAN, basin)
    share = delivery.ball_share(how, ball.radius_m, ball.kind, ball.conductivity_mm_h, ball.taw_l)
    if how.method == "soaker":
        _, outer = delivery.soaker_strip_m(how, ball.kind, ball.conductivity_mm_h, ball.taw_l / 2)
        return Landing(math.pi * outer**2, share, basin)
    if how.method == "emitters":
        ks = bulb.spreads_mm_h(ball.kind, ball.conductivity_mm_h)
        wide = float(bulb.diameter_m(ball.taw_l / 2 / how.emitters, how.emitter_flow_l_per_h, ks))
        found = _typed_emitters(how.emitters, round(wide, 3), round(ball.radius_m, 3), _outer_m(ball))
        return Landing(NAN, share, basin, found)
    return Landing(delivery.basin_area_m2(how, ball.radius_m), share, basin)


def of_layout(share: float, wetted_m2: Sequence[float], basin_diameter_m: float | None) -> Landing:
    """Where a layout of drip lands its water: its share on the ball, its wetted ground within radii."""
    basin = math.pi / 4 * basin_diameter_m**2 if basin_diameter_m else 0.0
    return Landing(NAN, share, basin, tuple(wetted_m2))


def layout_profile_m2(
    x_m: Numbers, y_m: Numbers, diameter_m: Numbers, ball_radius_m: float, established_radius_m: float
) -> tuple[float, ...]:
    """Wetted ground of a layout within radii from the ball's to the established one [m2]; arrays (emitters,)."""
    outer = max(established_radius_m, ball_radius_m + COLLAR_M)
    return wetting.profile_m2(x_m, y_m, diameter_m, ball_radius_m, outer)


DEEP_FROM, DEEP_TO = 1 / 2, 4 / 3
"""A tree on its own is watered from half the radius of its roots to a third beyond it, never at the trunk (common
practice)."""
DEEP_ROOTS_M = 0.9
"""As deep as a tree on its own is watered (common practice)."""


def of_deep(ball: Ball) -> Landing:
    """Where water lands that is spread round a tree on its own: none on the ball, a wide ring outside it."""
    roots = _outer_m(ball)
    inner, outer = DEEP_FROM * roots, DEEP_TO * roots
    within = np.clip(np.linspace(ball.radius_m, roots, wetting.PROFILE_STEPS + 1), inner, outer)
    return Landing(NAN, 0.0, 0.0, tuple((math.pi * (within**2 - inner**2)).tolist()), DEEP_ROOTS_M)


def reached_m(trees: Trees, reach: Reach, g: Ground) -> tuple[Array, Array]:
    """From and to which radius our water reaches the ring [m], arrays (trees,): from the ball outward; of trees on
    their own from the ring's edge inward."""
    ring_m2 = np.pi * g.ring_radius_m**2
    reached_m2 = g.near_share * (ring_m2 - trees.ball_area_m2)
    inward, outward = np.sqrt((ring_m2 - reached_m2) / np.pi), np.sqrt((trees.ball_area_m2 + reached_m2) / np.pi)
    deep = reach.on_their_own
    return np.where(deep, inward, trees.ball_radius_m), np.where(deep, g.ring_radius_m, outward)


def deep_ring_m2(ball: Ball) -> float:
    """The ring that a tree on its own is poured on [m2]."""
    return math.pi * _outer_m(ball) ** 2 * (DEEP_TO**2 - DEEP_FROM**2)


def _outer_m(ball: Ball) -> float:
    return round(max(ball.established_radius_m, ball.radius_m + COLLAR_M), 3)


@lru_cache(maxsize=4096)
def _typed_emitters(count: int, wide_m: float, ball_radius_m: float, outer_m: float) -> tuple[float, ...]:
    """The same for emitters that were only counted: evenly on the ball, at two thirds of its radius."""
    turn = 2 * math.pi * np.arange(count) / count
    at = EMITTER_RADIUS_SHARE * ball_radius_m if count > 1 else 0.0
    return wetting.profile_m2(at * np.sin(turn), at * np.cos(turn), np.full(count, wide_m), ball_radius_m, outer_m)


def stack(landings: Sequence[Landing]) -> Reach:
    """Arrays for the balance from the landings of many trees."""
    steps = wetting.PROFILE_STEPS + 1
    wetted = None
    if any(one.wetted_m2 for one in landings):
        blank = (NAN,) * steps
        wetted = np.array([one.wetted_m2 or blank for one in landings]).T.copy()
    deep = np.array([one.deep_m for one in landings])
    return Reach(
        circle_m2=np.array([one.circle_m2 for one in landings]),
        share=np.array([one.share for one in landings]),
        ring_share=np.full(len(landings), NAN),
        basin_m2=np.array([one.basin_m2 for one in landings]),
        wetted_m2=wetted,
        deep_m=None if np.all(np.isnan(deep)) else deep,
    )
