"""Stock of all kinds, plants of one's own, more ways of pouring, salty water, modes, a rain gauge of the site."""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"

KINDS = "'container', 'box', 'fabric_bag', 'balled', 'bare_root'"
METHODS = "'hose', 'bucket', 'tank', 'bag', 'emitters', 'soaker', 'sprinkler', 'wicked'"
SURROUNDS = "'bare', 'turf', 'paved', 'gravel', 'plastic', 'plastic_holed'"
MODES = "'grow', 'hold', 'survive'"
SEEN = (
    "'wilting', 'scorch', 'pest', 'damage', 'leak', 'wet_ground', 'dry_ball', 'mulch_off', 'support', "
    "'bud_break', 'other'"
)
WORDS = (
    ("tree", "kind", KINDS, "'container', 'balled', 'bare_root'"),
    ("stock_size", "kind", KINDS, "'container', 'balled', 'bare_root'"),
    ("tree", "method", METHODS, "'hose', 'bucket', 'bag', 'emitters'"),
    ("tree", "surround", SURROUNDS, "'bare', 'turf', 'paved'"),
    ("log_entry", "seen", SEEN, SEEN.replace("'bud_break', ", "")),
)
TREE = (
    "soaker_across_m", "soaker_flow_l_per_h_m", "sprinkler_across_m", "sprinkler_flow_l_per_h", "reservoir_l",
)  # fmt: skip
SITE = ("water_ec_ds_m", "water_sar", "tank_flow_l_per_h")
NEW_CHECKS = (
    ("plant", "drought_tolerance_known", "drought_tolerance IN ('low', 'moderate', 'high')"),
    (
        "plant",
        "salt_tolerance_known",
        "salt_tolerance IN ('very_sensitive', 'sensitive', 'moderate', 'tolerant', 'very_tolerant')",
    ),
    ("plant", "leaf_dates_both", "(leaf_out IS NULL) = (leaf_fall IS NULL)"),
    ("site", "mode_known", f"mode IN ({MODES})"),
    ("site", "water_source_known", "water_source IN ('potable', 'well', 'reclaimed', 'pond')"),
    ("site", "water_ec_ds_m_range", "water_ec_ds_m >= 0 AND water_ec_ds_m <= 20"),
    ("site", "water_sar_range", "water_sar >= 0 AND water_sar <= 100"),
    ("site", "tank_flow_l_per_h_range", "tank_flow_l_per_h > 0 AND tank_flow_l_per_h <= 50000"),
    ("tree", "mode_known", f"mode IN ({MODES})"),
    ("tree", "soaker_given", "method <> 'soaker' OR (soaker_across_m > 0 AND soaker_flow_l_per_h_m > 0)"),
    ("tree", "sprinkler_given", "method <> 'sprinkler' OR (sprinkler_across_m > 0 AND sprinkler_flow_l_per_h > 0)"),
    ("tree", "reservoir_given", "method <> 'wicked' OR reservoir_l > 0"),
)


def _words(table: str, column: str, listed: str) -> None:
    name = op.f(f"ck_{table}_{column}_known")
    op.drop_constraint(name, table)
    op.create_check_constraint(name, table, f"{column} IN ({listed})")


def upgrade() -> None:
    for table, column, new, _ in WORDS:
        _words(table, column, new)
    text, number = sa.Text(), sa.Float(53)
    op.add_column("plant", sa.Column("version", sa.Integer(), server_default="1", nullable=False))
    op.add_column("plant", sa.Column("leaf_out", text))
    op.add_column("plant", sa.Column("leaf_fall", text))
    op.add_column("plant", sa.Column("drought_tolerance", text, server_default="moderate", nullable=False))
    op.add_column("plant", sa.Column("salt_tolerance", text, server_default="sensitive", nullable=False))
    op.add_column("site", sa.Column("mode", text, server_default="grow", nullable=False))
    op.add_column("site", sa.Column("water_source", text, server_default="potable", nullable=False))
    for name in SITE:
        op.add_column("site", sa.Column(name, number))
    for name in TREE:
        op.add_column("tree", sa.Column(name, number))
    op.add_column("tree", sa.Column("mode", text))
    op.add_column("tree_state", sa.Column("reservoir_l", number, server_default="0", nullable=False))
    op.create_table(
        "gauge_day",
        sa.Column("site_id", sa.Uuid(), nullable=False),
        sa.Column("day", sa.Date(), nullable=False),
        sa.Column("rain_mm", number, nullable=False),
        sa.Column("recorded_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.CheckConstraint("rain_mm >= 0 AND rain_mm <= 2000", name=op.f("ck_gauge_day_rain_mm_range")),
        sa.ForeignKeyConstraint(["site_id"], ["site.id"], name="fk_gauge_day_site_id_site", ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("site_id", "day", name="pk_gauge_day"),
    )
    for table, name, rule in NEW_CHECKS:
        op.create_check_constraint(op.f(f"ck_{table}_{name}"), table, rule)


def downgrade() -> None:
    """Only where nothing uses what is new: words that were not known before are not thrown away."""
    for table, name, _ in reversed(NEW_CHECKS):
        op.drop_constraint(f"ck_{table}_{name}", table)
    op.drop_table("gauge_day")
    op.drop_column("tree_state", "reservoir_l")
    for name in ("mode", *TREE):
        op.drop_column("tree", name)
    for name in ("mode", "water_source", *SITE):
        op.drop_column("site", name)
    for name in ("version", "leaf_out", "leaf_fall", "drought_tolerance", "salt_tolerance"):
        op.drop_column("plant", name)
    for table, column, _, old in WORDS:
        _words(table, column, old)
