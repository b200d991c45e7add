"""The demo's ground plans: rows where they stand, a cemetery's plan under its trees, things beside them (invented)."""

import cmath
import io
import math
from typing import Any
from uuid import UUID

from PIL import Image, ImageDraw, ImageFont

from june_shade.demo import scenario
from june_shade.plans import register
from june_shade.plans.ground import frame, placed
from june_shade.plans.pictures import Folder
from june_shade.plans.work import Session, SessionMaker, transaction
from june_shade.store import ground as store
from june_shade.store import trees as tree_store
from june_shade.store.site_tables import Site

Point = tuple[float, float]
CEMETERY = scenario.name_id("site", "SO")
ROWS: dict[tuple[str, str], tuple[Point, Point]] = {
    ("SO", "North wall"): ((0.0, 0.0), (72.0, 5.0)), ("SO", "Lantern Street"): ((22.0, 4.0), (34.0, -52.0)),
    ("HL", "Hobb Lane gate"): ((0.0, 0.0), (74.0, -6.0)), ("HL", "Bus loop"): ((0.0, 0.0), (26.0, 18.0)),
    ("HL", "Ball field fence"): ((0.0, 0.0), (8.0, 42.0)), ("TS", "North median"): ((0.0, 0.0), (4.0, -88.0)),
    ("TS", "South median"): ((0.0, 0.0), (2.0, -34.0)),
}  # fmt: skip
"""From a stop's own place to the first and the last of its trees, east and north [m]."""
M_PER_PX, TURNED_DEG, SHEET_PX = 0.3, 4.0, (1100, 720)
PAPER, INK, PALE = (250, 247, 236), (60, 60, 56), (205, 200, 184)


def fill(sessions: SessionMaker, folder: Folder) -> None:
    """Place the demo's rows, and lay the cemetery's plan, where that was not done."""
    with transaction(sessions) as session:
        if store.features(session, CEMETERY):
            return
        for (prefix, name), (first, last) in ROWS.items():
            site = register.site(session, scenario.name_id("site", prefix))
            begins = _stop(session, site, name)
            trees = [tree for tree in tree_store.all_trees(session, site.id) if tree.stop and tree.stop.name == name]
            if begins is not None and trees:
                ends = [(begins[0] + x, begins[1] + y) for x, y in (first, last)]
                placed.put_row(session, site.id, [tree.id for tree in trees], ends[0], ends[1])
        site = register.site(session, CEMETERY)
        wall = _stop(session, site, "North wall")
        if wall is None:
            return
        for name, kind, shape, paths in _things(wall):
            geometry = {"type": shape, "coordinates": _degrees(site, shape, paths)}
            placed.put_feature(session, site.id, _id(name), kind, name, geometry)
        placed.put_picture(session, folder, site.id, _sheet())
        corner = (wall[0] - 24.0, wall[1] + 100.0)
        points = [(pixel, _ground(corner, pixel)) for pixel in ((120.0, 520.0), (980.0, 160.0))]
        placed.place_picture(session, site.id, points)


def _id(name: str) -> UUID:
    return scenario.name_id("thing", "SO", name)


def _stop(session: Session, site: Site, name: str) -> Point | None:
    for stop in tree_store.stops(session, [site.id]):
        if stop.name == name and stop.latitude_deg is not None and stop.longitude_deg is not None:
            return frame.to_m(site, stop.latitude_deg, stop.longitude_deg)
    return None


def _things(wall: Point) -> list[tuple[str, str, str, list[Point]]]:
    """What lies at the cemetery: name, kind, shape, points [m]."""
    x, y = wall
    return [
        ("North wall", "wall", "LineString", [(x - 12, y + 5), (x + 82, y + 11)]),
        ("Gravel walk", "path", "LineString", [(x - 10, y - 8), (x + 90, y - 2), (x + 212, y + 44)]),
        ("Well house", "building", "Polygon", [(x + 84, y + 2), (x + 92, y + 3), (x + 91, y + 10), (x + 83, y + 9)]),
        ("East gate hydrant", "hydrant", "Point", [(x - 14, y - 4)]),
        ("East gate", "gate", "Point", [(x - 18, y + 3)]),
    ]


def _degrees(site: Site, shape: str, points: list[Point]) -> Any:
    placed_deg = [frame.to_deg(site, point) for point in points]
    turned = [[longitude, latitude] for latitude, longitude in placed_deg]
    return turned[0] if shape == "Point" else [[*turned, turned[0]]] if shape == "Polygon" else turned


def _ground(corner: Point, pixel: Point) -> Point:
    """Where a point of the sheet is on the ground. corner: of its upper left corner [m]."""
    turn = complex(*corner)
    found = turn + complex(pixel[0], -pixel[1]) * M_PER_PX * _turning()
    return found.real, found.imag


def _turning() -> complex:
    return cmath.exp(complex(0, -math.radians(TURNED_DEG)))


def _sheet() -> bytes:
    """A plan as a client has it: walls, walks, plots, drawn by hand and scanned a little askew."""
    image = Image.new("RGB", SHEET_PX, PAPER)
    draw = ImageDraw.Draw(image)
    turning = _turning()

    def at(x: float, y: float) -> Point:
        """Metres east and north of the wall's stop, as a pixel."""
        pixel = (complex(x + 24.0, y - 100.0) / turning) / M_PER_PX
        return pixel.real, -pixel.imag

    def line(points: list[Point], width: int = 3, fill: tuple[int, int, int] = INK) -> None:
        draw.line([at(*point) for point in points], fill=fill, width=width, joint="curve")

    for row in range(5):
        for n in range(34):
            x, y = 4.0 + 5.6 * n, -18.0 - 8.0 * row + 0.17 * n
            line([(x, y), (x + 3.4, y + 0.1), (x + 3.4, y + 2.0), (x, y + 1.9), (x, y)], 1, PALE)
    line([(-12, 5), (82, 11), (206, 58)], 6)
    line([(-10, -8), (90, -2), (212, 44)], 10, PALE)
    line([(-10, -62), (222, -48)], 10, PALE)
    line([(84, 2), (92, 3), (91, 10), (83, 9), (84, 2)], 3)
    line([(216, 92), (238, -72)], 4)
    line([(228, 94), (250, -70)], 4)
    for words, place in (("SAINT ORRIN", (70.0, 78.0)), ("north edge, 1 in = 60 ft", (70.0, 62.0)),
                         ("well house", (94.0, 12.0)), ("plots 1-170", (80.0, -38.0)),
                         ("Lantern St", (224.0, -20.0))):  # fmt: skip
        size = 34 if words.isupper() else 20
        draw.text(at(*place), words, fill=INK, font=ImageFont.load_default(size))
    out = io.BytesIO()
    image.save(out, "PNG")
    return out.getvalue()
