"""Which days of weather can be, whatever brings them: a file, a service, a hand. One place for all of them."""

from collections.abc import Sequence
from datetime import date, timedelta

from june_shade.core.errors import InputError

FIRST_DAY, LAST_DAY = date(1850, 1, 1), date(2200, 12, 31)
"""No record of trees and weather has days beyond them."""
FORECAST_AHEAD_DAYS, MOST_FORECAST_DAYS = 30, 60
"""No forecast says anything of days farther ahead; one brings at most so many days."""


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
