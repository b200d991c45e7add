"""Boxes as people enter and see them: where they are, which line hangs on which outlet, what they ran and will run."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any
from uuid import UUID

from june_shade.core.devices import box as core
from june_shade.core.errors import ConflictError, InputError, NotFoundError
from june_shade.plans import changes, clock, devices, register
from june_shade.plans.boxes.wanted import Left
from june_shade.plans.changes import Changed, What
from june_shade.plans.drip import lines
from june_shade.store import boxes as store
from june_shade.store.box_tables import BoxOutlet, BoxRun, BoxState, ValveBox
from june_shade.store.session import Session
from june_shade.store.site_tables import Line

SILENT_AFTER = timedelta(minutes=15)
"""A box that did not answer for so long is said on Today."""
SHOWN_BACK = timedelta(days=3)
DAY_MIN = 24 * 60


@dataclass(frozen=True, slots=True)
class BoxShown:
    """A box with its outlets, its runs of the last days and to come, those that are left to people, and what is wrong.
    silent: since when it does not answer, None while it does; idle: water that flows with all outlets shut."""

    box: ValveBox
    state: BoxState
    lines: dict[int, Line]
    runs: Sequence[BoxRun]
    left: list[Left]
    silent: datetime | None
    idle: core.Idle | None


def box(session: Session, box_id: UUID) -> ValveBox:
    """A box, or NotFoundError."""
    found = session.get(ValveBox, box_id)
    if found is None:
        raise NotFoundError("there is no such box", "box_id")
    return found


def put(session: Session, box_id: UUID, values: dict[str, Any], outlets: Mapping[int, UUID]) -> ValveBox:
    """Enter a box, or change it. outlets: which line hangs on each, by number.

    Raises InputError for an address that is none, hours that are none, a line of another site or of another box.
    """
    site = register.site(session, values["site_id"])
    changes.hold(session, [site.id])
    _check(values)
    row = session.get(ValveBox, box_id)
    if row is None:
        row = ValveBox(
            id=box_id, site_id=site.id, name=values["name"], address=values["address"], hours=values["hours"]
        )
        session.add(row)
        session.flush()
        session.add(BoxState(box_id=row.id))
    elif row.site_id != site.id:
        raise ConflictError("stands at another site", "site_id")
    else:
        register.fresh(row, values)
        row.name, row.address, row.hours = values["name"], values["address"], values["hours"]
    session.flush()
    _hang(session, row, outlets)
    changes.tell(session, Changed(site.id, What.PAGE | What.LIMITS))
    session.refresh(row)
    return row


def _check(values: Mapping[str, Any]) -> None:
    devices.check_address(values["address"])
    for opens, shuts in values["hours"]:
        if not 0 <= opens < shuts <= DAY_MIN:
            raise InputError("must end after they begin, within a day", "hours")


def _hang(session: Session, row: ValveBox, outlets: Mapping[int, UUID]) -> None:
    for number, line_id in outlets.items():
        line = lines.line(session, line_id)
        if line.site_id != row.site_id:
            raise InputError(f"{line.name} is at another site", f"outlets[{number}]")
        taken = store.outlet_of(session, line_id)
        if taken is not None and taken.box_id != row.id:
            raise InputError(f"{line.name} hangs on another box", f"outlets[{number}]")
    if len(set(outlets.values())) < len(outlets):
        raise InputError("each line hangs on one outlet", "outlets")
    known = {one.number: one for one in store.outlets(session, row.id)}
    for number, one in known.items():
        if outlets.get(number) != one.line_id:
            session.delete(one)
    session.flush()
    for number, line_id in outlets.items():
        if number not in known or known[number].line_id != line_id:
            session.add(BoxOutlet(box_id=row.id, number=number, line_id=line_id))
    session.flush()


def close(session: Session, box_id: UUID, *, closed: bool) -> ValveBox:
    """Ask a box no more, or again; what it gave stays in the record."""
    row = box(session, box_id)
    changes.hold(session, [row.site_id])
    site = register.site(session, row.site_id)
    row.closed_on = clock.today(session, site.timezone) if closed else None
    changes.tell(session, Changed(row.site_id, What.PAGE | What.LIMITS))
    session.flush()
    return row


def shown(session: Session, row: ValveBox) -> BoxShown:
    """A box as it is shown."""
    now = clock.now(session)
    state = store.state(session, row.id)
    runs = store.runs_since(session, row.id, now - SHOWN_BACK)
    named = store.lines(session, row.id)
    today = clock.today(session, register.site(session, row.site_id).timezone)
    left = [] if row.closed_on else [one for one in _left(state) if one.day >= today]
    return BoxShown(row, state, named, runs, left, _silent(state, now), _idle(state, runs, now))


def _silent(state: BoxState, now: datetime) -> datetime | None:
    since = state.silent_since
    return None if since is None or now - since < SILENT_AFTER else since


def _left(state: BoxState) -> list[Left]:
    return [Left(UUID(one["line_id"]), date.fromisoformat(one["day"]), one["why"]) for one in state.left_over]


def rely(session: Session, box_id: UUID, left: Sequence[Left] | None, *, refused: bool) -> None:
    """Note whether a box is relied on now, and what it leaves to people: crews' hours go by both. left: None = as
    before; refused: it answered that it takes no such run."""
    row, state = box(session, box_id), store.state(session, box_id)
    answers = state.answered_at is not None and _silent(state, clock.now(session)) is None
    may = answers and not state.clock_doubted and not refused
    rows = state.left_over
    if left is not None:
        rows = [{"line_id": str(one.line_id), "day": one.day.isoformat(), "why": one.why} for one in left]
    if (may, rows) == (state.relied_on, state.left_over):
        return
    changes.hold(session, [row.site_id])
    state = store.state(session, box_id, hold=True)
    what = What.PAGE if may == state.relied_on else What.PAGE | What.LIMITS
    state.relied_on, state.left_over = may, rows
    changes.tell(session, Changed(row.site_id, what))


def _idle(row: BoxState, runs: Sequence[BoxRun], now: datetime) -> core.Idle | None:
    if row.idle_since is None:
        return None
    flows = {run.number: run.line_l_per_h for run in runs}
    return core.idle(row.idle_l_per_h / 60, (now - row.idle_since).total_seconds() / 60, flows)


def of_site(session: Session, site_id: UUID) -> list[BoxShown]:
    """A site's boxes."""
    register.site(session, site_id)
    return [shown(session, row) for row in store.boxes(session, site_id)]


def everywhere(session: Session) -> list[BoxShown]:
    """All boxes that are asked."""
    return [shown(session, row) for row in store.boxes(session)]
