"""Fetching the forecast: the last good one is kept and marked stale when the service fails.

A service whose weather is made up is only asked for stations where a person switched that on.
"""

from dataclasses import asdict
from datetime import date, timedelta
from typing import Literal
from uuid import UUID

import numpy as np

from june_shade.core.errors import ConflictError, JuneShadeError
from june_shade.core.weather.series import FORECAST, Series
from june_shade.outside.forecast import WeatherService
from june_shade.plans import changes, clock, weather
from june_shade.plans.changes import Changed, What
from june_shade.store import weather as store
from june_shade.store.session import Session, SessionMaker, reading, transaction
from june_shade.store.weather_tables import Station

Standing = Literal["fresh", "stale", "made_up", "none"]
"""What the days ahead rest on: a forecast, an old one, a made-up one, or what is usual for the season."""
STALE_AFTER = timedelta(hours=30)
REFRESH_EVERY = timedelta(hours=3)
EARLIEST_ZONE = timedelta(hours=12)
"""No civil day begins later than 12 h after it does in UTC."""


def refresh(session: Session, station: Station, service: WeatherService) -> bool:
    """Ask for a new forecast; whether there was one. A failure is noted on the station and nothing is lost."""
    if not is_asked(station, service):
        return False
    now = clock.now(session)
    try:
        made = service.forecast(station.latitude_deg, station.longitude_deg, _first_day(session, station))
    except JuneShadeError as e:
        station.forecast_failed_at, station.forecast_error = now, e.message
        return False
    if (
        station.forecast_fetched_at is not None and station.forecast_made_up != service.made_up
    ):  # what is made up and what is not are never mixed
        _forget(session, station)
    station.forecast_made_up = service.made_up
    rows = [asdict(day) for day in made.days]
    store.save_forecast(session, station.id, made.issued_at, rows)
    station.forecast_fetched_at, station.forecast_failed_at, station.forecast_error = now, None, None
    changes.tell(session, *(Changed(site.id, What.PAGE) for site in store.sites_of(session, station.id)))
    return True


def refresh_all(sessions: SessionMaker, service: WeatherService) -> None:
    """Ask for each station's forecast whose last one is hours old or failed, each in a transaction of its own."""
    with reading(sessions) as session:
        due = [station.id for station in store.stations(session) if _is_due(session, station)]
    for station_id in due:
        with transaction(sessions) as session:
            refresh(session, weather.station(session, station_id), service)


def _is_due(session: Session, station: Station) -> bool:
    fetched = station.forecast_fetched_at
    return fetched is None or clock.now(session) - fetched > REFRESH_EVERY or bool(station.forecast_failed_at)


def is_asked(station: Station, service: WeatherService | None) -> bool:
    """Whether a service is asked for this station's forecast."""
    return service is not None and (station.made_up_forecast or not service.made_up)


def switch_made_up(session: Session, station_id: UUID, service: WeatherService | None, *, on: bool) -> Station:
    """Switch made-up forecasts on or off for a station. Off, what was made up is forgotten at once.

    Raises NotFoundError; ConflictError where no service with made-up weather is set up.
    """
    station = weather.station(session, station_id)
    if on and (service is None or not service.made_up):
        raise ConflictError("there is no made-up weather here to switch on", "on")
    station.made_up_forecast = on
    if on and service is not None:
        refresh(session, station, service)
    elif not on and station.forecast_made_up:
        _forget(session, station)
    return station


def _forget(session: Session, station: Station) -> None:
    """Let go of all that was forecast: days that were never measured rested on it."""
    sites = store.sites_of(session, station.id)
    changes.hold(session, [site.id for site in sites])
    store.drop_forecast(session, station.id)
    station.forecast_made_up = False
    station.forecast_fetched_at = station.forecast_failed_at = station.forecast_error = None
    changes.tell(session, *(Changed(site.id, What.WATER) for site in sites))


def standing(session: Session, station: Station | None, made: Series, today: date) -> Standing:
    """What the coming days of a plan's series rest on."""
    if station is None or not np.any(made.basis[max(0, made.index(today)) :] == FORECAST):
        return "none"
    if station.forecast_made_up:
        return "made_up"
    return "stale" if is_stale(session, station) else "fresh"


def _first_day(session: Session, station: Station) -> date:
    """Today where the station's sites are; while it has none, the earliest civil day on earth."""
    sites = store.sites_of(session, station.id)
    if sites:
        return min(clock.today(session, site.timezone) for site in sites)
    return (clock.now(session) - EARLIEST_ZONE).date()


def is_stale(session: Session, station: Station) -> bool:
    """Whether what is kept of the forecast is old, or the last try failed."""
    if station.forecast_fetched_at is None:
        return False
    return station.forecast_failed_at is not None or clock.now(session) - station.forecast_fetched_at > STALE_AFTER
