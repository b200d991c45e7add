"""Whether a box is relied on, and the runs that it leaves to people."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0046"
down_revision = "0045"


def upgrade() -> None:
    op.add_column("box_state", sa.Column("relied_on", sa.Boolean(), server_default="false", nullable=False))
    op.add_column("box_state", sa.Column("left_over", JSONB(), server_default="[]", nullable=False))


def downgrade() -> None:
    op.drop_column("box_state", "left_over")
    op.drop_column("box_state", "relied_on")
