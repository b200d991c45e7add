"""The choice among all that is offered to groups' trees, as one problem; promised visits cost something to move."""

from collections.abc import Sequence

import numpy as np

from june_shade.core.choosing import board, offers
from june_shade.core.choosing.offers import HALF, PLAN_DAYS, Group, Hands, Limits, Offers, Plain, Visits
from june_shade.core.choosing.patterns import Array, Closing, Period, Problem, Rows

PROMISED_DAYS, PROMISE_HARM = 2, 0.3
"""Visits of the first so many days are promised; each that is dropped or moved off its day counts as so much weighted
harm (calibrated)."""
PIN_FIRST = 1000.0
"""A pin that is left out counts so many deaths: pins are kept before anything else."""


def problem_of(
    groups: Sequence[Group], stops: Sequence[Array], limits: Limits, before: Sequence[Array],
    offered: Sequence[Offers],
) -> Problem:  # fmt: skip
    """The choice among all that is offered; every unit of every group is one of its trees.

    stops: stop of each tree of a group by position, arrays (trees,); before: shares of the refill by the plan that
    stands, arrays (days, trees).
    """
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


def more_of(
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


def visits_of(share: Array, whole: float) -> Visits:
    """A unit's days as a pattern. share: of the refill, array (days,); whole: what a whole watering is of it."""
    between = (HALF + 1.0) / 2.0 * whole
    return tuple((int(day), 1.0 if share[day] > between else HALF) for day in np.flatnonzero(share > 0))


def likest(rows: Rows, share: Array, wanted: Array) -> Array:
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


def plain_choice(problem: Problem, plain: Array) -> Array | None:
    """The number of each tree's pattern that the plain plan wants, None where one has none.

    plain: which rows are, array (patterns,).
    """
    at = np.flatnonzero(plain)
    found = np.full(problem.trees, -1)
    found[problem.rows.tree[at]] = problem.rows.number[at]
    return None if np.any(found < 0) else found
