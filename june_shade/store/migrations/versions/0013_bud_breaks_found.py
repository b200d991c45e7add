"""The few notes of broken buds are found without reading a whole log."""

import sqlalchemy as sa
from alembic import op

revision = "0013"
down_revision = "0012"


def upgrade() -> None:
    op.create_index(
        "ix_log_entry_bud_break", "log_entry", ["tree_id", "local_date"], postgresql_where=sa.text("seen = 'bud_break'")
    )


def downgrade() -> None:
    op.drop_index("ix_log_entry_bud_break", "log_entry")
