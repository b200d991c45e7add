"""The load of a round: a tank that runs down along the way, and the minutes that the crew stands by."""

import numpy as np

from june_shade.core.numbers import Numbers

Array = np.ndarray
OPEN_VALVE_MIN = 1.0
"""Minutes at a tree whose water runs on by itself: a valve, a bag, a box (common practice)."""
RUNS_ALONE = frozenset({"emitters", "bag", "wicked"})
HANDLING_MIN = 1.0
"""Minutes at each tree beside the water: the hose is carried, the rod slid in (common practice)."""


class Tank:
    """The truck's tank running down along the round; None = no tank."""

    def __init__(self, holds_l: float | None) -> None:
        self._holds = self._left = holds_l

    def pour(self, litres: float) -> bool:
        """Take litres out; True where the tank must be filled before."""
        if self._holds is None or self._left is None:
            return False
        short = litres > self._left + 1e-9
        if short:
            self._left = self._holds
        self._left = max(0.0, self._left - litres)
        return short


def runs_alone(method: str, on_a_line: bool) -> bool:
    """Whether water poured this way runs on while the crew goes on: it drips, or its valve is shared."""
    return on_a_line or method in RUNS_ALONE


def shared_by(line: Array, by_box: Array) -> Array:
    """How many trees a visit's minutes are shared by, array (trees,): all of a line by who opens its valve; infinite
    where a box does, so that nobody comes.

    line: of each tree by its number, -1 = none; by_box: whether; arrays (trees,).
    """
    _, on, count = np.unique(line, return_inverse=True, return_counts=True)
    found: Array = np.where(by_box, np.inf, np.where(line < 0, 1.0, count[on]))
    return found


def visit_min(
    alone: Numbers, run_min: Numbers, handling_min: Numbers = HANDLING_MIN, at_once: Numbers = 1.0
) -> Numbers:  # fmt: skip
    """Minutes that a visit takes a crew: handling, and standing by for the run, divided by what runs at once.

    alone: whether it runs on by itself; run_min: how long water runs [min]; handling_min: at the tree [min]; at_once:
    hoses or nozzles that run at a time. Arrays broadcast.
    """
    return handling_min + np.where(alone, OPEN_VALVE_MIN, run_min / np.maximum(1.0, at_once))


def cost(water_price_per_m3: float | None, hour_price: float | None, litres: float, hours: float) -> float | None:
    """What water [L] and hours [h] come to at a site's prices; None where it has none.

    water_price_per_m3: for 1000 L; hour_price: for an hour; litres: poured [L].
    """
    if water_price_per_m3 is None and hour_price is None:
        return None
    return litres / 1000 * (water_price_per_m3 or 0.0) + hours * (hour_price or 0.0)
