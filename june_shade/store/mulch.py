"""Queries on mulch as laid and measured, and on what lies in the yard."""

from collections.abc import Iterable, Sequence
from datetime import date
from typing import Any, NamedTuple
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session

from june_shade.store.mulch_tables import MulchEntry, StockMove
from june_shade.store.tree_tables import Tree


def entries_of(session: Session, tree_id: UUID) -> Sequence[MulchEntry]:
    """All entries of a tree, the newest first, withdrawn ones too."""
    query = select(MulchEntry).where(MulchEntry.tree_id == tree_id)
    return session.scalars(query.order_by(MulchEntry.day.desc(), MulchEntry.recorded_at.desc(), MulchEntry.id)).all()


def standing(session: Session, tree_ids: Iterable[UUID]) -> dict[UUID, list[MulchEntry]]:
    """Entries of these trees that stand, in order of time, by tree."""
    query = select(MulchEntry).where(MulchEntry.tree_id.in_(list(tree_ids)), MulchEntry.withdrawn_at.is_(None))
    found: dict[UUID, list[MulchEntry]] = {}
    for row in session.scalars(query.order_by(MulchEntry.day, MulchEntry.recorded_at, MulchEntry.id)):
        found.setdefault(row.tree_id, []).append(row)
    return found


def moves_of_job(session: Session, job_id: UUID) -> Sequence[StockMove]:
    """What one job moved in the yard and still stands."""
    query = select(StockMove).where(StockMove.job_id == job_id, StockMove.withdrawn_at.is_(None))
    return session.scalars(query).all()


class DepthOfDay(NamedTuple):
    """Mulch as it was laid or measured on a day; before: the tree's mulch columns as they stood until then."""

    day: date
    depth_m: float
    material: str | None
    before: dict[str, Any]


def depths(session: Session, site_id: UUID) -> dict[UUID, list[DepthOfDay]]:
    """What was laid and measured on the trees of a site, in order of time."""
    query = (
        select(MulchEntry.tree_id, MulchEntry.day, MulchEntry.depth_m, MulchEntry.material, MulchEntry.before)
        .join(Tree, Tree.id == MulchEntry.tree_id)
        .where(Tree.site_id == site_id, MulchEntry.withdrawn_at.is_(None))
        .order_by(MulchEntry.day, MulchEntry.recorded_at, MulchEntry.id)
    )
    found: dict[UUID, list[DepthOfDay]] = {}
    for tree_id, *values in session.execute(query):
        found.setdefault(tree_id, []).append(DepthOfDay(*values))
    return found


def job(session: Session, job_id: UUID) -> Sequence[MulchEntry]:
    """What was laid together."""
    return session.scalars(select(MulchEntry).where(MulchEntry.job_id == job_id)).all()


def moves(session: Session, until: date | None = None) -> Sequence[StockMove]:
    """What came into the yard and left it, in order of time, withdrawn ones left out."""
    query = select(StockMove).where(StockMove.withdrawn_at.is_(None))
    if until is not None:
        query = query.where(StockMove.day <= until)
    return session.scalars(query.order_by(StockMove.day, StockMove.recorded_at, StockMove.id)).all()
