"""Soil tests of a site, as they were read."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0003"
down_revision = "0002"

KINDS = "'crumble', 'clump', 'jar', 'ribbon', 'percentages', 'drain_hole', 'infiltration', 'hardpan'"


def upgrade() -> None:
    op.create_table(
        "soil_test",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("site_id", sa.Uuid(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("day", sa.Date(), nullable=False),
        sa.Column("place", sa.Text(), nullable=False),
        sa.Column("readings", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("used", sa.Boolean(), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("recorded_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.Column("withdrawn_at", sa.DateTime(timezone=True)),
        sa.CheckConstraint(f"kind IN ({KINDS})", name=op.f("ck_soil_test_kind_known")),
        sa.ForeignKeyConstraint(["site_id"], ["site.id"], name="fk_soil_test_site_id_site", ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("id", name="pk_soil_test"),
    )
    op.create_index("ix_soil_test_site_id_day", "soil_test", ["site_id", "day"])


def downgrade() -> None:
    op.drop_table("soil_test")
