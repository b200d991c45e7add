"""Trees that follow a school's routine: its days and litres, visits that are owed, and the balance underneath."""

import unittest

import numpy as np

from june_shade.core.water.followed import Followed, sky_since
from june_shade.core.water.schools import ROUTINES, Routine
from tests.core.test_planner import AHEAD, TODAY, plan_of, series_of, usual
from tests.support import full, of_specs, spec

FIXED = Routine("fixed", litres=20.0, every_days=3)


def follow(routine, *, since=0, trees=(0,), series=None):
    """A routine taken up so many days before today (below 0) or on it."""
    series = series or series_of()
    at = TODAY + since
    return (Followed(routine, at, sky_since(series, at, np.ones(len(series) - at)), np.array(trees)),)


def days(made, tree=0):
    """Days from today with a visit, and their litres."""
    poured = made.visit_gross_l[TODAY:, tree]
    return {int(at): float(poured[at]) for at in np.flatnonzero(poured > 0)}


class ByTheCalendar(unittest.TestCase):
    def test_its_days_and_litres_are_the_plans(self):
        made = plan_of(of_specs(spec()), series_of(), followed=follow(FIXED))
        self.assertEqual(days(made), dict.fromkeys(range(0, AHEAD, 3), 20.0))

    def test_a_tree_beside_it_goes_on_by_the_balance(self):
        pair, series = of_specs(spec(), spec()), series_of()
        alone = days(plan_of(pair, series))
        beside = plan_of(pair, series, followed=follow(FIXED))
        self.assertEqual(days(beside, 1), alone)
        self.assertNotEqual(days(beside, 0), alone)

    def test_a_visit_that_nobody_made_is_owed_and_late_until_it_is_made(self):
        one, series = of_specs(spec()), series_of()
        owed = follow(FIXED, since=-4)  # days -4 and -1
        late = plan_of(one, series, followed=owed)
        self.assertEqual(int(late.late_days[0]), 4)
        self.assertEqual(list(days(late))[:2], [0, 2])
        made = plan_of(one, series, watered={-4: 20.0, -1: 20.0}, followed=owed)
        self.assertEqual((int(made.late_days[0]), list(days(made))[:2]), (0, [2, 5]))

    def test_a_closed_day_puts_it_off_to_the_next_one_open(self):
        workable = np.ones(TODAY + AHEAD, bool)
        workable[TODAY + 3] = False
        series = series_of(workable=workable)
        self.assertEqual(list(days(plan_of(of_specs(spec()), series, followed=follow(FIXED))))[:4], [0, 4, 6, 9])

    def test_what_was_poured_today_is_not_asked_again(self):
        found = plan_of(of_specs(spec()), series_of(), watered={0: 20.0}, poured_today=True, followed=follow(FIXED))
        self.assertEqual(list(days(found))[:2], [3, 6])

    def test_a_routine_taken_up_today_owes_nothing_for_the_days_before(self):
        dry = plan_of(of_specs(spec()), series_of(), followed=follow(Routine("deep", every_days=14)))
        self.assertEqual(int(dry.late_days[0]), 0)
        self.assertEqual(list(days(dry)), [0])


class ByTheWeather(unittest.TestCase):
    def test_rain_of_the_week_before_counts_from_its_first_day(self):
        routine, one = Routine("rainfall", mm=38.0), of_specs(spec())
        dry, wet, soaked = (series_of(rain={-3: mm}) for mm in (0.0, 19.0, 40.0))
        first = [days(plan_of(one, s, followed=follow(routine, series=s))).get(0, 0.0) for s in (dry, wet, soaked)]
        self.assertAlmostEqual(first[1] / first[0], 0.5)
        self.assertEqual(first[2], 0.0)

    def test_only_when_dry_waits_for_the_ball_and_says_that_the_balance_would_not(self):
        one, series = of_specs(spec()), series_of()
        made = plan_of(one, series, state=full(*one), opening_at=TODAY, followed=follow(Routine("when_dry", limit=0.9)))
        balance = plan_of(one, series, state=full(*one), opening_at=TODAY)
        self.assertGreater(min(days(made)), min(days(balance)))

    def test_the_balance_is_still_asked_what_it_would_do(self):
        one, series = of_specs(spec()), series_of()
        none = plan_of(one, series, followed=follow(Routine("none")))
        self.assertEqual(days(none), {})
        self.assertTrue(none.balance_asks[0])
        self.assertEqual(int(none.late_days[0]), 0)
        watered = plan_of(one, series, watered={-1: 60.0}, followed=follow(Routine("fixed", litres=5, every_days=1)))
        self.assertEqual((days(watered)[0], bool(watered.balance_asks[0])), (5.0, False))


class OnALine(unittest.TestCase):
    def test_a_line_runs_for_a_tree_whose_routine_asks(self):
        both = of_specs(spec(), spec())
        line = usual(2, line=np.array([0, 0]), flow_l_per_h=np.array([8.0, 8.0]))
        made = plan_of(both, series_of(), watered={-1: 60.0}, pouring=line, followed=follow(FIXED))
        self.assertEqual(made.visit_gross_l[TODAY].tolist(), [20.0, 20.0])
        self.assertEqual(made.neediest.tolist(), [0, 0])


class EveryRoutine(unittest.TestCase):
    def test_every_school_can_be_followed_beside_every_other(self):
        figures = {"litres": 12.0, "every_days": 4, "mm": 30.0, "flow_l_per_h": 10.0, "hours": 2.0}
        names = [name for name in ROUTINES if name != "balance"]
        together = of_specs(*[spec()] * len(names))
        every = tuple(
            one for n, name in enumerate(names) for one in follow(Routine(name, **figures), since=-9, trees=(n,))
        )
        made = plan_of(together, series_of(), followed=every)
        for n, name in enumerate(names):
            alone = plan_of(of_specs(spec()), series_of(), followed=follow(Routine(name, **figures), since=-9))
            self.assertEqual(days(made, n), days(alone), name)
            self.assertEqual(made.late_days[n], alone.late_days[0], name)


if __name__ == "__main__":
    unittest.main()
