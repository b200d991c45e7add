"""Queries on boxes at valves."""

from collections.abc import Sequence
from datetime import datetime
from uuid import UUID

from sqlalchemy import select

from june_shade.store.box_tables import BoxEvent, BoxOutlet, BoxRun, BoxState, ValveBox
from june_shade.store.session import Session
from june_shade.store.site_tables import Line

MOST_JUDGED = 200
ASKED = ("planned", "sent", "running")
"""States of a run that is not over."""


def boxes(session: Session, site_id: UUID | None = None, *, closed: bool = False) -> Sequence[ValveBox]:
    """Boxes by name: of a site, or all; closed: those that are not asked any more, too."""
    query = select(ValveBox).order_by(ValveBox.name)
    if site_id is not None:
        query = query.where(ValveBox.site_id == site_id)
    if not closed:
        query = query.where(ValveBox.closed_on.is_(None))
    return session.scalars(query).all()


def state(session: Session, box_id: UUID, *, hold: bool = False) -> BoxState:
    """How a box stands. hold: nobody else writes it until this transaction ends."""
    query = select(BoxState).where(BoxState.box_id == box_id)
    if hold:
        query = query.with_for_update().execution_options(populate_existing=True)
    return session.scalars(query).one()


def outlets(session: Session, box_id: UUID) -> Sequence[BoxOutlet]:
    """A box's outlets that a line hangs on."""
    return session.scalars(select(BoxOutlet).where(BoxOutlet.box_id == box_id).order_by(BoxOutlet.number)).all()


def outlet_of(session: Session, line_id: UUID) -> BoxOutlet | None:
    """The outlet that a line hangs on."""
    return session.scalars(select(BoxOutlet).where(BoxOutlet.line_id == line_id)).first()


def lines(session: Session, box_id: UUID) -> dict[int, Line]:
    """The line of each outlet, by its number."""
    query = select(BoxOutlet.number, Line).join(Line, Line.id == BoxOutlet.line_id).where(BoxOutlet.box_id == box_id)
    return dict(session.execute(query).tuples().all())


def relied_on(session: Session) -> Sequence[tuple[UUID, UUID, BoxState]]:
    """Site and line of each outlet of the boxes that plans go by, and how its box stands."""
    query = select(ValveBox.site_id, BoxOutlet.line_id, BoxState).join(BoxOutlet, BoxOutlet.box_id == ValveBox.id)
    query = query.join(BoxState, BoxState.box_id == ValveBox.id)
    query = query.where(ValveBox.closed_on.is_(None), BoxState.relied_on)
    return session.execute(query).tuples().all()


def open_runs(session: Session, box_id: UUID) -> Sequence[BoxRun]:
    """A box's runs that are not over, the earliest first."""
    query = select(BoxRun).where(BoxRun.box_id == box_id, BoxRun.state.in_(ASKED))
    return session.scalars(query.order_by(BoxRun.starts_at, BoxRun.number)).all()


def runs_since(session: Session, box_id: UUID, since: datetime) -> Sequence[BoxRun]:
    """A box's runs that start from a moment on, without those that were dropped before they began."""
    query = select(BoxRun).where(BoxRun.box_id == box_id, BoxRun.starts_at >= since, BoxRun.state != "dropped")
    return session.scalars(query.order_by(BoxRun.starts_at, BoxRun.number)).all()


def last_judged(session: Session, site_id: UUID) -> dict[UUID, list[BoxRun]]:
    """Runs of a site's lines that the meter judged, the newest first, by line: of boxes that are asked."""
    query = select(BoxRun).join(ValveBox, ValveBox.id == BoxRun.box_id)
    query = query.where(ValveBox.site_id == site_id, ValveBox.closed_on.is_(None), BoxRun.verdict.is_not(None))
    found: dict[UUID, list[BoxRun]] = {}
    for run in session.scalars(query.order_by(BoxRun.starts_at.desc()).limit(MOST_JUDGED)):
        found.setdefault(run.line_id, []).append(run)
    return found


def events(session: Session, box_id: UUID, since: datetime) -> Sequence[BoxEvent]:
    """What a box told from a moment on, in its order."""
    query = select(BoxEvent).where(BoxEvent.box_id == box_id, BoxEvent.at >= since)
    return session.scalars(query.order_by(BoxEvent.seq)).all()
