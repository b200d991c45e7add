"""What lies at a site besides its trees, and the picture that lies under its plan."""

from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import ForeignKey, Index, func, text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from june_shade.core.ground.things import SHAPES
from june_shade.store.base import Owned, Signed, one_of


class SiteFeature(Signed):
    """A thing at a site: its kind, its name, its shape as a GeoJSON geometry (longitude, latitude)."""

    __tablename__ = "site_feature"
    __table_args__ = (one_of("kind", SHAPES), Index("ix_site_feature_site_id", "site_id"))

    id: Mapped[UUID] = mapped_column(primary_key=True)
    site_id: Mapped[UUID] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    kind: Mapped[str]
    name: Mapped[str] = mapped_column(default="")
    geometry: Mapped[dict[str, Any]] = mapped_column(JSONB)
    recorded_at: Mapped[datetime] = mapped_column(server_default=func.now())


class SitePicture(Owned):
    """The picture under a site's plan; its file lies with the pictures of trees, and goes some days after another came
    in its place or it was taken away (removed_at). points: two of it and where they are, [[px, py, latitude,
    longitude], …], empty until somebody placed it."""

    __tablename__ = "site_picture"
    __table_args__ = (
        Index("ix_site_picture_site_id", "site_id", unique=True, postgresql_where=text("removed_at IS NULL")),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, server_default=func.gen_random_uuid())
    site_id: Mapped[UUID] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    sha256: Mapped[str]
    width_px: Mapped[int]
    height_px: Mapped[int]
    points: Mapped[list[list[float]]] = mapped_column(JSONB, default=list)
    recorded_at: Mapped[datetime] = mapped_column(server_default=func.now())
    removed_at: Mapped[datetime | None]
