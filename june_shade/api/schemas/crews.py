"""What crews have and what days take from them, sites that are lent, stops and what coming there takes."""

from datetime import date
from typing import Annotated, Any
from uuid import UUID

from pydantic import Field

from june_shade.api.schemas.common import In, Name, Out, quantity
from june_shade.api.schemas.sites import Latitude, Longitude
from june_shade.core.choosing import hands


def _of(name: str) -> dict[str, Any]:
    low, high = hands.RANGES[name]
    return {"ge": low, "le": high}


class CrewIn(In):
    """A crew as it is typed."""

    name: Name
    yard_latitude_deg: Latitude | None = None
    yard_longitude_deg: Longitude | None = None
    people: int = Field(2, description="Who work together.", ge=1, le=50)
    working_days: list[Annotated[int, Field(ge=0, le=6)]] = Field(
        default_factory=lambda: list(range(5)), min_length=1, max_length=7, description="Monday 0 to Sunday 6."
    )
    starts_min: int = quantity("min", "Minute of the day it starts", hands.STARTS_MIN, **_of("starts_min"))
    hours: float = quantity("h", "Hours of a day", hands.HOURS, **_of("hours"))
    break_min: float = quantity("min", "For yard and breaks together", hands.BREAK_MIN, **_of("break_min"))
    hoses: int = Field(1, description="Hoses or nozzles that run at once.", ge=1, le=20)
    tank_l: float | None = quantity("L", "Its tank", None, **_of("tank_l"))
    fill_min: float = quantity("min", "To fill it", hands.FILL_MIN, **_of("fill_min"))
    set_up_min: float = quantity("min", "To set up a stop", hands.SET_UP_MIN, **_of("set_up_min"))
    handling_min: float = quantity("min", "To handle a tree", hands.HANDLING_MIN, **_of("handling_min"))
    version: int | None = Field(None, description="As it was read; an older one is refused.")


class CrewOut(CrewIn, Out):
    """A crew as it is stored."""

    id: UUID
    working_days: list[int]
    sites: list[str] = Field(description="Names of its sites.")
    closed_on: date | None
    version: int


class CrewDayIn(In):
    """What a day takes from a crew."""

    people_less: int = Field(0, ge=0, le=50, description="Hands missing.")
    starts_min: int | None = quantity("min", "Minute of the day it starts, later than usual", None, ge=0, le=1440)
    ends_min: int | None = quantity("min", "Minute of the day it ends, sooner than usual", None, ge=0, le=1440)
    pump_broken: bool = False


class CrewDayOut(CrewDayIn, Out):
    """The same as it is stored."""

    crew_id: UUID
    day: date


class LoanOut(Out):
    """A site that another crew waters on a day."""

    site_id: UUID
    site: str
    day: date
    crew_id: UUID
    crew: str


class LentIn(In):
    """The crew that waters a site on a day in place of its own; null takes that back."""

    crew_id: UUID | None


class StopIn(In):
    """What is known of a stop."""

    set_up_min: float | None = quantity("min", "To set up there; as the crew's where null", None, ge=0, le=240)
    way_min: float | None = quantity("min", "From the stop before", None, ge=0, le=240)
    latitude_deg: Latitude | None = None
    longitude_deg: Longitude | None = None


class StopKnown(StopIn, Out):
    """A stop as it is stored."""

    id: UUID
    name: str


class LearnedOut(Out):
    """What the log says that something takes."""

    minutes: float | None = quantity("min", "Median of the last ones seen, null where too few were")
    of: int = Field(description="How many that are.")


class CrewLearnedOut(Out):
    """What a crew's log says of its minutes."""

    handling: LearnedOut
    set_up: LearnedOut


class StopSeenOut(StopKnown):
    """A stop of a site, with what the log says of it."""

    trees: int
    arriving: LearnedOut = Field(description="Set-up and way there together.")
