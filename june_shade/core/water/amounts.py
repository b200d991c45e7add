"""What a day's visits pour: rounded to what can be poured, lines as long as their neediest, boxes filled."""

from dataclasses import dataclass

import numpy as np

from june_shade.core.water import delivery
from june_shade.core.water.course import Course
from june_shade.core.water.pouring import along_lines, line_ran
from june_shade.core.water.stores import Array
from june_shade.core.water.walk import Morning, Walk


@dataclass(frozen=True, slots=True)
class Poured:
    """What a day's visits pour: litres at the tap and net litres, and for whom a line runs, arrays (trees,).

    exact_l: before rounding to what can be poured. own_l: what each tree itself wants. slow: only part of it, since the
    ground takes no more in a day.
    """

    visit: Array
    gross_l: Array
    net_l: Array
    exact_l: Array
    own_l: Array
    neediest: Array
    slow: Array


def gross_l(walk: Walk, morning: Morning, wanted_net_l: Array) -> Array:
    """What has to be poured for this net water [L], before rounding, array (trees,).

    wanted_net_l: as it should reach soil [L], array (trees,).
    """
    pouring = walk.pouring
    loss = pouring.loss_l * morning.weather.mulch_depth_share
    return delivery.gross_l(wanted_net_l, pouring.efficiency, loss, pouring.leaching)


def pour(
    walk: Walk, course: Course, morning: Morning, refill_net_l: Array, visit: Array, asked_l: Array
) -> Poured:  # fmt: skip
    """What each visit of a day pours.

    refill_net_l: what refills each tree [L]; visit: which trees are visited; asked_l: what the routines ask that trees
    follow [L], NaN for the balance's; arrays (trees,). A plan under limits may have a share of it poured only.
    """
    pouring, boxes = walk.pouring, walk.boxes
    loss = pouring.loss_l * course.mulch_depth_share[morning.day]
    refilled = gross_l(walk, morning, np.where(boxes.there, boxes.room_l(), refill_net_l))
    share = course.chosen[morning.day]
    chosen = share > 0
    by_school = ~np.isnan(asked_l) & ~(chosen & (asked_l <= 0))
    exact = np.where(by_school, asked_l, refilled) * np.where(chosen, share, 1.0)
    rounded = np.ceil(exact / pouring.step_l - 1e-9) * pouring.step_l
    slow = np.zeros(len(visit), bool)
    if pouring.day_most_l is not None:  # the rest stays in the plan: the next day asks for it again
        slow = exact > pouring.day_most_l
        least = np.maximum(np.floor(pouring.day_most_l / pouring.step_l + 1e-9), 1.0) * pouring.step_l
        rounded = np.where(slow, np.minimum(rounded, least), rounded)
    had = line_ran(pouring, course.poured_today & (morning.day == course.today))
    asked = visit & ~had
    own = np.where(visit | (refill_net_l > 0), exact, 0.0)
    gross = np.where(asked, np.maximum(rounded, pouring.step_l), 0.0)
    runs, gross, neediest = along_lines(pouring, asked, gross)
    runs, gross = runs & morning.active, np.where(morning.active, gross, 0.0)
    net = np.where(runs, delivery.net_l(gross * (1.0 - pouring.leaching), pouring.efficiency, loss), 0.0)
    net = np.where(boxes.there, boxes.fill(runs, refill_net_l), net)
    return Poured(runs, gross, net, np.where(neediest >= 0, gross, exact), own, neediest, slow & runs)
