"""The cache of computed states: a tree's stores and roots at the end of a day."""

from collections.abc import Iterable, Sequence
from datetime import date
from typing import Any, NamedTuple
from uuid import UUID

from sqlalchemy import bindparam, delete, select, true, tuple_
from sqlalchemy.orm import Session

from june_shade.store.base import Base
from june_shade.store.tree_tables import Tree, TreeState

STATE_COLUMNS = (
    "root_radius_m",
    "ball_depletion_l",
    "near_depletion_l",
    "far_depletion_l",
    "near_volume_l",
    "far_volume_l",
    "outside_depletion_mm",
    "ks",
    "soggy",
    "soggy_days",
    "rain_before_mm",
    "ball_variance",
    "near_variance",
    "late_days",
    "reservoir_l",
)


class KeptState(NamedTuple):
    """A tree's state at the end of a day; values: one for each of STATE_COLUMNS."""

    day: date
    values: tuple[float, ...]


_newest = (
    select(TreeState.day, *(getattr(TreeState, c) for c in STATE_COLUMNS))
    .where(TreeState.tree_id == Tree.id, TreeState.day <= bindparam("until"))
    .order_by(TreeState.day.desc())
    .limit(1)
    .lateral("newest")
)
_NEWEST = select(Tree.id, _newest).join(_newest, true())


def newest_states(
    session: Session, site_id: UUID, until: date, tree_ids: Sequence[UUID] | None = None
) -> dict[UUID, KeptState]:
    """The newest cached state of each tree not after a date, by tree id."""
    query = _NEWEST.where(Tree.site_id == site_id)
    if tree_ids is not None:
        query = query.where(Tree.id.in_(list(tree_ids)))
    return {row[0]: KeptState(row[1], tuple(row[2:])) for row in session.execute(query, {"until": until})}


def save_states(session: Session, rows: Iterable[tuple[Any, ...]]) -> None:
    """Write cached states (tree_id, day, *STATE_COLUMNS) in bulk; those that are there stay as they are."""
    raw = session.connection().connection.driver_connection
    assert raw is not None
    columns = ", ".join(("tree_id", "day", *STATE_COLUMNS))
    with raw.cursor() as cursor:
        cursor.execute("CREATE TEMP TABLE IF NOT EXISTS new_state (LIKE tree_state) ON COMMIT DELETE ROWS")
        cursor.execute("ALTER TABLE new_state ALTER organisation_id DROP NOT NULL")
        with cursor.copy(f"COPY new_state ({columns}) FROM STDIN (FORMAT binary)") as copy:
            copy.set_types(["uuid", "date", *["float8"] * 8, "bool", *["float8"] * 4, "int4", "float8"])
            for row in rows:
                copy.write_row(row)
        cursor.execute(
            f"INSERT INTO tree_state ({columns}) SELECT {columns} FROM new_state ORDER BY tree_id, day "
            "ON CONFLICT DO NOTHING"
        )
        cursor.execute("DELETE FROM new_state")


def forget_days(session: Session, tree_ids: Iterable[UUID], days: Iterable[date]) -> None:
    """Forget cached states of some trees on some days, but those that another reader of the site forgets just now."""
    key = tuple_(TreeState.tree_id, TreeState.day)
    there = select(TreeState.tree_id, TreeState.day).where(
        TreeState.tree_id.in_(list(tree_ids)), TreeState.day.in_(list(days))
    )
    free = there.with_for_update(skip_locked=True)
    session.execute(delete(TreeState).where(key.in_(free)).execution_options(synchronize_session=False))


def drop_states(
    session: Session,
    *,
    tree_ids: Iterable[UUID] | None = None,
    site_ids: Iterable[UUID] | None = None,
    since: date | None = None,
) -> None:
    """Forget cached states of some trees or of whole sites, from a date on or all."""
    state, tree = (Base.metadata.tables[kind.__tablename__] for kind in (TreeState, Tree))
    statement = delete(state)
    if tree_ids is not None:
        statement = statement.where(state.c.tree_id.in_(list(tree_ids)))
    if site_ids is not None:
        statement = statement.where(state.c.tree_id.in_(select(tree.c.id).where(tree.c.site_id.in_(list(site_ids)))))
    if since is not None:
        statement = statement.where(state.c.day >= since)
    session.connection().execute(statement)
