"""The wetted bulb under one emitter at the end of a run, by Schwartzman and Zur, or as a hole in the ground proved it.

Hybrid units, as the paper's form with 29.2 and 0.031 wants them: volume L, flow L/h, Ks taken in mm/h and turned into
m/s here. A point source on even soil without mulch.
"""

import numpy as np

from june_shade.core.errors import InputError
from june_shade.core.numbers import Numbers
from june_shade.core.stock.balls import CONTAINER_MIX_KINDS
from june_shade.core.units import in_l, in_m

KS_BARK_MIX_MM_H = 210.0
"""Under an emitter a bark-mix ball spreads water as sand does."""
LEAST_KS_MM_H = 2.0
"""Texture tables starve clay of its cracks: below this the bulb gets unrealistically shallow."""
SHALLOW_WIDTHS = 7.2
"""A bulb wider than so many depths is ponding, not a bulb. Source: [SZ86] with loamy clays (from memory)."""
WIDTH_VOLUME, WIDTH_KS = 0.22, -0.17
DEPTH_VOLUME, DEPTH_KS = 0.63, 0.45
MM_H_PER_M_S = 3.6e6
PROVEN_KS_MM_H = (0.2, 1000.0)
"""A proof that asks for a soil beyond these was misread (calibrated: slow clay to gravelly sand)."""


def diameter_m(volume_l: Numbers, flow_l_per_h: Numbers, conductivity_mm_h: Numbers) -> Numbers:
    """Wetted width under one emitter at the end of a run [m].

    w = 0.031 V^0.22 (Ks/q)^-0.17. Source: [SZ86].

    volume_l: what the emitter gave, above 0. flow_l_per_h: its flow, above 0. conductivity_mm_h: saturated, above 0.
    Arrays broadcast.
    """
    return 0.031 * volume_l**WIDTH_VOLUME * (conductivity_mm_h / MM_H_PER_M_S / flow_l_per_h) ** WIDTH_KS


def depth_m(volume_l: Numbers, flow_l_per_h: Numbers, conductivity_mm_h: Numbers) -> Numbers:
    """Wetted depth under one emitter at the end of a run [m].

    z = 29.2 V^0.63 (Ks/q)^0.45. Source: [SZ86]. Arguments as in `diameter_m`; arrays broadcast.
    """
    return 29.2 * volume_l**DEPTH_VOLUME * (conductivity_mm_h / MM_H_PER_M_S / flow_l_per_h) ** DEPTH_KS


def is_shallow(width_m: Numbers, deep_m: Numbers) -> Numbers:
    """True where a bulb is so wide for its depth that water ponds and runs off. Arrays broadcast."""
    return width_m > SHALLOW_WIDTHS * deep_m


def spreads_mm_h(kind: str, soil_conductivity_mm_h: float) -> float:
    """Conductivity [mm/h] by which water spreads under an emitter on a ball of this kind."""
    return KS_BARK_MIX_MM_H if kind in CONTAINER_MIX_KINDS else ground_mm_h(soil_conductivity_mm_h)


def ground_mm_h(soil_conductivity_mm_h: float) -> float:
    """Conductivity [mm/h] by which water spreads under an emitter on the ground: never under LEAST_KS_MM_H."""
    return max(LEAST_KS_MM_H, soil_conductivity_mm_h)


def proven_conductivity_mm_h(proven_depth_m: float, minutes: float, flow_l_per_h: float) -> float:
    """Conductivity [mm/h] under an emitter from how deep the ground was wet after so many minutes.

    The depth formula of [SZ86] turned round: Ks = q (z / (29.2 V^0.63))^(1/0.45) with V = q t. It carries a measured
    depth over to other volumes, and to the width. Raises InputError for a depth that no soil gives in that time.
    """
    for name, value in (("depth_m", proven_depth_m), ("minutes", minutes), ("flow_l_per_h", flow_l_per_h)):
        if not value > 0:
            raise InputError(f"must be above 0, not {value:g}", name)
    volume = flow_l_per_h * minutes / 60.0
    ks = MM_H_PER_M_S * flow_l_per_h * (proven_depth_m / (29.2 * volume**DEPTH_VOLUME)) ** (1 / DEPTH_KS)
    low, high = PROVEN_KS_MM_H
    if not low <= ks <= high:
        least, most = (float(depth_m(volume, flow_l_per_h, edge)) for edge in PROVEN_KS_MM_H)
        raise InputError(
            f"{in_l(volume)} from one emitter wet between {in_m(least)} and {in_m(most)} in any soil, not "
            f"{in_m(proven_depth_m)}: read it again, or the emitter gave another amount",
            "depth_m",
        )
    return float(ks)


def minutes_to_depth(wanted_depth_m: float, flow_l_per_h: float, conductivity_mm_h: float) -> float:
    """Minutes that one emitter runs until the ground is wet so deep [min]: the depth formula solved for V = q t."""
    volume = (wanted_depth_m / (29.2 * (conductivity_mm_h / MM_H_PER_M_S / flow_l_per_h) ** DEPTH_KS)) ** (
        1 / DEPTH_VOLUME
    )
    return 60.0 * volume / flow_l_per_h


def conductivity_at(
    distance_m: Numbers,
    ball_radius_m: float,
    kind: str,
    soil_conductivity_mm_h: float,
    proven_mm_h: float | None = None,
) -> Numbers:
    """Conductivity [mm/h] under emitters at these distances from the trunk [m]: the ball's within it, else the soil's.

    proven_mm_h: what a proof in the field found for the ground, in place of the soil's.
    """
    ground = ground_mm_h(soil_conductivity_mm_h) if proven_mm_h is None else proven_mm_h
    on_ball = KS_BARK_MIX_MM_H if kind in CONTAINER_MIX_KINDS else ground
    return np.where(np.asarray(distance_m) <= ball_radius_m + 1e-9, on_ball, ground)
