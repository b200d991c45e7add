"""Probes in the ground: as they are entered and calibrated, what they read and say."""

from datetime import date, datetime
from typing import Literal
from uuid import UUID

from pydantic import Field, model_validator

from june_shade.api.language import Sentence
from june_shade.api.schemas.common import In, Name, Out, quantity
from june_shade.api.schemas.log import Felt

Store = Literal["ball", "ring"]
Doubt = Literal["", "mars", "spike", "stuck", "frozen"]
Why = Literal["", "gap", "elsewhere", "mars", "spike", "stuck", "frozen"]
PointKind = Literal["wet", "felt"]


class ProbeIn(In):
    """A probe as it is entered. store: which store of the tree it stands in."""

    tree_id: UUID
    name: Name
    address: Name = Field(description="Where it answers, http:// or https://.")
    store: Store
    version: int | None = None


class ProbeClosedIn(In):
    """Whether a probe is asked no more."""

    closed: bool


class ProbePointIn(In):
    """What is true where it reads now: wet = a day after it was soaked; felt = as a hand feels it."""

    kind: PointKind
    feel: Felt | None = None

    @model_validator(mode="after")
    def _felt(self) -> "ProbePointIn":
        if (self.kind == "felt") != (self.feel is not None):
            raise ValueError("feel: goes with felt, and only with it")
        return self


class ProbePointOut(Out):
    """What it read where the truth was known."""

    kind: PointKind
    at: datetime
    read_m3_m3: float = quantity("m3/m3", "What it read")
    true_m3_m3: float = quantity("m3/m3", "What was true")
    feel: Felt | None


class ProbeHourOut(Out):
    """One hour, each of its depths in their order: calibrated, null where nothing was told; what it is instead of a
    reading, '' where it is one."""

    at: datetime
    theta: list[float | None] = Field(description="Water content [m3/m3].", json_schema_extra={"unit": "m3/m3"})
    doubts: list[Doubt]


class ProbeNightOut(Out):
    """What the hours up to six in the morning of a day said of the store, or why they said nothing."""

    day: date
    theta_m3_m3: float | None = quantity("m3/m3", "Null where it said nothing")
    why: Why
    logged: bool = Field(description="Whether it counts in the plan.")


class ProbeOut(Out):
    """A probe as it stands. The limits of its store are null where nothing can be planned for its tree."""

    id: UUID
    tree_id: UUID
    tree_tag: str
    site_name: str
    timezone: str
    name: str
    address: str
    store: Store
    closed_on: date | None
    answered_at: datetime | None
    silent_since: datetime | None = Field(description="Null while it answers.")
    said: Sentence = Field(description="What is wrong with its answers, empty where nothing is.")
    clock_off_min: float = quantity("min", "How far its clock was off")
    clock_is_off: bool
    battery_percent: float | None
    trouble: Literal["", "silent", "battery", "gap", "elsewhere", "mars", "spike", "stuck", "frozen"]
    depths_m: list[float] = Field(description="Of its sensors [m].", json_schema_extra={"unit": "m"})
    in_store: list[bool] = Field(description="Which of them lie in the store.")
    wilting_m3_m3: float | None = quantity("m3/m3", "What roots can't take any more")
    capacity_m3_m3: float | None = quantity("m3/m3", "What stays against gravity")
    saturation_m3_m3: float | None = quantity("m3/m3", "All that its pores hold")
    wetness: float | None = Field(description="Of its last reading, as a share of available water.")
    points: list[ProbePointOut]
    nights: list[ProbeNightOut]
    hours: list[ProbeHourOut]
    version: int


class ProbeTroubleOut(Out):
    """A probe that something is wrong with."""

    id: UUID
    tree_id: UUID
    tree_tag: str
    site_id: UUID
    site_name: str
    timezone: str
    name: str
    silent_since: datetime | None
    trouble: Literal["silent", "battery", "gap", "elsewhere", "mars", "spike", "stuck", "frozen"]
