"""What a phone sends that was entered before somebody signed it out from elsewhere: it waits for an owner's yes.

Until then it stays on the phone, which tells what it holds; so a phone that was lost sends nothing by itself, and one
that was only mislaid loses nothing.
"""

from collections.abc import Sequence
from typing import Any
from uuid import UUID

from june_shade.core.errors import ConflictError, LateError, LateRefusedError, NotFoundError
from june_shade.plans.accounts.roles import Who
from june_shade.plans.accounts.signing import now
from june_shade.plans.work import Session
from june_shade.store import accounts as store
from june_shade.store.account_tables import Device, LateAsk

WAITS = "was entered on a phone that was signed out meanwhile: it stays on this phone until an owner lets it in"
REFUSED = "was entered on a phone that was signed out meanwhile, and an owner did not let it in"


def check(session: Session, who: Who, made_under: UUID) -> None:
    """Let in what was entered under a sign-in, by now perhaps another one.

    Raises LateError where that was ended from elsewhere and no owner said yes, LateRefusedError where one said no.
    """
    if made_under == who.device_id:
        return
    device = session.get(Device, made_under)
    if device is None:
        raise LateError(WAITS)
    if device.signed_out_elsewhere:
        ask = store.late_ask(session, made_under)
        if ask is None or ask.said is None:
            raise LateError(WAITS)
        if ask.said == "no":
            raise LateRefusedError(REFUSED)


def ask(session: Session, who: Who, device_id: UUID, items: Sequence[dict[str, Any]]) -> LateAsk:
    """Ask the owners to let in what a device holds that was signed out; asked again it says what it holds by then.

    items: what, in words that the phone shows too. Raises NotFoundError, ConflictError where nobody has to be asked.
    """
    device = session.get(Device, device_id, with_for_update=True)  # a phone may ask twice at a time
    if device is None or who.account_id is None:
        raise NotFoundError("there is no such device", "device_id")
    if not device.signed_out_elsewhere:
        raise ConflictError("nobody signed this device out: send what it holds", "device_id")
    row = store.late_ask(session, device_id)
    if row is None:
        row = LateAsk(device_id=device_id, name=device.name, asked_by=who.account_id, asked_at=now(), items=list(items))
        session.add(row)
        session.flush()
    elif row.said is None:
        row.items = list(items)
    return row


def open_asks(session: Session) -> list[LateAsk]:
    """What waits for an owner's yes."""
    return list(store.late_asks(session))


def answer(session: Session, who: Who, device_id: UUID, said: str) -> LateAsk:
    """An owner says yes or no. Raises NotFoundError where nothing was asked, ConflictError where it was answered
    otherwise."""
    row = store.late_ask(session, device_id)
    if row is None:
        raise NotFoundError("nothing waits of such a device", "device_id")
    if row.said is not None and row.said != said:
        raise ConflictError(f"was answered already: {row.said}", "device_id")
    if row.said is None:
        row.said, row.said_at, row.said_by = said, now(), who.account_id
    return row
