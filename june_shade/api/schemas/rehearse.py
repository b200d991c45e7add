"""A season rehearsed under several routines."""

from datetime import date
from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field, StringConstraints

from june_shade.api.schemas.common import In, Out, quantity
from june_shade.api.schemas.routines import InForce, RoutineIn, RoutineOut
from june_shade.api.schemas.trees import TreeOut
from june_shade.plans.rehearse import MOST_ROUTINES


class SpanOut(Out):
    """A season that can be rehearsed."""

    key: str = Field(description="`ahead`, `past` or a year.")
    first: date
    last: date


class RehearsalChoices(Out):
    """What can be rehearsed of a tree."""

    tree: TreeOut
    seasons: list[SpanOut]
    usual: list[RoutineOut] = Field(description="Every school with the figures that it usually has for this tree.")
    in_force: InForce | None = Field(description="null: it follows the balance and always did.")
    wicked: bool = Field(description="It stands in a box with wicks, that waters by itself.")
    stop_id: UUID | None
    stop_trees: int = Field(description="Trees at its stop, 0 without one.")
    site_trees: int


class RehearsalIn(In):
    """What is to be rehearsed."""

    season: Annotated[str, StringConstraints(min_length=1, max_length=10)] = "ahead"
    routines: Annotated[list[RoutineIn], Field(min_length=1, max_length=MOST_ROUTINES)]
    stock_size_id: UUID | None = None


class MonthOut(Out):
    """A month under a routine."""

    month: str
    waterings: int
    gross_l: float = quantity("L", "Poured")
    thirsty_days: int


class RehearsedOut(Out):
    """A season under one routine."""

    routine: RoutineOut
    waterings: int
    gross_l: float = quantity("L", "Poured")
    drained_l: float = quantity("L", "Lost below the roots")
    transpired_l: float = quantity("L", "Drunk by the tree")
    hours: float = quantity("h", "Someone stands by")
    cost: float | None = Field(description="Water and hours at the site's prices; null without any.")
    thirsty_days: int
    longest_thirst_days: int
    lowest_ks: float
    soggy_days: int
    establishment: float = Field(description="How far it stands on its own at the end, 0 to 1.")
    established_on: date | None
    root_radius_m: float = quantity("m", "At the end")
    reasons: list[Literal["too_dry", "too_wet", "wasteful"]]
    fit: Literal["fits", "more_than_balance", "less_than_balance", "too_dry", "too_wet", "wasteful", "is_balance"]
    more_l: float = quantity("L", "Poured beyond the balance; below 0: less")
    months: list[MonthOut]
    dryness: list[float]
    poured_l: list[float]


class RehearsalOut(Out):
    """A tree's season under several routines."""

    season: SpanOut
    as_planted: bool = Field(description="It opens as on planting day, since it did not stand there then.")
    dates: list[date]
    rain_mm: list[float]
    limit: float = Field(description="Dryness at which the balance waters.")
    routines: list[RehearsedOut]
