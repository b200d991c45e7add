"""The plan under limits is chosen: when it is due, and what is kept of it."""

import time
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import timedelta
from functools import cached_property
from typing import Any
from uuid import UUID, uuid4

import numpy as np

from june_shade.core.choosing import fortnight, outcomes, paths, shortage
from june_shade.core.choosing.fortnight import Fortnight, Prepared
from june_shade.core.choosing.offers import PLAN_DAYS, Limits, minutes_of, taken_l
from june_shade.core.choosing.outcomes import OfGroup
from june_shade.core.choosing.patterns import Array
from june_shade.core.water.visits import walked
from june_shade.plans import changes, clock
from june_shade.plans.changes import Changed, What
from june_shade.plans.choosing import given as loading
from june_shade.plans.choosing import groups, routing
from june_shade.plans.choosing.fitted import fitted
from june_shade.plans.choosing.given import Given
from june_shade.plans.choosing.groups import SiteGroup
from june_shade.plans.choosing.in_force import since
from june_shade.plans.choosing.stops import Stops
from june_shade.plans.water.run import SitePlan, plan_sites
from june_shade.store import choices as store
from june_shade.store import trees as tree_store
from june_shade.store.choice_tables import ChosenPlan
from june_shade.store.session import Session, SessionMaker, reading, transaction
from june_shade.store.site_tables import Site

SECONDS, SOON_SECONDS = 28.0, 1.8
"""So long choosing may take; where somebody waits for it, since their day has changed, and no sketch of it is made."""
TREES_IN_TIME = 500
"""So many trees, or fewer, are chosen for in that time; for more it grows as the root of their number."""
LEAST_BETWEEN = timedelta(minutes=15)
ROUTED_DAYS, SKETCHES, OF_SKETCH = 2, 2, 0.06
"""Of so many days the way is looked at before the plan is chosen, on a sketch of it; where one is longer than was
reckoned its stops are raised and it is sketched again, so often at most, each in that share of the time. Later days are
routed afterwards."""


@dataclass(frozen=True)
class Chosen:
    """A plan that was chosen, with all that it is chosen from."""

    given: Given
    sites: tuple[SiteGroup, ...]
    limits: Limits
    stops: Stops
    fortnight: Fortnight
    seconds: float
    routes: tuple[routing.DayRoute, ...] = ()

    @cached_property
    def minutes(self) -> Array:
        """Minutes of visits at each stop on each day, stops left out [min], array (stops, days)."""
        return _minutes(self.sites, self.stops, self.fortnight.groups)

    @cached_property
    def tank_l(self) -> Array:
        """Litres that come from a tank at each stop on each day [L], array (stops, days)."""
        return _tank_l(self.sites, self.stops, self.fortnight.groups)

    def moved(self, tree_id: UUID, days: Sequence[int]) -> OfGroup:
        """What it would come to if a tree were visited on these days. days: from 0 on."""
        for one in self.sites:
            for i, row in enumerate(one.made.rows):
                if row.id == tree_id:
                    return outcomes.moved(one.group, self.limits.hands, i, [days])[0]
        raise KeyError(tree_id)


def _minutes(sites: Sequence[SiteGroup], stops: Stops, of: Sequence[OfGroup]) -> Array:
    """Minutes of visits at each stop on each day, stops left out [min], array (stops, days)."""
    return _at_stops(sites, stops, [one.minutes for one in of])


def _tank_l(sites: Sequence[SiteGroup], stops: Stops, of: Sequence[OfGroup]) -> Array:
    """Litres that come from a tank at each stop on each day [L], array (stops, days)."""
    poured = [
        taken_l(site.group, np.arange(len(site.made.rows)), one.walked.litres[:PLAN_DAYS]) * groups.from_tank(site.made)
        for site, one in zip(sites, of, strict=True)
    ]
    return _at_stops(sites, stops, poured)


def _at_stops(sites: Sequence[SiteGroup], stops: Stops, values: Sequence[Array]) -> Array:
    total = np.zeros(stops.minutes.shape)
    for at, of in zip(stops_of_trees(sites, stops), values, strict=True):
        np.add.at(total, at, of.T)
    return total


def stops_of_trees(sites: Sequence[SiteGroup], stops: Stops) -> list[Array]:
    """The stop of each tree of each site by position, arrays (trees,)."""
    return [stops.of_trees(one.made.site.id, one.made.rows, one.group.by_box) for one in sites]


def is_stale(session: Session, sites: Sequence[Site]) -> bool:
    """Whether something changed that matters to the standing plan, or its day is over."""
    standing = store.standing(session)
    if not sites:
        return False
    today = clock.today(session, sites[0].timezone)
    if standing is None:
        return bool(loading.load(session, sites, today).limited)
    return standing.first_day != today or standing.rests_on != rests_on(sites)


def rests_on(sites: Sequence[Site]) -> dict[str, int]:
    """What a plan rests on: what the trees of each site want, and what can be done there."""
    return {str(site.id): site.wants_revision for site in sites}


def is_due(session: Session) -> bool:
    """Whether a plan is to be chosen: it is stale, and the last one is a quarter of an hour old or of another day."""
    sites = tree_store.sites(session)
    if not is_stale(session, sites):
        return False
    standing = store.standing(session)
    if standing is None or standing.first_day != clock.today(session, sites[0].timezone):
        return True
    return clock.now(session) - standing.made_at >= LEAST_BETWEEN


def work(sessions: SessionMaker, *, seconds: float = SECONDS, sketches: int = SKETCHES) -> None:
    """Choose a plan for all sites and keep it. seconds: how long choosing may take; sketches: as of `chosen_for`."""
    with reading(sessions) as session:
        sites = tree_store.sites(session)
        on = rests_on(sites)
        found = chosen(session, sites, seconds=seconds, sketches=sketches)
    with transaction(sessions) as session:
        _keep(session, found, on, sites)


def chosen(session: Session, sites: Sequence[Site], *, seconds: float, sketches: int = SKETCHES) -> Chosen | None:
    """A plan for these sites as they stand; None where nothing limits any of them.

    seconds: how long it may take where there are not very many trees; sketches: as of `chosen_for`.
    """
    if not sites:
        return None
    begins = time.monotonic()
    given = loading.now(session, sites)
    found = wanting(given, plan_sites(session, given.limited, limits=False))
    before = [standing_shares(session, one, given) for one in found]
    trees = sum(len(one.made.rows) for one in found)
    left = seconds * max(1.0, trees / TREES_IN_TIME) ** 0.5 - (time.monotonic() - begins)
    return chosen_for(given, found, before, seconds=left, sketches=sketches) if found else None


def wanting(given: Given, plans: Mapping[UUID, SitePlan]) -> list[SiteGroup]:
    """The sites that anything limits, with what their trees want. plans: without limits, by site."""
    found = []
    for site in given.limited:
        made = plans.get(site.id)
        if made is not None and made.today == given.first_day:
            at = made.course.today
            wanted = np.nan_to_num(made.plan.visit_gross_l[at : at + PLAN_DAYS]) > 0
            wanted = np.concatenate([wanted, np.zeros((PLAN_DAYS - len(wanted), len(made.rows)), bool)])
            found.append(SiteGroup(made, groups.group_of(made, site, given, wanted)))
    return found


def chosen_for(
    given: Given, found: Sequence[SiteGroup], before: Sequence[Array], *, seconds: float,
    start: Sequence[Array] | None = None, ready: Prepared | None = None, most_l: float | None = None,
    gap: float = fortnight.GAP, sketches: int = SKETCHES,
) -> Chosen:  # fmt: skip
    """A plan for these sites. before: shares by the plan that stands, arrays (days, trees): the first are promised;
    start: others that the choice begins with too, None = none; ready: these groups gone through, where they are;
    seconds: how long it may take; most_l: litres of the whole fortnight [L], None = as orders allow; gap: at which it
    is good enough; sketches: on so many at most the way is looked at first."""
    begins = time.monotonic()
    limits, stops = groups.limits_of(given, list(found))
    if most_l is not None:
        every = tuple(tuple(range(len(one.made.rows))) for one in found)
        limits = replace(limits, periods=(*limits.periods, (tuple(range(PLAN_DAYS)), most_l, every)))
    of_trees, own = stops_of_trees(found, stops), [one.group for one in found]
    ready = ready or fortnight.prepared(own, limits.hands)
    for _ in range(sketches):
        sketch = fortnight.sketched(
            own, of_trees, limits, before, before if start is None else start, ready, seconds=seconds * OF_SKETCH,
            clock=time.monotonic,
        )  # fmt: skip
        start = [of.share for of in sketch]
        minutes, tank_l = _minutes(found, stops, sketch), _tank_l(found, stops, sketch)
        routes = routing.of_plan(given, stops, minutes, tank_l, range(ROUTED_DAYS), guided=False)
        longer = routing.raised(given, stops, limits, routes, ROUTED_DAYS)
        if longer is None:
            break
        limits = longer
    plan = fortnight.plan(
        own, of_trees, limits, before, start=start, ready=ready, seconds=seconds - (time.monotonic() - begins),
        slack=given.slack, gap=gap, clock=time.monotonic,
    )  # fmt: skip
    tank_of = [groups.from_tank(one.made) for one in found]
    plan = fitted(given, found, of_trees, stops, plan, tank_of, range(ROUTED_DAYS))
    drawn = Chosen(given, tuple(found), limits, stops, plan, 0.0)
    routes = routing.of_plan(given, stops, drawn.minutes, drawn.tank_l, range(ROUTED_DAYS))
    routes += routing.of_plan(given, stops, drawn.minutes, drawn.tank_l, range(ROUTED_DAYS, PLAN_DAYS), guided=False)
    return replace(drawn, routes=routes, seconds=time.monotonic() - begins)


def standing_shares(session: Session, one: SiteGroup, given: Given) -> Array:
    """Shares of the refill that the standing plan has from today on, array (days, trees)."""
    standing = store.of_site(session, one.made.site.id)
    found = np.zeros((PLAN_DAYS, len(one.made.rows)))
    for i, row in enumerate(one.made.rows):
        of = standing.get(row.id)
        at = 0 if of is None else -since(of, np.datetime64(given.first_day, "D"))
        if of is not None and 0 <= at < len(of.share):
            left = of.share[at : at + PLAN_DAYS]
            found[: len(left), i] = left
    return found


def _keep(session: Session, found: Chosen | None, on: dict[str, int], sites: Sequence[Site]) -> None:
    """Store a plan in place of the one that stood; pages of sites where it differs are made anew."""
    before = {site.id: store.of_site(session, site.id) for site in sites}
    first = found.given.first_day if found else (clock.today(session, sites[0].timezone) if sites else None)
    if first is None:
        return
    rows = [] if found is None else [row for one, of in _pairs(found) for row in _rows(found, one, of)]
    plan = ChosenPlan(
        id=uuid4(), made_at=clock.now(session), first_day=first, rests_on=on, told={} if found is None else told(found)
    )
    store.put(session, plan, rows)
    new = {row["tree_id"]: row for row in rows}
    differ = [
        site_id
        for site_id, old in before.items()
        if {key: (row.first_day, row.share) for key, row in old.items()}
        != {key: (new[key]["first_day"], new[key]["share"]) for key in new if key in _of_site(found, site_id)}
    ]
    changes.tell(session, *(Changed(site_id, What.PAGE) for site_id in differ))


def _pairs(found: Chosen | None) -> list[tuple[SiteGroup, OfGroup]]:
    return [] if found is None else list(zip(found.sites, found.fortnight.groups, strict=True))


def _of_site(found: Chosen | None, site_id: UUID) -> set[UUID]:
    return {row.id for one, _ in _pairs(found) if one.made.site.id == site_id for row in one.made.rows}


def _rows(found: Chosen, one: SiteGroup, of: OfGroup) -> list[dict[str, Any]]:
    today = outcomes.today_instead(one.group, of.plain, found.limits.hands, of.share)
    waits = one.group.wanted[0] & (of.share[0] <= 0)
    costs = np.maximum(0.0, of.outcome.harm - today.outcome.harm)
    return [
        {
            "tree_id": row.id, "first_day": found.given.first_day, "waits_cost": float(costs[i]) if waits[i] else None,
            "share": of.share[:, i].tolist(),
            "litres": of.walked.litres[:PLAN_DAYS, i].tolist(), "minutes": of.minutes[:, i].tolist(),
            "wanted": one.group.wanted[:, i].tolist(),
            "harm": float(of.outcome.harm[i]), "dies": bool(of.outcome.dies[i]),
            "none_harm": float(of.none.harm[i]), "none_dies": bool(of.none.dies[i]),
            "waits_dies": bool(waits[i] & of.outcome.dies[i] & ~today.outcome.dies[i]),
            "weight": float(one.group.weight[i]),
        }
        for i, row in enumerate(one.made.rows)
    ]  # fmt: skip


def told(found: Chosen) -> dict[str, Any]:
    """What is told of a whole plan: how sure, how long it took, what it comes to by day against limits."""
    plan, choice = found.fortnight, found.fortnight.choice
    return {
        "seconds": found.seconds, "gap": choice.gap, "least_harm": choice.least_harm, "bound": choice.bound,
        "harm": choice.plan.harm, "pins_missed": plan.pins_missed,
        "weeks": _weeks(found), "holds": _holds(found),
        "routes": [
            {"crew": str(found.given.crews[one.crew].id), "day": one.day, "minutes": one.minutes,
             "stops": [str(found.stops.keys[n]) for n in one.stops], "fills_before": list(one.fills_before),
             "longer": one.way_min / max(one.reckoned_min, 1.0)}
            for one in found.routes
        ],
    }  # fmt: skip


WEEK = 7


def _weeks(found: Chosen) -> list[dict[str, Any]]:
    """What trees want in each week, and the litres that orders allow, None without such an order."""
    days = range(0, PLAN_DAYS, WEEK)
    minutes, by_tree = np.zeros(PLAN_DAYS), []
    crews = len(found.given.crews)
    for one, stop_of in zip(found.sites, stops_of_trees(found.sites, found.stops), strict=True):
        wanted = walked(one.group.standing, one.group.wanted.astype(float)).litres[:PLAN_DAYS]
        own = minutes_of(one.group, found.limits.hands, np.arange(len(one.made.rows)), wanted)
        of_crews = outcomes.crew_minutes(found.stops.crew_of, found.stops.minutes, stop_of, own, crews)
        by_tree.append(wanted)
        minutes = minutes + of_crews.sum(axis=0)
    litres = np.concatenate(by_tree, axis=1)
    firsts = np.cumsum([0] + [own.shape[1] for own in by_tree[:-1]])
    return [
        {
            "wanted_l": float(litres[first : first + WEEK].sum()),
            "wanted_min": float(minutes[first : first + WEEK].sum()),
            "allowed_l": _allowed_l(found.limits, range(first, first + WEEK), litres, firsts),
        }
        for first in days
    ]  # fmt: skip


SEED = 20
"""Paths of weather are drawn alike each time."""


def _holds(found: Chosen) -> list[int] | None:
    """On how many paths of weather the plan holds, of how many; None where too little of the past is known."""
    kept = None
    for one, of in _pairs(found):
        known = one.made.known
        drawn = paths.drawn(known, known.index(one.made.today), np.random.Generator(np.random.PCG64(SEED)))
        if drawn is None:
            return None
        own = paths.holds(one.group, of, drawn)
        kept = own if kept is None else kept & own
    return None if kept is None else [int(kept.sum()), len(kept)]


def _allowed_l(limits: Limits, days: range, wanted_l: Array, firsts: Array) -> float | None:
    """Litres that orders allow within these days, the share of weeks that are cut by them.

    wanted_l: of all trees by day [L], array (days, trees); firsts: where each site's trees begin among all.
    """
    caps = []
    for own, most, trees in limits.periods:
        held = np.zeros(wanted_l.shape, bool)
        among = np.concatenate([first + np.array(some, int) for first, some in zip(firsts, trees, strict=True)])
        held[np.ix_(np.array(own), among)] = True
        caps.append((most * len(set(own) & set(days)) / len(own), held[days.start : days.stop]))
    return shortage.allowed_l(wanted_l[days.start : days.stop], [one for one in caps if np.any(one[1])])
