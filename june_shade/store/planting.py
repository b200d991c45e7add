"""Queries on plantings."""

from collections.abc import Iterable, Sequence
from uuid import UUID

from sqlalchemy import func, select
from sqlalchemy.orm import Session, joinedload

from june_shade.store.care_tables import CareAct
from june_shade.store.drip_tables import DripCatch, DripLayout, DripProof
from june_shade.store.log import void_of
from june_shade.store.log_tables import LogEntry
from june_shade.store.mulch_tables import MulchEntry
from june_shade.store.planting_tables import Planting
from june_shade.store.site_tables import Stop
from june_shade.store.tree_tables import Plant, Tree


def of_site(session: Session, site_id: UUID) -> Sequence[Planting]:
    """A site's plantings that were not withdrawn: those to come by day, then what was planted, the newest first."""
    query = select(Planting).where(Planting.site_id == site_id, Planting.withdrawn_at.is_(None))
    rows = session.scalars(query.options(joinedload(Planting.plant)).order_by(Planting.planned_on, Planting.tag)).all()
    done = sorted((r for r in rows if r.planted_on), key=lambda r: r.planted_on or r.planned_on, reverse=True)
    return [*(r for r in rows if r.planted_on is None), *done]


def trees_of(session: Session, planting_id: UUID) -> Sequence[Tree]:
    """The trees that stand from a planting, by tag."""
    return session.scalars(select(Tree).where(Tree.planting_id == planting_id).order_by(Tree.row_place, Tree.tag)).all()


def worked_on(session: Session, trees: Iterable[UUID], but_entries: Iterable[UUID]) -> set[UUID]:
    """Those of these trees with anything in their records that stands, besides these log entries."""
    ids = list(trees)
    voids = select(LogEntry.voids).where(LogEntry.voids.is_not(None))
    entries = select(LogEntry.tree_id).where(
        LogEntry.tree_id.in_(ids), LogEntry.kind != "void", LogEntry.id.not_in(voids),
        LogEntry.id.not_in(list(but_entries)),
    )  # fmt: skip
    kinds: tuple[type[DripLayout] | type[DripProof] | type[DripCatch] | type[MulchEntry] | type[CareAct], ...] = (
        DripLayout, DripProof, DripCatch, MulchEntry, CareAct,
    )  # fmt: skip
    found = set(session.scalars(entries))
    for kind in kinds:
        found |= set(session.scalars(select(kind.tree_id).where(kind.tree_id.in_(ids), kind.withdrawn_at.is_(None))))
    return found


def is_standing(session: Session, entry_id: UUID) -> bool:
    """Whether a log entry is there and was not undone."""
    entry = session.get(LogEntry, entry_id)
    return entry is not None and void_of(session, entry_id) is None


def next_place(session: Session, site_id: UUID, stop: str) -> int:
    """Where a row goes on at a stop: past the last tree there."""
    query = select(func.max(Tree.row_place)).outerjoin(Stop, Stop.id == Tree.stop_id).where(Tree.site_id == site_id)
    last = session.scalar(query.where(Stop.name == stop) if stop else query)
    return 1 if last is None else last + 1


def plant(session: Session, plant_id: UUID) -> Plant | None:
    """A kind of tree."""
    return session.get(Plant, plant_id)
