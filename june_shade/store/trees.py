"""Queries on sites, stops, trees and the cache of their computed states."""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from datetime import date
from functools import cache
from types import SimpleNamespace
from typing import Any, NamedTuple
from uuid import UUID

from psycopg.types.json import Jsonb
from sqlalchemy import BigInteger, Select, bindparam, case, delete, func, inspect, or_, select, true, tuple_, update
from sqlalchemy.orm import Session, joinedload
from sqlalchemy.sql.schema import CallableColumnDefault, ScalarElementColumnDefault

from june_shade.store.base import Base
from june_shade.store.session import ENDED_TOO
from june_shade.store.site_tables import Line, Site, Stop
from june_shade.store.tree_tables import Plant, Tree, TreeEnd, TreeState

STATE_COLUMNS = (
    "root_radius_m",
    "ball_depletion_l",
    "near_depletion_l",
    "far_depletion_l",
    "near_volume_l",
    "far_volume_l",
    "outside_depletion_mm",
    "ks",
    "soggy",
    "soggy_days",
    "rain_before_mm",
    "late_days",
    "reservoir_l",
)


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


def write_changed(session: Session, rows: Iterable[Tree]) -> None:
    """Write what changed of many stored trees in a few statements, where a flush would send one for each.

    Nobody else changes them meanwhile: the caller has their sites alone. The rows leave the session; who needs them
    again reads them again.
    """
    different = []
    for row in rows:
        if inspect(row).persistent:
            different.append((row.id, changed_columns(row)))
            session.expunge(row)
    write_columns(session, different)


def changed_columns(row: Tree) -> dict[str, Any]:
    """What of a stored tree is another than it was read, by column."""
    columns, before = Tree.metadata.tables["tree"].c, inspect(row).committed_state
    return {name: getattr(row, name) for name in before if name in columns and getattr(row, name) != before[name]}


class Draft(SimpleNamespace):
    """A new tree by column, what is not given as the table has it for such; no session knows of it."""

    def __init__(self, **given: Any) -> None:
        plain, made = _usual()
        super().__init__(**(plain | {name: make(None) for name, make in made.items()} | given))


@cache
def _usual() -> tuple[dict[str, Any], dict[str, Callable[[Any], Any]]]:
    """Every column of a new tree, as the table has it where it is not given: values, and what makes one for each."""
    plain: dict[str, Any] = {"version": 1}
    made: dict[str, Callable[[Any], Any]] = {}
    for column in Tree.metadata.tables["tree"].columns:
        usual = column.default
        if isinstance(usual, CallableColumnDefault):
            made[column.name] = usual.arg
        elif column.name not in plain:
            plain[column.name] = usual.arg if isinstance(usual, ScalarElementColumnDefault) else None
    return plain, made


def insert_many(session: Session, rows: Sequence[dict[str, Any]]) -> None:
    """Put many new trees in at once, each by column as a Draft has it."""
    if not rows:
        return
    raw = session.connection().connection.driver_connection
    assert raw is not None
    with raw.cursor() as cursor, cursor.copy(f"COPY tree ({', '.join(rows[0])}) FROM STDIN") as copy:
        for row in rows:
            copy.write_row([_written(value) for value in row.values()])


def _written(value: Any) -> Any:
    return Jsonb(value) if isinstance(value, dict | list) else value


def write_columns(session: Session, different: Iterable[tuple[UUID, dict[str, Any]]]) -> None:
    """Write some columns of many trees, by id, in a few statements."""
    alike: dict[tuple[str, ...], list[tuple[Any, ...]]] = {}
    for tree_id, values in different:
        if values:
            names = tuple(sorted(values))
            alike.setdefault(names, []).append((tree_id, *(_written(values[name]) for name in names)))
    raw = session.connection().connection.driver_connection
    assert raw is not None
    for names, written in alike.items():
        listed, replaced = ", ".join(names), ", ".join(f"{name} = new_tree.{name}" for name in names)
        with raw.cursor() as cursor:
            cursor.execute(f"CREATE TEMP TABLE new_tree ON COMMIT DROP AS SELECT id, {listed} FROM tree WITH NO DATA")
            with cursor.copy(f"COPY new_tree (id, {listed}) FROM STDIN") as copy:
                for one in written:
                    copy.write_row(one)
            cursor.execute(
                f"UPDATE tree SET {replaced}, version = version + 1 FROM new_tree WHERE tree.id = new_tree.id"
            )
            cursor.execute("DROP TABLE new_tree")


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
    """Which trees: words of tag, place, side, species, stop or site; exact values where given."""

    text: str = ""
    site_id: UUID | None = None
    stop: str | None = None
    plant_id: UUID | None = None
    kind: str | None = None
    method: str | None = None


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
    for word in wanted.text.split():
        escaped = word.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_")
        like = f"%{escaped}%"
        query = query.where(
            or_(
                Tree.tag.ilike(like), Tree.place.ilike(like), Tree.side.ilike(like), Plant.common.ilike(like),
                Plant.botanical.ilike(like), Stop.name.ilike(like), Site.name.ilike(like),
            )
        )  # fmt: skip
    return query


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


class KeptState(NamedTuple):
    """A tree's state at the end of a day; values: one for each of STATE_COLUMNS."""

    day: date
    values: tuple[float, ...]


_newest = (
    select(TreeState.day, *(getattr(TreeState, c) for c in STATE_COLUMNS))
    .where(TreeState.tree_id == Tree.id, TreeState.day <= bindparam("until"))
    .order_by(TreeState.day.desc())
    .limit(1)
    .lateral("newest")
)
_NEWEST = select(Tree.id, _newest).join(_newest, true())


def newest_states(
    session: Session, site_id: UUID, until: date, tree_ids: Sequence[UUID] | None = None
) -> dict[UUID, KeptState]:
    """The newest cached state of each tree not after a date, by tree id."""
    query = _NEWEST.where(Tree.site_id == site_id)
    if tree_ids is not None:
        query = query.where(Tree.id.in_(list(tree_ids)))
    return {row[0]: KeptState(row[1], tuple(row[2:])) for row in session.execute(query, {"until": until})}


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


def lock_site(session: Session, site_id: UUID, *, exclusive: bool) -> None:
    """Hold until the transaction ends: plans share a site, whoever changes what a plan rests on has it alone.

    Without it a plan that read yesterday's log could cache a state that a log entry has just made wrong.
    """
    key = site_id.int & 0x7FFFFFFFFFFFFFFF
    lock = func.pg_advisory_xact_lock if exclusive else func.pg_advisory_xact_lock_shared
    session.connection().execute(select(lock(bindparam("key", key, BigInteger))))


def share_unchanged(session: Session, site_id: UUID, revision: int) -> bool:
    """Share a site as `lock_site` does if nobody has it alone just now; whether it still is at this revision."""
    key = site_id.int & 0x7FFFFFFFFFFFFFFF
    if not session.scalar(select(func.pg_try_advisory_xact_lock_shared(key))):
        return False
    return session.scalar(select(Site.revision).where(Site.id == site_id)) == revision


def bump(session: Session, site_id: UUID) -> None:
    """Count a site's revision up: whatever was computed of it before is of yesterday."""
    site = Base.metadata.tables[Site.__tablename__]
    session.connection().execute(
        update(site).where(site.c.id == bindparam("of", site_id)).values(revision=site.c.revision + 1)
    )


def mark_grown(session: Session, site_id: UUID, day: date) -> None:
    """Write down that a site's laid drip is as its roots have grown by this day."""
    site = Base.metadata.tables[Site.__tablename__]
    session.connection().execute(update(site).where(site.c.id == site_id).values(grown_on=day))


def save_states(session: Session, rows: Iterable[tuple[Any, ...]]) -> None:
    """Write cached states (tree_id, day, *STATE_COLUMNS) in bulk; those that are there stay as they are."""
    raw = session.connection().connection.driver_connection
    assert raw is not None
    columns = ", ".join(("tree_id", "day", *STATE_COLUMNS))
    with raw.cursor() as cursor:
        cursor.execute("CREATE TEMP TABLE IF NOT EXISTS new_state (LIKE tree_state) ON COMMIT DELETE ROWS")
        with cursor.copy(f"COPY new_state ({columns}) FROM STDIN (FORMAT binary)") as copy:
            copy.set_types(["uuid", "date", *["float8"] * 8, "bool", "float8", "float8", "int4", "float8"])
            for row in rows:
                copy.write_row(row)
        cursor.execute(
            f"INSERT INTO tree_state ({columns}) SELECT {columns} FROM new_state ORDER BY tree_id, day "
            "ON CONFLICT DO NOTHING"
        )
        cursor.execute("DELETE FROM new_state")


def forget_days(session: Session, tree_ids: Iterable[UUID], days: Iterable[date]) -> None:
    """Forget cached states of some trees on some days, but those that another reader of the site forgets just now."""
    key = tuple_(TreeState.tree_id, TreeState.day)
    there = select(TreeState.tree_id, TreeState.day).where(
        TreeState.tree_id.in_(list(tree_ids)), TreeState.day.in_(list(days))
    )
    free = there.with_for_update(skip_locked=True)
    session.execute(delete(TreeState).where(key.in_(free)).execution_options(synchronize_session=False))


def drop_states(
    session: Session,
    *,
    tree_ids: Iterable[UUID] | None = None,
    site_ids: Iterable[UUID] | None = None,
    since: date | None = None,
) -> None:
    """Forget cached states of some trees or of whole sites, from a date on or all."""
    state, tree = (Base.metadata.tables[kind.__tablename__] for kind in (TreeState, Tree))
    statement = delete(state)
    if tree_ids is not None:
        statement = statement.where(state.c.tree_id.in_(list(tree_ids)))
    if site_ids is not None:
        statement = statement.where(state.c.tree_id.in_(select(tree.c.id).where(tree.c.site_id.in_(list(site_ids)))))
    if since is not None:
        statement = statement.where(state.c.day >= since)
    session.connection().execute(statement)
