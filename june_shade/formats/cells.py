"""Tables that people make and open in a spreadsheet: how large they may be; words that it would take for a formula
come with a mark before.

Source: OWASP, CSV injection.
"""

import csv
import io
from collections.abc import Iterable, Sequence
from typing import Any

from june_shade.core.errors import InputError

FORMULA_SIGNS = ("=", "+", "-", "@", "\t", "\r")
MARK = "'"


def defused(words: str) -> str:
    """Words as they go out."""
    return MARK + words if words.startswith(FORMULA_SIGNS) else words


def plain(cell: str) -> str:
    """Words as they come in again."""
    return cell[1:] if cell.startswith(MARK) and cell[1:].startswith(FORMULA_SIGNS) else cell


def csv_line(cells: Iterable[Any]) -> str:
    """One line of CSV as it goes out."""
    out = io.StringIO()
    csv.writer(out, lineterminator="\r\n").writerow(
        defused(cell) if isinstance(cell, str) else cell for cell in cells
    )  # fmt: skip
    return out.getvalue()


LONGEST_HEADER, MOST_COLUMNS = 20_000, 300
"""Characters and columns that a file's first line may have: a table of trees or days has far fewer."""


def check_header(data: bytes) -> None:
    """Raises InputError where the first line of a file can't be a table's header."""
    first = data[: LONGEST_HEADER + 1].splitlines()[:1]
    if first and len(first[0]) > LONGEST_HEADER:
        raise InputError(f"line 1 is over {LONGEST_HEADER:,} characters long: this is no table of lines", "file")


def check_columns(header: Sequence[str]) -> None:
    """Raises InputError where a table has more columns than one of trees or days can have."""
    if len(header) > MOST_COLUMNS:
        raise InputError(f"line 1 names {len(header)} columns, at most {MOST_COLUMNS} are read", "file")


def check_lines(data: bytes, most: int, what: str) -> None:
    """Raises InputError where a file has more lines than it can have. what: why, in words."""
    lines = data.count(b"\n")
    if lines > most:
        raise InputError(f"has {lines:,} lines, at most {most:,} are read: {what}", "file")
