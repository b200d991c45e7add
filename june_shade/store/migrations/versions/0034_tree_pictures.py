"""Pictures of trees; their files are kept beside the database."""

import sqlalchemy as sa
from alembic import op

revision = "0034"
down_revision = "0033"


def upgrade() -> None:
    op.create_table(
        "tree_picture",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("tree_id", sa.Uuid(), nullable=False),
        sa.Column("occasion", sa.Text(), nullable=False),
        sa.Column("entry_id", sa.Uuid(), nullable=True),
        sa.Column("day", sa.Date(), nullable=False),
        sa.Column("sha256", sa.Text(), nullable=False),
        sa.Column("width_px", sa.Integer(), nullable=False),
        sa.Column("height_px", sa.Integer(), nullable=False),
        sa.Column("person_id", sa.Uuid(), nullable=True),
        sa.Column("recorded_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("removed_at", sa.DateTime(timezone=True), nullable=True),
        sa.CheckConstraint(
            "occasion IN ('tree', 'note', 'checkup', 'planted', 'ended')", name=op.f("ck_tree_picture_occasion_known")
        ),
        sa.CheckConstraint(
            "(occasion = 'tree') = (entry_id IS NULL)", name=op.f("ck_tree_picture_an_occasion_has_its_row")
        ),
        sa.CheckConstraint("sha256 ~ '^[0-9a-f]{64}$'", name=op.f("ck_tree_picture_sha256_written")),
        sa.CheckConstraint("width_px >= 1 AND width_px <= 1600", name=op.f("ck_tree_picture_width_px_range")),
        sa.CheckConstraint("height_px >= 1 AND height_px <= 1600", name=op.f("ck_tree_picture_height_px_range")),
        sa.ForeignKeyConstraint(
            ["tree_id"], ["tree.id"], name=op.f("fk_tree_picture_tree_id_tree"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_tree_picture_person_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_tree_picture")),
    )
    for column in ("tree_id", "entry_id", "sha256"):
        op.create_index(f"ix_tree_picture_{column}", "tree_picture", [column])


def downgrade() -> None:
    op.drop_table("tree_picture")
