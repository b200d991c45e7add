"""A line can be closed: out of its site's lists, its record kept, opened again when a tree is put on it."""

import sqlalchemy as sa
from alembic import op

revision = "0020"
down_revision = "0019"


def upgrade() -> None:
    op.add_column("line", sa.Column("closed_on", sa.Date(), nullable=True))


def downgrade() -> None:
    op.drop_column("line", "closed_on")
