"""Organisations: each has its own sites, trees, people and plans, and sees no other's."""

from uuid import UUID, uuid4

from sqlalchemy.orm import Mapped, mapped_column

from june_shade.core.choosing.fortnight import SLACK, SLACK_RANGE
from june_shade.store.base import Base, within

FIRST_ORGANISATION = UUID("00000000-0000-4000-8000-000000000001")
"""The organisation that every database begins with; without accounts there is no other."""


class Organisation(Base):
    """Who sites belong to. harm_slack: how much more than the least harm a plan may cost that saves water, a share."""

    __tablename__ = "organisation"
    __table_args__ = (within("harm_slack", *SLACK_RANGE),)

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    name: Mapped[str] = mapped_column(unique=True)
    harm_slack: Mapped[float] = mapped_column(default=SLACK)
