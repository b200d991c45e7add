"""The daily balance of ball, near ring and far ring, on arrays of trees.

It is the FAO-56 bucket (Allen et al. 1998, ch. 8: TAW, p, Ks) run three times, with roots that move from the ball
into the ring. One day is `grow` (step 1) and then `pass_day` (steps 2 to 6). It knows no calendar, no routine and no
pouring: it is handed net litres and returns every term, so that the water always closes: change of stored water =
joined + net (s + s_n) + rain + corrected - drained - transpired - evaporated.
"""

from dataclasses import dataclass, replace

import numpy as np

from june_shade.core.numbers import Numbers
from june_shade.core.water.felt import Look, Stood, a_day_on, known_again
from june_shade.core.water.ground import Ground, dryness, ground
from june_shade.core.water.stores import Array, Reach, State, Trees, held, pick
from june_shade.core.water.use import EVAPORABLE_MM, counted_soggy_days, open_loss_mm, use
from june_shade.core.water.weather import Weather, rain_caught

ROOT_GROWTH_M_PER_DAY = 0.0045
"""Radial root growth at the best temperature (calibrated to 0.45 m a year in cold winters [Watson85])."""
SOGGY_GROWTH = 0.5
"""Root growth on the day after a soggy one (calibrated)."""
SOGGY_SHARE = 0.5
"""A store is soggy while more than this share of its drainable space stands full."""
FREE_WATER_CROSSES = 0.5
"""Share of the free water in the near ring that soaks into a dry ball in a day (calibrated)."""
BETWEEN_RINGS = 0.03
"""What of a full difference in wetness crosses from near to far ring in a day (calibrated)."""
ROUNDING = 1e-9
FULL_LEAF = 0.3
"""A day in leaf has more leaf than this (calibrated)."""
THIRSTY_KS = 0.9
"""A day in leaf with less uptake than this share of what air lets it take is thirsty."""


@dataclass(frozen=True, slots=True)
class Fluxes:
    """What a day moved [L], arrays (trees,), and what it says: ks and dryness 0..1, soggy, air.

    outside_l: poured beyond the roots, not part of the tree's water. ball_wetness: share of what the ball can give
    that it had after suction, before the day's use. air: share of the demand that roots standing in water still take.
    corrected_l: what a reading added (took, negative).
    """

    net_l: Array
    rain_l: Array
    drained_l: Array
    outside_l: Array
    transpired_l: Array
    evaporated_l: Array
    ks: Array
    dryness: Array
    soggy: Array
    air: Array
    ball_wetness: Array
    corrected_l: Array


# --- step 1: roots ------------------------------------------------------------------------------------------------


def growth_factor(month_c: Numbers) -> Numbers:
    """Share of the best root growth, 0..1, at a month's mean temperature [degC]; soil lags behind air (calibrated)."""
    warmth = np.clip((month_c - 5.0) / 20.0, 0.0, 1.0)
    return np.clip(np.minimum(warmth * np.sqrt(warmth), (40.0 - month_c) / 8.0), 0.0, 1.0)


def grown_radius_m(trees: Trees, root_radius_m: Array, month_c: Numbers, ks: Array, soggy: Array) -> Array:
    """Radius of the roots a day on [m]: faster when warm, slower when thirsty or drowned the day before.

    ks: stress of the day before, 0..1; soggy: whether it stood in water; arrays (trees,).
    """
    slowed = np.where(soggy, SOGGY_GROWTH, 1.0)
    grown = root_radius_m + ROOT_GROWTH_M_PER_DAY * growth_factor(month_c) * ks * slowed
    return np.minimum(trees.established_radius_m, grown)


def grow(trees: Trees, reach: Reach, state: State, weather: Weather) -> tuple[State, Ground, Array]:
    """Step 1. Roots grow, the soil they reach joins the rings as dry as it lay outside.

    Where our water reaches another part of the ring than the day before, soil changes sides and takes its share of
    its store's depletion along; where roots no longer count so deep, the soil below leaves with its share. Returns the
    state after step 1, its ground, and the water that came with new soil [L].
    """
    radius = grown_radius_m(trees, state.root_radius_m, weather.month_c, state.ks, state.soggy)
    g = ground(trees, reach, radius, weather.mulch_depth_share)
    state, left_l = _shallower(trees, g, state)
    gained_l = trees.soil_awc * (g.near_volume_l + g.far_volume_l - state.near_volume_l - state.far_volume_l)
    outside = state.outside_depletion_mm / trees.outside_taw_mm
    there_is_far = g.far_volume_l > 0
    added_l = gained_l * outside
    d_near = state.near_depletion_l + np.where(there_is_far, 0.0, added_l)
    d_far = state.far_depletion_l + np.where(there_is_far, added_l, 0.0)
    gained_volume = gained_l / trees.soil_awc
    has_near = state.near_volume_l + np.where(there_is_far, 0.0, gained_volume)
    has_far = state.far_volume_l + np.where(there_is_far, gained_volume, 0.0)
    moved = g.near_volume_l - has_near
    with np.errstate(divide="ignore", invalid="ignore"):
        to_near = np.where(has_far > 0, d_far * np.maximum(0.0, moved) / has_far, 0.0)
        to_far = d_near * np.maximum(0.0, -moved) / has_near
    d_near = d_near + to_near - to_far
    d_far = np.where(there_is_far, d_far - to_near + to_far, 0.0)
    grown = State(
        radius, state.ball_depletion_l, d_near, d_far, g.near_volume_l, g.far_volume_l, state.outside_depletion_mm,
        state.ks, state.soggy, state.soggy_days, state.rain_before_mm, a_day_on(state.ball_variance),
        a_day_on(state.near_variance),
    )  # fmt: skip
    return grown, g, gained_l * (1.0 - outside) - left_l


def _shallower(trees: Trees, g: Ground, state: State) -> tuple[State, Numbers]:
    """The rings less the soil below that counts no more, both alike, and the water that left with it [L]."""
    stood, stands = state.near_volume_l + state.far_volume_l, g.near_volume_l + g.far_volume_l
    if np.all(stands >= stood * (1.0 - ROUNDING)):
        return state, 0.0
    keeps = np.where(stands < stood * (1.0 - ROUNDING), stands / stood, 1.0)
    water_l = trees.soil_awc * stood - state.near_depletion_l - state.far_depletion_l
    kept = {
        name: keeps * getattr(state, name)
        for name in ("near_volume_l", "far_volume_l", "near_depletion_l", "far_depletion_l")
    }
    return replace(state, **kept), (1.0 - keeps) * water_l


# --- steps 2 to 4: water in, too much, suction ----------------------------------------------------------------------


def drain(trees: Trees, g: Ground, d_ball: Array, d_near: Array, d_far: Array) -> tuple[Array, Array, Array, Array]:
    """Step 3. Spill what can't be held, let free water into a dry ball, drain a share of the excess.

    Returns D_b, D_n, D_f and what left the rings downward [L]. A brim-full store is set to exactly -X, not to D plus
    the spill: a ball that drains half its excess a day then stands exactly at the soggy limit, and rounding must not
    decide on which side.
    d_ball, d_near, d_far: depletions [L], arrays (trees,), below 0 where there is too much.
    """
    spill = np.maximum(0.0, -trees.ball_space_l - d_ball)
    d_ball = np.maximum(d_ball, -trees.ball_space_l)
    d_near = d_near - spill
    lost = np.maximum(0.0, -g.near_space_l - d_near) + np.maximum(0.0, -g.far_space_l - d_far)
    d_near, d_far = np.maximum(d_near, -g.near_space_l), np.maximum(d_far, -g.far_space_l)
    crosses = np.minimum(np.maximum(0.0, d_ball), FREE_WATER_CROSSES * np.maximum(0.0, -d_near))
    d_ball, d_near = d_ball - crosses, d_near + crosses
    to_near = np.minimum(trees.ball_drain_share * np.maximum(0.0, -d_ball), np.maximum(0.0, d_near + g.near_space_l))
    d_ball, d_near = d_ball + to_near, d_near - to_near
    down_near = trees.soil_drain_share * np.maximum(0.0, -d_near)
    down_far = trees.soil_drain_share * np.maximum(0.0, -d_far)
    return d_ball, d_near + down_near, d_far + down_far, lost + down_near + down_far


def suction(trees: Trees, g: Ground, d_ball: Array, d_near: Array, d_far: Array) -> tuple[Array, Array, Array]:
    """Step 4. Water creeps from wetter to drier across the ball's face, then between the rings (calibrated).

    A pot's coarse pores break the film between [CP75]; a fine soil pulls a pot's mix dry [NS83].
    d_ball, d_near, d_far: depletions [L], arrays (trees,).
    """
    taw_b, taw_n, taw_f = trees.ball_taw_l, g.near_taw_l, g.far_taw_l
    w_ball, w_near = held(1.0 - d_ball / taw_b), held(1.0 - d_near / taw_n)
    into_ball = trees.suction * (w_near - w_ball) * np.minimum(taw_b, taw_n)
    d_ball, d_near = d_ball - into_ball, d_near + into_ball
    if np.any(taw_f > 0):
        w_near = held(1.0 - d_near / taw_n)
        w_far = held(1.0 - d_far / np.maximum(taw_f, 1e-300))
        to_far = BETWEEN_RINGS * (w_near - w_far) * np.minimum(taw_n, taw_f)
        d_near, d_far = d_near + to_far, d_far - to_far
    return d_ball, d_near, d_far


# --- the day ----------------------------------------------------------------------------------------------------------


def pass_day(
    trees: Trees, g: Ground, state: State, weather: Weather, net_l: Array, second_net_l: Array | None = None,
    look: Look | None = None,
) -> tuple[State, Fluxes]:  # fmt: skip
    """Steps 2 to 6 for a day whose step 1 is done: water in, too much, suction, use.

    net_l: net irrigation of the (first) watering [L]. second_net_l: of a second watering; then the day runs in
    two halves of ETo each, rain in the first. look: what is felt after that day's water, after step 3. Returns the
    state at the day's end and what moved.
    """
    if second_net_l is None:
        return _pass_part(trees, g, state, weather, net_l, 1.0, True, look)
    first, morning = _pass_part(trees, g, state, weather, net_l, 0.5, True)
    halfway = replace(first, soggy_days=state.soggy_days)
    last, evening = _pass_part(trees, g, halfway, weather, second_net_l, 0.5, False, look)
    soggy = morning.soggy | evening.soggy
    ks = 0.5 * (morning.ks + evening.ks)
    end = State(
        last.root_radius_m, last.ball_depletion_l, last.near_depletion_l, last.far_depletion_l, last.near_volume_l,
        last.far_volume_l, last.outside_depletion_mm, ks, soggy, counted_soggy_days(state.soggy_days, soggy),
        first.rain_before_mm, last.ball_variance, last.near_variance,
    )  # fmt: skip
    total = Fluxes(
        net_l=morning.net_l + evening.net_l,
        rain_l=morning.rain_l,
        drained_l=morning.drained_l + evening.drained_l,
        outside_l=morning.outside_l + evening.outside_l,
        transpired_l=morning.transpired_l + evening.transpired_l,
        evaporated_l=morning.evaporated_l + evening.evaporated_l,
        ks=ks,
        dryness=evening.dryness,
        soggy=soggy,
        air=morning.air,
        ball_wetness=morning.ball_wetness,
        corrected_l=evening.corrected_l,
    )
    return end, total


def pass_where(
    trees: Trees, g: Ground, state: State, weather: Weather, first: Array, second: Array, look: Look | None = None
) -> tuple[State, Fluxes]:
    """A day with one or, for the trees that got it, two waterings.

    first, second: net water [L], arrays (trees,). look: what is felt after that day's water.
    """
    end, moved = pass_day(trees, g, state, weather, first, look=look)
    if not np.any(second > 0):
        return end, moved
    end2, moved2 = pass_day(trees, g, state, weather, first, second, look)
    both = second > 0
    return pick(both, end2, end), pick(both, moved2, moved)


def laid_in(g: Ground, state: State, net_l: Array) -> State:
    """The morning's state with water already poured that day laid in, nothing drained yet."""
    return replace(
        state,
        ball_depletion_l=state.ball_depletion_l - net_l * g.share,
        near_depletion_l=state.near_depletion_l - net_l * g.near_lands,
    )


def _pass_part(
    trees: Trees, g: Ground, state: State, weather: Weather, net_l: Array, part: float, with_rain: bool,
    look: Look | None = None,
) -> tuple[State, Fluxes]:  # fmt: skip
    """Steps 2 to 6 over a part (1 or one half) of a day."""
    none = np.zeros(len(trees))
    rain, rain_counted = np.zeros((3, 1)), state.rain_before_mm
    rain_open: Array | float = 0.0
    if with_rain:
        rain, rain_open = rain_caught(trees, g, state, weather)
        rain_counted = none + weather.rain_share * weather.rain_mm
    d_ball = state.ball_depletion_l - net_l * g.share - rain[0]
    d_near = state.near_depletion_l - net_l * g.near_lands - rain[1]
    d_far = state.far_depletion_l - rain[2]
    d_ball, d_near, d_far, drained = drain(trees, g, d_ball, d_near, d_far)
    soggy = (-d_ball > SOGGY_SHARE * trees.ball_space_l) | (-d_near > SOGGY_SHARE * g.near_space_l)
    ball_variance = known_again(state.ball_variance, d_ball)
    near_variance = known_again(state.near_variance, d_near)
    corrected = none
    if look is not None:
        felt = look(Stood(d_ball, d_near, ball_variance, near_variance))
        corrected = d_ball - felt.ball_depletion_l + d_near - felt.near_depletion_l
        d_ball, d_near = felt.ball_depletion_l, felt.near_depletion_l
        ball_variance, near_variance = felt.ball_variance, felt.near_variance
    depletion = np.stack(suction(trees, g, d_ball, d_near, d_far))
    used = use(trees, g, state, weather, depletion, part)
    total = used.taken_l[0] + used.taken_l[1] + used.taken_l[2]
    ks = total / np.maximum(used.demand_l, 1e-300)
    if not np.all(used.demand_l > 0):
        ks = np.where(used.demand_l > 0, ks, 1.0)
    d_ball, d_near, d_far = depletion + used.taken_l + used.lost_l
    outside_l = g.beyond * net_l
    open_mm = open_loss_mm(trees, weather, part)
    d_out = _outside(trees, g, state.outside_depletion_mm, rain_open, outside_l, open_mm)
    end = State(
        state.root_radius_m, d_ball, d_near, d_far, state.near_volume_l, state.far_volume_l, d_out, ks, soggy,
        counted_soggy_days(state.soggy_days, soggy), rain_counted, ball_variance, near_variance,
    )  # fmt: skip
    moved = Fluxes(
        net_l=net_l + none,
        rain_l=rain[0] + rain[1] + rain[2] + none,
        drained_l=drained,
        outside_l=outside_l,
        transpired_l=total,
        evaporated_l=used.lost_l[0] + used.lost_l[1] + used.lost_l[2],
        ks=ks,
        dryness=dryness(trees, g, d_ball, d_near),
        soggy=soggy,
        air=used.air,
        ball_wetness=used.available_l[0] / g.taw_l[0],
        corrected_l=corrected,
    )
    return end, moved


@dataclass(frozen=True, slots=True)
class Ledger:
    """A day of each store, depletions and litres, arrays (3, trees): end = start - poured - rain + left + crept +
    drunk + evaporated - read. left: drained and spilled away (less what came from the ball), crept: by suction; read:
    what a reading after that day's water took off."""

    start_l: Array
    poured_l: Array
    rain_l: Array
    left_l: Array
    crept_l: Array
    drunk_l: Array
    evaporated_l: Array
    end_l: Array
    read_l: Array


def ledger(
    trees: Trees, g: Ground, state: State, weather: Weather, first_l: Array, second_l: Array, look: Look | None = None
) -> Ledger:
    """The day of `pass_where`, store by store, for whoever asks where its water went."""
    start = np.stack((state.ball_depletion_l, state.near_depletion_l, state.far_depletion_l))
    parts = ((first_l, 1.0),) if not np.any(second_l > 0) else ((first_l, 0.5), (second_l, 0.5))
    now, totals = start, [np.zeros_like(start) for _ in range(7)]
    for number, (net, part) in enumerate(parts):
        rain = rain_caught(trees, g, state, weather)[0] if not number else np.zeros_like(start)
        poured = g.lands * net
        laid = now - poured - rain
        drained = np.stack(drain(trees, g, *laid)[:3])
        felt = _as_felt(drained, state, look) if number == len(parts) - 1 else drained
        crept = np.stack(suction(trees, g, *felt))
        used = use(trees, g, state, weather, crept, part)
        now = crept + used.taken_l + used.lost_l
        moved = (poured, rain, drained - laid, crept - felt, used.taken_l, used.lost_l, drained - felt)
        totals = [total + each for total, each in zip(totals, moved, strict=True)]
    return Ledger(start, totals[0], totals[1], totals[2], totals[3], totals[4], totals[5], now, totals[6])


def _as_felt(drained_l: Array, state: State, look: Look | None) -> Array:
    """Depletions after step 3 (3, trees) by what was felt then."""
    if look is None:
        return drained_l
    variance = known_again(state.ball_variance, drained_l[0]), known_again(state.near_variance, drained_l[1])
    now = look(Stood(drained_l[0], drained_l[1], *variance))
    return np.stack((now.ball_depletion_l, now.near_depletion_l, drained_l[2]))


def _outside(
    trees: Trees, g: Ground, depletion_mm: Array, rain_open_mm: Numbers, outside_l: Numbers, open_mm: Array
) -> Array:
    """Depletion of the soil outside the ring at the day's end [mm]: rain, what was poured past the roots, its loss."""
    d_out = np.maximum(0.0, depletion_mm - rain_open_mm)
    if np.any(outside_l):
        d_out = np.maximum(0.0, d_out - outside_l / np.where(g.beyond_m2 > 0, g.beyond_m2, 1.0))
    taw = trees.outside_taw_mm
    most = np.where(trees.grass, taw, np.minimum(taw, np.maximum(EVAPORABLE_MM, d_out)))
    return np.minimum(d_out + open_mm * held(1.0 - d_out / taw), most)


def thirsty(leaf: Numbers, ks: Array, air: Numbers) -> Array:
    """Whether a day in leaf went thirsty: less uptake than nine tenths of what air allowed.

    ks: stress coefficient 0..1, array (trees,).
    """
    return (leaf > FULL_LEAF) & (ks < THIRSTY_KS * air)
