"""When water is wanted, how much brings it back to field capacity, and what no visit can mend."""

from dataclasses import dataclass, replace

import numpy as np

from june_shade.core.numbers import Numbers
from june_shade.core.water.balance import SOGGY_SHARE, Fluxes, pass_day
from june_shade.core.water.ground import Ground, dryness, ground
from june_shade.core.water.stores import CREEP_M, Array, Reach, State, Trees
from june_shade.core.water.weather import Weather

READY_SHARE = 0.5
"""A tree is ready once its dryness passes this share of its limit: no water wasted, roots have had air."""
MENDS_DRYNESS = 0.05
"""A visit is worth a day on which it lowers the dryness by more than this (calibrated)."""
HELPS_THE_BALL = 0.5
"""Share of what stands in the near ring that comes to help the ball (the free water that crosses)."""
YOUNG = 0.8
"""Up to this establishment a ball that is left dry is a fault; an older tree is watered off its trunk on purpose."""
DRY_BALL_WETNESS = 0.5
"""A ball is dry that is left with less than this share of what it can give."""
OUTGROWN_REACH = 0.75
"""Roots have outgrown the water that reaches less than this share of their uptake."""
WANTED_REACH = 0.9
WIDE_BEYOND = 0.2
"""A basin is too wide that lands more than this share of its water beyond the roots."""


@dataclass(frozen=True, slots=True)
class Refill:
    """Net water that refills ball and near ring [L], and where the cap binds: this way of pouring can't do it."""

    net_l: Array
    wanted_l: Array
    cap_l: Array
    capped: Array


def refill(g: Ground, state: State) -> Refill:
    """Net irrigation back to field capacity in ball and near ring, for the state after step 1.

    N = min(max(N_b, N_n), C). N_b = D_b/s where s_n D_b <= D_n s, else (D_b + 0.5 D_n)/(s + 0.5 s_n): water that
    stands free in the ring helps the ball. N_n = D_n/s_n where s D_n <= D_b s_n, else (D_b + D_n)/(s + s_n): a full
    ball spills. C = max(0, (D_b + D_n)/(s + s_n), (D_n + 0.5 X_n)/s_n) counts depletions as they stand, the wanted part
    from 0 up. s_n = 0: no cap; s = 0: the ball is not refilled while it is dry (calibrated).
    """
    s, s_n = g.share, g.near_lands
    d_ball, d_near = state.ball_depletion_l, state.near_depletion_l
    ball, near = np.maximum(0.0, d_ball), np.maximum(0.0, d_near)
    both = s + s_n
    with np.errstate(divide="ignore", invalid="ignore"):
        alone = np.where(s_n * ball <= near * s, ball / s, (ball + HELPS_THE_BALL * near) / (s + HELPS_THE_BALL * s_n))
        for_ball = np.where(s > 0, alone, 0.0)
        for_near = np.where((s_n > 0) & (s * near <= ball * s_n), near / s_n, (ball + near) / both)
        room = np.where(s_n > 0, (d_near + SOGGY_SHARE * g.near_space_l) / s_n, np.inf)
    wanted = np.maximum(for_ball, for_near)
    cap = np.maximum(np.maximum(0.0, (d_ball + d_near) / both), room)
    capped = np.where(s > 0, wanted > cap, d_ball > 0)
    return Refill(np.minimum(wanted, cap), wanted, cap, capped)


def breaks(trees: Trees, moved: Fluxes) -> Array:
    """True where a day ended drier than the limit or with less uptake than is wanted kept."""
    return (moved.dryness > trees.dryness_limit) | (moved.ks < trees.ks_floor)


def mends(trees: Trees, without: Fluxes, with_water: Fluxes) -> Array:
    """True where the visit's own amount mends what the day without it breaks: it is due only then."""
    drier = (without.dryness > trees.dryness_limit) & (without.dryness - with_water.dryness > MENDS_DRYNESS)
    return drier | (without.ks < trees.ks_floor * with_water.ks)


def is_ready(trees: Trees, g: Ground, state: State) -> Array:
    """True where the dryness after step 1 has passed half the limit."""
    return dryness(trees, g, state.ball_depletion_l, state.near_depletion_l) > READY_SHARE * trees.dryness_limit


def full_day(trees: Trees, g: Ground, state: State, weather: Weather) -> Fluxes:
    """What a day moves that opens with ball and near ring full: whether one watering a day can be enough."""
    zero = np.zeros(len(trees))
    opened = replace(state, ball_depletion_l=zero, near_depletion_l=zero)
    return pass_day(trees, g, opened, weather, zero)[1]


def dry_ball(g: Ground, with_water: Fluxes) -> Array:
    """True where the visit's own amount would leave a young tree's ball with under half of what it can give."""
    return (g.establishment < YOUNG) & (with_water.ball_wetness < DRY_BALL_WETNESS)


def ball_not_refilled(g: Ground, wanted: Refill) -> Array:
    """True where a young tree's ball can't be refilled by pouring so without drowning the ring."""
    return (g.establishment < YOUNG) & wanted.capped


def once_is_not_enough(trees: Trees, g: Ground, full: Fluxes) -> Array:
    """True where even a day that opens full ends with less uptake than wanted, though the water reaches the roots."""
    return (full.ks < trees.ks_floor * full.air) & (g.reach >= OUTGROWN_REACH)


def roots_outgrown(trees: Trees, g: Ground, full: Fluxes) -> Array:
    """The same where the water reaches too little of the roots: more of it there does not help."""
    return (full.ks < trees.ks_floor * full.air) & (g.reach < OUTGROWN_REACH)


def basin_wide(g: Ground) -> Array:
    """True where much of the water lands beyond the roots."""
    return g.beyond > WIDE_BEYOND


def width_reaching_m(g: Ground, trees: Trees, reach: float = WANTED_REACH) -> Array:
    """Diameter [m] of the circle to pour into so that the water reaches this share of the uptake.

    reach: share of the uptake, 0..1.
    """
    f_b = g.uptake_from_ball
    phi = np.clip((reach - f_b) / np.maximum(1e-9, 1.0 - f_b), 0.0, 1.0)
    ring = np.pi * g.ring_radius_m**2 - trees.ball_area_m2
    return 2 * np.maximum(trees.ball_radius_m, np.sqrt((phi * ring + trees.ball_area_m2) / np.pi) - CREEP_M)


def narrowed(trees: Trees, reach: Reach, g: Ground, state: State, mulch_depth_share: Numbers) -> tuple[Array, Array]:
    """The basin that would waste nothing, across [m], and what refills ball and near ring through it [L]."""
    circle = np.pi * g.ring_radius_m**2
    tight = replace(reach, circle_m2=circle, basin_m2=np.where(reach.basin_m2 > 0, circle, 0.0))
    other = ground(trees, tight, state.root_radius_m, mulch_depth_share)
    return 2 * g.ring_radius_m, refill(other, state).net_l
