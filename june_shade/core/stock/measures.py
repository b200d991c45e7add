"""Measuring a trunk and reading it against the nursery standard: caliper, girth, the ball a trunk should come with."""

import numpy as np

from june_shade.core.numbers import Numbers
from june_shade.core.stock.balls import caliper_from_girth_m
from june_shade.core.units import METRES_PER_INCH

CALIPER_AT_M, CALIPER_AT_THICK_M = 0.15, 0.30
THICK_M = 4.5 * METRES_PER_INCH
"""Caliper is taken 15 cm up; from 4.5 in thick there, 30 cm up. Source: [Z60]."""
DBH_SHARE = 0.825
"""Trunk at breast height over caliper, under 15 cm thick (common practice: 0.8 to 0.85)."""
BALL_PER_GIRTH = 3.0
"""Ball over girth as nurseries in Europe dig it (common practice)."""

_CALIPER_IN = (0.5, 0.75, 1, 1.25, 1.5, 1.75, 2, 2.5, 3, 3.5, 4, 4.5, 5, 5.5, 6, 7, 8)
_BALL_IN = (12, 14, 16, 18, 20, 22, 24, 28, 32, 38, 42, 48, 54, 57, 60, 70, 80)
_SPREAD_CALIPER_IN = (0.5, 0.75, 1, 1.25, 1.5, 1.75, 2, 2.5, 3)
_SPREAD_IN = (12, 16, 18, 20, 22, 24, 28, 32, 38)


def caliper_height_m(caliper_m: float) -> float:
    """How high above the flare the trunk is measured [m]. Source: [Z60] (from memory)."""
    return CALIPER_AT_THICK_M if caliper_m >= THICK_M else CALIPER_AT_M


def least_ball_m(caliper_m: Numbers) -> Numbers:
    """Least ball diameter [m] of a shade tree by its caliper [m], linear between classes. Source: [Z60] (from memory).

    Below half an inch as at half an inch; above 8 in by the last class's ratio. Arrays broadcast.
    """
    inches = np.asarray(caliper_m) / METRES_PER_INCH
    found = np.interp(inches, _CALIPER_IN, _BALL_IN)
    return np.where(inches > _CALIPER_IN[-1], inches * _BALL_IN[-1] / _CALIPER_IN[-1], found) * METRES_PER_INCH


def least_spread_m(caliper_m: Numbers) -> Numbers:
    """Least root spread [m] of bare-root stock by its caliper [m]. Source: [Z60] (from memory). Arrays broadcast."""
    inches = np.asarray(caliper_m) / METRES_PER_INCH
    return np.interp(inches, _SPREAD_CALIPER_IN, _SPREAD_IN) * METRES_PER_INCH


def ball_depth_m(ball_diameter_m: Numbers) -> Numbers:
    """Least ball depth [m] by its diameter [m]: 65 % under 20 in, 60 % to 42 in, 55 % at 48, 50 % from 60 in.

    Source: [Z60] (from memory; editions differ above 30 in). Arrays broadcast.
    """
    inches = np.asarray(ball_diameter_m) / METRES_PER_INCH
    share = np.where(inches < 20, 0.65, np.interp(inches, (42, 48, 60), (0.60, 0.55, 0.50)))
    return np.asarray(ball_diameter_m) * share


def ball_from_girth_m(girth_m: Numbers) -> Numbers:
    """Usual ball diameter [m] by trunk girth [m] at 1 m (common practice in Europe). Arrays broadcast."""
    return BALL_PER_GIRTH * np.asarray(girth_m)


def dbh_from_caliper_m(caliper_m: Numbers) -> Numbers:
    """Trunk at breast height [m] from caliper [m] (common practice)."""
    return DBH_SHARE * caliper_m


__all__ = [
    "ball_depth_m", "ball_from_girth_m", "caliper_from_girth_m", "caliper_height_m", "dbh_from_caliper_m",
    "least_ball_m", "least_spread_m",
]  # fmt: skip
