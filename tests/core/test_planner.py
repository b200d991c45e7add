"""The plan: due, ready, late, rain ahead, closed days, evening water; and relations that must hold."""

import unittest
from dataclasses import replace

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from june_shade.core.errors import NoWeatherError
from june_shade.core.water import planner
from june_shade.core.water.course import Course
from june_shade.core.water.ground import ground
from june_shade.core.water.planner import days_counted
from june_shade.core.water.pouring import Pouring
from june_shade.core.water.walk import Era, Opening, opening_state
from june_shade.core.weather.series import FORECAST, MEASURED, Series
from tests.support import full, of_specs, one, spec

BEFORE, AHEAD = 20, 14
TODAY = BEFORE


def series_of(*, eto=6.0, mean=24.0, rain=None, chance=None, workable=None, days=BEFORE + AHEAD) -> Series:
    """Plain days; rain and chance by position from today on."""
    wet, likely = np.zeros(days), np.zeros(days)
    for at, amount in (rain or {}).items():
        wet[TODAY + at], likely[TODAY + at] = amount, (chance or {}).get(at, 0.9)
    basis = np.array([MEASURED] * BEFORE + [FORECAST] * (days - BEFORE))
    share = np.where(basis == MEASURED, 1.0, np.where(likely >= 0.5, likely, 0.0))
    dates = np.datetime64("2026-06-25") + np.arange(days)
    open_days = np.ones(days, bool) if workable is None else workable
    return Series(
        dates, np.full(days, eto), np.full(days, mean), np.full(days, mean + 7), wet, share, likely, np.ones(days),
        basis, open_days, np.full(days, mean), np.full(days, mean),
    )  # fmt: skip


def usual(count: int, **changed) -> Pouring:
    """A hose into a basin that loses a little, by whole litres."""
    values = {"efficiency": np.full(count, 0.85), "leaching": np.zeros(count), "step_l": np.ones(count),
              "loss_l": np.zeros(count)}  # fmt: skip
    return Pouring(**(values | changed))


def plan_of(
    made, series, *, watered=None, evening=None, opening_at=0, state=None, poured_today=False, pouring=None,
    eras=None, opening=None, **options,
):  # fmt: skip
    """A plan of trees that opened full. made: trees and reach. watered, evening: litres by position from today."""
    trees, reach = made
    count, days = len(trees), len(series)
    first, second = np.zeros((days, count)), np.zeros((days, count))
    for at, litres in (watered or {}).items():
        first[TODAY + at] = litres
    for at, litres in (evening or {}).items():
        second[TODAY + at] = litres
    course = Course.of(
        series, np.ones((days, count)), np.zeros((days, count)), first, second, np.zeros(count, bool) | poured_today,
        TODAY,
    )  # fmt: skip
    opened = state or full(trees, reach)
    opening = opening or Opening(np.full(count, opening_at), opened, np.ones(count, bool), np.zeros(count))
    return planner.run(trees, opening, course, eras or (Era(0, reach, pouring or usual(count)),), **options)


def kept(trees, series, **options):
    """A plan of trees that were watered every day until yesterday."""
    return plan_of(
        trees, series, watered=dict.fromkeys(range(-BEFORE, 0), 60.0) | options.pop("watered", {}), **options
    )


def grown_up(made):
    """Established trees with all stores full."""
    trees, reach = made
    return full(trees, reach, trees.established_radius_m)


class DueAndReady(unittest.TestCase):
    def test_a_new_ball_is_due_within_days_and_ready_no_later(self):
        plan = kept(one(), series_of())
        self.assertTrue(TODAY <= plan.visit[0] <= TODAY + 2)
        self.assertTrue(TODAY <= plan.ready[0] <= plan.due[0])

    def test_it_is_late_for_every_day_it_was_due_and_dry(self):
        plan = plan_of(one(), series_of(), watered={-6: 60.0})
        self.assertEqual(plan.visit[0], TODAY)
        self.assertGreaterEqual(plan.late_days[0], 3)
        self.assertEqual(kept(one(), series_of()).late_days[0], 0)

    def test_water_puts_the_next_visit_off(self):
        dry = plan_of(one(), series_of(), watered={-6: 60.0})
        wet = plan_of(one(), series_of(), watered={-6: 60.0, 0: 60.0}, poured_today=True)
        self.assertEqual(dry.visit[0], TODAY)
        self.assertGreater(wet.visit[0], TODAY)
        self.assertLess(float(wet.now_dryness[0]), float(dry.now_dryness[0]))

    def test_a_tree_watered_today_is_not_sent_for_again_today(self):
        plan = plan_of(one(), series_of(), watered={-6: 60.0, 0: 0.5}, poured_today=True)
        self.assertGreater(plan.visit[0], TODAY)

    def test_a_tree_that_opens_today_has_a_plan_and_no_past(self):
        plan = plan_of(one(), series_of(), opening_at=TODAY)
        self.assertTrue(np.isnan(plan.dryness[:TODAY]).all())
        self.assertFalse(np.isnan(plan.dryness[TODAY:]).any())
        self.assertEqual(plan.late_days[0], 0)

    def test_what_is_poured_is_rounded_up_and_counts(self):
        plan = kept(one(), series_of())
        day = int(plan.visit[0])
        exact, net = float(plan.visit_gross_l[day, 0]), float(plan.visit_net_l[day, 0])
        self.assertAlmostEqual(net, np.ceil(exact) * 0.85)

    def test_the_series_must_reach_today(self):
        short = series_of(days=BEFORE)
        with self.assertRaises(NoWeatherError):
            plan_of(one(), short)


class RainAhead(unittest.TestCase):
    def test_forecast_rain_puts_off_what_is_established_but_never_a_ball_due_today_or_tomorrow(self):
        storm = {0: 40.0}
        young = plan_of(one(), series_of(rain=storm), watered={-6: 60.0})
        self.assertEqual(young.visit[0], TODAY)
        trees = one(basin_diameter_m=2.0)
        grown = grown_up(trees)
        dry, wet = (plan_of(trees, series_of(rain=r), state=grown) for r in ({}, storm))
        self.assertEqual(dry.visit[0], TODAY)
        self.assertNotEqual(wet.visit[0], TODAY)

    def test_an_unlikely_rain_is_not_counted(self):
        trees = one(basin_diameter_m=2.0)
        grown = grown_up(trees)
        plan = plan_of(trees, series_of(rain={0: 40.0}, chance={0: 0.4}), state=grown)
        self.assertEqual(plan.visit[0], TODAY)

    @settings(max_examples=30, deadline=None)
    @given(st.integers(0, 12), st.floats(5, 60), st.sampled_from(["2 in balled", "#15 container", "1 in bare root"]))
    def test_rain_never_brings_the_first_due_day_forward(self, day, amount, label):
        trees = one(label=label)
        dry = kept(trees, series_of())
        wet = kept(trees, series_of(rain={day: amount}))
        last = len(series_of())
        due = [int(p.due[0]) if p.due[0] >= 0 else last for p in (dry, wet)]
        self.assertGreaterEqual(due[1], due[0])


class Soils(unittest.TestCase):
    def test_sand_is_due_no_later_than_loam_for_an_established_root_zone(self):
        due = []
        for texture in ("sand", "sandy_loam", "loam"):
            trees = of_specs(*[spec(texture=texture)])
            grown = grown_up(trees)
            plan = plan_of(trees, series_of(), state=grown, opening_at=TODAY)
            due.append(int(plan.due[0]) if plan.due[0] >= 0 else 999)
        self.assertEqual(due, sorted(due))
        self.assertLess(due[0], due[-1])

    @settings(max_examples=25)
    @given(
        st.sampled_from(["2 in balled", "#15 container", "1 in bare root"]), st.floats(3.0, 9.0), st.floats(0.3, 1.0),
        st.floats(0.4, 0.9),
    )  # fmt: skip
    def test_sand_is_never_due_later_than_clay_once_roots_have_left_the_ball(self, label, eto, share, depth):
        due = []
        for texture in ("sand", "clay"):
            trees = of_specs(*[spec(label, texture=texture, ball_share=share, root_depth_max_m=depth)])
            grown = grown_up(trees)
            plan = plan_of(trees, series_of(eto=eto), state=grown, opening_at=TODAY)
            due.append(int(plan.due[0]) if plan.due[0] >= 0 else 999)
        self.assertLessEqual(due[0], due[1])


class ClosedDays(unittest.TestCase):
    def frozen(self, *closed):
        workable = np.ones(BEFORE + AHEAD, bool)
        workable[[TODAY + at for at in closed]] = False
        return series_of(workable=workable)

    def test_no_visit_falls_on_closed_ground(self):
        plan = plan_of(one(), self.frozen(0, 1, 2), watered={-6: 60.0})
        self.assertEqual(plan.visit[0], TODAY + 3)

    def test_a_ready_tree_is_watered_before_a_closed_spell_that_would_find_it_due(self):
        trees = one()
        open_plan = kept(trees, series_of(eto=1.0))
        due = int(open_plan.due[0]) - TODAY
        self.assertGreater(due, 0)
        closed = kept(trees, replace(self.frozen(*range(due, due + 3)), eto_mm=np.full(BEFORE + AHEAD, 1.0)))
        self.assertTrue(closed.ready[0] <= closed.visit[0] < TODAY + due)


class SlowGround(unittest.TestCase):
    """What needs over a working day is poured day by day; what is left stays in the plan."""

    def test_the_rest_is_asked_for_again_the_next_day(self):
        made = one()
        whole = plan_of(made, series_of(), watered={-10: 60.0})
        slow = plan_of(made, series_of(), watered={-10: 60.0}, pouring=usual(1, day_most_l=np.array([6.4])))
        self.assertEqual(slow.visit[0], TODAY)
        self.assertTrue(slow.findings.slow[0])
        self.assertFalse(whole.findings.slow[0])
        self.assertAlmostEqual(float(slow.visit_net_l[TODAY, 0]), 6.0 * 0.85)
        self.assertGreater(float(whole.visit_net_l[TODAY, 0]), 12.0)
        self.assertTrue(np.all(slow.visit_net_l[TODAY : TODAY + 3, 0] > 0), "day after day")


class TwoWaterings(unittest.TestCase):
    def test_evening_water_counts_with_the_next_morning_unless_it_is_the_second(self):
        self.assertEqual(days_counted(6 * 60, False), (0, False))
        self.assertEqual(days_counted(13 * 60 + 59, False), (0, False))
        self.assertEqual(days_counted(14 * 60, False), (1, False))
        self.assertEqual(days_counted(16 * 60, True), (0, True))

    def test_a_second_watering_keeps_a_thirsty_tree_drinking(self):
        trees = one(label="#15 container", crown_diameter_m=2.0)
        once = plan_of(trees, series_of(eto=10.0), watered={-1: 20.0})
        twice = plan_of(trees, series_of(eto=10.0), watered={-1: 10.0}, evening={-1: 10.0})
        self.assertGreater(float(twice.ks[TODAY - 1, 0]), float(once.ks[TODAY - 1, 0]))


class ManyTrees(unittest.TestCase):
    def test_a_plan_of_many_is_the_plan_of_each(self):
        specs = [
            spec("2 in balled"),
            spec("#15 container", "clay"),
            spec("1 in bare root", "sand"),
            spec(surround="turf"),
        ]
        together = kept(of_specs(*specs), series_of(rain={3: 12.0}))
        for i, single in enumerate(specs):
            alone = kept(of_specs(*[single]), series_of(rain={3: 12.0}))
            for name in ("visit", "due", "ready", "late_days"):
                self.assertEqual(getattr(together, name)[i], getattr(alone, name)[0], name)
            np.testing.assert_array_equal(together.dryness[:, i], alone.dryness[:, 0])

    def test_going_on_from_an_evening_gives_the_same_plan(self):
        trees, days = of_specs(*[spec(), spec("#15 container", "clay")]), series_of()
        watered = {-12: 30.0, -7: 60.0, -3: 20.0}
        whole = plan_of(trees, days, watered=watered, checkpoint_days=frozenset({TODAY - 5}))
        point = whole.checkpoints[TODAY - 5]
        count = 2
        opening = Opening(np.full(count, TODAY - 4), point.state, np.zeros(count, bool), point.late_days)
        again = plan_of(trees, days, watered=watered, opening=opening)
        np.testing.assert_array_equal(again.dryness[TODAY:], whole.dryness[TODAY:])
        np.testing.assert_array_equal(again.visit_gross_l[TODAY:], whole.visit_gross_l[TODAY:])
        np.testing.assert_array_equal(again.late_days, whole.late_days)


class Openings(unittest.TestCase):
    def test_what_was_felt_holds_for_ring_and_surroundings(self):
        trees, reach = of_specs(spec(ball_share=None, basin_diameter_m=0.7), spec())
        radius = trees.ball_radius_m + np.array([0.5, 0.0])
        state = opening_state(
            trees, reach, radius, np.array([0.75, 0.75]), np.array([0.5, 0.5]), np.array([True, False])
        )
        g = ground(trees, reach, radius)
        np.testing.assert_allclose(state.ball_depletion_l / trees.ball_taw_l, [0.25, 0.25])
        np.testing.assert_allclose(state.near_depletion_l / g.near_taw_l, [0.5, 0.5])
        self.assertGreater(float(g.far_taw_l[0]), 0)
        self.assertAlmostEqual(float(state.far_depletion_l[0] / g.far_taw_l[0]), 0.5)
        np.testing.assert_allclose(state.outside_depletion_mm / trees.outside_taw_mm, [0.5, 0.0])

    def test_a_guess_stands_at_half_the_limit(self):
        trees, _ = of_specs(spec(dryness_limit=0.5), spec(dryness_limit=0.8))
        np.testing.assert_allclose(planner.guessed_wetness(trees), [0.75, 0.6])


class FromADayOn(unittest.TestCase):
    """How a tree is watered holds from a day on: yesterday's litres stay where they landed."""

    def eras(self, since, **later):
        trees, reach = one(ball_share=0.6)
        _, other = one(**later)
        return (trees, reach), (Era(0, reach, usual(1)), Era(since, other, usual(1)))

    def test_a_change_today_moves_nothing_of_yesterday(self):
        made, eras = self.eras(TODAY, ball_share=0.05)
        was = plan_of(made, series_of(), watered={-4: 30.0, -2: 30.0})
        now = plan_of(made, series_of(), watered={-4: 30.0, -2: 30.0}, eras=eras)
        for name in ("ball_depletion_l", "near_depletion_l", "far_depletion_l", "dryness"):
            np.testing.assert_array_equal(getattr(now, name)[:TODAY], getattr(was, name)[:TODAY], name)
        self.assertAlmostEqual(float(now.now_dryness[0]), float(was.now_dryness[0]))

    def test_water_poured_since_lands_the_new_way(self):
        made, eras = self.eras(TODAY - 3, ball_share=0.05)
        was = plan_of(made, series_of(), watered={-2: 30.0})
        now = plan_of(made, series_of(), watered={-2: 30.0}, eras=eras)
        np.testing.assert_array_equal(now.ball_depletion_l[: TODAY - 3], was.ball_depletion_l[: TODAY - 3])
        self.assertGreater(float(now.ball_depletion_l[TODAY - 2, 0]), float(was.ball_depletion_l[TODAY - 2, 0]))

    def test_a_wider_basin_takes_soil_and_its_water_from_the_far_ring(self):
        made = one(ball_share=None, basin_diameter_m=0.7)
        _, wide = one(ball_share=None, basin_diameter_m=1.6)
        eras = (Era(0, made[1], usual(1)), Era(TODAY - 1, wide, usual(1)))
        state = grown_up(made)
        plan = plan_of(made, series_of(eto=5.0), state=state, eras=eras)
        stood = [
            float(plan.near_depletion_l[at, 0] + plan.far_depletion_l[at, 0] + plan.ball_depletion_l[at, 0])
            for at in (TODAY - 2, TODAY - 1)
        ]
        self.assertLess(abs(stood[1] - stood[0]), 12.0, "a day's use, no water out of nothing")
        self.assertGreater(float(plan.near_depletion_l[TODAY - 1, 0]), float(plan.near_depletion_l[TODAY - 2, 0]))


if __name__ == "__main__":
    unittest.main()
