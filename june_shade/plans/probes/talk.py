"""What a probe is asked, and what its hours become: a reading a day in the log, counted once."""

import logging
from collections.abc import Callable, Sequence
from datetime import date, datetime, time, timedelta
from uuid import UUID, uuid5
from zoneinfo import ZoneInfo

from june_shade.core.devices import probe as core
from june_shade.core.devices.probe import Night
from june_shade.core.errors import JuneShadeError
from june_shade.outside.forecast import ServiceError
from june_shade.outside.soil_probe import HttpSoilProbe, ProbeHour, ProbeStatus, SoilProbe
from june_shade.plans import changes, clock, devices, log, register
from june_shade.plans.changes import Changed, What
from june_shade.plans.devices import CLOCK_OFF
from june_shade.plans.log import NewEntry
from june_shade.plans.probes import hours, kept
from june_shade.plans.work import SessionMaker, reading, transaction
from june_shade.store import probes as store
from june_shade.store.probe_tables import ProbeHour as HourRow
from june_shade.store.probe_tables import ProbeNight
from june_shade.store.probe_tables import SoilProbe as Row
from june_shade.store.session import Session
from june_shade.store.tree_tables import Tree

told = logging.getLogger("june_shade")
Reach = Callable[[str], SoilProbe]
"""How a probe at an address is reached."""
MORNING = time(6)
MOST_PAGES, MOST_NIGHTS = 40, 400


def reach(address: str) -> SoilProbe:
    """A probe at an address, over HTTP."""
    return HttpSoilProbe(address)


def all_probes(sessions: SessionMaker, by: Reach | None = None) -> None:
    """Ask each probe of an organisation what it read since."""
    with reading(sessions) as session:
        found = [row.id for row in store.asked(session)]
    for probe_id in found:
        try:
            one_probe(sessions, probe_id, by)
        except JuneShadeError:  # the others are asked all the same
            told.exception("probe %s", probe_id)


def one_probe(sessions: SessionMaker, probe_id: UUID, by: Reach | None = None) -> None:
    """The same of one probe; one that does not answer is noted, since when."""
    with reading(sessions) as session:
        address, after = kept.probe(session, probe_id).address, store.state(session, probe_id).last_seq
    device = (by or reach)(address)
    try:
        status = device.status()
        if status.last_seq < after:
            raise ServiceError("it counts its hours anew: it was reset, or is another probe; enter it as a new one")
        after = _hours_of(sessions, probe_id, device, status, after)
        if abs(_off(sessions, status)) > CLOCK_OFF:
            _hours_of(sessions, probe_id, device, device.set_clock(_now(sessions)), after)
    except ServiceError as e:
        with transaction(sessions) as session:
            state = store.state(session, probe_id, hold=True)
            state.silent_since, state.said = state.silent_since or clock.now(session), e.message
        return
    with transaction(sessions) as session:
        read_nights(session, probe_id)


def _now(sessions: SessionMaker) -> datetime:
    with reading(sessions) as session:
        return clock.now(session)


def _off(sessions: SessionMaker, status: ProbeStatus) -> timedelta:
    return status.clock - _now(sessions)


def _hours_of(sessions: SessionMaker, probe_id: UUID, device: SoilProbe, status: ProbeStatus, after: int) -> int:
    """Take in what a probe has to tell by the clock that it has now; the number of the last hour."""
    for _ in range(MOST_PAGES):
        found, more = device.readings(after)
        with transaction(sessions) as session:
            after = _take_in(session, probe_id, found, status)
        if not more:
            break
    return after


def _take_in(session: Session, probe_id: UUID, found: Sequence[ProbeHour], status: ProbeStatus) -> int:
    """Keep its hours, by the program's clock where its own is off; the number of the last."""
    row = kept.probe(session, probe_id)
    changes.hold(session, [register.tree(session, row.tree_id).site_id])
    state, now = store.state(session, probe_id, hold=True), clock.now(session)
    off = status.clock - now
    shift = off if abs(off) > CLOCK_OFF else timedelta(0)
    for one in found:
        if one.seq <= state.last_seq:
            continue  # another turn was faster
        session.add(HourRow(
            probe_id=row.id, seq=one.seq, at=min(one.at - shift, now), depths_m=list(one.depths_m),
            theta_m3_m3=list(one.theta_m3_m3), temperature_c=list(one.temperature_c),
        ))  # fmt: skip
        state.last_seq = one.seq
    state.answered_at, state.silent_since, state.said = now, None, ""
    state.clock_off_min, state.battery_percent = off.total_seconds() / 60, status.battery_percent
    session.flush()
    return state.last_seq


def read_nights(session: Session, probe_id: UUID) -> None:
    """Read the nights that are over and were not read yet; each goes into the log once, from when the probe is
    calibrated on."""
    row = kept.probe(session, probe_id)
    tree = register.tree(session, row.tree_id)
    changes.hold(session, [tree.site_id])
    state = store.state(session, probe_id, hold=True)
    zone = ZoneInfo(tree.site.timezone)
    since = None if state.read_on is None else _morning(state.read_on, zone)
    span = store.first_and_last(session, probe_id, since)
    if span is None:
        return
    try:
        of = hours.ground(session, row, tree)
    except JuneShadeError:  # nothing is known of its soil's day: read when there is
        return
    first, last = (moment.astimezone(zone) for moment in span)
    day = first.date() if state.read_on is None else state.read_on + timedelta(days=1)
    day = max(day, last.date() - timedelta(days=MOST_NIGHTS))
    while _morning(day, zone) <= last:
        lately = hours.until(session, row, tree, of, _morning(day, zone), core.LOOK_BACK_HOURS)
        if lately is None:
            night = Night(float("nan"), core.GAP)
        else:
            night = core.night(lately.theta_m3_m3, lately.doubted, lately.share)
        _keep(session, row, tree, day, night, zone)
        state.read_on = day
        day += timedelta(days=1)
    session.flush()
    changes.tell(session, Changed(tree.site_id, What.PAGE))


def _morning(day: date, zone: ZoneInfo) -> datetime:
    return datetime.combine(day, MORNING, zone)


def _keep(session: Session, row: Row, tree: Tree, day: date, night: Night, zone: ZoneInfo) -> None:
    theta = None if night.why else round(night.theta_m3_m3, 4)
    logged = theta is not None and bool(row.points) and _log(session, row, tree, day, theta, zone)
    session.add(ProbeNight(probe_id=row.id, day=day, theta_m3_m3=theta, why=night.why, logged=logged))


def _log(session: Session, row: Row, tree: Tree, day: date, theta_m3_m3: float, zone: ZoneInfo) -> bool:
    """A night in the log as a reading, by an id that follows from probe and day; False where it can't stand there."""
    value = max(0.0, theta_m3_m3)
    entry = NewEntry(
        id=uuid5(row.id, str(day)), tree_id=tree.id, kind="reading", happened_at=_morning(day, zone),
        device_id=f"{devices.BY_PROBE}{row.name}", how="probe",
        ball_theta=value if row.store == "ball" else None, ring_theta=value if row.store == "ring" else None,
    )  # fmt: skip
    try:
        with session.begin_nested():
            log.put(session, entry)
    except JuneShadeError as e:  # before it was planted, or after it was taken out
        told.warning("the night of %s of probe %s is not in the log: %s", day, row.name, e)
        return False
    return True
