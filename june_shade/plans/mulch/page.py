"""What the Mulch page shows: what to do now, the ring in plan and section, what it saves, what was read of it.

Values only, in SI; words, units and drawing are the interface's.
"""

from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any
from uuid import UUID

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from june_shade.core.drip.scene import edge_along_m
from june_shade.core.errors import JuneShadeError
from june_shade.core.mulch import lay, order, ring, wasting
from june_shade.core.mulch.lay import RingChoice
from june_shade.core.mulch.look import BARK_M, LookVerdict
from june_shade.core.mulch.materials import material, suitability
from june_shade.core.mulch.saving import Saving
from june_shade.core.mulch.underlay import weeds_held_months
from june_shade.core.mulch.wasting import half_life_months
from june_shade.core.planting.fittings import ring_m
from june_shade.core.water import delivery
from june_shade.core.working import Step, worked
from june_shade.plans import clock, register, soil_in_force, yard
from june_shade.plans.drip import scenes
from june_shade.plans.drip.page import shapes
from june_shade.plans.mulch import stands
from june_shade.plans.mulch.records import Look, judge
from june_shade.plans.mulch.stands import Mulched
from june_shade.plans.water import SitePlan, again, remembered
from june_shade.plans.water.again import Ring
from june_shade.plans.water.section import section
from june_shade.store import mulch as store
from june_shade.store.session import Session
from june_shade.store.tree_tables import Tree

YEAR_DAYS = 365
LIMITS = {
    "gap_m": ring.CLEAR_GAP_M, "least_radius_m": ring.LEAST_RADIUS_M, "deepest_m": ring.DEEPEST_M,
    "full_cover_m": wasting.FULL_COVER_DEPTH_M, "ball_first_season_m": ring.BALL_FIRST_SEASON_M,
}  # fmt: skip
"""What the page says that a ring is judged by [m]."""
LEAST_DAYS = 60
"""Fewer days of weather say nothing of a season."""
VIEW_MARGIN_M = 0.3


@dataclass(frozen=True, slots=True)
class Neighbour:
    """Another tree's ring nearby: its tag, place, trunk, bare middle and outer radius [m]."""

    tag: str
    x_m: float
    y_m: float
    trunk_diameter_m: float
    bare_radius_m: float
    outer_radius_m: float


@dataclass(frozen=True, slots=True)
class Drawn:
    """The ring to scale: outlines of what is covered [(x, y)], holes too; the depth profile [(distance, depth)].

    west_m, east_m: where paving or a wall begins on either side of the section, None = nowhere.
    """

    outlines: tuple[tuple[tuple[float, float], ...], ...]
    profile: tuple[tuple[float, float], ...]
    neighbours: tuple[Neighbour, ...]
    shapes: tuple[Any, ...]
    reach_m: float
    west_m: float | None
    east_m: float | None


def tree_page(session: Session, tree_id: UUID) -> dict[str, Any]:
    """The Mulch page as stored."""
    return _page(session, register.tree(session, tree_id), None)


def tree_look(session: Session, tree_id: UUID, choice: RingChoice) -> dict[str, Any]:
    """The Mulch page with measures that nobody accepted yet."""
    return _page(session, register.tree(session, tree_id), choice)


def tree_saving(session: Session, tree_id: UUID, choice: RingChoice) -> tuple[Saving, tuple[Step, ...]] | None:
    """What a ring saves over the weather of the past year, with its working: a year is gone through, so it is asked
    for by itself. None where too little is known."""
    tree = register.tree(session, tree_id)
    made = _plan(session, tree)
    return _saving(made, tree, choice) if made else None


def look_at(session: Session, tree_id: UUID, look: Look) -> tuple[LookVerdict, float]:
    """What a look at a ring would say, and the loose litres that it calls for; nothing is stored."""
    tree = register.tree(session, tree_id)
    today = clock.today(session, tree.site.timezone)
    choice, _ = stands.choice_of(tree, soil_in_force.in_force(session, tree.site).soil)
    found = judge(tree, look, choice.depth_m, today)
    one = stands.near(session, tree, today)[0]
    whole = lay.lay(choice, one.stand)
    share = sum(found.missing_m) / len(found.missing_m) / choice.depth_m
    return found, float(whole.full_settled_l * share / (1.0 - material(choice.material).settling))


def _page(session: Session, tree: Tree, asked: RingChoice | None) -> dict[str, Any]:
    today = clock.today(session, tree.site.timezone)
    group = stands.near(session, tree, today)
    here = group[0]
    choice = asked or here.choice
    laid = lay.lay_all([choice, *(m.choice for m in group[1:])], [m.stand for m in group])[0]
    entries = store.entries_of(session, tree.id)
    newest = next((e for e in entries if e.withdrawn_at is None), None)
    under = newest_underlay(entries)
    on_hand = yard.on_hand(session).get(choice.material, 0.0)
    made = _plan(session, tree)
    return {
        "tree": tree, "today": today, "section": section(made, made.index_of(tree.id)) if made else None,
        "edging_wanted_m": _edging_wanted_m(tree),
        "has_ring": tree.mulch_material is not None, "due": here.due, "choice": choice,
        "suggested": here.suggested and asked is None,
        "depth_now_m": here.depth_now_m,
        "half_life_months": half_life_months(stands.wasting_years(tree)) if tree.mulch_material else None,
        "measured": tree.mulch_wasting_years is not None,
        "thin_on": stands.thin_on(tree) if tree.mulch_material else None, "thin_radius_m": here.stand.thin_radius_m,
        "weeds_on": under, "weeds": stands.saw_weeds(newest), "laid": laid,
        "order": order.order(laid.missing_loose_l, on_hand),
        "findings": (*laid.findings, *_as_it_lies(here)), "drawn": _drawn(tree, choice, here, group, laid.ground),
        "suitability": suitability(),
        "verdict": newest.verdict if newest is not None and newest.kind == "check" else None,
        "history": entries, "working": laid.working, "bark_m": BARK_M, "taper_m": ring.TAPER_M, "limits": LIMITS,
    }  # fmt: skip


def _edging_wanted_m(tree: Tree) -> float:
    """Diameter of the edging ring that a tree in grass lacks [m], 0 = none."""
    return ring_m(tree.plant.mature_spread_m) if tree.surround == "turf" and tree.edging_m == 0 else 0.0


def _as_it_lies(here: Mulched) -> tuple[ring.Finding, ...]:
    """What is wrong with the mulch that lies there, beside what is chosen."""
    if here.tree.mulch_material is None:
        return ()
    tree = here.tree
    known = ring.findings(here.depth_now_m, tree.mulch_clear_gap_m, tree.mulch_outer_radius_m or ring.LEAST_RADIUS_M)
    return tuple(f for f in known if f.code in ("too_deep", "too_shallow", "gap_small"))


def newest_underlay(entries: Any) -> date | None:
    """The day to which weeds are held down by the mulch laid last, None where none was laid."""
    laid = next((e for e in entries if e.kind == "laid" and e.withdrawn_at is None), None)
    return None if laid is None else laid.day + timedelta(days=round(weeds_held_months(laid.underlay) * 30.44))


def _plan(session: Session, tree: Tree) -> SitePlan | None:
    try:
        return remembered.around(session, tree.site, [tree.id])
    except JuneShadeError:
        return None


def _rings(shape: BaseGeometry) -> tuple[tuple[tuple[float, float], ...], ...]:
    found = []
    for polygon in shapely.get_parts(shape):
        if polygon.geom_type == "Polygon" and polygon.area > 1e-4:
            found += [tuple((float(x), float(y)) for x, y in r.coords) for r in (polygon.exterior, *polygon.interiors)]
    return tuple(found)


def _drawn(tree: Tree, choice: RingChoice, here: Mulched, group: list[Mulched], covered: BaseGeometry) -> Drawn:
    bare = tree.caliper_m / 2 + choice.clear_gap_m
    thin = min(here.stand.thin_radius_m, choice.outer_radius_m)
    breaks = [0.0, bare, bare + ring.TAPER_M, choice.outer_radius_m]
    if thin > 0:
        slope = bare + ring.TAPER_M * ring.BALL_FIRST_SEASON_M / choice.depth_m
        breaks += [thin - 1e-6, thin, min(slope, thin - 1e-6)]
    at = np.array(sorted(b for b in breaks if 0 <= b <= choice.outer_radius_m))
    depth = ring.depth_at_m(at, bare, choice.outer_radius_m, choice.depth_m, ring.TAPER_M, thin)
    profile = tuple((float(r), float(d)) for r, d in zip(at, depth, strict=True))
    near = tuple(
        Neighbour(
            m.tree.tag, *m.stand.at, m.tree.caliper_m, m.tree.caliper_m / 2 + m.choice.clear_gap_m,
            m.choice.outer_radius_m,
        )
        for m in group[1:]
        if np.hypot(*m.stand.at) < choice.outer_radius_m + m.choice.outer_radius_m + 1.0
    )  # fmt: skip
    reach = max(choice.outer_radius_m, here.stand.ball_radius_m) + VIEW_MARGIN_M
    obstacles = scenes.obstacles_of(tree)
    return Drawn(
        _rings(covered), profile, near, shapes(obstacles, reach), reach, edge_along_m(obstacles, 270.0),
        edge_along_m(obstacles, 90.0),
    )  # fmt: skip


def _saving(made: SitePlan, tree: Tree, choice: RingChoice) -> tuple[Saving, tuple[Step, ...]] | None:
    """What the ring saves over the weather of the past year, by the balance; None where too little is known of it."""
    i = made.index_of(tree.id)
    count = again.measured_days(made, YEAR_DAYS)
    if count < LEAST_DAYS:
        return None
    years = np.arange(count) / YEAR_DAYS
    kind = material(choice.material).wasting_years or np.inf
    depth = choice.depth_m * np.exp(-years / (tree.mulch_wasting_years or kind))
    share = np.clip(depth / wasting.FULL_COVER_DEPTH_M, 0, 1)
    gap = tree.caliper_m / 2 + choice.clear_gap_m
    how, radius = made.deliveries[i], float(made.trees.ball_radius_m[i])
    loss = float(delivery.mulch_loss_l(how, radius, choice.outer_radius_m, 1.0))
    ring_tried = Ring(np.pi * choice.outer_radius_m**2, np.pi * gap**2, share, loss)
    found_saving = again.mulched_and_bare(made, i, count, ring_tried)
    why = "daily balance; [FAO56] ch. 10: full organic mulch about halves evaporation"
    return found_saving, (
        worked("mulch.bareSeason", "Σ waterings by the balance, no ring", found_saving.without_l, "L", why,
             n=(found_saving.waterings_without, ""), days=(found_saving.days, "d")),
        worked("mulch.mulchedSeason", "Σ waterings by the balance, this ring", found_saving.with_l, "L", why,
             n=(found_saving.waterings_with, ""), days=(found_saving.days, "d")),
        worked("mulch.saved", "max(0, without − with)", found_saving.saved_l, "L", why,
             without=(found_saving.without_l, "L"), **{"with": (found_saving.with_l, "L")}),
    )  # fmt: skip
