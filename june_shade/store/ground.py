"""Queries on ground plans."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import func, select

from june_shade.store.ground_tables import SiteFeature, SitePicture
from june_shade.store.session import Session


def features(session: Session, site_id: UUID) -> Sequence[SiteFeature]:
    """What lies at a site besides its trees, by kind and name."""
    query = select(SiteFeature).where(SiteFeature.site_id == site_id)
    return session.scalars(query.order_by(SiteFeature.kind, SiteFeature.name, SiteFeature.id)).all()


def feature_count(session: Session, site_id: UUID) -> int:
    """How many of them there are."""
    return session.scalar(select(func.count()).where(SiteFeature.site_id == site_id)) or 0


def picture(session: Session, site_id: UUID) -> SitePicture | None:
    """The picture under a site's plan."""
    shown = SitePicture.site_id == site_id, SitePicture.removed_at.is_(None)
    return session.scalars(select(SitePicture).where(*shown)).one_or_none()
