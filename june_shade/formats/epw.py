"""EnergyPlus weather (EPW): eight lines of header, then an hour a line. Read into days.

Columns by the format's published description (from memory of the auxiliary programs guide): hour 1 is the hour that
ends at 1:00; the wind is measured at 10 m; 99.9, 999 and 9999 stand for missing.
"""

import csv
import io
from datetime import date

from june_shade.core.errors import InputError
from june_shade.core.weather import admit
from june_shade.formats.hourly import DayOfHours, days_of
from june_shade.formats.weather_csv import Issue, Place, Reading

HEADER_LINES = 8
LEAST_CELLS = 22
WIND_HEIGHT_M = 10.0
NEVER_RAINS_DAYS = 90
YEAR, MONTH, DAY, HOUR = 0, 1, 2, 3
QUANTITIES = {
    "temperature_c": (6, -70, 70), "dew_point_c": (7, -70, 70), "rh_percent": (8, 0, 110),
    "radiation_wh_m2": (13, 0, 2000), "wind_m_s": (21, 0, 60), "rain_mm": (33, 0, 500),
}  # fmt: skip
"""Column from 0, and the range outside of which a value stands for missing."""


def is_epw(data: bytes) -> bool:
    """Whether a file begins as this format does."""
    return data[:9].upper() == b"LOCATION,"


def read(data: bytes, today: date | None = None) -> Reading:
    """Read a file. Raises InputError where it is none, or where not one whole day is in it."""
    text = data.decode("utf-8-sig", errors="replace")
    rows = list(csv.reader(io.StringIO(text, newline="")))
    if len(rows) <= HEADER_LINES:
        raise InputError(f"ends in its header: EPW has {HEADER_LINES} lines of it, then the hours", "file")
    place = _place(rows[0])
    hours: dict[date, DayOfHours] = {}
    lines: dict[date, int] = {}
    refused: list[Issue] = []
    for number, cells in enumerate(rows[HEADER_LINES:], HEADER_LINES + 1):
        if not any(cell.strip() for cell in cells):
            continue
        try:
            day = date(*(int(float(cells[i])) for i in (YEAR, MONTH, DAY)))
            if len(cells) < LEAST_CELLS:
                raise ValueError(f"has {len(cells)} cells, at least {LEAST_CELLS} are needed")
        except (ValueError, IndexError, OverflowError) as e:
            refused.append(Issue(number, "", f"can't be read: {e}"))
            continue
        if wrong := admit.measured_day(day, today):
            refused.append(Issue(number, "", wrong))
            continue
        lines.setdefault(day, number)
        own = hours.setdefault(day, DayOfHours())
        for name, (column, low, high) in QUANTITIES.items():
            getattr(own, name).append(_value(cells, column, low, high))
    if not hours:
        raise InputError("not one hour of it can be read", "file")
    doubts = []
    if len({day.year for day in hours}) > 1:
        doubts.append(Issue(1, "", "its months are from different years: a typical year, not one that was measured"))
    if _never_rains(hours):
        doubts.append(Issue(1, "", "it gives no rain on any day: rain is left open, not taken for none"))
        for own in hours.values():
            own.rain_mm = []
    return Reading(
        days_of(hours), tuple(lines.values()), {}, tuple(refused), tuple(doubts), "epw", place, WIND_HEIGHT_M
    )


def _never_rains(hours: dict[date, DayOfHours]) -> bool:
    """Whether a long file gives no rain at all: many give a column of zeros where rain was not recorded."""
    return len(hours) >= NEVER_RAINS_DAYS and not any(value for own in hours.values() for value in own.rain_mm)


def _place(cells: list[str]) -> Place:
    try:
        return Place(cells[1].strip(), float(cells[6]), float(cells[7]), float(cells[9]))
    except (IndexError, ValueError):
        raise InputError(
            "line 1 must give the place: LOCATION,city,…,latitude,longitude,zone,elevation", "file"
        ) from None


def _value(cells: list[str], column: int, low: float, high: float) -> float | None:
    """A cell as a number; None where it is blank, no number or stands for missing."""
    try:
        value = float(cells[column])
    except (IndexError, ValueError):
        return None
    return value if low <= value <= high else None
