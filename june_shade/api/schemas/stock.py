"""Kinds of tree, nursery stock, a ball and a way of pouring looked at before they are stored."""

from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import Field

from june_shade.api.schemas.common import In, Name, Out, PourOut, Words, quantity
from june_shade.core.fields import BY_NAME, GIVEN, limits_of

Kind = Literal["container", "box", "fabric_bag", "balled", "bare_root"]
Method = Literal["hose", "bucket", "tank", "bag", "emitters", "soaker", "sprinkler", "wicked"]
Mode = Literal["grow", "hold", "survive"]
WaterNeed = Literal["very_low", "low", "moderate", "high"]
DroughtTolerance = Literal["low", "moderate", "high"]
SaltTolerance = Literal["very_sensitive", "sensitive", "moderate", "tolerant", "very_tolerant"]


Fruit = Literal["none", "small", "heavy"]
Pest = Literal["borers", "scale", "mites", "aphids", "leafminer", "fire_blight", "bagworms"]
EMPTY: Any = object()


def typed(field: str, description: str, default: Any = EMPTY) -> Any:
    """A number among a tree's fields with its unit and limits, and what it means left out unless told otherwise."""
    row, limits = BY_NAME[field], limits_of(field)
    bounds: Any = {"gt": limits.above, "ge": limits.low, "le": limits.high}
    if default is EMPTY:
        default = ... if row.empty is GIVEN else row.empty
    given = {name: value for name, value in bounds.items() if value is not None}
    if not row.unit:
        return Field(default, description=description, **given)
    return quantity(row.unit, description, default, **given)


class MethodIn(In):
    """The way of pouring with its own measures."""

    method: Method = "hose"
    emitter_count: int = typed("emitter_count", "Emitters on the tree.")
    emitter_flow_l_per_h: float = typed("emitter_flow_l_per_h", "Flow of one emitter")
    bag_capacity_l: float = typed("bag_capacity_l", "What a slow-release bag holds")
    soaker_across_m: float | None = typed("soaker_across_m", "Soaker loop across")
    soaker_flow_l_per_h_m: float | None = typed("soaker_flow_l_per_h_m", "Flow of a meter of soaker")
    sprinkler_across_m: float | None = typed("sprinkler_across_m", "Circle it wets")
    sprinkler_flow_l_per_h: float | None = typed("sprinkler_flow_l_per_h", "Flow of the sprinkler")
    reservoir_l: float | None = typed("reservoir_l", "What a wicked box holds")


class WayIn(MethodIn):
    """How a tree is watered, as it is typed: the measures of its way of pouring, its basin."""

    basin_diameter_m: float | None = typed("basin_diameter_m", "Basin across its ridge")
    basin_depth_m: float | None = typed("basin_depth_m", "Height of the basin's ridge")


class PourIn(WayIn):
    """A ball and a way of pouring, before the tree is saved."""

    site_id: UUID
    kind: Kind
    ball_diameter_m: float = typed("ball_diameter_m", "Ball across")
    ball_height_m: float = typed("ball_height_m", "Ball height")


class PourLook(Out):
    """What a way of pouring does for a ball."""

    ball_share: float = Field(description="Share of the water that lands on the ball.")
    efficiency: float = Field(description="Share of the poured water that arrives.")
    flow_l_per_h: float = quantity("L/h", "Flow in all")
    dry_ball: bool = Field(description="While it is new, this way leaves the ball dry.")
    pour: PourOut = Field(description="What refills a half empty ball.")


class PlantIn(In):
    """A kind of tree as it is typed."""

    botanical: Name
    common: Name
    water_need: WaterNeed = Field(description="Of an established tree.")
    evergreen: bool = False
    leaf_out: str | None = Field(None, description="Usual day it comes into leaf, MM-DD; by temperature where null.")
    leaf_fall: str | None = Field(None, description="Usual day its leaves begin to fall, MM-DD.")
    drought_tolerance: DroughtTolerance = "moderate"
    salt_tolerance: SaltTolerance = "sensitive"
    mature_height_m: float = quantity("m", "Mature height", gt=0, le=120)
    mature_spread_m: float = quantity("m", "Mature spread", gt=0, le=60)
    sun_hours: float = quantity("h", "Direct sun a day that it wants in summer", 6.0, ge=0, le=16)
    depletion_fraction: float = Field(0.5, gt=0, lt=1, description="Share of its water it takes up free of stress, p.")
    fruit: Fruit = Field("none", description="What it bears for people.")
    frost_c: float | None = quantity("degC", "From here down frost hurts it while young", None, ge=-30, le=5)
    pests: Annotated[list[Pest], Field(max_length=7)] = Field([], description="What it is looked over for each year.")
    source: Words = "typed here"
    version: int | None = Field(None, description="As it was read; an older one is refused. Leave out to overwrite.")


class PlantOut(Out):
    """A kind of tree."""

    id: UUID
    botanical: str
    common: str
    water_need: WaterNeed
    evergreen: bool
    leaf_out: str | None
    leaf_fall: str | None
    drought_tolerance: DroughtTolerance
    salt_tolerance: SaltTolerance
    mature_height_m: float = quantity("m", "Mature height")
    mature_spread_m: float = quantity("m", "Mature spread")
    sun_hours: float = quantity("h", "Direct sun a day that it wants in summer")
    depletion_fraction: float
    fruit: Fruit
    frost_c: float | None = quantity("degC", "From here down frost hurts it while young; null: it does not")
    pests: list[Pest]
    source: str
    version: int


class BallOut(Out):
    """A ball from its measures: what it holds, weighs, how it is lifted, and how it stands against the standard."""

    volume_l: float = quantity("L", "Volume")
    weight_kg: float = quantity("kg", "Weight of the ball without its tree")
    soaked_kg: float = quantity("kg", "Weight of the soaked ball")
    lift: Literal["one_person", "two_people", "cart_or_sling", "machine"]
    gives_l: float = quantity("L", "Water it can give when full, on loam for bare root")
    least_ball_m: float | None = quantity("m", "Least ball or spread for this trunk")
    least_height_m: float | None = quantity("m", "Least height of a dug ball of this width")
    caliper_height_m: float = quantity("m", "Height above the flare at which the trunk is measured")
    crown_m: float = quantity("m", "Crown to be expected of this trunk")
    doubts: list[str] = Field(description="Codes of what is possible but unlikely.")


class StockSizeOut(Out):
    """A class of nursery stock."""

    id: UUID
    kind: str
    label: str
    caliper_m: float = quantity("m", "Usual caliper")
    ball_diameter_m: float = quantity("m", "Ball across")
    ball_height_m: float = quantity("m", "Ball height")
    volume_l_low: float | None = quantity("L", "Least volume of the class")
    volume_l_high: float | None = quantity("L", "Greatest volume of the class")
    source: str
