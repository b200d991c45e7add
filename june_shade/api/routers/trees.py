"""Trees: the register and their pages."""

from typing import Annotated, Literal
from uuid import UUID

from fastapi import APIRouter, Query, Response

from june_shade.api.context import Db, Retried
from june_shade.api.routers.shape import entries_out, in_force_out, tree_out
from june_shade.api.schemas.common import NO_NUL, Called, StopName
from june_shade.api.schemas.here import PlaceIn
from june_shade.api.schemas.log import EntryOut
from june_shade.api.schemas.stock import Kind, Method
from june_shade.api.schemas.trees import (
    EndIn,
    EndOut,
    ManyIn,
    RowIn,
    StateWord,
    TreeIn,
    TreeList,
    TreeOut,
    TreeRow,
    TreesIn,
    WaterPageOut,
)
from june_shade.plans import ends, here, listing, log, register, trees_file
from june_shade.plans.records import TreeEnd, Wanted
from june_shade.plans.water import page

router = APIRouter(prefix="/api", tags=["trees"], route_class=Retried)
Sort = Literal["place", "tag", "species", "planted", "dry", "next"]


@router.get("/trees")
def list_trees(
    session: Db,
    q: Annotated[
        str, Query(max_length=100, pattern=NO_NUL, description="Words of tag, place, species, stop or site.")
    ] = "",
    site_id: UUID | None = None,
    stop: StopName | None = None,
    plant_id: UUID | None = None,
    kind: Kind | None = None,
    method: Method | None = None,
    called: Called = None,
    state: Annotated[
        StateWord | Literal["ended"] | None, Query(description="Only trees that stand so today, or died or went.")
    ] = None,
    sort: Annotated[Sort, Query(description="dry: the driest first; next: the soonest due first.")] = "place",
    limit: Annotated[int, Query(ge=1, le=500)] = 100,
    offset: Annotated[int, Query(ge=0, le=1_000_000)] = 0,
) -> TreeList:
    """A page of the register with each tree's next watering."""
    wanted = Wanted(q, site_id, stop, plant_id, kind, method, tuple(called or ()))
    count, found = listing.listed(session, wanted, sort, state, limit, offset)
    rows = [
        TreeRow.model_validate(
            {
                "id": t.tree.id, "site_id": t.tree.site_id, "site_name": t.tree.site.name,
                "stop": t.tree.stop.name if t.tree.stop else None, "tag": t.tree.tag, "place": t.tree.place,
                "common": t.tree.plant.common, "botanical": t.tree.plant.botanical, "kind": t.tree.kind,
                "caliper_m": t.tree.caliper_m, "planted_on": t.tree.planted_on,
                "ended_on": t.tree.ended_on, "dryness": t.dryness,
                "next": t.next, "section": t.section, "drip_flags": t.drip_flags,
            }
        )
        for t in found
    ]  # fmt: skip
    return TreeList(count=count, trees=rows)


@router.put("/trees/{tree_id}", status_code=200)
def put_tree(session: Db, tree_id: UUID, body: TreeIn) -> TreeOut:
    """Make or change a tree under an id that the client chose; sending it twice makes one tree."""
    return tree_out(register.save_tree(session, body.model_dump(), tree_id).tree)


@router.put("/trees/{tree_id}/place")
def put_place(session: Db, tree_id: UUID, body: PlaceIn) -> TreeOut:
    """Keep where a tree stands, as a phone beside it says; sending it twice changes nothing."""
    return tree_out(here.put(session, tree_id, body.latitude_deg, body.longitude_deg, body.accuracy_m))


@router.get("/trees.csv", response_class=Response, responses={200: {"content": {"text/csv": {}}}})
def get_trees_csv(session: Db, site_id: UUID | None = None) -> Response:
    """The register as CSV, in SI; brought in again it changes nothing."""
    name = "attachment; filename=trees.csv"
    return Response(trees_file.export(session, site_id), media_type="text/csv", headers={"Content-Disposition": name})


@router.get("/trees-template.csv", response_class=Response, responses={200: {"content": {"text/csv": {}}}})
def get_trees_template(units: Literal["us", "metric"] = "us") -> Response:
    """An empty register file to begin with: its header."""
    name = "attachment; filename=trees.csv"
    return Response(trees_file.template(units), media_type="text/csv", headers={"Content-Disposition": name})


@router.put("/trees")
def put_trees(session: Db, body: TreesIn) -> list[UUID]:
    """Make or change many trees under the clients' ids, all or none; sending it twice changes nothing."""
    rows = register.save_trees(session, [(tree.id, tree.model_dump(exclude={"id"})) for tree in body.trees])
    return [row.id for row in rows]


@router.put("/tree-rows/{row_id}")
def put_row(session: Db, row_id: UUID, body: RowIn) -> list[UUID]:
    """Make a row of trees under an id that the client chose; sending it twice makes one row."""
    made = register.save_row(session, row_id, body.first.model_dump(), body.count, body.spacing_m, body.bearing_deg)
    return [row.id for row in made]


@router.post("/trees/same")
def same_for_many(session: Db, body: ManyIn) -> list[UUID]:
    """Make some fields the same on many trees, all or none; sending it twice changes nothing."""
    changes = body.set.model_dump(exclude_unset=True)
    return [row.id for row in register.change_trees(session, body.trees, changes)]


@router.get("/trees/{tree_id}")
def get_tree(session: Db, tree_id: UUID) -> TreeOut:
    """A tree as it is stored, one that died or went too."""
    row = register.tree(session, tree_id, ended=True)
    return tree_out(row).model_copy(update={"end": _end(ends.standing(session, row.id))})


@router.put("/tree-ends/{end_id}")
def put_end(session: Db, end_id: UUID, body: EndIn) -> EndOut:
    """Write down that a tree died, was removed, was stolen or moved away; sent twice it is one."""
    made = _end(ends.end(session, end_id, **body.model_dump()))
    assert made is not None
    return made


@router.post("/tree-ends/{end_id}/withdraw")
def withdraw_end(session: Db, end_id: UUID) -> EndOut:
    """Take it back: the tree stands as before."""
    made = _end(ends.withdraw(session, end_id))
    assert made is not None
    return made


def _end(row: TreeEnd | None) -> EndOut | None:
    if row is None:
        return None
    own = {name: getattr(row, name) for name in EndOut.model_fields if name != "withdrawn"}
    return EndOut.model_validate(own | {"withdrawn": row.withdrawn_at is not None})


@router.get("/trees/{tree_id}/water")
def get_water(session: Db, tree_id: UUID) -> WaterPageOut:
    """The Water page: state, next watering, soil line, working."""
    shown = page.of_tree(session, tree_id)
    told = {"tree": tree_out(shown["tree"]), "routine": in_force_out(shown["routine"])}
    return WaterPageOut.model_validate(shown | told)


@router.get("/trees/{tree_id}/log")
def get_tree_log(session: Db, tree_id: UUID) -> list[EntryOut]:
    """A tree's entries, newest first, voided ones marked."""
    register.tree(session, tree_id, ended=True)
    entries = log.of_tree(session, tree_id)
    voided = {entry.voids for entry in entries if entry.voids}
    return entries_out(session, entries, voided)
