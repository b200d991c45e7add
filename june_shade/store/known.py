"""Who holds a token, asked as cheaply as can be; and how often anything of that changed in this process."""

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from sqlalchemy import Engine, event, text, update
from sqlalchemy.orm import Session

from june_shade.store.account_tables import Device
from june_shade.store.session import ALL, SessionMaker, is_of

CHANGED = "who may come in changed"
_generation = 0
_ASKED = text("""
    SELECT d.organisation_id, d.id, d.shared, d.signed_in_at, d.seen_at, d.turn_ends_at, d.signed_out_at,
        a.id, a.role, a.person_id, p.name, a.sign_in, a.must_change, a.closed_at
    FROM device d LEFT JOIN account a ON a.id = d.account_id LEFT JOIN person p ON p.id = a.person_id
    WHERE d.token_sha256 = :token
""")
_ARE_THERE = text("SELECT EXISTS (SELECT FROM account)")


@dataclass(frozen=True, slots=True)
class Holder:
    """The device that holds a token, and whose turn it is there."""

    organisation_id: UUID
    device_id: UUID
    shared: bool
    signed_in_at: datetime
    seen_at: datetime
    turn_ends_at: datetime | None
    signed_out_at: datetime | None
    account_id: UUID | None
    role: str | None
    person_id: UUID | None
    name: str | None
    sign_in: str | None
    must_change: bool | None
    closed_at: datetime | None


def generation() -> int:
    """A number that is another one whenever this process changed who may come in."""
    return _generation


def changed(session: Session) -> None:
    """What this transaction does changes who may come in; said by whoever does."""
    session.info[CHANGED] = True


def listen(sessions: SessionMaker) -> None:
    """Have such changes count once they are stored."""
    event.listen(sessions, "after_commit", _counted)


def _counted(session: Session) -> None:
    global _generation
    if session.info.pop(CHANGED, False):
        _generation += 1


def holder(engine: Engine, token_sha256: str) -> Holder | None:
    """Who holds a token."""
    with engine.connect() as connection:
        is_of(connection, ALL)
        row = connection.execute(_ASKED, {"token": token_sha256}).first()
    return Holder(*row) if row is not None else None


def seen(engine: Engine, device_id: UUID, at: datetime) -> None:
    """A device is used at this moment."""
    with engine.begin() as connection:
        is_of(connection, ALL)
        connection.execute(update(Device).where(Device.id == device_id).values(seen_at=at))


def are_accounts_there(engine: Engine) -> bool:
    """Whether anybody has an account, in any organisation."""
    with engine.connect() as connection:
        is_of(connection, ALL)
        return bool(connection.execute(_ARE_THERE).scalar())
