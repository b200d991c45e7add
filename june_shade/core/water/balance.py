"""The daily balance of two stores, ball and ring, on arrays of trees.

It is the FAO-56 bucket (Allen et al. 1998, ch. 8: TAW, p, Ks) run twice, with roots that move from the ball
into the ring. One day is `grow` (step 1) and then `pass_day` (steps 2 to 5). It knows no calendar, no
routine and no pouring: it is handed net litres and returns every term, so that the water always closes:
change of stored water = joined + net + rain - drained - transpired - evaporated.

Symbols: D depletion below field capacity [L], negative above it; TAW what a store can give [L]; X its drainable
space [L]; R radius of the roots [m]; f share of uptake from the ball; A_k the kept circle [m2].
"""

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from june_shade.core.stock.balls import COLLAR_M

Array = np.ndarray

DEPLETION_FRACTION_P = 0.5
"""Depletion share at which uptake begins to fall, most trees. Source: [FAO56] table 22."""
ROOT_DENSITY_RING = 0.25
"""Root density of the ring relative to the ball (calibrated)."""
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
SOIL_EVAPORATION = 0.30
"""Evaporation of bare soil under a crown as a share of ETo (calibrated)."""
MULCH_EVAPORATION_CUT = 0.5
"""Organic mulch over the whole surface about halves evaporation. Source: [FAO56] ch. 10."""


@dataclass(frozen=True)
class Trees:
    """What stays the same about each tree, arrays of shape (trees,).

    ball_radius_m, ball_height_m, ball_volume_l, established_radius_m, root_depth_max_m: geometry.
    crown_area_m2, plant_factor, microclimate: demand; new_plant_factor is the least plant factor while
    nothing is established (0 = as given). ball_*, soil_*: available water and drainable space [m3/m3] and the
    share of the excess that drains in a day. basin_area_m2 (0 = none). mulch_outer_area_m2 and
    mulch_gap_area_m2 bound the mulch (0 = none); mulch_cover, where not NaN, is taken as the cover of the kept
    circle instead. surround_loss: what the ground outside loses as a share of ETo; surround_rain: 0 under
    paving, else 1; sheet_rain: share that gets through a sheet over ball and ring. dryness_limit, ks_floor:
    management. ball_share: share of poured water that lands on the ball, NaN = by area (the spread rule).
    """

    ball_radius_m: Array
    ball_height_m: Array
    ball_volume_l: Array
    established_radius_m: Array
    root_depth_max_m: Array
    crown_area_m2: Array
    plant_factor: Array
    new_plant_factor: Array
    microclimate: Array
    ball_awc: Array
    ball_drainable: Array
    ball_drain_share: Array
    soil_awc: Array
    soil_drainable: Array
    soil_drain_share: Array
    basin_area_m2: Array
    mulch_outer_area_m2: Array
    mulch_gap_area_m2: Array
    mulch_cover: Array
    surround_loss: Array
    surround_rain: Array
    sheet_rain: Array
    dryness_limit: Array
    ks_floor: Array
    ball_share: Array

    def __len__(self) -> int:
        return len(self.ball_radius_m)

    @cached_property
    def ball_area_m2(self) -> Array:
        """A_b, the ball's top [m2]."""
        return np.pi * self.ball_radius_m**2

    @cached_property
    def ball_taw_l(self) -> Array:
        """TAW_b [L]."""
        return self.ball_awc * self.ball_volume_l

    @cached_property
    def ball_space_l(self) -> Array:
        """X_b, drainable space of the ball [L]."""
        return self.ball_drainable * self.ball_volume_l

    @cached_property
    def outside_taw_mm(self) -> Array:
        """TAW_o, what the soil outside the ring can give [mm]."""
        return 1000.0 * self.soil_awc * self.root_depth_max_m

    @cached_property
    def has_kept_circle(self) -> Array:
        """True where a basin or a mulch ring was made."""
        return (self.basin_area_m2 > 0) | (self.mulch_outer_area_m2 > 0)

    @cached_property
    def collar_radius_m(self) -> Array:
        """Outer radius of the ring from day one [m]."""
        return self.ball_radius_m + COLLAR_M


@dataclass(frozen=True, slots=True)
class State:
    """What changes from day to day, arrays of shape (trees,), as it stands at a day's end.

    rain_before_mm is that day's rain (mulch that is wet takes nothing); ks its uptake share; soggy its verdict.
    """

    root_radius_m: Array
    ball_depletion_l: Array
    ring_depletion_l: Array
    outside_depletion_mm: Array
    ks: Array
    soggy: Array
    rain_before_mm: Array


@dataclass(frozen=True, slots=True)
class Ground:
    """Geometry of a day, after the roots have grown: arrays of shape (trees,)."""

    establishment: Array
    root_depth_m: Array
    ring_volume_l: Array
    ring_taw_l: Array
    ring_space_l: Array
    uptake_from_ball: Array
    ring_area_kept_m2: Array
    ring_area_open_m2: Array
    kept_area_m2: Array
    mulch_cover: Array
    ball_share: Array


@dataclass(frozen=True, slots=True)
class Weather:
    """One day: eto_mm, rain_mm, mean air temperature [degC], leaf 0..1, each a number or an array (trees,).

    rain_share: the share of the rain that is counted (1 measured; a forecast counts its chance). mulch_depth_share:
    how much of the depth that works as full cover is there, 0..1.
    """

    eto_mm: Array | float
    rain_mm: Array | float
    tmean_c: Array | float
    leaf: Array | float = 1.0
    rain_share: Array | float = 1.0
    mulch_depth_share: Array | float = 0.0


@dataclass(frozen=True, slots=True)
class Fluxes:
    """What a day moved [L], arrays (trees,), and what it says: ks and dryness 0..1, soggy."""

    net_l: Array
    rain_l: Array
    drained_l: Array
    transpired_l: Array
    evaporated_l: Array
    ks: Array
    dryness: Array
    soggy: Array


def growth_factor(tmean_c):
    """Share of the best root growth at a mean air temperature [degC]: 0 at 5, 1 from 25 to 32, 0 at 40 (calibrated)."""
    return np.clip(np.minimum((tmean_c - 5.0) / 20.0, (40.0 - tmean_c) / 8.0), 0.0, 1.0)


def ground(trees: Trees, root_radius_m: Array, mulch_depth_share: Array | float = 0.0) -> Ground:
    """The ring's volume, stores, catch areas and uptake shares at a root radius [m]."""
    r_b, h_b = trees.ball_radius_m, trees.ball_height_m
    reach = trees.established_radius_m - r_b
    x = np.clip((root_radius_m - r_b) / reach, 0.0, 1.0)
    depth = h_b + x * np.maximum(0.0, trees.root_depth_max_m - h_b)
    ring_radius = np.maximum(root_radius_m, trees.collar_radius_m)
    ring_circle = np.pi * ring_radius**2
    ring_volume = 1000.0 * ring_circle * depth - trees.ball_volume_l
    rooted_volume = 1000.0 * np.pi * (root_radius_m**2 * depth - r_b**2 * h_b)
    f = trees.ball_volume_l / (trees.ball_volume_l + ROOT_DENSITY_RING * rooted_volume)

    mulch_circle = np.minimum(trees.mulch_outer_area_m2, ring_circle)
    kept = np.where(
        trees.has_kept_circle, np.maximum(trees.basin_area_m2, mulch_circle), np.pi * trees.collar_radius_m**2
    )
    ball_area = trees.ball_area_m2
    ring_area = np.maximum(ring_circle, kept) - ball_area
    kept_ring = np.minimum(ring_area, np.maximum(0.0, kept - ball_area))
    mulched = np.maximum(0.0, np.minimum(trees.mulch_outer_area_m2, kept) - trees.mulch_gap_area_m2) / kept
    cover = np.where(np.isnan(trees.mulch_cover), mulched * mulch_depth_share, trees.mulch_cover)
    share = np.where(np.isnan(trees.ball_share), ball_area / (ball_area + ring_area), trees.ball_share)
    return Ground(
        establishment=x,
        root_depth_m=depth,
        ring_volume_l=ring_volume,
        ring_taw_l=trees.soil_awc * ring_volume,
        ring_space_l=trees.soil_drainable * ring_volume,
        uptake_from_ball=f,
        ring_area_kept_m2=kept_ring,
        ring_area_open_m2=ring_area - kept_ring,
        kept_area_m2=kept,
        mulch_cover=cover,
        ball_share=share,
    )


def grown_radius_m(trees: Trees, root_radius_m: Array, tmean_c, ks: Array, soggy: Array) -> Array:
    """Radius of the roots a day on [m]: faster when warm, slower when thirsty or drowned the day before."""
    slowed = np.where(soggy, SOGGY_GROWTH, 1.0)
    grown = root_radius_m + ROOT_GROWTH_M_PER_DAY * growth_factor(tmean_c) * ks * slowed
    return np.minimum(trees.established_radius_m, grown)


def grow(trees: Trees, state: State, weather: Weather, before: Ground) -> tuple[State, Ground, Array]:
    """Step 1. Roots grow and the soil they reach joins the ring as dry as it lay outside.

    before: the ground at the state's own radius. Returns the state after step 1, its ground, and the water
    that came with the new soil [L].
    """
    radius = grown_radius_m(trees, state.root_radius_m, weather.tmean_c, state.ks, state.soggy)
    after = ground(trees, radius, weather.mulch_depth_share)
    gained_taw_l = after.ring_taw_l - before.ring_taw_l
    outside = state.outside_depletion_mm / trees.outside_taw_mm
    grown = State(
        radius,
        state.ball_depletion_l,
        state.ring_depletion_l + gained_taw_l * outside,
        state.outside_depletion_mm,
        state.ks,
        state.soggy,
        state.rain_before_mm,
    )
    return grown, after, gained_taw_l * (1.0 - outside)


def dryness(trees: Trees, g: Ground, ball_depletion_l: Array, ring_depletion_l: Array) -> Array:
    """The one number people see, 0..1: depletion of each store weighted by where the tree drinks."""
    f = g.uptake_from_ball
    return (
        f * np.maximum(0.0, ball_depletion_l) / trees.ball_taw_l
        + (1.0 - f) * np.maximum(0.0, ring_depletion_l) / g.ring_taw_l
    )


def uptake_l(available_l: Array, taw_l: Array, demand_l: Array) -> Array:
    """Water taken up in a day [L], solved within the day so that a store can't give more than it has.

    At the full demand U while more than a = (1 - p) TAW is available, below that U A / a at every moment:
    exponential decay. Source: [FAO56] ch. 8, eq. 84, integrated.
    """
    threshold = (1.0 - DEPLETION_FRACTION_P) * taw_l
    demand = np.maximum(demand_l, 1e-300)
    free = np.clip((available_l - threshold) / demand, 0.0, 1.0)
    stressed = np.minimum(available_l, threshold) * -np.expm1(-demand * (1.0 - free) / threshold)
    taken = np.where(available_l - demand_l >= threshold, demand_l, demand * free + stressed)
    return np.minimum(taken, demand_l)  # a demand next to nothing must not round up to more than it is


def effective_rain_mm(rain_mm, rain_share, cover, rain_before_mm):
    """Rain [mm] that reaches the soil of the kept circle, P_e: less crown and run-off, less what wets the mulch."""
    wetting = np.where(rain_before_mm >= MULCH_STAYS_WET_MM, 0.0, MULCH_WETTING_MM * cover)
    return rain_share * np.maximum(0.0, RAIN_SHARE * rain_mm - wetting)


def demand_l(trees: Trees, g: Ground, weather: Weather) -> Array:
    """Demand of the crown E [L/day] = ETo x plant factor x microclimate x crown area x leaf. Source: [SLIDE].

    The plant factor is raised towards `new_plant_factor` while the tree is not established (calibrated).
    """
    factor = trees.plant_factor + np.maximum(0.0, trees.new_plant_factor - trees.plant_factor) * (1.0 - g.establishment)
    return weather.eto_mm * factor * trees.microclimate * trees.crown_area_m2 * weather.leaf


def pass_day(
    trees: Trees, g: Ground, state: State, weather: Weather, net_l: Array, second_net_l: Array | None = None
) -> tuple[State, Fluxes]:
    """Steps 2 to 5 for a day whose step 1 is done: water in, too much, use.

    net_l: net irrigation of the (first) watering [L]. second_net_l: of a second watering; then the day runs in
    two halves of ETo each, rain in the first. Returns the state at the day's end and what moved.
    """
    if second_net_l is None:
        return _pass_part(trees, g, state, weather, net_l, 1.0, True)
    first, morning = _pass_part(trees, g, state, weather, net_l, 0.5, True)
    last, evening = _pass_part(trees, g, first, weather, second_net_l, 0.5, False)
    ks = 0.5 * (morning.ks + evening.ks)
    soggy = morning.soggy | evening.soggy
    end = State(
        last.root_radius_m,
        last.ball_depletion_l,
        last.ring_depletion_l,
        last.outside_depletion_mm,
        ks,
        soggy,
        first.rain_before_mm,
    )
    total = Fluxes(
        morning.net_l + evening.net_l,
        morning.rain_l,
        morning.drained_l + evening.drained_l,
        morning.transpired_l + evening.transpired_l,
        morning.evaporated_l + evening.evaporated_l,
        ks,
        evening.dryness,
        soggy,
    )
    return end, total


def drain(d_ball: Array, d_ring: Array, trees: Trees, g: Ground) -> tuple[Array, Array, Array]:
    """Step 3. Spill what can't be held, drain a share of the excess. Returns D_b, D_r and what left the ring [L].

    A brim-full store is set to exactly -X, not to D plus the spill: a ball that drains half its excess a day
    then stands exactly at the soggy limit, and rounding must not decide on which side.
    """
    spill = np.maximum(0.0, -trees.ball_space_l - d_ball)
    d_ball = np.maximum(d_ball, -trees.ball_space_l)
    d_ring = d_ring - spill
    lost = np.maximum(0.0, -g.ring_space_l - d_ring)
    d_ring = np.maximum(d_ring, -g.ring_space_l)
    to_ring = np.minimum(trees.ball_drain_share * np.maximum(0.0, -d_ball), np.maximum(0.0, d_ring + g.ring_space_l))
    d_ball = d_ball + to_ring
    d_ring = d_ring - to_ring
    down = trees.soil_drain_share * np.maximum(0.0, -d_ring)
    return d_ball, d_ring + down, lost + down


def _pass_part(trees, g, state, weather, net_l, part, with_rain):
    """Steps 2 to 5 over a part (1 or one half) of a day."""
    f = g.uptake_from_ball
    ball_area = trees.ball_area_m2
    eto = weather.eto_mm * part
    if with_rain:
        through = effective_rain_mm(weather.rain_mm, weather.rain_share, g.mulch_cover, state.rain_before_mm)
        rain_in = trees.sheet_rain * through
        rain_open = trees.surround_rain * weather.rain_share * RAIN_SHARE * weather.rain_mm
        rain_counted = np.zeros_like(f) + weather.rain_share * weather.rain_mm
    else:
        rain_in = rain_open = np.zeros_like(f)
        rain_counted = state.rain_before_mm
    rain_ball = rain_in * ball_area
    rain_ring = rain_in * g.ring_area_kept_m2 + rain_open * g.ring_area_open_m2

    d_ball = state.ball_depletion_l - net_l * g.ball_share - rain_ball
    d_ring = state.ring_depletion_l - net_l * (1.0 - g.ball_share) - rain_ring
    d_ball, d_ring, drained = drain(d_ball, d_ring, trees, g)
    soggy = (-d_ball > SOGGY_SHARE * trees.ball_space_l) | (-d_ring > SOGGY_SHARE * g.ring_space_l)

    demand = demand_l(trees, g, weather) * part
    avail_ball, avail_ring = trees.ball_taw_l - d_ball, g.ring_taw_l - d_ring
    want_ball, want_ring = demand * f, demand * (1.0 - f)
    taken_ball = uptake_l(avail_ball, trees.ball_taw_l, want_ball)
    taken_ring = uptake_l(avail_ring, g.ring_taw_l, want_ring)
    with np.errstate(divide="ignore", invalid="ignore"):
        ks_ball = np.where(want_ball > 0, taken_ball / want_ball, 1.0)
        ks_ring = np.where(want_ring > 0, taken_ring / want_ring, 1.0)

    soil_mm = SOIL_EVAPORATION * eto * (1.0 - MULCH_EVAPORATION_CUT * g.mulch_cover)
    wet_ball = np.clip(avail_ball / trees.ball_taw_l, 0.0, 1.0)
    wet_ring = np.clip(avail_ring / g.ring_taw_l, 0.0, 1.0)
    lost_ball = np.minimum(soil_mm * ball_area * wet_ball, avail_ball - taken_ball)
    open_l = trees.surround_loss * eto * g.ring_area_open_m2
    lost_ring = np.minimum((soil_mm * g.ring_area_kept_m2 + open_l) * wet_ring, avail_ring - taken_ring)
    d_ball = d_ball + taken_ball + lost_ball
    d_ring = d_ring + taken_ring + lost_ring

    d_out = np.maximum(0.0, state.outside_depletion_mm - rain_open)
    d_out = d_out + trees.surround_loss * eto * np.clip(1.0 - d_out / trees.outside_taw_mm, 0.0, 1.0)
    d_out = np.minimum(d_out, trees.outside_taw_mm)

    ks = f * ks_ball + (1.0 - f) * ks_ring
    end = State(state.root_radius_m, d_ball, d_ring, d_out, ks, soggy, rain_counted)
    moved = Fluxes(
        net_l=net_l + np.zeros_like(f),
        rain_l=rain_ball + rain_ring,
        drained_l=drained,
        transpired_l=taken_ball + taken_ring,
        evaporated_l=lost_ball + lost_ring,
        ks=ks,
        dryness=dryness(trees, g, d_ball, d_ring),
        soggy=soggy,
    )
    return end, moved
