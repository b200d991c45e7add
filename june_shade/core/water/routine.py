"""A season of one or many trees under a routine: balance, fixed or none. What `june-shade balance` runs.

Every day is plain weather, measured; there is no calendar, no rounding and no forecast in here (those are the
plan's). It opens after the first day's step 1, with the depletions as given.
"""

from dataclasses import dataclass, replace

import numpy as np

from june_shade.core.errors import InputError
from june_shade.core.water import refill
from june_shade.core.water.balance import Fluxes, grow, grown_radius_m, pass_day
from june_shade.core.water.stores import Array, Ground, Reach, State, Trees, ground, pick
from june_shade.core.water.weather import Weather


@dataclass(frozen=True, slots=True)
class Routine:
    """balance: refill on due days; fixed: `litres` (gross) on day 0 and every `every_days` after; none."""

    name: str
    litres: float = 0.0
    every_days: int = 1


@dataclass(frozen=True, slots=True)
class Start:
    """Where a season opens: depletions [L] after the first day's step 1, roots beyond the ball [m], outside 0..1.

    most_ball_depletion_l: up to where the ball's is taken, None = what it can give. Lifted roots use part of the soil
    that they stand in, so theirs may open drier than that part alone.
    """

    ball_depletion_l: float = 0.0
    near_depletion_l: float = 0.0
    far_depletion_l: float = 0.0
    root_spread_beyond_ball_m: float = 0.0
    outside_depletion_fraction: float = 0.0
    most_ball_depletion_l: float | None = None


@dataclass(frozen=True, slots=True)
class RoutineDay:
    """One day of a season: gross and net litres, what moved, the state at its end, findings by code (trees,).

    with_water: what the day would have moved with the visit's own amount poured, due or not.
    """

    gross_l: Array
    moved: Fluxes
    with_water: Fluxes
    state: State
    ground: Ground
    joined_l: Array
    findings: dict[str, Array]


def opened(trees: Trees, reach: Reach, start: Start, first: Weather) -> tuple[State, Ground]:
    """State and ground after the first day's step 1. Refuses depletions that the stores can't have."""
    r0 = np.minimum(trees.established_radius_m, trees.ball_radius_m + start.root_spread_beyond_ball_m)
    ones, no = np.ones(len(trees)), np.zeros(len(trees), bool)
    radius = grown_radius_m(trees, r0, first.month_c, ones, no)
    g = ground(trees, reach, radius, first.mulch_depth_share)
    most = trees.ball_taw_l if start.most_ball_depletion_l is None else ones * start.most_ball_depletion_l
    for name, value, taw, space in (
        ("ball_depletion_l", start.ball_depletion_l, most, trees.ball_space_l),
        ("near_depletion_l", start.near_depletion_l, g.near_taw_l, g.near_space_l),
        ("far_depletion_l", start.far_depletion_l, g.far_taw_l, g.far_space_l),
    ):
        low, high = -float(np.min(space)), float(np.min(taw))
        if not low <= value <= high:
            raise InputError(
                f"must lie between {low:.6g} and {high:.6g} L for this tree, not {value:g}", f"start.{name}"
            )
    state = State(
        root_radius_m=radius,
        ball_depletion_l=ones * start.ball_depletion_l,
        near_depletion_l=ones * start.near_depletion_l,
        far_depletion_l=ones * start.far_depletion_l,
        near_volume_l=g.near_volume_l,
        far_volume_l=g.far_volume_l,
        outside_depletion_mm=start.outside_depletion_fraction * trees.outside_taw_mm,
        ks=ones,
        soggy=no,
        soggy_days=np.zeros(len(trees)),
        rain_before_mm=np.zeros(len(trees)),
    )
    return state, g


def run(
    trees: Trees, reach: Reach, start: Start, days: list[Weather], routine: Routine, efficiency: float
) -> list[RoutineDay]:
    """Run a season day by day. efficiency: share of the poured water that arrives, 0..1 above 0."""
    state, g = opened(trees, reach, start, days[0])
    joined = np.zeros(len(trees))
    result = []
    for number, weather in enumerate(days):
        if number:
            state, g, joined = grow(trees, reach, state, weather)
        day = _pass(trees, g, state, weather, routine, number, efficiency)
        day = replace(day, joined_l=joined)
        state = day.state
        result.append(day)
    return result


def _pass(
    trees: Trees, g: Ground, state: State, weather: Weather, routine: Routine, number: int, efficiency: float
) -> RoutineDay:
    """A day decided by the routine and passed."""
    none = np.zeros(len(trees))
    wanted = refill.refill(g, state)
    dry_end, dry = pass_day(trees, g, state, weather, none)
    wet_end, wet = pass_day(trees, g, state, weather, wanted.net_l)
    findings: dict[str, Array] = {}
    if routine.name != "none":
        findings["dry_ball"] = refill.dry_ball(g, wet)
        findings["basin_wide"] = refill.basin_wide(g)
    if routine.name == "fixed" and number % routine.every_days == 0:
        gross = none + routine.litres
        end, moved = pass_day(trees, g, state, weather, gross * efficiency)
        return RoutineDay(gross, moved, wet, end, g, none, findings)
    if routine.name != "balance":
        return RoutineDay(none, dry, wet, dry_end, g, none, findings)
    due = (wanted.net_l > 0) & refill.mends(trees, dry, wet)
    full = refill.full_day(trees, g, state, weather)
    findings["ball_not_refilled"] = due & refill.ball_not_refilled(g, wanted)
    findings["once_is_not_enough"] = due & refill.once_is_not_enough(trees, g, full)
    findings["roots_outgrown"] = due & refill.roots_outgrown(trees, g, full)
    gross = np.where(due, wanted.net_l, 0.0) / efficiency
    return RoutineDay(gross, pick(due, wet, dry), wet, pick(due, wet_end, dry_end), g, none, findings)
