"""Queries on stations, their measured days and their last forecasts."""

from collections.abc import Iterable, Sequence
from datetime import date, datetime
from typing import Any, NamedTuple
from uuid import UUID

from sqlalchemy import delete, func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from june_shade.store.site_tables import GaugeDay, Site
from june_shade.store.weather_tables import ForecastDay, Station, StationDay


def stations(session: Session) -> Sequence[Station]:
    """All stations by name."""
    return session.scalars(select(Station).order_by(Station.name)).all()


class DayMeasured(NamedTuple):
    """A day as a station measured it, None where missing."""

    day: date
    tmin_c: float | None
    tmax_c: float | None
    rain_mm: float | None
    dew_point_c: float | None
    rh_percent: float | None
    rh_min_percent: float | None
    rh_max_percent: float | None
    wind_m_s: float | None
    sun_h: float | None
    radiation_mj_m2: float | None
    eto_station_mm: float | None


QUANTITIES = DayMeasured._fields[1:]


def station_days(
    session: Session, station_id: UUID, first: date | None = None, last: date | None = None
) -> list[DayMeasured]:
    """Measured days in order."""
    query = (
        select(StationDay.day, *(getattr(StationDay, q) for q in QUANTITIES))
        .where(StationDay.station_id == station_id)
        .order_by(StationDay.day)
    )
    if first is not None:
        query = query.where(StationDay.day >= first)
    if last is not None:
        query = query.where(StationDay.day <= last)
    return [DayMeasured(*row) for row in session.execute(query)]


def days_stamp(session: Session, station_id: UUID) -> tuple[int, datetime | None]:
    """Changes whenever a station's measured days do: how many there are and when the last was written."""
    query = select(func.count(), func.max(StationDay.recorded_at)).where(StationDay.station_id == station_id)
    count, written = session.execute(query).one()
    return count, written


def forecast_days(session: Session, station_id: UUID, first: date | None = None) -> Sequence[ForecastDay]:
    """The last forecast for each day, in order."""
    query = select(ForecastDay).where(ForecastDay.station_id == station_id).order_by(ForecastDay.day)
    if first is not None:
        query = query.where(ForecastDay.day >= first)
    return session.scalars(query).all()


def known_dates(session: Session, station_id: UUID, days: Iterable[date]) -> set[date]:
    """Which of these days are already measured."""
    asked = set(days)
    if not asked:
        return set()
    query = select(StationDay.day).where(
        StationDay.station_id == station_id, StationDay.day.between(min(asked), max(asked))
    )
    return asked & set(session.scalars(query))


def span(session: Session, station_id: UUID) -> tuple[date | None, date | None, int]:
    """First and last measured day and how many there are."""
    query = select(func.min(StationDay.day), func.max(StationDay.day), func.count()).where(
        StationDay.station_id == station_id
    )
    first, last, count = session.execute(query).one()
    return first, last, count


def lock_station(session: Session, station_id: UUID) -> None:
    """Hold a station's days until the transaction ends."""
    session.execute(select(Station.id).where(Station.id == station_id).with_for_update())


def save_days(
    session: Session, station_id: UUID, rows: list[dict[str, Any]], import_id: UUID | None = None
) -> None:  # fmt: skip
    """Insert measured days; a day that is there is replaced whole, import_id says by what."""
    raw = session.connection().connection.driver_connection
    assert raw is not None
    columns = ", ".join(("day", *QUANTITIES))
    replaced = ", ".join(f"{name} = excluded.{name}" for name in (*QUANTITIES, "import_id", "recorded_at"))
    with raw.cursor() as cursor:
        cursor.execute("CREATE TEMP TABLE IF NOT EXISTS new_day (LIKE station_day) ON COMMIT DELETE ROWS")
        cursor.execute(
            "ALTER TABLE new_day ALTER station_id DROP NOT NULL, ALTER recorded_at DROP NOT NULL, "
            "ALTER organisation_id DROP NOT NULL"
        )
        with cursor.copy(f"COPY new_day ({columns}) FROM STDIN (FORMAT binary)") as copy:
            copy.set_types(["date", *["float8"] * len(QUANTITIES)])
            for row in rows:
                copy.write_row((row["day"], *(row[name] for name in QUANTITIES)))
        # clock_timestamp(): the time of writing, not of the transaction's start, so that a later write is always later
        cursor.execute(
            f"INSERT INTO station_day (station_id, import_id, recorded_at, {columns}) "
            f"SELECT %s, %s, clock_timestamp(), {columns} FROM new_day "
            f"ON CONFLICT (station_id, day) DO UPDATE SET {replaced}",
            (station_id, import_id),
        )
        cursor.execute("DELETE FROM new_day")


def save_forecast(session: Session, station_id: UUID, issued_at: datetime, rows: list[dict[str, Any]]) -> None:
    """Keep a forecast: for each of its days it is now the last."""
    if not rows:
        return
    values = [{"station_id": station_id, "issued_at": issued_at, **row} for row in rows]
    statement = insert(ForecastDay).values(values)
    columns = [c for c in values[0] if c not in ("station_id", "day")]
    session.execute(
        statement.on_conflict_do_update(
            index_elements=["station_id", "day"], set_={c: statement.excluded[c] for c in columns}
        )
    )


def drop_forecast(session: Session, station_id: UUID) -> None:
    """Forget all that was ever forecast for a station."""
    session.execute(delete(ForecastDay).where(ForecastDay.station_id == station_id))


def gauge_days(session: Session, site_id: UUID, first: date | None = None) -> Sequence[GaugeDay]:
    """Readings of a site's own rain gauge, in order."""
    query = select(GaugeDay).where(GaugeDay.site_id == site_id).order_by(GaugeDay.day)
    if first is not None:
        query = query.where(GaugeDay.day >= first)
    return session.scalars(query).all()


def save_gauge(session: Session, site_id: UUID, readings: dict[date, float | None]) -> None:
    """Write gauge readings; a day that is there is replaced, None takes it away."""
    gone = [day for day, rain in readings.items() if rain is None]
    session.execute(delete(GaugeDay).where(GaugeDay.site_id == site_id, GaugeDay.day.in_(gone)))
    kept = [{"site_id": site_id, "day": day, "rain_mm": rain} for day, rain in readings.items() if rain is not None]
    if kept:
        statement = insert(GaugeDay).values(kept)
        replaced = {"rain_mm": statement.excluded.rain_mm, "recorded_at": func.clock_timestamp()}
        session.execute(statement.on_conflict_do_update(index_elements=["site_id", "day"], set_=replaced))


def sites_of(session: Session, station_id: UUID) -> Sequence[Site]:
    """Sites that read this station."""
    return session.scalars(select(Site).where(Site.station_id == station_id)).all()
