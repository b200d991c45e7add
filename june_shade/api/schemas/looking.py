"""What is looked at in trees: check-ups, what readings say, what is answered to it."""

from datetime import date
from typing import Annotated, Literal
from uuid import UUID

from pydantic import AwareDatetime, Field, StringConstraints

from june_shade.api.schemas.care import TaskKind
from june_shade.api.schemas.common import In, Out, Words, quantity
from june_shade.api.schemas.trees import DoubtOut, ReadingOut, Section, TreeOut

Finding = Literal[
    "ball_feel", "ring_feel", "leaf", "overnight", "flare", "circling", "bark_base", "push", "scratch", "row", "smell",
    "crust", "place", "trunk", "plan_says", "first_year",
]  # fmt: skip
CauseWord = Literal[
    "sound", "dry", "dry_ball", "wet", "deep", "girdled", "rot", "delivery", "salt", "heat", "shock", "loose", "pest",
]  # fmt: skip
Verdict = Literal[
    "sound", "dry", "dry_ball", "wet", "deep", "girdled", "rot", "delivery", "salt", "heat", "shock", "loose", "pest",
    "dead", "thirsty", "drowning", "unclear",
]  # fmt: skip
WaterAct = Literal["carry_on", "water_now", "water_on_ball", "stop_water"]
Action = Literal[
    "water_now", "water_on_ball", "stop_water", "look_again_before_removal", "remove_and_replant", "expose_flare",
    "cut_circling", "arborist", "stake_and_firm", "drain_test", "take_tie_off", "guard_trunk", "catch_test",
    "flush_salts", "shade_and_mulch", "wait", "identify_pest", "look_further",
]  # fmt: skip
Answer = Annotated[str, StringConstraints(min_length=1, max_length=40)]
Findings = Annotated[dict[Finding, Answer], Field(max_length=20)]


class FindingsIn(In):
    """Answers so far, by question."""

    findings: Findings


class EvidenceOut(Out):
    """What one answer by itself says for (above 0) or against a cause."""

    finding: Finding
    value: str
    weight_db: float = quantity("dB", "Ten times the logarithm of the odds that it lays on it")


class CauseOut(Out):
    """A cause and how likely it is."""

    cause: CauseWord
    probability: float
    evidence: list[EvidenceOut]


class Question(Out):
    """A question and its answers."""

    finding: Finding
    answers: list[str]
    worth: bool = Field(description="It could change what is done.")


class CheckupLook(Out):
    """What a check-up says so far."""

    verdict: Verdict
    water_act: WaterAct | None = Field(description="null: the tree is dead.")
    causes: list[CauseOut]
    asked: list[Question] = Field(description="What is still to be asked, the most telling first.")
    enough: bool = Field(description="Nothing that is asked would change what to do.")
    actions: list[Action]
    tasks: list[Action] = Field(description="Those that can be kept as dated tasks.")
    look_on: date = Field(description="When to look again.")
    own: dict[Finding, str] = Field(description="What the program answered itself.")
    felt_now: dict[Finding, str] = Field(description="What the log has as felt this half hour: not asked again.")
    in_leaf: bool


class RuleFinding(Out):
    """A question of the check-up: its answers, how likely each is under each cause."""

    finding: Finding
    answers: list[str]
    likelihood: list[list[float]] = Field(description="By answer, then by cause.")
    minutes: float = quantity("min", "That it takes")


class ActedOn(Out):
    """What is acted on at once where it was found."""

    finding: Finding
    answer: str
    action: Action


class CheckupRule(Out):
    """Everything that the check-up's rule rests on, so that a phone without signal can go by it too."""

    causes: list[CauseWord]
    prior: list[float] = Field(description="By cause.")
    look_again_days: list[int] = Field(description="By cause.")
    acts: list[WaterAct] = Field(description="Of two that lose as much the first one.")
    waterings: list[WaterAct]
    loss: list[list[float]] = Field(description="Days of growth, by act, then by cause.")
    findings: list[RuleFinding]
    trunk: list[str] = Field(description="Answers of `trunk`, which tells no cause.")
    by_the_program: list[Finding] = Field(description="Findings that nobody is asked.")
    of_leaves: list[Finding] = Field(description="Not asked out of leaf season.")
    sure: float = Field(description="From this probability on a cause, or a group, is the verdict.")
    groups: dict[Verdict, list[CauseWord]]
    catch: float = Field(description="From this probability of a poor delivery on it is measured.")
    enough_days: float = quantity("d", "A test that saves less growth changes nothing that is done")
    decimals: int = Field(description="To which tests are compared.")
    fine_decimals: int = Field(description="To which causes and acts are compared.")
    seen: list[ActedOn]
    by_verdict: dict[Verdict, list[Action]]
    look_again: dict[Verdict, int] = Field(description="Days, where a verdict has its own.")
    after_water_days: int
    after_stop_days: int
    tasks: list[Action] = Field(description="What can be kept as a dated task.")


class CheckupKnown(Out):
    """What the program knows of a tree by itself before anyone looks at it."""

    today: date
    own: dict[Finding, str]
    in_leaf: bool
    dead_before: bool = Field(description="An earlier look, 14 or more days ago in leaf season, called it dead.")


class CheckupIn(In):
    """A check-up that is kept, under the id that the client made."""

    tree_id: UUID
    happened_at: AwareDatetime
    device_id: Annotated[str, StringConstraints(min_length=1, max_length=80)]
    findings: Findings
    tasks: list[TaskKind] = Field([], max_length=20, description="Which of its acts are to be done as dated tasks.")
    hold: bool = Field(False, description="Hold the tree's water until the next look.")
    note: Words = ""
    person_id: UUID | None = None


class Likely(Out):
    """A cause and how likely it was."""

    cause: CauseWord
    probability: float


class CheckupOut(Out):
    """A check-up as it was kept."""

    id: UUID
    tree_id: UUID
    day: date
    happened_at: AwareDatetime
    findings: dict[Finding, str]
    verdict: Verdict
    water_act: WaterAct | None
    causes: list[Likely]
    tasks: list[TaskKind]
    hold_until: date | None
    look_on: date
    note: str
    person: str | None
    withdrawn: bool


class FitOut(Out):
    """What a tree's readings say of its thirst and of what reaches it."""

    occasions: int
    first_on: date
    last_on: date
    demand: float | None = Field(description="Times what the book says.")
    demand_low: float | None = Field(description="Most likely not under it.")
    demand_high: float | None = Field(description="Most likely not over it.")
    delivery: float | None = Field(description="Share of what is poured.")
    verdict: Literal["too_few", "book_holds", "drinks_more", "drinks_less", "ask_delivery"]


ThirstState = Literal["none", "open", "ask_delivery", "accepted", "refused"]


class ThirstIn(In):
    """What a person answers to what readings say."""

    tree_id: UUID
    answer: Literal["accepted", "refused", "delivery_good", "delivery_mended"]
    multiplier: float | None = Field(None, ge=0.4, le=2.5, description="The one that is accepted.")
    person_id: UUID | None = None


class ThirstOut(Out):
    """An answer as it was kept."""

    id: UUID
    tree_id: UUID
    answer: Literal["accepted", "refused", "delivery_good", "delivery_mended"]
    day: date
    multiplier: float | None
    occasions: int
    withdrawn: bool


class BallDay(Out):
    """How dry the ball was on a day, by the book and as readings explain it."""

    day: date
    book: float
    learned: float


class ChecksPage(Out):
    """The Checks page of a tree."""

    tree: TreeOut
    today: date
    zone: str
    section: Section | None
    readings: list[ReadingOut]
    doubt: DoubtOut | None
    fit: FitOut | None
    state: ThirstState
    accepted: ThirstOut | None
    checkups: list[CheckupOut]
    look_on: date | None
    hold_until: date | None
    lines: list[BallDay]


class RowTree(Out):
    """A tree of a row and what its readings say."""

    id: UUID
    tag: str
    place: str
    fit: FitOut | None
    state: ThirstState
    odd: bool = Field(description="It parts from its neighbors.")


class RowOut(Out):
    """The trees of a stop that were read often enough, together."""

    stop: str | None
    usual: float | None = Field(description="The middle of what its trees drink, times the book.")
    trees: list[RowTree]
