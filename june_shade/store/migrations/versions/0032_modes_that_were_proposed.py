"""Modes that the program proposed for trees and that somebody took."""

import sqlalchemy as sa
from alembic import op

revision = "0032"
down_revision = "0031"


def upgrade() -> None:
    op.create_table(
        "proposed_mode",
        sa.Column("tree_id", sa.Uuid(), sa.ForeignKey("tree.id", ondelete="CASCADE"), primary_key=True),
        sa.Column("mode", sa.Text(), nullable=False),
        sa.Column("day", sa.Date(), nullable=False),
        sa.Column("within_l", sa.Float(), nullable=False),
        sa.CheckConstraint("mode IN ('grow', 'hold', 'survive')", name=op.f("ck_proposed_mode_mode_known")),
        sa.CheckConstraint("within_l >= 0", name=op.f("ck_proposed_mode_within_l_range")),
    )


def downgrade() -> None:
    op.drop_table("proposed_mode")
