"""The book: rows, numbers, a month for the client."""

from datetime import date, datetime
from typing import Literal
from uuid import UUID

from pydantic import Field

from june_shade.api.schemas.choosing import RestrictionOut
from june_shade.api.schemas.common import Out, quantity
from june_shade.api.schemas.log import AgainstOut
from june_shade.api.schemas.routines import RoutineOut

BookKind = Literal[
    "water", "reading", "note", "skip", "checkup", "thirst", "mulch", "care", "layout", "proof", "catch", "planted",
    "ended", "soil", "routine", "changed", "own",
]  # fmt: skip


class BookTree(Out):
    """A tree as the book names it."""

    id: UUID
    tag: str
    place: str
    common: str
    ended_on: date | None


class BookRow(Out):
    """A row of the book: when, at which tree, who, and what it says; what it doesn't say is null."""

    kind: BookKind
    id: UUID
    day: date
    at: datetime | None
    zone: str
    site_id: UUID
    site_name: str
    tree: BookTree | None
    person: str | None
    undone: bool
    subject: str
    pictures: list[UUID] = Field(description="Taken at it.")
    volume_l: float | None = quantity("L", "Water poured", None)
    duration_min: float | None = quantity("min", "How long it ran", None)
    note: str | None = None
    seen: str | None = None
    reason: str | None = None
    how: str | None = None
    ball_feel: str | None = None
    ring_feel: str | None = None
    ball_theta: float | None = quantity("m3/m3", "What a probe read in the ball", None)
    ring_theta: float | None = quantity("m3/m3", "And beside it", None)
    verdict: str | None = None
    water_act: str | None = None
    answer: str | None = None
    multiplier: float | None = None
    material: str | None = None
    depth_m: float | None = quantity("m", "Of mulch, or to which a proof wetted", None)
    act: str | None = None
    flow_l_per_h: float | None = quantity("L/h", "Of a layout", None)
    emitters: int | None = None
    minutes: float | None = quantity("min", "That a proof or a catch test ran", None)
    cause: str | None = None
    method: str | None = None
    growth_m: float | None = quantity("m", "Of twigs this season", None)
    routine: RoutineOut | None = None


class BookPage(Out):
    """Some rows of the book, the newest first, and how many there are."""

    count: int
    rows: list[BookRow]


class SurvivalOut(Out):
    """How many of a group of trees survive."""

    group: str
    planted: int
    standing: int
    lost: int
    gone: int
    share: float | None
    low: float | None
    high: float | None


class WorkOfMonth(Out):
    """What was poured in a month."""

    month: str
    litres: float = quantity("L", "Poured")
    hours: float = quantity("h", "Written down with the water")
    waterings: int


class SurvivalBy(Out):
    """Survival by kind of tree, stock, planter and year of planting."""

    kind: list[SurvivalOut]
    stock: list[SurvivalOut]
    planter: list[SurvivalOut]
    year: list[SurvivalOut]


class NumbersOut(Out):
    """What days of the book add up to."""

    first: date
    last: date
    litres: float = quantity("L", "Poured")
    hours: float = quantity("h", "Written down with the water")
    waterings: int
    trees: int
    days: int
    counts: dict[str, int]
    cost: float | None
    by_month: list[WorkOfMonth]
    survival: SurvivalBy


class MonthDayOut(Out):
    """A day of a month."""

    day: date
    poured_l: float = quantity("L", "Poured")
    rain_mm: float | None = quantity("mm", "Measured; null: it was not")


class BookMonth(Out):
    """A month of a site for its client."""

    site_id: UUID
    site_name: str
    first: date
    last: date
    numbers: NumbersOut
    days: list[MonthDayOut]
    rain_mm: float = quantity("mm", "Measured in the month")
    standing: int
    rows: list[BookRow]


class SheetWeek(Out):
    """A week, or what is left of one."""

    first: date
    last: date
    litres: float = quantity("L", "Poured")
    hours: float = quantity("h", "Written down with the water")
    waterings: int
    allowed_l: float | None = quantity("L", "That the order with least room allowed, null = no such order")
    counted_l: float | None = quantity("L", "Poured at the sites of that order")


class SheetBroken(Out):
    """A watering against an order."""

    day: date
    site: str
    tag: str
    litres: float = quantity("L", "Poured")
    against: list[AgainstOut]


class SheetLost(Out):
    """A tree that ended."""

    day: date
    site: str
    tag: str
    place: str
    common: str
    end: Literal["dead", "removed", "stolen", "moved"]
    cause: str


class SheetOut(Out):
    """What was ordered, done, and lost, over any dates."""

    site_name: str | None = Field(description="null = all sites.")
    first: date
    last: date
    orders: list[RestrictionOut]
    weeks: list[SheetWeek]
    broken: list[SheetBroken]
    lost: list[SheetLost]
    litres: float = quantity("L", "Poured")
    hours: float = quantity("h", "Written down with the water")
    waterings: int
    watered: int = Field(description="Trees that had water.")
    trees: int = Field(description="Trees that stand now.")
