"""Drip: layouts as they are typed and as they are shown, proofs, obstacles, lines."""

from datetime import date
from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field

from june_shade.api.language import Sentence
from june_shade.api.schemas.common import GoesOut, In, Out, Words, WorkingLine, quantity
from june_shade.api.schemas.trees import Next, TreeOut

Pattern = Literal["on_ball", "ring", "two_rings", "ring_arms", "row_lines"]
ObstacleKind = Literal["paving", "wall", "post", "turf", "fence", "foundation", "drain_field"]
Long = Annotated[float, Field(ge=0, le=20)]


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


class ChoiceOut(ChoiceIO, Out):
    """The measures of a layout, as read."""

    model_config = Out.model_config


class ObstacleIO(In):
    """Something beside a tree."""

    kind: ObstacleKind
    bearing_deg: float = quantity("deg", "0 north, 90 east.", ge=0, le=360)
    distance_m: float = quantity("m", "To its edge", gt=0, le=50)
    across_m: float = quantity("m", "Width of a post", 0.0, ge=0, le=10)


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
    """What is suggested for a line, accepted."""

    laid_on: date | None = None


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


Cup = Annotated[float, Field(ge=0, le=100_000, description="In a cup [mL].")]


class CatchIn(In):
    """What a cup under each emitter caught in a timed run, in the emitters' order."""

    tree_id: UUID
    day: date | None = Field(None, description="Today where null.")
    minutes: float = quantity("min", "How long it ran", ge=1, le=240)
    caught_ml: Annotated[list[Cup], Field(min_length=1, max_length=240)]
    note: Words = ""


class SinceOut(Out):
    """Against the test before."""

    changed: float | None = Field(description="Mean flow over that of the test before, less 1.")
    losing: list[int] = Field(description="Emitters that give under 0.9 of what they gave.")


class CatchOut(Out):
    """A catch test and what it says; emitters by number, from 1."""

    id: UUID
    layout_id: UUID
    day: date
    minutes: float = quantity("min", "How long it ran")
    caught_ml: list[float] = Field(description="In each cup [mL].")
    note: str
    withdrawn: bool
    in_force: bool = Field(description="Run times go by it.")
    flows_l_per_h: list[float] = Field(description="Of each emitter [L/h].")
    mean_l_per_h: float = quantity("L/h", "Mean flow")
    low_quarter_l_per_h: float = quantity("L/h", "Mean of the least quarter")
    uniformity: float | None = Field(description="Low quarter over mean, 0 to 1; null where nothing was caught.")
    variation: float | None = Field(description="Coefficient of variation.")
    of_nominal: float = Field(description="Mean over what the emitter is sold as.")
    blocked: list[int]
    weak: list[int]
    leaking: list[int]
    since: SinceOut | None


class DripperOut(Out):
    """One emitter."""

    number: int
    x_m: float = quantity("m", "X")
    y_m: float = quantity("m", "Y")
    width_m: float = quantity("m", "Width")
    depth_m: float = quantity("m", "Depth")
    flow_l_per_h: float = quantity("L/h", "Flow")
    head_m: float = quantity("m", "Head")


class RunOut(Out):
    """One tube."""

    kind: Literal["feeder", "ring", "inner", "spoke", "arm", "line", "header"]
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


class SupplyIn(In):
    """What feeds a line and how its row lies; null = not measured."""

    static_head_m: float | None = quantity("m", "Head with nothing running", None, gt=0, le=150)
    open_flow_l_per_h: float | None = quantity("L/h", "Flow of the open pipe, by bucket", None, gt=0, le=50000)
    regulator_head_m: float | None = quantity("m", "Head behind the regulator", None, gt=0, le=150)
    lead_m: float | None = quantity("m", "From the valve to the first tree", None, gt=0, le=1000)
    spacing_m: float | None = quantity("m", "From tree to tree", None, gt=0, le=200)
    rise_percent: float | None = quantity("%", "Slope away from the valve, up positive.", None, ge=-60, le=60)
    bearing_deg: float | None = quantity("deg", "Way the row goes, 0 north, 90 east.", None, ge=0, le=360)
    offset_m: float | None = quantity("m", "Lateral right of the trunks, left below 0", None, ge=-20, le=20)
    bore_mm: float | None = quantity("mm", "Inside diameter of the lateral", None, gt=0, le=200)
    version: int | None = None


class SupplyOut(SupplyIn, Out):
    """What feeds a line, as stored."""

    model_config = Out.model_config

    id: UUID
    site_id: UUID
    name: str
    closed_on: date | None = Field(description="Since when nothing hangs on it any more.")


class LateralOut(Out):
    """A lateral as it is reckoned with."""

    bearing_deg: float = quantity("deg", "Bearing")
    feed_bearing_deg: float = quantity("deg", "Feed bearing")
    offset_m: float = quantity("m", "Offset")
    bore_mm: float = quantity("mm", "Bore")
    static_m: float = quantity("m", "Static")
    open_l_per_h: float = quantity("L/h", "Open")
    regulated_m: float | None = quantity("m", "Regulated")


class RowFlowOut(Out):
    """What flows along a row."""

    inlet_head_m: float = quantity("m", "Inlet head")
    flow_l_per_h: float = quantity("L/h", "Flow")
    fastest_m_s: float = quantity("m/s", "Fastest")
    uniformity_percent: float = quantity("%", "Uniformity")
    worst: int
    short_supply: bool
    findings: list[DripFinding]


class OnLineOut(Out):
    """A tree of a line."""

    id: UUID
    tag: str
    place: str
    common: str
    accepted: bool
    chainage_m: float = quantity("m", "Chainage")
    height_m: float = quantity("m", "Height")
    tee_head_m: float = quantity("m", "Tee head")
    look: DripLook


class CaughtAtOut(Out):
    """A tree of a line as its last catch test found it; emitters by number, from 1."""

    tree_id: UUID
    tag: str
    day: date
    mean_l_per_h: float = quantity("L/h", "Mean flow of its emitters")
    blocked: list[int]
    weak: list[int]
    leaking: list[int]


class CaughtOnOut(Out):
    """What catch tests found along a line."""

    uniformity: float | None = Field(description="Low quarter over mean, each tree tested counting as one.")
    least: int = Field(description="Which of the trees tested gets least, from 0.")
    trees: list[CaughtAtOut]


class LinePageOut(Out):
    """A line as a whole."""

    line: SupplyOut
    site_name: str
    today: date
    accepted: bool
    anew: bool
    hedge: bool
    left_out: int
    length_m: float = quantity("m", "Length")
    run_min: float = quantity("min", "Run")
    least_min: float = quantity("min", "Least")
    uneven: bool = Field(description="Its trees want too different run times.")
    litres: float = Field(description="What all of them get in one run [L].", json_schema_extra={"unit": "L"})
    assumed: list[str]
    lateral: LateralOut
    flow: RowFlowOut
    trees: list[OnLineOut]
    caught: CaughtOnOut | None
    parts: list[DripPart]


class LineRowOut(Out):
    """A line in a site's list."""

    id: UUID
    name: str
    trees: int
    laid: int
    flow_l_per_h: float | None = quantity("L/h", "Flow")
    codes: list[str]
    problem: Sentence
