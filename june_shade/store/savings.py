"""Queries on what would save water: tasks made of it, prices of parts, trees at which one was done."""

from collections.abc import Mapping, Sequence
from datetime import date
from uuid import UUID

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from june_shade.store.care_tables import CareAct
from june_shade.store.saving_tables import PartPrice, SavingTask
from june_shade.store.tree_tables import Tree


def of_site(session: Session, site_id: UUID) -> dict[UUID, list[SavingTask]]:
    """Tasks of a site's trees in the order they were made, by tree."""
    query = (
        select(SavingTask)
        .join(Tree, Tree.id == SavingTask.tree_id)
        .where(Tree.site_id == site_id)
        .order_by(SavingTask.made_at, SavingTask.id)
    )
    found: dict[UUID, list[SavingTask]] = {}
    for row in session.scalars(query):
        found.setdefault(row.tree_id, []).append(row)
    return found


def known(session: Session, ids: Sequence[UUID]) -> dict[UUID, SavingTask]:
    """Tasks by id."""
    return {row.id: row for row in session.scalars(select(SavingTask).where(SavingTask.id.in_(ids)))}


def of_key(session: Session, tree_id: UUID, measure: str, made_on: date) -> SavingTask | None:
    """The task of a measure that was made at a tree on a day."""
    query = select(SavingTask).where(
        SavingTask.tree_id == tree_id, SavingTask.measure == measure, SavingTask.made_on == made_on
    )
    return session.scalars(query.order_by(SavingTask.made_at.desc()).limit(1)).first()


def done_on(session: Session, site_id: UUID) -> dict[tuple[UUID, str], date]:
    """The day on which each saving task of a site was done, by tree and key."""
    query = (
        select(CareAct.tree_id, CareAct.key, CareAct.day)
        .join(Tree, Tree.id == CareAct.tree_id)
        .where(
            Tree.site_id == site_id, CareAct.act == "done", CareAct.withdrawn_at.is_(None),
            CareAct.key.startswith("save_"),
        )
    )  # fmt: skip
    return {(tree_id, key): day for tree_id, key, day in session.execute(query) if tree_id is not None}


def prices(session: Session) -> dict[str, float]:
    """What parts cost, by name; those that nobody priced are not there."""
    return dict(session.execute(select(PartPrice.name, PartPrice.price)).all())


def put_prices(session: Session, new: Mapping[str, float | None]) -> None:
    """Price these parts, or take a price back."""
    session.execute(delete(PartPrice).where(PartPrice.name.in_(list(new))))
    session.add_all(
        PartPrice(name=name, price=price)
        for name, price in new.items() if price is not None
    )  # fmt: skip
    session.flush()
