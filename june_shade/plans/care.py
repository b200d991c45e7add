"""The care calendar: dated tasks of trees from all their pages, what was said of them, what calendars are told."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from hashlib import sha256
from secrets import token_urlsafe
from uuid import UUID, uuid5

from june_shade.core.care import calendar
from june_shade.core.care.calendar import Act, Facts, Task
from june_shade.core.errors import ConflictError, InputError, NotFoundError
from june_shade.core.weather.series import month_day
from june_shade.formats import calendar_ics
from june_shade.formats.calendar_ics import Event
from june_shade.plans import changes, clock, register
from june_shade.plans.changes import Changed, What
from june_shade.plans.mulch import stands
from june_shade.store import care as store
from june_shade.store.care_tables import ACTS, CalendarFeed, CareAct, CarePublished
from june_shade.store.session import Session
from june_shade.store.site_tables import Site

LATEST_DAYS = 3 * 365
"""A task is not moved farther away than this."""
SECRET_BYTES = 24
KEPT_GONE_DAYS = 60
"""So long a calendar is told that an event it had is cancelled."""


@dataclass(frozen=True, slots=True)
class Due:
    """A task of a tree, with what names the tree."""

    tree_id: UUID
    tag: str
    place: str
    stop: str | None
    common: str
    task: Task


def of_site(
    session: Session, site: Site, tree_ids: Iterable[UUID] | None = None, ahead_days: int = calendar.AHEAD_DAYS
) -> list[Due]:
    """Open tasks of a site's trees, or of some of them, the soonest first."""
    today = clock.today(session, site.timezone)
    mulch, said = store.mulch_days(session, site.id), store.acts(session, site.id)
    found = []
    for row in store.rows(session, site.id, tree_ids):
        acts = {key: Act(a.act, a.day, a.reason) for key, a in said.get(row.id, {}).items()}
        for task in calendar.tasks(facts_of(row, site, mulch.get(row.id, [])), today, acts, ahead_days):
            found.append(Due(row.id, row.tag, row.place, row.stop, row.common, task))
    return sorted(found, key=lambda d: d.task.due_on)


def due_today(session: Session, site: Site) -> list[Due]:
    """Tasks of a site that are due today or were before."""
    return of_site(session, site, ahead_days=0)


def facts_of(row: store.CareRow, site: Site, mulch: Sequence[store.MulchDay]) -> Facts:
    """What a stored tree's tasks follow from."""
    planted = row.planting or {}
    laid = next((e for e in reversed(mulch) if e.kind == "laid"), None)
    looked = next((e for e in reversed(mulch) if e.kind == "check"), None)
    newest = mulch[-1] if mulch else None
    mulched = row.mulch_material is not None
    looked_on = looked.day if looked else None
    if not mulch and mulched:
        looked_on = stands.measured_on(row)
    leaf_out = month_day(row.leaf_out, "leaf_out") if row.leaf_out else None
    return Facts(
        planted_on=row.planted_on, southern=site.latitude_deg < 0, evergreen=row.evergreen,
        support=planted.get("support", "none"), wrap=bool(planted.get("wrap", False)), mulched=mulched,
        mulch_laid_on=laid.day if laid else None, mulch_looked_on=looked_on,
        thin_on=stands.thin_on(row) if mulched else None, underlay=laid.underlay if laid else None,
        verdict=newest.verdict if newest is not None and newest.kind == "check" else None,
        emitters=row.method == "emitters", move_on=row.move_on if row.method == "emitters" else None,
        leaf_out=leaf_out,
    )  # fmt: skip


def put_act(
    session: Session, act_id: UUID, tree_id: UUID, key: str, act: str, day: date | None, reason: str
) -> CareAct:
    """Say that a task was done, is moved to a day or dismissed, the last two with a reason. Sent twice it is one."""
    tree = register.tree(session, tree_id)
    changes.hold(session, [tree.site_id])
    known = session.get(CareAct, act_id)
    if known is not None:
        if (known.tree_id, known.key, known.act) != (tree_id, key, act):
            raise ConflictError("something else was said under this id", "id")
        return known
    if act not in ACTS:
        raise InputError(f"must be one of {', '.join(ACTS)}, not {act!r}", "act")
    today = clock.today(session, tree.site.timezone)
    if act != "done" and not reason.strip():
        raise InputError("say why, in a word or two", "reason")
    if act == "moved" and (day is None or not today <= day <= today + timedelta(days=LATEST_DAYS)):
        raise InputError(f"needs a day from today ({today}) on, at most three years away", "day")
    if key not in {due.task.key for due in of_site(session, tree.site, [tree_id])}:
        raise NotFoundError("there is no such open task", "key")
    row = CareAct(id=act_id, tree_id=tree_id, key=key, act=act, day=day or today, reason=reason.strip())
    row.recorded_at = clock.now(session)
    session.add(row)
    changes.tell(session, Changed(tree.site_id, What.PAGE))
    return row


def withdraw(session: Session, act_id: UUID) -> CareAct:
    """Take back what was said; the task is open again as it was."""
    row = session.get(CareAct, act_id)
    if row is None:
        raise NotFoundError("nothing was said under this id", "act_id")
    row.withdrawn_at = row.withdrawn_at or clock.now(session)
    changes.tell(session, Changed(register.tree(session, row.tree_id).site_id, What.PAGE))
    return row


def feed(session: Session, site: Site, tree_id: UUID | None, language: str, url: str) -> bytes:
    """The calendar of a site or of one tree as iCalendar; events keep their ids and count their changes."""
    if tree_id is not None and register.tree(session, tree_id).site_id != site.id:
        raise NotFoundError("there is no such tree at this site", "tree_id")
    now = clock.now(session)
    today = clock.today(session, site.timezone)
    open_now = of_site(session, site, None if tree_id is None else [tree_id])
    trees = [tree_id] if tree_id is not None else [row.id for row in store.rows(session, site.id)]
    told = store.published(session, trees)
    tags = {row.id: (row.tag, row.place) for row in store.rows(session, site.id, trees)}
    events = []
    seen = set()
    for due in open_now:
        seen.add((due.tree_id, due.task.key))
        row = _publish(session, told, due, now)
        events.append(_event(due, row, url))
    for (tree, key), row in told.items():
        if (tree, key) in seen:
            continue
        if not row.gone:
            row.gone, row.sequence, row.modified_at = True, row.sequence + 1, now
        if row.due_on >= today - timedelta(days=KEPT_GONE_DAYS):
            tag, place = tags[tree]
            task = Task(row.kind, key, row.due_on)
            events.append(_event(Due(tree, tag, place, None, "", task), row, url))
    session.flush()
    return calendar_ics.write(site.name, events, language)


def secrets_of(session: Session) -> dict[UUID, str]:
    """The secret part of each site's calendar address by site, made where there is none."""
    known = store.feeds(session)
    for site in register.sites(session):
        if site.id not in known:
            known[site.id] = CalendarFeed(site_id=site.id, secret=token_urlsafe(SECRET_BYTES))
            session.add(known[site.id])
    return {site_id: row.secret for site_id, row in known.items()}


def renew_secret(session: Session, site_id: UUID) -> str:
    """Give a site's calendar another address: who only knows the old one sees nothing any more."""
    site = register.site(session, site_id)
    secrets_of(session)
    session.flush()
    row = store.feeds(session)[site.id]
    row.secret = token_urlsafe(SECRET_BYTES)
    return row.secret


def site_of_secret(session: Session, secret: str) -> Site:
    """The site whose calendar address has this secret. Raises NotFoundError."""
    site_id = store.feed_site(session, secret)
    if site_id is None:
        raise NotFoundError("there is no calendar at this address; it may have been renewed", "secret")
    return register.site(session, site_id)


def _digest(task: Task) -> str:
    return sha256(f"{task.kind}/{task.due_on}/{task.part}/{task.reason}".encode()).hexdigest()[:16]


def _publish(session: Session, told: dict[tuple[UUID, str], CarePublished], due: Due, now: datetime) -> CarePublished:
    """What calendars know of a task, brought up to date."""
    digest = _digest(due.task)
    row = told.get((due.tree_id, due.task.key))
    if row is None:
        row = CarePublished(
            tree_id=due.tree_id, key=due.task.key, kind=due.task.kind, due_on=due.task.due_on, digest=digest,
            sequence=0, gone=False, modified_at=now,
        )  # fmt: skip
        session.add(row)
        told[due.tree_id, due.task.key] = row
    elif row.digest != digest or row.gone:
        row.digest, row.due_on, row.gone = digest, due.task.due_on, False
        row.sequence, row.modified_at = row.sequence + 1, now
    return row


def _event(due: Due, row: CarePublished, url: str) -> Event:
    return Event(
        uid=f"{uuid5(due.tree_id, due.task.key)}@june-shade", kind=due.task.kind, day=due.task.due_on,
        who=" ".join(word for word in (due.tag, due.place) if word), part=due.task.part, reason=due.task.reason,
        sequence=row.sequence, modified_at=row.modified_at, cancelled=row.gone, url=f"{url}/trees/{due.tree_id}",
    )  # fmt: skip
