"""The plan of a fortnight: what must hold whatever the trees are: hours, orders, pins, promises, bounds."""

import time
import unittest
from dataclasses import replace

import numpy as np

from june_shade.core.choosing import fortnight, offered, offers, outcomes, paths
from june_shade.core.choosing.offers import PLAN_DAYS, Group, Hands, Limits
from june_shade.core.choosing.outcomes import crew_minutes
from june_shade.core.choosing.patterns import keeps, nothing, thriftier
from tests.core.test_planner import TODAY, kept, series_of
from tests.core.test_rounds import made_up
from tests.core.test_visits import standing
from tests.support import of_specs, spec

SIZES = ("2 in balled", "#5 container", "1.75 in balled", "#15 container", "2.5 in balled", "#10 container")


def group(trees: int = 4, **changed) -> Group:
    """Newly planted trees in dry July weather, each its own unit, all with one crew."""
    made, series = of_specs(*(spec(SIZES[n % len(SIZES)]) for n in range(trees))), series_of(eto=7.0)
    plan = kept(made, series)
    wanted = np.nan_to_num(plan.visit_gross_l[TODAY:]) > 0
    on = np.ones((PLAN_DAYS, trees))
    values = {
        "standing": standing(made, plan, series, tail=7), "units": tuple(np.array([n]) for n in range(trees)),
        "crew": np.zeros((PLAN_DAYS, trees), int), "weight": np.full(trees, 2.0), "flow_l_per_h": np.full(trees, 240.0),
        "alone": np.zeros(trees, bool), "shared_by": np.ones(trees), "wanted": wanted, "allowed": on > 0,
        "pinned": on < 0, "most_l": np.full((PLAN_DAYS, trees), np.inf), "step_l": np.zeros(trees),
    }  # fmt: skip
    return Group(**(values | changed))


def chosen(of: Group, minutes=90.0, stops: int = 2, promised=None, seconds: float = 4.0, slack: float = 0.0, **limits):
    """A plan for one crew with so many minutes a day, half of the trees at each stop."""
    hands = Hands(np.full((1, PLAN_DAYS), minutes), np.ones((1, PLAN_DAYS)), np.ones((1, PLAN_DAYS)))
    at = np.arange(len(of.weight)) % stops
    both = Limits(hands, np.full((stops, PLAN_DAYS), 12.0), np.zeros((stops, PLAN_DAYS), int), **limits)
    said = [np.zeros(of.wanted.shape, bool) if promised is None else promised]
    return fortnight.plan([of], [at], both, said, seconds=seconds, slack=slack, gap=0.0, clock=time.monotonic)


def cost(found) -> tuple[float, float]:
    """Weighted deaths, then weighted harm."""
    return found.choice.plan.deaths, found.choice.least_harm


class Hours(unittest.TestCase):
    def test_with_hours_enough_the_plain_plan_is_taken_and_costs_nothing(self):
        of = group()
        found = chosen(of, 1e6)
        np.testing.assert_array_equal(found.groups[0].share > 0, of.wanted)
        self.assertEqual(cost(found), (0.0, 0.0))
        self.assertTrue(found.choice.optimal)

    def test_more_hours_never_cost_more_and_no_plan_beats_its_bound(self):
        of, last = group(), None
        for minutes in (0.0, 30.0, 60.0, 120.0):
            found = chosen(of, minutes)
            self.assertLessEqual(found.choice.bound, found.choice.least_harm + 1e-9)
            self.assertTrue(np.all(found.crew_minutes <= minutes + 1e-6))
            if last is not None:
                self.assertLessEqual(cost(found), (last[0] + 1e-6, np.inf))
                if abs(cost(found)[0] - last[0]) < 1e-6:
                    self.assertLessEqual(cost(found)[1], last[1] + 1e-6)
            last = cost(found)

    def test_no_hours_are_a_plan_without_visits_that_says_what_it_means(self):
        found = chosen(group(), 0.0)
        self.assertEqual(found.groups[0].share.sum(), 0.0)
        np.testing.assert_array_equal(found.groups[0].outcome.harm, found.groups[0].none.harm)
        self.assertGreater(found.groups[0].outcome.harm.max(), 3.0)

    def test_minutes_told_are_those_of_the_visits_and_the_stops(self):
        of = group()
        found = chosen(of, 90.0)
        again = crew_minutes(
            np.zeros((2, PLAN_DAYS), int), np.full((2, PLAN_DAYS), 12.0), np.arange(4) % 2, found.groups[0].minutes, 1
        )
        np.testing.assert_allclose(again, found.crew_minutes, atol=1e-6)


class Orders(unittest.TestCase):
    def test_a_closed_day_has_no_visit_and_a_stricter_order_never_costs_less(self):
        open_days, few = np.ones((PLAN_DAYS, 4), bool), np.zeros((PLAN_DAYS, 4), bool)
        few[[1, 4, 8, 11]] = True
        fewer = few.copy()
        fewer[4] = False
        plans = [chosen(group(allowed=days), 200.0) for days in (open_days, few, fewer)]
        for days, found in zip((open_days, few, fewer), plans, strict=True):
            self.assertFalse(np.any((found.groups[0].share > 0) & ~days))
        costs = [cost(found) for found in plans]
        self.assertEqual(costs, sorted(costs))

    def test_litres_of_a_week_and_of_a_watering_are_kept(self):
        week = ((tuple(range(7)), 150.0, (tuple(range(4)),)), (tuple(range(7, 14)), 90.0, (tuple(range(4)),)))
        found = chosen(group(), 1e6, periods=week)
        litres = found.groups[0].walked.litres[:PLAN_DAYS].sum(axis=1)
        self.assertLessEqual(litres[:7].sum(), 150.0 + 1e-6)
        self.assertLessEqual(litres[7:].sum(), 90.0 + 1e-6)
        capped = chosen(group(most_l=np.full((PLAN_DAYS, 4), 9.0)), 1e6)
        self.assertLessEqual(capped.groups[0].walked.litres.max(), 9.0 + 1e-6)
        self.assertGreater(capped.groups[0].walked.litres.max(), 0.0)

    def test_what_is_poured_in_steps_of_the_hand_stays_within_an_order(self):
        """Half a gallon or a bucket at a time, rounded up: the sum of what is poured is what the order counts."""
        week, step_l = ((tuple(range(14)), 190.0, (tuple(range(4)),)),), np.array([1.892705892, 1.892705892, 10.0, 0.0])
        litres = chosen(group(step_l=step_l), 1e6, periods=week).groups[0].walked.litres[:PLAN_DAYS]
        poured = np.concatenate([np.ceil(litres[:, :3] / step_l[:3] - 1e-9) * step_l[:3], litres[:, 3:]], axis=1)
        self.assertLessEqual(poured.sum(), 190.0 + 1e-6)
        self.assertGreater(poured.sum(), litres.sum())

    def test_hours_that_are_closed_to_some_hold_them_only(self):
        closing = tuple((day, 25.0, 0, (0, 2)) for day in range(PLAN_DAYS))
        found = chosen(group(), 1e6, closings=closing)
        minutes = found.groups[0].minutes
        own = minutes[:, [0, 2]].sum(axis=1)
        opened = 12.0 * (own > 0)
        self.assertTrue(np.all(own + opened <= 25.0 + 1e-6))
        np.testing.assert_allclose(found.groups[0].outcome.harm[[1, 3]], 0.0, atol=1e-6)


class People(unittest.TestCase):
    def test_a_pinned_visit_stays_whatever_the_hours(self):
        pinned = np.zeros((PLAN_DAYS, 4), bool)
        pinned[3, 1] = pinned[5, 2] = True
        for minutes in (30.0, 60.0):
            found = chosen(group(pinned=pinned), minutes)
            self.assertTrue(np.all(found.groups[0].share[pinned] > 0))
            self.assertEqual(found.pins_missed, 0)

    def test_pins_that_can_not_be_kept_are_told_and_a_plan_is_there_all_the_same(self):
        pinned, allowed = np.zeros((PLAN_DAYS, 4), bool), np.ones((PLAN_DAYS, 4), bool)
        pinned[3] = True
        found = chosen(group(pinned=pinned), 30.0)
        self.assertGreater(found.pins_missed, 0)
        self.assertTrue(np.all(found.crew_minutes <= 30.0 + 1e-6))
        allowed[3] = False
        self.assertEqual(chosen(group(pinned=pinned, allowed=allowed), 200.0).pins_missed, 4)

    def test_what_was_promised_is_moved_only_where_that_saves_more_than_it_costs(self):
        of, promised = group(), np.zeros((PLAN_DAYS, 4), bool)
        promised[1, :2] = True
        free, bound = chosen(of, 60.0), chosen(of, 60.0, promised=promised)

        def whole(found) -> float:
            share = found.groups[0].share
            harm = float(np.sum(of.weight * found.groups[0].outcome.harm))
            return harm + offered.PROMISE_HARM * int(np.sum(promised & (share <= 0)))

        if bound.choice.plan.deaths <= free.choice.plan.deaths + 1e-6:
            self.assertLessEqual(whole(bound), whole(free) + 1e-3)

    def test_a_move_is_reckoned_as_the_plan_is(self):
        of = group()
        days = [2, 7]
        (tried,) = outcomes.moved(of, Hands(*(np.ones((1, PLAN_DAYS)) for _ in range(3))), 3, [days])
        share = np.zeros(of.wanted.shape)
        share[days, 3] = 1.0
        whole = outcomes.of_visits(of, offers.plain(of), Hands(*(np.ones((1, PLAN_DAYS)) for _ in range(3))), share)
        np.testing.assert_allclose(tried.walked.dryness[:, 0], whole.walked.dryness[:, 3], atol=1e-12)
        self.assertAlmostEqual(tried.outcome.harm[0], whole.outcome.harm[3], places=9)
        self.assertAlmostEqual(tried.minutes.sum(), whole.minutes[:, 3].sum(), places=9)

    def test_waiting_costs_what_going_today_would_save(self):
        of = group()
        wanted = of.wanted.copy()
        wanted[0] = True
        of = replace(of, wanted=wanted)
        found = chosen(of, 25.0)
        hands = Hands(np.full((1, PLAN_DAYS), 25.0), np.ones((1, PLAN_DAYS)), np.ones((1, PLAN_DAYS)))
        today = outcomes.today_instead(of, offers.plain(of), hands, found.groups[0].share)
        waits = of.wanted[0] & (found.groups[0].share[0] <= 0)
        same = ~waits
        np.testing.assert_allclose(today.outcome.harm[same], found.groups[0].outcome.harm[same], atol=1e-9)
        self.assertTrue(np.any(waits))


class Weather(unittest.TestCase):
    def test_a_plan_holds_on_the_weather_that_it_was_made_for_and_on_milder_not_on_any_heat(self):
        of = group()
        found = chosen(of, 60.0).groups[0]

        def on(times: float):
            return paths.Paths(np.full((PLAN_DAYS, 3), times), np.full((PLAN_DAYS, 3), np.nan))

        self.assertTrue(np.all(paths.holds(of, found, on(1.0))))
        self.assertFalse(np.any(paths.holds(of, found, on(3.0))))
        wet = paths.Paths(np.full((PLAN_DAYS, 3), 0.2), np.full((PLAN_DAYS, 3), 1.0))
        self.assertTrue(np.all(paths.holds(of, found, wet)))

    def test_paths_are_fortnights_of_the_season_s_own_past_the_first_days_the_surest(self):
        days = 800
        season = np.sin(2 * np.pi * np.arange(days) / 365)
        known = series_of(days=days)
        known = replace(known, eto_mm=5.0 + 3.0 * season, rain_mm=np.zeros(days))
        found = paths.drawn(known, 770, np.random.default_rng(1))
        self.assertEqual(found.eto_times.shape, (PLAN_DAYS, paths.PATHS))
        spread = found.eto_times.std(axis=1)
        self.assertLess(spread[0], spread[-1])
        self.assertTrue(np.all(np.isnan(found.rain_mm[0])) and np.all(found.rain_mm[-1] == 0.0))
        self.assertIsNone(paths.drawn(known, 10, np.random.default_rng(1)))


class Offered(unittest.TestCase):
    def test_nothing_is_always_offered_and_the_plain_plan_where_it_may_be(self):
        of = group(3)
        hands = Hands(*(np.ones((1, PLAN_DAYS)) for _ in range(3)))
        wanted = [offers.first_offers(np.flatnonzero(of.wanted[:, n]).tolist()) for n in range(3)]
        found = offers.offers(of, offers.plain(of), hands, wanted)
        for n in range(3):
            own = found.unit == n
            self.assertTrue(np.any(~np.any(found.share[own] > 0, axis=1)))
            self.assertTrue(np.any(found.plain[own]))
        self.assertTrue(np.all(found.harm[found.plain] < 1e-9))

    def test_what_lies_beside_a_pattern_differs_by_one_visit(self):
        for other in offers.beside(((2, 1.0), (9, 1.0))):
            days = {day for day, _ in other}
            self.assertLessEqual(len(days ^ {2, 9}), 2)
            self.assertTrue(days <= set(range(PLAN_DAYS)))


class Thriftier(unittest.TestCase):
    def test_a_thriftier_plan_costs_no_more_than_it_may(self):
        for seed in range(12):
            problem = made_up(seed)
            plan = nothing(problem)
            found = thriftier(problem, plan, 1.5 * plan.harm)
            self.assertTrue(keeps(problem, found))
            self.assertLessEqual(found.harm, 1.5 * plan.harm + 1e-9)
            self.assertLessEqual(found.deaths, plan.deaths + 1e-9)


if __name__ == "__main__":
    unittest.main()
