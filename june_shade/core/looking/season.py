"""A season as it was: what was logged and what was felt, day by day, for one tree or for it under many guesses at once.

It opens after the first day's step 1, with depletions as given; the plan's calendar, rounding and forecast are not in
here. Readings taken before a day's water are of the state after step 1, those taken after it of the state after step 3.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from june_shade.core.numbers import Numbers
from june_shade.core.water.balance import Fluxes, grow, pass_day
from june_shade.core.water.felt import Capacity, Look, Reading, Stood
from june_shade.core.water.routine import Start, opened
from june_shade.core.water.stores import Array, Ground, Reach, State, Trees
from june_shade.core.water.weather import Weather


@dataclass(frozen=True, slots=True)
class Occasion:
    """When someone looked: the day's position, before or after that day's water; readings in their order."""

    day: int
    before_water: bool
    readings: tuple[Reading, ...]


@dataclass(frozen=True, slots=True)
class Season:
    """One tree's season. net_l: poured by day as it arrives, array (days,); start: where it opens; opening_sd: how far
    off its wetness may be then; occasions in order of time."""

    trees: Trees
    reach: Reach
    start: Start
    days: tuple[Weather, ...]
    net_l: Array
    occasions: tuple[Occasion, ...]
    opening_sd: float


@dataclass(frozen=True, slots=True)
class Day:
    """A day of a season: what moved, the state at its end, what readings corrected [L], array (trees,)."""

    moved: Fluxes
    state: State
    corrected_l: Array


@dataclass(frozen=True, slots=True)
class Morning:
    """Where a walk begins: a day's position, the trees and how they are watered, state and ground after step 1."""

    day: int
    trees: Trees
    reach: Reach
    state: State
    ground: Ground


OnLook = Callable[[Occasion, Stood, Capacity], Stood]
"""What is done at an occasion with what stands there."""


def occasions(readings: Sequence[tuple[int, bool, Reading]]) -> tuple[Occasion, ...]:
    """Readings (day, before that day's water, reading) in order of time, put together by when they were taken."""
    found: dict[tuple[int, bool], list[Reading]] = {}
    for day, before, reading in readings:
        found.setdefault((day, before), []).append(reading)
    return tuple(Occasion(day, before, tuple(some)) for (day, before), some in found.items())


def first_morning(season: Season) -> Morning:
    """Where the season opens."""
    state, g = opened(season.trees, season.reach, season.start, season.days[0])
    variance = np.full(len(season.trees), season.opening_sd**2)
    state = replace(state, ball_variance=variance, near_variance=variance.copy())
    return Morning(0, season.trees, season.reach, state, g)


def walk(
    season: Season, morning: Morning, until: int, on_look: OnLook, *, thirst: Numbers = 1.0,
    arrives: Callable[[int], Numbers] = lambda day: 1.0,
) -> tuple[list[Day], Morning | None]:  # fmt: skip
    """The days from a morning on, up to the one before `until`, and the morning of that one, None past the end.

    thirst: factor on the demand; arrives: factor on what is poured on a day; numbers or arrays (trees,).
    """
    trees, reach, state, g = morning.trees, morning.reach, morning.state, morning.ground
    thirsty = replace(trees, microclimate=trees.microclimate * thirst)
    looks = {(one.day, one.before_water): one for one in season.occasions}
    result = []
    for day in range(morning.day, until):
        room = Capacity(trees.ball_taw_l, g.near_taw_l, trees.ball_space_l, g.near_space_l)
        state, given = _looked(looks.get((day, True)), state, room, on_look)
        net = season.net_l[day] * arrives(day) + np.zeros(len(trees))
        look = _after(looks.get((day, False)), room, on_look)
        state, moved = pass_day(thirsty, g, state, season.days[day], net, look=look)
        result.append(Day(moved, state, given + moved.corrected_l))
        if day + 1 < len(season.days):
            state, g, _ = grow(trees, reach, state, season.days[day + 1])
    after = Morning(until, trees, reach, state, g) if until < len(season.days) else None
    return result, after


def _looked(occasion: Occasion | None, state: State, room: Capacity, on_look: OnLook) -> tuple[State, Array]:
    """The morning's state once someone has looked, and what that corrected [L]."""
    if occasion is None:
        return state, np.zeros_like(state.ball_depletion_l)
    before = Stood(state.ball_depletion_l, state.near_depletion_l, state.ball_variance, state.near_variance)
    now = on_look(occasion, before, room)
    given = before.ball_depletion_l - now.ball_depletion_l + before.near_depletion_l - now.near_depletion_l
    state = replace(
        state, ball_depletion_l=now.ball_depletion_l, near_depletion_l=now.near_depletion_l,
        ball_variance=now.ball_variance, near_variance=now.near_variance,
    )  # fmt: skip
    return state, given


def _after(occasion: Occasion | None, room: Capacity, on_look: OnLook) -> Look | None:
    return None if occasion is None else lambda now: on_look(occasion, now, room)
