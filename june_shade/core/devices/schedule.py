"""When the lines of a box run: each within its own hours, one after the other where the supply can't feed two."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from june_shade.core.numbers import Numbers


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
