"""Trees: the register and the sheets."""

from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Query
from sqlalchemy import select

from june_shade.api.context import Db
from june_shade.api.routers.shape import entries_out, tree_out
from june_shade.api.schemas.log import EntryOut
from june_shade.api.schemas.trees import (
    MulchSheet,
    PlantOut,
    StockSizeOut,
    TreeIn,
    TreeList,
    TreeOut,
    TreeRow,
    WaterSheet,
)
from june_shade.plans import log, register, sheets
from june_shade.store.tables import Plant, StockSize

router = APIRouter(prefix="/api", tags=["trees"])


@router.get("/plants")
def list_plants(session: Db) -> list[PlantOut]:
    """Kinds of tree, by common name."""
    return [PlantOut.model_validate(p) for p in session.scalars(select(Plant).order_by(Plant.common))]


@router.get("/stock-sizes")
def list_stock_sizes(session: Db) -> list[StockSizeOut]:
    """Nursery stock by kind and size."""
    rows = session.scalars(select(StockSize).order_by(StockSize.kind.desc(), StockSize.ball_diameter_m))
    return [StockSizeOut.model_validate(s) for s in rows]


@router.get("/trees")
def list_trees(
    session: Db,
    q: Annotated[str, Query(max_length=100, description="Words of tag, place, species, stop or site.")] = "",
    site_id: UUID | None = None,
    limit: Annotated[int, Query(ge=1, le=500)] = 100,
    offset: Annotated[int, Query(ge=0)] = 0,
) -> TreeList:
    """A page of the register with each tree's next watering."""
    count, found = sheets.listed(session, q, site_id, limit, offset)
    rows = [
        TreeRow.model_validate(
            {
                "id": t.tree.id, "site_id": t.tree.site_id, "site_name": t.tree.site.name,
                "stop": t.tree.stop.name if t.tree.stop else None, "tag": t.tree.tag, "place": t.tree.place,
                "common": t.tree.plant.common, "botanical": t.tree.plant.botanical, "kind": t.tree.kind,
                "caliper_m": t.tree.caliper_m, "planted_on": t.tree.planted_on, "dryness": t.dryness,
                "next": t.next, "section": t.section,
            }
        )
        for t in found
    ]  # fmt: skip
    return TreeList(count=count, trees=rows)


@router.put("/trees/{tree_id}", status_code=200)
def put_tree(session: Db, tree_id: UUID, body: TreeIn) -> TreeOut:
    """Make or change a tree under an id that the client chose; sending it twice makes one tree."""
    return tree_out(register.save_tree(session, body.model_dump(), tree_id).tree)


@router.get("/trees/{tree_id}")
def get_tree(session: Db, tree_id: UUID) -> TreeOut:
    """A tree as it is stored."""
    return tree_out(register.tree(session, tree_id))


@router.get("/trees/{tree_id}/water")
def get_water(session: Db, tree_id: UUID) -> WaterSheet:
    """The Water page: state, next watering, soil line, working."""
    sheet = sheets.water_sheet(session, tree_id)
    return WaterSheet.model_validate(sheet | {"tree": tree_out(sheet["tree"])})


@router.get("/trees/{tree_id}/mulch")
def get_mulch(session: Db, tree_id: UUID) -> MulchSheet:
    """The Mulch page: what the ring holds and lacks."""
    sheet = sheets.mulch_sheet(session, tree_id)
    return MulchSheet.model_validate(sheet | {"tree": tree_out(sheet["tree"])})


@router.get("/trees/{tree_id}/log")
def get_tree_log(session: Db, tree_id: UUID) -> list[EntryOut]:
    """A tree's entries, newest first, voided ones marked."""
    register.tree(session, tree_id)
    entries = log.of_tree(session, tree_id)
    voided = {entry.voids for entry in entries if entry.voids}
    return entries_out(session, entries, voided)
