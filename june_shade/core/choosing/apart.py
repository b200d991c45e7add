"""Groups that share neither a crew nor litres are planned apart, each part in its share of the time."""

from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from threading import Lock
from typing import TypeVar

import numba
import numpy as np
from scipy.sparse import csr_array
from scipy.sparse.csgraph import connected_components

from june_shade.core.choosing.offers import Limits
from june_shade.core.choosing.patterns import Array

T = TypeVar("T")
R = TypeVar("R")


@dataclass(frozen=True, slots=True)
class Part:
    """Groups that share crews or litres with each other only, and their stops; by position, in order: arrays (groups,),
    (stops,)."""

    groups: Array
    stops: Array

    def of(self, every: Sequence[T]) -> list[T]:
        """What belongs to its groups. every: of all groups."""
        return [every[n] for n in self.groups]

    def at_stops(self, stops: Sequence[Array]) -> list[Array]:
        """The stop of each tree of its groups among its own stops, arrays (trees,). stops: among all, of all groups."""
        return [np.searchsorted(self.stops, own) for own in self.of(stops)]

    def limits(self, limits: Limits) -> Limits:
        """What holds for its groups and stops. limits: for all."""
        place = {int(n): k for k, n in enumerate(self.groups)}
        periods = [(days, litres, tuple(self.of(trees))) for days, litres, trees in limits.periods]
        return replace(
            limits, stop_minutes=limits.stop_minutes[self.stops], crew_of=limits.crew_of[self.stops],
            periods=tuple(one for one in periods if any(one[2])),
            closings=tuple(
                (day, minutes, place[number], trees)
                for day, minutes, number, trees in limits.closings if number in place
            ),
        )  # fmt: skip


def parts(stops: Sequence[Array], limits: Limits) -> list[Part]:
    """The fewest groups that can be planned by themselves. stops: the stop of each tree by group, arrays (trees,)."""
    groups, crews = len(stops), len(limits.hands.minutes)
    own = [np.unique(of) for of in stops]
    links = [(n, groups + int(crew)) for n, of in enumerate(own) for crew in np.unique(limits.crew_of[of])]
    for k, (_, _, trees) in enumerate(limits.periods):
        links += [(n, groups + crews + k) for n, some in enumerate(trees) if some]
    nodes, at = groups + crews + len(limits.periods), np.array(links, int).reshape(-1, 2)
    graph = csr_array((np.ones(len(at)), (at[:, 0], at[:, 1])), shape=(nodes, nodes))
    _, label = connected_components(graph, directed=False)
    together = [np.flatnonzero(label[:groups] == one) for one in np.unique(label[:groups])]
    return [Part(some, np.unique(np.concatenate([own[n] for n in some]))) for some in together]


def at_once(most: int) -> int:
    """How many of so many are gone through at a time: what takes long runs outside the interpreter's lock."""
    return max(1, min(most, int(getattr(numba.config, "NUMBA_DEFAULT_NUM_THREADS", 1))))


def each(
    every: Sequence[Part], sizes: Sequence[int], seconds: float, do: Callable[[Part, float], R], *,
    clock: Callable[[], float], threads: int | None = None,
) -> list[tuple[Part, R]]:  # fmt: skip
    """What is done with each part in the time that it may take, the smallest first: what is not used is left to those
    that come.

    sizes: how much there is in each group; seconds: for all together; do: with a part in so many seconds; clock: what
    time it is [s]; threads: how many parts at a time, None = one for each processor.
    """
    threads = min(len(every), threads) if threads else at_once(len(every))
    ends, left, taking = clock() + seconds, sum(sizes), Lock()

    def done(part: Part) -> tuple[Part, R]:
        nonlocal left
        with taking:
            own = sum(part.of(sizes))
            some = max(0.0, ends - clock()) * min(1.0, threads * own / max(1, left))
            left -= own
        return part, do(part, some)

    with ThreadPoolExecutor(max(1, threads)) as pool:
        return list(pool.map(done, sorted(every, key=lambda one: sum(one.of(sizes)))))
