"""A unit of work, as whoever starts a use case is handed it; all that is known of the store outside of plans."""

from june_shade.store.session import (
    BusyError,
    OvertakenError,
    RefusedError,
    Session,
    SessionMaker,
    UnavailableError,
    constraint_of,
    is_collision,
    is_disk_full,
    make_engine,
    make_sessions,
    reading,
    transaction,
)

__all__ = [
    "BusyError", "OvertakenError", "RefusedError", "Session", "SessionMaker", "UnavailableError", "constraint_of",
    "is_collision", "is_disk_full", "make_engine", "make_sessions", "reading", "transaction",
]  # fmt: skip
