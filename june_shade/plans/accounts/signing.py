"""Coming in and going out: sign-in with a throttle, devices, turns on a crew's phone.

Tries are counted before a password is looked at, so that a thousand at once are a thousand. By name and by address;
both wait longer from try to try and are let in again by themselves.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from uuid import UUID

from june_shade.core.errors import ConflictError, ForbiddenError, SignInError, TooManyTriesError
from june_shade.plans.accounts import secrets
from june_shade.plans.accounts.roles import LEAD, RANK, TECHNICIAN, Who
from june_shade.store import accounts as store
from june_shade.store import known
from june_shade.store.account_tables import Account, Device
from june_shade.store.session import By, Session, SessionMaker, organisation_of, reading, transaction

STAYS = timedelta(days=30)
"""So long a device stays signed in that nobody uses: a phone is in the truck all winter, but not for years."""
AT_MOST = timedelta(days=180)
TURN = timedelta(hours=12)
FREE_TRIES = {"name": 5, "pin": 5, "password": 5, "address": 40}
FIRST_WAIT, LONGEST_WAIT = timedelta(seconds=30), timedelta(minutes=15)
FORGOTTEN = timedelta(hours=24)
WRONG = "the name or the password is not right"
MOST_NAME = 60


def now() -> datetime:
    """The real time, also in the demo."""
    return datetime.now(UTC)


@dataclass(frozen=True, slots=True)
class Key:
    """What tries are counted by: kind (of FREE_TRIES) and what."""

    kind: str
    what: str

    def __str__(self) -> str:
        return f"{self.kind} {secrets.digest(self.what.lower())}"


def wait_of(kind: str, failures: int) -> timedelta:
    """How long after so many failures in a row the next try is not looked at."""
    over = failures - FREE_TRIES[kind]
    return timedelta(0) if over < 0 else min(FIRST_WAIT * 2.0 ** min(over, 20), LONGEST_WAIT)


def count(sessions: SessionMaker, keys: Sequence[Key]) -> None:
    """Count a try. Raises TooManyTriesError where the last ones were too many; that one is not counted."""
    at = now()
    with transaction(sessions.of_all()) as session:
        rows = store.tries(session, [str(key) for key in keys])
        for key in keys:
            row = rows[str(key)]
            if at - row.last_at > FORGOTTEN:
                row.failures = 0
            wait = wait_of(key.kind, row.failures)
            left = row.last_at + wait - at
            if wait and left > timedelta(0):
                raise TooManyTriesError(round(left.total_seconds()) + 1)
        for row in rows.values():
            row.failures, row.last_at = row.failures + 1, at


def forgive(session: Session, keys: Sequence[Key]) -> None:
    """A try was right: none before it counts for a name. Of an address it is only itself forgiven, so that nobody who
    has an account goes on guessing others' from there."""
    rows = store.tries(session, [str(key) for key in keys])
    for key in keys:
        row = rows[str(key)]
        row.failures = max(0, row.failures - 1) if key.kind == "address" else 0


def forget_tries(session: Session) -> None:
    """Forget tries that count no more."""
    store.forget_tries(session, now() - FORGOTTEN)


def stands(signed_in_at: datetime, seen_at: datetime, signed_out_at: datetime | None, at: datetime) -> bool:
    """Whether a device is signed in still."""
    return at - seen_at <= STAYS and at - signed_in_at <= AT_MOST and signed_out_at is None


def sign_in(
    sessions: SessionMaker, name: str, password: str, *, address: str, device_name: str, shared: bool = False
) -> str:  # fmt: skip
    """Sign in on a new device: what its cookie shall hold. shared: it is a crew's phone.

    Raises SignInError where name or password are not right, TooManyTriesError, ForbiddenError for a crew's phone that
    is set up by somebody who is no lead.
    """
    keys = [Key("name", name), Key("address", address)]
    count(sessions, keys)
    with reading(sessions.of_all()) as session:
        account = store.signing_in_as(session, name)
    found = account if account is not None and account.closed_at is None else None
    right = secrets.fits(password, found.password_hash if found else None)
    if found is None or not right:
        raise SignInError(WRONG, "password")
    if shared and RANK[found.role] < RANK[LEAD]:
        raise ForbiddenError("only an owner or a lead sets up a crew's phone", "shared")
    token, at = secrets.new_token(), now()
    with transaction(sessions.of(found.organisation_id, By(found.id, found.person_id, alone=False))) as session:
        forgive(session, keys)
        known.changed(session)
        session.add(
            Device(
                token_sha256=secrets.digest(token), account_id=None if shared else found.id, set_up_by=found.id,
                shared=shared, name=device_name[:MOST_NAME], signed_in_at=at, seen_at=at,
            )
        )  # fmt: skip
    return token


def sign_out(session: Session, who: Who, device_id: UUID) -> None:
    """Sign a device out: one's own, or any by an owner. Said again it changes nothing."""
    row = session.get(Device, device_id)
    mine = row is not None and who.account_id is not None and who.account_id in (row.account_id, row.set_up_by)
    if row is None or not (mine or row.id == who.device_id or who.may("owner")):
        raise ConflictError("there is no such device", "device_id")
    if row.signed_out_at is None:
        row.signed_out_at, row.signed_out_elsewhere = now(), row.id != who.device_id
    known.changed(session)


def devices(session: Session, who: Who) -> Sequence[Device]:
    """Devices that are signed in: one's own, for an owner all."""
    return store.devices(session, now() - STAYS, None if who.may("owner") else who.account_id)


def crew_of(session: Session) -> list[tuple[UUID, str]]:
    """Who may take a turn on a crew's phone: everyone with a PIN."""
    return [
        (account.id, name) for account, name in store.accounts(session)
        if account.pin_hash and account.closed_at is None and RANK[account.role] >= RANK[TECHNICIAN]
    ]  # fmt: skip


def take_turn(sessions: SessionMaker, who: Who, account_id: UUID, pin: str) -> None:
    """From now on it is somebody's turn on a crew's phone. Raises SignInError, TooManyTriesError; ConflictError where
    the phone is no crew's."""
    if not who.shared or who.device_id is None:
        raise ConflictError("this phone is one person's: turns are taken on a crew's phone only", "account_id")
    ours, key = sessions.of(who.organisation_id), Key("pin", str(account_id))
    count(ours, [key])
    with reading(ours) as session:
        account = session.get(Account, account_id)
    found = account if account is not None and account.closed_at is None and account.pin_hash else None
    if not secrets.fits(pin, found.pin_hash if found else None):
        raise SignInError("the PIN is not right", "pin")
    with transaction(ours) as session:
        forgive(session, [key])
        device = session.get_one(Device, who.device_id)
        device.account_id, device.turn_ends_at = account_id, now() + TURN
        known.changed(session)


def end_turn(session: Session, who: Who) -> None:
    """It is nobody's turn any more on a crew's phone."""
    if who.shared and who.device_id is not None:
        device = session.get_one(Device, who.device_id)
        device.account_id = device.turn_ends_at = None
        known.changed(session)


def organisation_name(session: Session) -> str:
    """What the organisation of a session is called."""
    return store.organisation_name(session, organisation_of(session))
