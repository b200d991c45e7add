"""Queries on accounts, devices, tries to come in."""

from collections.abc import Sequence
from datetime import datetime
from uuid import UUID

from sqlalchemy import delete, exists, func, select, text, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session, undefer

from june_shade.store import known
from june_shade.store.account_tables import OWNER, Account, AuditEntry, Device, LateAsk, SignInTry
from june_shade.store.log_tables import Person
from june_shade.store.organisation_tables import Organisation
from june_shade.store.session import ALL, account_of, is_of, organisation_of

FOUNDING_LOCK = 0x6F776E6572


def lock_founding(session: Session) -> None:
    """Be the only one that makes accounts or changes what they are, until the transaction ends."""
    session.execute(select(func.pg_advisory_xact_lock(FOUNDING_LOCK)))


def are_there(session: Session) -> bool:
    """Whether anybody has an account."""
    return bool(session.scalar(select(exists().where(Account.id.is_not(None)))))


def signing_in_as(session: Session, sign_in: str) -> Account | None:
    """The account that signs in by a name, however it is capitalized."""
    query = select(Account).where(func.lower(Account.sign_in) == sign_in.lower())
    return session.scalars(query.options(undefer(Account.organisation_id))).first()


def signing_in_as_anywhere(session: Session, sign_in: str) -> UUID | None:
    """The account that signs in by a name, in whichever organisation: names are one for all."""
    whose, by = str(organisation_of(session)), account_of(session)
    is_of(session.connection(), ALL)
    try:
        return session.scalar(select(Account.id).where(func.lower(Account.sign_in) == sign_in.lower()))
    finally:
        is_of(session.connection(), whose, by)


def accounts(session: Session) -> Sequence[tuple[Account, str]]:
    """Every account with its person's name, by name."""
    query = select(Account, Person.name).join(Person, Person.id == Account.person_id).order_by(func.lower(Person.name))
    return [(account, name) for account, name in session.execute(query)]


def other_owners(session: Session, account_id: UUID) -> int:
    """How many owners there are beside one."""
    query = select(func.count()).where(
        Account.role == OWNER, Account.closed_at.is_(None), Account.id != account_id
    )  # fmt: skip
    return session.scalar(query) or 0


def devices(session: Session, since: datetime, account_id: UUID | None = None) -> Sequence[Device]:
    """Devices that are signed in and were seen since then, the last seen first. account_id: of one account."""
    query = select(Device).where(Device.signed_out_at.is_(None), Device.seen_at >= since)
    if account_id is not None:
        query = query.where((Device.account_id == account_id) | (Device.set_up_by == account_id))
    return session.scalars(query.order_by(Device.seen_at.desc())).all()


def sign_out_all(session: Session, account_id: UUID, at: datetime, but: UUID | None = None) -> None:
    """Sign an account out everywhere, but on one device. A crew's phone stays signed in; it is nobody's turn there."""
    known.changed(session)
    theirs = [Device.account_id == account_id, Device.signed_out_at.is_(None)]
    if but is not None:
        theirs.append(Device.id != but)
    session.execute(update(Device).where(*theirs, Device.shared).values(account_id=None, turn_ends_at=None))
    session.execute(update(Device).where(*theirs, ~Device.shared).values(signed_out_at=at, signed_out_elsewhere=True))


def late_ask(session: Session, device_id: UUID) -> LateAsk | None:
    """What a signed-out device asks to send, if it does."""
    return session.scalars(select(LateAsk).where(LateAsk.device_id == device_id)).first()


def late_asks(session: Session) -> Sequence[LateAsk]:
    """Every such question that nobody answered yet, the oldest first."""
    return session.scalars(select(LateAsk).where(LateAsk.said.is_(None)).order_by(LateAsk.asked_at)).all()


def tries(session: Session, keys: Sequence[str]) -> dict[str, SignInTry]:
    """Tries under these keys, held until the transaction ends."""
    session.execute(
        insert(SignInTry)
        .values([{"key": key, "failures": 0, "last_at": func.now()} for key in sorted(keys)])
        .on_conflict_do_nothing()
    )
    query = select(SignInTry).where(SignInTry.key.in_(list(keys))).order_by(SignInTry.key).with_for_update()
    return {row.key: row for row in session.scalars(query)}


def forget_tries(session: Session, before: datetime) -> None:
    """Forget tries that are long ago."""
    session.execute(delete(SignInTry).where(SignInTry.last_at < before))


def audit(session: Session, limit: int) -> Sequence[tuple[AuditEntry, str | None]]:
    """The newest changes of settings, with the name of who made each."""
    query = (
        select(AuditEntry, Person.name)
        .outerjoin(Account, Account.id == AuditEntry.account_id)
        .outerjoin(Person, Person.id == Account.person_id)
        .order_by(AuditEntry.at.desc(), AuditEntry.id)
        .limit(limit)
    )
    return [(row, name) for row, name in session.execute(query)]


def organisation_name(session: Session, organisation_id: UUID) -> str:
    """What an organisation is called."""
    return session.get_one(Organisation, organisation_id).name


def sees_everything(session: Session) -> bool:
    """Whether the database's user is one that no rule about rows holds for."""
    words = "SELECT rolsuper OR rolbypassrls FROM pg_roles WHERE rolname = current_user"
    return bool(session.scalar(text(words)))
