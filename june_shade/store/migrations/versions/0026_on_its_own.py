"""Trees that stand on their own: offered, proven, handed over, come back."""

import sqlalchemy as sa
from alembic import op

revision = "0026"
down_revision = "0025"

KINDS = (
    "'offered', 'dry_test', 'dry_spell', 'firm', 'growth', 'flare', 'supports_off', 'handed', 'back'"
)  # fmt: skip


def upgrade() -> None:
    op.add_column("tree", sa.Column("handed_on", sa.Date()))
    op.add_column(
        "former_way", sa.Column("on_its_own", sa.Boolean(), server_default=sa.text("false"), nullable=False)
    )
    op.create_table(
        "own_act",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("tree_id", sa.Uuid(), sa.ForeignKey("tree.id", ondelete="CASCADE"), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("day", sa.Date(), nullable=False),
        sa.Column("growth_m", sa.Float()),
        sa.Column("hold_until", sa.Date()),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("person_id", sa.Uuid(), sa.ForeignKey("person.id")),
        sa.Column("recorded_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("withdrawn_at", sa.DateTime(timezone=True)),
        sa.CheckConstraint(f"kind IN ({KINDS})", name=op.f("ck_own_act_kind_known")),
        sa.CheckConstraint("(kind = 'growth') = (growth_m IS NOT NULL)", name=op.f("ck_own_act_growth_has_measure")),
        sa.CheckConstraint("(kind = 'dry_test') = (hold_until IS NOT NULL)", name=op.f("ck_own_act_dry_test_holds")),
        sa.CheckConstraint("growth_m >= 0 AND growth_m <= 3", name=op.f("ck_own_act_growth_m_range")),
    )
    op.create_index("ix_own_act_tree_id", "own_act", ["tree_id"])


def downgrade() -> None:
    op.drop_table("own_act")
    op.drop_column("former_way", "on_its_own")
    op.drop_column("tree", "handed_on")
