"""Kept states know how far off their wetness may be. They are a cache: all are let go and computed anew."""

import sqlalchemy as sa
from alembic import op

revision = "0022"
down_revision = "0021"


def upgrade() -> None:
    op.execute("TRUNCATE tree_state")
    for name in ("ball_variance", "near_variance"):
        op.add_column("tree_state", sa.Column(name, sa.Float(precision=53), nullable=False))


def downgrade() -> None:
    for name in ("ball_variance", "near_variance"):
        op.drop_column("tree_state", name)
