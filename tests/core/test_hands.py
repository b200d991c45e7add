"""What a crew can do on a day, what orders leave of it, and the way between stops: by hand and by relations."""

import unittest
from dataclasses import replace
from datetime import date

import numpy as np

from june_shade.core.choosing.hands import OVER_MIN, CrewHas, DayTakes, on_day, open_min, together
from june_shade.core.choosing.ways import BETWEEN_MIN, INSIDE_MIN, Place, nearest_min, ways
from june_shade.core.limits import hours
from june_shade.core.limits.restriction import Exemption, Restriction, Watering, Window
from june_shade.core.water.load import runs_alone, visit_min

MONDAY = 0
CREW = CrewHas(people=3, hours=8.0, break_min=90.0, hoses=2, set_up_min=6.0, handling_min=1.0, working_days=(0, 1))


class Days(unittest.TestCase):
    def test_a_usual_day_is_its_hours_less_yard_and_breaks(self):
        found = on_day(CREW, MONDAY)
        self.assertEqual((found.minutes, found.at_once, found.set_up_min), (390.0, 2.0, 6.0))

    def test_a_hand_less_is_slower_and_a_short_day_shorter(self):
        less = on_day(CREW, MONDAY, DayTakes(people_less=1))
        self.assertAlmostEqual(less.handling_min, 1.5)
        self.assertEqual(less.minutes, 390.0)
        self.assertEqual(on_day(CREW, MONDAY, DayTakes(people_less=2)).at_once, 1.0)
        self.assertEqual(on_day(CREW, MONDAY, DayTakes(ends_min=12 * 60)).minutes, 390.0 - 120.0)
        self.assertEqual(on_day(CREW, MONDAY, DayTakes(starts_min=9 * 60)).minutes, 390.0 - 180.0)

    def test_nobody_works_on_a_day_off_without_hands_or_hours(self):
        off = on_day(CREW, 5), on_day(CREW, MONDAY, DayTakes(people_less=3))
        for found in (*off, on_day(replace(CREW, hours=0.0), MONDAY), on_day(CREW, MONDAY, DayTakes(ends_min=7 * 60))):
            self.assertEqual(found.minutes, 0.0)

    def test_hours_that_nobody_typed_are_no_limit(self):
        self.assertEqual(on_day(replace(CREW, hours=None), MONDAY).minutes, np.inf)

    def test_minutes_of_a_visit(self):
        self.assertEqual(float(visit_min(False, 30.0, 1.0, 2.0)), 16.0)
        self.assertEqual(float(visit_min(runs_alone("emitters", False), 300.0)), 2.0)
        self.assertTrue(runs_alone("soaker", True) and not runs_alone("soaker", False))


class Together(unittest.TestCase):
    """The day of several crews as one sum."""

    def test_a_crew_s_hours_count_once_however_many_sites_it_goes_to(self):
        found = together([("north", 40.0, 100.0), ("north", 50.0, 100.0), ("south", 30.0, 60.0)])
        self.assertEqual((found.minutes, found.has_min, found.over), (120.0, 160.0, False))

    def test_work_of_crews_without_a_limit_is_no_comparison(self):
        found = together([("north", 120.0, 100.0), ("free", 500.0, None)])
        self.assertEqual((found.minutes, found.has_min, found.over), (120.0, 100.0, True))
        free = together([("free", 500.0, None)])
        self.assertEqual((free.minutes, free.has_min, free.over), (500.0, None, False))
        self.assertEqual(together([]).minutes, 0.0)

    def test_a_rounded_minute_is_not_over(self):
        self.assertFalse(together([("north", 100.0 + OVER_MIN, 100.0)]).over)


class Hours(unittest.TestCase):
    asked = Watering(date(2026, 7, 15), None, 0.0, "hose", planted_on=date(2026, 4, 20))

    def test_an_evening_window_leaves_the_morning_of_a_shift(self):
        order = Restriction(windows=(Window(18 * 60, 10 * 60),))
        left = hours.open_hours((order,), self.asked)
        self.assertEqual(open_min(left, 360, 900), 240.0)
        self.assertEqual(open_min(left, 600, 900), 0.0)

    def test_several_orders_leave_what_all_of_them_leave(self):
        one, other = Restriction(windows=(Window(300, 600),)), Restriction(windows=(Window(480, 720),))
        self.assertEqual(open_min(hours.open_hours((one, other), self.asked), 0, 1440), 120.0)
        apart = hours.open_hours((one, Restriction(windows=(Window(660, 720),))), self.asked)
        self.assertEqual(open_min(apart, 0, 1440), 0.0)

    def test_who_is_exempt_has_the_whole_day_and_out_of_force_nothing_holds(self):
        order = Restriction(windows=(Window(300, 600),), weekdays=frozenset(), event_l=20.0)
        free = replace(order, exempt=(Exemption(frozenset({"windows", "weekdays"}), planted_within_days=365),))
        self.assertEqual(open_min(hours.open_hours((free,), self.asked), 0, 1440), 1440.0)
        self.assertEqual((hours.closed_by((order,), self.asked), hours.closed_by((free,), self.asked)), ([0], []))
        self.assertEqual(hours.most_l((order, replace(order, event_l=12.0)), self.asked), 12.0)
        past = replace(order, last=date(2026, 7, 14))
        self.assertEqual(hours.most_l((past,), self.asked), np.inf)

    def test_windows_that_lap_are_counted_once(self):
        self.assertEqual(open_min(np.array([[0.0, 100.0], [50.0, 150.0], [140.0, 160.0]]), 0.0, 1440.0), 160.0)
        self.assertEqual(open_min(np.empty((0, 2)), 0.0, 1440.0), 0.0)


class Ways(unittest.TestCase):
    def test_by_distance_typed_or_as_is_usual(self):
        # a degree of latitude is 111.19 km on a sphere of 6,371 km; roads 1.3 times, 30 km/h
        a, b = Place(40.0, -105.0, 0), Place(40.01, -105.0, 0)
        self.assertAlmostEqual(ways([a, b])[0, 1], 1.1119 * 1.3 * 2, delta=0.01)
        self.assertEqual(ways([Place(site=0), Place(site=0), Place(site=1)])[0].tolist(), [0, INSIDE_MIN, BETWEEN_MIN])
        self.assertEqual(ways([Place(site=0, typed_min=3.0), Place(site=0)])[0, 1], 3.0)

    def test_the_nearest_is_another_stop_or_the_yard(self):
        stops = [Place(site=0), Place(site=0), Place(site=1)]
        self.assertEqual(nearest_min(stops, Place()).tolist(), [INSIDE_MIN, INSIDE_MIN, BETWEEN_MIN])
        np.testing.assert_allclose(ways(stops), ways(stops).T)


if __name__ == "__main__":
    unittest.main()
