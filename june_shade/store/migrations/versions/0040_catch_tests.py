"""Catch tests: what cups under emitters caught in a timed run."""

import sqlalchemy as sa
from alembic import op

from june_shade.store.migrations.apart import keep_apart, let_together, owned

revision = "0040"
down_revision = "0039"
POINTS = {"tree_id": "tree", "layout_id": "drip_layout", "entered_by": "account"}


def _to(column: str, other: str, **more: str) -> sa.ForeignKeyConstraint:
    return sa.ForeignKeyConstraint([column], [f"{other}.id"], name=op.f(f"fk_drip_catch_{column}_{other}"), **more)


def upgrade() -> None:
    op.create_table(
        "drip_catch",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("tree_id", sa.Uuid(), nullable=False),
        sa.Column("layout_id", sa.Uuid(), nullable=False),
        sa.Column("day", sa.Date(), nullable=False),
        sa.Column("minutes", sa.Float(53), nullable=False),
        sa.Column("caught_ml", sa.ARRAY(sa.Float(53)), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("recorded_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("withdrawn_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("entered_by", sa.Uuid(), server_default=sa.text("account_now()"), nullable=True),
        owned(),
        sa.CheckConstraint("minutes >= 1 AND minutes <= 240", name=op.f("ck_drip_catch_minutes_range")),
        sa.CheckConstraint(
            "cardinality(caught_ml) > 0 AND 0 <= ALL (caught_ml)", name=op.f("ck_drip_catch_caught_ml_range")
        ),
        _to("tree_id", "tree", ondelete="CASCADE"),
        _to("layout_id", "drip_layout", ondelete="CASCADE"),
        _to("entered_by", "account"),
        _to("organisation_id", "organisation"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_drip_catch")),
    )
    op.create_index(op.f("ix_drip_catch_tree_id"), "drip_catch", ["tree_id"])
    keep_apart("drip_catch", POINTS)


def downgrade() -> None:
    let_together("drip_catch", POINTS)
    op.drop_table("drip_catch")
