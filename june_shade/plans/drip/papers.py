"""A layout or a line as a file: SVG to scale, GeoJSON, parts."""

from uuid import UUID

from june_shade.core.drip import row
from june_shade.core.drip.scene import toward
from june_shade.core.errors import ConflictError
from june_shade.formats import drip_paper
from june_shade.plans import register
from june_shade.plans.drip import lines, page
from june_shade.plans.drip.lines import Laid
from june_shade.store.session import Session

SCALE_TREE, SCALE_LINE = 10, 50


def _one(session: Session, tree_id: UUID) -> Laid:
    """A tree as it is laid, or as it should be."""
    tree = register.tree(session, tree_id)
    if tree.line_id is not None and tree.method == "emitters":
        planned = lines.plan_line(session, tree.line_id)
        return next(one for one in planned.trees if one.tree.id == tree.id)
    shown = page.tree_page(session, tree_id)
    view = lines.outlook_alone(session, tree)
    choice = shown["looks"][0].look.choice
    drawing, fed, _ = lines.alone(session, tree, choice, view)
    return Laid(tree, view, choice, shown["layout"], drawing, fed)


def tree_svg(session: Session, tree_id: UUID) -> str:
    """A tree's layout, 1 : 10."""
    one = _one(session, tree_id)
    return drip_paper.svg(
        f"{one.tree.tag} {one.tree.place}",
        [((0.0, 0.0), one.drawing, one.outlook.now, one.verdict.widths_m)],
        scale=SCALE_TREE,
    )


def line_svg(session: Session, line_id: UUID) -> str:
    """A line's whole row, 1 : 50."""
    planned = lines.plan_line(session, line_id)
    lateral = planned.lateral
    places = [lateral.place(i) for i in range(len(planned.trees))]
    side = toward(lateral.feed_bearing_deg, abs(lateral.offset_m))
    hedge = row.feeds_lines([one.choice for one in planned.trees])
    far = lateral.chainage_m[0] if hedge else lateral.chainage_m[-1]
    end = toward(lateral.bearing_deg, far)
    course = [side, (end[0] + side[0], end[1] + side[1])]
    trees = [
        (place, one.drawing, one.outlook.now, one.verdict.widths_m)
        for place, one in zip(places, planned.trees, strict=True)
    ]
    return drip_paper.svg(planned.line.name, trees, course, SCALE_LINE)


def tree_geojson(session: Session, tree_id: UUID) -> str:
    """A tree's layout as GeoJSON. Raises ConflictError for a tree without coordinates."""
    return _geojson([_one(session, tree_id)])


def line_geojson(session: Session, line_id: UUID) -> str:
    """The layouts of a line's trees as GeoJSON; trees without coordinates are left out."""
    return _geojson([one for one in lines.plan_line(session, line_id).trees if one.tree.latitude_deg is not None])


def _geojson(trees: list[Laid]) -> str:
    placed = [
        (one.tree.tag, (one.tree.latitude_deg, one.tree.longitude_deg), one.drawing)
        for one in trees
        if one.tree.latitude_deg is not None and one.tree.longitude_deg is not None
    ]
    if not placed:
        raise ConflictError("no tree here has coordinates yet: type its latitude and longitude first", "latitude_deg")
    return drip_paper.geojson(placed)


def tree_parts(session: Session, tree_id: UUID) -> str:
    """A tree's parts, and what each year to come adds, as CSV."""
    shown = page.tree_page(session, tree_id)
    tag = shown["tree"].tag
    lists = [(tag, shown["looks"][0].look.parts)]
    lists += [
        (f"{tag} new in {grown.look.day.year}", grown.new_parts) for grown in shown["looks"][1:] if grown.new_parts
    ]
    return drip_paper.parts_csv(lists)


def line_parts(session: Session, line_id: UUID) -> str:
    """A line's parts as CSV."""
    shown = page.line_page(session, line_id)
    return drip_paper.parts_csv([(shown["line"].name, shown["parts"])])


def site_parts(session: Session, site_id: UUID) -> str:
    """The parts of a site's lines and lone trees as CSV."""
    return drip_paper.parts_csv(page.site_parts(session, site_id))
