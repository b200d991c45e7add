"""The specification's two tables: a dry season under the balance, a wet run under three routines.

The figures are the specification's own ("What it must reproduce"); counts are exact, the rest holds to the
digits shown there.
"""

import json
import unittest
from datetime import date, timedelta

from june_shade.formats import case_json

BALLED = {
    "kind": "balled", "caliper_m": 0.0508, "ball_diameter_m": 0.61, "ball_height_m": 0.366, "crown_diameter_m": 1.8,
}  # fmt: skip
CONTAINER = {
    "kind": "container", "caliper_m": 0.03, "ball_diameter_m": 0.44, "ball_height_m": 0.395, "crown_diameter_m": 1.3,
}  # fmt: skip
BARE_ROOT = {
    "kind": "bare_root", "caliper_m": 0.02, "ball_diameter_m": 0.5, "ball_height_m": 0.3, "crown_diameter_m": 0.6,
}  # fmt: skip
FIRST = date(2027, 5, 1)


def run(case):
    return case_json.run(case_json.parse(json.dumps(case)))


def dry_run(tree, texture, days=182, eto_mm=6.0, tmean_c=26.0, **more):
    """A dry run as the specification sets it; more: parts of the case laid over it."""
    return {
        "tree": tree | {"plant_factor": 0.5},
        "site": {"texture": texture, "root_depth_max_m": 0.6, "basin_diameter_m": 0.9},
        "mulch_cover": 1.0,
        "routine": {"name": "balance"},
        "weather": [
            {"date": (FIRST + timedelta(days=i)).isoformat(), "eto_mm": eto_mm, "tmean_c": tmean_c} for i in range(days)
        ],
    } | more


RAIN = (0, 0, 0, 14, 0, 0, 35, 0, 0, 0, 1.5)
TEMPERATURE = (12, 18, 24, 31, 36, 9, 3)
WET_WEATHER = [
    {
        "date": (FIRST + timedelta(days=i)).isoformat(),
        "eto_mm": 3 + 0.5 * ((7 * i) % 11),
        "rain_mm": RAIN[i % 11],
        "tmean_c": TEMPERATURE[i % 7],
        "leaf": min(1, 0.4 + 0.05 * i),
    }
    for i in range(45)
]
CASE_A = {
    "tree": CONTAINER | {"plant_factor": 0.6, "microclimate": 1.2},
    "site": {"texture": "clay", "root_depth_max_m": 0.5, "basin_diameter_m": 0.9},
    "mulch_cover": 0.5, "surround": "turf", "dryness_limit": 0.4,
    "start": {
        "ball_depletion_l": -3, "near_depletion_l": -2, "root_spread_beyond_ball_m": 0.05,
        "outside_depletion_fraction": 0.3,
    },
    "routine": {"name": "balance"}, "weather": WET_WEATHER,
}  # fmt: skip
CASE_B = {
    "tree": BALLED, "site": {"texture": "sand"}, "mulch_cover": 1.0,
    "delivery": {"ball_share": 0.3, "ring_wetted_share": 0.5, "efficiency": 0.9},
    "routine": {"name": "fixed", "litres": 40, "every_days": 3}, "weather": WET_WEATHER,
}  # fmt: skip
CASE_C = {
    "tree": BARE_ROOT, "site": {"texture": "silty clay", "basin_diameter_m": 1.2}, "mulch_cover": 0,
    "start": {"ball_depletion_l": 4, "near_depletion_l": 3},
    "routine": {"name": "none"}, "weather": WET_WEATHER,
}  # fmt: skip
CASE_D = {
    "tree": BALLED | {"depletion_fraction": 0.65}, "site": {"texture": "clay loam", "basin_diameter_m": 0.7},
    "mulch_cover": 0.8, "routine": {"name": "balance"}, "weather": WET_WEATHER,
    "start": {
        "ball_depletion_l": 2, "near_depletion_l": 5, "far_depletion_l": 30, "root_spread_beyond_ball_m": 0.45,
        "outside_depletion_fraction": 0.5,
    },
}  # fmt: skip
CASE_E = {
    "tree": BALLED, "site": {"texture": "clay", "basin_diameter_m": 0.9}, "mulch_cover": 1.0,
    "routine": {"name": "fixed", "litres": 60, "every_days": 1}, "weather": WET_WEATHER,
}  # fmt: skip
CASE_F = {
    "tree": BARE_ROOT | {"crown_diameter_m": 1.2}, "site": {"texture": "sandy loam", "basin_diameter_m": 1.0},
    "mulch_cover": 0.5, "routine": {"name": "fixed", "litres": 12, "every_days": 6}, "weather": WET_WEATHER,
    "start": {"ball_depletion_l": 3, "near_depletion_l": 10, "root_spread_beyond_ball_m": 0.1},
}  # fmt: skip
ESTABLISHED = {"root_spread_beyond_ball_m": 14.5 * 0.0508}


class DrySeason(unittest.TestCase):
    def check(self, case, waterings, total, thirsty, near, far, radius, least, per_week=(), means=()):
        result = run(case)
        nets = [day["net_l"] for day in result["days"]]
        fortnights = [[n for n in nets[14 * k : 14 * k + 14] if n > 0] for k in range(13)]
        for number, wanted in zip((1, 2, 3, 4, 5, 7, 9), per_week, strict=False):
            self.assertEqual(len(fortnights[number - 1]) / 2, wanted, f"fortnight {number}")
        for number, wanted in zip((1, 3, 5, 9), means, strict=False):
            found = fortnights[number - 1]
            if wanted is None:
                self.assertEqual(found, [], f"fortnight {number}")
                continue
            self.assertAlmostEqual(sum(found) / len(found), wanted, delta=0.005, msg=f"fortnight {number}")
        last = result["days"][-1]
        self.assertEqual(result["summary"]["waterings"], waterings)
        self.assertAlmostEqual(sum(nets), total, delta=0.005)
        self.assertEqual(result["summary"]["thirsty_days"], thirsty)
        self.assertAlmostEqual(last["near_depletion_l"], near, delta=5e-5)
        self.assertAlmostEqual(last["far_depletion_l"], far, delta=5e-5)
        self.assertAlmostEqual(last["root_radius_m"], radius, delta=5e-7)
        self.assertAlmostEqual(min(day["ks_with_water"] for day in result["days"]), least, delta=5e-5)
        return {finding["code"] for finding in result["findings"]}

    def test_balled_in_loam(self):
        found = self.check(
            dry_run(BALLED, "loam"), 79, 1320.69, 54, 19.6595, 196.7548, 1.041600, 0.7140,
            (6.5, 7.0, 7.0, 3.5, 2.5, 2.0, 1.5), (11.26, 9.01, 20.46, 25.86),
        )  # fmt: skip
        self.assertIn("roots_outgrown", found)

    def test_the_same_basin_widened_in_time_leaves_no_thirsty_day(self):
        wide = {"texture": "loam", "root_depth_max_m": 0.6, "basin_diameter_m": 1.8}
        result = run(dry_run(BALLED, "loam", site=wide))
        self.assertEqual(result["summary"]["thirsty_days"], 0)

    def test_container_in_clay(self):
        self.check(
            dry_run(CONTAINER, "clay"), 63, 940.58, 0, 11.7237, 24.0065, 0.655000, 0.9599,
            (6.5, 7.0, 4.5, 2.5, 2.0, 1.0, 1.5), (9.39, 9.37, 17.56, 27.18),
        )  # fmt: skip

    def test_bare_root_in_loam(self):
        self.check(
            dry_run(BARE_ROOT, "loam"), 9, 215.55, 0, 15.1974, 0, 0.540000, 1.0,
            (1.5, 0.5, 0.5, 0.0, 0.5, 0.5, 0.0), (6.44, 19.06, 36.83, None),
        )  # fmt: skip

    def test_an_established_tree_with_a_ring_off_its_ball(self):
        ring = {"ball_share": 0.0, "ring_wetted_share": 0.6}
        site = {"texture": "loam", "root_depth_max_m": 0.6}
        self.check(
            dry_run(BALLED, "loam", 120, site=site, delivery=ring, start=ESTABLISHED),
            11, 878.84, 0, 21.5739, 86.4673, 1.041600, 0.9505,
        )  # fmt: skip

    def test_an_evergreen_winter_in_sand(self):
        self.check(dry_run(BALLED, "sand", 150, 1.2, 3.0), 10, 99.19, 0, 1.3172, 0, 0.305000, 1.0)


class WetRun(unittest.TestCase):
    def check(self, case, net, drained, thirsty, soggy, d_ball, d_near, d_far, radius, outside):
        result = run(case)
        last, summary = result["days"][-1], result["summary"]
        self.assertAlmostEqual(sum(day["net_l"] for day in result["days"]), net, delta=5e-5)
        self.assertAlmostEqual(summary["drained_l"], drained, delta=5e-5)
        self.assertEqual((summary["thirsty_days"], summary["soggy_days"]), (thirsty, soggy))
        for name, wanted in (
            ("ball_depletion_l", d_ball), ("near_depletion_l", d_near), ("far_depletion_l", d_far),
            ("root_radius_m", radius), ("outside_depletion_fraction", outside),
        ):  # fmt: skip
            self.assertAlmostEqual(last[name], wanted, delta=5e-7, msg=name)
        return result

    def test_a_container_in_clay_under_the_balance(self):
        self.check(CASE_A, 339.2764, 29.1541, 1, 6, 1.814169, 0.414659, 0, 0.381059, 0.036923)

    def test_b_balled_in_sand_under_a_fixed_routine(self):
        result = self.check(CASE_B, 540.0, 386.8510, 20, 4, 9.290060, 2.504223, 3.466943, 0.401217, 0.200846)
        self.assertAlmostEqual(result["summary"]["gross_l"], 600.0)

    def test_c_bare_root_in_silty_clay_unwatered(self):
        result = self.check(CASE_C, 0.0, 12.7514, 3, 4, 1.197683, 2.104665, 0, 0.359771, 0.091838)
        self.assertEqual(result["findings"], [])

    def test_d_balled_in_clay_loam_past_its_basin(self):
        self.check(CASE_D, 36.5129, 34.6598, 0, 0, 5.464627, 5.349942, 27.590790, 0.874972, 0.085994)

    def test_e_balled_in_clay_drowned(self):
        self.check(CASE_E, 2700.0, 2163.7629, 0, 45, -7.701400, -7.081700, 0, 0.323725, 0.011538)

    def test_f_bare_root_in_sandy_loam_under_a_fixed_routine(self):
        self.check(CASE_F, 96.0, 10.0567, 2, 0, 1.709503, 8.033569, 0, 0.466782, 0.043145)


if __name__ == "__main__":
    unittest.main()
