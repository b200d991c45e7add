"""The log, and the day's round."""

from datetime import date, datetime
from typing import Annotated, Literal
from uuid import UUID

from pydantic import AwareDatetime, Field, StringConstraints, model_validator

from june_shade.api.schemas.care import TaskOut
from june_shade.api.schemas.common import In, Out, quantity
from june_shade.api.schemas.planting import PlantingRow
from june_shade.api.schemas.trees import LineOut, Next, Section
from june_shade.plans.forecast import Standing

NoteText = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=2000)]


SkipReason = Literal["no_access", "soil_wet", "no_water", "no_time", "tree_gone", "other"]
Seen = Literal[
    "wilting", "scorch", "pest", "damage", "leak", "wet_ground", "dry_ball", "mulch_off", "support",
    "bud_break", "other",
]  # fmt: skip


Hand = Literal["finger", "trowel", "rod", "probe"]
Felt = Literal["wet", "moist", "drying", "dry", "like_clay"]


class EntryIn(In):
    """An entry as the client made it, under the id that it chose."""

    tree_id: UUID
    kind: Literal["water", "note", "skip", "reading", "void"]
    happened_at: AwareDatetime
    device_id: Annotated[str, StringConstraints(min_length=1, max_length=80)]
    person_id: UUID | None = None
    volume_l: float | None = quantity("L", "Water poured", None, gt=0, le=20000)
    duration_min: float | None = quantity("min", "How long it ran", None, ge=0, le=2880)
    note: NoteText | None = None
    reason: SkipReason | None = Field(None, description="For kind skip: why.")
    seen: Seen | None = Field(None, description="For kind note: what was seen.")
    how: Hand | None = Field(None, description="For kind reading: what it was felt with.")
    ball_feel: Felt | None = Field(None, description="For kind reading: the ball, 10 to 15 cm down its side.")
    ring_feel: Felt | None = Field(None, description="For kind reading: the soil 30 cm beside the ball.")
    ball_theta: float | None = quantity("m3/m3", "For a probe: water in the ball", None, ge=0, le=1)
    ring_theta: float | None = quantity("m3/m3", "For a probe: water in the soil beside it", None, ge=0, le=1)
    voids: UUID | None = Field(None, description="For kind void: the entry that is undone.")
    corrects: UUID | None = Field(None, description="The entry that this one replaces, in one step.")
    void_id: UUID | None = Field(None, description="With corrects: the id of the void that goes with it.")

    @model_validator(mode="after")
    def _fits_kind(self) -> "EntryIn":
        if (self.kind == "water") != (self.volume_l is not None):
            raise ValueError("volume_l: water, and only water, has a volume")
        if (self.kind == "void") != (self.voids is not None):
            raise ValueError("voids: an undo, and only an undo, names the entry it undoes")
        if (self.kind == "skip") != (self.reason is not None):
            raise ValueError("reason: a skip, and only a skip, has a reason")
        if self.seen is not None and self.kind != "note":
            raise ValueError("seen: only a note says what was seen")
        if self.kind == "note" and self.note is None and self.seen is None:
            raise ValueError("note: a note says something")
        if (self.kind == "reading") != (self.how is not None):
            raise ValueError("how: a reading, and only a reading, says what it was felt with")
        felt = self.ball_feel is not None or self.ring_feel is not None
        probed = self.ball_theta is not None or self.ring_theta is not None
        if (self.kind == "reading") != (felt or probed):
            raise ValueError("ball_feel: a reading, and only a reading, says how ball or soil felt")
        if self.kind == "reading" and (self.how == "probe", felt) not in ((True, False), (False, True)):
            raise ValueError("how: a probe reads m3/m3, a hand says how it feels")
        if probed and self.how != "probe":
            raise ValueError("ball_theta: only a probe reads m3/m3")
        if self.kind not in ("water", "reading") and self.corrects is not None:
            raise ValueError("corrects: only water and readings are corrected; undo the rest")
        return self


class EntryWithId(EntryIn):
    """An entry of a batch with the id that the client made."""

    id: UUID

    @model_validator(mode="after")
    def _plain(self) -> "EntryWithId":
        if self.corrects is not None:
            raise ValueError("corrects: a correction is sent alone")
        return self


class BatchIn(In):
    """Entries that are stored together or not at all."""

    entries: Annotated[list[EntryWithId], Field(min_length=1, max_length=500)]


class AgainstOut(Out):
    """An order that a watering went against; its own words decide."""

    order: str
    rules: list[Literal["weekdays", "windows", "methods", "event_l"]]
    words: str


class EntryOut(Out):
    """A stored entry."""

    id: UUID
    tree_id: UUID
    kind: str
    happened_at: datetime
    local_date: date
    recorded_at: datetime
    person_id: UUID | None
    person: str | None
    device_id: str
    volume_l: float | None = quantity("L", "Water poured")
    duration_min: float | None = quantity("min", "How long it ran")
    note: str | None
    reason: SkipReason | None
    seen: Seen | None
    how: Hand | None
    ball_feel: Felt | None
    ring_feel: Felt | None
    ball_theta: float | None = quantity("m3/m3", "What a probe read in the ball")
    ring_theta: float | None = quantity("m3/m3", "And beside it")
    voids: UUID | None
    voided: bool
    twice: bool = Field(description="Another device logged water for this tree within the hour: is it the same?")
    against: list[AgainstOut] = Field(description="Orders that this watering went against.")


class RoundTree(Out):
    """A tree of the round."""

    id: UUID
    tag: str
    place: str
    side: str
    note_for_crew: str
    latitude_deg: float | None
    longitude_deg: float | None
    common: str
    method: str
    emitter_count: int
    emitter_flow_l_per_h: float = quantity("L/h", "Flow of one emitter")
    next: Next | None = Field(description="What to pour today; null where nothing is planned today.")
    section: Section
    line: LineOut | None = Field(description="The valve it shares with others, where it wants water today.")
    entries: list[EntryOut] = Field(description="Logged today, standing.")
    skipped: bool = Field(description="Passed over today, with a reason in its entries.")
    without_ks: float | None = Field(
        description="Share of its demand the tree still drinks today if it gets nothing more; null on a day to come."
    )
    without_dryness: float | None = Field(
        description="Dryness at the day's end if it gets nothing more; null on a day to come."
    )


class RoundStop(Out):
    """A stop with the trees that want water today or had it."""

    name: str | None
    position: int | None = Field(description="In the driving order of its crew's day, null where none was worked out.")
    trees: list[RoundTree]


class LookAt(Out):
    """A tree that the plan asks to be looked at."""

    id: UUID
    tag: str
    place: str
    why: Literal["odd", "guessed", "new", "near_limit", "long"]
    days: int = Field(description="Since somebody felt it, or since its record opened.")
    risk: float = quantity("d", "Expected loss if nobody looks, weighted days of growth")
    minutes: float = quantity("min", "That a look takes")


class CrewToday(Out):
    """Who waters a site today."""

    id: UUID
    name: str
    of_site: bool = Field(description="The site's own numbers stand for a crew.")
    minutes: float = quantity("min", "That are left to do at this site: visits, set-up and way")
    has_min: float | None = quantity("min", "That the crew has today at all its sites, null = no limit")


class WaitsToday(Out):
    """A tree that wants water today and was chosen for another day."""

    id: UUID
    tag: str
    place: str
    stop: str | None
    day: date | None = Field(description="When it gets water, null = not within the plan's days.")
    word: Literal["slower_growth", "leaves_suffer", "may_die"] | None = Field(description="What waiting costs it.")
    dryness: float = Field(description="This morning, 0..1.")


class RoundSite(Out):
    """A site's part of the round."""

    id: UUID
    name: str
    zone: str = Field(description="IANA zone.")
    look_at: list[LookAt] = Field(description="Trees to look at today, the riskiest first.")
    dry_by_balance: list[str] = Field(
        description="Tags of trees that the balance would water today and whose routine does not."
    )
    cautions: list[str]
    problem: str | None = Field(description="Why there is no plan, where there is none.")
    filled: bool
    forecast: Standing = Field(description="What the coming days rest on.")
    guessed: int = Field(description="Trees whose record opened on a guess.")
    ready: int = Field(description="Trees that could be watered today but need not be.")
    high_c: float | None = quantity("degC", "Today's high")
    day_off: bool = Field(description="Not one of the crew's working days.")
    tank_l: float | None = quantity("L", "The truck's tank")
    cost: float | None = Field(description="The day's logged water and time at the site's prices, if it has them.")
    crew: CrewToday | None = Field(description="Who waters here today; null where there is no plan.")
    waiting: list[WaitsToday] = Field(description="Trees that want water today and wait, the worst first.")
    stops: list[RoundStop]
    plantings: list[PlantingRow] = Field(description="Planned for today or before, not in the ground yet.")
    care: list[TaskOut] = Field(description="Dated tasks that are due: mulch, stakes, flares.")


class DayWorkOut(Out):
    """What is left to do on a day at all sites of crews that have a limit."""

    minutes: float = quantity("min", "Visits, set-up and way")
    has_min: float = quantity("min", "That the crews have")
    over: bool = Field(description="It is more than they have.")


class RoundOut(Out):
    """Today."""

    day: date
    work: DayWorkOut | None = Field(description="null where no crew with a limit has anything to do.")
    sites: list[RoundSite]
    fills: list[UUID] = Field(description="Trees before which the tank must be filled, on each crew's way.")
    trees: int = Field(description="Trees in the register.")
    look_minutes: float = quantity("min", "For looking at trees, a day")
