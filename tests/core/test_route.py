"""The way of a day: against going through every order, against the routing solver, refills by hand."""

import itertools
import unittest
from unittest.mock import patch

import numpy as np

from june_shade.core.choosing.route import EXACT_STOPS, _exact, _searched, route, shortest


def places(seed: int, stops: int) -> np.ndarray:
    """Ways between a yard and stops in a plane [min]."""
    at = np.random.default_rng(seed).uniform(0, 30, (stops + 1, 2))
    return np.hypot(*(at[:, None, n] - at[None, :, n] for n in (0, 1)))


def driven(way: np.ndarray, order) -> float:
    there = [0, *(n + 1 for n in order), 0]
    return float(sum(way[a, b] for a, b in itertools.pairwise(there)))


class Orders(unittest.TestCase):
    def test_up_to_eight_stops_it_is_the_best_of_all_orders(self):
        for seed, stops in ((0, 1), (1, 2), (2, 4), (3, 6), (4, 7), (5, 8)):
            way = places(seed, stops)
            best = min(driven(way, order) for order in itertools.permutations(range(stops)))
            self.assertAlmostEqual(driven(way, shortest(way)), best, places=9)

    def test_the_routing_solver_finds_as_good_a_way(self):
        for seed, stops in ((0, EXACT_STOPS), (1, EXACT_STOPS), (2, EXACT_STOPS + 2)):
            way = places(seed, stops)
            best = driven(way, _exact(way))
            self.assertLessEqual(driven(way, _searched(way, True)), best + 0.2, "it counts in whole seconds")
            self.assertLessEqual(driven(way, _searched(way, False)), best * 1.05 + 0.2)

    def test_sixty_stops_are_each_visited_once_in_less_than_the_order_they_were_given_in(self):
        way = places(9, 60)
        order = shortest(way)
        self.assertEqual(sorted(order), list(range(60)))
        self.assertLess(driven(way, order), 0.6 * driven(way, range(60)))
        self.assertLessEqual(driven(way, order), driven(way, shortest(way, guided=False)) + 0.2)

    def test_stops_that_all_stand_at_one_place_are_each_visited_once(self):
        self.assertEqual(sorted(shortest(np.zeros((21, 21)))), list(range(20)))

    def test_a_machine_with_no_time_for_a_first_order_finds_one_all_the_same(self):
        with patch("june_shade.core.choosing.route.MS_A_STOP", 0):
            self.assertEqual(sorted(shortest(places(9, 60))), list(range(60)))

    def test_no_stop_is_no_way(self):
        self.assertEqual(route(np.zeros((1, 1)), np.zeros(0), 100.0, 20.0).minutes, 0.0)


class Refills(unittest.TestCase):
    # yard -- 10 min -- a -- 2 min -- b -- 10 min -- yard
    way = np.array([[0.0, 10.0, 10.0], [10.0, 0.0, 2.0], [10.0, 2.0, 0.0]])

    def test_by_hand(self):
        none = route(self.way, np.array([300.0, 300.0]), None, 20.0)
        self.assertEqual((none.way_min, none.fill_min, none.fills_before), (22.0, 0.0, ()))
        enough = route(self.way, np.array([300.0, 300.0]), 600.0, 20.0)
        self.assertEqual(enough.fills_before, ())
        once = route(self.way, np.array([300.0, 300.0]), 400.0, 20.0)
        self.assertEqual((once.fills_before, once.fill_min), ((1,), 20.0 + 10.0 + 10.0 - 2.0))
        often = route(np.array([[0.0, 10.0], [10.0, 0.0]]), np.array([900.0]), 400.0, 20.0)
        # 900 L from 400 L: filled once on the way, where it is full already, and twice from the stop
        self.assertEqual(often.fill_min, 20.0 + 0.0 + 2 * (20.0 + 2 * 10.0))

    def test_a_larger_tank_never_takes_longer(self):
        way, litres = places(3, 6), np.random.default_rng(3).uniform(50, 400, 6)
        taken = [route(way, litres, tank, 15.0).minutes for tank in (100.0, 200.0, 400.0, 800.0, 3000.0)]
        self.assertEqual(taken, sorted(taken, reverse=True))


if __name__ == "__main__":
    unittest.main()
