"""What a crew can do on a day: its minutes, how many hoses run at once, how long a stop and a tree take it."""

from collections.abc import Hashable, Iterable
from dataclasses import dataclass

import numpy as np

from june_shade.core.choosing.patterns import Array

STARTS_MIN, HOURS, BREAK_MIN = 360, 8.0, 90.0
"""A day begins at 6:00; of its hours so many minutes go for yard and breaks together (common practice)."""
SET_UP_MIN, HANDLING_MIN, FILL_MIN = 6.0, 1.0, 15.0
"""Minutes to set up a stop, to handle a tree, to fill a tank (common practice)."""
RANGES: dict[str, tuple[float, float]] = {
    "people": (1, 50), "starts_min": (0, 1439), "hours": (0, 24), "break_min": (0, 480), "hoses": (1, 20),
    "tank_l": (1, 100_000), "fill_min": (0, 240), "set_up_min": (0, 240), "handling_min": (0, 60),
}  # fmt: skip
"""What each of a crew's figures can be, ends included."""


@dataclass(frozen=True, slots=True)
class CrewHas:
    """A crew as it is typed: people; the minute of the day it starts; hours of a day [h]; minutes of it for yard and
    breaks [min]; hoses at once; set-up of a stop and handling of a tree [min]; weekdays it works, Monday = 0. hours
    None: no limit."""

    people: int = 2
    starts_min: float = STARTS_MIN
    hours: float | None = HOURS
    break_min: float = BREAK_MIN
    hoses: int = 1
    set_up_min: float = SET_UP_MIN
    handling_min: float = HANDLING_MIN
    working_days: tuple[int, ...] = tuple(range(7))


@dataclass(frozen=True, slots=True)
class DayTakes:
    """What a day takes from a crew: hands missing, a later start, an earlier end [min of the day]; pump broken."""

    people_less: int = 0
    starts_min: float | None = None
    ends_min: float | None = None
    pump_broken: bool = False


NOTHING = DayTakes()


@dataclass(frozen=True, slots=True)
class DayHas:
    """What a crew has on a day: from and to which minute of it, minutes of work [min], hoses at once, minutes of a
    stop's set-up and of a tree's handling [min]."""

    starts_min: float
    ends_min: float
    minutes: float
    at_once: float
    set_up_min: float
    handling_min: float


def on_day(crew: CrewHas, weekday: int, takes: DayTakes = NOTHING) -> DayHas:
    """What a crew has on a day. With hands missing fewer hoses run, set-up and handling take longer by as much.

    weekday: Monday = 0.
    """
    there = max(0, crew.people - takes.people_less)
    slower = crew.people / there if there else 1.0
    usual_end = crew.starts_min + 60.0 * (24.0 if crew.hours is None else crew.hours)
    starts = crew.starts_min if takes.starts_min is None else max(crew.starts_min, takes.starts_min)
    ends = usual_end if takes.ends_min is None else min(usual_end, takes.ends_min)
    works = weekday in crew.working_days and there > 0
    if crew.hours is None and takes.ends_min is None:
        minutes = np.inf if works else 0.0
    else:
        lost = max(0.0, starts - crew.starts_min) + max(0.0, usual_end - ends)
        whole = 60.0 * (24.0 if crew.hours is None else crew.hours) - crew.break_min
        minutes = max(0.0, whole - lost) if works else 0.0
    return DayHas(
        starts, ends, float(minutes), float(max(1, min(crew.hoses, there))), crew.set_up_min * slower,
        crew.handling_min * slower,
    )  # fmt: skip


OVER_MIN = 0.5
"""Work is more than a crew's hours from so many minutes over them on."""


@dataclass(frozen=True, slots=True)
class DayWork:
    """What several crews have to do on a day and the time that they have [min], None = no limit; over: it is more."""

    minutes: float
    has_min: float | None
    over: bool


def together(parts: Iterable[tuple[Hashable, float, float | None]]) -> DayWork:
    """The day of several crews. Where any has a limit those without one are left out, since theirs is no comparison.

    parts: the crew, minutes of work, the time that it has [min] or None, once or more often for a crew.
    """
    rows = list(parts)
    limits = {crew: has for crew, _, has in rows if has is not None}
    minutes = sum(work for crew, work, _ in rows if not limits or crew in limits)
    if not limits:
        return DayWork(minutes, None, over=False)
    has_min = sum(limits.values())
    return DayWork(minutes, has_min, minutes > has_min + OVER_MIN)


def open_min(windows: Array, starts_min: float, ends_min: float) -> float:
    """Minutes of a shift in which may be watered [min].

    windows: from and to minute of the day, array (windows, 2), with those of the day before shifted by a day before 0;
    starts_min, ends_min: the shift [min of the day].
    """
    if not len(windows):
        return 0.0
    from_min = np.clip(windows[:, 0], starts_min, ends_min)
    to_min = np.clip(windows[:, 1], starts_min, ends_min)
    total, reached = 0.0, starts_min
    for low, high in sorted(zip(from_min.tolist(), to_min.tolist(), strict=True)):
        total += max(0.0, high - max(low, reached))
        reached = max(reached, high)
    return total
