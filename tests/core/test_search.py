"""The search for visits: what it says of a plan is what walking says, limits hold, and it is alike on every machine."""

import itertools
import time
import unittest
from dataclasses import replace

import numpy as np

from june_shade.core.choosing import board, harm, offers, search
from june_shade.core.choosing.offers import PLAN_DAYS, Group, Hands, Limits
from june_shade.core.choosing.spells import ENDS, spells
from june_shade.core.water.visits import walked
from tests.core.test_fortnight import group

STOPS = 2


def hands(minutes: float) -> Hands:
    return Hands(np.full((1, PLAN_DAYS), minutes), np.ones((1, PLAN_DAYS)), np.ones((1, PLAN_DAYS)))


def laid(of: Group, minutes: float, stop_min: float = 12.0, bonus=None, **limits) -> board.Laid:
    """One crew, trees at two stops in turn."""
    plain, has = offers.plain(of), hands(minutes)
    both = Limits(has, np.full((STOPS, PLAN_DAYS), stop_min), np.zeros((STOPS, PLAN_DAYS), int), **limits)
    extra = np.zeros((len(of.units), PLAN_DAYS)) if bonus is None else bonus
    return board.laid([of], [np.arange(len(of.weight)) % STOPS], both, [plain], [spells(of, plain, has)], [extra])


def found(on: board.Laid, rounds: int = 300, deaths_count: float = 0.0, visits=None) -> np.ndarray:
    """Visits in the group's order."""
    begun = np.zeros(on.board.allowed.shape, bool) if visits is None else visits[on.order]
    seconds = {"seconds": 600.0, "clock": time.monotonic}
    return on.of_units(search.searched(on.board, begun, rounds=rounds, deaths_count=deaths_count, **seconds))


def summed(on: board.Laid, visits: np.ndarray) -> tuple[float, np.ndarray, np.ndarray]:
    """Weighted harm, minutes and litres by day of visits, added up from the spells, spell by spell."""
    total, minutes, litres = 0.0, np.zeros(PLAN_DAYS), np.zeros(PLAN_DAYS)
    for place, unit in enumerate(on.order):
        days = [0, *(np.flatnonzero(visits[unit]) + 1), ENDS]
        spelled = list(itertools.pairwise(days))
        for tree in range(*on.board.trees_from[place : place + 2]):
            weight, plain = on.board.of_trees[tree, :2]
            harms = sum(on.board.spells[tree, 0, a, b - 1] for a, b in spelled)
            total += weight * max(0.0, harms - plain)
        for a, b in spelled[:-1]:
            minutes[b - 1] += on.board.takes[place, 0, a, b - 1]
            litres[b - 1] += on.board.takes[place, 1, a, b - 1]
    return total, minutes, litres


def with_stops(minutes: np.ndarray, visits: np.ndarray, stop_min: float = 12.0) -> np.ndarray:
    opened = np.array([np.any(visits[stop::STOPS], axis=0) for stop in range(STOPS)])
    return minutes + stop_min * opened.sum(axis=0)


class Spells(unittest.TestCase):
    def test_a_visit_or_two_add_up_to_what_walking_them_gives(self):
        of = group(6)
        on = laid(of, 1e6)
        plain = offers.plain(of)
        for days in ((), (0,), (3,), (13,), (0, 5), (2, 9), (4, 5)):
            share = np.zeros((PLAN_DAYS, 6))
            share[list(days)] = 1.0
            way = walked(of.standing, share)
            harms = harm.beyond(harm.of_days(way.ks, way.soggy, way.leaf, PLAN_DAYS), plain.harm)
            minutes = offers.minutes_of(of, hands(1e6), np.arange(6), way.litres[:PLAN_DAYS])
            total, by_day, litres = summed(on, np.repeat((share.T > 0)[:1], 6, axis=0))
            with self.subTest(days):
                if len(days) < 2:  # of two the second one's days are those of a tree that was watered only then
                    self.assertAlmostEqual(total, float(of.weight @ harms), places=6)
                else:
                    self.assertAlmostEqual(total, float(of.weight @ harms), delta=0.05 * total + 0.1)
                np.testing.assert_allclose(by_day, minutes.sum(axis=1), atol=1e-6)
                np.testing.assert_allclose(litres, way.litres[:PLAN_DAYS].sum(axis=1), atol=1e-6)

    def test_a_longer_spell_costs_no_less_and_takes_no_less_water(self):
        of = group(3)
        made = spells(of, offers.plain(of), hands(60.0))
        for values in (made.harm[:, 1, 1:], made.dying[:, 1, 1:], made.litres[:, 1, 1:PLAN_DAYS]):
            self.assertTrue(np.all(np.diff(values, axis=1) >= -1e-9))

    def test_a_watering_of_more_than_an_order_allows_fits_into_no_day(self):
        made = spells(of := group(3, most_l=np.full((PLAN_DAYS, 3), 8.0)), offers.plain(of), hands(60.0))
        over = made.litres > 8.0 + 1e-6
        self.assertTrue(np.any(over) and np.any((made.litres > 0) & ~over))
        self.assertTrue(np.all((made.minutes > 1e5) == over))


class Search(unittest.TestCase):
    def test_limits_hold_and_it_is_alike_each_time(self):
        of = group(8)
        for minutes in (0.0, 40.0, 75.0):
            on = laid(of, minutes)
            visits = found(on)
            _, by_day, _ = summed(on, visits)
            self.assertTrue(np.all(with_stops(by_day, visits) <= minutes + 1e-5))
            np.testing.assert_array_equal(visits, found(on))

    def test_it_is_never_worse_than_what_it_began_with_and_more_rounds_are_never_worse(self):
        of = group(8)
        on = laid(of, 45.0)
        worths = []
        for rounds in (1, 20, 600):
            worths.append(summed(on, found(on, rounds))[0])
        self.assertEqual(worths, sorted(worths, reverse=True))
        best = found(on, 600)
        self.assertLessEqual(summed(on, found(on, 1, visits=best))[0], worths[-1] + 1e-6)

    def test_against_trying_all_visits_of_two_trees_on_four_days(self):
        allowed = np.zeros((PLAN_DAYS, 2), bool)
        allowed[[0, 3, 6, 10]] = True
        of = group(2, allowed=allowed)
        for minutes in (14.0, 17.0, 30.0):
            on = laid(of, minutes)
            best = np.inf
            for bits in itertools.product((False, True), repeat=8):
                visits = np.zeros((2, PLAN_DAYS), bool)
                visits[:, [0, 3, 6, 10]] = np.reshape(bits, (2, 4))
                total, by_day, _ = summed(on, visits)
                if np.all(with_stops(by_day, visits) <= minutes + 1e-6):
                    best = min(best, total)
            self.assertAlmostEqual(summed(on, found(on))[0], best, places=6)

    def test_litres_of_days_and_closed_hours_hold(self):
        of = group(4)
        every = tuple(range(4))
        on = laid(of, 1e6, periods=((tuple(range(7)), 60.0, (every,)), (tuple(range(7, 14)), 40.0, ((0, 2),))))
        visits = found(on)
        per_unit = [summed(on, np.where(np.arange(4)[:, None] == n, visits, False))[2] for n in range(4)]
        self.assertLessEqual(sum(per_unit)[:7].sum(), 60.0 + 1e-5)
        self.assertLessEqual((per_unit[0] + per_unit[2])[7:].sum(), 40.0 + 1e-5)
        self.assertGreater(sum(per_unit)[:7].sum(), 30.0)
        on = laid(of, 1e6, closings=tuple((day, 14.0, 0, (1, 3)) for day in range(PLAN_DAYS)))
        visits = found(on)
        own = np.where(np.arange(4)[:, None] % 2 == 1, visits, False)
        self.assertTrue(np.all(with_stops(summed(on, own)[1], own) <= 14.0 + 1e-5))
        self.assertAlmostEqual(summed(on, np.where(np.arange(4)[:, None] % 2 == 0, visits, False))[1].min(), 0.0)

    def test_a_day_that_is_worth_much_in_itself_is_kept_and_a_closed_one_never_taken(self):
        allowed = np.ones((PLAN_DAYS, 4), bool)
        allowed[5] = False
        bonus = np.zeros((4, PLAN_DAYS))
        bonus[2, 9] = bonus[1, 5] = 1e4
        visits = found(laid(group(4, allowed=allowed), 30.0, bonus=bonus))
        self.assertTrue(visits[2, 9])
        self.assertFalse(np.any(visits[:, 5]))

    def test_where_deaths_count_fewer_may_die(self):
        of = replace(group(8), weight=np.tile([2.0, 0.5], 4))
        on = laid(of, 30.0)
        deaths = []
        for count in (0.0, 100.0):
            share = np.zeros((PLAN_DAYS, 8))
            share[found(on, 600, count).T] = 1.0
            way = walked(of.standing, share)
            harms = harm.beyond(harm.of_days(way.ks, way.soggy, way.leaf, PLAN_DAYS), offers.plain(of).harm)
            deaths.append(float(of.weight @ harm.may_die(harms, way.ks, way.leaf, PLAN_DAYS)))
        self.assertLessEqual(deaths[1], deaths[0])

    def test_trees_of_a_line_are_watered_together(self):
        of = replace(group(4), units=(np.array([0, 2]), np.array([1]), np.array([3])))
        on = laid(of, 60.0)
        self.assertEqual(found(on).shape, (3, PLAN_DAYS))
        self.assertEqual(on.board.trees_from[-1], 4)


if __name__ == "__main__":
    unittest.main()
