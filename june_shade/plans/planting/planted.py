"""Into the ground: a batch is planted, that it was is undone, how a tree that stands was planted is written down."""

from collections.abc import Mapping
from dataclasses import asdict
from datetime import date, datetime, time
from typing import Any
from uuid import UUID, uuid5
from zoneinfo import ZoneInfo

from june_shade.core.errors import ConflictError, InputError
from june_shade.core.fields import EMPTY
from june_shade.core.planting import schools
from june_shade.core.planting.plan import PlantingChoice, Totals
from june_shade.core.soil.feel import wetness
from june_shade.core.units import in_l
from june_shade.core.water import delivery
from june_shade.plans import changes, clock, log, register, yard
from june_shade.plans.changes import Changed, What
from june_shade.plans.log import NewEntry
from june_shade.plans.planting import batches
from june_shade.store import planting as store
from june_shade.store.planting_tables import Planting
from june_shade.store.session import Session
from june_shade.store.site_tables import Site
from june_shade.store.tree_tables import Tree

PLANTED_AT = time(9, 0)


def _keep_ground(session: Session, row: Planting, site: Site) -> None:
    soil, climate = batches.planted_in(session, row, site)
    row.planted_in = {"soil": asdict(soil), "climate": climate}


def plant_out(
    session: Session, planting_id: UUID, day: date | None, device_id: str, person_id: UUID | None,
    water_l: float | None, taken: Mapping[str, float] | None = None, back: Mapping[str, float] | None = None,
    at: time | None = None, raise_m: float | None = None, entry_id: UUID | None = None,
) -> list[Tree]:  # fmt: skip
    """The trees are in the ground: entered, their record open as ball and backfill stand, first water logged.

    water_l: poured on each tree, None = as reckoned. at: time of day of it, None = 9 in the morning. raise_m: how far
    the flares ended up over the ground, None = as chosen. taken, back: loose litres of what was mixed in that went
    along and came back, by material; taken None: what the batch is reckoned to take. entry_id: the client's own of
    this message. Sent again it changes nothing, not even where it was undone meanwhile.
    """
    row = batches.planting(session, planting_id)
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
    count = batches.left(row)
    if count < 1:
        raise InputError("every tree of this batch was rejected: none is left to plant", "count")
    job, before = _job(row), dict(row.choice or {})
    if raise_m is not None:
        meant, _, _ = batches.figures_of(session, row, site, row.plant, count)
        school = schools.school_of(raise_m, meant.depth_school)
        row.choice = dict(row.choice or {}) | {"raise_m": raise_m, "depth_school": school}
    choice, figures, _ = batches.figures_of(session, row, site, row.plant, count)
    litres = figures.first.litres if water_l is None else water_l
    if litres < 0:
        raise InputError(f"must be 0 or more, not {in_l(litres)}", "water_l")
    if taken is None:
        _mixed_in(session, job, figures.totals, when)
    for name, litres_taken in (taken or {}).items():
        yard.job_moves(session, job, name, when, 0.0, litres_taken, (back or {}).get(name, 0.0))
    first = first_tree(row, choice, when) | {"row_place": store.next_place(session, site.id, row.stop)}
    made = register.save_row(session, job, first, count, choice.spacing_m, 0.0)
    for tree in made:
        tree.planting_id, tree.obstacles = row.id, list(row.obstacles)
        tree.opened_on = max(tree.planted_on, min(when, today))
    row.planted_on, row.first_water_l, row.choice = when, litres, batches.plain(asdict(choice))
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


def _mixed_in(session: Session, job: UUID, totals: Totals, day: date) -> None:
    """What a batch took for its backfill is gone from the yard; what did not lie there was bought for it."""
    there = yard.on_hand(session)
    for name, material in batches.MIXED_IN.items():
        litres = getattr(totals, name)
        yard.job_moves(session, job, material, day, max(0.0, litres - there[material]), litres, 0.0)


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
    row = batches.planting(session, planting_id)
    changes.hold(session, [row.site_id])
    session.refresh(row)
    if row.planted_on is None:
        return row
    if not is_undoable(session, row):
        raise ConflictError("these trees stood here before: change them on their own pages", "id")
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


def first_tree(row: Planting, choice: PlantingChoice, day: date) -> dict[str, Any]:
    """The first tree of the batch as the register takes it; the others count on from it."""
    basin = choice.basin_diameter_m if row.method in delivery.INTO_A_BASIN else None
    return EMPTY | {
        "site_id": row.site_id, "tag": row.tag, "place": row.place, "stop": row.stop or None,
        "plant_id": row.plant_id, "stock_size_id": row.stock_size_id, "kind": row.kind, "caliper_m": row.caliper_m,
        "ball_diameter_m": row.ball_diameter_m, "ball_height_m": row.ball_height_m - row.flare_below_top_m,
        "ball_volume_l": _left_of_ball(row), "planted_on": day,
        "feel": {"ball": choice.ball_feel, "ring": choice.backfill_feel},
        "microclimate": row.microclimate, "surround": row.surround, "method": row.method, "basin_diameter_m": basin,
        "basin_depth_m": choice.ridge_m if basin else None, "line": row.line or None, "edging_m": choice.edging_m,
    } | batches.way_of(row)  # fmt: skip


def _left_of_ball(row: Planting) -> float | None:
    """Measured ball volume less the soil that came off its flare [L], None where the shape tells it."""
    if row.ball_volume_l is None:
        return None
    return row.ball_volume_l * (1 - row.flare_below_top_m / row.ball_height_m)


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
    register.put_values(row, batches.of_standing(tree))
    row.planted_on = tree.planted_on
    row.ball_height_m = tree.ball_height_m + flare_below_top_m  # what came off its flare was part of the ball then
    row.flare_below_top_m, row.obstacles, row.choice = flare_below_top_m, list(tree.obstacles), batches.plain(choice)
    chosen, _, _ = batches.figures_of(session, row, tree.site, tree.plant, 1)
    _keep_ground(session, row, tree.site)
    session.add(row)
    session.flush()
    tree.planting_id = row.id
    tree.edging_m = tree.edging_m or chosen.edging_m
    if tree.method in delivery.INTO_A_BASIN and tree.basin_diameter_m is None:
        tree.basin_diameter_m, tree.basin_depth_m = chosen.basin_diameter_m, chosen.ridge_m
    if tree.opened_on == tree.planted_on:
        tree.opening = "reading"
        tree.ball_wetness, tree.ring_wetness = wetness(chosen.ball_feel), wetness(chosen.backfill_feel)
    changes.tell(session, Changed(tree.site_id, What.WATER, (tree.id,)))
    return row
