"""The plan of a fortnight for all crews: patterns by the balance, more of them where a choice wants them, one choice.

Promised visits cost something to move. Pins that can be kept are kept before anything else.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from june_shade.core.choosing import board, offers, search
from june_shade.core.choosing.choose import Choice, choose, liked
from june_shade.core.choosing.offers import HALF, PLAN_DAYS, Group, Hands, Limits, Offers, Outcome, Plain, Visits
from june_shade.core.choosing.patterns import Array, Closing, Period, Problem, Rows, fitted, keeps, plan_of
from june_shade.core.choosing.spells import Spells, spells
from june_shade.core.water.visits import Walked, walked

SLACK, GAP = 0.02, 0.01
SLACK_RANGE = (0.0, 0.2)
"""How much more than the least harm a plan may cost that saves water, and what that can be, shares."""
PROMISED_DAYS, PROMISE_HARM = 2, 0.3
"""Visits of the first so many days are promised; each that is dropped or moved off its day counts as so much weighted
harm (calibrated)."""
STAYS_HARM = 0.02
"""In the search each visit that stays where the standing plan has it counts as so much less harm, so that a small
change moves few (calibrated)."""
OUTLOOK_FROM = 7
"""From this day on the plan is an outlook."""
PIN_FIRST = 1000.0
"""A pin that is left out counts so many deaths: pins are kept before anything else."""
SHARE_FOR_MORE = 0.25
"""Of the time so much may go into looking for more patterns."""
ROUNDS_OF_MORE = 2
SHARE_FOR_SEARCH = 0.4
"""Of the time so much may go into the search at most."""
ROUNDS_A_UNIT, ROUNDS_OF_SKETCH, LEAST_ROUNDS = 60, 8, 400
"""So often the search takes a plan apart, by what there is to be watered: for a plan, for a sketch, at least."""
DEATH_COUNTS = 100.0
"""Days of harm that a death counts in the search: so many that harm hardly ever outweighs one."""


@dataclass(frozen=True, slots=True)
class OfGroup:
    """What was chosen for a group's trees: share of the refill by day, array (days, trees), 0 = no visit; how that
    goes, with litres [L]; minutes [min], (days, trees); what comes of it, and of no visit at all, beyond the plain
    plan; the plain plan itself."""

    share: Array
    walked: Walked
    minutes: Array
    outcome: Outcome
    none: Outcome
    plain: Plain


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
    plains = tuple(offers.plain(group) for group in groups)
    return Prepared(plains, tuple(spells(group, of, hands) for group, of in zip(groups, plains, strict=True)))


def sketched(
    groups: Sequence[Group], stops: Sequence[Array], limits: Limits, before: Sequence[Array],
    start: Sequence[Array], ready: Prepared, *, seconds: float, clock: Callable[[], float],
) -> tuple[OfGroup, ...]:  # fmt: skip
    """A good plan in little time, by the search alone: to see by what stops take on its days.

    stops, before, start, seconds, clock: as of `plan`, the seconds for all of it.
    """
    found = _searched(groups, stops, limits, ready, before, start, ROUNDS_OF_SKETCH, seconds, clock)
    told = []
    for group, of_plain, days in zip(groups, ready.plains, found, strict=True):
        share = np.zeros(group.wanted.shape)
        for on, own in zip(group.units, days, strict=True):
            share[:, on] = own[:, None] * offers.whole_share(group, of_plain, on)
        told.append(of_visits(group, of_plain, limits.hands, share))
    return tuple(told)


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
    begins, begun = clock(), before if start is None else start
    ready = ready or prepared(groups, limits.hands)
    plains, for_search = ready.plains, SHARE_FOR_SEARCH * seconds
    searched = _searched(groups, stops, limits, ready, before, begun, ROUNDS_A_UNIT, for_search, clock)
    starts = [_of_units(groups, before), _whole(groups, plains, searched)]
    if start is not None:
        starts.append(_of_units(groups, start))
    offered = [
        offers.offers(group, of_plain, limits.hands, [
            offers.first_offers(np.flatnonzero(np.any(group.wanted[:, on], axis=1)).tolist())
            | {_visits(of[n][u], offers.whole_share(group, of_plain, on)) for of in starts}
            | board.with_one_less(found[u]) for u, on in enumerate(group.units)
        ])
        for n, (group, of_plain, found) in enumerate(zip(groups, plains, searched, strict=True))
    ]  # fmt: skip
    problem = _problem(groups, stops, limits, before, offered)
    for _ in range(ROUNDS_OF_MORE):
        if clock() - begins > SHARE_FOR_MORE * seconds:
            break
        more = _more(groups, plains, limits.hands, offered, liked(problem, seconds=seconds * SHARE_FOR_MORE))
        grown = [offers.joined(old, new) if len(new) else old for old, new in zip(offered, more, strict=True)]
        if sum(map(len, grown)) == sum(map(len, offered)):
            break
        offered = grown
        problem = _problem(groups, stops, limits, before, offered)
    left = max(1.0, seconds - (clock() - begins))
    share = np.concatenate([of.share for of in offered]) if offered else np.zeros((0, PLAN_DAYS))
    first = [_likest(problem.rows, share, np.concatenate(of)) for of in starts if of]
    found = _chosen(problem, np.concatenate([of.plain for of in offered]), first, slack, gap, left, clock)
    return _told(groups, plains, limits, offered, found)


def _days(groups: Sequence[Group], shares: Sequence[Array]) -> list[Array]:
    """On which days units are visited, by group, arrays (units, days). shares: of the refill, arrays (days, trees)."""
    return [
        np.array([np.any(share[:, on] > 0, axis=1) for on in group.units], bool).reshape(-1, PLAN_DAYS)
        for group, share in zip(groups, shares, strict=True)
    ]


def _searched(
    groups: Sequence[Group], stops: Sequence[Array], limits: Limits, ready: Prepared, before: Sequence[Array],
    begun: Sequence[Array], rounds: int, seconds: float, clock: Callable[[], float],
) -> list[Array]:  # fmt: skip
    """On which days units are visited by the best plan that a search finds, by group, arrays (units, days).

    rounds: of the search for each unit.
    """
    promised, pinned = (_days(groups, shares) for shares in (before, [one.pinned & one.allowed for one in groups]))
    bonus = []
    for said, pin in zip(promised, pinned, strict=True):
        counts = np.where(np.arange(PLAN_DAYS) < PROMISED_DAYS, PROMISE_HARM, STAYS_HARM)
        bonus.append(counts * said + DEATH_COUNTS * PIN_FIRST * pin)
    laid = board.laid(groups, stops, limits, ready.plains, ready.spells, bonus)
    found = search.searched(
        laid.board, np.concatenate(_days(groups, begun))[laid.order], seconds=seconds, deaths_count=DEATH_COUNTS,
        rounds=max(LEAST_ROUNDS, rounds * len(laid.order)), clock=clock,
    )  # fmt: skip
    return np.split(laid.of_units(found), board.first_units(groups)[1:-1])


def _of_units(groups: Sequence[Group], shares: Sequence[Array]) -> list[Array]:
    """Shares of the refill that units get, by group, arrays (units, days). shares: of trees, arrays (days, trees)."""
    return [
        np.array([np.max(share[:, on], axis=1, initial=0.0) for on in group.units]).reshape(-1, PLAN_DAYS)
        for group, share in zip(groups, shares, strict=True)
    ]


def _whole(groups: Sequence[Group], plains: Sequence[Plain], days: Sequence[Array]) -> list[Array]:
    """The same where all visits are whole. days: whether each unit is visited, by group, arrays (units, days)."""
    return [
        own * np.array([offers.whole_share(group, of_plain, on) for on in group.units]).reshape(-1, 1)
        for group, of_plain, own in zip(groups, plains, days, strict=True)
    ]


def _visits(share: Array, whole: float) -> Visits:
    """A unit's days as a pattern. share: of the refill, array (days,); whole: what a whole watering is of it."""
    between = (HALF + 1.0) / 2.0 * whole
    return tuple((int(day), 1.0 if share[day] > between else HALF) for day in np.flatnonzero(share > 0))


def _likest(rows: Rows, share: Array, wanted: Array) -> Array:
    """The number of each unit's pattern on the same days that pours most nearly as much, of none where none is, array
    (trees,).

    share: of the refill that patterns have, array (patterns, days); wanted: what units get, array (trees, days).
    """
    of_tree = wanted[rows.tree]
    apart = np.where(np.all((share > 0) == (of_tree > 0), axis=1), np.sum(np.abs(share - of_tree), axis=1), np.inf)
    chosen = rows.empty.copy()
    at = np.lexsort((-apart, rows.tree))  # the nearest of each tree comes last, and stays
    at = at[np.isfinite(apart[at])]
    chosen[rows.tree[at]] = rows.number[at]
    return chosen


def _chosen(
    problem: Problem, plain: Array, starts: Sequence[Array], slack: float, gap: float, seconds: float,
    clock: Callable[[], float],
) -> Choice:  # fmt: skip
    """A choice for trees that share nothing each by itself; where the plain plan keeps to all limits it is taken.

    plain: which rows are the plain plan's, array (patterns,); starts: plans to begin with, the pattern of each tree,
    arrays (trees,); slack, gap: shares; seconds: for all.
    """
    rows, chosen = problem.rows, np.zeros(problem.trees, int)
    harm = bound = 0.0
    optimal, left = True, seconds
    parts = problem.parts()
    hard = []
    for trees in parts:
        own = problem.part(trees)
        wanted = _plain_of(own, plain[np.isin(rows.tree, trees)])
        if wanted is not None and keeps(own, plan_of(own, wanted)):
            chosen[trees] = wanted
        else:
            hard.append((trees, own))
    size = sum(len(own.rows.tree) for _, own in hard)
    for trees, own in hard:
        began = clock()
        share = max(1.0, left * len(own.rows.tree) / size)
        begun = [fitted(own, plan_of(own, start[trees])).chosen for start in starts]
        found = choose(own, begun, slack=slack, gap=gap, seconds=share, clock=clock)
        left, size = left - (clock() - began), size - len(own.rows.tree)
        chosen[trees] = found.plan.chosen
        harm, bound, optimal = harm + found.least_harm, bound + found.bound, optimal and found.optimal
    return Choice(plan_of(problem, chosen), harm, bound, optimal)


def _plain_of(problem: Problem, plain: Array) -> Array | None:
    """The number of each tree's pattern that the plain plan wants, None where one has none.

    plain: which rows are, array (patterns,).
    """
    at = np.flatnonzero(plain)
    found = np.full(problem.trees, -1)
    found[problem.rows.tree[at]] = problem.rows.number[at]
    return None if np.any(found < 0) else found


def _problem(
    groups: Sequence[Group], stops: Sequence[Array], limits: Limits, before: Sequence[Array],
    offered: Sequence[Offers],
) -> Problem:  # fmt: skip
    """The choice among all that is offered; every unit of every group is one of its trees."""
    firsts = board.first_units(groups)
    unit = np.concatenate([of.unit + first for of, first in zip(offered, firsts, strict=False)]).astype(int)
    harm = np.concatenate([
        of.harm + _broken(group, of, said) for group, of, said in zip(groups, offered, before, strict=True)
    ])  # fmt: skip
    deaths = np.concatenate([of.deaths + PIN_FIRST * of.missed for of in offered])
    litres, minutes = (np.concatenate([getattr(of, name) for of in offered]) for name in ("litres", "minutes"))
    shares = np.concatenate([of.share for of in offered])
    rows = Rows.by_tree(unit, harm, deaths, shares > 0, litres, minutes)
    at = [np.array([own[on[0]] for on in group.units], int) for group, own in zip(groups, stops, strict=True)]
    periods = tuple(Period(days, most, board.units_among(groups, trees)) for days, most, trees in limits.periods)
    closings = []
    for day, most, number, trees in limits.closings:
        some = [() if n != number else trees for n in range(len(groups))]
        own = tuple(np.unique(stops[number][list(trees)]).tolist())
        closings.append(Closing(board.units_among(groups, some), own, day, most))
    return Problem(
        limits.stop_minutes, limits.crew_of, np.concatenate(at) if at else np.zeros(0, int), rows,
        limits.hands.minutes, np.full(PLAN_DAYS, np.inf), periods, tuple(closings),
    )  # fmt: skip


def _broken(group: Group, of: Offers, promised: Array) -> Array:
    """What patterns cost that drop or move promised visits, as weighted harm."""
    said = np.stack([np.any(promised[:PROMISED_DAYS, on] > 0, axis=1) for on in group.units], axis=1)
    return PROMISE_HARM * np.sum(said[:, of.unit].T & (of.share[:, :PROMISED_DAYS] <= 0), axis=1)


def _more(
    groups: Sequence[Group], plains: Sequence[Plain], hands: Hands, offered: Sequence[Offers], wanted: Array
) -> list[Offers]:
    """Patterns beside those that the relaxed choice takes. wanted: which of all rows, array (patterns,)."""
    found, past = [], 0
    for group, of_plain, of in zip(groups, plains, offered, strict=True):
        sets: list[set[Visits]] = [{()} for _ in group.units]
        known = {(int(n), row.tobytes()) for n, row in zip(of.unit, of.share > 0, strict=True)}
        for row in np.flatnonzero(wanted[past : past + len(of)]):
            unit, share = int(of.unit[row]), of.share[row]
            most = float(np.max(share, initial=0.0)) or 1.0
            for visits in offers.beside(tuple((int(d), float(share[d] / most)) for d in np.flatnonzero(share))):
                days = np.zeros(PLAN_DAYS, bool)
                days[[day for day, _ in visits]] = True
                if (unit, days.tobytes()) not in known:
                    sets[unit].add(visits)
        past += len(of)
        found.append(offers.offers(group, of_plain, hands, sets))
    return found


def _told(
    groups: Sequence[Group], plains: Sequence[Plain], limits: Limits, offered: Sequence[Offers], choice: Choice
) -> Fortnight:
    """The plan by trees."""
    told, past, missed = [], 0, 0.0
    chosen = choice.plan.chosen
    for group, of_plain, of in zip(groups, plains, offered, strict=True):
        own = chosen[past : past + len(group.units)]
        at = np.searchsorted(of.unit, np.arange(len(group.units))) + own
        past += len(group.units)
        missed += float(of.missed[at].sum())
        share = np.zeros(group.wanted.shape)
        for on, row in zip(group.units, at, strict=True):
            share[:, on] = of.share[row][:, None]
        told.append(of_visits(group, of_plain, limits.hands, share))
    return Fortnight(tuple(told), choice, choice.plan.crew_minutes, choice.plan.open_stops, round(missed))


def of_visits(group: Group, of_plain: Plain, hands: Hands, share: Array) -> OfGroup:
    """What visits come to. share: of the refill, array (days, trees)."""
    every = np.arange(len(group.weight))
    found = walked(group.standing, share)
    nothing = walked(group.standing, np.zeros_like(share))
    come, none = (offers.outcome(one.ks, one.soggy, one.leaf, of_plain.harm, of_plain.dies) for one in (found, nothing))
    poured = np.where(found.litres[:PLAN_DAYS] > 0, share, 0.0)
    minutes = offers.minutes_of(group, hands, every, found.litres[:PLAN_DAYS])
    return OfGroup(poured, found, minutes, come, none, of_plain)


def today_instead(group: Group, of_plain: Plain, hands: Hands, share: Array) -> OfGroup:
    """What it would come to if each tree that waits got its next visit today in place of its day.

    share: of the refill as it was chosen, array (days, trees).
    """
    changed = share.copy()
    waits = group.wanted[0] & (share[0] <= 0)
    first = np.argmax(share > 0, axis=0)
    some = np.flatnonzero(waits & np.any(share > 0, axis=0))
    changed[first[some], some] = 0.0
    changed[0, waits] = 1.0
    return of_visits(group, of_plain, hands, changed)


def crew_minutes(crew_of: Array, stop_minutes: Array, stop_of: Array, tree_minutes: Array, crews: int) -> Array:
    """Minutes of each crew's days [min], array (crews, days).

    crew_of, stop_minutes: crew and minutes of a stop on each day, arrays (stops, days); stop_of: the stop of each tree
    by position; tree_minutes: of its visits [min], array (days, trees); crews: how many there are.
    """
    opened = np.zeros(stop_minutes.shape, bool)
    np.logical_or.at(opened, stop_of, tree_minutes.T > 0)
    total, day = np.zeros((crews, stop_minutes.shape[1])), np.arange(stop_minutes.shape[1])
    np.add.at(total, (crew_of[stop_of], day), tree_minutes.T)
    np.add.at(total, (crew_of, day), stop_minutes * opened)
    return total


def moved(group: Group, hands: Hands, tree: int, options: Sequence[Sequence[int]]) -> list[OfGroup]:
    """What it would come to if a tree, with all on its line, were visited on the days of each option and no others.

    tree: its position; options: days from 0 on. Each answer holds the trees that move together. All are walked at once.
    """
    on = next(unit for unit in group.units if tree in unit)
    some, size = _of_some(group, on), len(on)
    shares = [some.wanted.astype(float), np.zeros((PLAN_DAYS, size))]
    for days in options:
        shares.append(np.zeros((PLAN_DAYS, size)))
        shares[-1][list(days)] = 1.0
    at = np.tile(np.arange(size), len(shares))
    standing = some.standing.of_some(at, np.repeat(np.arange(len(shares)), size))
    found = walked(standing, np.concatenate(shares, axis=1))
    ways = [found.of_some(slice(n * size, (n + 1) * size)) for n in range(len(shares))]
    plain = offers.plain_of(ways[0])
    none = _outcome(ways[1], plain)
    return [
        OfGroup(
            np.where(way.litres[:PLAN_DAYS] > 0, share, 0.0), way,
            offers.minutes_of(some, hands, np.arange(size), way.litres[:PLAN_DAYS]), _outcome(way, plain), none, plain,
        )
        for way, share in zip(ways[2:], shares[2:], strict=True)
    ]  # fmt: skip


def _outcome(way: Walked, plain: Plain) -> Outcome:
    return offers.outcome(way.ks, way.soggy, way.leaf, plain.harm, plain.dies)


def _of_some(group: Group, on: Array) -> Group:
    """A unit of a group by itself."""
    names = ("weight", "flow_l_per_h", "alone", "shared_by", "step_l")
    rows = ("crew", "wanted", "allowed", "pinned", "most_l")
    cut = {name: getattr(group, name)[on] for name in names} | {name: getattr(group, name)[:, on] for name in rows}
    return replace(
        group, standing=group.standing.of_some(on, np.zeros(len(on), int)), units=(np.arange(len(on)),), **cut
    )
