"""Queries on check-ups, on what readings say and on what was answered to it."""

from collections.abc import Iterable, Mapping, Sequence
from datetime import date
from typing import Any
from uuid import UUID

from sqlalchemy import and_, delete, func, or_, select
from sqlalchemy.dialects.postgresql import distinct_on, insert
from sqlalchemy.orm import Session, aliased

from june_shade.store.log import STANDING
from june_shade.store.log_tables import LogEntry
from june_shade.store.looking_tables import OwnAct, ThirstAnswer, TreeCheckup, TreeFit
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


def drop_fits(session: Session, tree_ids: Iterable[UUID]) -> None:
    """Forget what readings said of trees that have none any more."""
    session.execute(delete(TreeFit).where(TreeFit.tree_id.in_(list(tree_ids))))


def to_fit(session: Session, site_id: UUID, since: date, least: int) -> list[UUID]:
    """Trees read, or answered for, since they were last gone through: those with enough readings since a day, and those
    that had enough before."""
    touched = aliased(LogEntry)
    newest = (
        select(func.max(touched.recorded_at))
        .where(touched.tree_id == Tree.id, touched.kind.in_(("reading", "void")))
        .scalar_subquery()
    )
    enough = (
        select(LogEntry.tree_id)
        .where(LogEntry.kind == "reading", STANDING, LogEntry.local_date >= since)
        .group_by(LogEntry.tree_id)
        .having(func.count(LogEntry.id) >= least)
    )
    answered = select(func.max(ThirstAnswer.recorded_at)).where(ThirstAnswer.tree_id == Tree.id).scalar_subquery()
    query = (
        select(Tree.id)
        .outerjoin(TreeFit, TreeFit.tree_id == Tree.id)
        .where(
            Tree.site_id == site_id, Tree.ended_on.is_(None),
            or_(
                and_(TreeFit.tree_id.is_(None), Tree.id.in_(enough)), TreeFit.fitted_at < newest,
                TreeFit.fitted_at < answered,
            ),
        )
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
    newest = (
        select(TreeCheckup.tree_id, TreeCheckup.hold_until)
        .join(Tree, Tree.id == TreeCheckup.tree_id)
        .where(Tree.site_id == site_id, TreeCheckup.withdrawn_at.is_(None))
        .ext(distinct_on(TreeCheckup.tree_id))
        .order_by(TreeCheckup.tree_id, TreeCheckup.happened_at.desc())
        .subquery()
    )
    return dict(session.execute(select(newest).where(newest.c.hold_until > today)).all())


def own_acts(session: Session, tree_ids: Iterable[UUID]) -> dict[UUID, list[OwnAct]]:
    """Standing acts on the way to stand on their own, by tree, in order of time."""
    query = (
        select(OwnAct)
        .where(OwnAct.tree_id.in_(list(tree_ids)), OwnAct.withdrawn_at.is_(None))
        .order_by(OwnAct.day, OwnAct.recorded_at)
    )
    found: dict[UUID, list[OwnAct]] = {}
    for row in session.scalars(query):
        found.setdefault(row.tree_id, []).append(row)
    return found


def own_of_site(session: Session, site_id: UUID) -> dict[UUID, list[OwnAct]]:
    """The same of all trees of a site."""
    mine = select(OwnAct.tree_id).join(Tree, Tree.id == OwnAct.tree_id).where(Tree.site_id == site_id).distinct()
    return own_acts(session, session.scalars(mine).all())


def dry_tests(session: Session, site_id: UUID, today: date) -> dict[UUID, date]:
    """Trees that are left dry for a test, and until when (that day left out)."""
    query = (
        select(OwnAct.tree_id, func.max(OwnAct.hold_until))
        .join(Tree, Tree.id == OwnAct.tree_id)
        .where(Tree.site_id == site_id, OwnAct.withdrawn_at.is_(None), OwnAct.hold_until > today)
        .group_by(OwnAct.tree_id)
    )
    return {tree_id: until for tree_id, until in session.execute(query) if until is not None}


def asked_for_water(session: Session, site_id: UUID, today: date) -> set[UUID]:
    """Trees whose newest check-up is of today and says to water them."""
    newest = (
        select(TreeCheckup.tree_id, TreeCheckup.day, TreeCheckup.water_act)
        .join(Tree, Tree.id == TreeCheckup.tree_id)
        .where(Tree.site_id == site_id, TreeCheckup.withdrawn_at.is_(None))
        .ext(distinct_on(TreeCheckup.tree_id))
        .order_by(TreeCheckup.tree_id, TreeCheckup.happened_at.desc())
        .subquery()
    )
    wanted = newest.c.day == today, newest.c.water_act.in_(("water_now", "water_on_ball"))
    return set(session.scalars(select(newest.c.tree_id).where(*wanted)))


def last_read_on(session: Session, site_id: UUID) -> dict[UUID, date]:
    """When each tree of a site was last read, by tree."""
    query = (
        select(LogEntry.tree_id, func.max(LogEntry.local_date))
        .join(Tree, Tree.id == LogEntry.tree_id)
        .where(Tree.site_id == site_id, LogEntry.kind == "reading", STANDING)
        .group_by(LogEntry.tree_id)
    )
    return dict(session.execute(query).all())


def days_read(session: Session, tree_ids: Iterable[UUID]) -> dict[UUID, list[date]]:
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
