"""Trees with patterns of visits, limits of days and periods, and what a choice of one pattern a tree comes to.

A visit belongs to a tree's stop; a stop takes its own minutes once on each day on which any of its trees is visited.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

Array = np.ndarray
TOLERANCE = 1e-6
"""Limits hold, and goals are kept, so closely."""


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

    @property
    def empty(self) -> int:
        """Position of the pattern without visits."""
        return next(n for n, pattern in enumerate(self.patterns) if not pattern.days)


@dataclass(frozen=True, slots=True)
class Period:
    """Days that share litres [L]."""

    days: tuple[int, ...]
    litres: float


@dataclass(frozen=True)
class Problem:
    """What is to be chosen. minutes: of each crew and day, array (crews, days); litres: of each day, array (days,);
    infinite = no limit. periods: days that share litres."""

    stops: tuple[Stop, ...]
    trees: tuple[Tree, ...]
    minutes: Array
    litres: Array
    periods: tuple[Period, ...] = ()

    @property
    def days(self) -> int:
        """How many days there are."""
        return len(self.litres)

    @cached_property
    def rows(self) -> "Rows":
        """All patterns of all trees, one after the other."""
        return Rows.of(self)


@dataclass(frozen=True, slots=True)
class Rows:
    """All patterns one after the other, arrays (patterns,): tree and pattern by position, weighted harm and deaths,
    litres and minutes in all; visits of each day, arrays (patterns, days): whether, litres [L], minutes [min].
    first: position of each tree's first pattern, array (trees,)."""

    tree: Array
    number: Array
    harm: Array
    deaths: Array
    litres: Array
    minutes: Array
    visits: Array
    day_litres: Array
    day_minutes: Array
    first: Array

    @classmethod
    def of(cls, problem: Problem) -> "Rows":
        """The patterns of a problem."""
        every = [(t, n, tree, p) for t, tree in enumerate(problem.trees) for n, p in enumerate(tree.patterns)]
        visits, litres, minutes = (np.zeros((len(every), problem.days)) for _ in range(3))
        for row, (_, _, _, pattern) in enumerate(every):
            days = list(pattern.days)
            visits[row, days], litres[row, days], minutes[row, days] = 1.0, pattern.litres, pattern.minutes
        counts = [len(tree.patterns) for tree in problem.trees]
        return cls(
            np.array([t for t, *_ in every], int), np.array([n for _, n, *_ in every], int),
            np.array([tree.weight * p.harm for _, _, tree, p in every], float),
            np.array([tree.weight * p.dies for _, _, tree, p in every], float),
            litres.sum(axis=1), minutes.sum(axis=1), visits, litres, minutes,
            np.concatenate([[0], np.cumsum(counts)[:-1]]).astype(int) if counts else np.zeros(0, int),
        )  # fmt: skip


@dataclass(frozen=True, slots=True)
class Plan:
    """One pattern a tree, by position, array (trees,), and what that comes to: weighted deaths and harm, litres and
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
    rows, crews = problem.rows, len(problem.minutes)
    at = rows.first + chosen
    opened = np.zeros((len(problem.stops), problem.days), bool)
    minutes = np.zeros((crews, problem.days))
    for tree, row in zip(problem.trees, at, strict=True):
        opened[tree.stop] |= rows.visits[row] > 0
        minutes[problem.stops[tree.stop].crew] += rows.day_minutes[row]
    for stop, on in zip(problem.stops, opened, strict=True):
        minutes[stop.crew] += stop.minutes * on
    litres = rows.day_litres[at].sum(axis=0) if len(at) else np.zeros(problem.days)
    return Plan(
        chosen, float(np.sum(rows.deaths[at])), float(np.sum(rows.harm[at])), float(litres.sum()),
        float(minutes.sum()), litres, minutes, opened,
    )  # fmt: skip


def keeps(problem: Problem, plan: Plan) -> bool:
    """Whether a plan keeps to every limit."""
    return bool(
        np.all(plan.crew_minutes <= problem.minutes + TOLERANCE)
        and np.all(plan.day_litres <= problem.litres + TOLERANCE)
        and all(plan.day_litres[list(period.days)].sum() <= period.litres + TOLERANCE for period in problem.periods)
    )


def nothing(problem: Problem) -> Plan:
    """The plan without a visit."""
    return plan_of(problem, np.array([tree.empty for tree in problem.trees], int))


def better(problem: Problem, plan: Plan) -> Plan:
    """A plan improved tree by tree for as long as that saves anything: the most deaths, then harm, a minute first."""
    rows = problem.rows
    for _ in range(len(problem.trees)):
        now = rows.first + plan.chosen
        saves = np.stack((rows.deaths[now[rows.tree]] - rows.deaths, rows.harm[now[rows.tree]] - rows.harm))
        costs = 1.0 + np.maximum(0.0, rows.minutes - rows.minutes[now[rows.tree]])
        order = np.lexsort((-saves[1] / costs, -saves[0]))
        found = None
        for row in order:
            if saves[0, row] < 0 or (saves[0, row] <= TOLERANCE and saves[1, row] <= TOLERANCE):
                break
            chosen = plan.chosen.copy()
            chosen[rows.tree[row]] = rows.number[row]
            tried = plan_of(problem, chosen)
            if keeps(problem, tried):
                found = tried
                break
        if found is None:
            return plan
        plan = found
    return plan


def names(of: Sequence[str], which: Array) -> list[str]:
    """Names of those that are marked.

    which: array (names,) of whether.
    """
    return [name for name, on in zip(of, which, strict=True) if on]
