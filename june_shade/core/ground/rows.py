"""Where trees of a row stand that nobody measured: between those that somebody did, else from where the row begins."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from june_shade.core.errors import InputError

Point = tuple[float, float]
"""Metres east and north of the site's own place."""
OWN, ROW, STOP, NOWHERE = BASES = ("own", "row", "stop", "nowhere")
"""What a place rests on: its own coordinates, its row's other trees, its stop, nothing at all."""
USUAL_SPACING_M, USUAL_BEARING_DEG = 6.0, 90.0
"""How trees of a row stand where nobody said it (common practice); drawn so, and told as such."""
BAND_M, BELOW_M = 12.0, 20.0
"""Rows of which nothing is known lie below all others, so far apart."""
FARTHEST_M = 25_000.0
"""So far from its site nothing of it lies."""


@dataclass(frozen=True, slots=True)
class RowOfTrees:
    """Trees of one row in their order. along_m: how far each is from the first; known: where those stand that somebody
    measured, None for the others; begins: where the row begins, None = not known; bearing_deg: way it goes, clockwise
    from north."""

    along_m: tuple[float, ...]
    known: tuple[Point | None, ...]
    begins: Point | None
    bearing_deg: float


@dataclass(frozen=True, slots=True)
class Standing:
    """Where a tree stands and what that rests on."""

    at: Point
    basis: str


def stand(row: RowOfTrees) -> list[Standing] | None:
    """Where each tree of a row stands: known ones where they are, those between them by their part of the way, those
    beyond straight on; None where nothing is known of it."""
    known = [n for n, at in enumerate(row.known) if at is not None]
    if not known and row.begins is None:
        return None
    along = np.asarray(row.along_m, float)
    turn = np.radians(row.bearing_deg)
    way = np.array([np.sin(turn), np.cos(turn)])
    if not known:
        places = np.asarray(row.begins, float) + np.outer(along - along[0], way)
        return [Standing((float(x), float(y)), STOP) for x, y in places]
    at = np.array([row.known[n] for n in known], float)
    if len(known) == 1:
        places = at[0] + np.outer(along - along[known[0]], way)
    else:
        places = np.column_stack([np.interp(along, along[known], at[:, axis]) for axis in (0, 1)])
        for beyond, a, b in ((along < along[known[0]], 0, 1), (along > along[known[-1]], -1, -2)):
            ahead = _unit(at[a] - at[b], way if a else -way)
            from_m = np.abs(along[beyond] - along[known[a]])
            places[beyond] = at[a] + np.outer(from_m, ahead)
    bases = [OWN if row.known[n] is not None else ROW for n in range(len(along))]
    return [Standing((float(x), float(y)), basis) for (x, y), basis in zip(places, bases, strict=True)]


def _unit(way: np.ndarray, usual: np.ndarray) -> np.ndarray:
    length = np.hypot(*way)
    return way / length if length > 0 else usual


def all_rows(rows: Sequence[RowOfTrees]) -> list[list[Standing]]:
    """Where the trees of all rows stand; rows of which nothing is known lie one below the other under the rest."""
    found = [stand(row) for row in rows]
    placed = [one.at for own in found if own is not None for one in own]
    left, low = (min(x for x, _ in placed), min(y for _, y in placed)) if placed else (0.0, 0.0)
    below = 0
    whole: list[list[Standing]] = []
    for row, own in zip(rows, found, strict=True):
        if own is None:
            y = low - BELOW_M - BAND_M * below
            own = [Standing((left + far - row.along_m[0], y), NOWHERE) for far in row.along_m]
            below += 1
        whole.append(own)
    return whole


def between(first: Point, last: Point | None, along_m: Sequence[float], bearing_deg: float) -> list[Point]:
    """Where trees stand of which somebody showed the first and the last, each at its part of the way; without a last
    one as far apart as they stand, in the row's way.

    Raises InputError where first and last of several are one place, or lie too far off.
    """
    for point in (first, last):
        if point is not None and np.hypot(*point) > FARTHEST_M:
            raise InputError("lies over 25\u00a0km from the site", "first" if point is first else "last")
    if last is not None and len(along_m) > 1 and np.hypot(last[0] - first[0], last[1] - first[1]) < 0.1 * len(along_m):
        raise InputError("is where the first one stands: show where the last of them stands", "last")
    known: list[Point | None] = [None] * len(along_m)
    known[0] = first
    if last is not None and len(along_m) > 1:
        known[-1] = last
    placed = stand(RowOfTrees(tuple(along_m), tuple(known), None, bearing_deg))
    assert placed is not None
    return [one.at for one in placed]
