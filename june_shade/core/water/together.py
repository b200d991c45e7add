"""Trees of several sites run as one: the same days, each tree under its own weather, and every site its own plan back.

A run costs far more a day than a tree: forty sites of a hundred trees in one call take a tenth of forty calls.
"""

from collections.abc import Sequence
from dataclasses import dataclass, fields, is_dataclass, replace
from typing import Any, TypeVar

import numpy as np

from june_shade.core.water import planner
from june_shade.core.water.course import Course
from june_shade.core.water.felt import Felt
from june_shade.core.water.followed import Followed
from june_shade.core.water.planner import Plan
from june_shade.core.water.pouring import Pouring
from june_shade.core.water.stores import Array, Reach, Trees
from june_shade.core.water.walk import Era, Opening

T = TypeVar("T")
NO_LINE = -1
MOST_CELLS = 1_000_000
"""Days times trees that are run at once: more takes more memory and saves no more time."""
INDICES = frozenset({"neediest"})
"""What names another tree by its position."""


@dataclass(frozen=True, slots=True)
class Run:
    """What `planner.run` is handed for one site: its trees, where they open, their days, how they are watered.

    checkpoint_days: past days whose evening is wanted. followed: routines that trees follow instead of the balance.
    """

    trees: Trees
    opening: Opening
    course: Course
    eras: tuple[Era, ...]
    checkpoint_days: frozenset[int] = frozenset()
    followed: tuple[Followed, ...] = ()

    def plan(self, *, keep_days: bool = False) -> Plan:
        """What `planner.run` makes of it. Raises NoWeatherError where the days do not reach today."""
        return planner.run(
            self.trees, self.opening, self.course, self.eras, keep_days=keep_days,
            checkpoint_days=self.checkpoint_days, followed=self.followed,
        )  # fmt: skip


def plans(runs: Sequence[Run]) -> list[Plan]:
    """The plan of each run in order, those over the same days computed in one.

    Raises NoWeatherError where the days of one do not reach today.
    """
    found: dict[int, Plan] = {}
    for group in _groups(runs):
        found |= zip(group, _as_one([runs[at] for at in group]), strict=True)
    return [found[at] for at in range(len(runs))]


def _groups(runs: Sequence[Run]) -> list[list[int]]:
    """Positions of runs that go together: over as many days, today at the same place, and not too much at a time."""
    groups: list[list[int]] = []
    open_at: dict[tuple[int, int, frozenset[int]], tuple[list[int], int]] = {}
    for at, run in enumerate(runs):
        key, size = (len(run.course), run.course.today, run.checkpoint_days), run.course.leaf.size
        group, taken = open_at.get(key, ([], MOST_CELLS))
        if taken + size > MOST_CELLS:
            group, taken = [], 0
            groups.append(group)
        group.append(at)
        open_at[key] = group, taken + size
    return groups


def _as_one(runs: Sequence[Run]) -> list[Plan]:
    if len(runs) == 1:
        return [runs[0].plan()]
    sizes = [len(run.trees) for run in runs]
    ends = np.cumsum(sizes)
    whole = planner.run(
        _joined([run.trees for run in runs], sizes),
        _joined([run.opening for run in runs], sizes),
        _course([run.course for run in runs], sizes),
        _eras([run.eras for run in runs], sizes),
        checkpoint_days=runs[0].checkpoint_days,
        followed=[
            replace(one, trees=one.trees + end - size)
            for run, size, end in zip(runs, sizes, ends, strict=True)
            for one in run.followed
        ],
    )
    return [_part(whole, slice(int(end - size), int(end))) for size, end in zip(sizes, ends, strict=True)]


def _joined(parts: Sequence[T], sizes: Sequence[int]) -> T:
    """Dataclasses of arrays whose last axis is the trees, one after the other; a last axis of 1 is shared by all.

    sizes: trees in each.
    """
    whole: dict[str, Any] = {}
    for f in fields(parts[0]):  # type: ignore[arg-type]
        values = [getattr(part, f.name) for part in parts]
        if is_dataclass(values[0]):
            whole[f.name] = _joined(values, sizes)
        elif isinstance(values[0], np.ndarray):
            spread = [np.broadcast_to(v, (*v.shape[:-1], n)) for v, n in zip(values, sizes, strict=True)]
            whole[f.name] = np.concatenate(spread, axis=-1)
        else:
            whole[f.name] = values[0]
    return type(parts[0])(**whole)


def _course(parts: Sequence[Course], sizes: Sequence[int]) -> Course:
    """Courses of all; a reading keeps its tree."""
    whole = _joined([replace(part, felt={}) for part in parts], sizes)
    moments = sorted({moment for part in parts for moment in part.felt})
    return replace(whole, felt={moment: _felt([part.felt.get(moment) for part in parts], sizes) for moment in moments})


def _felt(parts: Sequence[Felt | None], sizes: Sequence[int]) -> Felt:
    most = max(len(part.ball) for part in parts if part is not None)

    def row(name: str, blank: float) -> Array:
        whole = np.full((most, sum(sizes)), blank)
        for part, size, end in zip(parts, sizes, np.cumsum(sizes), strict=True):
            if part is not None:
                values = getattr(part, name)
                whole[: len(values), end - size : end] = values
        return whole

    return Felt(row("ball", np.nan), row("ring", np.nan), row("sd", 1.0))


def _eras(parts: Sequence[tuple[Era, ...]], sizes: Sequence[int]) -> tuple[Era, ...]:
    """Eras of all: a new one wherever one of them has one."""
    starts = sorted({era.since for eras in parts for era in eras})
    found = []
    for start in starts:
        now = [[era for era in eras if era.since <= start][-1] for eras in parts]
        reach, pouring = _reach([era.reach for era in now], sizes), _pouring([era.pouring for era in now], sizes)
        found.append(Era(start, reach, pouring))
    return tuple(found)


def _reach(parts: Sequence[Reach], sizes: Sequence[int]) -> Reach:
    drip = next((part.wetted_m2 for part in parts if part.wetted_m2 is not None), None)
    if drip is not None:
        none = np.full((len(drip), 1), np.nan)
        parts = [part if part.wetted_m2 is not None else replace(part, wetted_m2=none) for part in parts]
    if any(part.deep_m is not None for part in parts):
        parts = [part if part.deep_m is not None else replace(part, deep_m=np.full(1, np.nan)) for part in parts]
    return _joined(parts, sizes)


def _pouring(parts: Sequence[Pouring], sizes: Sequence[int]) -> Pouring:
    """How all are poured, the lines of each numbered past those before."""
    numbered, past = [], 0
    for part, size in zip(parts, sizes, strict=True):
        line = np.full(size, NO_LINE) if part.line is None else part.line
        numbered.append(
            replace(
                part,
                line=np.where(line >= 0, line + past, NO_LINE),
                flow_l_per_h=np.ones(1) if part.flow_l_per_h is None else part.flow_l_per_h,
                reservoir_l=np.zeros(1) if part.reservoir_l is None else part.reservoir_l,
                day_most_l=np.full(1, np.inf) if part.day_most_l is None else part.day_most_l,
            )
        )
        past += 1 + int(np.max(line, initial=NO_LINE))
    return _joined(numbered, sizes)


def _part(whole: T, at: slice, name: str = "") -> T:
    """What belongs to some trees in a row of everything that a plan says."""
    found: Any = whole
    if isinstance(whole, np.ndarray):
        found = whole[..., at] if whole.shape[-1] > 1 else whole
        if name in INDICES:
            found = np.where(found >= 0, found - at.start, found)
    elif is_dataclass(whole) and not isinstance(whole, type):
        found = type(whole)(**{f.name: _part(getattr(whole, f.name), at, f.name) for f in fields(whole)})
    elif isinstance(whole, dict):
        found = {key: _part(value, at) for key, value in whole.items()}
    return found  # type: ignore[no-any-return]
