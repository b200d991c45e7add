"""What would save water: tasks that were made of it, with how the tree stood before; what parts cost."""

from datetime import date, datetime
from typing import Any
from uuid import UUID

from sqlalchemy import ForeignKey, Index, func
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from june_shade.core.saving.measures import MEASURES, PARTS
from june_shade.store.base import OURS, Owned, Signed, one_of, within


class SavingTask(Signed):
    """One thing to change at a tree: what it turns its fields into, as they were before, litres a week that it was
    reckoned to save, from and to [L]; the day from which it is a task."""

    __tablename__ = "saving_task"
    __table_args__ = (one_of("measure", MEASURES[:-1]), Index("ix_saving_task_tree_id", "tree_id"))

    id: Mapped[UUID] = mapped_column(primary_key=True)
    tree_id: Mapped[UUID] = mapped_column(ForeignKey("tree.id", ondelete="CASCADE"))
    measure: Mapped[str]
    fields: Mapped[dict[str, Any]] = mapped_column(JSONB)
    before: Mapped[dict[str, Any]] = mapped_column(JSONB)
    low_l: Mapped[float]
    high_l: Mapped[float]
    made_on: Mapped[date]
    made_at: Mapped[datetime] = mapped_column(server_default=func.now())


class PartPrice(Owned):
    """What a part costs: a piece, a metre of tube, a cubic metre of mulch."""

    __tablename__ = "part_price"
    __table_args__ = (one_of("name", PARTS), within("price", 0, 100_000))

    organisation_id: Mapped[UUID] = mapped_column(ForeignKey("organisation.id"), primary_key=True, server_default=OURS)
    name: Mapped[str] = mapped_column(primary_key=True)
    price: Mapped[float]
