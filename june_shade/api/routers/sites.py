"""Sites, stations, weather, people and the clock."""

import json
from collections import Counter
from datetime import date, timedelta
from typing import Annotated
from uuid import UUID

import numpy as np
from fastapi import APIRouter, Form, Query, UploadFile
from sqlalchemy import select
from sqlalchemy.orm import Session

from june_shade.api.context import Config, Db, Service
from june_shade.api.routers.shape import read_upload
from june_shade.api.schemas.common import IssueOut, WorkingLine
from june_shade.api.schemas.sites import (
    ClockOut,
    ColumnOut,
    ComparisonOut,
    EtoWorking,
    FlaggedDay,
    GaugeIn,
    GaugeRow,
    ImportOut,
    PersonIn,
    PersonOut,
    SeasonOut,
    SiteIn,
    SiteOut,
    SoilOut,
    StationDays,
    StationIn,
    StationOut,
    StopOrder,
    StopOut,
    WeatherDayOut,
    WeatherTotal,
)
from june_shade.core.errors import ConflictError, InputError
from june_shade.core.water import delivery, salts
from june_shade.core.weather import quality
from june_shade.core.weather.daily import Days, ReferenceEt
from june_shade.demo import steps
from june_shade.formats import weather_csv
from june_shade.plans import clock, forecast, modes, register, soil, weather
from june_shade.settings import Settings
from june_shade.store import trees as tree_store
from june_shade.store import weather as weather_store
from june_shade.store.tables import Person, Site, Station

router = APIRouter(prefix="/api", tags=["sites and weather"])
SHOWN_ISSUES = 100
SAMPLE_DAYS = 5
GAUGE_DAYS = 14


def _site_out(session: Session, row: Site) -> SiteOut:
    own = {name: getattr(row, name) for name in SiteIn.model_fields}
    found = soil.in_force(session, row)
    return SiteOut.model_validate(
        own
        | {
            "id": row.id,
            "trees": tree_store.tree_counts(session).get(row.id, 0),
            "stops": [
                StopOut(id=stop.id, name=stop.name, trees=count)
                for stop, count in tree_store.stops_with_counts(session, row.id)
            ],
            "lines": tree_store.line_names(session, row.id),
            "station_name": row.station.name if row.station else None,
            "soil": SoilOut.model_validate(found.soil),
            "water_codes": salts.judge(row.water_source, row.water_ec_ds_m, row.water_sar),
            "root_depth_in_force_m": found.root_depth_max_m,
        }
    )


@router.get("/sites")
def list_sites(session: Db) -> list[SiteOut]:
    """All sites by name."""
    return [_site_out(session, row) for row in tree_store.sites(session)]


@router.post("/sites", status_code=201)
def post_site(session: Db, body: SiteIn) -> SiteOut:
    """Make a site."""
    return _site_out(session, register.save_site(session, body.model_dump()))


@router.put("/sites/{site_id}")
def put_site(session: Db, site_id: UUID, body: SiteIn) -> SiteOut:
    """Change a site; every plan on it is made anew."""
    return _site_out(session, register.save_site(session, body.model_dump(), site_id))


@router.get("/flow")
def get_flow(
    litres: Annotated[float, Query(description="What the bucket holds [L].")],
    seconds: Annotated[float, Query(description="How long it took to fill.")],
) -> float:
    """Flow [L/h] from timing a bucket."""
    return delivery.timed_flow_l_h(litres, seconds)


@router.get("/sites/{site_id}/modes")
def get_modes(session: Db, site_id: UUID, tree_id: UUID | None = None) -> ComparisonOut:
    """The last measured days gone through again in each mode: what it saves in water and costs in growth."""
    return ComparisonOut.model_validate(modes.compare(session, register.site(session, site_id), tree_id))


def _gauge(session: Session, site: Site) -> list[GaugeRow]:
    today = clock.today(session, site.timezone)
    first = today - timedelta(days=GAUGE_DAYS - 1)
    own = {row.day: row.rain_mm for row in weather_store.gauge_days(session, site.id, first)}
    days = weather_store.station_days(session, site.station_id, first=first) if site.station_id else []
    theirs = {row.day: row.rain_mm for row in days}
    shown = [today - timedelta(days=back) for back in range(GAUGE_DAYS)]
    return [GaugeRow(day=day, gauge_mm=own.get(day), station_mm=theirs.get(day)) for day in shown]


@router.get("/sites/{site_id}/gauge")
def get_gauge(session: Db, site_id: UUID) -> list[GaugeRow]:
    """The last two weeks: the site's own rain gauge beside its station, the newest first."""
    return _gauge(session, register.site(session, site_id))


@router.put("/sites/{site_id}/gauge")
def put_gauge(session: Db, site_id: UUID, body: GaugeIn) -> list[GaugeRow]:
    """Write gauge readings; a day that is there is replaced. Plans go by them in place of the station's rain."""
    site = register.site(session, site_id)
    weather.save_gauge(session, site, {reading.day: reading.rain_mm for reading in body.readings})
    return _gauge(session, site)


@router.put("/sites/{site_id}/stops")
def put_stop_order(session: Db, site_id: UUID, body: StopOrder) -> SiteOut:
    """Put the stops into the lead's order; the round follows it."""
    return _site_out(session, register.order_stops(session, site_id, body.stops))


def _station_out(session: Session, row: Station, settings: Settings) -> StationOut:
    first, last, count = weather_store.span(session, row.id)
    own = {name: getattr(row, name) for name in StationIn.model_fields}
    return StationOut.model_validate(
        own
        | {
            "id": row.id, "column_mapping": row.column_mapping, "first_day": first, "last_day": last, "days": count,
            "forecast_fetched_at": row.forecast_fetched_at, "forecast_failed_at": row.forecast_failed_at,
            "forecast_error": row.forecast_error, "forecast_stale": forecast.is_stale(session, row),
            "forecast_available": bool(settings.forecast_url),
        }
    )  # fmt: skip


@router.get("/stations")
def list_stations(session: Db, settings: Config) -> list[StationOut]:
    """All weather stations."""
    return [_station_out(session, row, settings) for row in weather_store.stations(session)]


@router.post("/stations", status_code=201)
def post_station(session: Db, settings: Config, body: StationIn) -> StationOut:
    """Make a station."""
    return _station_out(session, register.save_station(session, body.model_dump()), settings)


@router.put("/stations/{station_id}")
def put_station(session: Db, settings: Config, station_id: UUID, body: StationIn) -> StationOut:
    """Change a station; plans that rest on it are made anew."""
    return _station_out(session, register.save_station(session, body.model_dump(), station_id), settings)


def _days_out(where: Station, days: Days, eto: ReferenceEt, chance: np.ndarray, measured: bool) -> list[WeatherDayOut]:
    def value(column: np.ndarray, i: int) -> float | None:
        return None if np.isnan(column[i]) else float(column[i])

    found = quality.flags(days, where.latitude_deg, where.elevation_m) if measured else ((),) * len(days)
    humidity = np.where(np.isnan(days.rh_percent), (days.rh_min_percent + days.rh_max_percent) / 2, days.rh_percent)
    return [
        WeatherDayOut(
            day=days.dates[i].item(), measured=measured, tmin_c=value(days.tmin_c, i), tmax_c=value(days.tmax_c, i),
            rain_mm=value(days.rain_mm, i), rain_chance=float(chance[i]), wind_m_s=value(days.wind_m_s, i),
            humidity_percent=value(humidity, i), eto_mm=value(eto.eto_mm, i), method=eto.method[i],
            flags=list(found[i]),
        )
        for i in range(len(days))
    ]  # fmt: skip


@router.get("/stations/{station_id}/days")
def get_days(
    session: Db,
    station_id: UUID,
    back: Annotated[int, Query(ge=0, le=3700, description="Days back from today.")] = 60,
) -> StationDays:
    """Measured days up to today, then the forecast; what the air took and what fell."""
    where = weather.station(session, station_id)
    zone = weather.zone_of(session, where)
    today = clock.today(session, zone)
    past = weather.measured(session, where, first=today - timedelta(days=back))
    shown = _days_out(where, past.days, past.eto, np.ones(len(past.days)), True)
    seen = {row.day for row in shown}
    ahead = weather.forecast(session, where, first=today)
    coming = _days_out(where, ahead.days, ahead.eto, ahead.chance, False)
    return StationDays(
        today=today,
        zone=zone,
        totals=[WeatherTotal.model_validate(t) for t in weather.totals(past, today)],
        season=SeasonOut.model_validate(weather.season(session, where, today)),
        days=shown + [row for row in coming if row.day not in seen],
    )


@router.get("/stations/{station_id}/days/{day}/eto")
def get_eto_working(session: Db, station_id: UUID, day: date) -> EtoWorking:
    """The sum behind the ETo of a day, measured or forecast."""
    method, lines = weather.eto_working(session, weather.station(session, station_id), day)
    return EtoWorking(day=day, method=method, lines=[WorkingLine.model_validate(line) for line in lines])


def _mapping(text: str) -> dict[str, str]:
    try:
        value = json.loads(text or "{}")
    except ValueError:
        raise InputError("is not JSON", "mapping") from None
    if not isinstance(value, dict) or not all(isinstance(v, str) for v in value.values()):
        raise InputError("must give a meaning for each header", "mapping")
    return value


def _import_out(where: Station, preview: weather.ImportPreview, stored: bool) -> ImportOut:
    reading = preview.reading
    dates: list[date] = sorted(d.item() for d in reading.days.dates)
    sample = _days_out(where, reading.days, preview.eto, np.ones(len(reading.days)), True)[:SAMPLE_DAYS]
    return ImportOut(
        days=len(dates), new=preview.new, changed=preview.changed,
        first_day=dates[0] if dates else None, last_day=dates[-1] if dates else None,
        columns=[ColumnOut(header=name, meaning=word) for name, word in reading.columns.items()],
        problem=preview.problem, meanings=["date", *weather_csv.COLUMNS],
        refused=[IssueOut.model_validate(i, from_attributes=True) for i in reading.refused[:SHOWN_ISSUES]],
        refused_count=len(reading.refused),
        doubts=[IssueOut.model_validate(i, from_attributes=True) for i in reading.doubts[:SHOWN_ISSUES]],
        methods=dict(Counter(preview.eto.method)), sample=sample, stored=stored, kind=reading.kind,
        place=list(preview.place), file_place=reading.place.name if reading.place else None,
        flagged=[
            FlaggedDay(day=day.item(), flags=list(codes))
            for day, codes in zip(reading.days.dates, preview.flagged, strict=False)
            if codes
        ][:SHOWN_ISSUES],
        flagged_count=sum(bool(codes) for codes in preview.flagged),
    )  # fmt: skip


@router.post("/stations/{station_id}/imports/preview")
def preview_import(session: Db, station_id: UUID, file: UploadFile, mapping: Annotated[str, Form()] = "") -> ImportOut:
    """What a daily weather file would bring; nothing is stored. mapping: JSON, header -> meaning."""
    preview = weather.preview_import(session, station_id, read_upload(file), _mapping(mapping))
    return _import_out(weather.station(session, station_id), preview, False)


@router.post("/stations/{station_id}/imports")
def accept_import(session: Db, station_id: UUID, file: UploadFile, mapping: Annotated[str, Form()] = "") -> ImportOut:
    """Store the good rows of a daily weather file; a day that is there is replaced. Sending it twice is harmless."""
    stored = weather.accept_import(session, station_id, read_upload(file), _mapping(mapping))
    return _import_out(weather.station(session, station_id), stored, True)


@router.post("/stations/{station_id}/forecast")
def fetch_forecast(session: Db, settings: Config, service: Service, station_id: UUID) -> StationOut:
    """Fetch the forecast now. A failure is told in the answer; the last good one is kept."""
    where = weather.station(session, station_id)
    if service is None:
        raise ConflictError("no forecast service is set up", "forecast")
    forecast.refresh(session, where, service)
    return _station_out(session, where, settings)


@router.get("/people")
def list_people(session: Db) -> list[PersonOut]:
    """Everyone who waters."""
    return [PersonOut.model_validate(p) for p in session.scalars(select(Person).order_by(Person.name))]


@router.put("/people/{person_id}")
def put_person(session: Db, person_id: UUID, body: PersonIn) -> PersonOut:
    """Make a person under an id that the client chose; a name that is there already is that person."""
    return PersonOut.model_validate(register.save_person(session, person_id, body.name))


def _clock_out(session: Session) -> ClockOut:
    sites = tree_store.sites(session)
    day = clock.today(session, sites[0].timezone) if sites else clock.now(session).date()
    return ClockOut(now=clock.now(session), pinned=clock.is_pinned(session), day=day)


@router.get("/clock")
def get_clock(session: Db) -> ClockOut:
    """The time the program goes by."""
    return _clock_out(session)


@router.post("/clock/next-day")
def next_day(session: Db, service: Service) -> ClockOut:
    """Demo only: the station reports the day, then it is the next morning."""
    steps.next_day(session, service)
    return _clock_out(session)
