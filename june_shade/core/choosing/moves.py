"""A plan is taken apart and put together again, some stops at a time, thousands of times.

Where setting up is a large part of a day, trees can't be moved one by one: nothing is gained until a whole stop has
gone to another day. Here visits of some stops leave, and others come in their place (ruin and recreate
[SchrimpfEtAl00]): the visit, or the whole stop on a day, that spares most for what it takes of the limits comes first.
What a visit spares is looked up in the spells between waterings. Loops, not arrays, since every step hangs on the one
before: they are compiled, once for a machine. What is calibrated is given with the board: a compiled loop knows only
the figures of this file as they were.
"""

from collections.abc import Callable
from typing import NamedTuple, TypeVar, cast

import numba
import numpy as np

from june_shade.core.choosing.offers import PLAN_DAYS
from june_shade.core.choosing.patterns import TOLERANCE, Array

MOST_STOPS = 5
"""So many stops are taken apart at once at most, all under a common limit."""
LEAVE_SHARE, LEAVE_DAYS = 0.4, 7
"""Where single days leave, so many of a stop's; where days in a row leave, so many at most."""
NOISES = (0.0, 0.4, 1.0)
"""How far what is spared strays (logarithm), up and down; one is drawn a round."""
OF_UNIT = 0.3
"""So much of that each unit strays by itself."""
FREED_COUNTS = 0.5
"""What a visit frees of the next one, counted against what it takes."""
LEAST_PRICE = 1e-3
"""No visit takes less than this share of the limits."""
MULTIPLIER, INCREMENT, TOP_BITS = np.uint64(6364136223846793005), np.uint64(1442695040888963407), np.uint64(11)
"""Draws are those of a linear congruential generator [Knuth97]: the same on every machine."""
SPAN = 1.0 / (1 << 53)

F = TypeVar("F", bound=Callable[..., object])
compiled = cast("Callable[[F], F]", numba.njit(cache=True, nogil=True))
inlined = cast("Callable[[F], F]", numba.njit(cache=True, nogil=True, inline="always"))
"""For what takes less than a call: it is put into where it is called from."""
WEIGHT, PLAIN_HARM, DIES_OVER, DIES_AT = range(4)
HARM, DYING = range(2)
MINUTES, LITRES = range(2)


class Board(NamedTuple):
    """All that a plan is made of; units are watered together and visited at one stop.

    Units in order of their stops, trees in order of their units: units_from, trees_from: where those of each stop
    (stops + 1,) and each unit (units + 1,) begin; stop: of each unit (units,). of_trees: weight, harm by the plan
    without limits [days], over how much harm beyond it and from how many days of hardly any uptake on a tree may die
    [days], array (trees, 4); spells: harm [days] and dying [days], array
    (trees, 2, ENDS, ENDS). takes: minutes [min] and litres [L] of the visit that ends a spell, array (units, 2, ENDS,
    ENDS). allowed: whether a unit may be visited; bonus: what a visit on the day is worth in itself [days]; arrays
    (units, days). stop_minutes [min], array (stops, days). most: of all limits [min] or [L], array (limits,).
    minute_limits, litre_limits: those that a visit counts for by position, arrays (units, days, some), the minutes of
    its crew first; stop_limits: those that opening a stop counts for, array (stops, days, some); -1 = none.
    """

    units_from: Array
    trees_from: Array
    stop: Array
    of_trees: Array
    spells: Array
    takes: Array
    allowed: Array
    bonus: Array
    stop_minutes: Array
    most: Array
    minute_limits: Array
    litre_limits: Array
    stop_limits: Array


class InHand(NamedTuple):
    """The plan in hand, changed in place: visits (units, days); visitors: units of each stop by day; left: of limits
    (limits,); of_trees: harm [days] and dying [days] (trees, 2); drawn: the last draw (1,)."""

    visits: Array
    visitors: Array
    left: Array
    of_trees: Array
    drawn: Array


@compiled
def _draw(plan: InHand) -> float:
    plan.drawn[0] = plan.drawn[0] * MULTIPLIER + INCREMENT
    return (plan.drawn[0] >> TOP_BITS) * SPAN


@inlined
def _before(visits: Array, unit: int, day: int) -> int:
    """What the spell follows that a visit on the day ends."""
    for one in range(day - 1, -1, -1):
        if visits[unit, one]:
            return one + 1
    return 0


@inlined
def _after(visits: Array, unit: int, day: int) -> int:
    """What ends the spell after a visit on the day."""
    for one in range(day + 1, PLAN_DAYS):
        if visits[unit, one]:
            return one
    return PLAN_DAYS


@inlined
def _cost(board: Board, tree: int, harm_days: float, dying_days: float, deaths_count: float) -> float:
    beyond = max(0.0, harm_days - board.of_trees[tree, PLAIN_HARM])
    if beyond > board.of_trees[tree, DIES_OVER] or dying_days >= board.of_trees[tree, DIES_AT]:
        beyond += deaths_count
    return board.of_trees[tree, WEIGHT] * beyond


@inlined
def _more(board: Board, tree: int, kind: int, before: int, day: int, after: int) -> float:
    """By how much harm, or dying days, grow with a visit on the day: never much above 0."""
    return (
        board.spells[tree, kind, before, day] + board.spells[tree, kind, day + 1, after]
        - board.spells[tree, kind, before, after]
    )  # fmt: skip


@inlined
def _spared(
    board: Board, plan: InHand, unit: int, before: int, day: int, after: int, sign: float, deaths_count: float
) -> float:  # fmt: skip
    """What a visit spares that comes (sign 1), or that leaves (-1: below 0), between two others."""
    total = sign * board.bonus[unit, day]
    for tree in range(board.trees_from[unit], board.trees_from[unit + 1]):
        now, dying = plan.of_trees[tree, HARM], plan.of_trees[tree, DYING]
        total += _cost(board, tree, now, dying, deaths_count)
        now += sign * _more(board, tree, HARM, before, day, after)
        dying += sign * _more(board, tree, DYING, before, day, after)
        total -= _cost(board, tree, now, dying, deaths_count)
    return total


@compiled
def _take(board: Board, plan: InHand, unit: int, day: int, minutes: float, litres: float) -> None:
    for n in range(board.minute_limits.shape[2]):
        one = board.minute_limits[unit, day, n]
        if one >= 0:
            plan.left[one] -= minutes
    for n in range(board.litre_limits.shape[2]):
        one = board.litre_limits[unit, day, n]
        if one >= 0:
            plan.left[one] -= litres


@compiled
def _turn(board: Board, plan: InHand, unit: int, day: int) -> None:
    """Have a visit come on a day that has none, or leave."""
    before, after = _before(plan.visits, unit, day), _after(plan.visits, unit, day)
    stop, sign = board.stop[unit], -1.0 if plan.visits[unit, day] else 1.0
    for tree in range(board.trees_from[unit], board.trees_from[unit + 1]):
        plan.of_trees[tree, HARM] += sign * _more(board, tree, HARM, before, day, after)
        plan.of_trees[tree, DYING] += sign * _more(board, tree, DYING, before, day, after)
    takes = board.takes
    _take(board, plan, unit, day, sign * takes[unit, MINUTES, before, day], sign * takes[unit, LITRES, before, day])
    if after < PLAN_DAYS:
        minutes = takes[unit, MINUTES, day + 1, after] - takes[unit, MINUTES, before, after]
        litres = takes[unit, LITRES, day + 1, after] - takes[unit, LITRES, before, after]
        _take(board, plan, unit, after, sign * minutes, sign * litres)
    plan.visits[unit, day] = sign > 0.0
    plan.visitors[stop, day] += 1 if sign > 0.0 else -1
    if plan.visitors[stop, day] == (1 if sign > 0.0 else 0):
        for n in range(board.stop_limits.shape[2]):
            one = board.stop_limits[stop, day, n]
            if one >= 0:
                plan.left[one] -= sign * board.stop_minutes[stop, day]


@inlined
def _fits(board: Board, plan: InHand, unit: int, day: int, minutes: float, litres: float) -> bool:
    """Whether so much is left for a unit on a day, with the set-up of its stop where that is closed."""
    stop = board.stop[unit]
    if plan.visitors[stop, day] == 0:
        minutes += board.stop_minutes[stop, day]
    for n in range(board.minute_limits.shape[2]):
        one = board.minute_limits[unit, day, n]
        if one >= 0 and plan.left[one] < minutes - TOLERANCE:
            return False
    for n in range(board.litre_limits.shape[2]):
        one = board.litre_limits[unit, day, n]
        if one >= 0 and plan.left[one] < litres - TOLERANCE:
            return False
    return True


@inlined
def _price(board: Board, unit: int, before: int, day: int, after: int) -> float:
    """What a visit between two others takes, as shares of the limits."""
    takes, total = board.takes, LEAST_PRICE
    most = board.most[board.minute_limits[unit, day, 0]]
    if 0.0 < most < np.inf:
        freed = takes[unit, MINUTES, before, after] - takes[unit, MINUTES, day + 1, after]
        total += max(0.0, takes[unit, MINUTES, before, day] - FREED_COUNTS * freed) / most
    for n in range(board.litre_limits.shape[2]):
        one = board.litre_limits[unit, day, n]
        if one >= 0 and board.most[one] > 0.0:
            total += takes[unit, LITRES, before, day] / board.most[one]
    return total


@compiled
def _over(plan: InHand) -> bool:
    """Whether more is taken than there is of anything."""
    for one in plan.left:  # noqa: SIM110
        if one < -TOLERANCE:
            return True
    return False


@compiled
def _fitted(board: Board, plan: InHand, units: Array) -> bool:
    """Let visits leave until nothing is overrun, those first that spare least for what they take; whether nothing is.

    After a visit that left the next one takes more.
    """
    while _over(plan):
        least, at, on = np.inf, -1, -1
        for unit in units:
            for day in range(PLAN_DAYS):
                if not plan.visits[unit, day]:
                    continue
                short = False
                for n in range(board.minute_limits.shape[2]):
                    one = board.minute_limits[unit, day, n]
                    short = short or (one >= 0 and plan.left[one] < -TOLERANCE)
                for n in range(board.litre_limits.shape[2]):
                    one = board.litre_limits[unit, day, n]
                    short = short or (one >= 0 and plan.left[one] < -TOLERANCE)
                if short:
                    before, after = _before(plan.visits, unit, day), _after(plan.visits, unit, day)
                    costs = -_spared(board, plan, unit, before, day, after, -1.0, 0.0)
                    costs /= _price(board, unit, before, day, after)
                    if costs < least:
                        least, at, on = costs, unit, day
        if at < 0:
            return False
        _turn(board, plan, at, on)
    return True


class Tried(NamedTuple):
    """What visits of some units would come to: spares [days], price, minutes [min], litres [L] of each, arrays (units,
    days); how far what is spared strays by stop and by unit, arrays (stops, days), (units, days); room for the units
    of a stop in order of what they spare for what they take, arrays (units,)."""

    spares: Array
    price: Array
    minutes: Array
    litres: Array
    of_stops: Array
    of_units: Array
    ratios: Array
    order: Array


@compiled
def _tried(plan: InHand, stops: int, units: int, noise: float) -> Tried:
    tried = Tried(
        np.zeros((units, PLAN_DAYS)), np.ones((units, PLAN_DAYS)), np.zeros((units, PLAN_DAYS)),
        np.zeros((units, PLAN_DAYS)), np.ones((stops, PLAN_DAYS)), np.ones((units, PLAN_DAYS)), np.empty(units),
        np.empty(units, np.int64),
    )  # fmt: skip
    if noise > 0.0:
        for n in range(stops):
            for day in range(PLAN_DAYS):
                tried.of_stops[n, day] = np.exp(noise * (2.0 * _draw(plan) - 1.0))
        for k in range(units):
            for day in range(PLAN_DAYS):
                tried.of_units[k, day] = np.exp(OF_UNIT * noise * (2.0 * _draw(plan) - 1.0))
    return tried


@inlined
def _try(board: Board, plan: InHand, tried: Tried, k: int, unit: int, deaths_count: float) -> None:
    """What visits of a unit on each day would come to. k: its position among those that are tried."""
    before, after = 0, _after(plan.visits, unit, -1)
    for day in range(PLAN_DAYS):
        tried.spares[k, day] = 0.0
        if plan.visits[unit, day]:
            before, after = day + 1, _after(plan.visits, unit, day)
        elif board.allowed[unit, day]:
            tried.spares[k, day] = _spared(board, plan, unit, before, day, after, 1.0, deaths_count)
            tried.price[k, day] = _price(board, unit, before, day, after)
            tried.minutes[k, day] = board.takes[unit, MINUTES, before, day]
            tried.litres[k, day] = board.takes[unit, LITRES, before, day]


@inlined
def _offer(
    board: Board, plan: InHand, tried: Tried, units: Array, first: int, last: int, n: int, day: int
) -> tuple[float, int]:  # fmt: skip
    """What a stop would spare on a day for what it takes, and with how many of its units: the first in order.

    Where it is open already it is one of them. first, last: its units among those that are tried; n: its own position.
    """
    stop, found, best = board.stop[units[first]], 0, 0.0
    is_open = plan.visitors[stop, day] > 0
    for k in range(first, last):
        if tried.spares[k, day] <= TOLERANCE:
            continue
        if not _fits(board, plan, units[k], day, tried.minutes[k, day], tried.litres[k, day]):
            continue
        ratio = tried.of_stops[n, day] * tried.of_units[k, day] * tried.spares[k, day] / tried.price[k, day]
        if is_open:
            if ratio > best:
                best, found, tried.order[0] = ratio, 1, k
            continue
        spot = found
        while spot > 0 and tried.ratios[spot - 1] < ratio:
            tried.ratios[spot], tried.order[spot] = tried.ratios[spot - 1], tried.order[spot - 1]
            spot -= 1
        tried.ratios[spot], tried.order[spot] = ratio, k
        found += 1
    if is_open or found == 0:
        return best, found
    own, opening = board.stop_limits[stop, day, 0], board.stop_minutes[stop, day]
    room = plan.left[own] - opening + TOLERANCE
    costs = opening / board.most[own] if 0.0 < board.most[own] < np.inf else 0.0
    total, taken, count = 0.0, 0.0, 0
    for m in range(found):
        k = tried.order[m]
        taken += tried.minutes[k, day]
        if taken > room:
            break
        total += tried.of_units[k, day] * tried.spares[k, day]
        costs += tried.price[k, day]
        if tried.of_stops[n, day] * total > best * costs:
            best, count = tried.of_stops[n, day] * total / costs, m + 1
    return best, count


@compiled
def _fill(board: Board, plan: InHand, stops: Array, units: Array, noise: float, deaths_count: float) -> None:
    """Let visits come, those first that spare most for what they take, until nothing more fits or spares.

    units: those of the stops, in their order. What a stop offers on a day is reckoned again where its own visits have
    changed, or the day's; elsewhere it can only have become less, but for litres that came free, and the best of all
    is looked at again before it is taken.
    """
    tried = _tried(plan, len(stops), len(units), noise)
    firsts = np.zeros(len(stops) + 1, np.int64)
    for n in range(len(stops)):
        firsts[n + 1] = firsts[n] + board.units_from[stops[n] + 1] - board.units_from[stops[n]]
    for k in range(len(units)):
        _try(board, plan, tried, k, units[k], deaths_count)
    offers, is_new = np.full((len(stops), PLAN_DAYS), np.inf), True
    while True:
        best, at, on = 0.0, -1, -1
        for n in range(len(stops)):
            for day in range(PLAN_DAYS):
                if offers[n, day] > best and firsts[n + 1] > firsts[n]:
                    best, at, on = offers[n, day], n, day
        if at < 0 and is_new:
            return
        if at < 0:
            offers[:], is_new = np.inf, True
            continue
        now, count = _offer(board, plan, tried, units, firsts[at], firsts[at + 1], at, on)
        if now < best:
            offers[at, on] = now
            continue
        offers[at], offers[:, on], is_new = np.inf, np.inf, False
        for m in range(count):
            k = tried.order[m]
            if _fits(board, plan, units[k], on, tried.minutes[k, on], tried.litres[k, on]):
                after = _after(plan.visits, units[k], on)
                if after < PLAN_DAYS:
                    offers[:, after] = np.inf
                _turn(board, plan, units[k], on)
                _try(board, plan, tried, k, units[k], deaths_count)


@compiled
def _worth(board: Board, plan: InHand, units: Array, deaths_count: float) -> float:
    total = 0.0
    for unit in units:
        for tree in range(board.trees_from[unit], board.trees_from[unit + 1]):
            total += _cost(board, tree, plan.of_trees[tree, HARM], plan.of_trees[tree, DYING], deaths_count)
        for day in range(PLAN_DAYS):
            if plan.visits[unit, day]:
                total -= board.bonus[unit, day]
    return total


@compiled
def _leave(board: Board, plan: InHand, units: Array) -> None:
    """Let visits of these units leave: all, those of some days in a row, or some days of each stop."""
    way, first = int(3.0 * _draw(plan)), int(PLAN_DAYS * _draw(plan))
    last = first + 1 + int(LEAVE_DAYS * _draw(plan))
    leaves = np.ones(PLAN_DAYS, np.bool_)
    for k in range(len(units)):
        if k == 0 or board.stop[units[k]] != board.stop[units[k - 1]]:
            for day in range(PLAN_DAYS):
                leaves[day] = way == 0 or (first <= day < last if way == 1 else _draw(plan) < LEAVE_SHARE)
        for day in range(PLAN_DAYS):
            if leaves[day] and plan.visits[units[k], day]:
                _turn(board, plan, units[k], day)


@compiled
def _units(board: Board, stops: Array) -> Array:
    count = 0
    for stop in stops:
        count += board.units_from[stop + 1] - board.units_from[stop]
    found, at = np.empty(count, np.int64), 0
    for stop in stops:
        for unit in range(board.units_from[stop], board.units_from[stop + 1]):
            found[at] = unit
            at += 1
    return found


@compiled
def begin(board: Board, plan: InHand, visits: Array, deaths_count: float) -> float:
    """Have these visits as far as they fit, and what fits beside them; what that comes to.

    visits: array (units, days) of whether; deaths_count: days of harm that a death counts.
    """
    every, stops = np.arange(len(visits)), np.arange(len(board.stop_minutes))
    for unit in range(len(visits)):
        for day in range(PLAN_DAYS):
            if visits[unit, day] and board.allowed[unit, day]:
                _turn(board, plan, unit, day)
    _fitted(board, plan, every)
    _fill(board, plan, stops, every, 0.0, deaths_count)
    return _worth(board, plan, every, deaths_count)


@compiled
def rounds_of(
    board: Board, plan: InHand, beside_from: Array, beside: Array, best: Array, worths: Array, warmth: float,
    rounds: int, deaths_count: float,
) -> None:  # fmt: skip
    """So many rounds of taking apart and putting together.

    beside_from, beside: stops under a common limit with each stop, one stop's after the other's, and where each one's
    begin, arrays (some,), (stops + 1,); best: visits of the best plan, array (units, days), worths: what the plan in
    hand and the best one come to, array (2,), both changed in place; warmth: how much worse a plan may be that is gone
    on with, mostly [days]; deaths_count: days of harm that a death counts.
    """
    was = np.zeros((len(plan.visits), PLAN_DAYS), np.bool_)
    for _ in range(rounds):
        start = int((len(beside_from) - 1) * _draw(plan))
        near = beside[beside_from[start] : beside_from[start + 1]].copy()
        count = min(len(near), 1 + int(MOST_STOPS * _draw(plan)))
        for n in range(count):
            other = n + int((len(near) - n) * _draw(plan))
            near[n], near[other] = near[other], near[n]
        stops = near[:count]
        units = _units(board, stops)
        for k in range(len(units)):
            for day in range(PLAN_DAYS):
                was[k, day] = plan.visits[units[k], day]
        before = _worth(board, plan, units, deaths_count)
        _leave(board, plan, units)
        good = _fitted(board, plan, units)
        if good:
            _fill(board, plan, stops, units, NOISES[int(len(NOISES) * _draw(plan))], deaths_count)
            good = not _over(plan)
        now = worths[0] + _worth(board, plan, units, deaths_count) - before
        if good and now <= worths[0] - warmth * np.log(1.0 - _draw(plan)):
            worths[0] = now
            if now < worths[1] - TOLERANCE:
                worths[1] = now
                for unit in range(len(best)):
                    for day in range(PLAN_DAYS):
                        best[unit, day] = plan.visits[unit, day]
        else:
            for k in range(len(units)):
                for day in range(PLAN_DAYS):
                    if plan.visits[units[k], day] != was[k, day]:
                        _turn(board, plan, units[k], day)
