"""A planting keeps the soil and climate that it was planted by."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0010"
down_revision = "0009"


def upgrade() -> None:
    op.add_column("planting", sa.Column("planted_in", JSONB(), nullable=True))


def downgrade() -> None:
    op.drop_column("planting", "planted_in")
