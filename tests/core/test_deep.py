"""Trees on their own in the plan: their past stays as it was, they rest after water, and aren't forgotten for long."""

import unittest
from dataclasses import replace

import numpy as np

from june_shade.core.water import reach as landing
from june_shade.core.water.balance import grow
from june_shade.core.water.deep import LATEST_DAYS, REST_DAYS
from june_shade.core.water.ground import ground
from june_shade.core.water.reach import DEEP_ROOTS_M, Ball
from june_shade.core.water.trees import build
from june_shade.core.water.walk import Era
from june_shade.core.water.weather import Weather
from tests.core.test_planner import AHEAD, TODAY, grown_up, plan_of, series_of, usual
from tests.support import one, spec


def deep(**changed):
    """An established tree that is watered deep, alone in its arrays."""
    trees = build([spec(**{"ball_share": None, "basin_diameter_m": None} | changed)])
    of = lambda name: float(getattr(trees, name)[0])  # noqa: E731
    ball = Ball(of("ball_radius_m"), of("established_radius_m"), "balled", of("ball_taw_l"), 10.0)
    return trees, landing.stack([landing.of_deep(ball)])


def visits(plan) -> list[int]:
    """Positions of the planned visits, from today on."""
    return [int(day) - TODAY for day in np.flatnonzero(plan.visit_gross_l[:, 0] > 0)]


class HandedOverToday(unittest.TestCase):
    def test_its_roots_count_deeper_from_that_day_on_only(self):
        made = one(ball_share=None, basin_diameter_m=1.2)
        state = grown_up(made)
        was = plan_of(made, series_of(), state=state, watered={-9: 40.0})
        eras = (Era(0, made[1], usual(1)), Era(TODAY, deep()[1], usual(1)))
        now = plan_of(made, series_of(), state=state, watered={-9: 40.0}, eras=eras)
        np.testing.assert_array_equal(now.dryness[:TODAY], was.dryness[:TODAY])
        self.assertAlmostEqual(float(was.now_ground.root_depth_m[0]), 0.6)
        self.assertAlmostEqual(float(now.now_ground.root_depth_m[0]), DEEP_ROOTS_M)

    def test_soil_that_counts_and_then_no_more_makes_and_loses_no_water(self):
        made = one(ball_share=None, basin_diameter_m=1.2)
        trees, usual_reach = made
        deep_reach = replace(usual_reach, deep_m=np.full(1, DEEP_ROOTS_M))
        state = replace(grown_up(made), near_depletion_l=np.full(1, 30.0), outside_depletion_mm=np.full(1, 40.0))
        cold = Weather(5, 0, 0, 0)
        for now in (deep_reach, usual_reach):
            before = state
            state, g, joined = grow(trees, now, state, cold)
            held = [
                float(trees.soil_awc[0] * (s.near_volume_l + s.far_volume_l)[0]
                      - (s.near_depletion_l + s.far_depletion_l)[0])
                for s in (before, state)
            ]  # fmt: skip
            self.assertAlmostEqual(held[1] - held[0], float(joined[0]))
            for depletion, taw in ((state.near_depletion_l, g.near_taw_l), (state.far_depletion_l, g.far_taw_l)):
                self.assertTrue(-1e-9 <= float(depletion[0]) <= float(taw[0]) + 1e-9)
        again = ground(trees, usual_reach, state.root_radius_m)
        np.testing.assert_allclose(state.near_volume_l, again.near_volume_l)


class RestAndLatest(unittest.TestCase):
    thirsty = {"texture": "sand", "crown_diameter_m": 6.0}

    def test_it_rests_ten_days_after_each_water_however_hot(self):
        trees, deep_reach = deep(**self.thirsty)
        state = grown_up((trees, deep_reach))
        hot = series_of(eto=9.0, mean=30.0)
        shallow = replace(deep_reach, deep_m=None)
        often = visits(plan_of((trees, shallow), hot, state=state))
        seldom = visits(plan_of((trees, deep_reach), hot, state=state))
        self.assertGreater(len(often), 2, "the balance alone asks more often")
        self.assertTrue(all(gap >= REST_DAYS for gap in np.diff(seldom)), seldom)
        self.assertGreaterEqual(len(seldom), 1)

    def test_rest_counts_from_water_that_is_in_the_log_today_s_too(self):
        made = deep(**self.thirsty)
        hot, state = series_of(eto=9.0, mean=30.0), grown_up(made)
        for at in (-4, 0):
            plan = plan_of(made, hot, state=state, watered={at: 30.0}, poured_today=at == 0)
            self.assertGreaterEqual(visits(plan)[0], at + REST_DAYS)

    def test_after_four_weeks_half_way_is_enough_in_leaf(self):
        made = deep(texture="clay_loam")
        mild = series_of(eto=4.0)
        plan = plan_of(made, mild, state=grown_up(made))
        shallow = plan_of((made[0], replace(made[1], deep_m=None)), mild, state=grown_up(made))
        first = lambda plan: (visits(plan) or [AHEAD])[0]  # noqa: E731
        self.assertEqual(int(plan.visit[0]), int(plan.ready[0]), "nobody has watered it for as long as is known")
        self.assertGreater(first(shallow), first(plan), "the balance alone waits until it is due")
        ago = 16
        lately = plan_of(made, mild, state=grown_up(made), watered={-ago: 10.0})
        self.assertGreaterEqual(first(lately), min(LATEST_DAYS - ago, first(shallow)))


if __name__ == "__main__":
    unittest.main()
