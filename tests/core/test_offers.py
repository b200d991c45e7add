"""The patterns that are offered to trees: which there are, what forbids them, what is left out because it is beaten."""

import itertools
import unittest

import numpy as np

from june_shade.core.choosing import offers
from june_shade.core.choosing.offers import HALF, PLAN_DAYS, Hands
from tests.core.test_fortnight import group

HANDS = Hands(*(np.full((1, PLAN_DAYS), value) for value in (1e6, 1.0, 1.0)))


def offered(of, sets=None):
    """What is offered to each unit of a group: the usual patterns, or those given to all."""
    plain = offers.plain(of)
    if sets is None:
        sets = [offers.first_offers(np.flatnonzero(of.wanted[:, on[0]]).tolist()) for on in of.units]
    return offers.offers(of, plain, HANDS, sets)


def days_of(found, row: int) -> tuple[int, ...]:
    return tuple(np.flatnonzero(found.share[row]).tolist())


class First(unittest.TestCase):
    def test_no_visit_single_days_pairs_and_routines_are_always_there(self):
        found = offers.first_offers([])
        days = {tuple(day for day, _ in visits) for visits in found}
        self.assertIn((), days)
        self.assertLessEqual({(day,) for day in range(PLAN_DAYS)}, days)
        for every in offers.EVERY_DAYS:
            self.assertIn(tuple(range(every - 1, PLAN_DAYS, every)), days)
        self.assertIn((2, 9), days)

    def test_what_the_plain_plan_wants_is_there_whole_halved_shifted_and_thinned(self):
        found = offers.first_offers([2, 7, 12])
        for visits in ([2, 7, 12], [0, 5, 10], [3, 8, 13], [7, 12], [2, 12]):
            self.assertIn(tuple((day, 1.0) for day in visits), found)
        self.assertIn(tuple((day, HALF) for day in (2, 7, 12)), found)
        self.assertTrue(all(0 <= day < PLAN_DAYS for visits in found for day, _ in visits))

    def test_beside_a_pattern_lie_those_that_differ_by_one_visit(self):
        liked = ((3, 1.0), (9, HALF))
        found = offers.beside(liked)
        self.assertNotIn(liked, found)
        for visits in (((3, 1.0),), ((3, HALF), (9, HALF)), ((3, 1.0), (9, 1.0)), ((4, 1.0), (9, HALF))):
            self.assertIn(visits, found)
        for visits in found:
            changed = set(liked) ^ set(visits)
            self.assertLessEqual(len({day for day, _ in changed}), 2, visits)


class Offered(unittest.TestCase):
    def test_every_tree_may_go_without_and_may_have_what_the_plain_plan_wants(self):
        of = group(3)
        found = offered(of)
        for unit in range(3):
            rows = np.flatnonzero(found.unit == unit)
            self.assertIn((), {days_of(found, row) for row in rows})
            plain = rows[found.plain[rows]]
            self.assertEqual([days_of(found, row) for row in plain], [tuple(np.flatnonzero(of.wanted[:, unit]))])
            self.assertEqual(found.harm[plain].tolist(), [0.0], "the plain plan is what harm is measured from")

    def test_a_day_that_is_closed_has_no_visit_and_a_pinned_one_has_where_there_is_any(self):
        of = group(2)
        of.allowed[3:6] = False
        of.pinned[8, 0] = True
        found = offered(of)
        self.assertEqual(found.share[:, 3:6].sum(), 0.0)
        rows = np.flatnonzero((found.unit == 0) & np.any(found.share > 0, axis=1))
        self.assertTrue(np.all(found.share[rows, 8] > 0))
        empty = np.flatnonzero((found.unit == 0) & ~np.any(found.share > 0, axis=1))
        self.assertEqual(found.missed[empty].tolist(), [1.0])

    def test_litres_that_an_order_allows_a_watering_are_kept_to(self):
        of = group(2)
        most = 0.6 * offers.plain(of).largest_l.max()
        of.most_l[:] = most
        found = offered(of)
        self.assertTrue(np.any(found.litres > 0))
        self.assertLessEqual(found.litres.max(), most + 1e-6)

    def test_nothing_is_offered_that_another_beats_in_every_figure(self):
        found = offered(group(2))
        figures = np.column_stack([found.harm, found.deaths, found.litres, found.minutes])
        kept = found.plain | ~np.any(found.share > 0, axis=1)
        for unit in range(2):
            rows = np.flatnonzero((found.unit == unit) & ~kept)
            for a, b in itertools.permutations(rows[:60], 2):
                beaten = np.all(figures[b] <= figures[a]) and np.any(figures[b] < figures[a] - 1e-9)
                self.assertFalse(beaten, (days_of(found, a), days_of(found, b)))

    def test_trees_of_a_line_are_offered_patterns_together(self):
        of = group(3, units=(np.array([0, 2]), np.array([1])))
        visits = [{(), ((4, 1.0),)}] * 2
        found, apart = offered(of, visits), offered(group(3), [{(), ((4, 1.0),)}] * 3)
        line = np.flatnonzero((found.unit == 0) & (found.share[:, 4] > 0))
        each = np.flatnonzero(np.isin(apart.unit, (0, 2)) & (apart.share[:, 4] > 0))
        self.assertAlmostEqual(float(found.litres[line].sum()), float(apart.litres[each].sum()))
        self.assertAlmostEqual(float(found.harm[line].sum()), float(apart.harm[each].sum()))

    def test_joined_offers_know_each_pattern_of_both_or_one_that_beats_it(self):
        of = group(2)
        one, other = offered(of, [{(), ((2, 1.0),)}] * 2), offered(of, [{(), ((6, 1.0),)}] * 2)
        both = offers.joined(one, other)
        self.assertEqual(sorted({days_of(both, row) for row in range(len(both))}), [(), (2,), (6,)])
        self.assertTrue(np.all(np.diff(both.unit) >= 0), "in order of units")


class Minutes(unittest.TestCase):
    def test_by_hand(self):
        """60 L at 240 L/h run 15 min; two hoses at once halve the standing by, what drips takes a minute of it."""
        litres = np.zeros((PLAN_DAYS, 4))
        litres[0] = 60.0
        hands = Hands(np.full((1, PLAN_DAYS), 1e6), np.full((1, PLAN_DAYS), 2.0), np.full((1, PLAN_DAYS), 2.0))
        crew = np.zeros(litres.shape, int)
        found = offers.visit_minutes(
            hands, crew, np.array([240.0, 240.0, 240.0, 0.0]), np.array([False, True, False, False]),
            np.array([1.0, 1.0, 3.0, 1.0]), litres,
        )  # fmt: skip
        np.testing.assert_allclose(found[0], [2 + 7.5, 2 + 1, (2 + 7.5) / 3, 2.0])
        self.assertEqual(found[1:].sum(), 0.0)


if __name__ == "__main__":
    unittest.main()
