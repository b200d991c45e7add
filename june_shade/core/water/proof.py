"""How deep one watering wets the ground: where a rod stops after it. What proves that the water got there."""

import math

from june_shade.core.geometry import bulb
from june_shade.core.water.delivery import SOAKER_STEP_M, Delivery


def circle_depth_m(net_l: float, area_m2: float, missing: float, most_m: float) -> float:
    """Depth [m] that water poured onto an area wets: it fills what is missing from the top down (arithmetic).

    net_l: that lands there. area_m2: of the wet circle. missing: water that the soil under it lacks to field capacity
    [m3/m3]; where next to nothing is missing it goes as deep as the roots. most_m: depth of the roots.
    """
    if missing <= 0 or net_l >= 1000.0 * area_m2 * missing * most_m:
        return most_m
    return net_l / (1000.0 * area_m2 * missing)


def emitters_of(how: Delivery) -> int:
    """How many point sources a way of pouring has, 0 = none: a soaker wets like emitters so far apart."""
    if how.method == "emitters":
        return how.emitters
    if how.method == "soaker":
        return max(1, round(math.pi * how.soaker_across_m / SOAKER_STEP_M))
    return 0


def bulb_depth_m(litres: float, emitters: int, flow_l_per_h: float, conductivity_mm_h: float) -> float:
    """Depth [m] under emitters that share these litres, at the end of the run. Source: [SZ86].

    flow_l_per_h: of all together. conductivity_mm_h: of the ground under them, a proof in the field overrides it.
    """
    return 0.0 if litres <= 0 else float(bulb.depth_m(litres / emitters, flow_l_per_h / emitters, conductivity_mm_h))


def sunk_depth_m(bulb_m: float, net_l: float, area_m2: float, missing: float, most_m: float) -> float:
    """Depth [m] once it has sunk in: the bulb's, or deeper where what the wet ground lacks is less than it got.

    missing: what the soil lacks to field capacity [m3/m3].
    """
    return min(most_m, max(bulb_m, circle_depth_m(net_l, area_m2, missing, most_m)))
