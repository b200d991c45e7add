"""What is wanted of each tree within some litres: against going through all choices, and by relations."""

import itertools
import unittest

import numpy as np

from june_shade.core.choosing.terms import may_be_proposed, together, within


def made_up(seed: int, trees: int = 6) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Litres that fall and harm that rises from term to term; some terms are not allowed."""
    rng = np.random.default_rng(seed)
    litres = np.sort(rng.uniform(5.0, 60.0, (trees, 3)), axis=1)[:, ::-1]
    harm = np.concatenate([np.zeros((trees, 1)), np.sort(rng.uniform(0.1, 3.0, (trees, 2)), axis=1)], axis=1)
    allowed = rng.random((trees, 3)) < 0.8
    allowed[:, 0] = True
    return litres, harm, allowed


def best_of_all(litres: np.ndarray, harm: np.ndarray, allowed: np.ndarray, most_l: float) -> float:
    every, best = np.arange(len(litres)), np.inf
    for one in itertools.product(range(3), repeat=len(litres)):
        at = every, np.array(one)
        if np.all(allowed[at]) and litres[at].sum() <= most_l:
            best = min(best, float(harm[at].sum()))
    return best


class Within(unittest.TestCase):
    def test_it_harms_as_little_as_the_best_of_all_choices(self):
        for seed in range(6):
            litres, harm, allowed = made_up(seed)
            for share in (0.55, 0.7, 0.85):
                most = share * litres[:, 0].sum()
                with self.subTest(seed=seed, share=share):
                    found, best = within(litres, harm, allowed, most), best_of_all(litres, harm, allowed, most)
                    self.assertEqual(found.fits, np.isfinite(best))
                    if found.fits:
                        self.assertAlmostEqual(found.harm, best, delta=1e-3 * max(1.0, best))
                        self.assertLessEqual(found.litres, most + 1e-6)
                    self.assertTrue(np.all(allowed[np.arange(len(litres)), found.chosen]))

    def test_with_water_enough_everyone_grows_and_with_too_little_all_take_the_least(self):
        litres, harm, allowed = made_up(3)
        plenty, none = within(litres, harm, allowed, 1e6), within(litres, harm, allowed, 0.0)
        np.testing.assert_array_equal(plenty.chosen, 0)
        self.assertEqual((plenty.harm, plenty.fits, none.fits), (0.0, True, False))
        self.assertAlmostEqual(none.litres, np.where(allowed, litres, np.inf).min(axis=1).sum())

    def test_more_water_never_harms_more(self):
        litres, harm, allowed = made_up(9, trees=40)
        found = [within(litres, harm, allowed, share * litres[:, 0].sum()) for share in np.linspace(0.6, 1.0, 6)]
        for less, more in itertools.pairwise(one for one in found if one.fits):
            self.assertLessEqual(more.harm, less.harm + 1e-3)


class Proposed(unittest.TestCase):
    def test_nothing_is_proposed_of_which_a_tree_may_die_that_would_not_growing(self):
        harm = np.array([[0.0, 2.9, 3.1], [0.0, 0.5, 1.0], [0.0, 0.2, 0.4]])
        dies = np.array([[False, False, False], [False, False, True], [True, True, True]])
        found = may_be_proposed(harm, dies)
        np.testing.assert_array_equal(found, [[True, True, False], [True, True, False], [True, True, True]])

    def test_trees_that_are_watered_together_count_as_one(self):
        found = together(np.array([[1.0, 2.0], [10.0, 20.0], [100.0, 200.0]]), [np.array([0, 2]), np.array([1])])
        np.testing.assert_array_equal(found, [[101.0, 202.0], [10.0, 20.0]])


if __name__ == "__main__":
    unittest.main()
