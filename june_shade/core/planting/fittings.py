"""What stands and lies round a new tree: support, bark wrap, guard, edging ring, and when each comes off.

Only where needed; suggestions, all editable. Source: common practice.
"""

from dataclasses import dataclass

SUPPORTS = ("none", "one_stake", "two_posts")
GUARDS = ("none", "mower", "animals")
SUPPORT_DAYS = 365
WRAP_DAYS = 730
TALL_CALIPER_M = 0.06
WINDY = 1.2
RINGS_M = ((5.0, 0.30), (10.0, 0.60))
WIDEST_RING_M = 0.90
"""An edging ring 30, 60 or 90 cm across by how wide the tree grows (common practice; this program's bounds)."""


@dataclass(frozen=True, slots=True)
class Fittings:
    """What is put up: support, wrap, guard; an edging ring's diameter [m], 0 = none. why: codes by name."""

    support: str
    wrap: bool
    guard: str
    edging_m: float
    why: dict[str, str]


def suggested(
    kind: str, caliper_m: float, microclimate: float, surround: str, climate: str, mature_spread_m: float
) -> Fittings:
    """What this tree needs at this place.

    microclimate: factor on the air's thirst, 1 = open.
    """
    windy = microclimate >= WINDY
    why = {"support": "stands_by_itself", "wrap": "no_hot_sun", "guard": "nothing_near", "edging": "no_turf"}
    support = "none"
    if kind == "bare_root":
        support, why["support"] = "one_stake", "no_ball_to_hold_it"
    elif windy:
        support = "two_posts" if caliper_m >= TALL_CALIPER_M else "one_stake"
        why["support"] = "windy_place"
    wrap = climate == "dry" and microclimate >= 1.0
    if wrap:
        why["wrap"] = "hot_sun_on_bark"
    guard, edging = "none", 0.0
    if surround == "turf":
        guard, why["guard"] = "mower", "mower_near"
        edging, why["edging"] = ring_m(mature_spread_m), "turf_round_it"
    return Fittings(support, wrap, guard, edging, why)


def ring_m(mature_spread_m: float) -> float:
    """Diameter of an edging ring [m]."""
    return next((across for most, across in RINGS_M if mature_spread_m < most), WIDEST_RING_M)
