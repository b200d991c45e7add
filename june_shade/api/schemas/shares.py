"""What is shown to clients, people's own calendars, what others did."""

from datetime import date, datetime
from uuid import UUID

from pydantic import Field

from june_shade.api.schemas.book import BookMonth
from june_shade.api.schemas.common import Day, In, Name, Out, quantity


class ShareIn(In):
    """A site shown to somebody up to a day."""

    site_id: UUID
    name: Name = Field(description="For whom.")
    ends_on: Day = Field(description="The last day on which it shows anything.")
    account_id: UUID | None = Field(None, description="A client's account, to see it when they sign in.")


class ShareOut(Out):
    """A link as whoever made it sees it."""

    id: UUID
    site_id: UUID
    name: str
    account_id: UUID | None
    path: str = Field(description="The address, under the program's own.")
    ends_on: date
    made_at: datetime
    seen_at: datetime | None
    revoked: bool


class SharedSite(Out):
    """A site that a client may look at."""

    site: str
    path: str
    ends_on: date


class SharedTree(Out):
    """A tree as a client sees it."""

    id: UUID
    tag: str
    place: str
    stop: str | None
    common: str
    botanical: str
    planted_on: date
    state: str | None
    dryness: float | None = Field(description="0 wet to 1, null unknown.")
    next_on: date | None


class SharedDay(Out):
    """A day of the plan."""

    day: date
    trees: int
    litres: float = quantity("L", "Poured, in metric steps")
    litres_us: float = quantity("L", "Poured, in steps of half a gallon")


class SharedOut(Out):
    """What a link shows: trees, plan, a month of the book."""

    organisation: str
    name: str
    ends_on: date
    today: date
    trees: list[SharedTree]
    plan: list[SharedDay]
    month: BookMonth


class FeedOut(Out):
    """The address of one's own calendar."""

    path: str


class DoneOut(Out):
    """What others did of a kind since one last looked."""

    kind: str = Field(description="water, note, skip, reading, void, checkup, mulch, care, ended, or set_ and a table.")
    by: str | None
    count: int
