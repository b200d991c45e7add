"""Coming in and going out: sign-in with a throttle, devices, turns on a crew's phone, who asks.

Tries are counted before a password is looked at, so that a thousand at once are a thousand. By name and by address;
both wait longer from try to try and are let in again by themselves.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from uuid import UUID

from june_shade.core.errors import ConflictError, ForbiddenError, SignInError, TooManyTriesError
from june_shade.plans.accounts import secrets
from june_shade.plans.accounts.roles import ANYBODY, LEAD, RANK, TECHNICIAN, Who, on_shared
from june_shade.store import accounts as store
from june_shade.store.account_tables import Account, Device
from june_shade.store.session import By, Session, SessionMaker, organisation_of, reading, transaction

STAYS = timedelta(days=30)
"""So long a device stays signed in that nobody uses: a phone is in the truck all winter, but not for years."""
AT_MOST = timedelta(days=180)
TURN = timedelta(hours=12)
SEEN_EVERY = timedelta(minutes=10)
FREE_TRIES = {"name": 5, "pin": 5, "address": 40}
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


def _count(sessions: SessionMaker, keys: Sequence[Key]) -> None:
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


def _forgive(session: Session, keys: Sequence[Key]) -> None:
    for row in store.tries(session, [str(key) for key in keys]).values():
        row.failures = 0


def who_is(sessions: SessionMaker, token: str | None) -> Who | None:
    """Who asks with a cookie that holds this token; ANYBODY as long as there are no accounts; None where they must
    sign in."""
    with reading(sessions.of_all()) as session:
        if not token:
            return None if store.are_there(session) else ANYBODY
        there, device, account, name = store.with_token(session, secrets.digest(token))
    if not there:
        return ANYBODY
    at = now()
    if device is None or not _stands(device, at):
        return None
    if at - device.seen_at > SEEN_EVERY:
        with transaction(sessions.of_all()) as session:
            session.get_one(Device, device.id).seen_at = at
    whole = Who(device.organisation_id, None, device_id=device.id, shared=device.shared)
    if account is None or account.closed_at is not None:
        return whole if device.shared else None
    if device.shared and (device.turn_ends_at is None or device.turn_ends_at < at):
        return whole
    found = _who(account, name or "", device)
    return on_shared(found) if device.shared else found


def _stands(device: Device, at: datetime) -> bool:
    fresh = at - device.seen_at <= STAYS and at - device.signed_in_at <= AT_MOST
    return fresh and device.signed_out_at is None


def _who(account: Account, name: str, device: Device) -> Who:
    return Who(
        device.organisation_id, account.role, account.id, account.person_id, name, account.sign_in, device.id,
        device.shared, account.must_change,
    )  # fmt: skip


def sign_in(
    sessions: SessionMaker, name: str, password: str, *, address: str, device_name: str, shared: bool = False
) -> str:  # fmt: skip
    """Sign in on a new device: what its cookie shall hold. shared: it is a crew's phone.

    Raises SignInError where name or password are not right, TooManyTriesError, ForbiddenError for a crew's phone that
    is set up by somebody who is no lead.
    """
    keys = [Key("name", name), Key("address", address)]
    _count(sessions, keys)
    with reading(sessions.of_all()) as session:
        account = store.signing_in_as(session, name)
    known = account if account is not None and account.closed_at is None else None
    right = secrets.fits(password, known.password_hash if known else None)
    if known is None or not right:
        raise SignInError(WRONG, "password")
    if shared and RANK[known.role] < RANK[LEAD]:
        raise ForbiddenError("only an owner or a lead sets up a crew's phone", "shared")
    token, at = secrets.new_token(), now()
    with transaction(sessions.of(known.organisation_id, By(known.id, known.person_id, alone=False))) as session:
        _forgive(session, keys)
        session.add(
            Device(
                token_sha256=secrets.digest(token), account_id=None if shared else known.id, set_up_by=known.id,
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
    row.signed_out_at = row.signed_out_at or now()


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
    _count(ours, [key])
    with reading(ours) as session:
        account = session.get(Account, account_id)
    known = account if account is not None and account.closed_at is None and account.pin_hash else None
    if not secrets.fits(pin, known.pin_hash if known else None):
        raise SignInError("the PIN is not right", "pin")
    with transaction(ours) as session:
        _forgive(session, [key])
        device = session.get_one(Device, who.device_id)
        device.account_id, device.turn_ends_at = account_id, now() + TURN


def end_turn(session: Session, who: Who) -> None:
    """It is nobody's turn any more on a crew's phone."""
    if who.shared and who.device_id is not None:
        device = session.get_one(Device, who.device_id)
        device.account_id = device.turn_ends_at = None


def organisation_name(session: Session) -> str:
    """What the organisation of a session is called."""
    return store.organisation_name(session, organisation_of(session))
