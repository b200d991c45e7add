"""The plan under limits: the fortnight, moves, wishes; crews and their days; orders."""

from datetime import date, datetime
from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field

from june_shade.api.language import Sentence
from june_shade.api.schemas.common import Day, In, Name, Note, Out, quantity
from june_shade.api.schemas.stock import Method, Mode
from june_shade.api.schemas.trees import Section
from june_shade.core.choosing.fortnight import SLACK_RANGE

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
    problem: Sentence | None


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
    short_l: float = quantity("L", "Less than the trees want")
    short_us_l: float = quantity("L", "Less than the trees want, in steps of half a gallon")
    short_of: list[Literal["water", "hours"]] = Field(description="What there is too little of, and is spent.")


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
    sure: Literal["best", "gap", "open"] | None = Field(
        description="What is known of that: none is better, no more than the gap, or too little to tell a figure."
    )
    holds: list[int] | None = Field(description="On how many paths of weather it holds, of how many.")
    seconds: float | None = quantity("s", "That choosing took")
    pins_missed: int
    outlook_from: int = Field(description="From this day on it is an outlook.")
    slack: float = Field(description="How much more than the least harm it may cost to save water, a share.")
    slack_most: float = Field(description="The most that this can be.")


class ModesAskedIn(In):
    """Litres a week within which modes are to be chosen."""

    week_l: float = quantity("L", "For all trees together, a week", ge=0, le=10_000_000)


class ModeChanged(Out):
    """A tree whose mode would change."""

    id: UUID
    tag: str
    place: str
    site: str
    word: HarmWord | None = Field(description="What it costs the tree beside growing.")


class ModeChange(Out):
    """Trees that would go from one mode to another."""

    now: Mode
    then: Mode
    saves_l: float = quantity("L", "A week, all together; below 0 = it takes more")
    trees: list[ModeChanged]


class ModesProposedOut(Out):
    """Modes that the program would choose; nothing is stored."""

    week_l: float = quantity("L", "A week, as asked")
    litres: float = quantity("L", "A week, by the modes proposed")
    now_l: float = quantity("L", "A week, by the modes that stand")
    least_l: float = quantity("L", "A week, the least without letting a tree die")
    fits: bool = Field(description="They keep to what was asked.")
    modes: dict[Mode, int] = Field(description="How many trees are on each.")
    changes: list[ModeChange] = Field(description="What saves most first.")


class ModesIn(In):
    """Modes to go by, by tree."""

    trees: dict[UUID, Mode] = Field(min_length=1, max_length=20_000)
    week_l: float | None = quantity("L", "A week for all, within which they were proposed", None, ge=0, le=10_000_000)


class SlackIn(In):
    """How much more than the least harm a plan may cost that saves water."""

    slack: float = Field(ge=SLACK_RANGE[0], le=SLACK_RANGE[1], description="A share.")


class FirstDayOut(Out):
    """What is left to do today at the sites shown."""

    litres: float = quantity("L", "Poured, in steps of litres")
    litres_us: float = quantity("L", "Poured, in steps of gallons")
    minutes: float = quantity("min", "Of crews that have a limit, or of all where none has")
    has_min: float | None = quantity("min", "That they have, null where none has a limit")


class FortnightOut(PlanOut):
    """Every tree by day for a fortnight."""

    today: FirstDayOut | None
    days: list[date]
    sites: list[SiteAhead]
    crews: list[CrewAhead]
    orders: list[OrderAhead]
    weeks: list[WeekOut] = Field(description="Of all sites together; none where one is shown or nothing was chosen.")


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


class RestrictionBase(In):
    """What an order says."""

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


class RestrictionIn(RestrictionBase):
    """An order as it is typed."""

    changes_from: Day | None = Field(
        None, description="It says something else from this day on: until then it stays on record as it was. Null = it "
        "was entered wrong, for all its days.",
    )  # fmt: skip
    version: int | None = Field(None, description="As it was read; an older one is refused.")


class RestrictionOut(RestrictionBase, Out):
    """An order as it is stored."""

    id: UUID
    in_force: bool
    today: date
    withdrawn: bool
    version: int


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


class BesidePlan(Out):
    """What a plan comes to a week, and trees by what it costs them."""

    name: Literal["as_ordered", "hand", "hour", "tank", "hold", "cap"]
    litres: float = quantity("L", "A week, in steps of litres")
    litres_us: float = quantity("L", "A week, in steps of half a gallon")
    minutes: float = quantity("min", "Of work a week")
    may_die: int
    leaves_suffer: int
    slower_growth: int
    trees: int = Field(description="Trees whose terms it changes.")


class BesideOut(Out):
    """Plans beside the standing one."""

    made_at: datetime
    first_day: date
    plans: list[BesidePlan]
    caps: list[BesidePlan] = Field(description="Least harm with ever more litres.")
    knee: int = Field(description="Which of these: past it a liter more helps less.")


class DrySpan(Out):
    """Rain of the last days against the same days of other years."""

    days: int
    rain_mm: float = quantity("mm", "Measured")
    usual_mm: float = quantity("mm", "Median of the other years")
    years: int = Field(description="Other years that were measured.")
    drier: int = Field(description="Of these, years that were wetter than this one.")
    spi: float | None = Field(description="Standardized precipitation index, null = too few years.")


class StationSeason(Out):
    """A station's season against others."""

    station: str
    spans: list[DrySpan]


class DroughtOut(Out):
    """Orders, weeks, trees that go without."""

    orders: list[RestrictionOut]
    weeks: list[WeekOut]
    beside: BesideOut | None
    seasons: list[StationSeason]
    without: list[WithoutOut]
    let_go: list[LetGoneOut]


class WithdrawnIn(In):
    """Whether an order is taken back."""

    withdrawn: bool
