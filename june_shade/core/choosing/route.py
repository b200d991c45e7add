"""The way of a crew's day: its stops in the order that takes least driving, and where the tank is filled on it.

Few stops are ordered exactly, by going through sets of them [HeldKarp62]; more by a routing solver's local search,
guided out of orders that no small change betters where a day is soon driven. A tank that can't serve the next stop is
filled at the yard on the way there.
"""

import itertools
import math
from dataclasses import dataclass

import numpy as np
from ortools.constraint_solver import pywrapcp, routing_enums_pb2, routing_parameters_pb2

from june_shade.core.choosing.patterns import Array

EXACT_STOPS = 9
SOLUTIONS, MS_A_STOP = 100, 100
"""A guided search goes through so many orders, and takes so long for each stop at most: mostly a tenth of it."""
STEPS_PER_MIN = 60
"""The routing solver counts in whole steps: seconds."""


@dataclass(frozen=True, slots=True)
class Route:
    """A day's way: stops in order by position; minutes of driving, of filling with the way to it, of all [min]; before
    which of the stops in order the tank is filled."""

    order: tuple[int, ...]
    way_min: float
    fill_min: float
    fills_before: tuple[int, ...]

    @property
    def minutes(self) -> float:
        """Driving and filling [min]."""
        return self.way_min + self.fill_min


def route(
    way_min: Array, litres: Array, tank_l: float | None, fill_min: float, *, guided: bool = True
) -> Route:  # fmt: skip
    """The shortest round of all stops from the yard and back.

    way_min: between places, the yard first [min], array (1 + stops, 1 + stops); litres: poured from the tank at each
    stop [L], array (stops,); tank_l: what it holds [L], None = no tank; fill_min: to fill it [min]. It leaves full.
    guided: as of `shortest`.
    """
    order = shortest(way_min, guided=guided)
    places = [0, *(n + 1 for n in order), 0]
    driven = float(sum(way_min[a, b] for a, b in itertools.pairwise(places)))
    fills, extra, left, before = [], 0.0, tank_l or 0.0, 0
    for at, stop in enumerate(order):
        here, wanted = stop + 1, float(litres[stop])
        if tank_l is not None and wanted > left + 1e-9:
            again = max(0, math.ceil(wanted / tank_l - 1e-9) - 1)
            detour = float(way_min[before, 0] + way_min[0, here] - way_min[before, here])
            extra += fill_min + detour + again * (fill_min + 2.0 * float(way_min[here, 0]))
            left = (1 + again) * tank_l
            fills.append(at)
        left -= wanted
        before = here
    return Route(tuple(order), driven, extra, tuple(fills))


def shortest(way_min: Array, *, guided: bool = True) -> list[int]:
    """Stops in the order that takes least driving, by position from 0, the yard left out.

    way_min: between places, the yard first [min], array (1 + stops, 1 + stops); guided: whether many stops are gone on
    with once no small change betters their order (most ways are 1 % shorter then).
    """
    if len(way_min) - 1 <= EXACT_STOPS:
        return _exact(way_min)
    return _searched(way_min, guided)


def _exact(way_min: Array) -> list[int]:
    """The best order, by the shortest way through each set of stops to each of its last ones."""
    stops = len(way_min) - 1
    if stops == 0:
        return []
    best: dict[tuple[int, int], tuple[float, int]] = {(1 << n, n): (float(way_min[0, n + 1]), -1) for n in range(stops)}
    for group in range(1, 1 << stops):
        for last in range(stops):
            if (group, last) not in best:
                continue
            so_far = best[group, last][0]
            for then in range(stops):
                if group >> then & 1:
                    continue
                key, cost = (group | 1 << then, then), so_far + float(way_min[last + 1, then + 1])
                if key not in best or cost < best[key][0]:
                    best[key] = cost, last
    whole = (1 << stops) - 1
    last = min(range(stops), key=lambda n: best[whole, n][0] + float(way_min[n + 1, 0]))
    order, group = [], whole
    while last >= 0:
        order.append(last)
        group, last = group ^ (1 << last), best[group, last][1]
    return order[::-1]


def _asked(guided: bool, places: int) -> routing_parameters_pb2.RoutingSearchParameters:
    """How the solver searches; unless guided it ends by itself."""
    asked = pywrapcp.DefaultRoutingSearchParameters()
    asked.first_solution_strategy = routing_enums_pb2.FirstSolutionStrategy.PATH_CHEAPEST_ARC
    if guided:
        asked.local_search_metaheuristic = routing_enums_pb2.LocalSearchMetaheuristic.GUIDED_LOCAL_SEARCH
        asked.solution_limit = SOLUTIONS
        asked.time_limit.FromMilliseconds(MS_A_STOP * places)
    return asked


def _searched(way_min: Array, guided: bool) -> list[int]:
    """A good order of many stops."""
    places = len(way_min)
    manager = pywrapcp.RoutingIndexManager(places, 1, 0)
    model = pywrapcp.RoutingModel(manager)
    of = model.RegisterTransitMatrix(np.rint(way_min * STEPS_PER_MIN).astype(int).tolist())
    model.SetArcCostEvaluatorOfAllVehicles(of)
    # a machine may be too busy for even a first order in that time
    found = model.SolveWithParameters(_asked(guided, places)) or model.SolveWithParameters(_asked(False, places))
    order, at = [], model.Start(0)
    while not model.IsEnd(at):
        if manager.IndexToNode(at):
            order.append(manager.IndexToNode(at) - 1)
        at = found.Value(model.NextVar(at))
    return order
