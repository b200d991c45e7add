"""The tables. What can't be is refused here too, by constraints, not only in the models above.

`tree_state` is a cache of computed days, never a record: it may be emptied at any time.
"""

from datetime import date, datetime
from typing import Any
from uuid import UUID, uuid4

from sqlalchemy import (
    ARRAY,
    BigInteger,
    CheckConstraint,
    Float,
    ForeignKey,
    Index,
    Integer,
    UniqueConstraint,
    false,
    func,
    text,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from june_shade.core.mulch.materials import materials
from june_shade.core.mulch.ring import CLEAR_GAP_M
from june_shade.core.soil.in_force import KINDS as SOIL_TESTS
from june_shade.core.soil.textures import textures
from june_shade.core.stock.balls import KINDS
from june_shade.core.stock.plants import DROUGHT_TOLERANCES, PLANT_FACTOR
from june_shade.core.water.delivery import METHODS
from june_shade.core.water.modes import MODES
from june_shade.core.water.salts import SOURCES, TOLERANCES
from june_shade.core.water.trees import SURROUNDS
from june_shade.store.base import Base, Versioned, one_of, within

CLIMATES = ("dry", "humid")
OPENINGS = ("full", "reading", "guessed")
WORTHS = (0.5, 1.0, 2.0)
"""What a tree is worth: spare, ordinary, kept for something."""
ONLY_ORGANISATION = UUID("00000000-0000-4000-8000-000000000001")
"""The organisation that every site belongs to as long as there is one."""


class Organisation(Base):
    """Who sites belong to."""

    __tablename__ = "organisation"

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    name: Mapped[str] = mapped_column(unique=True)


class Station(Versioned, Base):
    """A weather station: place, wind height, monthly ETo where nothing better is known, the last forecast's fate.

    made_up_forecast: a person switched on forecasts that are made up; forecast_made_up: what is kept of one is.
    """

    __tablename__ = "station"
    __table_args__ = (
        within("latitude_deg", -90, 90),
        within("elevation_m", -500, 9000),
        within("wind_height_m", 0.1, 200, above=True),
        CheckConstraint("monthly_eto_mm IS NULL OR cardinality(monthly_eto_mm) = 12", name="monthly_eto_mm_twelve"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    name: Mapped[str] = mapped_column(unique=True)
    latitude_deg: Mapped[float]
    longitude_deg: Mapped[float]
    elevation_m: Mapped[float]
    wind_height_m: Mapped[float] = mapped_column(default=2.0)
    monthly_eto_mm: Mapped[list[float] | None] = mapped_column(ARRAY(Float(53)))
    column_mapping: Mapped[dict[str, str]] = mapped_column(JSONB, default=dict)
    forecast_fetched_at: Mapped[datetime | None]
    forecast_failed_at: Mapped[datetime | None]
    forecast_error: Mapped[str | None]
    made_up_forecast: Mapped[bool] = mapped_column(default=False, server_default=false())
    forecast_made_up: Mapped[bool] = mapped_column(default=False, server_default=false())


class StationDay(Base):
    """One measured day of a station, as given; NULL where missing."""

    __tablename__ = "station_day"
    __table_args__ = (
        CheckConstraint("tmin_c <= tmax_c", name="temperatures_ordered"),
        within("rain_mm", 0, None),
        within("rh_percent", 0, 100),
    )

    station_id: Mapped[UUID] = mapped_column(ForeignKey("station.id", ondelete="CASCADE"), primary_key=True)
    day: Mapped[date] = mapped_column(primary_key=True)
    tmin_c: Mapped[float | None]
    tmax_c: Mapped[float | None]
    rain_mm: Mapped[float | None]
    dew_point_c: Mapped[float | None]
    rh_percent: Mapped[float | None]
    rh_min_percent: Mapped[float | None]
    rh_max_percent: Mapped[float | None]
    wind_m_s: Mapped[float | None]
    sun_h: Mapped[float | None]
    radiation_mj_m2: Mapped[float | None]
    eto_station_mm: Mapped[float | None]
    recorded_at: Mapped[datetime] = mapped_column(server_default=func.now())


class ForecastDay(Base):
    """The last forecast made for a day; days gone by keep theirs, to stand in for a missing measurement."""

    __tablename__ = "forecast_day"
    __table_args__ = (
        CheckConstraint("tmin_c <= tmax_c", name="temperatures_ordered"),
        within("rain_chance", 0, 1),
        within("rain_mm", 0, None),
    )

    station_id: Mapped[UUID] = mapped_column(ForeignKey("station.id", ondelete="CASCADE"), primary_key=True)
    day: Mapped[date] = mapped_column(primary_key=True)
    issued_at: Mapped[datetime]
    tmin_c: Mapped[float]
    tmax_c: Mapped[float]
    rh_percent: Mapped[float | None]
    wind_m_s: Mapped[float | None]
    radiation_mj_m2: Mapped[float | None]
    rain_mm: Mapped[float]
    rain_chance: Mapped[float]


class Site(Versioned, Base):
    """A place that is cared for: time zone, soil, water supply, station, and what its crew has: tank, hours, days."""

    __tablename__ = "site"
    __table_args__ = (
        one_of("texture", textures()),
        one_of("climate", CLIMATES),
        one_of("mode", MODES),
        one_of("water_source", SOURCES),
        within("water_ec_ds_m", 0, 20),
        within("water_sar", 0, 100),
        within("tank_flow_l_per_h", 0, 50000, above=True),
        within("latitude_deg", -90, 90),
        within("root_depth_max_m", 0.05, 3),
        within("hose_flow_l_per_h", 0, 20000, above=True),
        within("pour_step_l", 0, 1000),
        within("tank_l", 0, 100000, above=True),
        within("crew_hours", 0, 24, above=True),
        within("water_price_per_m3", 0, 100000),
        within("hour_price", 0, 100000),
        CheckConstraint("working_days <@ ARRAY[0, 1, 2, 3, 4, 5, 6]", name="working_days_known"),
        CheckConstraint("cardinality(working_days) > 0", name="working_days_some"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    name: Mapped[str] = mapped_column(unique=True)
    timezone: Mapped[str]
    latitude_deg: Mapped[float]
    longitude_deg: Mapped[float]
    elevation_m: Mapped[float]
    climate: Mapped[str] = mapped_column(default="dry")
    texture: Mapped[str]
    root_depth_max_m: Mapped[float] = mapped_column(default=0.6)
    hose_flow_l_per_h: Mapped[float]
    pour_step_l: Mapped[float] = mapped_column(default=0.0)
    tank_l: Mapped[float | None]
    crew_hours: Mapped[float | None]
    working_days: Mapped[list[int]] = mapped_column(
        ARRAY(Integer), default=lambda: list(range(7)), server_default="{0,1,2,3,4,5,6}"
    )
    water_price_per_m3: Mapped[float | None]
    hour_price: Mapped[float | None]
    mode: Mapped[str] = mapped_column(default="grow", server_default="grow")
    water_source: Mapped[str] = mapped_column(default="potable", server_default="potable")
    water_ec_ds_m: Mapped[float | None]
    water_sar: Mapped[float | None]
    tank_flow_l_per_h: Mapped[float | None]
    station_id: Mapped[UUID | None] = mapped_column(ForeignKey("station.id"))
    revision: Mapped[int] = mapped_column(BigInteger, default=0, server_default="0")
    organisation_id: Mapped[UUID] = mapped_column(ForeignKey("organisation.id"), default=ONLY_ORGANISATION)
    station: Mapped[Station | None] = relationship()


class GaugeDay(Base):
    """What a rain gauge of the site's own read for a day; it counts in place of the station's rain."""

    __tablename__ = "gauge_day"
    __table_args__ = (within("rain_mm", 0, 2000),)

    site_id: Mapped[UUID] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"), primary_key=True)
    day: Mapped[date] = mapped_column(primary_key=True)
    rain_mm: Mapped[float]
    recorded_at: Mapped[datetime] = mapped_column(server_default=func.now())


class SoilTest(Base):
    """A soil test of a site as it was read. Kept for good; `used` says whether plans go by it, until withdrawn."""

    __tablename__ = "soil_test"
    __table_args__ = (one_of("kind", SOIL_TESTS), Index("ix_soil_test_site_id_day", "site_id", "day"))

    id: Mapped[UUID] = mapped_column(primary_key=True)
    site_id: Mapped[UUID] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    kind: Mapped[str]
    day: Mapped[date]
    place: Mapped[str] = mapped_column(default="")
    readings: Mapped[dict[str, Any]] = mapped_column(JSONB)
    used: Mapped[bool] = mapped_column(default=False)
    note: Mapped[str] = mapped_column(default="")
    recorded_at: Mapped[datetime] = mapped_column(server_default=func.now())
    withdrawn_at: Mapped[datetime | None]


class Stop(Versioned, Base):
    """Where the truck parks: a group of trees of a site, in the lead's order."""

    __tablename__ = "stop"
    __table_args__ = (UniqueConstraint("site_id", "name"),)

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    site_id: Mapped[UUID] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    name: Mapped[str]
    position: Mapped[int] = mapped_column(default=0)


class Line(Versioned, Base):
    """Trees on one valve: they are watered together or not at all. What feeds it; NULL where it was not measured."""

    __tablename__ = "line"
    __table_args__ = (
        UniqueConstraint("site_id", "name"),
        within("static_head_m", 0, 150, above=True),
        within("open_flow_l_per_h", 0, 50000, above=True),
        within("regulator_head_m", 0, 150, above=True),
        within("lead_m", 0, 1000, above=True),
        within("spacing_m", 0, 200, above=True),
        within("rise_percent", -60, 60),
        within("bearing_deg", 0, 360),
        within("offset_m", -20, 20),
        within("bore_mm", 0, 200, above=True),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    site_id: Mapped[UUID] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    name: Mapped[str]
    static_head_m: Mapped[float | None]
    open_flow_l_per_h: Mapped[float | None]
    regulator_head_m: Mapped[float | None]
    lead_m: Mapped[float | None]
    spacing_m: Mapped[float | None]
    rise_percent: Mapped[float | None]
    bearing_deg: Mapped[float | None]
    offset_m: Mapped[float | None]
    bore_mm: Mapped[float | None]


class Plant(Versioned, Base):
    """A kind of tree: names, water need, leaf dates (MM-DD), tolerances, mature size, where that is from."""

    __tablename__ = "plant"
    __table_args__ = (
        one_of("water_need", PLANT_FACTOR),
        one_of("drought_tolerance", DROUGHT_TOLERANCES),
        one_of("salt_tolerance", TOLERANCES),
        CheckConstraint("(leaf_out IS NULL) = (leaf_fall IS NULL)", name="leaf_dates_both"),
        within("sun_hours", 0, 16),
        CheckConstraint("depletion_fraction > 0 AND depletion_fraction < 1", name="depletion_fraction_range"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    botanical: Mapped[str] = mapped_column(unique=True)
    common: Mapped[str]
    water_need: Mapped[str]
    evergreen: Mapped[bool]
    leaf_out: Mapped[str | None]
    leaf_fall: Mapped[str | None]
    drought_tolerance: Mapped[str] = mapped_column(default="moderate", server_default="moderate")
    salt_tolerance: Mapped[str] = mapped_column(default="sensitive", server_default="sensitive")
    mature_height_m: Mapped[float]
    mature_spread_m: Mapped[float]
    sun_hours: Mapped[float] = mapped_column(default=6.0, server_default="6")
    depletion_fraction: Mapped[float] = mapped_column(default=0.5, server_default="0.5")
    source: Mapped[str]


class StockSize(Base):
    """A class of nursery stock with its published dimensions."""

    __tablename__ = "stock_size"
    __table_args__ = (one_of("kind", KINDS),)

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    kind: Mapped[str]
    label: Mapped[str] = mapped_column(unique=True)
    caliper_m: Mapped[float]
    ball_diameter_m: Mapped[float]
    ball_height_m: Mapped[float]
    volume_l_low: Mapped[float | None]
    volume_l_high: Mapped[float | None]
    source: Mapped[str]


class Tree(Versioned, Base):
    """One planted tree: which, where, its ball, how it is poured, its mulch, how its record opens.

    mulch_wasting_years: its own time constant by what was measured, NULL = the material's. mulch_choice: what is to be
    laid next, NULL = as suggested. planting_id: the planting that it was part of, if that was written down.
    withdrawn_at: when its planting was undone; it is in no list then and its tag is free (store/session.py).
    """

    __tablename__ = "tree"
    __table_args__ = (
        Index("uq_tree_site_id_tag", "site_id", "tag", unique=True, postgresql_where=text("withdrawn_at IS NULL")),
        one_of("kind", KINDS),
        one_of("surround", SURROUNDS),
        one_of("method", METHODS),
        one_of("opening", OPENINGS),
        one_of("mulch_material", materials()),
        one_of("mode", MODES),
        CheckConstraint(f"worth IN ({', '.join(f'{w:g}' for w in WORTHS)})", name="worth_known"),
        within("caliper_m", 0, 1, above=True),
        within("ball_diameter_m", 0, 5, above=True),
        within("ball_height_m", 0, 3, above=True),
        within("ball_volume_l", 0, 20000, above=True),
        within("crown_diameter_m", 0, 40),
        within("microclimate", 0.1, 3),
        within("basin_diameter_m", 0, 10, above=True),
        within("mulch_depth_m", 0, 1),
        within("mulch_outer_radius_m", 0, 15, above=True),
        within("mulch_clear_gap_m", 0, 5),
        within("mulch_wasting_years", 0, 100, above=True),
        CheckConstraint("planted_on >= DATE '1950-01-01'", name="planted_on_range"),
        CheckConstraint("opened_on >= planted_on", name="opened_after_planting"),
        within("ball_wetness", 0, 1),
        within("ring_wetness", 0, 1),
        CheckConstraint(
            "opening <> 'reading' OR (ball_wetness IS NOT NULL AND ring_wetness IS NOT NULL)", name="reading_given"
        ),
        CheckConstraint(
            "method <> 'emitters' OR (emitter_count >= 1 AND emitter_flow_l_per_h > 0)", name="emitters_given"
        ),
        CheckConstraint(
            "method <> 'soaker' OR (soaker_across_m > 0 AND soaker_flow_l_per_h_m > 0)", name="soaker_given"
        ),
        CheckConstraint(
            "method <> 'sprinkler' OR (sprinkler_across_m > 0 AND sprinkler_flow_l_per_h > 0)", name="sprinkler_given"
        ),
        CheckConstraint("method <> 'wicked' OR reservoir_l > 0", name="reservoir_given"),
        within("latitude_deg", -90, 90),
        within("longitude_deg", -180, 180),
        Index("ix_tree_stop_id", "stop_id"),
        Index("ix_tree_line_id", "line_id"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    site_id: Mapped[UUID] = mapped_column(ForeignKey("site.id"))
    stop_id: Mapped[UUID | None] = mapped_column(ForeignKey("stop.id", ondelete="SET NULL"))
    tag: Mapped[str]
    place: Mapped[str] = mapped_column(default="")
    side: Mapped[str] = mapped_column(default="", server_default="")
    note_for_crew: Mapped[str] = mapped_column(default="", server_default="")
    row_place: Mapped[int] = mapped_column(default=0)
    line_id: Mapped[UUID | None] = mapped_column(ForeignKey("line.id", ondelete="SET NULL"))
    latitude_deg: Mapped[float | None]
    longitude_deg: Mapped[float | None]
    plant_id: Mapped[UUID] = mapped_column(ForeignKey("plant.id"))
    stock_size_id: Mapped[UUID | None] = mapped_column(ForeignKey("stock_size.id"))
    kind: Mapped[str]
    caliper_m: Mapped[float]
    ball_diameter_m: Mapped[float]
    ball_height_m: Mapped[float]
    ball_volume_l: Mapped[float | None]
    crown_diameter_m: Mapped[float | None]
    planted_on: Mapped[date]
    opened_on: Mapped[date]
    opening: Mapped[str] = mapped_column(default="full")
    ball_wetness: Mapped[float | None]
    ring_wetness: Mapped[float | None]
    bud_break_on: Mapped[date | None]
    microclimate: Mapped[float] = mapped_column(default=1.0)
    surround: Mapped[str] = mapped_column(default="bare")
    method: Mapped[str] = mapped_column(default="hose")
    basin_diameter_m: Mapped[float | None]
    basin_depth_m: Mapped[float | None]
    emitter_count: Mapped[int] = mapped_column(default=0)
    emitter_flow_l_per_h: Mapped[float] = mapped_column(default=0.0)
    bag_capacity_l: Mapped[float] = mapped_column(default=75.0)
    soaker_across_m: Mapped[float | None]
    soaker_flow_l_per_h_m: Mapped[float | None]
    sprinkler_across_m: Mapped[float | None]
    sprinkler_flow_l_per_h: Mapped[float | None]
    reservoir_l: Mapped[float | None]
    mode: Mapped[str | None]
    worth: Mapped[float] = mapped_column(default=1.0, server_default="1")
    mulch_material: Mapped[str | None]
    mulch_depth_m: Mapped[float] = mapped_column(default=0.0)
    mulch_outer_radius_m: Mapped[float | None]
    mulch_measured_on: Mapped[date | None]
    mulch_clear_gap_m: Mapped[float] = mapped_column(default=CLEAR_GAP_M, server_default="0.08")
    mulch_wasting_years: Mapped[float | None]
    withdrawn_at: Mapped[datetime | None]
    mulch_choice: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    planting_id: Mapped[UUID | None] = mapped_column(ForeignKey("planting.id", ondelete="SET NULL", use_alter=True))
    obstacles: Mapped[list[dict[str, Any]]] = mapped_column(JSONB, default=list, server_default="[]")
    layout_id: Mapped[UUID | None] = mapped_column(ForeignKey("drip_layout.id", ondelete="SET NULL", use_alter=True))

    site: Mapped[Site] = relationship()
    stop: Mapped[Stop | None] = relationship()
    line: Mapped[Line | None] = relationship()
    plant: Mapped[Plant] = relationship()


class FormerWay(Base):
    """How a tree was watered until a day, that day left out: its way of pouring as it was then.

    leaching: the share that only washed salts. drip_*: what the layout that lay there did. What holds now stands in the
    tree's own row.
    """

    __tablename__ = "former_way"
    __table_args__ = (one_of("method", METHODS), within("leaching", 0, 1), within("drip_ball_share", 0, 1))

    tree_id: Mapped[UUID] = mapped_column(ForeignKey("tree.id", ondelete="CASCADE"), primary_key=True)
    until: Mapped[date] = mapped_column(primary_key=True)
    method: Mapped[str]
    basin_diameter_m: Mapped[float | None]
    basin_depth_m: Mapped[float | None]
    emitter_count: Mapped[int]
    emitter_flow_l_per_h: Mapped[float]
    bag_capacity_l: Mapped[float]
    soaker_across_m: Mapped[float | None]
    soaker_flow_l_per_h_m: Mapped[float | None]
    sprinkler_across_m: Mapped[float | None]
    sprinkler_flow_l_per_h: Mapped[float | None]
    reservoir_l: Mapped[float | None]
    leaching: Mapped[float]
    layout_id: Mapped[UUID | None] = mapped_column(ForeignKey("drip_layout.id", ondelete="SET NULL"))
    drip_ball_share: Mapped[float | None]
    drip_profile_m2: Mapped[list[float] | None] = mapped_column(JSONB(none_as_null=True))
    recorded_at: Mapped[datetime] = mapped_column(server_default=func.now())


class TreeState(Base):
    """Cache: a tree's computed state at the end of a day."""

    __tablename__ = "tree_state"

    tree_id: Mapped[UUID] = mapped_column(ForeignKey("tree.id", ondelete="CASCADE"), primary_key=True)
    day: Mapped[date] = mapped_column(primary_key=True)
    root_radius_m: Mapped[float]
    ball_depletion_l: Mapped[float]
    near_depletion_l: Mapped[float]
    far_depletion_l: Mapped[float]
    near_volume_l: Mapped[float]
    far_volume_l: Mapped[float]
    outside_depletion_mm: Mapped[float]
    ks: Mapped[float]
    soggy: Mapped[bool]
    soggy_days: Mapped[float]
    rain_before_mm: Mapped[float]
    late_days: Mapped[int]
    reservoir_l: Mapped[float] = mapped_column(default=0.0, server_default="0")


class PinnedClock(Base):
    """The demo's clock: what time it was said to be when the real one stood at real_at. One row, or none."""

    __tablename__ = "pinned_clock"
    __table_args__ = (CheckConstraint("id = 1", name="one_row"),)

    id: Mapped[int] = mapped_column(primary_key=True, default=1)
    shown_at: Mapped[datetime]
    real_at: Mapped[datetime]
