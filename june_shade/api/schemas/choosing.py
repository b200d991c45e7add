"""The plan under limits: the fortnight, moves, wishes; crews and their days; orders."""

from datetime import date, datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import Field

from june_shade.api.schemas.common import Day, In, Name, Note, Out, quantity
from june_shade.api.schemas.sites import Latitude, Longitude
from june_shade.api.schemas.stock import Method
from june_shade.api.schemas.trees import Section
from june_shade.core.choosing import hands

HarmWord = Literal["slower_growth", "leaves_suffer", "may_die"]
Wish = Literal["pin", "forbid", "free"]


class VisitOut(Out):
    """A visit of the fortnight."""

    day: int = Field(description="From 0, today.")
    litres: float = quantity("L", "Poured, in metric steps")
    litres_us: float = quantity("L", "Poured, in steps of half a gallon")
    minutes: float = quantity("min", "That the crew takes for it")
    share: float = Field(description="Of the whole refill, 0..1.")


class WishedOut(Out):
    """What somebody wants of a day."""

    day: int = Field(description="From 0, today.")
    wish: Wish
    by: str | None
    said_at: datetime


class TreeAheadOut(Out):
    """A tree's fortnight."""

    id: UUID
    tag: str
    place: str
    common: str
    method: Method
    line: int | None = Field(description="Trees with the same number at a site share a valve.")
    limit: float = Field(description="Dryness at which it wants water, 0..1.")
    now: float = Field(description="Dryness this morning, 0..1.")
    dryness: list[float] = Field(description="At each day's end, 0..1.")
    worst_ks: float = Field(description="Least uptake of any day, 0..1.")
    due: int | None = Field(description="Day on which it wants water first.")
    visits: list[VisitOut]
    wishes: list[WishedOut]
    poured_l: float = quantity("L", "Logged today")
    skipped: bool
    word: HarmWord | None = Field(description="What the plan costs it, null = nothing.")
    none_word: HarmWord | None = Field(description="What no visit at all would cost it.")
    waits: bool = Field(description="Wants water today and was chosen for another day.")
    waits_word: HarmWord | None
    section: Section


class StopAhead(Out):
    """A stop of the fortnight."""

    id: UUID | None
    name: str | None
    trees: list[TreeAheadOut]


class SiteAhead(Out):
    """A site of the fortnight."""

    id: UUID
    name: str
    crew: str
    rain_mm: list[float] = Field(description="Rain that counts, by day [mm].")
    closed: list[bool] = Field(description="Days on which its crew does not work.")
    stops: list[StopAhead]
    problem: str | None


class CrewAhead(Out):
    """A crew's fortnight against what it has."""

    id: UUID
    name: str
    of_site: bool = Field(description="A site's own numbers stand for a crew.")
    minutes: list[float] = Field(description="Of work by day [min].")
    limits: list[float | None] = Field(description="That it has by day [min], null = no limit.")
    litres: list[float] = Field(description="By day [L].")
    litres_us: list[float] = Field(description="By day, in steps of half a gallon [L].")
    tank_l: float | None = quantity("L", "Its tank")


class OrderAhead(Out):
    """An order that holds within the fortnight."""

    id: UUID
    name: str
    stage: int
    begins: date | None = Field(description="When it begins, null = in force.")


class PlanOut(Out):
    """The standing plan."""

    plan_id: UUID | None
    made_at: datetime | None = Field(description="When the plan was chosen, null = none was.")
    stale: bool = Field(description="Something changed since that matters to it.")
    gap: float | None = Field(description="How much better another plan tried could be at most, share of its harm.")
    holds: list[int] | None = Field(description="On how many paths of weather it holds, of how many.")
    seconds: float | None = quantity("s", "That choosing took")
    pins_missed: int
    outlook_from: int = Field(description="From this day on it is an outlook.")


class FortnightOut(PlanOut):
    """Every tree by day for a fortnight."""

    days: list[date]
    sites: list[SiteAhead]
    crews: list[CrewAhead]
    orders: list[OrderAhead]


class TryIn(In):
    """Days on which a tree would be visited."""

    tree_id: UUID
    days: Annotated[list[Annotated[int, Field(ge=0, le=13)]], Field(max_length=14)]


class TryOut(Out):
    """What that would come to."""

    tree_id: UUID
    trees: list[str] = Field(description="Tags of all that move with it.")
    dryness: list[float]
    worst_ks: float
    visits: list[VisitOut]
    word: HarmWord | None
    word_before: HarmWord | None
    litres: float = quantity("L", "More than now, all that move together")
    minutes: float = quantity("min", "More than now")
    forbidden: list[int] = Field(description="Days among them that an order, a crew's week or a wish closes.")


class WishIn(In):
    """What somebody wants of a tree's day."""

    tree_id: UUID
    day: Day
    wish: Wish
    instead_of: Day | None = Field(None, description="The day whose visit is given up for it.")
    person_id: UUID | None = None


class WishOut(Out):
    """A wish as it is stored."""

    id: UUID
    tree_id: UUID
    day: date
    wish: Wish
    said_at: datetime


class LetGoIn(In):
    """Who lets a tree go."""

    tree_id: UUID
    by_name: Name


class LetGoOut(Out):
    """A tree that was let go."""

    id: UUID
    tree_id: UUID
    by_name: str
    day: date
    withdrawn_at: datetime | None


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


class ByNumberIn(In):
    """Weekdays by house number."""

    even: list[Annotated[int, Field(ge=1, le=7)]] | None = None
    odd: list[Annotated[int, Field(ge=1, le=7)]] | None = None


OrderMethod = Literal["hose", "bucket", "tank", "emitters", "soaker", "bag", "sprinkler", "box"]
Rule = Literal["weekdays", "windows", "methods", "event_l"]
Time = Annotated[str, Field(pattern=r"^(([01]\d|2[0-3]):[0-5]\d|24:00)$", description="A time of day like 06:30.")]


class ExemptIn(In):
    """Rules that are lifted where all conditions hold that are not null."""

    methods: list[OrderMethod] | None = None
    planted_within_days: int | None = Field(None, ge=0, le=3650)
    water: list[Literal["mains", "well", "reclaimed", "pond"]] | None = None
    rules: list[Rule]


class RulesIn(In):
    """What an order allows; null = no such rule."""

    weekdays: list[Annotated[int, Field(ge=1, le=7)]] | ByNumberIn | None = None
    windows: list[Annotated[list[Time], Field(min_length=2, max_length=2)]] | None = None
    methods: list[OrderMethod] | None = None
    event_l: float | None = quantity("L", "A watering at most", None, ge=0, le=100000)
    exempt: list[ExemptIn] = []


class RestrictionIn(In):
    """An order as it is typed."""

    name: Name
    stage: int = Field(ge=0, le=5)
    first_day: Day | None = None
    last_day: Day | None = None
    rules: RulesIn
    week_l: float | None = quantity("L", "A week for all its sites together", None, ge=0, le=100_000_000)
    closes_yards: bool = Field(False, description="Tanks may not be filled.")
    words: Annotated[str, Field(max_length=4000)] = ""
    link: Note = ""
    sites: list[UUID]
    version: int | None = Field(None, description="As it was read; an older one is refused.")


class RestrictionOut(RestrictionIn, Out):
    """An order as it is stored."""

    id: UUID
    in_force: bool
    withdrawn: bool
    version: int


class WeekOut(Out):
    """A week of the plan."""

    first_day: date
    wanted_l: float = quantity("L", "That trees want")
    wanted_min: float = quantity("min", "Of work for that")
    allowed_l: float | None = quantity("L", "That orders allow, null = no limit")
    allowed_min: float | None = quantity("min", "That crews have, null = no limit")
    chosen_l: float = quantity("L", "Planned")
    chosen_us_l: float = quantity("L", "Planned, in steps of half a gallon")
    chosen_min: float = quantity("min", "Of work for that")


class WithoutOut(Out):
    """A tree that the plan costs something."""

    id: UUID
    tag: str
    place: str
    site: str
    word: HarmWord
    next: date | None = Field(description="Its next visit, null = none in two weeks.")
    visits: int


class LetGoneOut(Out):
    """A tree that was let go."""

    id: UUID = Field(description="Of the entry, to take it back.")
    tag: str
    by_name: str
    day: date


class DroughtOut(Out):
    """Orders, weeks, trees that go without."""

    orders: list[RestrictionOut]
    weeks: list[WeekOut]
    without: list[WithoutOut]
    let_go: list[LetGoneOut]


class WithdrawnIn(In):
    """Whether an order is taken back."""

    withdrawn: bool
