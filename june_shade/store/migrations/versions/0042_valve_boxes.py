"""Boxes at valves, their outlets, runs and events."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

from june_shade.store.migrations.apart import keep_apart, let_together, owned

revision = "0042"
down_revision = "0041"
POINTS = {
    "valve_box": {"site_id": "site"},
    "box_state": {"box_id": "valve_box"},
    "box_outlet": {"box_id": "valve_box", "line_id": "line"},
    "box_run": {"box_id": "valve_box", "line_id": "line"},
    "box_event": {"box_id": "valve_box"},
}
STATES = "'planned', 'sent', 'running', 'done', 'stopped', 'missed', 'dropped'"
VERDICTS = "'stuck_shut', 'blocked', 'clogging', 'fine', 'leak', 'burst'"
EVENTS = "'opened', 'shut', 'stopped', 'restarted', 'clock_set', 'refused'"
TIME = sa.DateTime(timezone=True)


def _to(table: str, column: str, other: str, **more: str) -> sa.ForeignKeyConstraint:
    return sa.ForeignKeyConstraint([column], [f"{other}.id"], name=op.f(f"fk_{table}_{column}_{other}"), **more)


def upgrade() -> None:
    op.create_table(
        "valve_box",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("site_id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("address", sa.Text(), nullable=False),
        sa.Column("hours", JSONB(), nullable=False),
        sa.Column("closed_on", sa.Date(), nullable=True),
        sa.Column("version", sa.Integer(), server_default="1", nullable=False),
        owned(),
        _to("valve_box", "site_id", "site", ondelete="CASCADE"),
        _to("valve_box", "organisation_id", "organisation"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_valve_box")),
        sa.UniqueConstraint("site_id", "name", name=op.f("uq_valve_box_site_id_name")),
    )
    op.create_table(
        "box_state",
        sa.Column("box_id", sa.Uuid(), nullable=False),
        sa.Column("last_seq", sa.Integer(), server_default="0", nullable=False),
        sa.Column("revision", sa.Integer(), server_default="0", nullable=False),
        sa.Column("answered_at", TIME, nullable=True),
        sa.Column("silent_since", TIME, nullable=True),
        sa.Column("said", sa.Text(), server_default="", nullable=False),
        sa.Column("clock_off_min", sa.Float(53), server_default="0", nullable=False),
        sa.Column("clock_doubted", sa.Boolean(), server_default="false", nullable=False),
        sa.Column("idle_since", TIME, nullable=True),
        sa.Column("idle_l_per_h", sa.Float(53), server_default="0", nullable=False),
        owned(),
        _to("box_state", "box_id", "valve_box", ondelete="CASCADE"),
        _to("box_state", "organisation_id", "organisation"),
        sa.PrimaryKeyConstraint("box_id", name=op.f("pk_box_state")),
    )
    op.create_table(
        "box_outlet",
        sa.Column("box_id", sa.Uuid(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("line_id", sa.Uuid(), nullable=False),
        owned(),
        sa.CheckConstraint("number >= 1 AND number <= 64", name=op.f("ck_box_outlet_number_range")),
        _to("box_outlet", "box_id", "valve_box", ondelete="CASCADE"),
        _to("box_outlet", "line_id", "line", ondelete="CASCADE"),
        _to("box_outlet", "organisation_id", "organisation"),
        sa.PrimaryKeyConstraint("box_id", "number", name=op.f("pk_box_outlet")),
        sa.UniqueConstraint("line_id", name=op.f("uq_box_outlet_line_id")),
    )
    op.create_table(
        "box_run",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("box_id", sa.Uuid(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("line_id", sa.Uuid(), nullable=False),
        sa.Column("starts_at", TIME, nullable=False),
        sa.Column("open_min", sa.Float(53), nullable=False),
        sa.Column("goes", sa.Integer(), nullable=False),
        sa.Column("rest_min", sa.Float(53), nullable=False),
        sa.Column("line_l_per_h", sa.Float(53), nullable=False),
        sa.Column("trees", JSONB(), nullable=False),
        sa.Column("state", sa.Text(), nullable=False),
        sa.Column("litres", sa.Float(53), nullable=True),
        sa.Column("opened_min", sa.Float(53), nullable=True),
        sa.Column("over_at", TIME, nullable=True),
        sa.Column("believed", sa.Boolean(), nullable=True),
        sa.Column("verdict", sa.Text(), nullable=True),
        sa.Column("share", sa.Float(53), nullable=True),
        sa.Column("off_l_per_h", sa.Float(53), nullable=True),
        owned(),
        sa.CheckConstraint(f"state IN ({STATES})", name=op.f("ck_box_run_state_known")),
        sa.CheckConstraint(f"verdict IN ({VERDICTS})", name=op.f("ck_box_run_verdict_known")),
        _to("box_run", "box_id", "valve_box", ondelete="CASCADE"),
        _to("box_run", "line_id", "line", ondelete="CASCADE"),
        _to("box_run", "organisation_id", "organisation"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_box_run")),
    )
    op.create_index(op.f("ix_box_run_box_id_starts_at"), "box_run", ["box_id", "starts_at"])
    op.create_table(
        "box_event",
        sa.Column("box_id", sa.Uuid(), nullable=False),
        sa.Column("seq", sa.Integer(), nullable=False),
        sa.Column("at", TIME, nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("outlet", sa.Integer(), nullable=False),
        sa.Column("run_id", sa.Text(), nullable=False),
        sa.Column("total_l", sa.Float(53), nullable=False),
        owned(),
        sa.CheckConstraint(f"kind IN ({EVENTS})", name=op.f("ck_box_event_kind_known")),
        _to("box_event", "box_id", "valve_box", ondelete="CASCADE"),
        _to("box_event", "organisation_id", "organisation"),
        sa.PrimaryKeyConstraint("box_id", "seq", name=op.f("pk_box_event")),
    )
    for table, points in POINTS.items():
        keep_apart(table, points)


def downgrade() -> None:
    for table, points in reversed(POINTS.items()):
        let_together(table, points)
        op.drop_table(table)
