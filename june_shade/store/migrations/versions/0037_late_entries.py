"""Entries of a phone that was signed out meanwhile: they wait for the owner's yes."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

from june_shade.store.migrations.apart import keep_apart, let_together, owned

revision = "0037"
down_revision = "0036"
POINTS = {"device_id": "device", "asked_by": "account", "said_by": "account"}


def _points_to(column: str) -> sa.ForeignKeyConstraint:
    return sa.ForeignKeyConstraint([column], [f"{POINTS[column]}.id"], name=op.f(f"fk_late_ask_{column}_{POINTS[column]}"))


def upgrade() -> None:
    op.add_column(
        "device", sa.Column("signed_out_elsewhere", sa.Boolean(), server_default=sa.false(), nullable=False)
    )
    op.create_table(
        "late_ask",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("device_id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("items", postgresql.JSONB(), nullable=False),
        sa.Column("asked_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("asked_by", sa.Uuid(), nullable=False),
        sa.Column("said", sa.Text(), nullable=True),
        sa.Column("said_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("said_by", sa.Uuid(), nullable=True),
        owned(),
        sa.CheckConstraint("said IN ('yes', 'no')", name=op.f("ck_late_ask_said_known")),
        sa.CheckConstraint("num_nulls(said, said_at, said_by) IN (0, 3)", name=op.f("ck_late_ask_said_by_whom")),
        *(_points_to(column) for column in POINTS),
        sa.ForeignKeyConstraint(
            ["organisation_id"], ["organisation.id"], name=op.f("fk_late_ask_organisation_id_organisation")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_late_ask")),
        sa.UniqueConstraint("device_id", name=op.f("uq_late_ask_device_id")),
    )
    keep_apart("late_ask", POINTS)


def downgrade() -> None:
    let_together("late_ask", POINTS)
    op.drop_table("late_ask")
    op.drop_column("device", "signed_out_elsewhere")
