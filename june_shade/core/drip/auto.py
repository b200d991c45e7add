"""The best layout for a tree: every pattern is tried in the sizes that the tree asks for.

What fails first decides, in the order of the six achievements; of those that do as well, the one with the least to
buy and lay. Radii come in steps of 5 cm, as a crew lays them. Many are weighed at once on points spread over the root
zone; the one chosen is then drawn and judged exactly (`verdict`).
"""

import math
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
import shapely

from june_shade.core.drip.choice import LEAST_ARM_M, PATTERNS, LayoutChoice
from june_shade.core.drip.judge import NO_BALL_SHARE, NO_BALL_UPTAKE
from june_shade.core.drip.outline import Outline, outline
from june_shade.core.drip.scene import Scene
from june_shade.core.drip.verdict import (
    ACHIEVEMENTS,
    Achievement,
    Figures,
    achieved,
    along_row,
    days_to_move,
    failed,
    nominal_uniformity,
    run_of,
)
from june_shade.core.errors import InputError
from june_shade.core.geometry import bulb
from june_shade.core.geometry.wetting import circle_overlap_m2

STEP_M = 0.05
ON_BALL_SHARE = 2.0 / 3.0
"""Points on the ball sit at two thirds of its radius (common practice)."""
POINTS = 240
"""Points over the root zone by which layouts are weighed before one is drawn: a fraction within about 0.03."""
BESIDE_POINTS = 480
"""As many where something stands beside the tree and takes part of them away."""
FLOWS_L_H = (2.0, 4.0, 8.0)
"""Emitters that are sold anywhere (common practice: 0.5, 1 and 2 gal/h)."""
HEDGE_SPACING_M = 2.5
"""In a row closer than this lines along it beat rings (common practice)."""
CLOSER_M = 0.15
KEPT = 4
"""Of each pattern so many sizes are tried with a second and third flow."""
MARGIN = 0.02
"""What points leave uncertain: a layout must pass by this much to be chosen."""


@dataclass(frozen=True, slots=True)
class Suggestion:
    """A pattern at its best for a tree, as weighed: the six, emitters and tube that it takes, its penalty."""

    choice: LayoutChoice
    achievements: tuple[Achievement, ...]
    emitters: int
    tube_m: float
    penalty: float

    @property
    def failed(self) -> tuple[str, ...]:
        """What is not achieved, in order."""
        return failed(self.achievements)


def spacing_for_m(conductivity_mm_h: float) -> float:
    """Usual spacing of emitters by soil [m]: sand 0.30, loam 0.45, clay 0.60. Source: [KB90] (from memory)."""
    return 0.30 if conductivity_mm_h > 40 else 0.45 if conductivity_mm_h > 5 else 0.60


def rounded(length_m: float) -> float:
    """A length in the steps that a crew lays [m]."""
    return round(max(STEP_M, STEP_M * round(length_m / STEP_M)), 3)


def candidates(scene: Scene, start: LayoutChoice) -> list[LayoutChoice]:
    """Layouts worth trying with one kind of emitter. start: what all take over: flow, feed, bore."""
    ball, roots = scene.ball_radius_m, max(scene.roots_next_m, scene.ball_radius_m + 0.1)
    usual = spacing_for_m(
        scene.conductivity_mm_h if scene.proven_conductivity_mm_h is None else scene.proven_conductivity_mm_h
    )
    start = replace(start, spacing_m=usual)
    radii = sizes(scene, (ON_BALL_SHARE * ball, ball, 0.55 * roots, 0.7 * roots, 0.85 * roots))
    on_ball = rounded(max(scene.dry_m, ON_BALL_SHARE * ball))
    found = [replace(start, pattern="on_ball", radius_m=on_ball, points=n) for n in (2, 3, 4)]
    found += [
        replace(start, pattern="ring", radius_m=r, spacing_m=s) for r in radii for s in (usual, usual - CLOSER_M)
    ]  # fmt: skip
    found += [
        replace(start, pattern="two_rings", radius_m=r, inner_radius_m=on_ball, points=n)
        for r in radii if r >= on_ball + 0.2
        for n in (3, 4, 6, 8)
    ]  # fmt: skip
    reach = rounded(0.95 * roots)
    found += [
        replace(start, pattern="ring_arms", radius_m=r, arms=n, arm_reach_m=reach)
        for r in radii if r <= 0.7 * roots and reach >= r + 2 * LEAST_ARM_M
        for n in (3, 4, 6)
    ]  # fmt: skip
    if scene.row is not None and scene.row.spacing_m <= HEDGE_SPACING_M:
        beside = [(0, s) for s in (usual, usual - CLOSER_M)] + [(n, s) for n in (2, 3) for s in (0.15, 0.3)]
        found += [
            replace(start, pattern="row_lines", lines=n, offset_m=r, spacing_m=s, points=k)
            for n in (2, 1) for r in sizes(scene, (0.0, ON_BALL_SHARE * ball, ball, 0.5 * roots)) for k, s in beside
        ]  # fmt: skip
    return list(dict.fromkeys(found))


def sizes(scene: Scene, wanted_m: Sequence[float]) -> list[float]:
    """Radii in steps, none where the trunk is kept dry."""
    return sorted({rounded(max(scene.dry_m, r)) for r in wanted_m})


@lru_cache(maxsize=4096)
def _points(scene: Scene) -> np.ndarray:
    """Points evenly spread over what is left of the root zone, array (points, 2); none where nothing is left."""
    low, high = scene.dry_m, scene.roots_next_m
    if high <= low:
        return np.zeros((0, 2))
    points = spread(BESIDE_POINTS if scene.obstacles else POINTS, low, high)
    return points[shapely.contains_xy(scene.zone(), *points.T)] if scene.obstacles else points


def spread(count: int, low_m: float, high_m: float) -> np.ndarray:
    """Points evenly spread between two circles, in the turns of a sunflower head; array (count, 2) [m]."""
    n = np.arange(count) + 0.5
    r, turn = np.sqrt(low_m**2 + (high_m**2 - low_m**2) * n / count), n * math.pi * (3.0 - math.sqrt(5.0))
    return np.column_stack([r * np.cos(turn), r * np.sin(turn)])


UNIT_POINTS = spread(POINTS, 0.0, 1.0)
"""Points over a circle of 1, that tell how much the circles of a layout lie over each other."""


def weighed(places: Sequence[np.ndarray], flow_l_per_h: float, scene: Scene) -> list[Figures]:
    """What layouts wet at nominal flow, by points. places: of each layout's emitters, array (emitters, 2).

    Figures as `verdict.judged` finds them exactly.
    """
    count = np.array([len(at) for at in places])
    there = np.arange(count.max()) < count[:, None]
    at = np.full((*there.shape, 2), np.nan)
    at[there] = np.concatenate(places)
    far = np.hypot(at[..., 0], at[..., 1])
    each = (scene.volume_l / count)[:, None]
    ks = scene.conductivity_at(far)
    width, depth = bulb.diameter_m(each, flow_l_per_h, ks), bulb.depth_m(each, flow_l_per_h, ks)
    radius, area = width / 2, np.pi / 4 * width**2
    with np.errstate(invalid="ignore"):
        on_ball = circle_overlap_m2(scene.ball_radius_m, radius, far) / area
        fraction = _covered(at, np.where(there, radius, 0.0), scene)
    share = np.nansum(np.where(there, on_ball, 0.0), axis=1) / count
    whole = np.sum(np.where(there, area, 0.0), axis=1)
    shallow = np.any(bulb.is_shallow(width, depth) & there, axis=1)
    deep, reach = np.min(np.where(there, depth, np.inf), axis=1), np.max(np.where(there, far + radius, 0.0), axis=1)
    to_one = reach[:, None, None]
    times = _circles_over(at / to_one, np.where(there, radius, 0.0) / to_one[..., 0], UNIT_POINTS)
    once = np.sum(times > 0, axis=1) / np.maximum(1, np.sum(times, axis=1))
    union = np.maximum(area[:, 0], whole * np.where(np.any(times, axis=1), once, 1.0))
    sunk, flows = scene.sunk_depth_m(deep, union), count * flow_l_per_h
    return [
        Figures(float(s), float(f), float(u), float(z), bool(flat), float(r), float(q), float(d))
        for s, f, u, z, flat, r, q, d in zip(share, fraction, union, deep, shallow, reach, flows, sunk, strict=True)
    ]


def _covered(at: np.ndarray, radius: np.ndarray, scene: Scene) -> np.ndarray:
    """Part of the points of the root zone that lie in a circle; at (layouts, emitters, 2), NaN where none are left."""
    points = _points(scene)
    if not len(points):
        return np.full(len(at), np.nan)
    covered = np.zeros((len(at), len(points)), bool)
    for shift in along_row(np.zeros((1, 2)), scene):
        covered |= _circles_over(at + shift, radius, points) > 0
    return np.mean(covered, axis=1)


def _circles_over(at: np.ndarray, radius: np.ndarray, points: np.ndarray) -> np.ndarray:
    """In how many circles of each layout each point lies; at (layouts, emitters, 2), radius (layouts, emitters),
    points (points, 2), result (layouts, points)."""
    apart = (at[..., :1] - points[:, 0]) ** 2 + (at[..., 1:] - points[:, 1]) ** 2
    return np.asarray(np.sum(apart <= radius[..., None] ** 2, axis=1, dtype=np.int16))


def _penalty(achievements: tuple[Achievement, ...], dry_ball: bool, emitters: int, planned: Outline) -> float:
    """How far a layout is from doing its work: what fails by its place in the order, by how much, what it takes."""
    total = 4.0 ** len(ACHIEVEMENTS) if dry_ball else 0.0
    for place, a in enumerate(achievements):
        if a.passed:
            continue
        total += 4.0 ** (len(ACHIEVEMENTS) - place)
        if a.value is not None and a.low is not None and a.value < a.low:
            total += 3.0 ** (len(ACHIEVEMENTS) - place) * (a.low - a.value) / max(a.low, 1e-9)
        elif a.value is not None and a.high is not None and a.value > a.high:
            total += 3.0 ** (len(ACHIEVEMENTS) - place) * min(1.0, (a.value - a.high) / max(a.high, 1e-9))
    return total + 0.02 * emitters + 0.01 * planned.tube_m + 0.03 * planned.tees


@dataclass(frozen=True, slots=True)
class Weighed:
    """A layout as weighed at one flow: the six, its emitters and tube, how far it is from doing its work."""

    achievements: tuple[Achievement, ...]
    emitters: int
    tube_m: float
    penalty: float


def weigh(
    planned: Sequence[Outline], flow_l_per_h: float, compensating: bool, scene: Scene, roots_ahead_m: np.ndarray | None
) -> list[Weighed]:
    """Layouts with emitters of one flow, as weighed, in their order."""
    found = []
    layouts = weighed([p.at for p in planned], flow_l_per_h, scene)
    moves = days_to_move(scene, layouts, roots_ahead_m)
    for lies, figures, move in zip(planned, layouts, moves, strict=True):
        count = len(lies.at)
        six = achieved(
            figures, run_of(figures, scene), scene, nominal_uniformity(compensating, count), move, margin=MARGIN,
        )  # fmt: skip
        dry = figures.ball_share < NO_BALL_SHARE and scene.uptake_from_ball > NO_BALL_UPTAKE
        found.append(Weighed(six, count, lies.tube_m, _penalty(six, dry, count, lies)))
    return found


def laid_out(choices: Sequence[LayoutChoice], scene: Scene) -> tuple[list[LayoutChoice], list[Outline]]:
    """Those of these layouts that can be laid, with their outlines."""
    can, planned = [], []
    for choice in choices:
        try:
            planned.append(outline(choice, scene))
        except InputError:
            continue
        can.append(choice)
    return can, planned


def _likely(choices: Sequence[LayoutChoice], found: Sequence[Weighed]) -> list[int]:
    """Positions of the few best of each pattern."""
    seen: Counter[str] = Counter()
    likely = []
    for i in sorted(range(len(found)), key=lambda i: found[i].penalty):
        seen[choices[i].pattern] += 1
        if seen[choices[i].pattern] <= KEPT:
            likely.append(i)
    return likely


@lru_cache(maxsize=4096)
def _best(
    scene: Scene, base: LayoutChoice, flows: tuple[float, ...], ahead: tuple[float, ...]
) -> tuple[Suggestion, ...]:
    grown = np.array(ahead) if ahead else None
    choices, planned = laid_out(candidates(scene, base), scene)
    best: dict[str, Suggestion] = {}
    for flow in flows if choices else ():
        found = weigh(planned, flow, base.compensating, scene, grown)
        for choice, one in zip(choices, found, strict=True):
            if choice.pattern not in best or one.penalty < best[choice.pattern].penalty:
                kept = replace(choice, flow_l_per_h=flow)
                best[choice.pattern] = Suggestion(kept, one.achievements, one.emitters, one.tube_m, one.penalty)
        if any(not found.failed for found in best.values()):
            break  # this flow does it all: no need to try others
        if len(choices) > KEPT * len(best):  # with another flow only the likely ones are tried again
            likely = _likely(choices, found)
            choices, planned = [choices[i] for i in likely], [planned[i] for i in likely]
    return tuple(sorted(best.values(), key=lambda s: (s.penalty, PATTERNS.index(s.choice.pattern))))


def for_tree(
    scene: Scene,
    base: LayoutChoice | None = None,
    flows: Sequence[float] = FLOWS_L_H,
    roots_ahead_m: np.ndarray | None = None,
) -> tuple[Suggestion, ...]:
    """Each pattern at its best for a tree, the best first; empty where nothing can be laid.

    base: what is given: kind of emitter, where the feed comes from, bore. flows: of one emitter, tried in this order
    until one does everything. roots_ahead_m: as in `verdict.judged`.
    """
    ahead = () if roots_ahead_m is None else tuple(map(float, roots_ahead_m))
    return _best(scene, base or LayoutChoice("ring"), tuple(flows), ahead)
