"""The patterns that are offered to each tree, or to each line as one: what each pours, takes and costs by the balance.

Offered are no visit; what the plain plan wants, and that shifted; single days and pairs of days; every so many days;
half a refill in place of a whole one; and what lies beside a pattern that a choice liked.
"""

import itertools
from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass

import numpy as np

from june_shade.core.choosing import harm
from june_shade.core.choosing.patterns import Array
from june_shade.core.water.load import visit_min
from june_shade.core.water.visits import Standing, Walked, walked

PLAN_DAYS = 14
EVERY_DAYS = range(1, 8)
"""Routines of so many days between visits are offered."""
LEAST_BETWEEN_DAYS = 2
"""Two visits in a pattern made of a pair are at least so far apart."""
HALF = 0.5
CAP_KEPT = 0.95
"""Of litres that an order allows a watering so much is aimed at: what is poured is rounded up."""
MOST_COLUMNS = 60_000
"""Trees times patterns that are walked at once."""

Visits = tuple[tuple[int, float], ...]
"""Days of visits, each with the share of the refill that is poured."""


@dataclass(frozen=True, slots=True)
class Hands:
    """What crews can do, arrays (crews, days): minutes that they have [min]; handling_min of a tree; at_once: how many
    hoses run at a time."""

    minutes: Array
    handling_min: Array
    at_once: Array


@dataclass(frozen=True, slots=True)
class Limits:
    """What all crews have together: hands; stops' minutes once a day, with the crew of each, arrays (stops, days);
    periods of litres by group [L]; closed hours by group.

    periods: (days, litres, trees of each group by position); closings: (day, minutes, group, trees, stops).
    """

    hands: Hands
    stop_minutes: Array
    crew_of: Array
    periods: tuple[tuple[tuple[int, ...], float, tuple[tuple[int, ...], ...]], ...] = ()
    closings: tuple[tuple[int, float, int, tuple[int, ...]], ...] = ()


@dataclass(frozen=True, slots=True)
class Group:
    """Trees of a site that are chosen for. Arrays (trees,) unless said.

    standing: how they stand, over PLAN_DAYS and a tail. units: positions of the trees that are watered together, one or
    all of a line. crew: by position on each day, array (days, trees); weight: what a day of harm counts; flow_l_per_h,
    0 = not known; alone: runs on by itself; shared_by: how many trees a visit's minutes are shared by, infinite where a
    box opens the valve (core/water/load.py). wanted: whether
    the plain plan visits, allowed: whether it may be visited, pinned: whether somebody wants it on that day, arrays
    (days, trees); most_l: litres a watering at most [L], the same, infinite = no limit. step_l: what is poured by hand
    is rounded up to [L], 0 = it runs as long as it should.
    """

    standing: Standing
    units: tuple[Array, ...]
    crew: Array
    weight: Array
    flow_l_per_h: Array
    alone: Array
    shared_by: Array
    wanted: Array
    allowed: Array
    pinned: Array
    most_l: Array
    step_l: Array

    @property
    def by_box(self) -> Array:
        """Where a box opens the valve and nobody comes, array (trees,) of whether."""
        found: Array = np.isinf(self.shared_by)
        return found


@dataclass(frozen=True, slots=True)
class Offers:
    """Patterns of a group's units, arrays (patterns,): unit by position; whether it is the plain plan's; weighted harm
    and deaths; missed: pins left out. Shares of the refill, litres [L] and minutes [min] by day, arrays (patterns,
    days)."""

    unit: Array
    plain: Array
    harm: Array
    deaths: Array
    missed: Array
    share: Array
    litres: Array
    minutes: Array

    def __len__(self) -> int:
        return len(self.unit)


@dataclass(frozen=True, slots=True)
class Plain:
    """What comes of the plain plan, without limits, arrays (trees,): harm [days], whether the tree may die all the
    same, litres of its largest watering [L]."""

    harm: Array
    dies: Array
    largest_l: Array


@dataclass(frozen=True, slots=True)
class Outcome:
    """What visits come to, arrays (trees,): harm beyond that of the plain plan [days], whether a tree may die that
    would not by the plain plan."""

    harm: Array
    dies: Array


def plain(group: Group) -> Plain:
    """The plan without limits gone through."""
    return plain_of(walked(group.standing, group.wanted.astype(float)))


def plain_of(found: Walked) -> Plain:
    """What the plain plan's visits come to, as they were walked."""
    of = harm.of_days(found.ks, found.soggy, found.leaf, PLAN_DAYS)
    dies = harm.is_dying(found.ks[:PLAN_DAYS], found.leaf[:PLAN_DAYS])
    return Plain(of, dies, np.max(found.litres, axis=0))


def outcome(ks: Array, soggy: Array, leaf: Array, of_plain: Array, plain_dies: Array) -> Outcome:
    """What visits come to. ks, soggy, leaf: arrays (days, trees); of_plain [days], plain_dies: arrays (trees,)."""
    found = harm.beyond(harm.of_days(ks, soggy, leaf, PLAN_DAYS), of_plain)
    return Outcome(found, harm.may_die(found, ks, leaf, PLAN_DAYS) & ~plain_dies)


def first_offers(wanted: Collection[int], *, few: bool = False) -> set[Visits]:
    """Patterns to begin with.

    wanted: days of the plain plan's visits; few: whether single days and pairs are left out, and half a refill.
    """
    days = range(PLAN_DAYS)
    found: set[Visits] = {()}
    own = sorted(wanted)
    sets: list[Iterable[int]] = [own]
    if own:
        sets += [[day + shift for day in own] for shift in range(-own[0], PLAN_DAYS - own[0])]
        sets += [own[1:], own[::2], own[1::2]]
    sets += [range(start, PLAN_DAYS, every) for every in EVERY_DAYS for start in range(every)]
    if not few:
        sets += [[day] for day in days]
        sets += [pair for pair in itertools.combinations(days, 2) if pair[1] - pair[0] >= LEAST_BETWEEN_DAYS]
        found |= {((day, HALF),) for day in days}
        found.add(tuple((day, HALF) for day in own))
    for one in sets:
        found.add(tuple((day, 1.0) for day in one if day < PLAN_DAYS))
    return found


def beside(liked: Visits) -> set[Visits]:
    """Patterns that differ from one by a visit: left out, added, moved by a day or two, halved or made whole."""
    of = dict(liked)
    found: set[Visits] = set()

    def note(days: dict[int, float]) -> None:
        found.add(tuple(sorted(days.items())))

    for day, share in liked:
        rest = {d: s for d, s in of.items() if d != day}
        note(rest)
        note(rest | {day: HALF if share > HALF else 1.0})
        for other in (day - 2, day - 1, day + 1, day + 2):
            if 0 <= other < PLAN_DAYS and other not in of:
                note(rest | {other: share})
    for day in range(PLAN_DAYS):
        if day not in of:
            note(of | {day: 1.0})
    return found - {liked}


def offers(group: Group, of_plain: Plain, hands: Hands, sets: Sequence[Collection[Visits]]) -> Offers:
    """Patterns of each unit as the balance reckons them, what an order forbids left out.

    sets: the patterns that are offered to each unit.
    """
    unit_of, shares = [], []
    for unit, on in enumerate(group.units):
        allowed, pinned = np.all(group.allowed[:, on], axis=1), np.any(group.pinned[:, on], axis=1)
        whole = whole_share(group, of_plain, on)
        found = set()
        for visits in sets[unit]:
            days = {day: share for day, share in visits if allowed[day]}
            days |= {int(day): days.get(int(day), 1.0) for day in np.flatnonzero(pinned & allowed)} if visits else {}
            found.add(tuple(sorted(days.items())))
        for visits in sorted(found):
            row = np.zeros(PLAN_DAYS)
            for day, share in visits:
                row[day] = share * whole
            unit_of.append(unit)
            shares.append(row)
    return _undominated(
        _walked(group, of_plain, hands, np.array(unit_of, int), np.array(shares).reshape(-1, PLAN_DAYS))
    )


def whole_share(group: Group, of_plain: Plain, on: Array) -> float:
    """What a whole watering is, as a share of the refill: all of it, or as much as an order lets pour at once.

    on: positions of the trees that are watered together.
    """
    largest = float(np.max(of_plain.largest_l[on], initial=0.0))
    most = float(np.min(group.most_l[:, on], initial=np.inf))
    return min(1.0, CAP_KEPT * most / largest) if largest > 0 else 1.0


def _walked(group: Group, of_plain: Plain, hands: Hands, unit: Array, share: Array) -> Offers:
    """Patterns walked, many at once."""
    sizes = np.array([len(on) for on in group.units])[unit]
    cuts = np.flatnonzero(np.diff(np.cumsum(sizes) // MOST_COLUMNS)) + 1
    parts = [
        _walk(group, of_plain, hands, some, own)
        for some, own in zip(np.split(unit, cuts), np.split(share, cuts), strict=True)
        if len(some)
    ]
    return Offers(*(np.concatenate([getattr(p, name) for p in parts]) for name in Offers.__dataclass_fields__))


def _walk(group: Group, of_plain: Plain, hands: Hands, unit: Array, share: Array) -> Offers:
    trees = np.concatenate([group.units[n] for n in unit])
    pattern = np.repeat(np.arange(len(unit)), [len(group.units[n]) for n in unit])
    found = walked(group.standing.of_some(trees, pattern), share[pattern].T)
    come = outcome(found.ks, found.soggy, found.leaf, of_plain.harm[trees], of_plain.dies[trees])
    litres = found.litres[:PLAN_DAYS]
    minutes = minutes_of(group, hands, trees, litres)
    too_much = np.any(litres > group.most_l[:, trees] + 1e-6, axis=0)
    kept = np.ones(len(unit), bool)
    kept[np.unique(pattern[too_much])] = False
    weight = group.weight[trees]
    missed = group.pinned[:, trees] & (share[pattern].T <= 0)

    def together(values: Array) -> Array:
        whole = np.zeros((len(unit), *values.shape[1:]))
        np.add.at(whole, pattern, values)
        return whole[kept]

    return Offers(
        unit[kept], _is_plain(group, unit, share)[kept], together(weight * come.harm), together(weight * come.dies),
        together(np.sum(missed, axis=0).astype(float)), share[kept], together(taken_l(group, trees, litres).T),
        together(minutes.T),
    )  # fmt: skip


def _is_plain(group: Group, unit: Array, share: Array) -> Array:
    """Which patterns are visits as the plain plan wants them, whole, array (patterns,)."""
    wanted = np.stack([np.any(group.wanted[:, on], axis=1) for on in group.units])
    found: Array = np.all((share > 0) == wanted[unit], axis=1) & ~np.any((share > 0) & (share < 1), axis=1)
    return found


def taken_l(group: Group, trees: Array, litres: Array) -> Array:
    """What visits take of the litres that an order allows [L], array (days, trees): poured in the coarser steps.

    trees: positions; litres: as the balance reckons them [L], array (days, trees).
    """
    step_l = group.step_l[trees]
    rounded = np.ceil(litres / np.where(step_l > 0, step_l, 1.0) - 1e-9) * step_l
    return np.where(step_l > 0, rounded, litres)


def minutes_of(group: Group, hands: Hands, trees: Array, litres: Array) -> Array:
    """Minutes that visits take [min], array (days, trees). trees: positions; litres: poured [L], (days, trees)."""
    return visit_minutes(
        hands, group.crew[:, trees], group.flow_l_per_h[trees], group.alone[trees], group.shared_by[trees], litres
    )


def visit_minutes(
    hands: Hands, crew: Array, flow_l_per_h: Array, alone: Array, shared_by: Array, litres: Array
) -> Array:
    """Minutes that visits take a crew [min], array (days, trees).

    crew: by position, litres: poured [L], arrays (days, trees); flow_l_per_h [L/h], alone: whether it runs on by
    itself, shared_by: how many trees a visit's minutes are shared by, arrays (trees,).
    """
    flow = np.maximum(flow_l_per_h, 1e-9)
    day = np.arange(PLAN_DAYS)[:, None]
    run_min = np.where(flow_l_per_h > 0, 60.0 * litres / flow, 0.0)
    of_one = visit_min(alone, run_min, hands.handling_min[crew, day], hands.at_once[crew, day])
    return np.where(litres > 0, of_one / shared_by, 0.0)


def _undominated(found: Offers) -> Offers:
    """Without patterns that another of the same unit beats or equals in every figure of every day."""
    kept = np.ones(len(found), bool)
    figures = np.concatenate(
        [found.harm[:, None], found.deaths[:, None], found.missed[:, None], found.litres, found.minutes], axis=1
    )
    starts = np.flatnonzero(np.concatenate([[True], np.diff(found.unit) > 0, [True]]))
    for first, last in itertools.pairwise(starts):
        own = figures[first:last]
        order = np.lexsort((own[:, 0], own[:, 3 : 3 + PLAN_DAYS].sum(axis=1)))
        ranked = own[order] + 0.0
        below = np.all(ranked[:, None, :] <= ranked[None, :, :] + 1e-9, axis=2)
        beaten = np.any(np.triu(below, 1), axis=0)
        empty = ~np.any(found.share[first:last] > 0, axis=1)
        kept[first + order[beaten]] = False
        kept[first + np.flatnonzero(empty | found.plain[first:last])] = True
    return Offers(*(getattr(found, name)[kept] for name in Offers.__dataclass_fields__))


def joined(one: Offers, other: Offers) -> Offers:
    """Two offers to the same units as one, without what the other beats."""
    both = Offers(*(np.concatenate([getattr(one, name), getattr(other, name)]) for name in Offers.__dataclass_fields__))
    order = np.argsort(both.unit, kind="stable")
    return _undominated(Offers(*(getattr(both, name)[order] for name in Offers.__dataclass_fields__)))
