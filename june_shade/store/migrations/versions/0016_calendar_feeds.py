"""Calendars come back to an address with a secret in it."""

import sqlalchemy as sa
from alembic import op

revision = "0016"
down_revision = "0015"


def upgrade() -> None:
    op.create_table(
        "calendar_feed",
        sa.Column("site_id", sa.Uuid(), nullable=False),
        sa.Column("secret", sa.Text(), nullable=False),
        sa.ForeignKeyConstraint(
            ["site_id"], ["site.id"], name=op.f("fk_calendar_feed_site_id_site"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("site_id", name=op.f("pk_calendar_feed")),
        sa.UniqueConstraint("secret", name=op.f("uq_calendar_feed_secret")),
    )


def downgrade() -> None:
    op.drop_table("calendar_feed")
