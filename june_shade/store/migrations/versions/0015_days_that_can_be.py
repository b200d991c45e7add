"""Measured days from before there were stations go, and no more come in."""

from alembic import op

revision = "0015"
down_revision = "0014"


def upgrade() -> None:
    op.execute("DELETE FROM station_day WHERE day < DATE '1850-01-01'")
    op.execute("ALTER TABLE station_day ADD CONSTRAINT ck_station_day_day_can_be CHECK (day >= DATE '1850-01-01')")


def downgrade() -> None:
    op.execute("ALTER TABLE station_day DROP CONSTRAINT ck_station_day_day_can_be")
