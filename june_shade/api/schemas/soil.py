"""Soil tests and the soil in force."""

from datetime import date, datetime
from typing import Annotated, Any, Literal, Self
from uuid import UUID

from pydantic import AwareDatetime, Field, model_validator

from june_shade.api.schemas.common import In, Out, Words, quantity
from june_shade.api.schemas.sites import SoilOut

TestKind = Literal[
    "crumble", "clump", "jar", "ribbon", "percentages", "drain_hole", "infiltration", "hardpan",
]  # fmt: skip
Packing = Literal["loose", "usual", "firm", "compacted"]
Percent = Annotated[float, Field(ge=0, le=100, description="Percent.")]
ORGANIC = "Organic matter, percent; with it or the packing the soil is computed, without by its class"


class Crumble(In):
    """A handful from the depth of the hole, rubbed between the fingers."""

    kind: Literal["crumble"] = "crumble"
    found: Literal["crumbles", "sticky", "powder"]
    rain_before_mm: float | None = quantity("mm", "Rain of the day before", None, ge=0, le=500)


class Clump(In):
    """A handful squeezed once."""

    kind: Literal["clump"] = "clump"
    found: Literal["falls_apart", "holds", "modelling_clay"]


class Jar(In):
    """Tops of the settled layers above the bottom, and when each was marked, if it was noted."""

    kind: Literal["jar"] = "jar"
    sand_top_m: float = quantity("m", "Top of the sand above the bottom", ge=0, le=1)
    silt_top_m: float = quantity("m", "Top of the silt above the bottom", ge=0, le=1)
    clay_top_m: float = quantity("m", "Top of the clay above the bottom", gt=0, le=1)
    shaken_at: AwareDatetime | None = Field(None, description="When the jar was set down.")
    sand_at: AwareDatetime | None = None
    silt_at: AwareDatetime | None = None
    clay_at: AwareDatetime | None = None
    organic_percent: float | None = Field(None, ge=0, le=8, description=ORGANIC)
    packing: Packing | None = None

    @model_validator(mode="after")
    def _start_known(self) -> Self:
        if self.shaken_at is None and (self.sand_at or self.silt_at or self.clay_at):
            raise ValueError("shaken_at: needed for the clock times of the marks")
        return self

    def readings(self) -> dict[str, Any]:
        """As the core takes them: clock times become time since shaking."""
        own = self.model_dump(exclude={"kind", "shaken_at", "sand_at", "silt_at", "clay_at"})
        if self.shaken_at is not None:
            marks = (("sand_after_s", self.sand_at, 1.0), ("silt_after_h", self.silt_at, 3600.0),
                     ("clay_after_h", self.clay_at, 3600.0))  # fmt: skip
            own |= {name: (at - self.shaken_at).total_seconds() / per for name, at, per in marks if at is not None}
        return own


class Ribbon(In):
    """A moist ball pressed out between thumb and finger, then a pinch of it wetted."""

    kind: Literal["ribbon"] = "ribbon"
    ribbon: Literal["no_ball", "no_ribbon", "short", "medium", "long"] = Field(
        description="How far it goes before it breaks: under 2.5 cm, to 5 cm, over 5 cm."
    )
    pinch: Literal["gritty", "smooth", "neither"] = "neither"


class Percentages(In):
    """What a laboratory wrote."""

    kind: Literal["percentages"] = "percentages"
    sand_percent: Percent
    silt_percent: Percent
    clay_percent: Percent
    organic_percent: float | None = Field(None, ge=0, le=8, description=ORGANIC)
    packing: Packing | None = None


class DrainHole(In):
    """A hole filled, left to drain, filled again: how far the water then fell."""

    kind: Literal["drain_hole"] = "drain_hole"
    first_depth_m: float = quantity("m", "Depth of water at the start", gt=0, le=2)
    last_depth_m: float = quantity("m", "Depth of water at the end", ge=0, le=2)
    minutes: float = quantity("min", "Time between", gt=0, le=2880)
    across_m: float = quantity("m", "Hole across", 0.30, gt=0.02, le=2)


class Infiltration(In):
    """A ring pressed into the ground and filled until it takes water evenly: the last filling."""

    kind: Literal["infiltration"] = "infiltration"
    fallen_m: float = quantity("m", "How far the water fell", ge=0, le=1)
    minutes: float = quantity("min", "Time between", gt=0, le=1440)


class Hardpan(In):
    """A rod or auger until it stops."""

    kind: Literal["hardpan"] = "hardpan"
    depth_m: float = quantity("m", "Depth at which it stops", ge=0.05, le=3)


Reading = Annotated[
    Crumble | Clump | Jar | Ribbon | Percentages | DrainHole | Infiltration | Hardpan, Field(discriminator="kind")
]


class SoilTestIn(In):
    """A soil test as it was taken."""

    day: date
    place: Words = Field("", description="Where on the site, in words.")
    note: Words = ""
    reading: Reading
    used: bool = Field(False, description="Plans of the site go by it from now on.")


class OutcomeOut(Out):
    """What a test says."""

    texture: str | None
    neighbour: str | None = Field(description="The class that it may be as well.")
    measured: dict[str, float] = Field(description="Values that plans go by once it is used.")
    figures: dict[str, float] = Field(description="Everything else worth telling; units in the names.")
    codes: list[str] = Field(description="Judgements and doubts.")
    changes_plans: bool
    drain_cap: float | None = Field(description="Most of the excess that drains in a day.")


class NextPourOut(Out):
    """The next watering of a tree."""

    day: date
    metric_l: float = quantity("L", "In metric steps")
    us_l: float = quantity("L", "In half gallons")


class TreeChangeOut(Out):
    """A tree whose next watering would be another."""

    tree_id: UUID
    tag: str
    common: str
    before: NextPourOut | None
    after: NextPourOut | None


class ChangeOut(Out):
    """What a change does to a site's plan."""

    days: int
    trees: int
    changed: int
    litres_before: float = quantity("L", "Planned for these days as it stands")
    litres_after: float = quantity("L", "Planned for these days after the change")
    waterings_before: int
    waterings_after: int
    most: list[TreeChangeOut] = Field(description="The first of the trees that change.")


class OriginOut(Out):
    """Which test a value comes from."""

    kind: TestKind
    day: date


class SoilInForceOut(Out):
    """The soil that plans go by."""

    soil: SoilOut
    root_depth_max_m: float = quantity("m", "How deep roots can go")
    origin: dict[str, OriginOut] = Field(description="The test behind each value that has one.")


class SoilTestPreview(Out):
    """What a test says and what it would do; nothing is stored."""

    outcome: OutcomeOut
    after: SoilInForceOut | None = Field(description="The soil in force with it; null where plans don't go by it.")
    change: ChangeOut | None = Field(description="Null where no plan can be made.")


class SoilTestOut(Out):
    """A test as it is kept."""

    id: UUID
    kind: TestKind
    day: date
    place: str
    note: str
    readings: dict[str, Any]
    used: bool
    withdrawn_at: datetime | None
    outcome: OutcomeOut


class SoilPage(Out):
    """A site's soil: in force, the table beside it, all tests."""

    site_id: UUID
    name: str
    today: date
    texture_typed: str
    in_force: SoilInForceOut
    table: SoilOut = Field(description="The table's row for the texture in force.")
    tests: list[SoilTestOut]
    rain_before_mm: float | None = quantity("mm", "Measured rain of yesterday")
    dry_on: date | None = Field(description="First coming day that looks dry enough to try the ground again.")
