"""Layouts accepted and taken back, proofs in the field, what stands beside trees, what feeds a line.

Writes carry the client's id: sent twice they make one. What is stored is kept; what is withdrawn no longer counts.
"""

from collections.abc import Mapping, Sequence
from dataclasses import asdict
from datetime import date
from typing import Any
from uuid import UUID, uuid5

from june_shade.core.drip.choice import LayoutChoice
from june_shade.core.drip.edits import sold_as
from june_shade.core.drip.layout import checked
from june_shade.core.drip.row import check as check_lateral
from june_shade.core.drip.scene import Obstacle
from june_shade.core.errors import ConflictError, InputError, NotFoundError
from june_shade.core.geometry import bulb
from june_shade.plans import changes, clock, register, ways
from june_shade.plans.changes import Changed, What
from june_shade.plans.drip import gaps, lines, scenes
from june_shade.plans.ways import way_of
from june_shade.store import drip as store
from june_shade.store import trees as tree_store
from june_shade.store.drip_tables import DripLayout, DripProof
from june_shade.store.session import Session
from june_shade.store.site_tables import Line
from june_shade.store.tree_tables import Tree

MOST_OBSTACLES = 12


def sites_to_grow(session: Session) -> Sequence[UUID]:
    """Ids of the sites where laid drip has not met today's roots yet."""
    return store.sites_to_grow(session, clock.now(session).date())


def close_line(session: Session, line_id: UUID, *, closed: bool) -> Line:
    """Take a line out of its site's lists, or back; what it fed and gave stays in the record.

    Raises ConflictError while trees hang on it.
    """
    row = lines.line(session, line_id)
    changes.hold(session, [row.site_id])
    session.refresh(row)
    if (row.closed_on is not None) is closed:
        return row
    on_it = len(tree_store.on_line(session, line_id)) if closed else 0
    if on_it:
        raise ConflictError(f"still has trees on it ({on_it}): say first how they are watered without it", "line_id")
    row.closed_on = clock.today(session, register.site(session, row.site_id).timezone) if closed else None
    changes.tell(session, Changed(row.site_id, What.PAGE))
    session.refresh(row)
    return row


def save(
    session: Session, layout_id: UUID, tree_id: UUID, choice: LayoutChoice, laid_on: date | None = None, note: str = ""
) -> DripLayout:
    """Accept a layout: the tree is watered by it from now on.

    On a line, trees that have none get theirs by their own. Raises InputError for one that can't be laid.
    """
    return save_many(session, {tree_id: (layout_id, choice)}, laid_on, note)[0]


def save_line(
    session: Session, batch_id: UUID, line_id: UUID, laid_on: date | None = None, choice: LayoutChoice | None = None
) -> list[DripLayout]:
    """Accept what is suggested for a whole line, or one layout for all of its trees; each one's id follows from the
    batch's. Raises InputError, naming the tree, where it can't be laid at one."""
    lines.line(session, line_id)
    known = session.get(DripLayout, uuid5(batch_id, "0"))
    on = [tree for tree in store.trees_on(session, line_id) if tree.method == "emitters"]
    if known is not None:  # sent again
        return [row for row in (session.get(DripLayout, uuid5(batch_id, str(n))) for n in range(len(on))) if row]
    if choice is not None and on:
        wanted = {tree.id: (uuid5(batch_id, str(n)), choice) for n, tree in enumerate(on)}
    else:
        planned = lines.plan_line(session, line_id, anew=True)
        wanted = {laid.tree.id: (uuid5(batch_id, str(n)), laid.choice) for n, laid in enumerate(planned.trees)}
    return save_many(session, wanted, laid_on, "")


def save_many(
    session: Session, wanted: Mapping[UUID, tuple[UUID, LayoutChoice]], laid_on: date | None, note: str
) -> list[DripLayout]:
    """Accept layouts of trees of one site, all or none."""
    trees = {tree_id: register.tree(session, tree_id) for tree_id in wanted}
    site = next(iter(trees.values())).site
    changes.hold(session, [site.id])
    today = clock.today(session, site.timezone)
    day = laid_on or today
    check_day(day, today, "laid_on")
    saved = []
    instead = {tree_id: choice for tree_id, (_, choice) in wanted.items()}
    for tree_id, (layout_id, choice) in wanted.items():
        known = session.get(DripLayout, layout_id)
        if known is not None:
            if known.tree_id != tree_id or lines.choice_of(known) != choice:
                raise ConflictError("this layout is stored already with other measures", "id")
            saved.append(known)
            continue
        try:
            saved.append(_new(session, layout_id, trees[tree_id], instead, day, note))
        except InputError as e:
            if len(wanted) == 1:
                raise
            raise InputError(f"{trees[tree_id].tag}: {e.message}", e.field) from e
    changes.tell(
        session, Changed(site.id, What.WATER, tuple(wanted), day), Changed(site.id, What.DRIP_FROM_TODAY, tuple(wanted))
    )
    return saved


def _new(
    session: Session, layout_id: UUID, tree: Tree, wanted: Mapping[UUID, LayoutChoice], day: date, note: str
) -> DripLayout:
    choice = wanted[tree.id]
    if day < tree.planted_on:
        raise InputError(f"{day} is before the tree was planted ({tree.planted_on})", "laid_on")
    was = way_of(tree)
    tree.method, tree.emitter_count, tree.emitter_flow_l_per_h = "emitters", 1, choice.flow_l_per_h
    session.flush()
    try:
        if tree.line_id is not None:
            planned = lines.plan_line(session, tree.line_id, instead=wanted)
            laid = next(one for one in planned.trees if one.tree.id == tree.id)
            checked(choice, laid.outlook.now)
            figures = lines.figures_of(tree, choice, laid.drawing, laid.fed, laid.verdict, day)
        else:
            view = lines.outlook_alone(session, tree)
            checked(choice, view.now)
            figures = lines.figures_of(tree, choice, *lines.alone(session, tree, choice, view), day)
    except InputError:
        for name, value in was.items():
            setattr(tree, name, value)
        raise
    made = DripLayout(id=layout_id, tree_id=tree.id, laid_on=day, choice=asdict(choice), note=note, **figures)
    session.add(made)
    session.flush()
    tree.layout_id = made.id
    tree.emitter_count, tree.emitter_flow_l_per_h = _sold_as(made)
    ways.until(session, tree, was, day)
    if choice.perforated and tree.surround == "plastic":
        tree.surround = "plastic_holed"
    return made


def _sold_as(layout: DripLayout) -> tuple[int, float]:
    """How many emitters a layout has, and what they are sold as in the mean [L/h]."""
    flows = sold_as(lines.choice_of(layout), len(layout.emitters))
    return len(flows), sum(flows) / len(flows)


def check_day(day: date, today: date, field: str) -> None:
    """Refuse a day that is still to come, by its field."""
    if day > today:
        raise InputError(f"{day} is still to come (today is {today})", field)


def withdraw(session: Session, layout_id: UUID) -> DripLayout:
    """Take a layout back: the one laid before it counts again, if there is one."""
    row = session.get(DripLayout, layout_id)
    if row is None:
        raise NotFoundError("there is no such layout", "layout_id")
    if row.withdrawn_at is None:
        tree = register.tree(session, row.tree_id)
        changes.hold(session, [tree.site_id])
        row.withdrawn_at = clock.now(session)
        session.flush()
        if tree.layout_id == row.id and not ways.restore(session, tree, row.laid_on):
            left = [one for one in store.layouts_of(session, tree.id) if one.withdrawn_at is None]
            tree.layout_id = left[0].id if left else None
            if left:
                tree.emitter_count, tree.emitter_flow_l_per_h = _sold_as(left[0])
        changes.tell(session, Changed(tree.site_id, What.WATER | What.DRIP, (tree.id,)))
    return row


def set_obstacles(session: Session, tree_id: UUID, obstacles: Sequence[Obstacle], *, whole_line: bool) -> list[UUID]:
    """Say what stands beside a tree, or beside every tree of its line. Returns the trees that were changed."""
    tree = register.tree(session, tree_id)
    if len(obstacles) > MOST_OBSTACLES:
        raise InputError(f"must be at most {MOST_OBSTACLES}", "obstacles")
    changes.hold(session, [tree.site_id])
    trees: Sequence[Tree] = [tree]
    if whole_line and tree.line_id is not None:
        trees = store.trees_on(session, tree.line_id)
    for one in trees:
        one.obstacles = scenes.checked(obstacles, one.caliper_m)
    changes.tell(session, Changed(tree.site_id, What.DRIP, tuple(one.id for one in trees)))
    return [one.id for one in trees]


def put_proof(
    session: Session, proof_id: UUID, tree_id: UUID, day: date | None, minutes: float, depth_m: float, note: str
) -> DripProof:
    """Keep how deep the ground was wet after so many minutes; bulbs go by it from now on.

    Raises InputError for a depth that no soil gives in that time.
    """
    tree = register.tree(session, tree_id)
    changes.hold(session, [tree.site_id])
    today = clock.today(session, tree.site.timezone)
    check_day(day or today, today, "day")
    layout = store.layouts_in_force(session, [tree_id]).get(tree_id)
    flow = layout.flow_l_per_h / len(layout.emitters) if layout is not None else tree.emitter_flow_l_per_h
    if not flow > 0:
        raise InputError("the tree has no emitters to prove", "tree_id")
    bulb.proven_conductivity_mm_h(depth_m, minutes, flow)
    known = session.get(DripProof, proof_id)
    if known is not None:
        if (known.tree_id, known.minutes, known.depth_m) != (tree_id, minutes, depth_m):
            raise ConflictError("this proof is stored already with other readings", "id")
        return known
    made = DripProof(
        id=proof_id, tree_id=tree_id, day=day or today, minutes=minutes, depth_m=depth_m, flow_l_per_h=flow, note=note
    )
    session.add(made)
    changes.tell(session, Changed(tree.site_id, What.DRIP, (tree_id,)))
    return made


def withdraw_proof(session: Session, proof_id: UUID) -> DripProof:
    """Take a proof back: it was misread."""
    row = session.get(DripProof, proof_id)
    if row is None:
        raise NotFoundError("there is no such proof", "proof_id")
    if row.withdrawn_at is None:
        tree = register.tree(session, row.tree_id)
        changes.hold(session, [tree.site_id])
        row.withdrawn_at = clock.now(session)
        changes.tell(session, Changed(tree.site_id, What.DRIP, (tree.id,)))
    return row


def save_supply(session: Session, line_id: UUID, values: dict[str, Any]) -> Line:
    """Say what feeds a line and how its row lies; what its layouts do is computed anew."""
    row = lines.line(session, line_id)
    changes.hold(session, [row.site_id])
    register.fresh(row, values)
    for name, value in values.items():
        if name != "version":
            setattr(row, name, value)
    session.flush()
    trees = store.trees_on(session, line_id)
    fed = [tree for tree in trees if tree.method == "emitters"]
    scenes.check_lie(row, gaps.slots(session, row, trees))
    if fed:
        check_lateral(gaps.passed(session, row, fed)[0])
    if trees:
        changes.tell(session, Changed(row.site_id, What.DRIP_FROM_TODAY, tuple(tree.id for tree in trees)))
    session.refresh(row)
    return row


def close_gap(session: Session, line_id: UUID, tree_id: UUID, *, closed: bool) -> Line:
    """Say that what was laid for a tree that is gone was closed, or is open again; the line's flow is computed anew."""
    on = lines.line(session, line_id)
    changes.hold(session, [on.site_id])
    session.refresh(on)
    standing = [tree for tree in store.trees_on(session, line_id) if tree.method == "emitters"]
    if tree_id not in {tree.id for tree in gaps.slots(session, on, standing) if tree.ended_on is not None}:
        raise NotFoundError("no tree that is gone left a gap here", "tree_id")
    kept = [one for one in on.closed_gaps if one != str(tree_id)]
    on.closed_gaps = [*kept, str(tree_id)] if closed else kept
    session.flush()
    changes.tell(session, Changed(on.site_id, What.DRIP_FROM_TODAY, tuple(tree.id for tree in standing)))
    session.refresh(on)
    return on
