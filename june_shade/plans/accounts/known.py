"""Who asks, by the token that their cookie holds; what was found is good for a moment."""

from collections import OrderedDict
from dataclasses import dataclass
from datetime import datetime, timedelta
from threading import Lock

from june_shade.plans.accounts import secrets, signing
from june_shade.plans.accounts.roles import ANYBODY, Who, on_shared
from june_shade.store import known as store
from june_shade.store.known import Holder
from june_shade.store.session import Engine

GOOD_FOR = timedelta(seconds=5)
"""So long after another process signed a device out it may still be let in here."""
SEEN_EVERY = timedelta(minutes=10)
MOST = 5000


@dataclass(frozen=True, slots=True)
class Found:
    """What was found, when, and after which change of this process."""

    who: Who
    at: datetime
    generation: int


class Known:
    """Remembers who holds which token. engine: connections of its own, so that nobody waits at the door for pages."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine
        self._found: OrderedDict[str, Found] = OrderedDict()
        self._lock = Lock()

    def remembered(self, token: str | None) -> Found | None:
        """What was found of a token a moment ago, where nothing has changed since."""
        with self._lock:
            found = self._found.get(token or "")
        if found is None or found.generation != store.generation() or signing.now() - found.at > GOOD_FOR:
            return None
        return found

    def who(self, token: str | None) -> Who | None:
        """Who asks; ANYBODY as long as there are no accounts; None where they must sign in."""
        if (known := self.remembered(token)) is not None:
            return known.who
        generation, at = store.generation(), signing.now()
        who = self._asked(token, at)
        if not token or who is None or who.is_open:  # the first account closes the door at once, also from elsewhere
            return who
        with self._lock:
            self._found[token] = Found(who, at, generation)
            self._found.move_to_end(token)
            while len(self._found) > MOST:
                self._found.popitem(last=False)
        return who

    def _asked(self, token: str | None, at: datetime) -> Who | None:
        holder = store.holder(self._engine, secrets.digest(token)) if token else None
        if holder is None:
            return None if store.are_accounts_there(self._engine) else ANYBODY
        if not signing.stands(holder.signed_in_at, holder.seen_at, holder.signed_out_at, at):
            return None
        if at - holder.seen_at > SEEN_EVERY:
            store.seen(self._engine, holder.device_id, at)
        return _who(holder, at)


def _who(holder: Holder, at: datetime) -> Who | None:
    nobody = Who(holder.organisation_id, None, device_id=holder.device_id, shared=holder.shared)
    if holder.account_id is None or holder.closed_at is not None:
        return nobody if holder.shared else None
    if holder.shared and (holder.turn_ends_at is None or holder.turn_ends_at < at):
        return nobody
    found = Who(
        holder.organisation_id, holder.role, holder.account_id, holder.person_id, holder.name or "",
        holder.sign_in or "", holder.device_id, holder.shared, bool(holder.must_change),
    )  # fmt: skip
    return on_shared(found) if holder.shared else found
