"""What chosen visits come to for a group's trees: litres, minutes, harm, and what a moved visit would change."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from june_shade.core.choosing import offers
from june_shade.core.choosing.offers import PLAN_DAYS, Group, Hands, Outcome, Plain
from june_shade.core.choosing.patterns import Array
from june_shade.core.water.visits import Walked, walked


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
