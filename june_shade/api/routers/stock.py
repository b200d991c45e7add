"""Kinds of tree, nursery stock, and a look at a ball or a way of pouring before a tree is stored."""

from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Query

from june_shade.api.context import Db, Reading, Retried
from june_shade.api.schemas.stock import BallOut, Kind, PlantIn, PlantOut, PourIn, PourLook, StockSizeOut
from june_shade.core.stock import look as stock
from june_shade.core.stock.balls import caliper_from_girth_m
from june_shade.plans import describe, kinds, register

router = APIRouter(prefix="/api", tags=["stock"], route_class=Retried)


@router.get("/plants")
def list_plants(session: Db) -> list[PlantOut]:
    """Kinds of tree, by common name."""
    return [PlantOut.model_validate(p) for p in kinds.plants(session)]


@router.put("/plants/{plant_id}")
def put_plant(session: Db, plant_id: UUID, body: PlantIn) -> PlantOut:
    """Make or change a kind of tree under an id that the client chose; plans with it are made anew."""
    return PlantOut.model_validate(kinds.save_plant(session, body.model_dump(), plant_id))


@router.get("/ball")
def get_ball(
    kind: Kind,
    caliper_m: Annotated[float, Query(gt=0, le=1)],
    ball_diameter_m: Annotated[float, Query(gt=0, le=5)],
    ball_height_m: Annotated[float, Query(gt=0, le=3)],
    ball_volume_l: Annotated[float | None, Query(gt=0, le=20000)] = None,
) -> BallOut:
    """What a ball of these measures holds and weighs, how it is lifted, how it stands against the standard."""
    found = stock.ball(kind, caliper_m, ball_diameter_m, ball_height_m, ball_volume_l)
    return BallOut.model_validate(found)


@router.post("/pour-look")
def look_at_pouring(session: Reading, body: PourIn) -> PourLook:
    """What a way of pouring does for a ball at a site: share, efficiency, time; nothing is stored."""
    values = body.model_dump(exclude={"site_id"})
    return PourLook.model_validate(describe.look_at_pouring(session, register.site(session, body.site_id), values))


@router.get("/caliper")
def get_caliper(girth_m: Annotated[float, Query(gt=0, le=1.6)]) -> float:
    """Caliper [m] from a trunk's girth [m]."""
    return caliper_from_girth_m(girth_m)


@router.get("/stock-sizes")
def list_stock_sizes(session: Db) -> list[StockSizeOut]:
    """Nursery stock by kind and size."""
    return [StockSizeOut.model_validate(s) for s in kinds.sizes(session)]
