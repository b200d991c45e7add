"""From what people measure to the arrays that the balance runs on.

One description a tree (`TreeSpec`), checked once, here; `build` stacks many into `Trees`.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, fields

import numpy as np

from june_shade.core.errors import InputError
from june_shade.core.soil.textures import Soil
from june_shade.core.stock.balls import (
    COLLAR_M,
    ball_volume_l,
    established_radius_m,
    medium,
    radius_m,
)
from june_shade.core.units import in_l
from june_shade.core.water.stores import Reach, Trees

SURROUNDS = {
    "bare": (0.3, 1.0, 1.0), "turf": (0.8, 1.0, 1.0), "paved": (0.0, 0.0, 1.0), "gravel": (0.15, 1.0, 1.0),
    "plastic": (0.0, 0.0, 0.0), "plastic_holed": (0.0, 0.5, 0.5),
}  # fmt: skip
"""What lies outside the ring: its loss as a share of ETo; its share of the rain; the share of the rain that gets to
ball and ring, where plastic sheet lies too (calibrated; half through a perforated sheet, none through another)."""
GRASS = frozenset({"turf"})
"""Surrounds whose roots go on drinking where bare ground has dried and holds the rest."""
DEPLETION_FRACTION = 0.5
"""Share of its water that a tree takes up free of stress, p, for most trees. Source: [FAO56] table 22."""
GRAVEL_HEAT = 0.1
"""Gravel round a tree adds this to its microclimate: it throws heat back (common practice)."""
HOTTEST = 1.4


def microclimate(at_place: float, surround: str, mulch_material: str | None) -> float:
    """Microclimate of a tree with the heat of gravel round it, as surround or as mulch, never over 1.4.

    at_place: factor typed for the place, 1 = open.
    """
    gravel = surround == "gravel" or mulch_material == "gravel"
    return max(at_place, min(HOTTEST, at_place + GRAVEL_HEAT)) if gravel else at_place


@dataclass(frozen=True, slots=True)
class TreeSpec:
    """One tree as the model needs it. Lengths in m, volume in L; None where not made or not measured.

    mulch_cover: cover of the kept circle 0..1 where given whole; else it follows from the mulch radii and depth.
    depletion_fraction: p of the kind. ball_share 0..1, None = by the basin, without one by area; ring_wetted_share
    0..1, None = by the basin, without one all: what a case gives; trees of a site have a `Reach` of their own.
    """

    kind: str
    caliper_m: float
    ball_diameter_m: float
    ball_height_m: float
    crown_diameter_m: float
    soil: Soil
    ball_volume_l: float | None = None
    plant_factor: float = 0.5
    new_plant_factor: float = 0.0
    microclimate: float = 1.0
    depletion_fraction: float = DEPLETION_FRACTION
    root_depth_max_m: float = 0.6
    basin_diameter_m: float | None = None
    mulch_outer_radius_m: float = 0.0
    mulch_gap_radius_m: float = 0.0
    mulch_cover: float | None = None
    surround: str = "bare"
    dryness_limit: float = 0.5
    ks_floor: float = 0.9
    ball_share: float | None = None
    ring_wetted_share: float | None = None


def radius_of(spec: TreeSpec) -> float:
    """Radius of the ball [m]."""
    return radius_m(spec.kind, spec.ball_diameter_m)


def volume_of(spec: TreeSpec) -> float:
    """Ball volume [L]: the measured one, else from kind, diameter and height."""
    if spec.ball_volume_l is not None:
        return spec.ball_volume_l
    return float(ball_volume_l(medium(spec.kind, spec.soil).shape_k, radius_of(spec), spec.ball_height_m))


def check(spec: TreeSpec) -> None:
    """Refuse a ball that does not fit its own collar: a measured volume over what the hole can hold."""
    collar = radius_of(spec) + COLLAR_M
    room = 1000 * np.pi * collar**2 * spec.ball_height_m
    if volume_of(spec) >= room:
        raise InputError(
            f"{in_l(volume_of(spec))} does not fit a ball of this diameter and height (at most {in_l(room)})",
            "tree.ball_volume_l",
        )


def build(specs: Sequence[TreeSpec]) -> Trees:
    """Arrays for the balance from any number of trees. Raises InputError for a ball that can't be."""
    for spec in specs:
        check(spec)

    def stack(values: Iterable[float]) -> np.ndarray:
        return np.array(list(values), dtype=float)

    media = [medium(s.kind, s.soil) for s in specs]
    radius = stack(radius_of(s) for s in specs)
    return Trees(
        ball_radius_m=radius,
        ball_height_m=stack(s.ball_height_m for s in specs),
        ball_volume_l=stack(volume_of(s) for s in specs),
        established_radius_m=established_radius_m(radius, stack(s.caliper_m for s in specs)),
        root_depth_max_m=stack(s.root_depth_max_m for s in specs),
        crown_area_m2=stack(np.pi / 4 * s.crown_diameter_m**2 for s in specs),
        plant_factor=stack(s.plant_factor for s in specs),
        new_plant_factor=stack(s.new_plant_factor for s in specs),
        microclimate=stack(s.microclimate for s in specs),
        depletion_fraction=stack(s.depletion_fraction for s in specs),
        ball_wilting_point=stack(m.wilting_point for m in media),
        ball_awc=stack(m.awc for m in media),
        ball_drainable=stack(m.drainable for m in media),
        ball_drain_share=stack(m.drain_share for m in media),
        suction=stack(m.suction for m in media),
        soil_wilting_point=stack(s.soil.wilting_point for s in specs),
        soil_awc=stack(s.soil.awc for s in specs),
        soil_drainable=stack(s.soil.drainable for s in specs),
        soil_drain_share=stack(s.soil.drain_share for s in specs),
        mulch_outer_area_m2=stack(np.pi * s.mulch_outer_radius_m**2 for s in specs),
        mulch_gap_area_m2=stack(np.pi * s.mulch_gap_radius_m**2 for s in specs),
        mulch_cover=stack(np.nan if s.mulch_cover is None else s.mulch_cover for s in specs),
        surround_loss=stack(SURROUNDS[s.surround][0] for s in specs),
        grass=np.array([s.surround in GRASS for s in specs]),
        surround_rain=stack(SURROUNDS[s.surround][1] for s in specs),
        sheet_rain=stack(SURROUNDS[s.surround][2] for s in specs),
        dryness_limit=stack(s.dryness_limit for s in specs),
        ks_floor=stack(s.ks_floor for s in specs),
    )


def reach_of(specs: Sequence[TreeSpec]) -> Reach:
    """How water reaches trees that are described by a basin and shares alone, as a case does."""
    basin = np.array([np.pi / 4 * (s.basin_diameter_m or 0.0) ** 2 for s in specs])
    return Reach(
        circle_m2=np.where(basin > 0, basin, np.nan),
        share=np.array([np.nan if s.ball_share is None else s.ball_share for s in specs]),
        ring_share=np.array([np.nan if s.ring_wetted_share is None else s.ring_wetted_share for s in specs]),
        basin_m2=basin,
    )


def reaching_all(count: int) -> Reach:
    """Water that reaches all of the ring: what a layout is to do for trees."""
    nothing = np.full(count, np.nan)
    return Reach(circle_m2=nothing, share=nothing, ring_share=np.ones(count), basin_m2=np.zeros(count))


def years_of(trees: Trees, i: int, count: int) -> Trees:
    """Tree i alone, so many times over: one for each year that is looked ahead to."""
    return Trees(**{f.name: np.repeat(getattr(trees, f.name)[i : i + 1], count) for f in fields(trees)})
