"""What a crew's days really take, learned from the moments at which waterings were logged.

A watering is logged when it is done. What lies between two of one phone on a day, less the second one's run, is the
handling of a tree where both stand at one stop, and set-up and way as well where they don't.
"""

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from june_shade.core.choosing.patterns import Array

LAST, LEAST = 20, 5
"""The median of so many last ones is told, from so many on."""
LONGEST_MIN = 90.0
"""What took longer than the run by so much was a break or something else."""


@dataclass(frozen=True, slots=True)
class Waterings:
    """Waterings in order of time, arrays (waterings,): who logged it, its day, the minute of it [min], how long it ran
    [min], NaN = not known, and at which stop, by position."""

    who: Array
    day: Array
    minute: Array
    run_min: Array
    stop: Array


@dataclass(frozen=True, slots=True)
class Learned:
    """The median of the last minutes seen [min], None where too few were; of how many."""

    minutes: float | None
    of: int


def _median(seen: Array) -> Learned:
    last = seen[-LAST:]
    return Learned(float(np.median(last)) if len(last) >= LEAST else None, len(last))


def _between(of: Waterings) -> tuple[Array, Array, Array]:
    """Minutes beyond the run before each watering that follows another of the same hands and day, with the stop that
    they came from and that of the watering, arrays (pairs,)."""
    order = np.lexsort((of.minute, of.day, of.who))
    before, after = order[:-1], order[1:]
    same = (of.who[before] == of.who[after]) & (of.day[before] == of.day[after])
    beyond = of.minute[after] - of.minute[before] - of.run_min[after]
    with np.errstate(invalid="ignore"):
        good = same & (beyond >= 0) & (beyond <= LONGEST_MIN)
    at = np.argsort(np.stack([of.day[after], of.minute[after]])[:, good].T @ [1440.0, 1.0], kind="stable")
    return tuple(one[good][at] for one in (beyond, of.stop[before], of.stop[after]))  # type: ignore[return-value]


def handling(of: Waterings) -> Learned:
    """Minutes at a tree beside the water."""
    beyond, before, stop = _between(of)
    return _median(beyond[before == stop])


def arriving(of: Waterings, handling_min: float) -> dict[int, Learned]:
    """Minutes of set-up and way together at each stop that was come to from another, by its position.

    handling_min: of a tree [min].
    """
    beyond, before, stop = _between(of)
    came = before != stop
    return {
        int(n): _median(np.maximum(0.0, beyond[came & (stop == n)] - handling_min)) for n in np.unique(stop[came])
    }  # fmt: skip


def set_up(of: Waterings, handling_min: float, way_min: Mapping[tuple[int, int], float]) -> Learned:
    """Minutes of setting up at any stop, the way there taken off as it is reckoned.

    handling_min: of a tree [min]; way_min: between stops by their positions [min].
    """
    beyond, before, stop = _between(of)
    came = before != stop
    ways = np.array([way_min[int(a), int(b)] for a, b in zip(before[came], stop[came], strict=True)])
    return _median(np.maximum(0.0, beyond[came] - handling_min - ways))
