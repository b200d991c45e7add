"""Where trees of a line died or went: their places stay, what was laid for them runs on until it is closed."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from uuid import UUID

from june_shade.core.drip import hedge, row
from june_shade.core.drip.choice import LayoutChoice, as_kept
from june_shade.core.drip.layout import draw
from june_shade.core.drip.row import Lateral, Place
from june_shade.core.drip.scene import Row, Scene
from june_shade.core.errors import InputError
from june_shade.plans.drip import scenes
from june_shade.store import drip as store
from june_shade.store.drip_tables import DripLayout
from june_shade.store.session import Session
from june_shade.store.site_tables import Line
from june_shade.store.tree_tables import Tree


@dataclass(frozen=True, slots=True)
class Gap:
    """A tree that is gone from a line: its place; what its emitters give [L/h], and the share of that under which
    nobody's roots lie."""

    tree: Tree
    place: Place
    flow_l_per_h: float = 0.0
    lost_share: float = 0.0


def slots(session: Session, on: Line, standing: Sequence[Tree]) -> list[Tree]:
    """All places along a line in their order: of the trees that stand on it, and of those that are gone and that no
    other was planted for."""
    tags = {tree.tag for tree in standing}
    places = {tree.row_place for tree in standing if tree.row_place}
    gone = [
        tree for tree in store.gone_from(session, on.id)
        if tree.tag not in tags and tree.row_place not in places
    ]  # fmt: skip
    return sorted([*standing, *gone], key=lambda tree: (tree.row_place, tree.tag)) if gone else list(standing)


def passed(session: Session, on: Line, standing: Sequence[Tree]) -> tuple[Lateral, list[Row], list[Tree]]:
    """A line past the trees that stand on it, each where it always stood; the row of each; all places in order."""
    every = slots(session, on, standing)
    whole = scenes.lateral_of(on, every, standing[0].site)
    keeps = [n for n, tree in enumerate(every) if tree.ended_on is None]
    rows = scenes.rows_of(on, whole)
    lateral = replace(
        whole, chainage_m=tuple(whole.chainage_m[n] for n in keeps), height_m=tuple(whole.height_m[n] for n in keeps)
    )
    return lateral, [rows[n] for n in keeps], every


def of_line(
    session: Session, on: Line, every: Sequence[Tree], now: Mapping[UUID, Scene], choices: Mapping[UUID, LayoutChoice]
) -> list[Gap]:
    """The gaps of a line. every: its places in order; now, choices: of the trees that stand."""
    if all(tree.ended_on is None for tree in every):
        return []
    whole = scenes.lateral_of(on, every, every[0].site)
    rows = scenes.rows_of(on, whole)
    lines = row.feeds_lines(list(choices.values()))
    closed = {UUID(one) for one in on.closed_gaps}
    found = []
    for n, tree in enumerate(every):
        if tree.ended_on is None:
            continue
        nearest = min((m for m, one in enumerate(every) if one.ended_on is None), key=lambda m: abs(m - n))
        beside = every[nearest].id
        layout = session.get(DripLayout, tree.layout_id)
        if lines:
            choice = replace(choices[beside], edits=())
        elif layout is None or (choice := as_kept(layout.choice)).pattern == "row_lines":
            continue
        try:
            drawing = draw(choice, replace(now[beside], row=rows[n], obstacles=()))
        except InputError:
            continue
        found.append(Gap(tree, Place(whole.chainage_m[n], whole.height_m[n], choice, drawing, tree.id in closed)))
    return found


def flowing(gaps: Sequence[Gap], gaps_l_per_h: Sequence[float], lateral: Lateral, now: Sequence[Scene]) -> list[Gap]:
    """The same with what flows at each, and how much of that no roots lie under."""
    roots = [scene.roots_now_m for scene in now]
    return [
        replace(
            gap, flow_l_per_h=flow,
            lost_share=hedge.lost_share(
                row.along(lateral, gap.place.drawing), gap.place.chainage_m, lateral.chainage_m, roots
            ),
        )
        for gap, flow in zip(gaps, gaps_l_per_h, strict=True)
    ]  # fmt: skip
