"""The water of planting day: refills the ball from its state and wets the backfill, in goes that the basin can hold."""

import math
from dataclasses import dataclass

from june_shade.core.errors import InputError
from june_shade.core.units import in_m
from june_shade.core.working import COMMON_PRACTICE, Step, worked

RIDGE_M = 0.08


@dataclass(frozen=True, slots=True)
class FirstWater:
    """ball_l, backfill_l: what each lacks; litres as poured in all; basin_l: what it holds once; goes; rest between
    [min]. times: how often that day: bare roots are soaked again when the first has settled the soil."""

    ball_l: float
    backfill_l: float
    litres: float
    basin_l: float
    goes: int
    rest_min: float
    times: int = 1


def first_water(
    ball_taw_l: float, ball_wetness: float, backfill_l: float, awc: float, backfill_wetness: float,
    basin_diameter_m: float, ridge_m: float, intake_mm_h: float, efficiency: float = 1.0,
    times: int = 1,
) -> FirstWater:  # fmt: skip
    """V = times (TAW_b (1 - w_b) + backfill x AWC_s (1 - w_s)) / efficiency; goes of pi/4 D2 x ridge (common practice).

    Volumes L, wetness as a share of available water 0..1. rest: until a filling has sunk, ridge / intake.
    ball_wetness, backfill_wetness: share of what each can hold, 0..1; awc: of the backfill [m3/m3].
    """
    for name, value in (("ball_wetness", ball_wetness), ("backfill_wetness", backfill_wetness)):
        if not 0 <= value <= 1:
            raise InputError(f"must be a share between 0 and 1, not {value:g}", name)
    if not basin_diameter_m > 0:
        raise InputError(f"must be above 0, not {in_m(basin_diameter_m)}", "basin_diameter_m")
    if not ridge_m > 0:
        raise InputError(f"must be above 0, not {in_m(ridge_m)}", "basin_depth_m")
    ball, backfill = ball_taw_l * (1 - ball_wetness), backfill_l * awc * (1 - backfill_wetness)
    holds = 1000 * math.pi / 4 * basin_diameter_m**2 * ridge_m
    once = (ball + backfill) / efficiency
    goes = times * max(1, math.ceil(once / holds - 1e-9))
    return FirstWater(ball, backfill, times * once, holds, goes, 60 * 1000 * ridge_m / intake_mm_h, times)


def working(
    made: FirstWater,
    ball_taw_l: float,
    ball_wetness: float,
    hole_backfill_l: float,
    awc: float,
    wetness: float,
    efficiency: float = 1.0,
) -> tuple[Step, ...]:
    """The sum behind a first water.

    Parameters as of `first_water`: ball_wetness, wetness and efficiency are shares 0..1, awc [m3/m3].
    """
    return (
        worked("planting.ballWater", "TAW × (1 − wetness)", made.ball_l, "L", COMMON_PRACTICE,
             TAW=(ball_taw_l, "L"), wetness=(ball_wetness, "")),
        worked("planting.backfillWater", "backfill × AWC × (1 − wetness)", made.backfill_l, "L", COMMON_PRACTICE,
             backfill=(hole_backfill_l, "L"), AWC=(awc, ""), wetness=(wetness, "")),
        worked("planting.firstWater", "times × (ball + backfill) / efficiency", made.litres, "L", COMMON_PRACTICE,
             times=(made.times, ""), ball=(made.ball_l, "L"), backfill=(made.backfill_l, "L"),
             efficiency=(efficiency, "")),
        worked("planting.basin", "1000 π/4 D² × ridge", made.basin_l, "L", "exact geometry"),
    )  # fmt: skip
