"""A site counts its revisions and belongs to an organisation; a tree has a worth."""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"

ONLY = "00000000-0000-4000-8000-000000000001"


def upgrade() -> None:
    op.create_table("organisation",
    sa.Column("id", sa.Uuid(), nullable=False),
    sa.Column("name", sa.Text(), nullable=False),
    sa.PrimaryKeyConstraint("id", name=op.f("pk_organisation")),
    sa.UniqueConstraint("name", name=op.f("uq_organisation_name")),
    )
    op.execute(f"INSERT INTO organisation (id, name) VALUES ('{ONLY}', 'Our crew')")
    op.add_column("site", sa.Column("revision", sa.BigInteger(), server_default="0", nullable=False))
    op.add_column("site", sa.Column("organisation_id", sa.Uuid(), server_default=ONLY, nullable=False))
    op.alter_column("site", "organisation_id", server_default=None)
    op.create_foreign_key(op.f("fk_site_organisation_id_organisation"), "site", "organisation", ["organisation_id"], ["id"])
    op.add_column("tree", sa.Column("worth", sa.Float(precision=53), server_default="1", nullable=False))
    op.create_check_constraint(op.f("ck_tree_worth_known"), "tree", "worth IN (0.5, 1, 2)")


def downgrade() -> None:
    op.drop_constraint(op.f("ck_tree_worth_known"), "tree")
    op.drop_column("tree", "worth")
    op.drop_constraint(op.f("fk_site_organisation_id_organisation"), "site")
    op.drop_column("site", "organisation_id")
    op.drop_column("site", "revision")
    op.drop_table("organisation")
