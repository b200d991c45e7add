"""A row of trees from its first one: tags that count on, places that count on, positions along a line."""

import math
import re

from june_shade.core.errors import InputError

METRES_PER_DEGREE = 111_195.0
"""One degree of latitude on a sphere of 6371 km (2 pi R / 360); ample for a row of trees."""
LONGEST = 500


def tags(first: str, count: int) -> list[str]:
    """Tags that count on from the first: HL-08, HL-09, HL-10; a tag without a number gets one, from 1."""
    if not 1 <= count <= LONGEST:
        raise InputError(f"must be a whole number from 1 to {LONGEST}", "count")
    found = re.fullmatch(r"(.*?)(\d+)(\D*)", first)
    if found is None:
        return [first] if count == 1 else [f"{first}-{i + 1}" for i in range(count)]
    head, number, tail = found.groups()
    return [f"{head}{int(number) + i:0{len(number)}d}{tail}" for i in range(count)]


def ordinal(number: int) -> str:
    """1st, 2nd, 3rd, 4th, 11th …"""
    if number % 100 in (11, 12, 13):
        return f"{number}th"
    return f"{number}{({1: 'st', 2: 'nd', 3: 'rd'}).get(number % 10, 'th')}"


def place(words: str, number: int) -> str:
    """Words of a place with {n} and {nth} filled in."""
    return words.replace("{nth}", ordinal(number)).replace("{n}", str(number))


def position(
    latitude_deg: float, longitude_deg: float, spacing_m: float, bearing_deg: float, steps: int
) -> tuple[float, float]:
    """Latitude and longitude [deg] `steps` trees along a row. bearing_deg: 0 north, 90 east."""
    distance = spacing_m * steps / METRES_PER_DEGREE
    angle = math.radians(bearing_deg)
    north, east = distance * math.cos(angle), distance * math.sin(angle)
    return latitude_deg + north, longitude_deg + east / max(1e-6, math.cos(math.radians(latitude_deg)))
