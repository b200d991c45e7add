"""Files that were brought in, and days that were corrected by hand: what came of each, and what undoes it."""

from datetime import date, datetime
from typing import Any
from uuid import UUID

from sqlalchemy import ForeignKey, Index, LargeBinary, func
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, deferred, mapped_column

from june_shade.store.base import Owned, Signed, one_of

KINDS = ("trees", "weather", "day")
STATES = ("reading", "read", "storing", "stored", "undoing", "undone", "refused", "cancelled")
UNDER_WAY = ("reading", "storing", "undoing")


class Import(Signed):
    """A file on its way in, or a day put right by hand (kind `day`).

    state: being read, read and waiting for a yes, being stored, stored, being undone, undone; or refused (problem,
    field: why), ended by a person. content: the file as long as it may be read again. done, total: lines worked on, of
    how many. outcome: what it brings, as pages show it. before: of trees, what undoes it.
    """

    __tablename__ = "import"
    __table_args__ = (one_of("kind", KINDS), one_of("state", STATES), Index("ix_import_station_id", "station_id"))

    id: Mapped[UUID] = mapped_column(primary_key=True)
    kind: Mapped[str]
    station_id: Mapped[UUID | None] = mapped_column(ForeignKey("station.id", ondelete="CASCADE"))
    name: Mapped[str]
    mapping: Mapped[dict[str, str]] = mapped_column(JSONB, default=dict)
    content: Mapped[bytes | None] = deferred(mapped_column(LargeBinary))
    state: Mapped[str]
    done: Mapped[int] = mapped_column(default=0, server_default="0")
    total: Mapped[int] = mapped_column(default=0, server_default="0")
    outcome: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    before: Mapped[dict[str, Any] | None] = deferred(mapped_column(JSONB(none_as_null=True)))
    problem: Mapped[str] = mapped_column(default="", server_default="")
    field: Mapped[str] = mapped_column(default="", server_default="")
    created_at: Mapped[datetime] = mapped_column(server_default=func.now())
    stored_at: Mapped[datetime | None]
    undone_at: Mapped[datetime | None]


class ReplacedDay(Owned):
    """A day that an import wrote: what the station had before it, NULL = nothing, and which import that was of."""

    __tablename__ = "replaced_day"
    __table_args__ = (Index("ix_replaced_day_before_id", "before_id"),)

    import_id: Mapped[UUID] = mapped_column(ForeignKey("import.id", ondelete="CASCADE"), primary_key=True)
    day: Mapped[date] = mapped_column(primary_key=True)
    before_id: Mapped[UUID | None] = mapped_column(ForeignKey("import.id", ondelete="CASCADE"))
    reading: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
