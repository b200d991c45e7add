"""One pattern a tree: fewest may die, then least harm, then litres, then minutes; each goal with what is proven of it.

A mixed-integer programme, solved one goal after the other by HiGHS [HuangfuHall18]: a tree's patterns add up to one; a
tree is visited on a day only where its stop is open then, written once for each tree and day; limits of crews' days,
of days' litres, of periods' litres, of closed hours. Of many patterns only those are tried that the relaxed programme
does not rule out: a plan with one that is left out costs at least the relaxed least and that pattern's reduced cost.
"""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, linprog, milp
from scipy.sparse import csr_array, vstack

from june_shade.core.choosing import schedules
from june_shade.core.choosing.patterns import (
    TOLERANCE,
    Array,
    Plan,
    Problem,
    better,
    keeps,
    nothing,
    plan_of,
    thriftier,
)

OBJECTIVE_SCALE = 1e3
"""Goals are scaled to this order, so that the solver's absolute gap is far below what is told."""
MOST_CUTS = 50
FEW_PATTERNS, MANY_PATTERNS = 3000, 15_000
"""So many patterns are all tried; of more than the second, setting up is a small part of the days."""
TRIED_OF_A_TREE = 8
"""Of more, so many a tree at first, those with the least reduced cost."""
OF_DEATHS, OF_HARM, OF_LITRES = 0.4, 0.7, 0.6
"""Goals take at most these shares of the time that is left, minutes the rest."""
OF_PRICES = 0.15
"""Of all time so much goes at most into prices of limits."""
NEAR = 0.05
"""Of many patterns single ones are gone through only where so little is left open."""
OF_BOUND, OF_BOUND_OF_MANY = 0.3, 0.8
"""Of a goal's time so much goes at most into proving it stop by stop."""
OF_SCHEDULES = 0.7
"""Of a goal's time so much goes at most into whole schedules of stops, the rest into patterns tree by tree."""


@dataclass(frozen=True, slots=True)
class Choice:
    """The plan chosen; the least weighted harm that was found, what is proven that none undercuts, whether every goal
    was proven."""

    plan: Plan
    least_harm: float
    bound: float
    optimal: bool

    @property
    def gap(self) -> float:
        """By how much another plan could be better at most, as a share of the least harm found."""
        return (self.least_harm - self.bound) / self.least_harm if self.least_harm > TOLERANCE else 0.0


UNPROVEN = 0.25
"""Where another plan could be better by more than this share of the harm, a figure would say more than is known."""
Sureness = Literal["best", "gap", "open"]


def sureness(gap: float) -> Sureness:
    """How sure a plan is to be told: none better; better by this much at most; that it is not known.

    gap: by how much another plan could be better at most, a share.
    """
    if gap > UNPROVEN:
        return "open"
    return "best" if gap <= 0 else "gap"


@dataclass(frozen=True, slots=True)
class _Rows:
    """Linear rows of the programme and their upper bounds."""

    matrix: csr_array
    most: Array


@dataclass(frozen=True, slots=True)
class _Relaxed:
    """A goal with parts of patterns allowed: its least, and by column the reduced cost and the part that is taken."""

    least: float
    reduced: Array
    x: Array


class _Programme:
    """The mixed-integer programme of a problem: patterns first, then stops by day."""

    def __init__(self, problem: Problem) -> None:
        self.problem, rows = problem, problem.rows
        self.patterns, self.days = len(rows.tree), problem.days
        self.open_at = self.patterns + np.arange(problem.stop_minutes.size).reshape(problem.stop_minutes.shape)
        self.count = self.patterns + self.open_at.size
        self.pick = self._matrix(rows.tree, np.arange(self.patterns), np.ones(self.patterns), problem.trees)
        self.rows = [self._open(), *self._limits()]

    def _matrix(self, at: Array, column: Array, values: Array, count: int) -> csr_array:
        return csr_array((values, (at, column)), shape=(count, self.count))

    def _open(self) -> _Rows:
        """A tree that is visited on a day has its stop open."""
        rows = self.problem.rows
        pattern, day = np.nonzero(rows.visits)
        key = rows.tree[pattern] * self.days + day
        own, at = np.unique(key, return_inverse=True)
        tree, on = own // self.days, own % self.days
        visited = self._matrix(at, pattern, np.ones(len(at)), len(own))
        opened = self._matrix(
            np.arange(len(own)), self.open_at[self.problem.stop_of[tree], on], -np.ones(len(own)), len(own)
        )
        return _Rows(csr_array(visited + opened), np.zeros(len(own)))

    def _limits(self) -> list[_Rows]:
        problem, rows, found = self.problem, self.problem.rows, []
        for number, limits in enumerate(problem.minutes):
            for day in np.flatnonzero(np.isfinite(limits)):
                own = problem.crew_of[:, day] == number
                if not np.any(own):
                    continue
                trees = own[problem.stop_of[rows.tree]] if self.patterns else np.zeros(0, bool)
                found.append(self._minutes(trees, own, int(day), float(limits[day])))
        for day in np.flatnonzero(np.isfinite(problem.litres)):
            found.append(_row(self.goal(rows.day_litres[:, day]), float(problem.litres[day])))
        for period in problem.periods:
            own = np.ones(self.patterns) if period.trees is None else np.isin(rows.tree, period.trees)
            found.append(_row(self.goal(own * rows.day_litres[:, list(period.days)].sum(axis=1)), period.litres))
        for one in problem.closings:
            stops = np.isin(np.arange(len(problem.crew_of)), one.stops)
            found.append(self._minutes(np.isin(rows.tree, one.trees), stops, one.day, one.minutes))
        return found

    def _minutes(self, patterns: Array, stops: Array, day: int, most: float) -> _Rows:
        line = self.goal(np.where(patterns, self.problem.rows.day_minutes[:, day], 0.0))
        line[self.open_at[stops, day]] = self.problem.stop_minutes[stops, day]
        return _row(line, most)

    def minutes(self) -> Array:
        """Minutes of visits and stops, by column."""
        return np.concatenate([self.problem.rows.minutes, np.ravel(self.problem.stop_minutes)])

    def goal(self, values: Array) -> Array:
        """A value of each pattern as a goal.

        values: litres [L], weighted harm or deaths, array (patterns,).
        """
        return np.concatenate([values, np.zeros(self.count - self.patterns)])

    def split(self, goal: Array) -> tuple[Array, Array]:
        """A goal's part of patterns (patterns,) and of open stops (stops, days)."""
        return goal[: self.patterns], goal[self.patterns :].reshape(self.problem.stop_minutes.shape)

    def limits(self) -> list[schedules.Row]:
        """All limits but those that open stops."""
        found = []
        for row in self.rows[1:]:
            for line, most in zip(row.matrix.toarray(), row.most, strict=True):
                found.append(schedules.Row(*self.split(line), float(most)))
        return found

    def cap(self, goal: Array, most: float) -> None:
        """From here on a goal stays at most here."""
        self.rows.append(_row(goal, most))

    def solve(
        self, goal: Array, known: float, seconds: float, gap: float, good: Callable[[Plan], bool],
        clock: Callable[[], float],
    ) -> tuple[Plan | None, float, bool]:  # fmt: skip
        """The least of a goal: a plan, what is proven of it, whether the least is proven.

        known: what the plan that is there comes to, inf where it won't do; seconds: how long it may take; gap: how far
        off the least it may be, as a share of it; good: whether a plan, rounded to whole patterns, keeps to all that it
        must; clock: what time it is [s].
        """
        ends = clock() + seconds
        if self.patterns <= FEW_PATTERNS or not math.isfinite(known):
            return self._solve(goal, np.ones(self.count, bool), seconds, gap, good)
        parts = self.relaxed(goal, seconds)
        if parts is None:
            return None, -math.inf, False
        relaxed, reduced = parts.least, parts.reduced
        if known - relaxed <= max(gap * abs(known), TOLERANCE):
            return None, relaxed, known - relaxed <= TOLERANCE
        order = np.lexsort((reduced[: self.patterns], self.problem.rows.tree))
        rank = np.empty(self.patterns, int)
        rank[order] = np.arange(self.patterns) - self.problem.rows.first[self.problem.rows.tree[order]]
        often, best, bound = TRIED_OF_A_TREE, None, relaxed
        while True:
            tried = np.concatenate([rank < often, np.ones(self.count - self.patterns, bool)])
            tried[self.problem.rows.first + self.problem.rows.empty] = True
            tried &= reduced <= known - relaxed + TOLERANCE
            left_out = float(np.min(reduced[~tried], initial=math.inf))
            plan, of_tried, _ = self._solve(goal, tried, (ends - clock()) / 2, gap, good)
            bound = max(bound, min(of_tried, relaxed + left_out))
            if plan is not None and self.worth(goal, plan) < known:
                best, known = plan, self.worth(goal, plan)
            if known - bound <= max(gap * abs(known), TOLERANCE):
                return best, bound, known - bound <= TOLERANCE
            if often > np.max(rank) or clock() > ends - seconds / 4:
                return best, bound, False
            often *= 3

    def worth(self, goal: Array, plan: Plan) -> float:
        """What a plan comes to by a goal."""
        at = self.problem.rows.first + plan.chosen
        return float(goal[at].sum() + goal[self.open_at[plan.open_stops]].sum())

    def relaxed(self, goal: Array, seconds: float) -> "_Relaxed | None":
        """The goal with parts of patterns allowed; None where time ran out.

        seconds: how long it may take.
        """
        matrix, most = vstack([row.matrix for row in self.rows]), np.concatenate([row.most for row in self.rows])
        scale = OBJECTIVE_SCALE / (float(np.max(np.abs(goal), initial=0.0)) or 1.0)
        found = linprog(
            scale * goal, A_ub=matrix, b_ub=most, A_eq=self.pick, b_eq=np.ones(self.problem.trees), bounds=(0, 1),
            method="highs", options={"time_limit": max(0.01, seconds)},
        )  # fmt: skip
        if found.status != 0:
            return None
        return _Relaxed(float(found.fun) / scale, np.asarray(found.lower.marginals) / scale, np.asarray(found.x))

    def _solve(
        self, goal: Array, tried: Array, seconds: float, gap: float, good: Callable[[Plan], bool]
    ) -> tuple[Plan | None, float, bool]:  # fmt: skip
        """The same among the columns that are tried."""
        largest = float(np.max(np.abs(goal), initial=0.0)) or 1.0
        scale, cuts = OBJECTIVE_SCALE / largest, list(self.rows)
        at = np.flatnonzero(tried)
        whole = (at < self.patterns).astype(float)
        ones = np.ones(self.problem.trees)
        for _ in range(MOST_CUTS):
            matrix, most = vstack([row.matrix for row in cuts]), np.concatenate([row.most for row in cuts])
            found = milp(
                scale * goal[at], integrality=whole, bounds=Bounds(0, 1),
                constraints=[
                    LinearConstraint(self.pick[:, at], ones, ones), LinearConstraint(matrix[:, at], -np.inf, most)
                ],
                options={"time_limit": max(0.01, seconds), "mip_rel_gap": gap},
            )  # fmt: skip
            bound = -math.inf if found.mip_dual_bound is None else float(found.mip_dual_bound) / scale
            if found.x is None:
                return None, bound, False
            x = np.zeros(self.count)
            x[at] = found.x
            plan = plan_of(self.problem, self._chosen(x))
            if good(plan):
                return plan, bound, found.status == 0 and gap == 0
            cuts.append(self._not_again(plan))  # whole only within the solver's tolerance: not this one
        return None, -math.inf, False

    def _chosen(self, x: Array) -> Array:
        rows = self.problem.rows
        order = np.lexsort((-x[: self.patterns], rows.tree))
        return np.asarray(rows.number[order[rows.first]])

    def _not_again(self, plan: Plan) -> _Rows:
        line = np.zeros(self.count)
        line[self.problem.rows.first + plan.chosen] = 1.0
        return _row(line, len(plan.chosen) - 1.0)


def _row(line: Array, most: float) -> _Rows:
    return _Rows(csr_array(line[None, :]), np.array([most]))


def choose(
    problem: Problem, starts: Sequence[Array] = (), *, slack: float = 0.0, seconds: float = 60.0, gap: float = 0.0,
    clock: Callable[[], float],
) -> Choice:  # fmt: skip
    """The plan with the fewest weighted deaths, then least weighted harm, then litres, then minutes.

    starts: plans to begin with by pattern of each tree, arrays (trees,), beside no visits; slack: how much more than
    the least harm a plan may cost that saves litres, as a share of it; seconds: for all goals together; gap: how far
    off its least each goal may be, as a share of it; clock: what time it is [s]. Where time runs out the best plan
    found stands.
    """
    ends = clock() + seconds
    rows, programme = problem.rows, _Programme(problem)
    plan = better(problem, nothing(problem))
    for start in starts:
        if keeps(problem, begun := plan_of(problem, start)):
            plan = min(plan, better(problem, begun), key=lambda one: (round(one.deaths, 6), one.harm))
    if not problem.trees:
        return Choice(plan, 0.0, 0.0, True)
    made: schedules.Schedules | None = None
    many = programme.patterns > FEW_PATTERNS and problem.days <= schedules.MOST_DAYS
    if many and clock() < ends and keeps(problem, plan):
        made = _priced(problem, programme, plan, seconds=ends - clock(), clock=clock)
    of_bound = OF_BOUND if programme.patterns <= MANY_PATTERNS else OF_BOUND_OF_MANY
    capped: list[tuple[Callable[[Plan], float], float]] = []
    proven = True

    def good(tried: Plan) -> bool:
        return keeps(problem, tried) and all(of(tried) <= most + 1e-9 for of, most in capped)

    def least(goal: Array, of: Callable[[Plan], float], share: float, tie: float = 0.0, guide: float = 0.0) -> float:
        """Go for a goal; what is proven of it. share: of the time that is left; tie, guide: what a day of harm counts
        beside it where plans are compared, and where schedules are made."""
        nonlocal plan, proven
        if of(plan) <= TOLERANCE and good(plan):  # nothing is less than nothing
            return 0.0
        if clock() >= ends:
            proven = False
            return -math.inf
        until = clock() + share * (ends - clock())
        known = of(plan) if good(plan) else math.inf
        bound = -math.inf
        by_stops = made is not None and good(plan)
        if made is not None and by_stops:
            bound = schedules.bound(
                problem, *programme.split(goal), programme.limits(), plan, known,
                seconds=of_bound * (until - clock()), gap=gap, like=made, clock=clock,
            )  # fmt: skip
            if known - bound <= max(gap * abs(known), TOLERANCE):
                proven = proven and known - bound <= TOLERANCE
                return min(bound, known)
            if programme.patterns > MANY_PATTERNS and known - bound > NEAR * abs(known):
                proven = False  # parts of patterns know too little of whole stops: it would only take time
                return bound
        if by_stops and programme.patterns <= MANY_PATTERNS:

            def worth(one: Plan) -> float:
                return of(one) + tie * one.harm

            found, of_schedules = schedules.least(
                problem, *programme.split(goal + guide * programme.goal(rows.harm)), programme.limits(), plan,
                worth(plan), seconds=OF_SCHEDULES * (until - clock()), gap=gap, good=good, worth=worth, clock=clock,
            )  # fmt: skip
            if found is not None:
                plan, known = found, of(found)
            bound = bound if guide else max(bound, of_schedules)
        is_least = known - bound <= TOLERANCE
        if known - bound > max(gap * abs(known), TOLERANCE):
            found, at_least, is_least = programme.solve(goal, known, until - clock(), gap, good, clock)
            bound = max(bound, at_least)
            if found is not None and of(found) < known:
                plan = found
        proven = proven and is_least
        return min(bound, of(plan))

    def keep(goal: Array, of: Callable[[Plan], float], most: float) -> None:
        capped.append((of, most))
        programme.cap(goal, most)

    if np.any(rows.deaths > 0):
        goal = programme.goal(rows.deaths)
        tie, guide = _tie(problem, float(np.sum(rows.harm))), _tie(problem, plan.harm)
        least(goal, lambda tried: tried.deaths, OF_DEATHS, tie, guide)
        keep(goal, lambda tried: tried.deaths, plan.deaths + TOLERANCE)
        plan = better(problem, plan)
    goal = programme.goal(rows.harm)
    bound = least(goal, lambda tried: tried.harm, OF_HARM)
    least_harm = plan.harm
    keep(goal, lambda tried: tried.harm, least_harm * (1.0 + slack) + TOLERANCE)
    plan = thriftier(problem, plan, least_harm * (1.0 + slack))
    goal = programme.goal(rows.litres)
    least(goal, lambda tried: tried.litres, OF_LITRES)
    keep(goal, lambda tried: tried.litres, plan.litres + TOLERANCE)
    least(programme.minutes(), lambda tried: tried.minutes, 1.0)
    return Choice(plan, least_harm, max(0.0, bound), proven)


def _priced(
    problem: Problem, programme: _Programme, plan: Plan, *, seconds: float, clock: Callable[[], float]
) -> schedules.Schedules:
    """Schedules of stops that the prices of limits ask for, to prove a plan by.

    seconds: for all goals together.
    """
    rows = problem.rows
    dying = bool(np.any(rows.deaths > 0))
    goal = rows.deaths + _tie(problem, plan.harm) * rows.harm if dying else rows.harm
    own = schedules.Schedules(problem, goal, np.zeros(problem.stop_minutes.shape), programme.limits())
    own.add_plan(plan)
    own.add_plan(nothing(problem))
    own.bound(float(goal[rows.first + plan.chosen].sum()), 0.0, OF_PRICES * seconds, clock)
    return own


def _tie(problem: Problem, most_harm: float) -> float:
    """What a day of harm counts among plans with as few deaths, so that so much of it is half of the least death.

    most_harm: weighted [days].
    """
    deaths = problem.rows.deaths
    return float(np.min(deaths[deaths > 0])) / (2.0 * most_harm) if most_harm > 0 else 0.0


def liked(problem: Problem, *, seconds: float) -> Array:
    """Patterns that the choice takes any part of where parts are allowed: what it would want more like, array
    (patterns,) of whether.

    seconds: how long it may take.
    """
    programme = _Programme(problem)
    if not problem.trees:
        return np.zeros(0, bool)
    found = programme.relaxed(programme.goal(problem.rows.harm + problem.rows.deaths), seconds)
    return np.zeros(len(problem.rows.tree), bool) if found is None else found.x[: programme.patterns] > TOLERANCE
