"""Queries on soil tests."""

from collections.abc import Sequence
from datetime import date
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session

from june_shade.store.tables import SoilTest


def of_site(session: Session, site_id: UUID) -> Sequence[SoilTest]:
    """All tests of a site, the newest first, withdrawn ones too."""
    query = select(SoilTest).where(SoilTest.site_id == site_id)
    return session.scalars(query.order_by(SoilTest.day.desc(), SoilTest.recorded_at.desc(), SoilTest.id)).all()


def used(session: Session, site_id: UUID, until: date | None = None) -> Sequence[SoilTest]:
    """Tests of a site that plans go by, in order of time; until: those of later days left out."""
    query = select(SoilTest).where(SoilTest.site_id == site_id, SoilTest.used, SoilTest.withdrawn_at.is_(None))
    if until is not None:
        query = query.where(SoilTest.day <= until)
    return session.scalars(query.order_by(SoilTest.day, SoilTest.recorded_at, SoilTest.id)).all()
