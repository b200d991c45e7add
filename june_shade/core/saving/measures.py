"""Things that can be changed at a tree to save water: which suit it, what they turn it into, what they take to do.

Minutes and parts are common practice; all are shown beside what they bring.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from june_shade.core.errors import InputError
from june_shade.core.water.delivery import INTO_A_BASIN

BASIN_NARROW, BASIN_WIDE, BAG, MULCH, TURF, DRIP, BOX, DAWN, OTHER_WATER = MEASURES = (
    "basin_narrow", "basin_wide", "bag", "mulch", "turf", "drip", "box", "dawn", "other_water",
)  # fmt: skip
TASKS = tuple(f"save_{name}" for name in MEASURES[:-1])
"""What becomes of a measure among a tree's dated tasks; other water is no work at a tree."""
RECLAIMED = "reclaimed"
"""The other water that is reckoned with."""
PARTS = ("bag", "box", "emitter", "tube_m", "mulch_m3")
"""What is bought for them: pieces, metres of tube, cubic metres of mulch as it is delivered."""
STEP_M, LEAST_CHANGE_M, WIDEST_M = 0.05, 0.15, 6.0
"""A basin is built to this step; a change under the second is none."""
BAG_L, BOX_L = 75.0, 55.0
"""What a slow-release bag and a wicked box usually hold [L]."""
NARROW_MIN, WIDEN_MIN, BAG_MIN, BOX_MIN, DRIP_MIN, EMITTER_MIN = 10.0, 15.0, 5.0, 60.0, 20.0, 2.0
"""Minutes to rebuild a basin, wrap a bag, set a box; to run drip to a tree, and for each emitter of it (common
practice)."""
SOD_MIN_M2, MULCH_MIN_L = 12.0, 0.08
"""Minutes to lift a square metre of sod, and to barrow and spread a litre of loose mulch (common practice)."""
AFTERNOON_LOSS: Mapping[str, float] = {"hose": 0.03, "bucket": 0.03, "tank": 0.03, "soaker": 0.05, "sprinkler": 0.15}
"""More of the water that an afternoon takes than a dawn, by way of watering (common practice; sprinklers lose most, to
wind and dry air)."""


@dataclass(frozen=True, slots=True)
class Stands:
    """A tree as measures see it: how it is watered, its ball and roots, what lies around it. Lengths m.

    ring: material, depth, radius and gap of the mulch that it should have, None where nothing is to be laid, and
    ring_l loose litres that are missing. layout: what its best drip layout makes of it, None where it has drip or none
    can be laid; emitters: of it, tube_m: its tube. turf_m2: sod over its roots. afternoons: most of its waterings were.
    on_line: it shares a valve.
    """

    method: str
    ball_radius_m: float
    roots_m: float
    basin_diameter_m: float | None
    on_line: bool = False
    ring: Mapping[str, Any] | None = None
    ring_l: float = 0.0
    layout: Mapping[str, Any] | None = None
    emitters: int = 0
    tube_m: float = 0.0
    turf_m2: float = 0.0
    afternoons: bool = False


@dataclass(frozen=True, slots=True)
class Try:
    """One thing to change: its name, what it turns fields of the tree into, minutes of work, parts by name.

    lost: share of the water that is lost now and not then, 0 = none.
    """

    measure: str
    fields: Mapping[str, Any]
    minutes: float
    parts: Mapping[str, float] = field(default_factory=dict)
    lost: float = 0.0


def tries(tree: Stands) -> tuple[Try, ...]:
    """What can be tried at a tree, in the order of MEASURES."""
    found = [*_basins(tree), *_vessels(tree)]
    if tree.ring is not None:
        found.append(
            Try(MULCH, tree.ring, 5.0 + MULCH_MIN_L * tree.ring_l, {"mulch_m3": tree.ring_l / 1000.0})
        )  # fmt: skip
    if tree.turf_m2 > 0:
        found.append(Try(TURF, {"surround": "bare"}, max(5.0, SOD_MIN_M2 * tree.turf_m2)))
    if tree.layout is not None:
        found.append(
            Try(DRIP, tree.layout, DRIP_MIN + EMITTER_MIN * tree.emitters,
                {"emitter": float(tree.emitters), "tube_m": tree.tube_m})
        )  # fmt: skip
    lost = AFTERNOON_LOSS.get(tree.method, 0.0) if tree.afternoons else 0.0
    if lost > 0:
        found.append(Try(DAWN, {}, 0.0, lost=lost))
    return tuple(sorted(found, key=lambda one: MEASURES.index(one.measure)))


def _basins(tree: Stands) -> list[Try]:
    """The basin narrowed to the ball, or widened to the roots."""
    if tree.method not in INTO_A_BASIN:
        return []
    ball_m, roots_m = _built_m(2 * tree.ball_radius_m), min(WIDEST_M, _built_m(2 * tree.roots_m))
    found = []
    if tree.basin_diameter_m is not None and tree.basin_diameter_m - ball_m >= LEAST_CHANGE_M:
        found.append(Try(BASIN_NARROW, {"basin_diameter_m": ball_m}, NARROW_MIN))
    if roots_m - (tree.basin_diameter_m or ball_m) >= LEAST_CHANGE_M:
        found.append(Try(BASIN_WIDE, {"basin_diameter_m": roots_m}, WIDEN_MIN))
    return found


def _vessels(tree: Stands) -> list[Try]:
    """A bag round the trunk, a box with wicks: for trees that somebody stands at."""
    if tree.on_line or tree.method not in INTO_A_BASIN:
        return []
    return [
        Try(BAG, {"method": "bag", "bag_capacity_l": BAG_L}, BAG_MIN, {"bag": 1.0}),
        Try(BOX, {"method": "wicked", "reservoir_l": BOX_L}, BOX_MIN, {"box": 1.0}),
    ]


def _built_m(diameter_m: float) -> float:
    """A basin's diameter as it is built."""
    return round(math.ceil(diameter_m / STEP_M - 1e-9) * STEP_M, 2)


def check_prices(prices: Mapping[str, float | None]) -> None:
    """Refuse prices of what is no part, or below 0. Raises InputError naming the part."""
    for name, price in prices.items():
        if name not in PARTS:
            raise InputError(f"must be one of {', '.join(PARTS)}, not {name!r}", "prices")
        if price is not None and not 0 <= price <= 100_000:
            raise InputError("must be from 0 to 100,000", f"prices.{name}")
