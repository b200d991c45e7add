"""The care calendar and the order list."""

from datetime import date
from typing import Literal, Self
from uuid import UUID

from pydantic import Field, model_validator

from june_shade.api.schemas.common import In, Name, Out, Words, quantity
from june_shade.api.schemas.mulch import OrderOut, Stocked
from june_shade.api.schemas.planting import DoseOut, HoleOut, MixOut, PlantingChoiceOut
from june_shade.api.schemas.stock import Pest
from june_shade.api.schemas.trees import Material

ActWord = Literal["done", "moved", "dismissed"]
TaskKind = Literal[
    "locate_call", "water_stock", "mulch_first", "emitters_lift", "mulch_pull_back", "mulch_stage", "mulch_thin_out",
    "mulch_top_up", "mulch_check", "weeds_through", "ring_move", "frost_ready", "frost_off", "stake_off", "wrap_check",
    "wrap_off", "flowers_off", "flowers_thin", "feed", "pest_look", "flare_check", "compost",
    "expose_flare", "cut_circling", "arborist", "stake_and_firm", "drain_test", "take_tie_off", "guard_trunk",
    "save_basin_narrow", "save_basin_wide", "save_bag", "save_mulch", "save_turf", "save_drip", "save_box", "save_dawn",
    "catch_test", "emitters_clean", "emitters_mend", "emitters_test", "line_test", "line_walk", "line_valve",
    "flush_salts", "shade_and_mulch", "identify_pest",
    "prove_dry_spell", "prove_firm", "prove_growth", "prove_flare", "prove_supports_off", "hand_over", "own_look",
    "look_again",
]  # fmt: skip


class TaskOut(Out):
    """One dated task of a tree, or of a batch that is still to be planted."""

    tree_id: UUID | None
    planting_id: UUID | None
    site_id: UUID
    site_name: str
    tag: str
    place: str
    stop: str | None
    common: str
    kind: TaskKind
    key: str
    due_on: date
    moved_from: date | None
    reason: str
    part: int
    detail: list[Pest] = Field(description="What to look for.")
    numbers: list[int] = Field(description="Of the emitters that it is about.")
    caution: str | None = Field(description="Code of the caution that goes with it.")


class CareList(Out):
    """Dated tasks, the soonest first."""

    today: date
    tasks: list[TaskOut]


class CalendarOut(Out):
    """Where a site's calendar is."""

    site_id: UUID
    site_name: str
    path: str = Field(description="Path with a secret in it: whoever knows it can read the tasks.")


class ActIn(In):
    """What is said of a task."""

    tree_id: UUID | None = None
    planting_id: UUID | None = None
    key: Name
    act: ActWord
    day: date | None = None
    reason: Words = ""

    @model_validator(mode="after")
    def _whose(self) -> Self:
        if (self.tree_id is None) == (self.planting_id is None):
            raise ValueError("tree_id: a task is a tree's or a planting's, one of both")
        return self


class ActOut(Out):
    """What was said of a task."""

    id: UUID
    tree_id: UUID | None
    planting_id: UUID | None
    key: str
    act: ActWord
    day: date
    reason: str
    withdrawn: bool


class JobOut(Out):
    """What the trees of a line come to, before anyone says otherwise."""

    bought_l: float = quantity("L", "Bought for it")
    taken_l: float = quantity("L", "Taken along")
    left_l: float = quantity("L", "Comes back")


class MaterialLineOut(Out):
    """One material of the list."""

    material: Stocked
    settled_l: float | None = quantity("L", "Settled, where it is mulch")
    order: OrderOut
    trees: int
    tree_ids: list[UUID]
    job: JobOut


class MulchRowOut(Out):
    """What one tree gets."""

    tree_id: UUID
    tag: str
    place: str
    stop: str | None
    material: Material
    settled_l: float = quantity("L", "Settled")
    loose_l: float = quantity("L", "Loose")
    compost_l: float = quantity("L", "Compost")
    sheets: int


class OrderPlanting(Out):
    """A planting of the list."""

    id: UUID
    stop: str
    common: str
    planned_on: date
    left: int
    rejected: int
    count: int
    choice: PlantingChoiceOut
    hole: HoleOut
    mix: MixOut
    first_each_l: float = quantity("L", "First water, each tree")
    first_goes: int
    mulch_settled_l: float = quantity("L", "Mulch of their first rings, settled, all of them")
    mulch_loose_l: float = quantity("L", "The same, loose")


class LoadWater(Out):
    """Water to load."""

    first_l: float = quantity("L", "First water")
    through_l: float = quantity("L", "Poured through mixed backfill")
    round_l: float = quantity("L", "Today's round")
    wetting_l: float = quantity("L", "Wets card")
    all_l: float = quantity("L", "All of it")
    tanks: int | None = Field(description="How often the tank is filled; null: there is none.")


class OrderSheet(Out):
    """The order and load list."""

    site_id: UUID
    site_name: str
    today: date
    truck_l: float = quantity("L", "What a load takes")
    tank_l: float | None = quantity("L", "What the tank takes")
    materials: list[MaterialLineOut]
    mulched: list[MulchRowOut]
    plantings: list[OrderPlanting]
    water: LoadWater
    sheets: int
    roll_m: float = quantity("m", "Underlay off a roll")
    pieces: dict[str, int]
    spoil_loose_l: float = quantity("L", "Soil to carry away, loose")
    spoil_loads: int
    doses: list[DoseOut]
