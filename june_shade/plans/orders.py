"""The order and load list of a day's planting and mulching: a tree, a row, a site; water included.

What is planted is what is planned at the place and was not rejected; what is mulched is what lacks mulch.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Any
from uuid import UUID

from june_shade.core.errors import InputError, JuneShadeError, NotFoundError
from june_shade.core.mulch import lay, order
from june_shade.core.mulch.materials import USUAL
from june_shade.core.mulch.order import Order
from june_shade.core.planting.aids import Dose
from june_shade.core.planting.plan import PlantingChoice, PlantingFigures
from june_shade.plans import clock, register, water, yard
from june_shade.plans.mulch import stands
from june_shade.plans.planting import batches
from june_shade.plans.water import remembered
from june_shade.store import planting as planting_store
from june_shade.store import trees as tree_store
from june_shade.store.planting_tables import Planting
from june_shade.store.session import Session
from june_shade.store.site_tables import Site
from june_shade.store.tree_tables import Tree

SCOPES = ("due", "all")
MOST_TREES = 2000


@dataclass(frozen=True, slots=True)
class Scope:
    """Which trees and plantings: a site, and of it one stop, one planting, or some trees.

    mulch: due = only where it is thin or there is none, all = everywhere something is missing. truck_l: what a load
    takes. day: plantings up to it, None = today; one that is named counts whenever it is planned.
    """

    site_id: UUID
    stop: str | None = None
    planting_id: UUID | None = None
    tree_ids: tuple[UUID, ...] = ()
    mulch: str = "due"
    truck_l: float = order.TRUCK_L
    day: date | None = None


@dataclass(frozen=True, slots=True)
class MulchRow:
    """What one tree gets: settled and loose [L], underlay's sheets or roll [m], compost [L]."""

    tree: Tree
    material: str
    settled_l: float
    loose_l: float
    compost_l: float
    sheets: int
    roll_m: float
    wetting_l: float


@dataclass(frozen=True, slots=True)
class PlantingRow:
    """A planting to come, computed for the trees that go in; the mulch of their first rings, all of them [L]."""

    planting: Planting
    left: int
    rejected: int
    choice: PlantingChoice
    figures: PlantingFigures
    mulch_settled_l: float
    mulch_loose_l: float


@dataclass(frozen=True, slots=True)
class Job:
    """What the trees of a line in the ground come to, before anyone says otherwise: bought, taken along, back [L]."""

    bought_l: float
    taken_l: float
    left_l: float


@dataclass(frozen=True, slots=True)
class MaterialLine:
    """One material of the list: settled where it is mulch [L], the order, how many trees it is for."""

    material: str
    settled_l: float | None
    order: Order
    trees: int
    tree_ids: tuple[UUID, ...]
    job: Job


@dataclass(frozen=True, slots=True)
class Water:
    """Litres to load: first water of what is planted, what is poured through its backfill, today's round of the trees
    asked for, wetting of card."""

    first_l: float
    through_l: float
    round_l: float
    wetting_l: float
    tank_l: float | None = None

    @property
    def tanks(self) -> int | None:
        """How often the tank is filled, None where there is none."""
        return math.ceil(self.all_l / self.tank_l - 1e-9) if self.tank_l else None

    @property
    def all_l(self) -> float:
        """All of it."""
        return self.first_l + self.through_l + self.round_l + self.wetting_l


@dataclass(frozen=True, slots=True)
class OrderList:
    """Everything that goes on the truck."""

    site: Site
    today: date
    materials: tuple[MaterialLine, ...]
    mulched: tuple[MulchRow, ...]
    plantings: tuple[PlantingRow, ...]
    water: Water
    sheets: int
    roll_m: float
    pieces: dict[str, int]
    spoil_loose_l: float
    spoil_loads: int
    doses: tuple[Dose, ...] = field(default_factory=tuple)


def order_list(session: Session, scope: Scope) -> OrderList:
    """The list for a scope. Raises InputError for a truck without room, NotFoundError for what is not there."""
    if scope.mulch not in SCOPES:
        raise InputError(f"must be one of {', '.join(SCOPES)}, not {scope.mulch!r}", "mulch")
    site = register.site(session, scope.site_id)
    today = clock.today(session, site.timezone)
    trees = _trees(session, scope)
    rows = [] if scope.planting_id is not None else _mulched(session, trees, today, scope.mulch)
    plantings = [] if scope.tree_ids else _plantings(session, scope, scope.day or today)
    mixed = {"compost": 0.0, "coir": 0.0, "coarse_sand": 0.0}
    for one in plantings:
        for name, key in batches.MIXED_IN.items():
            mixed[key] += getattr(one.figures.totals, name)
    mixed["compost"] += sum(row.compost_l for row in rows)
    there = yard.on_hand(session)
    lines = []
    new = (USUAL,) if plantings else ()
    for name in dict.fromkeys((*(row.material for row in rows), *new)):
        some = [row for row in rows if row.material == name]
        coming = plantings if name == USUAL else []
        loose = sum(row.loose_l for row in some) + sum(one.mulch_loose_l for one in coming) + mixed.pop(name, 0.0)
        settled = sum(row.settled_l for row in some) + sum(one.mulch_settled_l for one in coming)
        made = order.order(loose, there.get(name, 0.0), scope.truck_l)
        count = len(some) + sum(one.left for one in coming)
        job = _job(sum(row.loose_l for row in some), there.get(name, 0.0))
        lines.append(MaterialLine(name, settled, made, count, tuple(row.tree.id for row in some), job))
    for name, litres in mixed.items():
        if litres > 0:
            made = order.order(litres, there.get(name, 0.0), scope.truck_l)
            lines.append(MaterialLine(name, None, made, sum(one.left for one in plantings), (), Job(0, 0, 0)))
    spoil = sum(one.figures.totals.spoil_loose_l for one in plantings)
    return OrderList(
        site, today, tuple(lines), tuple(rows), tuple(plantings),
        Water(
            sum(one.figures.totals.first_water_l for one in plantings),
            sum(one.figures.totals.poured_through_l for one in plantings), _round_l(session, site, trees, scope),
            sum(row.wetting_l for row in rows), site.tank_l,
        ),
        sum(row.sheets for row in rows), sum(row.roll_m for row in rows), _pieces(plantings), spoil,
        order.order(spoil, truck_l=scope.truck_l, spare=0.0).loads,
        tuple(dose for one in plantings for dose in one.figures.doses),
    )  # fmt: skip


def _job(loose_l: float, there_l: float) -> Job:
    """Whole litres that are taken along for trees in the ground, the spare on top; the spare comes back."""
    taken = math.ceil(loose_l * (1 + order.SPARE_SHARE))
    return Job(max(0.0, math.ceil(taken - there_l)), taken, taken - math.ceil(loose_l))


def _trees(session: Session, scope: Scope) -> list[Tree]:
    every = tree_store.all_trees(session, scope.site_id)
    if scope.tree_ids:
        known = {tree.id: tree for tree in every}
        missing = [tree_id for tree_id in scope.tree_ids if tree_id not in known]
        if missing:
            raise NotFoundError("there is no such tree at this site", "tree_ids")
        return [known[tree_id] for tree_id in scope.tree_ids]
    if scope.planting_id is not None:
        return []
    found = [tree for tree in every if scope.stop is None or (tree.stop and tree.stop.name == scope.stop)]
    if len(found) > MOST_TREES:
        raise InputError(f"must be at most {MOST_TREES} trees at once: choose a stop", "stop")
    return found


def _mulched(session: Session, trees: Sequence[Tree], today: date, which: str) -> list[MulchRow]:
    found = []
    for group in stands.of_trees(session, trees, today):
        parts = lay.lay_all([m.choice for m in group], [m.stand for m in group])
        for one, part in zip(group, parts, strict=True):
            asked = not one.suggested and (part.compost_l > 0 or part.underlay is not None)
            if part.missing_loose_l < 1 or (which == "due" and not one.due and not asked):
                continue
            under = part.underlay
            found.append(MulchRow(
                one.tree, one.choice.material, part.missing_settled_l, part.missing_loose_l, part.compost_l,
                under.sheets if under else 0, under.roll_m if under else 0.0, under.wetting_l if under else 0.0,
            ))  # fmt: skip
    order_of = {tree.id: n for n, tree in enumerate(trees)}
    return sorted(found, key=lambda row: order_of[row.tree.id])


def _plantings(session: Session, scope: Scope, until: date) -> list[PlantingRow]:
    rows = [row for row in planting_store.of_site(session, scope.site_id) if row.planted_on is None]
    if scope.planting_id is not None:
        rows = [row for row in rows if row.id == scope.planting_id]
    else:
        rows = [row for row in rows if row.planned_on <= until and scope.stop in (None, row.stop)]
    found = []
    for row in rows:
        count = batches.left(row)
        if count:
            choice, figures, _ = batches.figures_of(session, row, row.site, row.plant, count)
            ring = stands.first_ring(session, row)
            found.append(PlantingRow(
                row, count, batches.rejected(row), choice, figures, count * ring.full_settled_l,
                count * ring.missing_loose_l,
            ))  # fmt: skip
    return found


def _round_l(session: Session, site: Site, trees: Sequence[Tree], scope: Scope) -> float:
    """Today's water for the trees asked for; nothing where no plan can be made."""
    if not trees:
        return 0.0
    try:
        made = remembered.around(session, site, [tree.id for tree in trees])
    except JuneShadeError:
        return 0.0
    wanted, at = {tree.id for tree in trees}, made.course.today
    return sum(
        water.visit_on(made, i, at).metric.litres
        for i, row in enumerate(made.rows)
        if row.id in wanted and made.plan.visit[i] == at
    )


def _pieces(plantings: Sequence[PlantingRow]) -> dict[str, int]:
    found: dict[str, Any] = dict.fromkeys(("stakes", "ties", "wraps", "guards", "rings"), 0)
    for one in plantings:
        for name in found:
            found[name] += getattr(one.figures.totals, name)
    return {name: count for name, count in found.items() if count}
