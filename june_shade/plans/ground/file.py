"""A ground plan as GeoJSON: out with everything on it; in as a look first, then stored, all or nothing."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any
from uuid import UUID, uuid5

import numpy as np
import shapely
from shapely.geometry import LineString, Point
from shapely.geometry.base import BaseGeometry

from june_shade.core.errors import InputError
from june_shade.core.ground import axes, rows
from june_shade.core.ground.things import SHAPES
from june_shade.formats import ground_geojson as formats
from june_shade.formats.ground_geojson import Feature
from june_shade.plans import changes, register
from june_shade.plans.changes import Changed, What
from june_shade.plans.ground import frame, page, placed
from june_shade.store import ground as store
from june_shade.store import trees as tree_store
from june_shade.store.session import Session
from june_shade.store.site_tables import Site, Stop
from june_shade.store.tree_tables import Tree

TREE, STOP, LINE, VALVE = "tree", "stop", "line", "valve of a line"
DRAWN = frozenset({LINE, VALVE})
"""What follows from other things: written, never read."""
LONGEST_NAME = 80
SHOWN = 20


@dataclass(frozen=True, slots=True)
class Known:
    """What a site has: its trees by tag and stops by name, in small letters; its things by id. drawn: where trees that
    nobody measured are drawn, latitude and longitude."""

    site: Site
    trees: dict[str, Tree]
    stops: dict[str, Stop]
    things: dict[UUID, tuple[str, str, dict[str, Any]]]
    drawn: dict[UUID, tuple[float, float]]


@dataclass
class Look:
    """What a file would do: trees and stops that it places, things that it brings, what is the same already, refused
    features (number from 1, why). turned: its axes are the other way round and were not turned."""

    trees: dict[UUID, tuple[float, float]] = field(default_factory=dict)
    tags: list[str] = field(default_factory=list)
    stops: dict[UUID, tuple[float, float]] = field(default_factory=dict)
    things: dict[UUID, tuple[str, str, dict[str, Any]]] = field(default_factory=dict)
    same: int = 0
    refused: list[tuple[int, str]] = field(default_factory=list)
    turned: bool = False


def write(session: Session, site_id: UUID) -> str:
    """A site's plan as GeoJSON."""
    ground = page.of_site(session, site_id)
    site = ground.site

    def at(point: tuple[float, float]) -> tuple[float, float]:
        latitude, longitude = frame.to_deg(site, point)
        return longitude, latitude

    out: list[tuple[str, dict[str, Any], dict[str, Any]]] = []
    for one in ground.trees:
        tree = one.listed.tree
        out.append((str(tree.id), formats.geometry_of(Point(at(one.at))), {
            "what": TREE, "tag": tree.tag, "place": tree.place, "common": tree.plant.common,
            "botanical": tree.plant.botanical, "stop": tree.stop.name if tree.stop else None,
            "line": tree.line.name if tree.line else None, "planted_on": str(tree.planted_on), "basis": one.basis,
        }))  # fmt: skip
    for stop, point in ground.stops:
        out.append((str(stop.id), formats.geometry_of(Point(at(point))), {"what": STOP, "name": stop.name}))
    for lies in ground.lines:
        way, line = LineString([at(point) for point in lies.way]), lies.line
        out.append((str(line.id), formats.geometry_of(way), {"what": LINE, "name": line.name}))
        valve = formats.geometry_of(Point(at(lies.valve)))
        out.append((str(uuid5(line.id, VALVE)), valve, {"what": VALVE, "name": line.name}))
    out += [(str(one.id), one.geometry, {"what": one.kind, "name": one.name}) for one in ground.features]
    return formats.write(out)


def look(session: Session, site_id: UUID, data: bytes, *, turn: bool = False) -> Look:
    """What a file would do; nothing is stored. turn: its axes are turned first.

    Raises InputError for what is no GeoJSON, or lies elsewhere whichever way its axes go.
    """
    site = register.site(session, site_id)
    features = formats.read(data)
    found = Look()
    shapes = [formats.turned(one.shape) if turn else one.shape for one in features if one.shape is not None]
    if shapes:
        middles = np.array([shapely.get_coordinates(one).mean(axis=0) for one in shapes])
        word = axes.axes(middles, site.latitude_deg, site.longitude_deg)
        if word == axes.TURNED:
            found.turned = True
            return found
        if word == axes.ELSEWHERE:
            raise InputError(
                "lies over 25\u00a0km from the site: its coordinates must be longitude and latitude in degrees "
                "(WGS 84), of this site", "file",
            )  # fmt: skip
    known = Known(
        site, {tree.tag.casefold(): tree for tree in tree_store.all_trees(session, site_id)},
        {stop.name.casefold(): stop for stop in tree_store.stops(session, [site_id])},
        {row.id: (row.kind, row.name, row.geometry) for row in store.features(session, site_id)},
        {
            tree.id: frame.to_deg(site, placed_at.at)
            for row in frame.of_site(session, site)
            for tree, placed_at in zip(row.trees, row.standing, strict=True) if placed_at.basis != rows.OWN
        },
    )  # fmt: skip
    for one in features:
        why = one.why or _take(found, known, one, turn)
        if why:
            found.refused.append((one.number + 1, why))
    return found


def _take(found: Look, known: Known, one: Feature, turn: bool) -> str:
    """Take a feature into a look; why it can't be, "" where it is."""
    assert one.shape is not None
    own = formats.turned(one.shape) if turn else one.shape
    what = str(one.properties.get("what") or one.properties.get("kind") or "").strip().casefold()
    name = str(one.properties.get("name") or "").strip()[:LONGEST_NAME].replace("\0", "")
    tag = str(one.properties.get("tag") or "").strip()
    if what in DRAWN:
        found.same += 1
        return ""
    middle = shapely.get_coordinates(own).mean(axis=0)
    at = round(float(middle[1]), 7), round(float(middle[0]), 7)
    try:
        placed.check_near(known.site, at)
    except InputError as e:
        return e.message
    if what == TREE or tag:
        tree = known.trees.get((tag or name).casefold())
        if tree is None:
            return f"no tree here is called {tag or name}" if tag or name else "has no tag"
        if own.geom_type != "Point":
            return "is no point"
        if tree.id in known.drawn and _same(known.site, known.drawn[tree.id], at):
            found.same += 1  # it comes back from where it was drawn: still nobody measured it
        elif _near(known.site, tree, at):
            found.same += 1
        else:
            found.trees[tree.id] = at
            found.tags.append(tree.tag)
        return ""
    if what == STOP:
        stop = known.stops.get(name.casefold())
        if stop is None:
            return f"no stop here is called {name}"
        if _near(known.site, stop, at):
            found.same += 1
        else:
            found.stops[stop.id] = at
        return ""
    kind = what if what in SHAPES else "other"
    geometry = formats.geometry_of(own)
    thing = _id(known.site, one, kind, name, geometry)
    if known.things.get(thing) == (kind, name, geometry):
        found.same += 1
    else:
        found.things[thing] = kind, name, geometry
    return ""


SAME_M = 0.05


def _near(site: Site, row: Tree | Stop, at: tuple[float, float]) -> bool:
    """Whether something stands there already."""
    if row.latitude_deg is None or row.longitude_deg is None:
        return False
    return _same(site, (row.latitude_deg, row.longitude_deg), at)


def _same(site: Site, one: tuple[float, float], other: tuple[float, float]) -> bool:
    """Whether two places are one [deg]."""
    (x, y), (to_x, to_y) = frame.to_m(site, *one), frame.to_m(site, *other)
    return bool(np.hypot(x - to_x, y - to_y) <= SAME_M)


def _id(site: Site, one: Feature, kind: str, name: str, geometry: dict[str, Any]) -> UUID:
    """A thing's id: its own where it is one of ours, else by what it is, so that a file brought twice makes one."""
    try:
        return UUID(one.id)
    except ValueError:
        return uuid5(site.id, f"{one.id or geometry} {kind} {name}")


def store_look(session: Session, site_id: UUID, data: bytes, *, turn: bool = False) -> Look:
    """Store what a file brings, all or nothing; brought twice it is once. Raises InputError where its axes are the
    other way round and were not turned."""
    found = look(session, site_id, data, turn=turn)
    if found.turned:
        raise InputError("has latitude and longitude the other way round: turn them", "file")
    changes.hold(session, [site_id])
    if found.trees:
        placed.put_places(session, site_id, dict(found.trees))
    for stop in _stops(session, site_id):
        if stop.id in found.stops:
            stop.latitude_deg, stop.longitude_deg = found.stops[stop.id]
    for thing, (kind, name, geometry) in found.things.items():
        placed.put_feature(session, site_id, thing, kind, name, geometry)
    changes.tell(session, Changed(site_id, What.PAGE | What.LIMITS if found.stops else What.PAGE))
    session.flush()
    return found


def _stops(session: Session, site_id: UUID) -> Sequence[Stop]:
    return tree_store.stops(session, [site_id])


def outline(geometry: dict[str, Any], site: Site) -> tuple[str, list[list[tuple[float, float]]]]:
    """A kept shape for the plan: point, line or area, and its paths in metres."""
    whole: BaseGeometry = shapely.geometry.shape(geometry)
    parts = list(getattr(whole, "geoms", [whole]))
    kind = {"Point": "point", "LineString": "line", "Polygon": "area"}[parts[0].geom_type]
    rings = [part.exterior if kind == "area" else part for part in parts]
    return kind, [[frame.to_m(site, float(y), float(x)) for x, y in shapely.get_coordinates(ring)] for ring in rings]
