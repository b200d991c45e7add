"""What a walk writes down, day by day: arrays (days, trees), NaN before a tree's opening."""

import numpy as np

from june_shade.core.water.balance import Fluxes
from june_shade.core.water.ground import Ground, dryness_sd
from june_shade.core.water.stores import Array, State


class Record:
    """Day-by-day results as they come."""

    NAMES = (
        "dryness", "ks", "ball_depletion_l", "near_depletion_l", "far_depletion_l", "root_radius_m", "visit_net_l",
        "visit_gross_l", "reservoir_l", "dryness_sd",
    )  # fmt: skip

    def __init__(self, days: int, trees: int) -> None:
        self.rows = {name: np.full((days, trees), np.nan) for name in self.NAMES}
        self.soggy = np.zeros((days, trees), bool)

    def write(
        self, day: int, active: Array, moved: Fluxes, end: State, ground: Ground, net_l: Array, gross_l: Array,
        reservoir_l: Array,
    ) -> None:  # fmt: skip
        """A day's end and what was planned to be poured on it.

        active: whose record is open, array (trees,).
        """
        values = (
            moved.dryness, moved.ks, end.ball_depletion_l, end.near_depletion_l, end.far_depletion_l,
            end.root_radius_m, net_l, gross_l, reservoir_l,
            dryness_sd(ground, end.ball_variance, end.near_variance),
        )  # fmt: skip
        for name, value in zip(self.NAMES, values, strict=True):
            self.rows[name][day] = np.where(active, value, np.nan)
        self.soggy[day] = active & moved.soggy
