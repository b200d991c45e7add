"""How a table's rows are kept apart by organisation: what a transaction is not of is not there for it."""

from collections.abc import Mapping

import sqlalchemy as sa
from alembic import op

FIRST = "00000000-0000-4000-8000-000000000001"


def keep_apart(table: str, points: Mapping[str, str], own: str = "organisation_id") -> None:
    """Have rows of a table seen and written by transactions of their organisation only.

    points: columns that name rows of other tables, and which: they must be seen too, since a foreign key looks past
    this. own: the column that says whose a row is.
    """
    name = op.get_bind().dialect.identifier_preparer.quote(table)
    ours = f"(SELECT organisations_all()) OR {own} = (SELECT organisation_now())"
    op.execute(f"ALTER TABLE {name} ENABLE ROW LEVEL SECURITY")
    op.execute(f"ALTER TABLE {name} FORCE ROW LEVEL SECURITY")
    op.execute(f"CREATE POLICY ours ON {name} USING ({ours}) WITH CHECK ({ours})")
    for column, other in points.items():
        seen = f"EXISTS (SELECT FROM {other} AS there WHERE there.id = {name}.{column})"
        op.execute(
            f"CREATE POLICY {column}_is_ours ON {name} AS RESTRICTIVE USING (true) "
            f"WITH CHECK ({column} IS NULL OR (SELECT organisations_all()) OR {seen})"
        )


def let_together(table: str, points: Mapping[str, str]) -> None:
    """Take that back."""
    name = op.get_bind().dialect.identifier_preparer.quote(table)
    for column in points:
        op.execute(f"DROP POLICY {column}_is_ours ON {name}")
    op.execute(f"DROP POLICY ours ON {name}")
    op.execute(f"ALTER TABLE {name} NO FORCE ROW LEVEL SECURITY")
    op.execute(f"ALTER TABLE {name} DISABLE ROW LEVEL SECURITY")


def owned() -> sa.Column:
    """The column that says whose a row is."""
    return sa.Column("organisation_id", sa.Uuid(), server_default=sa.text("organisation_now()"), nullable=False)
