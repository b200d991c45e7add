"""Where trees of a line are gone, and what was laid for them was closed."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0044"
down_revision = "0043"


def upgrade() -> None:
    op.add_column("line", sa.Column("closed_gaps", JSONB(), server_default="[]", nullable=False))


def downgrade() -> None:
    op.drop_column("line", "closed_gaps")
