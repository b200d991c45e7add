"""Where everything of a site lies, in metres east and north of the site's own place."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

from june_shade.core.errors import InputError
from june_shade.core.ground import rows
from june_shade.core.ground.rows import Point, RowOfTrees, Standing
from june_shade.core.weather.place import flat_m, place_deg
from june_shade.plans.drip import gaps
from june_shade.store import trees as store
from june_shade.store.session import Session
from june_shade.store.site_tables import Line, Site, Stop
from june_shade.store.tree_tables import Tree

ROWS_APART_M = 8.0
"""Rows of one stop of which nobody said how they lie are drawn so far apart (common practice)."""


@dataclass(frozen=True, slots=True)
class RowStands:
    """A row of trees in its order, as it stands: of one stop and, where they hang on one, one line."""

    stop: Stop | None
    line: Line | None
    trees: tuple[Tree, ...]
    along_m: tuple[float, ...]
    bearing_deg: float
    standing: tuple[Standing, ...]


def to_m(site: Site, latitude_deg: float, longitude_deg: float) -> Point:
    """A place on the plan of a site [m]."""
    return flat_m(site.latitude_deg, site.longitude_deg, latitude_deg, longitude_deg)


def to_deg(site: Site, at: Point) -> tuple[float, float]:
    """Latitude and longitude of a place on the plan, as they are kept [deg]."""
    latitude, longitude = place_deg(site.latitude_deg, site.longitude_deg, *at)
    return round(latitude, 7), round(longitude, 7)


def _known(site: Site, row: Tree | Stop | None) -> Point | None:
    if row is None or row.latitude_deg is None or row.longitude_deg is None:
        return None
    return to_m(site, row.latitude_deg, row.longitude_deg)


def along(session: Session, line: Line | None, trees: Sequence[Tree]) -> tuple[tuple[float, ...], float]:
    """How far trees of a row stand along it, and the way it goes: as their line lies, else as is usual."""
    usual = tuple(rows.USUAL_SPACING_M * n for n in range(len(trees)))
    if line is None:
        return usual, rows.USUAL_BEARING_DEG
    bearing = rows.USUAL_BEARING_DEG if line.bearing_deg is None else line.bearing_deg
    try:
        return gaps.passed(session, line, trees)[0].chainage_m, bearing
    except InputError:
        return usual, bearing


def of_site(session: Session, site: Site) -> list[RowStands]:
    """A site's rows, each tree where it stands or must stand."""
    groups: dict[tuple[UUID | None, UUID | None], list[Tree]] = {}
    for tree in store.all_trees(session, site.id):
        groups.setdefault((tree.stop_id, tree.line_id), []).append(tree)
    begun: Counter[UUID | None] = Counter()
    asked, own = [], []
    for (stop_id, _), trees in groups.items():
        trees.sort(key=lambda tree: (tree.row_place, tree.tag))
        line, stop = trees[0].line, trees[0].stop
        far, bearing = along(session, line, trees)
        begins = _known(site, stop)
        if begins is not None:  # a second row of a stop lies beside its first
            begins = begins[0], begins[1] - ROWS_APART_M * begun[stop_id]
        begun[stop_id] += 1
        asked.append(RowOfTrees(far, tuple(_known(site, tree) for tree in trees), begins, bearing))
        own.append((stop, line, tuple(trees), far, bearing))
    standing = rows.all_rows(asked)
    return [RowStands(*one, tuple(placed)) for one, placed in zip(own, standing, strict=True)]
