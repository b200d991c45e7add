"""Accounts made, changed, reset, closed by the owner; and what each does with their own: password and PIN."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any
from uuid import UUID, uuid4

from june_shade.core.errors import ConflictError, ForbiddenError, InputError, NotFoundError, SignInError
from june_shade.plans import kinds, register
from june_shade.plans.accounts import secrets
from june_shade.plans.accounts.roles import OWNER, Who
from june_shade.plans.accounts.signing import Key, count, forgive, now
from june_shade.store import accounts as store
from june_shade.store import known
from june_shade.store.account_tables import Account, AuditEntry
from june_shade.store.log_tables import Person
from june_shade.store.organisation_tables import Organisation
from june_shade.store.session import Session, SessionMaker, reading, transaction


@dataclass(frozen=True, slots=True)
class Shown:
    """An account as people see it, and who it is in the book."""

    account: Account
    name: str


def found(
    sessions: SessionMaker, organisation: str, name: str, sign_in: str, password: str, organisation_id: UUID
) -> UUID:  # fmt: skip
    """Make an organisation's first owner; the account's id. From then on nobody comes in without an account.

    Raises ConflictError where the organisation has accounts already.
    """
    secrets.check_password(password, [name, sign_in, organisation])
    with transaction(sessions.of(organisation_id)) as session:
        store.lock_founding(session)
        if store.are_there(session):
            raise ConflictError("there is an owner already: ask them for an account", "sign_in")
        session.get_one(Organisation, organisation_id).name = organisation
        row = _new(session, uuid4(), {"name": name, "sign_in": sign_in, "role": OWNER}, password)
        session.add(row)
        known.changed(session)
        return row.id


def new_organisation(sessions: SessionMaker, name: str) -> UUID:
    """Make another organisation, which sees nothing of the others; its id.

    Raises ConflictError where the name is taken, or where the database can not keep organisations apart because it
    lets the program's user see everything.
    """
    made = Organisation(id=uuid4(), name=name)
    with transaction(sessions.of_all()) as session:
        register.free(session, Organisation, "name", name, None)
        if store.sees_everything(session):
            raise ConflictError(
                "the database's user may see everything, so organisations can't be kept apart: give the program a "
                "user of its own that is no superuser", "name",
            )  # fmt: skip
        session.add(made)
    with transaction(sessions.of(made.id)) as session:
        kinds.seed_tables(session)
    return made.id


def accounts(session: Session) -> list[Shown]:
    """Every account of the organisation, by name."""
    return [Shown(account, name) for account, name in store.accounts(session)]


def save(session: Session, who: Who, account_id: UUID, values: dict[str, Any]) -> tuple[Shown, str | None]:
    """Make or change an account: `name`, `sign_in`, `role`, `closed`, `version`. A new one's password, to be told once.

    Who is closed, or is something else now, is signed out everywhere. Raises ConflictError where a sign-in name is
    taken, or where no owner would be left; StaleError.
    """
    if who.is_open:
        raise ConflictError("make the owner's account first", "sign_in")
    store.lock_founding(session)  # two owners that close each other at once leave none
    row, password = session.get(Account, account_id), None
    taken = store.signing_in_as_anywhere(session, values["sign_in"])
    if taken is not None and taken != account_id:
        raise ConflictError(f"{values['sign_in']!r} is taken already", "sign_in")
    if row is None:
        password = secrets.one_time_password()
        row = _new(session, account_id, values, password)
        row.must_change = True
        session.add(row)
        session.flush()
        return Shown(row, values["name"]), password
    register.fresh(row, {"version": values["version"], "sign_in": values["sign_in"], "role": values["role"]})
    person = session.get_one(Person, row.person_id)
    closes = bool(values["closed"])
    if row.role == OWNER and (values["role"] != OWNER or closes) and not store.other_owners(session, row.id):
        raise ConflictError("is the only owner: make another one first", "role")
    if closes and row.id == who.account_id:
        raise ConflictError("is yours: nobody closes their own", "closed")
    if values["role"] != row.role or closes != (row.closed_at is not None):
        store.sign_out_all(session, row.id, now())
    row.sign_in, row.role = values["sign_in"], values["role"]
    row.closed_at = (row.closed_at or now()) if closes else None
    _rename(session, person, values["name"])
    known.changed(session)
    session.flush()
    return Shown(row, person.name), password


def make(session: Session, account_id: UUID, values: dict[str, Any], password: str, pin: str | None) -> None:
    """Make an account whose password and PIN are known already: `name`, `sign_in`, `role`."""
    row = _new(session, account_id, values, password)
    row.pin_hash = None if pin is None else secrets.hash_of(pin)
    session.add(row)


def _new(session: Session, account_id: UUID, values: dict[str, Any], password: str) -> Account:
    person = kinds.save_person(session, uuid4(), values["name"])
    session.flush()
    if any(shown.account.person_id == person.id for shown in accounts(session)):
        raise ConflictError(f"{values['name']!r} has an account already", "name")
    return Account(
        id=account_id, sign_in=values["sign_in"], role=values["role"], person_id=person.id,
        password_hash=secrets.hash_of(password),
    )  # fmt: skip


def _rename(session: Session, person: Person, name: str) -> None:
    if person.name != name:
        register.free(session, Person, "name", name, person.id)
        person.name = name


def reset(session: Session, who: Who | None, account_id: UUID) -> str:
    """Give somebody a new password that holds for one sign-in; they are signed out everywhere. Told once."""
    row = _one(session, account_id)
    if who is not None and row.id == who.account_id:
        raise ConflictError("is your own: change it instead", "account_id")
    password = secrets.one_time_password()
    row.password_hash, row.must_change, row.pin_hash = secrets.hash_of(password), True, None
    store.sign_out_all(session, row.id, now())
    return password


def reset_owner(sessions: SessionMaker, sign_in: str) -> str:
    """The same for an owner who lost theirs, by who has the machine. Raises NotFoundError where none signs in so."""
    with reading(sessions.of_all()) as session:
        row = store.signing_in_as(session, sign_in)
    if row is None or row.role != OWNER:
        raise NotFoundError(f"no owner signs in as {sign_in!r}", "sign_in")
    with transaction(sessions.of(row.organisation_id)) as session:
        session.get_one(Account, row.id).closed_at = None
        return reset(session, None, row.id)


def change_password(sessions: SessionMaker, who: Who, old: str, new: str) -> None:
    """Change one's own password; every other device is signed out.

    Raises SignInError where the old one is not it, TooManyTriesError where that was so too often.
    """
    key = Key("password", str(who.account_id))
    if who.account_id is not None:
        count(sessions, [key])
    with transaction(sessions) as session:
        row = _own(session, who)
        if not secrets.fits(old, row.password_hash):
            raise SignInError("is not your password", "old")
        forgive(session, [key])
        if old == new:
            raise InputError("is the one that you have", "new")
        secrets.check_password(new, [who.name, row.sign_in], "new")
        row.password_hash, row.must_change = secrets.hash_of(new), False
        store.sign_out_all(session, row.id, now(), but=who.device_id)


def change_pin(session: Session, who: Who, pin: str | None) -> None:
    """Give oneself a PIN for turns on a crew's phone, or take it away."""
    row = _own(session, who)
    if who.shared:
        raise ForbiddenError("a PIN is changed on your own phone or computer", "pin")
    if pin is not None:
        secrets.check_pin(pin)
    row.pin_hash = None if pin is None else secrets.hash_of(pin)


def speak(session: Session, who: Who, language: str) -> None:
    """Say which language one reads. Raises ConflictError where there are no accounts."""
    _own(session, who).language = language


def own(session: Session, who: Who) -> tuple[bool, str | None]:
    """Whether one has a PIN, and the language that one reads, None where that was not said."""
    row = _own(session, who)
    return row.pin_hash is not None, row.language


def audit(session: Session, limit: int) -> Sequence[tuple[AuditEntry, str | None]]:
    """Who did what to settings, the newest first."""
    return store.audit(session, limit)


def _own(session: Session, who: Who) -> Account:
    if who.account_id is None:
        raise ConflictError("there are no accounts yet", "account_id")
    return _one(session, who.account_id)


def _one(session: Session, account_id: UUID) -> Account:
    row = session.get(Account, account_id)
    if row is None:
        raise NotFoundError("there is no such account", "account_id")
    return row
