"""How long a thirst that was learned holds: it fades to the book's where nobody reads the tree any more."""

import numpy as np

from june_shade.core.water.stores import Array

HALF_YEAR_DAYS = 183
"""After so many days without a reading the book holds again (calibrated)."""


def thirst(multiplier: Array, days_since_reading: Array) -> Array:
    """How many times the book's demand a tree drinks, so many days after it was last read; arrays alike.

    multiplier: as accepted, times the book. days_since_reading: 0 or more.
    """
    left = np.clip(1.0 - np.maximum(0, days_since_reading) / HALF_YEAR_DAYS, 0.0, 1.0)
    return 1.0 + (multiplier - 1.0) * left
