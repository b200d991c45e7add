"""What a site's ground plan shows: trees as they stand and how full they are, stops, lines, what lies beside them, the
round in its order, the picture under it."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any
from uuid import UUID

from june_shade.core.drip.scene import toward
from june_shade.core.ground import picture as pictures
from june_shade.core.ground.picture import Lies
from june_shade.core.ground.rows import Point
from june_shade.plans import clock, listing, register, rounds
from june_shade.plans.drip import page as drip
from june_shade.plans.drip import scenes
from june_shade.plans.ground import frame
from june_shade.plans.ground.frame import RowStands
from june_shade.plans.listing import Listed
from june_shade.plans.mulch import stands
from june_shade.store import ground as store
from june_shade.store import trees as tree_store
from june_shade.store.ground_tables import SiteFeature, SitePicture
from june_shade.store.session import Session
from june_shade.store.site_tables import Line, Site, Stop

BESIDE_M = 3.0
"""What stands beside a tree is drawn so far around it."""


@dataclass(frozen=True, slots=True)
class TreeStands:
    """A tree on the plan: how it stands in the water plan; where, and what that rests on; its mulch ring's radius;
    outlines of what stands beside it [(kind, points)]; its place in today's round, None = not in it."""

    listed: Listed
    at: Point
    basis: str
    mulch_radius_m: float | None
    beside: tuple[tuple[str, tuple[Point, ...]], ...]
    turn: int | None


@dataclass(frozen=True, slots=True)
class LineLies:
    """A line on the plan: its valve, and the way of its lateral past its trees."""

    line: Line
    valve: Point
    way: tuple[Point, ...]


@dataclass(frozen=True, slots=True)
class Ground:
    """A site's ground plan. stops: with their places; picture: with how it lies, None until it was placed."""

    site: Site
    today: date
    trees: tuple[TreeStands, ...]
    stops: tuple[tuple[Stop, Point], ...]
    lines: tuple[LineLies, ...]
    features: tuple[SiteFeature, ...]
    picture: SitePicture | None
    lies: Lies | None


def of_site(session: Session, site_id: UUID) -> Ground:
    """A site's ground plan."""
    site = register.site(session, site_id)
    today = clock.today(session, site.timezone)
    rows = frame.of_site(session, site)
    turns = _turns(session, site)
    shown = {one.tree.id: one for one in listing.planned(session, [tree for row in rows for tree in row.trees])}
    trees = [
        TreeStands(
            shown[tree.id], placed.at, placed.basis,
            tree.mulch_outer_radius_m if stands.depth_now_m(tree, today) > 0 else None,
            _beside(tree, placed.at), turns.get(tree.id),
        )
        for row in rows for tree, placed in zip(row.trees, row.standing, strict=True)
    ]  # fmt: skip
    row = store.picture(session, site_id)
    return Ground(
        site, today, tuple(trees), _stops(session, site), tuple(_lines(rows)),
        tuple(store.features(session, site_id)), row, lies(site, row),
    )  # fmt: skip


def lies(site: Site, row: SitePicture | None) -> Lies | None:
    """How a picture lies under the plan of its site, None until it was placed."""
    if row is None or not row.points:
        return None
    pairs = [((px, py), frame.to_m(site, latitude, longitude)) for px, py, latitude, longitude in row.points]
    return pictures.lies(pairs, row.width_px, row.height_px)


def _turns(session: Session, site: Site) -> dict[UUID, int]:
    """Which of today's trees comes when on the crew's way through the site, from 1 on."""
    found = rounds.round_of_site(session, site, rounds.given_today(session, site))["stops"]
    stops = sorted(found, key=lambda stop: (stop["position"] is None, stop["position"] or 0))
    order = [tree["id"] for stop in stops for tree in stop["trees"] if tree["next"] is not None]
    return {tree_id: n for n, tree_id in enumerate(order, 1)}


def _beside(tree: Any, at: Point) -> tuple[tuple[str, tuple[Point, ...]], ...]:
    x, y = at
    shapes = drip.shapes(scenes.obstacles_of(tree), BESIDE_M)
    return tuple((one.kind, tuple((x + east, y + north) for east, north in one.outline)) for one in shapes)


def _stops(session: Session, site: Site) -> tuple[tuple[Stop, Point], ...]:
    return tuple(
        (stop, frame.to_m(site, stop.latitude_deg, stop.longitude_deg))
        for stop in tree_store.stops(session, [site.id])
        if stop.latitude_deg is not None and stop.longitude_deg is not None
    )


def _way_deg(row: RowStands) -> float:
    """The way a row goes where its trees stand [deg]."""
    (x, y), (to_x, to_y) = row.standing[0].at, row.standing[-1].at
    same = math.hypot(to_x - x, to_y - y) < 0.01
    return row.bearing_deg if same else math.degrees(math.atan2(to_x - x, to_y - y)) % 360.0


def _lines(rows: Sequence[RowStands]) -> list[LineLies]:
    """Each line from its valve past its trees; one that passes several rows goes from row to row."""
    found: dict[UUID, LineLies] = {}
    for row in rows:
        line = row.line
        if line is None:
            continue
        side = scenes.OFFSET_M if line.offset_m is None else line.offset_m
        bearing = _way_deg(row)
        across = toward((bearing + 90.0) % 360.0, side)
        way = tuple((one.at[0] + across[0], one.at[1] + across[1]) for one in row.standing)
        if line.id in found:
            before = found[line.id]
            found[line.id] = LineLies(line, before.valve, (*before.way, *way))
            continue
        back = toward((bearing + 180.0) % 360.0, row.along_m[0] if row.along_m[0] > 0 else scenes.LEAD_M)
        valve = way[0][0] + back[0], way[0][1] + back[1]
        found[line.id] = LineLies(line, valve, (valve, *way))
    return list(found.values())
