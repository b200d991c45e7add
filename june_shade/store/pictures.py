"""Queries on pictures of trees and those under plans."""

from collections.abc import Collection, Sequence
from datetime import datetime
from uuid import UUID

from sqlalchemy import func, or_, select
from sqlalchemy.orm import Session

from june_shade.store.ground_tables import SitePicture
from june_shade.store.picture_tables import TreePicture

FILES_LOCK = 0x70696374757265


def hold(session: Session, *, alone: bool) -> None:
    """Hold the files until the transaction ends: who brings some shares them, who lets some go has them alone."""
    lock = func.pg_advisory_xact_lock if alone else func.pg_advisory_xact_lock_shared
    session.execute(select(lock(FILES_LOCK)))


def of_tree(session: Session, tree_id: UUID) -> Sequence[TreePicture]:
    """A tree's pictures, the newest first."""
    asked = select(TreePicture).where(TreePicture.tree_id == tree_id, TreePicture.removed_at.is_(None))
    return session.scalars(asked.order_by(TreePicture.day.desc(), TreePicture.recorded_at.desc())).all()


def of_entries(session: Session, entry_ids: Collection[UUID]) -> dict[UUID, list[UUID]]:
    """Pictures of rows of the book, in the order in which they came."""
    found: dict[UUID, list[UUID]] = {}
    if entry_ids:
        asked = select(TreePicture.entry_id, TreePicture.id).where(
            TreePicture.entry_id.in_(entry_ids), TreePicture.removed_at.is_(None)
        )
        for entry_id, picture_id in session.execute(asked.order_by(TreePicture.recorded_at, TreePicture.id)):
            if entry_id is not None:
                found.setdefault(entry_id, []).append(picture_id)
    return found


def let_go(session: Session, before: datetime) -> set[str]:
    """Files of pictures that were taken away before then."""
    found = (select(row.sha256).where(row.removed_at < before) for row in (TreePicture, SitePicture))
    return {name for query in found for name in session.scalars(query)}


def needed(session: Session, since: datetime | None) -> set[str]:
    """Files that pictures are shown from. since: or were until not longer ago, None = now only."""
    found: set[str] = set()
    for row in (TreePicture, SitePicture):
        shown = row.removed_at.is_(None)
        asked = shown if since is None else or_(shown, row.removed_at >= since)
        found.update(session.scalars(select(row.sha256).where(asked)))
    return found
