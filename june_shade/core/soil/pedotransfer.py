"""What a soil holds and lets through from its percentages, organic matter and compaction: Saxton and Rawls 2006 [SR06].

Valid for mineral soils with up to 60 % clay and 8 % organic matter. Sand and clay are percentages here and fractions
inside the equations; organic matter is a percentage in both.
"""

import math
from dataclasses import dataclass

from june_shade.core.errors import InputError

MINERAL_DENSITY = 2.65
LOOSEST, DENSEST = 0.9, 1.3
MOST_CLAY_PERCENT, MOST_ORGANIC_PERCENT = 60.0, 8.0


@dataclass(frozen=True, slots=True)
class Water:
    """wilting_point, field_capacity, saturation [m3/m3]; conductivity_mm_h, saturated; bulk_density [g/cm3]."""

    wilting_point: float
    field_capacity: float
    saturation: float
    conductivity_mm_h: float
    bulk_density: float

    @property
    def awc(self) -> float:
        """Available water [m3/m3]."""
        return self.field_capacity - self.wilting_point

    @property
    def drainable(self) -> float:
        """Space between field capacity and saturation [m3/m3]."""
        return self.saturation - self.field_capacity


def water(sand_percent: float, clay_percent: float, organic_percent: float = 2.5, density_factor: float = 1.0) -> Water:
    """Water held and let through. Source: [SR06] table 1, eq. 1 to 10.

    density_factor: bulk density over the usual one of this soil, 0.9 loose to 1.3 compacted. Raises InputError where
    the equations do not hold.
    """
    _check(sand_percent, clay_percent, organic_percent, density_factor)
    s, c, om = sand_percent / 100, clay_percent / 100, organic_percent
    t1500 = -0.024 * s + 0.487 * c + 0.006 * om + 0.005 * s * om - 0.013 * c * om + 0.068 * s * c + 0.031
    wilting = t1500 + 0.14 * t1500 - 0.02
    t33 = -0.251 * s + 0.195 * c + 0.011 * om + 0.006 * s * om - 0.027 * c * om + 0.452 * s * c + 0.299
    capacity = t33 + 1.283 * t33**2 - 0.374 * t33 - 0.015
    ts33 = 0.278 * s + 0.034 * c + 0.022 * om - 0.018 * s * om - 0.027 * c * om - 0.584 * s * c + 0.078
    saturation = capacity + ts33 + 0.636 * ts33 - 0.107 - 0.097 * s + 0.043
    density = MINERAL_DENSITY * (1 - saturation) * density_factor
    packed = 1 - density / MINERAL_DENSITY
    capacity = capacity - 0.2 * (saturation - packed)
    if not 0 < wilting < capacity:
        raise InputError(
            f"these equations do not hold for {sand_percent:g} % sand and {clay_percent:g} % clay with "
            f"{organic_percent:g} % organic matter, packed {density_factor:g} times as dense as usual",
            "sand",
        )
    slope = (math.log(1500) - math.log(33)) / (math.log(capacity) - math.log(wilting))
    ks = 1930 * max(0.0, packed - capacity) ** (3 - 1 / slope)
    return Water(wilting, capacity, packed, ks, density)


def _check(sand: float, clay: float, organic: float, factor: float) -> None:
    if sand < 0 or clay < 0 or sand + clay > 100:
        raise InputError(f"sand {sand:g} % and clay {clay:g} % can't be one soil", "sand")
    for name, value, low, high in (
        ("clay", clay, 0.0, MOST_CLAY_PERCENT), ("organic_matter", organic, 0.0, MOST_ORGANIC_PERCENT),
        ("density_factor", factor, LOOSEST, DENSEST),
    ):  # fmt: skip
        if not low <= value <= high:
            raise InputError(f"must lie between {low:g} and {high:g} for these equations, not {value:g}", name)
