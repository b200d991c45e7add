"""From stored trees and lines to what the core lays out: scenes of the coming years, laterals, supplies."""

import math
from collections.abc import Sequence
from dataclasses import asdict, dataclass
from itertools import pairwise
from typing import Any
from uuid import UUID

import numpy as np

from june_shade.core.drip.choice import LayoutChoice
from june_shade.core.drip.growth import YEAR_DAYS
from june_shade.core.drip.network import Supply
from june_shade.core.drip.row import Lateral
from june_shade.core.drip.scene import SEASON_DAYS, Obstacle, Row, Scene, check
from june_shade.core.drip.verdict import REGULATED_M
from june_shade.core.errors import InputError
from june_shade.core.geometry import bulb
from june_shade.core.soil.in_force import InForce
from june_shade.core.water import delivery
from june_shade.core.water.delivery import EMITTER_RADIUS_SHARE
from june_shade.core.water.ground import ground
from june_shade.core.water.trees import reaching_all, years_of
from june_shade.plans.water import SitePlan
from june_shade.store.drip_tables import DripProof
from june_shade.store.site_tables import Line, Site
from june_shade.store.tree_tables import Tree

YEARS = 3
STATIC_M = 2 * REGULATED_M
"""Static head taken where nobody measured it: 40 psi (common practice)."""
LEAD_M = 3.0
SPACING_M = 3.0
OFFSET_M = 0.6
BORE_MM = 17.8
RESTING_PACE, LEAST_SEASON_DAYS = 0.1, 30
"""Roots rest while they grow less than this share of their best; a season is never shorter than a month."""


@dataclass(frozen=True, slots=True)
class Outlook:
    """A tree as layouts see it: scenes a year apart, the first one now, and how far roots grow each coming day [m]."""

    scenes: tuple[Scene, ...]
    ahead_m: np.ndarray
    crown_radius_m: float
    mulch_radius_m: float | None
    mulch_depth_m: float

    @property
    def now(self) -> Scene:
        """The scene of this year."""
        return self.scenes[0]


def obstacles_of(tree: Any) -> tuple[Obstacle, ...]:
    """What stands beside a stored tree."""
    return tuple(Obstacle(**values) for values in tree.obstacles or [])


def checked(obstacles: Sequence[Obstacle], trunk_diameter_m: float) -> list[dict[str, Any]]:
    """Obstacles as they are stored. Raises InputError naming the one that can't be."""
    for number, obstacle in enumerate(obstacles):
        check(obstacle, trunk_diameter_m, f"obstacles[{number}]")
    return [asdict(obstacle) for obstacle in obstacles]


def outlook(
    made: SitePlan, tree: Tree, found: InForce, proof: DripProof | None, *, feed_at_m: float | None = None,
    row: Row | None = None, volume_l: float | None = None, obstacles: tuple[Obstacle, ...] | None = None,
) -> Outlook:  # fmt: skip
    """Scenes of a tree. feed_at_m: where its lateral passes; volume_l: another watering than what refills it."""
    i = made.index_of(tree.id)
    radius, limit = float(made.plan.now.root_radius_m[i]), float(made.trees.dryness_limit[i])
    last = float(made.trees.established_radius_m[i])
    ahead = np.minimum(made.roots_ahead_m, max(0.0, last - radius))

    def grown(days: int) -> float:
        return radius + (float(ahead[min(days, len(ahead)) - 1]) if days else 0.0)

    starts = [grown(YEAR_DAYS * year) for year in range(YEARS)]
    trees = years_of(made.trees, i, YEARS)
    g = ground(trees, reaching_all(YEARS), np.array(starts))
    how = made.deliveries[i]
    net = limit * (trees.ball_taw_l + g.near_taw_l)
    gross = delivery.gross_l(net, delivery.efficiency("emitters"), 0.0, how.leaching)
    missing = net / (trees.ball_volume_l + g.near_volume_l)
    scenes = tuple(
        Scene(
            kind=tree.kind, ball_radius_m=float(trees.ball_radius_m[0]), ball_height_m=tree.ball_height_m,
            trunk_diameter_m=tree.caliper_m, roots_now_m=start,
            roots_next_m=grown(YEAR_DAYS * year + _season_days(made, year)),
            roots_year_m=grown(YEAR_DAYS * (year + 1)), root_depth_m=float(g.root_depth_m[year]),
            uptake_from_ball=float(g.uptake_from_ball[year]), conductivity_mm_h=found.soil.conductivity_mm_h,
            intake_mm_h=found.soil.intake_mm_h, 
            volume_l=volume_l or float(gross[year]),
            missing=float(missing[year]),
            arrives=delivery.efficiency("emitters") * (1.0 - how.leaching), season_days=_season_days(made, year),
            obstacles=obstacles_of(tree) if obstacles is None else obstacles, cover=tree.surround,
            rain_scarce=made.site.climate == "dry", proven_conductivity_mm_h=proven(proof),
            feed_at_m=feed_at_m, row=row,
        )
        for year, start in enumerate(starts)
    )  # fmt: skip
    mulched = tree.mulch_material is not None
    return Outlook(
        scenes, ahead, float(np.sqrt(made.trees.crown_area_m2[i] / np.pi)),
        tree.mulch_outer_radius_m if mulched else None, tree.mulch_depth_m if mulched else 0.0,
    )  # fmt: skip


def _season_days(made: SitePlan, year: int) -> int:
    """Days from now until roots rest for the winter, in a later year a whole season; at least a month."""
    if year:
        return SEASON_DAYS
    pace = np.diff(np.concatenate(([0.0], made.roots_ahead_m[:SEASON_DAYS])))
    grows = np.flatnonzero(pace > RESTING_PACE * max(float(np.max(pace)), 1e-9))
    return int(np.clip(grows[-1] + 1 if len(grows) else 0, LEAST_SEASON_DAYS, SEASON_DAYS))


def proven(proof: DripProof | None) -> float | None:
    """Conductivity that a proof found [mm/h], None without one."""
    return None if proof is None else bulb.proven_conductivity_mm_h(proof.depth_m, proof.minutes, proof.flow_l_per_h)


def implied(tree: Tree, ball_radius_m: float) -> LayoutChoice:
    """The emitters that were typed for a tree without a layout: so many on its ball."""
    return LayoutChoice(
        "on_ball", flow_l_per_h=tree.emitter_flow_l_per_h or 4.0, points=max(1, tree.emitter_count),
        radius_m=round(max(EMITTER_RADIUS_SHARE * ball_radius_m, tree.caliper_m), 3),
    )  # fmt: skip


def lone_supply(site: Site) -> Supply:
    """What feeds a tree that is on no line: the site's hose behind a regulator."""
    return Supply(STATIC_M, site.hose_flow_l_per_h, REGULATED_M)


def supply_of(line: Line, site: Site) -> Supply:
    """What feeds a line; where it was not measured, the site's hose flow and 40 psi behind a 20 psi regulator."""
    static = line.static_head_m or STATIC_M
    regulated = line.regulator_head_m or (REGULATED_M if line.static_head_m is None else None)
    return Supply(static, line.open_flow_l_per_h or site.hose_flow_l_per_h, regulated)


MEASURES = ("static_head_m", "open_flow_l_per_h", "lead_m", "spacing_m", "rise_percent", "bearing_deg", "offset_m")


def assumed(line: Line) -> tuple[str, ...]:
    """What of a line nobody measured yet, so that a usual value stands in."""
    by_tree = {"lead_m", "spacing_m", "rise_percent"} if line.lie else set()
    return tuple(name for name in MEASURES if getattr(line, name) is None and name not in by_tree)


def lateral_of(line: Line, trees: Sequence[Tree], site: Site) -> Lateral:
    """A line past its trees, each where it was measured, else as far from the one before as they stand apart, on an
    even slope. A tree that came to stand before another in the row since it was measured is not there any more."""
    if not trees:
        raise InputError("has no trees on emitters", "trees")
    lead, spacing = line.lead_m or LEAD_M, line.spacing_m or SPACING_M
    slope = (line.rise_percent or 0.0) / 100
    measured = lie_of(line)
    places: list[tuple[float, float]] = []
    for number, tree in enumerate(trees):
        far, up = places[-1] if places else (0.0, 0.0)
        known = measured.get(tree.id)
        if known is not None and known[0] > far:
            places.append(known)
            continue
        on = spacing if places else lead
        ahead = ((n, measured[one.id][0]) for n, one in enumerate(trees[number:], 1) if one.id in measured)
        n, to = next(((n, to) for n, to in ahead if to > far), (1, math.inf))
        on = min(on, (to - far) / n)
        places.append((far + on, up + slope * on))
    return Lateral(
        tuple(far for far, _ in places), tuple(up for _, up in places), line.bearing_deg or 0.0,
        OFFSET_M if line.offset_m is None else line.offset_m, line.bore_mm or BORE_MM, supply_of(line, site),
    )  # fmt: skip


def lie_of(line: Line) -> dict[UUID, tuple[float, float]]:
    """Trees of a line that were measured by themselves: metres along the row and above the valve, by tree."""
    return {UUID(one["tree_id"]): (one["along_m"], one["up_m"]) for one in line.lie}


def check_lie(line: Line, trees: Sequence[Tree]) -> None:
    """Refuse places of trees that are not on the line, or stand in another order than they are numbered in."""
    measured = lie_of(line)
    if set(measured) - {tree.id for tree in trees}:
        raise InputError("names a tree that is not on this line", "lie")
    on = [tree for tree in trees if tree.id in measured]
    for before, tree in pairwise(on):
        if measured[tree.id][0] <= measured[before.id][0]:
            raise InputError(f"{tree.tag} must stand farther from the valve than {before.tag}", "lie")


def rows_of(line: Line, lateral: Lateral) -> list[Row]:
    """Which way a line's trees go, and how far apart each stands from those on either side, in the mean."""
    usual = line.spacing_m or SPACING_M
    apart = np.diff(lateral.chainage_m)
    before, after = np.array([*apart[:1], *apart]), np.array([*apart, *apart[-1:]])
    mean = (before + after) / 2 if len(apart) else np.array([usual])
    return [Row(lateral.bearing_deg, float(spacing)) for spacing in mean]
