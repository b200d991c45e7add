"""What a tree's readings say of its thirst: it drinks m times the book, or it gets a share q of what is poured.

From the first occasion on, which sets the stores that were read, both are runs that correct nothing; the one whose
later readings fit best, each with a prior at 1, wins only where it clearly does: dry readings are more often water that
never arrived than thirst. Least squares on standardized residuals; errors of readings as in `water/felt.py`.
"""

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from june_shade.core.looking.season import Day, Morning, Occasion, Season, first_morning, walk
from june_shade.core.water import felt
from june_shade.core.water.felt import Capacity, Reading, Stood, Weighed
from june_shade.core.water.stores import Array, some

LEAST_OCCASIONS = 4
DEMAND, DELIVERY = (0.4, 2.5), (0.0, 1.5)
"""Ranges that are tried (calibrated)."""
PRIOR_SD = 0.3
"""How far trees and deliveries are usually off the book (calibrated)."""
COARSE, FINE = 0.01, 1e-4
NUDGE = 0.02
"""Over this the curvature at the least is taken."""
CLEAR = 2.0
"""One explanation beats another by at least so much (calibrated)."""
LIKELY = (0.7, 1.3)
"""Beyond these a delivery has to be checked before a thirst is believed (calibrated)."""


@dataclass(frozen=True, slots=True)
class Fit:
    """The best value of a factor, its standard deviation, the objective there."""

    value: float
    sd: float
    objective: float


@dataclass(frozen=True, slots=True)
class Learned:
    """What readings say. occasions: how many; demand: m, delivery: q, None where too few; objective_at_1: as the book
    has it. verdict: too_few, book_holds, drinks_more, drinks_less, ask_delivery."""

    occasions: int
    demand: Fit | None
    delivery: Fit | None
    objective_at_1: float | None
    verdict: str


@dataclass(frozen=True, slots=True)
class Told:
    """How a reading was weighed against ball and ring."""

    ball: Weighed
    ring: Weighed


def corrected(season: Season) -> tuple[list[Day], list[Told]]:
    """The season with every reading moving the state, and how each was weighed, in their order."""
    told: list[Told] = []

    def weigh(occasion: Occasion, now: Stood, room: Capacity) -> Stood:
        for reading in occasion.readings:
            now, ball, ring = felt.weigh(now, room, reading)
            told.append(Told(ball, ring))
        return now

    days, _ = walk(season, first_morning(season), len(season.days), weigh)
    return days, told


def learn(season: Season, *, delivery_checked: bool = False) -> Learned:
    """Fit both explanations and judge them. delivery_checked: what is poured was measured and arrives."""
    seen = season.occasions
    if len(seen) < LEAST_OCCASIONS or not _reads_ball(seen[0]):
        return Learned(len(seen), None, None, None, "too_few")
    at = _at_first(season)

    def objective(m: Array, q: Array) -> tuple[Array, Array]:
        """Of thirsts at the book's delivery, and of deliveries at the book's thirst, in one walk."""
        demand, delivery = np.concatenate([m, np.ones_like(q)]), np.concatenate([np.ones_like(m), q])
        total = _objective(season, at, demand, delivery)
        return total[: len(m)] + _prior(m), total[len(m) :] + _prior(q)

    demand, delivery = _fit(objective)
    book = float(objective(np.ones(1), np.ones(0))[0][0])
    return Learned(len(seen), demand, delivery, book, _verdict(book, demand, delivery, checked=delivery_checked))


def _reads_ball(occasion: Occasion) -> bool:
    return any(not np.all(np.isnan(reading.ball)) for reading in occasion.readings)


def _at_first(season: Season) -> Morning:
    """The morning of the first occasion, as the book has it."""
    first = season.occasions[0].day
    _, morning = walk(season, first_morning(season), first, lambda occasion, now, room: now)
    assert morning is not None
    return morning


def _objective(season: Season, at: Morning, demand: Array, delivery: Array) -> Array:
    """Sum of squared residuals of all later occasions for each pair of factors, arrays (guesses,)."""
    copies = np.zeros(len(demand), int)
    morning = replace(
        at, trees=some(at.trees, copies), reach=some(at.reach, copies), state=some(at.state, copies),
        ground=some(at.ground, copies),
    )  # fmt: skip
    first = season.occasions[0]
    total = np.zeros(len(demand))

    def look(occasion: Occasion, now: Stood, room: Capacity) -> Stood:
        nonlocal total
        if occasion is first:
            return _set(now, room, occasion)
        for reading in occasion.readings:
            total = total + _residual(now.ball_depletion_l, room.ball_taw_l, reading.ball, reading) ** 2
            total = total + _residual(now.near_depletion_l, room.near_taw_l, reading.ring, reading) ** 2
        return now

    since = first.day if first.before_water else first.day + 1
    last = season.occasions[-1].day
    walk(season, morning, last + 1, look, thirst=demand, arrives=lambda day: delivery if day >= since else 1.0)
    return total


def _set(now: Stood, room: Capacity, occasion: Occasion) -> Stood:
    """The stores that were read, set to what was read of them, the last reading of each."""
    ball, near = now.ball_depletion_l, now.near_depletion_l
    for reading in occasion.readings:
        for_ball = np.clip((1.0 - reading.ball) * room.ball_taw_l, -room.ball_space_l, room.ball_taw_l)
        for_near = np.clip((1.0 - reading.ring) * room.near_taw_l, -room.near_space_l, room.near_taw_l)
        ball, near = np.where(np.isnan(for_ball), ball, for_ball), np.where(np.isnan(for_near), near, for_near)
    return replace(now, ball_depletion_l=ball, near_depletion_l=near)


def _residual(depletion_l: Array, taw_l: Array, read: float, reading: Reading) -> Array:
    """How far off a store stands in errors of the reading; 0 where it was not read or says nothing against it."""
    wetness = 1.0 - depletion_l / taw_l
    off = (read - wetness) / reading.sd
    return np.where(np.isnan(off) | felt.says_nothing(wetness, read), 0.0, off)


def _prior(factor: Array) -> Array:
    return ((factor - 1.0) / PRIOR_SD) ** 2


def _fit(objective: Callable[[Array, Array], tuple[Array, Array]]) -> tuple[Fit, Fit]:
    """The least over either range: at every hundredth, then finer round the least; the objective jumps where a day
    turns soggy."""
    ranges = (DEMAND, DELIVERY)
    coarse = [np.linspace(low, high, round((high - low) / COARSE) + 1) for low, high in ranges]
    found = objective(*coarse)
    steps = FINE * np.arange(-round(COARSE / FINE), round(COARSE / FINE) + 1)
    fine = [
        np.clip(values[np.argmin(totals)] + steps, low, high)
        for values, totals, (low, high) in zip(coarse, found, ranges, strict=True)
    ]
    values = [np.concatenate(both) for both in zip(coarse, fine, strict=True)]
    totals = [np.concatenate(both) for both in zip(found, objective(*fine), strict=True)]
    least = [int(np.argmin(total)) for total in totals]
    best = [float(value[n]) for value, n in zip(values, least, strict=True)]
    middle = [min(max(v, low + NUDGE), high - NUDGE) for v, (low, high) in zip(best, ranges, strict=True)]
    bends = objective(*(np.array([m - NUDGE, m, m + NUDGE]) for m in middle))
    demand, delivery = (
        Fit(value, _sd(bend), float(total[n])) for value, bend, total, n in zip(best, bends, totals, least, strict=True)
    )
    return demand, delivery


def _sd(around: Array) -> float:
    """The standard deviation that the curvature at the least tells. around: the objective at three points, NUDGE apart,
    array (3,)."""
    below, here, above = around
    bend = float(above - 2 * here + below) / NUDGE**2
    return math.sqrt(2.0 / bend) if bend > 0 else PRIOR_SD


def _verdict(book: float, demand: Fit, delivery: Fit, *, checked: bool) -> str:
    drinks = "drinks_more" if demand.value > 1 else "drinks_less"
    if checked:
        return "book_holds" if book - demand.objective < CLEAR else drinks
    if book - min(demand.objective, delivery.objective) < CLEAR:
        return "book_holds"
    clear = book - demand.objective >= CLEAR and demand.objective + CLEAR < delivery.objective
    return drinks if clear and LIKELY[0] <= demand.value <= LIKELY[1] else "ask_delivery"
