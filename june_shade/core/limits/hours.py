"""What orders leave of a day for a tree: whether it may be watered then, in which minutes, with how many litres.

Several orders hold each by itself: a day is closed that one of them closes, hours are those that all of them leave.
"""

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from june_shade.core.limits.restriction import DAY_MIN, EVENT, METHODS, WEEKDAYS, WINDOWS, Restriction, Watering, rule
from june_shade.core.numbers import Numbers

ALL_DAY = np.array([[-np.inf, np.inf]])


def closed_by(orders: Sequence[Restriction], asked: Watering) -> list[int]:
    """Positions of orders that close a watering's day to it, or its way, whatever its hour and litres."""
    return [n for n, order in enumerate(orders) if {WEEKDAYS, METHODS} & set(rule(order, asked).broken)]


def open_hours(orders: Sequence[Restriction], asked: Watering) -> Numbers:
    """From and to minute of the day in which may be watered, array (windows, 2), one that is open since the evening
    before from below 0 on; without any order that says so all of it."""
    left = ALL_DAY
    for order in orders:
        if not order.in_force(asked.day) or order.windows is None or WINDOWS in rule(order, asked).exempted:
            continue
        own = [
            (one.start_min + shift, (one.end_min if one.end_min > one.start_min else one.end_min + DAY_MIN) + shift)
            for one in order.windows
            for shift in (0, -DAY_MIN)
        ]
        both = [(max(a, c), min(b, d)) for a, b in left for c, d in own]
        left = np.array([pair for pair in both if pair[0] < pair[1]]).reshape(-1, 2)
    return left


def most_l(orders: Sequence[Restriction], asked: Watering) -> float:
    """Litres that a watering may have at most [L], infinite without a limit."""
    limits = [
        order.event_l
        for order in orders
        if order.event_l is not None and EVENT in rule(order, replace(asked, litres=float("inf"))).broken
    ]
    return min(limits, default=float("inf"))
