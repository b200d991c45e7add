"""Three stores in the kept states, how trees were watered before, how far a kind of tree draws its water down.

Kept states are a cache: they drop. A tree's earlier layouts of drip become what watered it until the next was laid.
"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0008"
down_revision = "0007"

F = sa.Float(precision=53)
NEW = ("near_depletion_l", "far_depletion_l", "near_volume_l", "far_volume_l", "soggy_days")
CONIFERS = ("Cupressus", "Juniperus", "Metasequoia", "Picea", "Pinus", "Taxodium", "Ginkgo", "Abies", "Cedrus", "Thuja")


def upgrade() -> None:
    op.execute("DELETE FROM tree_state")
    op.drop_column("tree_state", "ring_depletion_l")
    for name in NEW:
        op.add_column("tree_state", sa.Column(name, F, nullable=False))
    op.add_column("drip_layout", sa.Column("profile_m2", JSONB()))
    op.add_column("plant", sa.Column("depletion_fraction", F, server_default="0.5", nullable=False))
    op.create_check_constraint(
        op.f("ck_plant_depletion_fraction_range"), "plant", "depletion_fraction > 0 AND depletion_fraction < 1")
    conifers = " OR ".join(f"botanical LIKE '{name} %'" for name in CONIFERS if name != "Ginkgo")
    op.execute(f"UPDATE plant SET depletion_fraction = 0.7 WHERE {conifers}")
    op.execute("UPDATE plant SET depletion_fraction = 0.65 WHERE botanical LIKE 'Olea %'")
    op.create_table("former_way",
    sa.Column("tree_id", sa.Uuid(), nullable=False),
    sa.Column("until", sa.Date(), nullable=False),
    sa.Column("method", sa.Text(), nullable=False),
    sa.Column("basin_diameter_m", F),
    sa.Column("basin_depth_m", F),
    sa.Column("emitter_count", sa.Integer(), nullable=False),
    sa.Column("emitter_flow_l_per_h", F, nullable=False),
    sa.Column("bag_capacity_l", F, nullable=False),
    sa.Column("soaker_across_m", F),
    sa.Column("soaker_flow_l_per_h_m", F),
    sa.Column("sprinkler_across_m", F),
    sa.Column("sprinkler_flow_l_per_h", F),
    sa.Column("reservoir_l", F),
    sa.Column("leaching", F, nullable=False),
    sa.Column("layout_id", sa.Uuid()),
    sa.Column("drip_ball_share", F),
    sa.Column("drip_profile_m2", JSONB()),
    sa.Column("recorded_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
    sa.CheckConstraint("method IN ('hose', 'bucket', 'tank', 'bag', 'emitters', 'soaker', 'sprinkler', 'wicked')", name=op.f("ck_former_way_method_known")),
    sa.CheckConstraint("leaching >= 0 AND leaching <= 1", name=op.f("ck_former_way_leaching_range")),
    sa.CheckConstraint("drip_ball_share >= 0 AND drip_ball_share <= 1", name=op.f("ck_former_way_drip_ball_share_range")),
    sa.ForeignKeyConstraint(["tree_id"], ["tree.id"], name=op.f("fk_former_way_tree_id_tree"), ondelete="CASCADE"),
    sa.ForeignKeyConstraint(["layout_id"], ["drip_layout.id"], name=op.f("fk_former_way_layout_id_drip_layout"), ondelete="SET NULL"),
    sa.PrimaryKeyConstraint("tree_id", "until", name=op.f("pk_former_way")),
    )
    op.execute("""
        INSERT INTO former_way (tree_id, until, method, basin_diameter_m, basin_depth_m, emitter_count,
            emitter_flow_l_per_h, bag_capacity_l, leaching, layout_id, drip_ball_share)
        SELECT DISTINCT ON (t.id, l.next_on) t.id, l.next_on, 'emitters', t.basin_diameter_m, t.basin_depth_m,
            jsonb_array_length(l.emitters), CAST(l.choice ->> 'flow_l_h' AS double precision), t.bag_capacity_l, 0,
            l.id, l.ball_share
        FROM (SELECT *, lead(laid_on) OVER (PARTITION BY tree_id ORDER BY laid_on, recorded_at, id) AS next_on
              FROM drip_layout WHERE withdrawn_at IS NULL) l
        JOIN tree t ON t.id = l.tree_id
        WHERE l.next_on > l.laid_on AND jsonb_array_length(l.emitters) > 0
        ORDER BY t.id, l.next_on, l.recorded_at DESC
    """)


def downgrade() -> None:
    op.drop_table("former_way")
    op.drop_constraint(op.f("ck_plant_depletion_fraction_range"), "plant")
    op.drop_column("plant", "depletion_fraction")
    op.drop_column("drip_layout", "profile_m2")
    op.execute("DELETE FROM tree_state")
    for name in NEW:
        op.drop_column("tree_state", name)
    op.add_column("tree_state", sa.Column("ring_depletion_l", F, nullable=False))
