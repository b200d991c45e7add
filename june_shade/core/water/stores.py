"""What trees drink from: ball, near ring and far ring, their geometry, and how far poured water reaches.

Arrays of trees throughout. `Trees` is what stays the same about them, `Reach` how water is brought to them, which
holds from a day on, `State` what changes from day to day; what follows of all three on one day is in `ground`.

Symbols: D depletion below field capacity [L], negative above it; TAW what a store can give [L]; X its drainable space
[L]; R radius of the roots, R' of the ring [m]; A_b, A_r areas of ball and ring, A_k of the circle that is poured into
[m2]; phi part of the ring that our water reaches; f_b, f_n, f_f shares of the uptake; s, s_n, s_o shares of poured
water.
"""

from dataclasses import dataclass, fields
from functools import cached_property
from typing import TypeVar

import numpy as np

from june_shade.core.stock.balls import COLLAR_M

Array = np.ndarray
T = TypeVar("T")

CREEP_M = 0.10
"""Poured water creeps so far sideways past the circle it is poured into (calibrated)."""


@dataclass(frozen=True)
class Trees:
    """What stays the same about each tree, arrays of shape (trees,).

    ball_radius_m, ball_height_m, ball_volume_l, established_radius_m, root_depth_max_m: geometry.
    crown_area_m2, plant_factor, microclimate: demand; new_plant_factor is the least plant factor while nothing is
    established (0 = as given). depletion_fraction: p, share of TAW taken up free of stress. ball_*, soil_*: available
    water and drainable space [m3/m3] and the share of the excess that drains in a day. suction: e, what of a full
    difference in wetness crosses the ball's face in a day. mulch_outer_area_m2 and mulch_gap_area_m2 bound the mulch
    (0 = none); mulch_cover, where not NaN, is taken as the cover of the kept circle instead. surround_loss: what the
    ground outside loses as a share of ETo; grass: whether it loses it through grass roots, to any depth;
    surround_rain: 0 under paving, else 1; sheet_rain: share that gets through a sheet over ball and ring.
    dryness_limit, ks_floor: management.
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
    depletion_fraction: Array
    ball_wilting_point: Array
    ball_awc: Array
    ball_drainable: Array
    ball_drain_share: Array
    suction: Array
    soil_wilting_point: Array
    soil_awc: Array
    soil_drainable: Array
    soil_drain_share: Array
    mulch_outer_area_m2: Array
    mulch_gap_area_m2: Array
    mulch_cover: Array
    surround_loss: Array
    grass: Array
    surround_rain: Array
    sheet_rain: Array
    dryness_limit: Array
    ks_floor: Array

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
    def cylinder_l(self) -> Array:
        """The cylinder of soil that the ball stands in [L]."""
        return 1000.0 * np.pi * self.ball_radius_m**2 * self.ball_height_m

    @cached_property
    def to_establish_m(self) -> Array:
        """How far roots grow from the ball until the tree is established [m]."""
        return self.established_radius_m - self.ball_radius_m

    @cached_property
    def cover_grows(self) -> bool:
        """Whether any mulch cover follows from the ring's measures, not given whole."""
        return bool(np.any(np.isnan(self.mulch_cover)))

    @cached_property
    def awc(self) -> Array:
        """Available water of the stores [m3/m3], (3, trees)."""
        return np.stack((self.ball_awc, self.soil_awc, self.soil_awc))

    @cached_property
    def drainable(self) -> Array:
        """Drainable space of the stores [m3/m3], (3, trees)."""
        return np.stack((self.ball_drainable, self.soil_drainable, self.soil_drainable))

    @cached_property
    def free_fraction(self) -> Array:
        """Share of TAW below which uptake falls, 1 - p."""
        return 1.0 - self.depletion_fraction

    @cached_property
    def collar_m2(self) -> Array:
        """The circle out to the collar [m2]: what is kept where nothing was made."""
        return np.pi * self.collar_radius_m**2

    @cached_property
    def any_grass(self) -> bool:
        """Whether grass surrounds any of them."""
        return bool(np.any(self.grass))

    @cached_property
    def collar_radius_m(self) -> Array:
        """Outer radius of the ring from day one [m]."""
        return self.ball_radius_m + COLLAR_M


def held(values: Array) -> Array:
    """The values held to 0..1, as a new array."""
    above = np.maximum(values, 0.0)
    return np.minimum(above, 1.0, out=above)


@dataclass(frozen=True)
class Reach:
    """How water is brought to each tree and where it lands, arrays of shape (trees,); it holds from a day on.

    circle_m2: area A_k of the circle that is poured into, NaN where there is none (drip; nothing known). share: s,
    where it is given (drip, a proof), NaN = by the circle, without one by area of ball and ring. ring_share: phi,
    where it is given, NaN = by the circle, without one 1. basin_m2: the circle that is kept bare, 0 = none. wetted_m2:
    None, or for drip the union of what its emitters wet within radii from the ball's to the established one in equal
    steps, (trees, steps); NaN for other trees. deep_m: down to where trees are watered that stand on their own, whose
    roots count so deep from then on; NaN for other trees, None where there are none.
    """

    circle_m2: Array
    share: Array
    ring_share: Array
    basin_m2: Array
    wetted_m2: Array | None = None
    deep_m: Array | None = None

    @cached_property
    def on_their_own(self) -> Array:
        """Which trees stand on their own, array (trees,)."""
        return np.zeros(len(self.share), bool) if self.deep_m is None else ~np.isnan(self.deep_m)

    @cached_property
    def circle_or_one_m2(self) -> Array:
        """A_k, 1 where there is none."""
        return np.where(np.isnan(self.circle_m2), 1.0, self.circle_m2)

    @cached_property
    def by_circle(self) -> Array | None:
        """Where the circle says what lands where, None where it does so nowhere."""
        there = np.isnan(self.share) & ~np.isnan(self.circle_m2)
        return there if np.any(there) else None

    @cached_property
    def spreads(self) -> Array | None:
        """Where nothing is known, so that water spreads over ball and ring alike; None where it does so nowhere."""
        there = np.isnan(self.share) & np.isnan(self.circle_m2)
        return there if np.any(there) else None

    @cached_property
    def crept_m2(self) -> Array:
        """The circle with the water that creeps past it [m2], NaN where there is none."""
        return np.pi * (np.sqrt(self.circle_m2 / np.pi) + CREEP_M) ** 2

    @cached_property
    def phi_given(self) -> Array | None:
        """Where phi is given, None where it is nowhere."""
        there = ~np.isnan(self.ring_share)
        return there if np.any(there) else None

    @cached_property
    def phi_unknown(self) -> Array | None:
        """Where neither circle nor drip nor a share says how much of the ring is reached: all of it."""
        there = np.isnan(self.circle_m2)
        if self.wetted_m2 is not None:
            there &= np.isnan(self.wetted_m2[0])
        return there if np.any(there) else None


@dataclass(frozen=True, slots=True)
class State:
    """What changes from day to day, arrays of shape (trees,), as it stands at a day's end.

    near_volume_l, far_volume_l: how much soil each ring has. rain_before_mm is that day's rain (mulch that is wet
    takes nothing); ks its uptake share; soggy its verdict; soggy_days: n, counts up on soggy days and down after.
    ball_variance, near_variance: how far off their wetness (share of available water) may be, squared.
    """

    root_radius_m: Array
    ball_depletion_l: Array
    near_depletion_l: Array
    far_depletion_l: Array
    near_volume_l: Array
    far_volume_l: Array
    outside_depletion_mm: Array
    ks: Array
    soggy: Array
    soggy_days: Array
    rain_before_mm: Array
    ball_variance: Array
    near_variance: Array


def some(whole: T, chosen: Array | slice) -> T:
    """The same for some of the trees: every array of a dataclass of arrays cut to these positions.

    chosen: positions, a mask or a slice of the trees.
    """
    cut = {}
    for f in fields(whole):  # type: ignore[arg-type]
        value = getattr(whole, f.name)
        cut[f.name] = value[..., chosen] if isinstance(value, np.ndarray) and value.ndim else value
    return type(whole)(**cut)


def pick(where: Array, a: T, b: T) -> T:
    """Tree by tree, a where it says so, else b: for dataclasses of arrays (trees,)."""
    return type(a)(*(np.where(where, getattr(a, f.name), getattr(b, f.name)) for f in fields(a)))  # type: ignore[arg-type]
