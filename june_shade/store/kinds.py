"""Queries on kinds of tree, sizes of stock, people."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session

from june_shade.store.log_tables import Person
from june_shade.store.tree_tables import Plant, StockSize, Tree


def plants(session: Session) -> Sequence[Plant]:
    """Kinds of tree, by common name."""
    return session.scalars(select(Plant).order_by(Plant.common)).all()


def stock_sizes(session: Session) -> Sequence[StockSize]:
    """Nursery stock by kind and size."""
    return session.scalars(select(StockSize).order_by(StockSize.kind.desc(), StockSize.ball_diameter_m)).all()


def sites_with(session: Session, plant_id: UUID) -> Sequence[UUID]:
    """Ids of the sites where trees of a kind stand."""
    return session.scalars(select(Tree.site_id).where(Tree.plant_id == plant_id).distinct()).all()


def people(session: Session) -> Sequence[Person]:
    """Everyone who waters, by name."""
    return session.scalars(select(Person).order_by(Person.name)).all()


def person_named(session: Session, name: str) -> Person | None:
    """Whoever has this name."""
    return session.scalars(select(Person).where(Person.name == name)).first()
