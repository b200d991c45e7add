"""Weather stations, their measured days, their last forecasts."""

from datetime import date, datetime
from uuid import UUID, uuid4

from sqlalchemy import (
    ARRAY,
    CheckConstraint,
    Float,
    ForeignKey,
    Index,
    UniqueConstraint,
    false,
    func,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from june_shade.store.base import Owned, Versioned, within


class Station(Versioned, Owned):
    """A weather station: place, wind height, monthly ETo where nothing better is known, the last forecast's fate.

    made_up_forecast: a person switched on forecasts that are made up; forecast_made_up: what is kept of one is.
    """

    __tablename__ = "station"
    __table_args__ = (
        UniqueConstraint("organisation_id", "name", name="uq_station_name"),
        within("latitude_deg", -90, 90),
        within("elevation_m", -500, 9000),
        within("wind_height_m", 0.1, 200, above=True),
        CheckConstraint("monthly_eto_mm IS NULL OR cardinality(monthly_eto_mm) = 12", name="monthly_eto_mm_twelve"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    name: Mapped[str]
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


class StationDay(Owned):
    """One measured day of a station, as given; NULL where missing. import_id: the last import that wrote it."""

    __tablename__ = "station_day"
    __table_args__ = (
        CheckConstraint("tmin_c <= tmax_c", name="temperatures_ordered"),
        CheckConstraint("day >= DATE '1850-01-01'", name="day_can_be"),
        within("rain_mm", 0, None),
        within("rh_percent", 0, 100),
        Index("ix_station_day_import_id", "import_id"),
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
    import_id: Mapped[UUID | None] = mapped_column(ForeignKey("import.id", ondelete="SET NULL"))
    recorded_at: Mapped[datetime] = mapped_column(server_default=func.now())


class ForecastDay(Owned):
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
