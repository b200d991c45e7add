"""Trees on their way through days: the one engine of past, coming days and seasons.

A walk gives each day's morning (roots grown, the way of watering of that day in force) and takes what was poured to
the evening. What is poured, and why, is decided by who walks: `past` as it was logged, `ahead` where a visit is due,
`season` by a routine. Weather comes from the course that is walked.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from june_shade.core.water import felt
from june_shade.core.water.balance import Fluxes, grow, laid_in, pass_where
from june_shade.core.water.course import Course
from june_shade.core.water.felt import Capacity, Felt, Look
from june_shade.core.water.ground import Ground, ground
from june_shade.core.water.pouring import Boxes, Pouring
from june_shade.core.water.stores import Array, Reach, State, Trees, pick
from june_shade.core.water.weather import Weather


@dataclass(frozen=True, slots=True)
class Opening:
    """Where each tree's run begins, arrays (trees,).

    index: position of its first day. state: what stands when that day opens. fresh: True for an opening proper (its
    depletions are taken as they stand after that day's step 1), False for a state carried over from the evening
    before. late_days: unwatered due days up to there. reservoir_l: what stands in a wicked box, None = empty.
    """

    index: Array
    state: State
    fresh: Array
    late_days: Array
    reservoir_l: Array | None = None

    @classmethod
    def of_all(cls, state: State, *, fresh: bool) -> "Opening":
        """All trees on the first day."""
        zero = np.zeros(len(state.ks), int)
        return cls(zero, state, np.full(len(zero), fresh), zero)


@dataclass(frozen=True, slots=True)
class Era:
    """How all trees are watered from a day on, until the next era: where the water lands and how it is poured."""

    since: int
    reach: Reach
    pouring: Pouring


@dataclass(frozen=True, slots=True)
class Morning:
    """A day after its step 1: what a visit is reckoned from. joined_l: water that came with new soil [L]; read_l: what
    readings before that day's water took off the depletions of ball and near ring [L], array (2, trees)."""

    day: int
    active: Array
    state: State
    ground: Ground
    weather: Weather
    joined_l: Array
    read_l: Array


@dataclass(frozen=True, slots=True)
class Passed:
    """A day as it was walked: its morning, the net water of its two waterings [L], what was felt after them."""

    morning: Morning
    first_l: Array
    second_l: Array
    felt: Felt | None = None


Hear = Callable[[felt.Stood, Capacity, Felt], felt.Stood]
"""What is done with readings: ball and ring at their moment, what they can hold, what was read; what stands after."""


class Walk:
    """Trees walked through days, one after the other. eras: in order, the first from the beginning.

    hear: what is done with readings; by themselves they move the state.
    """

    def __init__(
        self, trees: Trees, course: Course, opening: Opening, eras: Sequence[Era], *, hear: Hear = felt.weigh_all
    ) -> None:
        self._hear = hear
        self.trees, self.course, self.opening = trees, course, opening
        self._eras = tuple(eras)
        self.state = opening.state
        self.boxes = Boxes(self._eras[0].pouring, opening.reservoir_l, len(trees))
        self._now = self._eras[0]

    @property
    def pouring(self) -> Pouring:
        """How the trees are poured on the day that was walked to last."""
        return self._now.pouring

    @property
    def reach(self) -> Reach:
        """Where water lands on the day that was walked to last."""
        return self._now.reach

    @property
    def reach_ahead(self) -> Reach:
        """Where water lands on the days ahead: as trees are watered now."""
        return self._eras[-1].reach

    def morning(self, day: int) -> Morning:
        """Step 1 of a day: who opens, who grows."""
        self._enter(day)
        starting = self.opening.index == day
        if np.any(starting):
            self.state = pick(starting, self.opening.state, self.state)
        weather = self.course.weather(day)
        state, g, joined = grow(self.trees, self.reach, self.state, weather)
        fresh = starting & self.opening.fresh
        if np.any(fresh):
            state = opened(state, g, self.opening.state, fresh)
            joined = np.where(fresh, 0.0, joined)
        morning = Morning(day, self.opening.index <= day, state, g, weather, joined, np.zeros((2, len(state.ks))))
        return self._read(morning, self.course.felt.get((day, True)), np.zeros(len(state.ks)))

    def felt_today(self, morning: Morning, logged_l: Array) -> Morning:
        """A morning of today or later by what was felt after the water that is logged for it already [L]."""
        return self._read(morning, self.course.felt.get((morning.day, False)), logged_l)

    def felt_after(self, day: int) -> Felt | None:
        """What was felt on a past day after its water, None where nothing was."""
        return self.course.felt.get((day, False)) if day < self.course.today else None

    def evening(self, morning: Morning, first_l: Array, second_l: Array) -> Fluxes:
        """Steps 2 to 6 with the net water of that day [L], trees that got two waterings in two halves."""
        found = self.felt_after(morning.day)
        look = None if found is None else looking(found, self.trees, morning.ground, self._hear)
        self.state, moved = pass_where(
            self.trees, morning.ground, morning.state, morning.weather, first_l, second_l, look
        )
        return moved

    def _read(self, morning: Morning, found: Felt | None, laid_l: Array) -> Morning:
        """A morning by readings, taken with so much net water laid in [L]."""
        if found is None:
            return morning
        state = laid_in(morning.ground, morning.state, laid_l)
        now = looking(found, self.trees, morning.ground, self._hear)(felt.stood_in(state))
        ball_l, near_l = now.ball_depletion_l - state.ball_depletion_l, now.near_depletion_l - state.near_depletion_l
        read = replace(
            morning.state, ball_depletion_l=morning.state.ball_depletion_l + ball_l,
            near_depletion_l=morning.state.near_depletion_l + near_l, ball_variance=now.ball_variance,
            near_variance=now.near_variance,
        )  # fmt: skip
        return replace(morning, state=read, read_l=morning.read_l - np.stack((ball_l, near_l)))

    def _enter(self, day: int) -> None:
        now = [era for era in self._eras if era.since <= day][-1]
        if now is not self._now:
            self._now = now
            self.boxes.change(now.pouring)


def looking(found: Felt, trees: Trees, g: Ground, hear: Hear = felt.weigh_all) -> Look:
    """What readings do with what stands at their moment."""
    room = Capacity(trees.ball_taw_l, g.near_taw_l, trees.ball_space_l, g.near_space_l)
    return lambda now: hear(now, room, found)


def opened(state: State, g: Ground, opening: State, fresh: Array) -> State:
    """The state after step 1 with these trees' depletions, and how far off they may be, as they open.

    fresh: which trees open today, array (trees,).
    """
    return replace(
        state,
        near_depletion_l=np.where(fresh, opening.near_depletion_l, state.near_depletion_l),
        far_depletion_l=np.where(fresh & (g.far_volume_l > 0), opening.far_depletion_l, state.far_depletion_l),
        ball_variance=np.where(fresh, opening.ball_variance, state.ball_variance),
        near_variance=np.where(fresh, opening.near_variance, state.near_variance),
    )


def opening_state(
    trees: Trees,
    reach: Reach,
    root_radius_m: Array,
    ball_wetness: Array,
    ring_wetness: Array,
    in_ground_before: Array,
) -> State:
    """State in which trees open, arrays (trees,).

    ball_wetness, ring_wetness: share of available water there, 0..1. in_ground_before: True for trees planted earlier,
    whose far ring and surroundings open as dry as the ring that was felt.
    """
    g = ground(trees, reach, root_radius_m)
    ring = 1.0 - ring_wetness
    count = len(trees)
    variance = np.where(in_ground_before, felt.GUESSED_SD, felt.PLANTED_SD) ** 2
    return State(
        root_radius_m=root_radius_m,
        ball_depletion_l=(1.0 - ball_wetness) * trees.ball_taw_l,
        near_depletion_l=ring * g.near_taw_l,
        far_depletion_l=np.maximum(0.0, ring) * g.far_taw_l,
        near_volume_l=g.near_volume_l,
        far_volume_l=g.far_volume_l,
        outside_depletion_mm=np.where(in_ground_before, np.maximum(0.0, ring), 0.0) * trees.outside_taw_mm,
        ks=np.ones(count),
        soggy=np.zeros(count, bool),
        soggy_days=np.zeros(count),
        rain_before_mm=np.zeros(count),
        ball_variance=variance,
        near_variance=variance.copy(),
    )
