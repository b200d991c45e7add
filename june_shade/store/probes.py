"""Queries on probes in the ground."""

from collections.abc import Sequence
from datetime import date, datetime
from uuid import UUID

from sqlalchemy import select

from june_shade.store.probe_tables import ProbeHour, ProbeNight, ProbeState, SoilProbe
from june_shade.store.session import Session
from june_shade.store.tree_tables import Tree


def asked(session: Session) -> Sequence[SoilProbe]:
    """All probes that are asked, by their trees' tags."""
    query = select(SoilProbe).join(Tree, Tree.id == SoilProbe.tree_id).where(SoilProbe.closed_on.is_(None))
    return session.scalars(query.order_by(Tree.tag, SoilProbe.name)).all()


def of_tree(session: Session, tree_id: UUID) -> Sequence[SoilProbe]:
    """A tree's probes that are asked, by name."""
    query = select(SoilProbe).where(SoilProbe.tree_id == tree_id, SoilProbe.closed_on.is_(None))
    return session.scalars(query.order_by(SoilProbe.name)).all()


def state(session: Session, probe_id: UUID, *, hold: bool = False) -> ProbeState:
    """How a probe stands. hold: nobody else writes it until this transaction ends."""
    query = select(ProbeState).where(ProbeState.probe_id == probe_id)
    if hold:
        query = query.with_for_update().execution_options(populate_existing=True)
    return session.scalars(query).one()


def hours(session: Session, probe_id: UUID, since: datetime, until: datetime) -> Sequence[ProbeHour]:
    """What a probe told of a stretch of time, in its order."""
    query = select(ProbeHour).where(ProbeHour.probe_id == probe_id, ProbeHour.at.between(since, until))
    return session.scalars(query.order_by(ProbeHour.seq)).all()


def first_and_last(session: Session, probe_id: UUID, since: datetime | None = None) -> tuple[datetime, datetime] | None:
    """When the first and the last of a probe's hours were, from a moment on; None where there are none."""
    query = select(ProbeHour.at).where(ProbeHour.probe_id == probe_id)
    if since is not None:
        query = query.where(ProbeHour.at > since)
    first = session.scalars(query.order_by(ProbeHour.at).limit(1)).first()
    last = session.scalars(query.order_by(ProbeHour.at.desc()).limit(1)).first()
    return None if first is None or last is None else (first, last)


def nights(session: Session, probe_id: UUID, since: date) -> Sequence[ProbeNight]:
    """What a probe's nights said from a day on, in their order."""
    query = select(ProbeNight).where(ProbeNight.probe_id == probe_id, ProbeNight.day >= since)
    return session.scalars(query.order_by(ProbeNight.day)).all()
