"""How far places lie apart."""

import numpy as np

EARTH_KM = 6371.0
METRES_PER_DEG = 1000 * EARTH_KM * np.pi / 180
"""A degree of latitude on that sphere [m]."""


def distance_km(latitude_a: float, longitude_a: float, latitude_b: float, longitude_b: float) -> float:
    """Great-circle distance [km] between two places [deg]. Exact geometry on a sphere.

    latitude_a, longitude_a, latitude_b, longitude_b: in degrees.
    """
    a, b = np.radians(latitude_a), np.radians(latitude_b)
    half = np.sin((b - a) / 2) ** 2 + np.cos(a) * np.cos(b) * np.sin(np.radians(longitude_b - longitude_a) / 2) ** 2
    return float(2 * EARTH_KM * np.arcsin(np.sqrt(half)))


def flat_m(
    latitude_deg: float, longitude_deg: float, of_latitude_deg: float, of_longitude_deg: float
) -> tuple[float, float]:
    """Metres east and north of a place [deg] to another that is near: a plane that touches the sphere there."""
    east = (of_longitude_deg - longitude_deg) * METRES_PER_DEG * np.cos(np.radians(latitude_deg))
    return float(east), float((of_latitude_deg - latitude_deg) * METRES_PER_DEG)


def place_deg(latitude_deg: float, longitude_deg: float, east_m: float, north_m: float) -> tuple[float, float]:
    """Latitude and longitude [deg] of what lies so far east and north of a place: `flat_m` the other way round."""
    east = east_m / (METRES_PER_DEG * np.cos(np.radians(latitude_deg)))
    return float(latitude_deg + north_m / METRES_PER_DEG), float(longitude_deg + east)
