"""Routines side by side: the days that each waters on, by its own words; what a season costs under each."""

import json
import unittest
from datetime import date

import numpy as np

from june_shade.core.errors import InputError
from june_shade.core.water import routine
from june_shade.formats import case_json, rehearse_json
from tests.core.test_reproduce import BALLED, dry_run

FIRST = date(2027, 5, 1)
EVERY = [
    {"name": "balance"}, {"name": "none"}, {"name": "fixed", "litres": 20, "every_days": 3},
    {"name": "taper", "litres": 8}, {"name": "heat", "litres": 6}, {"name": "rainfall", "mm": 40},
    {"name": "slow_hose", "flow_l_h": 10, "hours": 2}, {"name": "deep", "every_days": 14},
    {"name": "bare_root", "litres": 12}, {"name": "when_dry", "limit": 0.5},
]  # fmt: skip


def case(*routines, days=70, weather=None, **more):
    given = dry_run(BALLED, "loam", days, **more)
    del given["routine"]
    if weather:
        given["weather"] = [row | weather(n) for n, row in enumerate(given["weather"])]
    return given | {"routines": list(routines)}


def run(given):
    return rehearse_json.run(rehearse_json.parse(json.dumps(given)))["routines"]


def poured(given):
    """Gross litres by day of the one routine of a case."""
    stage, asked = rehearse_json.parse(json.dumps(given))
    return [float(day.gross_l[0]) for day in stage.run(asked)]


class SideBySide(unittest.TestCase):
    def test_no_routine_knows_of_the_one_beside_it(self):
        given = case(*EVERY, weather=lambda n: {"rain_mm": 12.0 if n % 9 == 4 else 0.0, "tmean_c": 18 + n % 12})
        stage, asked = rehearse_json.parse(json.dumps(given))
        together = stage.run(asked)
        for column, one in enumerate(asked):
            alone = routine.run(stage.trees, stage.reach, stage.start, stage.days, one, stage.efficiency, stage.sky)
            for name in ("drained_l", "transpired_l", "ks", "air"):
                np.testing.assert_allclose(
                    [getattr(day.moved, name)[column] for day in together],
                    [getattr(day.moved, name)[0] for day in alone], rtol=1e-9, atol=1e-9, err_msg=f"{one.name} {name}",
                )  # fmt: skip
            np.testing.assert_allclose(
                [day.gross_l[column] for day in together], [day.gross_l[0] for day in alone], rtol=1e-9
            )


class Days(unittest.TestCase):
    """Each school's days, as it words them (common practice)."""

    def on(self, routine, **more):
        return [n for n, litres in enumerate(poured(case(routine, **more))) if litres > 0]

    def test_the_taper_is_daily_then_three_then_two_a_week(self):
        on = self.on({"name": "taper", "litres": 8})
        self.assertEqual(on[:14], list(range(14)))
        self.assertEqual([n for n in on if 14 <= n < 28], [14, 16, 18, 21, 23, 25])
        self.assertEqual([n for n in on if 28 <= n < 42], [28, 31, 35, 38])

    def test_heat_goes_by_the_days_warmth(self):
        warm = poured(case({"name": "heat", "litres": 6}, days=4, weather=lambda n: {"tmean_c": (14, 15, 24, 35)[n]}))
        self.assertEqual(warm, [0.0, 3.0, 6 * 0.7, 6.0])

    def test_rainfall_is_made_up_to_once_a_week(self):
        given = case({"name": "rainfall", "mm": 40}, weather=lambda n: {"rain_mm": 30.0 if n == 10 else 0.0})
        litres = poured(given)
        self.assertEqual([n for n, v in enumerate(litres) if v > 0], list(range(0, 70, 7)))
        self.assertAlmostEqual(litres[14] / litres[21], 10 / 40)

    def test_the_slow_hose_goes_by_season_and_rests_after_a_wet_week(self):
        hose = {"name": "slow_hose", "flow_l_h": 10, "hours": 2}
        hot = self.on(hose, weather=lambda n: {"tmean_c": 25, "rain_mm": 26 if n == 20 else 0})
        self.assertEqual([n for n in hot if n < 21], [0, 2, 4, 7, 9, 11, 14, 16, 18])
        self.assertEqual([n for n in hot if 21 <= n < 32], [28, 30])
        self.assertEqual(self.on(hose, weather=lambda n: {"tmean_c": 12}, days=15), [0, 3, 7, 10, 14])
        self.assertEqual(self.on(hose, weather=lambda n: {"tmean_c": 3, "rain_mm": 30}, days=30), [0, 14, 28])

    def test_bare_roots_are_soaked_then_left_until_leaf_then_weekly(self):
        litres = poured(case({"name": "bare_root", "litres": 12}, days=40,
                             weather=lambda n: {"leaf": 0.1 if n < 20 else 0.6, "eto_mm": 1.0}))  # fmt: skip
        self.assertEqual(litres[0], 24)
        self.assertEqual([n for n, v in enumerate(litres) if v == 12], [20, 27, 34])
        self.assertEqual(sum(litres[1:20]), 0)
        self.assertEqual(self.on({"name": "bare_root", "litres": 12}, days=20), [0, 7, 14])

    def test_deep_and_when_dry_give_what_the_balance_would(self):
        deep = poured(case({"name": "deep", "every_days": 14}))
        self.assertEqual({n for n, v in enumerate(deep) if v > 0}, {14, 28, 42, 56})
        dry = case({"name": "when_dry", "limit": 0.5})
        self.assertGreater(sum(v > 0 for v in poured(dry)), 5)


class Seasons(unittest.TestCase):
    def test_the_balance_and_a_calendar_are_those_of_the_balance_command(self):
        for one in EVERY[:3]:
            given = case(one)
            alone = case_json.run(case_json.parse(json.dumps(
                {k: v for k, v in given.items() if k != "routines"} | {"routine": one}
            )))["summary"]  # fmt: skip
            (found,) = run(given)
            for name in ("waterings", "thirsty_days", "soggy_days"):
                self.assertEqual(found[name], alone[name], (one, name))
            for name in ("gross_l", "drained_l"):
                self.assertAlmostEqual(found[name], alone[name])

    def test_all_ten_stand_side_by_side_in_the_order_asked_for(self):
        found = run(case(*EVERY))
        self.assertEqual([row["name"] for row in found], [row["name"] for row in EVERY])
        for row in found:
            self.assertAlmostEqual(sum(m["gross_l"] for m in row["months"]), row["gross_l"])
            self.assertEqual(sum(m["waterings"] for m in row["months"]), row["waterings"])
            self.assertEqual([m["month"] for m in row["months"]], ["2027-05", "2027-06", "2027-07"])
        none = found[1]
        self.assertEqual((none["waterings"], none["gross_l"]), (0, 0))
        self.assertIn("too_dry", none["reasons"])
        self.assertGreater(none["longest_thirst_days"], 7)
        self.assertEqual(list(found[0]["reasons"]), [])

    def test_drowning_and_wasting_are_reasons(self):
        (flood,) = run(case({"name": "fixed", "litres": 80, "every_days": 1}))
        self.assertIn("wasteful", flood["reasons"])
        clay = case({"name": "fixed", "litres": 60, "every_days": 1})
        clay["site"]["texture"] = "clay"
        self.assertIn("too_wet", run(clay)[0]["reasons"])

    def test_an_established_tree_tells_since_when(self):
        grown = case({"name": "balance"}, start={"root_spread_beyond_ball_m": 2.0})
        (found,) = run(grown)
        self.assertEqual((found["establishment"], found["established_on"]), (1.0, FIRST.isoformat()))
        (young,) = run(case({"name": "balance"}))
        self.assertIsNone(young["established_on"])
        self.assertLess(young["establishment"], 1)

    def test_a_leafless_day_ends_a_run_of_thirst(self):
        leaf = lambda n: {"leaf": 0.1 if n == 40 else 1.0}  # noqa: E731
        (whole,), (broken,) = run(case({"name": "none"})), run(case({"name": "none"}, weather=leaf))
        self.assertLess(broken["longest_thirst_days"], whole["longest_thirst_days"])

    def test_what_can_not_be_rehearsed_names_its_field(self):
        for asked, field in (
            ({"name": "prayer"}, "routines[0].name"), ({"name": "taper"}, "routines[0].litres"),
            ({"name": "when_dry", "limit": 40}, "routines[0].limit"),
            ({"name": "none", "litres": 3}, "routines[0].litres"),
            ({"name": "deep", "every_days": 0.5}, "routines[0].every_days"),
        ):  # fmt: skip
            with self.assertRaises(InputError) as refused:
                run(case(asked))
            self.assertEqual(refused.exception.field, field)


if __name__ == "__main__":
    unittest.main()
