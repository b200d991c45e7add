"""From settled mulch to what is ordered and carried: loose volume, barrows and tubs, loads, a spare, what is at hand.

Volumes L. Sizes of what is carried are common practice: barrow, 15-gal tub, 32-gal bin, 2 ft3 bag.
"""

import math
from dataclasses import dataclass

from june_shade.core.errors import InputError
from june_shade.core.units import in_l
from june_shade.core.working import Step, worked

LITRES_PER_CUBIC_YARD = 764.554857984
CARRIED_L = {"barrow_85_l": 85.0, "tub_57_l": 57.0, "bin_121_l": 121.0, "bag_57_l": 57.0}
SPARE_SHARE = 0.05
"""Ordered on top, so that the last tree is not short (common practice)."""
QUARTER_YARD_L, TENTH_M3_L = LITRES_PER_CUBIC_YARD / 4, 100.0
"""Bulk is sold in these steps (common practice)."""
SWELL = 1.25
"""Dug soil over the same soil in place (common practice: about a quarter more)."""
TRUCK_L = 1500.0
"""What a pickup's bed takes of mulch, about 2 yd3 (common practice); typed by whoever has another."""


def carried(loose_l: float) -> dict[str, int]:
    """How many of each carrier a loose volume [L] fills, the last one not full."""
    return {name: math.ceil(loose_l / size - 1e-9) for name, size in CARRIED_L.items()}


@dataclass(frozen=True, slots=True)
class Order:
    """One material: needed loose [L], spare on top, on hand, to buy in whole steps, loads to drive, what it fills."""

    loose_l: float
    spare_l: float
    on_hand_l: float
    buy_l: float
    buy_yards: float
    buy_m3: float
    loads: int
    carried: dict[str, int]
    working: tuple[Step, ...] = ()


def order(loose_l: float, on_hand_l: float = 0.0, truck_l: float = TRUCK_L, spare: float = SPARE_SHARE) -> Order:
    """What is bought and driven for a loose volume [L]. Raises InputError for a truck without room.

    spare: share that is bought over, 0..1.
    """
    if not truck_l > 0:
        raise InputError(f"must be above 0, not {in_l(truck_l)}", "truck_l")
    if not 0 <= spare <= 1:
        raise InputError(f"must be a share between 0 and 1, not {spare:g}", "spare")
    kind = "common practice"
    extra = loose_l * spare
    buy = max(0.0, loose_l + extra - max(0.0, on_hand_l)) if loose_l > 0 else 0.0
    taken = loose_l + extra
    return Order(
        loose_l=loose_l,
        spare_l=extra,
        on_hand_l=on_hand_l,
        buy_l=buy,
        buy_yards=math.ceil(buy / QUARTER_YARD_L - 1e-9) / 4,
        buy_m3=math.ceil(buy / TENTH_M3_L - 1e-9) / 10,
        loads=math.ceil(taken / truck_l - 1e-9),
        carried=carried(taken),
        working=(
            worked("order.spare", "loose × spare", extra, "L", kind, loose=(loose_l, "L"), spare=(spare, "")),
            worked("order.taken", "loose + spare", taken, "L", kind, loose=(loose_l, "L"), spare=(extra, "L")),
            worked("order.buy", "max(0, loose + spare − in the yard)", buy, "L", kind, taken=(taken, "L"),
                 yard=(on_hand_l, "L")),
            worked("order.loads", "⌈(loose + spare) / truck⌉", math.ceil(taken / truck_l - 1e-9), "", kind,
                 taken=(taken, "L"), truck=(truck_l, "L")),
        ),
    )  # fmt: skip
