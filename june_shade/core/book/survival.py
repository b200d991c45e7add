"""How many of the trees that were planted stand, and how sure that is of so many trees."""

from collections.abc import Hashable, Iterable
from dataclasses import dataclass

import numpy as np

LOST = frozenset({"dead", "removed"})
"""Ends that count against survival; trees that were stolen or moved away say nothing of it (common practice)."""
Z95 = 1.959963984540054
"""A normal variable lies within so many standard deviations in 95 of 100 cases."""


@dataclass(frozen=True, slots=True)
class Survival:
    """Trees of one group: planted, standing, lost, stolen or moved away; share that survives 0..1 with the range that
    it lies in in 95 of 100 cases; None where none can tell."""

    group: Hashable
    planted: int
    standing: int
    lost: int
    gone: int
    share: float | None
    low: float | None
    high: float | None


def survival(trees: Iterable[tuple[Hashable, str | None]]) -> list[Survival]:
    """Survival by group, the largest first. trees: group and how each ended, None = it stands."""
    counts: dict[Hashable, list[int]] = {}
    for group, end in trees:
        of = counts.setdefault(group, [0, 0, 0])
        of[0 if end is None else 1 if end in LOST else 2] += 1
    found = []
    for group, (standing, lost, gone) in counts.items():
        tell = standing + lost
        low, high = wilson(standing, tell) if tell else (None, None)
        share = standing / tell if tell else None
        found.append(Survival(group, tell + gone, standing, lost, gone, share, low, high))
    return sorted(found, key=lambda one: (-one.planted, str(one.group)))


def wilson(successes: int, trials: int) -> tuple[float, float]:
    """The range of a share, 95 of 100, of few trials [Wilson27]."""
    share, z2 = successes / trials, Z95**2
    middle = (share + z2 / (2 * trials)) / (1 + z2 / trials)
    half = Z95 / (1 + z2 / trials) * np.sqrt(share * (1 - share) / trials + z2 / (4 * trials**2))
    return float(max(0.0, middle - half)), float(min(1.0, middle + half))
