"""Who may come in: accounts, the devices they are signed in on, tries that failed; and who did what to settings."""

from datetime import datetime
from typing import Any
from uuid import UUID, uuid4

from sqlalchemy import CheckConstraint, ForeignKey, Index, false, func, text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from june_shade.store.base import Base, Owned, Versioned, one_of

OWNER, LEAD, TECHNICIAN, CLIENT = ROLES = ("owner", "lead", "technician", "client")


class Account(Versioned, Owned):
    """Someone who signs in: by which name, as what, and who that is in the book.

    sign_in: unique over all organisations, however it is capitalized. password_hash, pin_hash: Argon2id; must_change:
    the password was given by another and holds for one sign-in. closed_at: since when it may not come in any more.
    language: what they read, NULL = as each of their devices does.
    """

    __tablename__ = "account"
    __table_args__ = (
        one_of("role", ROLES),
        Index("uq_account_sign_in", func.lower(text("sign_in")), unique=True),
        CheckConstraint("length(sign_in) > 0", name="sign_in_given"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    sign_in: Mapped[str]
    role: Mapped[str]
    person_id: Mapped[UUID] = mapped_column(ForeignKey("person.id"))
    password_hash: Mapped[str]
    pin_hash: Mapped[str | None]
    must_change: Mapped[bool] = mapped_column(default=False)
    made_at: Mapped[datetime] = mapped_column(server_default=func.now())
    closed_at: Mapped[datetime | None]
    language: Mapped[str | None]


class Device(Owned):
    """A browser that an account is signed in on. token_sha256: of what its cookie holds; shared: a crew's phone, whose
    people take turns with a PIN: account_id is whose turn it is, NULL = nobody's, until turn_ends_at."""

    __tablename__ = "device"
    __table_args__ = (
        Index("ix_device_account_id", "account_id"),
        CheckConstraint("shared OR account_id IS NOT NULL", name="somebody_s"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    token_sha256: Mapped[str] = mapped_column(unique=True)
    account_id: Mapped[UUID | None] = mapped_column(ForeignKey("account.id"))
    set_up_by: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    shared: Mapped[bool] = mapped_column(default=False)
    name: Mapped[str]
    signed_in_at: Mapped[datetime]
    seen_at: Mapped[datetime]
    turn_ends_at: Mapped[datetime | None]
    signed_out_at: Mapped[datetime | None]
    signed_out_elsewhere: Mapped[bool] = mapped_column(default=False, server_default=false())


class LateAsk(Owned):
    """What a phone that was signed out from elsewhere has still to send, and whether an owner lets it: items as the
    phone tells them. name: the phone's; said: yes or no, NULL = nobody looked yet."""

    __tablename__ = "late_ask"
    __table_args__ = (
        one_of("said", ("yes", "no")),
        CheckConstraint("num_nulls(said, said_at, said_by) IN (0, 3)", name="said_by_whom"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    device_id: Mapped[UUID] = mapped_column(ForeignKey("device.id"), unique=True)
    name: Mapped[str]
    items: Mapped[list[dict[str, Any]]] = mapped_column(JSONB)
    asked_at: Mapped[datetime]
    asked_by: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    said: Mapped[str | None]
    said_at: Mapped[datetime | None]
    said_by: Mapped[UUID | None] = mapped_column(ForeignKey("account.id"))


class SignInTry(Base):
    """How often in a row somebody failed to come in, by a digest of the name or address that they tried it with."""

    __tablename__ = "sign_in_try"

    key: Mapped[str] = mapped_column(primary_key=True)
    failures: Mapped[int]
    last_at: Mapped[datetime]


class AuditEntry(Owned):
    """One change of a setting: who, when, of what row, from what to what. Never changed, never removed."""

    __tablename__ = "audit_entry"
    __table_args__ = (Index("ix_audit_entry_at", "at"),)

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    at: Mapped[datetime] = mapped_column(server_default=func.clock_timestamp())
    account_id: Mapped[UUID | None] = mapped_column(ForeignKey("account.id"))
    what: Mapped[str]
    of_id: Mapped[str]
    name: Mapped[str]
    before: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    after: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
