"""How dry a season is beside others: the standardized precipitation index of a sum of days.

[SPI]: a gamma distribution is fitted to the sums of past years, with a chance of no rain at all apart; where this
year's sum lies in it is told as a normal deviate. Fewer than 20 years fit nothing (common practice; 30 are asked for).
"""

from dataclasses import dataclass

import numpy as np
from scipy.stats import gamma, norm

LEAST_YEARS = 20
MOST = 3.0
"""Farther out a fit of so few years says nothing."""


@dataclass(frozen=True, slots=True)
class Dryness:
    """A sum of rain against those of other years [mm]: their median, how many there are, how many were wetter; the
    index, None of fewer than 20 years."""

    rain_mm: float
    usual_mm: float
    years: int
    drier: int
    spi: float | None


def against(rain_mm: float, past_mm: np.ndarray) -> Dryness | None:
    """This year's sum of days beside those of other years; None where there are none.

    rain_mm: this year's [mm]; past_mm: of the same days of each other year [mm], array (years,).
    """
    if not len(past_mm):
        return None
    spi = index(rain_mm, past_mm) if len(past_mm) >= LEAST_YEARS else None
    return Dryness(rain_mm, float(np.median(past_mm)), len(past_mm), int(np.sum(past_mm > rain_mm)), spi)


def index(rain_mm: float, past_mm: np.ndarray) -> float | None:
    """The index of a sum [mm] among those of other years [mm], array (years,); None where it hardly ever rains."""
    wet = past_mm[past_mm > 0]
    if len(wet) < LEAST_YEARS / 2:
        return None
    never = 1.0 - len(wet) / len(past_mm)
    if np.ptp(wet) < 1e-9:
        return 0.0
    shape, _, scale = gamma.fit(wet, floc=0.0)
    chance = never + (1.0 - never) * float(gamma.cdf(rain_mm, shape, scale=scale)) if rain_mm > 0 else never / 2
    return float(np.clip(norm.ppf(np.clip(chance, 1e-6, 1 - 1e-6)), -MOST, MOST))
