"""Step 5 of a day: what the tree drinks from each store, and what each loses from its surface. Arrays of trees."""

from dataclasses import dataclass

import numpy as np

from june_shade.core.numbers import Numbers
from june_shade.core.water.ground import Ground
from june_shade.core.water.stores import Array, State, Trees, held
from june_shade.core.water.weather import Weather

SOIL_EVAPORATION = 0.30
"""Evaporation of bare soil under a crown as a share of ETo (calibrated)."""
MULCH_EVAPORATION_CUT = 0.5
"""Organic mulch over the whole surface about halves evaporation. Source: [FAO56] ch. 10."""
EVAPORABLE_MM = 25.0
"""What the upper layer can lose before it is dry and holds the rest. Source: [FAO56] table 19."""
FULL_USE_C, LEAST_USE = 10.0, 0.1
"""Cold soil cuts the demand below the first, down to the second (calibrated)."""
AIRLESS_FREE_DAYS, AIRLESS_A_DAY, AIRLESS_LEAST = 2, 0.15, 0.2
MOST_SOGGY_DAYS, AIRED_A_DAY = 8, 2
"""Roots in water drink less from the third day on and need days to recover: after the aeration stress of [Raes09]
(calibrated)."""
FEW = 0.25
"""Up to this share of the trees is computed apart; more go quicker with all others."""
MAKING_UP = 1.0 / 3.0
"""A store that drinks freely makes up for the others by at most this share. Source: [Jarvis89], threshold 0.75."""


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
    """Demand of the crown E [L/day] = ETo x plant factor x microclimate x thirst x crown area x leaf x cold. Source:
    [SLIDE]."""
    place = trees.microclimate * weather.thirst * trees.crown_area_m2 * weather.leaf * cold_factor(weather.five_days_c)
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
