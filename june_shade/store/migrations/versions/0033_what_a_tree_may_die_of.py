"""Whether a tree may die of no visit at all, and of waiting."""

import sqlalchemy as sa
from alembic import op

revision = "0033"
down_revision = "0032"
COLUMNS = ("none_dies", "waits_dies")


def upgrade() -> None:
    for name in COLUMNS:
        op.add_column("chosen_tree", sa.Column(name, sa.Boolean(), nullable=False, server_default=sa.false()))
        op.alter_column("chosen_tree", name, server_default=None)


def downgrade() -> None:
    for name in COLUMNS:
        op.drop_column("chosen_tree", name)
