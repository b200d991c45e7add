"""Weather stations: their days, the season, the sum behind an ETo, files that come in, the forecast."""

import json
from collections import Counter
from datetime import date, timedelta
from typing import Annotated
from uuid import UUID

import numpy as np
from fastapi import APIRouter, Form, Query, UploadFile

from june_shade.api.context import Db, Reading, Retried, Service
from june_shade.api.routers.shape import read_upload
from june_shade.api.schemas.common import Day, IssueOut, WorkingLine
from june_shade.api.schemas.weather import (
    ColumnOut,
    EtoWorking,
    FlaggedDay,
    ImportOut,
    MadeUpIn,
    SeasonOut,
    StationDays,
    StationIn,
    StationOut,
    WeatherDayOut,
    WeatherTotal,
)
from june_shade.core.errors import ConflictError, InputError
from june_shade.core.weather import quality
from june_shade.core.weather.daily import Days, ReferenceEt
from june_shade.formats import weather_csv
from june_shade.outside.forecast import WeatherService
from june_shade.plans import clock, forecast, register, weather, weather_import
from june_shade.plans.records import Station
from june_shade.plans.work import Session

router = APIRouter(prefix="/api", tags=["weather"], route_class=Retried)
SHOWN_ISSUES = 100
SAMPLE_DAYS = 5


def _station_out(session: Session, row: Station, service: WeatherService | None) -> StationOut:
    first, last, count = weather.span(session, row)
    own = {name: getattr(row, name) for name in StationIn.model_fields}
    return StationOut.model_validate(
        own
        | {
            "id": row.id, "column_mapping": row.column_mapping, "first_day": first, "last_day": last, "days": count,
            "forecast_fetched_at": row.forecast_fetched_at, "forecast_failed_at": row.forecast_failed_at,
            "forecast_error": row.forecast_error, "forecast_stale": forecast.is_stale(session, row),
            "forecast_made_up": row.forecast_made_up, "forecast_available": forecast.is_asked(row, service),
            "made_up_offered": service is not None and service.made_up, "made_up_forecast": row.made_up_forecast,
        }
    )  # fmt: skip


@router.get("/stations")
def list_stations(session: Db, service: Service) -> list[StationOut]:
    """All weather stations."""
    return [_station_out(session, row, service) for row in weather.stations(session)]


@router.post("/stations", status_code=201)
def post_station(session: Db, service: Service, body: StationIn) -> StationOut:
    """Make a station."""
    return _station_out(session, register.save_station(session, body.model_dump()), service)


@router.put("/stations/{station_id}")
def put_station(session: Db, service: Service, station_id: UUID, body: StationIn) -> StationOut:
    """Change a station; plans that rest on it are made anew."""
    return _station_out(session, register.save_station(session, body.model_dump(), station_id), service)


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
def get_eto_working(session: Db, station_id: UUID, day: Day) -> EtoWorking:
    """The sum behind the ETo of a day, measured or forecast."""
    method, lines = weather.eto_working(session, weather.station(session, station_id), day)
    return EtoWorking(day=day, method=method, lines=[WorkingLine.model_validate(line) for line in lines])


def _mapping(text: str) -> dict[str, str]:
    try:
        value = json.loads(text or "{}")
    except (ValueError, RecursionError):
        raise InputError("is not JSON", "mapping") from None
    if not isinstance(value, dict) or not all(isinstance(v, str) for v in value.values()):
        raise InputError("must give a meaning for each header", "mapping")
    return value


def _import_out(where: Station, preview: weather_import.ImportPreview, stored: bool) -> ImportOut:
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
def preview_import(
    session: Reading, station_id: UUID, file: UploadFile, mapping: Annotated[str, Form()] = ""
) -> ImportOut:
    """What a daily weather file would bring; nothing is stored. mapping: JSON, header -> meaning."""
    preview = weather_import.preview_import(session, station_id, read_upload(file), _mapping(mapping))
    return _import_out(weather.station(session, station_id), preview, False)


@router.post("/stations/{station_id}/imports")
def accept_import(session: Db, station_id: UUID, file: UploadFile, mapping: Annotated[str, Form()] = "") -> ImportOut:
    """Store the good rows of a daily weather file; a day that is there is replaced. Sending it twice is harmless."""
    stored = weather_import.accept_import(session, station_id, read_upload(file), _mapping(mapping))
    return _import_out(weather.station(session, station_id), stored, True)


@router.post("/stations/{station_id}/forecast")
def fetch_forecast(session: Db, service: Service, station_id: UUID) -> StationOut:
    """Fetch the forecast now. A failure is told in the answer; the last good one is kept."""
    where = weather.station(session, station_id)
    if service is None:
        raise ConflictError("no forecast service is set up", "forecast")
    if not forecast.is_asked(where, service):
        raise ConflictError("made-up weather is not switched on for this station", "forecast")
    forecast.refresh(session, where, service)
    return _station_out(session, where, service)


@router.put("/stations/{station_id}/made-up-forecast")
def put_made_up_forecast(session: Db, service: Service, station_id: UUID, body: MadeUpIn) -> StationOut:
    """Switch a made-up forecast on, to try the program with, or off again: what was made up is then forgotten."""
    where = forecast.switch_made_up(session, station_id, service, on=body.on)
    return _station_out(session, where, service)
