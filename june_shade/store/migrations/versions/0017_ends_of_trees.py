"""A tree can die, be removed, be stolen or move away: with its day and cause, out of the rounds, kept in the book."""

import sqlalchemy as sa
from alembic import op

revision = "0017"
down_revision = "0016"


def upgrade() -> None:
    op.create_table(
        "tree_end",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("tree_id", sa.Uuid(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("day", sa.Date(), nullable=False),
        sa.Column("cause", sa.Text(), nullable=False),
        sa.Column("person_id", sa.Uuid(), nullable=True),
        sa.Column("recorded_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("withdrawn_at", sa.DateTime(timezone=True), nullable=True),
        sa.CheckConstraint("kind IN ('dead', 'removed', 'stolen', 'moved')", name=op.f("ck_tree_end_kind_known")),
        sa.ForeignKeyConstraint(["tree_id"], ["tree.id"], name=op.f("fk_tree_end_tree_id_tree"), ondelete="CASCADE"),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_tree_end_person_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_tree_end")),
    )
    op.create_index("ix_tree_end_tree_id", "tree_end", ["tree_id"])
    op.add_column("tree", sa.Column("ended_on", sa.Date(), nullable=True))
    op.drop_index("uq_tree_site_id_tag", "tree")
    op.create_index(
        "uq_tree_site_id_tag", "tree", ["site_id", "tag"], unique=True,
        postgresql_where=sa.text("withdrawn_at IS NULL AND ended_on IS NULL"),
    )  # fmt: skip


def downgrade() -> None:
    op.execute("UPDATE tree SET tag = tag || ' (' || ended_on || ')' WHERE ended_on IS NOT NULL")
    op.drop_index("uq_tree_site_id_tag", "tree")
    op.create_index(
        "uq_tree_site_id_tag", "tree", ["site_id", "tag"], unique=True, postgresql_where=sa.text("withdrawn_at IS NULL")
    )
    op.drop_column("tree", "ended_on")
    op.drop_table("tree_end")
