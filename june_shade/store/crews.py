"""Queries on crews, their days and lent sites."""

from collections.abc import Sequence
from datetime import date
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session

from june_shade.store.crew_tables import Crew, CrewDay, SiteLoan


def crews(session: Session) -> Sequence[Crew]:
    """All crews that there are, by name."""
    return session.scalars(select(Crew).where(Crew.closed_on.is_(None)).order_by(Crew.name)).all()


def days(session: Session, first: date, last: date) -> dict[tuple[UUID, date], CrewDay]:
    """What days from first to last take from crews."""
    query = select(CrewDay).where(CrewDay.day >= first, CrewDay.day <= last)
    return {(row.crew_id, row.day): row for row in session.scalars(query)}


def loans(session: Session, first: date, last: date) -> dict[tuple[UUID, date], UUID]:
    """The crew that a site is lent to on days from first to last."""
    query = select(SiteLoan).where(SiteLoan.day >= first, SiteLoan.day <= last)
    return {(row.site_id, row.day): row.crew_id for row in session.scalars(query)}
