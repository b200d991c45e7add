"""The book as files: a line a row as CSV, or a JSON object a line. SI, unrounded, days and moments as ISO 8601."""

import json
from collections.abc import Iterable, Iterator
from dataclasses import asdict, is_dataclass
from typing import Any

from june_shade.formats.cells import csv_line

COLUMNS = (
    "day", "at", "kind", "subject", "site", "tag", "place", "species", "person", "undone", "volume_l", "duration_min",
    "how", "ball_feel", "ring_feel", "ball_theta", "ring_theta", "seen", "reason", "verdict", "water_act", "answer",
    "multiplier", "act",
    "material", "depth_m", "emitters", "flow_l_per_h", "minutes", "cause", "method", "growth_m", "routine", "note",
    "id",
)  # fmt: skip


Row = Any
"""A row of the book: kind, id, day, at, site_name, tree, person, undone, subject, and what it says by name."""


def plain(row: Row) -> dict[str, Any]:
    """A row's values by column, what it doesn't say left out."""
    tree = row.tree
    told = {
        "day": row.day.isoformat(),
        "at": row.at.isoformat() if row.at else None,
        "kind": row.kind,
        "subject": row.subject or None,
        "site": row.site_name,
        "tag": tree.tag if tree else None,
        "place": (tree.place or None) if tree else None,
        "species": tree.common if tree else None,
        "person": row.person,
        "undone": row.undone,
        "id": str(row.id),
    } | {name: _flat(value) for name, value in row.says.items()}
    return {name: value for name, value in told.items() if value is not None and value != ""}


def csv_lines(rows: Iterable[Row]) -> Iterator[str]:
    """The rows as CSV, the names of the columns first. Text that a spreadsheet would take for a formula is quoted."""
    yield csv_line(COLUMNS)
    for row in rows:
        told = plain(row)
        if "routine" in told:
            told["routine"] = told["routine"]["name"]
        yield csv_line(_said(told.get(name, "")) for name in COLUMNS)


def json_lines(rows: Iterable[Row]) -> Iterator[str]:
    """The rows as JSON Lines."""
    for row in rows:
        yield json.dumps(plain(row), ensure_ascii=False) + "\n"


def _flat(value: Any) -> Any:
    return asdict(value) if is_dataclass(value) and not isinstance(value, type) else value


def _said(value: Any) -> Any:
    return ("yes" if value else "no") if isinstance(value, bool) else value
