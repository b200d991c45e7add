"""Probes in the ground: where each stands, how it is calibrated, its hours as it told them, what each night says."""

from datetime import date, datetime
from typing import Any
from uuid import UUID

from sqlalchemy import ForeignKey, Index, UniqueConstraint
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from june_shade.core.devices.probe import WHYS
from june_shade.store.base import Owned, Versioned, one_of

STORES = ("ball", "ring")


class SoilProbe(Versioned, Owned):
    """A probe at a tree. store: which of its stores it stands in; points: what it read [m3/m3] where the truth was
    known, by kind: {"wet" | "felt": {"at", "read_m3_m3", "true_m3_m3", "feel"}}."""

    __tablename__ = "soil_probe"
    __table_args__ = (one_of("store", STORES), UniqueConstraint("tree_id", "name"))

    id: Mapped[UUID] = mapped_column(primary_key=True)
    tree_id: Mapped[UUID] = mapped_column(ForeignKey("tree.id", ondelete="CASCADE"))
    name: Mapped[str]
    address: Mapped[str]
    store: Mapped[str]
    points: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict)
    closed_on: Mapped[date | None]


class ProbeState(Owned):
    """How a probe stands, as the program writes it at every turn.

    last_seq: of its hours that were taken in; read_on: the last day whose night was read. answered_at: when it did so
    last; silent_since: NULL while it answers; said: what was wrong with its answer; clock_off_min: when it was compared
    last; battery_percent: NULL while it never answered.
    """

    __tablename__ = "probe_state"

    probe_id: Mapped[UUID] = mapped_column(ForeignKey("soil_probe.id", ondelete="CASCADE"), primary_key=True)
    last_seq: Mapped[int] = mapped_column(default=0, server_default="0")
    read_on: Mapped[date | None]
    answered_at: Mapped[datetime | None]
    silent_since: Mapped[datetime | None]
    said: Mapped[str] = mapped_column(default="", server_default="")
    clock_off_min: Mapped[float] = mapped_column(default=0.0, server_default="0")
    battery_percent: Mapped[float | None]


class ProbeHour(Owned):
    """One hour that a probe told, of each of its depths. Never changed, never removed."""

    __tablename__ = "probe_hour"
    __table_args__ = (Index("ix_probe_hour_probe_id_at", "probe_id", "at"),)

    probe_id: Mapped[UUID] = mapped_column(ForeignKey("soil_probe.id", ondelete="CASCADE"), primary_key=True)
    seq: Mapped[int] = mapped_column(primary_key=True)
    at: Mapped[datetime]
    depths_m: Mapped[list[float]] = mapped_column(JSONB)
    theta_m3_m3: Mapped[list[float]] = mapped_column(JSONB)
    temperature_c: Mapped[list[float]] = mapped_column(JSONB)


class ProbeNight(Owned):
    """What the hours up to six in the morning of a day said of the store [m3/m3], or why they said nothing.

    logged: whether it went into the log as a reading.
    """

    __tablename__ = "probe_night"
    __table_args__ = (one_of("why", WHYS),)

    probe_id: Mapped[UUID] = mapped_column(ForeignKey("soil_probe.id", ondelete="CASCADE"), primary_key=True)
    day: Mapped[date] = mapped_column(primary_key=True)
    theta_m3_m3: Mapped[float | None]
    why: Mapped[str]
    logged: Mapped[bool]
