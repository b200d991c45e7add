"""Trees that stand on their own: watered deep, no sooner again than after ten days, at the latest after four weeks.

They are poured when the balance asks. In between they rest, so that roots go down after the water.
"""

import numpy as np

from june_shade.core.numbers import Numbers
from june_shade.core.water.balance import FULL_LEAF
from june_shade.core.water.course import Course
from june_shade.core.water.stores import Array, Reach

REST_DAYS = 10
"""They are watered no sooner again (common practice)."""
LATEST_DAYS = 28
"""In leaf they are watered after so long where they are half way to being due (common practice)."""


class Rests:
    """When trees on their own were watered last, and whether they rest on a coming day.

    there: which trees stand on their own, array (trees,).
    """

    def __init__(self, reach: Reach, course: Course) -> None:
        self.there = reach.on_their_own
        self.any = bool(np.any(self.there))
        self._last = course.last_water

    def asks(self, day: int, due: Array, ready: Array, leaf: Numbers) -> tuple[Array, Array]:
        """Who is due and who is ready on a day, arrays (trees,), once rest and the longest gap are kept.

        day: its position; leaf: leaves of that day, 0..1.
        """
        if not self.any:
            return due, ready
        since = day - self._last
        resting = self.there & (since < REST_DAYS)
        overdue = self.there & (since >= LATEST_DAYS) & ready & (leaf > FULL_LEAF)
        return (due | overdue) & ~resting, ready & ~resting

    def note(self, day: int, watered: Array) -> None:
        """A day is over.

        watered: who had water, array (trees,).
        """
        if self.any:
            self._last = np.where(watered, day, self._last)
