"""GHCN-Daily, in its three common shapes: fixed width (.dly), an element a line (CSV), a day a line (CSV).

By the format's published description (from memory): values of the first two are in tenths of mm, degC and m/s,
-9999 is missing, a quality flag means that the value failed a check. The third comes in tenths, in metric or in US
units, which the file itself does not say: it is told by the values, or asked for.
"""

import csv
import io
import re
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date

from june_shade.core.errors import InputError
from june_shade.core.units import MM_PER_INCH, MPS_PER_MPH, celsius_from_fahrenheit
from june_shade.core.weather import admit
from june_shade.core.weather.daily import Days
from june_shade.formats.weather_csv import HeaderError, Issue, Kind, Place, Reading

MISSING = -9999
DLY_LINE = re.compile(rb"^[A-Z]{2}[A-Z0-9_\-]{9}\d{6}[A-Z0-9]{4}")
DLY_WIDTH, DLY_FIRST, DLY_STEP = 269, 21, 8
UNITS = ("tenths", "metric", "us")
UNITS_KEY = "units"
"""Under this name a person says the units of a file that does not say them."""


@dataclass(frozen=True, slots=True)
class Element:
    """What an element fills, and its factors from tenths, metric and US."""

    quantity: str
    tenths: float = 0.1
    us: float = 1.0
    fahrenheit: bool = False

    def convert(self, value: float, units: str) -> float:
        """To the program's unit."""
        if units == "tenths":
            return value * self.tenths
        if units == "us":
            return celsius_from_fahrenheit(value) if self.fahrenheit else value * self.us
        return value


ELEMENTS = {
    "TMAX": Element("tmax_c", fahrenheit=True),
    "TMIN": Element("tmin_c", fahrenheit=True),
    "PRCP": Element("rain_mm", us=MM_PER_INCH),
    "AWND": Element("wind_m_s", us=MPS_PER_MPH),
    "ADPT": Element("dew_point_c", fahrenheit=True),
    "RHAV": Element("rh_percent", tenths=1.0),
    "RHMN": Element("rh_min_percent", tenths=1.0),
    "RHMX": Element("rh_max_percent", tenths=1.0),
    "TSUN": Element("sun_h", tenths=1 / 60, us=1 / 60),
}


class _Table:
    """Values by day as they come in, with what can't be taken."""

    def __init__(self, today: date | None) -> None:
        self._today = today
        self.values: dict[date, dict[str, float]] = {}
        self.lines: dict[date, int] = {}
        self.refused: list[Issue] = []
        self.doubts: list[Issue] = []
        self.stations: dict[str, int] = {}

    def station(self, name: str, line: int) -> None:
        """A file of several stations is refused: days would be mixed."""
        self.stations.setdefault(name, line)
        if len(self.stations) > 1:
            first, second = list(self.stations)[:2]
            raise InputError(
                f"is of several stations ({first} and, in line {line}, {second}): keep the lines of one", "file"
            )

    def day(self, year: int, month: int, number: int, line: int) -> date | None:
        """A day, None where the month has no such day or it can't have been measured."""
        try:
            day = date(year, month, number)
        except ValueError:
            return None
        if wrong := admit.measured_day(day, self._today):
            self.refused.append(Issue(line, "", wrong))
            return None
        return day

    def take(self, day: date, line: int, element: str, raw: float, quality: str, units: str) -> None:
        """A value: missing ones are passed over, those that failed a check or can't be are listed."""
        what = ELEMENTS[element]
        if raw == MISSING:
            return
        if quality.strip():
            self.doubts.append(
                Issue(line, element, f"{day}: left out, it failed the archive's check {quality.strip()!r}")
            )
            return
        value = what.convert(raw, units)
        if not admit.can_be(what.quantity, value):
            self.refused.append(Issue(line, element, f"{day}: {raw:g} can't be"))
            return
        self.values.setdefault(day, {})[what.quantity] = value
        self.lines.setdefault(day, line)

    def reading(self, kind: Kind, columns: dict[str, str], place: Place | None = None) -> Reading:
        """The days; a low over its high leaves both out."""
        for day, own in self.values.items():
            if own.get("tmin_c", -999) > own.get("tmax_c", 999):
                self.refused.append(Issue(self.lines[day], "TMIN", f"{day}: the low is over the high, both left out"))
                del own["tmin_c"], own["tmax_c"]
        order = sorted(day for day, own in self.values.items() if own)
        if not order:
            raise InputError("holds no day with temperature, rain, wind, humidity or sunshine", "file")
        quantities = sorted({q for own in self.values.values() for q in own})
        days = Days.of(order, **{q: [self.values[day].get(q) for day in order] for q in quantities})
        return Reading(
            days, tuple(self.lines[day] for day in order), columns, tuple(self.refused), tuple(self.doubts), kind, place
        )


def is_dly(data: bytes) -> bool:
    """Whether a file is of the fixed-width shape."""
    return DLY_LINE.match(data) is not None


def read_dly(data: bytes, today: date | None = None) -> Reading:
    """Read the fixed-width shape: a month of an element a line."""
    table = _Table(today)
    for line, row in enumerate(data.decode("ascii", errors="replace").splitlines(), 1):
        if not row.strip():
            continue
        if not DLY_LINE.match(row.encode()) or len(row.rstrip()) < DLY_FIRST + 5:
            table.refused.append(Issue(line, "", "is not a line of this format"))
            continue
        table.station(row[:11], line)
        year, month, element = int(row[11:15]), int(row[15:17]), row[17:21]
        if element not in ELEMENTS:
            continue
        padded = row.ljust(DLY_WIDTH)
        for number in range(31):
            at = DLY_FIRST + DLY_STEP * number
            text = padded[at : at + 5].strip()
            if not text or text == str(MISSING):
                continue
            day = table.day(year, month, number + 1, line)
            try:
                raw = float(text)
            except ValueError:
                table.refused.append(Issue(line, element, f"{text!r} is not a number"))
                continue
            if day is not None:
                table.take(day, line, element, raw, padded[at + 6], "tenths")
    return table.reading("ghcn_dly", {})


def csv_shape(data: bytes) -> str:
    """`elements` (an element a line), `days` (a day a line) or "" where a CSV file is neither."""
    first = data.split(b"\n", 1)[0].decode("utf-8-sig", errors="replace")
    cells = [cell.strip().upper() for cell in next(csv.reader([first]), [])]
    if "STATION" in cells and "DATE" in cells and set(cells) & set(ELEMENTS):
        return "days"
    if len(cells) >= 4 and (cells[2] in ELEMENTS or cells[:4] == ["ID", "DATE", "ELEMENT", "VALUE"]):
        return "elements"
    if len(cells) >= 4 and re.fullmatch(r"[A-Z]{2}[A-Z0-9_\-]{9}", cells[0]) and re.fullmatch(r"\d{8}", cells[1]):
        return "elements"
    return ""


def read_elements(data: bytes, today: date | None = None) -> Reading:
    """Read the shape with an element a line: station, yyyymmdd, element, value, three flags."""
    table = _Table(today)
    for line, cells in enumerate(csv.reader(io.StringIO(data.decode("utf-8-sig", errors="replace"))), 1):
        if not any(cells) or cells[0].upper() == "ID":
            continue
        try:
            name, stamp, element, raw = cells[0], cells[1], cells[2].upper(), float(cells[3])
            year, month, number = int(stamp[:4]), int(stamp[4:6]), int(stamp[6:8])
        except (IndexError, ValueError):
            table.refused.append(Issue(line, "", "is not a line of this format"))
            continue
        table.station(name, line)
        if element not in ELEMENTS:
            continue
        day = table.day(year, month, number, line)
        if day is not None:
            table.take(day, line, element, raw, cells[5] if len(cells) > 5 else "", "tenths")
    return table.reading("ghcn_csv", {})


def read_days(data: bytes, mapping: Mapping[str, str] | None = None, today: date | None = None) -> Reading:
    """Read the shape with a day a line. mapping[`units`]: tenths, metric or us, where the values do not tell."""
    rows = list(csv.reader(io.StringIO(data.decode("utf-8-sig", errors="replace"), newline="")))
    header = [name.strip().upper() for name in rows[0]]
    at = {name: i for i, name in enumerate(header)}
    body = [(line, cells) for line, cells in enumerate(rows[1:], 2) if any(cell.strip() for cell in cells)]
    units = (mapping or {}).get(UNITS_KEY) or _told_units(header, body)
    columns = {UNITS_KEY: units if units in UNITS else ""}
    if units not in UNITS:
        raise HeaderError("the file does not say its units: tenths, metric or US", columns)
    table = _Table(today)
    place: Place | None = None
    for line, cells in body:
        if len(cells) != len(header):
            table.refused.append(Issue(line, "", f"has {len(cells)} cells, the header {len(header)}"))
            continue
        table.station(cells[at["STATION"]], line)
        place = place or _place(cells, at)
        try:
            year, month, number = (int(part) for part in cells[at["DATE"]].strip().split("-"))
        except ValueError:
            table.refused.append(Issue(line, "DATE", f"{cells[at['DATE']]!r} is not a date like 2026-07-15"))
            continue
        day = table.day(year, month, number, line)
        for element in ELEMENTS:
            if day is None or element not in at or not cells[at[element]].strip():
                continue
            flags = cells[at[f"{element}_ATTRIBUTES"]].split(",") if f"{element}_ATTRIBUTES" in at else []
            try:
                raw = float(cells[at[element]])
            except ValueError:
                table.refused.append(Issue(line, element, f"{cells[at[element]]!r} is not a number"))
                continue
            table.take(day, line, element, raw, flags[1] if len(flags) > 1 else "", units)
    return table.reading("ghcn_csv", columns, place)


def _told_units(header: list[str], body: list[tuple[int, list[str]]]) -> str:
    """Units that only one reading of the values allows, "" where several do."""
    highs, texts = [], []
    for name in ("TMAX", "TMIN", "PRCP"):
        if name not in header:
            continue
        for _, cells in body:
            text = cells[header.index(name)].strip() if header.index(name) < len(cells) else ""
            if text and re.fullmatch(r"-?\d+(\.\d+)?", text) and float(text) != MISSING:
                texts.append(text)
                if name == "TMAX":
                    highs.append(float(text))
    whole = all("." not in text for text in texts)
    hottest = max(highs, default=0.0)
    if whole and hottest > 140:
        return "tenths"
    if not whole and 60 < hottest <= 140:
        return "us"
    if not whole and highs and hottest <= 60 and min(highs) < 20:
        return "metric"
    return ""


def _place(cells: list[str], at: dict[str, int]) -> Place | None:
    try:
        latitude, longitude = (float(cells[at[name]]) for name in ("LATITUDE", "LONGITUDE"))
        elevation = float(cells[at["ELEVATION"]]) if "ELEVATION" in at and cells[at["ELEVATION"]] else None
    except (KeyError, ValueError):
        return None
    return Place(cells[at["NAME"]] if "NAME" in at else cells[at["STATION"]], latitude, longitude, elevation)
