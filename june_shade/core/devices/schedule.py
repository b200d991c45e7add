"""What the lines of a box run and when: as long as the neediest tree wants, on no frosty day, each in its own hours,
one after the other where the supply can't feed two."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from june_shade.core.numbers import Numbers

FROST_C = 2.0
"""On a day that is to be colder than this nothing runs: what is full freezes (common practice)."""
ROUNDED_L = 0.5
"""A run's minutes are rounded: so much over an order's litres is none."""
DAY_MIN = 24 * 60


@dataclass(frozen=True, slots=True)
class LineRun:
    """One run of a line: minutes of each go, how many, rests between them."""

    open_min: float
    goes: int
    rest_min: float

    @property
    def total_min(self) -> float:
        """From its first opening to its last shutting."""
        return self.goes * self.open_min + (self.goes - 1) * self.rest_min


def line_run(run_min: Sequence[float], goes: Sequence[int], rest_min: Sequence[float]) -> LineRun:
    """A line's run from what its trees want, each in so many goes with rests: as long as the neediest wants, in as many
    goes and with as long rests as any does."""
    many = max(goes)
    return LineRun(round(max(run_min) / many, 1), many, max(rest_min) if many > 1 else 0.0)


def is_frosty(tmean_c: float, tmax_c: float) -> bool:
    """Whether a day is too cold to run: its low lies as far under its mean as its high over it."""
    return 2 * tmean_c - tmax_c < FROST_C


def common_hours(hours_min: np.ndarray, others_min: np.ndarray) -> np.ndarray:
    """Hours that lie in both, within the day: arrays (windows, 2) of minutes."""
    both = [(max(a, c, 0.0), min(b, d, DAY_MIN)) for a, b in hours_min for c, d in others_min]
    return np.array([pair for pair in both if pair[0] < pair[1]], float).reshape(-1, 2)


@dataclass(frozen=True, slots=True)
class Wanted:
    """A line that wants to run. minutes: from its first opening to its last shutting, rests included [min];
    flow_l_per_h: while it is open; windows: hours that it may run in, array (windows, 2) of minutes of one count."""

    outlet: int
    minutes: float
    flow_l_per_h: float
    windows: Numbers


@dataclass(frozen=True, slots=True)
class Placed:
    """A run with its beginning, in the minutes that its windows are counted in."""

    outlet: int
    start_min: float
    end_min: float


def placed(
    wanted: Sequence[Wanted], supply_l_per_h: float, from_min: float, busy: Mapping[int, Sequence[tuple[float, float]]]
) -> tuple[list[Placed], list[int]]:
    """Runs as early as they fit, and the outlets that found no room.

    wanted: in the order in which they choose. supply_l_per_h: what may flow at a time [L/h]; a line that takes more by
    itself runs alone. from_min: nothing starts before. busy: by outlet, when it runs already [min].
    """
    found: list[tuple[Placed, float]] = []
    flows = {one.outlet: one.flow_l_per_h for one in wanted}
    for outlet, spans in busy.items():
        found += [(Placed(outlet, a, b), flows.get(outlet, supply_l_per_h)) for a, b in spans]
    before, left = len(found), []
    for one in wanted:
        start = _earliest(one, found, supply_l_per_h, from_min)
        if start is None:
            left.append(one.outlet)
        else:
            found.append((Placed(one.outlet, start, start + one.minutes), one.flow_l_per_h))
    return [run for run, _ in found[before:]], left


def _earliest(
    one: Wanted, found: Sequence[tuple[Placed, float]], supply_l_per_h: float, from_min: float
) -> float | None:  # fmt: skip
    """When a line can begin first, None where it fits nowhere."""
    for opens, shuts in sorted(map(tuple, one.windows)):
        first = max(float(opens), from_min)
        starts = sorted({first, *(run.end_min for run, _ in found if run.end_min > first)})
        for start in starts:
            if start + one.minutes > float(shuts) + 1e-9:
                break
            if _fits(one, start, found, supply_l_per_h):
                return start
    return None


def _fits(one: Wanted, start: float, found: Sequence[tuple[Placed, float]], supply_l_per_h: float) -> bool:
    end = start + one.minutes
    beside = [(run, flow) for run, flow in found if run.start_min < end - 1e-9 and run.end_min > start + 1e-9]
    if any(run.outlet == one.outlet for run, _ in beside):
        return False
    moments = {start, *(run.start_min for run, _ in beside if run.start_min > start)}
    for at in moments:
        others = [flow for run, flow in beside if run.start_min <= at + 1e-9 < run.end_min]
        if others and sum(others) + one.flow_l_per_h > supply_l_per_h + 1e-9:
            return False
    return True
