"""Engine and sessions: one engine a process, one session a request, synchronous on purpose."""

from collections.abc import Iterator
from contextlib import contextmanager

from sqlalchemy import Engine, create_engine
from sqlalchemy.orm import Session, sessionmaker


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
    """Session factory; rows stay readable after commit."""
    return sessionmaker(engine, expire_on_commit=False)


@contextmanager
def transaction(sessions: sessionmaker[Session]) -> Iterator[Session]:
    """A session that commits at the end or rolls everything back."""
    with sessions() as session, session.begin():
        yield session
