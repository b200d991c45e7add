"""A drawing changed by hand: emitters moved, added, taken out, given another flow, tees moved, one after another.

A change names its emitter or tee by the number that it has when the change is made. What a change can't find any more,
since the measures behind the drawing are others now, is left out (`lost`).
"""

import math
from dataclasses import dataclass, field, replace
from itertools import pairwise

import shapely
from shapely.ops import substring

from june_shade.core.drip.choice import Edit, LayoutChoice, bore_mm
from june_shade.core.drip.drawing import Drawing, Fitting, Node
from june_shade.core.drip.scene import TAKES_GROUND, Scene, crossed, shape
from june_shade.core.errors import InputError
from june_shade.core.units import in_m

LET_IN_M = 0.10
"""An emitter that is put so near to a tube goes into it; farther away a thin tube leads to it (common practice)."""
SPUR_BORE = "quarter_inch"
FARTHEST_M = 20.0
STRAIGHT = 1e-6
PLUGGED = "was-"
"""Before the name of what was an emitter."""
Path = tuple[tuple[float, float], ...]


@dataclass(slots=True)
class _Leg:
    """A tube from one thing on it to the next: its length [m] and drawn path."""

    length_m: float
    path: Path


@dataclass(slots=True)
class _Tube:
    """A tube taken apart: names of what lies on it, the legs between, what leads on past the last."""

    kind: str
    bore_mm: float
    names: list[str]
    legs: list[_Leg]
    tail: _Leg | None


@dataclass(slots=True)
class _Apart:
    """A drawing taken apart, so that it can be changed."""

    nodes: dict[str, Node]
    tubes: list[_Tube]
    fittings: list[Fitting]
    lost: int = 0
    made: int = 0
    order: list[str] = field(default_factory=list)

    def new(self, kind: str, x_m: float, y_m: float, flow_l_per_h: float = 0.0) -> str:
        """A node of its own name."""
        self.made += 1
        name = f"new{self.made}"
        self.nodes[name] = Node(name, x_m, y_m, kind, flow_l_per_h, by_hand=True)
        return name

    def paths(self) -> set[Path]:
        """The paths of all tubes between what lies on them."""
        return {leg.path for tube in self.tubes for leg in tube.legs}

    def numbered(self, number: int) -> str | None:
        """The name of the emitter with this number, None where there is none."""
        return self.order[number - 1] if 1 <= number <= len(self.order) else None

    def tee(self, number: int) -> str | None:
        """The name of the tee with this number, None where there is none."""
        tees = [name for name, node in self.nodes.items() if node.kind == "tee"]
        return tees[number - 1] if 1 <= number <= len(tees) else None

    def named(self, edit: Edit) -> str | None:
        """The name of what a change is of, None where that is not there."""
        return self.tee(edit.number) if edit.kind == "tee" else self.numbered(edit.number)


def edited(drawing: Drawing, choice: LayoutChoice) -> Drawing:
    """A drawing with the changes of its choice made, emitters numbered anew in their order."""
    apart = _taken_apart(drawing)
    for edit in choice.edits:
        _make(apart, edit)
    return _together(apart, drawing)


def _make(apart: _Apart, edit: Edit) -> None:
    name = apart.named(edit)
    if edit.kind == "add":
        _add(apart, edit)
    elif name is None:
        apart.lost += 1
    elif edit.kind == "move":
        _move(apart, name, edit)
    elif edit.kind == "tee":
        _move(apart, name, edit)
        of = [n for n, fitting in enumerate(apart.fittings) if fitting.kind == "tee"][edit.number - 1]
        apart.fittings[of] = Fitting("tee", edit.x_m, edit.y_m)
    elif edit.kind == "remove":
        apart.nodes[name] = replace(apart.nodes[name], kind="plug", flow_l_per_h=0.0)
        apart.order.remove(name)
    else:
        apart.nodes[name] = replace(apart.nodes[name], flow_l_per_h=edit.flow_l_per_h)


def sold_as(choice: LayoutChoice, emitters: int) -> list[float]:
    """What each of a layout's emitters is sold as [L/h], in their order.

    emitters: how many there are once all changes are made.
    """
    kinds = [edit.kind for edit in choice.edits]
    flows = [choice.flow_l_per_h] * (emitters + kinds.count("remove") - kinds.count("add"))
    for edit in choice.edits:
        own = edit.flow_l_per_h or choice.flow_l_per_h
        if edit.kind == "add":
            flows.append(own)
        elif edit.kind == "remove" and edit.number <= len(flows):
            del flows[edit.number - 1]
        elif edit.kind == "flow" and edit.number <= len(flows):
            flows[edit.number - 1] = own
    return flows


def check(choice: LayoutChoice, drawing: Drawing, scene: Scene) -> None:
    """Refuse changes that can't be laid, each by its place in the list.

    drawing: without the changes. Raises InputError for an emitter or a tee that isn't there, is on ground that is
    taken, in the trunk or far away; for a tube across such ground; for the last emitter taken out; and for emitters
    built into tube.
    """
    if choice.inline and any(edit.kind not in ("add", "tee") for edit in choice.edits):
        raise InputError("emitters that are built into the tube stay where they are: choose emitters put on", "inline")
    apart = _taken_apart(drawing)
    for number, edit in enumerate(choice.edits):
        at = f"edits[{number}]"
        if edit.kind != "add" and apart.named(edit) is None:
            if edit.kind == "tee":
                raise InputError(f"there is no tee {edit.number}", f"{at}.number")
            raise InputError(f"there is no emitter {edit.number}", f"{at}.number")
        if edit.kind == "remove" and len(apart.order) == 1:
            raise InputError("is the last emitter: a layout needs one", f"{at}.number")
        if edit.kind in ("move", "add", "tee"):
            _check_place(edit, scene, at)
        before = apart.paths()
        _make(apart, edit)
        if any(crossed(path, scene.obstacles) for path in apart.paths() - before):
            raise InputError("its tube would cross what stands there: lead it round", f"{at}.x_m")


def _check_place(edit: Edit, scene: Scene, at: str) -> None:
    far = math.hypot(edit.x_m, edit.y_m)
    if far > FARTHEST_M:
        raise InputError(f"must lie within {in_m(FARTHEST_M)} of the trunk", f"{at}.x_m")
    if far < scene.trunk_diameter_m / 2:
        raise InputError("the trunk stands there", f"{at}.x_m")
    if edit.kind == "tee":
        return  # its tubes are looked at
    for obstacle in scene.obstacles:
        if obstacle.kind in TAKES_GROUND and shape(obstacle).intersects(shapely.Point(edit.x_m, edit.y_m)):
            raise InputError("lies where paving or the like takes the ground: no emitter drips there", f"{at}.x_m")


def _taken_apart(drawing: Drawing) -> _Apart:
    made = _Apart({node.name: node for node in drawing.nodes}, [], [])
    made.order = [node.name for node in drawing.emitters]
    made.fittings = list(drawing.fittings)
    for run in drawing.runs:
        whole = shapely.LineString(run.path)
        first, long = run.stops[0][1], max(run.length_m, run.stops[-1][1] - run.stops[0][1])
        parts = [(at - first) / long for _, at in run.stops]
        legs = [_Leg(then - at, _cut(whole, a, b)) for (a, b), ((_, at), (_, then)) in zip(
            pairwise(parts), pairwise(run.stops), strict=True
        )]  # fmt: skip
        left = run.length_m - (run.stops[-1][1] - first)
        tail = _Leg(left, _cut(whole, parts[-1], 1.0)) if parts[-1] < 1.0 - STRAIGHT else None
        made.tubes.append(_Tube(run.kind, run.bore_mm, [name for name, _ in run.stops], legs, tail))
    return made


def _cut(line: shapely.LineString, low: float, high: float) -> Path:
    """A part of a path, from one share of its length to another."""
    part = substring(line, low, high, normalized=True)
    points = tuple((float(x), float(y)) for x, y in part.coords)
    return points if len(points) > 1 else points * 2  # of two things at one place


def _chord(path: Path) -> float:
    return math.dist(path[0], path[-1])


def _move(apart: _Apart, name: str, edit: Edit) -> None:
    """Put an emitter or a tee elsewhere; the tubes that meet there are laid straight to it, as slack as they were."""
    apart.nodes[name] = replace(apart.nodes[name], x_m=edit.x_m, y_m=edit.y_m, by_hand=True)
    for tube in apart.tubes:
        for number, ends in enumerate(pairwise(tube.names)):
            if name in ends:
                leg = tube.legs[number]
                slack = leg.length_m / _chord(leg.path) if _chord(leg.path) > STRAIGHT else 1.0
                path = tuple((apart.nodes[end].x_m, apart.nodes[end].y_m) for end in ends)
                tube.legs[number] = _Leg(max(1.0, slack) * math.dist(*path), path)
        if tube.tail is not None and tube.names[-1] == name:
            tube.tail = _Leg(tube.tail.length_m, ((edit.x_m, edit.y_m), *tube.tail.path[1:]))


def _add(apart: _Apart, edit: Edit) -> None:
    """Let an emitter into the tube beside it, or lead a thin tube to it from a tee in the nearest one."""
    here = shapely.Point(edit.x_m, edit.y_m)
    places = [
        (shapely.LineString(leg.path).distance(here), tube, number)
        for tube in apart.tubes for number, leg in enumerate(tube.legs)
    ]  # fmt: skip
    far, tube, number = min(places, key=lambda place: place[0])
    line = shapely.LineString(tube.legs[number].path)
    on = line.interpolate(line.project(here))
    kind = "emitter" if far <= LET_IN_M else "tee"
    name = apart.new(kind, on.x, on.y, edit.flow_l_per_h if kind == "emitter" else 0.0)
    share = line.project(here, normalized=True)
    leg = tube.legs[number]
    tube.legs[number : number + 1] = [
        _Leg(share * leg.length_m, _cut(line, 0.0, share)), _Leg((1 - share) * leg.length_m, _cut(line, share, 1.0)),
    ]  # fmt: skip
    tube.names.insert(number + 1, name)
    if kind == "tee":
        apart.fittings.append(Fitting("tee", on.x, on.y))
        tee, name = name, apart.new("emitter", edit.x_m, edit.y_m, edit.flow_l_per_h)
        path = ((on.x, on.y), (edit.x_m, edit.y_m))
        apart.tubes.append(_Tube("spur", bore_mm(SPUR_BORE), [tee, name], [_Leg(math.dist(*path), path)], None))
    apart.order.append(name)


def _together(apart: _Apart, was: Drawing) -> Drawing:
    """The drawing that the parts make."""
    names = {name: f"{PLUGGED}{name}" if node.kind == "plug" else name for name, node in apart.nodes.items()}
    names |= {name: f"e{number}" for number, name in enumerate(apart.order, 1)}
    made = Drawing(
        nodes=[replace(node, name=names[name]) for name, node in apart.nodes.items() if name not in apart.order],
        fittings=apart.fittings, cut=was.cut, skipped_arms=was.skipped_arms, tail_m=was.tail_m, lost=apart.lost,
        hand_dug=was.hand_dug,
    )  # fmt: skip
    made.nodes += [replace(apart.nodes[name], name=names[name]) for name in apart.order]
    for tube in apart.tubes:
        path: list[tuple[float, float]] = []
        stops, at = [(names[tube.names[0]], 0.0)], 0.0
        for leg, end in zip(tube.legs, tube.names[1:], strict=True):
            at += leg.length_m
            stops.append((names[end], at))
            path += leg.path if not path else leg.path[1:]
        if tube.tail is not None:
            at += tube.tail.length_m
            path += tube.tail.path[1:] if path else tube.tail.path
        made.chain(tube.kind, tube.bore_mm, stops, path, at)
    return made
