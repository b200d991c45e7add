"""Catch tests: what cups under emitters caught, and what that says of a tree and of a line."""

from datetime import date
from typing import Annotated
from uuid import UUID

from pydantic import Field

from june_shade.api.schemas.common import In, Out, Words, quantity

Cup = Annotated[float, Field(ge=0, le=100_000, description="In a cup [mL].")]


class CatchIn(In):
    """What a cup under each emitter caught in a timed run, in the emitters' order."""

    tree_id: UUID
    day: date | None = Field(None, description="Today where null.")
    minutes: float = quantity("min", "How long it ran", ge=1, le=240)
    caught_ml: Annotated[list[Cup], Field(min_length=1, max_length=240)]
    note: Words = ""


class SinceOut(Out):
    """Against the test before."""

    changed: float | None = Field(description="Mean flow over that of the test before, less 1.")
    losing: list[int] = Field(description="Emitters that give under 0.9 of what they gave.")


class CatchOut(Out):
    """A catch test and what it says; emitters by number, from 1."""

    id: UUID
    layout_id: UUID
    day: date
    minutes: float = quantity("min", "How long it ran")
    caught_ml: list[float] = Field(description="In each cup [mL].")
    note: str
    withdrawn: bool
    in_force: bool = Field(description="Run times go by it.")
    flows_l_per_h: list[float] = Field(description="Of each emitter [L/h].")
    mean_l_per_h: float = quantity("L/h", "Mean flow")
    low_quarter_l_per_h: float = quantity("L/h", "Mean of the least quarter")
    uniformity: float | None = Field(description="Low quarter over mean, 0 to 1; null where nothing was caught.")
    variation: float | None = Field(description="Coefficient of variation.")
    of_nominal: float = Field(description="Mean over what the emitter is sold as.")
    blocked: list[int]
    weak: list[int]
    leaking: list[int]
    since: SinceOut | None


class CaughtAtOut(Out):
    """A tree of a line as its last catch test found it; emitters by number, from 1."""

    tree_id: UUID
    tag: str
    day: date
    mean_l_per_h: float = quantity("L/h", "Mean flow of its emitters")
    blocked: list[int]
    weak: list[int]
    leaking: list[int]


class CaughtOnOut(Out):
    """What catch tests found along a line."""

    uniformity: float | None = Field(description="Low quarter over mean, each tree tested counting as one.")
    least: int = Field(description="Which of the trees tested gets least, from 0.")
    trees: list[CaughtAtOut]
