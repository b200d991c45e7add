"""Pieces that several nouns share."""

from datetime import date
from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]
Words = Annotated[str, StringConstraints(strip_whitespace=True, max_length=200)]
Note = Annotated[str, StringConstraints(strip_whitespace=True, max_length=300)]


class In(BaseModel):
    """A body that comes in: unknown keys and non-finite numbers are refused."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class Out(BaseModel):
    """A body that goes out, read from objects."""

    model_config = ConfigDict(from_attributes=True)


def quantity(unit: str, description: str, default: Any = ..., **limits: Any) -> Any:
    """A field with its unit told in the description and, for machines, as `unit`."""
    return Field(default, description=f"{description} [{unit}]", json_schema_extra={"unit": unit}, **limits)


class WorkingInput(Out):
    """One value that goes into a line."""

    symbol: str
    value: float
    unit: str


class WorkingLine(Out):
    """One line of the sum behind a number."""

    key: str = Field(description="Name of the line; the client words it.")
    formula: str
    inputs: list[WorkingInput]
    value: float
    unit: str = Field(description="Empty = none; `yes` = 1 where the formula holds, else 0.")
    source: str
    day: date | None = Field(None, description="The day that it is of, where a working goes over several.")


class GoesOut(Out):
    """Cycle and soak."""

    count: int
    run_min: float = quantity("min", "How long a go runs")
    rest_min: float = quantity("min", "How long it rests")
    last_min: float = quantity("min", "How long the last go runs")


class PourOut(Out):
    """What to pour in one visit."""

    litres: float = quantity("L", "Rounded up to a pourable step")
    run_min: float = quantity("min", "Minutes of running, rests not counted")
    total_min: float = quantity("min", "Minutes from first to last, rests and dripping included")
    goes: GoesOut
    fills: int = Field(description="Times a slow-release bag is filled.")


class IssueOut(Out):
    """One thing about a line of a file."""

    line: int
    column: str
    message: str
