"""The past as it was logged: each day with the water that was poured, under the way of watering of that day."""

from dataclasses import dataclass

import numpy as np

from june_shade.core.water import refill
from june_shade.core.water.balance import Fluxes, pass_day
from june_shade.core.water.followed import Schools
from june_shade.core.water.record import Record
from june_shade.core.water.stores import Array, State, some
from june_shade.core.water.walk import Morning, Passed, Walk

FEW = 0.3
"""Where at most this share of the trees is dry only they are looked at again."""


@dataclass(frozen=True, slots=True)
class Checkpoint:
    """What stands at a past day's end: state, unwatered due days up to there, reservoirs [L]; arrays (trees,)."""

    state: State
    late_days: Array
    reservoir_l: Array


def go(
    walk: Walk, first_l: Array, second_l: Array, today: int, record: Record, keep: frozenset[int], owed: Schools
) -> tuple[Array, dict[int, Checkpoint], Passed | None]:
    """Walk to today's door. first_l, second_l: logged water as it lands (days, trees).

    keep: days whose evening is wanted; owed: what routines want that trees follow. Returns the days each tree has been
    due without water, those evenings, and the last day, None where there was none.
    """
    late = walk.opening.late_days.astype(int)
    kept: dict[int, Checkpoint] = {}
    none = np.zeros(len(walk.trees))
    last: Passed | None = None
    since: list[tuple[Morning, Fluxes, Array]] = []
    for day in range(int(np.min(walk.opening.index)), today):
        morning = walk.morning(day)
        first, second, _ = walk.boxes.draw(morning.state, first_l[day], second_l[day])
        moved = walk.evening(morning, first, second)
        last = Passed(morning, first, second, walk.felt_after(day))
        since.append((morning, moved, first + second))
        owed.past(walk.trees, morning, first + second)
        if day in keep or day == today - 1:
            late, since = np.where(owed.there, owed.owed_days, _late(walk, late, since)), []
        if day in keep:
            kept[day] = Checkpoint(walk.state, late, walk.boxes.level_l)
        record.write(day, morning.active, moved, walk.state, morning.ground, none, none, walk.boxes.level_l)
    return late, kept, last


def _late(walk: Walk, before: Array, days: list[tuple[Morning, Fluxes, Array]]) -> Array:
    """Days that each tree has been due without water up to the last of these days; before: up to their first.

    Looked at from the last one back, each tree only as far as its run of such days goes.
    """
    late, runs = np.zeros(len(walk.trees), int), np.ones(len(walk.trees), bool)
    for morning, moved, poured_l in reversed(days):
        missed = _missed(walk, morning, moved, poured_l, runs)
        late += missed
        runs &= missed | ~morning.active
        if not np.any(runs):
            break
    return np.where(runs, before + late, late)


def _missed(walk: Walk, morning: Morning, moved: Fluxes, poured_l: Array, among: Array) -> Array:
    """Which of these trees were due on a day on which nobody watered them."""
    dry = among & morning.active & (poured_l <= 0) & refill.breaks(walk.trees, moved)
    at = np.flatnonzero(dry)
    if not len(at):
        return dry
    chosen: Array | slice = at if len(at) <= FEW * len(dry) else slice(None)
    trees, g, state = some(walk.trees, chosen), some(morning.ground, chosen), some(morning.state, chosen)
    net = refill.refill(g, state).net_l
    watered = pass_day(trees, g, state, some(morning.weather, chosen), net)[1]
    due = np.zeros(len(dry), bool)
    due[chosen] = (net > 0) & refill.mends(trees, some(moved, chosen), watered)
    return dry & due
