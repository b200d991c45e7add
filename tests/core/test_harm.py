"""Harm: by hand from its definition, the words' borders, relations, the knee of a curve."""

import unittest

import numpy as np

from june_shade.core.choosing import harm


def days(ks: list[float], soggy: list[int] | None = None, leaf: float = 1.0, plan_days: int = 14) -> float:
    """Harm of one tree over these days."""
    shares = np.array(ks)[:, None]
    wet = np.zeros_like(shares) if soggy is None else np.array(soggy)[:, None]
    return float(harm.of_days(shares, wet, np.full_like(shares, leaf), plan_days)[0])


class ByHand(unittest.TestCase):
    def test_each_part_of_the_sum(self):
        self.assertEqual(days([1.0] * 21), 0.0)
        self.assertAlmostEqual(days([0.8] + [1.0] * 20), 0.2)
        self.assertAlmostEqual(days([0.3] + [1.0] * 20), 0.7 + 3 * 0.2)
        self.assertAlmostEqual(days([1.0] * 20 + [0.3]), 0.5 * (0.7 + 3 * 0.2), msg="after the plan a day counts half")
        self.assertAlmostEqual(days([1.0] * 21, [1, 1] + [0] * 19), 0.2)
        self.assertEqual(days([0.1] * 21, leaf=0.0), 0.0, "bare trees lose no growth")

    def test_what_no_plan_can_mend_is_no_reason_to_choose(self):
        np.testing.assert_array_equal(harm.beyond(np.array([3.0, 1.0]), np.array([1.0, 2.0])), [2.0, 0.0])

    def test_words_and_their_borders(self):
        self.assertEqual([harm.word(h, False) for h in (0.0, 1.0, 1.001, 14.0)],
                         ["slower_growth", "slower_growth", "leaves_suffer", "leaves_suffer"])  # fmt: skip
        fine, three = np.full((21, 1), 0.9), np.full((21, 1), 0.9)
        three[[2, 9, 13]] = 0.19
        leaf = np.ones((21, 1))
        self.assertFalse(harm.may_die(np.array([14.0]), fine, leaf, 14)[0])
        self.assertTrue(harm.may_die(np.array([14.001]), fine, leaf, 14)[0])
        self.assertTrue(harm.may_die(np.array([0.5]), three, leaf, 14)[0], "any three days of the plan")
        self.assertFalse(harm.may_die(np.array([0.5]), three, 0 * leaf, 14)[0])

    def test_the_new_and_the_kept_go_first(self):
        new, old = harm.weight(harm.WORTH["ordinary"], np.array([0.0, 1.0]))
        self.assertEqual((new, old), (2.0, 1.0))
        self.assertEqual(harm.weight(harm.WORTH["kept"], np.array([1.0]))[0], new)
        self.assertEqual(harm.weight(harm.WORTH["spare"], np.array([0.0]))[0], old)


class Knee(unittest.TestCase):
    def test_where_a_litre_more_stops_paying(self):
        litres = np.array([0.0, 100.0, 200.0, 300.0, 400.0])
        self.assertEqual(harm.knee(litres, np.array([10.0, 2.0, 1.5, 1.2, 1.0])), 1)
        self.assertEqual(harm.knee(litres, np.array([10.0, 9.5, 9.0, 1.2, 1.0])), 3)
        self.assertEqual(harm.knee(litres[:2], np.array([10.0, 1.0])), 1)
        self.assertIn(harm.knee(litres, np.full(5, 1.0)), range(5))


if __name__ == "__main__":
    unittest.main()
