"""Queries on check-ups, on what readings say and on what was answered to it."""

from collections.abc import Iterable, Mapping, Sequence
from datetime import date, datetime
from typing import Any
from uuid import UUID

from sqlalchemy import func, or_, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session, aliased

from june_shade.store.log import STANDING
from june_shade.store.log_tables import LogEntry
from june_shade.store.looking_tables import ThirstAnswer, TreeCheckup, TreeFit
from june_shade.store.tree_tables import Tree


def answers(session: Session, site_id: UUID, tree_ids: Iterable[UUID] | None = None) -> dict[UUID, list[ThirstAnswer]]:
    """Standing answers to what readings say, by tree, in order of time."""
    query = (
        select(ThirstAnswer)
        .join(Tree, Tree.id == ThirstAnswer.tree_id)
        .where(Tree.site_id == site_id, ThirstAnswer.withdrawn_at.is_(None))
        .order_by(ThirstAnswer.day, ThirstAnswer.recorded_at)
    )
    if tree_ids is not None:
        query = query.where(ThirstAnswer.tree_id.in_(list(tree_ids)))
    found: dict[UUID, list[ThirstAnswer]] = {}
    for row in session.scalars(query):
        found.setdefault(row.tree_id, []).append(row)
    return found


def fits(session: Session, tree_ids: Iterable[UUID]) -> dict[UUID, TreeFit]:
    """What the readings of these trees say, by tree."""
    return {row.tree_id: row for row in session.scalars(select(TreeFit).where(TreeFit.tree_id.in_(list(tree_ids))))}


def keep_fits(session: Session, rows: Sequence[Mapping[str, Any]]) -> None:
    """Keep what readings say, in place of what they said."""
    if not rows:
        return
    asked = insert(TreeFit).values([dict(row) for row in rows])
    fresh = {name: asked.excluded[name] for name in rows[0] if name != "tree_id"}
    session.execute(asked.on_conflict_do_update(index_elements=["tree_id"], set_=fresh))


def to_fit(session: Session, site_id: UUID, since: date, least: int) -> list[UUID]:
    """Trees with enough readings since a day, one of which, or an answer, came after they were last gone through."""
    touched = aliased(LogEntry)
    newest = (
        select(func.max(touched.recorded_at))
        .where(touched.tree_id == Tree.id, touched.kind.in_(("reading", "void")))
        .scalar_subquery()
    )
    answered = select(func.max(ThirstAnswer.recorded_at)).where(ThirstAnswer.tree_id == Tree.id).scalar_subquery()
    query = (
        select(Tree.id)
        .join(LogEntry, LogEntry.tree_id == Tree.id)
        .outerjoin(TreeFit, TreeFit.tree_id == Tree.id)
        .where(
            Tree.site_id == site_id, Tree.ended_on.is_(None), LogEntry.kind == "reading", STANDING,
            LogEntry.local_date >= since,
            or_(TreeFit.tree_id.is_(None), TreeFit.fitted_at < newest, TreeFit.fitted_at < answered),
        )
        .group_by(Tree.id)
        .having(func.count(LogEntry.id) >= least)
    )  # fmt: skip
    return list(session.scalars(query))


def checkups(session: Session, tree_id: UUID) -> list[TreeCheckup]:
    """A tree's check-ups, the newest first, withdrawn ones too."""
    query = select(TreeCheckup).where(TreeCheckup.tree_id == tree_id).order_by(TreeCheckup.happened_at.desc())
    return list(session.scalars(query))


def standing_checkups(
    session: Session, site_id: UUID, tree_ids: Iterable[UUID] | None = None
) -> dict[UUID, list[TreeCheckup]]:
    """Standing check-ups of a site by tree, the newest first."""
    query = (
        select(TreeCheckup)
        .join(Tree, Tree.id == TreeCheckup.tree_id)
        .where(Tree.site_id == site_id, TreeCheckup.withdrawn_at.is_(None))
        .order_by(TreeCheckup.happened_at.desc())
    )
    if tree_ids is not None:
        query = query.where(TreeCheckup.tree_id.in_(list(tree_ids)))
    found: dict[UUID, list[TreeCheckup]] = {}
    for row in session.scalars(query):
        found.setdefault(row.tree_id, []).append(row)
    return found


def holds(session: Session, site_id: UUID, today: date) -> dict[UUID, date]:
    """Trees whose water is held by their newest check-up, and until when (that day left out)."""
    found = standing_checkups(session, site_id)
    newest = {tree_id: rows[0].hold_until for tree_id, rows in found.items()}
    return {tree_id: until for tree_id, until in newest.items() if until is not None and until > today}


def last_read(session: Session, tree_ids: Iterable[UUID]) -> dict[UUID, list[date]]:
    """Days on which these trees were read, in order of time."""
    query = (
        select(LogEntry.tree_id, LogEntry.local_date)
        .where(LogEntry.tree_id.in_(list(tree_ids)), LogEntry.kind == "reading", STANDING)
        .order_by(LogEntry.local_date)
    )
    found: dict[UUID, list[date]] = {}
    for tree_id, day in session.execute(query):
        found.setdefault(tree_id, []).append(day)
    return found


def changed_since(session: Session, tree_id: UUID) -> datetime | None:
    """When anything of a tree's readings was last told."""
    return session.scalar(
        select(func.max(LogEntry.recorded_at)).where(
            LogEntry.tree_id == tree_id, LogEntry.kind.in_(("reading", "void"))
        )
    )
