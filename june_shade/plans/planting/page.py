"""What the Planting pages show: a batch that is to come or stands; how one tree was planted. Values only, in SI."""

from collections.abc import Mapping
from datetime import date
from types import SimpleNamespace
from typing import Any
from uuid import UUID

from june_shade.core.planting.stock_check import asked_of
from june_shade.plans import clock, register
from june_shade.plans.planting import batches, planted
from june_shade.store import planting as store
from june_shade.store import trees as tree_store
from june_shade.store.planting_tables import Planting
from june_shade.store.session import Session
from june_shade.store.site_tables import Site
from june_shade.store.tree_tables import Tree


def batch_page(session: Session, planting_id: UUID) -> dict[str, Any]:
    """A planting with its figures, for the trees of it that go into the ground."""
    row = batches.planting(session, planting_id)
    return page_of(session, row)


def page_of(session: Session, row: Planting) -> dict[str, Any]:
    """The same from a row."""
    choice, figures, stock = batches.figures_of(session, row, row.site, row.plant, batches.left(row))
    trees = store.trees_of(session, row.id) if row.planted_on else []
    questions = {question: list(words) for question, words in asked_of(row.kind).items()}
    return {
        "row": row, "choice": choice, "figures": figures, "stock": stock, "left": batches.left(row), "trees": trees,
        "today": clock.today(session, row.site.timezone), "zone": row.site.timezone,
        "texture": batches.planted_in(session, row, row.site)[0].texture,
        "chosen": bool(row.choice), "undoable": planted.is_undoable(session, row), "questions": questions,
    }  # fmt: skip


def to_come(session: Session) -> list[dict[str, Any]]:
    """Plantings of all open sites that are still to come, the next first."""
    rows = [row for site in tree_store.sites(session) for row in site_rows(session, site.id)]
    return sorted((row for row in rows if row["planted_on"] is None), key=lambda row: (row["planned_on"], row["tag"]))


def site_rows(session: Session, site_id: UUID) -> list[dict[str, Any]]:
    """A site's plantings."""
    site = register.site(session, site_id)
    return [
        {
            "id": row.id, "site_id": site.id, "site_name": site.name, "stop": row.stop,
            "planned_on": row.planned_on, "planted_on": row.planted_on,
            "common": row.plant.common, "kind": row.kind, "count": row.count, "left": batches.left(row),
            "looked_at": len(row.checks or {}), "tag": row.tag,
        }
        for row in store.of_site(session, site_id)
    ]  # fmt: skip


def due_by(session: Session, site: Site, day: date) -> list[dict[str, Any]]:
    """A site's plantings that are planned for a day or were before, and are not in the ground yet."""
    return [row for row in site_rows(session, site.id) if row["planted_on"] is None and row["planned_on"] <= day]


def tree_page(session: Session, tree_id: UUID, choice: Mapping[str, Any] | None = None,
              flare_below_top_m: float = 0.0) -> dict[str, Any]:  # fmt: skip
    """How a tree was planted, else what its figures would be to; choice: measures that are not stored yet."""
    tree = register.tree(session, tree_id)
    known = session.get(Planting, tree.planting_id) if tree.planting_id else None
    spacing = batches.spacing_m(session, tree)
    if known is not None and choice is None:
        chosen, figures, stock = batches.figures_of(session, known, tree.site, tree.plant, 1)
    else:
        row = known_as(tree, {} if choice is None else choice, flare_below_top_m)
        if choice is None and spacing is not None:
            row.choice = {"spacing_m": spacing}
        chosen, figures, stock = batches.figures_of(session, row, tree.site, tree.plant, 1)
    return {
        "tree": tree, "known": known is not None, "planting_id": tree.planting_id, "choice": chosen, "figures": figures,
        "stock": stock, "flare_below_top_m": known.flare_below_top_m if known else flare_below_top_m,
        "first_water_l": known.first_water_l if known else None, "spacing_m": spacing,
        "batch": len(store.trees_of(session, known.id)) if known else 1,
        "opens_by_it": tree.opened_on == tree.planted_on,
        "texture": batches.planted_in(session, known, tree.site)[0].texture,
        "today": clock.today(session, tree.site.timezone),
    }  # fmt: skip


def known_as(tree: Tree, choice: Mapping[str, Any], flare_below_top_m: float) -> SimpleNamespace:
    """A stored tree as a planting of one: what came with soil over its flare was taller by that."""
    values = batches.of_standing(tree)
    values["ball_height_m"] = tree.ball_height_m + flare_below_top_m
    given = dict(choice)
    if tree.basin_diameter_m and "basin_diameter_m" not in given:
        given |= {"basin_diameter_m": tree.basin_diameter_m, "ridge_m": tree.basin_depth_m or 0.08}
    return SimpleNamespace(**values | {
        "flare_below_top_m": flare_below_top_m, "choice": given, "obstacles": list(tree.obstacles or []),
    })  # fmt: skip
