"""Every change tried at every tree that it suits: the same days gone through as it stands and with it, by the balance.

The season of now is the last 60 measured days and the coming 14; the same days of the last three years give the range.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date
from itertools import pairwise
from typing import Any
from uuid import UUID, uuid5

import numpy as np

from june_shade.core.saving import measures, worth
from june_shade.core.saving.measures import Stands, Try
from june_shade.core.saving.worth import Season
from june_shade.core.soil.in_force import InForce
from june_shade.core.water import delivery, load
from june_shade.core.water import trees as tree_model
from june_shade.core.water.stores import Array
from june_shade.core.weather.series import MEASURED
from june_shade.plans.choosing import groups
from june_shade.plans.describe import describe
from june_shade.plans.mulch.stands import depth_now_m
from june_shade.plans.water import SitePlan, again, days
from june_shade.plans.water import ways as ways_of_water
from june_shade.store.facts import TreeFacts

PAST_DAYS, AHEAD_DAYS, SEASONS_BACK = 60, 14, 3
LEAST_DAYS, MOSTLY_MEASURED = 28, 0.9
"""Fewer measured days say nothing; an earlier year counts if this share of its days was measured."""


@dataclass(frozen=True, slots=True)
class Hands:
    """How a site's crew works: minutes at each tree [min], hoses at once; lines that a box runs for it."""

    handling_min: float
    at_once: float
    by_box: frozenset[UUID] = frozenset()


@dataclass(frozen=True, slots=True)
class Gain:
    """One change at one tree: litres and minutes that it saves a week, by season, that of now first, arrays (seasons,).

    Its share of what the others on its line save along with it is counted in.
    """

    row: TreeFacts
    change: Try
    litres: Array
    minutes: Array


@dataclass(frozen=True, slots=True)
class _Copies:
    """Copies of trees: their rows, positions in the plan, what is lost of their water 0..1; which is changed."""

    rows: list[TreeFacts]
    at: list[int]
    lost: list[float]
    site: Any


def spans(made: SitePlan) -> list[tuple[int, int]]:
    """Seasons to go through, as positions in the known days: that of now, then the same days of earlier years."""
    today = made.known.index(made.today)
    back = again.measured_days(made, PAST_DAYS)
    if back < LEAST_DAYS:
        return []
    first, end = today - back, min(len(made.known), today + AHEAD_DAYS)
    found = [(first, end)]
    for years in range(1, SEASONS_BACK + 1):
        start = made.known.index(_years_before(made.known.dates[first].item(), years))
        last = start + end - first
        if start >= 0 and np.mean(made.known.basis[start:last] == MEASURED) >= MOSTLY_MEASURED:
            found.append((start, last))
    return found


def _years_before(day: date, years: int) -> date:
    return day.replace(year=day.year - years, day=min(day.day, 28) if day.month == 2 else day.day)


def of_site(made: SitePlan, ground: InForce, trees: Sequence[Stands], hands: Hands) -> list[Gain]:
    """What each change saves at each tree of a site where it saves something and thirsts no tree."""
    seasons = spans(made)
    left = [i for i, row in enumerate(made.rows) if row.handed_on is None and made.routine_of(i) is None]
    if not seasons or not left:
        return []
    tries: dict[str, dict[int, Try]] = {}
    for i in left:
        for one in measures.tries(trees[i]):
            tries.setdefault(one.measure, {})[i] = one
    if made.site.water_source == "potable":
        tries[measures.OTHER_WATER] = {i: Try(measures.OTHER_WATER, {}, 0.0) for i in left}
    now = [replace(row, mulch_depth_m=depth_now_m(row, made.today)) for row in made.rows]
    groups = [(name, of, _with_mates(made, of)) for name, of in tries.items()]
    as_is = _Copies([now[i] for i in left], left, [0.0] * len(left), made.site)
    copies = _Stage(made, ground, [as_is, *(_changed(made, now, of, at, name) for name, of, at in groups)], hands)
    walked = [copies.gone_through(span) for span in seasons]
    place = {i: n for n, i in enumerate(left)}
    found: list[Gain] = []
    for k, (name, of, at) in enumerate(groups):
        base = [season[0].of_some([place[i] for i in at]) for season in walked]
        then = [season[k + 1] for season in walked]
        if name == measures.OTHER_WATER:
            found += _all_of_it(made, of, at, base, then)
            continue
        if name == measures.DAWN:  # the plan's own water arrives at dawn: what is lost in the afternoon comes on top
            base, then = then, base
        found += _gains(made, of, at, worth.gains(base, then))
    return found


def _with_mates(made: SitePlan, of: dict[int, Try]) -> list[int]:
    """Positions of trees to try something at, with all that share a line with them."""
    line = made.pouring.line
    if line is None:
        return sorted(of)
    on = {int(line[i]) for i in of if line[i] >= 0}
    return sorted(set(of) | {i for i in range(len(line)) if int(line[i]) in on})


def _changed(made: SitePlan, now: Sequence[TreeFacts], of: dict[int, Try], at: list[int], name: str) -> _Copies:
    """Trees with one thing changed, on lines of their own."""
    rows = []
    for i in at:
        row, change = now[i], of.get(i)
        fields = {} if change is None else dict(change.fields)
        if row.line_id is not None and "line_id" not in fields:
            fields["line_id"] = uuid5(row.line_id, name)
        rows.append(replace(row, **fields))
    site = made.site
    if name == measures.OTHER_WATER:
        site = replace(site, water_source=measures.RECLAIMED, water_ec_ds_m=None)
    return _Copies(rows, at, [of[i].lost if i in of else 0.0 for i in at], site)


class _Stage:
    """All copies of a site's trees together, ready to go through a season at once."""

    def __init__(self, made: SitePlan, ground: InForce, copies: Sequence[_Copies], hands: Hands) -> None:
        self._made, self._hands = made, hands
        self._rows = [row for one in copies for row in one.rows]
        self._ends = np.cumsum([0] + [len(one.rows) for one in copies])
        sites = [one.site for one in copies for _ in one.rows]
        described = [describe(row, site, ground, made.today) for row, site in zip(self._rows, sites, strict=True)]
        self._how = [one.how for one in described]
        self._trees = tree_model.build([one.spec for one in described])
        era = ways_of_water.eras_of(made.site, self._rows, described, {}, made.known, ground.soil.intake_mm_h)[-1]
        lost = np.array([part for one in copies for part in one.lost])
        self._era = replace(era, pouring=replace(era.pouring, efficiency=era.pouring.efficiency * (1.0 - lost)))
        self._at = np.array([i for one in copies for i in one.at])

    def gone_through(self, span: tuple[int, int]) -> list[Season]:
        """What each of the copies came to over these positions of the known days."""
        made, (first, end) = self._made, span
        cut = made.known.days(first, end)
        start = cut.dates[0].item()
        cut = days.with_days_off(cut, made.site.working_days, start)
        leaf, mulch = days.leaf_and_mulch([replace(row, mulch_measured_on=start) for row in self._rows], cut, {}, {})
        drinks = np.broadcast_to(made.course.thirst[made.course.today], (len(made.rows),))[self._at]
        found = again.over(
            cut, leaf, mulch, self._trees, self._era, made.plan.now.root_radius_m[self._at],
            np.broadcast_to(drinks, leaf.shape),
        )  # fmt: skip
        ks = np.where(leaf > 0, found.ks, 1.0)
        in_leaf = np.maximum(np.sum(leaf > 0, axis=0), 1)
        mean = 1.0 - np.sum(1.0 - ks, axis=0) / in_leaf
        whole = Season(found.poured_l, self._minutes(found.gross_l), mean, np.min(ks, axis=0), len(cut))
        return [whole.of_some(range(a, b)) for a, b in pairwise(self._ends)]

    def _minutes(self, gross_l: Array) -> Array:
        """Minutes of work of all visits [min], array (trees,); one turn at a valve for all of its trees."""
        line = self._era.pouring.line
        of = np.full(len(self._rows), -1) if line is None else line
        shared = load.shared_by(of, groups.by_box(self._rows, self._how, self._hands.by_box))
        alone = np.array([load.runs_alone(how.method, bool(n >= 0)) for how, n in zip(self._how, of, strict=True)])
        flow = np.array([delivery.flow_l_per_h(how) for how in self._how])
        each = load.visit_min(alone, 60.0 * gross_l / flow, self._hands.handling_min, self._hands.at_once) / shared
        minutes: Array = np.sum(np.where(gross_l > 0, each, 0.0), axis=0)
        return minutes


def _gains(made: SitePlan, of: dict[int, Try], at: list[int], gains: worth.Gains) -> list[Gain]:
    """Each tree's own, with its share of what the others on its line save along with it."""
    line = np.full(len(made.rows), -1) if made.pouring.line is None else made.pouring.line
    place = {i: n for n, i in enumerate(at)}
    found = []
    for i, change in of.items():
        own = [place[i]]
        parts = 1.0
        if line[i] >= 0:
            own = [place[j] for j in at if line[j] == line[i]]
            parts = float(sum(1 for j in of if line[j] == line[i]))
        if np.all(gains.holds[own]):
            litres = np.sum(gains.litres[:, own], axis=1) / parts
            if litres[0] >= worth.LEAST_SAVED_L:
                found.append(Gain(made.rows[i], change, litres, np.sum(gains.minutes[:, own], axis=1) / parts))
    return found


def _all_of_it(
    made: SitePlan, of: dict[int, Try], at: list[int], base: Sequence[Season], then: Sequence[Season]
) -> list[Gain]:
    """Another source saves all of the mains' water, though more of it may be needed to wash salts down."""
    gains = worth.gains(base, then)
    weekly = np.array([worth.WEEK_DAYS / one.days * one.litres for one in base])
    return [
        Gain(made.rows[i], of[i], weekly[:, n], gains.minutes[:, n])
        for n, i in enumerate(at) if i in of and weekly[0, n] >= worth.LEAST_SAVED_L
    ]  # fmt: skip


def as_it_was(
    made: SitePlan, ground: InForce, row: TreeFacts, i: int, span: tuple[int, int], hands: Hands
) -> float:  # fmt: skip
    """Litres that tree i would have taken over these days [L], had it stood as this row says."""
    stage = _Stage(made, ground, [_Copies([row], [i], [0.0], made.site)], hands)
    return float(stage.gone_through(span)[0].litres[0])
