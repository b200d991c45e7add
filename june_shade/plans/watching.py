"""Whether the program can do its work, and what waits."""

from functools import cache

from june_shade.store import watching as store
from june_shade.store.session import Session


@cache
def _needed() -> str:
    return store.newest_schema()


def missing_schema(session: Session) -> bool:
    """Whether the database has another schema than this program needs."""
    return store.schema(session) != _needed()


def queue(session: Session) -> tuple[dict[str, int], float]:
    """Jobs by state, and how long the oldest has been waiting [s]."""
    return store.jobs(session)
