"""Probes in the ground: entered, calibrated, shown, asked now."""

from math import isnan
from typing import Any
from uuid import UUID

from fastapi import APIRouter

from june_shade.api.context import Db, Reading, Retried, Sessions
from june_shade.api.schemas.probes import PointKind, ProbeClosedIn, ProbeIn, ProbeOut, ProbePointIn, ProbeTroubleOut
from june_shade.plans.probes import kept, talk
from june_shade.plans.probes.hours import Hours
from june_shade.plans.probes.kept import ProbeShown
from june_shade.plans.work import Session, reading

router = APIRouter(prefix="/api", tags=["probes"], route_class=Retried)


def _hours(told: Hours | None) -> list[dict[str, Any]]:
    if told is None:
        return []
    each = zip(told.moments, told.theta_m3_m3.tolist(), told.doubted.tolist(), strict=True)
    return [
        {"at": at, "theta": [None if isnan(one) else round(one, 4) for one in theta], "doubts": doubts}
        for at, theta, doubts in each
    ]


def _out(shown: ProbeShown) -> ProbeOut:
    row, state, of, told = shown.probe, shown.state, shown.of, shown.hours
    own = {name: getattr(row, name) for name in ("id", "tree_id", "name", "address", "store", "closed_on", "version")}
    own |= {name: getattr(state, name) for name in ("answered_at", "said", "clock_off_min", "battery_percent")}
    soil: dict[str, float | None] = {"wilting_m3_m3": None, "capacity_m3_m3": None, "saturation_m3_m3": None}
    if of is not None:
        capacity = of.medium.wilting_point + of.medium.awc
        soil = {
            "wilting_m3_m3": of.medium.wilting_point, "capacity_m3_m3": capacity,
            "saturation_m3_m3": of.saturation_m3_m3,
        }  # fmt: skip
    return ProbeOut.model_validate(own | soil | {
        "tree_tag": shown.tree.tag, "site_name": shown.tree.site.name, "timezone": shown.tree.site.timezone,
        "silent_since": shown.silent, "trouble": shown.trouble, "clock_is_off": kept.is_off(state),
        "depths_m": [] if told is None else told.depths_m,
        "in_store": [] if told is None else (told.share > 0).tolist(), "wetness": shown.wetness,
        "points": [{"kind": kind, **row.points[kind]} for kind in sorted(row.points)],
        "nights": shown.nights, "hours": _hours(told),
    })  # fmt: skip


def _one(session: Session, probe_id: UUID) -> ProbeOut:
    return _out(kept.shown(session, kept.probe(session, probe_id)))


@router.get("/probes/troubles")
def list_probe_troubles(session: Reading) -> list[ProbeTroubleOut]:
    """Probes that something is wrong with: silent, an empty battery, nights that are no readings."""
    return [
        ProbeTroubleOut(
            id=one.probe.id, tree_id=one.tree.id, tree_tag=one.tree.tag, site_id=one.tree.site_id,
            site_name=one.tree.site.name, timezone=one.tree.site.timezone, name=one.probe.name,
            silent_since=one.silent, trouble=one.trouble,  # type: ignore[arg-type]
        )
        for one in kept.in_trouble(session)
    ]  # fmt: skip


@router.get("/trees/{tree_id}/probes")
def list_tree_probes(session: Reading, tree_id: UUID) -> list[ProbeOut]:
    """A tree's probes with a week of their hours and what their nights said."""
    return [_out(one) for one in kept.of_tree(session, tree_id)]


@router.put("/probes/{probe_id}")
def put_probe(session: Db, probe_id: UUID, body: ProbeIn) -> ProbeOut:
    """Enter a probe under an id that the client chose, or change it."""
    return _out(kept.shown(session, kept.put(session, probe_id, body.model_dump())))


@router.put("/probes/{probe_id}/closed")
def put_probe_closed(session: Db, probe_id: UUID, body: ProbeClosedIn) -> ProbeOut:
    """Ask a probe no more, or again; its record stays."""
    return _out(kept.shown(session, kept.close(session, probe_id, closed=body.closed)))


@router.post("/probes/{probe_id}/ask")
def ask_probe(sessions: Sessions, probe_id: UUID) -> ProbeOut:
    """Ask a probe now what it read since; no answer is told in the answer."""
    talk.one_probe(sessions, probe_id)
    with reading(sessions) as session:
        return _one(session, probe_id)


@router.put("/probes/{probe_id}/points")
def put_probe_point(session: Db, probe_id: UUID, body: ProbePointIn) -> ProbeOut:
    """Say what is true where it reads now: its values are put right by that from now on."""
    return _out(kept.shown(session, kept.calibrate(session, probe_id, body.kind, body.feel)))


@router.delete("/probes/{probe_id}/points/{kind}")
def delete_probe_point(session: Db, probe_id: UUID, kind: PointKind) -> ProbeOut:
    """Take back what was said to be true."""
    return _out(kept.shown(session, kept.forget(session, probe_id, kind)))
