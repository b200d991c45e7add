"""What the days from one watering to the next cost a tree.

A tree that was just watered has forgotten what was before. So what a plan costs it is, nearly, a sum over its spells
without water, each looked up by the visit that it follows and the visit that ends it; and what a visit more, or one
less, would change is known at once. Nearly: ground that takes more than a visit to fill remembers. A plan that is found
by spells is walked through before it is told.
"""

import itertools
from dataclasses import dataclass

import numpy as np

from june_shade.core.choosing import harm, offers
from june_shade.core.choosing.offers import MOST_COLUMNS, PLAN_DAYS, Group, Hands, Plain
from june_shade.core.choosing.patterns import Array
from june_shade.core.water.visits import walked

ENDS = PLAN_DAYS + 1
"""A spell begins this morning (0) or with the visit of a day (day + 1); it ends with the visit of a day, or not."""
TOO_MUCH_MIN = 1e6
"""A visit that would pour more than an order allows takes so long that it fits into no day."""


@dataclass(frozen=True, slots=True)
class Spells:
    """Spells of a group, by what they follow and what ends them; arrays (trees or units, ENDS, ENDS).

    harm [days], dying: days of hardly any uptake, of trees; litres [L], minutes [min]: of the visit that ends a spell,
    of units, 0 where none does.
    """

    harm: Array
    dying: Array
    litres: Array
    minutes: Array


def spells(group: Group, of_plain: Plain, hands: Hands) -> Spells:
    """The spells of a group's trees, each visit filling up as far as an order lets it."""
    days, trees = range(PLAN_DAYS), len(group.weight)
    sets = [(), *((day,) for day in days), *itertools.combinations(days, 2)]
    harms, dying, litres = (np.zeros((trees, ENDS, ENDS)) for _ in range(3))
    whole = np.ones(trees)
    for on in group.units:
        whole[on] = offers.whole_share(group, of_plain, on)
    at_once = max(1, MOST_COLUMNS // max(1, trees))
    for first in range(0, len(sets), at_once):
        some = sets[first : first + at_once]
        found = _walked(group, whole, some)
        for n, visits in enumerate(some):
            if len(visits) == 2:
                litres[:, visits[0] + 1, visits[1]] = found[2][visits[1], n]
                continue
            since = visits[0] if visits else 0
            row = visits[0] + 1 if visits else 0
            if visits:
                litres[:, 0, since] = found[2][since, n]
            harms[:, row, since:] = _until(found[0][since:, n])
            dying[:, row, since:] = _until(found[1][since:, n])
    every = np.arange(trees)
    minutes = np.zeros_like(litres)
    for row in range(ENDS):
        minutes[:, row, :PLAN_DAYS] = offers.minutes_of(group, hands, every, litres[:, row, :PLAN_DAYS].T).T
        minutes[:, row, :PLAN_DAYS][litres[:, row, :PLAN_DAYS] > group.most_l.T + 1e-6] = TOO_MUCH_MIN
        litres[:, row] = offers.taken_l(group, every, litres[:, row].T).T
    return Spells(harms, dying, *(_of_units(group, values) for values in (litres, minutes)))


def _walked(group: Group, whole: Array, sets: list[tuple[int, ...]]) -> tuple[Array, Array, Array]:
    """Harm and whether a tree is dying by day, litres poured [L], arrays (days, sets, trees)."""
    share = np.zeros((PLAN_DAYS, len(sets), len(whole)))
    for n, visits in enumerate(sets):
        share[list(visits), n] = whole
    trees, own = np.tile(np.arange(len(whole)), len(sets)), np.repeat(np.arange(len(sets)), len(whole))
    found = walked(group.standing.of_some(trees, own), share.reshape(PLAN_DAYS, -1))
    shape = -1, len(sets), len(whole)
    dying = harm.hardly_any(found.ks, found.leaf)
    dying[PLAN_DAYS:] = False
    daily = harm.by_day(found.ks, found.soggy, found.leaf, PLAN_DAYS)
    return daily.reshape(shape), dying.reshape(shape).astype(float), found.litres.reshape(shape)


def _until(daily: Array) -> Array:
    """What has come together until the morning of each day of the plan, and at last of all days; array (trees, days
    left + 1). daily: from the spell's first day on, array (days, trees)."""
    total = np.concatenate([np.zeros((1, daily.shape[1])), np.cumsum(daily, axis=0)])
    left = len(daily) - harm.TAIL_DAYS
    return np.concatenate([total[:left], total[-1:]]).T


def _of_units(group: Group, values: Array) -> Array:
    return np.stack([values[on].sum(axis=0) for on in group.units]) if group.units else values[:0]
