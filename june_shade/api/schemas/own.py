"""A tree on its way to stand on its own."""

from datetime import date
from typing import Literal
from uuid import UUID

from pydantic import Field

from june_shade.api.schemas.common import In, Out, Words, quantity

ProofName = Literal["dry_spell", "firm", "growth", "flare", "supports_off"]
OwnKind = Literal[
    "offered", "dry_test", "dry_spell", "firm", "growth", "flare", "supports_off", "handed", "back",
]  # fmt: skip


class OwnProof(Out):
    """What proves that a tree stands on its own."""

    name: ProofName
    proven_on: date | None
    by_checkup: bool
    act_id: UUID | None
    growth_m: float | None = quantity("m", "Of twigs this season")


class SpellOut(Out):
    """Days in leaf without water."""

    first: date
    last: date
    days: int
    rain_mm: float = quantity("mm", "That fell in them")


class DryTest(Out):
    """Two weeks in which the plan leaves a tree dry."""

    id: UUID
    day: date
    hold_until: date


class OwnPage(Out):
    """How far a tree is on its way to stand on its own, and where it is watered then."""

    today: date
    establishment: float | None
    ready: bool
    late: bool = False
    offered_on: date | None
    handed_on: date | None
    handed_act: UUID | None
    proofs: list[OwnProof]
    missing: list[ProofName]
    spell: SpellOut | None
    dry_days: int
    dry_test: DryTest | None
    spell_rain_mm: float = quantity("mm", "Of rain that a dry spell stays under")
    moist_from_m: float = quantity("m", "Depth from which the soil is to be moist after it")
    moist_to_m: float = quantity("m", "And down to which")
    least_growth_m: float = quantity("m", "Of twigs in a season that proves a tree")
    inner_m: float = quantity("m", "From the trunk, where water begins")
    roots_m: float = quantity("m", "Radius of the roots of an established tree")
    outer_m: float = quantity("m", "From the trunk, where water ends")
    deep_m: float = quantity("m", "As deep as it is watered")
    rest_days: int = Field(description="It is watered no sooner again.")
    latest_days: int = Field(description="In leaf it is watered after so long where it is half way to being due.")
    ball_m: float = quantity("m", "Radius of the ball")
    trunk_m: float = quantity("m", "Diameter of the trunk")
    in_the_way: Literal["line", "wicks"] | None = Field(description="What has to be changed before it is handed over.")


class OwnActIn(In):
    """An act on the way."""

    tree_id: UUID
    kind: OwnKind
    growth_m: float | None = quantity("m", "Of twigs this season, for that proof", None, ge=0, le=3)
    fine_and_moist: bool = False
    note: Words = ""
    person_id: UUID | None = None


class OwnActOut(Out):
    """An act as it is kept."""

    id: UUID
    tree_id: UUID
    kind: OwnKind
    day: date
    growth_m: float | None = quantity("m", "Of twigs this season")
    hold_until: date | None
    note: str
    withdrawn: bool


class ReadyTree(Out):
    """A tree that is far enough to be handed over."""

    id: UUID
    tag: str
    place: str
    common: str
    establishment: float
    missing: list[ProofName]
