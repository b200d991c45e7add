"""The cutaway of a tree as it stands today: its ball, ring and roots, what they hold, in one word how it stands."""

from dataclasses import dataclass, replace
from datetime import date, timedelta

import numpy as np

from june_shade.core.water import reach
from june_shade.plans.mulch.stands import depth_now_m
from june_shade.plans.water import SitePlan


@dataclass(frozen=True, slots=True)
class Section:
    """Geometry and fill of the cutaway; available water None where the state is unknown.

    ring_*: the part of the ring that our water reaches, from near_from_m out to near_radius_m; far_*: the rest, which
    only rain reaches.
    reach: share of the uptake that comes from ball and near ring, 0..1.
    """

    caliper_m: float
    crown_diameter_m: float
    ball_radius_m: float
    ball_height_m: float
    kind: str
    root_radius_m: float
    ring_radius_m: float
    root_depth_m: float
    established_radius_m: float
    established_share: float
    established_on: date | None
    basin_diameter_m: float | None
    basin_depth_m: float | None
    mulch_depth_m: float
    mulch_outer_radius_m: float | None
    ball_available_l: float | None
    ball_holds_l: float
    ring_available_l: float | None
    ring_holds_l: float
    far_available_l: float | None
    far_holds_l: float
    near_from_m: float
    near_radius_m: float
    reach: float
    state: str


def _reached_m(made: SitePlan) -> tuple[np.ndarray, np.ndarray]:
    """From and to where our water reaches each tree's ring today [m]; reckoned once a plan."""
    known = made.remembered.get(("reached", 0, 0))
    if known is None:
        known = reach.reached_m(made.trees, made.reach, made.plan.now_ground)
        made.remembered["reached", 0, 0] = known
    return known


def section(made: SitePlan, i: int) -> Section:
    """The cutaway of tree i as it stands today."""
    row, trees, plan, g = made.rows[i], made.trees, made.plan, made.plan.now_ground
    radius = float(plan.now.root_radius_m[i])
    holds = float(trees.ball_taw_l[i]), float(g.near_taw_l[i]), float(g.far_taw_l[i])
    near_from_m, near_to_m = (float(edge[i]) for edge in _reached_m(made))
    return Section(
        caliper_m=row.caliper_m,
        crown_diameter_m=float(2 * np.sqrt(trees.crown_area_m2[i] / np.pi)),
        ball_radius_m=float(trees.ball_radius_m[i]),
        ball_height_m=row.ball_height_m,
        kind=row.kind,
        root_radius_m=radius,
        ring_radius_m=max(radius, float(trees.collar_radius_m[i])),
        root_depth_m=float(g.root_depth_m[i]),
        established_radius_m=float(trees.established_radius_m[i]),
        established_share=float(g.establishment[i]),
        established_on=_established_on(made, i, radius),
        basin_diameter_m=row.basin_diameter_m,
        basin_depth_m=row.basin_depth_m,
        mulch_depth_m=depth_now_m(row, made.today),
        mulch_outer_radius_m=row.mulch_outer_radius_m if row.mulch_material else None,
        ball_available_l=holds[0] - float(plan.now.ball_depletion_l[i]),
        ball_holds_l=holds[0],
        ring_available_l=holds[1] - float(plan.now.near_depletion_l[i]),
        ring_holds_l=holds[1],
        far_available_l=holds[2] - float(plan.now.far_depletion_l[i]),
        far_holds_l=holds[2],
        near_from_m=near_from_m,
        near_radius_m=near_to_m,
        reach=float(g.reach[i]),
        state=state_of(made, i),
    )


def section_ahead(made: SitePlan, i: int) -> Section:
    """The cutaway of tree i on a day to come on which it gets water: what it holds by then is not known."""
    now = section(made, i)
    return replace(now, ball_available_l=None, ring_available_l=None, far_available_l=None, state="due")


def state_of(made: SitePlan, i: int) -> str:
    """How tree i stands today, in one word of a closed list."""
    plan, today = made.plan, made.course.today
    if plan.visit[i] == today:
        return "late" if plan.late_days[i] > 0 else "due"
    if plan.due[i] == today and not made.course.poured_today[i]:
        return "waits"
    if today > 0 and plan.soggy[today - 1, i]:
        return "too_wet"
    return "ready" if plan.ready[i] == today and not made.course.poured_today[i] else "resting"


def _established_on(made: SitePlan, i: int, radius: float) -> date | None:
    """About when the roots reach the established radius, at the pace of the year's own temperatures."""
    left = float(made.trees.established_radius_m[i]) - radius
    if left <= 1e-9:
        return made.today
    days = int(np.searchsorted(made.roots_ahead_m, left))
    return made.today + timedelta(days=days) if days < len(made.roots_ahead_m) else None
