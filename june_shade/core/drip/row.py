"""A row on one valve: the lateral that feeds every tree, its pressure and flow, and a layout for all of them.

A tree's own drawing is fed where the lateral passes it. In a hedge the lines along the row are the lateral itself.
Places along the row are metres from the valve; heights metres above it.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from june_shade.core.drip import auto, judge, network, parts
from june_shade.core.drip.choice import LayoutChoice, emitter_kind
from june_shade.core.drip.drawing import SHORTEST_M, Drawing, Run, emitters_of, flows_of, tubes_of
from june_shade.core.drip.judge import Finding
from june_shade.core.drip.layout import draw
from june_shade.core.drip.network import INLET, Emitter, Flowing, Supply, Tube
from june_shade.core.drip.parts import Part
from june_shade.core.drip.scene import Scene, toward
from june_shade.core.drip.verdict import Fed, runs_short
from june_shade.core.errors import InputError

UNEVEN = 1.3
"""On one valve the neediest tree may want this many times the minutes of the least (calibrated)."""
UNEVEN_PENALTY = 10.0
"""What uneven run times weigh beside the six achievements of a row (calibrated)."""


@dataclass(frozen=True, slots=True)
class Lateral:
    """What feeds a row. chainage_m, height_m: of each tree, along the row and above the valve. offset_m: how far right
    of the trunks it runs, seen along the row; left of them below 0. bearing_deg: way the row goes."""

    chainage_m: tuple[float, ...]
    height_m: tuple[float, ...]
    bearing_deg: float
    offset_m: float
    bore_mm: float
    supply: Supply

    @property
    def feed_bearing_deg(self) -> float:
        """From a trunk to the lateral."""
        return (self.bearing_deg + (90.0 if self.offset_m >= 0 else -90.0)) % 360.0

    def place(self, tree: int) -> tuple[float, float]:
        """Where a tree stands, east and north of the valve's end of the row [m]."""
        return toward(self.bearing_deg, self.chainage_m[tree])


@dataclass(frozen=True, slots=True)
class Place:
    """A place along the row and above the valve, and what lies there: for a tree, or for one that died or went.

    closed: its emitters are stopped up, or its ring is off the lateral.
    """

    chainage_m: float
    height_m: float
    choice: LayoutChoice
    drawing: Drawing
    closed: bool


def is_uneven(minutes: Sequence[float]) -> bool:
    """Whether the trees of one valve want too different run times [min].

    minutes: that each tree wants [min].
    """
    return max(minutes) > UNEVEN * min(minutes)


def check(lateral: Lateral) -> None:
    """Refuse a lateral that can't be, naming the field."""
    steps = np.diff([0.0, *lateral.chainage_m])
    if len(steps) == 0:
        raise InputError("has no trees", "trees")
    if np.any(steps <= 0):
        raise InputError("each tree must stand farther from the valve than the one before", "spacing_m")
    for name, value in (
        ("static_m", lateral.supply.static_m), ("open_l_per_h", lateral.supply.open_l_per_h),
        ("bore_mm", lateral.bore_mm),
    ):  # fmt: skip
        if not value > 0:
            raise InputError(f"must be above 0, not {value:g}", name)


@dataclass(frozen=True, slots=True)
class RowFlow:
    """What settles along a row: each tree as it is fed, the head at its tee [m], the lateral's flow and fastest water,
    emission uniformity of all emitters [%], the worst tree, what is wrong; what flows at each gap [L/h]."""

    trees: tuple[Fed, ...]
    tee_head_m: tuple[float, ...]
    inlet_head_m: float
    flow_l_per_h: float
    fastest_m_s: float
    uniformity_percent: float
    worst: int
    short_supply: bool
    findings: tuple[Finding, ...]
    gaps_l_per_h: tuple[float, ...] = ()


def feeds_lines(choices: Sequence[LayoutChoice]) -> bool:
    """Whether the row is a hedge: all of its trees on the same lines. Raises InputError where only some are."""
    on_lines = [choice.pattern == "row_lines" for choice in choices]
    if any(on_lines) and not all(on_lines):
        raise InputError("lines along a row serve all of its trees or none", "pattern")
    if any(on_lines) and len({(c.lines, c.offset_m) for c in choices}) > 1:
        raise InputError("lines along a row lie equally far from all of its trunks", "offset_m")
    return all(on_lines)


def _network(
    lateral: Lateral, choices: Sequence[LayoutChoice], drawings: Sequence[Drawing], gaps: Sequence[Place]
) -> tuple[list[Tube], dict[str, list[Emitter]]]:
    """Tubes of a row, and the emitters of each tree and gap, by number of the tree, "g" and number of the gap."""
    bore = lateral.bore_mm / 1000
    tubes: list[Tube] = []
    emitters: dict[str, list[Emitter]] = {}
    hedge = feeds_lines(choices)
    at, height, node = 0.0, 0.0, INLET
    ends: list[str] = []
    stopped_m = 0.0
    places = zip(lateral.chainage_m, lateral.height_m, choices, drawings, strict=True)
    laid = [(str(i), Place(*place, closed=False)) for i, place in enumerate(places)]
    laid += [(f"g{n}", gap) for n, gap in enumerate(gaps)]
    for name, place in sorted(laid, key=lambda one: one[1].chainage_m):
        far, up, choice, drawing = place.chainage_m, place.height_m, place.choice, place.drawing
        prefix = f"{name}:"
        if place.closed:
            emitters[name] = []
            if hedge and ends:  # the line goes on past it, without emitters
                stopped_m += _lines(drawing)[0].length_m + drawing.tail_m
            continue
        emitters[name] = emitters_of(drawing, choice, prefix)
        own = tubes_of(drawing, prefix)
        feed = f"{prefix}{INLET}"
        if not hedge or not ends:
            half = _lines(drawing)[0].length_m / 2 if hedge else 0.0
            tubes.append(Tube(node, feed, max(far - at - half, SHORTEST_M), bore, up - height))
        else:
            # the stretch goes on where its neighbour's ended, and needs no header of its own
            begins = [feed, *(t.end for t in own if t.start == feed and ":j" in t.end)]
            own = [t for t in own if not (t.start == feed and ":j" in t.end)]
            tubes += [
                Tube(a, b, drawing.tail_m + stopped_m, choice.bore_mm / 1000, up - height)
                for a, b in zip(ends, begins, strict=True)
            ]
            stopped_m = 0.0
        tubes += own
        if hedge:
            ends = _line_ends(drawing, prefix)
        at, height, node = far, up, feed
    return tubes, emitters


def _line_ends(drawing: Drawing, prefix: str) -> list[str]:
    """What lies last on each stretch, in order: where the line goes on to the next tree."""
    return [f"{prefix}{run.stops[-1][0]}" for run in _lines(drawing)]


def _lines(drawing: Drawing) -> list[Run]:
    return [run for run in drawing.runs if run.kind == "line"]


def solve(
    lateral: Lateral, choices: Sequence[LayoutChoice], drawings: Sequence[Drawing], gaps: Sequence[Place] = ()
) -> RowFlow:
    """Pressure and flow along a row. Raises InputError where it can't be laid or solved."""
    check(lateral)
    tubes, emitters = _network(lateral, choices, drawings, gaps)
    every = [emitter for own in emitters.values() for emitter in own]
    flowing = network.solve_with(tubes, every, lateral.supply)
    cv = max(emitter_kind(choice.compensating).cv for choice in choices)
    short = _runs_short(choices, drawings, lateral.supply)
    head = dict(zip(flowing.nodes, flowing.head_m, strict=True))
    fed: dict[str, Fed] = {}
    lost: dict[str, float] = dict.fromkeys(emitters, 0.0)
    begin = 0
    for name, own in emitters.items():
        if name[0] == "g":
            lost[name] = float(sum(flowing.emitter_l_per_h[begin : begin + len(own)]))
        else:
            fed[name] = _fed(int(name), own, flowing, begin, choices[int(name)], short)
        begin += len(own)
    trees = [fed[str(i)] for i in range(len(choices))]
    found = [f for f in judge.of_flow(tubes, every, flowing) if f.code != "dead_end"]
    if short:
        found.append(Finding("short_supply", "the row wants more than the supply gives at the head that it needs"))
    worst = int(np.argmin([one.worst_head_m for one in trees]))
    return RowFlow(
        trees=tuple(trees),
        tee_head_m=tuple(float(head[f"{i}:{INLET}"]) for i in range(len(trees))),
        inlet_head_m=float(flowing.head_m[0]),
        flow_l_per_h=flowing.total_l_per_h,
        fastest_m_s=float(np.max(flowing.velocity_m_s)),
        uniformity_percent=network.uniformity_of(every, flowing, cv, max(1, round(len(every) / len(trees)))),
        worst=worst,
        short_supply=short,
        findings=tuple(found),
        gaps_l_per_h=tuple(lost[f"g{n}"] for n in range(len(gaps))),
    )


def _runs_short(choices: Sequence[LayoutChoice], drawings: Sequence[Drawing], supply: Supply) -> bool:
    wanted = sum(float(np.sum(flows_of(drawing, choice))) for choice, drawing in zip(choices, drawings, strict=True))
    neediest = max(choices, key=lambda c: c.compensating)
    return runs_short(neediest, wanted, supply)


def _fed(tree: int, own: list[Emitter], flowing: Flowing, begin: int, choice: LayoutChoice, short: bool) -> Fed:
    """One tree's part of what flows, with its own findings."""
    flow, heads = (
        np.array(v[begin : begin + len(own)]) for v in (flowing.emitter_l_per_h, flowing.emitter_head_m)
    )  # fmt: skip
    mean_head = float(np.mean(heads))
    nominal = [e.nominal_l_per_h(mean_head) for e in own]
    uniformity = network.emission_uniformity(flow, nominal, emitter_kind(choice.compensating).cv, len(own))
    found = []
    low, high = own[0].min_head_m if choice.compensating else 0.0, own[0].max_head_m
    worst = float(np.min(heads))
    if worst <= 0:
        found.append(Finding("no_head", f"no pressure is left at tree {tree + 1}: no water comes out"))
    elif worst < low:
        found.append(Finding("head_low", f"{worst:.1f} m at tree {tree + 1}, its emitters want {low:.1f}"))
    if high is not None and float(np.max(heads)) > high:
        found.append(Finding("head_high", f"{np.max(heads):.1f} m at tree {tree + 1}, its emitters stand {high:.1f}"))
    return Fed(tuple(map(float, flow)), tuple(map(float, heads)), uniformity, tuple(found), short)


def along(lateral: Lateral, drawing: Drawing) -> np.ndarray:
    """Places of a drawing's emitters beside its trunk, along the row and to the left of it [m], array (emitters, 2)."""
    x, y = drawing.places()
    east, north = toward(lateral.bearing_deg, 1.0)
    return np.column_stack([x * east + y * north, y * east - x * north])


def lateral_length_m(lateral: Lateral, choices: Sequence[LayoutChoice]) -> float:
    """Tube of the lateral itself [m]: from the valve to the last tree, in a hedge to where its lines begin."""
    if feeds_lines(choices):
        half = (lateral.chainage_m[1] - lateral.chainage_m[0]) / 2 if len(lateral.chainage_m) > 1 else 0.5
        return max(SHORTEST_M, lateral.chainage_m[0] - half)
    return lateral.chainage_m[-1]


def parts_of(lateral: Lateral, choices: Sequence[LayoutChoice], drawings: Sequence[Drawing]) -> tuple[Part, ...]:
    """All the parts of a row: of its trees and of what feeds them."""
    trees = [parts.parts_of(d, c) for d, c in zip(drawings, choices, strict=True)]
    if not feeds_lines(choices):
        length = lateral_length_m(lateral, choices)
        return parts.together([parts.of_lateral(length, lateral.bore_mm, len(choices)), *trees])
    trees = [
        parts.parts_of(replace(d, runs=[run for run in d.runs if run.kind != "header" or not i]), c)
        for i, (d, c) in enumerate(zip(drawings, choices, strict=True))
    ]
    more = choices[0].lines - 1  # each line beside the first takes a tee at its beginning and a closure at its end
    feed = parts.of_lateral(lateral_length_m(lateral, choices), lateral.bore_mm, more)
    return parts.together([feed, [Part("closure", count=more)] if more else [], *trees])


def for_row(
    scenes: Sequence[Scene], lateral: Lateral, base: LayoutChoice | None = None, roots_ahead_m: np.ndarray | None = None
) -> tuple[LayoutChoice, ...]:
    """A layout for every tree of a row, all with emitters of one flow, since one valve runs them for one time.

    Raises InputError where nothing can be laid.
    """
    start = replace(base or LayoutChoice("ring"), feed_bearing_deg=lateral.feed_bearing_deg)
    best: tuple[float, tuple[LayoutChoice, ...]] | None = None
    for flow in auto.FLOWS_L_H:
        tried = [auto.for_tree(scene, start, (flow,), roots_ahead_m) for scene in scenes]
        for hedge in (True, False):
            kept = [[s for s in found if (s.choice.pattern == "row_lines") is hedge] for found in tried]
            if not all(kept):
                continue
            chosen = [found[0] for found in kept]
            choices = tuple(_same_lines([s.choice for s in chosen]) if hedge else [s.choice for s in chosen])
            minutes = [scene.volume_l / (s.emitters * flow) for scene, s in zip(scenes, chosen, strict=True)]
            cost = sum(s.penalty for s in chosen) / len(chosen) + (UNEVEN_PENALTY if is_uneven(minutes) else 0.0)
            if best is None or cost < best[0]:
                best = cost, choices
    if best is None:
        raise InputError("nothing can be laid at some tree of this row", "trees")
    return best[1]


def _same_lines(choices: list[LayoutChoice]) -> list[LayoutChoice]:
    """The lines that most trees of a hedge want, for all of them."""
    common = max(set(choices), key=choices.count)
    return [common] * len(choices)


def laid(scenes: Sequence[Scene], choices: Sequence[LayoutChoice]) -> list[Drawing]:
    """The drawing of every tree of a row. An error names the tree."""
    found = []
    for i, (choice, scene) in enumerate(zip(choices, scenes, strict=True)):
        try:
            found.append(draw(choice, scene))
        except InputError as e:
            raise InputError(e.message, f"trees[{i}].{e.field}") from e
    return found
