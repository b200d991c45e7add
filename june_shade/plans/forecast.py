"""Fetching the forecast: the last good one is kept and marked stale when the service fails."""

from dataclasses import asdict
from datetime import date, timedelta

from sqlalchemy.orm import Session

from june_shade.core.errors import JuneShadeError
from june_shade.outside.forecast import WeatherService
from june_shade.plans import changes, clock
from june_shade.plans.changes import Changed, What
from june_shade.store import weather as store
from june_shade.store.tables import Station

STALE_AFTER = timedelta(hours=30)
EARLIEST_ZONE = timedelta(hours=12)
"""No civil day begins later than 12 h after it does in UTC."""


def refresh(session: Session, station: Station, service: WeatherService) -> bool:
    """Ask for a new forecast; whether there was one. A failure is noted on the station and nothing is lost."""
    now = clock.now(session)
    try:
        made = service.forecast(station.latitude_deg, station.longitude_deg, _first_day(session, station))
    except JuneShadeError as e:
        station.forecast_failed_at, station.forecast_error = now, e.message
        return False
    rows = [asdict(day) for day in made.days]
    store.save_forecast(session, station.id, made.issued_at, rows)
    station.forecast_fetched_at, station.forecast_failed_at, station.forecast_error = now, None, None
    changes.tell(session, *(Changed(site.id, What.PAGE) for site in store.sites_of(session, station.id)))
    return True


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
