"""The measures of a layout as people type them, and what can't be laid; emitters and tubes as the tables know them."""

from collections.abc import Mapping
from dataclasses import dataclass, fields
from functools import cache
from typing import Any

from june_shade.core import tables
from june_shade.core.drip.scene import Scene
from june_shade.core.errors import InputError
from june_shade.core.units import in_m

PATTERNS = ("on_ball", "ring", "two_rings", "ring_arms", "row_lines")
LEAST_ARM_M = 0.15
EDITS = ("move", "add", "remove", "flow", "tee")


@dataclass(frozen=True, slots=True)
class EmitterKind:
    """How a kind of emitter answers pressure. exponent, nominal_head_m: of a plain one; least, most: of the other."""

    exponent: float
    nominal_head_m: float
    min_head_m: float
    max_head_m: float
    cv: float
    source: str


@cache
def emitter_kind(compensating: bool) -> EmitterKind:
    """The table's emitter of this kind; NaN where a figure is not of its kind."""
    wanted = "compensating" if compensating else "plain"
    row = next(row for row in tables.read("drip_emitters") if row["kind"] == wanted)
    n = tables.number
    names = ("exponent", "nominal_head_m", "min_head_m", "max_head_m", "cv")
    return EmitterKind(**{name: n(row, name) for name in names}, source=row["source"])


@cache
def bore_mm(name: str) -> float:
    """Inside diameter of a tube of the table [mm]."""
    return next(tables.number(row, "inside_diameter_mm") for row in tables.read("drip_tubes") if row["name"] == name)


@dataclass(frozen=True, slots=True)
class Edit:
    """One change of a drawing by hand. kind: of EDITS, "tee" moves one. number: of the emitter or the tee, as it is
    when the change is made; not of one that is added. x_m, y_m: east and north of the trunk, where it is put [m].
    flow_l_per_h: that it is sold as, 0 = as all others."""

    kind: str
    number: int = 0
    x_m: float = 0.0
    y_m: float = 0.0
    flow_l_per_h: float = 0.0


@dataclass(frozen=True, slots=True)
class LayoutChoice:
    """The measures of a layout as they are typed. Lengths m, bearings deg, flow L/h of one emitter.

    radius_m: of the ring, the outer one where there are two, the circle of points on the ball. points: how many on the
    ball, the inner ring, or a line beside each trunk, 0 = by spacing. spacing_m: at most so far from emitter to
    emitter. arms: how many leave the ring, to arm_reach_m from the trunk. lines, offset_m: how many along a row, how
    far from the trunks.
    feed_bearing_deg: where the feed comes from.
    bore_mm: of the wide tube. inline: emitters built into the tube. couplers: let into the ring so far. buried: under
    gravel or soil. perforated: a sheet forked through at each emitter. edits: what was changed by hand on the drawing
    that these measures make, in order.
    """

    pattern: str
    flow_l_per_h: float = 4.0
    compensating: bool = True
    spacing_m: float = 0.45
    radius_m: float = 0.3
    inner_radius_m: float = 0.0
    points: int = 0
    arms: int = 0
    arm_reach_m: float = 0.0
    lines: int = 1
    offset_m: float = 0.0
    feed_bearing_deg: float = 180.0
    bore_mm: float = 13.6
    inline: bool = False
    couplers: int = 0
    buried: bool = False
    perforated: bool = False
    edits: tuple[Edit, ...] = ()


def as_kept(values: Mapping[str, Any]) -> LayoutChoice:
    """A layout's measures from plain values by name, as they are kept; names of former times are left out."""
    known = {one.name for one in fields(LayoutChoice)}
    kept = {name: value for name, value in values.items() if name in known}
    return LayoutChoice(**kept | {"edits": tuple(Edit(**one) for one in kept.get("edits", ()))})


def check(choice: LayoutChoice, scene: Scene) -> None:
    """Refuse measures that can't be laid, naming the field."""
    if choice.pattern not in PATTERNS:
        raise InputError(f"must be one of {', '.join(PATTERNS)}, not {choice.pattern!r}", "pattern")
    for name in ("flow_l_per_h", "spacing_m", "bore_mm"):
        if not getattr(choice, name) > 0:
            raise InputError(f"must be above 0, not {getattr(choice, name):g}", name)
    trunk = scene.trunk_diameter_m / 2
    if choice.pattern != "row_lines" and choice.radius_m <= trunk:
        raise InputError(f"must be above {in_m(trunk)}: the trunk stands there", "radius_m")
    if choice.pattern == "on_ball" and choice.points < 1:
        raise InputError("must be at least 1", "points")
    if choice.pattern == "two_rings" and not trunk < choice.inner_radius_m < choice.radius_m:
        raise InputError(f"must lie between the trunk ({in_m(trunk)}) and the outer ring", "inner_radius_m")
    if choice.pattern == "ring_arms":
        if choice.arms < 1:
            raise InputError("must be at least 1", "arms")
        if choice.arm_reach_m < choice.radius_m + LEAST_ARM_M:
            raise InputError(f"must reach at least {in_m(LEAST_ARM_M)} beyond the ring", "arm_reach_m")
    if choice.pattern == "row_lines":
        if scene.row is None:
            raise InputError("lines along a row need a row: put the tree on a line with others", "pattern")
        if choice.lines not in (1, 2):
            raise InputError("must be 1 or 2", "lines")
        if choice.offset_m <= trunk:
            raise InputError(f"must be above {in_m(trunk)}: the trunks stand there", "offset_m")
