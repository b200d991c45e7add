"""A day whose way is too long: its stops are raised by what the way takes, once, not over and over."""

import unittest
from types import SimpleNamespace

import numpy as np

from june_shade.core.choosing.offers import PLAN_DAYS, Hands, Limits
from june_shade.plans.choosing.routing import DayRoute, raised
from june_shade.plans.choosing.stops import Stops

HAS_MIN = 60.0


class Raised(unittest.TestCase):
    def setUp(self):
        usual, crew = np.full((2, PLAN_DAYS), 10.0), np.zeros((2, PLAN_DAYS), int)
        hands = Hands(np.full((1, PLAN_DAYS), HAS_MIN), np.ones((1, PLAN_DAYS)), np.ones((1, PLAN_DAYS)))
        self.stops = Stops((), (), usual, usual, crew, {}, {})
        self.limits = Limits(hands, usual, crew)
        day = SimpleNamespace(minutes=HAS_MIN)
        self.given = SimpleNamespace(has=((day,) * PLAN_DAYS,))

    def too_long(self, way_min: float) -> tuple[DayRoute, ...]:
        return (DayRoute(0, 0, (0, 1), 90.0, (), way_min, 20.0),)

    def test_a_second_raise_starts_from_what_is_usual_again(self):
        once = raised(self.given, self.stops, self.limits, self.too_long(40.0), 2)
        again = raised(self.given, self.stops, once, self.too_long(40.0), 2)
        for found in (once, again):
            np.testing.assert_allclose(found.stop_minutes[:, 0], 20.0)
            np.testing.assert_allclose(found.stop_minutes[:, 1:], 10.0)

    def test_days_within_their_hours_and_later_ones_are_left(self):
        self.assertIsNone(raised(self.given, self.stops, self.limits, self.too_long(20.0), 2))
        self.assertIsNone(raised(self.given, self.stops, self.limits, self.too_long(40.0), 0))


if __name__ == "__main__":
    unittest.main()
