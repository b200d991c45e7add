"""Which trees to look at today: where the plan may be wrong, times what that would cost, within the minutes there are.

How far off the plan may be is taken as normal round its dryness; a day carried on in a tree that is in truth past its
limit, or soaked, loses what the check-up's table says it does.
"""

import numpy as np
from scipy.special import ndtr

from june_shade.core.looking.table import ACTS, table
from june_shade.core.water.stores import Array

MINUTES_A_DAY = 10.0
"""For looking, a crew and day, where the lead says nothing else (calibrated)."""
MINUTES_EACH = 2.0
"""Ball and soil beside it felt, and the steps there (common practice)."""
LEAST_DAYS = 0.15
"""A look that saves less is not asked for [days of growth] (calibrated)."""
SOAKED = -0.15
"""A tree is too wet where its dryness is in truth below this: well over field capacity (calibrated)."""
ODD_TIMES = 2.0
"""Readings that can't be explained yet weigh so much (calibrated)."""


def risk(dryness: Array, sd: Array, limit: Array, establishment: Array, due: Array, odd: Array) -> Array:
    """Expected loss of carrying on unlooked [days of growth], weighted by how young the tree is, array (trees,).

    dryness, sd: as the plan has it and how far off that may be, shares; limit: of dryness; establishment: x, 0..1; due:
    is watered today anyway, so being too dry costs nothing; odd: its readings wait for an explanation.
    """
    known = table()
    carry_on = known.loss[ACTS.index("carry_on")]
    lost_dry, lost_wet = (float(carry_on[known.causes.index(cause)]) for cause in ("dry", "wet"))
    spread = np.maximum(sd, 1e-9)
    too_dry = np.where(due, 0.0, ndtr((dryness - limit) / spread))
    too_wet = ndtr((SOAKED - dryness) / spread)
    return (lost_dry * too_dry + lost_wet * too_wet) * (2.0 - establishment) * np.where(odd, ODD_TIMES, 1.0)


def chosen(risks: Array, minutes: float = MINUTES_A_DAY) -> Array:
    """Positions of the trees to look at, the greatest risk first, as many as the minutes allow.

    risks: [days of growth], array (trees,).
    """
    order = np.argsort(-risks, kind="stable")[: int(minutes // MINUTES_EACH)]
    return order[risks[order] >= LEAST_DAYS]
