"""Mulch: what is chosen, what is there, looks at a ring, a day's mulching, the yard."""

from datetime import date
from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field

from june_shade.api.schemas.common import In, Out, Words, WorkingLine, quantity
from june_shade.api.schemas.drip import ShapeOut
from june_shade.api.schemas.trees import Material, Section, TreeOut

Underlay = Literal["card", "paper", "roll"]
Bark = Literal["clear", "close", "touches"]
Verdict = Literal["fine", "top_up", "thin_out", "pull_back", "in_stages"]
Stocked = Literal[
    "wood_chips",
    "bark",
    "cypress",
    "cedar",
    "straw",
    "leaves",
    "clippings",
    "pine_needles",
    "seaweed",
    "compost",
    "gravel",
    "coir",
    "coarse_sand",
]
MoveReason = Literal["bought", "counted", "used", "left", "thrown"]
Depth = Annotated[float, Field(ge=0, le=0.6)]


class MulchChoiceIO(In):
    """What is chosen for a ring."""

    material: Material
    depth_m: float = quantity("m", "Settled depth", gt=0, le=0.6)
    outer_radius_m: float = quantity("m", "Outer radius", gt=0, le=10)
    clear_gap_m: float = quantity("m", "Bare from the bark on", ge=0, le=2)
    compost_m: float = quantity("m", "Compost under it", 0.0, ge=0, le=0.3)
    underlay: Underlay | None = None
    sheet_w_m: float = quantity("m", "A sheet's width, or the roll's", 1.2, gt=0, le=10)
    sheet_l_m: float = quantity("m", "A sheet's length", 0.9, gt=0, le=100)
    over_ball: bool = Field(False, description="A slit skirt that covers the ball too.")


class MulchChoiceOut(MulchChoiceIO, Out):
    """What is chosen, as read."""

    model_config = Out.model_config


class MulchChoiceIn(In):
    """A choice for one tree or many; null = as suggested."""

    tree_ids: Annotated[list[UUID], Field(min_length=1, max_length=500)]
    choice: MulchChoiceIO | None = None


class MulchFindingOut(Out):
    """A judgement on a ring."""

    code: str
    urgent: bool


class OrderOut(Out):
    """One material: needed, spare, on hand, to buy, loads, what carries it."""

    loose_l: float = quantity("L", "Needed, loose")
    spare_l: float = quantity("L", "On top")
    on_hand_l: float = quantity("L", "In the yard")
    buy_l: float = quantity("L", "To buy")
    buy_yards: float = Field(description="To buy, in steps of a quarter cubic yard.")
    buy_m3: float = Field(description="To buy, in steps of a tenth of a cubic meter.")
    loads: int
    carried: dict[str, int]
    working: list[WorkingLine]


class UnderlayOut(Out):
    """Card or paper under a ring."""

    kind: Underlay
    area_m2: float = quantity("m2", "Covered")
    sheets: int
    roll_m: float = quantity("m", "Off a roll")
    wetting_l: float = quantity("L", "Water that wets it")
    inner_radius_m: float = quantity("m", "Bare so far from the trunk")


class LaidOut(Out):
    """What a choice comes to."""

    area_m2: float = quantity("m2", "Covered")
    alone_l: float = quantity("L", "Settled, without neighbors and paving")
    full_settled_l: float = quantity("L", "Settled, whole ring")
    missing_settled_l: float = quantity("L", "Settled, missing")
    missing_loose_l: float = quantity("L", "Loose, to bring")
    compost_l: float = quantity("L", "Compost under it, loose")
    underlay: UnderlayOut | None
    counted_share: float = Field(description="Part of what it would take alone.")
    shared: bool = Field(description="Neighbors' rings overlap.")
    cut: bool = Field(description="Paving or a wall cuts it.")


class NeighbourOut(Out):
    """Another ring nearby."""

    tag: str
    x_m: float = quantity("m", "East")
    y_m: float = quantity("m", "North")
    trunk_diameter_m: float = quantity("m", "Trunk")
    bare_radius_m: float = quantity("m", "Bare middle")
    outer_radius_m: float = quantity("m", "Outer radius")


class RingDrawing(Out):
    """A ring to scale."""

    outlines: list[list[list[float]]] = Field(description="Covered ground [m], holes too.")
    profile: list[list[float]] = Field(description="Distance from the trunk's middle and depth [m].")
    neighbours: list[NeighbourOut]
    shapes: list[ShapeOut]
    reach_m: float = quantity("m", "Half the side of what is drawn")
    west_m: float | None = quantity("m", "Paving or a wall begins there to the west of the section; null: nowhere")
    east_m: float | None = quantity("m", "The same to the east")


class SavingOut(Out):
    """A season with the ring and without."""

    with_l: float = quantity("L", "Poured with it")
    without_l: float = quantity("L", "Poured without")
    saved_l: float = quantity("L", "Saved, never under 0")
    none_because: Literal["mulch_drinks", "little_evaporates"] | None = Field(description="Why it saves nothing.")
    waterings_with: int
    waterings_without: int
    days: int
    working: list[WorkingLine] = []


class SuitsOut(Out):
    """What is thought of a material."""

    name: str
    verdict: Literal["good", "with_care", "avoid"]
    reasons: list[str]
    burns: bool = Field(description="Kept off buildings: local fire code.")
    settling: float | None = Field(description="Share of the loose volume it loses; null: never laid.")
    half_life_months: float | None = Field(description="Months in which half is gone; null: it does not waste.")


class MulchEntryOut(Out):
    """Mulch laid or looked at."""

    id: UUID
    kind: Literal["laid", "check"]
    day: date
    material: Material | None
    depth_m: float = quantity("m", "Settled depth")
    outer_radius_m: float | None = quantity("m", "Outer radius")
    clear_gap_m: float = quantity("m", "Bare from the bark on")
    loose_l: float | None = quantity("L", "Loose, used")
    underlay: Underlay | None
    verdict: Verdict | None
    weeds: bool = Field(description="Weeds had come through.")
    job_id: UUID | None
    note: str
    withdrawn: bool


class RingLimits(Out):
    """What a ring is judged by."""

    gap_m: float = quantity("m", "Usual gap off the bark")
    least_radius_m: float = quantity("m", "Least outer radius")
    deepest_m: float = quantity("m", "The ceiling")
    full_cover_m: float = quantity("m", "Thinner, it is topped up")
    ball_first_season_m: float = quantity("m", "At most so deep over a new ball")


class MulchPageOut(Out):
    """The Mulch page: what to do, the ring, what was read."""

    tree: TreeOut
    today: date
    section: Section | None
    edging_wanted_m: float = quantity("m", "Edging ring that a tree in grass lacks; 0: none")
    has_ring: bool
    due: bool = Field(description="There is none, or it is too thin.")
    choice: MulchChoiceOut
    suggested: bool = Field(description="Nobody chose it: it is what this place calls for.")
    depth_now_m: float = quantity("m", "Depth now, wasted away since it was measured")
    half_life_months: float | None = Field(description="Months in which half of it is gone.")
    measured: bool = Field(description="That pace is the tree's own, by what was measured.")
    thin_on: date | None = Field(description="When it will be thinner than 5 cm; null = it does not waste.")
    thin_radius_m: float = quantity("m", "Kept thin so far out over a new ball, 0 = nowhere")
    weeds: bool = Field(description="Weeds had come through at the last look: card is suggested.")
    weeds_on: date | None = Field(description="Until when weeds are held by what was laid.")
    taper_m: float = quantity("m", "Slope from bare to full depth")
    limits: RingLimits
    laid: LaidOut
    order: OrderOut
    findings: list[MulchFindingOut]
    drawn: RingDrawing
    verdict: Verdict | None = Field(description="Of the last look, where nothing was laid since.")
    suitability: list[SuitsOut]
    history: list[MulchEntryOut]
    working: list[WorkingLine]


class LookAtRing(In):
    """A look at a ring: four depths, how far off the bark it begins, is the flare in sight."""

    depths_m: Annotated[list[Depth], Field(min_length=4, max_length=4)]
    bark: Bark
    flare_seen: bool
    roots_in_mulch: bool | None = None
    weeds: bool = False


class MulchEntryIn(In):
    """A look that is kept (look given), or mulch laid as chosen."""

    tree_id: UUID
    day: date | None = None
    look: LookAtRing | None = None
    loose_l: float | None = quantity("L", "Loose, used; as reckoned where null", None, ge=0, le=100000)
    note: Words = ""


class LookAnswer(Out):
    """What a look at a ring comes to."""

    verdict: Verdict
    urgent: bool
    mean_m: float = quantity("m", "Mean depth")
    missing_m: list[float] = Field(description="At each reading [m].")
    over_m: list[float] = Field(description="Too much at each reading [m].")
    also: list[str]
    loose_l: float = quantity("L", "Loose, to bring")


class MulchJobIn(In):
    """A day's mulching with one material."""

    tree_ids: Annotated[list[UUID], Field(min_length=1, max_length=500)]
    material: Material
    bought_l: float = quantity("L", "Bought for it, loose", 0.0, ge=0, le=1000000)
    taken_l: float = quantity("L", "Taken along, loose", gt=0, le=1000000)
    left_l: float = quantity("L", "Came back, loose", 0.0, ge=0, le=1000000)
    day: date | None = None


class YardRow(Out):
    """What lies in the yard."""

    material: Stocked
    litres: float = quantity("L", "Loose")


class MoveIn(In):
    """A move in or out of the yard."""

    material: Stocked
    reason: MoveReason
    litres: float = quantity("L", "Loose, how much", ge=0, le=1000000)
    day: date | None = None
    note: Words = ""
