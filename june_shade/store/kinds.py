"""Queries on kinds of tree, sizes of stock, people."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import func, select
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
    """Whoever has this name, however it is capitalized."""
    return session.scalars(select(Person).where(func.lower(Person.name) == name.lower())).first()


PEOPLE_LOCK = 0x70656F706C65


def lock_people(session: Session) -> None:
    """Have the list of people alone until the transaction ends, so that two phones don't make one person twice."""
    session.execute(select(func.pg_advisory_xact_lock(PEOPLE_LOCK)))
