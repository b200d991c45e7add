"""A line as a whole: its trees with their layouts, what flows where, and what of it goes into the water plan."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from functools import cached_property
from typing import Any
from uuid import UUID

import numpy as np

from june_shade.core.drip import hedge, row, verdict
from june_shade.core.drip.choice import LayoutChoice, as_kept
from june_shade.core.drip.drawing import Drawing
from june_shade.core.drip.hedge import Strip
from june_shade.core.drip.layout import draw
from june_shade.core.drip.row import Lateral, RowFlow
from june_shade.core.drip.scene import Row
from june_shade.core.drip.verdict import Fed, Verdict
from june_shade.core.errors import InputError, JuneShadeError, NotFoundError
from june_shade.core.stock import balls
from june_shade.core.water import reach
from june_shade.plans import clock, soil_in_force, water, ways
from june_shade.plans.drip import gaps, measured, scenes
from june_shade.plans.drip.gaps import Gap
from june_shade.plans.drip.scenes import Outlook
from june_shade.plans.water import remembered
from june_shade.store import drip as store
from june_shade.store import trees as tree_store
from june_shade.store.drip_tables import DripLayout
from june_shade.store.session import Session
from june_shade.store.site_tables import Line
from june_shade.store.tree_tables import Tree


@dataclass(frozen=True)
class Laid:
    """One tree with a layout: stored (layout) or suggested, drawn, fed, and judged when it is asked for."""

    tree: Tree
    outlook: Outlook
    choice: LayoutChoice
    layout: DripLayout | None
    drawing: Drawing
    fed: Fed

    @cached_property
    def verdict(self) -> Verdict:
        """How it does its work."""
        scene, ahead = self.outlook.now, self.outlook.ahead_m
        return verdict.judged(self.choice, self.drawing, scene, self.fed, roots_ahead_m=ahead)


@dataclass(frozen=True, slots=True)
class LinePlan:
    """A line with its trees in the order that it passes them. left_out: trees on it that are not on emitters; gaps:
    where trees are gone; strip: the root zone of a hedge, None where it is none."""

    line: Line
    lateral: Lateral
    trees: tuple[Laid, ...]
    flow: RowFlow
    left_out: int
    gaps: tuple[Gap, ...]
    strip: Strip | None


def gaps_l_per_h(session: Session, on: Line) -> float:
    """What flows on a line where its trees are gone, for nobody's account [L/h]."""
    standing = [tree for tree in store.trees_on(session, on.id) if tree.method == "emitters"]
    if not standing or len(gaps.slots(session, on, standing)) == len(standing):
        return 0.0
    try:
        return sum(gap.flow_l_per_h for gap in plan_line(session, on.id).gaps)
    except JuneShadeError:
        return 0.0


def line(session: Session, line_id: UUID) -> Line:
    """A line, or NotFoundError."""
    found = store.line(session, line_id)
    if found is None:
        raise NotFoundError("there is no such line", "line_id")
    return found


def choice_of(layout: DripLayout) -> LayoutChoice:
    """A stored layout's measures."""
    return as_kept(layout.choice)


def plan_of(session: Session, tree: Tree) -> water.SitePlan:
    """The water plan that a tree is in. Raises NoWeatherError where none can be made."""
    return remembered.around(session, tree.site, [tree.id])


def plan_line(
    session: Session, line_id: UUID, *, instead: Mapping[UUID, LayoutChoice] | None = None, anew: bool = False,
    made: water.SitePlan | None = None,
) -> LinePlan:  # fmt: skip
    """A line as it is laid; where trees have no layout, as it should be.

    instead: other layouts for some trees, to see what they would do. anew: suggest for all, whatever lies there.
    Raises InputError where it can't be laid or has no trees on emitters.
    """
    on = line(session, line_id)
    every = store.trees_on(session, line_id)
    trees = [tree for tree in every if tree.method == "emitters"]
    if not trees:
        raise InputError("no tree on this line is on emitters", "trees")
    site = trees[0].site
    made = made or plan_of(session, trees[0])
    lateral, rows, every_place = gaps.passed(session, on, trees)
    found = soil_in_force.in_force(session, site)
    proofs = store.proofs_in_force(session, [tree.id for tree in trees])
    views = [
        scenes.outlook(made, tree, found, proofs.get(tree.id), feed_at_m=abs(lateral.offset_m), row=along)
        for tree, along in zip(trees, rows, strict=True)
    ]  # fmt: skip
    layouts = {} if anew else store.layouts_in_force(session, [tree.id for tree in trees])
    given = {tree_id: choice_of(layout) for tree_id, layout in layouts.items()} | dict(instead or {})
    choices = _choices(trees, views, lateral, given)
    now = [view.now for view in views]
    drawings = row.laid(now, choices)
    ids = [tree.id for tree in trees]
    left = gaps.of_line(
        session, on, every_place, dict(zip(ids, now, strict=True)), dict(zip(ids, choices, strict=True))
    )
    flow = row.solve(lateral, choices, drawings, [gap.place for gap in left])
    lies = {tree_id: layout for tree_id, layout in layouts.items() if given[tree_id] == choice_of(layout)}
    tests = store.catches_in_force(session, lies)
    if tests:
        fed_trees = tuple(
            measured.as_measured(fed, lies.get(tree.id), tests.get(tree.id))
            for tree, fed in zip(trees, flow.trees, strict=True)
        )
        given_l_per_h = sum(fed.flow_l_per_h for fed in fed_trees) + sum(flow.gaps_l_per_h)
        flow = replace(flow, trees=fed_trees, flow_l_per_h=given_l_per_h)
    laid = tuple(
        Laid(tree, view, choice, layouts.get(tree.id), drawing, fed)
        for tree, view, choice, drawing, fed in zip(trees, views, choices, drawings, flow.trees, strict=True)
    )
    left = gaps.flowing(left, flow.gaps_l_per_h, lateral, now)
    return LinePlan(on, lateral, laid, flow, len(every) - len(trees), tuple(left), _strip(lateral, rows, laid, left))


def _strip(lateral: Lateral, rows: Sequence[Row], laid: Sequence[Laid], left: Sequence[Gap]) -> Strip | None:
    """The root zone of a hedge as one, None where the row is none."""
    if not row.feeds_lines([one.choice for one in laid]):
        return None
    places = [(far, along.spacing_m) for far, along in zip(lateral.chainage_m, rows, strict=True)]
    usual = sum(spacing for _, spacing in places) / len(places)
    places = sorted([*places, *((gap.place.chainage_m, usual) for gap in left)])
    return hedge.strip(
        [far for far, _ in places], [spacing for _, spacing in places],
        [one.outlook.now.roots_now_m for one in laid], [one.fed.flow_l_per_h for one in laid],
        max(one.verdict.run.run_min for one in laid),
    )  # fmt: skip


def _choices(
    trees: Sequence[Tree], views: Sequence[Outlook], lateral: Lateral, given: Mapping[UUID, LayoutChoice]
) -> list[LayoutChoice]:
    """A layout for each tree: what lies there, else what goes with the others, else the best for the row."""
    if len(given) == len(trees):
        return [given[tree.id] for tree in trees]
    lines = {replace(choice, edits=()) for choice in given.values() if choice.pattern == "row_lines"}
    if len(lines) == 1:  # a hedge that grew by a tree: the lines go on past it
        (same,) = lines
        return [given.get(tree.id, same) for tree in trees]
    suggested = row.for_row([view.now for view in views], lateral, None, views[0].ahead_m)
    if given and any(choice.pattern == "row_lines" for choice in suggested):
        suggested = tuple(scenes.implied(tree, view.now.ball_radius_m) for tree, view in zip(trees, views, strict=True))
    return [given.get(tree.id, choice) for tree, choice in zip(trees, suggested, strict=True)]


def alone(session: Session, tree: Tree, choice: LayoutChoice, view: Outlook) -> tuple[Drawing, Fed, Verdict]:
    """A layout of a tree that is on no line: drawn, fed from the site's hose, judged."""
    drawing = draw(choice, view.now)
    fed = verdict.feed(drawing, choice, scenes.lone_supply(tree.site))
    layout = store.layouts_in_force(session, [tree.id]).get(tree.id)
    if layout is not None and choice_of(layout) == choice:
        fed = measured.as_measured(fed, layout, store.catches_in_force(session, [tree.id]).get(tree.id))
    return drawing, fed, verdict.judged(choice, drawing, view.now, fed, roots_ahead_m=view.ahead_m)


def figures_of(
    tree: Tree, choice: LayoutChoice, drawing: Drawing, fed: Fed, found: Verdict, today: date
) -> dict[str, Any]:  # fmt: skip
    """What the water plan goes by, as a layout's row stores it; a still layout keeps its nominal flow and says so."""
    flow = found.figures.flow_l_per_h
    radius = balls.radius_m(tree.kind, tree.ball_diameter_m)
    places = np.array([(n.x_m, n.y_m) for n in drawing.emitters])
    profile = reach.layout_profile_m2(
        places[:, 0], places[:, 1], found.widths_m, radius, float(balls.established_radius_m(radius, tree.caliper_m))
    )
    return {
        "emitters": [[round(n.x_m, 4), round(n.y_m, 4)] for n in drawing.emitters],
        "flow_l_per_h": flow,
        "ball_share": found.figures.ball_share,
        "wetted_m2": found.figures.union_m2,
        "profile_m2": [round(area, 6) for area in profile],
        "worst_head_m": fed.worst_head_m,
        "move_on": None if found.days_to_move is None else today + timedelta(days=found.days_to_move),
        "problems": sorted({f.code for f in found.findings}),
    }


def refresh(
    session: Session, site_id: UUID, tree_ids: Sequence[UUID] | None = None, *, always: bool = True
) -> list[UUID]:
    """Compute anew what stored layouts of a site do: of these trees and of all on a line with them, or of all.

    What the layouts rest on has changed: a layout, a line's supply, a tree, the soil, a proof. Where no plan can be
    made for want of weather, the figures stay as they were. always: what they did before counts no more either; else
    it is kept until today. Returns the trees whose layouts do something else now.
    Called by plans/changes.py only.
    """
    laid = [tree for tree in store.laid_trees(session, site_id) if tree.method == "emitters"]
    if tree_ids is not None:
        asked = set(tree_ids)
        lines = {tree.line_id for tree in tree_store.trees_by_id(session, tree_ids).values()} - {None}
        laid = [tree for tree in laid if tree.id in asked or tree.line_id in lines]
    if not laid:
        return []
    try:
        made = water.plan_site(session, laid[0].site, tree_ids=[tree.id for tree in laid])
    except JuneShadeError:
        return []
    assert made is not None
    touched: list[UUID] = []
    for line_id in dict.fromkeys(tree.line_id for tree in laid if tree.line_id is not None):
        touched += _refresh_line(session, line_id, made, always)
    for tree in laid:
        if tree.line_id is None:
            touched += _refresh_alone(session, tree, made, always)
    session.flush()
    return touched


def _refresh_line(session: Session, line_id: UUID, made: water.SitePlan, always: bool) -> list[UUID]:
    on = [tree for tree in store.trees_on(session, line_id) if tree.layout_id is not None and tree.method == "emitters"]
    try:
        planned = plan_line(session, line_id, made=made)
    except JuneShadeError:
        return []
    today = clock.today(session, on[0].site.timezone)
    changed = []
    for laid in planned.trees:
        if laid.layout is not None:
            figures = figures_of(laid.tree, laid.choice, laid.drawing, laid.fed, laid.verdict, today)
            if _store(session, laid.tree, laid.layout, always, figures):
                changed.append(laid.tree.id)
    return changed


def _refresh_alone(session: Session, tree: Tree, made: water.SitePlan, always: bool) -> list[UUID]:
    layout = store.layouts_in_force(session, [tree.id]).get(tree.id)
    if layout is None:
        return []
    choice = choice_of(layout)
    try:
        view = outlook_alone(session, tree, made=made)
        drawing, fed, found = alone(session, tree, choice, view)
    except JuneShadeError:
        return []
    figures = figures_of(tree, choice, drawing, fed, found, clock.today(session, tree.site.timezone))
    return [tree.id] if _store(session, tree, layout, always, figures) else []


def beside(session: Session, tree: Tree, line: Line) -> tuple[Lateral, Row | None]:
    """The lateral of a tree's line, and the tree's place in its row; None where it is not on emitters."""
    on = [one for one in store.trees_on(session, line.id) if one.method == "emitters"]
    if tree not in on:
        return scenes.lateral_of(line, [tree], tree.site), None
    lateral, rows, _ = gaps.passed(session, line, on)
    return lateral, rows[on.index(tree)]


def outlook_alone(session: Session, tree: Tree, *, made: water.SitePlan | None = None, **changed: Any) -> Outlook:
    """Scenes of a tree that is on no line. made: a plan that it is in, where there is one."""
    found = soil_in_force.in_force(session, tree.site)
    proof = store.proofs_in_force(session, [tree.id]).get(tree.id)
    return scenes.outlook(made or plan_of(session, tree), tree, found, proof, **changed)


LANDING = ("ball_share", "wetted_m2", "profile_m2")
"""Figures of a layout that say where its water lands."""
SAME_SHARE, SAME_WETTED = 0.02, 0.05
"""A layout that lands its water otherwise by less than this is the same from one day to the next."""


def _store(session: Session, tree: Tree, layout: DripLayout, always: bool, figures: dict[str, Any]) -> bool:
    """A layout's figures as they are now; what it did until today is kept where that was so until then. True where it
    does something else."""
    if not always and layout.profile_m2 is not None:
        same_share = abs(figures["ball_share"] - layout.ball_share) <= SAME_SHARE
        if same_share and abs(figures["wetted_m2"] / layout.wetted_m2 - 1) <= SAME_WETTED:
            figures = {name: value for name, value in figures.items() if name not in LANDING}
        else:
            ways.until(session, tree, ways.way_of(tree), clock.today(session, tree.site.timezone))
    changed = {name: value for name, value in figures.items() if getattr(layout, name) != value}
    for name, value in changed.items():
        setattr(layout, name, value)
    return bool(changed)
