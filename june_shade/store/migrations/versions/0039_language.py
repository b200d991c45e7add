"""The language that a person reads."""

import sqlalchemy as sa
from alembic import op

revision = "0039"
down_revision = "0038"


def upgrade() -> None:
    op.add_column("account", sa.Column("language", sa.Text(), nullable=True))


def downgrade() -> None:
    op.drop_column("account", "language")
