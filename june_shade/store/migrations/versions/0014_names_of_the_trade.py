"""Flows end in _l_per_h and conductivity has a name of its own in what is kept as JSON too."""

from alembic import op

revision = "0014"
down_revision = "0013"

RENAMED = (("drip_layout", "choice", "{}", "flow_l_h", "flow_l_per_h"),
           ("planting", "planted_in", "{soil}", "ks_mm_h", "conductivity_mm_h"))


def _rename(back: bool) -> None:
    for table, column, at, old, new in RENAMED:
        was, now = (new, old) if back else (old, new)
        inner = f"({column} #> '{at}')"
        op.execute(
            f"UPDATE {table} SET {column} = CASE '{at}' WHEN '{{}}' "
            f"THEN ({inner} - '{was}') || jsonb_build_object('{now}', {inner} -> '{was}') "
            f"ELSE jsonb_set({column}, '{at}', ({inner} - '{was}') || jsonb_build_object('{now}', {inner} -> '{was}')) "
            f"END WHERE {inner} ? '{was}'"
        )


def upgrade() -> None:
    _rename(back=False)


def downgrade() -> None:
    _rename(back=True)
