"""The stops of all sites on the days of a plan: where they are, what going there takes, who goes."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING
from uuid import UUID, uuid5

import numpy as np

from june_shade.core.choosing.offers import PLAN_DAYS
from june_shade.core.choosing.patterns import Array
from june_shade.core.choosing.ways import Place, nearest_min
from june_shade.store.facts import TreeFacts

if TYPE_CHECKING:
    from june_shade.plans.choosing.given import Given


@dataclass(frozen=True, slots=True)
class Stops:
    """Stops of some sites: key (a stop's id, the site's own for trees without one), place; minutes of set-up and way on
    each day [min], of these the set-up, crew on it, arrays (stops, days). at: by key; by_box: of each site with a box
    the stop where nobody comes, at no cost."""

    keys: tuple[UUID, ...]
    places: tuple[Place, ...]
    minutes: Array
    set_up_min: Array
    crew_of: Array
    at: dict[UUID, int]
    by_box: dict[UUID, int]

    def of_trees(self, site_id: UUID, rows: Sequence[TreeFacts], by_box: Array) -> Array:
        """The stop of each tree of a site by position, array (trees,). by_box: whether a box opens its valve, array
        (trees,)."""
        found = np.array([self.at[row.stop_id or site_id] for row in rows], int)
        found[by_box] = self.by_box.get(site_id, -1)
        return found


def stops_of(given: "Given") -> Stops:
    """The stops of all sites, in order, each site's own for its trees without one last."""
    stops: list[UUID] = []
    places: list[Place] = []
    sites: list[UUID] = []
    set_up: list[float | None] = []
    by_box: dict[UUID, int] = {}
    of_site: dict[UUID, list[tuple[UUID, Place, float | None]]] = {site.id: [] for site in given.sites}
    at_site = {site.id: n for n, site in enumerate(given.sites)}
    for stop in given.stops:
        place = Place(stop.latitude_deg, stop.longitude_deg, at_site[stop.site_id], stop.way_min)
        of_site[stop.site_id].append((stop.id, place, stop.set_up_min))
    for n, site in enumerate(given.sites):
        own = [*of_site[site.id], (site.id, Place(site=n), None)]
        if given.by_box.get(site.id):
            by_box[site.id] = len(stops) + len(own)
            own.append((uuid5(site.id, "by box"), Place(site=n), 0.0))
        for stop_id, place, own_min in own:
            stops.append(stop_id)
            places.append(place)
            sites.append(site.id)
            set_up.append(own_min)
    gone_to = ~np.isin(np.arange(len(stops)), list(by_box.values()))
    minutes, set_ups = np.zeros((len(stops), PLAN_DAYS)), np.zeros((len(stops), PLAN_DAYS))
    crew_of = np.zeros((len(stops), PLAN_DAYS), int)
    ways: dict[tuple[int, bytes], Array] = {}
    for d, day in enumerate(given.days):
        crew_of[:, d] = [given.crew_on(site_id, day) for site_id in sites]
        for crew in np.unique(crew_of[:, d]):
            on = np.flatnonzero((crew_of[:, d] == crew) & gone_to)
            key = int(crew), on.tobytes()
            if key not in ways:
                ways[key] = nearest_min([places[s] for s in on], given.crews[crew].yard)
            usual = given.has[crew][d].set_up_min
            set_ups[on, d] = [usual if set_up[s] is None else set_up[s] for s in on]
            minutes[on, d] = ways[key] + set_ups[on, d]
    at = {stop_id: n for n, stop_id in enumerate(stops)}
    return Stops(tuple(stops), tuple(places), minutes, set_ups, crew_of, at, by_box)
