"""Queries on orders: which hold for which sites."""

from collections import defaultdict
from collections.abc import Iterable, Sequence
from datetime import date
from uuid import UUID

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from june_shade.store.limit_tables import Restriction, RestrictionSite


def standing(session: Session) -> Sequence[Restriction]:
    """All orders that were not taken back, the strictest first."""
    query = select(Restriction).where(Restriction.withdrawn_at.is_(None))
    return session.scalars(query.order_by(Restriction.stage.desc(), Restriction.name)).all()


def sites_of(session: Session) -> dict[UUID, set[UUID]]:
    """Sites that each order holds for."""
    found: dict[UUID, set[UUID]] = defaultdict(set)
    for row in session.scalars(select(RestrictionSite)):
        found[row.restriction_id].add(row.site_id)
    return found


def standing_at(session: Session, site_ids: Iterable[UUID]) -> dict[UUID, list[Restriction]]:
    """Orders that were not taken back, of each of these sites that has some, the strictest first."""
    query = (
        select(RestrictionSite.site_id, Restriction)
        .join(Restriction, Restriction.id == RestrictionSite.restriction_id)
        .where(RestrictionSite.site_id.in_(list(site_ids)), Restriction.withdrawn_at.is_(None))
        .order_by(Restriction.stage.desc(), Restriction.name)
    )
    found: dict[UUID, list[Restriction]] = defaultdict(list)
    for site_id, row in session.execute(query):
        found[site_id].append(row)
    return dict(found)


def put_sites(session: Session, restriction_id: UUID, sites: Sequence[UUID]) -> None:
    """An order holds for these sites and no others."""
    session.execute(delete(RestrictionSite).where(RestrictionSite.restriction_id == restriction_id))
    session.add_all(RestrictionSite(restriction_id=restriction_id, site_id=site_id) for site_id in sites)
    session.flush()


def of_site(session: Session, site_id: UUID, first: date, last: date) -> list[Restriction]:
    """Orders that hold for a site on any of these days."""
    query = (
        select(Restriction)
        .join(RestrictionSite, RestrictionSite.restriction_id == Restriction.id)
        .where(RestrictionSite.site_id == site_id, Restriction.withdrawn_at.is_(None))
        .where(Restriction.first_day.is_(None) | (Restriction.first_day <= last))
        .where(Restriction.last_day.is_(None) | (Restriction.last_day >= first))
        .order_by(Restriction.stage.desc(), Restriction.name)
    )
    return list(session.scalars(query))
