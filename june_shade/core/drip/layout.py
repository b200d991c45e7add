"""From a pattern and its measures to a drawing that can be laid, with what was changed by hand on it."""

import math

import numpy as np

from june_shade.core.drip import edits
from june_shade.core.drip.choice import LayoutChoice
from june_shade.core.drip.drawing import Drawing, Fitting
from june_shade.core.drip.outline import SPOKE_TURN_DEG, Arc, Arm, Outline, outline
from june_shade.core.drip.scene import Scene, hand_dug, toward

FEED_BEYOND_M = 0.30
DRAWN_EVERY_DEG = 6.0


def draw(choice: LayoutChoice, scene: Scene) -> Drawing:
    """The drawing of a layout, changes by hand made. Raises InputError as `outline` does."""
    made = of_pattern(choice, scene)
    return edits.edited(made, choice) if choice.edits else made


def checked(choice: LayoutChoice, scene: Scene) -> Drawing:
    """The same of a layout that somebody asks for. Raises InputError also for a change by hand that can't be laid."""
    if choice.edits:
        edits.check(choice, of_pattern(choice, scene), scene)
    return draw(choice, scene)


def of_pattern(choice: LayoutChoice, scene: Scene) -> Drawing:
    """The drawing that a layout's measures make. Raises InputError as `outline` does."""
    planned = outline(choice, scene)
    made = Drawing(cut=planned.cut, skipped_arms=planned.skipped_arms, hand_dug=hand_dug(scene.obstacles))
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
