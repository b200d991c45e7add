"""A working day: what a crew has, lines, versions of what two people may edit, skips and kinds of what was seen."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0002"
down_revision = "0001"

VERSIONED = ("station", "site", "stop", "tree")
NOTE_SAYS = "ck_log_entry_note_says_something"
KINDS = "ck_log_entry_kind_known"


def upgrade() -> None:
    for table in VERSIONED:
        op.add_column(table, sa.Column("version", sa.Integer(), server_default="1", nullable=False))
    op.create_table(
        "line",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("site_id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("version", sa.Integer(), server_default="1", nullable=False),
        sa.ForeignKeyConstraint(["site_id"], ["site.id"], name="fk_line_site_id_site", ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("id", name="pk_line"),
        sa.UniqueConstraint("site_id", "name", name="uq_line_site_id_name"),
    )
    for name in ("tank_l", "crew_hours", "water_price_per_m3", "hour_price"):
        op.add_column("site", sa.Column(name, sa.Float(53)))
    days: sa.Column = sa.Column("working_days", postgresql.ARRAY(sa.Integer()), server_default="{0,1,2,3,4,5,6}", nullable=False)
    op.add_column("site", days)
    check = op.create_check_constraint
    check(op.f("ck_site_tank_l_range"), "site", "tank_l > 0 AND tank_l <= 100000")
    check(op.f("ck_site_crew_hours_range"), "site", "crew_hours > 0 AND crew_hours <= 24")
    check(op.f("ck_site_water_price_per_m3_range"), "site", "water_price_per_m3 >= 0 AND water_price_per_m3 <= 100000")
    check(op.f("ck_site_hour_price_range"), "site", "hour_price >= 0 AND hour_price <= 100000")
    check(op.f("ck_site_working_days_known"), "site", "working_days <@ ARRAY[0, 1, 2, 3, 4, 5, 6]")
    check(op.f("ck_site_working_days_some"), "site", "cardinality(working_days) > 0")

    op.add_column("tree", sa.Column("side", sa.Text(), server_default="", nullable=False))
    op.add_column("tree", sa.Column("line_id", sa.Uuid()))
    op.add_column("tree", sa.Column("latitude_deg", sa.Float(53)))
    op.add_column("tree", sa.Column("longitude_deg", sa.Float(53)))
    op.create_foreign_key("fk_tree_line_id_line", "tree", "line", ["line_id"], ["id"], ondelete="SET NULL")
    op.create_index("ix_tree_line_id", "tree", ["line_id"])
    check(op.f("ck_tree_latitude_deg_range"), "tree", "latitude_deg >= -90 AND latitude_deg <= 90")
    check(op.f("ck_tree_longitude_deg_range"), "tree", "longitude_deg >= -180 AND longitude_deg <= 180")

    op.add_column("log_entry", sa.Column("reason", sa.Text()))
    op.add_column("log_entry", sa.Column("seen", sa.Text()))
    op.drop_constraint(KINDS, "log_entry")
    op.drop_constraint(NOTE_SAYS, "log_entry")
    check(op.f(KINDS), "log_entry", "kind IN ('water', 'note', 'skip', 'void')")
    check(op.f(NOTE_SAYS), "log_entry", "kind <> 'note' OR length(note) > 0 OR seen IS NOT NULL")
    check(op.f("ck_log_entry_skip_has_reason"), "log_entry", "(kind = 'skip') = (reason IS NOT NULL)")
    check(op.f("ck_log_entry_seen_in_notes"), "log_entry", "seen IS NULL OR kind = 'note'")
    reasons = "'no_access', 'soil_wet', 'no_water', 'no_time', 'tree_gone', 'other'"
    seen = (
        "'wilting', 'scorch', 'pest', 'damage', 'leak', 'wet_ground', 'dry_ball', 'mulch_off', 'support', 'other'"
    )
    check(op.f("ck_log_entry_reason_known"), "log_entry", f"reason IN ({reasons})")
    check(op.f("ck_log_entry_seen_known"), "log_entry", f"seen IN ({seen})")


def downgrade() -> None:
    """Only where no skip and no wordless note was logged: what was logged is never thrown away."""
    for name in ("reason_known", "seen_known", "skip_has_reason", "seen_in_notes", "kind_known", "note_says_something"):
        op.drop_constraint(f"ck_log_entry_{name}", "log_entry")
    check = op.create_check_constraint
    check(op.f(KINDS), "log_entry", "kind IN ('water', 'note', 'void')")
    check(op.f(NOTE_SAYS), "log_entry", "kind <> 'note' OR length(note) > 0")
    op.drop_column("log_entry", "seen")
    op.drop_column("log_entry", "reason")
    op.drop_index("ix_tree_line_id", table_name="tree")
    for name in ("longitude_deg", "latitude_deg", "line_id", "side"):
        op.drop_column("tree", name)
    for name in ("hour_price", "water_price_per_m3", "working_days", "crew_hours", "tank_l"):
        op.drop_column("site", name)
    op.drop_table("line")
    for table in VERSIONED:
        op.drop_column(table, "version")
