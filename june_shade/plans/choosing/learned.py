"""What the log says of a crew's minutes: at a tree, to set up, on the way to each stop."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import timedelta
from uuid import UUID

import numpy as np

from june_shade.core.choosing import learned as core
from june_shade.core.choosing.learned import Learned, Waterings
from june_shade.core.choosing.ways import Place, way_min
from june_shade.core.water import load
from june_shade.plans import clock, crews, register
from june_shade.store import log
from june_shade.store import trees as tree_store
from june_shade.store.session import Session
from june_shade.store.site_tables import Site, Stop
from june_shade.store.tree_tables import Tree

BACK = timedelta(days=90)
"""Waterings are looked at from so long ago."""


@dataclass(frozen=True, slots=True)
class OfCrew:
    """What a crew's log says: minutes at a tree beside the water, and to set up."""

    handling: Learned
    set_up: Learned


@dataclass(frozen=True, slots=True)
class StopSeen:
    """A stop as it is stored, how many trees are there, and what the log says of set-up and way together."""

    row: Stop
    trees: int
    arriving: Learned


def of_crew(session: Session, crew_id: UUID) -> OfCrew:
    """What the log says of a crew. Raises NotFoundError."""
    row = crews.crew(session, crew_id)
    seen, stops = _waterings(session, crews.sites_of(session, crew_id), row.hoses)
    handling = core.handling(seen)
    places = [Place(one.latitude_deg, one.longitude_deg, one.site_id.int, one.way_min) for one in stops]
    ways = {(a, b): way_min(one, other) for a, one in enumerate(places) for b, other in enumerate(places) if a != b}
    minutes = row.handling_min if handling.minutes is None else handling.minutes
    return OfCrew(handling, core.set_up(seen, minutes, ways))


def stops_of(session: Session, site_id: UUID) -> list[StopSeen]:
    """A site's stops in order, with what the log says of them. Raises NotFoundError."""
    site = register.site(session, site_id)
    crew = None if site.crew_id is None else crews.crew(session, site.crew_id)
    together = [site] if crew is None else crews.sites_of(session, crew.id)
    seen, stops = _waterings(session, together, 1 if crew is None else crew.hoses)
    handling = core.handling(seen).minutes
    found = core.arriving(seen, handling or 0.0)
    at = {one.id: n for n, one in enumerate(stops)}
    counts = tree_store.stop_counts(session, [site_id])
    return [
        StopSeen(row, counts.get(row.id, 0), found.get(at.get(row.id, -1), Learned(None, 0)))
        for row in tree_store.stops(session, [site_id])
    ]


def _beside_min(tree: Tree, run_min: float | None) -> float:
    """How long somebody stood by while a tree was poured [min], NaN where nobody wrote down how long it ran."""
    if load.runs_alone(tree.method, tree.line_id is not None):
        return 0.0
    return np.nan if run_min is None else run_min


def _waterings(session: Session, sites: Sequence[Site], at_once: int) -> tuple[Waterings, list[Stop]]:
    """Waterings of these sites whose stop is known, in order of time, and their stops. at_once: hoses that run."""
    ids = [site.id for site in sites]
    stops = list(tree_store.stops(session, ids))
    at: dict[UUID | None, int] = {one.id: n for n, one in enumerate(stops)}
    trees = {tree.id: tree for one in ids for tree in tree_store.all_trees(session, one) if tree.stop_id in at}
    today = clock.now(session).date()
    rows = [row for row in log.waterings_between(session, ids, today - BACK, today) if row.tree_id in trees]
    who = {name: n for n, name in enumerate(dict.fromkeys(row.device_id for row in rows))}
    return Waterings(
        np.array([who[row.device_id] for row in rows], int),
        np.array([row.local_date.toordinal() for row in rows], int),
        np.array([60.0 * row.local_time.hour + row.local_time.minute + row.local_time.second / 60 for row in rows]),
        np.array([_beside_min(trees[row.tree_id], row.duration_min) / at_once for row in rows], float),
        np.array([at[trees[row.tree_id].stop_id] for row in rows], int),
    ), stops  # fmt: skip
