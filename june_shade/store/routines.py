"""Queries on the routines that trees follow."""

from collections.abc import Iterable
from datetime import date
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.dialects.postgresql import distinct_on
from sqlalchemy.orm import Session

from june_shade.store.routine_tables import RoutineChoice
from june_shade.store.tree_tables import Tree


def in_force(
    session: Session, site_id: UUID, day: date, tree_ids: Iterable[UUID] | None = None
) -> dict[UUID, RoutineChoice]:
    """The newest standing choice up to a day of each tree that has one; "balance" among them."""
    query = (
        select(RoutineChoice)
        .join(Tree, Tree.id == RoutineChoice.tree_id)
        .where(Tree.site_id == site_id, RoutineChoice.withdrawn_at.is_(None), RoutineChoice.since <= day)
        .ext(distinct_on(RoutineChoice.tree_id))
        .order_by(RoutineChoice.tree_id, RoutineChoice.since.desc(), RoutineChoice.recorded_at.desc())
    )
    if tree_ids is not None:
        query = query.where(RoutineChoice.tree_id.in_(list(tree_ids)))
    return {row.tree_id: row for row in session.scalars(query)}


def of_choice(session: Session, choice_id: UUID) -> list[RoutineChoice]:
    """What was chosen at once, tree by tree, withdrawn or not."""
    query = select(RoutineChoice).where(RoutineChoice.choice_id == choice_id).order_by(RoutineChoice.id)
    return list(session.scalars(query))
