"""Pictures that lay under a plan are remembered until their files are gone."""

import sqlalchemy as sa
from alembic import op

revision = "0047"
down_revision = "0046"


def upgrade() -> None:
    op.add_column(
        "site_picture", sa.Column("id", sa.Uuid(), server_default=sa.func.gen_random_uuid(), nullable=False)
    )
    op.add_column("site_picture", sa.Column("removed_at", sa.DateTime(timezone=True), nullable=True))
    op.drop_constraint(op.f("pk_site_picture"), "site_picture")
    op.create_primary_key(op.f("pk_site_picture"), "site_picture", ["id"])
    shown = sa.text("removed_at IS NULL")
    op.create_index(op.f("ix_site_picture_site_id"), "site_picture", ["site_id"], unique=True, postgresql_where=shown)


def downgrade() -> None:
    op.execute("DELETE FROM site_picture WHERE removed_at IS NOT NULL")
    op.drop_index(op.f("ix_site_picture_site_id"), "site_picture")
    op.drop_constraint(op.f("pk_site_picture"), "site_picture")
    op.create_primary_key(op.f("pk_site_picture"), "site_picture", ["site_id"])
    op.drop_column("site_picture", "removed_at")
    op.drop_column("site_picture", "id")
