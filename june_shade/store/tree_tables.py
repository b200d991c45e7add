"""Kinds of tree, stock, trees, how they were watered before, their computed days.

`tree_state` is a cache of computed days, never a record: it may be emptied at any time.
"""

from datetime import date, datetime
from typing import Any
from uuid import UUID, uuid4

from sqlalchemy import (
    CheckConstraint,
    ForeignKey,
    Index,
    UniqueConstraint,
    func,
    text,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from june_shade.core.choosing.harm import WORTH
from june_shade.core.mulch.materials import materials
from june_shade.core.mulch.ring import CLEAR_GAP_M
from june_shade.core.stock.balls import KINDS
from june_shade.core.stock.plants import DROUGHT_TOLERANCES, FRUITS, PLANT_FACTOR
from june_shade.core.water.delivery import METHODS
from june_shade.core.water.modes import MODES
from june_shade.core.water.salts import TOLERANCES
from june_shade.core.water.trees import SURROUNDS
from june_shade.store.base import Owned, Signed, Versioned, one_of, within
from june_shade.store.site_tables import Line, Site, Stop

OPENINGS = ("full", "reading", "guessed")


class Plant(Versioned, Owned):
    """A kind of tree: names, water need, leaf dates (MM-DD), tolerances, mature size, where that is from.

    fruit: what it bears for people; frost_c: frost from here down hurts it while young, NULL = it does not; pests:
    what it is looked over for.
    """

    __tablename__ = "plant"
    __table_args__ = (
        UniqueConstraint("organisation_id", "botanical", name="uq_plant_botanical"),
        one_of("water_need", PLANT_FACTOR),
        one_of("drought_tolerance", DROUGHT_TOLERANCES),
        one_of("salt_tolerance", TOLERANCES),
        one_of("fruit", FRUITS),
        within("frost_c", -30, 5),
        CheckConstraint("(leaf_out IS NULL) = (leaf_fall IS NULL)", name="leaf_dates_both"),
        within("sun_hours", 0, 16),
        CheckConstraint("depletion_fraction > 0 AND depletion_fraction < 1", name="depletion_fraction_range"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    botanical: Mapped[str]
    common: Mapped[str]
    water_need: Mapped[str]
    evergreen: Mapped[bool]
    leaf_out: Mapped[str | None]
    leaf_fall: Mapped[str | None]
    drought_tolerance: Mapped[str] = mapped_column(default="moderate", server_default="moderate")
    salt_tolerance: Mapped[str] = mapped_column(default="sensitive", server_default="sensitive")
    mature_height_m: Mapped[float]
    mature_spread_m: Mapped[float]
    sun_hours: Mapped[float] = mapped_column(default=6.0, server_default="6")
    depletion_fraction: Mapped[float] = mapped_column(default=0.5, server_default="0.5")
    fruit: Mapped[str] = mapped_column(default="none", server_default="none")
    frost_c: Mapped[float | None]
    pests: Mapped[list[str]] = mapped_column(JSONB, default=list, server_default="[]")
    source: Mapped[str]


class StockSize(Owned):
    """A class of nursery stock with its published dimensions."""

    __tablename__ = "stock_size"
    __table_args__ = (
        UniqueConstraint("organisation_id", "label", name="uq_stock_size_label"),
        one_of("kind", KINDS),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    kind: Mapped[str]
    label: Mapped[str]
    caliper_m: Mapped[float]
    ball_diameter_m: Mapped[float]
    ball_height_m: Mapped[float]
    volume_l_low: Mapped[float | None]
    volume_l_high: Mapped[float | None]
    source: Mapped[str]


ENDS = ("dead", "removed", "stolen", "moved")
STANDS = "withdrawn_at IS NULL AND ended_on IS NULL"


class Tree(Versioned, Owned):
    """One planted tree: which, where, its ball, how it is poured, its mulch, how its record opens.

    mulch_wasting_years: its own time constant by what was measured, NULL = the material's. mulch_choice: what is to be
    laid next, NULL = as suggested. planting_id: the planting that it was part of, if that was written down.
    withdrawn_at: when its planting was undone; it is in no list then and its tag is free (store/session.py). ended_on:
    the day it died or went (TreeEnd); it is in the book only then. handed_on: since when it stands on its own
    (OwnAct), NULL = it doesn't.
    """

    __tablename__ = "tree"
    __table_args__ = (
        Index("uq_tree_site_id_tag", "site_id", "tag", unique=True, postgresql_where=text(STANDS)),
        one_of("kind", KINDS),
        one_of("surround", SURROUNDS),
        one_of("method", METHODS),
        one_of("opening", OPENINGS),
        one_of("mulch_material", materials()),
        one_of("mode", MODES),
        CheckConstraint(f"worth IN ({', '.join(f'{w:g}' for w in WORTH.values())})", name="worth_known"),
        within("caliper_m", 0, 1, above=True),
        within("ball_diameter_m", 0, 5, above=True),
        within("ball_height_m", 0, 3, above=True),
        within("ball_volume_l", 0, 20000, above=True),
        within("crown_diameter_m", 0, 40),
        within("edging_m", 0, 3),
        within("microclimate", 0.1, 3),
        within("basin_diameter_m", 0, 10, above=True),
        within("mulch_depth_m", 0, 1),
        within("mulch_outer_radius_m", 0, 15, above=True),
        within("mulch_clear_gap_m", 0, 5),
        within("mulch_wasting_years", 0, 100, above=True),
        CheckConstraint("planted_on >= DATE '1950-01-01'", name="planted_on_range"),
        CheckConstraint("opened_on >= planted_on", name="opened_after_planting"),
        within("ball_wetness", 0, 1),
        within("ring_wetness", 0, 1),
        CheckConstraint(
            "opening <> 'reading' OR (ball_wetness IS NOT NULL AND ring_wetness IS NOT NULL)", name="reading_given"
        ),
        CheckConstraint(
            "method <> 'emitters' OR (emitter_count >= 1 AND emitter_flow_l_per_h > 0)", name="emitters_given"
        ),
        CheckConstraint(
            "method <> 'soaker' OR (soaker_across_m > 0 AND soaker_flow_l_per_h_m > 0)", name="soaker_given"
        ),
        CheckConstraint(
            "method <> 'sprinkler' OR (sprinkler_across_m > 0 AND sprinkler_flow_l_per_h > 0)", name="sprinkler_given"
        ),
        CheckConstraint("method <> 'wicked' OR reservoir_l > 0", name="reservoir_given"),
        within("latitude_deg", -90, 90),
        within("longitude_deg", -180, 180),
        Index("ix_tree_stop_id", "stop_id"),
        Index("ix_tree_line_id", "line_id"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    site_id: Mapped[UUID] = mapped_column(ForeignKey("site.id"))
    stop_id: Mapped[UUID | None] = mapped_column(ForeignKey("stop.id", ondelete="SET NULL"))
    tag: Mapped[str]
    place: Mapped[str] = mapped_column(default="")
    side: Mapped[str] = mapped_column(default="", server_default="")
    note_for_crew: Mapped[str] = mapped_column(default="", server_default="")
    row_place: Mapped[int] = mapped_column(default=0)
    line_id: Mapped[UUID | None] = mapped_column(ForeignKey("line.id", ondelete="SET NULL"))
    latitude_deg: Mapped[float | None]
    longitude_deg: Mapped[float | None]
    plant_id: Mapped[UUID] = mapped_column(ForeignKey("plant.id"))
    stock_size_id: Mapped[UUID | None] = mapped_column(ForeignKey("stock_size.id"))
    kind: Mapped[str]
    caliper_m: Mapped[float]
    ball_diameter_m: Mapped[float]
    ball_height_m: Mapped[float]
    ball_volume_l: Mapped[float | None]
    crown_diameter_m: Mapped[float | None]
    planted_on: Mapped[date]
    opened_on: Mapped[date]
    opening: Mapped[str] = mapped_column(default="full")
    ball_wetness: Mapped[float | None]
    ring_wetness: Mapped[float | None]
    bud_break_on: Mapped[date | None]
    microclimate: Mapped[float] = mapped_column(default=1.0)
    surround: Mapped[str] = mapped_column(default="bare")
    method: Mapped[str] = mapped_column(default="hose")
    basin_diameter_m: Mapped[float | None]
    basin_depth_m: Mapped[float | None]
    emitter_count: Mapped[int] = mapped_column(default=0)
    emitter_flow_l_per_h: Mapped[float] = mapped_column(default=0.0)
    bag_capacity_l: Mapped[float] = mapped_column(default=75.0)
    soaker_across_m: Mapped[float | None]
    soaker_flow_l_per_h_m: Mapped[float | None]
    sprinkler_across_m: Mapped[float | None]
    sprinkler_flow_l_per_h: Mapped[float | None]
    reservoir_l: Mapped[float | None]
    mode: Mapped[str | None]
    worth: Mapped[float] = mapped_column(default=1.0, server_default="1")
    mulch_material: Mapped[str | None]
    mulch_depth_m: Mapped[float] = mapped_column(default=0.0)
    mulch_outer_radius_m: Mapped[float | None]
    mulch_measured_on: Mapped[date | None]
    edging_m: Mapped[float] = mapped_column(default=0.0, server_default="0")
    mulch_clear_gap_m: Mapped[float] = mapped_column(default=CLEAR_GAP_M, server_default="0.08")
    mulch_wasting_years: Mapped[float | None]
    withdrawn_at: Mapped[datetime | None]
    ended_on: Mapped[date | None]
    handed_on: Mapped[date | None]
    mulch_choice: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    planting_id: Mapped[UUID | None] = mapped_column(ForeignKey("planting.id", ondelete="SET NULL", use_alter=True))
    obstacles: Mapped[list[dict[str, Any]]] = mapped_column(JSONB, default=list, server_default="[]")
    layout_id: Mapped[UUID | None] = mapped_column(ForeignKey("drip_layout.id", ondelete="SET NULL", use_alter=True))

    site: Mapped[Site] = relationship()
    stop: Mapped[Stop | None] = relationship()
    line: Mapped[Line | None] = relationship()
    plant: Mapped[Plant] = relationship()


class TreeEnd(Signed):
    """That a tree died, was removed, was stolen or moved away; taken back it is withdrawn, never erased."""

    __tablename__ = "tree_end"
    __table_args__ = (one_of("kind", ENDS), Index("ix_tree_end_tree_id", "tree_id"))

    id: Mapped[UUID] = mapped_column(primary_key=True)
    tree_id: Mapped[UUID] = mapped_column(ForeignKey("tree.id", ondelete="CASCADE"))
    kind: Mapped[str]
    day: Mapped[date]
    cause: Mapped[str] = mapped_column(default="")
    person_id: Mapped[UUID | None] = mapped_column(ForeignKey("person.id"))
    recorded_at: Mapped[datetime] = mapped_column(server_default=func.now())
    withdrawn_at: Mapped[datetime | None]


class FormerWay(Owned):
    """How a tree was watered until a day, that day left out: its way of pouring as it was then.

    leaching: the share that only washed salts. drip_*: what the layout that lay there did. What holds now stands in the
    tree's own row.
    """

    __tablename__ = "former_way"
    __table_args__ = (one_of("method", METHODS), within("leaching", 0, 1), within("drip_ball_share", 0, 1))

    tree_id: Mapped[UUID] = mapped_column(ForeignKey("tree.id", ondelete="CASCADE"), primary_key=True)
    until: Mapped[date] = mapped_column(primary_key=True)
    method: Mapped[str]
    basin_diameter_m: Mapped[float | None]
    basin_depth_m: Mapped[float | None]
    emitter_count: Mapped[int]
    emitter_flow_l_per_h: Mapped[float]
    bag_capacity_l: Mapped[float]
    soaker_across_m: Mapped[float | None]
    soaker_flow_l_per_h_m: Mapped[float | None]
    sprinkler_across_m: Mapped[float | None]
    sprinkler_flow_l_per_h: Mapped[float | None]
    reservoir_l: Mapped[float | None]
    leaching: Mapped[float]
    layout_id: Mapped[UUID | None] = mapped_column(ForeignKey("drip_layout.id", ondelete="SET NULL"))
    drip_ball_share: Mapped[float | None]
    drip_profile_m2: Mapped[list[float] | None] = mapped_column(JSONB(none_as_null=True))
    on_its_own: Mapped[bool] = mapped_column(default=False, server_default="false")
    recorded_at: Mapped[datetime] = mapped_column(server_default=func.now())


class TreeState(Owned):
    """Cache: a tree's computed state at the end of a day."""

    __tablename__ = "tree_state"

    tree_id: Mapped[UUID] = mapped_column(ForeignKey("tree.id", ondelete="CASCADE"), primary_key=True)
    day: Mapped[date] = mapped_column(primary_key=True)
    root_radius_m: Mapped[float]
    ball_depletion_l: Mapped[float]
    near_depletion_l: Mapped[float]
    far_depletion_l: Mapped[float]
    near_volume_l: Mapped[float]
    far_volume_l: Mapped[float]
    outside_depletion_mm: Mapped[float]
    ks: Mapped[float]
    soggy: Mapped[bool]
    soggy_days: Mapped[float]
    rain_before_mm: Mapped[float]
    late_days: Mapped[int]
    reservoir_l: Mapped[float] = mapped_column(default=0.0, server_default="0")
    ball_variance: Mapped[float]
    near_variance: Mapped[float]
