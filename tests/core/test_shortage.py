"""What orders allow of a week, and which of water and hours is short."""

import unittest

import numpy as np

from june_shade.core.choosing.shortage import allowed_l, short_of

WANTED = np.array([[10.0, 20.0, 30.0], [0.0, 20.0, 0.0]])
ALL = np.ones((2, 3), bool)


def on(*trees: int) -> np.ndarray:
    found = np.zeros((2, 3), bool)
    found[:, list(trees)] = True
    return found


class Allowed(unittest.TestCase):
    def test_no_cap_is_no_limit(self):
        self.assertIsNone(allowed_l(WANTED, []))

    def test_cases_by_hand(self):
        for caps, expected in (
            ([(50.0, ALL)], 50.0),
            ([(500.0, ALL)], 500.0),  # an order's own figure, whatever is wanted
            ([(50.0, ALL), (70.0, ALL)], 50.0),  # two orders do not add up
            ([(50.0, ALL), (5.0, on(0))], 50.0),
            ([(15.0, on(0)), (25.0, on(1, 2))], 40.0),
            ([(15.0, on(0))], 15.0 + 40.0 + 30.0),  # who is under none gets what it wants
            ([(15.0, on(0, 1)), (10.0, on(1, 2))], 25.0),
            ([(0.0, ALL)], 0.0),
        ):
            with self.subTest(caps=[(litres, held[0].tolist()) for litres, held in caps]):
                self.assertAlmostEqual(allowed_l(WANTED, caps), expected)

    def test_one_more_order_never_allows_more(self):
        rng = np.random.default_rng(4)
        for _ in range(12):
            caps = [(float(rng.uniform(0, 60)), rng.random((2, 3)) < 0.6) for _ in range(3)]
            every = (90.0, ALL)
            self.assertLessEqual(allowed_l(WANTED, [every, *caps]), allowed_l(WANTED, [every, *caps[:-1]]) + 1e-9)


class Short(unittest.TestCase):
    def of(self, **changed):
        week = {"wanted_l": 100.0, "allowed_l": 60.0, "chosen_l": 59.0, "wanted_min": 300.0, "allowed_min": 200.0,
                "chosen_min": 190.0}  # fmt: skip
        return short_of(**week | changed)

    def test_what_is_wanted_and_spent_is_short(self):
        self.assertEqual(self.of(), ("water", "hours"))
        self.assertEqual(self.of(allowed_l=None), ("hours",))
        self.assertEqual(self.of(allowed_min=None), ("water",))
        self.assertEqual(self.of(chosen_min=90.0), ("water",), "hours are left: they are not what holds water back")
        self.assertEqual(self.of(chosen_l=20.0), ("hours",))
        self.assertEqual(self.of(allowed_l=120.0, chosen_l=118.0, allowed_min=400.0), ())


if __name__ == "__main__":
    unittest.main()
