"""Plantings saved, looked at, planted and taken back. Writes carry the client's id; what is refused leaves nothing."""

from collections.abc import Mapping, Sequence
from dataclasses import asdict, fields, replace
from datetime import date, datetime, time
from types import SimpleNamespace
from typing import Any
from uuid import UUID, uuid5
from zoneinfo import ZoneInfo

from june_shade.core.drip.scene import Obstacle
from june_shade.core.errors import ConflictError, InputError, NotFoundError
from june_shade.core.fields import EMPTY, limits_of
from june_shade.core.planting import plan as core
from june_shade.core.planting import schools
from june_shade.core.planting.hole import Ball
from june_shade.core.planting.plan import Choice, Place, Sheet, Stock
from june_shade.core.planting.stock_check import StockVerdict, judge
from june_shade.core.soil.feel import wetness
from june_shade.core.soil.textures import Soil
from june_shade.core.water import delivery
from june_shade.core.weather.place import flat_m
from june_shade.plans import changes, clock, ground, log, register, yard
from june_shade.plans.changes import Changed, What
from june_shade.plans.drip import scenes
from june_shade.plans.log import NewEntry
from june_shade.store import planting as store
from june_shade.store import trees as tree_store
from june_shade.store.planting_tables import Planting
from june_shade.store.session import Session
from june_shade.store.tables import Plant, Site, Tree

COLUMNS = (
    "site_id", "stop", "planned_on", "plant_id", "stock_size_id", "kind", "caliper_m", "ball_diameter_m",
    "ball_height_m", "ball_volume_l", "flare_below_top_m", "count", "tag", "place", "microclimate", "surround",
    "method", "note",
)  # fmt: skip
"""What is typed of a planting beside its choice and what stands beside it."""
MIXED_IN = {"compost_l": "compost", "coir_l": "coir", "sand_l": "coarse_sand"}
PLANTED_AT = time(9, 0)
CHOICE_FIELDS = {f.name for f in fields(Choice)}


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
    return Stock(ball, row.caliper_m, count, plant.mature_spread_m, plant.sun_hours)


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
    return ground.in_force(session, site, until=getattr(row, "planted_on", None)).soil, site.climate


def _keep_ground(session: Session, row: Planting, site: Site) -> None:
    soil, climate = planted_in(session, row, site)
    row.planted_in = {"soil": asdict(soil), "climate": climate}


def choice_of(row: Any, stock: Stock, place: Place) -> Choice:
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


def mark_m(row: Planting, choice: Choice, flare_below_top_m: float) -> float:
    """The mark on the stake for one tree of a batch, by the soil that came off its own flare [m]."""
    ball = Ball(row.kind, row.ball_diameter_m, row.ball_height_m, flare_below_top_m, row.ball_volume_l)
    return ball.below_flare_m - choice.raise_m


def sheet_of(session: Session, row: Any, site: Site, plant: Plant, count: int) -> tuple[Choice, Sheet, Stock]:
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
            raise ConflictError("these trees are in the ground: correct them on their own sheets", "id")
        if known.site_id != site.id:
            raise InputError("a planting stays in its site", "site_id")
        register.fresh(known, given)
    given.pop("version", None)
    _check(session, given)
    if known is not None and known.count > given["count"]:
        known.checks = {n: check for n, check in known.checks.items() if int(n) <= given["count"]}
    row = known or Planting(id=planting_id, checks={}, obstacles=[], choice={})
    for name in COLUMNS:
        if name in given:
            setattr(row, name, given[name])
    row.stop = given.get("stop") or ""
    if choice is not None:
        row.choice = _plain(choice)
    if obstacles is not None:
        row.obstacles = scenes.checked(obstacles, row.caliper_m)
    plant = store.plant(session, row.plant_id)
    assert plant is not None
    try:
        sheet_of(session, row, site, plant, left(row))
    except InputError:
        if known is not None:
            session.expire(known)
        raise
    session.add(row)
    changes.tell(session, Changed(site.id, What.PAGE))
    session.refresh(row)
    return row


def _plain(choice: Mapping[str, Any]) -> dict[str, Any]:
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
            f"must be between 0 and the ball's height of {given['ball_height_m']:g} m", "flare_below_top_m"
        )
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
    row = SimpleNamespace(**given, choice=_plain(choice or {}), obstacles=beside)
    chosen, sheet, stock = sheet_of(session, row, site, plant, given["count"])
    return {"choice": chosen, "sheet": sheet, "stock": stock, "plant": plant}


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


def plant_out(
    session: Session, planting_id: UUID, day: date | None, device_id: str, person_id: UUID | None,
    water_l: float | None, taken: Mapping[str, float] | None = None, back: Mapping[str, float] | None = None,
    at: time | None = None, raise_m: float | None = None, entry_id: UUID | None = None,
) -> list[Tree]:  # fmt: skip
    """The trees are in the ground: entered, their record open as ball and backfill stand, first water logged.

    water_l: poured on each tree, None = as reckoned. at: time of day of it, None = 9 in the morning. raise_m: how far
    the flares ended up over the ground, None = as chosen. taken, back: loose litres of what was mixed in that went
    along and came back, by material. entry_id: the client's own of this message. Sent again it changes nothing, not
    even where it was undone meanwhile.
    """
    row = planting(session, planting_id)
    site = register.site(session, row.site_id)
    changes.hold(session, [site.id])
    session.refresh(row)
    if row.planted_on is not None or (entry_id is not None and entry_id == row.planted_entry_id):
        return list(store.trees_of(session, row.id))
    if row.withdrawn_at is not None:
        raise ConflictError("this planting was taken back", "id")
    today = clock.today(session, site.timezone)
    when = day or today
    if when > today:
        raise InputError(f"{when} is still to come (today is {today})", "day")
    poured_at = _poured_at(session, site, when, at)
    count = left(row)
    if count < 1:
        raise InputError("every tree of this batch was rejected: none is left to plant", "count")
    job, before = _job(row), dict(row.choice or {})
    if raise_m is not None:
        meant, _, _ = sheet_of(session, row, site, row.plant, count)
        school = schools.school_of(raise_m, meant.depth_school)
        row.choice = dict(row.choice or {}) | {"raise_m": raise_m, "depth_school": school}
    choice, sheet, _ = sheet_of(session, row, site, row.plant, count)
    litres = sheet.first.litres if water_l is None else water_l
    if litres < 0:
        raise InputError(f"must be 0 L or more, not {litres:g}", "water_l")
    for name, litres_taken in (taken or {}).items():
        yard.job_moves(session, job, name, when, 0.0, litres_taken, (back or {}).get(name, 0.0))
    first = _first_tree(row, choice, when) | {"row_place": store.next_place(session, site.id, row.stop)}
    made = register.save_row(session, job, first, count, choice.spacing_m, 0.0)
    for tree in made:
        tree.planting_id, tree.obstacles = row.id, list(row.obstacles)
        tree.opened_on = max(tree.planted_on, min(when, today))
    row.planted_on, row.first_water_l, row.choice = when, litres, _plain(asdict(choice))
    row.planted_entry_id = entry_id
    _keep_ground(session, row, site)
    row.planted_in = (row.planted_in or {}) | {"chosen_before": before}
    session.flush()
    if litres > 0:
        log.put_all(session, [
            NewEntry(
                _first_water_id(job, number), tree.id, "water", poured_at, device_id, person_id,
                volume_l=round(litres, 1), duration_min=round(60 * litres / site.hose_flow_l_per_h, 1),
            )
            for number, tree in enumerate(made)
        ])  # fmt: skip
    changes.tell(session, Changed(site.id, What.WATER, tuple(tree.id for tree in made)))
    return made


def _job(row: Planting) -> UUID:
    """What the trees, first waters and yard moves of a planting are named after: each time it is planted another."""
    return uuid5(row.id, f"again/{row.times_undone}") if row.times_undone else row.id


def _first_water_id(job: UUID, number: int) -> UUID:
    return uuid5(job, f"water/{number}")


def _numbers(row: Planting) -> dict[UUID, int]:
    """The trees that a batch has put into the register, in their order, by id."""
    return {uuid5(_job(row), str(i)): i for i in range(row.count)}


def is_undoable(session: Session, row: Planting) -> bool:
    """Whether it was planted as a batch: a tree that stood here before stays, whatever is written down of it."""
    return row.planted_on is not None and all(tree.id in _numbers(row) for tree in store.trees_of(session, row.id))


def undo_planted(session: Session, planting_id: UUID, device_id: str, person_id: UUID | None) -> Planting:
    """A planting that was written down by mistake is still to come again: its trees leave the register, their first
    water is undone, what was taken from the yard lies there again. Sent again it changes nothing.

    Raises ConflictError where the trees were worked on since, or stood before how they were planted was written down.
    """
    row = planting(session, planting_id)
    changes.hold(session, [row.site_id])
    session.refresh(row)
    if row.planted_on is None:
        return row
    if not is_undoable(session, row):
        raise ConflictError("these trees stood here before: change them on their own sheets", "id")
    job, trees, number = _job(row), store.trees_of(session, row.id), _numbers(row)
    waters = {tree.id: _first_water_id(job, number[tree.id]) for tree in trees}
    worked = store.worked_on(session, waters, waters.values())
    if worked:
        tags = ", ".join(tree.tag for tree in trees if tree.id in worked)
        raise ConflictError(f"there is more in the record of {tags}: undo that first", "id")
    now = clock.now(session)
    for tree in trees:
        if store.is_standing(session, waters[tree.id]):
            log.put(session, NewEntry(
                uuid5(waters[tree.id], "undo"), tree.id, "void", now, device_id, person_id, voids=waters[tree.id],
            ))  # fmt: skip
        tree.withdrawn_at = now
    yard.withdraw_job(session, job)
    row.choice = (row.planted_in or {}).get("chosen_before", row.choice)
    row.planted_on = row.first_water_l = row.planted_in = None
    row.times_undone += 1
    changes.tell(session, Changed(row.site_id, What.WATER, tuple(waters)))
    return row


def _poured_at(session: Session, site: Site, day: date, at: time | None) -> datetime:
    """When the first water was poured. Raises InputError for a time that is still to come."""
    now = clock.now(session)
    when = datetime.combine(day, at or PLANTED_AT, ZoneInfo(site.timezone))
    if at is not None and when > now:
        raise InputError(f"{at:%H:%M} is still to come on {day}", "at")
    return min(when, now)


def _first_tree(row: Planting, choice: Choice, day: date) -> dict[str, Any]:
    """The first tree of the batch as the register takes it; the others count on from it."""
    basin = choice.basin_diameter_m if row.method in delivery.INTO_A_BASIN else None
    return EMPTY | {
        "site_id": row.site_id, "tag": row.tag, "place": row.place, "stop": row.stop or None,
        "plant_id": row.plant_id, "stock_size_id": row.stock_size_id, "kind": row.kind, "caliper_m": row.caliper_m,
        "ball_diameter_m": row.ball_diameter_m, "ball_height_m": row.ball_height_m - row.flare_below_top_m,
        "ball_volume_l": _left_of_ball(row), "planted_on": day,
        "feel": {"ball": choice.ball_feel, "ring": choice.backfill_feel},
        "microclimate": row.microclimate, "surround": row.surround, "method": row.method, "basin_diameter_m": basin,
        "basin_depth_m": choice.ridge_m if basin else None,
    }  # fmt: skip


def _left_of_ball(row: Planting) -> float | None:
    """Measured ball volume less the soil that came off its flare [L], None where the shape tells it."""
    if row.ball_volume_l is None:
        return None
    return row.ball_volume_l * (1 - row.flare_below_top_m / row.ball_height_m)


def withdraw(session: Session, planting_id: UUID) -> Planting:
    """Take a planting back that is still to come."""
    row = planting(session, planting_id)
    if row.planted_on is not None:
        raise ConflictError("these trees are in the ground: take them out of the register instead", "id")
    row.withdrawn_at = row.withdrawn_at or clock.now(session)
    changes.tell(session, Changed(row.site_id, What.PAGE))
    return row


def record_tree(
    session: Session, planting_id: UUID, tree_id: UUID, choice: Mapping[str, Any], flare_below_top_m: float
) -> Planting:
    """Write down how a tree that stands already was planted; its record opens by it where it opened on that day."""
    tree = register.tree(session, tree_id)
    changes.hold(session, [tree.site_id])
    row = session.get(Planting, planting_id)
    if row is not None and tree.planting_id != row.id:
        raise ConflictError("another planting has this id already", "id")
    if tree.planting_id is not None and row is None:
        raise ConflictError("how this tree was planted is written down already", "tree_id")
    row = row or Planting(id=planting_id, checks={})
    for name in COLUMNS:
        if hasattr(tree, name):
            setattr(row, name, getattr(tree, name))
    row.stop, row.count, row.note = tree.stop.name if tree.stop else "", 1, ""
    row.planned_on = row.planted_on = tree.planted_on
    row.ball_height_m = tree.ball_height_m + flare_below_top_m  # what came off its flare was part of the ball then
    row.flare_below_top_m, row.obstacles, row.choice = flare_below_top_m, list(tree.obstacles), _plain(choice)
    chosen, _, _ = sheet_of(session, row, tree.site, tree.plant, 1)
    _keep_ground(session, row, tree.site)
    session.add(row)
    session.flush()
    tree.planting_id = row.id
    if tree.method in delivery.INTO_A_BASIN and tree.basin_diameter_m is None:
        tree.basin_diameter_m, tree.basin_depth_m = chosen.basin_diameter_m, chosen.ridge_m
    if tree.opened_on == tree.planted_on:
        tree.opening = "reading"
        tree.ball_wetness, tree.ring_wetness = wetness(chosen.ball_feel), wetness(chosen.backfill_feel)
    changes.tell(session, Changed(tree.site_id, What.WATER, (tree.id,)))
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
