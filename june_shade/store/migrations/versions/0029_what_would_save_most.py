"""Tasks made of what would save water, and what parts cost."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0029"
down_revision = "0028"

MEASURES = "'basin_narrow', 'basin_wide', 'bag', 'mulch', 'turf', 'drip', 'box', 'dawn'"
PARTS = "'bag', 'box', 'emitter', 'tube_m', 'mulch_m3'"


def upgrade() -> None:
    op.create_table(
        "saving_task",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("tree_id", sa.Uuid(), sa.ForeignKey("tree.id", ondelete="CASCADE"), nullable=False),
        sa.Column("measure", sa.Text(), nullable=False),
        *(sa.Column(name, postgresql.JSONB(), nullable=False) for name in ("fields", "before")),
        *(sa.Column(name, sa.Float(53), nullable=False) for name in ("low_l", "high_l")),
        sa.Column("made_on", sa.Date(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.CheckConstraint(f"measure IN ({MEASURES})", name=op.f("ck_saving_task_measure_known")),
    )
    op.create_index("ix_saving_task_tree_id", "saving_task", ["tree_id"])
    op.create_table(
        "part_price",
        sa.Column("organisation_id", sa.Uuid(), sa.ForeignKey("organisation.id"), primary_key=True),
        sa.Column("name", sa.Text(), primary_key=True),
        sa.Column("price", sa.Float(53), nullable=False),
        sa.CheckConstraint(f"name IN ({PARTS})", name=op.f("ck_part_price_name_known")),
        sa.CheckConstraint("price >= 0 AND price <= 100000", name=op.f("ck_part_price_price_range")),
    )


def downgrade() -> None:
    op.drop_table("part_price")
    op.drop_table("saving_task")
