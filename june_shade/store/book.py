"""The book: everything that was done, seen, read, tested, planted, laid, changed or lost, out of all tables as one.

What is asked for is found as light rows by one query; what each row says is read afterwards, kind by kind.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any, NamedTuple, cast
from uuid import UUID

from sqlalchemy import (
    ColumnElement,
    DateTime,
    Select,
    Uuid,
    false,
    func,
    literal,
    null,
    select,
    tuple_,
    union_all,
)
from sqlalchemy import cast as typed
from sqlalchemy.orm import Session, aliased

from june_shade.store.care_tables import CareAct
from june_shade.store.drip_tables import DripCatch, DripLayout, DripProof
from june_shade.store.log import STANDING
from june_shade.store.log_tables import LogEntry
from june_shade.store.looking_tables import OwnAct, ThirstAnswer, TreeCheckup
from june_shade.store.mulch_tables import MulchEntry
from june_shade.store.routine_tables import RoutineChoice
from june_shade.store.session import ENDED_TOO
from june_shade.store.site_tables import SoilTest
from june_shade.store.tree_tables import FormerWay, Plant, StockSize, Tree, TreeEnd
from june_shade.store.trees import with_words

KINDS = (
    "water", "reading", "note", "skip", "checkup", "thirst", "mulch", "care", "layout", "proof", "catch", "planted",
    "ended", "soil", "routine", "changed", "own",
)  # fmt: skip
TABLES: dict[str, Any] = {
    "checkup": TreeCheckup, "thirst": ThirstAnswer, "mulch": MulchEntry, "care": CareAct, "layout": DripLayout,
    "proof": DripProof, "catch": DripCatch, "ended": TreeEnd, "soil": SoilTest, "routine": RoutineChoice, "own": OwnAct,
}  # fmt: skip
OF_LOG = ("water", "reading", "note", "skip")
DAYS: dict[str, Any] = {"layout": DripLayout.laid_on, "routine": RoutineChoice.since}
WHEN: dict[str, Any] = {"checkup": TreeCheckup.happened_at}

NOBODY, NEVER = typed(null(), Uuid()), typed(null(), DateTime(timezone=True))
"""Nothing, of the type that a part of a union has to have."""


@dataclass(frozen=True, slots=True)
class Asked:
    """What of the book is asked for; None = everything. words: of tag, place or kind of tree; called: kinds that these
    words call in the reader's language, by their common names; undone: also what was taken back."""

    site_id: UUID | None = None
    stop_id: UUID | None = None
    tree_id: UUID | None = None
    person_id: UUID | None = None
    kinds: tuple[str, ...] = ()
    first: date | None = None
    last: date | None = None
    words: str = ""
    undone: bool = False
    called: tuple[str, ...] = ()


class Found(NamedTuple):
    """A row of the book: its kind and id, its tree (None: of a site), day, moment, who, whether it was taken back."""

    kind: str
    id: UUID
    tree_id: UUID | None
    site_id: UUID
    day: date
    at: datetime | None
    person_id: UUID | None
    undone: bool


def rows(session: Session, asked: Asked, limit: int | None, offset: int = 0) -> list[Found]:
    """Rows of the book, the newest first."""
    whole = _union(asked)
    query = select(whole).order_by(whole.c.day.desc(), whole.c.at.desc().nulls_last(), whole.c.id)
    if limit is not None:
        query = query.limit(limit).offset(offset)
    return [Found._make(row) for row in session.execute(query, execution_options={ENDED_TOO: True})]


def count(session: Session, asked: Asked) -> int:
    """How many rows there are."""
    whole = _union(asked)
    return session.scalar(select(func.count()).select_from(whole), execution_options={ENDED_TOO: True}) or 0


def spanned(session: Session, asked: Asked) -> tuple[tuple[date | None, date | None], dict[str, int]]:
    """First and last day of what is asked for, and how many rows of each kind there are."""
    whole = _union(asked)
    query = select(whole.c.kind, func.count(), func.min(whole.c.day), func.max(whole.c.day)).group_by(whole.c.kind)
    found = list(session.execute(query, execution_options={ENDED_TOO: True}))
    counts = dict.fromkeys(KINDS, 0) | {row[0]: row[1] for row in found}
    return (min((row[2] for row in found), default=None), max((row[3] for row in found), default=None)), counts


def _union(asked: Asked) -> Any:
    wanted = [kind for kind in (asked.kinds or KINDS) if kind in KINDS]
    parts = []
    if logged := [kind for kind in wanted if kind in OF_LOG]:
        parts.append(_of_log(asked, logged))
    parts += [part for kind in wanted if kind in TABLES for part in [_of_table(asked, kind)]]
    if "planted" in wanted:
        parts.append(_planted(asked))
    if "changed" in wanted:
        parts.append(_changed(asked))
    return union_all(*parts).subquery("book")


def _light(
    kind: Any, identity: Any, tree_id: Any, site_id: Any, day: Any, at: Any, person: Any, undone: Any
) -> Select[Any]:
    return select(
        kind.label("kind"), identity.label("id"), tree_id.label("tree_id"), site_id.label("site_id"), day.label("day"),
        at.label("at"), person.label("person_id"), undone.label("undone"),
    )  # fmt: skip


def _narrowed(query: Select[Any], asked: Asked, day: Any, person: Any, undone: ColumnElement[bool]) -> Select[Any]:
    """A part of the book by what is asked for; the part has its trees joined."""
    if asked.site_id is not None:
        query = query.where(Tree.site_id == asked.site_id)
    if asked.stop_id is not None:
        query = query.where(Tree.stop_id == asked.stop_id)
    if asked.tree_id is not None:
        query = query.where(Tree.id == asked.tree_id)
    if asked.words:
        kind = aliased(Plant)  # the part may have its kinds joined
        searched = (Tree.tag, Tree.place, kind.common, kind.botanical)
        query = query.join(kind, kind.id == Tree.plant_id)
        query = query.where(with_words(asked.words, searched, kind.common.in_(asked.called)))
    return _of_days(query, asked, day, person, undone)


def _of_days(query: Select[Any], asked: Asked, day: Any, person: Any, undone: ColumnElement[bool]) -> Select[Any]:
    if asked.first is not None:
        query = query.where(day >= asked.first)
    if asked.last is not None:
        query = query.where(day <= asked.last)
    if asked.person_id is not None:
        query = query.where(person == asked.person_id if person is not None else false())
    return query if asked.undone else query.where(~undone)


def _of_log(asked: Asked, kinds: Sequence[str]) -> Select[Any]:
    undone = ~STANDING
    query = _light(
        LogEntry.kind, LogEntry.id, LogEntry.tree_id, Tree.site_id, LogEntry.local_date, LogEntry.happened_at,
        LogEntry.person_id, undone,
    )  # fmt: skip
    query = query.join(Tree, Tree.id == LogEntry.tree_id).where(LogEntry.kind.in_(kinds))
    return _narrowed(query, asked, LogEntry.local_date, LogEntry.person_id, undone)


def _of_table(asked: Asked, kind: str) -> Select[Any]:
    table = TABLES[kind]
    day, at = DAYS.get(kind) or table.day, WHEN.get(kind) or table.recorded_at
    person, undone = getattr(table, "person_id", None), table.withdrawn_at.is_not(None)
    who = NOBODY if person is None else person
    if kind == "soil":
        query = _light(literal(kind), table.id, NOBODY, table.site_id, day, at, who, undone)
        if asked.site_id is not None:
            query = query.where(table.site_id == asked.site_id)
        if asked.tree_id is not None or asked.stop_id is not None or asked.words:
            query = query.where(false())
        return _of_days(query, asked, day, person, undone)
    query = _light(literal(kind), table.id, table.tree_id, Tree.site_id, day, at, who, undone)
    return _narrowed(query.join(Tree, Tree.id == table.tree_id), asked, day, person, undone)


def _planted(asked: Asked) -> Select[Any]:
    query = _light(
        literal("planted"), Tree.id, Tree.id, Tree.site_id, Tree.planted_on, NEVER, NOBODY, false()
    )  # fmt: skip
    return _narrowed(query.select_from(Tree), asked, Tree.planted_on, None, false())


def _changed(asked: Asked) -> Select[Any]:
    query = _light(
        literal("changed"), FormerWay.tree_id, FormerWay.tree_id, Tree.site_id, FormerWay.until, FormerWay.recorded_at,
        NOBODY, false(),
    )  # fmt: skip
    return _narrowed(query.join(Tree, Tree.id == FormerWay.tree_id), asked, FormerWay.until, None, false())


def details(session: Session, found: Iterable[Found]) -> dict[tuple[str, UUID, date], Any]:
    """What rows of the book say, by kind, id and day: what is stored of each."""
    ids: dict[str, list[Found]] = {}
    for row in found:
        ids.setdefault("log" if row.kind in OF_LOG else row.kind, []).append(row)
    said: dict[tuple[str, UUID, date], Any] = {}
    for kind, of in ids.items():
        wanted = [row.id for row in of]
        if kind == "changed":
            pairs = [(row.id, row.day) for row in of]
            query = select(FormerWay).where(tuple_(FormerWay.tree_id, FormerWay.until).in_(pairs))
            said |= {("changed", row.tree_id, row.until): row for row in session.scalars(query)}
            continue
        table = LogEntry if kind == "log" else Tree if kind == "planted" else TABLES[kind]
        stored = session.scalars(select(table).where(table.id.in_(wanted)), execution_options={ENDED_TOO: True})
        known = {one.id: one for one in stored}
        said |= {(row.kind, row.id, row.day): known[row.id] for row in of if row.id in known}
    return said


class TreeNamed(NamedTuple):
    """A tree as the book names it."""

    id: UUID
    tag: str
    place: str
    common: str
    stop_id: UUID | None
    ended_on: date | None


def trees(session: Session, ids: Iterable[UUID]) -> dict[UUID, TreeNamed]:
    """Trees by id, those that died or went too."""
    query = (
        select(Tree.id, Tree.tag, Tree.place, Plant.common, Tree.stop_id, Tree.ended_on)
        .join(Plant, Plant.id == Tree.plant_id)
        .where(Tree.id.in_(list(ids)))
    )
    return {row.id: TreeNamed._make(row) for row in session.execute(query, execution_options={ENDED_TOO: True})}


class Worked(NamedTuple):
    """Water of a day at a site: litres, minutes that were written down, waterings, trees."""

    day: date
    volume_l: float
    minutes: float
    waterings: int
    trees: int


def worked(session: Session, asked: Asked) -> list[Worked]:
    """Standing waterings day by day."""
    days = (
        select(
            LogEntry.local_date, func.sum(LogEntry.volume_l), func.coalesce(func.sum(LogEntry.duration_min), 0.0),
            func.count(), func.count(LogEntry.tree_id.distinct()),
        )
        .join(Tree, Tree.id == LogEntry.tree_id)
        .where(LogEntry.kind == "water")
        .group_by(LogEntry.local_date)
        .order_by(LogEntry.local_date)
    )  # fmt: skip
    query = _narrowed(cast(Select[Any], days), asked, LogEntry.local_date, LogEntry.person_id, ~STANDING)
    return [Worked._make(row) for row in session.execute(query, execution_options={ENDED_TOO: True})]


def watered_trees(session: Session, asked: Asked) -> int:
    """How many trees had water."""
    query = select(func.count(LogEntry.tree_id.distinct())).join(Tree, Tree.id == LogEntry.tree_id)
    query = _narrowed(query.where(LogEntry.kind == "water"), asked, LogEntry.local_date, LogEntry.person_id, ~STANDING)
    return session.scalar(query, execution_options={ENDED_TOO: True}) or 0


class Stood(NamedTuple):
    """A tree that was planted, and how it ended, None where it stands. planter: who wrote its planting down."""

    common: str
    stock: str
    kind: str
    planted_on: date
    end: str | None
    planter_id: UUID | None


def planted(session: Session, asked: Asked) -> list[Stood]:
    """Trees planted within the days asked for, those that died or went too."""
    end = (
        select(TreeEnd.kind)
        .where(TreeEnd.tree_id == Tree.id, TreeEnd.withdrawn_at.is_(None))
        .order_by(TreeEnd.recorded_at.desc())
        .limit(1)
        .scalar_subquery()
    )
    first = (
        select(LogEntry.person_id)
        .where(LogEntry.tree_id == Tree.id, LogEntry.local_date == Tree.planted_on, LogEntry.person_id.is_not(None))
        .order_by(LogEntry.happened_at)
        .limit(1)
        .scalar_subquery()
    )
    query = (
        select(Plant.common, StockSize.label, Tree.kind, Tree.planted_on, end, first)
        .select_from(Tree)
        .join(Plant, Plant.id == Tree.plant_id)
        .outerjoin(StockSize, StockSize.id == Tree.stock_size_id)
    )
    query = _narrowed(query, asked, Tree.planted_on, None, false())
    return [Stood._make(row) for row in session.execute(query, execution_options={ENDED_TOO: True})]
