"""Ways of watering by rule of thumb, the schools: on which days each pours, and how much (common practice).

A day's number counts from the day on which the routine was taken up.
"""

from dataclasses import dataclass

import numpy as np

from june_shade.core.water.ground import Ground
from june_shade.core.water.stores import Array, State, Trees
from june_shade.core.water.weather import Weather

ROUTINES = (
    "balance", "none", "fixed", "taper", "heat", "rainfall", "slow_hose", "deep", "bare_root", "when_dry",
)  # fmt: skip
ON_A_DAY = frozenset({"fixed", "taper", "rainfall", "slow_hose", "deep", "bare_root"})
"""Those that name their days: a visit that nobody made is still owed. The others look at each day anew."""
NEEDS = {
    "balance": (), "none": (), "fixed": ("litres", "every_days"), "taper": ("litres",), "heat": ("litres",),
    "rainfall": ("mm",), "slow_hose": ("flow_l_per_h", "hours"), "deep": ("every_days",), "bare_root": ("litres",),
    "when_dry": ("limit",),
}  # fmt: skip
"""Which figures each goes by."""
RANGES = {
    "litres": (0.1, 2000.0), "every_days": (1, 60), "mm": (1.0, 200.0), "flow_l_per_h": (0.5, 5000.0),
    "hours": (0.1, 24.0), "limit": (0.05, 1.0),
}  # fmt: skip
"""What these figures can be: litres [L], days, rain a week [mm], flow [L/h] and hours [h] of a hose, dryness 0..1."""
BY_THE_REFILL = frozenset({"balance", "deep", "when_dry"})
"""Those that pour what would refill the tree."""

DAILY_DAYS, THRICE_DAYS = 14, 28
THRICE, TWICE = (0, 2, 4), (0, 3)
"""Days of a week on which schools water three times and twice."""
WARM_C = 15.0
COLD_MONTH_C, HOT_MONTH_C, WET_WEEK_MM = 7.0, 20.0, 25.0
NEARLY_EMPTY, IN_LEAF = 0.8, 0.1


@dataclass(frozen=True, slots=True)
class Routine:
    """How a tree is watered, by name and what that needs: all litres as poured.

    balance: refill on due days; none; fixed: `litres` on day 0 and every `every_days` after; taper: `litres` daily,
    from the third week three times a week, from the fifth twice; heat: `litres` on warm days, by temperature; rainfall:
    `mm` a week less what fell; slow_hose: `flow_l_per_h` for `hours`, by season; deep: a refill every `every_days`;
    bare_root: twice `litres` on day 0, half where the ball is nearly empty, `litres` a week from leaf-out on; when_dry:
    a refill where the ball is drier than `limit`.
    """

    name: str
    litres: float = 0.0
    every_days: int = 1
    mm: float = 0.0
    flow_l_per_h: float = 0.0
    hours: float = 0.0
    limit: float = 0.5


@dataclass(frozen=True, slots=True)
class Sky:
    """What schools go by beside the balance's weather: mean temperature [degC] and rain [mm] of each day, arrays
    (days,); leaf_out: the first day in leaf, None = none is. before: how many of the days lie before day 0."""

    tmean_c: Array
    rain_mm: Array
    leaf_out: int | None
    before: int = 0

    def of_day_c(self, day: int) -> float:
        """Mean temperature of a day [degC]."""
        return float(self.tmean_c[self.before + day])

    def week_before_mm(self, day: int) -> float:
        """Rain of the seven days before a day [mm]."""
        at = self.before + day
        return float(np.sum(self.rain_mm[max(0, at - 7) : at]))

    def in_leaf(self, day: int) -> bool:
        """Whether leaves are out by a day."""
        return self.leaf_out is not None and day >= self.leaf_out


@dataclass(frozen=True, slots=True)
class Look:
    """What a school sees of a day: its number, mean temperature of up to 30 days ending that day [degC], the trees on
    their ground; refill_l: what would refill each, as poured, array (trees,)."""

    day: int
    month_c: float
    above: Sky
    trees: Trees
    ground: Ground
    state: State
    refill_l: Array

    @property
    def ball_dryness(self) -> Array:
        """How dry each ball is, 0..1."""
        dry: Array = np.maximum(0.0, self.state.ball_depletion_l) / self.trees.ball_taw_l
        return dry


def sky(days: list[Weather], tmean_c: Array) -> Sky:
    """What schools go by, of a season's days and their mean temperatures [degC]."""
    leaf_out = next((i for i, day in enumerate(days) if float(np.max(day.leaf)) > IN_LEAF), None)
    return Sky(np.asarray(tmean_c, float), np.array([float(np.max(day.rain_mm)) for day in days]), leaf_out)


def poured_l(routine: Routine, look: Look) -> Array:
    """What a school pours on a day [L], 0 on days on which it doesn't, arrays (trees,)."""
    return np.where(pours(routine, look), amount_l(routine, look), np.zeros(len(look.trees)))


def pours(routine: Routine, look: Look) -> Array | bool:
    """Whether a day is one of a school's."""
    day, of_week = look.day, look.day % 7
    match routine.name:
        case "fixed" | "deep":
            return day % routine.every_days == 0
        case "taper":
            return day < DAILY_DAYS or of_week in (THRICE if day < THRICE_DAYS else TWICE)
        case "heat":
            return look.above.of_day_c(day) >= WARM_C
        case "rainfall":
            return of_week == 0
        case "slow_hose":
            return _hose_runs(look)
        case "bare_root":
            if day and not look.above.in_leaf(day):
                return look.ball_dryness > NEARLY_EMPTY
            return day == 0 or (day - (look.above.leaf_out or 0)) % 7 == 0
        case "when_dry":
            return look.ball_dryness > routine.limit
        case _:
            return False


def amount_l(routine: Routine, look: Look) -> Array | float:
    """What a school pours when it pours on this day [L]."""
    match routine.name:
        case "rainfall":
            lacks_mm = max(0.0, routine.mm - look.above.week_before_mm(look.day))
            kept_m2: Array = np.sum(look.ground.kept_m2, axis=0)
            return lacks_mm * kept_m2
        case "heat":
            return routine.litres * float(np.clip((look.above.of_day_c(look.day) - 10.0) / 20.0, 0.5, 1.0))
        case "slow_hose":
            return routine.flow_l_per_h * routine.hours
        case "bare_root":
            if look.day == 0:
                return 2 * routine.litres
            return routine.litres if look.above.in_leaf(look.day) else routine.litres / 2
        case name if name in BY_THE_REFILL:
            return look.refill_l
        case _:
            return routine.litres


def _hose_runs(look: Look) -> bool:
    """Whether the slow hose runs: by the month's warmth, and where it is warmer not after a wet week."""
    if look.month_c < COLD_MONTH_C:
        return look.day % 14 == 0
    if look.above.week_before_mm(look.day) >= WET_WEEK_MM:
        return False
    return look.day % 7 in (THRICE if look.month_c >= HOT_MONTH_C else TWICE)
