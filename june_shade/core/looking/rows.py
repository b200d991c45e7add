"""A row of trees together: one that parts from its neighbors is news."""

import numpy as np

from june_shade.core.water.stores import Array

FEW = 3
"""Fewer trees than this make no row to part from."""
PARTS_SDS = 2.0
"""A tree parts from its row where it is off the others' middle by more than so many of its own errors (calibrated)."""

LEAST_OFF = 0.2
"""Less than this apart, times the book, is no news (calibrated)."""


def odd(demand: Array, sd: Array) -> Array:
    """Which trees of a row part from the others, array (trees,).

    demand: times the book, as their readings say; sd: its error; arrays (trees,).
    """
    count = len(demand)
    if count < FEW:
        return np.zeros(count, bool)
    others = np.array([np.median(np.delete(demand, i)) for i in range(count)])
    return np.abs(demand - others) > np.maximum(PARTS_SDS * sd, LEAST_OFF)
