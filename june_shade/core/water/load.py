"""The load of a round: a tank that runs down along the way, and the minutes that the crew stands by."""

OPEN_VALVE_MIN = 1.0
"""Minutes at a tree on emitters: the valve is opened and the water runs on by itself (common practice)."""


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


def standing_by_min(method: str, run_min: float) -> float:
    """Minutes that the crew stands by a tree whose water runs for run_min (common practice)."""
    return OPEN_VALVE_MIN if method == "emitters" else run_min


def cost(water_price_per_m3: float | None, hour_price: float | None, litres: float, hours: float) -> float | None:
    """What water [L] and hours [h] come to at a site's prices; None where it has none.

    water_price_per_m3: for 1000 L; hour_price: for an hour; litres: poured [L].
    """
    if water_price_per_m3 is None and hour_price is None:
        return None
    return litres / 1000 * (water_price_per_m3 or 0.0) + hours * (hour_price or 0.0)
