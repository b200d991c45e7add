"""Measured days and gauge readings written, and what rests on them told."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any
from uuid import UUID

import numpy as np

from june_shade.core.errors import InputError
from june_shade.core.weather import admit, daily
from june_shade.plans import changes, clock, weather
from june_shade.plans.changes import Changed, What
from june_shade.store import imports as import_store
from june_shade.store import trees as tree_store
from june_shade.store import weather as store
from june_shade.store.session import Session
from june_shade.store.site_tables import Site
from june_shade.store.weather_tables import Station


@dataclass(frozen=True, slots=True)
class DayOfRain:
    """Rain of a day [mm] by a site's own gauge and by its station, None where one has no reading."""

    day: date
    gauge_mm: float | None
    station_mm: float | None


def gauge_and_station(session: Session, site: Site, count: int) -> list[DayOfRain]:
    """The last so many days: the site's own rain gauge beside its station, the newest first."""
    today = clock.today(session, site.timezone)
    first = today - timedelta(days=count - 1)
    own = {row.day: row.rain_mm for row in store.gauge_days(session, site.id, first)}
    days = store.station_days(session, site.station_id, first=first) if site.station_id else []
    theirs = {row.day: row.rain_mm for row in days}
    shown = [today - timedelta(days=back) for back in range(count)]
    return [DayOfRain(day, own.get(day), theirs.get(day)) for day in shown]


def save_gauge(session: Session, site: Site, readings: dict[date, float | None]) -> None:
    """Write readings of a site's own gauge, None to take one away; plans from the first of these days are made anew."""
    today = clock.today(session, site.timezone)
    for day in readings:
        if day > today:
            raise InputError(f"{day} is still to come (today is {today})", "day")
    if not readings:
        return
    changes.hold(session, [site.id])
    store.save_gauge(session, site.id, readings)
    changes.tell(session, Changed(site.id, What.WATER, since=min(readings)))


def store_days(session: Session, where: Station, days: daily.Days, import_id: UUID | None = None) -> None:
    """Store measured days and drop the cached states that rest on them. import_id: what brought them, to undo it by."""
    dates = [d.item() for d in days.dates]
    admit.measured_days(dates, clock.today(session, weather.zone_of(session, where)))
    sites = _held(session, where)
    since = min(min(dates), _first_gap(session, where, sites) or min(dates))
    if import_id is not None:
        import_store.remember_days(session, where.id, import_id, dates)
    store.save_days(session, where.id, _rows(days), import_id)
    changes.tell(session, *(Changed(site.id, What.WATER, since=since) for site in sites))


def take_out(session: Session, where: Station, import_id: UUID) -> None:
    """Give a station back what it had before an import; a day that a later one has written stays that one's."""
    sites = _held(session, where)
    gap = _first_gap(session, where, sites)
    first = import_store.take_out_days(session, where.id, import_id)
    if first is not None:
        since = min(first, gap or first)
        changes.tell(session, *(Changed(site.id, What.WATER, since=since) for site in sites))


def _held(session: Session, where: Station) -> Sequence[Site]:
    """The sites that read a station, theirs and its days held until the transaction ends."""
    sites = store.sites_of(session, where.id)
    changes.hold(session, [site.id for site in sites])
    store.lock_station(session, where.id)
    return sites


def _first_gap(session: Session, where: Station, sites: Sequence[Site]) -> date | None:
    """The first day since a tree's record opened that the station has not: filled days lean on the mean of their
    season, which every new day moves. None where no record is open."""
    openings = [d for d in (tree_store.earliest_opening(session, s.id) for s in sites) if d]
    if not openings:
        return None
    have = {row.day for row in store.station_days(session, where.id, first=min(openings))}
    day = min(openings)
    while day in have:
        day += timedelta(days=1)
    return day


def _rows(days: daily.Days) -> list[dict[str, Any]]:
    columns = {q: getattr(days, q) for q in store.QUANTITIES}
    return [
        {"day": day.item(), **{q: None if np.isnan(v[i]) else float(v[i]) for q, v in columns.items()}}
        for i, day in enumerate(days.dates)
    ]
