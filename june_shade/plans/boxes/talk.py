"""What a box is asked and told: how it stands, what happened, what it is to run. Nothing is lost and nothing is there
twice: its events are counted, and what is made of them is stored with the last one's number."""

import logging
from collections.abc import Callable, Sequence
from datetime import datetime, timedelta
from uuid import UUID, uuid5

from june_shade.core.devices import box as core
from june_shade.core.devices.box import Event, Run
from june_shade.core.errors import ConflictError, InputError, JuneShadeError, NotFoundError
from june_shade.outside.forecast import ServiceError
from june_shade.outside.valve_box import HttpValveBox, Schedule, Status, ValveBox
from june_shade.plans import changes, clock, devices, log, register
from june_shade.plans.boxes import kept, wanted
from june_shade.plans.changes import Changed, What
from june_shade.plans.devices import CLOCK_DOUBTED, CLOCK_OFF
from june_shade.plans.log import NewEntry
from june_shade.plans.work import SessionMaker, reading, transaction
from june_shade.store import boxes as store
from june_shade.store.box_tables import BoxEvent, BoxRun
from june_shade.store.box_tables import ValveBox as Row
from june_shade.store.session import Session

told = logging.getLogger("june_shade")
Reach = Callable[[str], ValveBox]
"""How a box at an address is reached."""
MOST_PAGES = 40


def reach(address: str) -> ValveBox:
    """A box at an address, over HTTP."""
    return HttpValveBox(address)


def all_boxes(sessions: SessionMaker, by: Reach | None = None) -> None:
    """Ask every box how it stands, take in what happened, and send what is to run."""
    with reading(sessions) as session:
        found = [row.id for row in store.boxes(session)]
    for box_id in found:
        try:
            one_box(sessions, box_id, by)
        except JuneShadeError:  # the others are asked all the same
            told.exception("box %s", box_id)


def one_box(sessions: SessionMaker, box_id: UUID, by: Reach | None = None) -> None:
    """The same of one box; one that does not answer is noted, since when."""
    with reading(sessions) as session:
        row = kept.box(session, box_id)
        address, after, now = row.address, store.state(session, box_id).last_seq, clock.now(session)
    device, left, refused = (by or reach)(address), None, False
    try:
        status = _clock_set(sessions, box_id, device, device.status(), now)
        if status.last_seq < after:
            raise ServiceError("it counts its events anew: it was reset, or is another box; enter it as a new one")
        for _ in range(MOST_PAGES):
            events, more = device.events(after)
            with transaction(sessions) as session:
                after = _take_in(session, box_id, events, status)
            if not more:
                break
        left = _send(sessions, box_id, device, status)
        with transaction(sessions) as session:
            _stands(session, box_id, device.status())
    except ServiceError as e:
        with transaction(sessions) as session:
            state = store.state(session, box_id, hold=True)
            state.silent_since, state.said = state.silent_since or clock.now(session), e.message
    except InputError as e:  # it answers, and refuses a run that the plan wants
        refused = True
        with transaction(sessions) as session:
            store.state(session, box_id, hold=True).said = f"the box takes no such run: {e.message}"
    with transaction(sessions) as session:
        kept.rely(session, box_id, left, refused=refused)


NO_ANSWER = "the box does not answer: shut the valve or the main by hand"


def stop(sessions: SessionMaker, box_id: UUID, run_id: UUID | None, by: Reach | None = None) -> None:
    """Stop a run of a box, None = shut all outlets, and take in what that comes to; one that is still to come is taken
    off the box. Raises ConflictError where the box does not answer: then the main is shut by hand, and nothing is said
    to be stopped that may still run."""
    with reading(sessions) as session:
        address, now = kept.box(session, box_id).address, clock.now(session)
        run = next((one for one in store.open_runs(session, box_id) if one.id == run_id), None)
        if run_id is not None and run is None:
            raise NotFoundError("there is no such run, or it is over", "run_id")
        to_come = run is not None and run.state != "running" and run.starts_at > now
        number = None if run is None else run.number
    device = (by or reach)(address)
    try:
        if to_come:
            device.status()
        else:
            device.stop(number)
    except ServiceError as e:
        raise ConflictError(NO_ANSWER, "box_id") from e
    if to_come and run_id is not None:
        _put_state(sessions, box_id, run_id, "stopped", now)
    one_box(sessions, box_id, by)
    if to_come and run_id is not None and _still_there(device, run_id):
        _put_state(sessions, box_id, run_id, "sent", None)
        raise ConflictError(NO_ANSWER, "box_id")


def _put_state(sessions: SessionMaker, box_id: UUID, run_id: UUID, state: str, over_at: datetime | None) -> None:
    with transaction(sessions) as session:
        changes.hold(session, [kept.box(session, box_id).site_id])
        run = session.get_one(BoxRun, run_id)
        run.state, run.over_at = state, over_at


def _still_there(device: ValveBox, run_id: UUID) -> bool:
    """Whether a box still has a run, or can't be asked."""
    try:
        return any(run.id == str(run_id) for run in device.schedule().runs)
    except ServiceError:
        return True


def _clock_set(sessions: SessionMaker, box_id: UUID, device: ValveBox, status: Status, now: datetime) -> Status:
    """The box with its clock compared, and set where it is off; one that stays far off is doubted."""
    off = status.clock - now
    if abs(off) > CLOCK_OFF:
        status = device.set_clock(now)
    with transaction(sessions) as session:
        state = store.state(session, box_id, hold=True)
        state.clock_off_min = off.total_seconds() / 60
        state.clock_doubted = abs(status.clock - now) > CLOCK_DOUBTED
    return status


def _take_in(session: Session, box_id: UUID, events: Sequence[Event], status: Status) -> int:
    """Keep what happened and what runs gave by it; the number of the last event."""
    row = kept.box(session, box_id)
    changes.hold(session, [row.site_id])
    state = store.state(session, box_id, hold=True)
    now = clock.now(session)
    for event in events:
        if event.seq <= state.last_seq:
            continue  # another turn was faster
        at = now if state.clock_doubted else event.at
        session.add(BoxEvent(
            box_id=row.id, seq=event.seq, at=at, kind=event.kind, outlet=event.outlet, run_id=event.run_id,
            total_l=event.total_l,
        ))  # fmt: skip
        state.last_seq = event.seq
    state.answered_at, state.silent_since, state.said = now, None, ""
    session.flush()
    running = {one.run_id for one in status.outlets if one.is_open}
    done = [run for run in store.open_runs(session, row.id) if _settle(session, row, run, running, now)]
    if done or events:
        changes.tell(session, Changed(row.site_id, What.PAGE))
    return state.last_seq


def _settle(session: Session, row: Row, run: BoxRun, running: set[str], now: datetime) -> bool:
    """What became of a run; True where it is over."""
    as_run = _run_of(run)
    since = [
        Event(one.seq, one.at, one.kind, one.outlet, one.run_id, one.total_l)
        for one in store.events(session, row.id, run.starts_at - timedelta(hours=1))
    ]
    found = core.metered(as_run, since, now)
    if found is None:
        if str(run.id) in running:
            run.state = "running"
        elif now > as_run.ends_at + timedelta(minutes=core.IDLE_MIN) and not any(e.run_id == as_run.id for e in since):
            run.state = "missed"
            return True
        return False
    run.state = "stopped" if found.stopped else "done"
    run.litres, run.opened_min, run.over_at, run.believed = found.litres, found.open_min, found.over_at, found.believed
    if found.open_min > 0 and found.believed and run.line_l_per_h > 0:
        verdict = core.judged(found, run.line_l_per_h)
        run.verdict, run.share, run.off_l_per_h = verdict.code, verdict.share, verdict.off_l_per_h
    if found.believed and found.litres > 0:
        _log(session, row, run)
    return True


def _log(session: Session, row: Row, run: BoxRun) -> None:
    """A run's litres in the log, each tree's part, by ids that follow from run and tree."""
    assert run.litres is not None
    assert run.over_at is not None
    flows = list(run.trees.values())
    parts = core.shared_l(run.litres, flows, max(0.0, run.line_l_per_h - sum(flows)))
    happened = min(run.over_at, clock.now(session))
    entries = [
        NewEntry(
            id=uuid5(run.id, tree), tree_id=UUID(tree), kind="water", happened_at=happened,
            device_id=f"{devices.BY_BOX}{row.name}", volume_l=litres,
        )
        for tree, litres in zip(run.trees, parts, strict=True) if litres > 0
    ]  # fmt: skip
    for entry in entries:
        try:
            with session.begin_nested():
                log.put(session, entry)
        except JuneShadeError as e:  # a tree that was taken out meanwhile: its part is told with the run
            told.warning("a part of run %s of %s is not in the log: %s", run.id, row.name, e)


def _run_of(run: BoxRun) -> Run:
    return Run(str(run.id), run.number, run.starts_at, run.open_min, run.goes, run.rest_min)


def _send(sessions: SessionMaker, box_id: UUID, device: ValveBox, status: Status) -> list[wanted.Left]:
    """Have the box keep what is to run, where that is another than it keeps; what is left to people."""
    with transaction(sessions) as session:
        row = kept.box(session, box_id)
        changes.hold(session, [row.site_id])  # before the box, as everywhere
        state = store.state(session, box_id, hold=True)
        site = register.site(session, row.site_id)
        now = clock.now(session)
        soon = now + timedelta(minutes=wanted.SOONEST_MIN)
        begun = [run for run in store.open_runs(session, box_id) if run.starts_at <= soon or run.state == "running"]
        found = wanted.coming(session, row, site, now, begun)
        coming = [] if state.clock_doubted or row.closed_on else found.runs
        coming = [run for run in coming if not any(run.id == one.id for one in begun) and not _is_over(session, run)]
        as_begun = [_run_of(run) for run in begun if run.starts_at > now]
        _keep(session, row, coming, {run.id for run in begun})
        runs = tuple(as_begun + [_run_of(run) for run in coming])
        revision = max(state.revision, status.revision) + 1
    known = device.schedule()
    if {run for run in known.runs if run.starts_at > now} == set(runs):
        sent = known
    else:
        sent = device.send(Schedule(revision, runs))
        sent = device.schedule() if sent.revision == revision else sent
    names = {run.id for run in sent.runs}
    with transaction(sessions) as session:
        store.state(session, box_id, hold=True).revision = sent.revision
        for run in store.open_runs(session, box_id):
            if run.state == "planned" and str(run.id) in names:
                run.state = "sent"
    return found.left


def _is_over(session: Session, run: BoxRun) -> bool:
    before = session.get(BoxRun, run.id)
    return before is not None and before.state not in ("planned", "sent", "dropped")


def _keep(session: Session, row: Row, coming: Sequence[BoxRun], begun: set[UUID]) -> None:
    """Store what is to run; what was to run and is not wanted any more is dropped."""
    names = {run.id for run in coming} | begun
    for run in store.open_runs(session, row.id):
        if run.id not in names:
            run.state = "dropped"
    for run in coming:
        before = session.get(BoxRun, run.id)
        if before is None:
            session.add(run)
            continue
        same = _run_of(before) == _run_of(run) and before.state == "sent"
        for name in ("number", "starts_at", "open_min", "goes", "rest_min", "line_l_per_h", "trees"):
            setattr(before, name, getattr(run, name))
        before.state = "sent" if same else "planned"
    session.flush()


def _stands(session: Session, box_id: UUID, status: Status) -> None:
    """Since when water flows with all outlets shut."""
    state = store.state(session, box_id, hold=True)
    shut = not any(one.is_open for one in status.outlets)
    if not shut or status.flow_l_per_min <= core.IDLE_L_PER_MIN:
        state.idle_since, state.idle_l_per_h = None, 0.0
    else:
        state.idle_since = state.idle_since or clock.now(session)
        state.idle_l_per_h = 60 * status.flow_l_per_min
