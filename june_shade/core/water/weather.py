"""A day's weather as the balance takes it, and what of its rain reaches each store."""

from dataclasses import dataclass

import numpy as np

from june_shade.core.numbers import Numbers
from june_shade.core.water.ground import Ground
from june_shade.core.water.stores import Array, State, Trees

RAIN_SHARE = 0.9
"""A tenth of the rain is lost to crown and run-off (calibrated)."""
MULCH_WETTING_MM = 2.0
"""Rain or sprinkled water that only wets a full mulch (calibrated to litter studies, 1 to 3 mm)."""
MULCH_STAYS_WET_MM = 1.0
"""After a day with this much rain mulch is still wet and takes nothing (calibrated)."""


@dataclass(frozen=True, slots=True)
class Weather:
    """One day: eto_mm, rain_mm, leaf 0..1, each a number or an array (trees,).

    month_c, five_days_c: mean air temperature [degC] of up to 30 and of up to 5 days ending that day. rain_share: the
    share of the rain that is counted (1 measured; a forecast counts its chance). mulch_depth_share: how much of the
    depth that works as full cover is there, 0..1. thirst: how many times what the book says these trees drink.
    """

    eto_mm: Array | float
    rain_mm: Array | float
    month_c: Array | float
    five_days_c: Array | float
    leaf: Array | float = 1.0
    rain_share: Array | float = 1.0
    mulch_depth_share: Array | float = 0.0
    thirst: Array | float = 1.0


def effective_rain_mm(rain_mm: Numbers, rain_share: Numbers, cover: Numbers, rain_before_mm: Numbers) -> Numbers:
    """Rain [mm] that reaches the soil of the kept circle, P_e: less crown and run-off, less what wets the mulch.

    cover: share of a full mulch, 0..1. Arrays broadcast.
    """
    wetting = np.where(rain_before_mm >= MULCH_STAYS_WET_MM, 0.0, MULCH_WETTING_MM * cover)
    return rain_share * np.maximum(0.0, RAIN_SHARE * rain_mm - wetting)


def rain_caught(trees: Trees, g: Ground, state: State, weather: Weather) -> tuple[Array, Array | float]:
    """Effective rain that each store catches [L], (3, trees), and what falls on the ground outside [mm]."""
    if not np.any(weather.rain_mm):
        return np.zeros((3, 1)), 0.0
    through = effective_rain_mm(weather.rain_mm, weather.rain_share, g.mulch_cover, state.rain_before_mm)
    rain_in = trees.sheet_rain * through
    rain_open = trees.surround_rain * weather.rain_share * RAIN_SHARE * weather.rain_mm
    return rain_in * g.kept_m2 + rain_open * g.open_m2, rain_open
