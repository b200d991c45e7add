"""Many trees written at once: new ones and what changed of those that are there, in a few statements."""

from collections.abc import Callable, Iterable, Sequence
from functools import cache
from types import SimpleNamespace
from typing import Any
from uuid import UUID

from psycopg.types.json import Jsonb
from sqlalchemy import inspect
from sqlalchemy.orm import Session
from sqlalchemy.sql.schema import CallableColumnDefault, ScalarElementColumnDefault

from june_shade.store.tree_tables import Tree


def write_changed(session: Session, rows: Iterable[Tree]) -> None:
    """Write what changed of many stored trees in a few statements, where a flush would send one for each.

    Nobody else changes them meanwhile: the caller has their sites alone. The rows leave the session; who needs them
    again reads them again.
    """
    different = []
    for row in rows:
        if inspect(row).persistent:
            different.append((row.id, changed_columns(row)))
            session.expunge(row)
    write_columns(session, different)


def changed_columns(row: Tree) -> dict[str, Any]:
    """What of a stored tree is another than it was read, by column."""
    columns, before = Tree.metadata.tables["tree"].c, inspect(row).committed_state
    return {name: getattr(row, name) for name in before if name in columns and getattr(row, name) != before[name]}


class Draft(SimpleNamespace):
    """A new tree by column, what is not given as the table has it for such; no session knows of it."""

    def __init__(self, **given: Any) -> None:
        plain, made = _usual()
        super().__init__(**(plain | {name: make(None) for name, make in made.items()} | given))


@cache
def _usual() -> tuple[dict[str, Any], dict[str, Callable[[Any], Any]]]:
    """Every column of a new tree, as the table has it where it is not given: values, and what makes one for each."""
    plain: dict[str, Any] = {"version": 1}
    made: dict[str, Callable[[Any], Any]] = {}
    for column in Tree.metadata.tables["tree"].columns:
        if column.name == "organisation_id":
            continue  # the database knows
        usual = column.default
        if isinstance(usual, CallableColumnDefault):
            made[column.name] = usual.arg
        elif column.name not in plain:
            plain[column.name] = usual.arg if isinstance(usual, ScalarElementColumnDefault) else None
    return plain, made


def insert_many(session: Session, rows: Sequence[dict[str, Any]]) -> None:
    """Put many new trees in at once, each by column as a Draft has it."""
    if not rows:
        return
    raw = session.connection().connection.driver_connection
    assert raw is not None
    listed = ", ".join(rows[0])
    with raw.cursor() as cursor:  # a table that is kept apart by organisation takes no COPY
        cursor.execute(f"CREATE TEMP TABLE new_tree ON COMMIT DROP AS SELECT {listed} FROM tree WITH NO DATA")
        with cursor.copy(f"COPY new_tree ({listed}) FROM STDIN") as copy:
            for row in rows:
                copy.write_row([_written(value) for value in row.values()])
        cursor.execute(f"INSERT INTO tree ({listed}) SELECT {listed} FROM new_tree")
        cursor.execute("DROP TABLE new_tree")


def _written(value: Any) -> Any:
    return Jsonb(value) if isinstance(value, dict | list) else value


def write_columns(session: Session, different: Iterable[tuple[UUID, dict[str, Any]]]) -> None:
    """Write some columns of many trees, by id, in a few statements."""
    alike: dict[tuple[str, ...], list[tuple[Any, ...]]] = {}
    for tree_id, values in different:
        if values:
            names = tuple(sorted(values))
            alike.setdefault(names, []).append((tree_id, *(_written(values[name]) for name in names)))
    raw = session.connection().connection.driver_connection
    assert raw is not None
    for names, written in alike.items():
        listed, replaced = ", ".join(names), ", ".join(f"{name} = new_tree.{name}" for name in names)
        with raw.cursor() as cursor:
            cursor.execute(f"CREATE TEMP TABLE new_tree ON COMMIT DROP AS SELECT id, {listed} FROM tree WITH NO DATA")
            with cursor.copy(f"COPY new_tree (id, {listed}) FROM STDIN") as copy:
                for one in written:
                    copy.write_row(one)
            cursor.execute(
                f"UPDATE tree SET {replaced}, version = version + 1 FROM new_tree WHERE tree.id = new_tree.id"
            )
            cursor.execute("DROP TABLE new_tree")
