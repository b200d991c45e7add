"""How a layout grows with its tree: this year, next, the one after, with only what is new to bring.

What lies stays: a ring is cut and moved out, a second ring or arms are added, arms are lengthened; the emitters keep
their flow and their spacing. Never a step that leaves the ball dry while the tree drinks from it: the share on the
ball weighs first.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from june_shade.core.drip import auto, parts
from june_shade.core.drip.choice import LEAST_ARM_M, LayoutChoice
from june_shade.core.drip.drawing import Drawing
from june_shade.core.drip.layout import draw
from june_shade.core.drip.parts import Part
from june_shade.core.drip.scene import Scene

COUPLERS_A_CUT = 2
STAYS_WITHIN = 1.0
"""A change must better the penalty by more than this, or all stays as it lies."""
YEAR_DAYS = 365


@dataclass(frozen=True, slots=True)
class Move:
    """One thing to do: kind; from and to which radius or offset [m]; tube to let in [m]; how many couplers, emitters
    and arms are new."""

    kind: str
    from_m: float
    to_m: float
    tube_m: float
    couplers: int
    emitters: int
    arms: int = 0


@dataclass(frozen=True, slots=True)
class Stage:
    """A layout in a year to come. after_days: when it is laid, 0 = now; changes and new parts since the step before."""

    year: int
    after_days: int
    choice: LayoutChoice
    drawing: Drawing
    changes: tuple[Move, ...]
    new_parts: tuple[Part, ...]


def successors(choice: LayoutChoice, drawing: Drawing, scene: Scene) -> list[LayoutChoice]:
    """What a layout can become with what lies there, itself first."""
    roots = scene.roots_next_m
    wider = [
        r for r in auto.sizes(scene, (0.45 * roots, 0.55 * roots, 0.7 * roots, 0.85 * roots)) if r > choice.radius_m
    ]
    reach = auto.rounded(0.95 * roots)
    found = [choice]
    choice = replace(choice, edits=())  # what was changed by hand is of the drawing that lies
    if choice.pattern == "row_lines":
        offsets = [o for o in auto.sizes(scene, (0.4 * roots, 0.5 * roots, 0.6 * roots)) if o > choice.offset_m]
        found += [replace(choice, offset_m=o) for o in offsets]
        found += [replace(choice, lines=2, offset_m=o) for o in (choice.offset_m, *offsets) if choice.lines == 1]
        if choice.points:
            usual = auto.spacing_for_m(scene.conductivity_mm_h)
            found += [replace(one, points=0, spacing_m=usual) for one in found]
        return found
    if choice.pattern != "on_ball":
        let_in = choice.couplers + COUPLERS_A_CUT
        found += [replace(choice, radius_m=r, couplers=let_in) for r in wider]
    if choice.pattern in ("on_ball", "ring"):
        there = len(drawing.emitters)
        found += [
            replace(choice, pattern="two_rings", inner_radius_m=choice.radius_m, points=there, radius_m=r, couplers=0)
            for r in wider if r >= choice.radius_m + 0.15
        ]  # fmt: skip
    if choice.pattern == "ring" and reach >= choice.radius_m + 2 * LEAST_ARM_M:
        found += [replace(choice, pattern="ring_arms", arms=n, arm_reach_m=reach) for n in (4, 6)]
    if choice.pattern == "ring_arms" and reach > choice.arm_reach_m + LEAST_ARM_M:
        found += [replace(one, arm_reach_m=reach) for one in found if one.radius_m + LEAST_ARM_M <= reach]
    return list(dict.fromkeys(found))


def best_next(choice: LayoutChoice, drawing: Drawing, scene: Scene, roots_ahead_m: np.ndarray | None) -> LayoutChoice:
    """What a layout should become for the tree that it will be; itself where that serves as well."""
    can, planned = auto.laid_out(successors(choice, drawing, scene), scene)
    if not can:
        return choice
    found = auto.weigh(planned, choice.flow_l_per_h, choice.compensating, scene, roots_ahead_m)
    penalties = {one: weighed.penalty for one, weighed in zip(can, found, strict=True)}
    best = min(penalties, key=penalties.__getitem__)
    return choice if penalties.get(choice, math.inf) <= penalties[best] + STAYS_WITHIN else best


def steps(
    choice: LayoutChoice, scenes: Sequence[Scene], roots_ahead_m: np.ndarray, days_to_move: int | None
) -> list[Stage]:
    """The layout now and as it grows, a step a scene; scenes a year apart, the first one now.

    roots_ahead_m: how far roots grow by the end of each coming day [m]. days_to_move: when the layout of now is
    outgrown; the first change is made then, if that is before its year.
    """
    now = draw(choice, scenes[0])
    found = [Stage(0, 0, choice, now, (), ())]
    for year in range(1, len(scenes)):
        before = found[-1]
        ahead = roots_ahead_m[year * YEAR_DAYS :] - roots_ahead_m[min(year * YEAR_DAYS, len(roots_ahead_m)) - 1]
        then = best_next(before.choice, before.drawing, scenes[year], ahead if len(ahead) else None)
        drawing = draw(then, scenes[year])
        after = year * YEAR_DAYS
        if year == 1 and days_to_move is not None:
            after = min(after, days_to_move)
        new = parts.difference(parts.parts_of(drawing, then), parts.parts_of(before.drawing, before.choice))
        changes = _changes(before, then, drawing)
        found.append(Stage(year, after, then, drawing, changes, new if changes else ()))
    return found


def _tube(drawing: Drawing, kind: str) -> float:
    return sum(run.length_m for run in drawing.runs if run.kind == kind)


def _changes(before: Stage, then: LayoutChoice, drawing: Drawing) -> tuple[Move, ...]:
    """What is done to make one layout into the next."""
    was = before.choice
    if then == was:
        return ()
    emitters = max(0, len(drawing.emitters) - len(before.drawing.emitters))
    found = []
    if then.pattern == "row_lines":
        tube = max(0.0, _tube(drawing, "line") - _tube(before.drawing, "line"))
        kind = "add_line" if then.lines > was.lines else "move_lines"
        return (Move(kind, was.offset_m, then.offset_m, tube, 0, emitters),)
    if then.pattern == "two_rings" and was.pattern != "two_rings":
        return (Move("add_ring", was.radius_m, then.radius_m, _tube(drawing, "ring"), 0, emitters),)
    if then.radius_m > was.radius_m:
        tube = _tube(drawing, "ring") - _tube(before.drawing, "ring")
        found.append(Move("move_ring", was.radius_m, then.radius_m, tube, then.couplers - was.couplers, emitters))
        emitters = 0
    arms = _tube(drawing, "arm") - _tube(before.drawing, "arm")
    if then.pattern == "ring_arms" and was.pattern != "ring_arms":
        found.append(Move("add_arms", then.radius_m, then.arm_reach_m, arms, 0, emitters, then.arms))
    elif then.arm_reach_m > was.arm_reach_m and then.pattern == "ring_arms":
        found.append(
            Move("lengthen_arms", was.arm_reach_m, then.arm_reach_m, max(0.0, arms), then.arms, emitters, then.arms)
        )
    return tuple(found)
