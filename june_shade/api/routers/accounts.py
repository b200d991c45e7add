"""Coming in and going out, people and what they may, their devices, who changed settings."""

import re
from typing import Annotated, Literal
from uuid import UUID

from fastapi import APIRouter, Query, Request, Response

from june_shade.api.context import COOKIE, Acting, Asking, Config, Db, Reading, Retried, Sessions
from june_shade.api.schemas.accounts import (
    AccountIn,
    AccountOut,
    AuditOut,
    DeviceOut,
    Founding,
    LanguageIn,
    LateIn,
    LateOut,
    Me,
    Member,
    PasswordChange,
    PinChange,
    SessionOut,
    SignIn,
    Tried,
    Turn,
)
from june_shade.core.errors import ConflictError
from june_shade.demo import people as demo
from june_shade.plans.accounts import late, people, signing
from june_shade.plans.accounts.people import Shown
from june_shade.plans.accounts.roles import Who
from june_shade.plans.records import LateAsk
from june_shade.plans.work import Session, transaction

router = APIRouter(prefix="/api", tags=["accounts"], route_class=Retried)
BROWSERS = (
    ("Edg", "Edge"), ("Firefox|FxiOS", "Firefox"), ("SamsungBrowser", "Samsung Internet"), ("Chrome|CriOS", "Chrome"),
    ("Safari", "Safari"),
)  # fmt: skip
OF_ACCOUNT = ("has_pin", "language")
SYSTEMS = (
    ("Android", "Android"), ("iPhone", "iPhone"), ("iPad", "iPad"), ("Windows", "Windows"), ("Mac OS", "Mac"),
    ("CrOS", "Chromebook"), ("Linux", "Linux"),
)  # fmt: skip


@router.get("/session")
def get_session(session: Reading, who: Asking, config: Config) -> SessionOut:
    """Who is signed in here; on a crew's phone, who may take a turn; in the demo, who may be tried."""
    tries = [Tried.model_validate(one) for one in demo.PEOPLE] if config.demo and (who is None) else []
    if who is None:
        return SessionOut(is_open=False, organisation=None, me=None, device_id=None, shared=False, crew=[], tries=tries)
    crew = [Member(account_id=one, name=name) for one, name in signing.crew_of(session)] if who.shared else []
    return SessionOut(
        is_open=who.is_open, organisation=signing.organisation_name(session), me=_me(session, who),
        device_id=who.device_id, shared=who.shared, crew=crew, tries=tries,
    )  # fmt: skip


def _me(session: Session, who: Who) -> Me | None:
    if who.account_id is None:
        return None
    own = {name: getattr(who, name) for name in Me.model_fields if name not in OF_ACCOUNT}
    return Me.model_validate(own | dict(zip(OF_ACCOUNT, people.own(session, who), strict=True)))


@router.post("/session", status_code=204)
def sign_in(request: Request, response: Response, who: Asking, body: SignIn) -> None:
    """Sign in on this device; whoever was signed in on it is not any more."""
    token = signing.sign_in(
        request.app.state.sessions, body.sign_in, body.password, shared=body.shared,
        address=request.client.host if request.client else "", device_name=device_name(request),
    )  # fmt: skip
    if who is not None and who.device_id is not None:
        with transaction(request.app.state.sessions.of(who.organisation_id)) as session:
            signing.sign_out(session, who, who.device_id)
    _keep(request, response, token)


@router.delete("/session", status_code=204)
def sign_out(session: Db, who: Asking, response: Response) -> None:
    """Sign out on this device."""
    if who is not None and who.device_id is not None:
        signing.sign_out(session, who, who.device_id)
    response.delete_cookie(COOKIE, path="/")


@router.post("/owner", status_code=204)
def found_organisation(request: Request, response: Response, who: Asking, body: Founding) -> None:
    """Make the first owner, and sign them in: only as long as there are no accounts."""
    if who is None or not who.is_open:
        raise ConflictError("there is an owner already: ask them for an account", "sign_in")
    sessions = request.app.state.sessions
    people.found(sessions, body.organisation, body.name, body.sign_in, body.password, who.organisation_id)
    sign_in(request, response, who, SignIn(sign_in=body.sign_in, password=body.password, shared=False))


@router.put("/session/password", status_code=204)
def change_password(sessions: Sessions, who: Acting, body: PasswordChange) -> None:
    """Change one's own password; one's other devices are signed out."""
    people.change_password(sessions, who, body.old, body.new)


@router.put("/session/pin", status_code=204)
def change_pin(session: Db, who: Acting, body: PinChange) -> None:
    """Give oneself a PIN, or take it away."""
    people.change_pin(session, who, body.pin)


@router.put("/session/language", status_code=204)
def put_language(session: Db, who: Acting, body: LanguageIn) -> None:
    """Say which language one reads, on all of one's devices."""
    people.speak(session, who, body.language)


@router.post("/session/turn", status_code=204)
def take_turn(sessions: Sessions, who: Acting, body: Turn) -> None:
    """Take a turn on a crew's phone."""
    signing.take_turn(sessions, who, body.account_id, body.pin)


@router.delete("/session/turn", status_code=204)
def end_turn(session: Db, who: Acting) -> None:
    """Hand a crew's phone on."""
    signing.end_turn(session, who)


@router.get("/accounts")
def list_accounts(session: Reading) -> list[AccountOut]:
    """Everyone who may come in, and who might."""
    return [_out(shown) for shown in people.accounts(session)]


@router.put("/accounts/{account_id}")
def put_account(session: Db, who: Acting, account_id: UUID, body: AccountIn) -> AccountOut:
    """Make an account, its password told this once; or change one."""
    return _out(*people.save(session, who, account_id, body.model_dump()))


@router.post("/accounts/{account_id}/password")
def reset_password(session: Db, who: Acting, account_id: UUID) -> AccountOut:
    """Give somebody a password for one sign-in, told this once; they are signed out everywhere."""
    password = people.reset(session, who, account_id)
    session.flush()
    return next(_out(one, password) for one in people.accounts(session) if one.account.id == account_id)


def _out(shown: Shown, password: str | None = None) -> AccountOut:
    row = shown.account
    own = {name: getattr(row, name) for name in ("id", "sign_in", "role", "must_change", "version")}
    return AccountOut.model_validate(
        own | {"name": shown.name, "closed": row.closed_at is not None, "has_pin": row.pin_hash is not None,
               "password": password}
    )  # fmt: skip


@router.get("/devices")
def list_devices(session: Reading, who: Acting) -> list[DeviceOut]:
    """One's own devices that are signed in; for an owner everybody's."""
    names = {one.account.id: one.name for one in people.accounts(session)}
    return [
        DeviceOut(
            id=row.id, name=row.name, person=names.get(row.account_id or row.set_up_by), shared=row.shared,
            here=row.id == who.device_id, signed_in_at=row.signed_in_at, seen_at=row.seen_at,
        )
        for row in signing.devices(session, who)
    ]  # fmt: skip


@router.post("/devices/{device_id}/sign-out", status_code=204)
def sign_out_device(session: Db, who: Acting, device_id: UUID) -> None:
    """Sign a device out, wherever it is."""
    signing.sign_out(session, who, device_id)


@router.put("/devices/{device_id}/late")
def put_late(session: Db, who: Acting, device_id: UUID, body: LateIn) -> LateOut:
    """Ask the owners to let in what a phone holds that was signed out meanwhile."""
    return _late(session, late.ask(session, who, device_id, body.model_dump(mode="json")["items"]))


@router.get("/late")
def list_late(session: Reading) -> list[LateOut]:
    """What waits for an owner's yes."""
    return [_late(session, row) for row in late.open_asks(session)]


@router.put("/devices/{device_id}/late/{said}")
def answer_late(session: Db, who: Acting, device_id: UUID, said: Literal["yes", "no"]) -> LateOut:
    """Let it in, or not."""
    return _late(session, late.answer(session, who, device_id, said))


def _late(session: Session, row: LateAsk) -> LateOut:
    names = {one.account.id: one.name for one in people.accounts(session)}
    own = {name: getattr(row, name) for name in ("device_id", "name", "asked_at", "items", "said")}
    return LateOut.model_validate(own | {"person": names.get(row.asked_by)})


@router.get("/audit")
def get_audit(session: Reading, most: Annotated[int, Query(ge=1, le=1000)] = 200) -> list[AuditOut]:
    """Who changed settings, the newest first."""
    own = ("id", "at", "what", "name", "before", "after")
    return [
        AuditOut.model_validate({name: getattr(row, name) for name in own} | {"by": by})
        for row, by in people.audit(session, most)
    ]


def _keep(request: Request, response: Response, token: str) -> None:
    response.set_cookie(
        COOKIE, token, max_age=int(signing.AT_MOST.total_seconds()), path="/", httponly=True, samesite="lax",
        secure=request.url.scheme == "https",
    )  # fmt: skip


def device_name(request: Request) -> str:
    """What a phone or computer is called in the list of devices, by what its browser says of itself: names, the
    same in every language; empty where none is known."""
    said = request.headers.get("user-agent", "")
    known = (next((name for sign, name in names if re.search(sign, said)), "") for names in (BROWSERS, SYSTEMS))
    return ", ".join(filter(None, known))
