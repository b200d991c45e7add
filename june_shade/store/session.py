"""Engine and sessions: one engine a process, one session a request, synchronous on purpose."""

import logging
from collections.abc import Callable, Collection, Iterator
from contextlib import contextmanager
from copy import copy
from dataclasses import dataclass
from uuid import UUID

import psycopg
from sqlalchemy import Connection, Engine, create_engine, event
from sqlalchemy.exc import IntegrityError as RefusedError
from sqlalchemy.exc import OperationalError as UnavailableError
from sqlalchemy.exc import ProgrammingError as StatementError
from sqlalchemy.exc import TimeoutError as BusyError
from sqlalchemy.orm import ORMExecuteState, Session, SessionTransaction, sessionmaker, with_loader_criteria
from sqlalchemy.orm.exc import StaleDataError as OvertakenError

from june_shade.store import crew_tables as crew_tables  # sites name their crew
from june_shade.store.organisation_tables import FIRST_ORGANISATION
from june_shade.store.tree_tables import Tree

__all__ = [
    "ALL", "DATABASE_FAILED", "BusyError", "By", "Engine", "OvertakenError", "RefusedError", "Session", "SessionMaker",
    "StatementError", "UnavailableError", "account_of", "by_of", "constraint_of", "is_collision", "is_disk_full",
    "is_not_ours", "is_of", "make_engine", "make_sessions", "organisation_of", "reading", "transaction",
]  # fmt: skip
logger = logging.getLogger("june_shade")
DATABASE_FAILED = (UnavailableError, psycopg.OperationalError)
"""What is raised where the database does not answer, or goes away in the middle; COPY raises the driver's own."""
LONGEST_WAIT_S = 3.0
AFTERWARDS = "what is done afterwards"

OF, BY = "organisation", "by"
ALL = "all"


@dataclass(frozen=True, slots=True)
class By:
    """Who enters what a session writes: the account, who that is in the book. alone: whatever they enter is their own
    work."""

    account_id: UUID
    person_id: UUID
    alone: bool


class SessionMaker(sessionmaker[Session]):
    """Makes sessions, each of one organisation: the database shows them and lets them write what is that one's only."""

    def of(self, organisation_id: UUID, by: By | None = None) -> "SessionMaker":
        """The same for another organisation, and for who enters what is written; None = the program itself."""
        return self._of(str(organisation_id), by)

    @property
    def organisation_id(self) -> UUID:
        """The organisation that its sessions are of."""
        return UUID(self.kw["info"][OF])

    def of_all(self) -> "SessionMaker":
        """The same for all organisations together: for what is everyone's, such as backups. It writes no new rows but
        such as say whose they are."""
        return self._of(ALL)

    def of_nobody(self) -> "SessionMaker":
        """The same for who is not signed in: they see no row that is anyone's."""
        return self._of("")

    def _of(self, whose: str, by: By | None = None) -> "SessionMaker":
        made = copy(self)
        made.kw = self.kw | {"info": {OF: whose, BY: by}}
        return made


def organisation_of(session: Session) -> UUID:
    """The organisation that a session is of."""
    return UUID(session.info[OF])


def by_of(session: Session) -> By | None:
    """Who enters what a session writes; None where nobody is signed in."""
    found: By | None = session.info.get(BY)
    return found


def account_of(session: Session) -> UUID | None:
    """The account that enters what a session writes; None where nobody is signed in."""
    by = by_of(session)
    return by.account_id if by is not None else None


IS_OF = "SELECT set_config('june.organisation', %s, true), set_config('june.account', %s, true)"


def is_of(connection: Connection, whose: str, account_id: UUID | None = None) -> None:
    """Have the rest of a connection's transaction be an organisation's, or of ALL, and an account's."""
    by = "" if account_id is None else str(account_id)
    connection.exec_driver_sql(IS_OF, (whose, by))


def constraint_of(error: RefusedError) -> str:
    """Name of the constraint that refused a write."""
    return getattr(getattr(error.orig, "diag", None), "constraint_name", None) or "constraint"


COLLISIONS = frozenset({"40001", "40P01"})
"""PostgreSQL's codes for a transaction that met another: not serialized, deadlock. Tried again it works."""


def is_collision(error: BaseException | None) -> bool:
    """Whether a transaction was refused only because it met another one, whoever in between has wrapped that."""
    return _has_state(error, COLLISIONS)


DISK_FULL = "53100"


def is_disk_full(error: BaseException | None) -> bool:
    """Whether the database could not write because there is no room."""
    return _has_state(error, {DISK_FULL})


NOT_OURS = "42501"


def is_not_ours(error: BaseException | None) -> bool:
    """Whether a row was refused because it, or one that it names, is another organisation's or nobody's."""
    return _has_state(error, {NOT_OURS})


def _has_state(error: BaseException | None, states: Collection[str]) -> bool:
    while error is not None:
        if {getattr(error, "sqlstate", None), getattr(getattr(error, "orig", None), "sqlstate", None)} & set(states):
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


def make_sessions(engine: Engine, organisation_id: UUID = FIRST_ORGANISATION) -> SessionMaker:
    """Session factory of an organisation; rows stay readable after commit; trees whose planting was undone are in no
    answer, those that died or went only where they are asked for."""
    made = SessionMaker(engine, expire_on_commit=False, info={OF: str(organisation_id)})
    event.listen(made, "do_orm_execute", _standing_trees)
    event.listen(made, "after_begin", _of_its_organisation)
    return made


def _of_its_organisation(session: Session, begun: SessionTransaction, connection: Connection) -> None:
    if not begun.nested:
        is_of(connection, session.info[OF], account_of(session))


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
def transaction(sessions: SessionMaker) -> Iterator[Session]:
    """A session that commits at the end or rolls everything back."""
    with sessions() as session, session.begin():
        yield session


@contextmanager
def reading(sessions: SessionMaker) -> Iterator[Session]:
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
