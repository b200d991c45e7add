"""A season as it was: trees through days that are past, with what was logged and what was felt, walked again.

The days are walked by the one engine (`water/walk.py`); what is done with readings is for the asker to say.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from june_shade.core.water import felt
from june_shade.core.water.balance import Fluxes
from june_shade.core.water.course import Course, last_watered
from june_shade.core.water.felt import Capacity, Felt, Reading, Stood, Weighed
from june_shade.core.water.ground import ground
from june_shade.core.water.pouring import Pouring
from june_shade.core.water.routine import Start, opened
from june_shade.core.water.stores import Array, Reach, State, Trees, pick, some
from june_shade.core.water.walk import Era, Opening, Walk
from june_shade.core.water.weather import Weather

Moment = tuple[int, bool]
"""When someone looks: the day's position, and whether before that day's water."""


@dataclass(frozen=True, slots=True)
class Season:
    """Trees through days that are past. opening: where each begins; course: what drives them, with the readings; eras:
    how they were watered, the first from the start."""

    trees: Trees
    opening: Opening
    course: Course
    eras: tuple[Era, ...]

    @property
    def moments(self) -> list[Moment]:
        """When someone looked, in order of time."""
        return sorted(self.course.felt, key=lambda moment: (moment[0], not moment[1]))

    def of_some(self, chosen: Array) -> "Season":
        """The same for some of the trees, in this order; one may be there many times. chosen: positions."""
        opening, level_l = self.opening, self.opening.reservoir_l
        begins = Opening(
            opening.index[chosen], some(opening.state, chosen), opening.fresh[chosen], opening.late_days[chosen],
            None if level_l is None else level_l[chosen],
        )  # fmt: skip
        eras = tuple(Era(era.since, some(era.reach, chosen), some(era.pouring, chosen)) for era in self.eras)
        return Season(some(self.trees, chosen), begins, self.course.of_some(chosen), eras)


DRIVERS = ("eto_mm", "rain_mm", "month_c", "five_days_c", "rain_share", "leaf", "mulch_depth_share")


def season_of(
    trees: Trees, reach: Reach, start: Start, days: Sequence[Weather], net_l: Array, read: Mapping[Moment, Felt],
    opening_sd: float,
) -> Season:  # fmt: skip
    """Trees that open alike and share plain days. net_l: what arrives, arrays (days, trees); read: readings by moment;
    opening_sd: how far off their wetness may be as they open. Raises InputError where they can't open so."""
    count = len(trees)
    state, _ = opened(trees, reach, start, days[0])
    radius = np.minimum(trees.established_radius_m, trees.ball_radius_m + start.root_spread_beyond_ball_m)
    before = ground(trees, reach, radius, days[0].mulch_depth_share)
    state = replace(
        state, root_radius_m=radius, near_volume_l=before.near_volume_l, far_volume_l=before.far_volume_l,
        ball_variance=np.full(count, opening_sd**2), near_variance=np.full(count, opening_sd**2),
    )  # fmt: skip
    of = {name: np.array([[float(np.max(getattr(day, name)))] for day in days]) for name in DRIVERS}
    of |= {name: np.repeat(of[name], count, axis=1) for name in ("leaf", "mulch_depth_share")}
    ones = np.ones((len(days), 1))
    course = Course(
        **of, fallen=ones > 0, workable=ones > 0, thirst=ones, first_net_l=net_l, second_net_l=np.zeros_like(net_l),
        poured_today=np.zeros(count, bool), asked_now=np.zeros(count, bool), last_water=last_watered(net_l, len(days)),
        chosen=np.full(net_l.shape, np.nan), today=len(days), felt=read,
    )  # fmt: skip
    plain = Pouring(np.ones(count), np.zeros(count), np.ones(count), np.zeros(count))
    return Season(trees, Opening.of_all(state, fresh=True), course, (Era(0, reach, plain),))


@dataclass(frozen=True, slots=True)
class Day:
    """A day of a season: what moved, the state at its end, what readings corrected [L], array (trees,)."""

    moved: Fluxes
    state: State
    corrected_l: Array


@dataclass(frozen=True, slots=True)
class Told:
    """How a reading was weighed against ball and ring."""

    ball: Weighed
    ring: Weighed


OnLook = Callable[[Moment, Stood, Capacity, Felt], Stood]
"""What is done with what stands at a moment when someone looks."""


def walk(
    season: Season, days: range, on_look: OnLook | None = None, after: Callable[[int, Day, Walk], None] | None = None
) -> None:
    """Walk a season. on_look: what is done with readings, None = nothing; after: is shown each day."""
    moment = (0, True)

    def hear(now: Stood, room: Capacity, found: Felt) -> Stood:
        return now if on_look is None else on_look(moment, now, room, found)

    walked = Walk(season.trees, season.course, season.opening, season.eras, hear=hear)
    for day in days:
        moment = (day, True)
        morning = walked.morning(day)
        first, second, _ = walked.boxes.draw(
            morning.state, season.course.first_net_l[day], season.course.second_net_l[day]
        )
        moment = (day, False)
        moved = walked.evening(morning, first, second)
        if after is not None:
            after(day, Day(moved, walked.state, np.sum(morning.read_l, axis=0) + moved.corrected_l), walked)


def corrected(season: Season) -> tuple[list[Day], list[Told]]:
    """The season with every reading moving the state, and how each was weighed, in their order."""
    days: list[Day] = []
    told: list[Told] = []

    def weigh(moment: Moment, now: Stood, room: Capacity, found: Felt) -> Stood:
        for ball, ring, sd in zip(found.ball, found.ring, found.sd, strict=True):
            now, for_ball, for_ring = felt.weigh(now, room, Reading(ball, ring, sd))
            told.append(Told(for_ball, for_ring))
        return now

    walk(season, range(len(season.course)), weigh, lambda number, day, walked: days.append(day))
    return days, told


def opening_at(season: Season, first: Array) -> Opening:
    """Where each tree stands, by the book alone, as that day of it opens. first: positions of days (trees,)."""
    begins = season.opening
    state, level_l = begins.state, np.zeros(len(first)) if begins.reservoir_l is None else begins.reservoir_l

    def keep(number: int, day: Day, walked: Walk) -> None:
        nonlocal state, level_l
        here = (first == number + 1) & (begins.index <= number)
        state, level_l = pick(here, day.state, state), np.where(here, walked.boxes.level_l, level_l)

    walk(season, range(int(np.min(begins.index)), int(np.max(first))), None, keep)
    later = first > begins.index
    return Opening(np.maximum(first, begins.index), state, begins.fresh & ~later, np.zeros(len(first), int), level_l)
