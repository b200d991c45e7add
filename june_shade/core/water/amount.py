"""When a tree is due or ready, and how much brings it back to field capacity."""

from dataclasses import dataclass

import numpy as np

from june_shade.core.water.balance import (
    SOGGY_SHARE,
    Array,
    Fluxes,
    Ground,
    State,
    Trees,
    Weather,
    dryness,
    pass_day,
)

READY_SHARE = 0.5
"""A tree is ready once its dryness passes this share of its limit: no water wasted, roots have had air."""
DRY_BALL_SHARE = 0.25
DRY_BALL_UPTAKE = 0.5
DRY_BALL_UPTAKE_AT_NONE = 0.2


@dataclass(frozen=True, slots=True)
class Refill:
    """Net water that refills both stores [L], and where the cap binds: this way of pouring can't do it."""

    net_l: Array
    wanted_l: Array
    cap_l: Array
    capped: Array


def refill(trees: Trees, g: Ground, state: State) -> Refill:
    """Net irrigation back to field capacity in both stores, for the state after step 1.

    N = min(max(D_b + D_r, D_b / s), C), C = max(0, D_b + D_r, (D_r + 0.5 X_r) / (1 - s)); the wanted part
    counts depletions from 0 up, the cap as they stand (water standing in the ring counts against it).
    s = 1: no cap; s = 0: N = D_r, and the ball is not refilled while it is dry.
    """
    s = g.ball_share
    d_ball, d_ring = state.ball_depletion_l, state.ring_depletion_l
    dry_ball, dry_ring = np.maximum(0.0, d_ball), np.maximum(0.0, d_ring)
    with np.errstate(divide="ignore", invalid="ignore"):
        wanted = np.maximum(dry_ball + dry_ring, np.where(s > 0, dry_ball / s, 0.0))
        room = np.where(s < 1, (d_ring + SOGGY_SHARE * g.ring_space_l) / (1.0 - s), np.inf)
    cap = np.maximum(np.maximum(0.0, d_ball + d_ring), room)
    none_on_ball = s <= 0
    net = np.where(none_on_ball, dry_ring, np.minimum(wanted, cap))
    capped = np.where(none_on_ball, d_ball > 0, wanted > cap)
    return Refill(net, wanted, cap, capped)


def breaks(trees: Trees, moved: Fluxes) -> Array:
    """True where a day ended drier than the limit or with less uptake than is wanted kept."""
    return (moved.dryness > trees.dryness_limit) | (moved.ks < trees.ks_floor)


def is_ready(trees: Trees, g: Ground, state: State) -> Array:
    """True where the dryness after step 1 has passed half the limit."""
    return dryness(trees, g, state.ball_depletion_l, state.ring_depletion_l) > READY_SHARE * trees.dryness_limit


def full(state: State) -> State:
    """The same trees with both stores at field capacity."""
    zero = np.zeros_like(state.ball_depletion_l)
    return State(
        state.root_radius_m,
        zero,
        zero,
        state.outside_depletion_mm,
        state.ks,
        state.soggy,
        state.rain_before_mm,
    )


def full_day(trees: Trees, g: Ground, state: State, weather: Weather) -> Fluxes:
    """What a day moves that opens with both stores full: whether one watering a day can be enough."""
    return pass_day(trees, g, full(state), weather, np.zeros(len(trees)))[1]


def dry_ball_fault(g: Ground) -> Array:
    """True where the water misses the ball while the tree still drinks from it."""
    s, f = g.ball_share, g.uptake_from_ball
    return ((s <= 0) & (f > DRY_BALL_UPTAKE_AT_NONE)) | ((s < DRY_BALL_SHARE) & (f > DRY_BALL_UPTAKE))
