"""What a hand felt is an entry of the log."""

import sqlalchemy as sa
from alembic import op

revision = "0023"
down_revision = "0022"

OLD = ("water", "note", "skip", "void")
NEW = ("water", "note", "skip", "reading", "void")
FEELS = "('wet', 'moist', 'drying', 'dry', 'like_clay')"
KIND = "ck_log_entry_kind_known"


def _kinds(words: tuple[str, ...]) -> None:
    op.drop_constraint(op.f(KIND), "log_entry", type_="check")
    listed = ", ".join(f"'{word}'" for word in words)
    op.create_check_constraint(op.f(KIND), "log_entry", f"kind IN ({listed})")


CHECKS = {
    "reading_says_how": "(kind = 'reading') = (how IS NOT NULL)",
    "reading_says_something": "(kind = 'reading') = (ball_feel IS NOT NULL OR ring_feel IS NOT NULL)",
    "how_known": "how IN ('finger', 'trowel', 'rod')",
    "ball_feel_known": f"ball_feel IN {FEELS}",
    "ring_feel_known": f"ring_feel IN {FEELS}",
}


def upgrade() -> None:
    for name in ("how", "ball_feel", "ring_feel"):
        op.add_column("log_entry", sa.Column(name, sa.Text()))
    _kinds(NEW)
    for name, words in CHECKS.items():
        op.create_check_constraint(op.f(f"ck_log_entry_{name}"), "log_entry", words)
    op.create_index("ix_log_entry_reading", "log_entry", ["tree_id", "local_date"],
                    postgresql_where=sa.text("kind = 'reading'"))


def downgrade() -> None:
    op.drop_index("ix_log_entry_reading", "log_entry")
    for name in CHECKS:
        op.drop_constraint(op.f(f"ck_log_entry_{name}"), "log_entry", type_="check")
    op.execute("ALTER TABLE log_entry DISABLE TRIGGER USER")
    op.execute("DELETE FROM log_entry WHERE voids IN (SELECT id FROM log_entry WHERE kind = 'reading')")
    op.execute("DELETE FROM log_entry WHERE kind = 'reading'")
    op.execute("ALTER TABLE log_entry ENABLE TRIGGER USER")
    _kinds(OLD)
    for name in ("how", "ball_feel", "ring_feel"):
        op.drop_column("log_entry", name)
