"""The Checks page of a tree: what was felt and what it says, the check-up, what it comes to, what is done about it."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from typing import Any
from uuid import UUID, uuid5
from zoneinfo import ZoneInfo

import numpy as np

from june_shade.core.care.calendar import OF_CHECKUPS
from june_shade.core.errors import ConflictError, InputError, NotFoundError
from june_shade.core.looking import checkup, learn
from june_shade.core.looking.checkup import Checkup
from june_shade.core.looking.table import BY_THE_PROGRAM, TRUNK, table
from june_shade.plans import changes, clock, log, people, register
from june_shade.plans.changes import Changed, What
from june_shade.plans.log import AHEAD_OF_CLOCK, NewEntry
from june_shade.plans.looking import own as own_feet
from june_shade.plans.looking import thirst
from june_shade.plans.looking.known import Known, known, plan_of
from june_shade.plans.water import page
from june_shade.plans.water.section import section
from june_shade.store import log as log_store
from june_shade.store import looking as store
from june_shade.store.looking_tables import ThirstAnswer, TreeCheckup, TreeFit
from june_shade.store.session import Session
from june_shade.store.tree_tables import Tree

OF_LEAVES = frozenset({"leaf", "overnight"})
"""Questions that are not asked out of leaf season."""
CAUSES_KEPT = 3
READING_OF = "reading"
AS_AN_ANSWER = {"like_clay": "wet"}
"""Readings that a check-up's question knows by another word."""


@dataclass(frozen=True, slots=True)
class Looked:
    """What findings come to for a tree, what the program answered itself, what is still asked with its answers;
    felt_now: what is in the log as felt this half hour, as answers."""

    found: Checkup
    own: dict[str, str]
    in_leaf: bool
    asked: tuple[tuple[str, tuple[str, ...], bool], ...]
    look_on: date
    enough: bool
    felt_now: dict[str, str]


def look(session: Session, tree_id: UUID, findings: Mapping[str, str]) -> Looked:
    """What a check-up would say so far; nothing is stored. Raises InputError for an answer that is none."""
    tree = register.tree(session, tree_id)
    today = clock.today(session, tree.site.timezone)
    felt = _felt_by(session, tree, clock.now(session))
    return looked(findings, known(session, tree, plan_of(session, tree), today), today, felt)


def known_of(session: Session, tree_id: UUID) -> tuple[date, Known]:
    """The tree's day, and what the program knows of it by itself."""
    tree = register.tree(session, tree_id)
    today = clock.today(session, tree.site.timezone)
    return today, known(session, tree, plan_of(session, tree), today)


def _felt_by(session: Session, tree: Tree, moment: datetime) -> dict[str, str]:
    """What was felt at a tree at this moment already, as answers: nobody is asked twice, and it counts once."""
    found: dict[str, str] = {}
    near = log_store.readings_near(session, tree.id, moment - log.AT_ONE_MOMENT, moment)
    for read in sorted(near, key=lambda one: (one.happened_at, one.recorded_at)):
        for finding, said in (("ball_feel", read.ball_feel), ("ring_feel", read.ring_feel)):
            if said is not None:
                answer = AS_AN_ANSWER.get(said, said)
                if answer in table().findings[finding].answers:
                    found[finding] = answer
    return found


def looked(findings: Mapping[str, str], own: Known, day: date, felt_now: dict[str, str]) -> Looked:
    """The same of what the program knows of a tree on a day. Raises InputError for an answer that is none."""
    wrong = set(findings) & BY_THE_PROGRAM
    if wrong:
        raise InputError("is for the program to answer", f"findings.{min(wrong)}")
    found = checkup.checkup({**findings, **own.findings}, dead_before=own.dead_before)
    left = [one for one in found.next if own.in_leaf or one.finding not in OF_LEAVES]
    questions = table().findings
    asked = [(one.finding, questions[one.finding].answers, one.is_worth_it) for one in left]
    if "trunk" not in findings:
        asked.append(("trunk", TRUNK, False))
    look_on = day + timedelta(days=found.look_again_days)
    enough = not any(one.is_worth_it for one in left)
    return Looked(found, own.findings, own.in_leaf, tuple(asked), look_on, enough, felt_now)


@dataclass(frozen=True, slots=True)
class NewCheckup:
    """A check-up as a client made it: answers by question; tasks: which of its acts are to be done as dated tasks;
    hold: whether water is held until the next look."""

    id: UUID
    tree_id: UUID
    happened_at: datetime
    device_id: str
    findings: dict[str, str]
    tasks: tuple[str, ...] = ()
    hold: bool = False
    note: str = ""
    person_id: UUID | None = None


def put(session: Session, new: NewCheckup) -> TreeCheckup:
    """Keep a check-up; what was felt at it goes into the log as a reading. Sent twice it is one."""
    tree = register.tree(session, new.tree_id)
    changes.hold(session, [tree.site_id])
    row = session.get(TreeCheckup, new.id)
    if row is not None:
        if (row.tree_id, row.findings, row.happened_at) != (new.tree_id, new.findings, new.happened_at):
            raise ConflictError("another check-up has this id already", "id")
        return row
    if not new.findings:
        raise InputError("says nothing: answer one question at least", "findings")
    new = replace(new, person_id=people.did(session, new.person_id))
    if new.happened_at > clock.now(session) + AHEAD_OF_CLOCK:
        raise InputError("has not happened yet", "happened_at")
    day = new.happened_at.astimezone(ZoneInfo(tree.site.timezone)).date()
    if day < tree.planted_on:
        raise InputError(f"is before the tree was planted ({tree.planted_on})", "happened_at")
    own = known(session, tree, plan_of(session, tree), day)
    felt_now = _felt_by(session, tree, new.happened_at)
    found_now = looked(new.findings, own, day, felt_now)
    found = found_now.found
    offered = set(tasks_of(found))
    if set(new.tasks) - offered:
        raise InputError(f"must be of what comes of it: {', '.join(sorted(offered)) or 'nothing'}", "tasks")
    if new.hold and found.water_act != "stop_water":
        raise InputError("water is held only where the check-up says stop", "hold")
    row = TreeCheckup(
        id=new.id, tree_id=new.tree_id, day=day, happened_at=new.happened_at, findings=new.findings,
        in_leaf=own.in_leaf, verdict=found.verdict, water_act=found.water_act,
        causes=[[c.cause, c.probability] for c in found.causes[:CAUSES_KEPT]], tasks=list(new.tasks),
        hold_until=found_now.look_on if new.hold else None, look_on=found_now.look_on, note=new.note.strip(),
        person_id=new.person_id, device_id=new.device_id, recorded_at=clock.now(session),
    )  # fmt: skip
    session.add(row)
    told = [Changed(tree.site_id, What.WATER if new.hold else What.PAGE, (tree.id,) if new.hold else None, day)]
    changes.tell(session, *told)
    own_feet.come_back(session, tree, row)
    felt = {
        name: new.findings[f"{name}_feel"]
        for name in ("ball", "ring")
        if f"{name}_feel" in new.findings and felt_now.get(f"{name}_feel") != new.findings[f"{name}_feel"]
    }
    if felt:
        log.put(session, NewEntry(
            uuid5(new.id, READING_OF), tree.id, "reading", new.happened_at, new.device_id, new.person_id, how="finger",
            ball_feel=felt.get("ball"), ring_feel=felt.get("ring"),
        ))  # fmt: skip
    return row


def withdraw(session: Session, checkup_id: UUID) -> TreeCheckup:
    """Take a check-up back, with what was felt at it and what came of it."""
    row = session.get(TreeCheckup, checkup_id)
    if row is None:
        raise NotFoundError("there is no such check-up", "checkup_id")
    tree = register.tree(session, row.tree_id, ended=True)
    changes.hold(session, [tree.site_id])
    if row.withdrawn_at is not None:
        return row
    row.withdrawn_at = clock.now(session)
    what = What.WATER if row.hold_until is not None else What.PAGE
    changes.tell(session, Changed(tree.site_id, what, (tree.id,), row.day))
    own_feet.stays(session, row)
    reading = log_store.by_ids(session, [uuid5(row.id, READING_OF)])
    for entry_id in reading:
        if log_store.void_of(session, entry_id) is None:
            now = clock.now(session)
            log.put(session, NewEntry(uuid5(row.id, "void"), tree.id, "void", now, row.device_id, voids=entry_id))
    return row


def tasks_of(found: Checkup) -> tuple[str, ...]:
    """What comes of a check-up and is a dated task."""
    return tuple(action for action in found.actions if action in OF_CHECKUPS)


def of_tree(session: Session, tree_id: UUID) -> dict[str, Any]:
    """The Checks page of a tree."""
    tree = register.tree(session, tree_id)
    today = clock.today(session, tree.site.timezone)
    made = plan_of(session, tree)
    entries = log.of_tree(session, tree.id)
    voided = {entry.voids for entry in entries}
    reads, doubt = [], None
    if made is not None:
        i = made.index_of(tree.id)
        reads = page.readings_of(made, i, entries, voided)
        doubt = page.doubt_of(made, i, reads[-1].day if reads else None)
    fit = store.fits(session, [tree.id]).get(tree.id)
    said = store.answers(session, tree.site_id, [tree.id]).get(tree.id, [])
    checkups = store.checkups(session, tree.id)
    standing = [one for one in checkups if one.withdrawn_at is None]
    return {
        "tree": tree, "today": today, "zone": tree.site.timezone,
        "section": section(made, made.index_of(tree.id)) if made else None, "readings": reads, "doubt": doubt,
        "fit": fit and thirst.shown(fit), "state": thirst.state_of(fit, said), "accepted": _accepted(said),
        "checkups": checkups,
        "look_on": standing[0].look_on if standing else None,
        "hold_until": store.holds(session, tree.site_id, today).get(tree.id),
        "lines": [] if fit is None else _lines(session, tree, fit),
    }  # fmt: skip


def _accepted(said: Sequence[ThirstAnswer]) -> ThirstAnswer | None:
    return next((one for one in reversed(said) if one.answer == "accepted"), None)


def _lines(session: Session, tree: Tree, fit: TreeFit) -> list[dict[str, Any]]:
    """The ball's dryness by day from the first reading on, by the book and as readings explain it, neither corrected by
    them: by its thirst, where that is asked after by what arrives."""
    if fit.demand is None or fit.delivery is None:
        return []
    asked = fit.verdict == "ask_delivery"
    drinks, gets = (1.0, fit.delivery) if asked else (fit.demand, 1.0)
    found = thirst.season_of(session, tree.site, [tree.id])
    if found is None:
        return []
    season, made, wanted, _ = found
    if len(wanted) != 1 or not season.course.felt:
        return []
    seen = learn.looks(season)
    lines = learn.lines(season, np.array([1.0, drinks]), np.array([1.0, gets]))
    first = int(seen.first[0])
    dates = made.cut.dates
    return [
        {"day": dates[first + n].item(), "book": float(row[0]), "learned": float(row[1])} for n, row in enumerate(lines)
    ]
