"""Which routine of watering trees follow, from which day on. Kept for good; taken back a choice is withdrawn."""

from datetime import date, datetime
from uuid import UUID

from sqlalchemy import CheckConstraint, ForeignKey, Index, func
from sqlalchemy.orm import Mapped, mapped_column

from june_shade.core.water.schools import RANGES, ROUTINES
from june_shade.store.base import Signed, one_of, within


class RoutineChoice(Signed):
    """A routine that a tree follows from a day on, until another is chosen; figures that it doesn't go by are NULL.

    choice_id: what was sent once for many trees.
    """

    __tablename__ = "routine_choice"
    __table_args__ = (
        one_of("name", ROUTINES),
        CheckConstraint("every_days >= 1 AND every_days <= 60", name="every_days_range"),
        *(within(name, *RANGES[name]) for name in ("litres", "mm", "flow_l_per_h", "hours")),
        within("dry_limit", *RANGES["limit"]),
        Index("ix_routine_choice_tree_id", "tree_id"),
        Index("ix_routine_choice_choice_id", "choice_id"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True)
    choice_id: Mapped[UUID]
    tree_id: Mapped[UUID] = mapped_column(ForeignKey("tree.id", ondelete="CASCADE"))
    since: Mapped[date]
    name: Mapped[str]
    litres: Mapped[float | None]
    every_days: Mapped[int | None]
    mm: Mapped[float | None]
    flow_l_per_h: Mapped[float | None]
    hours: Mapped[float | None]
    dry_limit: Mapped[float | None]
    person_id: Mapped[UUID | None] = mapped_column(ForeignKey("person.id"))
    recorded_at: Mapped[datetime] = mapped_column(server_default=func.now())
    withdrawn_at: Mapped[datetime | None]
