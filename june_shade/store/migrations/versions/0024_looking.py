"""Answers to what readings say, what they say, check-ups."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0024"
down_revision = "0023"


def _tree(**more):
    return sa.Column(
        "tree_id", sa.Uuid(), sa.ForeignKey("tree.id", ondelete="CASCADE"), nullable=more.pop("nullable", False), **more
    )


def _person():
    return sa.Column("person_id", sa.Uuid(), sa.ForeignKey("person.id"))


def _told():
    return (
        sa.Column("recorded_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("withdrawn_at", sa.DateTime(timezone=True)),
    )


def upgrade() -> None:
    op.create_table(
        "thirst_answer",
        sa.Column("id", sa.Uuid(), primary_key=True),
        _tree(),
        sa.Column("answer", sa.Text(), nullable=False),
        sa.Column("day", sa.Date(), nullable=False),
        sa.Column("multiplier", sa.Float()),
        sa.Column("occasions", sa.Integer(), nullable=False),
        _person(),
        *_told(),
        sa.CheckConstraint(
            "answer IN ('accepted', 'refused', 'delivery_good', 'delivery_mended')",
            name=op.f("ck_thirst_answer_answer_known"),
        ),
        sa.CheckConstraint(
            "(answer = 'accepted') = (multiplier IS NOT NULL)",
            name=op.f("ck_thirst_answer_accepted_has_multiplier"),
        ),
        sa.CheckConstraint(
            "multiplier >= 0.4 AND multiplier <= 2.5", name=op.f("ck_thirst_answer_multiplier_range")
        ),
    )
    op.create_index("ix_thirst_answer_tree_id", "thirst_answer", ["tree_id"])
    op.create_table(
        "tree_fit",
        _tree(primary_key=True),
        sa.Column("fitted_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("occasions", sa.Integer(), nullable=False),
        sa.Column("first_on", sa.Date(), nullable=False),
        sa.Column("last_on", sa.Date(), nullable=False),
        *(sa.Column(name, sa.Float()) for name in ("demand", "demand_sd", "delivery", "delivery_sd")),
        sa.Column("verdict", sa.Text(), nullable=False),
    )
    op.create_table(
        "tree_checkup",
        sa.Column("id", sa.Uuid(), primary_key=True),
        _tree(),
        sa.Column("day", sa.Date(), nullable=False),
        sa.Column("happened_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("findings", postgresql.JSONB(), nullable=False),
        sa.Column("in_leaf", sa.Boolean(), nullable=False),
        sa.Column("verdict", sa.Text(), nullable=False),
        sa.Column("water_act", sa.Text()),
        sa.Column("causes", postgresql.JSONB(), nullable=False),
        sa.Column("tasks", sa.ARRAY(sa.Text()), nullable=False),
        sa.Column("hold_until", sa.Date()),
        sa.Column("look_on", sa.Date(), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        _person(),
        sa.Column("device_id", sa.Text(), nullable=False),
        *_told(),
    )
    op.create_index("ix_tree_checkup_tree_id", "tree_checkup", ["tree_id"])


def downgrade() -> None:
    for name in ("tree_checkup", "tree_fit", "thirst_answer"):
        op.drop_table(name)
