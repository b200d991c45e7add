"""Sites as their pages show them: what stands there, the soil in force; read for all of them at once."""

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

from june_shade.core.soil.in_force import InForce
from june_shade.plans import soil_in_force
from june_shade.store import soil as soil_store
from june_shade.store import trees as store
from june_shade.store.session import Session
from june_shade.store.site_tables import Site


@dataclass(frozen=True, slots=True)
class StopShown:
    """A stop and how many trees stand there."""

    id: UUID
    name: str
    trees: int


@dataclass(frozen=True, slots=True)
class SiteShown:
    """A site with its trees counted, its stops in order, names of its lines and its station, the soil in force."""

    site: Site
    trees: int
    stops: tuple[StopShown, ...]
    lines: tuple[str, ...]
    station_name: str | None
    soil: InForce


def all_shown(session: Session, *, closed: bool = False) -> list[SiteShown]:
    """All sites by name: those that are cared for, or those that are closed."""
    return shown(session, store.sites(session, closed=closed))


def shown(session: Session, sites: Sequence[Site]) -> list[SiteShown]:
    """These sites, in their order."""
    ids = [site.id for site in sites]
    trees, at_stops = store.tree_counts(session, ids), store.stop_counts(session, ids)
    stops: dict[UUID, list[StopShown]] = defaultdict(list)
    for stop in store.stops(session, ids):
        stops[stop.site_id].append(StopShown(stop.id, stop.name, at_stops.get(stop.id, 0)))
    lines: dict[UUID, list[str]] = defaultdict(list)
    for line in store.lines(session, ids):
        lines[line.site_id].append(line.name)
    tests = soil_store.used(session, ids)
    return [
        SiteShown(
            site, trees.get(site.id, 0), tuple(stops[site.id]), tuple(lines[site.id]),
            site.station.name if site.station else None, soil_in_force.by_tests(site, tests.get(site.id, ())),
        )
        for site in sites
    ]  # fmt: skip
