"""Probes as people enter, calibrate and see them."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any
from uuid import UUID
from zoneinfo import ZoneInfo

import numpy as np

from june_shade.core.devices import probe as core
from june_shade.core.errors import ConflictError, JuneShadeError, NotFoundError
from june_shade.core.water import felt
from june_shade.plans import changes, clock, devices, register
from june_shade.plans.changes import Changed, What
from june_shade.plans.probes import hours
from june_shade.plans.probes.hours import HOUR, Ground, Hours
from june_shade.store import probes as store
from june_shade.store.probe_tables import ProbeNight, ProbeState, SoilProbe
from june_shade.store.session import Session
from june_shade.store.tree_tables import Tree

SILENT_AFTER = timedelta(hours=2)
"""A probe that did not answer for so long is said: an hour is all that it has to tell."""
SHOWN_HOURS, SHOWN_DAYS = 7 * 24, 14
FRESH = timedelta(hours=3)
"""What it told no longer ago than this is what it reads now."""
LOW_PERCENT = 15.0
"""A battery as low as this is changed (common practice)."""
WRONG_NIGHTS = 2
"""So many nights without a reading, one after the other, are said on Today."""


@dataclass(frozen=True, slots=True)
class ProbeShown:
    """A probe with its last hours, what its nights said, and the store that it stands in; None where its tree can't be
    planned for, or it told nothing. silent: since when it does not answer; wetness: of the last reading, as a share of
    available water; trouble: what is wrong with it, '' where nothing is."""

    probe: SoilProbe
    tree: Tree
    state: ProbeState
    of: Ground | None
    hours: Hours | None
    nights: Sequence[ProbeNight]
    silent: datetime | None
    wetness: float | None
    trouble: str


def probe(session: Session, probe_id: UUID) -> SoilProbe:
    """A probe, or NotFoundError."""
    found = session.get(SoilProbe, probe_id)
    if found is None:
        raise NotFoundError("there is no such probe", "probe_id")
    return found


def put(session: Session, probe_id: UUID, values: dict[str, Any]) -> SoilProbe:
    """Enter a probe, or change it. Raises InputError for an address that is none."""
    tree = register.tree(session, values["tree_id"])
    changes.hold(session, [tree.site_id])
    devices.check_address(values["address"])
    row = session.get(SoilProbe, probe_id)
    if row is None:
        row = SoilProbe(
            id=probe_id, tree_id=tree.id, points={}, **{name: values[name] for name in ("name", "address", "store")}
        )
        session.add(row)
        session.flush()
        session.add(ProbeState(probe_id=row.id))
    elif row.tree_id != tree.id:
        raise ConflictError("stands at another tree: enter it there as a new one", "tree_id")
    else:
        register.fresh(row, values)
        if row.store != values["store"]:
            row.points = {}  # known of another soil
        row.name, row.address, row.store = values["name"], values["address"], values["store"]
    session.flush()
    changes.tell(session, Changed(tree.site_id, What.PAGE))
    session.refresh(row)
    return row


def close(session: Session, probe_id: UUID, *, closed: bool) -> SoilProbe:
    """Ask a probe no more, or again; what it read stays in the record."""
    row = probe(session, probe_id)
    tree = register.tree(session, row.tree_id)
    changes.hold(session, [tree.site_id])
    row.closed_on = clock.today(session, tree.site.timezone) if closed else None
    changes.tell(session, Changed(tree.site_id, What.PAGE))
    session.flush()
    return row


def calibrate(session: Session, probe_id: UUID, kind: str, feel: str | None) -> SoilProbe:
    """Say what is true where a probe reads now: a day after the soil was soaked (wet: it is at field capacity), or by
    what a hand feels beside it (felt). feel: for felt.

    Raises ConflictError where it told nothing lately, InputError where this lies too close to what was known.
    """
    row = probe(session, probe_id)
    tree = register.tree(session, row.tree_id)
    changes.hold(session, [tree.site_id])
    now = clock.now(session)
    of = hours.ground(session, row, tree)
    lately = hours.until(session, row, tree, of, _full(now), round(FRESH / HOUR))
    reads = float("nan") if lately is None else _latest(lately)
    if np.isnan(reads):
        raise ConflictError("it told nothing in the last three hours: ask it now, then say it again", "probe_id")
    wetness = 1.0 if kind == "wet" else felt.wetness_of(feel or "", of.medium.awc, of.medium.drainable)
    true = float(of.medium.wilting_point + wetness * of.medium.awc)
    found = {"at": now.isoformat(), "read_m3_m3": round(reads, 4), "true_m3_m3": round(true, 4), "feel": feel}
    after = {**row.points, kind: found}
    known = [(one["read_m3_m3"], one["true_m3_m3"]) for one in after.values()]
    core.calibrated(np.zeros(1), known)
    row.points = after
    changes.tell(session, Changed(tree.site_id, What.PAGE))
    session.flush()
    return row


def forget(session: Session, probe_id: UUID, kind: str) -> SoilProbe:
    """Take back what was said to be true where a probe read."""
    row = probe(session, probe_id)
    tree = register.tree(session, row.tree_id)
    changes.hold(session, [tree.site_id])
    row.points = {name: one for name, one in row.points.items() if name != kind}
    changes.tell(session, Changed(tree.site_id, What.PAGE))
    session.flush()
    return row


def _full(moment: datetime) -> datetime:
    return moment.replace(minute=0, second=0, microsecond=0)


def _latest(told: Hours) -> float:
    """What a probe reads of its store by the last hour that it told, as it told it [m3/m3]."""
    for n in range(len(told.moments) - 1, -1, -1):
        value = core.of_store(told.raw[n], told.share)
        if not np.isnan(value):
            return value
    return float("nan")


def shown(session: Session, row: SoilProbe) -> ProbeShown:
    """A probe as it is shown."""
    tree, now = register.tree(session, row.tree_id), clock.now(session)
    silent, nights, trouble = _stands(session, row, tree)
    try:
        of: Ground | None = hours.ground(session, row, tree)
    except JuneShadeError:
        of = None
    told = None if of is None else hours.until(session, row, tree, of, _full(now), SHOWN_HOURS)
    wetness = None
    last = next((one for one in reversed(nights) if one.theta_m3_m3 is not None), None)
    if of is not None and last is not None and last.theta_m3_m3 is not None:
        theta = min(last.theta_m3_m3, of.saturation_m3_m3)
        wetness = max(0.0, felt.wetness_by_probe(theta, of.medium.wilting_point, of.medium.awc, of.medium.drainable))
    return ProbeShown(row, tree, store.state(session, row.id), of, told, nights, silent, wetness, trouble)


def _stands(session: Session, row: SoilProbe, tree: Tree) -> tuple[datetime | None, Sequence[ProbeNight], str]:
    """Since when a probe does not answer, None while it does; what its nights said; what is wrong with it."""
    now, state = clock.now(session), store.state(session, row.id)
    silent = state.silent_since
    if silent is not None and now - silent < SILENT_AFTER:
        silent = None
    today = now.astimezone(ZoneInfo(tree.site.timezone)).date()
    nights = store.nights(session, row.id, today - timedelta(days=SHOWN_DAYS))
    return silent, nights, _trouble(state, nights, silent)


def _trouble(state: ProbeState, nights: Sequence[ProbeNight], silent: datetime | None) -> str:
    if silent is not None:
        return "silent"
    if state.battery_percent is not None and state.battery_percent <= LOW_PERCENT:
        return "battery"
    last = nights[-WRONG_NIGHTS:]
    if len(last) == WRONG_NIGHTS and all(one.why for one in last):
        return last[-1].why
    return ""


def is_off(state: ProbeState) -> bool:
    """Whether a probe's clock is so far off that its hours are put right by ours, and it is said."""
    return abs(state.clock_off_min) * 60 > devices.CLOCK_DOUBTED.total_seconds()


def of_tree(session: Session, tree_id: UUID) -> list[ProbeShown]:
    """A tree's probes."""
    register.tree(session, tree_id)
    return [shown(session, row) for row in store.of_tree(session, tree_id)]


@dataclass(frozen=True, slots=True)
class Trouble:
    """A probe that something is wrong with: what; silent: since when it does not answer."""

    probe: SoilProbe
    tree: Tree
    silent: datetime | None
    trouble: str


def in_trouble(session: Session) -> list[Trouble]:
    """All probes that are asked and that something is wrong with; nothing is planned for it."""
    found = []
    for row in store.asked(session):
        tree = register.tree(session, row.tree_id)
        silent, _, trouble = _stands(session, row, tree)
        if trouble:
            found.append(Trouble(row, tree, silent, trouble))
    return found
