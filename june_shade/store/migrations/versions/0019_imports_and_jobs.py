"""Files come in as imports that can be watched, ended and undone; jobs of the background stand in a schema of theirs."""

from pathlib import Path

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0019"
down_revision = "0018"

JOBS = Path(__file__).parent.parent / "jobs_3_10.sql"


def upgrade() -> None:
    op.create_table(
        "import",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("station_id", sa.Uuid(), sa.ForeignKey("station.id", ondelete="CASCADE"), nullable=True),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("mapping", JSONB(), nullable=False),
        sa.Column("content", sa.LargeBinary(), nullable=True),
        sa.Column("state", sa.Text(), nullable=False),
        sa.Column("done", sa.Integer(), nullable=False, server_default="0"),
        sa.Column("total", sa.Integer(), nullable=False, server_default="0"),
        sa.Column("outcome", JSONB(), nullable=True),
        sa.Column("before", JSONB(), nullable=True),
        sa.Column("problem", sa.Text(), nullable=False, server_default=""),
        sa.Column("field", sa.Text(), nullable=False, server_default=""),
        sa.Column("created_at", sa.DateTime(timezone=True), nullable=False, server_default=sa.func.now()),
        sa.Column("stored_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("undone_at", sa.DateTime(timezone=True), nullable=True),
        sa.CheckConstraint("kind IN ('trees', 'weather', 'day')", name=op.f("ck_import_kind_known")),
        sa.CheckConstraint(
            "state IN ('reading', 'read', 'storing', 'stored', 'undoing', 'undone', 'refused', 'cancelled')",
            name=op.f("ck_import_state_known"),
        ),
    )
    op.create_index("ix_import_station_id", "import", ["station_id"])
    op.create_table(
        "replaced_day",
        sa.Column("import_id", sa.Uuid(), sa.ForeignKey("import.id", ondelete="CASCADE"), primary_key=True),
        sa.Column("day", sa.Date(), primary_key=True),
        sa.Column("before_id", sa.Uuid(), sa.ForeignKey("import.id", ondelete="CASCADE"), nullable=True),
        sa.Column("reading", JSONB(), nullable=True),
    )
    op.create_index("ix_replaced_day_before_id", "replaced_day", ["before_id"])
    op.add_column("station_day", sa.Column("import_id", sa.Uuid(), nullable=True))
    op.create_foreign_key(
        op.f("fk_station_day_import_id_import"), "station_day", "import", ["import_id"], ["id"], ondelete="SET NULL"
    )
    op.create_index("ix_station_day_import_id", "station_day", ["import_id"])
    op.add_column("site", sa.Column("grown_on", sa.Date(), nullable=True))
    op.execute("CREATE SCHEMA jobs")
    driver = op.get_bind().connection.driver_connection
    driver.execute("SET LOCAL search_path TO jobs")
    driver.execute(JOBS.read_text(encoding="utf-8"))
    driver.execute("SET LOCAL search_path TO DEFAULT")


def downgrade() -> None:
    op.execute("DROP SCHEMA jobs CASCADE")
    op.drop_column("site", "grown_on")
    op.drop_column("station_day", "import_id")
    op.drop_table("replaced_day")
    op.drop_table("import")
