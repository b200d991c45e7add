"""What is shown to a client: links to one site's trees, plan and book."""

from datetime import date, datetime
from uuid import UUID, uuid4

from sqlalchemy import CheckConstraint, ForeignKey, func
from sqlalchemy.orm import Mapped, mapped_column

from june_shade.store.base import Owned, Signed


class Share(Signed):
    """A site shown to somebody up to a day: by an address that only they know, or to their account when they sign in.

    name: for whom; secret: the address's; seen_at: when it was looked at last.
    """

    __tablename__ = "share"
    __table_args__ = (CheckConstraint("length(name) > 0", name="name_given"),)

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    site_id: Mapped[UUID] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"), index=True)
    account_id: Mapped[UUID | None] = mapped_column(ForeignKey("account.id"))
    name: Mapped[str]
    secret: Mapped[str] = mapped_column(unique=True)
    ends_on: Mapped[date]
    made_at: Mapped[datetime] = mapped_column(server_default=func.now())
    seen_at: Mapped[datetime | None]
    revoked_at: Mapped[datetime | None]


class PersonFeed(Owned):
    """The secret part of the address of a person's own calendar: what is due at all sites."""

    __tablename__ = "person_feed"

    account_id: Mapped[UUID] = mapped_column(ForeignKey("account.id", ondelete="CASCADE"), primary_key=True)
    secret: Mapped[str] = mapped_column(unique=True)
