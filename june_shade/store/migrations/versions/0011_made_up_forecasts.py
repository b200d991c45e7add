"""A station's forecast says whether it is made up, and a made-up one is only asked for where that was switched on.

Every forecast kept until now came from the stand-in: they go, a plan then rests on the station's usual.
"""

import sqlalchemy as sa
from alembic import op

revision = "0011"
down_revision = "0010"


def upgrade() -> None:
    for name in ("made_up_forecast", "forecast_made_up"):
        op.add_column("station", sa.Column(name, sa.Boolean(), nullable=False, server_default=sa.false()))
    # only the made-up town has a pinned clock; there it stays switched on
    op.execute("UPDATE station SET made_up_forecast = TRUE WHERE EXISTS (SELECT 1 FROM pinned_clock)")
    op.execute("DELETE FROM forecast_day")
    op.execute("UPDATE station SET forecast_fetched_at = NULL, forecast_failed_at = NULL, forecast_error = NULL")


def downgrade() -> None:
    for name in ("made_up_forecast", "forecast_made_up"):
        op.drop_column("station", name)
