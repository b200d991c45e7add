"""Drip: layouts as they were laid, and proofs in the field. Kept for good; what is withdrawn no longer counts."""

from datetime import date, datetime
from typing import Any
from uuid import UUID

from sqlalchemy import ARRAY, CheckConstraint, Float, ForeignKey, Index, Text, func
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from june_shade.store.base import Signed, within


class DripLayout(Signed):
    """A layout of one tree. choice: as the core takes it; emitters: where they are, [[x m, y m], ...].

    flow_l_per_h, ball_share, wetted_m2, profile_m2, worst_head_m, move_on, problems: what it does on its line and
    soil, computed anew when those change; a plan goes by them.
    """

    __tablename__ = "drip_layout"
    __table_args__ = (
        within("ball_share", 0, 1),
        within("flow_l_per_h", 0, None),
        Index("ix_drip_layout_tree_id", "tree_id"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True)
    tree_id: Mapped[UUID] = mapped_column(ForeignKey("tree.id", ondelete="CASCADE"))
    laid_on: Mapped[date]
    choice: Mapped[dict[str, Any]] = mapped_column(JSONB)
    emitters: Mapped[list[list[float]]] = mapped_column(JSONB)
    flow_l_per_h: Mapped[float]
    ball_share: Mapped[float]
    wetted_m2: Mapped[float]
    profile_m2: Mapped[list[float] | None] = mapped_column(JSONB(none_as_null=True))
    worst_head_m: Mapped[float]
    move_on: Mapped[date | None]
    problems: Mapped[list[str]] = mapped_column(ARRAY(Text), default=list)
    note: Mapped[str] = mapped_column(default="")
    recorded_at: Mapped[datetime] = mapped_column(server_default=func.now())
    withdrawn_at: Mapped[datetime | None]


class DripProof(Signed):
    """How deep the ground was wet under an emitter after so many minutes, as dug or probed on a day."""

    __tablename__ = "drip_proof"
    __table_args__ = (
        within("minutes", 0, 2880, above=True),
        within("depth_m", 0, 3, above=True),
        within("flow_l_per_h", 0, None, above=True),
        Index("ix_drip_proof_tree_id", "tree_id"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True)
    tree_id: Mapped[UUID] = mapped_column(ForeignKey("tree.id", ondelete="CASCADE"))
    day: Mapped[date]
    minutes: Mapped[float]
    depth_m: Mapped[float]
    flow_l_per_h: Mapped[float]
    note: Mapped[str] = mapped_column(default="")
    recorded_at: Mapped[datetime] = mapped_column(server_default=func.now())
    withdrawn_at: Mapped[datetime | None]


class DripCatch(Signed):
    """What a cup under each emitter of a layout caught in a timed run. caught_ml: in the emitters' order."""

    __tablename__ = "drip_catch"
    __table_args__ = (
        within("minutes", 1, 240),
        CheckConstraint("cardinality(caught_ml) > 0 AND 0 <= ALL (caught_ml)", name="caught_ml_range"),
        Index("ix_drip_catch_tree_id", "tree_id"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True)
    tree_id: Mapped[UUID] = mapped_column(ForeignKey("tree.id", ondelete="CASCADE"))
    layout_id: Mapped[UUID] = mapped_column(ForeignKey("drip_layout.id", ondelete="CASCADE"))
    day: Mapped[date]
    minutes: Mapped[float]
    caught_ml: Mapped[list[float]] = mapped_column(ARRAY(Float(53)))
    note: Mapped[str] = mapped_column(default="")
    recorded_at: Mapped[datetime] = mapped_column(server_default=func.now())
    withdrawn_at: Mapped[datetime | None]
