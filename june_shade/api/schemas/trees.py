"""Trees: what is typed, what is shown, the water page, the mulch figure."""

from datetime import date
from typing import Annotated, Literal, Self
from uuid import UUID

from pydantic import Field, model_validator

from june_shade.api.schemas.common import Day, In, IssueOut, Name, Note, Out, PourOut, Words, WorkingLine, quantity
from june_shade.api.schemas.routines import InForce, RoutineName
from june_shade.api.schemas.stock import Kind, Method, Mode, PlantOut, WayIn, typed
from june_shade.core import fields
from june_shade.plans.forecast import Standing

Surround = Literal["bare", "turf", "paved", "gravel", "plastic", "plastic_holed"]
Material = Literal[
    "wood_chips", "bark", "cypress", "cedar", "straw", "leaves", "clippings", "pine_needles", "seaweed", "compost",
    "gravel",
]  # fmt: skip
Feel = Literal["wet", "moist", "drying", "dry"]
End = Literal["dead", "removed", "stolen", "moved"]
StateWord = Literal["resting", "ready", "due", "late", "waits", "too_wet", "unknown"]


class FeelIn(In):
    """How moist a tree already in the ground feels: ball 10-15 cm down, ring 30 cm out."""

    ball: Feel
    ring: Feel


class TreeIn(WayIn):
    """A tree as it is typed."""

    site_id: UUID
    tag: Name = Field(description="Unique in its site.")
    place: Words = Field("", description="Words to find it by, like: 7th from the hydrant, east side.")
    stop: Words | None = Field(None, description="Where the truck parks; made where it is new.")
    side: Words = Field("", description="Side of the street or path, in words.")
    note_for_crew: Note = Field("", description="What a crew must know each time, like: mind the gas line.")
    line: Words | None = Field(None, description="The valve it is on with others; made where it is new.")
    latitude_deg: float | None = typed("latitude_deg", "Degrees, north positive.")
    longitude_deg: float | None = typed("longitude_deg", "Degrees, east positive.")
    row_place: int = typed("row_place", "Order within the stop.")
    plant_id: UUID
    stock_size_id: UUID | None = None
    kind: Kind
    caliper_m: float = typed("caliper_m", "Trunk diameter 15 cm above the flare")
    ball_diameter_m: float = typed("ball_diameter_m", "Ball, container or root spread across the top")
    ball_height_m: float = typed("ball_height_m", "Ball from the flare down")
    ball_volume_l: float | None = typed("ball_volume_l", "Measured ball volume, overrides the shape")
    crown_diameter_m: float | None = typed("crown_diameter_m", "Measured crown; from caliper until then")
    planted_on: date
    feel: FeelIn | None = Field(None, description="For a tree already in the ground; guessed without it.")
    bud_break_on: date | None = Field(None, description="Bare root: the day its buds broke.")
    microclimate: float = typed("microclimate", "Shade 0.5 to reflected heat 1.4.")
    surround: Surround = "bare"
    mode: Mode | None = Field(None, description="What is wanted of it; the site's where null.")
    worth: float = typed("worth", "In a drought: 0.5 could be spared, 1, 2 kept for something.")
    mulch_material: Material | None = None
    mulch_depth_m: float = typed("mulch_depth_m", "Settled depth when measured")
    mulch_outer_radius_m: float | None = typed("mulch_outer_radius_m", "Mulch ring's outer radius")
    mulch_measured_on: date | None = None
    edging_m: float = typed("edging_m", "Edging ring across; 0: none")
    way_since: Literal["today", "always"] = Field(
        "today", description="Where how it is watered changes: from today on, or it was always so."
    )
    version: int | None = Field(None, description="As it was read; an older one is refused. Leave out to overwrite.")

    @model_validator(mode="after")
    def _together(self) -> Self:
        if found := fields.odds(self.__dict__):
            raise ValueError(": ".join(found))
        return self


class TreeWithId(TreeIn):
    """A tree of a batch with the id that the client made."""

    id: UUID


class TreesIn(In):
    """Trees that are stored together or not at all: a row of forty, or one thing changed on many."""

    trees: Annotated[list[TreeWithId], Field(min_length=1, max_length=500)]


class RowIn(In):
    """A row of trees: its first one, how many, how far apart and which way."""

    first: TreeIn = Field(description="{n} and {nth} in its place are filled in; a number at the tag's end counts on.")
    count: int = Field(ge=1, le=500)
    spacing_m: float | None = quantity("m", "From tree to tree; with the first one's position", None, gt=0, le=100)
    bearing_deg: float = Field(0.0, ge=0, lt=360, description="Way the row goes: 0 north, 90 east.")


class SameForMany(In):
    """Fields that become the same on many trees; those left out stay."""

    stop: Words | None = None
    line: Words | None = None
    side: Words | None = None
    note_for_crew: Note | None = None
    planted_on: date | None = None
    microclimate: float | None = typed("microclimate", "Shade 0.5 to reflected heat 1.4.", None)
    surround: Surround | None = None
    method: Method | None = None
    basin_diameter_m: float | None = typed("basin_diameter_m", "Basin across its ridge", None)
    basin_depth_m: float | None = typed("basin_depth_m", "Height of the basin's ridge", None)
    emitter_count: int | None = typed("emitter_count", "Emitters on the tree.", None)
    emitter_flow_l_per_h: float | None = typed("emitter_flow_l_per_h", "Flow of one emitter", None)
    bag_capacity_l: float | None = typed("bag_capacity_l", "What a slow-release bag holds", None)
    soaker_across_m: float | None = typed("soaker_across_m", "Soaker loop across", None)
    soaker_flow_l_per_h_m: float | None = typed("soaker_flow_l_per_h_m", "Soaker flow", None)
    sprinkler_across_m: float | None = typed("sprinkler_across_m", "Circle it wets", None)
    sprinkler_flow_l_per_h: float | None = typed("sprinkler_flow_l_per_h", "Its flow", None)
    reservoir_l: float | None = typed("reservoir_l", "What a wicked box holds", None)
    mode: Mode | None = None
    worth: float | None = typed("worth", "0.5 could be spared, 1, 2 kept for something.", None)
    crown_diameter_m: float | None = typed("crown_diameter_m", "Measured crown", None)
    mulch_material: Material | None = None
    mulch_depth_m: float | None = typed("mulch_depth_m", "Settled depth when measured", None)
    mulch_outer_radius_m: float | None = typed("mulch_outer_radius_m", "Ring's outer radius", None)
    mulch_measured_on: date | None = None
    edging_m: float | None = typed("edging_m", "Edging ring across; 0: none", None)
    way_since: Literal["today", "always"] | None = Field(
        None, description="Where how they are watered changes: from today on (also where left out), or always so."
    )


class ManyIn(In):
    """One change on many trees."""

    trees: Annotated[list[UUID], Field(min_length=1, max_length=500)]
    set: SameForMany


class TreeChange(Out):
    """A tree that a file changes."""

    line: int
    tag: str
    fields: list[str]


class TreesFileOut(Out):
    """What a register file would do, or did."""

    new: int
    changed: int
    same: int
    refused_count: int
    new_tags: list[str] = Field(description="The first of them.")
    changes: list[TreeChange] = Field(description="The first of them.")
    refused: list[IssueOut] = Field(description="The first of them.")
    ignored: list[str] = Field(description="Headers that mean nothing here.")


class EndIn(In):
    """The end of a tree."""

    tree_id: UUID
    kind: End
    day: Day | None = Field(None, description="Today where null.")
    cause: Words = Field("", description="Of what, in words.")
    person_id: UUID | None = None


class EndOut(Out):
    """The end of a tree, as it was written down."""

    id: UUID
    tree_id: UUID
    kind: End
    day: date
    cause: str
    withdrawn: bool


class TreeOut(Out):
    """A tree as it is stored."""

    end: EndOut | None = Field(None, description="How it died or went, null where it stands.")

    id: UUID
    site_id: UUID
    site_name: str
    tag: str
    place: str
    stop: str | None
    line: str | None
    side: str
    note_for_crew: str
    latitude_deg: float | None
    longitude_deg: float | None
    row_place: int
    version: int
    plant: PlantOut
    stock_size_id: UUID | None
    kind: Kind
    caliper_m: float = quantity("m", "Trunk diameter")
    ball_diameter_m: float = quantity("m", "Ball across")
    ball_height_m: float = quantity("m", "Ball height")
    ball_volume_l: float | None = quantity("L", "Measured ball volume")
    crown_diameter_m: float | None = quantity("m", "Measured crown")
    planted_on: date
    opened_on: date = Field(description="First day of the record.")
    opening: str = Field(description="full, reading or guessed")
    bud_break_on: date | None
    microclimate: float
    surround: Surround
    method: Method
    basin_diameter_m: float | None = quantity("m", "Basin across")
    basin_depth_m: float | None = quantity("m", "Basin ridge")
    emitter_count: int
    emitter_flow_l_per_h: float = quantity("L/h", "Flow of one emitter")
    bag_capacity_l: float = quantity("L", "Bag")
    soaker_across_m: float | None = quantity("m", "Soaker loop across")
    soaker_flow_l_per_h_m: float | None = quantity("L/h/m", "Flow of a meter of soaker")
    sprinkler_across_m: float | None = quantity("m", "Circle a sprinkler wets")
    sprinkler_flow_l_per_h: float | None = quantity("L/h", "Flow of the sprinkler")
    reservoir_l: float | None = quantity("L", "What a wicked box holds")
    mode: Mode | None
    worth: float
    mulch_material: Material | None
    mulch_depth_m: float = quantity("m", "Mulch depth when measured")
    mulch_outer_radius_m: float | None = quantity("m", "Mulch ring's outer radius")
    mulch_measured_on: date | None
    edging_m: float = quantity("m", "Edging ring across; 0: none")
    doubts: list[str] = Field(description="Codes of what is possible but unlikely.")


class Section(Out):
    """The cutaway's geometry and fill, one for all its sizes."""

    caliper_m: float = quantity("m", "Trunk")
    crown_diameter_m: float = quantity("m", "Crown")
    ball_radius_m: float = quantity("m", "Ball radius")
    ball_height_m: float = quantity("m", "Ball height")
    kind: Kind
    root_radius_m: float = quantity("m", "Radius of the roots")
    ring_radius_m: float = quantity("m", "Outer radius of the ring")
    root_depth_m: float = quantity("m", "Depth of the roots")
    established_radius_m: float = quantity("m", "Radius at which the tree stands on its own")
    established_share: float = Field(description="0 at planting, 1 established.")
    established_on: date | None = Field(description="About when, at this time of year's pace; null = over 3 years.")
    basin_diameter_m: float | None = quantity("m", "Basin")
    basin_depth_m: float | None = quantity("m", "Basin ridge")
    mulch_depth_m: float = quantity("m", "Mulch depth now")
    mulch_outer_radius_m: float | None = quantity("m", "Mulch radius")
    ball_available_l: float | None = quantity("L", "Water the ball can still give")
    ball_holds_l: float = quantity("L", "Water the ball can give when full")
    ring_available_l: float | None = quantity("L", "Water the ring that our water reaches can still give")
    ring_holds_l: float = quantity("L", "Water that ring can give when full")
    far_available_l: float | None = quantity("L", "Water the ring beyond, which only rain reaches, can still give")
    far_holds_l: float = quantity("L", "Water that ring can give when full; 0 = all is reached")
    near_from_m: float = quantity("m", "From where our water reaches the ring: the ball, or further out")
    near_radius_m: float = quantity("m", "How far out our water reaches")
    reach: float = Field(description="Share of the uptake that comes from where our water reaches, 0..1.")
    state: StateWord


class Advice(Out):
    """What would mend the circle that is poured into."""

    reach: float = Field(description="Share of the uptake that our water reaches, 0..1.")
    widen_to_m: float | None = quantity("m", "Across, to reach the roots; null where it does", None)
    narrow_to_m: float | None = quantity("m", "Across, to waste nothing; null where little is", None)
    narrow_l: float | None = quantity("L", "What a watering takes then", None)


class Next(Out):
    """The next watering of a tree."""

    day: date
    method: Method = Field(
        description="How it is poured: a tree on its own by hose or tank, whatever stands at its trunk."
    )
    due_on: date | None
    ready_on: date | None
    late_days: int = Field(description="Days it has been due without water.")
    metric: PourOut = Field(description="Rounded up to whole litres.")
    us: PourOut = Field(description="Rounded up to half gallons, told in litres.")
    proof_depth_m: float = quantity("m", "Depth to which a rod slides afterwards")
    routine: RoutineName | None = Field(description="The school's routine that asks for it; null: the balance.")
    ring_from_m: float | None = quantity("m", "From where off the trunk a tree on its own is watered, else null")
    ring_to_m: float | None = quantity("m", "And to where")
    flags: list[str] = Field(
        description="ball_not_refilled, once_is_not_enough, daily, dry_ball, roots_outgrown, basin_wide, "
        "line_too_wet, line_too_dry, slow_ground"
    )
    advice: Advice


class TreeRow(Out):
    """A tree in a list."""

    id: UUID
    site_id: UUID
    site_name: str
    stop: str | None
    tag: str
    place: str
    common: str
    botanical: str
    kind: Kind
    caliper_m: float = quantity("m", "Caliper")
    planted_on: date
    ended_on: date | None = Field(description="The day it died or went.")
    dryness: float | None = Field(description="0 wet to 1, null unknown.")
    next: Next | None
    section: Section | None
    drip_flags: list[str] = Field(description="What is wrong with its layout or its line.")


class TreeList(Out):
    """A page of trees."""

    count: int
    trees: list[TreeRow]


class ChartDay(Out):
    """A day on the soil line."""

    day: date
    dryness: float | None = Field(description="At the day's end; null before the record opens.")
    dryness_sd: float | None = Field(description="How far off that may be: one standard deviation.")
    ks: float | None
    rain_mm: float = quantity("mm", "Rain, measured or forecast")
    rain_chance: float = Field(description="1 measured")
    poured_l: float = quantity("L", "Logged water")
    planned_l: float = quantity("L", "Planned, whole litres")
    planned_us_l: float = quantity("L", "Planned, in half gallons")
    eto_mm: float = quantity("mm", "Reference evapotranspiration")
    basis: Literal["measured", "forecast", "neighbours", "normals", "recent"]


class ReadingOut(Out):
    """What was felt at a tree."""

    id: UUID
    day: date
    how: Literal["finger", "trowel", "rod", "probe"]
    ball_feel: Literal["wet", "moist", "drying", "dry", "like_clay"] | None
    ring_feel: Literal["wet", "moist", "drying", "dry", "like_clay"] | None
    ball_theta: float | None = quantity("m3/m3", "What a probe read in the ball")
    ring_theta: float | None = quantity("m3/m3", "And beside it")
    dryness: float = Field(description="How dry that makes the tree, 0 to 1.")
    fits_within: float = Field(description="It fits a plan that is off by no more than this dryness.")
    far_beyond: float = Field(description="Off the plan by more than this, the whole tree is worth a look.")
    little: float = Field(description="Moved by less of the way to it, the plan is told to be surer.")
    ball_dryness: float | None = Field(description="And its ball alone; null: that was not felt.")


class DoubtOut(Out):
    """How far off the plan may be."""

    dryness_sd: float = Field(description="Standard deviation of today's dryness.")
    looked_on: date | None = Field(description="When somebody last felt it; null: nobody yet.")
    days: int = Field(description="Since then, or since its record opened.")


class BookRuleOut(Out):
    """What one book or extension service says for a tree of this caliper and age."""

    key: str
    litres_low: float = quantity("L", "Least a watering")
    litres_high: float = quantity("L", "Most a watering")
    days_low: float = quantity("d", "Fewest days between waterings")
    days_high: float = quantity("d", "Most days between waterings")
    weekly_low_l: float = quantity("L", "Least a week")
    weekly_high_l: float = quantity("L", "Most a week")
    source: str


class Book(Out):
    """The books beside the balance."""

    rules: list[BookRuleOut]
    weekly_l: float = quantity("L", "What the balance plans for the coming week")
    reasons: list[str] = Field(description="Why it parts from the rules; empty where it lies among them.")
    can_drown: bool = Field(description="Drained slowly or planted deep: too much water kills it here.")


class LineShareOut(Out):
    """What one tree of a line gets in its next run."""

    tree_id: UUID
    tag: str
    litres: float = quantity("L", "Comes out at it")


class LineOut(Out):
    """The line that a tree shares."""

    name: str
    trees: int
    neediest_tag: str | None = Field(description="The tree for which it runs next; null = no run in sight.")
    run_min: float | None = quantity("min", "How long it runs next")
    wants_l: float = quantity("L", "What this tree itself wants then")
    shares: list[LineShareOut] = Field(description="What every tree on it gets; logged together.")


class ReservoirOut(Out):
    """A wicked box."""

    holds_l: float = quantity("L", "What it holds")
    has_l: float = quantity("L", "What it had at yesterday's end")
    reserve_days: int | None = Field(description="Days until it must be filled; null = past what the plan sees.")


class ModeProposed(Out):
    """That the program proposed a tree's mode, and somebody took it."""

    day: date
    within_l: float = quantity("L", "A week for all trees")


class WaterPageOut(Out):
    """The Water page of a tree."""

    tree: TreeOut
    today: date
    section: Section
    dryness: float
    dryness_limit: float
    next: Next | None
    poured_today_l: float = quantity("L", "Logged today")
    chart: list[ChartDay]
    working: list[WorkingLine]
    book: Book
    cautions: list[str]
    mode: Mode
    mode_proposed: ModeProposed | None = Field(description="The program chose it; null where a person did.")
    line: LineOut | None
    reservoir: ReservoirOut | None
    drip_flags: list[str] = Field(description="What is wrong with its layout or its line.")
    awaits_bud_break: bool = Field(description="Bare root in its first season whose buds have not been seen to break.")
    high_c: float = quantity("degC", "Today's high")
    zone: str = Field(description="IANA zone of the site.")
    guessed: bool = Field(description="The opening was guessed; a reading would mend it.")
    readings: list[ReadingOut] = Field(description="What was felt, the oldest first.")
    doubt: DoubtOut
    routine: InForce | None = Field(description="The routine that was chosen for it; null: the balance, always.")
    filled: bool = Field(description="Over 3 of the last 14 days have no measured weather.")
    forecast: Standing = Field(description="What the coming days rest on.")
