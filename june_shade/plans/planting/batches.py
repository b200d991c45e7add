"""Plantings saved, looked at and taken back; what goes into the ground is planted.py's.

Writes carry the client's id; what is refused leaves nothing.
"""

from collections.abc import Mapping, Sequence
from dataclasses import asdict, fields, replace
from types import SimpleNamespace
from typing import Any
from uuid import UUID

from june_shade.core.drip.scene import Obstacle
from june_shade.core.errors import ConflictError, InputError, NotFoundError
from june_shade.core.fields import EMPTY, limits_of, odds
from june_shade.core.planting import plan as core
from june_shade.core.planting.hole import Ball
from june_shade.core.planting.plan import Place, PlantingChoice, PlantingFigures, Stock
from june_shade.core.planting.stock_check import StockVerdict, judge
from june_shade.core.soil.textures import Soil
from june_shade.core.stock.plants import sun_wanted_h
from june_shade.core.units import in_m
from june_shade.core.water import delivery
from june_shade.core.weather.place import flat_m
from june_shade.plans import changes, clock, register, soil_in_force
from june_shade.plans.changes import Changed, What
from june_shade.plans.drip import scenes
from june_shade.store import planting as store
from june_shade.store import trees as tree_store
from june_shade.store.planting_tables import Planting
from june_shade.store.session import Session
from june_shade.store.site_tables import Site
from june_shade.store.tree_tables import Plant, Tree

COLUMNS = (
    "site_id", "stop", "planned_on", "plant_id", "stock_size_id", "kind", "caliper_m", "ball_diameter_m",
    "ball_height_m", "ball_volume_l", "flare_below_top_m", "count", "tag", "place", "microclimate", "surround",
    "method", "line", "note",
)  # fmt: skip
"""What is typed of a planting beside its choice and what stands beside it."""
WAY = (
    "emitter_count", "emitter_flow_l_per_h", "bag_capacity_l", "soaker_across_m", "soaker_flow_l_per_h_m",
    "sprinkler_across_m", "sprinkler_flow_l_per_h", "reservoir_l",
)  # fmt: skip
"""Measures of the ways of pouring: they wait with the batch until its trees stand."""
MIXED_IN = {"compost_l": "compost", "coir_l": "coir", "sand_l": "coarse_sand"}
CHOICE_FIELDS = {f.name for f in fields(PlantingChoice)}


def way_of(row: Any) -> dict[str, Any]:
    """How the trees of a batch will be watered: the measures of every way, as a tree has them."""
    stored = getattr(row, "way", None) or {}
    return {name: stored.get(name, EMPTY[name]) for name in WAY}


def of_standing(tree: Tree) -> dict[str, Any]:
    """What a planting of a tree that stands already is known by, as its columns: a batch of one."""
    own = {name: getattr(tree, name) for name in COLUMNS if hasattr(tree, name)}
    stop, line = (found.name if found else "" for found in (tree.stop, tree.line))
    way = {name: getattr(tree, name) for name in WAY}
    return own | {"stop": stop, "line": line, "way": way, "count": 1, "note": "", "planned_on": tree.planted_on}


def planting(session: Session, planting_id: UUID) -> Planting:
    """A planting, or NotFoundError."""
    found = session.get(Planting, planting_id)
    if found is None:
        raise NotFoundError("there is no such planting", "planting_id")
    return found


def stock_of(row: Any, plant: Plant, count: int) -> Stock:
    """The core's stock of a planting or of a stored tree."""
    flare = getattr(row, "flare_below_top_m", 0.0)
    ball = Ball(row.kind, row.ball_diameter_m, row.ball_height_m, flare, row.ball_volume_l)
    sun_h = sun_wanted_h(plant.sun_hours, plant.fruit)
    return Stock(ball, row.caliper_m, count, plant.mature_spread_m, sun_h, plant.fruit)


def place_of(session: Session, row: Any, site: Site) -> Place:
    """Where it is planted: the site's soil in force, what is round it and beside it.

    What was planted stays as it was planted: it goes by the soil and climate that were known then.
    """
    soil, climate = planted_in(session, row, site)
    obstacles = tuple(Obstacle(**values) for values in row.obstacles or [])
    arrives = float(delivery.efficiency("hose"))
    return Place(soil, climate, row.microclimate, row.surround, obstacles, arrives)


def planted_in(session: Session, row: Any, site: Site) -> tuple[Soil, str]:
    """Soil and climate of a planting: those kept with it, else, where it stands, of its day, else of today."""
    kept = getattr(row, "planted_in", None)
    if kept:
        return Soil(**kept["soil"]), kept["climate"]
    return soil_in_force.in_force(session, site, until=getattr(row, "planted_on", None)).soil, site.climate


def choice_of(row: Any, stock: Stock, place: Place) -> PlantingChoice:
    """What was chosen, over what is suggested."""
    given = {name: value for name, value in (row.choice or {}).items() if name in CHOICE_FIELDS}
    if "aids" in given:
        given["aids"] = tuple(given["aids"])
    return replace(core.usual(stock, place), **given)


def rejected(row: Planting) -> int:
    """How many of a batch were sent back."""
    return sum(check["verdict"] == "reject" for check in (row.checks or {}).values())


def left(row: Planting) -> int:
    """How many of a batch go into the ground."""
    return row.count - rejected(row)


def mark_m(row: Planting, choice: PlantingChoice, flare_below_top_m: float) -> float:
    """The mark on the stake for one tree of a batch, by the soil that came off its own flare [m]."""
    ball = Ball(row.kind, row.ball_diameter_m, row.ball_height_m, flare_below_top_m, row.ball_volume_l)
    return ball.below_flare_m - choice.raise_m


def figures_of(
    session: Session, row: Any, site: Site, plant: Plant, count: int
) -> tuple[PlantingChoice, PlantingFigures, Stock]:
    """A planting computed. Raises InputError for what can't be planted so."""
    stock = stock_of(row, plant, max(1, count))
    place = place_of(session, row, site)
    choice = choice_of(row, stock, place)
    return choice, core.plan(choice, stock, place), stock


def save(
    session: Session, planting_id: UUID, values: Mapping[str, Any], choice: Mapping[str, Any] | None,
    obstacles: Sequence[Obstacle] | None,
) -> Planting:  # fmt: skip
    """Make or change a planting that is still to come. choice: None = as suggested; obstacles: None = as stored."""
    given = dict(values)
    site = register.site(session, given["site_id"])
    changes.hold(session, [site.id])
    known = session.get(Planting, planting_id)
    if known is not None:
        if known.planted_on is not None:
            raise ConflictError("these trees are in the ground: correct them on their own pages", "id")
        if known.site_id != site.id:
            raise InputError("a planting stays in its site", "site_id")
        stored = way_of(known)
        way = {name: (given[name], stored[name]) for name in WAY if name in given}
        register.fresh(known, {name: value for name, value in given.items() if name not in WAY}, way)
    given.pop("version", None)
    _check(session, given)
    if known is not None and known.count > given["count"]:
        known.checks = {n: check for n, check in known.checks.items() if int(n) <= given["count"]}
    row = known or Planting(id=planting_id, checks={}, obstacles=[], choice={})
    for name in COLUMNS:
        if name in given:
            setattr(row, name, given[name])
    row.stop = given.get("stop") or ""
    row.way = {name: given[name] for name in WAY if name in given}
    if choice is not None:
        row.choice = plain(choice)
    if obstacles is not None:
        row.obstacles = scenes.checked(obstacles, row.caliper_m)
    plant = store.plant(session, row.plant_id)
    assert plant is not None
    try:
        figures_of(session, row, site, plant, left(row))
    except InputError:
        if known is not None:
            session.expire(known)
        raise
    session.add(row)
    changes.tell(session, Changed(site.id, What.PAGE))
    session.refresh(row)
    return row


def plain(choice: Mapping[str, Any]) -> dict[str, Any]:
    """A choice as it is stored."""
    kept = {name: value for name, value in choice.items() if name in CHOICE_FIELDS}
    return kept | ({"aids": list(kept["aids"])} if "aids" in kept else {})


def _check(session: Session, given: Mapping[str, Any]) -> None:
    for name in ("caliper_m", "ball_diameter_m", "ball_height_m", "ball_volume_l", "microclimate"):
        value = given.get(name)
        if value is not None and (fault := limits_of(name).fault(value)):
            raise InputError(f"{fault}, not {value:g}", name)
    if not 1 <= given["count"] <= 500:
        raise InputError(f"must be a whole number from 1 to 500, not {given['count']}", "count")
    if not 0 <= given.get("flare_below_top_m", 0.0) < given["ball_height_m"]:
        raise InputError(
            f"must be between 0 and the ball's height of {in_m(given['ball_height_m'])}", "flare_below_top_m"
        )
    if found := odds(EMPTY | dict(given) | {"mulch_material": None}):
        raise InputError(found[1], found[0])
    if store.plant(session, given["plant_id"]) is None:
        raise InputError("there is no such kind of tree", "plant_id")


def look(session: Session, values: Mapping[str, Any], choice: Mapping[str, Any] | None,
         obstacles: Sequence[Obstacle] | None) -> dict[str, Any]:  # fmt: skip
    """A planting that is not stored: what typed stock and measures come to."""
    given = dict(values)
    given.pop("version", None)
    site = register.site(session, given["site_id"])
    _check(session, given)
    plant = store.plant(session, given["plant_id"])
    assert plant is not None
    beside = [asdict(one) for one in obstacles or ()]
    row = SimpleNamespace(**given, choice=plain(choice or {}), obstacles=beside)
    chosen, figures, stock = figures_of(session, row, site, plant, given["count"])
    return {"choice": chosen, "figures": figures, "stock": stock, "plant": plant}


def put_check(
    session: Session, planting_id: UUID, number: int, answers: Mapping[str, str], flare_below_top_m: float
) -> tuple[Planting, StockVerdict]:
    """Keep the look at one tree of a batch; one that is rejected is not planted."""
    row = planting(session, planting_id)
    changes.hold(session, [row.site_id])
    session.refresh(row)
    if row.planted_on is not None:
        raise ConflictError("these trees are in the ground", "id")
    if not 1 <= number <= row.count:
        raise InputError(f"must be a whole number from 1 to {row.count}, not {number}", "number")
    found = judge(row.kind, answers, flare_below_top_m, row.ball_diameter_m, row.ball_height_m)
    entry = {
        "answers": dict(answers), "flare_below_top_m": flare_below_top_m, "verdict": found.verdict,
        "reasons": list(found.reasons), "actions": list(found.actions),
    }  # fmt: skip
    row.checks = row.checks | {str(number): entry}
    deepest = [c["flare_below_top_m"] for c in row.checks.values() if c["verdict"] != "reject"]
    if deepest:  # volumes go by the mean of those that are planted; each has its own mark on the stake
        row.flare_below_top_m = sum(deepest) / len(deepest)
    changes.tell(session, Changed(row.site_id, What.PAGE))
    return row, found


def withdraw(session: Session, planting_id: UUID) -> Planting:
    """Take a planting back that is still to come."""
    row = planting(session, planting_id)
    if row.planted_on is not None:
        raise ConflictError("these trees are in the ground: take them out of the register instead", "id")
    row.withdrawn_at = row.withdrawn_at or clock.now(session)
    changes.tell(session, Changed(row.site_id, What.PAGE))
    return row


def spacing_m(session: Session, tree: Tree) -> float | None:
    """How far a tree stands from the next one [m], None where nobody said."""
    if tree.line is not None and tree.line.spacing_m is not None:
        return tree.line.spacing_m
    if tree.latitude_deg is None or tree.longitude_deg is None:
        return None
    here = tree.latitude_deg, tree.longitude_deg
    away = [
        sum(v * v for v in flat_m(*here, one.latitude_deg, one.longitude_deg)) ** 0.5
        for one in tree_store.all_trees(session, tree.site_id)
        if one.id != tree.id and one.latitude_deg is not None and one.longitude_deg is not None
    ]
    return min(away, default=None)
