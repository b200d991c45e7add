"""What a finger, a rod or a probe says of a store, weighed against what the balance holds of it.

Wetness is the share of available water, 1 - D/TAW; how far off it may be is kept as a variance. A reading z of error
sigma moves it by the share K = P / (P + sigma^2) of a scalar Kalman filter [Kalman60]. Arrays of trees throughout.
"""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np

from june_shade.core.errors import InputError
from june_shade.core.numbers import Numbers

Array = np.ndarray

PLANTED_SD, GUESSED_SD = 0.05, 0.15
"""How far off the wetness may be as a record opens: on planting day, from a guess (calibrated)."""
A_DAY_SD, MOST_SD = 0.05, 0.30
"""What each morning adds, and what it never passes (calibrated)."""
KNOWN_SD = 0.05
"""A store above field capacity is known again at least so well (calibrated)."""
SD = {"probe": 0.05, "trowel": 0.15, "rod": 0.15, "finger": 0.20}
"""Error of a reading by how it is taken, as a share of available water (common practice)."""
FITS_ERRORS, FAR_ERRORS = 1.0, 1.5
"""A reading no further off the plan than its own error fits; beyond so many of them it is worth a look at the whole
tree (calibrated)."""
LITTLE = 0.34
"""Moved by less of the way to what was felt, a plan is told to be surer than the reading (calibrated)."""
SATURATED, DUSTY = 1.0, 0.2
"""A reading that wet, or that dry, says nothing against a store that is wetter, or drier."""
FEEL = {"wet": 1.0, "moist": 0.75, "drying": 0.5, "dry": 0.2}
"""What a hand feels, as a share of available water (common practice)."""
LIKE_CLAY = 0.5
"""Soil like modeling clay stands above field capacity by this share of its drainable space (common practice)."""


@dataclass(frozen=True, slots=True)
class Stood:
    """Ball and near ring at a moment of the day: depletions [L] and variances of their wetness, arrays (trees,)."""

    ball_depletion_l: Array
    near_depletion_l: Array
    ball_variance: Array
    near_variance: Array


def stood_in(state: Any) -> Stood:
    """Ball and near ring as a state has them. state: a State of arrays (trees,)."""
    return Stood(state.ball_depletion_l, state.near_depletion_l, state.ball_variance, state.near_variance)


Look = Callable[[Stood], Stood]
"""What is done with the stores at the moment when someone looks."""


@dataclass(frozen=True, slots=True)
class Reading:
    """One reading: wetness of ball and ring, NaN where that was not felt, and its error (standard deviation of
    wetness); numbers or arrays (trees,)."""

    ball: Numbers
    ring: Numbers
    sd: Numbers


@dataclass(frozen=True, slots=True)
class Weighed:
    """A reading of one store, weighed: predicted wetness, gain K, wetness and error after, arrays (trees,); NaN where
    it was not read."""

    predicted: Array
    gain: Array
    after: Array
    sd_after: Array


@dataclass(frozen=True, slots=True)
class Capacity:
    """What ball and near ring can give (TAW) and their drainable space (X) on that day [L], arrays (trees,)."""

    ball_taw_l: Array
    near_taw_l: Array
    ball_space_l: Array
    near_space_l: Array


@dataclass(frozen=True, slots=True)
class Felt:
    """What was read of trees at one moment of a day, arrays (readings, trees): the first reading of each tree, then the
    second; NaN where a tree has none. sd: 1 where there is none."""

    ball: Array
    ring: Array
    sd: Array


def a_day_on(variance: Array) -> Array:
    """A variance on the next morning."""
    return np.minimum(variance + A_DAY_SD**2, MOST_SD**2)


def known_again(variance: Array, depletion_l: Array) -> Array:
    """A variance after step 3: small where the store stands above field capacity. depletion_l: array (trees,) [L]."""
    return np.where(depletion_l < 0, np.minimum(variance, KNOWN_SD**2), variance)


def says_nothing(wetness: Numbers, read: Numbers) -> Numbers:
    """Whether a reading says nothing against a store: it is as wet, or as dry, as such a reading can tell.

    wetness, read: of the store and as read, as shares of available water; numbers or arrays.
    """
    return ((read >= SATURATED) & (wetness >= read)) | ((read <= DUSTY) & (wetness <= read))


def _weigh(depletion_l: Array, taw_l: Array, space_l: Array, variance: Array, read: Array, sd: Numbers
           ) -> tuple[Array, Array, Weighed]:  # fmt: skip
    wetness = 1.0 - depletion_l / taw_l
    there = ~np.isnan(read)
    gain = variance / (variance + sd**2)
    moves = there & ~says_nothing(wetness, read)
    moved_l = np.clip((1.0 - (wetness + gain * (read - wetness))) * taw_l, -space_l, taw_l)
    end_l = np.where(moves, moved_l, depletion_l)
    left = np.where(there, (1.0 - gain) * variance, variance)
    blank = np.where(there, 0.0, np.nan)
    told = Weighed(wetness + blank, gain + blank, 1.0 - end_l / taw_l + blank, np.sqrt(left) + blank)
    return end_l, left, told


def weigh(stood: Stood, capacity: Capacity, reading: Reading) -> tuple[Stood, Weighed, Weighed]:
    """Move ball and ring by a reading: what stands after it, and how each was weighed."""
    none = np.zeros_like(stood.ball_depletion_l)
    ball_l, ball_variance, ball = _weigh(
        stood.ball_depletion_l, capacity.ball_taw_l, capacity.ball_space_l, stood.ball_variance, reading.ball + none,
        reading.sd,
    )  # fmt: skip
    near_l, near_variance, ring = _weigh(
        stood.near_depletion_l, capacity.near_taw_l, capacity.near_space_l, stood.near_variance, reading.ring + none,
        reading.sd,
    )  # fmt: skip
    return Stood(ball_l, near_l, ball_variance, near_variance), ball, ring


def weigh_all(stood: Stood, capacity: Capacity, felt: Felt) -> Stood:
    """Move ball and ring by all readings of a moment, in their order."""
    for ball, ring, sd in zip(felt.ball, felt.ring, felt.sd, strict=True):
        stood, _, _ = weigh(stood, capacity, Reading(ball, ring, sd))
    return stood


def wetness_of(feel: str, awc: float, drainable: float) -> float:
    """What a hand felt as a share of available water. awc, drainable: of that store [m3/m3]; `like_clay` stands above
    field capacity. Raises KeyError for a word that is none."""
    return 1.0 + LIKE_CLAY * drainable / awc if feel == "like_clay" else FEEL[feel]


def wetness_by_probe(theta: float, wilting_point: float, awc: float, drainable: float) -> float:
    """What a probe reads as a share of available water, above 1 over field capacity, below 0 past the wilting point.

    theta, wilting_point, awc, drainable: water, wilting point, available water and drainable space of that store
    [m3/m3]. Raises InputError for more water than it can hold.
    """
    most = wilting_point + awc + drainable
    if theta > most + PROBE_OFF:
        raise InputError(f"can't be more than {most:.2f} m3/m3 here: that soil is full then", "theta")
    return (min(theta, most) - wilting_point) / awc


PROBE_OFF = 0.02
"""A probe may read that much over saturation [m3/m3] and is taken for it (common practice)."""
FEELS = (*FEEL, "like_clay")
HANDS = ("finger", "trowel", "rod")
"""How a hand reads; a probe reads for itself."""
PROBE = "probe"
