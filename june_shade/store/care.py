"""Queries on dated tasks: what they follow from, what was said of them, what calendars were told."""

from collections.abc import Iterable
from datetime import date
from typing import Any, NamedTuple
from uuid import UUID

from sqlalchemy import extract, func, or_, select
from sqlalchemy.orm import Session

from june_shade.core.care.frost import FREEZES_C, Half
from june_shade.store.care_tables import CalendarFeed, CareAct, CarePublished
from june_shade.store.drip_tables import DripLayout
from june_shade.store.mulch_tables import MulchEntry
from june_shade.store.planting_tables import Planting
from june_shade.store.site_tables import Stop
from june_shade.store.tree_tables import Plant, Tree
from june_shade.store.weather_tables import StationDay


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
    fruit: str
    frost_c: float | None
    pests: list[str]
    leaf_out: str | None
    common: str
    stop: str | None
    handed_on: date | None
    move_on: date | None
    planting: dict[str, Any] | None


class MulchDay(NamedTuple):
    """Mulch laid or looked at on a day."""

    kind: str
    day: date
    underlay: str | None
    verdict: str | None


FROM_ELSEWHERE = {
    "fruit": Plant.fruit, "frost_c": Plant.frost_c, "pests": Plant.pests,
    "leaf_out": Plant.leaf_out, "common": Plant.common, "stop": Stop.name,
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


class PlantingRow(NamedTuple):
    """A batch that is still to be planted."""

    id: UUID
    tag: str
    place: str
    stop: str
    planned_on: date
    kind: str
    common: str


def plantings(session: Session, site_id: UUID) -> list[PlantingRow]:
    """A site's batches that are still to be planted."""
    query = (
        select(
            Planting.id, Planting.tag, Planting.place, Planting.stop, Planting.planned_on, Planting.kind, Plant.common
        )
        .join(Plant, Plant.id == Planting.plant_id)
        .where(Planting.site_id == site_id, Planting.planted_on.is_(None), Planting.withdrawn_at.is_(None))
        .order_by(Planting.planned_on, Planting.tag)
    )
    return [PlantingRow._make(row) for row in session.execute(query)]


def acts(session: Session, site_id: UUID) -> dict[UUID, dict[str, CareAct]]:
    """What stands of what was said, the newest for each task, by tree or planting and key."""
    query = (
        select(CareAct)
        .outerjoin(Tree, Tree.id == CareAct.tree_id)
        .outerjoin(Planting, Planting.id == CareAct.planting_id)
        .where(or_(Tree.site_id == site_id, Planting.site_id == site_id), CareAct.withdrawn_at.is_(None))
        .order_by(CareAct.recorded_at, CareAct.id)
    )
    found: dict[UUID, dict[str, CareAct]] = {}
    for act in session.scalars(query):
        subject = act.tree_id or act.planting_id
        assert subject is not None
        found.setdefault(subject, {})[act.key] = act
    return found


def published(session: Session, subjects: Iterable[UUID]) -> dict[tuple[UUID, str], CarePublished]:
    """What calendars were told of these trees and plantings, by their id and key."""
    ids = list(subjects)
    query = select(CarePublished).where(or_(CarePublished.tree_id.in_(ids), CarePublished.planting_id.in_(ids)))
    found: dict[tuple[UUID, str], CarePublished] = {}
    for row in session.scalars(query):
        subject = row.tree_id or row.planting_id
        assert subject is not None
        found[subject, row.key] = row
    return found


def frosts(session: Session, station_id: UUID) -> list[Half]:
    """A station's half years: nights measured, first and last frost."""
    frosty = StationDay.tmin_c <= FREEZES_C
    year, second = extract("year", StationDay.day), extract("month", StationDay.day) > 6
    query = (
        select(
            year, second, func.count(), func.min(StationDay.day).filter(frosty),
            func.max(StationDay.day).filter(frosty),
        )
        .where(StationDay.station_id == station_id, StationDay.tmin_c.is_not(None))
        .group_by(year, second)
    )  # fmt: skip
    return [Half(int(y), bool(half), n, first, last) for y, half, n, first, last in session.execute(query)]


def most_tender_c(session: Session, site_id: UUID, planted_since: date) -> float | None:
    """The highest temperature at which frost hurts a young tree of a site [degC], None where it hurts none."""
    query = (
        select(func.max(Plant.frost_c))
        .join(Tree, Tree.plant_id == Plant.id)
        .where(Tree.site_id == site_id, Tree.planted_on >= planted_since)
    )
    return session.scalar(query)


def feeds(session: Session) -> dict[UUID, CalendarFeed]:
    """Addresses of calendars by site."""
    return {row.site_id: row for row in session.scalars(select(CalendarFeed))}


def feed_organisation(session: Session, secret: str) -> UUID | None:
    """The organisation that an address is of."""
    return session.scalar(select(CalendarFeed.organisation_id).where(CalendarFeed.secret == secret))


def feed_site(session: Session, secret: str) -> UUID | None:
    """The site that an address is of."""
    return session.scalar(select(CalendarFeed.site_id).where(CalendarFeed.secret == secret))
