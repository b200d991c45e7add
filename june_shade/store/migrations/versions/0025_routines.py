"""Routines that trees follow."""

import sqlalchemy as sa
from alembic import op

revision = "0025"
down_revision = "0024"

ROUTINES = "'balance', 'none', 'fixed', 'taper', 'heat', 'rainfall', 'slow_hose', 'deep', 'bare_root', 'when_dry'"
RANGES = {
    "litres": "0.1 AND litres <= 2000", "mm": "1 AND mm <= 200", "flow_l_per_h": "0.5 AND flow_l_per_h <= 5000",
    "hours": "0.1 AND hours <= 24", "dry_limit": "0.05 AND dry_limit <= 1", "every_days": "1 AND every_days <= 60",
}  # fmt: skip


def upgrade() -> None:
    op.create_table(
        "routine_choice",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("choice_id", sa.Uuid(), nullable=False),
        sa.Column("tree_id", sa.Uuid(), sa.ForeignKey("tree.id", ondelete="CASCADE"), nullable=False),
        sa.Column("since", sa.Date(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("litres", sa.Float()),
        sa.Column("every_days", sa.Integer()),
        *(sa.Column(name, sa.Float()) for name in ("mm", "flow_l_per_h", "hours", "dry_limit")),
        sa.Column("person_id", sa.Uuid(), sa.ForeignKey("person.id")),
        sa.Column("recorded_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("withdrawn_at", sa.DateTime(timezone=True)),
        sa.CheckConstraint(f"name IN ({ROUTINES})", name=op.f("ck_routine_choice_name_known")),
        *(
            sa.CheckConstraint(f"{name} >= {range_}", name=op.f(f"ck_routine_choice_{name}_range"))
            for name, range_ in RANGES.items()
        ),
    )
    op.create_index("ix_routine_choice_tree_id", "routine_choice", ["tree_id"])
    op.create_index("ix_routine_choice_choice_id", "routine_choice", ["choice_id"])


def downgrade() -> None:
    op.drop_table("routine_choice")
