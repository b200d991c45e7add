"""Writing the record: entries made by clients, once each; undo by voiding; correction as void and new together."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from math import isclose
from uuid import UUID
from zoneinfo import ZoneInfo

from june_shade.core.errors import AgainError, ConflictError, InputError, NotFoundError
from june_shade.core.stock import balls
from june_shade.core.water import felt
from june_shade.plans import changes, clock, people, soil_in_force
from june_shade.plans.changes import Changed, What
from june_shade.plans.choosing.in_force import was_planned
from june_shade.store import jobs as queue
from june_shade.store import log as store
from june_shade.store import trees as tree_store
from june_shade.store.log_tables import LogEntry
from june_shade.store.session import Session
from june_shade.store.trees import TreePlace

AHEAD_OF_CLOCK = timedelta(minutes=15)
"""A phone's clock may run a little fast."""
CONTENT = (
    "tree_id", "kind", "happened_at", "person_id", "device_id", "volume_l", "duration_min", "note", "reason", "seen",
    "how", "ball_feel", "ring_feel", "ball_theta", "ring_theta", "voids",
)  # fmt: skip
AGAIN_WITHIN, SAME_AMOUNT = timedelta(minutes=10), 0.01
"""The same amount, give or take a hundredth, so soon after is asked about: it may be a second tap."""
AT_ONE_MOMENT, WET = timedelta(minutes=30), frozenset({"wet", "like_clay"})
"""What is felt so soon after is of the same soil: wet and dry it can't be."""
QUIET = frozenset({"note"})
"""What is logged so changes no plan under limits."""
TWICE_WITHIN = timedelta(hours=1)
"""Two waterings of a tree from different devices within this time may be one, logged twice: both stay, marked."""


@dataclass(frozen=True, slots=True)
class NewEntry:
    """An entry as the client made it.

    volume_l for water; note or seen (a kind) for notes; reason for a skip; how and what was felt of ball and ring for a
    reading, or what a probe read [m3/m3]; voids for a void.
    """

    id: UUID
    tree_id: UUID
    kind: str
    happened_at: datetime
    device_id: str
    person_id: UUID | None = None
    volume_l: float | None = None
    duration_min: float | None = None
    note: str | None = None
    reason: str | None = None
    seen: str | None = None
    how: str | None = None
    ball_feel: str | None = None
    ring_feel: str | None = None
    ball_theta: float | None = None
    ring_theta: float | None = None
    voids: UUID | None = None


def put_all(session: Session, entries: Sequence[NewEntry], *, ask_again: bool = False) -> list[LogEntry]:
    """Store several entries in one transaction, all or none; each once, as `put` does."""
    by = {person_id: people.did(session, person_id) for person_id in {entry.person_id for entry in entries}}
    entries = [replace(entry, person_id=by[entry.person_id]) for entry in entries]
    trees = tree_store.places(session, {entry.tree_id for entry in entries})
    changes.hold(session, {tree.site_id for tree in trees.values()})
    known = store.by_ids(session, [entry.id for entry in entries])
    if ask_again:
        _not_twice(session, [entry for entry in entries if entry.id not in known])
    stored, changed = [], []
    for new in entries:
        if new.voids is not None:  # it may undo one of the same batch
            session.flush()
        entry, _, told = _put(session, new, trees.get(new.tree_id), known.get(new.id))
        known[new.id] = entry
        stored.append(entry)
        changed += told
    if changed:
        as_planned = all(entry.kind in QUIET or was_planned(session, entry) for entry in stored)
        changes.tell(session, *_together(changed), as_planned=as_planned)
        _learn(session, [(entry, trees[entry.tree_id].site_id) for entry in stored])
    return stored


def _together(changed: Sequence[Changed]) -> list[Changed]:
    """Changes of many trees as few: one a site, from the first day that any of them counts from."""
    sites: dict[UUID, list[Changed]] = {}
    for one in changed:
        sites.setdefault(one.site_id, []).append(one)
    return [
        Changed(site_id, What.WATER, tuple({tree for one in here for tree in one.trees or ()}), since)
        for site_id, here in sites.items()
        if (since := min((one.since for one in here if one.since is not None), default=None)) is not None
    ]


def put(
    session: Session, new: NewEntry, correcting: UUID | None = None, void_id: UUID | None = None, *,
    ask_again: bool = False,
) -> tuple[LogEntry, bool]:  # fmt: skip
    """Store an entry once. Returns it and whether it was new.

    The same id with the same body is the same entry (a lost answer sent again); with another body ConflictError.
    correcting and void_id: the entry this one replaces, and the id of the void that goes with it, both or neither; it
    may be of another tree of the site (water poured there was logged here).
    A void of what is already voided returns the void that stands. ask_again: AgainError where the tree got the same
    amount a moment ago.
    """
    new = replace(new, person_id=people.did(session, new.person_id))
    tree = tree_store.places(session, [new.tree_id]).get(new.tree_id)
    if tree is not None:
        changes.hold(session, [tree.site_id])
    known = session.get(LogEntry, new.id)
    if ask_again and known is None and correcting is None:
        _not_twice(session, [new])
    entry, is_new, changed = _put(session, new, tree, known, correcting, void_id)
    if changed:
        as_planned = correcting is None and (entry.kind in QUIET or was_planned(session, entry))
        changes.tell(session, *changed, as_planned=as_planned)
        _learn(session, [(entry, one.site_id) for one in changed])
    return entry, is_new


def _learn(session: Session, stored: Sequence[tuple[LogEntry, UUID]]) -> None:
    """Readings, and what may undo one, are gone through in the background."""
    for site_id in dict.fromkeys(site_id for entry, site_id in stored if entry.kind in ("reading", "void")):
        queue.learn(session, site_id)


def _put(
    session: Session, new: NewEntry, tree: TreePlace | None, known: LogEntry | None, correcting: UUID | None = None,
    void_id: UUID | None = None,
) -> tuple[LogEntry, bool, list[Changed]]:  # fmt: skip
    """The same in a site that is held already; what changed is returned for the caller to tell."""
    if tree is None:
        raise NotFoundError("there is no such tree", "tree_id")
    if known is not None:
        _same(known, new)
        return known, False, []
    if (correcting is None) != (void_id is None):
        raise InputError("a correction needs both the entry it replaces and the id of its void", "corrects")
    entry = _entry(session, tree, new)
    if new.kind == "void":
        standing = _voidable(session, tree, new.voids, "voids")
        if standing is not None:
            return standing, False, []
    if new.kind == "reading":
        _not_both(session, new, correcting)
        _not_over(session, new)
    since, told = entry.local_date, []
    if correcting is not None and void_id is not None:
        wrong = _tree_of(session, tree, correcting)
        if _voidable(session, wrong, correcting, "corrects") is not None:
            raise ConflictError("that entry was already undone or corrected", "corrects")
        target = session.get_one(LogEntry, correcting)
        undo = NewEntry(void_id, wrong.id, "void", new.happened_at, new.device_id, new.person_id, voids=correcting)
        session.add(_entry(session, wrong, undo))
        since = min(since, target.local_date)
        told.append(Changed(wrong.site_id, What.WATER, (wrong.id,), target.local_date))
    if new.voids is not None:
        since = min(since, session.get_one(LogEntry, new.voids).local_date)
    session.add(entry)
    return entry, True, [*told, Changed(tree.site_id, What.WATER, (tree.id,), since)]


def _not_both(session: Session, new: NewEntry, correcting: UUID | None) -> None:
    """Refuse soil that is wet and dry at one moment: one of the two was a slip."""
    near = store.readings_near(session, new.tree_id, new.happened_at - AT_ONE_MOMENT, new.happened_at + AT_ONE_MOMENT)
    for was in near:
        for name in ("ball_feel", "ring_feel"):
            both = {getattr(was, name), getattr(new, name)}
            if was.id != correcting and "dry" in both and both & WET:
                said = getattr(was, name).replace("_", " ")
                raise InputError(
                    f"was felt {said} within the half hour: change that reading, or feel again later", name
                )


def _not_over(session: Session, new: NewEntry) -> None:
    """Refuse what no soil holds: a probe that reads more water than the store has room for."""
    if new.ball_theta is None and new.ring_theta is None:
        return
    tree = tree_store.tree(session, new.tree_id)
    if tree is None:
        return
    soil = soil_in_force.in_force(session, tree.site).soil
    medium = balls.medium(tree.kind, soil)
    for name, theta, of in (("ball_theta", new.ball_theta, medium), ("ring_theta", new.ring_theta, soil)):
        if theta is not None:
            try:
                felt.wetness_by_probe(theta, of.wilting_point, of.awc, of.drainable)
            except InputError as e:
                raise InputError(e.message, name) from None


def _not_twice(session: Session, entries: Sequence[NewEntry]) -> None:
    """Raises AgainError where one of these waterings looks like one that is there."""
    poured = [entry for entry in entries if entry.volume_l is not None and entry.happened_at.tzinfo is not None]
    if not poured:
        return
    first, last = (of(entry.happened_at for entry in poured) for of in (min, max))
    there = store.waterings(session, {e.tree_id for e in poured}, first - AGAIN_WITHIN, last + AGAIN_WITHIN)
    for new in poured:
        for was in there:
            near = abs(was.happened_at - new.happened_at) <= AGAIN_WITHIN
            same = isclose(was.volume_l or 0.0, new.volume_l or 0.0, rel_tol=SAME_AMOUNT)
            if was.tree_id == new.tree_id and near and same:
                raise AgainError("the same amount was logged for this tree within 10 minutes", "volume_l")


def _same(known: LogEntry, new: NewEntry) -> None:
    different = [name for name in CONTENT if getattr(known, name) != getattr(new, name)]
    if different:
        raise ConflictError(f"another entry has this id already (other {', '.join(different)})", "id")


def _tree_of(session: Session, tree: TreePlace, entry_id: UUID) -> TreePlace:
    """The tree of an entry that is corrected: this one or another of its site."""
    entry = session.get(LogEntry, entry_id)
    other = tree_store.places(session, [entry.tree_id]).get(entry.tree_id) if entry else None
    if other is None or other.site_id != tree.site_id:
        raise InputError("names no entry of this site", "corrects")
    return other


def _voidable(session: Session, tree: TreePlace, target_id: UUID | None, field: str) -> LogEntry | None:
    """None where the entry can be voided, the void that stands where it was; else an error."""
    target = session.get(LogEntry, target_id) if target_id else None
    if target is None or target.tree_id != tree.id:
        raise InputError("names no entry of this tree", field)
    if target.kind == "void":
        raise InputError("an undo can't be undone: log the work again", field)
    return store.void_of(session, target.id)


def _entry(session: Session, tree: TreePlace, new: NewEntry) -> LogEntry:
    """A checked row, its civil date and time fixed in the site's time zone."""
    if new.happened_at.tzinfo is None:
        raise InputError("needs a time zone offset, like 2026-07-15T06:30:00-06:00", "happened_at")
    if new.happened_at > clock.now(session) + AHEAD_OF_CLOCK:
        raise InputError("has not happened yet", "happened_at")
    local = new.happened_at.astimezone(ZoneInfo(tree.timezone))
    if local.date() < tree.planted_on:
        raise InputError(f"is before the tree was planted ({tree.planted_on})", "happened_at")
    return LogEntry(
        id=new.id,
        tree_id=new.tree_id,
        kind=new.kind,
        happened_at=new.happened_at,
        local_date=local.date(),
        local_time=local.time().replace(microsecond=0),
        person_id=new.person_id,
        device_id=new.device_id,
        volume_l=new.volume_l,
        duration_min=new.duration_min,
        note=new.note,
        reason=new.reason,
        seen=new.seen,
        how=new.how,
        ball_feel=new.ball_feel,
        ring_feel=new.ring_feel,
        ball_theta=new.ball_theta,
        ring_theta=new.ring_theta,
        voids=new.voids,
    )


def twice(entries: Sequence[LogEntry]) -> set[UUID]:
    """Which of a tree's standing waterings lie within an hour of another from a different device."""
    poured = sorted((e for e in entries if e.kind == "water"), key=lambda e: (e.tree_id.int, e.happened_at))
    found: set[UUID] = set()
    for i, entry in enumerate(poured):
        for later in poured[i + 1 :]:
            if later.tree_id != entry.tree_id or later.happened_at - entry.happened_at > TWICE_WITHIN:
                break
            if later.device_id != entry.device_id:
                found |= {entry.id, later.id}
    return found


def beside(session: Session, entries: Sequence[LogEntry]) -> list[LogEntry]:
    """The same entries and the waterings that stand within an hour of them at their trees."""
    poured = [entry for entry in entries if entry.kind == "water"]
    if not poured:
        return list(entries)
    first, last = (of(entry.happened_at for entry in poured) for of in (min, max))
    near = store.waterings(session, {entry.tree_id for entry in poured}, first - TWICE_WITHIN, last + TWICE_WITHIN)
    return list({entry.id: entry for entry in (*entries, *near)}.values())


def of_tree(session: Session, tree_id: UUID) -> list[LogEntry]:
    """A tree's entries, newest first."""
    return list(store.of_tree(session, tree_id))


def on_day(session: Session, site_id: UUID, day: date) -> list[LogEntry]:
    """Standing entries of a site on a day."""
    return list(store.on_day(session, site_id, day))
