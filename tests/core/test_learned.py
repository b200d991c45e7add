"""Minutes learned from the moments at which waterings were logged, by hand."""

import unittest

import numpy as np

from june_shade.core.choosing import learned
from june_shade.core.choosing.learned import LAST, LEAST, LONGEST_MIN, Waterings


def day_of(*steps: tuple[int, float, float], day: int = 1, who: int = 0, run_min: float = 4.0) -> list[tuple]:
    """Waterings of a day. steps: stop, minutes of set-up and way before it, minutes of handling."""
    found, minute = [], 360.0
    for stop, came, handling in steps:
        minute += came + handling + run_min
        found.append((who, day, minute, run_min, stop))
    return found


def waterings(*rows: tuple) -> Waterings:
    return Waterings(*(np.array(column) for column in zip(*rows, strict=True)))


class Learning(unittest.TestCase):
    def test_what_lies_between_two_less_the_run_is_handling_or_set_up_and_way_too(self):
        rows = [row for day in range(6) for row in day_of((0, 9, 2), (0, 0, 2), (1, 11, 2), (1, 0, 2), day=day)]
        of = waterings(*rows)
        self.assertEqual((learned.handling(of).minutes, learned.handling(of).of), (2.0, 12))
        there = learned.arriving(of, 2.0)
        self.assertEqual(set(there), {1}, "nobody saw when the first of a day was come to")
        self.assertEqual((there[1].minutes, there[1].of), (11.0, 6))
        self.assertEqual(learned.set_up(of, 2.0, {(0, 1): 5.0}).minutes, 6.0)

    def test_a_break_another_day_or_other_hands_say_nothing(self):
        rows = [row for day in range(6) for row in day_of((0, 9, 1), (0, 0, 1), (0, LONGEST_MIN, 1), day=day)]
        rows += [row for day in range(6) for row in day_of((0, 2, 1), (0, 0, 1), day=day, who=1)]
        self.assertEqual(learned.handling(waterings(*rows)).minutes, 1.0)
        self.assertEqual(learned.handling(waterings(*rows)).of, 12)

    def test_too_few_say_nothing_and_only_the_last_count(self):
        few = waterings(*(row for day in range(LEAST - 1) for row in day_of((0, 9, 3), (0, 0, 3), day=day)))
        self.assertEqual(learned.handling(few), learned.Learned(None, LEAST - 1))
        rows = [row for day in range(2 * LAST) for row in day_of((0, 9, 1), (0, 0, 1 if day < LAST else 5), day=day)]
        self.assertEqual(learned.handling(waterings(*rows)), learned.Learned(5.0, LAST))

    def test_a_run_that_is_not_known_is_left_out_and_nothing_logged_is_nothing(self):
        rows = day_of((0, 9, 1), (0, 0, 1), run_min=float("nan"))
        self.assertEqual(learned.handling(waterings(*rows)).of, 0)
        none = Waterings(*(np.array([], float) for _ in range(5)))
        self.assertEqual(learned.handling(none).of, 0)
        self.assertEqual(learned.arriving(none, 1.0), {})

    def test_logged_sooner_than_it_can_have_run_is_a_slip(self):
        rows = [(0, 1, 400.0, 4.0, 0), (0, 1, 401.0, 30.0, 0), (0, 1, 406.0, 4.0, 0)]
        self.assertEqual(learned.handling(waterings(*rows)).of, 1)


if __name__ == "__main__":
    unittest.main()
