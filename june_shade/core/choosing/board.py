"""Groups, stops and limits laid out for the search: units stop by stop, limits one after the other."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from june_shade.core.choosing import harm
from june_shade.core.choosing.moves import Board
from june_shade.core.choosing.offers import PLAN_DAYS, Group, Limits, Plain, Visits
from june_shade.core.choosing.patterns import Array
from june_shade.core.choosing.spells import Spells


@dataclass(frozen=True, slots=True)
class Laid:
    """The board, and which of its units are whose: order: the unit of each place, as the groups count them one after
    the other, array (units,)."""

    board: Board
    order: Array

    def of_units(self, visits: Array) -> Array:
        """Visits in the groups' own order, array (units, days). visits: as the search has them, the same."""
        found = np.zeros_like(visits)
        found[self.order] = visits
        return found


def first_units(groups: Sequence[Group]) -> Array:
    """Where each group's units begin among all, array (groups + 1,)."""
    return np.cumsum([0, *(len(group.units) for group in groups)])


def units_among(groups: Sequence[Group], trees: Sequence[Sequence[int]]) -> tuple[int, ...]:
    """Units that any of these trees are in, of all groups. trees: of each group, by position."""
    found: list[int] = []
    for group, first, some in zip(groups, first_units(groups).tolist(), trees, strict=False):
        among = set(some)
        found += [first + n for n, on in enumerate(group.units) if among.intersection(on.tolist())]
    return tuple(found)


def laid(
    groups: Sequence[Group], stops: Sequence[Array], limits: Limits, plains: Sequence[Plain],
    spells: Sequence[Spells], bonus: Sequence[Array],
) -> Laid:  # fmt: skip
    """The board of these groups.

    stops: stop of each tree of a group by position, arrays (trees,); bonus: what a visit on a day is worth in itself
    [days], arrays (units, days).
    """
    units = [(n, on) for n, group in enumerate(groups) for on in group.units]
    stop = np.array([stops[n][on[0]] for n, on in units], int)
    order = np.argsort(stop, kind="stable")
    trees = [np.concatenate(group.units) if group.units else np.zeros(0, int) for group in groups]
    sizes = np.array([len(on) for _, on in units], int)
    begins = np.cumsum([0, *sizes])
    own = np.concatenate([np.arange(begins[n], begins[n + 1]) for n in order]) if len(units) else np.zeros(0, int)

    def of_trees(parts: Sequence[Array]) -> Array:
        return np.concatenate([part[at] for part, at in zip(parts, trees, strict=True)])[own]

    facts = np.stack([
        of_trees([group.weight for group in groups]), of_trees([of.harm for of in plains]),
        of_trees([np.where(of.dies, np.inf, harm.SUFFERS_TO) for of in plains]),
        of_trees([np.where(of.dies, np.inf, harm.DYING_DAYS) for of in plains]),
    ], axis=1)  # fmt: skip
    allowed = np.array([np.all(groups[n].allowed[:, on], axis=1) for n, on in units]).reshape(-1, PLAN_DAYS)
    most, minute_limits, litre_limits, stop_limits = _limits(groups, stops, limits, stop)
    at_stop = stop[order]
    return Laid(
        Board(
            np.searchsorted(at_stop, np.arange(len(limits.stop_minutes) + 1)), np.cumsum([0, *sizes[order]]), at_stop,
            facts, np.stack([of_trees([of.harm for of in spells]), of_trees([of.dying for of in spells])], axis=1),
            np.stack(
                [np.concatenate([of.minutes for of in spells]), np.concatenate([of.litres for of in spells])], axis=1
            )[order],
            allowed[order], np.concatenate(bonus)[order], limits.stop_minutes.astype(float), most,
            minute_limits[order], litre_limits[order], stop_limits,
        ),
        order,
    )  # fmt: skip


def _limits(
    groups: Sequence[Group], stops: Sequence[Array], limits: Limits, stop: Array
) -> tuple[Array, Array, Array, Array]:
    """All limits, and which of them minutes of units, litres of units, and stops count for, by day; -1 = none."""
    crews = limits.crew_of * PLAN_DAYS + np.arange(PLAN_DAYS)
    most = [np.ravel(limits.hands.minutes)]
    of_minutes = [crews[stop]]
    of_litres: list[Array] = []
    of_stops = [crews]
    for days, litres, some in limits.periods:
        at = np.full((len(stop), PLAN_DAYS), -1)
        at[np.ix_(units_among(groups, some), days)] = sum(map(len, most))
        most.append(np.array([litres]))
        _put(of_litres, at)
    for day, minutes, number, closed in limits.closings:
        at, opens = np.full((len(stop), PLAN_DAYS), -1), np.full(crews.shape, -1)
        own = [() if n != number else closed for n in range(len(groups))]
        at[list(units_among(groups, own)), day] = opens[np.unique(stops[number][list(closed)]), day] = sum(
            map(len, most)
        )
        most.append(np.array([minutes]))
        _put(of_minutes, at)
        _put(of_stops, opens)
    none = np.full((len(stop), PLAN_DAYS, 0), -1)
    return (
        np.concatenate(most), np.stack(of_minutes, axis=2), np.stack(of_litres, axis=2) if of_litres else none,
        np.stack(of_stops, axis=2),
    )  # fmt: skip


def _put(columns: list[Array], column: Array) -> None:
    """Add a limit's places to the first column that has room for all of them."""
    for one in columns:
        if not np.any((one >= 0) & (column >= 0)):
            one[column >= 0] = column[column >= 0]
            return
    columns.append(column)


def with_one_less(days: Array) -> set[Visits]:
    """A unit's visits as a pattern of whole waterings, and the patterns that have one of them less.

    days: whether there is one, array (days,).
    """
    whole = tuple((int(day), 1.0) for day in np.flatnonzero(days))
    return {whole} | {whole[:n] + whole[n + 1 :] for n in range(len(whole))}
