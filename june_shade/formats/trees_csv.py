"""The register as CSV: a tree a line, each measure's unit at the end of its column's name. In and out, nothing lost.

Columns that are not there leave a tree as it is; an empty cell is the field's empty value. Who and what the names of
sites and species mean is not known here.
"""

import csv
import io
import math
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from june_shade.core import fields
from june_shade.core.errors import InputError, TooLargeError
from june_shade.core.units import LITRES_PER_US_GALLON, METRES_PER_FOOT, METRES_PER_INCH
from june_shade.core.weather.admit import FIRST_DAY, LAST_DAY
from june_shade.formats import spoken
from june_shade.formats.cells import check_columns, check_header, check_lines, defused, plain
from june_shade.formats.weather_csv import MOST_BYTES, Issue

MOST_LINES = 30_000
"""Trees that one file may bring: they are stored at once, and nobody logs at their site meanwhile."""
LENGTHS = {"_m": 1.0, "_cm": 0.01, "_mm": 0.001, "_in": METRES_PER_INCH, "_ft": METRES_PER_FOOT}
VOLUMES = {"_l": 1.0, "_gal": LITRES_PER_US_GALLON}
FLOWS = {"_l_per_h": 1.0, "_gal_per_h": LITRES_PER_US_GALLON}
FIELDS = ("id", *(field.name for field in fields.TREE if field.filed))
"""Every column that is written, in order."""


def _columns() -> dict[str, tuple[str, float]]:
    found = {name: (name, 1.0) for name in FIELDS}
    for field in (each.name for each in fields.TREE if each.kind == "number"):
        for units in (FLOWS, LENGTHS, VOLUMES):
            own = next(iter(units))
            if field.endswith(own) and not (units is LENGTHS and "_l_per_h" in field):
                found |= {field.removesuffix(own) + unit: (field, factor) for unit, factor in units.items()}
                break
    return found


DAYS = {field.name for field in fields.TREE if field.kind == "day"}
COLUMNS = _columns()
"""Header -> the field it fills and the factor to its unit."""


@dataclass(frozen=True, slots=True)
class FileTree:
    """One line: its number and the fields it gives, None for an empty cell."""

    line: int
    values: dict[str, Any]


@dataclass(frozen=True, slots=True)
class Reading:
    """What was understood of a file: rows, headers that mean nothing here, and cells that can't be."""

    rows: tuple[FileTree, ...]
    ignored: tuple[str, ...]
    refused: tuple[Issue, ...]


def write(trees: Iterable[dict[str, Any]]) -> str:
    """Trees as CSV; each a dict of FIELDS, None for empty."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(FIELDS)
    for tree in trees:
        writer.writerow(["" if tree[name] is None else _text(tree[name]) for name in FIELDS])
    return out.getvalue()


BEGIN_WITH = (
    "site",
    "tag",
    "place",
    "stop",
    "species",
    "kind",
    "caliper",
    "ball_diameter",
    "ball_height",
    "planted_on",
)
UNITS_OF = {"us": "_in", "metric": "_cm"}


def template(units: str) -> str:
    """The header of a file to begin with, lengths in the units of a system: us or metric."""
    ends = UNITS_OF[units]
    return ",".join(name if name in FIELDS else name + ends for name in BEGIN_WITH) + "\n"


def _text(value: Any) -> str:
    return repr(value) if isinstance(value, float) else defused(str(value))


def read(data: bytes) -> Reading:
    """Read a register. Raises InputError where the file as a whole can't be read."""
    if len(data) > MOST_BYTES:
        raise TooLargeError("the file is over 20 MB", "file")
    check_header(data)
    check_lines(data, MOST_LINES, "split it, a site a file")
    try:
        text = data.decode("utf-8-sig")
        written = spoken.dialect(text)
        lines = written.rows(text)
        header = [name.strip() for name in next(lines, [])]
        if not any(header):
            raise InputError("is empty: line 1 must name the columns", "file")
        check_columns(header)
        filled = [COLUMNS.get(name.lower()) for name in header]
        _check_header(header, filled)
        at = [n for n, one in enumerate(filled) if one and one[0] in DAYS]
        order = spoken.date_order(cells[n] for cells in written.rows(text) for n in at if len(cells) > n)
        rows, refused = [], []
        for cells in lines:
            if not any(cell.strip() for cell in cells):
                continue
            try:
                rows.append(FileTree(lines.line_num, _values(cells, header, filled, written, order)))
            except _CellError as e:
                refused.append(Issue(lines.line_num, e.column, e.message))
    except UnicodeDecodeError as e:
        raise InputError(f"is not UTF-8 text (byte {e.start + 1})", "file") from None
    except csv.Error as e:
        raise InputError(f"is not CSV: {e}", "file") from None
    ignored = tuple(name for name, field in zip(header, filled, strict=True) if field is None)
    return Reading(tuple(rows), ignored, tuple(refused))


def _check_header(header: list[str], filled: list[tuple[str, float] | None]) -> None:
    seen: dict[str, str] = {}
    for name, field in zip(header, filled, strict=True):
        if field is not None and field[0] in seen:
            raise InputError(f"columns {seen[field[0]]} and {name} both give {field[0]}; keep one", "file")
        if field is not None:
            seen[field[0]] = name
    if "id" not in seen and not {"site", "tag"} <= set(seen):
        raise InputError(f"needs a column id, or site and tag (found: {', '.join(header)})", "file")


class _CellError(Exception):
    def __init__(self, column: str, message: str) -> None:
        super().__init__(message)
        self.column, self.message = column, message


def _values(
    cells: list[str], header: list[str], filled: list[tuple[str, float] | None], written: spoken.Dialect, order: str
) -> dict[str, Any]:
    if len(cells) != len(header):
        raise _CellError("", f"has {len(cells)} cells, the header {len(header)}")
    values: dict[str, Any] = {}
    for name, field, cell in zip(header, filled, cells, strict=True):
        if field is not None:
            text = cell.strip()
            values[field[0]] = _value(name, *field, text, written, order) if text else None
    return values


def _value(column: str, field: str, factor: float, text: str, written: spoken.Dialect, order: str) -> Any:
    if field == "id":
        try:
            return UUID(text)
        except ValueError:
            raise _CellError(column, f"{text!r} is no id of this program: leave it empty for a new tree") from None
    kind = fields.BY_NAME[field].kind
    if kind == "day":
        try:
            day = spoken.day(text, order)
        except ValueError:
            raise _CellError(column, f"{text!r} is not a date like 2026-07-15") from None
        if not order and text[:4].isdigit() is False:
            raise _CellError(column, f"{text} can be read two ways: write it like {day.year}-07-15")
        if not FIRST_DAY <= day <= LAST_DAY:
            raise _CellError(column, f"{text} is not from {FIRST_DAY} to {LAST_DAY}")
        return day
    if kind in ("words", "choice"):
        return plain(text)
    try:
        number = float(written.number(text))
    except ValueError:
        raise _CellError(column, f"{text!r} is not a number") from None
    value = number * factor if factor != 1.0 else number
    fault = "must be a number" if not math.isfinite(value) else fields.fault(field, value)
    if fault:
        told = f" {field.rsplit('_', 1)[-1]}" if factor != 1.0 else ""
        raise _CellError(column, f"{text} can't be: {fault}{told}")
    if kind == "whole":
        if value != int(value):
            raise _CellError(column, f"{text} is not a whole number")
        return int(value)
    return value
