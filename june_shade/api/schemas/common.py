"""Pieces that several nouns share."""

from datetime import date, datetime
from functools import cache
from typing import Annotated, Any, get_args

from fastapi import Path, Query
from pydantic import BaseModel, ConfigDict, Field, StringConstraints, ValidationInfo, field_validator, model_validator
from pydantic_core import PydanticCustomError

from june_shade.api.language import Sentence
from june_shade.core import fields
from june_shade.core.weather.admit import FIRST_DAY, LAST_DAY

Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]
Words = Annotated[str, StringConstraints(strip_whitespace=True, max_length=200)]
Note = Annotated[str, StringConstraints(strip_whitespace=True, max_length=300)]


NO_NUL = r"^[^\x00]*$"
"""What an address can't hold."""
Secret = Annotated[str, Path(max_length=100, pattern=NO_NUL)]
"""An address that is a secret."""
StopName = Annotated[str, Query(max_length=200, pattern=NO_NUL)]
"""The name of a stop, as it is asked for."""
Called = Annotated[
    list[Annotated[str, StringConstraints(min_length=1, max_length=80, pattern=NO_NUL)]] | None,
    Query(max_length=100, description="Common names of the kinds that the words call in the reader's language."),
]
Day = Annotated[date, Field(ge=FIRST_DAY, le=LAST_DAY)]


class In(BaseModel):
    """A body that comes in. Refused are unknown keys, numbers that are not finite, true for 1, days that no record
    of trees can have, and measures too small to be one."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)

    @model_validator(mode="before")
    @classmethod
    def _no_slips(cls, sent: Any) -> Any:
        for name, value in sent.items() if isinstance(sent, dict) else ():
            if name not in cls.model_fields:
                continue
            for one in value if isinstance(value, list) else (value,):
                if slip := _slip(_kinds(cls, name), one):
                    raise ValueError(f"{name}: {slip}")
        return sent

    @field_validator("*", mode="after", check_fields=False)
    @classmethod
    def _sensible(cls, value: Any, info: ValidationInfo) -> Any:
        if isinstance(value, date):
            day = value.date() if isinstance(value, datetime) else value
            if not FIRST_DAY <= day <= LAST_DAY:
                raise PydanticCustomError(
                    "day", "must be from {first} to {last}", {"first": str(FIRST_DAY), "last": str(LAST_DAY)}
                )
        elif isinstance(value, float) and value:
            least = fields.least_of(_unit(cls, info.field_name or ""))
            if abs(value) < least:
                raise PydanticCustomError("greater_than_equal", "must be at least {ge}", {"ge": least})
        return value


def _slip(kinds: frozenset[type], value: Any) -> str:
    """What is wrong with the kind of a value where it would be taken for another, "" where nothing is."""
    if isinstance(value, str):
        return "can't hold a NUL character" if "\0" in value else ""
    if isinstance(value, bool):
        return f"must be a number, not {str(value).lower()}" if kinds & {int, float} and bool not in kinds else ""
    if isinstance(value, (int, float)) and not kinds & {int, float}:
        if bool in kinds:
            return f"must be true or false, not {value!r}"
        if kinds & {date, datetime}:
            return f"must be a date, not {value!r}"
    return ""


@cache
def _kinds(model: type[BaseModel], name: str) -> frozenset[type]:
    """Plain types that a field, or each of its list, may have."""
    found, left = set(), [model.model_fields[name].annotation]
    while left:
        one = left.pop()
        if isinstance(one, type) and not get_args(one):
            found.add(one)
        left += [arg for arg in get_args(one) if not isinstance(arg, (str, int, float))]
    return frozenset(found)


@cache
def _unit(model: type[BaseModel], name: str) -> str:
    told = model.model_fields[name].json_schema_extra if name in model.model_fields else None
    return str(told.get("unit", "")) if isinstance(told, dict) else ""


class Out(BaseModel):
    """A body that goes out, read from objects."""

    model_config = ConfigDict(from_attributes=True)


def quantity(unit: str, description: str, default: Any = ..., **limits: Any) -> Any:
    """A field with its unit told in the description and, for machines, as `unit`."""
    return Field(default, description=f"{description} [{unit}]", json_schema_extra={"unit": unit}, **limits)


class WorkingInput(Out):
    """One value that goes into a line."""

    symbol: Sentence
    value: float
    unit: str


class WorkingLine(Out):
    """One line of the sum behind a number."""

    key: str = Field(description="Name of the line; the client words it.")
    formula: Sentence
    inputs: list[WorkingInput]
    value: float
    unit: str = Field(description="Empty = none; `yes` = 1 where the formula holds, else 0.")
    source: Sentence
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
    message: Sentence
