"""A plan is taken apart and put together again, a few stops at a time, for as long as there is time.

Where setting up is a large part of a day, trees can't be moved one by one: nothing is gained until a whole stop has
gone to another day. Here some stops lose all their visits; then one after the other takes the schedule that is best
for it within what the others leave (ruin and recreate [SchrimpfEtAl00]): for every set of days that it may be open
each tree takes its cheapest pattern within; limits that are overrun get a price until they hold. Prices of limits, as
a relaxed choice has them, tell a stop what it takes from those that still wait.
"""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from functools import cache

import numpy as np

from june_shade.core.choosing.patterns import TOLERANCE, Array, Plan, Problem, plan_of
from june_shade.core.choosing.schedules import Row, days_of_sets

SEED = 14
MOST_STOPS = 5
"""So many stops are taken apart at once at most, all under a common limit."""
KEPT_OF_A_TREE = 60
"""So many patterns of a tree are gone through, those with the least cost at the prices of limits."""
MOST_RAISES, RAISE = 12, 1.6
"""Prices of limits that are overrun are raised so often, by so much, before a stop goes without."""
PRICE_FROM, PRICE_TO, NOISE = 0.5, 1.3, 0.4
"""Between which times the prices of all limits stops go by while others wait, and how far each strays (logarithm)."""
FILLED_AT_MOST = 12
"""Trees of a stop that take more of what is left, one by one."""
WARMTH = 0.01
"""A plan that is worse by some such share of the best is gone on with too, by an ever smaller one."""


@dataclass(frozen=True, slots=True)
class _Stop:
    """A stop's patterns: where they are among all; tree by place in the stop; visits by day and the same as bits; goal;
    where each tree's first and empty one are; what each, and each open day, takes of the limits that the stop is under,
    arrays (limits, patterns), (limits, days); the least that any takes on a day; those limits."""

    at: Array
    tree: Array
    visits: Array
    bits: Array
    goal: Array
    first: Array
    empty: Array
    takes: Array
    opens: Array
    least: Array
    limits: Array

    def days(self, picked: Array) -> Array:
        """Whether a schedule has the stop open on each day, array (days,). picked: a pattern of each tree."""
        found: Array = np.any(self.visits[picked], axis=0)
        return found

    def needs(self, picked: Array) -> Array:
        """What a schedule takes of the stop's limits, array (limits,). picked: a pattern of each tree."""
        found: Array = self.takes[:, picked].sum(axis=1) + self.opens @ self.days(picked)
        return found


def _promising(problem: Problem, goal: Array, rows: Sequence[Row], prices: Array, plan: Plan) -> Array:
    """The patterns of each tree that come to least with what they take at these prices, its empty one and the plan's:
    their positions in order."""
    of = problem.rows
    priced = goal + sum((price * row.patterns for price, row in zip(prices, rows, strict=True)), np.zeros(len(goal)))
    order = np.lexsort((priced, of.tree))
    some = np.zeros(len(goal), bool)
    some[order[np.arange(len(order)) - of.first[of.tree[order]] < KEPT_OF_A_TREE]] = True
    some[of.first + of.empty] = some[of.first + plan.chosen] = True
    return np.flatnonzero(some)


def _stops(problem: Problem, goal: Array, rows: Sequence[Row], kept: Array) -> Iterator[_Stop]:
    of = problem.rows
    stop_of = problem.stop_of[of.tree[kept]]
    for stop in np.unique(problem.stop_of):
        at = kept[stop_of == stop]
        takes = np.array([row.patterns[at] for row in rows]).reshape(len(rows), len(at))
        opens = np.array([row.opens[stop] for row in rows]).reshape(len(rows), problem.days)
        limits = np.flatnonzero(np.any(takes > 0, axis=1) | np.any(opens > 0, axis=1))
        takes, opens = takes[limits], opens[limits]
        trees, tree = np.unique(of.tree[at], return_inverse=True)
        visits = of.visits[at]
        least = np.stack(
            [np.min(takes[:, own], axis=1, initial=np.inf) for own in visits.T.astype(bool)], axis=1
        )  # fmt: skip
        yield _Stop(
            at, np.ravel(tree), visits, visits.astype(int) @ _powers(problem.days), goal[at],
            np.searchsorted(np.ravel(tree), np.arange(len(trees))),
            np.searchsorted(at, of.first[trees] + of.empty[trees]),
            takes, opens, np.nan_to_num(least, posinf=0.0), limits,
        )  # fmt: skip


@cache
def _powers(days: int) -> Array:
    found: Array = 1 << np.arange(days)
    return found


class Search:
    """The plan in hand, and what it leaves of every limit."""

    def __init__(self, problem: Problem, goal: Array, rows: Sequence[Row], prices: Array, plan: Plan) -> None:
        """goal: of patterns, array (patterns,); rows: all limits; prices: theirs, array (limits,); plan: one that keeps
        to them."""
        self._problem = problem
        self._stops = list(_stops(problem, goal, rows, _promising(problem, goal, rows, prices, plan)))
        wanted = problem.rows.first + plan.chosen
        self._picked = [np.searchsorted(one.at, wanted[problem.rows.tree[one.at[one.first]]]) for one in self._stops]
        self._left = np.array([row.most for row in rows])
        for one, picked in zip(self._stops, self._picked, strict=True):
            self._left[one.limits] -= one.needs(picked)

    def __len__(self) -> int:
        return len(self._stops)

    @property
    def picked(self) -> tuple[Array, ...]:
        """The pattern of each tree, stop by stop."""
        return tuple(self._picked)

    def worth(self) -> float:
        """What the plan in hand comes to."""
        return float(sum(one.goal[picked].sum() for one, picked in zip(self._stops, self._picked, strict=True)))

    def plan_of(self, picked: Sequence[Array]) -> Plan:
        """The plan with these patterns. picked: the pattern of each tree, stop by stop, arrays (trees,)."""
        rows = self._problem.rows
        chosen = rows.empty.copy()
        for one, own in zip(self._stops, picked, strict=True):
            chosen[rows.tree[one.at[own]]] = rows.number[one.at[own]]
        return plan_of(self._problem, chosen)

    def beside(self, stop: int) -> Array:
        """Stops that are under any limit that this one is under too, array (stops,). stop: by position."""
        own = set(self._stops[stop].limits.tolist())
        return np.array([n for n, one in enumerate(self._stops) if n == stop or own.intersection(one.limits.tolist())])

    def put(self, stop: int, picked: Array) -> None:
        """Give a stop, by position, a schedule. picked: a pattern of each tree, array (trees,)."""
        one = self._stops[stop]
        self._left[one.limits] += one.needs(self._picked[stop]) - one.needs(picked)
        self._picked[stop] = picked

    def rebuilt(self, stops: Sequence[int], prices: Sequence[Array]) -> None:
        """Take stops apart and put them together in this order. prices: that each goes by, arrays (limits,)."""
        for stop in stops:
            self.put(stop, self._stops[stop].empty)
        for stop, of_all in zip(stops, prices, strict=True):
            self.put(stop, self._best(self._stops[stop], of_all))
        for stop in reversed(stops):
            self._fill(stop)

    def _best(self, one: _Stop, of_all: Array) -> Array:
        """The best schedule of a stop that is empty within what is left."""
        left = self._left[one.limits] + TOLERANCE
        fits = np.all(one.opens <= left[:, None], axis=0)
        days = np.flatnonzero(fits)
        some = np.flatnonzero((one.bits & int(_powers(self._problem.days) @ ~fits)) == 0)
        some = some[np.all(one.takes[:, some] <= left[:, None], axis=0)]
        tree, goal, takes, opens = one.tree[some], one.goal[some], one.takes[:, some], one.opens[:, days]
        bits = one.visits[np.ix_(some, days)] @ _powers(len(days))
        least = float(np.ptp(one.goal)) / (8 * max(1.0, float(np.max(left, initial=1.0))))
        prices = of_all[one.limits].copy()
        for _ in range(MOST_RAISES):
            picked = some[_cheapest(tree, bits, goal + prices @ takes, prices @ opens, len(one.first))]
            over = one.needs(picked) > left
            if not np.any(over):
                return picked
            prices[over] = RAISE * np.maximum(prices[over], least)
        return one.empty

    def _fill(self, stop: int) -> None:
        """Let trees of a stop take what is left, one by one, the most that a unit brings first."""
        one = self._stops[stop]
        for _ in range(FILLED_AT_MOST):
            picked, left = self._picked[stop], self._left[one.limits] + TOLERANCE
            gain = one.goal[picked][one.tree] - one.goal
            full = int(_powers(self._problem.days) @ np.any(one.least > left[:, None], axis=0))
            some = np.flatnonzero((gain > TOLERANCE) & ((one.bits & ~one.bits[picked][one.tree] & full) == 0))
            if not len(some):
                return
            now, tree = one.visits[picked], one.tree[some]
            visitors = now.sum(axis=0)
            opening = ((visitors - now[tree] + one.visits[some]) > 0).astype(float) - (visitors > 0)
            more = one.takes[:, some] - one.takes[:, picked][:, tree] + one.opens @ opening.T
            good = np.all(more <= left[:, None], axis=0)
            if not np.any(good):
                return
            brings = np.where(good, gain[some] / (1.0 + np.maximum(0.0, more.sum(axis=0))), -np.inf)
            best = int(some[np.argmax(brings)])
            then = picked.copy()
            then[one.tree[best]] = best
            self.put(stop, then)


def _cheapest(tree: Array, bits: Array, costs: Array, opens: Array, trees: int) -> Array:
    """Each tree's pattern in the cheapest schedule of a stop, as places among those given.

    tree, bits, costs: of patterns, arrays (patterns,); opens: what an open day costs, array (days,); trees: how many.
    """
    has = days_of_sets(len(opens))
    best = np.full((trees, len(has)), np.inf)
    np.minimum.at(best, (tree, bits), costs)
    for day in range(len(opens)):
        pairs = best.reshape(trees, -1, 2, 1 << day)
        np.minimum(pairs[:, :, 1], pairs[:, :, 0], out=pairs[:, :, 1])
    days = int(np.argmin(best.sum(axis=0) + has @ opens))
    fits = np.flatnonzero((bits & ~days) == 0)
    order = np.lexsort((costs[fits], tree[fits]))
    found: Array = fits[order[np.searchsorted(tree[fits][order], np.arange(trees))]]
    return found


def searched(
    problem: Problem, goal: Array, rows: Sequence[Row], plan: Plan, prices: Array, *, seconds: float,
    clock: Callable[[], float],
) -> Plan:  # fmt: skip
    """The plan that comes to least of those found in a time, the one to begin with among them.

    goal: of patterns, array (patterns,); rows: all limits; plan: one that keeps to them; prices: of limits, 0 or above,
    array (limits,); seconds: how long it may take; clock: what time it is [s].
    """
    begins, random = clock(), np.random.Generator(np.random.PCG64(SEED))
    search = Search(problem, goal, rows, prices, plan)
    beside = [search.beside(stop) for stop in range(len(search))]
    best = search.picked
    now = least = search.worth()
    while (gone := (clock() - begins) / max(seconds, TOLERANCE)) < 1.0:
        near = beside[int(random.integers(len(search)))]
        count = min(len(near), int(random.integers(1, MOST_STOPS + 1)))
        stops = random.choice(near, count, replace=False).tolist()
        before = search.picked
        noise = np.exp(NOISE * random.standard_normal((count, len(rows))))
        going = random.uniform(PRICE_FROM, PRICE_TO) * noise * prices
        going[-1] = 0.0  # nobody waits any more
        search.rebuilt(stops, going)
        worth = search.worth()
        if worth <= now + WARMTH * (1.0 - gone) * float(random.exponential()) * abs(least):
            now = worth
            if worth < least - TOLERANCE:
                best, least = search.picked, worth
            continue
        for stop in stops:
            search.put(stop, before[stop])
    return search.plan_of(best)
