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


def dry_run(tree, texture):
    return {
        "tree": tree | {"plant_factor": 0.5},
        "site": {"texture": texture, "root_depth_max_m": 0.6, "basin_diameter_m": 0.9},
        "mulch_cover": 1.0,
        "delivery": {"ball_share": 0.6, "efficiency": 1.0},
        "routine": {"name": "balance"},
        "weather": [
            {"date": (FIRST + timedelta(days=i)).isoformat(), "eto_mm": 6.0, "tmean_c": 26.0} for i in range(182)
        ],
    }


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
    "mulch_cover": 0.5, "surround": "turf", "dryness_limit": 0.4, "delivery": {"ball_share": None},
    "start": {
        "ball_depletion_l": -3, "ring_depletion_l": -2, "root_spread_beyond_ball_m": 0.05,
        "outside_depletion_fraction": 0.3,
    },
    "routine": {"name": "balance"}, "weather": WET_WEATHER,
}  # fmt: skip
CASE_B = {
    "tree": BALLED, "site": {"texture": "sand"}, "mulch_cover": 1.0,
    "delivery": {"ball_share": 0.3, "efficiency": 0.9},
    "routine": {"name": "fixed", "litres": 40, "every_days": 3}, "weather": WET_WEATHER,
}  # fmt: skip
CASE_C = {
    "tree": BARE_ROOT, "site": {"texture": "silty clay", "basin_diameter_m": 1.2}, "mulch_cover": 0,
    "start": {"ball_depletion_l": 4, "ring_depletion_l": 3},
    "routine": {"name": "none"}, "weather": WET_WEATHER,
}  # fmt: skip


class DrySeason(unittest.TestCase):
    def check(self, tree, texture, per_week, means, total, thirsty):
        result = run(dry_run(tree, texture))
        nets = [day["net_l"] for day in result["days"]]
        fortnights = [[n for n in nets[14 * k : 14 * k + 14] if n > 0] for k in range(13)]
        for number, wanted in zip((1, 2, 3, 4, 5, 7, 9), per_week, strict=True):
            self.assertEqual(len(fortnights[number - 1]) / 2, wanted, f"fortnight {number}")
        for number, wanted in zip((1, 3, 5, 9), means, strict=True):
            found = fortnights[number - 1]
            self.assertAlmostEqual(sum(found) / len(found), wanted, delta=0.005, msg=f"fortnight {number}")
        self.assertAlmostEqual(sum(nets), total, delta=0.005)
        self.assertEqual(result["summary"]["thirsty_days"], thirsty)
        return result

    def test_balled_in_loam(self):
        self.check(
            BALLED, "loam", (6.5, 7.0, 7.0, 3.5, 2.5, 1.5, 1.5), (11.71, 8.89, 27.20, 77.73), 1946.64, 0
        )  # fmt: skip

    def test_container_in_clay(self):
        result = self.check(
            CONTAINER, "clay", (6.5, 7.0, 6.5, 3.5, 2.0, 1.5, 1.5), (4.33, 5.25, 16.14, 33.17), 977.97, 15
        )
        self.assertIn("ball_not_refilled", {finding["code"] for finding in result["findings"]})

    def test_bare_root_in_loam(self):
        self.check(
            BARE_ROOT, "loam", (1.0, 1.0, 0.5, 0.5, 0.5, 0.5, 0.5), (7.73, 13.90, 33.15, 32.42), 303.66, 0
        )  # fmt: skip


class WetRun(unittest.TestCase):
    def check(self, case, net, drained, thirsty, soggy, d_ball, d_ring, radius, outside):
        result = run(case)
        last, summary = result["days"][-1], result["summary"]
        self.assertAlmostEqual(sum(day["net_l"] for day in result["days"]), net, delta=5e-5)
        self.assertAlmostEqual(summary["drained_l"], drained, delta=5e-5)
        self.assertEqual((summary["thirsty_days"], summary["soggy_days"]), (thirsty, soggy))
        self.assertAlmostEqual(last["ball_depletion_l"], d_ball, delta=5e-7)
        self.assertAlmostEqual(last["ring_depletion_l"], d_ring, delta=5e-7)
        self.assertAlmostEqual(last["root_radius_m"], radius, delta=5e-7)
        self.assertAlmostEqual(last["outside_depletion_fraction"], outside, delta=5e-7)
        return result

    def test_a_container_in_clay_under_the_balance(self):
        self.check(CASE_A, 144.4426, 124.2223, 41, 42, 5.548690, -2.689340, 0.303934, 0.312384)

    def test_b_balled_in_sand_under_a_fixed_routine(self):
        result = self.check(CASE_B, 540.0, 403.5478, 25, 1, 9.852830, 3.318000, 0.388612, 0.200846)
        self.assertAlmostEqual(result["summary"]["gross_l"], 600.0)

    def test_c_bare_root_in_silty_clay_unwatered(self):
        result = self.check(CASE_C, 0.0, 104.3206, 9, 7, 3.806283, 3.539807, 0.344904, 0.091838)
        self.assertEqual(result["findings"], [])


if __name__ == "__main__":
    unittest.main()
