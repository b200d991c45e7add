"""The headless mulch case: rings of one depth and material over obstacles; JSON in, JSON out, SI, unrounded."""

from dataclasses import dataclass
from typing import Any

import numpy as np
from shapely.geometry import Polygon

from june_shade.core.checks import Fields
from june_shade.core.mulch import order
from june_shade.core.mulch.materials import loose_l, material, materials
from june_shade.core.mulch.ring import CLEAR_GAP_M, TAPER_M, findings
from june_shade.core.mulch.spread import Rings, spread
from june_shade.formats.case_json import read_json
from june_shade.formats.pieces_json import findings as plain
from june_shade.formats.pieces_json import polygon


@dataclass(frozen=True, slots=True)
class MulchCase:
    """Rings, their settled depth and taper [m], the material, ground that has none."""

    rings: Rings
    depth_m: float
    taper_m: float
    material: str
    obstacles: tuple[Polygon, ...]


def parse(text: str | bytes) -> MulchCase:
    """A mulch case from JSON text. Raises InputError naming the dotted field."""
    case = Fields(read_json(text))
    rows = []
    for n, row in enumerate(case.list("trees")):
        fields = Fields(row, f"trees[{n}]")
        rows.append((
            fields.number("x_m"), fields.number("y_m"),
            fields.number("trunk_diameter_m", low=0, hint="metres"),
            fields.number("outer_radius_m", above=0, hint="metres"),
            fields.number("clear_gap_m", CLEAR_GAP_M, low=0, hint="metres"),
        ))  # fmt: skip
        fields.close()
    depth = case.number("depth_m", above=0, hint="metres")
    taper = case.number("taper_m", TAPER_M, above=0, hint="metres")
    kind = case.choice("material", materials())
    obstacles = tuple(polygon(v, f"obstacles[{n}]") for n, v in enumerate(case.list("obstacles", [])))
    case.close()
    return MulchCase(Rings.of(*np.array(rows).T), depth, taper, kind, obstacles)


def run(case: MulchCase) -> dict[str, Any]:
    """What the rings hold together, as plain JSON values; each finding once, of the tree that has it worst."""
    made = spread(case.rings, case.depth_m, case.taper_m, case.obstacles)
    loose = float(loose_l(material(case.material).name, made.settled_l))
    worst = findings(case.depth_m, float(np.min(case.rings.clear_gap_m)), float(np.min(case.rings.outer_radius_m)))
    return {
        "area_m2": made.area_m2,
        "settled_l": made.settled_l,
        "loose_l": loose,
        "carried": order.carried(loose) | {"yd3": loose / order.LITRES_PER_CUBIC_YARD, "m3": loose / 1000.0},
        "findings": plain(worst),
    }
