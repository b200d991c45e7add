"""Where each tree of a line stands: along the row, and above its valve."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0041"
down_revision = "0040"


def upgrade() -> None:
    op.add_column("line", sa.Column("lie", JSONB(), server_default="[]", nullable=False))


def downgrade() -> None:
    op.drop_column("line", "lie")
