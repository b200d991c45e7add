"""Weather stations: their days, the season, the sum behind an ETo, the forecast."""

from datetime import timedelta
from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Query

from june_shade.api.context import Db, Retried, Service
from june_shade.api.schemas.common import Day, WorkingLine
from june_shade.api.schemas.weather import (
    EtoWorking,
    MadeUpIn,
    SeasonOut,
    StationDays,
    StationIn,
    StationOut,
    WeatherDayOut,
    WeatherTotal,
)
from june_shade.core.errors import ConflictError
from june_shade.outside.forecast import WeatherService
from june_shade.plans import clock, forecast, places, weather
from june_shade.plans.records import Station
from june_shade.plans.work import Session

router = APIRouter(prefix="/api", tags=["weather"], route_class=Retried)


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
    return _station_out(session, places.save_station(session, body.model_dump()), service)


@router.put("/stations/{station_id}")
def put_station(session: Db, service: Service, station_id: UUID, body: StationIn) -> StationOut:
    """Change a station; plans that rest on it are made anew."""
    return _station_out(session, places.save_station(session, body.model_dump(), station_id), service)


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
    shown = weather.shown_days(where, past.days, past.eto)
    seen = {row.day for row in shown}
    ahead = weather.forecast(session, where, first=today)
    coming = weather.shown_days(where, ahead.days, ahead.eto, ahead.chance)
    return StationDays(
        today=today,
        zone=zone,
        totals=[WeatherTotal.model_validate(t) for t in weather.totals(past, today)],
        season=SeasonOut.model_validate(weather.season(session, where, today)),
        days=[WeatherDayOut.model_validate(row) for row in (*shown, *coming) if row.measured or row.day not in seen],
    )


@router.get("/stations/{station_id}/days/{day}/eto")
def get_eto_working(session: Db, station_id: UUID, day: Day) -> EtoWorking:
    """The sum behind the ETo of a day, measured or forecast."""
    method, lines = weather.eto_working(session, weather.station(session, station_id), day)
    return EtoWorking(day=day, method=method, lines=[WorkingLine.model_validate(line) for line in lines])


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
