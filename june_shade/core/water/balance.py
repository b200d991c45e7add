"""The daily balance of ball, near ring and far ring, on arrays of trees.

It is the FAO-56 bucket (Allen et al. 1998, ch. 8: TAW, p, Ks) run three times, with roots that move from the ball
into the ring. One day is `grow` (step 1) and then `pass_day` (steps 2 to 6). It knows no calendar, no routine and no
pouring: it is handed net litres and returns every term, so that the water always closes: change of stored water =
joined + net (s + s_n) + rain - drained - transpired - evaporated.
"""

from dataclasses import dataclass, replace

import numpy as np

from june_shade.core.numbers import Numbers
from june_shade.core.water.stores import Array, Ground, Reach, State, Trees, dryness, ground, held, pick

ROOT_GROWTH_M_PER_DAY = 0.0045
"""Radial root growth at the best temperature (calibrated to 0.45 m a year in cold winters [Watson85])."""
SOGGY_GROWTH = 0.5
"""Root growth on the day after a soggy one (calibrated)."""
SOGGY_SHARE = 0.5
"""A store is soggy while more than this share of its drainable space stands full."""
RAIN_SHARE = 0.9
"""A tenth of the rain is lost to crown and run-off (calibrated)."""
MULCH_WETTING_MM = 2.0
"""Rain or sprinkled water that only wets a full mulch (calibrated to litter studies, 1 to 3 mm)."""
MULCH_STAYS_WET_MM = 1.0
"""After a day with this much rain mulch is still wet and takes nothing (calibrated)."""
FREE_WATER_CROSSES = 0.5
"""Share of the free water in the near ring that soaks into a dry ball in a day (calibrated)."""
BETWEEN_RINGS = 0.03
"""What of a full difference in wetness crosses from near to far ring in a day (calibrated)."""
SOIL_EVAPORATION = 0.30
"""Evaporation of bare soil under a crown as a share of ETo (calibrated)."""
MULCH_EVAPORATION_CUT = 0.5
"""Organic mulch over the whole surface about halves evaporation. Source: [FAO56] ch. 10."""
EVAPORABLE_MM = 25.0
"""What the upper layer can lose before it is dry and holds the rest. Source: [FAO56] table 19."""
FULL_LEAF, FULL_USE_C, LEAST_USE = 0.3, 10.0, 0.1
"""A day in leaf has more leaf than the first; cold soil cuts the demand below the second, to the third (calibrated)."""
AIRLESS_FREE_DAYS, AIRLESS_A_DAY, AIRLESS_LEAST = 2, 0.15, 0.2
MOST_SOGGY_DAYS, AIRED_A_DAY = 8, 2
"""Roots in water drink less from the third day on and need days to recover: after the aeration stress of [Raes09]
(calibrated)."""
FEW = 0.25
"""Up to this share of the trees is computed apart; more go quicker with all others."""
MAKING_UP = 1.0 / 3.0
"""A store that drinks freely makes up for the others by at most this share. Source: [Jarvis89], threshold 0.75."""
THIRSTY_KS = 0.9
"""A day in leaf with less uptake than this share of what air lets it take is thirsty."""


@dataclass(frozen=True, slots=True)
class Weather:
    """One day: eto_mm, rain_mm, leaf 0..1, each a number or an array (trees,).

    month_c, five_days_c: mean air temperature [degC] of up to 30 and of up to 5 days ending that day. rain_share: the
    share of the rain that is counted (1 measured; a forecast counts its chance). mulch_depth_share: how much of the
    depth that works as full cover is there, 0..1.
    """

    eto_mm: Array | float
    rain_mm: Array | float
    month_c: Array | float
    five_days_c: Array | float
    leaf: Array | float = 1.0
    rain_share: Array | float = 1.0
    mulch_depth_share: Array | float = 0.0


@dataclass(frozen=True, slots=True)
class Fluxes:
    """What a day moved [L], arrays (trees,), and what it says: ks and dryness 0..1, soggy, air.

    outside_l: poured beyond the roots, not part of the tree's water. ball_wetness: share of what the ball can give
    that it had after suction, before the day's use. air: share of the demand that roots standing in water still take.
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
    its store's depletion along. Returns the state after step 1, its ground, and the water that came with new soil [L].
    """
    radius = grown_radius_m(trees, state.root_radius_m, weather.month_c, state.ks, state.soggy)
    g = ground(trees, reach, radius, weather.mulch_depth_share)
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
        state.ks, state.soggy, state.soggy_days, state.rain_before_mm,
    )  # fmt: skip
    return grown, g, gained_l * (1.0 - outside)


# --- steps 2 to 4: water in, too much, suction ----------------------------------------------------------------------


def effective_rain_mm(rain_mm: Numbers, rain_share: Numbers, cover: Numbers, rain_before_mm: Numbers) -> Numbers:
    """Rain [mm] that reaches the soil of the kept circle, P_e: less crown and run-off, less what wets the mulch.

    cover: share of a full mulch, 0..1. Arrays broadcast.
    """
    wetting = np.where(rain_before_mm >= MULCH_STAYS_WET_MM, 0.0, MULCH_WETTING_MM * cover)
    return rain_share * np.maximum(0.0, RAIN_SHARE * rain_mm - wetting)


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


# --- step 5: use ----------------------------------------------------------------------------------------------------


def uptake_l(available_l: Array, threshold_l: Array, demand_l: Array) -> Array:
    """Water taken up in a day [L], solved within the day so that a store can't give more than it has.

    At the full demand U while more than a = (1 - p) TAW is available, below that at U A / a at every moment:
    exponential decay. Source: [FAO56] ch. 8, eq. 84, integrated.

    available_l: A = TAW - D. threshold_l: a, 0 where there is no such store. demand_l: U, 0 or more. Arrays alike.
    """
    short = available_l - demand_l < threshold_l
    count = np.count_nonzero(short)
    if not count:
        return demand_l + 0.0
    if count > FEW * short.size:
        return np.where(short, _short_uptake_l(available_l, threshold_l, demand_l), demand_l)
    taken = demand_l + 0.0
    taken[short] = _short_uptake_l(available_l[short], threshold_l[short], demand_l[short])
    return taken


def _short_uptake_l(available_l: Array, threshold_l: Array, demand_l: Array) -> Array:
    free = available_l - threshold_l
    free /= np.maximum(demand_l, 1e-300)
    free = held(free)
    under = free - 1.0
    under *= demand_l
    under /= np.maximum(threshold_l, 1e-300)
    under = np.expm1(under, out=under)
    under *= np.minimum(available_l, threshold_l)
    free *= demand_l
    free -= under
    return np.minimum(free, demand_l, out=free)  # a demand next to nothing must not round up to more than it is


def make_up(taken: Array, wanted: Array) -> Array:
    """What each store is asked for once those that drink freely make up for the others [L]. Source: [Jarvis89].

    Arrays (stores, trees).
    taken, wanted: of each store [L], arrays (stores, trees).
    """
    missing = wanted - taken
    np.maximum(missing, 0.0, out=missing)
    short, got = missing[0] + missing[1] + missing[2], taken[0] + taken[1] + taken[2]
    more = short - missing
    more *= taken
    more /= np.maximum(got, 1e-300)
    np.minimum(more, MAKING_UP * taken, out=more)
    more += wanted
    return more


def drunk_l(available_l: Array, threshold_l: Array, wanted_l: Array) -> Array:
    """What each store gives in a day [L], the others making up for one that can't; arrays (stores, trees)."""
    taken = uptake_l(available_l, threshold_l, wanted_l)
    less = taken < wanted_l
    short = less[0] | less[1] | less[2]
    count = np.count_nonzero(short)
    if not count:
        return taken
    if count > FEW * len(short):
        return uptake_l(available_l, threshold_l, make_up(taken, wanted_l))
    at = np.flatnonzero(short)
    asked = make_up(taken[:, at], wanted_l[:, at])
    taken[:, at] = uptake_l(available_l[:, at], threshold_l[:, at], asked)
    return taken


def plant_factor(trees: Trees, g: Ground) -> Array:
    """Plant factor, raised towards `new_plant_factor` while the tree is not established (calibrated)."""
    return trees.plant_factor + np.maximum(0.0, trees.new_plant_factor - trees.plant_factor) * (1.0 - g.establishment)


def cold_factor(five_days_c: Numbers) -> Numbers:
    """Share of the demand that trees in cold soil have, 0.1..1, by five days' mean temperature [degC] (calibrated)."""
    return np.clip(five_days_c / FULL_USE_C, LEAST_USE, 1.0)


def demand_l(trees: Trees, g: Ground, weather: Weather) -> Array:
    """Demand of the crown E [L/day] = ETo x plant factor x microclimate x crown area x leaf x cold. Source: [SLIDE]."""
    place = trees.microclimate * trees.crown_area_m2 * weather.leaf * cold_factor(weather.five_days_c)
    return weather.eto_mm * plant_factor(trees, g) * place


def air_factor(soggy_days: Numbers) -> Array:
    """Share of the demand that roots take up after so many soggy days, 0.2..1 [Raes09] (calibrated)."""
    return np.clip(1.0 - AIRLESS_A_DAY * (soggy_days - AIRLESS_FREE_DAYS), AIRLESS_LEAST, 1.0)


def counted_soggy_days(soggy_days: Array, soggy: Array) -> Array:
    """n at a day's end: a soggy day adds 1 up to 8, another takes 2 off."""
    return np.where(soggy, np.minimum(MOST_SOGGY_DAYS, soggy_days + 1), np.maximum(0, soggy_days - AIRED_A_DAY))


def _evaporated(trees: Trees, g: Ground, depletion: Array, left: Array, soil_mm: Array, open_mm: Array) -> Array:
    """Loss from each store's surface [L], the drier the less, at most what uptake left; arrays (3, trees).

    soil_mm: under basin and mulch; open_mm: under what surrounds the tree.
    """
    upper = np.maximum(np.minimum(g.taw_l, EVAPORABLE_MM * g.area_m2), 1e-300)
    wet = held(1.0 - depletion / upper)
    lost = soil_mm * g.kept_m2 * wet
    if trees.any_grass:
        wet = np.where(trees.grass, held(1.0 - depletion / np.maximum(g.taw_l, 1e-300)), wet)
    lost += open_mm * g.open_m2 * wet
    return np.maximum(0.0, np.minimum(lost, left))


def pass_day(
    trees: Trees, g: Ground, state: State, weather: Weather, net_l: Array, second_net_l: Array | None = None
) -> tuple[State, Fluxes]:
    """Steps 2 to 6 for a day whose step 1 is done: water in, too much, suction, use.

    net_l: net irrigation of the (first) watering [L]. second_net_l: of a second watering; then the day runs in
    two halves of ETo each, rain in the first. Returns the state at the day's end and what moved.
    """
    if second_net_l is None:
        return _pass_part(trees, g, state, weather, net_l, 1.0, True)
    first, morning = _pass_part(trees, g, state, weather, net_l, 0.5, True)
    halfway = replace(first, soggy_days=state.soggy_days)
    last, evening = _pass_part(trees, g, halfway, weather, second_net_l, 0.5, False)
    soggy = morning.soggy | evening.soggy
    ks = 0.5 * (morning.ks + evening.ks)
    end = State(
        last.root_radius_m, last.ball_depletion_l, last.near_depletion_l, last.far_depletion_l, last.near_volume_l,
        last.far_volume_l, last.outside_depletion_mm, ks, soggy, counted_soggy_days(state.soggy_days, soggy),
        first.rain_before_mm,
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
    )
    return end, total


def pass_where(
    trees: Trees, g: Ground, state: State, weather: Weather, first: Array, second: Array
) -> tuple[State, Fluxes]:
    """A day with one or, for the trees that got it, two waterings.

    first, second: net water [L], arrays (trees,).
    """
    end, moved = pass_day(trees, g, state, weather, first)
    if not np.any(second > 0):
        return end, moved
    end2, moved2 = pass_day(trees, g, state, weather, first, second)
    both = second > 0
    return pick(both, end2, end), pick(both, moved2, moved)


def laid_in(g: Ground, state: State, net_l: Array) -> State:
    """The morning's state with water already poured that day laid in, nothing drained yet."""
    return replace(
        state,
        ball_depletion_l=state.ball_depletion_l - net_l * g.share,
        near_depletion_l=state.near_depletion_l - net_l * g.near_lands,
    )


def rain_caught(trees: Trees, g: Ground, state: State, weather: Weather) -> tuple[Array, Array | float]:
    """Effective rain that each store catches [L], (3, trees), and what falls on the ground outside [mm]."""
    if not np.any(weather.rain_mm):
        return np.zeros((3, 1)), 0.0
    through = effective_rain_mm(weather.rain_mm, weather.rain_share, g.mulch_cover, state.rain_before_mm)
    rain_in = trees.sheet_rain * through
    rain_open = trees.surround_rain * weather.rain_share * RAIN_SHARE * weather.rain_mm
    return rain_in * g.kept_m2 + rain_open * g.open_m2, rain_open


@dataclass(frozen=True, slots=True)
class Use:
    """A day's use: what each store gives to the tree and loses from its surface [L], arrays (3, trees); demand E [L],
    air 0..1 (trees,)."""

    available_l: Array
    taken_l: Array
    lost_l: Array
    demand_l: Array
    air: Array


def use(trees: Trees, g: Ground, state: State, weather: Weather, depletion_l: Array, part: float = 1.0) -> Use:
    """Step 5 from the depletions after suction (3, trees), over a part of the day."""
    demand = demand_l(trees, g, weather) * part
    air = air_factor(state.soggy_days)
    available = g.taw_l - depletion_l
    taken = drunk_l(available, trees.free_fraction * g.taw_l, g.uptake * (demand * air))
    soil_mm = SOIL_EVAPORATION * weather.eto_mm * part * (1.0 - MULCH_EVAPORATION_CUT * g.mulch_cover)
    lost = _evaporated(trees, g, depletion_l, available - taken, soil_mm, open_loss_mm(trees, weather, part))
    return Use(available, taken, lost, demand, air)


def open_loss_mm(trees: Trees, weather: Weather, part: float = 1.0) -> Array:
    """What the ground outside basin and mulch would lose if it were wet [mm].

    part: of a day, 0..1.
    """
    return trees.surround_loss * (weather.eto_mm * part)


def _pass_part(
    trees: Trees, g: Ground, state: State, weather: Weather, net_l: Array, part: float, with_rain: bool
) -> tuple[State, Fluxes]:
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
        counted_soggy_days(state.soggy_days, soggy), rain_counted,
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
    )
    return end, moved


@dataclass(frozen=True, slots=True)
class Ledger:
    """A day of each store, depletions and litres, arrays (3, trees): end = start - poured - rain + left + crept +
    drunk + evaporated. left: drained and spilled away (less what came from the ball), crept: by suction."""

    start_l: Array
    poured_l: Array
    rain_l: Array
    left_l: Array
    crept_l: Array
    drunk_l: Array
    evaporated_l: Array
    end_l: Array


def ledger(trees: Trees, g: Ground, state: State, weather: Weather, first_l: Array, second_l: Array) -> Ledger:
    """The day of `pass_where`, store by store, for whoever asks where its water went."""
    start = np.stack((state.ball_depletion_l, state.near_depletion_l, state.far_depletion_l))
    parts = ((first_l, 1.0),) if not np.any(second_l > 0) else ((first_l, 0.5), (second_l, 0.5))
    now, totals = start, [np.zeros_like(start) for _ in range(6)]
    for number, (net, part) in enumerate(parts):
        rain = rain_caught(trees, g, state, weather)[0] if not number else np.zeros_like(start)
        poured = g.lands * net
        laid = now - poured - rain
        drained = np.stack(drain(trees, g, *laid)[:3])
        crept = np.stack(suction(trees, g, *drained))
        used = use(trees, g, state, weather, crept, part)
        now = crept + used.taken_l + used.lost_l
        moved = (poured, rain, drained - laid, crept - drained, used.taken_l, used.lost_l)
        totals = [total + each for total, each in zip(totals, moved, strict=True)]
    return Ledger(start, totals[0], totals[1], totals[2], totals[3], totals[4], totals[5], now)


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
