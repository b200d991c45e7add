"""Drip: layouts as laid, proofs in the field, what stands beside a tree, what feeds a line."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import ARRAY, JSONB

revision = "0005"
down_revision = "0004"

LINE = (
    ("static_head_m", "static_head_m > 0 AND static_head_m <= 150"),
    ("open_flow_l_per_h", "open_flow_l_per_h > 0 AND open_flow_l_per_h <= 50000"),
    ("regulator_head_m", "regulator_head_m > 0 AND regulator_head_m <= 150"),
    ("lead_m", "lead_m > 0 AND lead_m <= 1000"),
    ("spacing_m", "spacing_m > 0 AND spacing_m <= 200"),
    ("rise_percent", "rise_percent >= -60 AND rise_percent <= 60"),
    ("bearing_deg", "bearing_deg >= 0 AND bearing_deg <= 360"),
    ("offset_m", "offset_m >= -20 AND offset_m <= 20"),
    ("bore_mm", "bore_mm > 0 AND bore_mm <= 200"),
)


def upgrade() -> None:
    text, number = sa.Text(), sa.Float(53)
    for name, rule in LINE:
        op.add_column("line", sa.Column(name, number))
        op.create_check_constraint(op.f(f"ck_line_{name}_range"), "line", rule)
    op.create_table(
        "drip_layout",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("tree_id", sa.Uuid(), nullable=False),
        sa.Column("laid_on", sa.Date(), nullable=False),
        sa.Column("choice", JSONB(), nullable=False),
        sa.Column("emitters", JSONB(), nullable=False),
        sa.Column("flow_l_per_h", number, nullable=False),
        sa.Column("ball_share", number, nullable=False),
        sa.Column("wetted_m2", number, nullable=False),
        sa.Column("worst_head_m", number, nullable=False),
        sa.Column("problems", ARRAY(text), nullable=False),
        sa.Column("note", text, nullable=False),
        sa.Column("recorded_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.Column("withdrawn_at", sa.DateTime(timezone=True)),
        sa.CheckConstraint("ball_share >= 0 AND ball_share <= 1", name=op.f("ck_drip_layout_ball_share_range")),
        sa.CheckConstraint("flow_l_per_h >= 0", name=op.f("ck_drip_layout_flow_l_per_h_range")),
        sa.ForeignKeyConstraint(["tree_id"], ["tree.id"], name="fk_drip_layout_tree_id_tree", ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("id", name="pk_drip_layout"),
    )
    op.create_index("ix_drip_layout_tree_id", "drip_layout", ["tree_id"])
    op.create_table(
        "drip_proof",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("tree_id", sa.Uuid(), nullable=False),
        sa.Column("day", sa.Date(), nullable=False),
        sa.Column("minutes", number, nullable=False),
        sa.Column("depth_m", number, nullable=False),
        sa.Column("flow_l_per_h", number, nullable=False),
        sa.Column("note", text, nullable=False),
        sa.Column("recorded_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.Column("withdrawn_at", sa.DateTime(timezone=True)),
        sa.CheckConstraint("minutes > 0 AND minutes <= 2880", name=op.f("ck_drip_proof_minutes_range")),
        sa.CheckConstraint("depth_m > 0 AND depth_m <= 3", name=op.f("ck_drip_proof_depth_m_range")),
        sa.CheckConstraint("flow_l_per_h > 0", name=op.f("ck_drip_proof_flow_l_per_h_range")),
        sa.ForeignKeyConstraint(["tree_id"], ["tree.id"], name="fk_drip_proof_tree_id_tree", ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("id", name="pk_drip_proof"),
    )
    op.create_index("ix_drip_proof_tree_id", "drip_proof", ["tree_id"])
    op.add_column("tree", sa.Column("layout_id", sa.Uuid()))
    op.add_column("tree", sa.Column("obstacles", JSONB(), server_default="[]", nullable=False))
    op.create_foreign_key(
        "fk_tree_layout_id_drip_layout", "tree", "drip_layout", ["layout_id"], ["id"], ondelete="SET NULL"
    )


def downgrade() -> None:
    op.drop_constraint("fk_tree_layout_id_drip_layout", "tree")
    op.drop_column("tree", "obstacles")
    op.drop_column("tree", "layout_id")
    op.drop_table("drip_proof")
    op.drop_table("drip_layout")
    for name, _ in reversed(LINE):
        op.drop_constraint(f"ck_line_{name}_range", "line")
        op.drop_column("line", name)
