"""Crews: what each has to work with, what a day takes from it, and which site is lent to which crew for a day."""

from datetime import date
from uuid import UUID, uuid4

from sqlalchemy import ARRAY, CheckConstraint, ForeignKey, Integer, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column

from june_shade.core.choosing import hands
from june_shade.store.base import Owned, Versioned, within


class Crew(Versioned, Owned):
    """People who water together: their yard, hours, hoses and tank, and how long a stop and a tree take them.

    closed_on: since when there is no such crew any more.
    """

    __tablename__ = "crew"
    __table_args__ = (
        UniqueConstraint("organisation_id", "name"),
        within("yard_latitude_deg", -90, 90),
        within("yard_longitude_deg", -180, 180),
        *(within(name, *hands.RANGES[name]) for name in hands.RANGES),
        CheckConstraint("working_days <@ ARRAY[0, 1, 2, 3, 4, 5, 6]", name="working_days_known"),
        CheckConstraint("(yard_latitude_deg IS NULL) = (yard_longitude_deg IS NULL)", name="yard_whole"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    name: Mapped[str]
    yard_latitude_deg: Mapped[float | None]
    yard_longitude_deg: Mapped[float | None]
    people: Mapped[int] = mapped_column(default=2)
    working_days: Mapped[list[int]] = mapped_column(ARRAY(Integer), default=lambda: list(range(5)))
    starts_min: Mapped[int] = mapped_column(default=hands.STARTS_MIN)
    hours: Mapped[float] = mapped_column(default=hands.HOURS)
    break_min: Mapped[float] = mapped_column(default=hands.BREAK_MIN)
    hoses: Mapped[int] = mapped_column(default=1)
    tank_l: Mapped[float | None]
    fill_min: Mapped[float] = mapped_column(default=hands.FILL_MIN)
    set_up_min: Mapped[float] = mapped_column(default=hands.SET_UP_MIN)
    handling_min: Mapped[float] = mapped_column(default=hands.HANDLING_MIN)
    closed_on: Mapped[date | None]


class CrewDay(Owned):
    """What a day takes from a crew: hands missing, a late start or an early end, a pump that is broken."""

    __tablename__ = "crew_day"
    __table_args__ = (
        within("people_less", 0, 50),
        within("starts_min", 0, 1440),
        within("ends_min", 0, 1440),
    )

    crew_id: Mapped[UUID] = mapped_column(ForeignKey("crew.id", ondelete="CASCADE"), primary_key=True)
    day: Mapped[date] = mapped_column(primary_key=True)
    people_less: Mapped[int] = mapped_column(default=0)
    starts_min: Mapped[int | None]
    ends_min: Mapped[int | None]
    pump_broken: Mapped[bool] = mapped_column(default=False)


class SiteLoan(Owned):
    """A site that another crew waters on a day."""

    __tablename__ = "site_loan"

    site_id: Mapped[UUID] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"), primary_key=True)
    day: Mapped[date] = mapped_column(primary_key=True)
    crew_id: Mapped[UUID] = mapped_column(ForeignKey("crew.id", ondelete="CASCADE"))
