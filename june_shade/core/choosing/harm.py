"""What waiting costs a tree, in days of growth that it loses, and in words.

Reckoned over the days of a plan and a week more without a visit, so that nothing is left dry for the day after. All
figures are calibrated unless said.
"""

import numpy as np

from june_shade.core.water.balance import FULL_LEAF
from june_shade.core.water.stores import Array

TAIL_DAYS = 7
"""Days after the plan's last, without a visit."""
TAIL_COUNTS = 0.5
"""What a day of these counts."""
LOW_KS, LOW_KS_COUNTS = 0.5, 3.0
"""Uptake under this share costs so many times more."""
SOGGY_COSTS = 0.1
DYING_KS, DYING_DAYS = 0.2, 3
"""So many days with so little uptake may be a tree's last."""
SLOWER, SUFFERS, MAY_DIE = WORDS = ("slower_growth", "leaves_suffer", "may_die")
SLOWER_TO, SUFFERS_TO = 1.0, 14.0
"""Harm up to here is told by the first and the second word (calibrated). The second border is as many days of growth
as a plan has: with 3 a plan that lets fewest trees die gives up those that are dearest to save. Sixty short days of a
drought like the demo's, gone through as `bench drought` does, cost 1.7 times as much harm that way, and twice as many
trees dried out."""
WORTH = {"spare": 0.5, "ordinary": 1.0, "kept": 2.0}
"""What a tree is worth beside an ordinary one: one that could be spared; one that is kept for something (a memorial, a
landmark, a client's own)."""


def of_days(ks: Array, soggy: Array, leaf: Array, plan_days: int) -> Array:
    """Harm of each tree [days], array (trees,).

    ks: uptake, shares 0..1; soggy: whether it stood in water; leaf: leaves out, 0..1; arrays (days, trees), those of
    the plan first; plan_days: how many of these are the plan's.
    """
    total: Array = np.sum(by_day(ks, soggy, leaf, plan_days), axis=0)
    return total


def by_day(ks: Array, soggy: Array, leaf: Array, plan_days: int) -> Array:
    """Harm of each day [days], array (days, trees).

    ks 0..1; soggy: whether it stood in water; leaf 0..1; arrays (days, trees); plan_days: how many are the plan's.
    """
    lost = 1.0 - ks + LOW_KS_COUNTS * np.maximum(0.0, LOW_KS - ks) + SOGGY_COSTS * soggy
    counts = np.where(np.arange(len(ks)) < plan_days, 1.0, TAIL_COUNTS)[:, None]
    return np.where(leaf > FULL_LEAF, counts * lost, 0.0)


def beyond(harm: Array, of_plain: Array) -> Array:
    """Harm beyond what the plan without limits can't mend either, never below 0.

    harm, of_plain: of a pattern and of the plain plan [days], arrays of trees or patterns.
    """
    return np.maximum(0.0, harm - of_plain)


def may_die(harm: Array, ks: Array, leaf: Array, plan_days: int) -> Array:
    """Whether a tree may die: harm above what leaves bear, or three days of hardly any uptake; array (trees,).

    harm: beyond that of the plain plan [days], array (trees,); ks 0..1, leaf 0..1: arrays (days, trees); plan_days: how
    many of these are the plan's.
    """
    return (harm > SUFFERS_TO) | is_dying(ks[:plan_days], leaf[:plan_days])


def is_dying(ks: Array, leaf: Array) -> Array:
    """Whether a tree has three days of hardly any uptake in leaf, array (trees,).

    In the week after a plan nobody waters, so that a thirsty tree has them there whatever was planned: of that week
    only the harm counts.

    ks 0..1, leaf 0..1: arrays (days, trees).
    """
    found: Array = np.sum(hardly_any(ks, leaf), axis=0) >= DYING_DAYS
    return found


def hardly_any(ks: Array, leaf: Array) -> Array:
    """Whether a tree in leaf takes up hardly any water on a day; ks 0..1, leaf 0..1: arrays (days, trees)."""
    found: Array = (ks < DYING_KS) & (leaf > FULL_LEAF)
    return found


def word(harm: float, dies: bool) -> str:
    """Harm in a word.

    harm: beyond that of the plain plan [days]; dies: whether the tree may die of it.
    """
    if dies:
        return MAY_DIE
    return SLOWER if harm <= SLOWER_TO else SUFFERS


NOTHING_TO = 0.05
"""Less harm than this is not told."""


def told(harm: float, dies: bool) -> str | None:
    """Harm in a word, None where there is none to tell.

    harm: beyond that of the plain plan [days]; dies: whether the tree may die of it.
    """
    return word(harm, dies) if dies or harm > NOTHING_TO else None


def rank(harm: Array, dies: Array) -> Array:
    """Harm by its word, from 0 = none to tell, array (trees,).

    harm: beyond that of the plain plan [days], dies: whether a tree may die of it; arrays (trees,).
    """
    found: Array = (harm > NOTHING_TO).astype(int) + (harm > SLOWER_TO)
    return np.where(dies, len(WORDS), found)


def weight(worth: Array, establishment: Array) -> Array:
    """How much a tree's harm counts: the new go first, since the old have roots elsewhere.

    worth: times an ordinary one, as WORTH says, establishment: x, 0..1; arrays (trees,).
    """
    return worth * (2.0 - establishment)


def knee(litres: Array, harm: Array) -> int:
    """Position of the point where a litre more stops paying: the farthest from the line between the ends.

    litres [L] and harm [days] of plans from the fewest litres to the most, arrays (plans,).
    """
    if len(litres) < 3:
        return len(litres) - 1
    x, y = (np.asarray(v, float) for v in (litres, harm))
    x, y = ((v - v[0]) / (v[-1] - v[0]) if v[-1] != v[0] else np.zeros_like(v) for v in (x, y))
    return int(np.argmax(y - x))
