"""A planting that was written down by mistake can be undone: its trees leave the register, their tags are free again."""

import sqlalchemy as sa
from alembic import op

revision = "0012"
down_revision = "0011"


def upgrade() -> None:
    op.add_column("tree", sa.Column("withdrawn_at", sa.DateTime(timezone=True), nullable=True))
    op.drop_constraint("uq_tree_site_id_tag", "tree", type_="unique")
    op.create_index(
        "uq_tree_site_id_tag", "tree", ["site_id", "tag"], unique=True, postgresql_where=sa.text("withdrawn_at IS NULL")
    )
    op.add_column("planting", sa.Column("planted_entry_id", sa.Uuid(), nullable=True))
    op.add_column("planting", sa.Column("times_undone", sa.Integer(), nullable=False, server_default="0"))


def downgrade() -> None:
    op.drop_column("planting", "times_undone")
    op.drop_column("planting", "planted_entry_id")
    op.drop_index("uq_tree_site_id_tag", "tree")
    op.create_unique_constraint("uq_tree_site_id_tag", "tree", ["site_id", "tag"])
    op.drop_column("tree", "withdrawn_at")
