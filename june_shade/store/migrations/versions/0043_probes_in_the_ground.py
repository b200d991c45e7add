"""Probes in the ground, their hours and what their nights say."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

from june_shade.store.migrations.apart import keep_apart, let_together, owned

revision = "0043"
down_revision = "0042"
POINTS = {
    "soil_probe": {"tree_id": "tree"},
    "probe_state": {"probe_id": "soil_probe"},
    "probe_hour": {"probe_id": "soil_probe"},
    "probe_night": {"probe_id": "soil_probe"},
}
WHYS = "'', 'gap', 'elsewhere', 'mars', 'spike', 'stuck', 'frozen'"
TIME = sa.DateTime(timezone=True)


def _to(table: str, column: str, other: str, **more: str) -> sa.ForeignKeyConstraint:
    return sa.ForeignKeyConstraint([column], [f"{other}.id"], name=op.f(f"fk_{table}_{column}_{other}"), **more)


def upgrade() -> None:
    op.create_table(
        "soil_probe",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("tree_id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("address", sa.Text(), nullable=False),
        sa.Column("store", sa.Text(), nullable=False),
        sa.Column("points", JSONB(), nullable=False),
        sa.Column("closed_on", sa.Date(), nullable=True),
        sa.Column("version", sa.Integer(), server_default="1", nullable=False),
        owned(),
        sa.CheckConstraint("store IN ('ball', 'ring')", name=op.f("ck_soil_probe_store_known")),
        _to("soil_probe", "tree_id", "tree", ondelete="CASCADE"),
        _to("soil_probe", "organisation_id", "organisation"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_soil_probe")),
        sa.UniqueConstraint("tree_id", "name", name=op.f("uq_soil_probe_tree_id_name")),
    )
    op.create_table(
        "probe_state",
        sa.Column("probe_id", sa.Uuid(), nullable=False),
        sa.Column("last_seq", sa.Integer(), server_default="0", nullable=False),
        sa.Column("read_on", sa.Date(), nullable=True),
        sa.Column("answered_at", TIME, nullable=True),
        sa.Column("silent_since", TIME, nullable=True),
        sa.Column("said", sa.Text(), server_default="", nullable=False),
        sa.Column("clock_off_min", sa.Float(53), server_default="0", nullable=False),
        sa.Column("battery_percent", sa.Float(53), nullable=True),
        owned(),
        _to("probe_state", "probe_id", "soil_probe", ondelete="CASCADE"),
        _to("probe_state", "organisation_id", "organisation"),
        sa.PrimaryKeyConstraint("probe_id", name=op.f("pk_probe_state")),
    )
    op.create_table(
        "probe_hour",
        sa.Column("probe_id", sa.Uuid(), nullable=False),
        sa.Column("seq", sa.Integer(), nullable=False),
        sa.Column("at", TIME, nullable=False),
        sa.Column("depths_m", JSONB(), nullable=False),
        sa.Column("theta_m3_m3", JSONB(), nullable=False),
        sa.Column("temperature_c", JSONB(), nullable=False),
        owned(),
        _to("probe_hour", "probe_id", "soil_probe", ondelete="CASCADE"),
        _to("probe_hour", "organisation_id", "organisation"),
        sa.PrimaryKeyConstraint("probe_id", "seq", name=op.f("pk_probe_hour")),
    )
    op.create_index(op.f("ix_probe_hour_probe_id_at"), "probe_hour", ["probe_id", "at"])
    op.create_table(
        "probe_night",
        sa.Column("probe_id", sa.Uuid(), nullable=False),
        sa.Column("day", sa.Date(), nullable=False),
        sa.Column("theta_m3_m3", sa.Float(53), nullable=True),
        sa.Column("why", sa.Text(), nullable=False),
        sa.Column("logged", sa.Boolean(), nullable=False),
        owned(),
        sa.CheckConstraint(f"why IN ({WHYS})", name=op.f("ck_probe_night_why_known")),
        _to("probe_night", "probe_id", "soil_probe", ondelete="CASCADE"),
        _to("probe_night", "organisation_id", "organisation"),
        sa.PrimaryKeyConstraint("probe_id", "day", name=op.f("pk_probe_night")),
    )
    for table, points in POINTS.items():
        keep_apart(table, points)


def downgrade() -> None:
    for table, points in reversed(POINTS.items()):
        let_together(table, points)
        op.drop_table(table)
