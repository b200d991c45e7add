"""What orders allow of a week's water, and which of water and hours is short."""

from collections.abc import Sequence

import numpy as np
from scipy.optimize import linprog

from june_shade.core.choosing.patterns import Array

WATER, HOURS = SHORT = ("water", "hours")
WATER_SPENT, HOURS_SPENT = 0.9, 0.85
"""Of what is allowed so much is spent where it is what is short: a crew's hours do not fill to the last minute
(calibrated)."""


def allowed_l(wanted_l: Array, caps: Sequence[tuple[float, Array]]) -> float | None:
    """The most that can be poured under all caps together [L]; None without a cap.

    Where several hold for the same trees each holds by itself; trees under none get what they want.

    wanted_l: of each tree by day [L], array (days, trees); caps: litres [L], and for which of these they hold, array
    (days, trees).
    """
    if not caps:
        return None
    held = np.array([np.ravel(on) for _, on in caps], bool)
    alike, of = np.unique(held, axis=1, return_inverse=True)
    wanted = np.bincount(np.ravel(of), np.ravel(wanted_l), minlength=alike.shape[1])
    most = np.where(np.any(alike, axis=0), np.inf, wanted)
    found = linprog(
        -np.ones(len(most)), A_ub=alike.astype(float), b_ub=[litres for litres, _ in caps],
        bounds=np.stack([np.zeros(len(most)), most], axis=1),
    )  # fmt: skip
    return float(-found.fun)


def short_of(
    *, wanted_l: float, allowed_l: float | None, chosen_l: float, wanted_min: float, allowed_min: float | None,
    chosen_min: float,
) -> tuple[str, ...]:  # fmt: skip
    """Which of water and hours there is less of than trees want, and is spent.

    wanted_l, allowed_l, chosen_l: litres [L], wanted_min, allowed_min, chosen_min: work [min]; allowed None = no limit.
    """
    water = allowed_l is not None and wanted_l > allowed_l and chosen_l >= WATER_SPENT * allowed_l
    hours = allowed_min is not None and wanted_min > allowed_min and chosen_min >= HOURS_SPENT * allowed_min
    return tuple(name for name, short in zip(SHORT, (water, hours), strict=True) if short)
