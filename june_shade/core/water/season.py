"""A season of one or many trees under a routine: balance, fixed or none. What `june-shade balance` runs.

Every day is plain weather, measured; there is no calendar, no rounding and no forecast in here (those are the
planner's). The first day's step 1 is done before the given depletions are taken.
"""

from dataclasses import dataclass

import numpy as np

from june_shade.core.errors import InputError
from june_shade.core.water import amount
from june_shade.core.water.balance import (
    Array,
    Fluxes,
    Ground,
    State,
    Trees,
    Weather,
    ground,
    grow,
    grown_radius_m,
    pass_day,
)

THIRSTY_KS = 0.9
"""A day with less uptake than this share of the demand is thirsty."""


@dataclass(frozen=True, slots=True)
class Routine:
    """balance: refill on due days; fixed: `litres` (gross) on day 0 and every `every_days` after; none."""

    name: str
    litres: float = 0.0
    every_days: int = 1


@dataclass(frozen=True, slots=True)
class Start:
    """Where a season opens: depletions [L] after the first day's step 1, roots beyond the ball [m], outside 0..1."""

    ball_depletion_l: float = 0.0
    ring_depletion_l: float = 0.0
    root_spread_beyond_ball_m: float = 0.0
    outside_depletion_fraction: float = 0.0


@dataclass(frozen=True, slots=True)
class SeasonDay:
    """One day of a season: gross and net litres, what moved, the state at its end, findings by code (trees,)."""

    gross_l: Array
    moved: Fluxes
    state: State
    ground: Ground
    joined_l: Array
    findings: dict[str, Array]


def open_season(trees: Trees, start: Start, first: Weather) -> tuple[State, Ground]:
    """State and ground after the first day's step 1. Refuses depletions that the stores can't have."""
    r0 = np.minimum(trees.established_radius_m, trees.ball_radius_m + start.root_spread_beyond_ball_m)
    ones, no = np.ones(len(trees)), np.zeros(len(trees), bool)
    radius = grown_radius_m(trees, r0, first.tmean_c, ones, no)
    g = ground(trees, radius, first.mulch_depth_share)
    for name, value, taw, space in (
        ("ball_depletion_l", start.ball_depletion_l, trees.ball_taw_l, trees.ball_space_l),
        ("ring_depletion_l", start.ring_depletion_l, g.ring_taw_l, g.ring_space_l),
    ):
        low, high = -float(np.min(space)), float(np.min(taw))
        if not low <= value <= high:
            raise InputError(
                f"must lie between {low:.6g} and {high:.6g} L for this tree, not {value:g}", f"start.{name}"
            )
    state = State(
        radius,
        ones * start.ball_depletion_l,
        ones * start.ring_depletion_l,
        start.outside_depletion_fraction * trees.outside_taw_mm,
        ones,
        no,
        np.zeros(len(trees)),
    )
    return state, g


def run(trees: Trees, start: Start, days: list[Weather], routine: Routine, efficiency: float) -> list[SeasonDay]:
    """Run a season day by day. efficiency: share of the poured water that arrives, 0..1 above 0."""
    state, g = open_season(trees, start, days[0])
    return _run(trees, state, g, days, routine, efficiency)


def run_from(trees: Trees, before: State, days: list[Weather], routine: Routine, efficiency) -> list[SeasonDay]:
    """The same from a state as it stood on the evening before. efficiency: a number or an array (trees,)."""
    old = ground(trees, before.root_radius_m, days[0].mulch_depth_share)
    state, g, _ = grow(trees, before, days[0], old)
    return _run(trees, state, g, days, routine, efficiency)


def _run(trees: Trees, state: State, g: Ground, days: list[Weather], routine: Routine, efficiency) -> list[SeasonDay]:
    result: list[SeasonDay] = []
    none = np.zeros(len(trees))
    joined = none
    for number, weather in enumerate(days):
        if number:
            state, g, joined = grow(trees, state, weather, g)
        findings: dict[str, Array] = {}
        net, gross = none, none
        if routine.name != "none":
            findings["dry_ball"] = amount.dry_ball_fault(g)
        if routine.name == "fixed" and number % routine.every_days == 0:
            gross = none + routine.litres
            net = gross * efficiency
        if routine.name == "balance":
            due = amount.breaks(trees, pass_day(trees, g, state, weather, none)[1])
            wanted = amount.refill(trees, g, state)
            net = np.where(due, wanted.net_l, 0.0)
            gross = net / efficiency
            findings["ball_not_refilled"] = due & wanted.capped
            short = amount.full_day(trees, g, state, weather).ks < trees.ks_floor
            findings["once_is_not_enough"] = due & short
        state, moved = pass_day(trees, g, state, weather, net)
        result.append(SeasonDay(gross, moved, state, g, joined, findings))
    return result
