"""What a client may see: one site's trees, plan and book, by a link with an end; people's own calendars; what others
did since one last looked.

Whoever has the link sees it, so it ends by itself and can be taken back at once. Who worked is not told there, nor
notes for the crew, coordinates, prices, pictures.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from secrets import token_urlsafe
from typing import Any
from uuid import UUID

from june_shade.core.errors import ConflictError, InputError, NotFoundError
from june_shade.plans import book, clock, listing, register
from june_shade.plans.accounts.roles import CLIENT, Who
from june_shade.plans.accounts.signing import now, organisation_name
from june_shade.plans.choosing import page as fortnight
from june_shade.store import shares as store
from june_shade.store.account_tables import Account
from june_shade.store.session import Session, SessionMaker, reading
from june_shade.store.share_tables import PersonFeed, Share
from june_shade.store.trees import Wanted

SECRET_BYTES = 24
LONGEST_DAYS = 3 * 366
"""A contract seldom runs longer (common practice)."""
SEEN_EVERY = timedelta(minutes=10)
MOST_TREES = 20_000
ENDED = "this link has ended or was taken back: ask whoever gave it to you for another"


def put(session: Session, share_id: UUID, site_id: UUID, name: str, ends_on: date, account_id: UUID | None) -> Share:
    """Show a site to somebody up to a day. Made again it is the same; another day or name changes it, not its address.

    account_id: of a client, who then sees it when they sign in.
    """
    site = register.site(session, site_id)
    today = clock.today(session, site.timezone)
    if not today <= ends_on <= today + timedelta(days=LONGEST_DAYS):
        raise InputError(f"must be from today ({today}) on, at most three years away", "ends_on")
    if account_id is not None:
        account = session.get(Account, account_id)
        if account is None or account.role != CLIENT:
            raise InputError("must be a client's account", "account_id")
    row = session.get(Share, share_id)
    if row is None:
        row = Share(id=share_id, site_id=site.id, secret=token_urlsafe(SECRET_BYTES))
        session.add(row)
    elif row.site_id != site.id:
        raise ConflictError("shows another site: make a link of its own", "site_id")
    elif row.revoked_at is not None:
        raise ConflictError("was taken back: make another one", "id")
    row.name, row.ends_on, row.account_id = name, ends_on, account_id
    session.flush()
    return row


def revoke(session: Session, share_id: UUID) -> Share:
    """Take a link back: who has it sees nothing any more. Said again it changes nothing."""
    row = session.get(Share, share_id)
    if row is None:
        raise NotFoundError("there is no such link", "share_id")
    row.revoked_at = row.revoked_at or now()
    return row


def of_site(session: Session, site_id: UUID) -> list[Share]:
    """Links to a site, the newest first."""
    return list(store.shares(session, site_id=register.site(session, site_id).id))


def of_client(session: Session, who: Who) -> list[Share]:
    """What a client may see when they sign in."""
    rows = store.shares(session, account_id=who.account_id) if who.account_id is not None else ()
    return [row for row in rows if _stands(session, row)]


def whose(sessions: SessionMaker, secret: str) -> SessionMaker:
    """Sessions of the organisation that a link is of; of nobody where there is none."""
    with reading(sessions.of_all()) as session:
        organisation_id = store.share_organisation(session, secret)
    return sessions.of(organisation_id) if organisation_id is not None else sessions.of_nobody()


def _stands(session: Session, row: Share) -> bool:
    site = register.site(session, row.site_id)
    return row.revoked_at is None and clock.today(session, site.timezone) <= row.ends_on


@dataclass(frozen=True, slots=True)
class ShownTree:
    """A tree as a client sees it: how it stands, when it got water last and gets it next, None = not known, not
    planned."""

    id: UUID
    tag: str
    place: str
    stop: str | None
    common: str
    botanical: str
    planted_on: date
    state: str | None
    dryness: float | None
    next_on: date | None


@dataclass(frozen=True, slots=True)
class ShownDay:
    """A day of the plan: trees that get water, how much in steps of both systems [L]."""

    day: date
    trees: int
    litres: float
    litres_us: float


@dataclass(frozen=True, slots=True)
class Shown:
    """What a link shows."""

    organisation: str
    name: str
    ends_on: date
    today: date
    trees: list[ShownTree]
    plan: list[ShownDay]
    month: book.Month


def shown(session: Session, secret: str, month: date | None) -> Shown:
    """What a link shows of its site today; the book of a month, of this one where none is asked for.

    Raises NotFoundError where there is no such link, or where it has ended.
    """
    row = store.share_of(session, secret)
    if row is None or not _stands(session, row):
        raise NotFoundError(ENDED, "secret")
    if row.seen_at is None or now() - row.seen_at > SEEN_EVERY:
        row.seen_at = now()
    site = register.site(session, row.site_id)
    today = clock.today(session, site.timezone)
    _, found = listing.listed(session, Wanted(site_id=site.id), "place", None, MOST_TREES, 0)
    told = fortnight.of_all(session, site.id)
    trees = [
        ShownTree(
            one.tree.id, one.tree.tag, one.tree.place, one.tree.stop.name if one.tree.stop else None,
            one.tree.plant.common, one.tree.plant.botanical, one.tree.planted_on,
            one.section.state if one.section else None, one.dryness, one.next.day if one.next else None,
        )
        for one in found
    ]  # fmt: skip
    return Shown(
        organisation_name(session), row.name, row.ends_on, today, trees, _days(told),
        book.month(session, site.id, month or today),
    )  # fmt: skip


def _days(told: dict[str, Any]) -> list[ShownDay]:
    visits: Iterable[Any] = [
        visit for one in told["sites"] for stop in one["stops"] for tree in stop["trees"] for visit in tree.visits
    ]
    days = []
    for n, day in enumerate(told["days"]):
        own = [visit for visit in visits if visit.day == n]
        days.append(ShownDay(day, len(own), sum(v.litres for v in own), sum(v.litres_us for v in own)))
    return days


def feed_secret(session: Session, who: Who, *, renew: bool = False) -> str:
    """The secret part of one's own calendar's address, made where there is none; renew: another one."""
    if who.account_id is None:
        raise ConflictError("there are no accounts: use the sites' calendars", "account_id")
    row = store.person_feed(session, who.account_id)
    if row is None:
        row = PersonFeed(account_id=who.account_id, secret=token_urlsafe(SECRET_BYTES))
        session.add(row)
    elif renew:
        row.secret = token_urlsafe(SECRET_BYTES)
    return row.secret


def whose_feed(sessions: SessionMaker, secret: str) -> SessionMaker:
    """Sessions of the organisation of whose person this calendar is. Raises NotFoundError."""
    with reading(sessions.of_all()) as session:
        found = store.feed_person(session, secret)
    if found is None:
        raise NotFoundError("there is no calendar at this address; it may have been renewed", "secret")
    return sessions.of(found[0])


@dataclass(frozen=True, slots=True)
class Done:
    """What others did of a kind: by whom (None = not known), how often."""

    kind: str
    by: str | None
    count: int


def since(session: Session, who: Who, moment: datetime) -> list[Done]:
    """What others entered and changed since a moment, the most first."""
    found = [Done(*row) for row in store.entered_since(session, moment, who.account_id)]
    found += [
        Done(f"set_{what}", by, count) for what, by, count in store.settings_since(session, moment, who.account_id)
    ]
    return sorted(found, key=lambda one: (-one.count, one.kind, one.by or ""))
