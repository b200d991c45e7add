"""Organisations: what is done for each of them in turn, by sessions that see that one's rows only."""

from collections.abc import Iterator
from uuid import UUID

from june_shade.plans import kinds
from june_shade.store import organisations as store
from june_shade.store.session import SessionMaker, reading, transaction


def each(sessions: SessionMaker) -> Iterator[SessionMaker]:
    """Sessions of every organisation, one organisation after another."""
    with reading(sessions.of_all()) as session:
        ids = store.ids(session)
    yield from map(sessions.of, ids)


def seed(sessions: SessionMaker) -> None:
    """Have each know the kinds of tree and sizes of stock that the program ships."""
    for ours in each(sessions):
        with transaction(ours) as session:
            kinds.seed_tables(session)


def of(sessions: SessionMaker, organisation: str | None) -> SessionMaker:
    """Sessions of an organisation by its id; of those that the sessions are of anyway, where none is named."""
    return sessions.of(UUID(organisation)) if organisation else sessions
