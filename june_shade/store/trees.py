"""Queries on sites, stops, lines and trees."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any, NamedTuple
from uuid import UUID

from sqlalchemy import ColumnElement, Select, and_, case, func, or_, select, true, update
from sqlalchemy.orm import Session, joinedload

from june_shade.store.base import Base
from june_shade.store.session import ENDED_TOO
from june_shade.store.site_tables import Line, Site, Stop
from june_shade.store.tree_tables import Plant, Tree, TreeEnd


def sites(session: Session, *, closed: bool = False) -> Sequence[Site]:
    """All sites that are cared for by name, with their stations; closed: those that are not any more."""
    is_closed = Site.closed_on.is_not(None) if closed else Site.closed_on.is_(None)
    return session.scalars(select(Site).where(is_closed).options(joinedload(Site.station)).order_by(Site.name)).all()


def is_taken(session: Session, kind: type[Base], field: str, value: str, own_id: UUID | None) -> bool:
    """Whether another row of this kind has this value already."""
    id_column, column = getattr(kind, "id"), getattr(kind, field)  # noqa: B009 - every kind has an id of its own
    query = select(id_column).where(column == value)
    if own_id is not None:
        query = query.where(id_column != own_id)
    return session.scalars(query).first() is not None


class Named(NamedTuple):
    """A stop or a line."""

    id: UUID
    site_id: UUID
    name: str


def named(session: Session, kind: type[Stop] | type[Line], site_ids: Iterable[UUID]) -> list[Named]:
    """Stops or lines of some sites."""
    query = select(kind.id, kind.site_id, kind.name).where(kind.site_id.in_(list(site_ids)))
    return [Named(*row) for row in session.execute(query)]


def site_ids(session: Session, tree_ids: Iterable[UUID]) -> Sequence[UUID]:
    """Ids of the sites that these trees stand in."""
    return session.scalars(select(Tree.site_id).where(Tree.id.in_(list(tree_ids))).distinct()).all()


def tree(session: Session, tree_id: UUID, *, ended: bool = False) -> Tree | None:
    """A tree with all that its page shows: site, station, stop, kind. ended: one that died or went, too."""
    names = [joinedload(name) for name in (Tree.stop, Tree.line, Tree.plant)]
    found = session.get(
        Tree, tree_id, options=[joinedload(Tree.site).joinedload(Site.station), *names],
        execution_options={ENDED_TOO: ended},
    )  # fmt: skip
    return None if found is not None and found.ended_on is not None and not ended else found


def end_of(session: Session, tree_id: UUID) -> TreeEnd | None:
    """How a tree ended, None where it stands."""
    query = select(TreeEnd).where(TreeEnd.tree_id == tree_id, TreeEnd.withdrawn_at.is_(None))
    return session.scalars(query.order_by(TreeEnd.recorded_at.desc())).first()


def ended(session: Session, wanted: "Wanted", limit: int, offset: int) -> tuple[Sequence[Tree], int]:
    """Trees that died or went, the last ones first, and how many there are in all."""
    option = {ENDED_TOO: True}
    query = _matching(wanted).where(Tree.ended_on.is_not(None))
    count = session.scalar(select(func.count()).select_from(query.subquery()), execution_options=option) or 0
    ordered = query.order_by(Tree.ended_on.desc(), Tree.tag).limit(limit).offset(offset)
    return _with_names(session, ordered.execution_options(**option)), count


def on_line(session: Session, line_id: UUID) -> Sequence[UUID]:
    """Trees that stand on a line."""
    return session.scalars(select(Tree.id).where(Tree.line_id == line_id)).all()


def at_stop(session: Session, stop_id: UUID) -> Sequence[Tree]:
    """The trees at a stop, in order of place."""
    query = select(Tree).where(Tree.stop_id == stop_id).order_by(Tree.row_place, Tree.tag)
    return session.scalars(query).all()


def all_trees(session: Session, site_id: UUID | None) -> Sequence[Tree]:
    """The register, or one site's part of it, with all names, in order of site, stop and place."""
    query = select(Tree).join(Site).outerjoin(Stop, Stop.id == Tree.stop_id)
    query = query.where(Site.closed_on.is_(None) if site_id is None else Tree.site_id == site_id)
    names = [joinedload(name) for name in (Tree.site, Tree.stop, Tree.line, Tree.plant)]
    ordered = query.order_by(Site.name, Stop.position.nulls_last(), Tree.row_place, Tree.tag)
    return session.scalars(ordered.options(*names)).all()


def trees_by_id(session: Session, ids: Sequence[UUID]) -> dict[UUID, Tree]:
    """Those of these trees that are there, with their stops and lines, as they stand now."""
    query = (
        select(Tree)
        .where(Tree.id.in_(ids))
        .options(joinedload(Tree.stop), joinedload(Tree.line))
        .execution_options(populate_existing=True)
    )
    return {row.id: row for row in session.scalars(query)}


def versions(session: Session, ids: Iterable[UUID]) -> dict[UUID, int]:
    """How often each of these trees was changed."""
    query = select(Tree.id, Tree.version).where(Tree.id.in_(list(ids)))
    return dict(session.execute(query).tuples().all())


def are_there(session: Session, ids: Iterable[UUID]) -> set[UUID]:
    """Which of these trees are in the database, those that ended or whose planting was undone too."""
    tree = Base.metadata.tables[Tree.__tablename__]
    return set(session.connection().execute(select(tree.c.id).where(tree.c.id.in_(list(ids)))).scalars())


def tags(session: Session, site_ids: Iterable[UUID]) -> dict[tuple[UUID, str], UUID]:
    """Id of each tree of these sites by site and tag."""
    rows = session.execute(select(Tree.site_id, Tree.tag, Tree.id).where(Tree.site_id.in_(list(site_ids))))
    return {(site_id, tag): tree_id for site_id, tag, tree_id in rows}


def stops(session: Session, site_ids: Iterable[UUID]) -> Sequence[Stop]:
    """Stops of some sites, each site's in the lead's order."""
    query = select(Stop).where(Stop.site_id.in_(list(site_ids))).order_by(Stop.position, Stop.name)
    return session.scalars(query).all()


def stop_counts(session: Session, site_ids: Iterable[UUID]) -> dict[UUID, int]:
    """Trees a stop, of some sites."""
    query = select(Tree.stop_id, func.count()).where(Tree.site_id.in_(list(site_ids)), Tree.stop_id.is_not(None))
    return {stop_id: count for stop_id, count in session.execute(query.group_by(Tree.stop_id)) if stop_id}


def lines(session: Session, site_ids: Iterable[UUID]) -> Sequence[Line]:
    """Lines of some sites that are in use, by name."""
    query = select(Line).where(Line.site_id.in_(list(site_ids)), Line.closed_on.is_(None))
    return session.scalars(query.order_by(Line.name)).all()


def closed_lines(session: Session, site_ids: Iterable[UUID]) -> set[UUID]:
    """Ids of the lines of some sites that nothing hangs on any more."""
    query = select(Line.id).where(Line.site_id.in_(list(site_ids)), Line.closed_on.is_not(None))
    return set(session.scalars(query))


def open_line(session: Session, line_id: UUID) -> None:
    """A line is in use again."""
    line = Base.metadata.tables[Line.__tablename__]
    session.connection().execute(update(line).where(line.c.id == line_id).values(closed_on=None))


def tree_counts(session: Session, site_ids: Iterable[UUID] | None = None) -> dict[UUID, int]:
    """Trees a site, of all that are cared for or of some."""
    query = select(Tree.site_id, func.count()).group_by(Tree.site_id)
    if site_ids is None:
        query = query.join(Site).where(Site.closed_on.is_(None))
    if site_ids is not None:
        query = query.where(Tree.site_id.in_(list(site_ids)))
    return dict(session.execute(query).all())


@dataclass(frozen=True, slots=True)
class Wanted:
    """Which trees: words of tag, place, side, species, stop or site, or one of the kinds that these words call in the
    reader's language, by their common names; exact values where given."""

    text: str = ""
    site_id: UUID | None = None
    stop: str | None = None
    plant_id: UUID | None = None
    kind: str | None = None
    method: str | None = None
    called: tuple[str, ...] = ()


SORTS: dict[str, tuple[Any, ...]] = {
    "place": (Site.name, Stop.position.nulls_last(), Tree.row_place, Tree.tag),
    "tag": (Tree.tag, Site.name),
    "species": (Plant.common, Tree.tag),
    "planted": (Tree.planted_on.desc(), Tree.tag),
}
"""Orders that the database can make."""


def _matching(wanted: Wanted) -> Select[Any]:
    query = select(Tree).join(Plant).join(Site).outerjoin(Stop, Stop.id == Tree.stop_id)
    exact = (
        (Tree.site_id, wanted.site_id), (Stop.name, wanted.stop), (Tree.plant_id, wanted.plant_id),
        (Tree.kind, wanted.kind), (Tree.method, wanted.method),
    )  # fmt: skip
    if wanted.site_id is None:
        query = query.where(Site.closed_on.is_(None))
    for column, value in exact:
        if value is not None:
            query = query.where(column == value)
    searched = (Tree.tag, Tree.place, Tree.side, Plant.common, Plant.botanical, Stop.name, Site.name)
    return query.where(with_words(wanted.text, searched, Plant.common.in_(wanted.called)))


def with_words(text: str, searched: Sequence[Any], called: ColumnElement[bool]) -> ColumnElement[bool]:
    """Whether each word of a text is in one of what is searched, or the row is of a kind that the text calls."""
    words = [or_(*(one.icontains(word, autoescape=True) for one in searched)) for word in text.split()]
    return or_(and_(true(), *words), called)


def search(
    session: Session, wanted: Wanted, sort: str = "place", limit: int = 100, offset: int = 0
) -> tuple[Sequence[Tree], int]:
    """A page of the trees that match, in one of SORTS, and how many there are in all."""
    query = _matching(wanted)
    count = session.scalar(select(func.count()).select_from(query.subquery())) or 0
    ordered = query.order_by(*_closest(wanted.text), *SORTS[sort]).limit(limit).offset(offset)
    return _with_names(session, ordered), count


def _closest(words: str) -> tuple[Any, ...]:
    """Tags that begin with what was typed come before all that only has it in it."""
    first = next(iter(words.split()), "")
    if not first:
        return ()
    return (case((Tree.tag.istartswith(first, autoescape=True), 0), else_=1),)


def matching_ids(session: Session, wanted: Wanted, sort: str = "place") -> list[tuple[UUID, UUID]]:
    """Id and site of all trees that match, in order."""
    query = _matching(wanted).with_only_columns(Tree.id, Tree.site_id).order_by(*SORTS[sort])
    return [(tree_id, site_id) for tree_id, site_id in session.execute(query)]


def with_names(session: Session, ids: Sequence[UUID]) -> list[Tree]:
    """These trees with their names, in the order asked for."""
    rows = {row.id: row for row in _with_names(session, select(Tree).where(Tree.id.in_(ids)))}
    return [rows[tree_id] for tree_id in ids if tree_id in rows]


def _with_names(session: Session, query: Select[Any]) -> Sequence[Tree]:
    names = [joinedload(name) for name in (Tree.plant, Tree.site, Tree.stop, Tree.line)]
    return session.scalars(query.options(*names)).all()


def line_mates(session: Session, tree_ids: Iterable[UUID]) -> list[UUID]:
    """These trees and every tree that shares a line with one of them."""
    ids = list(tree_ids)
    lines = select(Tree.line_id).where(Tree.id.in_(ids), Tree.line_id.is_not(None))
    return ids + list(session.scalars(select(Tree.id).where(Tree.line_id.in_(lines), Tree.id.not_in(ids))))


def earliest_planting(session: Session, site_id: UUID) -> date | None:
    """The day on which the oldest tree of a site was planted."""
    return session.scalar(select(func.min(Tree.planted_on)).where(Tree.site_id == site_id))


def earliest_opening(session: Session, site_id: UUID) -> date | None:
    """The day the first record of a site opens."""
    return session.scalar(select(func.min(Tree.opened_on)).where(Tree.site_id == site_id))


class TreeAsked(NamedTuple):
    """What an order asks of a tree, and how it is found: its site's name, its tag."""

    id: UUID
    site_id: UUID
    site_name: str
    tag: str
    planted_on: date
    method: str
    house_number: int | None
    water_source: str


def asked(session: Session, tree_ids: Iterable[UUID]) -> dict[UUID, TreeAsked]:
    """What orders ask of these trees, by id, also of those that died or went."""
    tree, site = (Base.metadata.tables[kind.__tablename__] for kind in (Tree, Site))
    query = (
        select(
            tree.c.id, tree.c.site_id, site.c.name, tree.c.tag, tree.c.planted_on, tree.c.method, site.c.house_number,
            site.c.water_source,
        )
        .join(site, site.c.id == tree.c.site_id)
        .where(tree.c.id.in_(list(tree_ids)), tree.c.withdrawn_at.is_(None))
    )  # fmt: skip
    return {row.id: TreeAsked(*row) for row in session.connection().execute(query)}


class TreePlace(NamedTuple):
    """Where a tree stands and since when."""

    id: UUID
    site_id: UUID
    timezone: str
    planted_on: date


def places(session: Session, tree_ids: Iterable[UUID]) -> dict[UUID, TreePlace]:
    """Where these trees stand, by id; without those whose planting was undone."""
    tree, site = (Base.metadata.tables[kind.__tablename__] for kind in (Tree, Site))
    query = (
        select(tree.c.id, tree.c.site_id, site.c.timezone, tree.c.planted_on)
        .join(site, site.c.id == tree.c.site_id)
        .where(tree.c.id.in_(list(tree_ids)), tree.c.withdrawn_at.is_(None))
    )
    return {row.id: TreePlace(*row) for row in session.connection().execute(query)}
