"""Layouts on paper and in other programs: SVG to scale, GeoJSON, parts as CSV."""

import csv
import io
import json
import math
from collections.abc import Iterable, Sequence
from xml.sax.saxutils import escape, quoteattr

from shapely.geometry import Polygon, box

from june_shade.core.drip.drawing import Drawing
from june_shade.core.drip.parts import Part
from june_shade.core.drip.scene import Scene, seen
from june_shade.formats.cells import defused

METRES_PER_DEGREE = 111_195.0
"""Length of a degree of latitude on a sphere of 6371 km [m]."""
STYLE = (
    "svg{font-family:Barlow,Arial,sans-serif}.ground{fill:#D6CBB8;stroke:#10201A}.ball{fill:none;stroke:#4E3220;"
    "stroke-dasharray:6 3}.roots{fill:none;stroke:#7A4B2A;stroke-dasharray:2 3}.wet{fill:#2F7FC4;fill-opacity:.18;"
    "stroke:#084B8A}.tube{fill:none;stroke:#10201A}.emitter{fill:#084B8A}.trunk{fill:#4E3220}.ink{fill:#10201A}"
)


def parts_csv(lists: Iterable[tuple[str, Sequence[Part]]]) -> str:
    """Parts as CSV, a row a part: for which line or tree, item, size with its unit, how many or how long, spacing."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(["for", "item", "bore_mm", "emitter_l_per_h", "compensating", "spacing_m", "count", "length_m"])
    for name, parts in lists:
        for part in parts:
            built_in, tube = part.item == "inline_tube", part.item in ("tube", "inline_tube")
            writer.writerow([
                defused(name), part.item, f"{part.size:g}" if tube and part.size else "",
                f"{part.size:g}" if part.item == "emitter" else "",
                ("yes" if part.compensating else "no") if part.item == "emitter" or built_in else "",
                f"{part.spacing_m:g}" if built_in else "", part.count or "", f"{part.length_m:.2f}" if tube else "",
            ])  # fmt: skip
    return out.getvalue()


def svg(
    title: str, trees: Sequence[tuple[tuple[float, float], Drawing, Scene, Sequence[float]]],
    line: Sequence[tuple[float, float]] = (), scale: int = 20,
) -> str:  # fmt: skip
    """A drawing to scale, 1 : `scale`, in millimetres. trees: place (x, y) [m], drawing, scene, bulb widths [m].

    line: the lateral's course [(x, y)] in metres.
    """
    reach = [max(scene.roots_year_m, scene.ball_radius_m) + 0.3 for _, _, scene, _ in trees]
    xs = [x for x, _ in line] + [p[0] + side * r for (p, *_), r in zip(trees, reach, strict=True) for side in (-1, 1)]
    ys = [y for _, y in line] + [p[1] + side * r for (p, *_), r in zip(trees, reach, strict=True) for side in (-1, 1)]
    left, right, low, high = min(xs), max(xs), min(ys), max(ys)
    mm = 1000.0 / scale

    def at(x: float, y: float) -> str:
        return f"{(x - left) * mm:.2f} {(high - y) * mm:.2f}"

    def circle(kind: str, x: float, y: float, r: float) -> str:
        cx, cy = at(x, y).split()
        return f'<circle class="{kind}" cx="{cx}" cy="{cy}" r="{r * mm:.2f}"/>'

    def path(kind: str, points: Iterable[tuple[float, float]], width: float = 0.5, close: str = "") -> str:
        way = "L".join(at(x, y) for x, y in points)
        return f'<path class="{kind}" stroke-width="{width:g}" d="M{way}{close}"/>'

    body = []
    for (x, y), drawing, scene, widths in trees:
        room = (x - scene.roots_year_m - 0.3, y - scene.roots_year_m - 0.3)
        for obstacle in scene.obstacles:
            frame = _frame(room, 2 * (scene.roots_year_m + 0.3), (x, y))
            for piece in seen(obstacle, frame) if obstacle.kind != "turf" else ():
                body.append(path("ground", [(x + a, y + b) for a, b in piece.exterior.coords], 0.3, "Z"))
        for node, width in zip(drawing.emitters, widths, strict=True):
            body.append(circle("wet", x + node.x_m, y + node.y_m, width / 2))
        body.append(circle("roots", x, y, scene.roots_now_m))
        body.append(circle("roots", x, y, scene.roots_year_m))
        body.append(circle("ball", x, y, scene.ball_radius_m))
        for run in drawing.runs:
            body.append(path("tube", [(x + a, y + b) for a, b in run.path], 0.8 if run.bore_mm > 6 else 0.4))
        body.append(circle("trunk", x, y, max(0.02, scene.trunk_diameter_m / 2)))
        for number, node in enumerate(drawing.emitters, 1):
            body.append(circle("emitter", x + node.x_m, y + node.y_m, 0.018))
            cx, cy = at(x + node.x_m, y + node.y_m).split()
            body.append(
                f'<text class="ink" font-size="3" x="{float(cx) + 1.2:.2f}" y="{float(cy) - 1.2:.2f}">{number}</text>'
            )
    if line:
        body.insert(0, path("tube", line, 1.0))
    width, height = (right - left) * mm, (high - low) * mm
    foot = 12.0
    bar = (
        f'<path class="tube" stroke-width="0.5" d="M2 {height + 4:.2f}v3h{mm:.2f}v-3"/>'
        f'<text class="ink" font-size="4" x="{mm + 4:.2f}" y="{height + 7:.2f}">1 m, 1 : {scale}</text>'
        f'<path class="tube" stroke-width="0.5" d="M{width - 5:.2f} {height + 9:.2f}v-7l-1.5 3m1.5 -3l1.5 3"/>'
        f'<text class="ink" font-size="4" x="{width - 12:.2f}" y="{height + 8:.2f}">N</text>'
    )
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width:.2f}mm" height="{height + foot:.2f}mm" '
        f'viewBox="0 0 {width:.2f} {height + foot:.2f}" aria-label={quoteattr(title)}>'
        f"<title>{escape(title)}</title><style>{STYLE}</style>{''.join(body)}{bar}</svg>\n"
    )


def _frame(corner: tuple[float, float], side: float, trunk: tuple[float, float]) -> Polygon:
    """The square that is drawn round a tree, seen from its trunk."""
    x, y = corner[0] - trunk[0], corner[1] - trunk[1]
    return box(x, y, x + side, y + side)


def geojson(trees: Sequence[tuple[str, tuple[float, float], Drawing]]) -> str:
    """Emitters as points and tubes as lines where the trees stand. trees: tag, (latitude, longitude) [deg], drawing."""
    found = []
    for tag, (latitude, longitude), drawing in trees:
        stretch = math.cos(math.radians(latitude))

        def place(x: float, y: float, at=(latitude, longitude, stretch)) -> list[float]:
            lat, lon, squeeze = at
            return [round(lon + x / (METRES_PER_DEGREE * squeeze), 8), round(lat + y / METRES_PER_DEGREE, 8)]

        found.append(_feature("Point", place(0, 0), tree=tag, part="tree"))
        for number, node in enumerate(drawing.emitters, 1):
            found.append(_feature("Point", place(node.x_m, node.y_m), tree=tag, part="emitter", number=number))
        for run in drawing.runs:
            way = [place(x, y) for x, y in run.path]
            found.append(
                _feature(
                    "LineString", way, tree=tag, part=run.kind, bore_mm=run.bore_mm, length_m=round(run.length_m, 3)
                )
            )
    return json.dumps({"type": "FeatureCollection", "features": found}, separators=(",", ":")) + "\n"


def _feature(kind: str, coordinates: list, **properties: object) -> dict:
    return {"type": "Feature", "geometry": {"type": kind, "coordinates": coordinates}, "properties": properties}
