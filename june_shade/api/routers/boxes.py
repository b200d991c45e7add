"""Boxes at valves: entered, shown, asked now, stopped."""

from datetime import timedelta
from uuid import UUID

from fastapi import APIRouter

from june_shade.api.context import Db, Reading, Retried, Sessions
from june_shade.api.schemas.boxes import BoxClosedIn, BoxIn, BoxOut, BoxStopIn
from june_shade.plans import register
from june_shade.plans.boxes import kept, talk
from june_shade.plans.boxes.kept import BoxShown
from june_shade.plans.records import BoxRun
from june_shade.plans.work import Session, reading

router = APIRouter(prefix="/api", tags=["boxes"], route_class=Retried)


def _run(row: BoxRun, names: dict[UUID, str]) -> dict[str, object]:
    own = {name: getattr(row, name) for name in (
        "id", "number", "line_id", "state", "starts_at", "open_min", "goes", "rest_min", "line_l_per_h", "litres",
        "over_at", "believed", "verdict", "share", "off_l_per_h",
    )}  # fmt: skip
    lasts = row.goes * row.open_min + (row.goes - 1) * row.rest_min
    return own | {
        "line_name": names.get(row.line_id, ""), "ends_at": row.starts_at + timedelta(minutes=lasts),
        "expected_l": row.line_l_per_h * row.goes * row.open_min / 60,
    }  # fmt: skip


def _out(session: Session, shown: BoxShown) -> BoxOut:
    box, names = shown.box, {line.id: line.name for line in shown.lines.values()}
    site = register.site(session, box.site_id)
    own = {name: getattr(box, name) for name in ("id", "site_id", "name", "address", "hours", "closed_on", "version")}
    own |= {
        name: getattr(shown.state, name)
        for name in ("answered_at", "said", "clock_off_min", "clock_doubted", "relied_on")
    }
    return BoxOut.model_validate(own | {
        "site_name": site.name, "timezone": site.timezone, "silent_since": shown.silent, "idle": shown.idle,
        "outlets": [
            {"number": number, "line_id": line.id, "line_name": line.name}
            for number, line in sorted(shown.lines.items())
        ],
        "runs": [_run(row, names) for row in shown.runs],
        "left": [
            {"line_id": one.line_id, "line_name": names.get(one.line_id, ""), "day": one.day, "why": one.why}
            for one in shown.left
        ],
    })  # fmt: skip


@router.get("/boxes")
def list_boxes(session: Reading) -> list[BoxOut]:
    """All boxes that are asked: what they ran in the last days and will run."""
    return [_out(session, one) for one in kept.everywhere(session)]


@router.get("/sites/{site_id}/boxes")
def list_site_boxes(session: Reading, site_id: UUID) -> list[BoxOut]:
    """A site's boxes."""
    return [_out(session, one) for one in kept.of_site(session, site_id)]


@router.put("/boxes/{box_id}")
def put_box(session: Db, box_id: UUID, body: BoxIn) -> BoxOut:
    """Enter a box under an id that the client chose, or change it."""
    values = body.model_dump(exclude={"outlets"})
    values["hours"] = [list(pair) for pair in body.hours]
    row = kept.put(session, box_id, values, {one.number: one.line_id for one in body.outlets})
    return _out(session, kept.shown(session, row))


@router.put("/boxes/{box_id}/closed")
def put_box_closed(session: Db, box_id: UUID, body: BoxClosedIn) -> BoxOut:
    """Ask a box no more, or again; its record stays."""
    return _out(session, kept.shown(session, kept.close(session, box_id, closed=body.closed)))


def _now(sessions: Sessions, box_id: UUID) -> BoxOut:
    with reading(sessions) as session:
        return _out(session, kept.shown(session, kept.box(session, box_id)))


@router.post("/boxes/{box_id}/ask")
def ask_box(sessions: Sessions, box_id: UUID) -> BoxOut:
    """Ask a box now, take in what happened, send it what is to run; no answer is told in the answer."""
    talk.one_box(sessions, box_id)
    return _now(sessions, box_id)


@router.post("/boxes/{box_id}/stop")
def stop_box(sessions: Sessions, box_id: UUID, body: BoxStopIn) -> BoxOut:
    """Stop a run of a box, under way or still to come, or all that is open: what was stopped is not run again."""
    talk.stop(sessions, box_id, body.run_id)
    return _now(sessions, box_id)
