"""Queries on dated tasks: what they follow from, what was said of them, what calendars were told."""

from collections.abc import Iterable, Sequence
from uuid import UUID

from sqlalchemy import Row, select
from sqlalchemy.orm import Session

from june_shade.store.care_tables import CareAct, CarePublished
from june_shade.store.drip_tables import DripLayout
from june_shade.store.mulch_tables import MulchEntry
from june_shade.store.planting_tables import Planting
from june_shade.store.tables import Plant, Stop, Tree

COLUMNS = (
    Tree.id, Tree.tag, Tree.place, Tree.planted_on, Tree.opened_on, Tree.method, Tree.mulch_material,
    Tree.mulch_depth_m,
    Tree.mulch_measured_on, Tree.mulch_wasting_years, Stop.name.label("stop"), Plant.evergreen, Plant.leaf_out,
    Plant.common, DripLayout.move_on, Planting.choice.label("planting"), Tree.microclimate,
)  # fmt: skip


def rows(session: Session, site_id: UUID, tree_ids: Iterable[UUID] | None = None) -> Sequence[Row]:
    """What the tasks of a site's trees follow from, in order of stop and place."""
    query = (
        select(*COLUMNS)
        .join(Plant, Plant.id == Tree.plant_id)
        .outerjoin(Stop, Stop.id == Tree.stop_id)
        .outerjoin(DripLayout, DripLayout.id == Tree.layout_id)
        .outerjoin(Planting, Planting.id == Tree.planting_id)
        .where(Tree.site_id == site_id)
        .order_by(Stop.position.nulls_last(), Tree.row_place, Tree.tag)
    )
    if tree_ids is not None:
        query = query.where(Tree.id.in_(list(tree_ids)))
    return session.execute(query).all()


def mulch_days(session: Session, site_id: UUID) -> dict[UUID, list[Row]]:
    """Mulch laid and looked at on a site's trees, in order of time: kind, day, underlay, verdict."""
    query = (
        select(MulchEntry.tree_id, MulchEntry.kind, MulchEntry.day, MulchEntry.underlay, MulchEntry.verdict)
        .join(Tree, Tree.id == MulchEntry.tree_id)
        .where(Tree.site_id == site_id, MulchEntry.withdrawn_at.is_(None))
        .order_by(MulchEntry.day, MulchEntry.recorded_at, MulchEntry.id)
    )
    found: dict[UUID, list[Row]] = {}
    for row in session.execute(query):
        found.setdefault(row.tree_id, []).append(row)
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
