"""What Ochre Falls plants and mulches: a batch that comes to the school today, a street that wants mulch, the yard.

Invented, like the rest of the town.
"""

from datetime import date, datetime, timedelta
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session

from june_shade.core.drip.scene import Obstacle
from june_shade.demo.names import name_id
from june_shade.plans import yard
from june_shade.plans.mulch import records
from june_shade.plans.mulch.records import Look
from june_shade.plans.planting import batches
from june_shade.store.planting_tables import Planting
from june_shade.store.tree_tables import Plant, StockSize, Tree

YARD = (("wood_chips", 1800.0), ("compost", 500.0), ("coarse_sand", 120.0))
"""Counted on the first of the month, loose [L]."""
STAKED = ("HL", range(12, 18))
"""Trees put up with posts and wraps when they were planted, more than a year ago."""
HEAPED = ("SO", 5, date(2026, 7, 8))
STREET = ("RT", range(20, 28), 1.0)
"""A street whose rings are to be brought out to so many metres."""


def fill(session: Session, day: date) -> None:
    """Lay it into the town, once its trees stand."""
    for material, litres in YARD:
        yard.put(session, name_id("yard", material), material, "counted", litres, day.replace(day=1))
    _school_batch(session, day)
    _staked(session)
    prefix, number, looked = HEAPED
    heap = Look((0.13, 0.11, 0.12, 0.10), "touches", False)
    records.put_look(session, name_id("look", prefix, number), name_id("tree", prefix, number), heap, looked)
    prefix, numbers, radius = STREET
    for number in numbers:
        tree = session.get_one(Tree, name_id("tree", prefix, number))
        tree.mulch_choice = {"outer_radius_m": radius}


def _school_batch(session: Session, day: date) -> None:
    """Six hackberries for the playground, on the truck since this morning."""
    plant = session.scalars(select(Plant).where(Plant.botanical == "Celtis occidentalis")).one()
    size = session.scalars(select(StockSize).where(StockSize.label.startswith("#15 container"))).one()
    values = {
        "site_id": name_id("site", "HL"), "stop": "Playground", "planned_on": day, "plant_id": plant.id,
        "stock_size_id": size.id, "kind": size.kind, "caliper_m": size.caliper_m,
        "ball_diameter_m": size.ball_diameter_m, "ball_height_m": size.ball_height_m, "ball_volume_l": None,
        "flare_below_top_m": 0.0, "count": 6, "tag": "HL-24", "place": "{nth} from the swings, fence side",
        "microclimate": 1.0, "surround": "turf", "method": "hose", "note": "",
    }  # fmt: skip
    fence = Obstacle("fence", 270.0, 4.0)
    row = batches.save(session, name_id("planting", "HL", "playground"), values, None, [fence])
    row.choice = {"spacing_m": 10.5, "sun_h": 9.0}
    session.flush()


def _staked(session: Session) -> None:
    prefix, numbers = STAKED
    trees = [session.get_one(Tree, name_id("tree", prefix, number)) for number in numbers]
    first = trees[0]
    choice = {"depth_school": "proud", "raise_m": 0.03, "width_ratio": 2.5, "support": "two_posts", "wrap": True}
    planting_id: UUID = name_id("planting", prefix, "bus loop")
    row = Planting(id=planting_id, choice=choice, checks={}, obstacles=[], **batches.of_standing(first))
    row.stop, row.count, row.planted_on = "Bus loop", len(trees), first.planted_on
    row.recorded_at = datetime.combine(first.planted_on, datetime.min.time()).astimezone() + timedelta(hours=9)
    session.add(row)
    session.flush()
    for tree in trees:
        tree.planting_id = row.id
