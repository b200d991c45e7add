"""Steady flow in tubes with loops: a ring is two chains that meet, a line is many rings on one lateral.

The global gradient method of [TP88]: each step takes every tube and emitter as straight about its flow of the step
before, and solves the heads that make what flows in flow out at every node. An emitter is a way out to open air; a
compensating one is flat above its least head and falls off as the square root below it; none lets water in.
Heads are pressure heads above each node, m of water; the inlet stands at 0. Flows L/h.
"""

import math
from collections import deque
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy.optimize import brentq
from scipy.sparse import csc_array
from scipy.sparse.linalg import splu

from june_shade.core.drip.tubes import L_H_PER_M3_S, Friction, loss_and_slope, velocity_m_s
from june_shade.core.errors import InputError
from june_shade.core.numbers import Numbers
from june_shade.core.units import in_m

INLET = "inlet"
STEPS = 400
HASTE = 20
"""So many Newton steps; emitters that then still open and shut in turn are taken by what their last heads give."""
CALM = 0.7
CALM_SETTLED = 1e-6
DENSE = 80
"""Up to so many nodes a full matrix is solved faster than a sparse one."""
SAGS_M = 1e-4
"""A supply that sags by less than a tenth of a millimetre is steady."""
BEGIN_M_S = 0.3
SETTLED = 1e-8
STEEP = 1e7
"""Slope [m per L/h] of what must not give way: a compensating emitter above its least head, air drawn in."""
FLAT = 1e-9
TRICKLE_M = 1e-6
"""Under this head an emitter is taken as straight, so that it can be solved by."""
LEAST_M = 1e-3
"""Head from which an emitter without exponent gives its flow."""
RISES_MEET_M = 1e-6


@dataclass(frozen=True, slots=True)
class Tube:
    """One straight piece: from node to node, length and bore [m], how far its end lies above its beginning [m]."""

    start: str
    end: str
    length_m: float
    bore_m: float
    rise_m: float = 0.0


@dataclass(frozen=True, slots=True)
class Emitter:
    """An emitter at a node: q = k h^exponent, or compensating: flow_l_per_h from min_head_m up to max_head_m."""

    node: str
    k_l_per_h: float = 0.0
    exponent: float = 0.5
    flow_l_per_h: float = 0.0
    min_head_m: float = 0.0
    max_head_m: float | None = None

    @property
    def compensating(self) -> bool:
        """Whether it holds its flow over a range of heads."""
        return self.flow_l_per_h > 0

    def nominal_l_per_h(self, head_m: float) -> float:
        """What it is meant to give [L/h]: its own flow, or k h^x at this head."""
        return self.flow_l_per_h if self.compensating else self.k_l_per_h * max(0.0, head_m) ** self.exponent


@dataclass(frozen=True, slots=True)
class Flowing:
    """What settles. Per node: head_m, outflow_l_per_h, above_inlet_m; per tube: flow_l_per_h (positive from start to
    end), velocity_m_s, loss_m; per emitter: emitter_l_per_h, emitter_head_m. `nodes` gives the order, the inlet
    first."""

    nodes: tuple[str, ...]
    head_m: np.ndarray
    outflow_l_per_h: np.ndarray
    above_inlet_m: np.ndarray
    flow_l_per_h: np.ndarray
    velocity_m_s: np.ndarray
    loss_m: np.ndarray
    emitter_l_per_h: np.ndarray
    emitter_head_m: np.ndarray

    @property
    def total_l_per_h(self) -> float:
        """What runs in at the inlet [L/h]."""
        return float(np.sum(self.emitter_l_per_h))


def heights_m(tubes: Sequence[Tube], inlet: str = INLET) -> dict[str, float]:
    """How far each node lies above the inlet [m], nodes in the order of the tubes.

    Raises InputError for a tube that ends where it begins, a node that can't be reached, or a loop whose rises don't
    come back to where they began.
    """
    beside: dict[str, list[tuple[str, float]]] = {inlet: []}
    for number, tube in enumerate(tubes):
        if tube.start == tube.end:
            raise InputError(f"begins and ends at {tube.start!r}", f"tubes[{number}].to")
        beside.setdefault(tube.start, []).append((tube.end, tube.rise_m))
        beside.setdefault(tube.end, []).append((tube.start, -tube.rise_m))
    height = {inlet: 0.0}
    waiting = deque([inlet])
    while waiting:
        node = waiting.popleft()
        for other, rise in beside[node]:
            if other not in height:
                height[other] = height[node] + rise
                waiting.append(other)
    for number, tube in enumerate(tubes):
        if tube.start not in height:
            raise InputError(f"no tube leads from the {inlet} to {tube.start!r}", f"tubes[{number}].from")
        off = height[tube.start] + tube.rise_m - height[tube.end]
        if abs(off) > RISES_MEET_M:
            raise InputError(
                f"the rises round this loop are {in_m(off)} off: they must sum to 0", f"tubes[{number}].rise_m"
            )
    return {node: height[node] for node in beside}


class _Outlets:
    """All emitters as arrays: the head that a flow wants, how it grows, and the flow that a head gives."""

    def __init__(self, emitters: Sequence[Emitter]) -> None:
        held = [e.compensating or e.exponent == 0 for e in emitters]
        self.held = np.array(held, bool)
        self.flow = np.array([e.flow_l_per_h if e.compensating else e.k_l_per_h for e in emitters], float)
        self.least = np.array([e.min_head_m if e.compensating else 0.0 for e in emitters], float)
        self.least = np.maximum(self.least, LEAST_M)
        self.exponent = np.array([1.0 if h else e.exponent for e, h in zip(emitters, held, strict=True)], float)
        self.trickle = np.where(self.held, 1e-4, TRICKLE_M**self.exponent)

    def gives(self, head: Numbers) -> Numbers:
        """Flow at these heads [L/h]; nothing below 0.

        head: at each emitter [m], array (emitters,).
        """
        open_ = np.maximum(head, 0.0)
        held = self.flow * np.sqrt(np.minimum(1.0, open_ / self.least))
        return np.where(self.held, held, self.flow * open_**self.exponent)

    def held_to(self, q: Numbers, head: Numbers, most: Numbers) -> Numbers:
        """A step's flows brought back to what these heads can give: shut below 0 head, never over `most`.

        q: flows [L/h], head, most: heads [m]; arrays (emitters,).
        """
        shut = head <= 0
        back = (q <= 0) & ~shut
        return np.where(shut, head / STEEP, np.where(back, 0.5 * self.gives(head), np.minimum(q, most)))

    def wants(self, q: Numbers) -> Numbers:
        """Head that drives these flows [m], and how it grows [m per L/h].

        q: flows [L/h], array (emitters,).
        """
        share = np.maximum(q / self.flow, self.trickle)
        power = share ** (1.0 / self.exponent)
        below = share < 1.0
        held = np.where(below, self.least * share**2, self.least + STEEP * (q - self.flow))
        head = np.where(self.held, held, power)
        slope = np.where(self.held, np.where(below, 2 * held / (share * self.flow), STEEP),
                         power / (self.exponent * share * self.flow))  # fmt: skip
        trickling = q < self.trickle * self.flow
        head, slope = np.where(trickling, head * q / (self.trickle * self.flow), head), np.maximum(slope, FLAT)
        return np.where(q <= 0, STEEP * q, head), np.where(q <= 0, STEEP, slope)


def solve(
    tubes: Sequence[Tube],
    emitters: Sequence[Emitter],
    inlet_head_m: float,
    friction: Friction | None = None,
) -> Flowing:
    """Heads and flows of a network fed at node `inlet` with this head.

    Raises InputError as `heights_m`, for an emitter at a node that no tube reaches, and where nothing settles.
    """
    friction = friction or Friction()
    height = heights_m(tubes)
    nodes = tuple(height)
    at = {node: i for i, node in enumerate(nodes)}
    for number, emitter in enumerate(emitters):
        if emitter.node not in at:
            raise InputError(f"no tube reaches {emitter.node!r}", f"emitters[{number}].node")
    z = np.array([height[node] for node in nodes])
    a = np.array([at[t.start] for t in tubes])
    b = np.array([at[t.end] for t in tubes])
    length, bore = np.array([t.length_m for t in tubes]), np.array([t.bore_m for t in tubes])
    outlet = np.array([at[e.node] for e in emitters], int)
    ways = _Outlets(emitters)
    highest = inlet_head_m - min(0.0, float(z.min()))
    most = ways.gives(highest) + ways.held * highest / STEEP
    scale = 1.0 + float(np.sum(most))
    q, out = np.pi / 4 * bore**2 * BEGIN_M_S * L_H_PER_M3_S, most.copy()
    total = np.full(len(nodes), float(inlet_head_m))
    ends = a - 1, b - 1, outlet - 1  # the inlet's head is known: -1
    for step in range(STEPS):
        hasty = step < HASTE
        loss, slope = loss_and_slope(q, length, bore, friction)
        y = 1.0 / np.maximum(slope, FLAT)
        if hasty:
            head, rises = ways.wants(out)
            ye = 1.0 / rises
        else:
            head = (total - z)[outlet]
            out = ways.gives(head)
            ye = np.where(head > 0, out / np.where(head > 0, head, 1.0), 1.0 / STEEP)
        s, se = q - y * loss, out - ye * (head + z[outlet])
        into = np.bincount(b, s, len(nodes)) - np.bincount(a, s, len(nodes)) - np.bincount(outlet, se, len(nodes))
        from_inlet = np.bincount(b, np.where(a == 0, y, 0.0), len(nodes)) + np.bincount(
            a, np.where(b == 0, y, 0.0), len(nodes)
        )
        into = into + inlet_head_m * from_inlet
        total[1:] += (1.0 if hasty else CALM) * (_heads(ends, y, ye, into[1:]) - total[1:])
        flowing, straight = s + y * (total[a] - total[b]), se + ye * total[outlet]
        head = (total - z)[outlet]
        pouring = ways.held_to(straight, head, most) if hasty else ways.gives(head)
        moved = max(np.max(np.abs(flowing - q)), np.max(np.abs(pouring - out)), np.max(np.abs(pouring - straight)))
        q, out = flowing, pouring
        if moved <= (SETTLED if hasty else CALM_SETTLED) * scale:
            break
    else:
        raise InputError("the flows in these tubes do not settle: check lengths, bores and emitters", "tubes")
    pressure = total - z
    gives = np.clip(out, 0.0, np.where(ways.held, ways.flow, np.inf))
    return Flowing(
        nodes=nodes,
        head_m=pressure,
        outflow_l_per_h=np.bincount(outlet, gives, len(nodes)),
        above_inlet_m=z,
        flow_l_per_h=q,
        velocity_m_s=velocity_m_s(q, bore),
        loss_m=loss_and_slope(q, length, bore, friction)[0],
        emitter_l_per_h=gives,
        emitter_head_m=pressure[outlet],
    )


def _heads(
    ends: tuple[np.ndarray, np.ndarray, np.ndarray], y: np.ndarray, ye: np.ndarray, into: np.ndarray
) -> np.ndarray:
    """Solve for the heads of all nodes but the inlet: conductances y from end to end, ye to open air."""
    a, b, outlet = ends
    both = (a >= 0) & (b >= 0)
    out = outlet >= 0
    rows = (a[a >= 0], b[b >= 0], a[both], b[both], outlet[out])
    columns = (a[a >= 0], b[b >= 0], b[both], a[both], outlet[out])
    data = (y[a >= 0], y[b >= 0], -y[both], -y[both], ye[out])
    size = len(into)
    if size <= DENSE:
        dense = np.zeros((size, size))
        np.add.at(dense, (np.concatenate(rows), np.concatenate(columns)), np.concatenate(data))
        return np.linalg.solve(dense, into)
    matrix = csc_array((np.concatenate(data), (np.concatenate(rows), np.concatenate(columns))), shape=(size, size))
    return splu(matrix).solve(into)


@dataclass(frozen=True, slots=True)
class Supply:
    """What feeds a network: static head [m] and what runs out of the open pipe [L/h], which a bucket times.

    It sags as it runs: h = h0 (1 - (q/q0)^2) (calibrated: loss by the square of the flow). regulated_m: a regulator
    that lets no more head through, None = none.
    """

    static_m: float
    open_l_per_h: float
    regulated_m: float | None = None

    def head_m(self, flow_l_per_h: float) -> float:
        """Head behind the regulator while so much runs [m]."""
        left = self.static_m * (1.0 - (flow_l_per_h / self.open_l_per_h) ** 2)
        return left if self.regulated_m is None else min(left, self.regulated_m)

    def flow_at_l_per_h(self, head_m: float) -> float:
        """The most that it gives with this head left [L/h]."""
        return self.open_l_per_h * float(np.sqrt(max(0.0, 1.0 - head_m / self.static_m)))


def solve_with(
    tubes: Sequence[Tube], emitters: Sequence[Emitter], supply: Supply, friction: Friction | None = None
) -> Flowing:
    """As `solve`, with the inlet's head that the supply has left while all of it runs."""
    top = supply.head_m(0.0)
    full = solve(tubes, emitters, top, friction)
    if supply.head_m(full.total_l_per_h) >= top - SAGS_M:
        return full

    def over(head: float) -> float:
        return head - supply.head_m(solve(tubes, emitters, head, friction).total_l_per_h)

    return solve(tubes, emitters, float(brentq(over, 0.0, top, xtol=1e-6)), friction)


def emission_uniformity(flow_l_per_h: Numbers, nominal_l_per_h: Numbers, cv: float, per_tree: int) -> float:
    """Emission uniformity EU [%]: 100 (1 - 1.27 CV/sqrt(n)) q_min/q_avg, each flow over its nominal. Source: [KK74].

    flow_l_per_h, nominal_l_per_h: arrays (emitters,). cv: the maker's variation. per_tree: emitters a tree, n.
    """
    flow, nominal = np.asarray(flow_l_per_h, float), np.asarray(nominal_l_per_h, float)
    with np.errstate(divide="ignore", invalid="ignore"):
        share = np.where(nominal > 0, flow / nominal, 0.0)
    mean = float(np.mean(share))
    if mean <= 0:
        return 0.0
    return max(0.0, 100.0 * (1.0 - 1.27 * cv / math.sqrt(per_tree)) * float(np.min(share)) / mean)


def uniformity_of(emitters: Sequence[Emitter], flowing: Flowing, cv: float, per_tree: int) -> float:
    """Emission uniformity of a solved network [%].

    cv: coefficient of variation of new emitters, 0..1.
    """
    mean_head = float(np.mean(flowing.emitter_head_m))
    nominal = [e.nominal_l_per_h(mean_head) for e in emitters]
    return emission_uniformity(flowing.emitter_l_per_h, nominal, cv, per_tree)


def dead_ends(tubes: Sequence[Tube], emitters: Sequence[Emitter]) -> list[str]:
    """Nodes at which a tube ends without an emitter or a further tube: it leads nowhere."""
    met: dict[str, int] = {}
    for tube in tubes:
        for node in (tube.start, tube.end):
            met[node] = met.get(node, 0) + 1
    fed = {emitter.node for emitter in emitters}
    return [node for node, count in met.items() if count == 1 and node != INLET and node not in fed]
