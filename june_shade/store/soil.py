"""Queries on soil tests."""

from collections.abc import Iterable, Sequence
from datetime import date
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session

from june_shade.store.site_tables import SoilTest


def of_site(session: Session, site_id: UUID) -> Sequence[SoilTest]:
    """All tests of a site, the newest first, withdrawn ones too."""
    query = select(SoilTest).where(SoilTest.site_id == site_id)
    return session.scalars(query.order_by(SoilTest.day.desc(), SoilTest.recorded_at.desc(), SoilTest.id)).all()


def used(session: Session, site_ids: Iterable[UUID], until: date | None = None) -> dict[UUID, list[SoilTest]]:
    """Tests that plans go by, by site, in order of time; until: those of later days left out."""
    wanted = SoilTest.site_id.in_(list(site_ids)), SoilTest.used, SoilTest.withdrawn_at.is_(None)
    query = select(SoilTest).where(*wanted).order_by(SoilTest.day, SoilTest.recorded_at, SoilTest.id)
    found: dict[UUID, list[SoilTest]] = {}
    for row in session.scalars(query if until is None else query.where(SoilTest.day <= until)):
        found.setdefault(row.site_id, []).append(row)
    return found
