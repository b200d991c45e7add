"""Whether a file's coordinates are of this site as they stand, or with latitude and longitude the other way round."""

import numpy as np

from june_shade.core.ground.rows import FARTHEST_M
from june_shade.core.weather.place import flat_m

HERE, TURNED, ELSEWHERE = "here", "turned", "elsewhere"


def axes(places_deg: np.ndarray, latitude_deg: float, longitude_deg: float) -> str:
    """HERE where most places lie near the site, TURNED where they do with their axes the other way round, else
    ELSEWHERE.

    places_deg: longitude and latitude as the file has them [deg], array (places, 2). latitude_deg, longitude_deg: of
    the site.
    """
    for word, (east, north) in ((HERE, (0, 1)), (TURNED, (1, 0))):
        near = [
            abs(one[north]) <= 90
            and np.hypot(*flat_m(latitude_deg, longitude_deg, one[north], one[east])) <= FARTHEST_M
            for one in places_deg
        ]
        if np.mean(near) > 0.5:
            return word
    return ELSEWHERE
