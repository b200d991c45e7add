"""Stored trees as measures see them: basin and roots, the ring that they should have, the best drip layout."""

from collections.abc import Mapping, Sequence
from datetime import timedelta
from typing import Any
from uuid import UUID

import numpy as np

from june_shade.core.drip import auto, parts
from june_shade.core.errors import JuneShadeError
from june_shade.core.mulch import lay
from june_shade.core.saving.measures import Stands
from june_shade.plans.drip import lines
from june_shade.plans.mulch import stands as rings
from june_shade.plans.water import SitePlan
from june_shade.store import log as log_store
from june_shade.store import trees as tree_store
from june_shade.store.session import Session
from june_shade.store.tree_tables import Tree

LEAST_MULCH_L = 15.0
"""Less loose mulch than this is no task of its own [L]."""
LOGGED_DAYS, NOON_H, EVENING_H = 60, 12, 18
ALIKE_M = 0.1
"""Trees whose balls and roots differ by less are laid out alike."""


def of_site(session: Session, made: SitePlan) -> list[Stands]:
    """The trees of a site's plan, in its order."""
    trees = {tree.id: tree for tree in tree_store.all_trees(session, made.site.id)}
    ordered = [trees[row.id] for row in made.rows]
    mulch, drip = _rings(session, made, ordered), _Layouts(session, made)
    late = _afternoons(session, made)
    found = []
    for i, tree in enumerate(ordered):
        laid = drip.of(i, tree) if made.deliveries[i].method not in ("emitters", "wicked") else None
        ring, ring_l = mulch.get(tree.id, (None, 0.0))
        found.append(Stands(
            method=made.deliveries[i].method, ball_radius_m=float(made.trees.ball_radius_m[i]),
            roots_m=float(made.plan.now.root_radius_m[i]), basin_diameter_m=tree.basin_diameter_m,
            on_line=made.on_a_line(i), ring=ring, ring_l=ring_l, turf_m2=_turf_m2(made, i, tree),
            afternoons=tree.id in late, **({} if laid is None else laid),
        ))  # fmt: skip
    return found


def _rings(session: Session, made: SitePlan, trees: Sequence[Tree]) -> dict[UUID, tuple[dict[str, Any], float]]:
    """The mulch that each tree should have, and the loose litres that are missing, where it is worth a barrow."""
    found = {}
    for group in rings.of_trees(session, trees, made.today):
        for one, laid in zip(group, lay.lay_all([m.choice for m in group], [m.stand for m in group]), strict=True):
            if laid.missing_loose_l >= LEAST_MULCH_L:
                found[one.tree.id] = (_ring(one), laid.missing_loose_l)
    return found


def _ring(one: rings.Mulched) -> dict[str, Any]:
    choice = one.choice
    return {
        "mulch_material": choice.material, "mulch_depth_m": choice.depth_m,
        "mulch_outer_radius_m": choice.outer_radius_m, "mulch_clear_gap_m": choice.clear_gap_m,
    }  # fmt: skip


def _turf_m2(made: SitePlan, i: int, tree: Tree) -> float:
    """Sod over a tree's roots that neither basin nor mulch covers [m2]."""
    if tree.surround != "turf":
        return 0.0
    kept = max((tree.basin_diameter_m or 0.0) / 2, tree.mulch_outer_radius_m or 0.0, made.trees.ball_radius_m[i])
    return float(np.pi * max(0.0, made.plan.now.root_radius_m[i] ** 2 - kept**2))


def _afternoons(session: Session, made: SitePlan) -> set[UUID]:
    """Trees that were mostly watered between noon and evening in the last weeks."""
    counts: dict[UUID, list[int]] = {}
    for one in log_store.water(session, made.site.id, made.today - timedelta(days=LOGGED_DAYS)):
        of = counts.setdefault(one.tree_id, [0, 0])
        of[0] += 1
        of[1] += NOON_H <= one.local_time.hour < EVENING_H
    return {tree_id for tree_id, (every, late) in counts.items() if 2 * late > every}


class _Layouts:
    """The best drip layout of trees, those of nearly the same ball and roots alike."""

    def __init__(self, session: Session, made: SitePlan) -> None:
        self._session, self._made = session, made
        self._known: dict[tuple[Any, ...], dict[str, Any] | None] = {}

    def of(self, i: int, tree: Tree) -> dict[str, Any] | None:
        """What of `Stands` the layout of tree i says, None where none can be laid."""
        key = (
            tree.kind, tree.surround, repr(tree.obstacles),
            *(round(float(size) / ALIKE_M) for size in (
                self._made.trees.ball_radius_m[i], self._made.plan.now.root_radius_m[i], tree.ball_height_m,
            )),
        )  # fmt: skip
        if key not in self._known:
            self._known[key] = self._laid(tree)
        return self._known[key]

    def _laid(self, tree: Tree) -> dict[str, Any] | None:
        try:
            view = lines.outlook_alone(self._session, tree, made=self._made)
            best = auto.for_tree(view.now, roots_ahead_m=view.ahead_m)
            if not best:
                return None
            choice = best[0].choice
            drawing, fed, found = lines.alone(self._session, tree, choice, view)
        except JuneShadeError:
            return None
        figures = lines.figures_of(tree, choice, drawing, fed, found, self._made.today)
        count = len(figures["emitters"])
        tube = sum(part.length_m for part in parts.parts_of(drawing, choice))
        fields: Mapping[str, Any] = {
            "method": "emitters", "emitter_count": count, "emitter_flow_l_per_h": choice.flow_l_per_h,
            "drip_ball_share": figures["ball_share"], "drip_profile_m2": figures["profile_m2"],
            "drip_emitters": figures["emitters"], "drip_wetted_m2": figures["wetted_m2"],
            "drip_flow_l_per_h": figures["flow_l_per_h"], "line_id": None,
        }  # fmt: skip
        return {"layout": fields, "emitters": count, "tube_m": tube}
