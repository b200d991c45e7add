"""A day that is longer on the way than its hours, however often it was chosen again, is made to fit: visits leave."""

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from june_shade.core.choosing import leave, outcomes
from june_shade.core.choosing.fortnight import Fortnight
from june_shade.core.choosing.offers import taken_l
from june_shade.core.choosing.patterns import Array
from june_shade.plans.choosing import routing
from june_shade.plans.choosing.given import Given
from june_shade.plans.choosing.groups import SiteGroup
from june_shade.plans.choosing.stops import Stops


def fitted(
    given: Given, sites: Sequence[SiteGroup], of_trees: Sequence[Array], stops: Stops, plan: Fortnight,
    tank_of: Sequence[Array], days: range,
) -> Fortnight:  # fmt: skip
    """The plan with so few visits on these days that every crew is back in its hours: the one that costs least for each
    minute that it frees leaves first.

    of_trees: the stop of each tree of a site by position; tank_of: whether each is poured from a tank, arrays (trees,).
    """
    for day in days:
        for crew in range(len(given.crews)):
            while (left := _without_one(given, sites, of_trees, stops, plan, tank_of, day, crew)) is not None:
                plan = left
    return plan


def _without_one(
    given: Given, sites: Sequence[SiteGroup], of_trees: Sequence[Array], stops: Stops, plan: Fortnight,
    tank_of: Sequence[Array], day: int, crew: int,
) -> Fortnight | None:  # fmt: skip
    """The plan with a visit less on a crew's day, None where that day fits or nothing is left that could leave."""
    visit_min, tank_l = np.zeros(stops.minutes.shape), np.zeros(stops.minutes.shape)
    for one, at, of, tank in zip(sites, of_trees, plan.groups, tank_of, strict=True):
        poured_l = taken_l(one.group, np.arange(len(at)), of.walked.litres[day : day + 1])[0]
        np.add.at(visit_min[:, day], at, of.minutes[day])
        np.add.at(tank_l[:, day], at, poured_l * tank)
    driven = routing.of_plan(given, stops, visit_min, tank_l, range(day, day + 1), crew)
    if not driven or driven[0].minutes <= given.has[crew][day].minutes + routing.SLACK_MIN:
        return None
    rows: list[tuple[int, int]] = []
    cost, minutes, closes = [], [], []
    for n, (one, at, of) in enumerate(zip(sites, of_trees, plan.groups, strict=True)):
        units = np.array([
            u for u, on in enumerate(one.group.units)
            if np.any(of.share[day, on] > 0) and one.group.crew[day, on[0]] == crew
        ], int)  # fmt: skip
        if not len(units):
            continue
        rows += [(n, int(u)) for u in units]
        cost.append(leave.costs(one.group, of, day, units))
        for u in units:
            on = one.group.units[u]
            own = float(of.minutes[day, on].sum())
            alone = visit_min[at[on[0]], day] <= own + 1e-9
            minutes.append(own + (stops.minutes[at[on[0]], day] if alone else 0.0))
            closes.append(int(at[on[0]]) if alone else None)
    gone = leave.first_to_leave(np.concatenate(cost), np.array(minutes))
    n, unit = rows[gone]
    of, group = plan.groups[n], sites[n].group
    share = of.share.copy()
    share[day, group.units[unit]] = 0.0
    fewer = outcomes.of_visits(group, of.plain, given.hands, share)
    crew_minutes, open_stops = plan.crew_minutes.copy(), plan.open_stops.copy()
    crew_minutes[crew, day] -= minutes[gone]
    if closes[gone] is not None:
        open_stops[closes[gone], day] = False
    groups = (*plan.groups[:n], fewer, *plan.groups[n + 1 :])
    return replace(plan, groups=groups, crew_minutes=crew_minutes, open_stops=open_stops)
