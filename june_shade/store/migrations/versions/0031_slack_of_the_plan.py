"""How much more harm than the least a plan may cost that saves water."""

import sqlalchemy as sa
from alembic import op

revision = "0031"
down_revision = "0030"


def upgrade() -> None:
    op.add_column("organisation", sa.Column("harm_slack", sa.Float(), nullable=False, server_default="0.02"))
    op.alter_column("organisation", "harm_slack", server_default=None)
    op.create_check_constraint(op.f("ck_organisation_harm_slack_range"), "organisation", "harm_slack >= 0 AND harm_slack <= 0.2")


def downgrade() -> None:
    op.drop_constraint("ck_organisation_harm_slack_range", "organisation")
    op.drop_column("organisation", "harm_slack")
