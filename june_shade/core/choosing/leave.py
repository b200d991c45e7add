"""What it costs to leave out a visit that was chosen and does not fit into the day after all."""

import numpy as np

from june_shade.core.choosing import offers
from june_shade.core.choosing.offered import PIN_FIRST
from june_shade.core.choosing.offers import Group
from june_shade.core.choosing.outcomes import OfGroup
from june_shade.core.choosing.patterns import Array
from june_shade.core.water.visits import walked


def costs(group: Group, of: OfGroup, day: int, units: Array) -> Array:
    """What each of these units costs without its visit on a day, the rest of its plan as it is: weighted deaths and
    harm more than with it, deaths far above any harm, pins above those, array (units,).

    of: what was chosen; day: from 0; units: of the group by position, each visited on that day.
    """
    trees = np.concatenate([group.units[n] for n in units]).astype(int)
    own = np.repeat(np.arange(len(units)), [len(group.units[n]) for n in units])
    share = of.share[:, trees].copy()
    share[day] = 0.0
    found = walked(group.standing.of_some(trees, own), share)
    come = offers.outcome(found.ks, found.soggy, found.leaf, of.plain.harm[trees], of.plain.dies[trees])
    weight = group.weight[trees]
    more = weight * np.maximum(0.0, come.harm - of.outcome.harm[trees])
    more += PIN_FIRST * weight * (come.dies & ~of.outcome.dies[trees]) + PIN_FIRST**2 * group.pinned[day, trees]
    total = np.zeros(len(units))
    np.add.at(total, own, more)
    return total


def first_to_leave(costs_of: Array, minutes: Array) -> int:
    """The one that costs least for each minute that it frees, by position; where several cost nothing the longest.

    costs_of: array (visits,); minutes: that each frees [min], array (visits,).
    """
    return int(np.lexsort((-minutes, costs_of / np.maximum(minutes, 1e-6)))[0])
