"""A stop's days as one choice: on which of them it is visited, and each of its trees' pattern then.

Setting up at a stop is a large part of a short day, and a programme that opens stops by halves knows too little of
that. Here every stop picks one whole schedule; schedules are made where the prices of days' minutes and litres ask for
them (column generation [DantzigWolfe60]), the best one of each stop exactly: for every set of days that it may be open,
each tree takes its cheapest pattern within. What the prices prove is a bound of every plan of these patterns.
"""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cache
from itertools import pairwise

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, linprog, milp
from scipy.sparse import csr_array

from june_shade.core.choosing.patterns import TOLERANCE, Array, Plan, Problem, better, plan_of

MOST_DAYS = 14
"""Of more days there are too many sets."""
NEW_A_STOP = 2
"""So many schedules a stop are made at once, the cheapest."""
FOR_PRICES, FOR_FIRST = 0.3, 0.6
"""Of the time so much may go into prices, and of the rest so much into the first choice among the schedules made."""
SMOOTHING = 0.5
"""Prices go so far towards those with the best bound, so that they do not swing."""
SCALES = (0.0, 0.5, 1.0, 1.5, 2.5)
"""Schedules of regular days are made at so many times the prices: a whole choice wants thriftier ones and others."""
BESIDE_SCALES = (0.5, 1.0, 2.0)
EVERY_DAYS = range(1, 8)
OBJECTIVE_SCALE = 1e3


@dataclass(frozen=True, slots=True)
class Row:
    """A limit: what patterns and open stops take of it, arrays (patterns,) and (stops, days), and how much there is."""

    patterns: Array
    opens: Array
    most: float


@cache
def days_of_sets(days: int) -> Array:
    """Which day is in which set of days, array (sets, days) of 0 and 1. days: how many there are."""
    return ((np.arange(1 << days)[:, None] >> np.arange(days)) & 1).astype(float)


class _Pricer:
    """The cheapest schedules of each stop at given prices."""

    def __init__(self, problem: Problem) -> None:
        rows, days = problem.rows, problem.days
        self.problem, self.sets = problem, 1 << days
        self.mask = rows.visits.astype(int) @ (1 << np.arange(days))
        self.has = days_of_sets(days)
        order = np.argsort(problem.stop_of[rows.tree], kind="stable")
        ends = np.searchsorted(problem.stop_of[rows.tree][order], np.arange(len(problem.crew_of) + 1))
        self.of_stop = [order[a:b] for a, b in pairwise(ends)]
        self.trees = [np.flatnonzero(problem.stop_of == stop) for stop in range(len(problem.crew_of))]

    def cheapest(self, stop: int, costs: Array, opens: Array, count: int) -> tuple[float, list[Array]]:
        """The least that a schedule of a stop costs, and the patterns of its trees in the cheapest ones.

        costs: of patterns, opens: of the stop on each day, arrays (patterns,), (days,).
        """
        own, trees = self.of_stop[stop], self.trees[stop]
        local = np.searchsorted(trees, self.problem.rows.tree[own])
        best = np.full((len(trees), self.sets), np.inf)
        np.minimum.at(best, (local, self.mask[own]), costs[own])
        for day in range(self.problem.days):
            pairs = best.reshape(len(trees), -1, 2, 1 << day)
            np.minimum(pairs[:, :, 1], pairs[:, :, 0], out=pairs[:, :, 1])
        total = best.sum(axis=0) + self.has @ opens
        some = np.argpartition(total, min(count, self.sets) - 1)[:count]
        some = some[np.argsort(total[some])]
        return float(total[some[0]]), [self.within(stop, int(days), costs) for days in some]

    def within(self, stop: int, days: int, costs: Array) -> Array:
        """The cheapest pattern of each tree of a stop that keeps to a set of days, as positions of patterns.

        costs: of patterns, array (patterns,).
        """
        own = self.of_stop[stop]
        fits = own[(self.mask[own] & ~days) == 0]
        tree = self.problem.rows.tree[fits]
        order = np.lexsort((costs[fits], tree))
        first = np.ones(len(order), bool)
        first[1:] = tree[order[1:]] != tree[order[:-1]]
        found: Array = fits[order[first]]
        return found


class Schedules:
    """The schedules made so far for a problem under some limits, and the choice among them."""

    def __init__(self, problem: Problem, goal: Array, opens: Array, rows: Sequence[Row]) -> None:
        self._problem, self._goal, self._opens, self._rows = problem, goal, opens, rows
        self._pricer = _Pricer(problem)
        self._stop: list[int] = []
        self._at: list[Array] = []
        self._cost: list[float] = []
        self._takes: list[Array] = []
        self._known: set[tuple[int, bytes]] = set()
        self._most = np.array([row.most for row in rows])
        self._of_patterns = np.array([row.patterns for row in rows]).reshape(len(rows), -1).T.copy()
        self._of_opens = np.array([row.opens for row in rows]).reshape(len(rows), *opens.shape)

    def add_plan(self, plan: Plan) -> None:
        """The schedules that a plan has."""
        at = self._problem.rows.first + plan.chosen
        for stop, trees in enumerate(self._pricer.trees):
            if len(trees):
                self._add(stop, at[trees])

    def add_all(self, other: "Schedules") -> None:
        """The schedules that were made for another goal or other limits."""
        for stop, at in zip(other._stop, other._at, strict=True):
            self._add(stop, at)

    def _add(self, stop: int, at: Array) -> bool:
        key = stop, np.sort(at).tobytes()
        if key in self._known:
            return False
        self._known.add(key)
        opened = np.any(self._problem.rows.visits[at], axis=0)
        self._stop.append(stop)
        self._at.append(at)
        self._cost.append(float(self._goal[at].sum() + self._opens[stop][opened].sum()))
        self._takes.append(self._of_patterns[at].sum(axis=0) + self._of_opens[:, stop, opened].sum(axis=1))
        return True

    def _matrices(self) -> tuple[Array, csr_array, Array]:
        stops = [n for n, trees in enumerate(self._pricer.trees) if len(trees)]
        place = {stop: n for n, stop in enumerate(stops)}
        at = np.array([place[stop] for stop in self._stop])
        pick = csr_array((np.ones(len(at)), (at, np.arange(len(at)))), shape=(len(stops), len(at)))
        takes = np.array(self._takes).reshape(len(at), len(self._rows)).T
        return np.array(self._cost), pick, takes

    def prices(self) -> tuple[float, Array] | None:
        """What the schedules made come to, with parts allowed, and the price of each limit (0 or below)."""
        cost, pick, takes = self._matrices()
        scale = OBJECTIVE_SCALE / (float(np.max(np.abs(cost), initial=0.0)) or 1.0)
        found = linprog(
            scale * cost, A_ub=takes if len(takes) else None, b_ub=self._most if len(takes) else None, A_eq=pick,
            b_eq=np.ones(pick.shape[0]), bounds=(0, None), method="highs",
        )  # fmt: skip
        if found.status != 0:
            return None
        prices = np.asarray(found.ineqlin.marginals) / scale if len(takes) else np.zeros(0)
        return float(found.fun) / scale, np.minimum(0.0, prices)

    def _priced(self, prices: Array) -> tuple[Array, Array]:
        """What patterns and open stops cost with what they take of limits at these prices."""
        costs, opens = self._goal.copy(), self._opens.copy()
        for price, row in zip(prices, self._rows, strict=True):
            if price < 0:
                costs -= price * row.patterns
                opens -= price * row.opens
        return costs, opens

    def _new(self, prices: Array) -> tuple[float, bool]:
        """Make the cheapest schedules at these prices; the bound that they prove, and whether any is new."""
        costs, opens = self._priced(prices)
        bound, new = float(prices @ self._most), False
        for stop, trees in enumerate(self._pricer.trees):
            if len(trees):
                least, found = self._pricer.cheapest(stop, costs, opens[stop], NEW_A_STOP)
                bound += least
                for at in found:
                    new |= self._add(stop, at)
        return bound, new

    def bound(self, known: float, gap: float, seconds: float, clock: Callable[[], float]) -> float:
        """Make schedules until what is known, or what they come to with parts allowed, is proven to the gap.

        known: what the best plan comes to; gap: a share; seconds: how long it may take; clock: what time it is [s].
        """
        ends, best, center = clock() + seconds, -math.inf, np.zeros(len(self._rows))
        while clock() < ends:
            found = self.prices()
            if found is None:
                break
            least, prices = found
            if min(least, known) - best <= max(gap / 4 * abs(least), TOLERANCE):
                break
            tried = SMOOTHING * center + (1 - SMOOTHING) * prices if best > -math.inf else prices
            proven, new = self._new(tried)
            if not new and np.any(tried != prices):
                tried = prices
                proven, new = self._new(prices)
            if proven > best:
                best, center = proven, tried
            if not new:
                break
        return best

    def seed(self) -> None:
        """Make schedules of regular days, each at several scales of the prices."""
        days = range(self._problem.days)
        sets = {sum(1 << day for day in days[start::every]) for every in EVERY_DAYS for start in range(every)}
        self._at_sets(dict.fromkeys(range(len(self._pricer.trees)), sets), SCALES)

    def beside(self, plan: Plan) -> None:
        """Make schedules that differ from a plan's by a day that a stop is open: left out, added, moved."""
        every: dict[int, set[int]] = {}
        for stop, opened in enumerate(plan.open_stops):
            now = int(opened.astype(int) @ (1 << np.arange(self._problem.days)))
            days = [1 << day for day in range(self._problem.days)]
            there, not_there = [d for d in days if now & d], [d for d in days if not now & d]
            every[stop] = {now, *(now & ~d for d in there), *(now | d for d in not_there)}
            every[stop] |= {(now & ~a) | b for a in there for b in (a << 1, a >> 1) if b in not_there}
        self._at_sets(every, BESIDE_SCALES)

    def _at_sets(self, sets: dict[int, set[int]], scales: Sequence[float]) -> None:
        """Make the cheapest schedule of each stop for each set of days that it may be open, at these scales."""
        found = self.prices()
        if found is None:
            return
        for scale in scales:
            costs, _ = self._priced(scale * found[1])
            for stop, trees in enumerate(self._pricer.trees):
                for days in sets[stop] if len(trees) else ():
                    self._add(stop, self._pricer.within(stop, days, costs))

    def choose(self, seconds: float, gap: float) -> Plan | None:
        """The best whole choice among the schedules made, None where none was found in time.

        seconds: how long it may take; gap: near enough, a share.
        """
        cost, pick, takes = self._matrices()
        scale = OBJECTIVE_SCALE / (float(np.max(np.abs(cost), initial=0.0)) or 1.0)
        limits = [LinearConstraint(pick, 1.0, 1.0)]
        if len(takes):
            limits.append(LinearConstraint(csr_array(takes), -np.inf, self._most))
        found = milp(
            scale * cost, integrality=np.ones(len(cost)), bounds=Bounds(0, 1), constraints=limits,
            options={"time_limit": max(0.01, seconds), "mip_rel_gap": gap},
        )  # fmt: skip
        if found.x is None:
            return None
        chosen = self._problem.rows.empty.copy()
        rows = self._problem.rows
        for n in np.flatnonzero(found.x > 0.5):
            at = self._at[n]
            chosen[rows.tree[at]] = rows.number[at]
        return plan_of(self._problem, chosen)


def bound(
    problem: Problem, goal: Array, opens: Array, rows: Sequence[Row], plan: Plan, known: float, *, seconds: float,
    gap: float, like: "Schedules", clock: Callable[[], float],
) -> float:  # fmt: skip
    """What is proven that no plan undercuts.

    goal: of patterns (patterns,), opens: of open stops (stops, days); rows: limits; plan: one that keeps to them all;
    known: what it comes to, seconds: how long it may take; gap: near enough, a share; like: schedules made for another
    goal, to begin with; clock: what time it is [s].
    """
    own = Schedules(problem, goal, opens, rows)
    own.add_plan(plan)
    own.add_all(like)
    return own.bound(known, gap, seconds, clock)


def least(
    problem: Problem, goal: Array, opens: Array, rows: Sequence[Row], plan: Plan, known: float, *, seconds: float,
    gap: float, good: Callable[[Plan], bool], worth: Callable[[Plan], float], clock: Callable[[], float],
) -> tuple[Plan | None, float]:  # fmt: skip
    """The least of a goal: a plan that is better than the known one, None where none was found; what is proven.

    goal: of patterns (patterns,), opens: of open stops (stops, days); rows: limits; plan: one that keeps to them all;
    known: what it comes to, seconds: how long it may take; gap: near enough, a share; good: whether a plan keeps to all
    that it must; worth: what it comes to; clock: what time it is [s].
    """
    ends = clock() + seconds
    schedules = Schedules(problem, goal, opens, rows)
    schedules.add_plan(plan)
    schedules.add_plan(plan_of(problem, problem.rows.empty))
    bound = schedules.bound(known, gap, FOR_PRICES * seconds, clock)
    if known - bound <= max(gap * abs(known), TOLERANCE):
        return None, bound
    schedules.seed()
    best = None
    for part in (FOR_FIRST, 1.0):
        found = schedules.choose(part * (ends - clock()), gap)
        if found is None:
            break
        for one in (found, better(problem, found)):
            if good(one) and worth(one) < known - TOLERANCE:
                best, known = one, worth(one)
        if known - bound <= max(gap * abs(known), TOLERANCE) or clock() > ends:
            break
        schedules.beside(best or found)
    return best, bound
