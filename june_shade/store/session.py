"""Engine and sessions: one engine a process, one session a request, synchronous on purpose."""

from collections.abc import Iterator
from contextlib import contextmanager

from sqlalchemy import Engine, create_engine, event
from sqlalchemy.exc import IntegrityError as RefusedError
from sqlalchemy.exc import OperationalError as UnavailableError
from sqlalchemy.orm import ORMExecuteState, Session, sessionmaker, with_loader_criteria
from sqlalchemy.orm.exc import StaleDataError as OvertakenError

from june_shade.store.tree_tables import Tree

__all__ = [
    "OvertakenError", "RefusedError", "Session", "SessionMaker", "UnavailableError", "constraint_of", "make_engine",
    "make_sessions", "transaction",
]  # fmt: skip


SessionMaker = sessionmaker[Session]


def constraint_of(error: RefusedError) -> str:
    """Name of the constraint that refused a write."""
    return getattr(getattr(error.orig, "diag", None), "constraint_name", None) or "constraint"


def database_of(session: Session) -> str:
    """Address of the database that a session is on: what is remembered in memory is remembered by it."""
    return str(session.get_bind().engine.url)


def psycopg_url(url: str) -> str:
    """The same URL with psycopg 3 named as its driver."""
    for scheme in ("postgresql://", "postgres://"):
        if url.startswith(scheme):
            return "postgresql+psycopg://" + url[len(scheme) :]
    return url


def make_engine(url: str) -> Engine:
    """An engine on PostgreSQL; connections are checked before use, since a server may have come back."""
    return create_engine(psycopg_url(url), pool_pre_ping=True, pool_size=10, max_overflow=10)


def make_sessions(engine: Engine) -> sessionmaker[Session]:
    """Session factory; rows stay readable after commit; trees whose planting was undone are in no answer."""
    made = sessionmaker(engine, expire_on_commit=False)
    event.listen(made, "do_orm_execute", _standing_trees)
    return made


STANDING = with_loader_criteria(Tree, Tree.withdrawn_at.is_(None), include_aliases=True)


def _standing_trees(asked: ORMExecuteState) -> None:
    if asked.is_select and not asked.is_column_load:
        asked.statement = asked.statement.options(STANDING)


@contextmanager
def transaction(sessions: sessionmaker[Session]) -> Iterator[Session]:
    """A session that commits at the end or rolls everything back."""
    with sessions() as session, session.begin():
        yield session
