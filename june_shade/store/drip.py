"""Queries on drip: layouts in force and of old, proofs, the trees of a line."""

from collections.abc import Iterable, Sequence
from datetime import date
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import joinedload

from june_shade.store.drip_tables import DripCatch, DripLayout, DripProof
from june_shade.store.session import ENDED_TOO, Session
from june_shade.store.site_tables import Line, Site
from june_shade.store.tree_tables import Tree


def layouts_in_force(session: Session, tree_ids: Iterable[UUID]) -> dict[UUID, DripLayout]:
    """The layout that each of these trees goes by, by tree."""
    query = select(DripLayout).join(Tree, Tree.layout_id == DripLayout.id).where(Tree.id.in_(list(tree_ids)))
    return {row.tree_id: row for row in session.scalars(query)}


def layouts_of(session: Session, tree_id: UUID) -> Sequence[DripLayout]:
    """All layouts of a tree, the newest first, withdrawn ones too."""
    query = select(DripLayout).where(DripLayout.tree_id == tree_id)
    return session.scalars(
        query.order_by(DripLayout.laid_on.desc(), DripLayout.recorded_at.desc(), DripLayout.id)
    ).all()


def proofs_of(session: Session, tree_id: UUID) -> Sequence[DripProof]:
    """All proofs of a tree, the newest first, withdrawn ones too."""
    query = select(DripProof).where(DripProof.tree_id == tree_id)
    return session.scalars(query.order_by(DripProof.day.desc(), DripProof.recorded_at.desc(), DripProof.id)).all()


def proofs_in_force(session: Session, tree_ids: Iterable[UUID]) -> dict[UUID, DripProof]:
    """The newest proof of each of these trees that was not withdrawn, by tree."""
    query = select(DripProof).where(DripProof.tree_id.in_(list(tree_ids)), DripProof.withdrawn_at.is_(None))
    ordered = query.order_by(DripProof.day, DripProof.recorded_at, DripProof.id)
    return {row.tree_id: row for row in session.scalars(ordered)}


def catches_of(session: Session, tree_id: UUID) -> Sequence[DripCatch]:
    """All catch tests of a tree, the newest first, withdrawn ones too."""
    query = select(DripCatch).where(DripCatch.tree_id == tree_id)
    return session.scalars(query.order_by(DripCatch.day.desc(), DripCatch.recorded_at.desc(), DripCatch.id)).all()


def catches_in_force(session: Session, tree_ids: Iterable[UUID]) -> dict[UUID, DripCatch]:
    """The newest catch test that was not withdrawn of the layout that each of these trees goes by, by tree."""
    query = select(DripCatch).join(Tree, Tree.layout_id == DripCatch.layout_id)
    query = query.where(Tree.id.in_(list(tree_ids)), DripCatch.withdrawn_at.is_(None))
    ordered = query.order_by(DripCatch.day, DripCatch.recorded_at, DripCatch.id)
    return {row.tree_id: row for row in session.scalars(ordered)}


def layout(session: Session, layout_id: UUID) -> DripLayout | None:
    """A layout."""
    return session.get(DripLayout, layout_id)


def line(session: Session, line_id: UUID) -> Line | None:
    """A line."""
    return session.get(Line, line_id)


def lines(session: Session, site_id: UUID, *, closed: bool = False) -> Sequence[Line]:
    """Lines of a site by name; closed: those that nothing hangs on any more."""
    query = select(Line).where(Line.site_id == site_id)
    query = query.where(Line.closed_on.is_not(None) if closed else Line.closed_on.is_(None))
    return session.scalars(query.order_by(Line.name)).all()


def trees_on(session: Session, line_id: UUID) -> Sequence[Tree]:
    """The trees of a line in the order that it passes them."""
    names = [joinedload(name) for name in (Tree.stop, Tree.line, Tree.plant)]
    site = joinedload(Tree.site).joinedload(Site.station)
    query = select(Tree).where(Tree.line_id == line_id).options(*names, site).order_by(Tree.row_place, Tree.tag)
    return session.scalars(query).all()


def gone_from(session: Session, line_id: UUID) -> Sequence[Tree]:
    """Trees that died or went and were watered by a layout on this line."""
    query = select(Tree).where(Tree.line_id == line_id, Tree.ended_on.is_not(None), Tree.layout_id.is_not(None))
    query = query.where(Tree.method == "emitters").options(joinedload(Tree.site))
    return session.scalars(query.execution_options(**{ENDED_TOO: True})).all()


def sites_to_grow(session: Session, day: date) -> Sequence[UUID]:
    """Ids of the sites where a tree goes by a layout that was not looked at since this day began."""
    query = select(Tree.site_id).join(Site).where(Tree.layout_id.is_not(None))
    return session.scalars(query.where(Site.grown_on.is_distinct_from(day)).distinct()).all()


def laid_trees(session: Session, site_id: UUID) -> Sequence[Tree]:
    """The trees of a site that have a layout."""
    return session.scalars(select(Tree).where(Tree.site_id == site_id, Tree.layout_id.is_not(None))).all()
