"""Plantings: a batch of like trees, planned and then planted; what was looked at on the stock, tree by tree."""

from datetime import date, datetime
from typing import Any
from uuid import UUID

from sqlalchemy import CheckConstraint, ForeignKey, Index, func
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from june_shade.core.stock.balls import KINDS
from june_shade.core.water.delivery import METHODS
from june_shade.core.water.trees import SURROUNDS
from june_shade.store.base import Signed, Versioned, one_of, within
from june_shade.store.site_tables import Site
from june_shade.store.tree_tables import Plant


class Planting(Versioned, Signed):
    """A batch of like trees at one stop. choice: as the core takes it, empty = as suggested; checks: {number: answers}.

    planted_on: None while it is planned. count: as ordered; those that were rejected are in checks. tag, place: of the
    first tree, as a row of trees takes them. way: the measures of the method; line: name of the valve they hang on
    together. first_water_l: poured on each tree on planting day. planted_in: soil in
    force and climate as they were known then and what was chosen until then, NULL before and for what was planted
    before they were kept. planted_entry_id: the client's id of the "planted" that came last; times_undone: how often
    one was taken back.
    """

    __tablename__ = "planting"
    __table_args__ = (
        one_of("kind", KINDS),
        one_of("method", METHODS),
        one_of("surround", SURROUNDS),
        within("count", 1, 500),
        within("caliper_m", 0, 1, above=True),
        within("ball_diameter_m", 0, 5, above=True),
        within("ball_height_m", 0, 3, above=True),
        within("ball_volume_l", 0, 20000, above=True),
        within("flare_below_top_m", 0, 2),
        within("microclimate", 0.1, 3),
        CheckConstraint("flare_below_top_m < ball_height_m", name="flare_in_ball"),
        Index("ix_planting_site_id", "site_id"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True)
    site_id: Mapped[UUID] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    stop: Mapped[str] = mapped_column(default="")
    planned_on: Mapped[date]
    plant_id: Mapped[UUID] = mapped_column(ForeignKey("plant.id"))
    stock_size_id: Mapped[UUID | None] = mapped_column(ForeignKey("stock_size.id"))
    kind: Mapped[str]
    caliper_m: Mapped[float]
    ball_diameter_m: Mapped[float]
    ball_height_m: Mapped[float]
    ball_volume_l: Mapped[float | None]
    flare_below_top_m: Mapped[float] = mapped_column(default=0.0)
    count: Mapped[int] = mapped_column(default=1)
    tag: Mapped[str]
    place: Mapped[str] = mapped_column(default="")
    microclimate: Mapped[float] = mapped_column(default=1.0)
    surround: Mapped[str] = mapped_column(default="bare")
    method: Mapped[str] = mapped_column(default="hose")
    way: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict, server_default="{}")
    line: Mapped[str] = mapped_column(default="", server_default="")
    obstacles: Mapped[list[dict[str, Any]]] = mapped_column(JSONB, default=list)
    choice: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict)
    checks: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict)
    planted_on: Mapped[date | None]
    first_water_l: Mapped[float | None]
    planted_in: Mapped[dict[str, Any] | None] = mapped_column(JSONB)
    planted_entry_id: Mapped[UUID | None]
    times_undone: Mapped[int] = mapped_column(default=0, server_default="0")
    note: Mapped[str] = mapped_column(default="")
    recorded_at: Mapped[datetime] = mapped_column(server_default=func.now())
    withdrawn_at: Mapped[datetime | None]

    site: Mapped[Site] = relationship()
    plant: Mapped[Plant] = relationship()
