"""Choosing while others work in the same process: it leaves alone what all threads share."""

import time
import unittest
from unittest import mock

from june_shade.core.choosing.choose import choose
from june_shade.core.choosing.terms import within
from tests.core.test_schedules import by_schedules, case
from tests.core.test_terms import made_up


class Warnings(unittest.TestCase):
    def test_no_solver_turns_warnings_into_errors_for_a_while(self):
        """Python's filters are one for all threads: where two put theirs back in the other order, whatever is merely
        warned of is an error from then on, everywhere."""
        litres, harm, allowed = made_up(2)
        solved = (
            lambda: within(litres, harm, allowed, 0.7 * litres[:, 0].sum()),
            lambda: choose(case(3), seconds=5.0, clock=time.monotonic),
            lambda: by_schedules(case(3)),
        )
        changed = AssertionError("changes the filters of warnings for all threads")
        with mock.patch("scipy.optimize._constraints.catch_warnings", side_effect=changed):
            for solve in solved:
                solve()


if __name__ == "__main__":
    unittest.main()
