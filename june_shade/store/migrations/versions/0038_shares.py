"""What is shown to clients by a link, and people's own calendars."""

import sqlalchemy as sa
from alembic import op

from june_shade.store.migrations.apart import keep_apart, let_together, owned

revision = "0038"
down_revision = "0037"
OF_SHARES = {"site_id": "site", "account_id": "account", "entered_by": "account"}
OF_FEEDS = {"account_id": "account"}


def _to(table: str, column: str, other: str, **more: str) -> sa.ForeignKeyConstraint:
    return sa.ForeignKeyConstraint([column], [f"{other}.id"], name=op.f(f"fk_{table}_{column}_{other}"), **more)


def _time(name: str, **more: object) -> sa.Column:
    return sa.Column(name, sa.DateTime(timezone=True), **({"nullable": True} | more))


def upgrade() -> None:
    op.create_table(
        "share",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("site_id", sa.Uuid(), nullable=False),
        sa.Column("account_id", sa.Uuid(), nullable=True),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("secret", sa.Text(), nullable=False),
        sa.Column("ends_on", sa.Date(), nullable=False),
        _time("made_at", server_default=sa.func.now(), nullable=False),
        _time("seen_at"),
        _time("revoked_at"),
        sa.Column("entered_by", sa.Uuid(), server_default=sa.text("account_now()"), nullable=True),
        owned(),
        sa.CheckConstraint("length(name) > 0", name=op.f("ck_share_name_given")),
        _to("share", "site_id", "site", ondelete="CASCADE"),
        _to("share", "account_id", "account"),
        _to("share", "entered_by", "account"),
        _to("share", "organisation_id", "organisation"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_share")),
        sa.UniqueConstraint("secret", name=op.f("uq_share_secret")),
    )
    op.create_index(op.f("ix_share_site_id"), "share", ["site_id"])
    op.create_table(
        "person_feed",
        sa.Column("account_id", sa.Uuid(), nullable=False),
        sa.Column("secret", sa.Text(), nullable=False),
        owned(),
        _to("person_feed", "account_id", "account", ondelete="CASCADE"),
        _to("person_feed", "organisation_id", "organisation"),
        sa.PrimaryKeyConstraint("account_id", name=op.f("pk_person_feed")),
        sa.UniqueConstraint("secret", name=op.f("uq_person_feed_secret")),
    )
    keep_apart("share", OF_SHARES)
    keep_apart("person_feed", OF_FEEDS)


def downgrade() -> None:
    let_together("person_feed", OF_FEEDS)
    let_together("share", OF_SHARES)
    op.drop_table("person_feed")
    op.drop_table("share")
