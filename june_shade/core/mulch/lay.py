"""One tree's mulch as it is chosen: what there is to lay, credited for what lies there, beside neighbours and paving.

Lengths m, areas m2, volumes L. Depth that is there is credited side by side, where it was read.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
from shapely.geometry.base import BaseGeometry

from june_shade.core.errors import InputError
from june_shade.core.mulch import underlay as sheets
from june_shade.core.mulch.materials import material
from june_shade.core.mulch.ring import DEEPEST_M, SAME_M, TAPER_M, Finding, findings, settled_volume_l
from june_shade.core.mulch.spread import Rings, Spread, circles, shares_l, spread
from june_shade.core.mulch.underlay import Underlay
from june_shade.core.units import in_m, within
from june_shade.core.working import COMMON_PRACTICE, Step, worked

LEAST_COMPOST_M, MOST_COMPOST_M = 0.0, 0.05
"""Compost under mulch: 1 to 2.5 cm in spring and autumn (common practice); over 5 weeds root in it."""
CARD_M = (1.2, 0.9)
"""A flattened box (common practice); typed by whoever has another."""


@dataclass(frozen=True, slots=True)
class RingChoice:
    """What is chosen for a ring: material, settled depth, outer radius, gap from the bark; compost under it [m].

    underlay: None, card, paper or roll; sheet_w_m, sheet_l_m: a sheet, or the roll's width. over_ball: a slit skirt
    that covers the ball; else it is left bare of it.
    """

    material: str
    depth_m: float
    outer_radius_m: float
    clear_gap_m: float
    compost_m: float = 0.0
    underlay: str | None = None
    sheet_w_m: float = CARD_M[0]
    sheet_l_m: float = CARD_M[1]
    over_ball: bool = False


@dataclass(frozen=True, slots=True)
class Stand:
    """One tree that is mulched. taken: ground its ring can't have. thin_radius_m: where it lies thin on a new ball.

    depths_m: what lies there now, one reading or one to each side, as far out as known_radius_m; None = everywhere.
    at: where it stands among its neighbours.
    """

    trunk_diameter_m: float
    ball_radius_m: float
    thin_radius_m: float = 0.0
    depths_m: tuple[float, ...] = (0.0,)
    known_radius_m: float | None = None
    taken: BaseGeometry | None = None
    at: tuple[float, float] = (0.0, 0.0)


@dataclass(frozen=True, slots=True)
class Laid:
    """What a choice comes to for one tree.

    area_m2 covered; full, missing settled and loose [L]; alone_l: settled, were there no neighbours and paving;
    compost_l loose; underlay; ground: what is covered; shared: neighbours' rings overlap; cut: paving or a wall cuts.
    """

    area_m2: float
    alone_l: float
    full_settled_l: float
    missing_settled_l: float
    missing_loose_l: float
    compost_l: float
    underlay: Underlay | None
    ground: BaseGeometry
    shared: bool
    cut: bool
    findings: tuple[Finding, ...] = ()
    working: tuple[Step, ...] = field(default_factory=tuple)

    @property
    def counted_share(self) -> float:
        """Part of what the ring would take without neighbours and paving."""
        return self.full_settled_l / self.alone_l if self.alone_l > 0 else 1.0


def check(choice: RingChoice, trunk_diameter_m: float) -> None:
    """Refuse what can't be laid, naming the field: over the ceiling, inside its own gap, compost too deep."""
    material(choice.material)
    if not 0 < choice.depth_m <= DEEPEST_M + SAME_M:
        raise InputError(
            f"must be above 0 and at most {in_m(DEEPEST_M)} settled, not {in_m(choice.depth_m)}: deeper mulch "
            "sheds water and smothers roots", "depth_m",
        )  # fmt: skip
    if choice.clear_gap_m < 0:
        raise InputError(f"must be 0 or more, not {in_m(choice.clear_gap_m)}", "clear_gap_m")
    least = trunk_diameter_m / 2 + choice.clear_gap_m
    if choice.outer_radius_m <= least:
        raise InputError(f"must reach past the bare gap round the trunk, {in_m(least)}", "outer_radius_m")
    if not LEAST_COMPOST_M <= choice.compost_m <= MOST_COMPOST_M:
        raise InputError(within(choice.compost_m, 0, MOST_COMPOST_M, "m"), "compost_m")
    if choice.underlay is not None:
        sheets.underlay(choice.underlay, 1.0, 0.0, choice.sheet_w_m, choice.sheet_l_m)


def lacking_share(depths_m: Sequence[float], target_m: float) -> float:
    """Share of a full ring that is missing 0..1, by readings evenly round it: mean of max(0, d - e)/d."""
    return float(np.mean(np.clip((target_m - np.asarray(depths_m, float)) / target_m, 0.0, 1.0)))


def rings_of(choices: Sequence[RingChoice], stands: Sequence[Stand]) -> Rings:
    """Rings of several trees where they stand."""
    return Rings.of(
        [s.at[0] for s in stands], [s.at[1] for s in stands], [s.trunk_diameter_m for s in stands],
        [c.outer_radius_m for c in choices], [c.clear_gap_m for c in choices], [s.thin_radius_m for s in stands],
    )  # fmt: skip


def lay_all(choices: Sequence[RingChoice], stands: Sequence[Stand]) -> list[Laid]:
    """Trees that stand near each other, each with its part of the mulch that covers them together.

    Trees whose rings touch share what is common to them in proportion to what each would take alone; the depth of a
    group is that of each tree's own choice over its part.
    """
    for number, (choice, stand) in enumerate(zip(choices, stands, strict=True)):
        try:
            check(choice, stand.trunk_diameter_m)
        except InputError as e:
            e.field = e.field if len(choices) == 1 else f"trees[{number}].{e.field}"
            raise
    result: list[Laid | None] = [None] * len(choices)
    for group in groups_of(choices, stands):
        for i, laid in zip(group, _lay_group([choices[i] for i in group], [stands[i] for i in group]), strict=True):
            result[i] = laid
    return [laid for laid in result if laid is not None]


def groups_of(choices: Sequence[RingChoice], stands: Sequence[Stand]) -> list[list[int]]:
    """Which trees' rings touch, directly or through others."""
    left = set(range(len(choices)))
    groups = []
    while left:
        group, edge = [], [min(left)]
        left.discard(edge[0])
        while edge:
            i = edge.pop()
            group.append(i)
            near = [j for j in left if _touch(choices[i], stands[i], choices[j], stands[j])]
            left.difference_update(near)
            edge.extend(near)
        groups.append(sorted(group))
    return groups


def _touch(one: RingChoice, here: Stand, other: RingChoice, there: Stand) -> bool:
    apart = float(np.hypot(here.at[0] - there.at[0], here.at[1] - there.at[1]))
    return apart < one.outer_radius_m + other.outer_radius_m


def _lay_group(choices: Sequence[RingChoice], stands: Sequence[Stand]) -> list[Laid]:
    rings = rings_of(choices, stands)
    own = [s.taken for s in stands]
    alone = [
        float(settled_volume_l(s.trunk_diameter_m, c.clear_gap_m, c.outer_radius_m, c.depth_m))
        for c, s in zip(choices, stands, strict=True)
    ]
    by_depth: dict[float, tuple[Spread, np.ndarray]] = {}
    for depth in {c.depth_m for c in choices}:
        whole = spread(rings, depth, own=own)
        by_depth[depth] = whole, shares_l(rings, depth, whole.settled_l)
    result = []
    for i, (choice, stand) in enumerate(zip(choices, stands, strict=True)):
        whole, parts = by_depth[choice.depth_m]
        mine = circles(*stand.at, choice.outer_radius_m)
        ground = whole.ground.intersection(mine)
        open_m2 = float(np.pi * choice.outer_radius_m**2)
        cut = stand.taken is not None and mine.difference(stand.taken).area < open_m2 - 1e-4
        area = whole.area_m2 * alone[i] / sum(alone)
        result.append(_one(choice, stand, alone[i], float(parts[i]), area, ground, len(choices) > 1, cut))
    return result


def _one(
    choice: RingChoice, stand: Stand, alone_l: float, full_l: float, area_m2: float, ground: BaseGeometry, shared: bool,
    cut: bool,
) -> Laid:  # fmt: skip
    kind = material(choice.material)
    there = 1.0 - lacking_share(stand.depths_m, choice.depth_m)
    if stand.known_radius_m is not None and stand.known_radius_m < choice.outer_radius_m:
        known = settled_volume_l(stand.trunk_diameter_m, choice.clear_gap_m, stand.known_radius_m, choice.depth_m)
        there *= float(known) / alone_l
    missing = full_l * (1.0 - there)
    loose = missing / (1.0 - kind.settling)
    compost = 1000 * area_m2 * choice.compost_m / (1.0 - material("compost").settling)
    under = None
    if choice.underlay is not None:
        inner = 0.0 if choice.over_ball else max(stand.ball_radius_m, stand.trunk_diameter_m / 2 + choice.clear_gap_m)
        bare = float(ground.intersection(circles(*stand.at, inner)).area) if inner > 0 else 0.0
        sheet_m2 = max(0.0, area_m2 - bare)
        under = sheets.underlay(choice.underlay, sheet_m2, inner, choice.sheet_w_m, choice.sheet_l_m)
    found = list(findings(min(choice.depth_m, DEEPEST_M), choice.clear_gap_m, choice.outer_radius_m))
    if cut:
        found.append(Finding("ring_cut", f"{choice.outer_radius_m:g} m reaches paving or a wall: it is cut there"))
    r0 = stand.trunk_diameter_m / 2 + choice.clear_gap_m
    working = (
        worked("mulch.r0", "r0 = trunk/2 + gap", r0, "m", COMMON_PRACTICE,
             trunk=(stand.trunk_diameter_m, "m"), gap=(choice.clear_gap_m, "m")),
        worked("mulch.full", "V = 2π d [(r2² − r1²)/2 + (r1³/3 − r0 r1²/2 + r0³/6)/(r1 − r0)]", alone_l, "L",
             "exact geometry", d=(choice.depth_m, "m"), r0=(r0, "m"), r1=(r0 + TAPER_M, "m"),
             r2=(choice.outer_radius_m, "m")),
        worked("mulch.counted", "1000 ∫ A(z) dz over the ground covered, each m² once", full_l, "L",
             "exact geometry", A=(area_m2, "m2"), thin=(stand.thin_radius_m, "m")),
        worked("mulch.missing", "V × (1 − mean of min(1, there/d), as far out as it lies)", missing, "L",
             "exact geometry", V=(full_l, "L"), d=(choice.depth_m, "m"),
             there=(float(np.mean(stand.depths_m)), "m"),
             out=(stand.known_radius_m or choice.outer_radius_m, "m")),
        worked("mulch.loose", "missing / (1 − settling)", loose, "L", kind.source,
             missing=(missing, "L"), settling=(kind.settling, "")),
    )  # fmt: skip
    return Laid(
        area_m2, alone_l, full_l, missing, loose, compost, under, ground, shared, cut, tuple(found), working
    )  # fmt: skip


def lay(choice: RingChoice, stand: Stand) -> Laid:
    """One tree on its own."""
    return lay_all([choice], [stand])[0]
