"""What a probe reads is an entry of the log."""

import sqlalchemy as sa
from alembic import op

revision = "0027"
down_revision = "0026"

SOMETHING = "ck_log_entry_reading_says_something"
HOW = "ck_log_entry_how_known"


def _replace(name: str, words: str) -> None:
    op.drop_constraint(op.f(name), "log_entry", type_="check")
    op.create_check_constraint(op.f(name), "log_entry", words)


def upgrade() -> None:
    for name in ("ball_theta", "ring_theta"):
        op.add_column("log_entry", sa.Column(name, sa.Float()))
        op.create_check_constraint(op.f(f"ck_log_entry_{name}_range"), "log_entry", f"{name} >= 0 AND {name} <= 1")
    _replace(SOMETHING, "(kind = 'reading') = (num_nonnulls(ball_feel, ring_feel, ball_theta, ring_theta) > 0)")
    _replace(HOW, "how IN ('finger', 'trowel', 'rod', 'probe')")
    op.create_check_constraint(
        op.f("ck_log_entry_a_probe_reads_numbers"), "log_entry",
        "(num_nonnulls(ball_theta, ring_theta) = 0) OR how = 'probe' AND num_nonnulls(ball_feel, ring_feel) = 0",
    )


def downgrade() -> None:
    op.execute("ALTER TABLE log_entry DISABLE TRIGGER USER")
    op.execute("DELETE FROM log_entry WHERE voids IN (SELECT id FROM log_entry WHERE how = 'probe')")
    op.execute("DELETE FROM log_entry WHERE how = 'probe'")
    op.execute("ALTER TABLE log_entry ENABLE TRIGGER USER")
    op.drop_constraint(op.f("ck_log_entry_a_probe_reads_numbers"), "log_entry", type_="check")
    _replace(SOMETHING, "(kind = 'reading') = (ball_feel IS NOT NULL OR ring_feel IS NOT NULL)")
    _replace(HOW, "how IN ('finger', 'trowel', 'rod')")
    for name in ("ball_theta", "ring_theta"):
        op.drop_constraint(op.f(f"ck_log_entry_{name}_range"), "log_entry", type_="check")
        op.drop_column("log_entry", name)
