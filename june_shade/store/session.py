"""Engine and sessions: one engine a process, one session a request, synchronous on purpose."""

import logging
from collections.abc import Callable, Iterator
from contextlib import contextmanager

import psycopg
from sqlalchemy import Engine, create_engine, event
from sqlalchemy.exc import IntegrityError as RefusedError
from sqlalchemy.exc import OperationalError as UnavailableError
from sqlalchemy.exc import TimeoutError as BusyError
from sqlalchemy.orm import ORMExecuteState, Session, sessionmaker, with_loader_criteria
from sqlalchemy.orm.exc import StaleDataError as OvertakenError

from june_shade.store import crew_tables as crew_tables  # sites name their crew
from june_shade.store.tree_tables import Tree

__all__ = [
    "DATABASE_FAILED", "BusyError", "Engine", "OvertakenError", "RefusedError", "Session", "SessionMaker",
    "UnavailableError", "constraint_of", "is_collision", "is_disk_full", "make_engine", "make_sessions", "reading",
    "transaction",
]  # fmt: skip
logger = logging.getLogger("june_shade")
DATABASE_FAILED = (UnavailableError, psycopg.OperationalError)
"""What is raised where the database does not answer, or goes away in the middle; COPY raises the driver's own."""
LONGEST_WAIT_S = 3.0
AFTERWARDS = "what is done afterwards"

SessionMaker = sessionmaker[Session]


def constraint_of(error: RefusedError) -> str:
    """Name of the constraint that refused a write."""
    return getattr(getattr(error.orig, "diag", None), "constraint_name", None) or "constraint"


COLLISIONS = frozenset({"40001", "40P01"})
"""PostgreSQL's codes for a transaction that met another: not serialized, deadlock. Tried again it works."""


def is_collision(error: BaseException | None) -> bool:
    """Whether a transaction was refused only because it met another one, whoever in between has wrapped that."""
    while error is not None:
        state = getattr(error, "sqlstate", None) or getattr(getattr(error, "orig", None), "sqlstate", None)
        if state in COLLISIONS:
            return True
        error = error.__cause__ or error.__context__
    return False


DISK_FULL = "53100"


def is_disk_full(error: BaseException | None) -> bool:
    """Whether the database could not write because there is no room."""
    while error is not None:
        if DISK_FULL in (getattr(error, "sqlstate", None), getattr(getattr(error, "orig", None), "sqlstate", None)):
            return True
        error = error.__cause__ or error.__context__
    return False


def database_of(session: Session) -> str:
    """Address of the database that a session is on: what is remembered in memory is remembered by it."""
    return str(session.get_bind().engine.url)


def psycopg_url(url: str) -> str:
    """The same URL with psycopg 3 named as its driver."""
    for scheme in ("postgresql://", "postgres://"):
        if url.startswith(scheme):
            return "postgresql+psycopg://" + url[len(scheme) :]
    return url


def make_engine(url: str, connections: int = 10) -> Engine:
    """An engine on PostgreSQL with so many connections at most; who finds none free is told so soon (BusyError).

    They are checked before use, since a server may have come back.
    """
    return create_engine(
        psycopg_url(url), pool_pre_ping=True, pool_size=connections, max_overflow=0, pool_timeout=LONGEST_WAIT_S
    )


def make_sessions(engine: Engine) -> sessionmaker[Session]:
    """Session factory; rows stay readable after commit; trees whose planting was undone are in no answer, those
    that died or went only where they are asked for."""
    made = sessionmaker(engine, expire_on_commit=False)
    event.listen(made, "do_orm_execute", _standing_trees)
    return made


STANDING = with_loader_criteria(
    Tree, lambda tree: tree.withdrawn_at.is_(None) & tree.ended_on.is_(None), include_aliases=True
)
IN_THE_BOOK = with_loader_criteria(Tree, lambda tree: tree.withdrawn_at.is_(None), include_aliases=True)
ENDED_TOO = "ended trees too"
"""Execution option of a query that wants trees that died or went, as well."""


def _standing_trees(asked: ORMExecuteState) -> None:
    if asked.is_select and not asked.is_column_load:
        asked.statement = asked.statement.options(IN_THE_BOOK if asked.execution_options.get(ENDED_TOO) else STANDING)


@contextmanager
def transaction(sessions: sessionmaker[Session]) -> Iterator[Session]:
    """A session that commits at the end or rolls everything back."""
    with sessions() as session, session.begin():
        yield session


@contextmanager
def reading(sessions: sessionmaker[Session]) -> Iterator[Session]:
    """A session that reads what was there at one moment: it waits for nobody, nobody waits for it, it writes nothing.

    What it worked out and others may use is kept when it is over (`afterwards`), each thing in a transaction of its
    own; where that can't be done it is left.
    """
    with sessions() as session, session.begin():
        session.connection(execution_options={"isolation_level": "REPEATABLE READ", "postgresql_readonly": True})
        steps: list[Callable[[Session], None]] = []
        session.info[AFTERWARDS] = steps
        yield session
    for step in steps:
        try:
            with transaction(sessions) as later:
                step(later)
        except UnavailableError:
            logger.warning("something that was worked out could not be kept", exc_info=True)


def is_reading(session: Session) -> bool:
    """Whether a session only reads, from one moment."""
    return AFTERWARDS in session.info


def afterwards(session: Session, step: Callable[[Session], None]) -> None:
    """Have something kept once a session that only reads is over; at once in one that writes."""
    if is_reading(session):
        session.info[AFTERWARDS].append(step)
    else:
        step(session)
