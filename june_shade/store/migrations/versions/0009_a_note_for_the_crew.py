"""A tree carries a short note for the crew."""

import sqlalchemy as sa
from alembic import op

revision = "0009"
down_revision = "0008"


def upgrade() -> None:
    op.add_column("tree", sa.Column("note_for_crew", sa.Text(), server_default="", nullable=False))


def downgrade() -> None:
    op.drop_column("tree", "note_for_crew")
