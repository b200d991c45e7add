"""Trees with patterns of visits, limits of days and periods, and what a choice of one pattern a tree comes to.

A visit belongs to a tree's stop; a stop takes its own minutes once on each day on which any of its trees is visited.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

Array = np.ndarray
TOLERANCE = 1e-6
"""Limits hold, and goals are kept, so closely."""
MOST_HARM = 1e4
"""Days of harm that a death outweighs wherever one figure is made of both."""


@dataclass(frozen=True, slots=True)
class Pattern:
    """A set of visits to one tree: their days from 0 in order, litres [L] and minutes [min] of each, what it costs the
    tree in harm, whether the tree may die of it."""

    days: tuple[int, ...]
    litres: tuple[float, ...]
    minutes: tuple[float, ...]
    harm: float
    dies: bool = False


@dataclass(frozen=True, slots=True)
class Stop:
    """Where trees stand: set-up and way once a day [min], the crew that it belongs to by position."""

    minutes: float
    crew: int = 0


@dataclass(frozen=True, slots=True)
class Tree:
    """A tree: its stop by position, its weight, its patterns, the empty one among them."""

    stop: int
    weight: float
    patterns: tuple[Pattern, ...]


@dataclass(frozen=True, slots=True)
class Period:
    """Days that share litres [L]; trees: whose water counts, by position, None = everyone's."""

    days: tuple[int, ...]
    litres: float
    trees: tuple[int, ...] | None = None


@dataclass(frozen=True, slots=True)
class Closing:
    """Hours of a day that are closed to some trees: these take so many minutes at most then [min], with their stops.

    trees, stops: by position.
    """

    trees: tuple[int, ...]
    stops: tuple[int, ...]
    day: int
    minutes: float


@dataclass(frozen=True, slots=True)
class Rows:
    """All patterns of all trees one after the other, arrays (patterns,): tree by position and its own number, weighted
    harm and deaths; litres [L] and minutes [min] of each day, arrays (patterns, days), visits: whether.
    first: position of each tree's first pattern, empty: number of its pattern without visits, arrays (trees,)."""

    tree: Array
    number: Array
    harm: Array
    deaths: Array
    visits: Array
    day_litres: Array
    day_minutes: Array
    first: Array
    empty: Array

    @classmethod
    def by_tree(
        cls, tree: Array, harm: Array, deaths: Array, visits: Array, day_litres: Array, day_minutes: Array
    ) -> "Rows":
        """Patterns in order of their trees, each of which has one without visits.

        tree: by position; harm [days], deaths: weighted; visits: whether on each day; day_litres [L], day_minutes
        [min]: of each day.
        """
        count = int(tree[-1]) + 1 if len(tree) else 0
        first = np.searchsorted(tree, np.arange(count))
        none = np.flatnonzero(~np.any(visits, axis=1))[::-1]
        empty = np.zeros(count, int)
        empty[tree[none]] = none - first[tree[none]]
        number = np.arange(len(tree)) - first[tree] if count else np.zeros(0, int)
        return cls(tree, number, harm, deaths, visits, day_litres, day_minutes, first, empty)

    @property
    def litres(self) -> Array:
        """Litres of each pattern [L]."""
        total: Array = self.day_litres.sum(axis=1)
        return total

    @property
    def minutes(self) -> Array:
        """Minutes of each pattern's visits [min]."""
        total: Array = self.day_minutes.sum(axis=1)
        return total

    def some(self, kept: Array) -> "Rows":
        """Some of the patterns, among them each tree's one without visits.

        kept: which, array (patterns,) of whether.
        """
        return Rows.by_tree(
            self.tree[kept], self.harm[kept], self.deaths[kept], self.visits[kept], self.day_litres[kept],
            self.day_minutes[kept],
        )  # fmt: skip


@dataclass(frozen=True, slots=True)
class Problem:
    """What is to be chosen.

    stop_minutes: of each stop on a day on which it is visited; crew_of: its crew on that day; arrays (stops, days).
    stop_of: the stop of each tree. minutes: of each crew and day, array (crews, days); litres: of each day,
    array (days,); infinite = no limit. periods: days that share litres; closings: hours closed to some trees.
    """

    stop_minutes: Array
    crew_of: Array
    stop_of: Array
    rows: Rows
    minutes: Array
    litres: Array
    periods: tuple[Period, ...] = ()
    closings: tuple[Closing, ...] = ()

    @classmethod
    def of(
        cls, stops: Sequence[Stop], trees: Sequence[Tree], minutes: Array, litres: Array,
        periods: tuple[Period, ...] = (),
    ) -> "Problem":  # fmt: skip
        """A problem of single patterns. minutes (crews, days), litres (days,): limits, infinite = none."""
        days = len(litres)
        every = [(t, tree.weight, p) for t, tree in enumerate(trees) for p in tree.patterns]
        visits, of_litres, of_minutes = (np.zeros((len(every), days)) for _ in range(3))
        for row, (_, _, pattern) in enumerate(every):
            on = list(pattern.days)
            visits[row, on], of_litres[row, on], of_minutes[row, on] = 1.0, pattern.litres, pattern.minutes
        rows = Rows.by_tree(
            np.array([t for t, *_ in every], int), np.array([weight * p.harm for _, weight, p in every], float),
            np.array([weight * p.dies for _, weight, p in every], float), visits > 0, of_litres, of_minutes,
        )  # fmt: skip
        once = np.array([stop.minutes for stop in stops], float)
        return cls(
            np.repeat(once[:, None], days, axis=1),
            np.repeat(np.array([stop.crew for stop in stops], int)[:, None], days, axis=1),
            np.array([tree.stop for tree in trees], int), rows, minutes, litres, periods,
        )  # fmt: skip

    @property
    def days(self) -> int:
        """How many days there are."""
        return len(self.litres)

    @property
    def trees(self) -> int:
        """How many trees there are."""
        return len(self.stop_of)


@dataclass(frozen=True, slots=True)
class Plan:
    """One pattern a tree, by its number, array (trees,), and what that comes to: weighted deaths and harm, litres and
    minutes in all and by day; open_stops: which stops are visited on each day, array (stops, days)."""

    chosen: Array
    deaths: float
    harm: float
    litres: float
    minutes: float
    day_litres: Array
    crew_minutes: Array
    open_stops: Array


def plan_of(problem: Problem, chosen: Array) -> Plan:
    """What a choice comes to, reckoned from the patterns themselves. chosen: pattern of each tree, array (trees,)."""
    rows = problem.rows
    at = rows.first + chosen
    opened = np.zeros(problem.stop_minutes.shape, bool)
    np.logical_or.at(opened, problem.stop_of, rows.visits[at])
    minutes = np.zeros(problem.minutes.shape)
    day = np.arange(problem.days)
    np.add.at(minutes, (problem.crew_of[problem.stop_of], day), rows.day_minutes[at])
    np.add.at(minutes, (problem.crew_of, day), problem.stop_minutes * opened)
    litres = rows.day_litres[at].sum(axis=0)
    return Plan(
        chosen, float(np.sum(rows.deaths[at])), float(np.sum(rows.harm[at])), float(litres.sum()),
        float(minutes.sum()), litres, minutes, opened,
    )  # fmt: skip


def keeps(problem: Problem, plan: Plan) -> bool:
    """Whether a plan keeps to every limit."""
    return bool(
        np.all(plan.crew_minutes <= problem.minutes + TOLERANCE)
        and np.all(plan.day_litres <= problem.litres + TOLERANCE)
        and all(_litres(problem, plan, one) <= one.litres + TOLERANCE for one in problem.periods)
        and all(_minutes(problem, plan, one) <= one.minutes + TOLERANCE for one in problem.closings)
    )


def _litres(problem: Problem, plan: Plan, period: Period) -> float:
    at = problem.rows.first + plan.chosen
    own = at if period.trees is None else at[list(period.trees)]
    return float(problem.rows.day_litres[np.ix_(own, list(period.days))].sum())


def _minutes(problem: Problem, plan: Plan, closing: Closing) -> float:
    at, stops = (problem.rows.first + plan.chosen)[list(closing.trees)], list(closing.stops)
    own = float(problem.rows.day_minutes[at, closing.day].sum())
    return own + float(np.sum((problem.stop_minutes * plan.open_stops)[stops, closing.day]))


def nothing(problem: Problem) -> Plan:
    """The plan without a visit."""
    return plan_of(problem, problem.rows.empty)


class _Room:
    """What is left of the limits while a plan is built tree by tree."""

    def __init__(self, problem: Problem, plan: Plan) -> None:
        self.problem, rows = problem, problem.rows
        self.at = rows.first + plan.chosen
        self.visitors = np.zeros(problem.stop_minutes.shape, int)
        np.add.at(self.visitors, problem.stop_of, rows.visits[self.at].astype(int))
        self.minutes = problem.minutes - plan.crew_minutes
        self.litres = problem.litres - plan.day_litres
        self.periods = np.array([one.litres - _litres(problem, plan, one) for one in problem.periods])
        self.shares = np.zeros((len(problem.periods), problem.trees), bool)
        for n, one in enumerate(problem.periods):
            self.shares[n, slice(None) if one.trees is None else list(one.trees)] = True
        self.within = np.zeros((len(problem.periods), problem.days))
        for n, one in enumerate(problem.periods):
            self.within[n, list(one.days)] = 1.0
        self.closings = np.array([one.minutes - _minutes(problem, plan, one) for one in problem.closings])
        self.closed = np.zeros((len(problem.closings), problem.trees), bool)
        self.closed_stops = np.zeros((len(problem.closings), len(problem.crew_of)), bool)
        for n, closing in enumerate(problem.closings):
            self.closed[n, list(closing.trees)] = True
            self.closed_stops[n, list(closing.stops)] = True
        self.closed_on = np.array([one.day for one in problem.closings], int)

    def fits(self, rows: Array) -> Array:
        """Whether its tree can follow each of these patterns instead of its own, array (rows,). rows: positions."""
        found = np.ones(len(rows), bool)
        for left in self._left(rows)[:4]:
            found &= np.all(left >= -TOLERANCE, axis=1)
        return found

    def take(self, row: int) -> None:
        """Have a tree follow a pattern instead of its own."""
        tree = int(self.problem.rows.tree[row])
        stop = int(self.problem.stop_of[tree])
        self.litres, self.periods, minutes, self.closings, visitors = (
            left[0] for left in self._left(np.array([row]))
        )  # fmt: skip
        self.minutes[self.problem.crew_of[stop], np.arange(self.problem.days)] = minutes
        self.visitors[stop], self.at[tree] = visitors, row

    def _left(self, row: Array) -> tuple[Array, Array, Array, Array, Array]:
        """What each of these patterns would leave of litres, periods, minutes of its crew, closings; visitors of its
        stop by day; arrays (rows, ...)."""
        problem, rows = self.problem, self.problem.rows
        tree = rows.tree[row]
        old, stop = self.at[tree], problem.stop_of[tree]
        litres = rows.day_litres[row] - rows.day_litres[old]
        visitors = self.visitors[stop] - rows.visits[old] + rows.visits[row]
        opens = ((visitors > 0).astype(float) - (self.visitors[stop] > 0)) * problem.stop_minutes[stop]
        own = rows.day_minutes[row] - rows.day_minutes[old]
        crew = problem.crew_of[stop], np.arange(problem.days)
        closed = self.closed[:, tree].T * own[:, self.closed_on]
        closed = closed + self.closed_stops[:, stop].T * opens[:, self.closed_on]
        return (
            self.litres - litres, self.periods - self.shares[:, tree].T * (litres @ self.within.T),
            self.minutes[crew] - own - opens, self.closings - closed, visitors,
        )  # fmt: skip


def fitted(problem: Problem, plan: Plan) -> Plan:
    """The plan with visits less until it keeps to every limit: what costs least for what it frees leaves first."""
    rows = problem.rows
    while not keeps(problem, plan):
        at = rows.first + plan.chosen
        now = at[rows.tree]
        over = (plan.crew_minutes > problem.minutes + TOLERANCE)[problem.crew_of, np.arange(problem.days)]
        over = over[problem.stop_of[rows.tree]] | (plan.day_litres > problem.litres + TOLERANCE)
        for one in problem.periods:
            if _litres(problem, plan, one) > one.litres + TOLERANCE:
                over |= _within(problem, one.trees, one.days)
        for closing in problem.closings:
            if _minutes(problem, plan, closing) > closing.minutes + TOLERANCE:
                over |= _within(problem, closing.trees, (closing.day,))
        less = np.sum(rows.visits[now] & over & ~rows.visits, axis=1)
        fewer = (less > 0) & ~np.any(rows.visits & ~rows.visits[now], axis=1)
        if not np.any(fewer):
            return nothing(problem)
        costs = np.where(fewer, (rows.deaths - rows.deaths[now]) * MOST_HARM + (rows.harm - rows.harm[now]), np.inf)
        best = int(np.argmin(costs / np.maximum(1.0, rows.minutes[now] - rows.minutes)))
        chosen = plan.chosen.copy()
        chosen[rows.tree[best]] = rows.number[best]
        plan = plan_of(problem, chosen)
    return plan


def _within(problem: Problem, trees: Sequence[int] | None, days: Sequence[int]) -> Array:
    """Which days of which patterns are meant, array (patterns, days)."""
    own = np.ones(len(problem.rows.tree), bool) if trees is None else np.isin(problem.rows.tree, trees)
    return own[:, None] & np.isin(np.arange(problem.days), days)


MOST_PASSES, TRIED_AT_ONCE = 30, 500
"""Patterns are gone through so often at most, so many at once."""


def better(problem: Problem, plan: Plan) -> Plan:
    """A plan improved tree by tree for as long as that saves anything: the most deaths, then harm, a minute first."""
    rows, room = problem.rows, _Room(problem, plan)
    for _ in range(MOST_PASSES):
        now = room.at[rows.tree]
        deaths, harm = rows.deaths[now] - rows.deaths, rows.harm[now] - rows.harm
        costs = 1.0 + np.maximum(0.0, rows.minutes - rows.minutes[now])
        worth = (deaths > TOLERANCE) | ((deaths > -TOLERANCE) & (harm > TOLERANCE))
        order = np.lexsort((-harm / costs, -deaths))
        if not _taken(room, order[worth[order]], lambda row: True):
            break
    return plan_of(problem, room.at - rows.first)


def thriftier(problem: Problem, plan: Plan, most_harm: float) -> Plan:
    """A plan that does with fewer litres and minutes tree by tree, no more deaths, and no more weighted harm in all.

    most_harm: weighted harm that the plan may cost [days].
    """
    rows, room = problem.rows, _Room(problem, plan)
    left = most_harm - plan.harm
    for _ in range(MOST_PASSES):
        now = room.at[rows.tree]
        saved, harm = rows.litres[now] - rows.litres, rows.harm - rows.harm[now]
        worth = (saved > TOLERANCE) & (rows.deaths <= rows.deaths[now] + TOLERANCE) & (harm <= left)
        order = np.lexsort((-saved / np.maximum(harm, TOLERANCE),))

        def within(row: int) -> bool:
            nonlocal left
            more = float(rows.harm[row] - rows.harm[room.at[rows.tree[row]]])
            if more > left:
                return False
            left -= more
            return True

        if not _taken(room, order[worth[order]], within):
            break
    return plan_of(problem, room.at - rows.first)


def _taken(room: "_Room", order: Array, also: Callable[[int], bool]) -> bool:
    """Go through patterns in this order, each tree once; whether any was taken."""
    moved = np.zeros(room.problem.trees, bool)
    for first in range(0, len(order), TRIED_AT_ONCE):
        some = order[first : first + TRIED_AT_ONCE]
        for row in some[room.fits(some)]:
            tree = room.problem.rows.tree[row]
            if not moved[tree] and room.fits(np.array([row]))[0] and also(int(row)):
                room.take(int(row))
                moved[tree] = True
    return bool(np.any(moved))


def names(of: Sequence[str], which: Array) -> list[str]:
    """Names of those that are marked.

    which: array (names,) of whether.
    """
    return [name for name, on in zip(of, which, strict=True) if on]
