"""Queries on how trees were watered before."""

from collections.abc import Mapping
from datetime import date
from typing import Any
from uuid import UUID

from sqlalchemy import delete, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from june_shade.store.tree_tables import FormerWay


def keep(session: Session, tree_id: UUID, until: date, values: Mapping[str, Any]) -> None:
    """Keep how a tree was watered until a day; what is kept of that day already was so before, and stays."""
    statement = insert(FormerWay).values(tree_id=tree_id, until=until, **values)
    session.execute(statement.on_conflict_do_nothing(index_elements=["tree_id", "until"]))


def keep_many(session: Session, until: date, values: Mapping[UUID, Mapping[str, Any] | None]) -> None:
    """Keep how each of these trees was watered until a day, None where nothing is kept, as `forget` and `keep` do."""
    ids = list(values)
    session.execute(delete(FormerWay).where(FormerWay.tree_id.in_(ids), FormerWay.until > until))
    rows = [{"tree_id": tree_id, "until": until, **way} for tree_id, way in values.items() if way is not None]
    if rows:
        session.execute(insert(FormerWay).on_conflict_do_nothing(index_elements=["tree_id", "until"]), rows)


def of_day(session: Session, tree_id: UUID, until: date) -> FormerWay | None:
    """How a tree was watered until just this day."""
    query = select(FormerWay).where(FormerWay.tree_id == tree_id, FormerWay.until == until)
    return session.scalars(query.execution_options(populate_existing=True)).first()


def take_back(session: Session, former: FormerWay) -> None:
    """Forget this one: it holds again."""
    session.delete(former)
    session.flush()


def forget(session: Session, tree_id: UUID, after: date | None = None) -> None:
    """Forget how a tree was watered before: all of it, or what held until a day after this one."""
    statement = delete(FormerWay).where(FormerWay.tree_id == tree_id)
    session.execute(statement if after is None else statement.where(FormerWay.until > after))
