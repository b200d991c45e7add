"""Boxes at valves: as they are entered, and what they run, ran and say."""

from datetime import date, datetime
from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field

from june_shade.api.language import Sentence
from june_shade.api.schemas.common import In, Name, Out, quantity

Minute = Annotated[float, Field(ge=0, le=1440)]
RunState = Literal["planned", "sent", "running", "done", "stopped", "missed", "dropped"]
Verdict = Literal["stuck_shut", "blocked", "clogging", "fine", "leak", "burst"]


class OutletIO(In):
    """An outlet and the line that hangs on it."""

    number: int = Field(ge=1, le=64)
    line_id: UUID


class BoxIn(In):
    """A box as it is entered. hours: in which its lines may run, from and to in minutes of the day."""

    site_id: UUID
    name: Name
    address: Name = Field(description="Where it answers, http:// or https://.")
    hours: Annotated[list[tuple[Minute, Minute]], Field(min_length=1, max_length=6)] = [(240.0, 420.0)]
    outlets: Annotated[list[OutletIO], Field(max_length=64)] = []
    version: int | None = None


class BoxStopIn(In):
    """What is stopped: a run, under way or still to come; null = all outlets are shut."""

    run_id: UUID | None = None


class OutletOut(Out):
    """An outlet with its line."""

    number: int
    line_id: UUID
    line_name: str


class BoxRunOut(Out):
    """A run of a line. litres, share, off_l_per_h: by the meter, once it is over; null before."""

    id: UUID
    number: int
    line_id: UUID
    line_name: str
    state: RunState
    starts_at: datetime
    ends_at: datetime
    open_min: float = quantity("min", "How long a go is open")
    goes: int
    rest_min: float = quantity("min", "Between goes")
    line_l_per_h: float = quantity("L/h", "What the line takes")
    expected_l: float = Field(description="What it should take in all [L].", json_schema_extra={"unit": "L"})
    litres: float | None = Field(description="What the meter says [L].", json_schema_extra={"unit": "L"})
    over_at: datetime | None
    believed: bool | None
    verdict: Verdict | None
    share: float | None = Field(description="Metered of expected.")
    off_l_per_h: float | None = quantity("L/h", "What more or less flowed")


class LeftOut(Out):
    """A run that the plan wants and that found no room: a person's to run."""

    line_id: UUID
    line_name: str
    day: date
    why: Literal["order", "frost", "hours"]


class IdleOut(Out):
    """Water that flows with all outlets shut; outlet 0 = a leak."""

    outlet: int
    flow_l_per_h: float = quantity("L/h", "How much")


class BoxOut(Out):
    """A box as it stands."""

    id: UUID
    site_id: UUID
    site_name: str
    timezone: str
    name: str
    address: str
    hours: list[list[float]] = Field(description="From and to, in minutes of the day.")
    outlets: list[OutletOut]
    closed_on: date | None
    answered_at: datetime | None
    silent_since: datetime | None = Field(description="Null while it answers.")
    said: Sentence = Field(description="What is wrong with its answers, empty where nothing is.")
    clock_off_min: float = quantity("min", "How far its clock was off")
    clock_doubted: bool
    relied_on: bool = Field(description="Nobody has to come for its lines: it answers and keeps time.")
    idle: IdleOut | None
    runs: list[BoxRunOut]
    left: list[LeftOut]
    version: int


class BoxClosedIn(In):
    """Whether a box is asked no more."""

    closed: bool
