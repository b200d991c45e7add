"""The ground plan of a site: shown, placed, brought in and taken out as GeoJSON, with a picture under it."""

from typing import Any
from uuid import UUID

from fastapi import APIRouter, Request, Response, UploadFile

from june_shade.api.context import Config, Db, Reading, Retried
from june_shade.api.routers.pictures import JPEG
from june_shade.api.routers.shape import read_upload
from june_shade.api.schemas.ground import (
    GroundFileOut,
    GroundOut,
    GroundPlacedOut,
    GroundPlacesIn,
    GroundPointsIn,
    GroundRowIn,
    GroundThingIn,
)
from june_shade.core.errors import InputError
from june_shade.core.ground.things import LEAST_SPOTS, SHAPES
from june_shade.plans import pictures
from june_shade.plans.ground import file as files
from june_shade.plans.ground import page, placed
from june_shade.plans.ground.file import Look
from june_shade.plans.ground.page import Ground
from june_shade.plans.pictures import TOO_LARGE
from june_shade.plans.work import Session

router = APIRouter(prefix="/api", tags=["ground"], route_class=Retried)
KINDS = [{"kind": kind, "shape": shape, "least": LEAST_SPOTS[shape]} for kind, shape in SHAPES.items()]
GEOJSON: dict[int | str, dict[str, Any]] = {200: {"content": {"application/geo+json": {}}}}


def _picture(ground: Ground) -> dict[str, Any] | None:
    row, lies = ground.picture, ground.lies
    if row is None:
        return None
    own = {"name": row.sha256[:12], "width_px": row.width_px, "height_px": row.height_px}
    return own | {name: getattr(lies, name, None) for name in ("matrix", "m_per_px", "turned_deg", "corners")}


def _out(ground: Ground) -> GroundOut:
    things = []
    for one in ground.features:
        shape, paths = files.outline(one.geometry, ground.site)
        things.append({"id": one.id, "kind": one.kind, "name": one.name, "shape": shape, "paths": paths})
    return GroundOut.model_validate({
        "site_id": ground.site.id, "name": ground.site.name, "today": ground.today,
        "trees": [
            {
                "id": one.listed.tree.id, "tag": one.listed.tree.tag, "place": one.listed.tree.place,
                "common": one.listed.tree.plant.common,
                "stop": one.listed.tree.stop.name if one.listed.tree.stop else None,
                "line": one.listed.tree.line.name if one.listed.tree.line else None,
                "x_m": one.at[0], "y_m": one.at[1], "basis": one.basis, "section": one.listed.section,
                "dryness": one.listed.dryness, "next": one.listed.next, "turn": one.turn,
                "mulch_radius_m": one.mulch_radius_m,
                "beside": [{"kind": kind, "outline": outline} for kind, outline in one.beside],
            }
            for one in ground.trees
        ],
        "stops": [{"id": stop.id, "name": stop.name, "x_m": x, "y_m": y} for stop, (x, y) in ground.stops],
        "lines": [
            {"id": one.line.id, "name": one.line.name, "valve": one.valve, "way": one.way} for one in ground.lines
        ],
        "things": things, "picture": _picture(ground), "kinds": KINDS,
    })  # fmt: skip


def _now(session: Session, site_id: UUID) -> GroundOut:
    return _out(page.of_site(session, site_id))


@router.get("/sites/{site_id}/ground")
def get_ground(session: Reading, site_id: UUID) -> GroundOut:
    """A site's ground plan: where everything lies, how full each tree is, today's round."""
    return _now(session, site_id)


@router.put("/sites/{site_id}/ground/row")
def put_ground_row(session: Db, site_id: UUID, body: GroundRowIn) -> GroundPlacedOut:
    """Place trees of a row by its first and its last; the others stand between them, each at its part of the way."""
    before = placed.put_row(session, site_id, body.trees, body.first, body.last)
    return GroundPlacedOut.model_validate({"ground": _now(session, site_id), "before": before}, from_attributes=True)


@router.put("/sites/{site_id}/ground/places")
def put_ground_places(session: Db, site_id: UUID, body: GroundPlacesIn) -> GroundOut:
    """Set where trees stand, or that nobody knows it; so placing is undone."""
    places = {}
    for n, one in enumerate(body.places):
        known = one.latitude_deg, one.longitude_deg
        if (known[0] is None) != (known[1] is None):
            raise InputError("needs both, or neither", f"places[{n}].longitude_deg")
        places[one.tree_id] = None if known[0] is None or known[1] is None else (known[0], known[1])
    placed.put_places(session, site_id, places)
    return _now(session, site_id)


@router.put("/sites/{site_id}/ground/things/{thing_id}")
def put_ground_thing(session: Db, site_id: UUID, thing_id: UUID, body: GroundThingIn) -> GroundOut:
    """Put a hydrant, a wall, paving on the plan by the spots that were shown, under an id that the client made."""
    placed.show_feature(session, site_id, thing_id, body.kind, body.name, body.spots)
    return _now(session, site_id)


@router.delete("/sites/{site_id}/ground/things/{thing_id}")
def delete_ground_thing(session: Db, site_id: UUID, thing_id: UUID) -> GroundOut:
    """Take a thing off the plan."""
    placed.remove_feature(session, site_id, thing_id)
    return _now(session, site_id)


@router.get("/sites/{site_id}/ground.geojson", response_class=Response, responses=GEOJSON)
def get_ground_file(session: Reading, site_id: UUID) -> Response:
    """The plan as GeoJSON, for a GIS."""
    headers = {"Content-Disposition": "attachment; filename=ground-plan.geojson"}
    return Response(files.write(session, site_id), media_type="application/geo+json", headers=headers)


def _looked(found: Look, *, stored: bool) -> GroundFileOut:
    return GroundFileOut.model_validate({
        "stored": stored, "turned": found.turned, "trees": len(found.trees), "tags": found.tags[: files.SHOWN],
        "stops": len(found.stops), "things": len(found.things), "same": found.same,
        "refused_count": len(found.refused),
        "refused": [{"number": number, "why": why} for number, why in found.refused[: files.SHOWN]],
    })  # fmt: skip


@router.post("/sites/{site_id}/ground/look")
def look_at_ground_file(session: Reading, site_id: UUID, file: UploadFile, turn: bool = False) -> GroundFileOut:
    """What a GeoJSON file would do; nothing is stored. turn: its axes are turned first."""
    return _looked(files.look(session, site_id, read_upload(file), turn=turn), stored=False)


@router.put("/sites/{site_id}/ground/file")
def put_ground_file(session: Db, site_id: UUID, file: UploadFile, turn: bool = False) -> GroundFileOut:
    """Store what a GeoJSON file brings: trees by their tags, stops by their names, other things. Twice it is once."""
    return _looked(files.store_look(session, site_id, read_upload(file), turn=turn), stored=True)


@router.put("/sites/{site_id}/ground/picture")
def put_ground_picture(session: Db, config: Config, site_id: UUID, file: UploadFile) -> GroundOut:
    """Keep the picture that lies under the plan; it has to be placed by two points."""
    placed.put_picture(session, pictures.folder_at(config.pictures), site_id, read_upload(file, TOO_LARGE))
    return _now(session, site_id)


@router.put("/sites/{site_id}/ground/picture/points")
def put_ground_points(session: Db, site_id: UUID, body: GroundPointsIn) -> GroundOut:
    """Lay the picture by two points of it and where they are."""
    placed.place_picture(session, site_id, [((one.px, one.py), one.at) for one in body.points])
    return _now(session, site_id)


@router.delete("/sites/{site_id}/ground/picture")
def delete_ground_picture(session: Db, site_id: UUID) -> GroundOut:
    """Take the picture off the plan."""
    placed.remove_picture(session, site_id)
    return _now(session, site_id)


@router.get("/sites/{site_id}/ground/picture", response_class=Response, responses=JPEG)
def get_ground_picture(session: Reading, config: Config, request: Request, site_id: UUID) -> Response:
    """The file of the picture under the plan."""
    name, data = placed.picture_file(session, pictures.folder_at(config.pictures), site_id)
    headers = {"ETag": f'"{name}"', "Cache-Control": "private, no-cache"}
    if request.headers.get("if-none-match") == headers["ETag"]:
        return Response(status_code=304, headers=headers)
    return Response(data, media_type="image/jpeg", headers=headers)
