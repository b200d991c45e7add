"""What the Drip pages show: a tree's layout now and as it grows, other patterns, tasks and parts; a whole line.

Values only, in SI; words, units and drawing are the interface's.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from typing import Any
from uuid import UUID

from june_shade.core.drip import auto, catch, explain, growth, parts, row, tasks, verdict
from june_shade.core.drip.catch import Catch, OverTrees
from june_shade.core.drip.choice import LayoutChoice
from june_shade.core.drip.drawing import Drawing, Fitting, Run
from june_shade.core.drip.judge import Finding
from june_shade.core.drip.layout import checked, draw
from june_shade.core.drip.parts import Part
from june_shade.core.drip.scene import Obstacle, Scene, seen
from june_shade.core.drip.tasks import Task
from june_shade.core.drip.verdict import Achievement, Fed, Verdict
from june_shade.core.errors import InputError, JuneShadeError
from june_shade.core.geometry.bulb import minutes_to_depth
from june_shade.core.geometry.wetting import disc
from june_shade.core.working import Step as WorkingStep
from june_shade.plans import care, clock, register
from june_shade.plans.drip import catches, lines, scenes
from june_shade.plans.drip.measured import said
from june_shade.plans.drip.scenes import Outlook
from june_shade.plans.water import SitePlan
from june_shade.plans.water.watering import next_of
from june_shade.store import drip as store
from june_shade.store.drip_tables import DripCatch
from june_shade.store.session import Session
from june_shade.store.site_tables import Line
from june_shade.store.tree_tables import Tree

VIEW_MARGIN_M = 0.25


@dataclass(frozen=True, slots=True)
class Dripper:
    """One emitter: its number, place, bulb, what it gives and with how much head, what it is sold as,
    whether it was put there by hand."""

    number: int
    x_m: float
    y_m: float
    width_m: float
    depth_m: float
    flow_l_per_h: float
    head_m: float
    sold_as_l_per_h: float
    by_hand: bool


@dataclass(frozen=True, slots=True)
class Shape:
    """Something beside the tree as far as the drawing goes: its kind and outline [(x, y)]."""

    kind: str
    outline: tuple[tuple[float, float], ...]
    distance_m: float
    bearing_deg: float


@dataclass(frozen=True, slots=True)
class Look:
    """A layout drawn and judged. reach_m: half the side of a square that shows all of it."""

    choice: LayoutChoice
    year: int
    day: date
    scene: Scene
    reach_m: float
    emitters: tuple[Dripper, ...]
    runs: tuple[Run, ...]
    fittings: tuple[Fitting, ...]
    shapes: tuple[Shape, ...]
    cut: bool
    skipped_arms: int
    achievements: tuple[Achievement, ...]
    findings: tuple[Finding, ...]
    verdict: Verdict
    move_on: date | None
    proof_min: float
    parts: tuple[Part, ...]
    working: tuple[WorkingStep, ...]


@dataclass(frozen=True, slots=True)
class Grown:
    """A step of growth: the look of that year, what is done to get there, what is new to bring."""

    look: Look
    changes: tuple[growth.Move, ...]
    new_parts: tuple[Part, ...]


@dataclass(frozen=True, slots=True)
class Dated:
    """A task with its day."""

    task: Task
    day: date


def look(
    choice: LayoutChoice,
    drawing: Drawing,
    scene: Scene,
    fed: Fed,
    found: Verdict,
    view: Outlook,
    today: date,
    year: int = 0,
) -> Look:
    """A layout as it is shown."""
    nodes = drawing.emitters
    drippers = tuple(
        Dripper(n + 1, node.x_m, node.y_m, w, z, q, h, node.flow_l_per_h or choice.flow_l_per_h, node.by_hand)
        for n, (node, w, z, q, h) in enumerate(
            zip(nodes, found.widths_m, found.depths_m, fed.emitter_l_per_h, fed.emitter_head_m, strict=True)
        )
    )
    far = max(found.figures.reach_m, scene.roots_year_m, scene.ball_radius_m, view.mulch_radius_m or 0.0)
    reach = far + VIEW_MARGIN_M
    days = found.days_to_move
    flow = choice.flow_l_per_h
    ks = float(scene.conductivity_at(scene.ball_radius_m + 1.0))
    return Look(
        choice=choice, year=year, day=today + timedelta(days=growth.YEAR_DAYS * year), scene=scene, reach_m=reach,
        emitters=drippers, runs=tuple(drawing.runs), fittings=(*drawing.fittings, *drawing.pins()),
        shapes=shapes(scene.obstacles, reach), cut=drawing.cut, skipped_arms=drawing.skipped_arms,
        achievements=found.achievements, findings=found.findings, verdict=found,
        move_on=None if days is None else today + timedelta(days=days),
        proof_min=minutes_to_depth(scene.root_depth_m, flow, ks), parts=parts.parts_of(drawing, choice),
        working=explain.of_layout(choice, scene, fed, found),
    )  # fmt: skip


def shapes(obstacles: Sequence[Obstacle], reach_m: float) -> tuple[Shape, ...]:
    """What stands beside a tree, cut to the square that is drawn; what lies outside it is left out."""
    frame = disc(0, 0, reach_m * 2**0.5, 1).envelope
    found = []
    for obstacle in obstacles:
        for piece in seen(obstacle, frame):
            outline = tuple((float(x), float(y)) for x, y in piece.exterior.coords)
            found.append(Shape(obstacle.kind, outline, obstacle.distance_m, obstacle.bearing_deg))
    return tuple(found)


def tree_look(
    session: Session, tree_id: UUID, choice: LayoutChoice, obstacles: tuple[Obstacle, ...] | None
) -> dict[str, Any]:
    """A layout that was not accepted yet: what typed measures would do, on its line if it has one."""
    tree = register.tree(session, tree_id)
    return _page(session, tree, choice, obstacles)


def tree_page(session: Session, tree_id: UUID) -> dict[str, Any]:
    """The Drip page of a tree. Raises NoWeatherError where no plan can be made."""
    tree = register.tree(session, tree_id)
    return _page(session, tree, None, None)


def _page(
    session: Session, tree: Tree, asked: LayoutChoice | None, obstacles: tuple[Obstacle, ...] | None
) -> dict[str, Any]:
    today = clock.today(session, tree.site.timezone)
    layouts = store.layouts_of(session, tree.id)
    layout = next((one for one in layouts if one.id == tree.layout_id), None)
    on_line = tree.line_id is not None and tree.method == "emitters"
    supply = None if tree.line_id is None else store.line(session, tree.line_id)
    lateral, along = lines.beside(session, tree, supply) if supply else (None, None)
    feed_at = abs(lateral.offset_m) if lateral and on_line else None
    made = lines.plan_of(session, tree)
    view = lines.outlook_alone(session, tree, made=made, feed_at_m=feed_at, row=along, obstacles=obstacles)
    base = LayoutChoice("ring", feed_bearing_deg=lateral.feed_bearing_deg if lateral else 180.0)
    suggested = auto.for_tree(view.now, base, roots_ahead_m=view.ahead_m)
    if layout is not None:
        stored = lines.choice_of(layout)
    elif on_line and tree.line_id is not None and asked is None:
        stored = _as_on_line(session, tree, made)
    else:
        stored = suggested[0].choice if suggested else scenes.implied(tree, view.now.ball_radius_m)
    choice = asked or stored
    if asked is not None:
        checked(asked, view.now)
    drawing, fed, found, flow = _fed(session, tree, choice, view, made if on_line else None)
    grown = growth.steps(choice, view.scenes, view.ahead_m, found.days_to_move)
    looks = [look(choice, drawing, view.now, fed, found, view, today)]
    for step in grown[1:]:
        looks.append(_later(step, view, today))
    tests = catches.of_tree(session, tree.id)
    lies = layout is not None and stored == choice
    todo = [
        Dated(Task(of.kind, 0, count=len(of.numbers), numbers=of.numbers), of.due_on)
        for of in (care.of_catches(session, tree) if lies else ())
    ]
    of_layout = tasks.of_layout(choice, drawing, view.now, grown)
    todo += [Dated(task, today + timedelta(days=task.after_days)) for task in of_layout]
    return {
        "tree": tree, "today": today, "layout": layout, "accepted": lies,
        "looks": [
            Grown(one, step.changes, step.new_parts) for one, step in zip(looks, grown, strict=True)
        ],
        "suggestions": suggested, "tasks": todo,
        "history": [one for one in layouts if one is not layout], "proofs": store.proofs_of(session, tree.id),
        "catches": tests,
        "obstacles": list(view.now.obstacles), "line": supply if on_line else None,
        "line_trees": 0 if flow is None else len(flow.trees), "short_supply": fed.short_supply,
        "assumed": scenes.assumed(supply) if supply and on_line else ("static_head_m", "open_flow_l_per_h"),
        "crown_radius_m": view.crown_radius_m, "mulch_radius_m": view.mulch_radius_m,
        "mulch_depth_m": view.mulch_depth_m,
        "next": next_of(made, made.index_of(tree.id)) if layout is not None and tree.method == "emitters" else None,
    }  # fmt: skip


def _as_on_line(session: Session, tree: Tree, made: SitePlan) -> LayoutChoice:
    """What its line suggests for a tree that has no layout."""
    assert tree.line_id is not None
    try:
        planned = lines.plan_line(session, tree.line_id, made=made)
    except InputError:
        return LayoutChoice("on_ball", points=max(1, tree.emitter_count), flow_l_per_h=tree.emitter_flow_l_per_h or 4.0)
    return next(one.choice for one in planned.trees if one.tree.id == tree.id)


def _fed(
    session: Session, tree: Tree, choice: LayoutChoice, view: Outlook, on_line: SitePlan | None
) -> tuple[Drawing, Fed, Verdict, row.RowFlow | None]:
    """A tree's layout with the water that its line, or the site's hose, gives it; on_line: the plan of its line."""
    if on_line is not None and tree.line_id is not None:
        if choice.pattern == "row_lines":
            plain = replace(choice, edits=())  # what was changed by hand is this tree's own
            on = [one.id for one in store.trees_on(session, tree.line_id) if one.method == "emitters"]
            instead = dict.fromkeys(on, plain) | {tree.id: choice}
        else:
            instead = {tree.id: choice}
        planned = lines.plan_line(session, tree.line_id, instead=instead, made=on_line)
        laid = next(one for one in planned.trees if one.tree.id == tree.id)
        drawing = draw(choice, view.now)
        found = verdict.judged(choice, drawing, view.now, laid.fed, roots_ahead_m=view.ahead_m)
        return drawing, laid.fed, found, planned.flow
    return (*lines.alone(session, tree, choice, view), None)


def _later(step: growth.Stage, view: Outlook, today: date) -> Look:
    """The look of a year to come, with all the pressure that it wants."""
    scene = view.scenes[step.year]
    fed = verdict.feed(step.drawing, step.choice)
    gone = growth.YEAR_DAYS * step.year
    ahead = view.ahead_m[gone:] - (view.ahead_m[gone - 1] if gone <= len(view.ahead_m) else 0.0)
    found = verdict.judged(step.choice, step.drawing, scene, fed, roots_ahead_m=ahead)
    return look(step.choice, step.drawing, scene, fed, found, view, today + timedelta(days=gone), 0)


@dataclass(frozen=True, slots=True)
class OnLine:
    """A tree of a line: where it stands along it, its look, how it stands."""

    tree: Tree
    accepted: bool
    chainage_m: float
    height_m: float
    tee_head_m: float
    look: Look


def line_page(session: Session, line_id: UUID, *, anew: bool = False) -> dict[str, Any]:
    """A line: its row to scale, what flows where, its parts. anew: suggested for all of its trees."""
    planned = lines.plan_line(session, line_id, anew=anew)
    site = planned.trees[0].tree.site
    today = clock.today(session, site.timezone)
    choices = [one.choice for one in planned.trees]
    drawings = [one.drawing for one in planned.trees]
    shown = [
        OnLine(
            one.tree, one.layout is not None, planned.lateral.chainage_m[i], planned.lateral.height_m[i],
            planned.flow.tee_head_m[i],
            look(one.choice, one.drawing, one.outlook.now, one.fed, one.verdict, one.outlook, today),
        )
        for i, one in enumerate(planned.trees)
    ]  # fmt: skip
    minutes = [one.verdict.run.run_min for one in planned.trees]
    tests = {} if anew else store.catches_in_force(session, [one.tree.id for one in planned.trees])
    return {
        "line": planned.line, "site": site, "today": today, "trees": shown, "flow": planned.flow,
        "lateral": planned.lateral, "hedge": row.feeds_lines(choices), "left_out": planned.left_out,
        "length_m": row.lateral_length_m(planned.lateral, choices), "assumed": scenes.assumed(planned.line),
        "parts": row.parts_of(planned.lateral, choices, drawings),
        "caught": _caught(planned, tests), "run_min": max(minutes), "least_min": min(minutes),
        "uneven": row.is_uneven(minutes),
        "litres": planned.flow.flow_l_per_h * max(minutes) / 60.0, "strip": planned.strip,
        "gaps": [
            {
                "tree_id": gap.tree.id, "tag": gap.tree.tag, "ended_on": gap.tree.ended_on,
                "chainage_m": gap.place.chainage_m, "closed": gap.place.closed, "flow_l_per_h": gap.flow_l_per_h,
                "lost_l": gap.flow_l_per_h * gap.lost_share * max(minutes) / 60.0,
                "emitters": [(node.x_m, node.y_m) for node in gap.place.drawing.emitters],
            }
            for gap in planned.gaps
        ],
        "accepted": all(one.layout is not None for one in planned.trees), "anew": anew,
    }  # fmt: skip


@dataclass(frozen=True, slots=True)
class CaughtAt:
    """A tree of a line as its last catch test found it."""

    tree: Tree
    day: date
    found: Catch


@dataclass(frozen=True, slots=True)
class CaughtOn:
    """What catch tests found along a line: how even over its trees, and each tree that was tested, in their order."""

    over: OverTrees
    trees: tuple[CaughtAt, ...]


def _caught(planned: lines.LinePlan, tests: Mapping[UUID, DripCatch]) -> CaughtOn | None:
    """None where no tree of the line was tested."""
    found = tuple(
        CaughtAt(one.tree, tests[one.tree.id].day, said(tests[one.tree.id], one.layout.choice))
        for one in planned.trees
        if one.tree.id in tests and one.layout is not None
    )
    return CaughtOn(catch.over_trees([one.found for one in found]), found) if found else None


@dataclass(frozen=True, slots=True)
class LineRow:
    """A line in a site's list. problem: why it can't be laid, "" else; findings of its flow."""

    line: Line
    trees: int
    laid: int
    flow_l_per_h: float | None
    codes: tuple[str, ...]
    problem: str


def site_lines(session: Session, site_id: UUID, *, closed: bool = False) -> list[LineRow]:
    """A site's lines, those in use or those that are closed, each with what is wrong on it."""
    register.site(session, site_id)
    found = []
    for one in store.lines(session, site_id, closed=closed):
        trees = [tree for tree in store.trees_on(session, one.id) if tree.method == "emitters"]
        laid = sum(tree.layout_id is not None for tree in trees)
        flow: float | None = None
        codes: tuple[str, ...] = ()
        problem = ""
        if trees:
            try:
                planned = lines.plan_line(session, one.id)
                flow, codes = planned.flow.flow_l_per_h, tuple(f.code for f in planned.flow.findings)
            except JuneShadeError as e:
                problem = e.message
        found.append(LineRow(one, len(trees), laid, flow, codes, problem))
    return found


def site_parts(session: Session, site_id: UUID) -> list[tuple[str, tuple[Part, ...]]]:
    """Parts of every layout of a site, in force or suggested for its lines: by line or lone tree, by name."""
    register.site(session, site_id)
    lists: list[tuple[str, tuple[Part, ...]]] = []
    for one in store.lines(session, site_id):
        try:
            planned = lines.plan_line(session, one.id)
        except JuneShadeError:
            continue
        choices = [laid.choice for laid in planned.trees]
        drawings = [laid.drawing for laid in planned.trees]
        lists.append((one.name, row.parts_of(planned.lateral, choices, drawings)))
    for tree in store.laid_trees(session, site_id):
        if tree.line_id is None and tree.method == "emitters":
            layout = store.layouts_in_force(session, [tree.id])[tree.id]
            view = lines.outlook_alone(session, tree)
            choice = lines.choice_of(layout)
            lists.append((tree.tag, parts.parts_of(draw(choice, view.now), choice)))
    return lists
