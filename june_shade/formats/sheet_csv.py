"""The sheet for an authority as CSV: a line for each order, each day at a site, each watering against an order, each
tree lost. SI, days as ISO 8601."""

from collections.abc import Iterator
from typing import Any

from june_shade.formats.cells import csv_line

COLUMNS = (
    "kind", "day", "until", "site", "tree", "waterings", "trees", "volume_l", "hours", "order", "rules", "words",
)  # fmt: skip

Sheet = Any
"""A sheet: orders, done, broken, lost."""


def lines(sheet: Sheet) -> Iterator[str]:
    """The names of the columns, then ordered, done, against and lost, each in order of time."""
    yield csv_line(COLUMNS)
    for one in sheet.orders:
        row = one.row
        yield _line(
            kind="ordered", day=row.first_day, until=row.last_day, order=row.name, volume_l=row.week_l, words=row.words
        )
    for one in sheet.done:
        yield _line(
            kind="done", day=one.day, site=one.site, waterings=one.waterings, trees=one.trees, volume_l=one.litres,
            hours=one.hours, order="; ".join(one.orders),
        )  # fmt: skip
    for one in sheet.broken:
        for of in one.against:
            yield _line(
                kind="against", day=one.day, site=one.site, tree=one.tag, volume_l=one.litres, order=of.order,
                rules=" ".join(of.rules),
            )  # fmt: skip
    for one in sheet.lost:
        yield _line(kind="lost", day=one.day, site=one.site, tree=one.tag, words=" ".join((one.end, one.cause)).strip())


def _line(**told: Any) -> str:
    return csv_line(["" if told.get(name) is None else told[name] for name in COLUMNS])
