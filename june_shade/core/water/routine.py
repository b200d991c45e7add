"""A season of one or many trees under a routine, the balance's own or a school's. What `june-shade balance` runs.

Every day is plain weather, measured; there is no calendar, no rounding and no forecast in here (those are the
plan's). It opens after the first day's step 1, with the depletions as given.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from june_shade.core.errors import InputError
from june_shade.core.water import felt, refill
from june_shade.core.water.balance import Fluxes, grow, grown_radius_m, pass_day
from june_shade.core.water.ground import Ground, ground
from june_shade.core.water.schools import Look, Routine, Sky, poured_l, sky
from june_shade.core.water.stores import Array, Reach, State, Trees, pick, some
from june_shade.core.water.weather import Weather


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


@dataclass(frozen=True, slots=True)
class SideDay:
    """One day of a season under several routines, arrays (routines,): poured [L], what moved, the ground."""

    gross_l: Array
    moved: Fluxes
    ground: Ground


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
        ball_variance=ones * felt.PLANTED_SD**2,
        near_variance=ones * felt.PLANTED_SD**2,
    )
    return state, g


def run(
    trees: Trees, reach: Reach, start: Start, days: list[Weather], routine: Routine, efficiency: float,
    above: Sky | None = None,
) -> list[RoutineDay]:  # fmt: skip
    """Run a season day by day. efficiency: share of the poured water that arrives, 0..1 above 0. above: the season's
    sky, which schools go by."""
    above = above or sky(days, np.array([float(np.max(day.month_c)) for day in days]))
    state, g = opened(trees, reach, start, days[0])
    joined = np.zeros(len(trees))
    result = []
    for number, weather in enumerate(days):
        if number:
            state, g, joined = grow(trees, reach, state, weather)
        day = _pass(trees, g, state, weather, routine, number, efficiency, above)
        day = replace(day, joined_l=joined)
        state = day.state
        result.append(day)
    return result


def _pass(
    trees: Trees,
    g: Ground,
    state: State,
    weather: Weather,
    routine: Routine,
    number: int,
    efficiency: float,
    above: Sky,
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
    if routine.name == "none":
        return RoutineDay(none, dry, wet, dry_end, g, none, findings)
    if routine.name != "balance":
        refill_l = wanted.net_l / efficiency
        look = Look(number, float(np.max(weather.month_c)), above, trees, g, state, refill_l)
        gross = poured_l(routine, look)
        end, moved = pass_day(trees, g, state, weather, gross * efficiency)
        return RoutineDay(gross, moved, wet, end, g, none, findings)
    due = _due(trees, wanted.net_l, dry, wet)
    full = refill.full_day(trees, g, state, weather)
    findings["ball_not_refilled"] = due & refill.ball_not_refilled(g, wanted)
    findings["once_is_not_enough"] = due & refill.once_is_not_enough(trees, g, full)
    findings["roots_outgrown"] = due & refill.roots_outgrown(trees, g, full)
    gross = np.where(due, wanted.net_l, 0.0) / efficiency
    return RoutineDay(gross, pick(due, wet, dry), wet, pick(due, wet_end, dry_end), g, none, findings)


def side_by_side(
    tree: Trees, reach: Reach, start: Start, days: list[Weather], routines: Sequence[Routine], efficiency: float,
    above: Sky,
) -> list[SideDay]:  # fmt: skip
    """Run one tree's season under every routine at once; each is what `run` makes of it.

    efficiency: share of the poured water that arrives, 0..1 above 0; above: the season's sky.
    """
    copies = np.zeros(len(routines), int)
    trees, reach = some(tree, copies), some(reach, copies)
    state, g = opened(trees, reach, start, days[0])
    result = []
    for number, weather in enumerate(days):
        if number:
            state, g, _ = grow(trees, reach, state, weather)
        wanted_l = refill.refill(g, state).net_l
        month_c = float(np.max(weather.month_c))
        gross_l = np.zeros(len(routines))
        for column, routine in enumerate(routines):
            if routine.name == "balance":
                at = np.array([column])
                one, its_ground, its_state = some(trees, at), some(g, at), some(state, at)
                _, dry = pass_day(one, its_ground, its_state, weather, np.zeros(1))
                _, wet = pass_day(one, its_ground, its_state, weather, wanted_l[at])
                due = _due(one, wanted_l[at], dry, wet)
                gross_l[column] = wanted_l[column] / efficiency if due[0] else 0.0
            elif routine.name != "none":
                look = Look(number, month_c, above, trees, g, state, wanted_l / efficiency)
                gross_l[column] = poured_l(routine, look)[column]
        state, moved = pass_day(trees, g, state, weather, gross_l * efficiency)
        result.append(SideDay(gross_l, moved, g))
    return result


def _due(trees: Trees, wanted_l: Array, dry: Fluxes, wet: Fluxes) -> Array:
    """Whether the balance waters on a day: there is room, and what is wanted mends what the day would dry out.

    dry, wet: the day without and with the wanted water.
    """
    return (wanted_l > 0) & refill.mends(trees, dry, wet)
