"""A drawing of drip that can be laid: emitters, tubes, tees, closures, couplers, pins.

It is a graph too: its nodes and pieces of tube are what the hydraulics solve.
"""

import math
from dataclasses import dataclass, field
from itertools import pairwise

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from june_shade.core.drip.choice import LayoutChoice, emitter_kind
from june_shade.core.drip.network import INLET, Emitter, Tube

PIN_EVERY_M = 1.0
"""A pin each metre of tube (common practice)."""
SHORTEST_M = 0.001
"""Two things at one place of a tube lie this far apart, so that no piece is without length."""
LETTERS = {"emitter": "e", "tee": "t", "end": "x", "joint": "j"}


@dataclass(frozen=True, slots=True)
class Node:
    """A point of the drawing: feed, tee, emitter, end, joint, or a plug where an emitter was. flow_l_per_h: of an
    emitter of its own flow, else 0. by_hand: it was put there, and is not where the pattern has it."""

    name: str
    x_m: float
    y_m: float
    kind: str
    flow_l_per_h: float = 0.0
    by_hand: bool = False


@dataclass(frozen=True, slots=True)
class Run:
    """One tube as it is cut: kind (feeder, ring, inner, spoke, arm, line, header, spur), bore, length, path [(x, y)].
    stops: what lies on it, each node's name with the metres along it."""

    kind: str
    bore_mm: float
    length_m: float
    path: tuple[tuple[float, float], ...]
    stops: tuple[tuple[str, float], ...] = ()


@dataclass(frozen=True, slots=True)
class Fitting:
    """A tee, closure, coupler or pin, and where."""

    kind: str
    x_m: float
    y_m: float


@dataclass(slots=True)
class Drawing:
    """A layout laid out. pieces: (from, to, length m, bore m) between nodes. cut: an obstacle shortened it.

    tail_m: of a line along a row, from its last emitter to where the next tree's part begins. lost: changes made by
    hand that found no emitter any more. hand_dug: ground where nothing is driven in but by hand, None = nowhere.
    """

    nodes: list[Node] = field(default_factory=list)
    pieces: list[tuple[str, str, float, float]] = field(default_factory=list)
    runs: list[Run] = field(default_factory=list)
    fittings: list[Fitting] = field(default_factory=list)
    cut: bool = False
    skipped_arms: int = 0
    tail_m: float = 0.0
    lost: int = 0
    hand_dug: BaseGeometry | None = None

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
        self.runs.append(Run(kind, bore, length, tuple(path), tuple(stops)))

    def pins(self) -> list[Fitting]:
        """A pin for each metre of every tube, evenly spread along it; none so near a buried line."""
        found = []
        for run in self.runs:
            line = shapely.LineString(run.path)
            count = math.ceil(run.length_m / PIN_EVERY_M - 1e-9)
            for i in range(count):
                point = line.interpolate((i + 0.5) / count, normalized=True)
                if self.hand_dug is None or not self.hand_dug.contains(point):
                    found.append(Fitting("pin", point.x, point.y))
        return found

    def straight(self, a: str, b: str, bore: float, kind: str) -> None:
        """Add a straight tube from node to node.

        bore: inner diameter [m].
        """
        ends = [next(n for n in self.nodes if n.name == name) for name in (a, b)]
        path = [(n.x_m, n.y_m) for n in ends]
        self.chain(kind, bore, [(a, 0.0), (b, math.dist(*path))], path)


def flows_of(drawing: Drawing, choice: LayoutChoice) -> np.ndarray:
    """What each emitter is sold as [L/h], array (emitters,)."""
    return np.array([node.flow_l_per_h or choice.flow_l_per_h for node in drawing.emitters])


def tubes_of(drawing: Drawing, prefix: str = "", rise_m: float = 0.0) -> list[Tube]:
    """The drawing's pieces as tubes of a network; the feed keeps its name where there is no prefix."""
    name = (lambda n: f"{prefix}{n}") if prefix else (lambda n: n)
    return [Tube(name(a), name(b), length, bore, rise_m) for a, b, length, bore in drawing.pieces]


def emitters_of(drawing: Drawing, choice: LayoutChoice, prefix: str = "") -> list[Emitter]:
    """The drawing's emitters as emitters of a network."""
    kind = emitter_kind(choice.compensating)
    sold_as = [(f"{prefix}{node.name}", node.flow_l_per_h or choice.flow_l_per_h) for node in drawing.emitters]
    if choice.compensating:
        heads = {"min_head_m": kind.min_head_m, "max_head_m": kind.max_head_m}
        return [Emitter(name, flow_l_per_h=flow, **heads) for name, flow in sold_as]
    at = kind.nominal_head_m**kind.exponent
    return [Emitter(name, k_l_per_h=flow / at, exponent=kind.exponent) for name, flow in sold_as]
