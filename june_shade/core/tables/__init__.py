"""Published and practice tables as CSV files, one value set a row, each row with its source; a typed reader."""

import csv
from functools import cache
from importlib import resources


@cache
def read(name: str) -> tuple[dict[str, str], ...]:
    """Rows of `tables/<name>.csv` as text by column. The file ships with the package."""
    text = resources.files(__package__).joinpath(f"{name}.csv").read_text(encoding="utf-8")
    return tuple(csv.DictReader(text.splitlines()))


def number(row: dict[str, str], column: str) -> float:
    """A cell as a number; NaN where the table leaves it blank."""
    text = row[column].strip()
    return float(text) if text else float("nan")
