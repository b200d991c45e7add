"""Sites and stations made, changed and closed; stops put in order. What is impossible is refused."""

from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import Any
from uuid import UUID
from zoneinfo import ZoneInfo, available_timezones

from june_shade.core.errors import ConflictError, InputError, NotFoundError
from june_shade.core.soil.textures import soil
from june_shade.core.units import told
from june_shade.core.weather.place import distance_km
from june_shade.plans import changes, clock, register
from june_shade.plans.changes import Changed, What
from june_shade.store import trees as store
from june_shade.store import weather as weather_store
from june_shade.store.crew_tables import Crew
from june_shade.store.session import Session
from june_shade.store.site_tables import Site
from june_shade.store.weather_tables import Station


def close_site(session: Session, site_id: UUID, *, closed: bool) -> Site:
    """Take a site out of rounds and lists, or back into them; its trees and its record stay as they are."""
    changes.hold(session, [site_id])
    row = register.site(session, site_id)
    if (row.closed_on is not None) is not closed:
        row.closed_on = clock.today(session, row.timezone) if closed else None
        changes.tell(session, Changed(row.id, What.PAGE))
        session.refresh(row)
    return row


def save_site(session: Session, values: dict[str, Any], site_id: UUID | None = None) -> Site:
    """Make or change a site; what was computed of its trees is forgotten."""
    values = values | {"working_days": sorted(set(values.get("working_days") or range(7)))}
    if values["timezone"] not in available_timezones():
        raise InputError(f"{values['timezone']!r} is no IANA time zone, like America/Denver", "timezone")
    soil(values["texture"])
    station_id = values.get("station_id")
    if station_id is not None and session.get(Station, station_id) is None:
        raise InputError("there is no such weather station", "station_id")
    if values.get("crew_id") is not None and session.get(Crew, values["crew_id"]) is None:
        raise InputError("there is no such crew", "crew_id")
    _check_place(session, values)
    register.free(session, Site, "name", values["name"], site_id)
    row = Site()
    if site_id:
        changes.hold(session, [site_id])
        row = register.site(session, site_id)
        register.fresh(row, values)
    values.pop("version", None)
    different = [name for name, value in values.items() if getattr(row, name) != value]
    register.put_values(row, values)
    session.add(row)
    session.flush()
    if site_id and different:
        changes.tell(session, changes.of_site(site_id, different))
    session.refresh(row)
    return row


FARTHEST_KM = 500.0
"""Farther away no station tells the weather of a site."""
MOST_HOURS_OFF = 3.5
"""A place's sun and its clock part by less than this anywhere people live, summer time left out."""


def _check_place(session: Session, values: dict[str, Any]) -> None:
    """Refuse a site whose longitude does not fit its clock, or that lies across the equator from its station."""
    january = datetime(2026, 1, 15, 12, tzinfo=ZoneInfo(values["timezone"]))
    july = january.replace(month=7)
    offset = min((moment.utcoffset() or timedelta(0)).total_seconds() for moment in (january, july)) / 3600
    off = abs(values["longitude_deg"] / 15 - offset)
    if min(off, 24 - off) > MOST_HOURS_OFF:
        raise InputError(
            f"{values['longitude_deg']:g} does not fit the time zone {values['timezone']}: west of Greenwich is "
            "negative, east positive",
            "longitude_deg",
        )
    station = session.get(Station, values["station_id"]) if values.get("station_id") else None
    if station and station.latitude_deg * values["latitude_deg"] < 0:
        raise InputError(
            "the site and its station lie on two sides of the equator: the sign of one latitude is wrong (north is "
            "positive)",
            "latitude_deg",
        )
    if station:
        here = (values["latitude_deg"], values["longitude_deg"])
        away = distance_km(station.latitude_deg, station.longitude_deg, *here)
        if away > FARTHEST_KM:
            raise InputError(
                f"lies {told(away, 'km')} from its weather station {station.name}: the sign of one longitude is wrong "
                "(east is positive), or it is another place's station",
                "longitude_deg",
            )


def save_station(session: Session, values: dict[str, Any], station_id: UUID | None = None) -> Station:
    """Make or change a station; what was computed from its days is forgotten."""
    values = dict(values)
    register.free(session, Station, "name", values["name"], station_id)
    row = Station(column_mapping={})
    reading: Sequence[UUID] = ()
    if station_id:
        found = session.get(Station, station_id)
        if found is None:
            raise NotFoundError("there is no such weather station", "station_id")
        row = found
        register.fresh(row, values)
        reading = [one.id for one in weather_store.sites_of(session, station_id)]
        changes.hold(session, reading)
    values.pop("version", None)
    register.put_values(row, values)
    session.add(row)
    session.flush()
    changes.tell(session, *(Changed(one, What.WATER | What.DRIP) for one in reading))
    return row


def order_stops(session: Session, site_id: UUID, stop_ids: Sequence[UUID]) -> Site:
    """Put a site's stops into the lead's order. stop_ids: all of them, each once."""
    row = register.site(session, site_id)
    changes.hold(session, [site_id])
    stops = {stop.id: stop for stop in store.stops(session, [site_id])}
    if sorted(stop_ids, key=str) != sorted(stops, key=str):
        raise ConflictError("the stops of this site have changed: load it again", "stops")
    for position, stop_id in enumerate(stop_ids):
        stops[stop_id].position = position
    changes.tell(session, Changed(site_id, What.PAGE))
    return row
