"""Survival by group: who counts, and the range of a share against scipy's Wilson interval."""

import unittest

from scipy.stats import binomtest

from june_shade.core.book.survival import survival, wilson


class Shares(unittest.TestCase):
    def test_ranges_are_those_of_wilson_1927(self):
        for trials in (1, 3, 12, 40, 500):
            for successes in {0, 1, trials // 2, trials - 1, trials}:
                known = binomtest(successes, trials).proportion_ci(method="wilson")
                for found, expected in zip(wilson(successes, trials), (known.low, known.high), strict=True):
                    self.assertAlmostEqual(found, expected, places=9)

    def test_stolen_and_moved_trees_say_nothing_of_survival(self):
        elms = [("elm", None)] * 8 + [("elm", "dead"), ("elm", "removed"), ("elm", "stolen"), ("elm", "moved")]
        (elm, oak) = survival([*elms, ("oak", "stolen")])
        self.assertEqual((elm.planted, elm.standing, elm.lost, elm.gone, elm.share), (12, 8, 2, 2, 0.8))
        self.assertEqual((oak.planted, oak.share, oak.low), (1, None, None))


if __name__ == "__main__":
    unittest.main()
