"""What would save most: changes over the whole contract, tasks made of them, prices of parts."""

from datetime import date
from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field

from june_shade.api.language import Sentence
from june_shade.api.schemas.common import In, Out, quantity

Measure = Literal["basin_narrow", "basin_wide", "bag", "mulch", "turf", "drip", "box", "dawn", "other_water"]
TaskMeasure = Literal["basin_narrow", "basin_wide", "bag", "mulch", "turf", "drip", "box", "dawn"]
Price = Annotated[float | None, Field(ge=0, le=100_000)]


class SavesOut(Out):
    """Litres and minutes that something saves a week, minutes that it takes once."""

    litres: float = quantity("L", "Saved a week, by this season")
    low_l: float = quantity("L", "Saved a week, the least of the seasons looked at")
    high_l: float = quantity("L", "Saved a week, the most of the seasons looked at")
    minutes_a_week: float = quantity("min", "Of work saved a week, below 0 = more")
    minutes: float = quantity("min", "That it takes to do")


class SavingTreeOut(SavesOut):
    """One change at one tree."""

    id: UUID
    tag: str
    place: str
    cost: float | None = Field(description="Money, null = a price is missing.")
    pays_days: float | None = quantity("d", "Until it has paid, null = never")
    tasked: bool = Field(description="It is on the tree's list already.")


class PartsOut(Out):
    """What is bought for a change."""

    bag: float = Field(0.0, description="Slow-release bags.")
    box: float = Field(0.0, description="Wicked boxes.")
    emitter: float = Field(0.0, description="Emitters.")
    tube_m: float = Field(0.0, json_schema_extra={"unit": "m"}, description="Tube.")
    mulch_m3: float = Field(0.0, json_schema_extra={"unit": "m3"}, description="Loose mulch.")


class OfferOut(SavesOut):
    """One change at a site, with all trees that it suits."""

    measure: Measure
    site_id: UUID
    site: str
    trees: list[SavingTreeOut]
    parts: PartsOut
    cost: float | None = Field(description="Money, null = a price is missing.")
    pays_days: float | None = quantity("d", "Until it has paid, null = never")
    open_days_now: int | None = Field(description="Days of two weeks that orders leave as it is watered now.")
    open_days_then: int | None = Field(description="Days of two weeks that orders leave after the change.")
    allowed: bool


class BestOut(SavesOut):
    """One change at each tree, the one that saves most for its minutes."""

    trees: int


class ProvedOut(Out):
    """What a change really saved."""

    tree_id: UUID
    tag: str
    measure: Measure
    since: date
    days: int
    poured_l: float = quantity("L", "Poured a week since")
    without_l: float = quantity("L", "That a week would have taken without it, by the same days' weather")
    saved_l: float = quantity("L", "Saved a week, below 0 = more was poured")
    low_l: float = quantity("L", "Reckoned to save a week, the least")
    high_l: float = quantity("L", "Reckoned to save a week, the most")


class PricesOut(Out):
    """What a part costs, null = not known."""

    bag: Price = None
    box: Price = None
    emitter: Price = None
    tube_m: Price = Field(None, description="Of a meter of tube.")
    mulch_m3: Price = Field(None, description="Of a cubic meter of loose mulch.")


class PricesIn(In, PricesOut):
    """What parts cost; those left out stay as they are."""


class ProblemOut(Out):
    """A site that could not be gone through."""

    site: str
    words: Sentence


class SavingsOut(Out):
    """Changes over the whole contract, those first that save most for what they take."""

    seasons: int = Field(description="How many were looked at, this one among them.")
    offers: list[OfferOut]
    best: BestOut | None
    proved: list[ProvedOut]
    prices: PricesOut
    problems: list[ProblemOut]


class SavingTasksIn(In):
    """Which change at which trees."""

    measure: TaskMeasure
    tree_ids: Annotated[list[UUID], Field(min_length=1, max_length=5000)]


class SavingTaskOut(Out):
    """A task that was made."""

    id: UUID
    tree_id: UUID
    measure: TaskMeasure
    made_on: date
