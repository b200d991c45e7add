"""Stepping the demo's day: the station reports what was, the clock moves on, a new forecast is fetched."""

from collections.abc import Sequence
from datetime import timedelta

from sqlalchemy.orm import Session

from june_shade.core.weather.daily import Days
from june_shade.outside.forecast import WeatherDay, WeatherService
from june_shade.plans import clock, forecast, weather_days
from june_shade.store import weather as store


def as_days(rows: Sequence[WeatherDay]) -> Days:
    """A station's reported days as daily weather."""
    names = ("tmin_c", "tmax_c", "rh_percent", "wind_m_s", "radiation_mj_m2", "rain_mm")
    return Days.of([r.day for r in rows], **{n: [getattr(r, n) for r in rows] for n in names})


def next_day(session: Session, service: WeatherService | None) -> None:
    """One day on. Where the service fails the day stays without a measurement, as it would in life."""
    day = clock.pinned_day(session)
    for station in store.stations(session):
        if service is not None:
            try:
                rows = service.observed(station.latitude_deg, station.longitude_deg, day, day)
            except Exception as e:  # the demo goes on without a report, whatever went wrong with it
                station.forecast_error = str(e)
            else:
                weather_days.store_days(session, station, as_days(rows))
    clock.pin(session, day + timedelta(days=1))
    if service is not None:
        for station in store.stations(session):
            forecast.refresh(session, station, service)
