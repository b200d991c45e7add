"""Whether a layout will work: the six things that it must achieve, in their order, each a figure with pass or fail."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import shapely

from june_shade.core.drip import judge, network
from june_shade.core.drip.choice import LayoutChoice, emitter_kind
from june_shade.core.drip.drawing import Drawing, emitters_of, flows_of, tubes_of
from june_shade.core.drip.judge import Finding
from june_shade.core.drip.network import Emitter, Flowing, Supply, Tube
from june_shade.core.drip.scene import TAKES_GROUND, Scene, crossed, shape, toward
from june_shade.core.geometry import bulb, wetting
from june_shade.core.water.delivery import SURFACE_STORAGE_MM, Goes, cycle_and_soak
from june_shade.core.water.refill import OUTGROWN_REACH

ACHIEVEMENTS = ("ball_share", "wetted_fraction", "bulb", "run_time", "evenness", "next_move")
EVEN_PERCENT = 80.0
"""Emission uniformity under which the driest emitter goes by another clock. Source: [KK74] class good (from memory)."""
UNPRESSED = frozenset({"no_head", "head_low", "head_high", "velocity_high"})
LEAST_FLOW_L_H = 1e-9
STILL_SHARE = 0.01
"""A layout that gives less than this share of what it should stands still."""
REGULATED_M = 14.06
"""Head behind a 20 psi regulator, taken where the supply was not measured (common practice)."""


@dataclass(frozen=True, slots=True)
class Achievement:
    """key: of ACHIEVEMENTS. value in `unit`, None where it can't be told. low, high: wanted, None = no limit."""

    key: str
    value: float | None
    unit: str
    low: float | None
    high: float | None
    passed: bool


@dataclass(frozen=True, slots=True)
class Fed:
    """What the hydraulics found for one tree: flow of each emitter [L/h], heads [m], emission uniformity [%].
    caught: the flows, and how even they are, are a catch test's."""

    emitter_l_per_h: tuple[float, ...]
    emitter_head_m: tuple[float, ...]
    uniformity_percent: float
    findings: tuple[Finding, ...] = ()
    short_supply: bool = False
    caught: bool = False

    @property
    def flow_l_per_h(self) -> float:
        """What the tree gets [L/h]."""
        return float(sum(self.emitter_l_per_h))

    @property
    def worst_head_m(self) -> float:
        """Head of the emitter with the least [m]."""
        return min(self.emitter_head_m)


@dataclass(frozen=True, slots=True)
class Figures:
    """What a layout wets: share on the ball, wetted part of the root zone (NaN: no zone left), area of all its wetted
    ground [m2], its least bulb depth at the end of a run [m], whether a bulb is shallow, how far out it wets [m], its
    flow [L/h], how deep it is wet once that has sunk in [m]."""

    ball_share: float
    wetted_fraction: float
    union_m2: float
    least_depth_m: float
    shallow: bool
    reach_m: float
    flow_l_per_h: float
    sunk_depth_m: float

    @property
    def beside_ball_m2(self) -> float:
        """About how much wet ground lies beside the ball [m2]: what is not its share."""
        return self.union_m2 * (1.0 - self.ball_share)


@dataclass(frozen=True, slots=True)
class Run:
    """One watering: minutes that the valve is open, goes with rests, minutes in all, rate on the wetted ground."""

    run_min: float
    goes: Goes
    total_min: float
    rate_mm_h: float


@dataclass(frozen=True, slots=True)
class Verdict:
    """The six, what was found, and the figures behind them. widths, depths: of each bulb [m].
    litres_for_depth: of one watering that would wet deep enough, None where this one does."""

    achievements: tuple[Achievement, ...]
    findings: tuple[Finding, ...]
    figures: Figures
    run: Run
    zone_m2: float
    widths_m: tuple[float, ...]
    depths_m: tuple[float, ...]
    days_to_move: int | None
    litres_for_depth: float | None

    @property
    def failed(self) -> tuple[str, ...]:
        """Keys of what is not achieved, in order."""
        return failed(self.achievements)


def failed(achievements: tuple[Achievement, ...]) -> tuple[str, ...]:
    """Keys of what is not achieved, in order."""
    return tuple(a.key for a in achievements if not a.passed)


def run_of(figures: Figures, scene: Scene) -> Run:
    """How one watering runs."""
    minutes = 60.0 * scene.volume_l / figures.flow_l_per_h
    rate = figures.flow_l_per_h / figures.union_m2
    goes = cycle_and_soak(minutes, rate, scene.intake_mm_h, SURFACE_STORAGE_MM)
    return Run(minutes, goes, minutes + (goes.count - 1) * goes.rest_min, rate)


def achieved(
    figures: Figures, run: Run, scene: Scene, uniformity_percent: float, days: int | None, *,
    pressed: bool = True, short: bool = False, hours_allowed: float | None = None, margin: float = 0.0,
) -> tuple[Achievement, ...]:  # fmt: skip
    """The six with pass or fail. pressed: every emitter inside its working pressure, no tube too fast.

    margin: shares must pass by so much, where they are only known about.
    hours_allowed: longest a valve may stay open in a day [h], None = the six hours.
    """
    low = judge.WETTED_LOW_DRY if scene.rain_scarce else judge.WETTED_LOW
    wanted = judge.wanted_share(scene.uptake_from_ball)
    limit_min = judge.LONGEST_MIN if hours_allowed is None else min(judge.LONGEST_MIN, 60.0 * hours_allowed)
    share, fraction = figures.ball_share, figures.wetted_fraction
    known = not math.isnan(fraction)
    on_ball = share >= wanted + (margin if wanted else 0.0) and not judge.is_dry_ball(share, scene.uptake_from_ball)
    in_time = judge.SHORTEST_MIN <= run.run_min <= judge.LONGEST_MIN and run.total_min <= limit_min + 1e-9
    return (
        Achievement("ball_share", share, "", wanted, None, on_ball),
        Achievement("wetted_fraction", fraction if known else None, "", low, judge.WETTED_HIGH,
                    known and low + margin <= fraction <= judge.WETTED_HIGH - margin),
        Achievement("bulb", figures.sunk_depth_m, "m", scene.wanted_depth_m, None,
                    not figures.shallow and figures.sunk_depth_m >= scene.wanted_depth_m - 1e-9),
        Achievement("run_time", run.run_min, "min", judge.SHORTEST_MIN, limit_min, in_time and not short),
        Achievement("evenness", uniformity_percent, "%", EVEN_PERCENT, None,
                    bool(pressed and uniformity_percent >= EVEN_PERCENT)),
        Achievement("next_move", None if days is None else float(days), "day", float(scene.season_days), None,
                    days is None or days >= scene.season_days),
    )  # fmt: skip


def feed(drawing: Drawing, choice: LayoutChoice, supply: Supply | None = None) -> Fed:
    """Hydraulics of one tree by itself; without a supply, behind a 20 psi regulator that never runs short."""
    tubes, emitters = tubes_of(drawing), emitters_of(drawing, choice)
    source = supply or Supply(REGULATED_M, 1e6)
    flowing = network.solve_with(tubes, emitters, source)
    return _fed(tubes, emitters, flowing, choice, runs_short(choice, float(np.sum(flows_of(drawing, choice))), source))


def runs_short(choice: LayoutChoice, flow_l_per_h: float, supply: Supply) -> bool:
    """Whether emitters of this kind want more in all [L/h] than the supply gives at the head that they need."""
    kind = emitter_kind(choice.compensating)
    needs = kind.min_head_m if choice.compensating else 0.5 * kind.nominal_head_m
    return flow_l_per_h > supply.flow_at_l_per_h(needs) + 1e-9


def _fed(
    tubes: Sequence[Tube], emitters: Sequence[Emitter], flowing: Flowing, choice: LayoutChoice, short: bool
) -> Fed:
    uniformity = network.uniformity_of(emitters, flowing, emitter_kind(choice.compensating).cv, len(emitters))
    # the ends of a drawing are closed by construction: a short stub past the last emitter is no fault
    found = [finding for finding in judge.of_flow(tubes, emitters, flowing) if finding.code != "dead_end"]
    flows, heads = (tuple(map(float, v)) for v in (flowing.emitter_l_per_h, flowing.emitter_head_m))
    return Fed(flows, heads, uniformity, tuple(found), short)


@lru_cache
def nominal_uniformity(compensating: bool, emitters: int) -> float:
    """Emission uniformity of so many emitters with all the pressure they want [%]."""
    return network.emission_uniformity([1.0], [1.0], emitter_kind(compensating).cv, emitters)


def bulbs(places: np.ndarray, flow_l_per_h: np.ndarray, scene: Scene) -> tuple[np.ndarray, np.ndarray]:
    """Width and depth of the bulb under each emitter for one watering [m]; places (emitters, 2), flows (emitters,)."""
    flow = np.maximum(flow_l_per_h, LEAST_FLOW_L_H)
    each = scene.volume_l * flow / np.sum(flow)
    ks = scene.conductivity_at(np.hypot(places[:, 0], places[:, 1]))
    return bulb.diameter_m(each, flow, ks), bulb.depth_m(each, flow, ks)


def judged(
    choice: LayoutChoice, drawing: Drawing, scene: Scene, fed: Fed, *, hours_allowed: float | None = None,
    roots_ahead_m: np.ndarray | None = None,
) -> Verdict:  # fmt: skip
    """Judge a drawing. hours_allowed: longest a valve may stay open in a day, None = no limit but the six hours.

    roots_ahead_m: how far roots grow by the end of each coming day [m], for the date of the next move. Neighbours in a
    row wet each other's ground. Where nothing flows, what would be wetted is told, with the finding no_head.
    """
    places = np.column_stack(drawing.places())
    flow = np.array(fed.emitter_l_per_h)
    sold_as = flows_of(drawing, choice)
    still = float(np.sum(flow)) < STILL_SHARE * float(np.sum(sold_as))
    if still:
        flow = sold_as
    width, depth = bulbs(places, flow, scene)
    zone = scene.zone()
    around = along_row(places, scene)
    times = len(around) // len(places)
    wet = wetting.wet(
        around[:, 0], around[:, 1], np.tile(flow, times), np.tile(width, times), scene.ball_radius_m, zone
    )
    own = wet if times == 1 else wetting.wet(places[:, 0], places[:, 1], flow, width, scene.ball_radius_m, zone)
    figures = Figures(
        own.ball_share, wet.fraction, own.union_m2, float(np.min(depth)), bool(np.any(bulb.is_shallow(width, depth))),
        float(np.max(np.hypot(places[:, 0], places[:, 1]) + width / 2)), float(np.sum(flow)),
        float(scene.sunk_depth_m(np.min(depth), own.union_m2)),
    )  # fmt: skip
    run = run_of(figures, scene)
    days = days_to_move(scene, [figures], roots_ahead_m)[0]
    found = _findings(choice, drawing, scene, fed, figures, run)
    if still and not any(f.code == "no_head" for f in found):
        found = (*found, Finding("no_head", "there is no pressure at these emitters: no water comes out"))
    codes = {f.code for f in found}
    six = achieved(
        figures, run, scene, fed.uniformity_percent, days, pressed=not codes & UNPRESSED,
        short=fed.short_supply or still, hours_allowed=hours_allowed,
    )  # fmt: skip
    return Verdict(
        six,
        found,
        figures,
        run,
        wet.zone_m2,
        tuple(map(float, width)),
        tuple(map(float, depth)),
        days,
        litres_for_depth(figures, scene),
    )


def _taken_ground(drawing: Drawing, scene: Scene) -> list[Finding]:
    """Emitters and tubes that lie where something else stands by now."""
    if not any(o.kind in TAKES_GROUND for o in scene.obstacles):
        return []
    x, y = drawing.places()
    taken = shapely.union_all([shape(o) for o in scene.obstacles if o.kind in TAKES_GROUND])
    on_it = int(np.sum(shapely.intersects_xy(taken, x, y)))
    across = sum(bool(crossed(run.path, scene.obstacles)) for run in drawing.runs)
    return judge.of_ground(on_it, across)


def _near_buried(choice: LayoutChoice, drawing: Drawing) -> list[Finding]:
    """Tubes that are dug in too near a buried line."""
    ground = drawing.hand_dug
    if ground is None or not choice.buried:
        return []
    return judge.of_digging(sum(ground.intersects(shapely.LineString(run.path)) for run in drawing.runs))


def _findings(
    choice: LayoutChoice, drawing: Drawing, scene: Scene, fed: Fed, figures: Figures, run: Run
) -> tuple[Finding, ...]:
    """All that is wrong with a layout."""
    places = np.column_stack(drawing.places())
    found = [
        *judge.of_ball(figures.ball_share, scene.uptake_from_ball),
        *judge.of_wetted(figures.wetted_fraction, judge.WETTED_LOW_DRY if scene.rain_scarce else judge.WETTED_LOW),
        *judge.of_shallow(figures.shallow),
        *judge.of_run(run.run_min),
        *judge.of_rate(run.rate_mm_h, scene.intake_mm_h),
        *judge.of_places(places[:, 0], places[:, 1], scene.trunk_diameter_m),
        *_taken_ground(drawing, scene),
        *_near_buried(choice, drawing),
        *fed.findings,
    ]
    if fed.short_supply:
        found.append(Finding("short_supply", "the emitters want more than the supply gives at the head that they need"))
    if drawing.lost:
        found.append(Finding("changes_lost", f"{drawing.lost} changes by hand found their emitter no more"))
    if scene.cover == "plastic" and not choice.perforated:
        found.append(Finding("sheet_whole", f"water stands on the sheet: fork it through at {len(places)} emitters"))
    return tuple(found)


def along_row(places: np.ndarray, scene: Scene) -> np.ndarray:
    """Emitters with those of the trees beside it in the row, as far as its roots go; array (times emitters, 2).

    places: array (emitters, 2) [m].
    """
    if scene.row is None:
        return places
    far = math.ceil(scene.roots_next_m / scene.row.spacing_m)
    step = np.array(toward(scene.row.bearing_deg, scene.row.spacing_m))
    return np.concatenate([places + k * step for k in range(-far, far + 1)])


def days_to_move(scene: Scene, layouts: Sequence[Figures], roots_ahead_m: np.ndarray | None) -> list[int | None]:
    """Days until the water of each layout reaches under 0.75 of the roots' uptake; None = not in the days that are
    known. roots_ahead_m: array (days,) of how far roots will have grown by the end of each coming day [m]."""
    if roots_ahead_m is None or len(roots_ahead_m) == 0:
        return [None] * len(layouts)
    ahead = scene.roots_now_m + np.concatenate(([0.0], roots_ahead_m))
    beside = np.array([figures.beside_ball_m2 for figures in layouts])
    outgrown = scene.reach_at(ahead, beside[:, None]) < OUTGROWN_REACH
    day = np.where(np.any(outgrown, axis=1), np.argmax(outgrown, axis=1), len(ahead))
    return [int(d) if d < len(roots_ahead_m) else None for d in day]


def litres_for_depth(figures: Figures, scene: Scene) -> float | None:
    """Litres of one watering that would wet as deep as wanted, None where this one does."""
    if figures.sunk_depth_m >= scene.wanted_depth_m - 1e-9:
        return None
    return 1000.0 * figures.union_m2 * scene.missing * scene.wanted_depth_m / scene.arrives
