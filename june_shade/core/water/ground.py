"""What trees drink from on a day, after the roots have grown: what stores hold, their shares of uptake and of water.

Symbols as in `stores`.
"""

from dataclasses import dataclass

import numpy as np

from june_shade.core.water.stores import Array, Reach, Trees, held

ROOT_DENSITY_RING = 0.25
"""Root density of the ring relative to the ball (calibrated)."""
LEAST_REACHED, MOST_REACHED = 0.05, 1.0
"""Part of the ring that our water reaches is held between these (calibrated)."""


@dataclass(frozen=True, slots=True)
class Ground:
    """Geometry of a day, after the roots have grown: arrays of shape (trees,), of the stores (3, trees): ball, near
    ring, far ring.

    near_share: phi. taw_l, space_l: TAW and X. uptake: f_b, f_n, f_f. lands: s, s_n and 0, the shares of poured water;
    beyond: s_o, on beyond_m2 of ground outside the ring. kept_m2: catch area under our basin and mulch; open_m2: under
    whatever surrounds the tree.
    """

    establishment: Array
    root_depth_m: Array
    ring_radius_m: Array
    near_share: Array
    near_volume_l: Array
    far_volume_l: Array
    taw_l: Array
    space_l: Array
    uptake: Array
    lands: Array
    kept_m2: Array
    open_m2: Array
    area_m2: Array
    mulch_cover: Array
    beyond: Array
    beyond_m2: Array

    @property
    def near_taw_l(self) -> Array:
        """TAW_n [L]."""
        return self.taw_l[1]

    @property
    def far_taw_l(self) -> Array:
        """TAW_f [L]."""
        return self.taw_l[2]

    @property
    def near_space_l(self) -> Array:
        """X_n [L]."""
        return self.space_l[1]

    @property
    def far_space_l(self) -> Array:
        """X_f [L]."""
        return self.space_l[2]

    @property
    def uptake_from_ball(self) -> Array:
        """f_b."""
        return self.uptake[0]

    @property
    def uptake_from_near(self) -> Array:
        """f_n."""
        return self.uptake[1]

    @property
    def share(self) -> Array:
        """s, of poured water what lands on the ball."""
        return self.lands[0]

    @property
    def near_lands(self) -> Array:
        """s_n, what lands on the near ring."""
        return self.lands[1]

    @property
    def reach(self) -> Array:
        """Share of the uptake that comes from where our water reaches, 0..1."""
        return self.uptake[0] + self.uptake[1]


def wetted_ring_m2(trees: Trees, wetted_m2: Array, ring_radius_m: Array) -> Array:
    """What drip wets of the ring [m2]: within its outer radius, less what lies on the ball. Straight between steps."""
    steps = wetted_m2.shape[0] - 1
    outer = np.maximum(trees.established_radius_m, trees.collar_radius_m)
    at = np.clip((ring_radius_m - trees.ball_radius_m) / (outer - trees.ball_radius_m), 0.0, 1.0) * steps
    low = np.minimum(at.astype(int), steps - 1)
    rows = np.arange(len(at))
    below, above = wetted_m2[low, rows], wetted_m2[low + 1, rows]
    return below + (at - low) * (above - below) - wetted_m2[0]


def near_share(trees: Trees, reach: Reach, ring_radius_m: Array, ring_area_m2: Array) -> Array:
    """phi, part of the ring that our water reaches, 0.05..1: given, by drip's circles, by the circle, else all."""
    found = (reach.crept_m2 - trees.ball_area_m2) / ring_area_m2
    if reach.wetted_m2 is not None:
        wetted = wetted_ring_m2(trees, reach.wetted_m2, ring_radius_m) / ring_area_m2
        found = np.where(np.isnan(wetted), found, wetted)
    if reach.phi_unknown is not None:
        found = np.where(reach.phi_unknown, 1.0, found)
    if reach.phi_given is not None:
        found = np.where(reach.phi_given, reach.ring_share, found)
    np.maximum(found, LEAST_REACHED, out=found)
    return np.minimum(found, MOST_REACHED, out=found)


@dataclass(frozen=True, slots=True)
class _Still:
    """What of a way of watering does not change as roots grow: the kept circle [m2], s where a circle or a figure says
    it, 1 - s, how much deeper than the ball roots come to reach [m]."""

    trees: Trees
    kept_m2: Array
    share: Array
    rest: Array
    none: Array
    to_deepen_m: Array


def deepest_m(trees: Trees, reach: Reach) -> Array:
    """How deep roots come to reach [m], array (trees,): as the soil lets them, deeper where watered deep."""
    if reach.deep_m is None:
        return trees.root_depth_max_m
    deepest: Array = np.fmax(trees.root_depth_max_m, reach.deep_m)
    return deepest


def _still(trees: Trees, reach: Reach) -> _Still:
    """The same, computed once for these trees."""
    known: _Still | None = reach.__dict__.get("_still")
    if known is None or known.trees is not trees:
        kept = np.maximum(reach.basin_m2, trees.mulch_outer_area_m2)
        share = reach.share
        if reach.by_circle is not None:
            by_circle = np.minimum(1.0, trees.ball_area_m2 / reach.circle_or_one_m2)
            share = np.where(reach.by_circle, by_circle, share)
        deepen = np.maximum(0.0, deepest_m(trees, reach) - trees.ball_height_m)
        circle = np.where(kept > 0, kept, trees.collar_m2)
        known = _Still(trees, circle, share, 1.0 - share, np.zeros(len(trees)), deepen)
        reach.__dict__["_still"] = known
    return known


def landing(trees: Trees, reach: Reach, circle_m2: Array) -> tuple[Array, Array, Array, Array]:
    """s, s_n, s_o and the ground poured on beyond the ring [m2], by the ring's outer circle [m2]."""
    still = _still(trees, reach)
    share, lands = still.share, still.rest
    beyond = beyond_m2 = still.none
    if reach.by_circle is not None:
        poured = reach.circle_or_one_m2
        on_ring = np.maximum(0.0, np.minimum(poured, circle_m2) - trees.ball_area_m2) / poured
        lands = np.where(reach.by_circle, on_ring, lands)
        beyond_m2 = np.where(reach.by_circle, np.maximum(0.0, poured - circle_m2), 0.0)
        beyond = np.where(beyond_m2 > 0, np.maximum(0.0, 1.0 - share - lands), 0.0)
    if reach.spreads is not None:
        share = np.where(reach.spreads, trees.ball_area_m2 / circle_m2, share)
        lands = np.where(reach.spreads, 1.0 - share, lands)
    return share, lands, beyond, beyond_m2


def ground(trees: Trees, reach: Reach, root_radius_m: Array, mulch_depth_share: Array | float = 0.0) -> Ground:
    """Stores, catch areas, uptake and landing shares at a root radius [m]; mulch_depth_share 0..1."""
    r_b, h_b, ball_area = trees.ball_radius_m, trees.ball_height_m, trees.ball_area_m2
    x = held((root_radius_m - r_b) / trees.to_establish_m)
    depth = h_b + x * _still(trees, reach).to_deepen_m
    ring_radius = np.maximum(root_radius_m, trees.collar_radius_m)
    circle = np.pi * ring_radius**2
    ring_area = circle - ball_area
    ring_volume = 1000.0 * circle * depth - trees.ball_volume_l
    rooted_volume = 1000.0 * np.pi * root_radius_m**2 * depth - trees.cylinder_l
    f_b = trees.ball_volume_l / (trees.ball_volume_l + ROOT_DENSITY_RING * rooted_volume)
    phi = near_share(trees, reach, ring_radius, ring_area)
    volume = np.empty((3, len(phi)))
    volume[0] = trees.ball_volume_l
    np.multiply(phi, ring_volume, out=volume[1])
    np.subtract(ring_volume, volume[1], out=volume[2])
    uptake = np.empty_like(volume)
    uptake[0] = f_b
    np.multiply(1.0 - f_b, phi, out=uptake[1])
    np.subtract(1.0 - f_b, uptake[1], out=uptake[2])
    whole = phi >= 1.0
    if np.any(whole):  # exactly none is left beyond, whatever rounding makes of the difference
        volume[2][whole] = uptake[2][whole] = 0.0

    kept_ring = np.minimum(ring_area, np.maximum(0.0, _still(trees, reach).kept_m2 - ball_area))
    near_area = phi * ring_area
    kept_m2, open_m2 = np.empty_like(volume), np.empty_like(volume)
    kept_m2[0], open_m2[0] = ball_area, 0.0
    np.minimum(kept_ring, near_area, out=kept_m2[1])
    np.subtract(kept_ring, kept_m2[1], out=kept_m2[2])
    np.subtract(near_area, kept_m2[1], out=open_m2[1])
    np.maximum(0.0, ring_area - near_area - kept_m2[2], out=open_m2[2])
    kept_circle = ball_area + kept_ring
    cover = trees.mulch_cover
    if trees.cover_grows:
        cover = np.maximum(0.0, np.minimum(trees.mulch_outer_area_m2, kept_circle) - trees.mulch_gap_area_m2)
        cover = np.where(np.isnan(trees.mulch_cover), cover / kept_circle * mulch_depth_share, trees.mulch_cover)
    lands = np.zeros_like(volume)
    lands[0], lands[1], beyond, beyond_m2 = landing(trees, reach, circle)
    return Ground(
        establishment=x,
        root_depth_m=depth,
        ring_radius_m=ring_radius,
        near_share=phi,
        near_volume_l=volume[1],
        far_volume_l=volume[2],
        taw_l=trees.awc * volume,
        space_l=trees.drainable * volume,
        uptake=uptake,
        lands=lands,
        kept_m2=kept_m2,
        open_m2=open_m2,
        area_m2=kept_m2 + open_m2,
        mulch_cover=cover,
        beyond=beyond,
        beyond_m2=beyond_m2,
    )


def dryness_sd(g: Ground, ball_variance: Array, near_variance: Array) -> Array:
    """How far off the dryness may be, one standard deviation, 0..1, arrays (trees,).

    ball_variance, near_variance: of the wetness of ball and near ring, shares squared, 0..1.
    """
    spread = g.uptake[0] ** 2 * ball_variance + g.uptake[1] ** 2 * near_variance
    off: Array = np.sqrt(spread) / (g.uptake[0] + g.uptake[1])
    return off


def dryness(trees: Trees, g: Ground, ball_depletion_l: Array, near_depletion_l: Array) -> Array:
    """The one number people see, 0..1: depletion of what our water reaches, weighted by where the tree drinks."""
    f_b, f_n = g.uptake_from_ball, g.uptake_from_near
    ball = np.maximum(0.0, ball_depletion_l) / trees.ball_taw_l
    near = np.maximum(0.0, near_depletion_l) / g.near_taw_l
    return (f_b * ball + f_n * near) / (f_b + f_n)
