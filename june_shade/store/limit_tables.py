"""Orders of water authorities, suppliers and clients: what they allow, for which sites, in their own words."""

from datetime import date, datetime
from typing import Any
from uuid import UUID

from sqlalchemy import ForeignKey, func
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from june_shade.store.base import Owned, Versioned, within


class Restriction(Versioned, Owned):
    """An order. rules: weekdays, windows, methods, event_l and exempt, as of `june restriction`; week_l: for all its
    sites together; closes_yards: no tank is filled; words: its text as it was given out; withdrawn_at: entered by
    mistake or lifted for good."""

    __tablename__ = "restriction"
    __table_args__ = (within("stage", 0, 5), within("week_l", 0, 100_000_000))

    id: Mapped[UUID] = mapped_column(primary_key=True)
    name: Mapped[str]
    stage: Mapped[int]
    first_day: Mapped[date | None]
    last_day: Mapped[date | None]
    rules: Mapped[dict[str, Any]] = mapped_column(JSONB)
    week_l: Mapped[float | None]
    closes_yards: Mapped[bool] = mapped_column(default=False)
    words: Mapped[str] = mapped_column(default="")
    link: Mapped[str] = mapped_column(default="")
    recorded_at: Mapped[datetime] = mapped_column(server_default=func.now())
    withdrawn_at: Mapped[datetime | None]


class RestrictionSite(Owned):
    """A site that an order holds for."""

    __tablename__ = "restriction_site"

    restriction_id: Mapped[UUID] = mapped_column(ForeignKey("restriction.id", ondelete="CASCADE"), primary_key=True)
    site_id: Mapped[UUID] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"), primary_key=True)
