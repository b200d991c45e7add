"""The way of each crew's days: stops in driving order, refills, and what that comes to beside what was reckoned."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from june_shade.core.choosing.offers import PLAN_DAYS, Limits
from june_shade.core.choosing.patterns import Array
from june_shade.core.choosing.route import route
from june_shade.core.choosing.ways import ways
from june_shade.plans.choosing.given import Given
from june_shade.plans.choosing.stops import Stops

SLACK_MIN = 0.5


@dataclass(frozen=True, slots=True)
class DayRoute:
    """A crew's day, from 0: stops in driving order by position; minutes of all of it [min]; before which of them, in
    order, the tank is filled; reckoned: minutes that set-up and way of its stops were taken to be while choosing."""

    crew: int
    day: int
    stops: tuple[int, ...]
    minutes: float
    fills_before: tuple[int, ...]
    way_min: float
    reckoned_min: float


def of_plan(
    given: Given, stops: Stops, visit_min: Array, tank_l: Array, days: range = range(PLAN_DAYS),
    crew: int | None = None, *, guided: bool = True,
) -> tuple[DayRoute, ...]:  # fmt: skip
    """The routes of all crews, or of one, on these days.

    visit_min: minutes of visits at each stop and day [min], tank_l: litres from a tank there [L], arrays (stops, days);
    guided: whether the way is searched for as long as for a day that is soon driven.
    """
    found = []
    for number, of in enumerate(given.crews):
        if crew is not None and number != crew:
            continue
        for day in days:
            own = np.flatnonzero((visit_min[:, day] > 0) & (stops.crew_of[:, day] == number))
            if not len(own):
                continue
            between = ways([of.yard, *(stops.places[n] for n in own)])
            drawn = route(between, tank_l[own, day], of.tank_l, of.fill_min, guided=guided)
            set_up = float(np.sum(stops.set_up_min[own, day]))
            way = set_up + drawn.minutes
            found.append(DayRoute(
                number, day, tuple(int(own[n]) for n in drawn.order), way + float(visit_min[own, day].sum()),
                drawn.fills_before, way, float(np.sum(stops.minutes[own, day])),
            ))  # fmt: skip
    return tuple(found)


def raised(given: Given, stops: Stops, limits: Limits, routes: Sequence[DayRoute], days: int) -> Limits | None:
    """The limits with stops taking longer on days whose way is over the crew's hours; None where none is.

    A stop takes as many times its usual minutes as the day's own way does, however often it was raised before.
    days: how many of the first are looked at.
    """
    minutes, over = limits.stop_minutes.copy(), False
    for one in routes:
        has = given.has[one.crew][one.day].minutes
        if one.day < days and one.minutes > has + SLACK_MIN and one.way_min > one.reckoned_min + SLACK_MIN:
            on = limits.crew_of[:, one.day] == one.crew
            minutes[on, one.day] = stops.minutes[on, one.day] * one.way_min / max(one.reckoned_min, 1.0)
            over = True
    return replace(limits, stop_minutes=minutes) if over else None
