"""One pattern a tree: fewest may die, then least harm, then litres, then minutes; each goal with what is proven of it.

A mixed-integer programme, solved one goal after the other by HiGHS [HuangfuHall18]: a tree's patterns add up to one; a
tree is visited on a day only where its stop is open then, written once for each tree and day; limits of crews' days,
of days' litres, of periods' litres.
"""

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, milp
from scipy.sparse import csr_array, vstack

from june_shade.core.choosing.patterns import TOLERANCE, Array, Plan, Problem, better, keeps, nothing, plan_of

OBJECTIVE_SCALE = 1e3
"""Goals are scaled to this order, so that the solver's absolute gap is far below what is told."""
MOST_CUTS = 50


@dataclass(frozen=True, slots=True)
class Choice:
    """The plan chosen; the least weighted harm that was found, what is proven that none undercuts, whether every goal
    was proven."""

    plan: Plan
    least_harm: float
    bound: float
    optimal: bool


@dataclass(frozen=True, slots=True)
class _Rows:
    """Linear rows of the programme and their upper bounds."""

    matrix: csr_array
    most: Array


class _Programme:
    """The mixed-integer programme of a problem: patterns first, then stops by day."""

    def __init__(self, problem: Problem) -> None:
        self.problem, rows = problem, problem.rows
        self.patterns, self.days = len(rows.tree), problem.days
        self.open_at = self.patterns + np.arange(len(problem.stops) * self.days).reshape(len(problem.stops), self.days)
        self.count = self.patterns + self.open_at.size
        self.pick = self._matrix([(tree, row, 1.0) for row, tree in enumerate(rows.tree)], len(problem.trees))
        self.stop_minutes = np.array([stop.minutes for stop in problem.stops])
        self.rows = [self._open(), *self._limits()]

    def _matrix(self, entries: list[tuple[int, int, float]], count: int) -> csr_array:
        at = np.array([(row, column) for row, column, _ in entries], int).reshape(-1, 2)
        values = np.array([value for *_, value in entries], float)
        return csr_array((values, (at[:, 0], at[:, 1])), shape=(count, self.count))

    def _open(self) -> _Rows:
        """A tree that is visited on a day has its stop open."""
        rows, entries = self.problem.rows, []
        row_of: dict[tuple[int, int], int] = {}
        for pattern, day in zip(*np.nonzero(rows.visits), strict=True):
            tree = int(rows.tree[pattern])
            row = row_of.setdefault((tree, int(day)), len(row_of))
            entries.append((row, int(pattern), 1.0))
        for (tree, day), row in row_of.items():
            entries.append((row, int(self.open_at[self.problem.trees[tree].stop, day]), -1.0))
        return _Rows(self._matrix(entries, len(row_of)), np.zeros(len(row_of)))

    def _limits(self) -> list[_Rows]:
        problem, rows, found = self.problem, self.problem.rows, []
        crew_of = np.array([problem.stops[tree.stop].crew for tree in problem.trees], int)
        for crew, limits in enumerate(problem.minutes):
            own = crew_of[rows.tree] == crew if len(rows.tree) else np.zeros(0, bool)
            for day in np.flatnonzero(np.isfinite(limits)):
                line = np.zeros(self.count)
                line[: self.patterns] = np.where(own, rows.day_minutes[:, day], 0.0)
                for stop, here in enumerate(problem.stops):
                    if here.crew == crew:
                        line[self.open_at[stop, day]] = here.minutes
                found.append(_row(line, float(limits[day])))
        for day in np.flatnonzero(np.isfinite(problem.litres)):
            found.append(_row(self._over(rows.day_litres[:, day]), float(problem.litres[day])))
        for period in problem.periods:
            over = self._over(rows.day_litres[:, list(period.days)].sum(axis=1))
            found.append(_row(over, period.litres))
        return found

    def _over(self, values: Array) -> Array:
        return np.concatenate([values, np.zeros(self.count - self.patterns)])

    def minutes(self) -> Array:
        """Minutes of visits and stops, by column."""
        stops = np.repeat(self.stop_minutes, self.days)
        return np.concatenate([self.problem.rows.minutes, stops])

    def goal(self, values: Array) -> Array:
        """A value of each pattern as a goal.

        values: litres [L], weighted harm or deaths, array (patterns,).
        """
        return self._over(values)

    def cap(self, goal: Array, most: float) -> None:
        """From here on a goal stays at most here."""
        self.rows.append(_row(goal, most))

    def solve(self, goal: Array, seconds: float, good: Callable[[Plan], bool]) -> tuple[Plan | None, float, bool]:
        """The least of a goal: the plan, what is proven of it, whether it is proven to be the least.

        seconds: how long it may take; good: whether a plan, rounded to whole patterns, keeps to all that it must.
        """
        largest = float(np.max(np.abs(goal), initial=0.0)) or 1.0
        scale, cuts = OBJECTIVE_SCALE / largest, list(self.rows)
        for _ in range(MOST_CUTS):
            matrix, most = vstack([row.matrix for row in cuts]), np.concatenate([row.most for row in cuts])
            whole = np.concatenate([np.ones(self.patterns), np.zeros(self.count - self.patterns)])
            ones = np.ones(len(self.problem.trees))
            found = milp(
                scale * goal, integrality=whole, bounds=Bounds(0, 1),
                constraints=[LinearConstraint(self.pick, ones, ones), LinearConstraint(matrix, -np.inf, most)],
                options={"time_limit": max(0.01, seconds), "mip_rel_gap": 0.0},
            )  # fmt: skip
            bound = -math.inf if found.mip_dual_bound is None else float(found.mip_dual_bound) / scale
            if found.x is None:
                return None, bound, False
            plan = plan_of(self.problem, self._chosen(found.x))
            if good(plan):
                return plan, bound, found.status == 0
            cuts.append(self._not_again(plan))  # whole only within the solver's tolerance: not this one
        return None, -math.inf, False

    def _chosen(self, x: Array) -> Array:
        rows = self.problem.rows
        chosen = np.zeros(len(self.problem.trees), int)
        best = np.full(len(chosen), -1.0)
        for row, tree in enumerate(rows.tree):
            if x[row] > best[tree]:
                best[tree], chosen[tree] = x[row], rows.number[row]
        return chosen

    def _not_again(self, plan: Plan) -> _Rows:
        line = np.zeros(self.count)
        line[self.problem.rows.first + plan.chosen] = 1.0
        return _row(line, len(plan.chosen) - 1.0)


def _row(line: Array, most: float) -> _Rows:
    return _Rows(csr_array(line[None, :]), np.array([most]))


def choose(problem: Problem, *, slack: float = 0.0, seconds: float = 60.0, clock: Callable[[], float]) -> Choice:
    """The plan with the fewest weighted deaths, then least weighted harm, then litres, then minutes.

    slack: how much more than the least harm a plan may cost that saves litres, as a share of it; seconds: for all goals
    together; clock: what time it is [s]. Where time runs out the best plan found stands.
    """
    ends = clock() + seconds
    rows, programme = problem.rows, _Programme(problem)
    plan = better(problem, nothing(problem))
    if not len(problem.trees):
        return Choice(plan, 0.0, 0.0, True)
    capped: list[tuple[Callable[[Plan], float], float]] = []
    proven = True

    def good(tried: Plan) -> bool:
        return keeps(problem, tried) and all(of(tried) <= most + 1e-9 for of, most in capped)

    def least(goal: Array, of: Callable[[Plan], float]) -> float:
        """Go for a goal; what is proven of it."""
        nonlocal plan, proven
        found, bound, is_least = programme.solve(goal, ends - clock(), good)
        if found is not None and of(found) < of(plan):
            plan = found
        proven = proven and found is not None and is_least
        return min(bound, of(plan))

    def keep(goal: Array, of: Callable[[Plan], float], most: float) -> None:
        capped.append((of, most))
        programme.cap(goal, most)

    if np.any(rows.deaths > 0):
        goal = programme.goal(rows.deaths)
        least(goal, lambda tried: tried.deaths)
        keep(goal, lambda tried: tried.deaths, plan.deaths + TOLERANCE)
    goal = programme.goal(rows.harm)
    bound = least(goal, lambda tried: tried.harm)
    least_harm = plan.harm
    keep(goal, lambda tried: tried.harm, least_harm * (1.0 + slack) + TOLERANCE)
    goal = programme.goal(rows.litres)
    least(goal, lambda tried: tried.litres)
    keep(goal, lambda tried: tried.litres, plan.litres + TOLERANCE)
    least(programme.minutes(), lambda tried: tried.minutes)
    return Choice(plan, least_harm, max(0.0, bound), proven)
