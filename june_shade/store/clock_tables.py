"""The demo's clock."""

from datetime import datetime

from sqlalchemy import (
    CheckConstraint,
)
from sqlalchemy.orm import Mapped, mapped_column

from june_shade.store.base import Base


class PinnedClock(Base):
    """The demo's clock: what time it was said to be when the real one stood at real_at. One row, or none."""

    __tablename__ = "pinned_clock"
    __table_args__ = (CheckConstraint("id = 1", name="one_row"),)

    id: Mapped[int] = mapped_column(primary_key=True, default=1)
    shown_at: Mapped[datetime]
    real_at: Mapped[datetime]
