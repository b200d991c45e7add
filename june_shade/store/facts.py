"""What plans know of a site and of its trees: frozen facts, read once, without rows or sessions behind them."""

from collections.abc import Iterable
from dataclasses import dataclass, fields
from datetime import date
from typing import Any
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import InstrumentedAttribute, Session

from june_shade.core.fields import columns as field_columns
from june_shade.store.drip_tables import DripLayout
from june_shade.store.site_tables import Site, Stop
from june_shade.store.tree_tables import FormerWay, Plant, Tree


@dataclass(frozen=True, slots=True)
class SiteFacts:
    """A site as it is stored. Lengths m, flows L/h, volumes L; None where it was not measured."""

    id: UUID
    name: str
    timezone: str
    latitude_deg: float
    longitude_deg: float
    elevation_m: float
    climate: str
    texture: str
    root_depth_max_m: float
    hose_flow_l_per_h: float
    tank_flow_l_per_h: float | None
    pour_step_l: float
    tank_l: float | None
    crew_hours: float | None
    working_days: list[int]
    water_price_per_m3: float | None
    hour_price: float | None
    mode: str
    water_source: str
    water_ec_ds_m: float | None
    water_sar: float | None
    station_id: UUID | None


@dataclass(frozen=True, slots=True)
class WayFacts:
    """How a tree is watered, or was. Lengths m, volumes L, flows L/h; drip_*: of the layout, None without one."""

    method: str
    basin_diameter_m: float | None
    basin_depth_m: float | None
    emitter_count: int
    emitter_flow_l_per_h: float
    bag_capacity_l: float
    soaker_across_m: float | None
    soaker_flow_l_per_h_m: float | None
    sprinkler_across_m: float | None
    sprinkler_flow_l_per_h: float | None
    reservoir_l: float | None
    layout_id: UUID | None
    drip_ball_share: float | None
    drip_profile_m2: list[float] | None


@dataclass(frozen=True, slots=True)
class TreeFacts(WayFacts):
    """A tree as it is stored, with what its kind and the layout it goes by say. Lengths m, volumes L, flows L/h.

    drip_emitters: where the emitters of its layout are, [[x m, y m], ...].
    """

    id: UUID
    site_id: UUID
    tag: str
    place: str
    side: str
    note_for_crew: str
    latitude_deg: float | None
    longitude_deg: float | None
    row_place: int
    stop_id: UUID | None
    line_id: UUID | None
    kind: str
    caliper_m: float
    ball_diameter_m: float
    ball_height_m: float
    ball_volume_l: float | None
    crown_diameter_m: float | None
    planted_on: date
    opened_on: date
    opening: str
    ball_wetness: float | None
    ring_wetness: float | None
    bud_break_on: date | None
    handed_on: date | None
    worth: float
    microclimate: float
    surround: str
    mode: str | None
    mulch_material: str | None
    mulch_depth_m: float
    mulch_outer_radius_m: float | None
    mulch_measured_on: date | None
    mulch_clear_gap_m: float
    mulch_wasting_years: float | None
    water_need: str
    evergreen: bool
    common: str
    leaf_out: str | None
    leaf_fall: str | None
    salt_tolerance: str
    drought_tolerance: str
    depletion_fraction: float
    drip_flow_l_per_h: float | None
    drip_emitters: list[list[float]] | None
    drip_wetted_m2: float | None
    drip_problems: list[str] | None


OF_PLANT = (
    "water_need", "evergreen", "common", "leaf_out", "leaf_fall", "salt_tolerance", "drought_tolerance",
    "depletion_fraction",
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class FormerWayFacts(WayFacts):
    """How a tree was watered until a day, that day left out; leaching 0..1; on_its_own: by the deep routine."""

    tree_id: UUID
    until: date
    leaching: float
    on_its_own: bool


WAY_COLUMNS = (*field_columns(resting="way"), "layout_id")
"""Columns of a tree that say how it is watered: they hold from a day on."""


def _column(name: str) -> InstrumentedAttribute[Any]:
    if name.startswith("drip_"):
        return getattr(DripLayout, name.removeprefix("drip_"))
    return getattr(Plant if name in OF_PLANT else Tree, name)


_COLUMNS = tuple(_column(f.name) for f in fields(TreeFacts))
_OF_TREES = (
    select(*_COLUMNS)
    .join(Plant, Plant.id == Tree.plant_id)
    .outerjoin(Stop, Stop.id == Tree.stop_id)
    .outerjoin(DripLayout, DripLayout.id == Tree.layout_id)
    .order_by(Stop.position.nulls_last(), Tree.row_place, Tree.tag)
)
_SITE_COLUMNS = tuple(f.name for f in fields(SiteFacts))


def site_facts(site: Site) -> SiteFacts:
    """A site's facts from its row."""
    return SiteFacts(*(getattr(site, name) for name in _SITE_COLUMNS))


def tree_facts(session: Session, site_id: UUID, tree_ids: Iterable[UUID] | None = None) -> tuple[TreeFacts, ...]:
    """The trees of a site, or some of them, in order of stop and place."""
    query = _OF_TREES.where(Tree.site_id == site_id)
    if tree_ids is not None:
        query = query.where(Tree.id.in_(list(tree_ids)))
    return tuple(TreeFacts(*row) for row in session.execute(query))


def former_ways(session: Session, site_id: UUID, since: date) -> dict[UUID, list[FormerWayFacts]]:
    """How the trees of a site were watered before, in order of time, by tree: ways that held on or after a day."""
    columns = tuple(getattr(FormerWay, f.name) for f in fields(FormerWayFacts))
    query = (
        select(*columns)
        .join(Tree, Tree.id == FormerWay.tree_id)
        .where(Tree.site_id == site_id, FormerWay.until > since)
        .order_by(FormerWay.tree_id, FormerWay.until)
    )
    found: dict[UUID, list[FormerWayFacts]] = {}
    for row in session.execute(query):
        found.setdefault(row.tree_id, []).append(FormerWayFacts(*row))
    return found
