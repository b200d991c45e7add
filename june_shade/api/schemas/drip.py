"""Drip: layouts as they are typed and as they are shown, proofs, obstacles, lines."""

from datetime import date
from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field

from june_shade.api.schemas.catch import CatchOut
from june_shade.api.schemas.common import GoesOut, In, Out, Words, WorkingLine, quantity
from june_shade.api.schemas.trees import Next, TreeOut

Pattern = Literal["on_ball", "ring", "two_rings", "ring_arms", "row_lines"]
ObstacleKind = Literal[
    "paving", "wall", "post", "pit", "root_barrier", "buried_line", "turf", "fence", "foundation", "drain_field"
]
MOST_EDITS = 200
Long = Annotated[float, Field(ge=0, le=20)]


class EditIO(In):
    """One change by hand of the drawing that a layout's measures make."""

    kind: Literal["move", "add", "remove", "flow", "tee"] = Field(description="tee: one is moved.")
    number: int = Field(0, ge=0, le=500, description="Of the emitter or tee as it is then; 0 of one that is added.")
    x_m: float = quantity("m", "East of the trunk, where it is put", 0.0, ge=-20, le=20)
    y_m: float = quantity("m", "North of the trunk, where it is put", 0.0, ge=-20, le=20)
    flow_l_per_h: float = quantity("L/h", "That it is sold as, 0 = as all others", 0.0, ge=0, le=100)


class ChoiceIO(In):
    """The measures of a layout."""

    pattern: Pattern
    flow_l_per_h: float = quantity("L/h", "Flow of one emitter", 4.0, gt=0, le=100)
    compensating: bool = Field(True, description="Holds its flow over a range of pressures.")
    spacing_m: float = quantity("m", "At most so far from emitter to emitter", 0.45, gt=0, le=5)
    radius_m: float = quantity("m", "Ring's radius", 0.3, gt=0, le=15)
    inner_radius_m: float = quantity("m", "Inner ring's radius", 0.0, ge=0, le=15)
    points: int = Field(
        0, ge=0, le=60, description="Emitters on the ball, inner ring or beside a trunk; 0 = by spacing."
    )
    arms: int = Field(0, ge=0, le=24)
    arm_reach_m: float = quantity("m", "Arms end so far from the trunk", 0.0, ge=0, le=20)
    lines: int = Field(1, ge=1, le=2)
    offset_m: float = quantity("m", "Line's distance from the trunks", 0.0, ge=0, le=5)
    feed_bearing_deg: float = quantity("deg", "Where the feed comes from, 0 north, 90 east.", 180.0, ge=0, le=360)
    bore_mm: float = quantity("mm", "Inside diameter of the tube", 13.6, gt=0, le=100)
    inline: bool = Field(False, description="Emitters built into the tube.")
    couplers: int = Field(0, ge=0, le=40)
    buried: bool = False
    perforated: bool = Field(False, description="The sheet was forked through at each emitter.")
    edits: list[EditIO] = Field([], max_length=MOST_EDITS, description="What was changed by hand, in order.")


class EditOut(EditIO, Out):
    """One change by hand, as read."""

    model_config = Out.model_config


class ChoiceOut(ChoiceIO, Out):
    """The measures of a layout, as read."""

    model_config = Out.model_config
    edits: list[EditOut] = Field([], description="What was changed by hand, in order.")  # type: ignore[assignment]


class ObstacleIO(In):
    """Something beside a tree."""

    kind: ObstacleKind
    bearing_deg: float = quantity("deg", "0 north, 90 east.", ge=0, le=360)
    distance_m: float = quantity("m", "To its edge", gt=0, le=50)
    across_m: float = quantity("m", "Width of a post, a pit or a buried line", 0.0, ge=0, le=10)


class ObstacleOut(ObstacleIO, Out):
    """Something beside a tree, as read."""

    model_config = Out.model_config


class ObstaclesIn(In):
    """What stands beside a tree, or beside all of its line."""

    obstacles: Annotated[list[ObstacleIO], Field(max_length=12)]
    whole_line: bool = False


class LookIn(In):
    """A layout to look at; obstacles null = as stored."""

    choice: ChoiceIO
    obstacles: Annotated[list[ObstacleIO], Field(max_length=12)] | None = None


class LayoutIn(In):
    """A layout that was accepted for a tree."""

    tree_id: UUID
    choice: ChoiceIO
    laid_on: date | None = Field(None, description="Today where null.")
    note: Words = ""


class LayoutOut(Out):
    """A stored layout."""

    id: UUID
    tree_id: UUID
    laid_on: date
    choice: ChoiceOut
    flow_l_per_h: float = quantity("L/h", "What the tree gets")
    emitters: int
    ball_share: float
    note: str
    withdrawn: bool


class LineLayoutsIn(In):
    """What is suggested for a line, accepted; or one layout for all of its trees."""

    laid_on: date | None = None
    choice: ChoiceIO | None = Field(None, description="For every tree; null = what is suggested for each.")


class ProofIn(In):
    """How deep the ground was wet after so many minutes."""

    tree_id: UUID
    day: date | None = None
    minutes: float = quantity("min", "How long it had run", gt=0, le=2880)
    depth_m: float = quantity("m", "How deep it was wet", gt=0, le=3)
    note: Words = ""


class ProofOut(Out):
    """A proof as it is kept."""

    id: UUID
    day: date
    minutes: float = quantity("min", "How long it had run")
    depth_m: float = quantity("m", "How deep it was wet")
    flow_l_per_h: float = quantity("L/h", "One emitter's flow then")
    note: str
    withdrawn: bool


class DripperOut(Out):
    """One emitter."""

    number: int
    x_m: float = quantity("m", "X")
    y_m: float = quantity("m", "Y")
    width_m: float = quantity("m", "Width")
    depth_m: float = quantity("m", "Depth")
    flow_l_per_h: float = quantity("L/h", "Flow")
    head_m: float = quantity("m", "Head")
    sold_as_l_per_h: float = quantity("L/h", "What it is sold as")
    by_hand: bool = Field(description="It was put there, and is not where the pattern has it.")


class RunOut(Out):
    """One tube."""

    kind: Literal["feeder", "ring", "inner", "spoke", "arm", "line", "header", "spur"]
    bore_mm: float = quantity("mm", "Bore")
    length_m: float = quantity("m", "Length")
    path: list[list[float]]


class FittingOut(Out):
    """A tee, closure, coupler or pin."""

    kind: Literal["tee", "closure", "coupler", "pin"]
    x_m: float = quantity("m", "X")
    y_m: float = quantity("m", "Y")


class ShapeOut(Out):
    """Something beside the tree, as far as it is drawn."""

    kind: ObstacleKind
    outline: list[list[float]]
    distance_m: float = quantity("m", "Distance")
    bearing_deg: float = quantity("deg", "Bearing")


class AchievementOut(Out):
    """One of the six."""

    key: Literal["ball_share", "wetted_fraction", "bulb", "run_time", "evenness", "next_move"]
    value: float | None
    unit: str
    low: float | None
    high: float | None
    passed: bool


class DripFinding(Out):
    """What is wrong, by code."""

    code: str
    where: str


class DripPart(Out):
    """So much of one thing."""

    item: str
    size: float = Field(description="Bore of a tube in mm, flow of an emitter in L/h, 0 = none.")
    count: int
    length_m: float = quantity("m", "Length")
    spacing_m: float = quantity("m", "Spacing")
    compensating: bool


class SceneOut(Out):
    """The tree as its layout sees it."""

    ball_radius_m: float = quantity("m", "Ball radius")
    ball_height_m: float = quantity("m", "Ball height")
    trunk_diameter_m: float = quantity("m", "Trunk diameter")
    roots_now_m: float = quantity("m", "Roots now")
    roots_next_m: float = quantity("m", "A growing season on")
    roots_year_m: float = quantity("m", "A year on")
    root_depth_m: float = quantity("m", "Root depth")
    uptake_from_ball: float
    volume_l: float = quantity("L", "One watering")
    intake_mm_h: float = quantity("mm/h", "Intake")
    cover: str
    dry_m: float = quantity("m", "Dry")


class DripRun(Out):
    """One watering."""

    run_min: float = quantity("min", "Run")
    total_min: float = quantity("min", "Total")
    rate_mm_h: float = quantity("mm/h", "Rate")
    goes: GoesOut


class DripFigures(Out):
    """What a layout wets."""

    ball_share: float
    wetted_fraction: float | None
    flow_l_per_h: float = quantity("L/h", "Flow")
    least_depth_m: float = quantity("m", "Least depth of a bulb at the end of a run")
    sunk_depth_m: float = quantity("m", "Depth of the wet ground once the water has sunk in")
    reach_m: float = quantity("m", "Reach")


class DripLook(Out):
    """A layout drawn and judged."""

    choice: ChoiceOut
    day: date
    scene: SceneOut
    reach_m: float = quantity("m", "Reach")
    emitters: list[DripperOut]
    runs: list[RunOut]
    fittings: list[FittingOut]
    shapes: list[ShapeOut]
    cut: bool
    skipped_arms: int
    achievements: list[AchievementOut]
    findings: list[DripFinding]
    run: DripRun
    figures: DripFigures
    move_on: date | None
    proof_min: float = quantity("min", "Until the ground is wet down to the roots")
    parts: list[DripPart]
    working: list[WorkingLine]


class ChangeStep(Out):
    """One thing done to grow a layout."""

    kind: str
    from_m: float = quantity("m", "From")
    to_m: float = quantity("m", "To")
    tube_m: float = quantity("m", "Tube")
    couplers: int
    emitters: int
    arms: int


class GrownOut(Out):
    """A year of a layout."""

    look: DripLook
    changes: list[ChangeStep]
    new_parts: list[DripPart]


class SuggestionOut(Out):
    """A pattern at its best."""

    choice: ChoiceOut
    failed: list[str]
    achievements: list[AchievementOut]
    emitters: int
    tube_m: float = quantity("m", "Tube")


class DripTask(Out):
    """Something to do, with its day."""

    kind: str
    day: date
    year: int
    from_m: float = quantity("m", "From")
    to_m: float = quantity("m", "To")
    tube_m: float = quantity("m", "Tube")
    couplers: int
    emitters: int
    arms: int
    count: int
    numbers: list[int] = Field(description="Of the emitters that it is about.")
    parts: list[DripPart]


class LineName(Out):
    """A line by name."""

    id: UUID
    name: str


class DripPageOut(Out):
    """The Drip page of a tree."""

    tree: TreeOut
    today: date
    layout: LayoutOut | None
    accepted: bool = Field(description="What is shown is what lies there.")
    looks: list[GrownOut] = Field(description="This year, the next, the one after.")
    suggestions: list[SuggestionOut]
    tasks: list[DripTask]
    history: list[LayoutOut]
    proofs: list[ProofOut]
    catches: list[CatchOut]
    obstacles: list[ObstacleOut]
    line: LineName | None
    line_trees: int
    short_supply: bool
    assumed: list[str]
    crown_radius_m: float = quantity("m", "Crown radius")
    mulch_radius_m: float | None = quantity("m", "Mulch radius")
    mulch_depth_m: float = quantity("m", "Mulch depth")
    next: Next | None = Field(None, description="The next watering, where the layout is laid; null = none in sight.")
