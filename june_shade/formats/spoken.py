"""Tables as people's programs write them: which separator, decimal point or comma, which order of day and month, and
what a header in plain words means."""

import csv
import io
import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any

SEPARATORS = ",;\t"
DATE_ORDER_KEY = "date_order"
DATE_ORDERS = ("dmy", "mdy")
_PARTS = re.compile(r"(\d{1,4})[-/.](\d{1,2})[-/.](\d{1,4})(?:[T ].*)?")


Reader = Any
"""What the csv module makes of a text."""


@dataclass(frozen=True, slots=True)
class Dialect:
    """How a table is written. comma: numbers have a decimal comma."""

    separator: str = ","
    comma: bool = False

    def rows(self, text: str) -> "Reader":
        """The table's rows, line by line."""
        return csv.reader(io.StringIO(text, newline=""), delimiter=self.separator)

    def number(self, cell: str) -> str:
        """A cell with a number as Python reads it."""
        return cell.replace(".", "").replace(",", ".") if self.comma and "," in cell else cell


def dialect(text: str) -> Dialect:
    """How a table is written, by its first line: a comma between numbers can't be a separator where others are."""
    first = text.split("\n", 1)[0]
    separator = max(SEPARATORS, key=lambda one: (first.count(one), one == ","))
    return Dialect(separator, comma=separator != ",")


def date_order(cells: Iterable[str]) -> str:
    """`dmy` or `mdy` by what can only be one of them, "" where no cell tells and some could be both; `ymd` where none
    is written in either."""
    orders, unsure = set(), False
    for cell in cells:
        found = _PARTS.fullmatch(cell.strip())
        if found is None or len(found[1]) == 4:
            continue
        first, second = int(found[1]), int(found[2])
        if "." in cell or first > 12:  # points stand in dates that begin with the day
            orders.add("dmy")
        elif second > 12:
            orders.add("mdy")
        elif first != second:
            unsure = True
    if len(orders) == 1:
        return orders.pop()
    return "" if unsure or orders else "ymd"


def day(cell: str, order: str) -> date:
    """A date as written in this order; the year first is always understood. Raises ValueError."""
    found = _PARTS.fullmatch(cell.strip())
    if found is None:
        return date.fromisoformat(cell)
    one, two, three = (int(part) for part in found.groups())
    if len(found[1]) == 4:
        return date(one, two, three)
    if len(found[3]) != 4:
        raise ValueError(cell)
    return date(three, one, two) if order == "mdy" else date(three, two, one)


UNITS = {
    "c": "c", "°c": "c", "degc": "c", "celsius": "c", "f": "f", "°f": "f", "degf": "f", "fahrenheit": "f", "mm": "mm",
    "in": "in", "inch": "in", "inches": "in", '"': "in", "m/s": "m_s", "ms-1": "m_s", "km/h": "km_h", "kph": "km_h",
    "kmh": "km_h", "mph": "mph", "%": "percent", "percent": "percent", "h": "h", "hours": "h", "hrs": "h",
    "mj/m2": "mj_m2", "mj/m²": "mj_m2", "w/m2": "w_m2", "w/m²": "w_m2",
}  # fmt: skip
_WORDS: tuple[tuple[str, str, tuple[str, ...]], ...] = (
    (r"gust|direction|pressure|snow", "", ()),
    (r"\b(eto|et0|etref|reference et|evapotranspiration)\b", "eto", ("mm", "in")),
    (r"\b(rain|rainfall|precip|precipitation|prcp|ppt)\b", "rain", ("mm", "in")),
    (r"\b(dew ?point|dewpt|dew)\b", "dew_point", ("c", "f")),
    (r"\b(rh|humidity|humid)\b", "rh", ("percent",)),
    (r"\bwind\b", "wind", ("m_s", "km_h", "mph")),
    (r"\b(solar|radiation|srad)\b", "radiation", ("mj_m2", "w_m2")),
    (r"\bsun(shine)?\b", "sun", ("h",)),
    (r"\b(tmax|temp|temperature|t|high|low|tmin|max|min|maximum|minimum)\b", "t", ("c", "f")),
)  # fmt: skip
_HIGH, _LOW = re.compile(r"\b(t?max|maximum|high|highest)\b"), re.compile(r"\b(t?min|minimum|low|lowest)\b")
HOT_C = 50.0
"""No day's high in the shade was above it but for a few in deserts: a column that goes higher is in Fahrenheit."""


def guess(header: str, cells: Sequence[str], others: Iterable[str]) -> str:
    """The column of the daily format that a header in plain words means, "" where it does not tell.

    cells: what stands under it. others: the file's other headers, whose units tell which system it is in.
    """
    words = re.sub(r"[_\s]+", " ", header.strip().lower())
    unit = _unit(words)
    bare = re.sub(r"[(\[].*?[)\]]", " ", words)
    if re.search(r"\b(date|day)\b", bare) and not re.search(r"days|length", bare):
        return "date"
    quantity, units = next(((name, units) for rule, name, units in _WORDS if re.search(rule, bare)), ("", ()))
    if not quantity:
        return ""
    if quantity == "t":
        if bool(_HIGH.search(bare)) is bool(_LOW.search(bare)):
            return ""
        quantity = "tmax" if _HIGH.search(bare) else "tmin"
    if quantity == "rh":
        quantity = "rh_max" if _HIGH.search(bare) else "rh_min" if _LOW.search(bare) else "rh"
    if unit not in units:
        unit = units[0] if len(units) == 1 else _system(units, cells, others) if units == ("c", "f") else ""
    return f"{quantity}_{unit}" if unit else ""


def _unit(words: str) -> str:
    inside = re.search(r"[(\[]\s*([^)\]]+?)\s*[)\]]", words)
    candidates = [inside[1]] if inside else [words.split(" ")[-1]]
    return next((UNITS[one] for one in candidates if one in UNITS), "")


def _system(units: tuple[str, ...], cells: Sequence[str], others: Iterable[str]) -> str:
    """Celsius or Fahrenheit for a temperature without a unit: by how high it goes, else by the file's other units."""
    values = []
    for cell in cells:
        try:
            values.append(float(cell))
        except ValueError:
            continue
    if values and max(values) > HOT_C:
        return "f"
    told = {_unit(re.sub(r"[_\s]+", " ", other.strip().lower())) for other in others}
    return "f" if told & {"f", "in", "mph"} and not told & {"c", "mm", "km_h", "m_s"} else "c"
