"""The daily weather file: CSV, UTF-8, header first, each column's unit at the end of its name.

Bytes in, `Days` out, with every row that can't be listed by line number. Nothing here is stored.
"""

import csv
import math
import re
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from itertools import islice
from typing import Literal

from june_shade.core.errors import InputError, TooLargeError
from june_shade.core.units import (
    MJ_PER_M2_DAY_PER_WATT_PER_M2,
    MM_PER_INCH,
    MPS_PER_KMH,
    MPS_PER_MPH,
    celsius_from_fahrenheit,
)
from june_shade.core.weather import admit
from june_shade.core.weather.daily import Days
from june_shade.formats import spoken
from june_shade.formats.cells import check_columns, check_lines

MOST_BYTES = 20_000_000
Kind = Literal["daily", "ghcn_dly", "ghcn_csv", "epw"]
"""The formats that are read."""
MOST_LINES = 70_000
UNLIKELY_RAIN_MM = 250.0
UNLIKELY_ETO_MM = 14.0
UNLIKELY_SPREAD_C = 35.0


@dataclass(frozen=True, slots=True)
class Column:
    """What a header means: the quantity it fills, how to convert."""

    quantity: str
    scale: float = 1.0
    fahrenheit: bool = False

    def convert(self, value: float) -> float:
        """To the program's unit."""
        return celsius_from_fahrenheit(value) if self.fahrenheit else value * self.scale


def _temperature(quantity: str) -> dict[str, Column]:
    return {
        f"{quantity}": Column(quantity),
        f"{quantity[:-2]}_f": Column(quantity, fahrenheit=True),
    }


COLUMNS: dict[str, Column] = {
    **_temperature("tmin_c"),
    **_temperature("tmax_c"),
    **_temperature("dew_point_c"),
    "rain_mm": Column("rain_mm"),
    "rain_in": Column("rain_mm", MM_PER_INCH),
    "rh_percent": Column("rh_percent"),
    "rh_min_percent": Column("rh_min_percent"),
    "rh_max_percent": Column("rh_max_percent"),
    "wind_m_s": Column("wind_m_s"),
    "wind_km_h": Column("wind_m_s", MPS_PER_KMH),
    "wind_mph": Column("wind_m_s", MPS_PER_MPH),
    "sun_h": Column("sun_h"),
    "radiation_mj_m2": Column("radiation_mj_m2"),
    "radiation_w_m2": Column("radiation_mj_m2", MJ_PER_M2_DAY_PER_WATT_PER_M2),
    "eto_mm": Column("eto_station_mm"),
    "eto_in": Column("eto_station_mm", MM_PER_INCH),
}
"""Every header of the format, beside `date`."""


class HeaderError(InputError):
    """The header does not say what is needed; `columns` as in Reading, so that a person can say it by hand."""

    code = "columns_unknown"

    def __init__(self, message: str, columns: dict[str, str]) -> None:
        super().__init__(message, "file")
        self.columns = columns


@dataclass(frozen=True, slots=True)
class Issue:
    """One thing wrong with a file, by line (1 = header) and column."""

    line: int
    column: str
    message: str


@dataclass(frozen=True, slots=True)
class Place:
    """Where a file says that it was measured; degrees, north and east positive; elevation [m] None where not told."""

    name: str
    latitude_deg: float
    longitude_deg: float
    elevation_m: float | None


@dataclass(frozen=True, slots=True)
class Reading:
    """What was understood of a file.

    days: the good rows in the file's order. lines: their line numbers. columns: header -> `date` or one of COLUMNS,
    "" where it means nothing here. refused: rows that can't be; doubts: rows that are kept but unlikely. kind: which
    format it is. place and wind_height_m: what the file itself says of its station, None where it says nothing.
    """

    days: Days
    lines: tuple[int, ...]
    columns: dict[str, str]
    refused: tuple[Issue, ...]
    doubts: tuple[Issue, ...]
    kind: Kind = "daily"
    place: Place | None = None
    wind_height_m: float | None = None


def read(data: bytes, *, mapping: Mapping[str, str] | None = None, today: date | None = None) -> Reading:
    """Read a daily file. mapping: a foreign header -> one of COLUMNS or `date`, "" to leave it out.

    today: the last day that may have happened. Raises InputError where the file as a whole can't be read, HeaderError
    where only its header is not understood.
    """
    if len(data) > MOST_BYTES:
        raise TooLargeError(f"the file is {len(data) / 1e6:.0f} MB; at most 20 MB are read", "file")
    check_lines(data, MOST_LINES, "a daily file has one line a day, and no station is older than 1850")
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as e:
        raise InputError(f"is not UTF-8 text (byte {e.start + 1})", "file") from None
    written = spoken.dialect(text)
    try:
        header = [name.strip() for name in next(written.rows(text), [])]
        if not any(header):
            raise InputError("is empty: line 1 must name the columns", "file")
        check_columns(header)
        seen = list(islice(written.rows(text), 1, LOOKED_AT))
        meaning = _meanings(header, seen, written, mapping or {})
        _check_header(header, meaning)
        at = meaning.index("date")
        order = spoken.date_order(cells[at] for cells in written.rows(text) if len(cells) > at)
    except csv.Error as e:
        raise InputError(f"is not a table: {e}", "file") from None
    order = order or (mapping or {}).get(spoken.DATE_ORDER_KEY, "")
    if not order:
        raise HeaderError("days like 07/11/2026 can be read two ways: say which", {spoken.DATE_ORDER_KEY: ""})
    rows = written.rows(text)
    next(rows)
    return _rows(rows, header, meaning, today, _Written(written, order))


@dataclass(frozen=True, slots=True)
class _Written:
    """How a file's numbers and days are written."""

    dialect: spoken.Dialect
    order: str


LOOKED_AT = 1000
"""So many lines are looked at to guess what a header means."""


def _meanings(
    header: list[str], seen: list[list[str]], written: spoken.Dialect, mapping: Mapping[str, str]
) -> list[str]:
    """What each header means: as a person said, as the format has it, as its plain words tell; each thing once."""
    told = []
    for name in header:
        word = mapping.get(name, name.lower())
        told.append(word if word == "date" or word in COLUMNS else "")
    taken = {_quantity(word) for word in told if word}
    for at, name in enumerate(header):
        if told[at] or name in mapping:
            continue
        cells = [written.number(cells[at].strip()) for cells in seen if len(cells) > at]
        word = spoken.guess(name, cells, [other for i, other in enumerate(header) if i != at])
        if word and (word == "date" or word in COLUMNS) and _quantity(word) not in taken:
            told[at] = word
            taken.add(_quantity(word))
    return told


def _quantity(word: str) -> str:
    return word if word == "date" else COLUMNS[word].quantity


def _check_header(header: list[str], meaning: list[str]) -> None:
    columns = dict(zip(header, meaning, strict=True))
    if "date" not in meaning:
        raise HeaderError(f"line 1 names no column `date` (found: {', '.join(header)})", columns)
    seen: dict[str, str] = {}
    for name, word in zip(header, meaning, strict=True):
        if not word:
            continue
        quantity = word if word == "date" else COLUMNS[word].quantity
        if quantity in seen:
            raise HeaderError(f"columns {seen[quantity]} and {name} both give {quantity}; keep one", columns)
        seen[quantity] = name
    if len(seen) == 1:
        raise HeaderError(f"no column besides the date is understood (found: {', '.join(header)})", columns)


class _RowError(Exception):
    def __init__(self, column: str, message: str) -> None:
        super().__init__(message)
        self.column, self.message = column, message


def _rows(rows, header, meaning, today, written) -> Reading:
    good: dict[date, tuple[int, _Row]] = {}
    refused: list[Issue] = []
    doubts: list[Issue] = []
    try:
        for cells in rows:
            line = rows.line_num
            if not any(cell.strip() for cell in cells):
                continue
            try:
                day, row = _row(cells, header, meaning, today, written)
                if day in good:
                    raise _RowError("date", f"{day} was already given in line {good[day][0]}")
            except _RowError as bad:
                refused.append(Issue(line, bad.column, bad.message))
                continue
            good[day] = (line, row)
            doubts.extend(Issue(line, column, message) for column, message in _doubts(row))
    except csv.Error as e:
        raise InputError(f"line {rows.line_num} is not CSV: {e}", "file") from None
    order = list(good)
    quantities = {COLUMNS[word].quantity for word in meaning if word and word != "date"}
    table = {q: [good[day][1].values.get(q) for day in order] for q in quantities}
    return Reading(
        Days.of(order, **table),
        tuple(good[day][0] for day in order),
        dict(zip(header, meaning, strict=True)),
        tuple(refused),
        tuple(doubts),
    )


@dataclass(frozen=True, slots=True)
class _Row:
    """A row's values by quantity, and the header and text that each was read from."""

    values: dict[str, float]
    said: dict[str, tuple[str, str]]


def _row(cells, header, meaning, today, written) -> tuple[date, _Row]:
    if len(cells) != len(header):
        raise _RowError("", f"has {len(cells)} cells, the header {len(header)}")
    day: date | None = None
    row = _Row({}, {})
    for name, word, cell in zip(header, meaning, cells, strict=True):
        text = cell.strip()
        if word == "date":
            day = _date(text, name, today, written.order)
        elif word and text:
            row.values[COLUMNS[word].quantity] = _value(COLUMNS[word], written.dialect.number(text), name, word)
            row.said[COLUMNS[word].quantity] = (name, text)
    for low, high in admit.ORDERED:
        if row.values.get(low, -math.inf) > row.values.get(high, math.inf):
            raise _RowError(row.said[low][0], f"{' '.join(row.said[low])} is over {' '.join(row.said[high])}")
    assert day is not None
    return day, row


def _date(text: str, name: str, today: date | None, order: str) -> date:
    try:
        day = spoken.day(text, order)
    except ValueError:
        raise _RowError(name, f"{text!r} is not a date like 2026-07-15") from None
    if wrong := admit.measured_day(day, today):
        raise _RowError(name, wrong)
    return day


CELL_WITH_UNIT = re.compile(r"([-+]?\d*\.?\d+)\s*(°?[CF]|mm|in|\"|m/s|km/h|mph|%|h|hPa|W/m2|MJ/m2)\.?", re.IGNORECASE)


def _own_units(name: str) -> set[str]:
    """Unit words that may stand behind a number in a column of this header, lower case."""
    own = {
        "_c": {"c", "°c"}, "_f": {"f", "°f"}, "_mm": {"mm"}, "_in": {"in", '"'}, "_m_s": {"m/s"}, "_km_h": {"km/h"},
        "_mph": {"mph"}, "_percent": {"%"}, "sun_h": {"h"}, "_mj_m2": {"mj/m2"}, "_w_m2": {"w/m2"},
    }  # fmt: skip
    return next((words for end, words in own.items() if name.endswith(end)), set())


def _value(column: Column, text: str, name: str, word: str) -> float:
    try:
        raw = float(text)
    except ValueError:
        found = CELL_WITH_UNIT.fullmatch(text)
        if found is None:
            raise _RowError(name, f"{text!r} is not a number") from None
        if found[2].lower() not in _own_units(word):
            raise _RowError(
                name, f"{text!r} is in another unit than its column ({word}): one column, one unit"
            ) from None
        raw = float(found[1])
    value = column.convert(raw)
    if not admit.can_be(column.quantity, value):
        hint = "; Fahrenheit in a Celsius column?" if column.quantity[-2:] == "_c" and not column.fahrenheit else ""
        raise _RowError(name, f"{text} can't be{hint}")
    return value


def _doubts(row: _Row):
    """What is possible but unlikely, told in the file's own words and units: (column, sentence)."""
    for quantity, most in (("rain_mm", UNLIKELY_RAIN_MM), ("eto_station_mm", UNLIKELY_ETO_MM)):
        if row.values.get(quantity, 0) > most:
            yield row.said[quantity][0], f"{' '.join(row.said[quantity])} in a day is possible but rare"
    if row.values.get("tmax_c", 0.0) - row.values.get("tmin_c", 0.0) > UNLIKELY_SPREAD_C and "tmin_c" in row.values:
        low, high = row.said["tmin_c"], row.said["tmax_c"]
        yield high[0], f"from {' '.join(low)} to {' '.join(high)} in a day is possible but rare"


def first_refusal(reading: Reading) -> InputError | None:
    """The first refused row as an error that names its line, None when all rows are good."""
    if not reading.refused:
        return None
    issue = min(reading.refused, key=lambda i: i.line)
    field = f"line {issue.line}" + (f", {issue.column}" if issue.column else "")
    return InputError(issue.message, field)
