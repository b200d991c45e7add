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
from june_shade.core.water.stores import Array, Ground, Reach, State, Trees, ground, pick, some
from june_shade.core.water.weather import Weather

ROUTINES = (
    "balance", "none", "fixed", "taper", "heat", "rainfall", "slow_hose", "deep", "bare_root", "when_dry",
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class Routine:
    """How a tree is watered, by name and what that needs: all litres as poured (common practice).

    balance: refill on due days; none; fixed: `litres` on day 0 and every `every_days` after; taper: `litres` daily,
    from the third week three times a week, from the fifth twice; heat: `litres` on warm days, by temperature; rainfall:
    `mm` a week less what fell; slow_hose: `flow_l_per_h` for `hours`, by season; deep: a refill every `every_days`;
    bare_root: twice `litres` on day 0, half where the ball is nearly empty, `litres` a week from leaf-out on; when_dry:
    a refill where the ball is drier than `limit`.
    """

    name: str
    litres: float = 0.0
    every_days: int = 1
    mm: float = 0.0
    flow_l_per_h: float = 0.0
    hours: float = 0.0
    limit: float = 0.5


@dataclass(frozen=True, slots=True)
class Sky:
    """What schools go by beside the balance's weather: mean temperature [degC] and rain [mm] of each day, arrays
    (days,); leaf_out: the first day in leaf, None = none is."""

    tmean_c: Array
    rain_mm: Array
    leaf_out: int | None

    def week_before_mm(self, day: int) -> float:
        """Rain of the seven days before a day [mm]."""
        return float(np.sum(self.rain_mm[max(0, day - 7) : day]))


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


DAILY_DAYS, THRICE_DAYS = 14, 28
THRICE, TWICE = (0, 2, 4), (0, 3)
"""Days of a week on which schools water three times and twice."""
WARM_C = 15.0
COLD_MONTH_C, HOT_MONTH_C, WET_WEEK_MM = 7.0, 20.0, 25.0
NEARLY_EMPTY, IN_LEAF = 0.8, 0.1


def sky(days: list[Weather], tmean_c: Array) -> Sky:
    """What schools go by, of a season's days and their mean temperatures [degC]."""
    leaf_out = next((i for i, day in enumerate(days) if float(np.max(day.leaf)) > IN_LEAF), None)
    return Sky(np.asarray(tmean_c, float), np.array([float(np.max(day.rain_mm)) for day in days]), leaf_out)


def _school_l(
    routine: Routine, day: int, month_c: float, above: Sky, trees: Trees, g: Ground, state: State, refill_l: Array
) -> Array:
    """What a school pours on a day [L], arrays (trees,). refill_l: what would refill the tree, as poured.

    month_c: mean temperature of up to 30 days ending that day [degC].
    """
    none, of_week = np.zeros(len(trees)), day % 7
    dry = np.maximum(0.0, state.ball_depletion_l) / trees.ball_taw_l
    match routine.name:
        case "fixed":
            pours = day % routine.every_days == 0
        case "taper":
            pours = day < DAILY_DAYS or of_week in (THRICE if day < THRICE_DAYS else TWICE)
        case "heat":
            warmth = float(np.clip((above.tmean_c[day] - 10.0) / 20.0, 0.5, 1.0))
            return none + (routine.litres * warmth if above.tmean_c[day] >= WARM_C else 0.0)
        case "rainfall":
            lacks_mm = max(0.0, routine.mm - above.week_before_mm(day)) if of_week == 0 else 0.0
            return lacks_mm * np.sum(g.kept_m2, axis=0)
        case "slow_hose":
            return none + (routine.flow_l_per_h * routine.hours if _hose_runs(day, month_c, above) else 0.0)
        case "deep":
            return refill_l if day % routine.every_days == 0 else none
        case "when_dry":
            return np.where(dry > routine.limit, refill_l, 0.0)
        case "bare_root":
            return none + _bare_root_l(routine, day, above, dry)
        case _:
            pours = False
    return none + (routine.litres if pours else 0.0)


def _hose_runs(day: int, month_c: float, above: Sky) -> bool:
    """Whether the slow hose runs: by the month's warmth, and where it is warmer not after a wet week."""
    if month_c < COLD_MONTH_C:
        return day % 14 == 0
    if above.week_before_mm(day) >= WET_WEEK_MM:
        return False
    return day % 7 in (THRICE if month_c >= HOT_MONTH_C else TWICE)


def _bare_root_l(routine: Routine, day: int, above: Sky, dry: Array) -> Array | float:
    if day == 0:
        return 2 * routine.litres
    if above.leaf_out is None or day < above.leaf_out:
        return np.where(dry > NEARLY_EMPTY, routine.litres / 2, 0.0)
    return routine.litres if (day - above.leaf_out) % 7 == 0 else 0.0


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
        gross = _school_l(routine, number, float(np.max(weather.month_c)), above, trees, g, state, refill_l)
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
                poured_l = _school_l(routine, number, month_c, above, trees, g, state, wanted_l / efficiency)
                gross_l[column] = poured_l[column]
        state, moved = pass_day(trees, g, state, weather, gross_l * efficiency)
        result.append(SideDay(gross_l, moved, g))
    return result


def _due(trees: Trees, wanted_l: Array, dry: Fluxes, wet: Fluxes) -> Array:
    """Whether the balance waters on a day: there is room, and what is wanted mends what the day would dry out.

    dry, wet: the day without and with the wanted water.
    """
    return (wanted_l > 0) & refill.mends(trees, dry, wet)
