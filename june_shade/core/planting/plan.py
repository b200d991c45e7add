"""A planting as it is chosen, for one tree or a batch of like trees: hole, backfill, lift, aids, first water, findings.

Lengths m, volumes L, weights kg. It brings the parts together; each rule lies in its own module.
"""

from dataclasses import dataclass, field

from june_shade.core.drip.scene import Obstacle
from june_shade.core.errors import InputError
from june_shade.core.mulch.order import SWELL, carried
from june_shade.core.mulch.ring import Finding
from june_shade.core.planting import aids, clearance, first_water, fittings, hole, schools
from june_shade.core.planting.aids import Dose
from june_shade.core.planting.clearance import Room
from june_shade.core.planting.first_water import FirstWater
from june_shade.core.planting.hole import Ball, Hole
from june_shade.core.planting.schools import Mix
from june_shade.core.soil.feel import wetness
from june_shade.core.soil.textures import Soil
from june_shade.core.stock import balls
from june_shade.core.units import in_m, within
from june_shade.core.working import COMMON_PRACTICE, Step, worked

LEAST_RIDGE_M, MOST_RIDGE_M = 0.02, 0.5
SMALL_BASIN_M = 0.9


@dataclass(frozen=True, slots=True)
class PlantingChoice:
    """What is chosen for a planting. raise_m: flare over grade; graft_m: union over the flare, None = not grafted.

    feels of ball and backfill as they go in; sun_h a day in summer, spacing_m to the next tree: None = not said.
    edging_m: diameter of an edging ring, 0 = none. mulch_depth_m: settled depth that will lie there. firming: of
    schools.FIRMINGS. mower_m: how wide the mower is that passes, None = none does. feed: it is to be fed, once it may.
    well_filled: a sunken basin filled with compost and chips up to the trunk: recorded, never suggested.
    """

    depth_school: str
    raise_m: float
    width_ratio: float
    backfill_school: str = "as_dug"
    graft_m: float | None = None
    aids: tuple[str, ...] = ()
    basin_diameter_m: float = SMALL_BASIN_M
    ridge_m: float = first_water.RIDGE_M
    support: str = "none"
    wrap: bool = False
    guard: str = "none"
    edging_m: float = 0.0
    ball_feel: str = "wet"
    backfill_feel: str = "drying"
    sun_h: float | None = None
    spacing_m: float | None = None
    mulch_depth_m: float = 0.05
    firming: str = "in_layers"
    mower_m: float | None = None
    feed: bool = False
    well_filled: bool = False


BARE_TIMES = 2
"""Bare roots are soaked twice on planting day (common practice)."""


@dataclass(frozen=True, slots=True)
class Stock:
    """What is planted: its ball, caliper [m], how many, how wide it grows [m], hours of sun it wants, its fruit."""

    ball: Ball
    caliper_m: float
    count: int
    mature_spread_m: float
    sun_wants_h: float
    fruit: str = "none"


@dataclass(frozen=True, slots=True)
class Place:
    """Where: the soil in force, climate, what is round it, what stands beside it, how water is poured there."""

    soil: Soil
    climate: str
    microclimate: float
    surround: str
    obstacles: tuple[Obstacle, ...] = ()
    efficiency: float = 1.0


@dataclass(frozen=True, slots=True)
class Totals:
    """The whole batch: volumes [L] and what carries them; pieces."""

    trees: int
    hole_l: float
    soil_l: float
    compost_l: float
    coir_l: float
    sand_l: float
    spoil_loose_l: float
    first_water_l: float
    poured_through_l: float
    stakes: int
    ties: int
    wraps: int
    guards: int
    rings: int
    spoil_carried: dict[str, int]


@dataclass(frozen=True, slots=True)
class PlantingFigures:
    """Everything about a planting that the screens and the order show."""

    hole: Hole
    mix: Mix
    first: FirstWater
    doses: tuple[Dose, ...]
    depths: tuple[schools.Depth, ...]
    backfills: tuple[schools.Backfill, ...]
    fittings: fittings.Fittings
    room: tuple[Room, ...]
    findings: tuple[Finding, ...]
    totals: Totals
    working: tuple[Step, ...] = field(default_factory=tuple)


def ground_of(place: Place, stock: Stock) -> schools.Judged:
    """What schools are judged against."""
    return schools.Judged(place.soil, place.climate, stock.fruit == "heavy")


def usual(stock: Stock, place: Place) -> PlantingChoice:
    """What is suggested: the schools that this ground calls for, no aids, what the place needs of support and guard."""
    ground = ground_of(place, stock)
    depth = next(d for d in schools.depths(ground, stock.ball.kind) if d.chosen)
    ball = stock.ball
    raise_m = min(depth.raise_m, 0.4 * ball.below_flare_m)
    up = fittings.suggested(
        ball.kind, stock.caliper_m, place.microclimate, place.surround, place.climate, stock.mature_spread_m
    )
    basin = max(SMALL_BASIN_M, round(ball.diameter_m + 0.3, 1))
    return PlantingChoice(
        depth.school, round(raise_m, 3), hole.usual_ratio(place.soil.texture), basin_diameter_m=basin,
        support=up.support, wrap=up.wrap, guard=up.guard, edging_m=up.edging_m,
        mower_m=clearance.MOWER_M if place.surround == "turf" else None,
    )  # fmt: skip


def check(choice: PlantingChoice, stock: Stock) -> None:
    """Refuse what can't be planted so, naming the field."""
    if stock.count < 1:
        raise InputError(f"must be at least 1 tree, not {stock.count}", "count")
    schools.depth_school(choice.depth_school, choice.raise_m)
    if choice.support not in fittings.SUPPORTS:
        raise InputError(f"must be one of {', '.join(fittings.SUPPORTS)}, not {choice.support!r}", "support")
    if choice.guard not in fittings.GUARDS:
        raise InputError(f"must be one of {', '.join(fittings.GUARDS)}, not {choice.guard!r}", "guard")
    if choice.firming not in schools.FIRMINGS:
        raise InputError(f"must be one of {', '.join(schools.FIRMINGS)}, not {choice.firming!r}", "firming")
    if choice.well_filled and choice.depth_school != "sunken":
        raise InputError("only a sunken basin is filled up", "well_filled")
    if not LEAST_RIDGE_M <= choice.ridge_m <= MOST_RIDGE_M:
        raise InputError(within(choice.ridge_m, LEAST_RIDGE_M, MOST_RIDGE_M, "m"), "ridge_m")
    if choice.basin_diameter_m <= stock.caliper_m:
        raise InputError(f"must be wider than the trunk, not {in_m(choice.basin_diameter_m)}", "basin_diameter_m")
    if choice.graft_m is not None:
        if choice.graft_m < 0:
            raise InputError(f"must be 0 or more over the flare, not {in_m(choice.graft_m)}", "graft_m")
        over = choice.graft_m + choice.raise_m
        if over <= choice.mulch_depth_m:
            raise InputError(
                f"stands {in_m(over)} over grade, under the mulch of {in_m(choice.mulch_depth_m)}: a graft "
                "stays above soil and mulch", "graft_m",
            )  # fmt: skip


def plan(choice: PlantingChoice, stock: Stock, place: Place) -> PlantingFigures:
    """A planting with all its figures. Raises InputError for what can't be planted so."""
    check(choice, stock)
    ball, ground = stock.ball, ground_of(place, stock)
    dug = hole.hole(ball, choice.raise_m, choice.width_ratio)
    fills = schools.backfills(ground, ball.kind, ball.diameter_m)
    fill = next((f for f in fills if f.school == choice.backfill_school), None)
    if fill is None:
        raise InputError(
            f"must be one of {', '.join(schools.BACKFILLS)}, not {choice.backfill_school!r}", "backfill_school"
        )
    if fill.barred:
        raise InputError("bare roots go into the soil as it was dug, never into a mix", "backfill_school")
    mixed = schools.mix(choice.backfill_school, dug.backfill_l, dug.spoil_l)
    medium = balls.medium(ball.kind, place.soil)
    taw = medium.awc * dug.ball_volume_l
    wet = wetness(choice.ball_feel), wetness(choice.backfill_feel)
    first = first_water.first_water(
        taw, wet[0], dug.backfill_l, place.soil.awc, wet[1], choice.basin_diameter_m, choice.ridge_m,
        place.soil.intake_mm_h, place.efficiency, BARE_TIMES if ball.kind == "bare_root" else 1,
    )  # fmt: skip
    doses = tuple(aids.dose(aid, stock.count, stock.caliper_m, ball.kind) for aid in choice.aids)
    up = fittings.suggested(
        ball.kind, stock.caliper_m, place.microclimate, place.surround, place.climate, stock.mature_spread_m
    )
    room = clearance.clearances(
        stock.mature_spread_m,
        place.obstacles,
        choice.spacing_m,
        choice.sun_h,
        stock.sun_wants_h,
        mower_m=choice.mower_m,
        ring_radius_m=(choice.edging_m or choice.basin_diameter_m) / 2,
    )
    working = (
        *hole.working(ball, dug, choice.raise_m, choice.width_ratio),
        worked("planting.spoil", "buried ball + what is mixed in", mixed.spoil_l, "L", COMMON_PRACTICE,
             ball=(dug.ball_buried_l, "L"), mixed=(mixed.amendments_l, "L")),
        *first_water.working(first, taw, wet[0], dug.backfill_l, place.soil.awc, wet[1], place.efficiency),
    )  # fmt: skip
    return PlantingFigures(
        dug, mixed, first, doses, schools.depths(ground, ball.kind), fills, up, room,
        _findings(choice, ground, dug, fill, ball),
        _totals(choice, stock, dug, mixed, first), working,
    )  # fmt: skip


def _findings(
    choice: PlantingChoice, ground: schools.Judged, dug: Hole, fill: schools.Backfill, ball: Ball
) -> tuple[Finding, ...]:
    found = list(dug.findings)
    depth = next((d for d in schools.depths(ground, ball.kind) if d.school == choice.depth_school), None)
    if ball.kind == "bare_root":
        if not schools.bare_at_rule(choice.raise_m):
            found.append(
                Finding("bare_root_depth", "bare roots stand on a dome, flare 1 to 2 in over the ground", True)
            )
    elif depth is not None and depth.fit == "poor":
        found.append(Finding("depth_risky", f"{depth.school}: {depth.because}", True))
    if choice.well_filled:
        found.append(Finding("well_filled", "compost and chips against the trunk rot it: keep flare and graft clear"))
    if fill.fit == "poor":
        found.append(Finding("backfill_poor", f"{fill.school}: {fill.because}"))
    if choice.basin_diameter_m < ball.diameter_m:
        found.append(Finding("basin_narrow", "the basin is narrower than the ball: water never reaches its edge"))
    return tuple(found)


def _totals(choice: PlantingChoice, stock: Stock, dug: Hole, mixed: Mix, first: FirstWater) -> Totals:
    n = stock.count
    stakes = {"none": 0, "one_stake": 1, "two_posts": 2}[choice.support]
    spoil = n * mixed.spoil_l * SWELL
    return Totals(
        n, n * dug.hole_l, n * mixed.soil_l, n * mixed.compost_l, n * mixed.coir_l, n * mixed.sand_l, spoil,
        n * first.litres, n * mixed.poured_through_l, n * stakes, n * stakes, n * choice.wrap,
        n * (choice.guard != "none"), n * (choice.edging_m > 0), carried(spoil),
    )  # fmt: skip
