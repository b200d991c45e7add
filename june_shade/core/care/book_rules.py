"""The rules that books and extension services give for watering new trees, beside what the balance says.

All are rules of thumb: gallons per inch of caliper and a calendar. They know no weather and no soil; they serve as
a cross-check, never as the plan. Volumes in litres a watering for the tree's caliper.
"""

from dataclasses import dataclass

from june_shade.core.units import LITRES_PER_US_GALLON, METRES_PER_INCH

FEW_DAYS = 7
USUAL_ETO_MM = 5.0
"""The rules are written for warm growing weather: about this ETo a day (common practice)."""
USUAL_PLANT_FACTOR = 0.5
"""The rules know no species: half of ETo is a usual tree's demand (common practice)."""
TELLS = 0.25
"""A reason tells where it accounts for this share of the gap between plan and rules."""
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


@dataclass(frozen=True, slots=True)
class Week:
    """A tree's coming week as the balance plans it, and what may part it from the rules.

    weekly_l: poured [L]; waterings: how many. eto_mm: mean a day. microclimate, plant_factor: factors on it. rain_l:
    rain of the week behind and counted ahead on ball and roots [L]. uptake_from_ball 0..1. ball_takes_l: what the ball
    can take in a watering [L]. arrives: share of what is poured that reaches soil and is not for washing salts.
    behind_l: what the first watering makes up for days before [L]. saving: growth is held on purpose. capped: this way
    of pouring can't refill the ball. shared: a line runs for another tree. wide: much lands beyond the roots. limited:
    it gets less than it wants, since crews' hours or orders do not allow more.
    """

    weekly_l: float
    waterings: float
    eto_mm: float
    microclimate: float
    plant_factor: float
    rain_l: float
    uptake_from_ball: float
    ball_takes_l: float
    arrives: float
    behind_l: float
    saving: bool
    capped: bool
    shared: bool
    wide: bool
    limited: bool = False


def parting(found: tuple[BookRule, ...], week: Week) -> tuple[str, ...]:
    """Why the balance's week parts from the rules, as codes; none where it lies among them.

    A factor is told only where the plan without it would lie nearer by a quarter of the gap. Codes where it gives less:
    limited, cool, shade, low_need, rain, saving, capped, small_ball; where more: hot, hot_place, high_need, lost,
    behind, wide, roots_out; either way: shared; where nothing of these tells: weather_soil_stock.
    """
    low, high = min(r.weekly_low_l for r in found), max(r.weekly_high_l for r in found)
    if low <= week.weekly_l <= high:
        return ()
    reasons = _less(found, week, low) if week.weekly_l < low else _more(found, week, high)
    if week.shared:
        reasons.append("shared")
    return tuple(reasons) or ("weather_soil_stock",)


def _demand(week: Week) -> tuple[tuple[str, str, float], ...]:
    """What scales the demand: codes for less and for more, and the factor over what the rules take for usual."""
    return (
        ("cool", "hot", week.eto_mm / USUAL_ETO_MM),
        ("shade", "hot_place", week.microclimate),
        ("low_need", "high_need", week.plant_factor / USUAL_PLANT_FACTOR),
    )


def _less(found: tuple[BookRule, ...], week: Week, low_l: float) -> list[str]:
    gap = low_l - week.weekly_l
    without = [(less, week.weekly_l / max(factor, 0.05) - week.weekly_l) for less, _, factor in _demand(week)]
    without.append(("rain", week.rain_l))
    reasons = ["limited"] if week.limited else []
    reasons += [code for code, nearer in without if nearer >= TELLS * gap]
    reasons += [code for code, holds in (("saving", week.saving), ("capped", week.capped)) if holds]
    if week.uptake_from_ball > ROOTS_OUT and week.ball_takes_l < min(r.litres_low for r in found):
        reasons.append("small_ball")
    return reasons


def _more(found: tuple[BookRule, ...], week: Week, high_l: float) -> list[str]:
    gap = week.weekly_l - high_l
    without = [(more, week.weekly_l - week.weekly_l / max(factor, 0.05)) for _, more, factor in _demand(week)]
    without += [("lost", week.weekly_l * (1 - week.arrives)), ("behind", week.behind_l)]
    reasons = [code for code, nearer in without if nearer >= TELLS * gap]
    if week.wide:
        reasons.append("wide")
    each_l = week.weekly_l / max(week.waterings, 1e-9)
    seldom = week.waterings < max(FEW_DAYS / r.days_high for r in found)
    if week.uptake_from_ball <= ROOTS_OUT and each_l > max(r.litres_high for r in found) and seldom:
        reasons.append("roots_out")
    return reasons
