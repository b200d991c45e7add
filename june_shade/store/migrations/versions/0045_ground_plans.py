"""What lies at a site besides its trees, and the picture under its plan."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

from june_shade.store.migrations.apart import keep_apart, let_together, owned

revision = "0045"
down_revision = "0044"
POINTS = {"site_feature": {"site_id": "site", "entered_by": "account"}, "site_picture": {"site_id": "site"}}
KINDS = "'hydrant', 'valve', 'gate', 'paving', 'building', 'wall', 'path', 'bed', 'water', 'other'"


def _to(table: str, column: str, other: str, **more: str) -> sa.ForeignKeyConstraint:
    return sa.ForeignKeyConstraint([column], [f"{other}.id"], name=op.f(f"fk_{table}_{column}_{other}"), **more)


def _recorded() -> sa.Column:
    return sa.Column("recorded_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False)


def upgrade() -> None:
    op.create_table(
        "site_feature",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("site_id", sa.Uuid(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("geometry", JSONB(), nullable=False),
        _recorded(),
        sa.Column("entered_by", sa.Uuid(), server_default=sa.text("account_now()"), nullable=True),
        owned(),
        sa.CheckConstraint(f"kind IN ({KINDS})", name=op.f("ck_site_feature_kind_known")),
        _to("site_feature", "site_id", "site", ondelete="CASCADE"),
        _to("site_feature", "entered_by", "account"),
        _to("site_feature", "organisation_id", "organisation"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_site_feature")),
    )
    op.create_index(op.f("ix_site_feature_site_id"), "site_feature", ["site_id"])
    op.create_table(
        "site_picture",
        sa.Column("site_id", sa.Uuid(), nullable=False),
        sa.Column("sha256", sa.Text(), nullable=False),
        sa.Column("width_px", sa.Integer(), nullable=False),
        sa.Column("height_px", sa.Integer(), nullable=False),
        sa.Column("points", JSONB(), nullable=False),
        _recorded(),
        owned(),
        _to("site_picture", "site_id", "site", ondelete="CASCADE"),
        _to("site_picture", "organisation_id", "organisation"),
        sa.PrimaryKeyConstraint("site_id", name=op.f("pk_site_picture")),
    )
    for table, points in POINTS.items():
        keep_apart(table, points)


def downgrade() -> None:
    for table, points in reversed(POINTS.items()):
        let_together(table, points)
        op.drop_table(table)
