"""The sum behind a number: lines that any result can show, as data.

A line names itself by a key (the interface words it), gives its formula in symbols, each input with value
and unit, the result with its unit, and the source. Nothing here formats, rounds or translates.
"""

from dataclasses import dataclass
from datetime import date

CALIBRATED = "June Shade, calibrated"
"""Source of a constant that is this program's own calibration to published anchors."""
COMMON_PRACTICE = "common practice"


@dataclass(frozen=True, slots=True)
class Input:
    """One value that goes into a line: its symbol in the formula, value and unit ("" = none)."""

    symbol: str
    value: float
    unit: str


@dataclass(frozen=True, slots=True)
class Step:
    """One line of a working. day: the day that it is of, where a working goes over several."""

    key: str
    formula: str
    inputs: tuple[Input, ...]
    value: float
    unit: str
    source: str
    day: date | None = None


def worked(key: str, formula: str, value: float, unit: str, source: str, **inputs: tuple[float, str]) -> Step:
    """A line from plain values: `line("net", "N = D", 3.2, "L", "...", D=(3.2, "L"))`.

    value: in `unit`; each input as (value, unit).
    """
    given = tuple(Input(symbol, float(v), u) for symbol, (v, u) in inputs.items())
    return Step(key, formula, given, float(value), unit, source)
