"""Queries on dated tasks: what they follow from, what was said of them, what calendars were told."""

from collections.abc import Iterable
from datetime import date
from typing import Any, NamedTuple
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session

from june_shade.store.care_tables import CalendarFeed, CareAct, CarePublished
from june_shade.store.drip_tables import DripLayout
from june_shade.store.mulch_tables import MulchEntry
from june_shade.store.planting_tables import Planting
from june_shade.store.site_tables import Stop
from june_shade.store.tree_tables import Plant, Tree


class CareRow(NamedTuple):
    """What a tree's tasks follow from: the tree, the names around it, its kind, when its drip is moved, its planting's
    choice."""

    id: UUID
    tag: str
    place: str
    planted_on: date
    opened_on: date
    method: str
    mulch_material: str | None
    mulch_depth_m: float
    mulch_measured_on: date | None
    mulch_wasting_years: float | None
    microclimate: float
    evergreen: bool
    leaf_out: str | None
    common: str
    stop: str | None
    move_on: date | None
    planting: dict[str, Any] | None


class MulchDay(NamedTuple):
    """Mulch laid or looked at on a day."""

    kind: str
    day: date
    underlay: str | None
    verdict: str | None


FROM_ELSEWHERE = {
    "evergreen": Plant.evergreen, "leaf_out": Plant.leaf_out, "common": Plant.common, "stop": Stop.name,
    "move_on": DripLayout.move_on, "planting": Planting.choice,
}  # fmt: skip
COLUMNS: tuple[Any, ...] = tuple(FROM_ELSEWHERE.get(name, getattr(Tree, name, None)) for name in CareRow._fields)

_OF_TREES = (
    select(*COLUMNS)
    .join(Plant, Plant.id == Tree.plant_id)
    .outerjoin(Stop, Stop.id == Tree.stop_id)
    .outerjoin(DripLayout, DripLayout.id == Tree.layout_id)
    .outerjoin(Planting, Planting.id == Tree.planting_id)
    .order_by(Stop.position.nulls_last(), Tree.row_place, Tree.tag)
)


def rows(session: Session, site_id: UUID, tree_ids: Iterable[UUID] | None = None) -> list[CareRow]:
    """What the tasks of a site's trees follow from, in order of stop and place."""
    query = _OF_TREES.where(Tree.site_id == site_id)
    if tree_ids is not None:
        query = query.where(Tree.id.in_(list(tree_ids)))
    return [CareRow._make(row) for row in session.execute(query)]


def mulch_days(session: Session, site_id: UUID) -> dict[UUID, list[MulchDay]]:
    """Mulch laid and looked at on a site's trees, in order of time."""
    query = (
        select(MulchEntry.tree_id, MulchEntry.kind, MulchEntry.day, MulchEntry.underlay, MulchEntry.verdict)
        .join(Tree, Tree.id == MulchEntry.tree_id)
        .where(Tree.site_id == site_id, MulchEntry.withdrawn_at.is_(None))
        .order_by(MulchEntry.day, MulchEntry.recorded_at, MulchEntry.id)
    )
    found: dict[UUID, list[MulchDay]] = {}
    for tree_id, *values in session.execute(query):
        found.setdefault(tree_id, []).append(MulchDay._make(values))
    return found


def acts(session: Session, site_id: UUID) -> dict[UUID, dict[str, CareAct]]:
    """What stands of what was said, the newest for each task, by tree and key."""
    query = (
        select(CareAct)
        .join(Tree, Tree.id == CareAct.tree_id)
        .where(Tree.site_id == site_id, CareAct.withdrawn_at.is_(None))
        .order_by(CareAct.recorded_at, CareAct.id)
    )
    found: dict[UUID, dict[str, CareAct]] = {}
    for act in session.scalars(query):
        found.setdefault(act.tree_id, {})[act.key] = act
    return found


def published(session: Session, tree_ids: Iterable[UUID]) -> dict[tuple[UUID, str], CarePublished]:
    """What calendars were told of these trees, by tree and key."""
    query = select(CarePublished).where(CarePublished.tree_id.in_(list(tree_ids)))
    return {(row.tree_id, row.key): row for row in session.scalars(query)}


def feeds(session: Session) -> dict[UUID, CalendarFeed]:
    """Addresses of calendars by site."""
    return {row.site_id: row for row in session.scalars(select(CalendarFeed))}


def feed_site(session: Session, secret: str) -> UUID | None:
    """The site that an address is of."""
    return session.scalar(select(CalendarFeed.site_id).where(CalendarFeed.secret == secret))
