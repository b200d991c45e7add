"""The care calendar: dated tasks of trees from all their pages, what was said of them, what calendars are told."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from hashlib import sha256
from secrets import token_urlsafe
from typing import NamedTuple
from uuid import UUID, uuid5
from zoneinfo import ZoneInfo

from june_shade.core.care import calendar
from june_shade.core.care.calendar import OF_CATCHES, Act, Caught, Facts, Metered, Task
from june_shade.core.care.frost import Season, usual, young_since
from june_shade.core.errors import ConflictError, InputError, NotFoundError
from june_shade.core.weather.series import month_day
from june_shade.formats import calendar_ics
from june_shade.formats.calendar_ics import Event
from june_shade.plans import changes, clock, register
from june_shade.plans.changes import Changed, What
from june_shade.plans.drip import measured
from june_shade.plans.looking import proofs
from june_shade.plans.mulch import stands
from june_shade.plans.planting import batches
from june_shade.plans.saving import tasks as savings
from june_shade.store import boxes, drip, looking
from june_shade.store import care as store
from june_shade.store import savings as saving_store
from june_shade.store.care_tables import ACTS, CalendarFeed, CareAct, CarePublished
from june_shade.store.looking_tables import OwnAct, TreeCheckup
from june_shade.store.session import Session, SessionMaker, reading
from june_shade.store.site_tables import Site
from june_shade.store.tree_tables import Tree

LATEST_DAYS = 3 * 365
"""A task is not moved farther away than this."""
SECRET_BYTES = 24
KEPT_GONE_DAYS = 60
"""So long a calendar is told that an event it had is cancelled."""


@dataclass(frozen=True, slots=True)
class Due:
    """A task of a tree, or of a batch that is still to be planted, with what names it."""

    tree_id: UUID | None
    planting_id: UUID | None
    tag: str
    place: str
    stop: str | None
    common: str
    task: Task

    @property
    def subject(self) -> UUID:
        """The tree's id, or the planting's."""
        found = self.tree_id or self.planting_id
        assert found is not None
        return found


class Subject(NamedTuple):
    """Whose task it is: a tree's or a planting's, one of both."""

    tree_id: UUID | None
    planting_id: UUID | None

    def site(self, session: Session) -> Site:
        """Where it stands. Raises NotFoundError."""
        if self.tree_id is not None:
            return register.tree(session, self.tree_id).site
        assert self.planting_id is not None
        return batches.planting(session, self.planting_id).site


def of_site(
    session: Session, site: Site, tree_ids: Iterable[UUID] | None = None, ahead_days: int = calendar.AHEAD_DAYS
) -> list[Due]:
    """Open tasks of a site, or of some of its trees, the soonest first."""
    today = clock.today(session, site.timezone)
    mulch, said = store.mulch_days(session, site.id), store.acts(session, site.id)
    rows = store.rows(session, site.id, tree_ids)
    frost = _frost(session, site, rows)
    looked = looking.standing_checkups(session, site.id, tree_ids)
    caught = _caught(session, [row.id for row in rows if row.method == "emitters"])
    metered = _metered(session, site, rows)
    own, saving = looking.own_of_site(session, site.id), saving_store.of_site(session, site.id)
    found = []
    for row in rows:
        facts = _with_checkups(facts_of(row, site, mulch.get(row.id, []), frost), looked.get(row.id, ()))
        facts = replace(facts, caught=caught.get(row.id), metered=metered.get(row.id))
        facts = replace(facts, savings=tuple((f"save_{s.measure}", s.made_on) for s in saving.get(row.id, ())))
        facts = _on_its_own(facts, row, own.get(row.id, ()), looked.get(row.id, ()), today)
        for task in calendar.tasks(facts, today, _acts(said, row.id), ahead_days):
            found.append(Due(row.id, None, row.tag, row.place, row.stop, row.common, task))
    for batch in store.plantings(session, site.id) if tree_ids is None else ():
        for task in calendar.planting_tasks(batch.planned_on, batch.kind, today, _acts(said, batch.id), ahead_days):
            found.append(Due(None, batch.id, batch.tag, batch.place, batch.stop or None, batch.common, task))
    return sorted(found, key=lambda d: d.task.due_on)


def of_catches(session: Session, tree: Tree) -> list[Task]:
    """What the catch test in force of a tree asks for by now."""
    return [due.task for due in of_site(session, tree.site, [tree.id], 0) if due.task.kind in OF_CATCHES]


def _caught(session: Session, tree_ids: Sequence[UUID]) -> dict[UUID, Caught]:
    """What the catch tests in force of these trees found."""
    tests = drip.catches_in_force(session, tree_ids) if tree_ids else {}
    layouts = drip.layouts_in_force(session, tests) if tests else {}
    told = {}
    for tree_id, row in tests.items():
        found = measured.said(row, layouts[tree_id].choice)
        told[tree_id] = Caught(row.day, str(row.id), found.to_clean, found.leaking)
    return told


def _metered(session: Session, site: Site, rows: Sequence[store.CareRow]) -> dict[UUID, Metered]:
    """What boxes' meters say of lines, each told at its line's first tree; nothing where cups stood there since."""
    judged = boxes.last_judged(session, site.id)
    zone = ZoneInfo(site.timezone)
    told: dict[UUID, Metered] = {}
    for line_id, runs in judged.items():
        trees = drip.trees_on(session, line_id)
        day = runs[0].starts_at.astimezone(zone).date()
        tests = drip.catches_in_force(session, [tree.id for tree in trees])
        if trees and all(test.day < day for test in tests.values()):
            verdict = runs[0].verdict
            others = (n for n, run in enumerate(runs) if run.verdict != verdict)
            first = runs[next(others, len(runs)) - 1]  # since when it says so
            told[trees[0].id] = Metered(first.starts_at.astimezone(zone).date(), str(first.id), verdict or "")
    return {row.id: told[row.id] for row in rows if row.id in told}


def _with_checkups(facts: Facts, looked: Sequence[TreeCheckup]) -> Facts:
    """Facts with what came of check-ups, the newest first; the same act of two is one, of the newest."""
    if not looked:
        return facts
    seen: set[str] = set()
    found = []
    for one in looked:
        new = tuple(task for task in one.tasks if task not in seen)
        seen.update(new)
        if new:
            found.append((one.day, new))
    look_on = looked[0].look_on if looked[0].verdict != "sound" or looked[0].tasks else None
    return replace(facts, checkups=tuple(found), look_on=look_on)


def _on_its_own(
    facts: Facts, row: store.CareRow, acts: Sequence[OwnAct], looked: Sequence[TreeCheckup], today: date
) -> Facts:
    """Facts with what is missing until a tree is handed over, or since when it stands on its own."""
    if row.handed_on is not None:
        return replace(facts, handed_on=row.handed_on)
    last = next((act for act in reversed(acts) if act.kind in ("offered", "handed", "back")), None)
    if last is None or last.kind != "offered":
        return facts
    return replace(facts, offered_on=last.day, unproven=proofs.missing_of(acts, looked, today))


def tender_c(session: Session, site: Site, today: date) -> float | None:
    """From where down frost hurts a young tree of a site [degC], None where none minds."""
    return store.most_tender_c(session, site.id, young_since(today))


def _acts(said: Mapping[UUID, Mapping[str, CareAct]], subject: UUID) -> dict[str, Act]:
    return {key: Act(a.act, a.day, a.reason) for key, a in said.get(subject, {}).items()}


def _frost(session: Session, site: Site, rows: Sequence[store.CareRow]) -> Season | None:
    """When frost usually is at a site, None where no tree of it minds or its station's years don't tell."""
    if site.station_id is None or all(row.frost_c is None for row in rows):
        return None
    return usual(store.frosts(session, site.station_id), site.latitude_deg < 0)


def due_by(session: Session, site: Site, ahead_days: int = 0) -> list[Due]:
    """Tasks of a site that are due by today, or by so many days on."""
    return of_site(session, site, ahead_days=ahead_days)


def facts_of(row: store.CareRow, site: Site, mulch: Sequence[store.MulchDay], frost: Season | None = None) -> Facts:
    """What a stored tree's tasks follow from. frost: when it usually is at the site."""
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
        planted_on=row.planted_on, southern=site.latitude_deg < 0, fruiting=row.fruit != "none",
        support=planted.get("support", "none"), wrap=bool(planted.get("wrap", False)), mulched=mulched,
        mulch_laid_on=laid.day if laid else None, mulch_looked_on=looked_on,
        thin_on=stands.thin_on(row) if mulched else None, underlay=laid.underlay if laid else None,
        verdict=newest.verdict if newest is not None and newest.kind == "check" else None,
        emitters=row.method == "emitters", move_on=row.move_on if row.method == "emitters" else None,
        leaf_out=leaf_out, mulch_to_come=planted.get("mulch_depth_m", 0.0) > 0, feed=bool(planted.get("feed", False)),
        pests=tuple(row.pests), frost=frost if row.frost_c is not None else None,
    )  # fmt: skip


def put_act(
    session: Session, act_id: UUID, subject: Subject, key: str, act: str, day: date | None, reason: str
) -> CareAct:
    """Say that a task was done, is moved to a day or dismissed, the last two with a reason. Sent twice it is one."""
    site = subject.site(session)
    changes.hold(session, [site.id])
    known = session.get(CareAct, act_id)
    if known is not None:
        if (known.tree_id, known.planting_id, known.key, known.act) != (*subject, key, act):
            raise ConflictError("something else was said under this id", "id")
        return known
    if act not in ACTS:
        raise InputError(f"must be one of {', '.join(ACTS)}, not {act!r}", "act")
    today = clock.today(session, site.timezone)
    if act != "done" and not reason.strip():
        raise InputError("say why, in a word or two", "reason")
    if act == "moved" and (day is None or not today <= day <= today + timedelta(days=LATEST_DAYS)):
        raise InputError(f"needs a day from today ({today}) on, at most three years away", "day")
    if act == "done" and day is not None and day > today:
        raise InputError("has not happened yet", "day")
    standing = of_site(session, site, None if subject.tree_id is None else [subject.tree_id])
    if (subject, key) not in {(Subject(due.tree_id, due.planting_id), due.task.key) for due in standing}:
        raise NotFoundError("there is no such open task", "key")
    row = CareAct(
        id=act_id, tree_id=subject.tree_id, planting_id=subject.planting_id, key=key, act=act, day=day or today,
        reason=reason.strip(), recorded_at=clock.now(session),
    )  # fmt: skip
    session.add(row)
    changes.tell(session, Changed(site.id, What.PAGE))
    if act == "done" and subject.tree_id is not None:
        savings.said_done(session, subject.tree_id, key)
    return row


def withdraw(session: Session, act_id: UUID) -> CareAct:
    """Take back what was said; the task is open again as it was."""
    row = session.get(CareAct, act_id)
    if row is None:
        raise NotFoundError("nothing was said under this id", "act_id")
    if row.withdrawn_at is None and row.act == "done" and row.tree_id is not None:
        savings.said_done(session, row.tree_id, row.key, undone=True)
    row.withdrawn_at = row.withdrawn_at or clock.now(session)
    changes.tell(session, Changed(Subject(row.tree_id, row.planting_id).site(session).id, What.PAGE))
    return row


def feed(session: Session, site: Site, tree_id: UUID | None, language: str, url: str) -> bytes:
    """The calendar of a site or of one tree as iCalendar; events keep their ids and count their changes."""
    return calendar_ics.write(site.name, _events(session, site, tree_id, url), language)


def feed_of_all(session: Session, title: str, language: str, url: str) -> bytes:
    """The calendar of all sites as iCalendar under a title, each task with its site's name."""
    events = [
        replace(event, who=f"{site.name}: {event.who}")
        for site in register.sites(session) for event in _events(session, site, None, url)
    ]  # fmt: skip
    return calendar_ics.write(title, events, language)


def _events(session: Session, site: Site, tree_id: UUID | None, url: str) -> list[Event]:
    if tree_id is not None and register.tree(session, tree_id).site_id != site.id:
        raise NotFoundError("there is no such tree at this site", "tree_id")
    now = clock.now(session)
    today = clock.today(session, site.timezone)
    open_now = of_site(session, site, None if tree_id is None else [tree_id])
    tags = {
        row.id: (row.tag, row.place) for row in store.rows(session, site.id, None if tree_id is None else [tree_id])
    } | {row.id: (row.tag, row.place) for row in store.plantings(session, site.id) if tree_id is None}
    told = store.published(session, tags)
    events = []
    seen = set()
    for due in open_now:
        seen.add((due.subject, due.task.key))
        row = _publish(session, told, due, now)
        events.append(_event(due, row, url))
    for (subject, key), row in told.items():
        if (subject, key) in seen:
            continue
        if not row.gone:
            row.gone, row.sequence, row.modified_at = True, row.sequence + 1, now
        if row.due_on >= today - timedelta(days=KEPT_GONE_DAYS):
            tag, place = tags[subject]
            task = Task(row.kind, key, row.due_on)
            events.append(_event(Due(row.tree_id, row.planting_id, tag, place, None, "", task), row, url))
    session.flush()
    return events


def secrets_of(session: Session) -> dict[UUID, str]:
    """The secret part of each site's calendar address by site, made where there is none; closed sites have none."""
    known, sites = store.feeds(session), register.sites(session)
    for site in sites:
        if site.id not in known:
            known[site.id] = CalendarFeed(site_id=site.id, secret=token_urlsafe(SECRET_BYTES))
            session.add(known[site.id])
    return {site.id: known[site.id].secret for site in sites}


def renew_secret(session: Session, site_id: UUID) -> str:
    """Give a site's calendar another address: who only knows the old one sees nothing any more."""
    site = register.site(session, site_id)
    secrets_of(session)
    session.flush()
    row = store.feeds(session)[site.id]
    row.secret = token_urlsafe(SECRET_BYTES)
    return row.secret


def whose_secret(sessions: SessionMaker, secret: str) -> SessionMaker:
    """Sessions of the organisation whose calendar address has this secret; of nobody where none has."""
    with reading(sessions.of_all()) as session:
        organisation_id = store.feed_organisation(session, secret)
    return sessions.of(organisation_id) if organisation_id is not None else sessions.of_nobody()


def site_of_secret(session: Session, secret: str) -> Site:
    """The site whose calendar address has this secret. Raises NotFoundError."""
    site_id = store.feed_site(session, secret)
    if site_id is None:
        raise NotFoundError("there is no calendar at this address; it may have been renewed", "secret")
    return register.site(session, site_id)


def _digest(task: Task) -> str:
    said = "/".join((task.kind, str(task.due_on), str(task.part), task.reason, *task.detail, *map(str, task.numbers)))
    return sha256(said.encode()).hexdigest()[:16]


def _publish(session: Session, told: dict[tuple[UUID, str], CarePublished], due: Due, now: datetime) -> CarePublished:
    """What calendars know of a task, brought up to date."""
    digest = _digest(due.task)
    row = told.get((due.subject, due.task.key))
    if row is None:
        row = CarePublished(
            tree_id=due.tree_id, planting_id=due.planting_id, key=due.task.key, kind=due.task.kind,
            due_on=due.task.due_on, digest=digest,
            sequence=0, gone=False, modified_at=now,
        )  # fmt: skip
        session.add(row)
        told[due.subject, due.task.key] = row
    elif row.digest != digest or row.gone:
        row.digest, row.due_on, row.gone = digest, due.task.due_on, False
        row.sequence, row.modified_at = row.sequence + 1, now
    return row


def _event(due: Due, row: CarePublished, url: str) -> Event:
    return Event(
        uid=f"{uuid5(due.subject, due.task.key)}@june-shade", kind=due.task.kind, day=due.task.due_on,
        who=" ".join(word for word in (due.tag, due.place) if word), part=due.task.part, reason=due.task.reason,
        sequence=row.sequence, modified_at=row.modified_at, cancelled=row.gone,
        url=f"{url}/{'trees' if due.tree_id else 'plantings'}/{due.subject}", detail=due.task.detail,
        numbers=due.task.numbers,
    )  # fmt: skip
