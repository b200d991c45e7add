"""Planting: batches planned, looked at, planted; how a tree in the ground was planted."""

from typing import Any
from uuid import UUID

from fastapi import APIRouter

from june_shade.api.context import Db, Reading, Retried
from june_shade.api.routers.shape import tree_out
from june_shade.api.schemas.planting import (
    PlantedIn,
    PlantedUndoIn,
    PlantingFiguresOut,
    PlantingIn,
    PlantingOut,
    PlantingRow,
    StockCheckIn,
    StockCheckOut,
    TreePlanting,
    TreePlantingIn,
    WhenOut,
)
from june_shade.core.drip.scene import Obstacle
from june_shade.plans.planting import batches, page, planted, when

router = APIRouter(prefix="/api", tags=["planting"], route_class=Retried)
OWN = {"choice", "mature_spread_m", "mature_height_m", "sun_wants_h"}


def _figures(page: dict[str, Any], height_m: float) -> PlantingFiguresOut:
    own = {name: getattr(page["figures"], name) for name in PlantingFiguresOut.model_fields if name not in OWN}
    stock = page["stock"]
    return PlantingFiguresOut.model_validate(own | {
        "choice": page["choice"], "mature_spread_m": stock.mature_spread_m, "mature_height_m": height_m,
        "sun_wants_h": stock.sun_wants_h,
    })  # fmt: skip


def _batch(page: dict[str, Any]) -> PlantingOut:
    row = page["row"]
    own = {name: getattr(row, name) for name in PlantingOut.model_fields if hasattr(row, name)}
    return PlantingOut.model_validate(own | {
        "site_name": row.site.name, "left": page["left"], "trees": [tree.id for tree in page["trees"]],
        "tags": [tree.tag for tree in page["trees"]], "today": page["today"], "zone": page["zone"],
        "texture": page["texture"], "chosen": page["chosen"], "undoable": page["undoable"],
        "questions": page["questions"], **batches.way_of(row),
        "figures": _figures(page, row.plant.mature_height_m),
        "checks": [
            check | {
                "number": int(n),
                "stake_mark_m": batches.mark_m(row, page["choice"], check["flare_below_top_m"]),
            }
            for n, check in sorted(row.checks.items(), key=lambda c: int(c[0]))
        ],
    })  # fmt: skip


def _given(body: PlantingIn) -> tuple[dict[str, Any], dict[str, Any] | None, list[Obstacle] | None]:
    values = body.model_dump(exclude={"choice", "obstacles"})
    choice = None if body.choice is None else body.choice.model_dump()
    beside = None if body.obstacles is None else [Obstacle(**one.model_dump()) for one in body.obstacles]
    return values, choice, beside


@router.get("/sites/{site_id}/plantings")
def list_plantings(session: Db, site_id: UUID) -> list[PlantingRow]:
    """A site's plantings: those to come, then those done."""
    return [PlantingRow.model_validate(row) for row in page.site_rows(session, site_id)]


@router.get("/plantings")
def list_plantings_to_come(session: Reading) -> list[PlantingRow]:
    """Plantings of all sites that are still to come, the next first."""
    return [PlantingRow.model_validate(row) for row in page.to_come(session)]


@router.put("/plantings/{planting_id}")
def put_planting(session: Db, planting_id: UUID, body: PlantingIn) -> PlantingOut:
    """Make or change a planting that is to come, under an id that the client chose."""
    return _batch(page.page_of(session, batches.save(session, planting_id, *_given(body))))


@router.get("/plantings/{planting_id}/when")
def get_when(session: Reading, planting_id: UUID) -> WhenOut:
    """When to plant a batch: its water by month of a usual year, and the days of the coming fortnight."""
    return WhenOut.model_validate(when.of_batch(session, planting_id))


@router.get("/plantings/{planting_id}")
def get_planting(session: Db, planting_id: UUID) -> PlantingOut:
    """A planting with its figures."""
    return _batch(page.batch_page(session, planting_id))


@router.post("/plantings/look")
def look_at_planting(session: Reading, body: PlantingIn) -> PlantingFiguresOut:
    """What typed stock and measures come to; nothing is stored."""
    page = batches.look(session, *_given(body))
    return _figures(page, page["plant"].mature_height_m)


@router.put("/plantings/{planting_id}/checks/{number}")
def put_stock_check(session: Db, planting_id: UUID, number: int, body: StockCheckIn) -> StockCheckOut:
    """Keep the look at one tree; a rejected one is not planted."""
    _, found = batches.put_check(session, planting_id, number, body.answers, body.flare_below_top_m)
    return StockCheckOut.model_validate(body.model_dump() | {
        "number": number, "verdict": found.verdict, "reasons": found.reasons, "actions": found.actions,
    })  # fmt: skip


@router.post("/plantings/{planting_id}/planted")
def plant_out(session: Db, planting_id: UUID, body: PlantedIn) -> PlantingOut:
    """The trees are in the ground; sent again it changes nothing."""
    planted.plant_out(
        session, planting_id, body.day, body.device_id, body.person_id, body.water_l,
        None if body.taken is None else {str(name): litres for name, litres in body.taken.items()},
        {str(name): litres for name, litres in body.back.items()},
        body.at, body.raise_m, body.id,
    )  # fmt: skip
    return _batch(page.batch_page(session, planting_id))


@router.post("/plantings/{planting_id}/planted/undo")
def undo_planted(session: Db, planting_id: UUID, body: PlantedUndoIn) -> PlantingOut:
    """They were not planted after all: the planting is to come again. Sent again it changes nothing."""
    planted.undo_planted(session, planting_id, body.device_id, body.person_id)
    return _batch(page.batch_page(session, planting_id))


@router.post("/plantings/{planting_id}/withdraw")
def withdraw_planting(session: Db, planting_id: UUID) -> PlantingOut:
    """Take back a planting that is to come."""
    return _batch(page.page_of(session, batches.withdraw(session, planting_id)))


def _tree(page: dict[str, Any]) -> TreePlanting:
    tree = page["tree"]
    own = {name: page[name] for name in TreePlanting.model_fields if name in page and name not in ("tree", "figures")}
    return TreePlanting.model_validate(own | {
        "tree": tree_out(tree), "figures": _figures(page, tree.plant.mature_height_m)
    })  # fmt: skip


@router.get("/trees/{tree_id}/planting")
def get_tree_planting(session: Db, tree_id: UUID) -> TreePlanting:
    """How a tree was planted, or what its figures would be to."""
    return _tree(page.tree_page(session, tree_id))


@router.post("/trees/{tree_id}/planting/look")
def look_at_tree_planting(session: Reading, tree_id: UUID, body: TreePlantingIn) -> TreePlanting:
    """What other measures come to; nothing is stored."""
    return _tree(page.tree_page(session, tree_id, body.choice.model_dump(), body.flare_below_top_m))


@router.put("/trees/{tree_id}/planting/{planting_id}")
def put_tree_planting(session: Db, tree_id: UUID, planting_id: UUID, body: TreePlantingIn) -> TreePlanting:
    """Write down how a tree that stands already was planted."""
    planted.record_tree(session, planting_id, tree_id, body.choice.model_dump(), body.flare_below_top_m)
    return _tree(page.tree_page(session, tree_id))
