"""Trees that follow a school's routine instead of the balance: what it wants of each day, and which visits it is owed.

The balance goes on underneath: it says what becomes of the tree, and where it would water otherwise.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from june_shade.core.water import schools
from june_shade.core.water.schools import Look, Routine, Sky
from june_shade.core.water.stores import Array, State, Trees, some
from june_shade.core.water.walk import Morning, Opening
from june_shade.core.weather.series import Series


@dataclass(frozen=True, slots=True)
class Followed:
    """A routine that some trees follow: since which day, its position in the course (it may lie before it); the sky
    from then on; positions of the trees."""

    routine: Routine
    since: int
    above: Sky
    trees: Array


def sky_since(known: Series, day: int, leaf: Array) -> Sky:
    """What a school that is taken up on a day goes by: all days known, rain that may fall by its chance.

    day: its position in the series; leaf: leaves of the tree from then on, array (days,).
    """
    out = np.flatnonzero(leaf > schools.IN_LEAF)
    return Sky(known.tmean_c, known.rain_mm * known.rain_share, int(out[0]) if len(out) else None, before=day)


class Schools:
    """What the routines that trees follow want, day by day.

    owed_days: for how many days, up to yesterday, a visit has been owed that nobody made, array (trees,).
    """

    def __init__(self, followed: Sequence[Followed], opening: Opening) -> None:
        self._followed = tuple(followed)
        self.there, self.owed_days = (np.zeros(len(opening.index), kind) for kind in (bool, int))
        self.any = bool(self._followed)
        for one in followed:
            self.there[one.trees] = True
            took_up_before = opening.index[one.trees] > one.since
            self.owed_days[one.trees] = np.where(took_up_before, opening.late_days[one.trees], 0)

    def past(self, trees: Trees, morning: Morning, poured_l: Array) -> None:
        """A past day as it was logged. poured_l: water that was laid in that day [L], array (trees,)."""
        if self.any:
            asked = self._own_l(trees, morning, morning.state, np.ones(len(trees)))
            self._close(morning.day, asked, poured_l > 0)

    def asks_l(self, trees: Trees, morning: Morning, wetted: State, refill_l: Array) -> Array:
        """What the routines pour this day, a visit that is still owed among it [L]; NaN for trees that follow none.

        wetted: the morning's state with logged water laid in; refill_l: what would refill each tree, as poured.
        """
        asked = self._own_l(trees, morning, wetted, refill_l)
        for one, look in self._looks(trees, morning, wetted, refill_l):
            if one.routine.name in schools.ON_A_DAY:
                own = asked[one.trees]
                late = (own <= 0) & (self.owed_days[one.trees] > 0)
                asked[one.trees] = np.where(late, schools.amount_l(one.routine, look), own)
        return np.where(self.there, asked, np.nan)

    def close(self, day: int, asked_l: Array, watered: Array) -> None:
        """A coming day is over. asked_l: what was asked of it; watered: which trees had water, arrays (trees,)."""
        if self.any:
            self._close(day, np.nan_to_num(asked_l), watered)

    def _own_l(self, trees: Trees, morning: Morning, state: State, refill_l: Array) -> Array:
        asked = np.zeros(len(trees))
        for one, look in self._looks(trees, morning, state, refill_l):
            asked[one.trees] = schools.poured_l(one.routine, look)
        return asked

    def _looks(self, trees: Trees, morning: Morning, state: State, refill_l: Array) -> list[tuple[Followed, Look]]:
        found = []
        for one in self._followed:
            if morning.day >= one.since:
                at, month_c = one.trees, np.ravel(morning.weather.month_c)
                found.append((one, Look(
                    morning.day - one.since, float(month_c[at[0]] if len(month_c) > 1 else month_c[0]), one.above,
                    some(trees, at), some(morning.ground, at), some(state, at), refill_l[at],
                )))  # fmt: skip
        return found

    def _close(self, day: int, asked_l: Array, watered: Array) -> None:
        for one in self._followed:
            at, before = one.trees, self.owed_days[one.trees]
            if day < one.since or one.routine.name not in schools.ON_A_DAY:
                self.owed_days[at] = 0
                continue
            owed = np.where(before > 0, before + 1, np.where(asked_l[at] > 0, 1, 0))
            self.owed_days[at] = np.where(watered[at], 0, owed)
