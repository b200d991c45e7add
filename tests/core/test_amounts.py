"""What a visit pours: what arrives is no less than what was wanted, in whole steps, along lines, on slow ground."""

import unittest
from dataclasses import replace

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from june_shade.core.water.amounts import pour
from june_shade.core.water.course import Course
from june_shade.core.water.walk import Era, Opening, Walk
from tests.core.test_planner import TODAY, series_of, usual
from tests.support import full, of_specs, spec

litres = st.floats(0.1, 200.0)


def poured(wanted, *, visit=None, pouring=None, share=None, asked=None, today=None, mulch=0.0):
    """What is poured this morning at so many trees that want these net litres."""
    wanted = np.asarray(wanted, float)
    count = len(wanted)
    (trees, reach), series = of_specs(*[spec()] * count), series_of()
    zero = np.zeros((len(series), count))
    had = np.zeros(count, bool) if today is None else np.asarray(today)
    course = Course.of(series, zero + 1.0, zero + mulch, zero, zero, had, TODAY)
    if share is not None:
        chosen = course.chosen.copy()
        chosen[TODAY] = share
        course = replace(course, chosen=chosen)
    opening = Opening(np.full(count, TODAY), full(trees, reach), np.ones(count, bool), np.zeros(count))
    walk = Walk(trees, course, opening, (Era(0, reach, pouring or usual(count)),))
    visits = np.ones(count, bool) if visit is None else np.asarray(visit)
    school = np.full(count, np.nan) if asked is None else np.asarray(asked, float)
    return pour(walk, course, walk.morning(TODAY), wanted, visits, school)


class Steps(unittest.TestCase):
    @given(litres, st.floats(0.3, 1.0), st.floats(0.0, 0.3), st.floats(0.5, 10.0))
    def test_no_less_arrives_than_was_wanted_and_at_most_a_step_is_too_much(self, wanted, efficiency, leaching, step):
        way = usual(
            1, efficiency=np.array([efficiency]), leaching=np.array([leaching]), step_l=np.array([step]),
        )  # fmt: skip
        found = poured([wanted], pouring=way)
        self.assertGreaterEqual(found.net_l[0], wanted - 1e-6)
        self.assertLess(found.net_l[0], wanted + step * efficiency + 1e-6)
        steps = found.gross_l[0] / step
        self.assertAlmostEqual(steps, round(steps), places=6)

    def test_mulch_is_wetted_each_time_as_deep_as_it_lies(self):
        way = usual(1, loss_l=np.array([4.0]))
        exact = [float(poured([20.0], pouring=way, mulch=depth).exact_l[0]) for depth in (0.0, 0.5, 1.0)]
        np.testing.assert_allclose(exact, [20.0 / 0.85, 22.0 / 0.85, 24.0 / 0.85])

    def test_who_is_not_visited_gets_none_and_a_visit_pours_a_step_at_least(self):
        found = poured([30.0, 30.0, 0.0], visit=[True, False, True])
        self.assertEqual(found.gross_l.tolist(), [36.0, 0.0, 1.0])
        self.assertEqual(found.visit.tolist(), [True, False, True])
        self.assertAlmostEqual(found.own_l[1], 30.0 / 0.85, msg="what it would want is told all the same")

    def test_a_tree_that_had_water_today_is_not_watered_again(self):
        found = poured([30.0, 30.0], today=[True, False])
        self.assertEqual(found.gross_l.tolist(), [0.0, 36.0])


class Chosen(unittest.TestCase):
    def test_a_share_of_the_refill_is_that_share_of_the_litres(self):
        whole, half = (float(poured([40.0], share=[share]).exact_l[0]) for share in (1.0, 0.5))
        self.assertAlmostEqual(half, whole / 2)

    def test_a_routine_s_litres_stand_in_place_of_the_refill(self):
        found = poured([40.0, 40.0], asked=[12.5, np.nan])
        self.assertEqual(found.gross_l.tolist(), [13.0, 48.0])

    def test_a_plan_s_visit_where_the_routine_pours_nothing_is_a_refill(self):
        found = poured([40.0, 40.0], asked=[0.0, 0.0], share=[1.0, np.nan])
        self.assertEqual(found.gross_l[0], 48.0)
        self.assertEqual(found.exact_l[1], 0.0)


class SlowGround(unittest.TestCase):
    def test_no_more_is_poured_than_goes_in_by_whole_steps_and_that_is_said(self):
        way = usual(3, day_most_l=np.array([25.5, 60.0, 0.4]))
        found = poured([40.0, 40.0, 40.0], pouring=way)
        self.assertEqual(found.gross_l.tolist(), [25.0, 48.0, 1.0], "a step goes in anywhere")
        self.assertEqual(found.slow.tolist(), [True, False, True])


class Lines(unittest.TestCase):
    def line(self, wanted, **more):
        way = usual(3, line=np.array([0, 0, -1]), flow_l_per_h=np.array([60.0, 30.0, 20.0]))
        return poured(wanted, pouring=way, **more)

    @given(st.lists(litres, min_size=3, max_size=3))
    def test_it_runs_as_long_as_its_neediest_wants_and_no_longer_than_a_minute_more(self, wanted):
        found = self.line(wanted)
        minutes = 60.0 * found.gross_l[:2] / np.array([60.0, 30.0])
        self.assertAlmostEqual(minutes[0], minutes[1])
        wants = 60.0 * np.ceil(np.array(wanted[:2]) / 0.85 - 1e-9) / np.array([60.0, 30.0])
        self.assertGreaterEqual(minutes[0], wants.max() - 1e-6)
        self.assertLess(minutes[0], wants.max() + 1.0 + 1e-6)
        self.assertEqual(found.neediest.tolist(), [int(np.argmax(wants))] * 2 + [-1])

    def test_who_is_on_it_gets_water_when_another_does_and_who_is_not_does_not(self):
        found = self.line([20.0, 20.0, 20.0], visit=[True, False, False])
        self.assertEqual(found.visit.tolist(), [True, True, False])
        self.assertEqual(found.gross_l.tolist(), [24.0, 12.0, 0.0])

    def test_nobody_opens_a_valve_twice_a_day(self):
        found = self.line([20.0, 20.0, 20.0], today=[True, False, False])
        self.assertEqual(found.gross_l.tolist(), [0.0, 0.0, 24.0])


class WickedBoxes(unittest.TestCase):
    def test_a_box_is_filled_whatever_its_tree_wants_and_its_wick_gives_what_it_wants(self):
        way = usual(2, efficiency=np.ones(2), reservoir_l=np.array([60.0, 0.0]))
        found = poured([15.0, 15.0], pouring=way)
        self.assertEqual(found.gross_l.tolist(), [60.0, 15.0])
        self.assertEqual(found.net_l.tolist(), [15.0, 15.0])


if __name__ == "__main__":
    unittest.main()
