"""All tables in and out as JSON Lines: rows as the database writes them, so that they come back to the last digit."""

import json
from collections.abc import Callable, Iterable, Iterator, Mapping
from itertools import islice

from alembic.migration import MigrationContext
from psycopg import Connection as Driver
from psycopg import Error as DriverError
from psycopg.sql import SQL, Identifier
from sqlalchemy import Connection, Engine, func, inspect, select, text
from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session

from june_shade.store import migrate
from june_shade.store.account_tables import Account, SignInTry
from june_shade.store.base import Base
from june_shade.store.kinds import PEOPLE_LOCK
from june_shade.store.log_tables import LogEntry, Person
from june_shade.store.session import ALL, is_of
from june_shade.store.site_tables import Site
from june_shade.store.tree_tables import Tree
from june_shade.store.weather_tables import Station

AT_ONCE = 2000
REFUSED = (DBAPIError, DriverError)
"""What is raised for rows that do not fit."""
OWN = (Site, Station, Tree, LogEntry, Person, Account)
"""What a person has put in: where all are empty nothing is lost by bringing a backup in."""
Tables = Mapping[str, Callable[[], Iterable[str]]]
Told = Callable[[int, int], None]
"""Is told how many rows are done, of how many."""


def revision(connection: Connection) -> str:
    """Which schema a database has."""
    return MigrationContext.configure(connection).get_current_revision() or ""


def is_empty(session: Session) -> bool:
    """Whether nobody has put anything in yet, in any organisation."""
    is_of(session.connection(), ALL)
    return not any(session.scalar(select(func.count()).select_from(kind)) for kind in OWN)


def counts(connection: Connection) -> dict[str, int]:
    """Tables by name with their rows, where it can be each after what it refers to; tries to come in are left."""
    return {
        table.name: connection.scalar(select(func.count()).select_from(table)) or 0
        for table in Base.metadata.sorted_tables
        if table.name != SignInTry.__tablename__
    }


def rows(connection: Connection, table: str) -> Iterator[str]:
    """A table's rows in the order of its key, each as one line of JSON."""
    keys = inspect(connection).get_pk_constraint(table)["constrained_columns"]
    query = SQL("COPY (SELECT row_to_json(t)::text FROM {} t ORDER BY {}) TO STDOUT").format(
        Identifier(table), SQL(", ").join(map(Identifier, keys))
    )
    with _driver(connection).cursor().copy(query) as copy:
        for (line,) in copy.rows():
            yield str(line)


def put_back(engine: Engine, schema: str, tables: Tables, told: Told, of: int) -> None:
    """Fill an empty database with tables of a schema that this program has had: all or nothing.

    Raises what the database raises where rows do not fit it; the database is then as it was, at the newest schema.
    """
    url = engine.url.render_as_string(hide_password=False)
    with engine.connect() as connection:
        now = revision(connection)
    if schema != now:
        migrate.downgrade(url, schema)
    try:
        with engine.begin() as connection:
            _fill(connection, tables, told, of)
    finally:
        migrate.upgrade(url)


def _fill(connection: Connection, tables: Tables, told: Told, of: int) -> None:
    is_of(connection, ALL)
    connection.execute(select(func.pg_advisory_xact_lock(PEOPLE_LOCK)))
    driver, done = _driver(connection), 0
    references = [
        (table, str(key["name"])) for table in inspect(connection).get_table_names()
        for key in inspect(connection).get_foreign_keys(table)
    ]  # fmt: skip
    switch = SQL("ALTER TABLE {} ALTER CONSTRAINT {} {}")
    for table, name in references:  # rows may refer to some that come later
        driver.execute(switch.format(Identifier(table), Identifier(name), SQL("DEFERRABLE INITIALLY DEFERRED")))
    for table in inspect(connection).get_table_names():
        if table not in (LogEntry.__tablename__, "alembic_version"):  # seeds; the log is empty and refuses this
            driver.execute(SQL("DELETE FROM {}").format(Identifier(table)))
    for table, lines in tables.items():
        of_table = Identifier("public", table)  # a table may be called as one of the database's own types is
        put = SQL("INSERT INTO {} SELECT * FROM json_populate_recordset(NULL::{}, %s::json)").format(of_table, of_table)
        left = iter(lines())
        while some := list(islice(left, AT_ONCE)):
            driver.execute(put, ["[" + ",".join(some) + "]"])
            told(done := done + len(some), of)
    connection.execute(text("SET CONSTRAINTS ALL IMMEDIATE"))
    for table, name in references:
        driver.execute(switch.format(Identifier(table), Identifier(name), SQL("NOT DEFERRABLE")))


def is_json_row(line: str) -> bool:
    """Whether a line is one row."""
    try:
        return isinstance(json.loads(line), dict)
    except ValueError:
        return False


def _driver(connection: Connection) -> Driver:
    found = connection.connection.driver_connection
    assert isinstance(found, Driver)
    return found
