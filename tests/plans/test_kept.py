"""Answers kept in memory: made once for all who ask at a time, another one as soon as the stamp is another."""

import threading
import unittest
from concurrent.futures import ThreadPoolExecutor

from june_shade.plans.kept import Kept


class OnceForAll(unittest.TestCase):
    def test_whoever_asks_meanwhile_waits_for_the_one_that_is_being_made(self):
        kept, made, going_on = Kept[int](), [], threading.Event()

        def make() -> int:
            made.append(1)
            going_on.wait(5)
            return 7

        with ThreadPoolExecutor(8) as many:
            asked = [many.submit(kept.get, "round", 1, make) for _ in range(8)]
            going_on.set()
            self.assertEqual([one.result() for one in asked], [7] * 8)
        self.assertEqual(len(made), 1)

    def test_others_do_not_wait(self):
        kept, held, release = Kept[int](), threading.Event(), threading.Event()

        def slow() -> int:
            held.set()
            release.wait(5)
            return 1

        with ThreadPoolExecutor(1) as one:
            first = one.submit(kept.get, "a", 1, slow)
            self.assertTrue(held.wait(5))
            self.assertEqual(kept.get("b", 1, lambda: 2), 2)
            self.assertEqual(kept.get("a", 2, lambda: 3), 3, "another stamp is another answer")
            release.set()
            self.assertEqual(first.result(), 1)

    def test_what_failed_is_tried_again(self):
        kept = Kept[int]()
        with self.assertRaises(ZeroDivisionError):
            kept.get("a", 1, lambda: 1 // 0)
        self.assertEqual(kept.get("a", 1, lambda: 5), 5)

    def test_the_ones_asked_for_last_stay(self):
        kept = Kept[int](2)
        for name in "abac":
            kept.get(name, 1, lambda: 0)
        self.assertEqual([kept.known(name, 1) is not None for name in "abc"], [True, False, True])


if __name__ == "__main__":
    unittest.main()
