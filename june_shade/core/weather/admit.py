"""Which days of weather can be, whatever brings them: a file, a service, a hand. One place for all of them."""

import math
from collections.abc import Mapping, Sequence
from datetime import date, timedelta

from june_shade.core.errors import InputError

FIRST_DAY, LAST_DAY = date(1850, 1, 1), date(2200, 12, 31)
"""No record of trees and weather has days beyond them."""
FORECAST_AHEAD_DAYS, MOST_FORECAST_DAYS = 30, 60
"""No forecast says anything of days farther ahead; one brings at most so many days."""


LIMITS: dict[str, tuple[float, float]] = {
    "tmin_c": (-90, 60), "tmax_c": (-90, 60), "dew_point_c": (-90, 60), "rain_mm": (0, 2000), "rh_percent": (0, 100),
    "rh_min_percent": (0, 100), "rh_max_percent": (0, 100), "wind_m_s": (0, 120), "sun_h": (0, 24),
    "radiation_mj_m2": (0, 50), "eto_station_mm": (0, 30),
}  # fmt: skip
"""The least and the most that each quantity of a day can be, in the unit that ends its name; rain and radiation a day.
Beyond the records of the world by a little (WMO's archive of extremes; from memory)."""


def can_be(quantity: str, value: float) -> bool:
    """Whether a value of LIMITS can have been measured."""
    low, high = LIMITS[quantity]
    return math.isfinite(value) and low <= value <= high


ORDERED = (("tmin_c", "tmax_c"), ("rh_min_percent", "rh_max_percent"))
"""Quantities of a day of which the first is never over the second."""
IN_WORDS = {"tmax_c": "the day's high", "rh_max_percent": "the highest humidity"}


def readings(values: Mapping[str, float | None]) -> None:
    """Raises InputError naming the first quantity of a day that can't be beside another one.

    values: by quantity, in the unit that ends its name; None = not measured.
    """
    for low, high in ORDERED:
        less, more = values.get(low), values.get(high)
        if less is not None and more is not None and less > more:
            raise InputError(f"is over {IN_WORDS[high]}", low)


def measured_day(day: date, today: date | None) -> str:
    """Why a day can't have been measured, "" where it can. today: where the station stands, None where not known.

    The day after today counts: a station far to the east may have lived it already.
    """
    if day < FIRST_DAY:
        return f"{day} is before there were weather stations"
    if today is not None and day > today + timedelta(days=1):
        return f"{day} has not happened yet (today is {today})"
    return ""


def measured_days(days: Sequence[date], today: date) -> None:
    """Raises InputError naming the first day that can't have been measured."""
    for day in days:
        if wrong := measured_day(day, today):
            raise InputError(wrong, "day")


def forecast_days(days: Sequence[date], first: date) -> None:
    """Raises InputError for a forecast that can't be: too many days, a day twice, one long past or too far ahead.

    first: the first day that was asked for.
    """
    if len(days) > MOST_FORECAST_DAYS:
        raise InputError(f"brings {len(days)} days, at most {MOST_FORECAST_DAYS} are read", "days")
    seen: set[date] = set()
    for number, day in enumerate(days):
        if day in seen:
            raise InputError(f"{day} is there twice", f"days[{number}].date")
        if not first - timedelta(days=1) <= day <= first + timedelta(days=FORECAST_AHEAD_DAYS):
            raise InputError(f"{day} is no day of a forecast from {first} on", f"days[{number}].date")
        seen.add(day)
