"""Crews made, changed and closed; what a day takes from them; sites lent for a day."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any
from uuid import UUID

from june_shade.core.choosing.offers import PLAN_DAYS
from june_shade.core.errors import InputError, NotFoundError
from june_shade.plans import changes, clock, register
from june_shade.plans.changes import Changed, What
from june_shade.store import crews as store
from june_shade.store import trees as tree_store
from june_shade.store.crew_tables import Crew, CrewDay, SiteLoan
from june_shade.store.session import Session
from june_shade.store.site_tables import Site, Stop


def every(session: Session) -> Sequence[Crew]:
    """All crews by name."""
    return store.crews(session)


def crew(session: Session, crew_id: UUID) -> Crew:
    """A crew. Raises NotFoundError."""
    row = session.get(Crew, crew_id)
    if row is None:
        raise NotFoundError("there is no such crew", "crew_id")
    return row


def sites_of(session: Session, crew_id: UUID) -> list[Site]:
    """Sites that belong to a crew."""
    return [site for site in tree_store.sites(session) if site.crew_id == crew_id]


def put(session: Session, crew_id: UUID, values: dict[str, Any]) -> Crew:
    """Make a crew under an id that the client chose, or change it."""
    row = session.get(Crew, crew_id) or Crew(id=crew_id)
    values = values | {"working_days": sorted(set(values["working_days"]))}
    register.free(session, Crew, "name", values["name"], crew_id)
    if row.version is not None:
        _hold(session, crew_id)
        register.fresh(row, values)
    values.pop("version", None)
    register.put_values(row, values)
    session.add(row)
    session.flush()
    _tell(session, crew_id)
    session.refresh(row)
    return row


def close(session: Session, crew_id: UUID, *, closed: bool) -> Crew:
    """There is no such crew any more, or there is again; its sites stand for their own meanwhile."""
    row = crew(session, crew_id)
    _hold(session, crew_id)
    row.closed_on = clock.now(session).date() if closed else None
    session.flush()
    _tell(session, crew_id)
    session.refresh(row)
    return row


def put_day(session: Session, crew_id: UUID, day: date, values: dict[str, Any]) -> CrewDay:
    """What a day takes from a crew, in place of what was said of it before."""
    crew(session, crew_id)
    starts, ends = values.get("starts_min"), values.get("ends_min")
    if starts is not None and ends is not None and ends <= starts:
        raise InputError("must be after the start", "ends_min")
    _hold(session, crew_id)
    row = session.get(CrewDay, (crew_id, day)) or CrewDay(crew_id=crew_id, day=day)
    register.put_values(row, values)
    session.add(row)
    session.flush()
    _tell(session, crew_id)
    return row


def day_of(session: Session, crew_id: UUID, day: date) -> CrewDay:
    """What a day takes from a crew; nothing where nobody said so."""
    crew(session, crew_id)
    found = store.days(session, day, day).get((crew_id, day))
    return found or CrewDay(crew_id=crew_id, day=day, people_less=0, pump_broken=False)


def lend(session: Session, site_id: UUID, day: date, crew_id: UUID | None) -> None:
    """Have another crew water a site on a day. crew_id: None takes that back."""
    site = register.site(session, site_id)
    if crew_id is not None:
        crew(session, crew_id)
    changes.hold(session, [site.id])
    row = session.get(SiteLoan, (site_id, day))
    if row is not None:
        session.delete(row)
        session.flush()
    if crew_id is not None:
        session.add(SiteLoan(site_id=site_id, day=day, crew_id=crew_id))
        session.flush()
    changes.tell(session, Changed(site_id, What.PAGE | What.LIMITS))


@dataclass(frozen=True, slots=True)
class Loan:
    """A site that another crew waters on a day."""

    site_id: UUID
    site: str
    day: date
    crew_id: UUID
    crew: str


def loans(session: Session) -> list[Loan]:
    """Loans from today on, in order of days."""
    names = {row.id: row.name for row in store.crews(session)}
    found = []
    for site in tree_store.sites(session):
        today = clock.today(session, site.timezone)
        for (site_id, day), crew_id in store.loans(session, today, today + timedelta(days=PLAN_DAYS - 1)).items():
            if site_id == site.id and crew_id in names:
                found.append(Loan(site.id, site.name, day, crew_id, names[crew_id]))
    return sorted(found, key=lambda one: (one.day, one.site))


def put_stop(session: Session, stop_id: UUID, values: dict[str, Any]) -> Stop:
    """What is known of a stop: minutes to set up and on the way there, where it is."""
    row = session.get(Stop, stop_id)
    if row is None:
        raise NotFoundError("there is no such stop", "stop_id")
    if (values["latitude_deg"] is None) != (values["longitude_deg"] is None):
        raise InputError("needs latitude and longitude, or neither", "longitude_deg")
    changes.hold(session, [row.site_id])
    register.put_values(row, values)
    session.flush()
    changes.tell(session, Changed(row.site_id, What.PAGE | What.LIMITS))
    return row


def _hold(session: Session, crew_id: UUID) -> None:
    changes.hold(session, [site.id for site in sites_of(session, crew_id)])


def _tell(session: Session, crew_id: UUID) -> None:
    changes.tell(session, *(Changed(site.id, What.PAGE | What.LIMITS) for site in sites_of(session, crew_id)))
