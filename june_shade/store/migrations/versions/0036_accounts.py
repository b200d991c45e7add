"""Accounts, devices, tries to come in, who changed settings; entries carry the account that entered them."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

from june_shade.store.migrations.apart import keep_apart, let_together, owned

revision = "0036"
down_revision = "0035"

SIGNED = (
    "care_act", "drip_layout", "drip_proof", "gauge_day", "import", "let_go", "log_entry", "mulch_entry", "own_act",
    "planting", "routine_choice", "saving_task", "soil_test", "stock_move", "thirst_answer", "tree_checkup", "tree_end",
    "tree_picture", "visit_wish",
)  # fmt: skip
NEW = {
    "account": {"person_id": "person"}, "device": {"account_id": "account", "set_up_by": "account"},
    "audit_entry": {"account_id": "account"},
}  # fmt: skip
BY = {"entered_by": "account"}


def _account_id(table: str, name: str = "account_id") -> sa.ForeignKeyConstraint:
    return sa.ForeignKeyConstraint([name], ["account.id"], name=op.f(f"fk_{table}_{name}_account"))


def _own(table: str) -> tuple[sa.Column, sa.ForeignKeyConstraint, sa.PrimaryKeyConstraint]:
    return (
        owned(),
        sa.ForeignKeyConstraint(
            ["organisation_id"], ["organisation.id"], name=op.f(f"fk_{table}_organisation_id_organisation")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f(f"pk_{table}")),
    )


def _time(name: str, **more: object) -> sa.Column:
    return sa.Column(name, sa.DateTime(timezone=True), **({"nullable": False} | more))


def upgrade() -> None:
    op.execute("""
        CREATE FUNCTION account_now() RETURNS uuid LANGUAGE sql STABLE PARALLEL SAFE AS
        $$ SELECT nullif(current_setting('june.account', true), '')::uuid $$
    """)
    op.create_table(
        "account",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("sign_in", sa.Text(), nullable=False),
        sa.Column("role", sa.Text(), nullable=False),
        sa.Column("person_id", sa.Uuid(), nullable=False),
        sa.Column("password_hash", sa.Text(), nullable=False),
        sa.Column("pin_hash", sa.Text(), nullable=True),
        sa.Column("must_change", sa.Boolean(), nullable=False),
        _time("made_at", server_default=sa.func.now()),
        _time("closed_at", nullable=True),
        sa.Column("version", sa.Integer(), server_default="1", nullable=False),
        sa.CheckConstraint(
            "role IN ('owner', 'lead', 'technician', 'client')", name=op.f("ck_account_role_known")
        ),
        sa.CheckConstraint("length(sign_in) > 0", name=op.f("ck_account_sign_in_given")),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_account_person_id_person")),
        *_own("account"),
    )
    op.create_index("uq_account_sign_in", "account", [sa.text("lower(sign_in)")], unique=True)
    op.create_table(
        "device",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("token_sha256", sa.Text(), nullable=False),
        sa.Column("account_id", sa.Uuid(), nullable=True),
        sa.Column("set_up_by", sa.Uuid(), nullable=False),
        sa.Column("shared", sa.Boolean(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        _time("signed_in_at"),
        _time("seen_at"),
        _time("turn_ends_at", nullable=True),
        _time("signed_out_at", nullable=True),
        sa.CheckConstraint("shared OR account_id IS NOT NULL", name=op.f("ck_device_somebody_s")),
        sa.UniqueConstraint("token_sha256", name=op.f("uq_device_token_sha256")),
        _account_id("device"),
        _account_id("device", "set_up_by"),
        *_own("device"),
    )
    op.create_index("ix_device_account_id", "device", ["account_id"])
    op.create_table(
        "sign_in_try",
        sa.Column("key", sa.Text(), nullable=False),
        sa.Column("failures", sa.Integer(), nullable=False),
        _time("last_at"),
        sa.PrimaryKeyConstraint("key", name=op.f("pk_sign_in_try")),
    )
    op.create_table(
        "audit_entry",
        sa.Column("id", sa.Uuid(), nullable=False),
        _time("at", server_default=sa.func.clock_timestamp()),
        sa.Column("account_id", sa.Uuid(), nullable=True),
        sa.Column("what", sa.Text(), nullable=False),
        sa.Column("of_id", sa.Text(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("before", postgresql.JSONB(), nullable=True),
        sa.Column("after", postgresql.JSONB(), nullable=True),
        _account_id("audit_entry"),
        *_own("audit_entry"),
    )
    op.create_index("ix_audit_entry_at", "audit_entry", ["at"])
    op.execute("""
        CREATE FUNCTION refuse_audit_change() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN RAISE EXCEPTION 'who changed what is append-only'; END $$
    """)
    op.execute("""
        CREATE TRIGGER audit_entry_append_only BEFORE UPDATE OR DELETE ON audit_entry
        FOR EACH ROW EXECUTE FUNCTION refuse_audit_change()
    """)
    for table, points in NEW.items():
        keep_apart(table, points)
    for table in SIGNED:
        op.add_column(table, sa.Column("entered_by", sa.Uuid(), nullable=True))
        op.create_foreign_key(op.f(f"fk_{table}_entered_by_account"), table, "account", ["entered_by"], ["id"])
        op.alter_column(table, "entered_by", server_default=sa.text("account_now()"))
        op.execute(
            f'CREATE POLICY entered_by_is_ours ON "{table}" AS RESTRICTIVE USING (true) WITH CHECK (entered_by IS NULL '
            f'OR (SELECT organisations_all()) OR EXISTS (SELECT FROM account WHERE account.id = "{table}".entered_by))'
        )


def downgrade() -> None:
    for table in SIGNED:
        op.execute(f'DROP POLICY entered_by_is_ours ON "{table}"')
        op.drop_column(table, "entered_by")
    for table, points in NEW.items():
        let_together(table, points)
    for table in ("audit_entry", "sign_in_try", "device", "account"):
        op.drop_table(table)
    op.execute("DROP FUNCTION refuse_audit_change()")
    op.execute("DROP FUNCTION account_now()")
