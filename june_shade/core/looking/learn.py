"""What a tree's readings say of its thirst: it drinks m times the book, or it gets a share q of what is poured.

From the first occasion on, which sets the stores that were read, both are runs that correct nothing; the one whose
later readings fit best, each with a prior at 1, wins only where it clearly does: dry readings are more often water that
never arrived than thirst. Least squares on standardized residuals; errors of readings as in `water/felt.py`.
"""

from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np

from june_shade.core.looking.season import Day, Moment, Season, opening_at, walk
from june_shade.core.water import felt
from june_shade.core.water.felt import Capacity, Felt, Stood
from june_shade.core.water.stores import Array
from june_shade.core.water.walk import Walk

LEAST_OCCASIONS = 4
DEMAND, DELIVERY = (0.4, 2.5), (0.0, 1.5)
"""Ranges that are tried (calibrated)."""
PRIOR_SD = 0.3
"""How far trees and deliveries are usually off the book (calibrated)."""
STEPS = (0.01, 1e-3, 1e-4)
"""How finely the range is tried, and then round the least that was found."""
NUDGE = 0.02
"""Over this the curvature at the least is taken."""
CLEAR = 2.0
"""One explanation beats another by at least so much (calibrated)."""
LIKELY = (0.7, 1.3)
"""Beyond these a delivery has to be checked before a thirst is believed (calibrated)."""
THREADS = 2
"""Parts that are walked side by side: arrays are reckoned with outside the interpreter's lock."""
MOST_CELLS = 2_000_000
"""Days times guesses that are walked at once in each part: more is a little faster and takes more memory."""


@dataclass(frozen=True, slots=True)
class Fit:
    """The best value of a factor, its standard deviation, the objective there."""

    value: float
    sd: float
    objective: float


def likely_range(value: float, sd: float) -> tuple[float, float]:
    """Between which two a factor most likely lies: two standard deviations either way, never under 0.

    value, sd: times the book.
    """
    return max(0.0, value - 2 * sd), value + 2 * sd


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
class Looks:
    """When trees were looked at. count: occasions; first: the day's position of the first, before: whether that was
    before its water; reads_ball: whether the ball was read then; last: the day of the last; arrays (trees,)."""

    count: Array
    first: Array
    before: Array
    reads_ball: Array
    last: Array

    @property
    def enough(self) -> Array:
        """Whether they can tell anything."""
        return (self.count >= LEAST_OCCASIONS) & self.reads_ball


def looks(season: Season) -> Looks:
    """When each tree of a season was looked at."""
    trees = len(season.trees)
    count, first, last = np.zeros(trees, int), np.zeros(trees, int), np.zeros(trees, int)
    before, reads_ball = np.zeros(trees, bool), np.zeros(trees, bool)
    for day, morning in season.moments:
        found = season.course.felt[day, morning]
        ball = np.any(~np.isnan(found.ball), axis=0)
        here = ball | np.any(~np.isnan(found.ring), axis=0)
        new = here & (count == 0)
        first, last = np.where(new, day, first), np.where(here, day, last)
        before, reads_ball = np.where(new, morning, before), np.where(new, ball, reads_ball)
        count = count + here
    return Looks(count, first, before, reads_ball, last)


def learn(season: Season, delivery_checked: Sequence[bool] | Array = (False,)) -> list[Learned]:
    """Fit both explanations to each tree's readings and judge them.

    delivery_checked: whether what is poured was measured and arrives, of all or each tree. Trees are fitted together,
    as many at a time as memory likes.
    """
    seen = looks(season)
    checked = np.broadcast_to(np.asarray(delivery_checked, bool), len(season.trees))
    found = [Learned(int(n), None, None, None, "too_few") for n in seen.count]
    enough = np.flatnonzero(seen.enough)
    parts = _parts(enough[np.argsort(seen.first[enough], kind="stable")], seen)
    with ThreadPoolExecutor(THREADS) as pool:
        fits = pool.map(lambda chosen: _Fits(season.of_some(chosen)).best(), parts)
        for chosen, best in zip(parts, fits, strict=True):
            for at, (demand, delivery, book) in zip(chosen, best, strict=True):
                verdict = _verdict(book, demand, delivery, checked=bool(checked[at]))
                found[at] = Learned(int(seen.count[at]), demand, delivery, book, verdict)
    return found


def lines(season: Season, demand: Array, delivery: Array) -> Array:
    """How dry a tree's ball was at each day's end, from the first occasion to the last, had it drunk so many times the
    book and got such a share of what was poured: shares of what it can give, (days, guesses).

    season: of one tree; demand, delivery: times the book, arrays (guesses,).
    """
    rows: list[Array] = []

    def keep(number: int, day: Day, walked: Walk) -> None:
        rows.append(day.state.ball_depletion_l / walked.trees.ball_taw_l)

    _Fits(season).walked(demand, delivery, len(demand), keep)
    return np.stack(rows)


def _parts(chosen: Array, seen: Looks) -> list[Array]:
    """The trees in parts, each small enough to be walked at once with all its guesses."""
    if not len(chosen):
        return []
    longest = int(np.max(seen.last[chosen] - seen.first[chosen])) + 1
    guesses = sum(len(one) for one in _coarse())
    return np.array_split(chosen, -(-len(chosen) * longest * guesses // MOST_CELLS))


def _coarse() -> list[Array]:
    return [np.linspace(low, high, round((high - low) / STEPS[0]) + 1) for low, high in (DEMAND, DELIVERY)]


class _Fits:
    """Trees whose readings are fitted together, each walked under many guesses from its first occasion on."""

    def __init__(self, season: Season) -> None:
        self.seen = looks(season)
        self.season = replace(season, opening=opening_at(season, self.seen.first))

    def best(self) -> list[tuple[Fit, Fit, float]]:
        """Of each tree the best thirst, the best delivery, and the objective at the book."""
        values = [np.broadcast_to(one, (len(self.seen.count), len(one))) for one in _coarse()]
        totals = list(self.objective(*values))
        for before, step in pairwise(STEPS):
            around = step * np.arange(-round(before / step), round(before / step) + 1)
            finer = [
                np.clip(_least(tried, total)[:, None] + around, low, high)
                for tried, total, (low, high) in zip(values, totals, (DEMAND, DELIVERY), strict=True)
            ]
            values = [np.concatenate(both, axis=1) for both in zip(values, finer, strict=True)]
            totals = [np.concatenate(both, axis=1) for both in zip(totals, self.objective(*finer), strict=True)]
        best = [_least(value, total) for value, total in zip(values, totals, strict=True)]
        round_them = [
            np.clip(value, low + NUDGE, high - NUDGE)[:, None] + NUDGE * np.array([-1.0, 0.0, 1.0])
            for value, (low, high) in zip(best, (DEMAND, DELIVERY), strict=True)
        ]
        sds = [_sd(around) for around in self.objective(*round_them)]
        book = self.objective(np.ones((len(best[0]), 1)), np.ones((len(best[0]), 0)))[0][:, 0]
        demand, delivery = (
            [Fit(float(v), float(sd), float(np.min(total))) for v, sd, total in zip(value, by, of, strict=True)]
            for value, by, of in zip(best, sds, totals, strict=True)
        )
        return list(zip(demand, delivery, book.tolist(), strict=True))

    def objective(self, demand: Array, delivery: Array) -> tuple[Array, Array]:
        """J of thirsts at the book's delivery and of deliveries at the book's thirst, in one walk.

        demand, delivery: times the book, arrays (trees, guesses); found likewise.
        """
        trees, thirsts = demand.shape
        m = np.concatenate([demand, np.ones_like(delivery)], axis=1)
        q = np.concatenate([np.ones_like(demand), delivery], axis=1)
        squares = self.walked(m.ravel(), q.ravel(), m.shape[1])
        total = squares.reshape(trees, -1) + _prior(m) + _prior(q)
        return total[:, :thirsts], total[:, thirsts:]

    def walked(
        self, demand: Array, delivery: Array, guesses: int, after: Callable[[int, Day, Walk], None] | None = None
    ) -> Array:
        """Walk each tree under its guesses, from its first occasion to the last; sums of squared residuals.

        demand, delivery: times the book, arrays (trees x guesses,); after: is shown each day.
        """
        copies = np.repeat(np.arange(len(self.seen.count)), guesses)
        season, first, before = self.season.of_some(copies), self.seen.first[copies], self.seen.before[copies]
        course, day = season.course, np.arange(len(season.course))[:, None]
        gets = np.where(day >= first + ~before, delivery, 1.0)
        season = replace(season, course=replace(
            course, thirst=course.thirst * np.where(day >= first, demand, 1.0), first_net_l=course.first_net_l * gets,
            second_net_l=course.second_net_l * gets,
        ))  # fmt: skip
        total = np.zeros(len(copies))

        def look(moment: Moment, now: Stood, room: Capacity, found: Felt) -> Stood:
            nonlocal total
            opens = (first == moment[0]) & (before == moment[1])
            for ball, ring, sd in zip(found.ball, found.ring, found.sd, strict=True):
                off = _residual(now.ball_depletion_l, room.ball_taw_l, ball, sd) ** 2
                off = off + _residual(now.near_depletion_l, room.near_taw_l, ring, sd) ** 2
                total = total + np.where(opens, 0.0, off)
            return _set(now, room, found, opens)

        walk(season, range(int(np.min(first)), int(np.max(self.seen.last)) + 1), look, after)
        return total


def _least(values: Array, totals: Array) -> Array:
    """Of each tree the guess of the least objective, array (trees,)."""
    return np.take_along_axis(values, np.argmin(totals, axis=1)[:, None], axis=1)[:, 0]


def _set(now: Stood, room: Capacity, found: Felt, opens: Array) -> Stood:
    """The stores that were read, set to what was read of them where this is the first occasion, the last reading of
    each."""
    ball_l, near_l = now.ball_depletion_l, now.near_depletion_l
    for ball, ring in zip(found.ball, found.ring, strict=True):
        for_ball = np.clip((1.0 - ball) * room.ball_taw_l, -room.ball_space_l, room.ball_taw_l)
        for_near = np.clip((1.0 - ring) * room.near_taw_l, -room.near_space_l, room.near_taw_l)
        ball_l = np.where(opens & ~np.isnan(for_ball), for_ball, ball_l)
        near_l = np.where(opens & ~np.isnan(for_near), for_near, near_l)
    return replace(now, ball_depletion_l=ball_l, near_depletion_l=near_l)


def _residual(depletion_l: Array, taw_l: Array, read: Array, sd: Array) -> Array:
    """How far off a store stands in errors of the reading; 0 where it was not read or says nothing against it."""
    wetness = 1.0 - depletion_l / taw_l
    off = (read - wetness) / sd
    return np.where(np.isnan(off) | felt.says_nothing(wetness, read), 0.0, off)


def _prior(factor: Array) -> Array:
    return ((factor - 1.0) / PRIOR_SD) ** 2


def _sd(around: Array) -> Array:
    """The standard deviation that the curvature at the least tells. around: the objective at three points, NUDGE apart,
    array (trees, 3)."""
    bend = (around[:, 2] - 2 * around[:, 1] + around[:, 0]) / NUDGE**2
    return np.where(bend > 0, np.sqrt(2.0 / np.where(bend > 0, bend, 1.0)), PRIOR_SD)


def _verdict(book: float, demand: Fit, delivery: Fit, *, checked: bool) -> str:
    drinks = "drinks_more" if demand.value > 1 else "drinks_less"
    if checked:
        return "book_holds" if book - demand.objective < CLEAR else drinks
    if book - min(demand.objective, delivery.objective) < CLEAR:
        return "book_holds"
    clear = book - demand.objective >= CLEAR and demand.objective + CLEAR < delivery.objective
    return drinks if clear and LIKELY[0] <= demand.value <= LIKELY[1] else "ask_delivery"
