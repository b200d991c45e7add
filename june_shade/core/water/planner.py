"""The plan of trees: the past as it was logged, then the days ahead with a visit where one is due."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from june_shade.core.errors import NoWeatherError
from june_shade.core.water import ahead, past
from june_shade.core.water.ahead import Ahead
from june_shade.core.water.course import Course
from june_shade.core.water.followed import Followed, Schools
from june_shade.core.water.past import Checkpoint
from june_shade.core.water.record import Record
from june_shade.core.water.stores import Array, State, Trees
from june_shade.core.water.walk import Era, Opening, Passed, Walk

EVENING_MINUTE = 14 * 60
"""Water given after 14:00 local counts with the next morning's."""


@dataclass(frozen=True, slots=True)
class Plan(Ahead):
    """The answers of `Ahead` with every day, arrays (days, trees), NaN before a tree's opening.

    dryness, ks, ball_depletion_l, near_depletion_l, far_depletion_l, root_radius_m at each day's end; visit_net_l,
    visit_gross_l planned from today on (0 = none); reservoir_l at each day's end, 0 without a box; dryness_sd: how far
    off the dryness may be. late_days: unwatered
    days before today on which the tree was due. yesterday: the state at yesterday's end; last: that day as it was
    walked, None where there was none. checkpoints: evenings asked.
    """

    dryness: Array
    ks: Array
    ball_depletion_l: Array
    near_depletion_l: Array
    far_depletion_l: Array
    root_radius_m: Array
    visit_net_l: Array
    visit_gross_l: Array
    reservoir_l: Array
    dryness_sd: Array
    soggy: Array
    late_days: Array
    yesterday: State
    last: Passed | None
    checkpoints: dict[int, Checkpoint]


def run(
    trees: Trees,
    opening: Opening,
    course: Course,
    eras: Sequence[Era],
    *,
    keep_days: bool = False,
    checkpoint_days: frozenset[int] = frozenset(),
    followed: Sequence[Followed] = (),
) -> Plan:
    """Run the course and plan the visits from today on. checkpoint_days: past days whose evening is wanted; followed:
    routines that trees follow instead of the balance.

    Raises NoWeatherError where the days known do not reach today.
    """
    if len(course) <= course.today:
        raise NoWeatherError("the days known do not reach today", "weather")
    record = Record(len(course), len(trees))
    walk = Walk(trees, course, opening, eras)
    owed = Schools(followed, opening)
    late, kept, last = past.go(
        walk, course.first_net_l, course.second_net_l, course.today, record, checkpoint_days, owed
    )
    yesterday = walk.state
    answers = ahead.plan(walk, course, record, owed, keep_days=keep_days)
    found: dict[str, Any] = {name: getattr(answers, name) for name in Ahead.__dataclass_fields__}
    return Plan(
        **(found | record.rows), soggy=record.soggy, late_days=late, yesterday=yesterday, last=last, checkpoints=kept
    )


def days_counted(minute_of_day: int, watered_before_noon: bool) -> tuple[int, bool]:
    """How many days later water counts, and whether as a second watering.

    Before 14:00 local: that day, first. After: the next morning, unless it is the second of two that day.
    """
    if minute_of_day < EVENING_MINUTE:
        return 0, False
    return (0, True) if watered_before_noon else (1, False)


def guessed_wetness(trees: Trees) -> Array:
    """Wetness in which a tree opens that nobody felt: half its limit is gone from ball and ring."""
    return 1.0 - 0.5 * np.asarray(trees.dryness_limit)
