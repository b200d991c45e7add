"""What a box's events say of water, worked by hand; the table of docs/devices.md; when the lines of a box run."""

import unittest
from datetime import UTC, datetime, timedelta

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from june_shade.core.devices import box, schedule
from june_shade.core.devices.box import Event, Metered, Run
from june_shade.core.devices.schedule import Wanted
from june_shade.core.errors import InputError

FIVE = datetime(2026, 7, 15, 5, 0, tzinfo=UTC)
RUN = Run("r", 1, FIVE, 10.0, 2, 20.0)
LATER = FIVE + timedelta(days=1)


def after(minutes: float) -> datetime:
    return FIVE + timedelta(minutes=minutes)


def told(*rows: tuple[float, str, float]) -> list[Event]:
    """Events of RUN by minute, kind and what the meter shows."""
    return [Event(n, after(at), kind, 1, "r", total) for n, (at, kind, total) in enumerate(rows, 1)]


class OfEvents(unittest.TestCase):
    def test_goes_are_added_up_and_what_flowed_between_them_is_not_the_run_s(self):
        """37 L and 35 L in two goes of ten minutes; 2 L ran through while it rested."""
        events = told((0, "opened", 100), (10, "shut", 137), (30, "opened", 139), (40, "shut", 174))
        self.assertEqual(box.metered(RUN, events, LATER), Metered(72.0, 20.0, after(40), False, True))
        self.assertIsNone(box.metered(RUN, events[:3], after(35)), "still under way")
        self.assertIsNone(box.metered(RUN, [], FIVE), "not begun")

    def test_one_that_was_stopped_is_over_with_what_it_gave(self):
        events = told((0, "opened", 0), (4, "shut", 14), (4, "stopped", 14))
        self.assertEqual(box.metered(RUN, events, after(5)), Metered(14.0, 4.0, after(4), True, True))

    def test_a_meter_that_runs_backwards_and_a_box_that_forgot_are_not_believed(self):
        back = told((0, "opened", 100), (10, "shut", 63), (30, "opened", 63), (40, "shut", 28))
        self.assertFalse(box.metered(RUN, back, LATER).believed)
        lost = told((0, "opened", 100), (5, "restarted", 118))
        self.assertIsNone(box.metered(RUN, lost, after(8)))
        self.assertFalse(box.metered(RUN, lost, LATER).believed)
        never = told((0, "opened", 100))
        self.assertFalse(box.metered(RUN, never, LATER).believed)

    @settings(max_examples=30, deadline=None)
    @given(st.lists(st.floats(0, 500), min_size=4, max_size=4))
    def test_other_runs_meters_are_not_its_own(self, steps):
        totals = np.cumsum(steps)
        mine = told(*((10 * n, ("opened", "shut")[n % 2], float(total)) for n, total in enumerate(totals)))
        others = [Event(9, one.at, one.kind, 2, "other", one.total_l) for one in mine]
        mixed = [one for pair in zip(mine, others, strict=True) for one in pair]
        self.assertEqual(box.metered(RUN, mixed, LATER), box.metered(RUN, mine, LATER))
        self.assertAlmostEqual(box.metered(RUN, mine, LATER).litres, steps[1] + steps[3], places=6)


class Against(unittest.TestCase):
    def test_the_table_of_shares(self):
        """A line of 120 L/h that was open for half an hour should have taken 60 L: shares and codes by the page."""
        for litres, code in ((2, "stuck_shut"), (40, "blocked"), (50, "clogging"), (54, "clogging"), (60, "fine"),
                             (66, "fine"), (80, "leak"), (90, "leak"), (100, "burst")):  # fmt: skip
            found = box.judged(Metered(litres, 30, FIVE, False, True), 120.0)
            self.assertEqual(found.code, code, litres)
            self.assertAlmostEqual(found.off_l_per_h, 2 * (litres - 60))
        with self.assertRaises(InputError):
            box.judged(Metered(1, 0, FIVE, False, True), 120.0)

    def test_litres_are_shared_by_what_each_tree_gets(self):
        self.assertEqual(box.shared_l(60, [10, 20, 30]), [10, 20, 30])
        self.assertEqual(box.shared_l(60, [0, 0]), [30, 30])

    def test_water_that_flows_with_all_shut_is_a_valve_or_a_leak(self):
        lines = {1: 120.0, 2: 300.0}
        self.assertIsNone(box.idle(0.09, 60, lines))
        self.assertIsNone(box.idle(2.0, 9, lines))
        self.assertEqual(box.idle(2.2, 15, lines), box.Idle(1, 132.0))
        self.assertEqual(box.idle(0.5, 15, lines), box.Idle(0, 30.0))


class Kept(unittest.TestCase):
    def test_what_no_box_keeps_is_refused_by_its_place(self):
        good = Run("a", 1, after(60), 10)
        for bad, field in (
            (Run("b", 7, after(60), 10), "outlet"), (Run("b", 2, after(-1), 10), "starts_at"),
            (Run("b", 2, after(60), 721), "open_min"), (Run("b", 2, after(60), 10, 49), "goes"),
            (Run("b", 1, after(65), 10), "starts_at"), (Run("b", 2, after(60), 10, 2, -1), "rest_min"),
        ):  # fmt: skip
            with self.assertRaises(InputError) as refused:
                box.check([good, bad], FIVE, [1, 2])
            self.assertEqual(refused.exception.field, f"runs[1].{field}")
        box.check([good, Run("b", 1, after(70), 10)], FIVE, [1, 2])


class Running(unittest.TestCase):
    def test_a_line_runs_as_long_as_its_neediest_tree_in_as_many_goes_as_any_wants(self):
        run = schedule.line_run([30.0, 48.0], [3, 2], [8.0, 12.0])
        self.assertEqual((run.open_min, run.goes, run.rest_min), (16.0, 3, 12.0))
        self.assertEqual(run.total_min, 3 * 16 + 2 * 12)
        self.assertEqual(schedule.line_run([30.0], [1], [9.0]).total_min, 30.0)

    def test_a_day_with_frost_by_its_low_is_none(self):
        self.assertTrue(schedule.is_frosty(8.0, 15.0))
        self.assertFalse(schedule.is_frosty(10.0, 15.0))

    @given(*[st.lists(st.tuples(st.integers(-60, 1500), st.integers(1, 300)), max_size=4) for _ in range(2)])
    def test_common_hours_are_the_minutes_that_lie_in_both_and_in_the_day(self, ours, theirs):
        def minutes(windows):
            return {m for a, b in windows for m in range(int(a), int(b))}

        one, other = ([(a, a + wide) for a, wide in some] for some in (ours, theirs))
        found = schedule.common_hours(np.array(one, float).reshape(-1, 2), np.array(other, float).reshape(-1, 2))
        self.assertEqual(minutes(found), minutes(one) & minutes(other) & set(range(24 * 60)))


class Placing(unittest.TestCase):
    def test_two_that_the_supply_feeds_run_side_by_side_and_two_that_it_does_not_one_after_the_other(self):
        hours = np.array([[300.0, 480.0]])
        lines = [Wanted(1, 60, 200, hours), Wanted(2, 90, 200, hours)]
        for supply, starts in ((400, [300, 300]), (399, [300, 360])):
            runs, left = schedule.placed(lines, supply, 0, {})
            self.assertEqual(([run.start_min for run in runs], left), (starts, []))

    def test_what_does_not_fit_waits_and_hours_of_its_own_are_kept(self):
        early, late = np.array([[240.0, 330.0]]), np.array([[240.0, 330.0], [1200.0, 1440.0]])
        lines = [Wanted(1, 60, 300, early), Wanted(2, 60, 300, early), Wanted(3, 60, 300, late)]
        runs, left = schedule.placed(lines, 300, 250, {})
        self.assertEqual([(run.outlet, run.start_min) for run in runs], [(1, 250), (3, 1200)])
        self.assertEqual(left, [2])

    @settings(max_examples=40, deadline=None)
    @given(st.lists(st.tuples(st.integers(10, 200), st.integers(50, 400), st.integers(0, 600)), min_size=1, max_size=6))
    def test_no_two_ever_take_more_than_there_is_nor_leave_their_hours(self, rows):
        lines = [
            Wanted(n, minutes, flow, np.array([[opens, opens + 300.0]]))
            for n, (minutes, flow, opens) in enumerate(rows, 1)
        ]  # fmt: skip
        runs, left = schedule.placed(lines, 400, 30, {})
        self.assertEqual(sorted([run.outlet for run in runs] + left), [one.outlet for one in lines])
        for run in runs:
            opens, shuts = lines[run.outlet - 1].windows[0]
            self.assertTrue(max(opens, 30) <= run.start_min and run.end_min <= shuts)
        for minute in range(0, 1000, 5):
            on = [lines[run.outlet - 1].flow_l_per_h for run in runs if run.start_min <= minute < run.end_min]
            self.assertTrue(len(on) <= 1 or sum(on) <= 400, (minute, on))


if __name__ == "__main__":
    unittest.main()
