"""Minutes on the way between stops and from the yard: typed, else by distance, else as is usual."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from june_shade.core.choosing.patterns import Array
from june_shade.core.weather.place import distance_km

ROAD, KM_PER_MIN = 1.3, 30.0 / 60.0
"""A road is so many times the straight line; a truck goes 30 km/h (common practice)."""
INSIDE_MIN, BETWEEN_MIN = 5.0, 15.0
"""Minutes between stops of a site, and between sites or from the yard, where nothing is known (common practice)."""


@dataclass(frozen=True, slots=True)
class Place:
    """A stop, or a yard: where it is [deg], None = not known; its site, None for a yard; minutes from the stop before
    as somebody typed them [min], None = not typed."""

    latitude_deg: float | None = None
    longitude_deg: float | None = None
    site: int | None = None
    typed_min: float | None = None


def way_min(one: Place, other: Place) -> float:
    """Minutes from one place to the other [min]."""
    same = one.site is not None and one.site == other.site
    if same or one.site is None or other.site is None:
        typed = [place.typed_min for place in (one, other) if place.typed_min is not None]
        if typed:
            return min(typed) if same else max(typed)
    if None not in (one.latitude_deg, one.longitude_deg, other.latitude_deg, other.longitude_deg):
        km = distance_km(one.latitude_deg, one.longitude_deg, other.latitude_deg, other.longitude_deg)  # type: ignore[arg-type]
        return ROAD * km / KM_PER_MIN
    return INSIDE_MIN if same else BETWEEN_MIN


def ways(places: Sequence[Place]) -> Array:
    """Minutes between all places [min], array (places, places)."""
    found = np.zeros((len(places), len(places)))
    for a, one in enumerate(places):
        for b in range(a):
            found[a, b] = found[b, a] = way_min(one, places[b])
    return found


def nearest_min(places: Sequence[Place], yard: Place) -> Array:
    """Minutes from each stop to its nearest other stop or the yard [min], array (places,)."""
    between = ways([*places, yard])
    np.fill_diagonal(between, np.inf)
    found: Array = np.min(between, axis=1)[:-1]
    return found
