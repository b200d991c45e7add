"""Queries on organisations."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session

from june_shade.store.organisation_tables import Organisation


def ids(session: Session) -> Sequence[UUID]:
    """Every organisation that a session sees."""
    return session.scalars(select(Organisation.id).order_by(Organisation.id)).all()
