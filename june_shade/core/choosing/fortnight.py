"""The plan of a fortnight for all crews: patterns by the balance, more of them where a choice wants them, one choice.

Promised visits cost something to move. Pins that can be kept are kept before anything else. What shares neither a crew
nor litres is planned apart.
"""

import itertools
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from typing import TypeVar

import numpy as np

from june_shade.core.choosing import apart, board, offered, offers, search
from june_shade.core.choosing.apart import Part
from june_shade.core.choosing.choose import Choice, choose, liked
from june_shade.core.choosing.offered import PIN_FIRST, PROMISE_HARM, PROMISED_DAYS
from june_shade.core.choosing.offers import PLAN_DAYS, Group, Hands, Limits, Offers, Plain, Visits
from june_shade.core.choosing.outcomes import OfGroup, of_visits
from june_shade.core.choosing.patterns import Array, Plan, Problem, fitted, keeps, plan_of
from june_shade.core.choosing.spells import Spells, spells

T = TypeVar("T")
SLACK, GAP = 0.02, 0.01
SLACK_RANGE = (0.0, 0.2)
"""How much more than the least harm a plan may cost that saves water, and what that can be, shares."""
STAYS_HARM = 0.02
"""In the search each visit that stays where the standing plan has it counts as so much less harm, so that a small
change moves few (calibrated)."""
OUTLOOK_FROM = 7
"""From this day on the plan is an outlook."""
SHARE_FOR_MORE = 0.25
"""Of the time so much may go into looking for more patterns."""
ROUNDS_OF_MORE = 2
SHARE_FOR_SEARCH, OF_A_HURRY = 0.4, 0.6
"""Of the time so much may go into the search at most, and where there is little time."""
ROUNDS_A_UNIT, ROUNDS_OF_SKETCH, LEAST_ROUNDS = 120, 8, 400
"""So often the search takes a plan apart, by what there is to be watered: for a plan, for a sketch, at least."""
DEATH_COUNTS = 100.0
"""Days of harm that a death counts in the search: so many that harm hardly ever outweighs one."""
UNHURRIED_S_A_UNIT = 0.04
"""With less time than that for all there is to be watered [s], only patterns near what the search found are offered."""
LEAST_SECONDS = 0.3
"""So long the choice of a part may take, however late it is."""


@dataclass(frozen=True, slots=True)
class Fortnight:
    """The plan chosen: by group; what was proven; minutes of crews by day, array (crews, days); stops visited, array
    (stops, days); pins that could not be kept."""

    groups: tuple[OfGroup, ...]
    choice: Choice
    crew_minutes: Array
    open_stops: Array
    pins_missed: int


@dataclass(frozen=True, slots=True)
class Prepared:
    """What all plans for the same groups and hands begin with: the plain plan and the spells of each group."""

    plains: tuple[Plain, ...]
    spells: tuple[Spells, ...]


def prepared(groups: Sequence[Group], hands: Hands) -> Prepared:
    """The groups gone through, whatever their stops take."""
    with ThreadPoolExecutor(apart.at_once(len(groups))) as pool:
        plains = tuple(pool.map(offers.plain, groups))
        return Prepared(plains, tuple(pool.map(spells, groups, plains, itertools.repeat(hands))))


@dataclass(frozen=True, slots=True)
class _Asked:
    """What is planned for, by group: stop of each tree, arrays (trees,); visits of the plan that stands, and others to
    begin with, as shares of the refill, arrays (days, trees); how it goes by the plain plan and by spells."""

    groups: Sequence[Group]
    stops: Sequence[Array]
    limits: Limits
    before: Sequence[Array]
    start: Sequence[Array] | None
    ready: Prepared

    def of(self, part: Part) -> "_Asked":
        """The same for a part."""
        return _Asked(
            part.of(self.groups), part.at_stops(self.stops), part.limits(self.limits), part.of(self.before),
            None if self.start is None else part.of(self.start),
            Prepared(tuple(part.of(self.ready.plains)), tuple(part.of(self.ready.spells))),
        )  # fmt: skip

    def each(self, seconds: float, do: Callable[[Part, float], T], clock: Callable[[], float]) -> list[tuple[Part, T]]:
        """What is done with each of its parts, in so many seconds together. clock: what time it is [s]."""
        sizes = [len(one.units) for one in self.groups]
        return apart.each(apart.parts(self.stops, self.limits), sizes, seconds, do, clock=clock)


def sketched(
    groups: Sequence[Group], stops: Sequence[Array], limits: Limits, before: Sequence[Array],
    start: Sequence[Array], ready: Prepared, *, seconds: float, clock: Callable[[], float],
) -> tuple[OfGroup, ...]:  # fmt: skip
    """A good plan in little time, by the search alone: to see by what stops take on its days.

    stops, before, start, seconds, clock: as of `plan`, the seconds for all of it.
    """
    asked = _Asked(groups, stops, limits, before, start, ready)

    def sketch(part: Part, some: float) -> list[OfGroup]:
        own = asked.of(part)
        days = _searched(own, ROUNDS_OF_SKETCH, some, clock)
        shares = _of_trees(own.groups, _whole(own.groups, own.ready.plains, days))
        return [
            of_visits(group, of_plain, limits.hands, share)
            for group, of_plain, share in zip(own.groups, own.ready.plains, shares, strict=True)
        ]

    return tuple(_by_group(asked.each(seconds, sketch, clock)))


def plan(
    groups: Sequence[Group], stops: Sequence[Array], limits: Limits, before: Sequence[Array], *,
    start: Sequence[Array] | None = None, ready: Prepared | None = None, seconds: float, slack: float = SLACK,
    gap: float = GAP, clock: Callable[[], float],
) -> Fortnight:  # fmt: skip
    """The plan of a fortnight.

    stops: stop of each tree of a group by position, arrays (trees,); before: visits that the plan has which stands, as
    shares of the refill, arrays (days, trees): the first of them are promised, and the choice begins with them; start:
    others that it begins with too and the search alone, None = none; ready: of these groups, where it is there; slack,
    gap: as of `choose`, shares; seconds: for all of it; clock: what time it is [s].
    """
    ends = clock() + seconds
    asked = _Asked(groups, stops, limits, before, start, ready or prepared(groups, limits.hands))
    return _joined(
        asked, asked.each(ends - clock(), lambda part, some: _planned(asked.of(part), slack, gap, some, clock), clock)
    )


def _by_group(found: Sequence[tuple[Part, Sequence[T]]]) -> list[T]:
    """What there is for each group, in order. found: of parts, by their groups."""
    every = {int(n): one for part, of in found for n, one in zip(part.groups, of, strict=True)}
    return [every[n] for n in range(len(every))]


def _joined(asked: _Asked, found: Sequence[tuple[Part, Fortnight]]) -> Fortnight:
    """The plans of all parts as one."""
    opened = np.zeros(asked.limits.stop_minutes.shape, bool)
    crew_minutes, day_litres = np.zeros(asked.limits.hands.minutes.shape), np.zeros(PLAN_DAYS)
    chosen = []
    for part, of in found:
        opened[part.stops] = of.open_stops
        crew_minutes, day_litres = crew_minutes + of.crew_minutes, day_litres + of.choice.plan.day_litres
        ends = np.cumsum([len(one.units) for one in part.of(asked.groups)])
        chosen.append((part, np.split(of.choice.plan.chosen, ends[:-1])))
    choices = [of.choice for _, of in found]
    plans = [one.plan for one in choices]
    whole = Plan(
        np.concatenate([np.zeros(0, int), *_by_group(chosen)]),
        sum(one.deaths for one in plans), sum(one.harm for one in plans), sum(one.litres for one in plans),
        sum(one.minutes for one in plans), day_litres, crew_minutes, opened,
    )  # fmt: skip
    choice = Choice(
        whole, sum(one.least_harm for one in choices), sum(one.bound for one in choices),
        all(one.optimal for one in choices),
    )  # fmt: skip
    missed = sum(of.pins_missed for _, of in found)
    told = _by_group([(part, of.groups) for part, of in found])
    return Fortnight(tuple(told), choice, crew_minutes, opened, missed)


def _planned(asked: _Asked, slack: float, gap: float, seconds: float, clock: Callable[[], float]) -> Fortnight:
    """The plan of a part; where the plain plan keeps to all limits it is taken.

    slack, gap: shares; seconds: for all of it; clock: what time it is [s].
    """
    begins, hands, plains = clock(), asked.limits.hands, asked.ready.plains
    wanted = [
        _offers(asked, n, [{(), offered.visits_of(one, 1.0)} for one in _wanted(group)])
        for n, group in enumerate(asked.groups)
    ]
    problem = _problem(asked, wanted)
    own = offered.plain_choice(problem, np.concatenate([of.plain for of in wanted]))
    if own is not None and keeps(problem, plan_of(problem, own)):
        return _told(asked, wanted, Choice(plan_of(problem, own), 0.0, 0.0, True))
    hurried = seconds < UNHURRIED_S_A_UNIT * sum(len(group.units) for group in asked.groups)
    searched = _searched(asked, ROUNDS_A_UNIT, (OF_A_HURRY if hurried else SHARE_FOR_SEARCH) * seconds, clock)
    starts = [_of_units(asked.groups, asked.before), _whole(asked.groups, plains, searched)]
    if asked.start is not None:
        starts.append(_of_units(asked.groups, asked.start))
    some = [
        _offers(asked, n, [
            offers.first_offers(np.flatnonzero(of_plan).tolist(), few=hurried)
            | {offered.visits_of(of[n][u], offers.whole_share(group, plains[n], on)) for of in starts}
            | board.with_one_less(searched[n][u])
            for u, (on, of_plan) in enumerate(zip(group.units, _wanted(group), strict=True))
        ])
        for n, group in enumerate(asked.groups)
    ]  # fmt: skip
    problem = _problem(asked, some)
    for _ in range(ROUNDS_OF_MORE):
        if clock() - begins > SHARE_FOR_MORE * seconds:
            break
        more = offered.more_of(asked.groups, plains, hands, some, liked(problem, seconds=seconds * SHARE_FOR_MORE))
        grown = [offers.joined(old, new) if len(new) else old for old, new in zip(some, more, strict=True)]
        if sum(map(len, grown)) == sum(map(len, some)):
            break
        some = grown
        problem = _problem(asked, some)
    left = max(LEAST_SECONDS, seconds - (clock() - begins))
    share = np.concatenate([of.share for of in some])
    first = [offered.likest(problem.rows, share, np.concatenate(of)) for of in starts]
    begun = [fitted(problem, plan_of(problem, start)).chosen for start in first]
    return _told(asked, some, choose(problem, begun, slack=slack, gap=gap, seconds=left, clock=clock))


def _wanted(group: Group) -> list[Array]:
    """On which days the plain plan visits each unit, arrays (days,)."""
    return [np.any(group.wanted[:, on], axis=1) for on in group.units]


def _offers(asked: _Asked, number: int, sets: Sequence[set[Visits]]) -> Offers:
    """Patterns of a group by position. sets: of each unit."""
    return offers.offers(asked.groups[number], asked.ready.plains[number], asked.limits.hands, sets)


def _problem(asked: _Asked, some: Sequence[Offers]) -> Problem:
    return offered.problem_of(asked.groups, asked.stops, asked.limits, asked.before, some)


def _told(asked: _Asked, some: Sequence[Offers], choice: Choice) -> Fortnight:
    """The plan by trees. some: what was offered."""
    told, past, missed = [], 0, 0.0
    for group, of_plain, of in zip(asked.groups, asked.ready.plains, some, strict=True):
        own = choice.plan.chosen[past : past + len(group.units)]
        at = np.searchsorted(of.unit, np.arange(len(group.units))) + own
        past += len(group.units)
        missed += float(of.missed[at].sum())
        (share,) = _of_trees([group], [of.share[at]])
        told.append(of_visits(group, of_plain, asked.limits.hands, share))
    return Fortnight(tuple(told), choice, choice.plan.crew_minutes, choice.plan.open_stops, round(missed))


def _searched(asked: _Asked, rounds: int, seconds: float, clock: Callable[[], float]) -> list[Array]:
    """On which days units are visited by the best plan that a search finds, by group, arrays (units, days).

    rounds: of the search for each unit.
    """
    groups = asked.groups
    promised, pinned = (_days(groups, of) for of in (asked.before, [one.pinned & one.allowed for one in groups]))
    bonus = []
    for said, pin in zip(promised, pinned, strict=True):
        counts = np.where(np.arange(PLAN_DAYS) < PROMISED_DAYS, PROMISE_HARM, STAYS_HARM)
        bonus.append(counts * said + DEATH_COUNTS * PIN_FIRST * pin)
    laid = board.laid(groups, asked.stops, asked.limits, asked.ready.plains, asked.ready.spells, bonus)
    begun = _days(groups, asked.before if asked.start is None else asked.start)
    found = search.searched(
        laid.board, np.concatenate(begun)[laid.order], seconds=seconds, deaths_count=DEATH_COUNTS,
        rounds=max(LEAST_ROUNDS, rounds * len(laid.order)), clock=clock,
    )  # fmt: skip
    return np.split(laid.of_units(found), board.first_units(groups)[1:-1])


def _days(groups: Sequence[Group], shares: Sequence[Array]) -> list[Array]:
    """On which days units are visited, by group, arrays (units, days). shares: of the refill, arrays (days, trees)."""
    return [own > 0 for own in _of_units(groups, shares)]


def _of_units(groups: Sequence[Group], shares: Sequence[Array]) -> list[Array]:
    """Shares of the refill that units get, by group, arrays (units, days). shares: of trees, arrays (days, trees)."""
    return [
        np.array([np.max(share[:, on], axis=1, initial=0.0) for on in group.units]).reshape(-1, PLAN_DAYS)
        for group, share in zip(groups, shares, strict=True)
    ]


def _of_trees(groups: Sequence[Group], shares: Sequence[Array]) -> list[Array]:
    """Shares of the refill that trees get, by group, arrays (days, trees). shares: of units, arrays (units, days)."""
    found = []
    for group, own in zip(groups, shares, strict=True):
        found.append(np.zeros(group.wanted.shape))
        for on, share in zip(group.units, own, strict=True):
            found[-1][:, on] = share[:, None]
    return found


def _whole(groups: Sequence[Group], plains: Sequence[Plain], days: Sequence[Array]) -> list[Array]:
    """The same of units where all visits are whole. days: whether each is visited, by group, arrays (units, days)."""
    return [
        own * np.array([offers.whole_share(group, of_plain, on) for on in group.units]).reshape(-1, 1)
        for group, of_plain, own in zip(groups, plains, days, strict=True)
    ]
