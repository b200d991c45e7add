"""What a layout asks to be done, and when: move the ring, add or lengthen arms, fork a sheet, bury the tubes."""

from collections.abc import Sequence
from dataclasses import dataclass

from june_shade.core.drip.choice import LayoutChoice
from june_shade.core.drip.drawing import Drawing
from june_shade.core.drip.growth import Stage
from june_shade.core.drip.parts import Part
from june_shade.core.drip.scene import Scene

BURIED_COVERS = frozenset({"gravel", "plastic", "plastic_holed", "turf"})
"""Under gravel, or soil in turf, tubes are out of reach of dogs and mowers (common practice)."""


@dataclass(frozen=True, slots=True)
class Task:
    """One thing to do. after_days: from today, 0 = now. year: the step that it makes, 0 = the layout of now.

    from_m, to_m: radius, reach or offset before and after; tube_m to let in or to bury; couplers, emitters and arms
    that are new; count: holes to fork; numbers: of the emitters that it is about. parts: what to bring.
    """

    kind: str
    after_days: int
    year: int = 0
    from_m: float = 0.0
    to_m: float = 0.0
    tube_m: float = 0.0
    couplers: int = 0
    emitters: int = 0
    arms: int = 0
    count: int = 0
    numbers: tuple[int, ...] = ()
    parts: tuple[Part, ...] = ()


def of_layout(choice: LayoutChoice, drawing: Drawing, scene: Scene, steps: Sequence[Stage]) -> tuple[Task, ...]:
    """All that a layout asks for, the soonest first."""
    found = []
    if scene.cover == "plastic" and not choice.perforated:
        found.append(Task("perforate", 0, count=len(drawing.emitters)))
    if scene.cover in BURIED_COVERS and not choice.buried:
        found.append(Task("bury", 0, tube_m=sum(run.length_m for run in drawing.runs)))
    for step in steps[1:]:
        for number, change in enumerate(step.changes):
            found.append(Task(
                change.kind, step.after_days, step.year, change.from_m, change.to_m, change.tube_m, change.couplers,
                change.emitters, change.arms, parts=() if number else step.new_parts,
            ))  # fmt: skip
            if scene.cover == "plastic" and change.emitters:
                found.append(Task("perforate", step.after_days, step.year, count=change.emitters))
    return tuple(sorted(found, key=lambda task: task.after_days))
