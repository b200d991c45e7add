"""Drip: a tree's layout, a line's, what is accepted, and the same on paper."""

from dataclasses import asdict
from math import isnan
from typing import Any
from uuid import UUID

from fastapi import APIRouter, Response

from june_shade.api.context import Db, Reading, Retried
from june_shade.api.routers.shape import tree_out
from june_shade.api.schemas.catch import CatchIn, CatchOut, CaughtOnOut
from june_shade.api.schemas.drip import (
    ChoiceIO,
    DripFigures,
    DripLook,
    DripPageOut,
    LayoutIn,
    LayoutOut,
    LineLayoutsIn,
    LookIn,
    ObstacleIO,
    ObstaclesIn,
    ProofIn,
    ProofOut,
)
from june_shade.api.schemas.drip_compare import ComparedOut, CompareIn, SideBySideOut
from june_shade.api.schemas.drip_line import GapIn, LinePageOut, LineRowOut, SupplyIn, SupplyOut
from june_shade.api.schemas.sites import ClosedIn
from june_shade.core.drip.choice import LayoutChoice, as_kept
from june_shade.core.drip.scene import Obstacle
from june_shade.plans.drip import catches, compare, layouts, lines, page, papers
from june_shade.plans.drip.catches import Test
from june_shade.plans.records import DripLayout, DripProof

router = APIRouter(prefix="/api", tags=["drip"], route_class=Retried)
FILE: dict[int | str, dict[str, Any]] = {
    200: {"content": {"text/csv": {}, "image/svg+xml": {}, "application/geo+json": {}}}
}


def _obstacles(given: list[ObstacleIO]) -> tuple[Obstacle, ...]:
    return tuple(Obstacle(**one.model_dump()) for one in given)


def _choice(given: ChoiceIO) -> LayoutChoice:
    return as_kept(given.model_dump())


def _layout(row: DripLayout) -> LayoutOut:
    return LayoutOut.model_validate({
        "id": row.id, "tree_id": row.tree_id, "laid_on": row.laid_on, "choice": row.choice, "note": row.note,
        "flow_l_per_h": row.flow_l_per_h, "emitters": len(row.emitters),
        "ball_share": row.ball_share, "withdrawn": row.withdrawn_at is not None,
    })  # fmt: skip


def _proof(row: DripProof) -> ProofOut:
    own = {name: getattr(row, name) for name in ProofOut.model_fields if name != "withdrawn"}
    return ProofOut.model_validate(own | {"withdrawn": row.withdrawn_at is not None})


def _catch(one: Test) -> CatchOut:
    kept = {name: getattr(one.row, name) for name in ("id", "layout_id", "day", "minutes", "caught_ml", "note")}
    stands = {"withdrawn": one.row.withdrawn_at is not None, "in_force": one.in_force, "since": one.since}
    return CatchOut.model_validate(kept | asdict(one.found) | stands)


def _look(one: page.Look) -> DripLook:
    own = {name: getattr(one, name) for name in DripLook.model_fields if name not in ("run", "figures")}
    figures = {name: getattr(one.verdict.figures, name) for name in DripFigures.model_fields}
    if isnan(figures["wetted_fraction"]):
        figures["wetted_fraction"] = None
    return DripLook.model_validate(own | {"run": one.verdict.run, "figures": figures})


def _page(page: dict[str, Any]) -> DripPageOut:
    return DripPageOut.model_validate(page | {
        "tree": tree_out(page["tree"]), "layout": _layout(page["layout"]) if page["layout"] else None,
        "looks": [
            {"look": _look(one.look), "changes": one.changes, "new_parts": one.new_parts} for one in page["looks"]
        ],
        "tasks": [
            {name: getattr(one.task, name) for name in type(one.task).__dataclass_fields__} | {"day": one.day}
            for one in page["tasks"]
        ],
        "history": [_layout(row) for row in page["history"]], "proofs": [_proof(row) for row in page["proofs"]],
        "catches": [_catch(one) for one in page["catches"]],
    })  # fmt: skip


@router.get("/trees/{tree_id}/drip")
def get_drip(session: Db, tree_id: UUID) -> DripPageOut:
    """The Drip page: the layout that lies there, or the best one; how it grows; tasks and parts."""
    return _page(page.tree_page(session, tree_id))


@router.post("/trees/{tree_id}/drip/look")
def look_at_drip(session: Reading, tree_id: UUID, body: LookIn) -> DripPageOut:
    """What typed measures would do; nothing is stored."""
    obstacles = None if body.obstacles is None else _obstacles(body.obstacles)
    return _page(page.tree_look(session, tree_id, _choice(body.choice), obstacles))


@router.post("/trees/{tree_id}/drip/compare")
def compare_drip(session: Reading, tree_id: UUID, body: CompareIn) -> SideBySideOut:
    """What lies at a tree, what is typed and every pattern, side by side over two years; nothing is stored."""
    choice = None if body.choice is None else _choice(body.choice)
    obstacles = None if body.obstacles is None else _obstacles(body.obstacles)
    found = compare.side_by_side(session, tree_id, choice, obstacles)
    scene = found.scene
    return SideBySideOut.model_validate({
        "today": found.today, "every_days": compare.SHOWN_EVERY_DAYS, "half_m": found.half_m,
        "ball_radius_m": scene.ball_radius_m, "roots_radius_m": scene.roots_now_m,
        "trunk_diameter_m": scene.trunk_diameter_m, "shapes": page.shapes(scene.obstacles, found.half_m),
        "layouts": [_compared(one) for one in found.layouts],
    })  # fmt: skip


def _compared(one: compare.Compared) -> dict[str, Any]:
    own = {name: getattr(one, name) for name in ComparedOut.model_fields if name not in ("emitters", "runs")}
    places = zip(one.drawing.emitters, one.widths_m, strict=True)
    emitters = [{"x_m": node.x_m, "y_m": node.y_m, "width_m": width} for node, width in places]
    return own | {"emitters": emitters, "runs": one.drawing.runs}


@router.put("/drip-layouts/{layout_id}")
def put_layout(session: Db, layout_id: UUID, body: LayoutIn) -> LayoutOut:
    """Accept a layout under an id that the client chose; sending it twice makes one."""
    choice = _choice(body.choice)
    return _layout(layouts.save(session, layout_id, body.tree_id, choice, body.laid_on, body.note))


@router.post("/drip-layouts/{layout_id}/withdraw")
def withdraw_layout(session: Db, layout_id: UUID) -> LayoutOut:
    """Take a layout back; the one before it counts again."""
    return _layout(layouts.withdraw(session, layout_id))


@router.put("/trees/{tree_id}/obstacles")
def put_obstacles(session: Db, tree_id: UUID, body: ObstaclesIn) -> list[UUID]:
    """Say what stands beside a tree, or beside every tree of its line."""
    return layouts.set_obstacles(session, tree_id, _obstacles(body.obstacles), whole_line=body.whole_line)


@router.put("/drip-proofs/{proof_id}")
def put_proof(session: Db, proof_id: UUID, body: ProofIn) -> ProofOut:
    """Keep a depth-and-time proof; the bulbs go by it."""
    return _proof(
        layouts.put_proof(session, proof_id, body.tree_id, body.day, body.minutes, body.depth_m, body.note)
    )  # fmt: skip


@router.post("/drip-proofs/{proof_id}/withdraw")
def withdraw_proof(session: Db, proof_id: UUID) -> ProofOut:
    """Take a proof back."""
    return _proof(layouts.withdraw_proof(session, proof_id))


@router.put("/drip-catches/{catch_id}")
def put_catch(session: Db, catch_id: UUID, body: CatchIn) -> CatchOut:
    """Keep what cups under the emitters caught; run times go by it."""
    return _catch(
        catches.put(session, catch_id, body.tree_id, body.day, body.minutes, body.caught_ml, body.note)
    )  # fmt: skip


@router.post("/drip-catches/{catch_id}/withdraw")
def withdraw_catch(session: Db, catch_id: UUID) -> CatchOut:
    """Take a catch test back."""
    return _catch(catches.withdraw(session, catch_id))


def _caught(found: page.CaughtOn | None) -> CaughtOnOut | None:
    return None if found is None else CaughtOnOut.model_validate({
        "uniformity": found.over.uniformity, "least": found.over.least,
        "trees": [
            {"tree_id": one.tree.id, "tag": one.tree.tag, "day": one.day, "mean_l_per_h": one.found.mean_l_per_h}
            | {kind: getattr(one.found, kind) for kind in ("blocked", "weak", "leaking")}
            for one in found.trees
        ],
    })  # fmt: skip


def _line_page(page: dict[str, Any]) -> LinePageOut:
    lateral = page["lateral"]
    return LinePageOut.model_validate(page | {
        "site_name": page["site"].name, "caught": _caught(page["caught"]),
        "lateral": {
            "bearing_deg": lateral.bearing_deg, "feed_bearing_deg": lateral.feed_bearing_deg,
            "offset_m": lateral.offset_m, "bore_mm": lateral.bore_mm, "static_m": lateral.supply.static_m,
            "open_l_per_h": lateral.supply.open_l_per_h, "regulated_m": lateral.supply.regulated_m,
        },
        "trees": [
            {
                "id": one.tree.id, "tag": one.tree.tag, "place": one.tree.place, "common": one.tree.plant.common,
                "accepted": one.accepted, "chainage_m": one.chainage_m, "height_m": one.height_m,
                "tee_head_m": one.tee_head_m, "look": _look(one.look),
            }
            for one in page["trees"]
        ],
    })  # fmt: skip


@router.get("/lines/{line_id}")
def get_line(session: Db, line_id: UUID, anew: bool = False) -> LinePageOut:
    """A line: its row, pressure and flow, parts. anew: as it would be suggested now."""
    return _line_page(page.line_page(session, line_id, anew=anew))


@router.get("/lines/{line_id}/supply")
def get_supply(session: Db, line_id: UUID) -> SupplyOut:
    """What feeds a line, as stored."""
    return SupplyOut.model_validate(lines.line(session, line_id))


@router.put("/lines/{line_id}/supply")
def put_supply(session: Db, line_id: UUID, body: SupplyIn) -> SupplyOut:
    """Say what feeds a line and how its row lies."""
    return SupplyOut.model_validate(layouts.save_supply(session, line_id, body.model_dump(mode="json")))


@router.put("/lines/{line_id}/closed")
def put_line_closed(session: Db, line_id: UUID, body: ClosedIn) -> SupplyOut:
    """Close a line that no tree hangs on, or open it again: out of its site's lists, its record kept."""
    return SupplyOut.model_validate(layouts.close_line(session, line_id, closed=body.closed))


@router.put("/lines/{line_id}/gaps/{tree_id}")
def put_gap(session: Db, line_id: UUID, tree_id: UUID, body: GapIn) -> LinePageOut:
    """Say that what was laid for a tree that is gone was closed, or is open again."""
    layouts.close_gap(session, line_id, tree_id, closed=body.closed)
    return _line_page(page.line_page(session, line_id))


@router.put("/lines/{line_id}/layouts/{batch_id}")
def put_line_layouts(session: Db, line_id: UUID, batch_id: UUID, body: LineLayoutsIn) -> list[LayoutOut]:
    """Accept what is suggested for a whole line, or the same for all of its trees; sending it twice makes one batch."""
    choice = None if body.choice is None else _choice(body.choice)
    return [_layout(row) for row in layouts.save_line(session, batch_id, line_id, body.laid_on, choice)]


@router.get("/sites/{site_id}/lines")
def list_lines(session: Db, site_id: UUID, closed: bool = False) -> list[LineRowOut]:
    """A site's lines with what is wrong on them. closed: those that nothing hangs on any more."""
    return [
        LineRowOut.model_validate({
            "id": one.line.id, "name": one.line.name, "trees": one.trees, "laid": one.laid,
            "flow_l_per_h": one.flow_l_per_h, "codes": one.codes, "problem": one.problem,
        })
        for one in page.site_lines(session, site_id, closed=closed)
    ]  # fmt: skip


def _file(content: str, media: str, name: str) -> Response:
    return Response(content, media_type=media, headers={"Content-Disposition": f"attachment; filename={name}"})


@router.get("/trees/{tree_id}/drip.svg", response_class=Response, responses=FILE)
def get_tree_svg(session: Db, tree_id: UUID) -> Response:
    """A tree's layout to scale."""
    return _file(papers.tree_svg(session, tree_id), "image/svg+xml", "drip.svg")


@router.get("/trees/{tree_id}/drip.geojson", response_class=Response, responses=FILE)
def get_tree_geojson(session: Db, tree_id: UUID) -> Response:
    """A tree's layout where it stands."""
    return _file(papers.tree_geojson(session, tree_id), "application/geo+json", "drip.geojson")


@router.get("/trees/{tree_id}/drip.csv", response_class=Response, responses=FILE)
def get_tree_parts(session: Db, tree_id: UUID) -> Response:
    """A tree's parts, and what each year adds."""
    return _file(papers.tree_parts(session, tree_id), "text/csv", "drip-parts.csv")


@router.get("/lines/{line_id}/drip.svg", response_class=Response, responses=FILE)
def get_line_svg(session: Db, line_id: UUID) -> Response:
    """A line to scale."""
    return _file(papers.line_svg(session, line_id), "image/svg+xml", "line.svg")


@router.get("/lines/{line_id}/drip.geojson", response_class=Response, responses=FILE)
def get_line_geojson(session: Db, line_id: UUID) -> Response:
    """A line's layouts where they stand."""
    return _file(papers.line_geojson(session, line_id), "application/geo+json", "line.geojson")


@router.get("/lines/{line_id}/drip.csv", response_class=Response, responses=FILE)
def get_line_parts(session: Db, line_id: UUID) -> Response:
    """A line's parts."""
    return _file(papers.line_parts(session, line_id), "text/csv", "line-parts.csv")


@router.get("/sites/{site_id}/drip.csv", response_class=Response, responses=FILE)
def get_site_parts(session: Db, site_id: UUID) -> Response:
    """The parts of a whole site."""
    return _file(papers.site_parts(session, site_id), "text/csv", "site-parts.csv")
