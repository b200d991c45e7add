"""The rules that books and extension services give for watering new trees, beside what the balance says.

All are rules of thumb: gallons per inch of caliper and a calendar. They know no weather and no soil; they serve as
a cross-check, never as the plan. Volumes in litres a watering for the tree's caliper.
"""

from dataclasses import dataclass

from june_shade.core.units import LITRES_PER_US_GALLON, METRES_PER_INCH

FEW_DAYS = 7
COOL_ETO_MM = 4.0
"""The rules are written for warm growing weather: below this ETo a tree wants less (common practice)."""
RAIN_COUNTS_MM = 10.0
"""Rain in a week from which the rules themselves say to skip or cut down (common practice)."""
ROOTS_OUT = 0.5
"""Once less than this share of the uptake is the ball's, a watering fills far more than the ball."""


@dataclass(frozen=True, slots=True)
class BookRule:
    """One rule at a tree's age: litres a watering from low to high, and days between waterings from low to high."""

    key: str
    litres_low: float
    litres_high: float
    days_low: float
    days_high: float
    source: str

    @property
    def weekly_low_l(self) -> float:
        """Least litres a week that it comes to."""
        return self.litres_low * FEW_DAYS / self.days_high

    @property
    def weekly_high_l(self) -> float:
        """Most litres a week that it comes to."""
        return self.litres_high * FEW_DAYS / self.days_low


def _gallons(gallons: float) -> float:
    return gallons * LITRES_PER_US_GALLON


def rules(caliper_m: float, days_since_planting: int) -> tuple[BookRule, ...]:
    """The rules for a tree of this caliper [m] so many days after planting (from memory of the works named)."""
    inches = caliper_m / METRES_PER_INCH
    umn_days = (1, 1) if days_since_planting < 14 else (2, 3) if days_since_planting < 84 else (7, 7)
    return (
        BookRule("umn", _gallons(inches), _gallons(1.5 * inches), *umn_days, "[UMN]"),
        BookRule("uf", _gallons(2 * inches), _gallons(3 * inches), *_florida_days(inches, days_since_planting), "[UF]"),
        BookRule("csu", _gallons(10 * inches), _gallons(10 * inches), 7, 7, "[CSU]"),
    )


def _florida_days(inches: float, days: int) -> tuple[int, int]:
    daily, every_other = (14, 74) if inches < 2 else (30, 120) if inches <= 4 else (42, 192)
    return (1, 1) if days < daily else (2, 2) if days < every_other else (7, 7)


def parting(
    found: tuple[BookRule, ...],
    weekly_l: float,
    *,
    eto_mm: float,
    rain_mm: float,
    uptake_from_ball: float,
    ball_takes_l: float,
    capped: bool,
) -> tuple[str, ...]:
    """Why the balance's week [L] parts from the rules, as codes; none where it lies among them.

    eto_mm: mean a day over the week ahead. rain_mm: rain of the week behind and counted ahead. ball_takes_l: what the
    ball can take in a watering. Codes: cool, rain, small_ball, roots_out, capped, weather_soil_stock.
    """
    low, high = min(r.weekly_low_l for r in found), max(r.weekly_high_l for r in found)
    if low <= weekly_l <= high:
        return ()
    reasons = []
    if weekly_l < low:
        if eto_mm < COOL_ETO_MM:
            reasons.append("cool")
        if rain_mm >= RAIN_COUNTS_MM:
            reasons.append("rain")
        if capped:
            reasons.append("capped")
        if uptake_from_ball > ROOTS_OUT and ball_takes_l < min(r.litres_low for r in found):
            reasons.append("small_ball")
    elif uptake_from_ball <= ROOTS_OUT:
        reasons.append("roots_out")
    return tuple(reasons) or ("weather_soil_stock",)
