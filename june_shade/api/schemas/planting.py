"""Planting: stock and choice as they are typed, the figures, looks at stock, planted."""

from datetime import date, time
from typing import Annotated, Literal, Self
from uuid import UUID

from pydantic import Field, model_validator

from june_shade.api.language import Sentence
from june_shade.api.schemas.common import In, Name, Out, Words, WorkingLine, quantity
from june_shade.api.schemas.drip import ObstacleIO, ObstacleOut
from june_shade.api.schemas.mulch import Stocked
from june_shade.api.schemas.stock import Kind, Method, MethodIn, PlantOut, typed
from june_shade.api.schemas.trees import Feel, Surround, TreeOut

DepthSchool = Literal["proud", "high", "level", "sunken"]
BackfillSchool = Literal["as_dug", "third_compost", "coir_sand", "half_compost"]
Aid = Literal["inoculant_dip", "hydrogel_slurry", "hydrogel_dry", "succulent_pads", "reservoir_box"]
Support = Literal["none", "one_stake", "two_posts"]
Guard = Literal["none", "mower", "animals"]
Fit = Literal["suits", "possible", "poor"]
StockWord = Literal["sound", "mend", "reject"]
Answers = dict[str, Annotated[str, Field(max_length=40)]]


class PlantingChoiceIO(In):
    """What is chosen for a planting."""

    depth_school: DepthSchool
    raise_m: float = quantity("m", "Flare over grade", ge=-0.5, le=0.5)
    width_ratio: float = quantity("", "Hole over ball, across the top", gt=0, le=6)
    backfill_school: BackfillSchool = "as_dug"
    graft_m: float | None = quantity("m", "Graft union over the flare", None, ge=0, le=2)
    aids: Annotated[list[Aid], Field(max_length=5)] = []
    basin_diameter_m: float = quantity("m", "Basin across its ridge", 0.9, gt=0, le=6)
    ridge_m: float = quantity("m", "Height of its ridge", 0.08, gt=0, le=0.5)
    support: Support = "none"
    wrap: bool = False
    guard: Guard = "none"
    edging_m: float = quantity("m", "Edging ring across, 0 = none", 0.0, ge=0, le=3)
    ball_feel: Feel = "wet"
    backfill_feel: Feel = "drying"
    sun_h: float | None = quantity("h", "Direct sun a day in summer", None, ge=0, le=18)
    spacing_m: float | None = quantity("m", "To the next tree", None, gt=0, le=100)
    mulch_depth_m: float = quantity("m", "Settled mulch that will lie there", 0.05, ge=0, le=0.1)
    firming: Literal["in_layers", "lightly"] = Field("in_layers", description="How the backfill is firmed.")
    mower_m: float | None = quantity("m", "Width of the mower that passes; null: none does", None, gt=0, le=4)
    feed: bool = Field(False, description="It is to be fed, once it may.")
    well_filled: bool = Field(False, description="A sunken basin filled with compost and chips.")


class PlantingChoiceOut(PlantingChoiceIO, Out):
    """What is chosen, as read."""

    model_config = Out.model_config


class PlantingIn(MethodIn):
    """A batch of like trees that is to be planted."""

    site_id: UUID
    stop: Words = ""
    planned_on: date
    plant_id: UUID
    stock_size_id: UUID | None = None
    kind: Kind
    caliper_m: float = typed("caliper_m", "Trunk diameter 15 cm above the flare")
    ball_diameter_m: float = typed("ball_diameter_m", "Ball, container or root spread across")
    ball_height_m: float = typed("ball_height_m", "Ball, soil over the flare included")
    ball_volume_l: float | None = typed("ball_volume_l", "Measured ball volume")
    flare_below_top_m: float = quantity("m", "Soil over the flare", 0.0, ge=0, le=1)
    count: int = Field(1, ge=0, le=500)
    tag: Name = Field(description="Of the first tree; the others count on.")
    place: Words = Field("", description="Words to find them by; {n} and {nth} are filled in.")
    microclimate: float = Field(1.0, ge=0.5, le=1.4)
    surround: Surround = "bare"
    line: Words = Field("", description="The valve they hang on together; empty: none.")
    note: Words = ""
    choice: PlantingChoiceIO | None = Field(None, description="As suggested where null.")
    obstacles: Annotated[list[ObstacleIO], Field(max_length=12)] | None = None
    version: int | None = None

    @model_validator(mode="after")
    def _ball(self) -> Self:
        if self.flare_below_top_m >= self.ball_height_m:
            raise ValueError("flare_below_top_m: nothing of the ball would be left under the flare")
        return self


class HoleOut(Out):
    """The hole."""

    top_diameter_m: float = quantity("m", "Across the top")
    base_diameter_m: float = quantity("m", "Across the base")
    depth_m: float = quantity("m", "Deep")
    hole_l: float = quantity("L", "Dug")
    ball_volume_l: float = quantity("L", "Ball")
    ball_buried_l: float = quantity("L", "Ball under grade")
    backfill_l: float = quantity("L", "Goes back in")
    ball_weight_kg: float = quantity("kg", "Ball as it comes")
    soaked_kg: float = quantity("kg", "Ball soaked")
    lift: Literal["one_person", "two_people", "cart_or_sling", "machine"]
    stake_mark_m: float = quantity("m", "Mark on the stake")


class MixOut(Out):
    """What goes back into a hole."""

    soil_l: float = quantity("L", "Soil as dug")
    compost_l: float = quantity("L", "Compost")
    coir_l: float = quantity("L", "Soaked coir")
    sand_l: float = quantity("L", "Coarse sand")
    spoil_l: float = quantity("L", "Left over")
    poured_through_l: float = quantity("L", "Water poured through the mix before it stands open")


class FirstWaterOut(Out):
    """The first water."""

    ball_l: float = quantity("L", "The ball lacks")
    backfill_l: float = quantity("L", "The backfill lacks")
    litres: float = quantity("L", "As poured, each tree")
    basin_l: float = quantity("L", "The basin holds at once")
    goes: int
    rest_min: float = quantity("min", "Until a filling has sunk")
    times: int = Field(description="How often that day: bare roots are soaked twice.")


class DoseOut(Out):
    """A dose for the batch."""

    aid: Aid
    trees: int
    litres: float = quantity("L", "Liquid")
    grams: float = quantity("g", "Powder")
    pieces: int
    sachets: int
    minutes: float = quantity("min", "Stands or soaks")
    doubts: list[str]


class DepthOut(Out):
    """A school of depth against this ground."""

    school: DepthSchool
    raise_m: float = quantity("m", "Flare over grade")
    low_m: float = quantity("m", "Least")
    high_m: float = quantity("m", "Most")
    fit: Fit
    because: str
    chosen: bool


class BackfillOut(Out):
    """A school of backfill against this ground and stock."""

    school: BackfillSchool
    compost_share: float
    coir_share: float
    sand_share: float
    fit: Fit
    because: str
    chosen: bool
    barred: bool


class FittingsOut(Out):
    """What this place calls for."""

    support: Support
    wrap: bool
    guard: Guard
    edging_m: float = quantity("m", "Edging ring across")
    why: dict[str, str]


class RoomOut(Out):
    """A finding on the place."""

    code: str
    has: float
    wants: float


class PlantingFinding(Out):
    """A judgement on a planting."""

    code: str
    urgent: bool


class TotalsOut(Out):
    """The whole batch."""

    trees: int
    hole_l: float = quantity("L", "Dug")
    soil_l: float = quantity("L", "Soil back in")
    compost_l: float = quantity("L", "Compost")
    coir_l: float = quantity("L", "Coir")
    sand_l: float = quantity("L", "Sand")
    spoil_loose_l: float = quantity("L", "Carried away, loose")
    first_water_l: float = quantity("L", "First water")
    poured_through_l: float = quantity("L", "Poured through the mix")
    stakes: int
    ties: int
    wraps: int
    guards: int
    rings: int
    spoil_carried: dict[str, int]


class PlantingFiguresOut(Out):
    """Everything about a planting."""

    choice: PlantingChoiceOut
    mature_spread_m: float = quantity("m", "Grown spread")
    mature_height_m: float = quantity("m", "Grown height")
    sun_wants_h: float = quantity("h", "Sun it wants")
    hole: HoleOut
    mix: MixOut
    first: FirstWaterOut
    doses: list[DoseOut]
    depths: list[DepthOut]
    backfills: list[BackfillOut]
    fittings: FittingsOut
    room: list[RoomOut]
    findings: list[PlantingFinding]
    totals: TotalsOut
    working: list[WorkingLine]


class StockCheckOut(Out):
    """The look at one tree of a batch."""

    number: int
    answers: Answers
    flare_below_top_m: float = quantity("m", "Soil over the flare")
    verdict: StockWord
    reasons: list[str]
    actions: list[str]
    stake_mark_m: float | None = quantity("m", "Its own mark on the stake", None)


class PlantingOut(Out):
    """A planting as it is stored, with its figures."""

    id: UUID
    site_id: UUID
    site_name: str
    stop: str
    planned_on: date
    plant: PlantOut
    stock_size_id: UUID | None
    kind: Kind
    caliper_m: float = quantity("m", "Trunk")
    ball_diameter_m: float = quantity("m", "Ball across")
    ball_height_m: float = quantity("m", "Ball height")
    ball_volume_l: float | None = quantity("L", "Measured ball volume")
    flare_below_top_m: float = quantity("m", "Soil over the flare")
    count: int
    left: int = Field(description="Go into the ground: not rejected.")
    undoable: bool = Field(description="Planted as a batch: that it was can be undone.")
    tag: str
    place: str
    microclimate: float
    surround: Surround
    method: Method
    emitter_count: int
    emitter_flow_l_per_h: float = quantity("L/h", "Flow of one emitter")
    bag_capacity_l: float = quantity("L", "Bag")
    soaker_across_m: float | None = quantity("m", "Soaker loop across")
    soaker_flow_l_per_h_m: float | None = quantity("L/h/m", "Flow of a meter of soaker")
    sprinkler_across_m: float | None = quantity("m", "Circle a sprinkler wets")
    sprinkler_flow_l_per_h: float | None = quantity("L/h", "Flow of the sprinkler")
    reservoir_l: float | None = quantity("L", "What a wicked box holds")
    line: str
    note: str
    obstacles: list[ObstacleOut]
    checks: list[StockCheckOut]
    questions: dict[str, list[str]]
    planted_on: date | None
    first_water_l: float | None = quantity("L", "Poured on each tree")
    trees: list[UUID]
    tags: list[str]
    today: date
    zone: str = Field(description="IANA zone of the site.")
    chosen: bool = Field(description="Somebody chose; else it is as suggested.")
    figures: PlantingFiguresOut
    texture: str
    version: int


class PlantingRow(Out):
    """A planting in a list."""

    id: UUID
    site_id: UUID
    site_name: str
    stop: str
    planned_on: date
    planted_on: date | None
    common: str
    kind: Kind
    count: int
    left: int
    looked_at: int
    tag: str


class StockCheckIn(In):
    """A look at one tree of a batch."""

    answers: Answers
    flare_below_top_m: float = quantity("m", "Soil over the flare", 0.0, ge=0, le=1)


class PlantedIn(In):
    """The trees are in the ground."""

    id: UUID | None = Field(None, description="The client's own: sent again it changes nothing, undone or not.")
    day: date | None = None
    at: time | None = Field(None, description="Time of day of the first water, in the site's zone; 9:00 where null.")
    raise_m: float | None = quantity(
        "m", "Flare over the ground as it ended up, below where negative; as chosen where null", None, ge=-0.15, le=0.15
    )
    device_id: Name
    person_id: UUID | None = None
    water_l: float | None = quantity("L", "Poured on each tree, as reckoned where null", None, ge=0, le=20000)
    taken: dict[Stocked, Annotated[float, Field(ge=0, le=1000000)]] | None = Field(
        None, description="Mixed-in material taken along, loose litres; as reckoned where null."
    )
    back: dict[Stocked, Annotated[float, Field(ge=0, le=1000000)]] = Field(
        default_factory=dict, description="What came back of it, loose litres."
    )


class PlantedUndoIn(In):
    """They are not, after all."""

    device_id: Name
    person_id: UUID | None = None


class TreePlanting(Out):
    """How a tree in the ground was planted, or what its figures would be."""

    tree: TreeOut
    known: bool = Field(description="It was written down.")
    planting_id: UUID | None
    flare_below_top_m: float = quantity("m", "Soil that came off its flare")
    first_water_l: float | None = quantity("L", "First water")
    spacing_m: float | None = quantity("m", "To the next tree")
    batch: int = Field(description="How many were planted together.")
    opens_by_it: bool = Field(description="Its record opens on planting day, by what is written here.")
    figures: PlantingFiguresOut
    texture: str
    today: date


class TreePlantingIn(In):
    """How a tree in the ground was planted."""

    choice: PlantingChoiceIO
    flare_below_top_m: float = quantity("m", "Soil that came off its flare", 0.0, ge=0, le=1)


class PlantingMonth(Out):
    """A month to plant in, by a usual year."""

    month: int
    litres: float = quantity("L", "A tree to the end of its second whole summer, its first soaking among it")
    frost_days: float = Field(description="Days of hard frost in it, on the mean.")
    heat_days: float = Field(description="Days of heat in it, on the mean.")
    leafless: bool
    against: list[Literal["frost", "heat", "in_leaf"]]


class PlantingDayOut(Out):
    """A day to plant on."""

    day: date
    low_c: float = quantity("degC", "Low")
    high_c: float = quantity("degC", "High")
    left_min: float | None = quantity("min", "That the crew has left, null = no limit")
    litres: float = quantity("L", "Of the batch's first fortnight, its first soaking among it")
    against: list[Literal["too_wet", "frost", "heat", "no_hands"]]
    dig_dry: bool = Field(description="The ground is dry: water it the day before.")


class WhenOut(Out):
    """When to plant a batch."""

    months: list[PlantingMonth] = Field(description="None where no whole year was measured.")
    best_month: int | None
    planned_month: int
    saved_share: float | None = Field(
        description="By which share a tree takes less water in the best month than in the planned one; 0 = not less."
    )
    days: list[PlantingDayOut]
    best_day: date | None
    nearest_day: date | None = Field(description="The day that least speaks against.")
    needs_min: float = quantity("min", "Of work for the batch")
    trees: int
    problem: Sentence | None
