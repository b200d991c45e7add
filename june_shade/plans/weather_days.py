"""Measured days and gauge readings written, and what rests on them told."""

from datetime import date, timedelta

import numpy as np
from sqlalchemy.orm import Session

from june_shade.core.errors import InputError
from june_shade.core.weather import daily
from june_shade.plans import changes, clock
from june_shade.plans.changes import Changed, What
from june_shade.store import trees as tree_store
from june_shade.store import weather as store
from june_shade.store.tables import Site, Station


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


def store_days(session: Session, where: Station, days: daily.Days) -> None:
    """Store measured days and drop the cached states that rest on them.

    Filled days lean on the mean of their season, which every new day moves: states drop from the first gap on.
    """
    dates = [d.item() for d in days.dates]
    sites = store.sites_of(session, where.id)
    changes.hold(session, [site.id for site in sites])
    since = min(dates)
    openings = [d for d in (tree_store.earliest_opening(session, s.id) for s in sites) if d]
    if openings:
        have = {row.day for row in store.station_days(session, where.id, first=min(openings))}
        day = min(openings)
        while day in have:
            day += timedelta(days=1)
        since = min(since, day)
    store.save_days(session, where.id, _rows(days))
    changes.tell(session, *(Changed(site.id, What.WATER, since=since) for site in sites))


def _rows(days: daily.Days) -> list[dict]:
    columns = {q: getattr(days, q) for q in store.QUANTITIES}
    return [
        {"day": day.item(), **{q: None if np.isnan(v[i]) else float(v[i]) for q, v in columns.items()}}
        for i, day in enumerate(days.dates)
    ]
