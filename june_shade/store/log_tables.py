"""Who waters, and the log: append-only, a trigger (in the first migration) refuses UPDATE, DELETE and TRUNCATE."""

from datetime import date, datetime, time
from uuid import UUID, uuid4

from sqlalchemy import CheckConstraint, ForeignKey, Index, UniqueConstraint, func, text
from sqlalchemy.orm import Mapped, mapped_column

from june_shade.core.water.felt import FEELS, HANDS, PROBE
from june_shade.store.base import Owned, Signed, one_of, within

LOG_KINDS = ("water", "note", "skip", "reading", "void")
SKIP_REASONS = ("no_access", "soil_wet", "no_water", "no_time", "tree_gone", "other")
SEEN_KINDS = (
    "wilting",
    "scorch",
    "pest",
    "damage",
    "leak",
    "wet_ground",
    "dry_ball",
    "mulch_off",
    "support",
    "bud_break",
    "other",
)


class Person(Owned):
    """Someone who waters; a name, chosen once per device."""

    __tablename__ = "person"
    __table_args__ = (UniqueConstraint("organisation_id", "name", name="uq_person_name"),)

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    name: Mapped[str]


class LogEntry(Signed):
    """One thing done or seen, or the voiding of one. Never changed, never removed."""

    __tablename__ = "log_entry"
    __table_args__ = (
        one_of("kind", LOG_KINDS),
        CheckConstraint("(kind = 'void') = (voids IS NOT NULL)", name="void_names_entry"),
        CheckConstraint("(kind = 'water') = (volume_l IS NOT NULL)", name="water_has_volume"),
        CheckConstraint("volume_l > 0 AND volume_l <= 20000", name="volume_l_range"),
        CheckConstraint("duration_min >= 0 AND duration_min <= 2880", name="duration_min_range"),
        CheckConstraint("kind <> 'note' OR length(note) > 0 OR seen IS NOT NULL", name="note_says_something"),
        CheckConstraint("(kind = 'skip') = (reason IS NOT NULL)", name="skip_has_reason"),
        CheckConstraint("seen IS NULL OR kind = 'note'", name="seen_in_notes"),
        CheckConstraint("(kind = 'reading') = (how IS NOT NULL)", name="reading_says_how"),
        CheckConstraint(
            "(kind = 'reading') = (num_nonnulls(ball_feel, ring_feel, ball_theta, ring_theta) > 0)",
            name="reading_says_something",
        ),
        CheckConstraint(
            "(num_nonnulls(ball_theta, ring_theta) = 0) OR how = 'probe' AND num_nonnulls(ball_feel, ring_feel) = 0",
            name="a_probe_reads_numbers",
        ),
        within("ball_theta", 0, 1),
        within("ring_theta", 0, 1),
        one_of("how", (*HANDS, PROBE)),
        one_of("ball_feel", FEELS),
        one_of("ring_feel", FEELS),
        one_of("reason", SKIP_REASONS),
        one_of("seen", SEEN_KINDS),
        Index("ix_log_entry_tree_id_local_date", "tree_id", "local_date"),
        Index("ix_log_entry_local_date", "local_date"),
        Index("ix_log_entry_reading", "tree_id", "local_date", postgresql_where=text("kind = 'reading'")),
        Index("ix_log_entry_bud_break", "tree_id", "local_date", postgresql_where=text("seen = 'bud_break'")),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True)
    tree_id: Mapped[UUID] = mapped_column(ForeignKey("tree.id"))
    kind: Mapped[str]
    happened_at: Mapped[datetime]
    local_date: Mapped[date]
    local_time: Mapped[time]
    recorded_at: Mapped[datetime] = mapped_column(server_default=func.now())
    person_id: Mapped[UUID | None] = mapped_column(ForeignKey("person.id"))
    device_id: Mapped[str]
    volume_l: Mapped[float | None]
    duration_min: Mapped[float | None]
    note: Mapped[str | None]
    reason: Mapped[str | None]
    seen: Mapped[str | None]
    how: Mapped[str | None]
    ball_feel: Mapped[str | None]
    ring_feel: Mapped[str | None]
    ball_theta: Mapped[float | None]
    ring_theta: Mapped[float | None]
    voids: Mapped[UUID | None] = mapped_column(ForeignKey("log_entry.id"), unique=True)
