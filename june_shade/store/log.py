"""Queries on the append-only log."""

from collections.abc import Iterable, Sequence
from datetime import date, datetime, time
from typing import NamedTuple
from uuid import UUID

from sqlalchemy import func, select
from sqlalchemy.orm import Session, aliased

from june_shade.store.log_tables import LogEntry
from june_shade.store.session import ENDED_TOO
from june_shade.store.tree_tables import Tree

_LATER = aliased(LogEntry)
STANDING = ~select(_LATER.id).where(_LATER.voids == LogEntry.id).exists()
"""Leaves out entries that were voided."""


class Poured(NamedTuple):
    """One watering as it was logged."""

    tree_id: UUID
    local_date: date
    local_time: time
    volume_l: float


def water(
    session: Session, site_id: UUID, first: date, tree_ids: Sequence[UUID] | None = None
) -> list[Poured]:  # fmt: skip
    """Standing waterings from a date on, in order of time."""
    query = (
        select(LogEntry.tree_id, LogEntry.local_date, LogEntry.local_time, LogEntry.volume_l)
        .join(Tree, Tree.id == LogEntry.tree_id)
        .where(Tree.site_id == site_id, LogEntry.kind == "water", LogEntry.local_date >= first, STANDING)
        .order_by(LogEntry.local_date, LogEntry.local_time, LogEntry.id)
    )
    if tree_ids is not None:
        query = query.where(LogEntry.tree_id.in_(list(tree_ids)))
    return [Poured._make(row) for row in session.execute(query)]


class Read(NamedTuple):
    """What was felt at a tree, as it was logged."""

    tree_id: UUID
    local_date: date
    local_time: time
    how: str
    ball_feel: str | None
    ring_feel: str | None
    ball_theta: float | None
    ring_theta: float | None


def readings(
    session: Session, site_id: UUID, first: date | None = None, tree_ids: Sequence[UUID] | None = None
) -> list[Read]:
    """Standing readings from a date on, in order of time."""
    query = (
        select(
            LogEntry.tree_id, LogEntry.local_date, LogEntry.local_time, LogEntry.how, LogEntry.ball_feel,
            LogEntry.ring_feel, LogEntry.ball_theta, LogEntry.ring_theta,
        )
        .join(Tree, Tree.id == LogEntry.tree_id)
        .where(Tree.site_id == site_id, LogEntry.kind == "reading", STANDING)
        .order_by(LogEntry.local_date, LogEntry.local_time, LogEntry.id)
    )  # fmt: skip
    if first is not None:
        query = query.where(LogEntry.local_date >= first)
    if tree_ids is not None:
        query = query.where(LogEntry.tree_id.in_(list(tree_ids)))
    return [Read._make(row) for row in session.execute(query)]


def waterings(session: Session, tree_ids: Iterable[UUID], first: datetime, last: datetime) -> Sequence[LogEntry]:
    """Standing waterings of some trees between two moments."""
    query = select(LogEntry).where(
        LogEntry.tree_id.in_(list(tree_ids)),
        LogEntry.kind == "water",
        LogEntry.happened_at.between(first, last),
        STANDING,
    )
    return session.scalars(query).all()


def poured_by_day(
    session: Session, site_ids: Iterable[UUID], first: date, last: date
) -> dict[tuple[UUID, date], float]:
    """Litres that were logged at each of these sites on each day from first to last [L]."""
    query = (
        select(Tree.site_id, LogEntry.local_date, func.sum(LogEntry.volume_l))
        .join(Tree, Tree.id == LogEntry.tree_id)
        .where(Tree.site_id.in_(list(site_ids)), LogEntry.kind == "water", STANDING)
        .where(LogEntry.local_date.between(first, last))
        .group_by(Tree.site_id, LogEntry.local_date)
    )
    return {(site_id, day): float(litres or 0.0) for site_id, day, litres in session.execute(query)}


def last_watered(session: Session, tree_ids: Iterable[UUID], before: date) -> dict[UUID, date]:
    """The last day before another on which these trees had water, for those that had some."""
    query = (
        select(LogEntry.tree_id, func.max(LogEntry.local_date))
        .where(LogEntry.tree_id.in_(list(tree_ids)), LogEntry.kind == "water", LogEntry.local_date < before, STANDING)
        .group_by(LogEntry.tree_id)
    )
    return dict(session.execute(query).all())


def readings_near(session: Session, tree_id: UUID, first: datetime, last: datetime) -> list[LogEntry]:
    """Standing readings of a tree between two moments."""
    query = select(LogEntry).where(
        LogEntry.tree_id == tree_id, LogEntry.kind == "reading", LogEntry.happened_at.between(first, last), STANDING
    )
    return list(session.scalars(query))


def bud_breaks(session: Session, site_id: UUID) -> dict[UUID, date]:
    """The first standing note of broken buds for each tree of a site."""
    query = (
        select(LogEntry.tree_id, func.min(LogEntry.local_date))
        .join(Tree, Tree.id == LogEntry.tree_id)
        .where(Tree.site_id == site_id, LogEntry.seen == "bud_break", STANDING)
        .group_by(LogEntry.tree_id)
    )
    return dict(session.execute(query).all())


def of_tree(session: Session, tree_id: UUID, limit: int = 200) -> Sequence[LogEntry]:
    """All entries of a tree, newest first, voids and voided ones too."""
    query = (
        select(LogEntry)
        .where(LogEntry.tree_id == tree_id)
        .order_by(LogEntry.happened_at.desc(), LogEntry.recorded_at.desc())
        .limit(limit)
    )
    return session.scalars(query).all()


def on_day(session: Session, site_id: UUID, day: date) -> Sequence[LogEntry]:
    """Standing entries of a site on a local date, in order of time."""
    query = (
        select(LogEntry)
        .join(Tree, Tree.id == LogEntry.tree_id)
        .where(Tree.site_id == site_id, LogEntry.local_date == day, LogEntry.kind != "void", STANDING)
        .order_by(LogEntry.happened_at)
    )
    return session.scalars(query).all()


def waterings_between(session: Session, site_ids: Iterable[UUID], first: date, last: date) -> Sequence[LogEntry]:
    """Standing waterings of these sites on local dates from first to last, in order of time, also at trees that died or
    went since."""
    query = (
        select(LogEntry)
        .join(Tree, Tree.id == LogEntry.tree_id)
        .where(Tree.site_id.in_(list(site_ids)), LogEntry.kind == "water", STANDING)
        .where(LogEntry.local_date.between(first, last))
        .order_by(LogEntry.happened_at)
        .execution_options(**{ENDED_TOO: True})
    )
    return session.scalars(query).all()


def by_ids(session: Session, ids: Iterable[UUID]) -> dict[UUID, LogEntry]:
    """Those of these entries that are there, by id."""
    return {row.id: row for row in session.scalars(select(LogEntry).where(LogEntry.id.in_(list(ids))))}


def void_of(session: Session, entry_id: UUID) -> LogEntry | None:
    """The entry that voids this one, if any."""
    return session.scalars(select(LogEntry).where(LogEntry.voids == entry_id)).first()
