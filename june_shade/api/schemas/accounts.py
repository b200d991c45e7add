"""Signing in, accounts, devices, who changed what."""

from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import AwareDatetime, Field, StringConstraints

from june_shade.api.language import LanguageCode
from june_shade.api.schemas.common import In, Name, Note, Out
from june_shade.plans.accounts.secrets import LONGEST

Role = Literal["owner", "lead", "technician", "client"]
SignInName = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]
Password = Annotated[str, Field(min_length=1, max_length=LONGEST)]
Pin = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=20)]


class SignIn(In):
    """What somebody types to come in."""

    sign_in: SignInName
    password: Password
    shared: bool = Field(False, description="It is a crew's phone, whose people take turns with a PIN.")


class Founding(In):
    """The first account: from then on nobody comes in without one."""

    organisation: Name
    name: Name
    sign_in: SignInName
    password: Password


class PasswordChange(In):
    """One's own password."""

    old: Password
    new: Password


class PinChange(In):
    """One's own PIN for turns on a crew's phone; null takes it away."""

    pin: Pin | None


class LanguageIn(In):
    """The language that one reads."""

    language: LanguageCode


class Turn(In):
    """Whose turn it is on a crew's phone."""

    account_id: UUID
    pin: Pin


class Member(Out):
    """Who may take a turn on a crew's phone."""

    account_id: UUID
    name: str


class Tried(Out):
    """Somebody of the demo, to be tried: made up, as is the password."""

    name: str
    role: Role
    organisation: str
    sign_in: str
    password: str


class Me(Out):
    """Who is signed in here."""

    account_id: UUID
    person_id: UUID
    name: str
    sign_in: str
    role: Role
    must_change: bool = Field(description="The password was given by another: choose one first.")
    has_pin: bool
    language: LanguageCode | None = Field(description="What they read; null: as this device does.")


class SessionOut(Out):
    """Who is here, and what is to be done first."""

    is_open: bool = Field(description="There are no accounts: whoever sits here may do everything.")
    organisation: str | None
    me: Me | None
    device_id: UUID | None = Field(
        description="This sign-in's own id: what is entered under it says so when it is sent later."
    )
    shared: bool = Field(description="This is a crew's phone.")
    crew: list[Member] = Field(description="On a crew's phone: who may take a turn.")
    tries: list[Tried] = Field(description="In the demo: who may be tried.")


class AccountIn(In):
    """An account as its owner writes it. version: as it was read, null for a new one."""

    name: Name
    sign_in: SignInName
    role: Role
    closed: bool = False
    version: int | None = None


class AccountOut(Out):
    """An account. password: of a new one or after a reset, told this once."""

    id: UUID
    name: str
    sign_in: str
    role: Role
    closed: bool
    must_change: bool
    has_pin: bool
    version: int
    password: str | None = None


class DeviceOut(Out):
    """A phone or computer that is signed in."""

    id: UUID
    name: str
    person: str | None
    shared: bool
    here: bool = Field(description="It is the one that asks.")
    signed_in_at: datetime
    seen_at: datetime


class LateItem(In):
    """One thing that a signed-out phone has still to send, in the phone's words."""

    words: Note
    made_at: AwareDatetime


class LateIn(In):
    """What a phone holds that was signed out meanwhile."""

    items: Annotated[list[LateItem], Field(min_length=1, max_length=500)]


class LateOut(Out):
    """What a phone holds that was signed out meanwhile, and what an owner said of it."""

    device_id: UUID
    name: str
    person: str | None
    asked_at: datetime
    items: list[LateItem]
    said: Literal["yes", "no"] | None


class AuditOut(Out):
    """One change of a setting: by whom, of what, from what to what."""

    id: UUID
    at: datetime
    by: str | None
    what: str
    name: str
    before: dict[str, Any] | None
    after: dict[str, Any] | None
