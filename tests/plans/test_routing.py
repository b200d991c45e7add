"""A day whose way is too long: its stops are raised by what the way takes, once, not over and over."""

import unittest
from types import SimpleNamespace

import numpy as np

from june_shade.core.choosing.offers import PLAN_DAYS, Hands, Limits
from june_shade.plans.choosing.groups import Stops
from june_shade.plans.choosing.routing import DayRoute, raised

HAS_MIN = 60.0


class Raised(unittest.TestCase):
    def setUp(self):
        usual, crew = np.full((2, PLAN_DAYS), 10.0), np.zeros((2, PLAN_DAYS), int)
        hands = Hands(np.full((1, PLAN_DAYS), HAS_MIN), np.ones((1, PLAN_DAYS)), np.ones((1, PLAN_DAYS)))
        self.stops = Stops((), (), usual, usual, crew)
        self.limits = Limits(hands, usual, crew)
        day = SimpleNamespace(minutes=HAS_MIN)
        self.given = SimpleNamespace(has=((day,) * PLAN_DAYS,))

    def too_long(self, way_min: float, day: int = 0) -> tuple[DayRoute, ...]:
        return (DayRoute(0, day, (0, 1), 90.0, (), way_min, 20.0),)

    def test_a_second_raise_starts_from_what_is_usual_again(self):
        once = raised(self.given, self.stops, self.limits, self.too_long(40.0))
        again = raised(self.given, self.stops, once, self.too_long(40.0))
        for found in (once, again):
            np.testing.assert_allclose(found.stop_minutes[:, 0], 20.0)
            np.testing.assert_allclose(found.stop_minutes[:, 1:], 10.0)

    def test_a_day_within_its_hours_is_left_and_a_later_one_is_not(self):
        self.assertIsNone(raised(self.given, self.stops, self.limits, self.too_long(20.0)))
        later = raised(self.given, self.stops, self.limits, self.too_long(40.0, day=9))
        np.testing.assert_allclose(later.stop_minutes[:, 9], 20.0)
        np.testing.assert_allclose(np.delete(later.stop_minutes, 9, axis=1), 10.0)


if __name__ == "__main__":
    unittest.main()
