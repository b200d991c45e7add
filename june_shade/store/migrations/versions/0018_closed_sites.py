"""A site can be closed: out of rounds and lists, kept in the book, opened again."""

import sqlalchemy as sa
from alembic import op

revision = "0018"
down_revision = "0017"


def upgrade() -> None:
    op.add_column("site", sa.Column("closed_on", sa.Date(), nullable=True))


def downgrade() -> None:
    op.drop_column("site", "closed_on")
