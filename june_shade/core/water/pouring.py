"""How each tree is poured: what arrives, lines that serve many trees, boxes that water by wicks."""

from dataclasses import dataclass

import numpy as np

from june_shade.core.water.stores import Array, State


@dataclass(frozen=True, slots=True)
class Pouring:
    """How each tree is poured, arrays (trees,): share that arrives, leaching, litres a step.

    loss_l: water that only wets the mulch each time, at full depth [L]. line: number of the valve that a tree shares
    with others, -1 = none, with flow_l_per_h, what comes out at the tree. reservoir_l: what its wicked box holds, 0 =
    none. day_most_l: what can be poured at it in a day, inf = as much as is wanted. None of the last four: no such
    thing.
    """

    efficiency: Array
    leaching: Array
    step_l: Array
    loss_l: Array
    line: Array | None = None
    flow_l_per_h: Array | None = None
    reservoir_l: Array | None = None
    day_most_l: Array | None = None


class Boxes:
    """Wicked reservoir boxes: water poured stays in the box, from which the wick refills ball and ring."""

    def __init__(self, pouring: Pouring, level_l: Array | None, count: int) -> None:
        self._count = count
        self.level_l = np.zeros(count) if level_l is None else level_l
        self.change(pouring)

    def change(self, pouring: Pouring) -> None:
        """Trees that get a box or lose theirs; what stands in one that stays, stays."""
        self.holds_l = np.zeros(self._count) if pouring.reservoir_l is None else pouring.reservoir_l
        self.there = self.holds_l > 0
        self.any = bool(np.any(self.there))
        self.level_l = np.where(self.there, np.minimum(self.level_l, self.holds_l), 0.0)

    def draw(self, state: State, first: Array, second: Array) -> tuple[Array, Array, Array]:
        """A morning: what was poured fills the box, the wick draws. Net water (first, second), and what was drawn."""
        if not self.any:
            return first, second, np.zeros_like(first)
        stood = self.level_l + np.where(self.there, first + second, 0.0)
        over = np.maximum(0.0, stood - self.holds_l)
        wanted = np.maximum(0.0, state.ball_depletion_l) + np.maximum(0.0, state.near_depletion_l)
        drawn = np.where(self.there, np.minimum(np.minimum(stood, self.holds_l), wanted), 0.0)
        self.level_l = np.where(self.there, np.minimum(stood, self.holds_l) - drawn, 0.0)
        return np.where(self.there, drawn + over, first), np.where(self.there, 0.0, second), drawn

    def last_day(self, drawn: Array) -> Array:
        """Whether the box can't give tomorrow what it gave today.

        drawn: by its wick that day [L], array (trees,).
        """
        return self.there & (drawn > 0) & (self.level_l < drawn)

    def room_l(self) -> Array:
        """Net water that a refill leaves in the box [L]."""
        return np.where(self.there, self.holds_l - self.level_l, 0.0)

    def fill(self, filled: Array, wanted_l: Array) -> Array:
        """Fill the boxes of these trees; what their wicks draw at once [L].

        filled: which, array (trees,).
        """
        drawn = np.where(self.there & filled, np.minimum(self.holds_l, wanted_l), 0.0)
        self.level_l = np.where(self.there & filled, self.holds_l - drawn, self.level_l)
        return drawn


def along_lines(pouring: Pouring, visit: Array, gross: Array) -> tuple[Array, Array, Array]:
    """Everyone on a line gets water when one does, for as long as its neediest tree wants.

    Returns visit and gross litres with the lines laid in, and for each tree on a line the index of its neediest.
    """
    neediest = np.full(len(visit), -1)
    if pouring.line is None or pouring.flow_l_per_h is None:
        return visit, gross, neediest
    visit, gross = visit.copy(), gross.copy()
    for number in np.unique(pouring.line[(pouring.line >= 0) & visit]):
        on = np.flatnonzero(pouring.line == number)
        minutes = np.where(visit[on], 60.0 * gross[on] / pouring.flow_l_per_h[on], 0.0)
        most = int(np.argmax(minutes))
        gross[on] = np.ceil(minutes[most] - 1e-9) * pouring.flow_l_per_h[on] / 60.0
        visit[on] = True
        neediest[on] = on[most]
    return visit, gross, neediest


def line_ran(pouring: Pouring, had: Array) -> Array:
    """Whether a tree had water today, or its line ran: nobody opens a valve twice. had (trees,): who was logged."""
    if pouring.line is None or not np.any(had):
        return had
    lines = np.unique(pouring.line[had & (pouring.line >= 0)])
    return had | np.isin(pouring.line, lines)
