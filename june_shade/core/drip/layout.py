"""From a pattern and its measures to a drawing that can be laid: emitters, tubes, tees, closures, couplers, pins.

A drawing is a graph too: its nodes and pieces of tube are what the hydraulics solve.
"""

import math
from dataclasses import dataclass, field
from itertools import pairwise

import numpy as np
import shapely

from june_shade.core.drip.choice import LayoutChoice, emitter_kind
from june_shade.core.drip.network import INLET, Emitter, Tube
from june_shade.core.drip.outline import SPOKE_TURN_DEG, Arc, Arm, Outline, outline
from june_shade.core.drip.scene import Scene, toward

PIN_EVERY_M = 1.0
"""A pin each metre of tube (common practice)."""
FEED_BEYOND_M = 0.30
DRAWN_EVERY_DEG = 6.0
SHORTEST_M = 0.001
"""Two things at one place of a tube lie this far apart, so that no piece is without length."""
LETTERS = {"emitter": "e", "tee": "t", "end": "x", "joint": "j"}


@dataclass(frozen=True, slots=True)
class Node:
    """A point of the drawing: feed, tee, emitter, end or joint."""

    name: str
    x_m: float
    y_m: float
    kind: str


@dataclass(frozen=True, slots=True)
class Run:
    """One tube as it is cut: kind (feeder, ring, inner, spoke, arm, line, header), bore, length, path [(x, y)]."""

    kind: str
    bore_mm: float
    length_m: float
    path: tuple[tuple[float, float], ...]


@dataclass(frozen=True, slots=True)
class Fitting:
    """A tee, closure, coupler or pin, and where."""

    kind: str
    x_m: float
    y_m: float


@dataclass(slots=True)
class Drawing:
    """A layout laid out. pieces: (from, to, length m, bore m) between nodes. cut: an obstacle shortened it.

    tail_m: of a line along a row, from its last emitter to where the next tree's part begins.
    """

    nodes: list[Node] = field(default_factory=list)
    pieces: list[tuple[str, str, float, float]] = field(default_factory=list)
    runs: list[Run] = field(default_factory=list)
    fittings: list[Fitting] = field(default_factory=list)
    cut: bool = False
    skipped_arms: int = 0
    tail_m: float = 0.0

    @property
    def emitters(self) -> list[Node]:
        """The emitters in the order of their numbers."""
        return [node for node in self.nodes if node.kind == "emitter"]

    def places(self) -> tuple[np.ndarray, np.ndarray]:
        """x and y of the emitters [m], arrays (emitters,)."""
        at = np.array([(node.x_m, node.y_m) for node in self.emitters]).reshape(-1, 2)
        return at[:, 0], at[:, 1]

    def node(self, kind: str, x: float, y: float) -> str:
        """Add a node, named by its kind and number.

        x, y: metres east and north of the trunk.
        """
        name = INLET if kind == "feed" else f"{LETTERS[kind]}{sum(n.kind == kind for n in self.nodes) + 1}"
        self.nodes.append(Node(name, x, y, kind))
        if kind in ("tee", "end"):
            self.fittings.append(Fitting("closure" if kind == "end" else "tee", x, y))
        return name

    def chain(
        self,
        kind: str,
        bore: float,
        stops: list[tuple[str, float]],
        path: list[tuple[float, float]],
        length_m: float | None = None,
    ) -> None:
        """Add a tube through nodes, each at so many metres along it, with its drawn path. length_m: more than that.

        bore: inner diameter [m]; stops: metres along it.
        """
        for (a, at), (b, then) in pairwise(stops):
            self.pieces.append((a, b, max(then - at, SHORTEST_M), bore / 1000))
        length = stops[-1][1] - stops[0][1] if length_m is None else length_m
        self.runs.append(Run(kind, bore, length, tuple(path)))

    def pins(self) -> list[Fitting]:
        """A pin for each metre of every tube, evenly spread along it."""
        found = []
        for run in self.runs:
            line = shapely.LineString(run.path)
            count = math.ceil(run.length_m / PIN_EVERY_M - 1e-9)
            for i in range(count):
                point = line.interpolate((i + 0.5) / count, normalized=True)
                found.append(Fitting("pin", point.x, point.y))
        return found

    def straight(self, a: str, b: str, bore: float, kind: str) -> None:
        """Add a straight tube from node to node.

        bore: inner diameter [m].
        """
        ends = [next(n for n in self.nodes if n.name == name) for name in (a, b)]
        path = [(n.x_m, n.y_m) for n in ends]
        self.chain(kind, bore, [(a, 0.0), (b, math.dist(*path))], path)


def draw(choice: LayoutChoice, scene: Scene) -> Drawing:
    """The drawing of a layout. Raises InputError as `outline` does."""
    planned = outline(choice, scene)
    made = Drawing(cut=planned.cut, skipped_arms=planned.skipped_arms)
    if planned.stretches:
        _lay_stretches(made, planned, choice)
        return made
    outer = planned.arcs[0]
    stops = _with_emitters(made, outer)
    for arm in planned.arms:
        _lay_arm(made, arm, stops, outer, choice)
    feed_turn = outer.nearest(choice.feed_bearing_deg)
    tee = made.node("tee", *toward(outer.begin_deg + feed_turn, outer.radius_m))
    stops.append((feed_turn, tee))
    for inner in planned.arcs[1:]:
        bearing = choice.feed_bearing_deg + SPOKE_TURN_DEG
        within = _with_emitters(made, inner)
        turns = outer.nearest(bearing), inner.nearest(bearing)
        a = made.node("tee", *toward(outer.begin_deg + turns[0], outer.radius_m))
        b = made.node("tee", *toward(inner.begin_deg + turns[1], inner.radius_m))
        stops.append((turns[0], a))
        within.append((turns[1], b))
        _lay_arc(made, inner, within)
        made.straight(a, b, inner.bore_mm, "spoke")
    _lay_arc(made, outer, stops)
    at = scene.feed_at_m if scene.feed_at_m is not None else choice.radius_m + FEED_BEYOND_M
    feed = made.node("feed", *toward(choice.feed_bearing_deg, at))
    made.straight(feed, tee, outer.bore_mm, "feeder")
    for i in range(choice.couplers):
        turn = feed_turn + 180.0 + 12.0 * (i - (choice.couplers - 1) / 2)
        made.fittings.append(Fitting("coupler", *toward(outer.begin_deg + turn % 360.0, choice.radius_m)))
    return made


def _with_emitters(made: Drawing, arc: Arc) -> list[tuple[float, str]]:
    """Add the emitters of a ring; each with the degrees from where it begins."""
    places = arc.places()
    return [
        (float(turn), made.node("emitter", *map(float, place)))
        for turn, place in zip(arc.turns(), places, strict=True)
    ]  # fmt: skip


def _lay_arc(made: Drawing, arc: Arc, stops: list[tuple[float, str]]) -> None:
    """Put a ring's tube through all that is on it."""
    stops.sort()
    per_degree = math.radians(1.0) * arc.radius_m
    way = [(name, turn * per_degree) for turn, name in stops]
    begin, span = 0.0, arc.span_deg
    if arc.closed:
        begin = stops[0][0]
        way.append((way[0][0], way[0][1] + arc.length_m))
    else:
        if stops[0][0] > 0:
            way.insert(0, (made.node("end", *toward(arc.begin_deg, arc.radius_m)), 0.0))
        if stops[-1][0] < span:
            way.append((made.node("end", *toward(arc.begin_deg + span, arc.radius_m)), span * per_degree))
    turns = np.linspace(begin, begin + span, math.ceil(span / DRAWN_EVERY_DEG) + 1)
    made.chain(arc.kind, arc.bore_mm, way, [toward(arc.begin_deg + turn, arc.radius_m) for turn in turns])


def _lay_arm(made: Drawing, arm: Arm, stops: list[tuple[float, str]], outer: Arc, choice: LayoutChoice) -> None:
    """Put an arm's tube from a tee on the ring through its emitters to its closed end."""
    turn = outer.within(arm.bearing_deg)
    assert turn is not None
    tee = made.node("tee", *toward(arm.bearing_deg, arm.from_m))
    stops.append((turn, tee))
    way = [(tee, 0.0)]
    for along, place in zip(arm.along(), arm.places(), strict=True):
        way.append((made.node("emitter", *map(float, place)), float(along)))
    end = toward(arm.bearing_deg, arm.from_m + arm.length_m)
    made.fittings.append(Fitting("closure", *end))
    made.chain("arm", choice.bore_mm, way, [toward(arm.bearing_deg, arm.from_m), end])


def _lay_stretches(made: Drawing, planned: Outline, choice: LayoutChoice) -> None:
    """Put the tubes of lines along a row through a tree's own emitters, all fed at one end."""
    feed = ""
    for number, stretch in enumerate(planned.stretches):
        half = stretch.length_m / 2
        begin = made.node("joint" if number else "feed", *stretch.at(-half))
        if number:
            made.straight(feed, begin, choice.bore_mm, "header")
        else:
            feed = begin
        made.tail_m = stretch.length_m - float(stretch.along()[-1])
        way = [(begin, 0.0)]
        for along, place in zip(stretch.along(), stretch.places(), strict=True):
            way.append((made.node("emitter", *map(float, place)), float(along)))
        made.chain("line", choice.bore_mm, way, [stretch.at(-half), stretch.at(half)], stretch.length_m)


def tubes_of(drawing: Drawing, prefix: str = "", rise_m: float = 0.0) -> list[Tube]:
    """The drawing's pieces as tubes of a network; the feed keeps its name where there is no prefix."""
    name = (lambda n: f"{prefix}{n}") if prefix else (lambda n: n)
    return [Tube(name(a), name(b), length, bore, rise_m) for a, b, length, bore in drawing.pieces]


def emitters_of(drawing: Drawing, choice: LayoutChoice, prefix: str = "") -> list[Emitter]:
    """The drawing's emitters as emitters of a network."""
    kind = emitter_kind(choice.compensating)
    if choice.compensating:
        return [
            Emitter(
                f"{prefix}{n.name}",
                flow_l_per_h=choice.flow_l_per_h,
                min_head_m=kind.min_head_m,
                max_head_m=kind.max_head_m,
            )
            for n in drawing.emitters
        ]
    k = choice.flow_l_per_h / kind.nominal_head_m**kind.exponent
    return [Emitter(f"{prefix}{n.name}", k_l_per_h=k, exponent=kind.exponent) for n in drawing.emitters]
