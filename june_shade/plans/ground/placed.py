"""What people place on a ground plan: trees, rows, things beside them, the picture under it."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any
from uuid import UUID

import numpy as np
import shapely

from june_shade.core.errors import ConflictError, InputError, NotFoundError
from june_shade.core.ground import picture as pictures
from june_shade.core.ground import rows, things
from june_shade.core.ground.rows import Point
from june_shade.core.ground.things import SHAPES
from june_shade.formats import ground_geojson
from june_shade.formats import picture as files
from june_shade.plans import changes, clock, register
from june_shade.plans.changes import Changed, What
from june_shade.plans.ground import frame
from june_shade.store import ground as store
from june_shade.store import pictures as picture_store
from june_shade.store import trees as tree_store
from june_shade.store.ground_tables import SiteFeature, SitePicture
from june_shade.store.picture_files import Folder
from june_shade.store.session import Session
from june_shade.store.site_tables import Site
from june_shade.store.tree_tables import Tree

MOST_FEATURES = 2000


@dataclass(frozen=True, slots=True)
class Before:
    """Where a tree stood before it was placed anew [deg], None where nobody had said."""

    tree_id: UUID
    latitude_deg: float | None
    longitude_deg: float | None


def _trees(session: Session, site: Site, tree_ids: Sequence[UUID]) -> list[Tree]:
    known = tree_store.trees_by_id(session, tree_ids)
    for n, tree_id in enumerate(tree_ids):
        if tree_id not in known or known[tree_id].site_id != site.id:
            raise NotFoundError("there is no such tree at this site", f"trees[{n}]")
    if len(set(tree_ids)) < len(tree_ids):
        raise InputError("names a tree twice", "trees")
    return [known[tree_id] for tree_id in tree_ids]


def put_row(
    session: Session, site_id: UUID, tree_ids: Sequence[UUID], first: Point, last: Point | None
) -> list[Before]:
    """Place trees in a row: the first and the last where somebody showed them, the others between, each at its part of
    the way. One tree: where first is. Returns where they stood before.

    Raises InputError for places that can't be, NotFoundError for a tree of another site.
    """
    site = register.site(session, site_id)
    trees = _trees(session, site, tree_ids)
    on = {tree.line_id for tree in trees}
    line = trees[0].line if len(on) == 1 else None
    along, bearing = frame.along(session, line, trees)
    places = rows.between(first, last, along, bearing)
    before = [Before(tree.id, tree.latitude_deg, tree.longitude_deg) for tree in trees]
    put_places(session, site_id, {tree.id: frame.to_deg(site, at) for tree, at in zip(trees, places, strict=True)})
    return before


def put_places(session: Session, site_id: UUID, places: Mapping[UUID, tuple[float, float] | None]) -> None:
    """Set where trees stand [deg]; None = nobody knows it any more."""
    site = register.site(session, site_id)
    _trees(session, site, list(places))
    changes.hold(session, [site.id])
    for tree_id, at in places.items():
        if at is not None:
            check_near(site, at)
        values = dict(zip(("latitude_deg", "longitude_deg"), at or (None, None), strict=True))
        register.change_trees(session, [tree_id], values)


def check_near(site: Site, at: tuple[float, float], field: str = "latitude_deg") -> None:
    """Refuse a place that is too far from its site to be one of it."""
    x, y = frame.to_m(site, *at)
    if x * x + y * y > rows.FARTHEST_M**2:
        raise InputError("lies over 25\u00a0km from the site", field)


def put_feature(
    session: Session, site_id: UUID, feature_id: UUID, kind: str, name: str, geometry: dict[str, Any]
) -> SiteFeature:
    """Keep a thing of a site, or change it, under an id that the client made. Raises InputError for a kind that is
    none, or where there are too many."""
    site = register.site(session, site_id)
    changes.hold(session, [site.id])
    if kind not in SHAPES:
        raise InputError(f"is none of {', '.join(SHAPES)}", "kind")
    row = session.get(SiteFeature, feature_id)
    if row is not None and row.site_id != site.id:
        raise ConflictError("another thing has this id already", "id")
    if row is None:
        if store.feature_count(session, site_id) >= MOST_FEATURES:
            raise InputError(f"a plan holds {MOST_FEATURES} things besides its trees: take some away first", "id")
        row = SiteFeature(id=feature_id, site_id=site.id, recorded_at=clock.now(session))
        session.add(row)
    row.kind, row.name, row.geometry = kind, name, geometry
    changes.tell(session, Changed(site.id, What.PAGE))
    session.flush()
    return row


def show_feature(
    session: Session, site_id: UUID, feature_id: UUID, kind: str, name: str, spots: Sequence[Point]
) -> SiteFeature:  # fmt: skip
    """Keep a thing by the spots that somebody showed on the plan [m]. Raises InputError for spots that make none, or
    that are too far away."""
    site = register.site(session, site_id)
    made = things.shown(kind, spots)
    for at in spots:
        check_near(site, frame.to_deg(site, at), "spots")
    geometry = ground_geojson.geometry_of(shapely.transform(made, lambda places: _in_deg(site, places)))
    return put_feature(session, site_id, feature_id, kind, name, geometry)


def _in_deg(site: Site, places: np.ndarray) -> np.ndarray:
    found = [frame.to_deg(site, (float(x), float(y))) for x, y in places]
    return np.array([(longitude, latitude) for latitude, longitude in found])


def remove_feature(session: Session, site_id: UUID, feature_id: UUID) -> None:
    """Take a thing off the plan; sent twice it is gone once."""
    site = register.site(session, site_id)
    changes.hold(session, [site.id])
    row = session.get(SiteFeature, feature_id)
    if row is not None and row.site_id == site.id:
        session.delete(row)
        changes.tell(session, Changed(site.id, What.PAGE))
        session.flush()


def put_picture(session: Session, folder: Folder, site_id: UUID, data: bytes) -> SitePicture:
    """Keep the picture that lies under the plan, in place of the one before; it has to be placed anew.

    Raises InputError for what is no picture.
    """
    site = register.site(session, site_id)
    made = files.ready(data)
    changes.hold(session, [site.id])
    picture_store.hold(session, alone=False)
    name = folder.put(made.jpeg)
    row = store.picture(session, site_id)
    if row is not None and row.sha256 == name:
        return row
    now = clock.now(session)
    if row is not None:
        row.removed_at = now
        session.flush()
    row = SitePicture(site_id=site.id, sha256=name, width_px=made.width_px, height_px=made.height_px, recorded_at=now)
    session.add(row)
    changes.tell(session, Changed(site.id, What.PAGE))
    session.flush()
    return row


def _picture(session: Session, site_id: UUID) -> SitePicture:
    row = store.picture(session, site_id)
    if row is None:
        raise NotFoundError("no picture lies under this plan", "site_id")
    return row


def place_picture(session: Session, site_id: UUID, points: Sequence[tuple[Point, Point]]) -> SitePicture:
    """Lay the picture by two points of it [px] and where they are on the plan [m]. Raises InputError for points that
    lie too close, or outside."""
    site = register.site(session, site_id)
    changes.hold(session, [site.id])
    row = _picture(session, site_id)
    pictures.lies(points, row.width_px, row.height_px)
    row.points = [[px, py, *frame.to_deg(site, at)] for (px, py), at in points]
    changes.tell(session, Changed(site.id, What.PAGE))
    session.flush()
    return row


def remove_picture(session: Session, site_id: UUID) -> None:
    """Take the picture off the plan; sent twice it is gone once."""
    site = register.site(session, site_id)
    changes.hold(session, [site.id])
    row = store.picture(session, site_id)
    if row is not None:
        row.removed_at = clock.now(session)
        changes.tell(session, Changed(site.id, What.PAGE))
        session.flush()


def picture_file(session: Session, folder: Folder, site_id: UUID) -> tuple[str, bytes]:
    """The name and the file of the picture under a plan, or NotFoundError."""
    row = _picture(session, site_id)
    data = folder.get(row.sha256)
    if data is None:
        raise NotFoundError("the file of this picture is missing: it was not in the backup, or was removed", "file")
    return row.sha256, data
