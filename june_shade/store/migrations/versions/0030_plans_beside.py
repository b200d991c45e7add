"""What plans beside the standing one come to."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0030"
down_revision = "0029"


def upgrade() -> None:
    op.create_table(
        "plans_beside",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("organisation_id", sa.Uuid(), sa.ForeignKey("organisation.id"), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("first_day", sa.Date(), nullable=False),
        sa.Column("told", postgresql.JSONB(), nullable=False),
    )


def downgrade() -> None:
    op.drop_table("plans_beside")
