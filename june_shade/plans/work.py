"""A unit of work, as whoever starts a use case is handed it; all that is known of the store outside of plans."""

from june_shade.store import audit, known
from june_shade.store import session as store
from june_shade.store.session import (
    BusyError,
    OvertakenError,
    RefusedError,
    Session,
    SessionMaker,
    StatementError,
    UnavailableError,
    constraint_of,
    is_collision,
    is_disk_full,
    is_not_ours,
    make_engine,
    reading,
    transaction,
)

__all__ = [
    "BusyError", "OvertakenError", "RefusedError", "Session", "SessionMaker", "StatementError", "UnavailableError",
    "constraint_of", "is_collision", "is_disk_full", "is_not_ours", "make_engine",
    "make_sessions", "reading", "transaction",
]  # fmt: skip


def make_sessions(engine: store.Engine) -> SessionMaker:
    """Session factory whose sessions note what they change of settings, and of who may come in."""
    made = store.make_sessions(engine)
    audit.listen(made)
    known.listen(made)
    return made
