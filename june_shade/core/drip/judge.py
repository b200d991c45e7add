"""Findings on drip: closed codes with the rule behind each, one place for all of them."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from june_shade.core.drip.network import Emitter, Flowing, Tube, dead_ends
from june_shade.core.drip.tubes import FASTEST_M_S
from june_shade.core.numbers import Numbers

DRY_BALL_SHARE, DRY_BALL_UPTAKE = 0.25, 0.5
"""A layout leaves the ball dry that lands less than the first on it while the tree drinks more than the second."""
NO_BALL_SHARE, NO_BALL_UPTAKE = 0.05, 0.25
"""And one that lands next to nothing on it, as long as it drinks more than this from it."""
BESIDE_UPTAKE = 0.3
"""While the tree drinks more than this share from its ball, water is wanted on it."""
MOST_WANTED_ON_BALL = 0.5
WETTED_LOW, WETTED_HIGH = 0.50, 0.75
"""Wanted wetted part of the root zone of young trees (common practice)."""
WETTED_LOW_DRY = 0.60
"""Where rain is scarce the wetted part is all that roots have (common practice)."""
SHORTEST_MIN, LONGEST_MIN = 20.0, 360.0
"""Shorter is mostly filling tubes, longer runs into the day (common practice)."""


@dataclass(frozen=True, slots=True)
class Finding:
    """code: of the closed list in docs/glossary.md. message: one plain sentence. where: node or tree, "" = all."""

    code: str
    message: str
    where: str = ""


def wanted_share(uptake_from_ball: float) -> float:
    """Least share of the water that should land on the ball: min(f, 0.5) while f > 0.3, else 0.

    uptake_from_ball: f, 0..1.
    """
    return min(uptake_from_ball, MOST_WANTED_ON_BALL) if uptake_from_ball > BESIDE_UPTAKE else 0.0


def is_dry_ball(share: float, uptake_from_ball: float) -> bool:
    """Whether the water misses a ball that the tree still drinks from.

    share: of the water that lands on the ball, uptake_from_ball: f, both 0..1.
    """
    little = share < DRY_BALL_SHARE and uptake_from_ball > DRY_BALL_UPTAKE
    return little or (share < NO_BALL_SHARE and uptake_from_ball > NO_BALL_UPTAKE)


def of_ball(share: float, uptake_from_ball: float) -> list[Finding]:
    """dry_ball, or mostly_beside_ball.

    share: of the water that lands on the ball, uptake_from_ball: f, both 0..1.
    """
    if is_dry_ball(share, uptake_from_ball):
        return [Finding("dry_ball", f"only {share:.0%} of the water lands on the ball that the tree drinks from")]
    if share < wanted_share(uptake_from_ball):
        return [
            Finding(
                "mostly_beside_ball",
                f"{share:.0%} of the water lands on the ball, {wanted_share(uptake_from_ball):.0%} is wanted",
            )
        ]
    return []


def of_wetted(fraction: float, low: float = WETTED_LOW) -> list[Finding]:
    """wetted_fraction_low or _high; no_root_ground where obstacles leave no root zone (fraction NaN).

    low: least wetted fraction that will do, 0..1.
    """
    if np.isnan(fraction):
        return [Finding("no_root_ground", "obstacles and trunk leave no ground for the roots")]
    if fraction < low:
        return [
            Finding("wetted_fraction_low", f"{fraction:.0%} of the root zone gets water, at least {low:.0%} is wanted")
        ]
    if fraction > WETTED_HIGH:
        return [
            Finding("wetted_fraction_high", f"{fraction:.0%} of the root zone gets water, {WETTED_HIGH:.0%} is enough")
        ]
    return []


def of_run(minutes: float) -> list[Finding]:
    """run_time_short or run_time_long, for the running without its rests.

    minutes: that the valve is open [min].
    """
    if minutes < SHORTEST_MIN:
        return [
            Finding(
                "run_time_short", f"{minutes:.0f} min a watering: under {SHORTEST_MIN:.0f} min most of it fills tubes"
            )
        ]
    if minutes > LONGEST_MIN:
        return [Finding("run_time_long", f"{minutes:.0f} min a watering: over {LONGEST_MIN:.0f} min")]
    return []


def of_rate(rate_mm_h: float, intake_mm_h: float) -> list[Finding]:
    """rate_over_intake: more comes down on the wetted ground than it takes in."""
    if rate_mm_h <= intake_mm_h:
        return []
    return [
        Finding(
            "rate_over_intake", f"{rate_mm_h:.1f} mm/h on ground that takes {intake_mm_h:.1f}: run in goes with rests"
        )
    ]


def of_shallow(shallow: bool) -> list[Finding]:
    """shallow_bulb, where any bulb is over 7.2 depths wide."""
    return [Finding("shallow_bulb", "water spreads wide and stays shallow: it ponds and runs off")] if shallow else []


def of_places(x_m: Numbers, y_m: Numbers, trunk_diameter_m: float) -> list[Finding]:
    """emitter_in_trunk, where one would have to drip inside the wood."""
    inside = int(np.sum(np.hypot(x_m, y_m) < trunk_diameter_m / 2 - 1e-9))
    if not inside:
        return []
    return [Finding("emitter_in_trunk", f"{inside} emitters stand inside the trunk, {trunk_diameter_m:.2f} m across")]


def of_ground(emitters_on_it: int, tubes_across: int) -> list[Finding]:
    """ground_taken, where emitters or tubes lie on what stands there.

    emitters_on_it, tubes_across: how many, counts.
    """
    if not emitters_on_it and not tubes_across:
        return []
    return [
        Finding("ground_taken", f"{emitters_on_it} emitters and {tubes_across} tubes lie where something stands by now")
    ]


def of_digging(tubes: int) -> list[Finding]:
    """dug_near_line, where tubes are dug in beside a buried line.

    tubes: how many of them, a count.
    """
    if not tubes:
        return []
    return [Finding("dug_near_line", f"{tubes} tubes are dug in beside a buried line: have it marked, dig by hand")]


def of_flow(tubes: Sequence[Tube], emitters: Sequence[Emitter], flowing: Flowing) -> list[Finding]:
    """velocity_high, head_low, head_high, no_head, dead_end: each once, naming the worst place."""
    found = []
    fast = int(np.argmax(flowing.velocity_m_s))
    if flowing.velocity_m_s[fast] > FASTEST_M_S:
        tube = tubes[fast]
        found.append(Finding(
            "velocity_high",
            f"{flowing.velocity_m_s[fast]:.2f} m/s from {tube.start} to {tube.end}: take a wider tube",
            tube.end,
        ))  # fmt: skip
    head = flowing.emitter_head_m
    dry = head <= 0
    low = np.array([e.compensating and h < e.min_head_m for e, h in zip(emitters, head, strict=True)]) & ~dry
    high = np.array([
        e.max_head_m is not None and h > e.max_head_m for e, h in zip(emitters, head, strict=True)
    ])  # fmt: skip
    for code, there, order, words in (
        ("no_head", dry, head, "no water comes out"),
        ("head_low", low, head, "under its working pressure"),
        ("head_high", high, -head, "over its working pressure"),
    ):
        if np.any(there):
            worst = int(np.argmin(np.where(there, order, np.inf)))
            node = emitters[worst].node
            count = int(np.sum(there))
            found.append(
                Finding(code, f"{head[worst]:.2f} m at {node}, {words} ({count} of {len(head)} emitters)", node)
            )
    found += [
        Finding("dead_end", f"the tube to {node} leads nowhere: no emitter there and no further tube", node)
        for node in dead_ends(tubes, emitters)[:1]
    ]
    return found
