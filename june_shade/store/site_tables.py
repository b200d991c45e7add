"""Sites and what belongs to one: gauge, soil tests, stops, lines."""

from datetime import date, datetime
from typing import Any
from uuid import UUID, uuid4

from sqlalchemy import (
    ARRAY,
    BigInteger,
    CheckConstraint,
    ForeignKey,
    Index,
    Integer,
    UniqueConstraint,
    func,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from june_shade.core.soil.in_force import KINDS as SOIL_TESTS
from june_shade.core.soil.textures import textures
from june_shade.core.water.modes import MODES
from june_shade.core.water.salts import SOURCES
from june_shade.store.base import Owned, Signed, Versioned, one_of, within
from june_shade.store.weather_tables import Station

CLIMATES = ("dry", "humid")


class Site(Versioned, Owned):
    """A place that is cared for: time zone, soil, water supply, station, and what its crew has: tank, hours, days.

    closed_on: since when it is not cared for any more; it is in the book only then. traffic: its work is beside
    moving traffic. crew_id: who waters it, NULL = its own numbers stand for a crew. wants_revision: counts what a plan
    under limits rests on.
    """

    __tablename__ = "site"
    __table_args__ = (
        UniqueConstraint("organisation_id", "name", name="uq_site_name"),
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
        within("house_number", 1, 1_000_000),
        CheckConstraint("working_days <@ ARRAY[0, 1, 2, 3, 4, 5, 6]", name="working_days_known"),
        CheckConstraint("cardinality(working_days) > 0", name="working_days_some"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    name: Mapped[str]
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
    grown_on: Mapped[date | None]
    closed_on: Mapped[date | None]
    traffic: Mapped[bool] = mapped_column(default=False, server_default="false")
    crew_id: Mapped[UUID | None] = mapped_column(ForeignKey("crew.id"))
    house_number: Mapped[int | None]
    wants_revision: Mapped[int] = mapped_column(BigInteger, default=0, server_default="0")
    station: Mapped[Station | None] = relationship()


class GaugeDay(Signed):
    """What a rain gauge of the site's own read for a day; it counts in place of the station's rain."""

    __tablename__ = "gauge_day"
    __table_args__ = (within("rain_mm", 0, 2000),)

    site_id: Mapped[UUID] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"), primary_key=True)
    day: Mapped[date] = mapped_column(primary_key=True)
    rain_mm: Mapped[float]
    recorded_at: Mapped[datetime] = mapped_column(server_default=func.now())


class SoilTest(Signed):
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


class Stop(Versioned, Owned):
    """Where the truck parks: a group of trees of a site, in the lead's order. NULL where it was not typed: minutes to
    set up there, minutes from the stop before, where it is."""

    __tablename__ = "stop"
    __table_args__ = (
        UniqueConstraint("site_id", "name"),
        within("set_up_min", 0, 240),
        within("way_min", 0, 240),
        within("latitude_deg", -90, 90),
        within("longitude_deg", -180, 180),
        CheckConstraint("(latitude_deg IS NULL) = (longitude_deg IS NULL)", name="place_whole"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    site_id: Mapped[UUID] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    name: Mapped[str]
    position: Mapped[int] = mapped_column(default=0)
    set_up_min: Mapped[float | None]
    way_min: Mapped[float | None]
    latitude_deg: Mapped[float | None]
    longitude_deg: Mapped[float | None]


class Line(Versioned, Owned):
    """Trees on one valve: they are watered together or not at all. What feeds it; NULL where it was not measured.

    lie: where each tree stands that was measured by itself; all others as spacing and slope have them. closed_gaps: ids
    of trees that are gone and whose emitters were closed.

    closed_on: since when nothing hangs on it any more; it is in its site's lists no more then.
    """

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
    lie: Mapped[list[dict[str, Any]]] = mapped_column(JSONB, default=list, server_default="[]")
    closed_gaps: Mapped[list[str]] = mapped_column(JSONB, default=list, server_default="[]")
    closed_on: Mapped[date | None]
