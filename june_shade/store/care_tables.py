"""What was said of dated tasks, and what of them calendars were told. The tasks themselves follow from the record."""

from datetime import date, datetime
from uuid import UUID, uuid4

from sqlalchemy import CheckConstraint, ForeignKey, Index, UniqueConstraint, func
from sqlalchemy.orm import Mapped, mapped_column

from june_shade.store.base import Owned, Signed, one_of

ACTS = ("done", "moved", "dismissed")


def _one_of_both() -> CheckConstraint:
    return CheckConstraint("num_nonnulls(tree_id, planting_id) = 1", name="of_tree_or_planting")


class CareAct(Signed):
    """A task of a tree, or of a planting, done, moved or dismissed. The newest one that stands counts."""

    __tablename__ = "care_act"
    __table_args__ = (
        one_of("act", ACTS),
        CheckConstraint("act = 'done' OR length(reason) > 0", name="reason_given"),
        _one_of_both(),
        Index("ix_care_act_tree_id", "tree_id"),
        Index("ix_care_act_planting_id", "planting_id"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True)
    tree_id: Mapped[UUID | None] = mapped_column(ForeignKey("tree.id", ondelete="CASCADE"))
    planting_id: Mapped[UUID | None] = mapped_column(ForeignKey("planting.id", ondelete="CASCADE"))
    key: Mapped[str]
    act: Mapped[str]
    day: Mapped[date]
    reason: Mapped[str] = mapped_column(default="")
    recorded_at: Mapped[datetime] = mapped_column(server_default=func.now())
    withdrawn_at: Mapped[datetime | None]


class CarePublished(Owned):
    """What calendars were last told of a task: its content as a digest, how often it changed, whether it is gone."""

    __tablename__ = "care_published"
    __table_args__ = (
        _one_of_both(),
        UniqueConstraint("tree_id", "key"),
        UniqueConstraint("planting_id", "key"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    tree_id: Mapped[UUID | None] = mapped_column(ForeignKey("tree.id", ondelete="CASCADE"))
    planting_id: Mapped[UUID | None] = mapped_column(ForeignKey("planting.id", ondelete="CASCADE"))
    key: Mapped[str]
    kind: Mapped[str]
    due_on: Mapped[date]
    digest: Mapped[str]
    sequence: Mapped[int] = mapped_column(default=0)
    gone: Mapped[bool] = mapped_column(default=False)
    modified_at: Mapped[datetime]


class CalendarFeed(Owned):
    """The secret part of the address that calendars come back to for a site."""

    __tablename__ = "calendar_feed"

    site_id: Mapped[UUID] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"), primary_key=True)
    secret: Mapped[str] = mapped_column(unique=True)
