"""Ways of pouring: what share lands on the ball, how much arrives, how long it takes, in how many goes.

Hose, bucket, tank and boom, slow-release bag, emitters, soaker, slow sprinkler, wicked reservoir box. Efficiencies are
common practice, in tables/deliveries.csv.
"""

import math
from dataclasses import dataclass, replace
from functools import cache

import numpy as np

from june_shade.core import tables
from june_shade.core.errors import InputError
from june_shade.core.geometry import bulb
from june_shade.core.geometry.wetting import circle_overlap_m2
from june_shade.core.numbers import Numbers
from june_shade.core.units import LITRES_PER_US_GALLON
from june_shade.core.water.weather import MULCH_WETTING_MM

METHODS = ("hose", "bucket", "tank", "bag", "emitters", "soaker", "sprinkler", "wicked")
ON_A_VALVE = frozenset({"emitters", "soaker", "sprinkler"})
"""Ways that run from a valve: trees on one line get them all at once."""
INTO_A_BASIN = frozenset({"hose", "bucket", "tank"})
SOAKER_STEP_M = 0.30
"""A soaker hose wets like emitters so far apart (calibrated)."""
BAG_RADIUS_M = 0.30
"""Radius that a slow-release bag against the trunk wets (common practice)."""
EMITTER_RADIUS_SHARE = 2.0 / 3.0
"""Emitters on the ball sit at two thirds of its radius."""
SURFACE_STORAGE_MM = 5.0
"""Water that level ground holds before it runs, where no basin was built."""
WORKING_DAY_MIN = 8 * 60.0
"""What takes longer at the hose, rests and all, is more than a day's work: the rest is another day's (calibrated)."""
ALL_DAY_MIN = 24 * 60.0
LEAST_SHARE = 0.05
METRIC_STEP_L = 1.0
US_STEP_L = LITRES_PER_US_GALLON / 2


@dataclass(frozen=True, slots=True)
class Delivery:
    """How one tree is watered. Flows L/h, lengths m; only the fields of its method count.

    hose, bucket, tank: `flow_l_per_h` of the hose, the pour or the boom, into the basin. bag: bag_capacity_l, which
    drips out over bag_hours; flow_l_per_h fills it. emitters: their count and flow each, and wetted_m2, the ground that
    a layout of them wets, 0 = not laid out. soaker: one loop round the trunk, its diameter and flow a metre.
    sprinkler: the circle that it wets and its flow. wicked: a box that holds reservoir_l and gives by wick;
    flow_l_per_h fills it. ring_m2: the wide ring that a tree on its own is poured on, by hose or tank, 0 = none.
    step_l: pourable step, 0 = by unit system. leaching: share that only washes salts.
    """

    method: str
    flow_l_per_h: float
    basin_diameter_m: float | None = None
    basin_depth_m: float | None = None
    bag_capacity_l: float = 75.0
    bag_hours: float = 6.0
    emitters: int = 0
    emitter_flow_l_per_h: float = 0.0
    wetted_m2: float = 0.0
    soaker_across_m: float = 0.0
    soaker_flow_l_per_h_m: float = 0.0
    sprinkler_across_m: float = 0.0
    sprinkler_flow_l_per_h: float = 0.0
    reservoir_l: float = 0.0
    ring_m2: float = 0.0
    step_l: float = 0.0
    leaching: float = 0.0

    @property
    def on_a_valve(self) -> bool:
        """Whether it runs from a valve for so many minutes: what else is poured comes from a tank where there is one,
        bags and boxes too."""
        return self.method in ON_A_VALVE


@dataclass(frozen=True, slots=True)
class Goes:
    """Cycle and soak: run for run_min, rest rest_min, `count` times, all goes alike; the last run is last_min."""

    count: int
    run_min: float
    rest_min: float
    last_min: float


@dataclass(frozen=True, slots=True)
class Pour:
    """What to do: litres in one visit, minutes of running (rests not counted), the goes, minutes in all."""

    litres: float
    run_min: float
    goes: Goes
    total_min: float
    fills: int = 1


@cache
def _table() -> dict[str, dict[str, str]]:
    return {row["method"]: row for row in tables.read("deliveries")}


def efficiency(method: str) -> float:
    """Share of the poured water that arrives (common practice)."""
    if method not in METHODS:
        raise InputError(f"must be one of {', '.join(METHODS)}, not {method!r}", "delivery.method")
    return tables.number(_table()[method], "efficiency")


def on_the_ring(delivery: Delivery, ring_m2: float) -> Delivery:
    """How a tree on its own is poured: by hose, or from the tank, all over its wide ring [m2]; what stands at the trunk
    waters it no more."""
    return replace(
        delivery, method="tank" if delivery.method == "tank" else "hose", ring_m2=ring_m2, basin_depth_m=None
    )


def basin_area_m2(delivery: Delivery, ball_radius_m: float) -> float:
    """Area that is flooded [m2]: the wide ring's of a tree on its own, else the basin's, else a collar of 10 cm round
    the ball."""
    if delivery.ring_m2 > 0:
        return delivery.ring_m2
    if delivery.basin_diameter_m:
        return math.pi / 4 * delivery.basin_diameter_m**2
    return math.pi * (ball_radius_m + 0.10) ** 2


def emitter_ball_share(
    ball_radius_m: float, kind: str, soil_conductivity_mm_h: float, half_ball_l: float, count: int, flow_l_per_h: float
) -> float:
    """Share of the water of emitters on the ball (at 2/3 of its radius) that lands on it.

    Each wets the circle that half the ball's available water, shared between them, makes (calibrated volume;
    circle by [SZ86]); the share is the part of the circle on the ball.
    """
    if count < 1 or flow_l_per_h <= 0:
        raise InputError("needs at least one emitter with a flow above 0 L/h", "delivery.emitters")
    ks = bulb.spreads_mm_h(kind, soil_conductivity_mm_h)
    radius = bulb.diameter_m(half_ball_l / count, flow_l_per_h, ks) / 2
    on_ball = circle_overlap_m2(ball_radius_m, radius, EMITTER_RADIUS_SHARE * ball_radius_m)
    return float(on_ball / (math.pi * radius**2))


def soaker_strip_m(
    delivery: Delivery, kind: str, soil_conductivity_mm_h: float, half_ball_l: float
) -> tuple[float, float]:
    """Inner and outer radius [m] of the ring that a soaker loop wets (width by [SZ86], one emitter each 30 cm)."""
    if not delivery.soaker_across_m > 0 or not delivery.soaker_flow_l_per_h_m > 0:
        raise InputError("needs a loop and a flow above 0", "delivery.soaker")
    count = max(1.0, math.pi * delivery.soaker_across_m / SOAKER_STEP_M)
    ks = bulb.spreads_mm_h(kind, soil_conductivity_mm_h)
    width = bulb.diameter_m(half_ball_l / count, delivery.soaker_flow_l_per_h_m * SOAKER_STEP_M, ks)
    middle = delivery.soaker_across_m / 2
    return max(0.0, middle - width / 2), middle + width / 2


def ring_share(ball_radius_m: float, inner_m: float, outer_m: float) -> float:
    """Share of a ring's area that lies within the ball's circle round the same centre. Exact geometry."""
    return max(0.0, min(outer_m, ball_radius_m) ** 2 - inner_m**2) / (outer_m**2 - inner_m**2)


def ball_share(
    delivery: Delivery, ball_radius_m: float, kind: str, soil_conductivity_mm_h: float, ball_taw_l: float
) -> float:
    """Share of the poured water that lands on the ball, 0..1, by the way of pouring."""
    ball_area = math.pi * ball_radius_m**2
    if delivery.method == "bag":
        return min(1.0, ball_area / (math.pi * BAG_RADIUS_M**2))
    if delivery.method == "emitters":
        return emitter_ball_share(
            ball_radius_m,
            kind,
            soil_conductivity_mm_h,
            ball_taw_l / 2,
            delivery.emitters,
            delivery.emitter_flow_l_per_h,
        )
    if delivery.method == "soaker":
        return ring_share(ball_radius_m, *soaker_strip_m(delivery, kind, soil_conductivity_mm_h, ball_taw_l / 2))
    if delivery.method == "wicked":
        return 1.0
    return min(1.0, ball_area / wetted_area_m2(delivery, ball_radius_m))


def wetted_area_m2(delivery: Delivery, ball_radius_m: float) -> float:
    """Area that is flooded or sprinkled [m2]."""
    if delivery.method == "sprinkler":
        if not delivery.sprinkler_across_m > 0:
            raise InputError("needs the circle that it wets", "delivery.sprinkler")
        return math.pi / 4 * delivery.sprinkler_across_m**2
    return basin_area_m2(delivery, ball_radius_m)


def mulch_loss_l(delivery: Delivery, ball_radius_m: float, mulch_outer_radius_m: float, depth_share: Numbers) -> float:
    """Water that only wets the mulch each time [L]: 2 mm over the mulched wetted area, where poured on top."""
    if not int(_table()[delivery.method]["wets_mulch"]):
        return 0.0 * depth_share
    mulched = min(wetted_area_m2(delivery, ball_radius_m), math.pi * mulch_outer_radius_m**2)
    return MULCH_WETTING_MM * mulched * depth_share


def net_l(litres: Numbers, share_arriving: Numbers, loss_l: Numbers) -> Numbers:
    """Water that reaches soil [L] of what was poured: litres x efficiency less what wets the mulch.

    share_arriving: of what is poured, 0..1. Arrays broadcast.
    """
    return np.maximum(0.0, litres * share_arriving - loss_l)


def gross_l(net: Numbers, share_arriving: Numbers, loss_l: Numbers, leaching: Numbers = 0.0) -> Numbers:
    """Water to pour [L] so that `net` arrives: the reverse of `net_l`, leaching on top.

    share_arriving: of what is poured, 0..1. Arrays broadcast.
    """
    return np.where(net > 0, (net + loss_l) / (share_arriving * (1.0 - leaching)), 0.0)


def half_refill_l(ball_taw_l: float, share: float, share_arriving: float) -> float:
    """Water to pour [L] that refills a half empty ball; below a twentieth on the ball a way is hopeless as it is.

    share: that lands on the ball, share_arriving: of what is poured; both 0..1.
    """
    return ball_taw_l / 2 / max(share, LEAST_SHARE) / share_arriving


def pourable_l(litres: float, step_l: float) -> float:
    """Litres rounded up to a pourable step (1 L, half a gallon, a bucket).

    litres: as reckoned [L].
    """
    return math.ceil(litres / step_l - 1e-9) * step_l


def flow_l_per_h(delivery: Delivery) -> float:
    """Flow of the whole delivery [L/h]: all emitters together, the loop, the sprinkler, or the hose."""
    if delivery.method == "emitters":
        return delivery.emitters * delivery.emitter_flow_l_per_h
    if delivery.method == "soaker":
        return math.pi * delivery.soaker_across_m * delivery.soaker_flow_l_per_h_m
    return delivery.sprinkler_flow_l_per_h if delivery.method == "sprinkler" else delivery.flow_l_per_h


def timed_flow_l_per_h(litres: float, seconds: float) -> float:
    """Flow [L/h] from timing a bucket: 3600 litres / seconds."""
    if not litres > 0:
        raise InputError(f"must be above 0, not {litres:g}", "litres")
    if not seconds > 0:
        raise InputError(f"must be above 0, not {seconds:g}: time how long the bucket takes to fill", "seconds")
    return 3600.0 * litres / seconds


def cycle_and_soak(minutes: float, rate_mm_h: float, intake_mm_h: float, storage_mm: float) -> Goes:
    """Goes that the ground can take: at most S/(a - i) h each, then a rest until what stands has sunk, and again.

    As few goes as will do, all of the same length, so that none is a splash of seconds. rate_mm_h: application rate a
    on the wetted area; intake_mm_h: i; storage_mm: S that stands before it runs off.
    minutes: that water runs in all [min].
    """
    longest = longest_go_min(rate_mm_h, intake_mm_h, storage_mm)
    if minutes <= longest or minutes <= 0:
        return Goes(1, minutes, 0.0, minutes)
    count = math.ceil(minutes / longest - 1e-9)
    run = minutes / count
    return Goes(count, run, rest_min(run, rate_mm_h, intake_mm_h), run)


def longest_go_min(rate_mm_h: float, intake_mm_h: float, storage_mm: float) -> float:
    """Minutes until water stands as high as it can, inf where the ground keeps up: 60 S/(a - i)."""
    return 60.0 * storage_mm / (rate_mm_h - intake_mm_h) if rate_mm_h > intake_mm_h else math.inf


def rest_min(run_min: float, rate_mm_h: float, intake_mm_h: float) -> float:
    """Minutes until what stands after a run has sunk: run (a - i)/i."""
    return run_min * max(0.0, rate_mm_h - intake_mm_h) / intake_mm_h


@dataclass(frozen=True, slots=True)
class DayLimit:
    """What the ground takes in a working day: goes of run_min with rests between, litres of all of them."""

    litres: float
    goes: int
    run_min: float


def day_limit(delivery: Delivery, ball_radius_m: float, intake_mm_h: float) -> DayLimit | None:
    """How much can be poured at one tree in a day, None = as much as is wanted: a bag drips on, a wick draws on.

    Somebody stands at a hose for WORKING_DAY_MIN at most; a valve may run all day (common practice).
    """
    if delivery.method in ("bag", "wicked"):
        return None
    day = ALL_DAY_MIN if delivery.on_a_valve else WORKING_DAY_MIN
    rate, intake, storage = intensity(delivery, ball_radius_m, intake_mm_h)
    run = longest_go_min(rate, intake, storage)
    if run >= day:
        return DayLimit(flow_l_per_h(delivery) * day / 60.0, 1, day)
    rest = rest_min(run, rate, intake)
    goes = max(1, math.floor((day + rest) / (run + rest) + 1e-9))
    return DayLimit(flow_l_per_h(delivery) * goes * run / 60.0, goes, run)


def pour(
    delivery: Delivery, gross: float, ball_radius_m: float, intake_mm_h: float, step_l: float,
    most: DayLimit | None = None,
) -> Pour:  # fmt: skip
    """One visit: litres rounded up, at most what a day takes, minutes at the known flow, goes that the soil takes.

    gross: litres as reckoned [L].
    """
    step = delivery.step_l or step_l
    litres = pourable_l(gross, step)
    if most is not None and gross > most.litres:
        litres = min(litres, max(1, math.floor(most.litres / step + 1e-9)) * step)
    return _pour(delivery, litres, ball_radius_m, intake_mm_h)


def run(delivery: Delivery, minutes: float, ball_radius_m: float, intake_mm_h: float) -> Pour:
    """One visit on a line whose run time is set by another tree: what comes out here in so many minutes."""
    return _pour(delivery, flow_l_per_h(delivery) * minutes / 60.0, ball_radius_m, intake_mm_h)


def _pour(delivery: Delivery, litres: float, ball_radius_m: float, intake_mm_h: float) -> Pour:
    minutes = 60.0 * litres / flow_l_per_h(delivery)
    if delivery.method == "bag":
        fills = max(1, math.ceil(litres / delivery.bag_capacity_l - 1e-9))
        return Pour(litres, minutes, Goes(1, minutes, 0.0, minutes), minutes + 60.0 * delivery.bag_hours * fills, fills)
    goes = cycle_and_soak(minutes, *intensity(delivery, ball_radius_m, intake_mm_h))
    return Pour(litres, minutes, goes, minutes + (goes.count - 1) * goes.rest_min)


def intensity(delivery: Delivery, ball_radius_m: float, intake_mm_h: float) -> tuple[float, float, float]:
    """Application rate (0: drip not laid out, wick) and the soil's intake [mm/h], what stands before it runs [mm]."""
    if delivery.method in INTO_A_BASIN:
        storage = 1000.0 * delivery.basin_depth_m if delivery.basin_depth_m else SURFACE_STORAGE_MM
    elif delivery.method == "sprinkler":
        storage = SURFACE_STORAGE_MM
    elif delivery.method == "emitters" and delivery.wetted_m2 > 0:
        return flow_l_per_h(delivery) / delivery.wetted_m2, intake_mm_h, SURFACE_STORAGE_MM
    else:
        return 0.0, intake_mm_h, SURFACE_STORAGE_MM
    return flow_l_per_h(delivery) / wetted_area_m2(delivery, ball_radius_m), intake_mm_h, storage
