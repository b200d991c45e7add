"""Sites, stations, weather and people."""

from datetime import date, datetime
from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field

from june_shade.api.schemas.common import In, Name, Out, quantity

Texture = Literal[
    "sand", "loamy_sand", "sandy_loam", "loam", "silt_loam", "silt", "sandy_clay_loam", "clay_loam",
    "silty_clay_loam", "sandy_clay", "silty_clay", "clay",
]  # fmt: skip
Latitude = Annotated[float, Field(ge=-90, le=90, description="Degrees, north positive.")]
Longitude = Annotated[float, Field(ge=-180, le=180, description="Degrees, east positive.")]


class SiteIn(In):
    """A site as it is typed."""

    name: Name
    timezone: str = Field(description="IANA name, like America/Denver.")
    latitude_deg: Latitude
    longitude_deg: Longitude
    elevation_m: float = quantity("m", "Above sea level", ge=-500, le=9000)
    climate: Literal["dry", "humid"] = "dry"
    texture: Texture
    root_depth_max_m: float = quantity("m", "How deep roots can go", 0.6, ge=0.1, le=3)
    hose_flow_l_per_h: float = quantity("L/h", "Measured flow of the hose", gt=0, le=20000)
    pour_step_l: float = quantity("L", "Step that is poured; 0 = 1 L or half a gallon", 0.0, ge=0, le=1000)
    tank_l: float | None = quantity("L", "Tank of the truck; none where a hydrant is at hand", None, gt=0, le=100000)
    crew_hours: float | None = quantity("h", "Hours the crew has for watering in a day", None, gt=0, le=24)
    working_days: list[Annotated[int, Field(ge=0, le=6)]] = Field(
        default_factory=lambda: list(range(7)), min_length=1, max_length=7, description="Monday 0 to Sunday 6."
    )
    water_price_per_m3: float | None = Field(None, ge=0, le=100000, description="Price of 1 m3 of water.")
    hour_price: float | None = Field(None, ge=0, le=100000, description="Price of an hour of work.")
    mode: Literal["grow", "hold", "survive"] = Field("grow", description="What is wanted of its trees.")
    water_source: Literal["potable", "well", "reclaimed", "pond"] = "potable"
    water_ec_ds_m: float | None = quantity("dS/m", "Conductivity of the water, if measured", None, ge=0, le=20)
    water_sar: float | None = Field(None, ge=0, le=100, description="Sodium adsorption ratio of the water, if known.")
    tank_flow_l_per_h: float | None = quantity(
        "L/h", "Flow of the tank's boom; as the hose where null", None, gt=0, le=50000
    )
    station_id: UUID | None = None
    traffic: bool = Field(False, description="The work is beside moving traffic.")
    crew_id: UUID | None = Field(None, description="Who waters it; null = its own numbers stand for a crew.")
    house_number: int | None = Field(None, ge=1, le=1_000_000, description="For orders that go by it.")
    version: int | None = Field(None, description="As it was read; an older one is refused. Leave out to overwrite.")


class StopOut(Out):
    """Where the truck parks."""

    id: UUID
    name: str
    trees: int


class StopOrder(In):
    """All stops of a site in their order."""

    stops: list[UUID]


class SoilOut(Out):
    """What the site's soil does."""

    texture: str
    wilting_point: float = Field(description="Water that roots can not take, m3/m3")
    awc: float = Field(description="Available water, m3/m3")
    drainable: float = Field(description="Space between field capacity and saturation, m3/m3")
    drain_share: float = Field(description="Share of the excess that drains in a day")
    intake_mm_h: float = quantity("mm/h", "Basic intake")
    conductivity_mm_h: float = quantity("mm/h", "Saturated conductivity")
    source: str


class ClosedIn(In):
    """Whether a site, or a line, is closed."""

    closed: bool


class SiteOut(SiteIn, Out):
    """A site as it is stored."""

    id: UUID
    closed_on: date | None = Field(description="Since when it is not cared for any more.")
    version: int
    working_days: list[int]
    trees: int
    stops: list[StopOut]
    lines: list[str]
    station_name: str | None
    soil: SoilOut = Field(description="In force: the texture typed with every accepted test laid over it.")
    water_codes: list[str] = Field(description="What is to be said of the water.")
    root_depth_in_force_m: float = quantity("m", "How deep roots can go, by the newest probe where there is one")


class ModeOutcomeOut(Out):
    """A mode over past days gone through again, all trees together."""

    name: Literal["grow", "hold", "survive"]
    poured_l: float = quantity("L", "Poured in all")
    waterings: int
    drinks: float = Field(description="Share of what the trees would drink that they got.")
    roots_m: float = quantity("m", "Mean growth of the root radius")
    worst_ks: float = Field(description="Least share of its thirst that any tree got on any day.")


class ComparisonOut(Out):
    """The three modes over the same days."""

    days: int
    trees: int
    modes: list[ModeOutcomeOut]
    tender: list[str] = Field(description="Tags of trees whose kind stands little drought: not for `survive`.")


class GaugeDay(In):
    """A reading of a site's own rain gauge."""

    day: date
    rain_mm: float | None = quantity("mm", "Rain that day; null takes the reading away", ..., ge=0, le=2000)


class GaugeIn(In):
    """Readings of a site's own rain gauge."""

    readings: Annotated[list[GaugeDay], Field(min_length=1, max_length=400)]


class GaugeRow(Out):
    """A day: what the gauge read and what the station says."""

    day: date
    gauge_mm: float | None = quantity("mm", "The site's own gauge")
    station_mm: float | None = quantity("mm", "The station")


class PersonIn(In):
    """A name, chosen once per device."""

    name: Name


class PersonOut(Out):
    """Someone who waters."""

    id: UUID
    name: str


class ClockOut(Out):
    """What time it is."""

    now: datetime
    pinned: bool = Field(description="The demo's day, which can be stepped.")
    day: date
