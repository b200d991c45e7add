"""Boxes at valves: where they are, which line hangs on which outlet, their runs, all that they told."""

from datetime import date, datetime
from typing import Any
from uuid import UUID

from sqlalchemy import ForeignKey, Index, UniqueConstraint
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from june_shade.core.devices.box import EVENTS, VERDICTS
from june_shade.store.base import Owned, Versioned, one_of, within

STATES = ("planned", "sent", "running", "done", "stopped", "missed", "dropped")


class ValveBox(Versioned, Owned):
    """A box of a site. hours: in which its lines may run, [[from, to]] in minutes of the day, a person's own rule."""

    __tablename__ = "valve_box"
    __table_args__ = (UniqueConstraint("site_id", "name"),)

    id: Mapped[UUID] = mapped_column(primary_key=True)
    site_id: Mapped[UUID] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    name: Mapped[str]
    address: Mapped[str]
    hours: Mapped[list[list[float]]] = mapped_column(JSONB)
    closed_on: Mapped[date | None]


class BoxState(Owned):
    """How a box stands, as the program writes it at every turn.

    last_seq: of its events that were taken in; revision: of the schedule that it keeps. answered_at: when it did so
    last; silent_since: NULL while it answers; said: what was wrong with its answer. clock_off_min: when it was compared
    last; clock_doubted: it stays off, so its times count no more. idle_since, idle_l_per_h: water that flows with all
    shut. relied_on: it answers and keeps time, so that nobody has to come for its lines; left_over: runs that it leaves
    to people all the same, [{line_id, day, why}].
    """

    __tablename__ = "box_state"

    box_id: Mapped[UUID] = mapped_column(ForeignKey("valve_box.id", ondelete="CASCADE"), primary_key=True)
    last_seq: Mapped[int] = mapped_column(default=0, server_default="0")
    revision: Mapped[int] = mapped_column(default=0, server_default="0")
    answered_at: Mapped[datetime | None]
    silent_since: Mapped[datetime | None]
    said: Mapped[str] = mapped_column(default="", server_default="")
    clock_off_min: Mapped[float] = mapped_column(default=0.0, server_default="0")
    clock_doubted: Mapped[bool] = mapped_column(default=False, server_default="false")
    idle_since: Mapped[datetime | None]
    idle_l_per_h: Mapped[float] = mapped_column(default=0.0, server_default="0")
    relied_on: Mapped[bool] = mapped_column(default=False, server_default="false")
    left_over: Mapped[list[dict[str, str]]] = mapped_column(JSONB, default=list, server_default="[]")


class BoxOutlet(Owned):
    """An outlet of a box and the line that hangs on it."""

    __tablename__ = "box_outlet"
    __table_args__ = (within("number", 1, 64), UniqueConstraint("line_id"))

    box_id: Mapped[UUID] = mapped_column(ForeignKey("valve_box.id", ondelete="CASCADE"), primary_key=True)
    number: Mapped[int] = mapped_column(primary_key=True)
    line_id: Mapped[UUID] = mapped_column(ForeignKey("line.id", ondelete="CASCADE"))


class BoxRun(Owned):
    """A run of an outlet. line_l_per_h: what its line takes; trees: whom it waters, with their part of that [L/h].

    litres, opened_min, over_at, believed, verdict, share, off_l_per_h: by the meter, once it is over.
    """

    __tablename__ = "box_run"
    __table_args__ = (
        one_of("state", STATES),
        one_of("verdict", VERDICTS),
        Index("ix_box_run_box_id_starts_at", "box_id", "starts_at"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True)
    box_id: Mapped[UUID] = mapped_column(ForeignKey("valve_box.id", ondelete="CASCADE"))
    number: Mapped[int]
    line_id: Mapped[UUID] = mapped_column(ForeignKey("line.id", ondelete="CASCADE"))
    starts_at: Mapped[datetime]
    open_min: Mapped[float]
    goes: Mapped[int]
    rest_min: Mapped[float]
    line_l_per_h: Mapped[float]
    trees: Mapped[dict[str, Any]] = mapped_column(JSONB)
    state: Mapped[str]
    litres: Mapped[float | None]
    opened_min: Mapped[float | None]
    over_at: Mapped[datetime | None]
    believed: Mapped[bool | None]
    verdict: Mapped[str | None]
    share: Mapped[float | None]
    off_l_per_h: Mapped[float | None]


class BoxEvent(Owned):
    """One thing that a box told, as it told it. Never changed, never removed."""

    __tablename__ = "box_event"
    __table_args__ = (one_of("kind", EVENTS),)

    box_id: Mapped[UUID] = mapped_column(ForeignKey("valve_box.id", ondelete="CASCADE"), primary_key=True)
    seq: Mapped[int] = mapped_column(primary_key=True)
    at: Mapped[datetime]
    kind: Mapped[str]
    outlet: Mapped[int]
    run_id: Mapped[str]
    total_l: Mapped[float]
