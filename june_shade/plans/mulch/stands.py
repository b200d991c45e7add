"""From stored trees to what the core lays mulch on: what lies there now, what is chosen, who stands near."""

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, replace
from datetime import date
from typing import Any
from uuid import UUID

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from june_shade.core.drip.scene import NO_MULCH, shape, toward
from june_shade.core.mulch import ring, wasting
from june_shade.core.mulch.lay import Laid, RingChoice, Stand, lay
from june_shade.core.mulch.materials import USUAL, material
from june_shade.core.mulch.wasting import DAYS_A_YEAR
from june_shade.core.soil.textures import Soil
from june_shade.core.stock import balls
from june_shade.core.weather.place import flat_m
from june_shade.plans import soil_in_force
from june_shade.plans.drip import scenes
from june_shade.store import drip as drip_store
from june_shade.store import mulch as store
from june_shade.store import trees as tree_store
from june_shade.store.mulch_tables import MulchEntry
from june_shade.store.planting_tables import Planting
from june_shade.store.session import Session
from june_shade.store.tree_tables import Tree

NEAR_M = 15.0
"""Farther away no ring touches."""


@dataclass(frozen=True, slots=True)
class Mulched:
    """One tree as mulching sees it: depth now [m], what is chosen, where it stands. suggested: nobody chose it."""

    tree: Tree
    depth_now_m: float
    choice: RingChoice
    stand: Stand
    suggested: bool

    @property
    def due(self) -> bool:
        """Whether mulch is called for: there is none, or it is thinner than full cover."""
        return self.tree.mulch_material is None or self.depth_now_m < wasting.FULL_COVER_DEPTH_M


def wasting_years(row: Any) -> float | None:
    """The time constant that a tree's mulch goes by: its own, else the material's; None = does not waste."""
    return row.mulch_wasting_years or material(row.mulch_material).wasting_years


def measured_on(row: Any) -> date:
    """The day a tree's depth is of."""
    return row.mulch_measured_on or row.opened_on


def depth_now_m(row: Any, today: date) -> float:
    """Depth of a tree's mulch, wasted away since it was measured [m]."""
    if row.mulch_material is None:
        return 0.0
    years = (today - measured_on(row)).days / DAYS_A_YEAR
    return float(wasting.wasted_depth_m(row.mulch_depth_m, years, wasting_years(row) or np.inf))


def thin_on(row: Any) -> date | None:
    """When a tree's mulch is thinner than full cover."""
    return wasting.thin_on(row.mulch_depth_m, measured_on(row), wasting_years(row))


def suggested(tree: Tree, soil: Soil, *, weeds: bool = False) -> RingChoice:
    """The ring a tree should have: what is there already decides material and width; card where weeds came through."""
    ball = balls.radius_m(tree.kind, tree.ball_diameter_m)
    crown = tree.crown_diameter_m or float(balls.crown_diameter_from_caliper_m(tree.caliper_m))
    outer = tree.mulch_outer_radius_m if tree.mulch_material else None
    return RingChoice(
        material=tree.mulch_material or USUAL,
        depth_m=ring.target_depth_m(soil.drains, tree.microclimate),
        outer_radius_m=outer or round(ring.target_radius_m(crown / 2, ball, tree.plant.mature_spread_m / 2), 2),
        clear_gap_m=max(ring.CLEAR_GAP_M, tree.mulch_clear_gap_m),
        underlay="card" if weeds else None,
    )


def choice_of(tree: Tree, soil: Soil, newest: MulchEntry | None = None) -> tuple[RingChoice, bool]:
    """What is to be laid on a tree, and whether that is only suggested. newest: what was last laid or seen there."""
    usual = suggested(tree, soil, weeds=saw_weeds(newest))
    if tree.mulch_choice is None:
        return usual, True
    return replace(usual, **{k: v for k, v in tree.mulch_choice.items() if k in asdict(usual)}), False


def first_ring(session: Session, row: Planting) -> Laid:
    """The ring that a tree of a planting gets once it stands."""
    soil = soil_in_force.in_force(session, row.site).soil
    ball = balls.radius_m(row.kind, row.ball_diameter_m)
    crown = float(balls.crown_diameter_from_caliper_m(row.caliper_m))
    choice = RingChoice(
        USUAL, ring.target_depth_m(soil.drains, row.microclimate),
        round(ring.target_radius_m(crown / 2, ball, row.plant.mature_spread_m / 2), 2), ring.CLEAR_GAP_M,
    )  # fmt: skip
    return lay(choice, Stand(row.caliper_m, ball, ring.thin_radius_m(row.kind, ball, 0), taken=taken_by(row)))


def saw_weeds(newest: MulchEntry | None) -> bool:
    """Whether weeds had come through when a ring was last looked at, and nothing was laid since."""
    return newest is not None and bool((newest.readings or {}).get("weeds"))


def readings_now_m(tree: Tree, newest: MulchEntry | None, today: date) -> tuple[float, ...]:
    """What lies there now, side by side where the last look read it so, else one depth [m]."""
    now = depth_now_m(tree, today)
    if newest is None or newest.readings is None or newest.day != tree.mulch_measured_on or newest.depth_m <= 0:
        return (now,)
    return tuple(depth * now / newest.depth_m for depth in newest.readings["depths_m"])


def taken_by(tree: Any, at: tuple[float, float] = (0.0, 0.0)) -> BaseGeometry | None:
    """Ground beside a tree that its ring can't have, None = nothing."""
    shapes = [shape(o) for o in scenes.obstacles_of(tree) if o.kind in NO_MULCH]
    if not shapes:
        return None
    return shapely.transform(shapely.union_all(shapes), lambda xy: xy + np.asarray(at))


def mulched(
    tree: Tree, soil: Soil, today: date, newest: MulchEntry | None, at: tuple[float, float] = (0.0, 0.0)
) -> Mulched:
    """A stored tree as mulching sees it."""
    choice, only_suggested = choice_of(tree, soil, newest)
    ball = balls.radius_m(tree.kind, tree.ball_diameter_m)
    thin = ring.thin_radius_m(tree.kind, ball, (today - tree.planted_on).days)
    known = tree.mulch_outer_radius_m if tree.mulch_material else None
    stand = Stand(tree.caliper_m, ball, thin, readings_now_m(tree, newest, today), known, taken_by(tree, at), at)
    return Mulched(tree, depth_now_m(tree, today), choice, stand, only_suggested)


def frames(session: Session, trees: Sequence[Tree]) -> list[list[tuple[Tree, tuple[float, float]]]]:
    """Trees that may stand near each other, with their places [m] in a frame of their own; lone ones each alone.

    Places come from a line's spacing and bearing, else from coordinates.
    """
    lines: dict[Any, list[Tree]] = {}
    placed: dict[Any, list[Tree]] = {}
    alone: list[list[tuple[Tree, tuple[float, float]]]] = []
    for tree in trees:
        if tree.line_id is not None and tree.line is not None and tree.line.spacing_m is not None:
            lines.setdefault(tree.line_id, []).append(tree)
        elif tree.latitude_deg is not None and tree.longitude_deg is not None:
            placed.setdefault(tree.site_id, []).append(tree)
        else:
            alone.append([(tree, (0.0, 0.0))])
    found = []
    for line_id, some in lines.items():
        order = {tree.id: n for n, tree in enumerate(drip_store.trees_on(session, line_id))}
        line = some[0].line
        spacing = (line.spacing_m if line else None) or 0.0
        bearing = (line.bearing_deg if line else None) or 0.0
        found.append([
            (tree, toward(bearing, spacing * order[tree.id])) for tree in some
        ])  # fmt: skip
    for some in placed.values():
        north, east = some[0].latitude_deg or 0.0, some[0].longitude_deg or 0.0
        found.append([
            (tree, flat_m(north, east, tree.latitude_deg or 0.0, tree.longitude_deg or 0.0)) for tree in some
        ])  # fmt: skip
    return [*found, *alone]


def of_trees(session: Session, trees: Sequence[Tree], today: date) -> list[list[Mulched]]:
    """Trees of one site as mulching sees them, those that may touch together."""
    if not trees:
        return []
    soil = soil_in_force.in_force(session, trees[0].site).soil
    entries = store.standing(session, [tree.id for tree in trees])
    return [
        [mulched(tree, soil, today, _newest(entries, tree.id), at) for tree, at in frame]
        for frame in frames(session, trees)
    ]


def _newest(entries: Mapping[UUID, Sequence[MulchEntry]], tree_id: UUID) -> MulchEntry | None:
    known = entries.get(tree_id)
    return known[-1] if known else None


def near(session: Session, tree: Tree, today: date) -> list[Mulched]:
    """A tree, first, and those that stand near it."""
    others: Sequence[Tree] = []
    if tree.line_id is not None and tree.line is not None and tree.line.spacing_m is not None:
        others = [one for one in drip_store.trees_on(session, tree.line_id) if one.id != tree.id]
    elif tree.latitude_deg is not None:
        others = [
            one for one in tree_store.all_trees(session, tree.site_id)
            if one.id != tree.id and one.latitude_deg is not None and one.line_id is None
        ]  # fmt: skip
    for group in of_trees(session, [tree, *others], today):
        here = next((m for m in group if m.tree.id == tree.id), None)
        if here is not None:
            x, y = here.stand.at
            close = [m for m in group if m is here or np.hypot(m.stand.at[0] - x, m.stand.at[1] - y) < NEAR_M]
            close.sort(key=lambda m: m is not here)
            return [_moved(m, -x, -y) for m in close]
    raise AssertionError("a tree is near itself")


def _moved(one: Mulched, dx: float, dy: float) -> Mulched:
    """The same, seen from another place."""
    x, y = one.stand.at
    taken = one.stand.taken
    if taken is not None:
        taken = shapely.transform(taken, lambda xy: xy + np.asarray((dx, dy)))
    return replace(one, stand=replace(one.stand, at=(x + dx, y + dy), taken=taken))
