"""Mulch as it was laid and measured, what of materials lies in the yard. All is kept; what is withdrawn is out.

Things of one day follow each other as they were recorded, also within a transaction.
"""

from datetime import date, datetime
from typing import Any
from uuid import UUID

from sqlalchemy import CheckConstraint, ForeignKey, Index, func
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from june_shade.core.mulch.look import VERDICTS
from june_shade.core.mulch.materials import materials
from june_shade.core.mulch.underlay import KINDS as UNDERLAYS
from june_shade.store.base import Signed, one_of, within

MULCH_KINDS = ("laid", "check")
STOCKED = (*materials(), "coir", "coarse_sand")
"""What lies in the yard: mulch, compost and what is mixed into holes."""
MOVES = ("bought", "counted", "used", "left", "thrown")


class MulchEntry(Signed):
    """Mulch laid on a tree, or looked at. depth_m: settled, the mean where it was measured.

    readings: {depths_m, bark_gap_m, flare_seen, roots_in_mulch} of a look. before: the tree's mulch columns as they
    stood, to go back to. job_id: laid together with others.
    """

    __tablename__ = "mulch_entry"
    __table_args__ = (
        one_of("kind", MULCH_KINDS),
        one_of("material", materials()),
        one_of("underlay", UNDERLAYS),
        one_of("verdict", VERDICTS),
        within("depth_m", 0, 0.6),
        within("outer_radius_m", 0, 15, above=True),
        within("clear_gap_m", 0, 5),
        within("loose_l", 0, 100000),
        CheckConstraint("(kind = 'check') = (readings IS NOT NULL)", name="check_has_readings"),
        Index("ix_mulch_entry_tree_id_day", "tree_id", "day"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True)
    tree_id: Mapped[UUID] = mapped_column(ForeignKey("tree.id", ondelete="CASCADE"))
    kind: Mapped[str]
    day: Mapped[date]
    material: Mapped[str | None]
    depth_m: Mapped[float]
    outer_radius_m: Mapped[float | None]
    clear_gap_m: Mapped[float]
    loose_l: Mapped[float | None]
    compost_l: Mapped[float | None]
    underlay: Mapped[str | None]
    readings: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    verdict: Mapped[str | None]
    job_id: Mapped[UUID | None]
    before: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict)
    note: Mapped[str] = mapped_column(default="")
    recorded_at: Mapped[datetime] = mapped_column(server_default=func.clock_timestamp())
    withdrawn_at: Mapped[datetime | None]


class StockMove(Signed):
    """Loose material that came into the yard or left it [L], minus where it left; counted: what lies there is this."""

    __tablename__ = "stock_move"
    __table_args__ = (
        one_of("material", STOCKED),
        one_of("reason", MOVES),
        within("litres", -1000000, 1000000),
        CheckConstraint("reason NOT IN ('bought', 'left') OR litres >= 0", name="in_is_positive"),
        CheckConstraint("reason NOT IN ('used', 'thrown') OR litres <= 0", name="out_is_negative"),
        CheckConstraint("reason <> 'counted' OR litres >= 0", name="count_is_positive"),
        Index("ix_stock_move_material_day", "material", "day"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True)
    material: Mapped[str]
    reason: Mapped[str]
    litres: Mapped[float]
    day: Mapped[date]
    job_id: Mapped[UUID | None]
    note: Mapped[str] = mapped_column(default="")
    recorded_at: Mapped[datetime] = mapped_column(server_default=func.clock_timestamp())
    withdrawn_at: Mapped[datetime | None]
