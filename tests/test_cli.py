"""The headless commands: answers on standard output, one line on standard error and exit 2 else.

They run in this process, one of them also as a process of its own.
"""

import contextlib
import csv
import io
import json
import math
import subprocess
import sys
import tempfile
import unittest
from datetime import date, timedelta
from pathlib import Path
from unittest import mock

from june_shade import cli

CASE = {
    "tree": {
        "kind": "container", "caliper_m": 0.03, "ball_diameter_m": 0.44, "ball_height_m": 0.395,
        "crown_diameter_m": 1.3,
    },
    "site": {"texture": "silty clay"},
    "routine": {"name": "balance"},
    "weather": [
        {"date": (date(2027, 5, 1) + timedelta(days=i)).isoformat(), "eto_mm": 6.0, "tmean_c": 25.0} for i in range(10)
    ],
}  # fmt: skip
DAYS = """date,tmin_c,tmax_c,rain_mm,dew_point_c,radiation_w_m2,wind_mph
2026-07-01,12,31,0,9,300,5
2026-07-02,13,33,2,,,
"""
HELD = {
    "date", "net_l", "gross_l", "rain_l", "ball_depletion_l", "near_depletion_l", "far_depletion_l", "dryness",
    "ks", "ks_with_water", "soggy", "outside_l", "reach",
    "drained_l", "transpired_l", "evaporated_l", "joined_l", "root_radius_m", "uptake_from_ball",
    "outside_depletion_fraction",
}  # fmt: skip


MULCH = {
    "trees": [{"x_m": 0, "y_m": 0, "trunk_diameter_m": 0.06, "outer_radius_m": 0.9}], "depth_m": 0.075,
    "material": "wood_chips",
}  # fmt: skip
HOLE = {"kind": "balled", "ball_diameter_m": 0.61, "ball_height_m": 0.366, "raise_m": 0.05, "width_ratio": 2.5}


def june_shade(*words: str, given: str = "") -> subprocess.CompletedProcess:
    out, err, typed = io.StringIO(), io.StringIO(), io.TextIOWrapper(io.BytesIO(given.encode()))
    with (
        mock.patch.object(sys, "argv", ["june-shade", *words]), mock.patch.object(sys, "stdin", typed),
        contextlib.redirect_stdout(out), contextlib.redirect_stderr(err),
    ):  # fmt: skip
        try:
            cli.main()
        except SystemExit as e:
            code = e.code
    return subprocess.CompletedProcess(words, int(code or 0), out.getvalue(), err.getvalue())


class CommandTest(unittest.TestCase):
    def refused(self, answer: subprocess.CompletedProcess, *words: str) -> None:
        self.assertEqual(answer.returncode, 2, answer.stderr)
        self.assertEqual(answer.stdout, "")
        self.assertEqual(len(answer.stderr.splitlines()), 1, answer.stderr)
        for word in words:
            self.assertIn(word, answer.stderr)


DRIP = {
    "ball_radius_m": 0.3, "roots_radius_m": 0.9, "trunk_diameter_m": 0.05, "volume_l": 20, "ks_mm_h": 13.2,
    "intake_mm_h": 13.2,
    "emitters": [{"x_m": 0.2, "y_m": 0.0, "flow_l_h": 4.0}, {"x_m": -0.2, "y_m": 0, "flow_l_h": 4}],
}  # fmt: skip
LATERAL = {
    "inlet_head_m": 14.0,
    "tubes": [{"from": "inlet", "to": "a", "length_m": 5.0, "inside_diameter_mm": 13.6, "rise_m": 0.5}],
    "emitters": [
        {"node": "a", "k_l_h": 1.2, "exponent": 0.5}, {"node": "a", "flow_l_h": 2.0, "min_head_m": 5, "max_head_m": 35},
    ],
    "emitter_cv": 0.05, "emitters_per_tree": 4,
}  # fmt: skip
SQUARE = {"type": "Polygon", "coordinates": [[[-9, -9], [9, -9], [9, 9], [-9, 9], [-9, -9]]]}
BOW = {"type": "Polygon", "coordinates": [[[0, 0], [1, 1], [1, 0], [0, 1], [0, 0]]]}


def changed(case: dict, path: str, value) -> dict:
    """A copy of a case with one value changed: `emitters.0.flow_l_h`."""
    made = json.loads(json.dumps(case))
    *way, last = path.split(".")
    at = made
    for step in way:
        at = at[int(step)] if isinstance(at, list) else at[step]
    at[int(last) if isinstance(at, list) else last] = value
    return made


class AProcess(unittest.TestCase):
    def test_a_command_is_a_process_like_any_other(self):
        words = [sys.executable, "-m", "june_shade.cli", "hole"]
        for given, code in ((json.dumps(HOLE), 0), ("{", 2)):
            answer = subprocess.run([*words, "-"], input=given, capture_output=True, text=True, cwd="/")
            same = june_shade("hole", "-", given=given)
            self.assertEqual((answer.returncode, answer.stdout, answer.stderr), (code, same.stdout, same.stderr))


class CatchTest(CommandTest):
    CASE = {"minutes": 15, "nominal_l_h": 4.0, "caught_ml": [980, 1010, 0, 1020]}

    def test_it_answers_in_the_words_of_the_format(self):
        answer = june_shade("catch", "-", given=json.dumps(self.CASE))
        self.assertEqual(answer.returncode, 0, answer.stderr)
        found = json.loads(answer.stdout)
        self.assertEqual(
            set(found),
            {"flows_l_h", "mean_l_h", "low_quarter_l_h", "distribution_uniformity", "coefficient_of_variation",
             "of_nominal", "blocked", "weak", "leaking"},
        )  # fmt: skip
        self.assertEqual((found["blocked"], found["weak"], found["leaking"]), ([3], [], []))
        self.assertAlmostEqual(found["of_nominal"], 3.01 / 4)

    def test_nothing_caught_has_no_evenness(self):
        found = json.loads(june_shade("catch", "-", given=json.dumps(self.CASE | {"caught_ml": [0, 0]})).stdout)
        self.assertIsNone(found["distribution_uniformity"])
        self.assertIsNone(found["coefficient_of_variation"])

    def test_bad_input_names_its_field(self):
        for path, value, field in (
            ("minutes", 0, "minutes"), ("nominal_l_h", -1, "nominal_l_h"), ("caught_ml", [], "caught_ml"),
            ("caught_ml.1", -3, "caught_ml[1]"), ("caught_ml.2", "much", "caught_ml[2]"), ("cups", 4, "cups"),
        ):  # fmt: skip
            with self.subTest(field=field):
                self.refused(june_shade("catch", "-", given=json.dumps(changed(self.CASE, path, value))), field)


class Drip(CommandTest):
    def answer(self, case: dict) -> dict:
        answer = june_shade("drip", "-", given=json.dumps(case))
        self.assertEqual(answer.returncode, 0, answer.stderr)
        return json.loads(answer.stdout)

    def test_it_answers_in_the_words_of_the_format(self):
        found = self.answer(DRIP)
        self.assertEqual(set(found), {"wetted", "ball_share", "wetted_fraction", "run_minutes", "findings"})
        self.assertEqual([set(w) for w in found["wetted"]], [{"diameter_m", "depth_m"}] * 2)
        self.assertAlmostEqual(found["run_minutes"], 150.0)
        codes = [f["code"] for f in found["findings"]]
        self.assertEqual(codes, ["wetted_fraction_low", "rate_over_intake"])

    def test_findings_follow_the_case(self):
        for path, value, code in (
            ("emitters", [{"x_m": 2, "y_m": 2, "flow_l_h": 4}], "dry_ball"),
            ("emitters", [{"x_m": 0.35, "y_m": 0, "flow_l_h": 4}], "mostly_beside_ball"),
            ("roots_radius_m", 0.35, "wetted_fraction_high"),
            ("volume_l", 1, "run_time_short"),
            ("volume_l", 90, "run_time_long"),
            ("ks_mm_h", 0.3, "shallow_bulb"),
            ("obstacles", [SQUARE], "no_root_ground"),
            ("trunk_diameter_m", 0.5, "emitter_in_trunk"),
        ):  # fmt: skip
            with self.subTest(code):
                self.assertIn(code, [f["code"] for f in self.answer(DRIP | {path: value})["findings"]])

    def test_bad_input_names_its_field(self):
        for path, value, field in (
            ("emitters.1.flow_l_h", 0, "emitters[1].flow_l_h"),
            ("emitters", [], "emitters"),
            ("volume_l", -1, "volume_l"),
            ("uptake_from_ball", 40, "uptake_from_ball"),
            ("obstacles", [{"type": "Point", "coordinates": [0, 0]}], "obstacles[0].type"),
            ("obstacles", [SQUARE, {"type": "Polygon", "coordinates": [[[0, 0], [1, 0], [1, 1], [0, 1]]]}],
             "obstacles[1].coordinates[0]"),
            ("obstacles", [BOW], "obstacles[0]"),
            ("emitter", [], "emitter"),
        ):  # fmt: skip
            with self.subTest(path):
                self.refused(june_shade("drip", "-", given=json.dumps(changed(DRIP, path, value))), field)


class Lateral(CommandTest):
    def answer(self, case: dict) -> dict:
        answer = june_shade("lateral", "-", given=json.dumps(case))
        self.assertEqual(answer.returncode, 0, answer.stderr)
        return json.loads(answer.stdout)

    def test_it_answers_in_the_words_of_the_format(self):
        found = self.answer(LATERAL)
        self.assertEqual(set(found), {"nodes", "tubes", "emission_uniformity_percent", "findings"})
        self.assertEqual(set(found["nodes"]["a"]), {"head_m", "outflow_l_h"})
        self.assertEqual(set(found["tubes"][0]), {"flow_l_h", "velocity_m_s", "loss_m"})
        self.assertEqual(found["findings"], [])
        self.assertAlmostEqual(found["nodes"]["a"]["head_m"], 13.5 - found["tubes"][0]["loss_m"], places=9)
        self.assertAlmostEqual(found["nodes"]["a"]["outflow_l_h"], found["tubes"][0]["flow_l_h"], places=4)
        self.assertAlmostEqual(found["emission_uniformity_percent"], 100 * (1 - 1.27 * 0.05 / 2), places=3)

    def test_friction_by_either_school(self):
        by_hazen = self.answer(LATERAL | {"friction": {"hazen_williams": 150}})["tubes"][0]["loss_m"]
        cold = self.answer(LATERAL | {"friction": "darcy_weisbach", "temperature_c": 5})["tubes"][0]["loss_m"]
        warm = self.answer(LATERAL)["tubes"][0]["loss_m"]
        self.assertLess(by_hazen, warm)
        self.assertLess(warm, cold)

    def test_findings_follow_the_case(self):
        for path, value, code in (
            ("inlet_head_m", 0, "no_head"), ("inlet_head_m", 4, "head_low"), ("inlet_head_m", 60, "head_high"),
            ("emitters.1.flow_l_h", 900, "velocity_high"),
        ):  # fmt: skip
            with self.subTest(code):
                found = self.answer(changed(LATERAL, path, value))
                self.assertIn(code, [f["code"] for f in found["findings"]])

    def test_bad_input_names_its_field(self):
        for path, value, field in (
            ("tubes.0.from", "source", "tubes"),
            ("tubes.0.length_m", 0, "tubes[0].length_m"),
            ("emitters.0.node", "far", "emitters[0].node"),
            ("emitters.0", {"node": "a", "k_l_h": 1, "flow_l_h": 2, "min_head_m": 5}, "emitters[0].k_l_h"),
            ("emitters.1", {"node": "a", "flow_l_h": 2}, "emitters[1].min_head_m"),
            ("emitters_per_tree", 0, "emitters_per_tree"),
            ("friction", "manning", "friction"),
            ("friction", {"hazen_williams": 0}, "friction.hazen_williams"),
            ("inlet_head_m", -3, "inlet_head_m"),
        ):  # fmt: skip
            with self.subTest(path):
                self.refused(june_shade("lateral", "-", given=json.dumps(changed(LATERAL, path, value))), field)


class Balance(CommandTest):
    def test_it_prints_days_summary_and_findings(self):
        with tempfile.NamedTemporaryFile("w", suffix=".json") as file:
            json.dump(CASE, file)
            file.flush()
            answer = june_shade("balance", file.name)
        self.assertEqual(answer.returncode, 0, answer.stderr)
        found = json.loads(answer.stdout)
        self.assertEqual(len(found["days"]), 10)
        self.assertEqual(set(found["days"][0]), HELD)
        self.assertEqual(set(found["summary"]), {"waterings", "gross_l", "drained_l", "thirsty_days", "soggy_days"})
        self.assertEqual(found["days"][0]["joined_l"], 0)
        watered = [day for day in found["days"] if day["net_l"] > 0]
        self.assertEqual(found["summary"]["waterings"], len(watered))
        self.assertGreater(len(watered), 0)

    def test_it_reads_standard_input(self):
        self.assertEqual(june_shade("balance", "-", given=json.dumps(CASE)).returncode, 0)

    def test_bad_input_is_one_line_that_names_the_field(self):
        broken = {
            "tree.caliper_m": {"tree": CASE["tree"] | {"caliper_m": -0.05}},
            "tree.ball_height_m": {"tree": CASE["tree"] | {"ball_height_m": "deep"}},
            "site.texture": {"site": {"texture": "gumbo"}},
            "mulch_cover": {"mulch_cover": 75},
            "weather[1].date": {"weather": [CASE["weather"][0], CASE["weather"][2]]},
            "weather[0].eto_mm": {"weather": [{"date": "2027-05-01", "tmean_c": 20}]},
            "routine.name": {"routine": {"name": "often"}},
            "routine.litres": {"routine": {"name": "fixed", "every_days": 3}},
            "start.ball_depletion_l": {"start": {"ball_depletion_l": 500}},
            "colour": {"colour": "green"},
        }
        for field, change in broken.items():
            with self.subTest(field):
                self.refused(june_shade("balance", "-", given=json.dumps(CASE | change)), field)

    def test_what_is_no_json_or_not_there_is_one_line_too(self):
        self.refused(june_shade("balance", "-", given="{"), "JSON")
        self.refused(june_shade("balance", "-", given='{"tree": NaN}'), "NaN")
        self.refused(june_shade("balance", "/nowhere/case.json"), "/nowhere/case.json")

    def test_bad_words_on_the_command_line_are_one_line_too(self):
        self.refused(june_shade("balance"), "case")
        self.refused(june_shade("balance", "-", "--colour"), "--colour")
        self.refused(june_shade("evaporate"), "evaporate")


class Eto(CommandTest):
    def test_it_prints_each_day_and_how_it_was_made(self):
        answer = june_shade("eto", "-", "--latitude", "40", "--elevation", "1500", "--wind-height", "10", given=DAYS)
        self.assertEqual(answer.returncode, 0, answer.stderr)
        rows = list(csv.DictReader(io.StringIO(answer.stdout)))
        self.assertEqual([r["method"] for r in rows], ["penman_monteith", "hargreaves"])
        self.assertTrue(all(2 < float(r["eto_mm"]) < 12 for r in rows))

    def test_bad_input_names_the_line(self):
        place = ("--latitude", "40", "--elevation", "1500")
        self.refused(june_shade("eto", "-", *place, given="date,tmin_c,tmax_c\n2026-07-01,30,12\n"), "line 2")
        self.refused(june_shade("eto", "-", *place, given="date,tmin_c,tmax_c\n2026-07-01,12,\n"), "line 2")
        self.refused(june_shade("eto", "-", *place, given="day,low\n1,2\n"), "date")
        self.refused(june_shade("eto", "-", "--latitude", "140", "--elevation", "0", given=DAYS), "latitude")
        self.refused(june_shade("eto", "-", "--latitude", "north", "--elevation", "0", given=DAYS), "latitude")
        self.refused(june_shade("eto", "-", "--elevation", "0", given=DAYS), "latitude")
        self.refused(june_shade("eto", "-", *place, "--method", "guess", given=DAYS), "method")

    def test_the_file_stays_as_it_was(self):
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "days.csv"
            path.write_text(DAYS)
            june_shade("eto", str(path), "--latitude", "40", "--elevation", "1500")
            self.assertEqual(path.read_text(), DAYS)
            self.assertEqual(list(Path(folder).iterdir()), [path])


class Mulch(CommandTest):
    def test_one_ring_by_hand(self):
        answer = june_shade("mulch", "-", given=json.dumps(MULCH))
        self.assertEqual(answer.returncode, 0, answer.stderr)
        found = json.loads(answer.stdout)
        self.assertEqual(set(found), {"area_m2", "settled_l", "loose_l", "carried", "findings"})
        r0, r1, r2 = 0.11, 0.26, 0.9
        rise = (r1**3 / 3 - r0 * r1**2 / 2 + r0**3 / 6) / (r1 - r0)
        self.assertAlmostEqual(found["settled_l"], 1000 * 2 * math.pi * 0.075 * ((r2**2 - r1**2) / 2 + rise), places=4)
        self.assertAlmostEqual(found["area_m2"], math.pi * (r2**2 - r0**2), places=6)
        self.assertAlmostEqual(found["loose_l"], found["settled_l"] / 0.67)  # chips lose a third (common practice)
        self.assertEqual(found["carried"]["barrow_85_l"], math.ceil(found["loose_l"] / 85))
        self.assertAlmostEqual(found["carried"]["m3"] * 1000, found["loose_l"])
        self.assertEqual(found["findings"], [])

    def test_findings_and_paving(self):
        east = {"type": "Polygon", "coordinates": [[[0, -2], [2, -2], [2, 2], [0, 2], [0, -2]]]}
        small = {"x_m": 0, "y_m": 0, "trunk_diameter_m": 0, "outer_radius_m": 0.4, "clear_gap_m": 0.02}
        bad = MULCH | {"depth_m": 0.15, "obstacles": [east], "trees": [small]}
        found = json.loads(june_shade("mulch", "-", given=json.dumps(bad)).stdout)
        self.assertEqual([f["code"] for f in found["findings"]], ["gap_small", "ring_small", "too_deep"])
        self.assertAlmostEqual(found["area_m2"], math.pi * (0.4**2 - 0.02**2) / 2, places=6)

    def test_a_bad_case_is_told_in_one_line(self):
        self.refused(june_shade("mulch", "-", given=json.dumps(MULCH | {"depth_m": 0})), "depth_m")


class Hole(CommandTest):
    def test_one_hole_by_hand(self):
        found = json.loads(june_shade("hole", "-", given=json.dumps(HOLE)).stdout)
        top, base, depth = 1.525, 0.71, 0.316
        self.assertAlmostEqual(found["hole_l"], 1000 * math.pi * depth / 12 * (top**2 + top * base + base**2))
        self.assertAlmostEqual(found["stake_mark_m"], depth)
        self.assertAlmostEqual(found["spoil_l"], found["ball_buried_l"])
        self.assertAlmostEqual(found["ball_weight_kg"], 1.7 * found["ball_volume_l"])
        self.assertEqual([f["code"] for f in found["findings"]], ["machine"])

    def test_defaults_and_bare_roots(self):
        bare = {"kind": "bare_root", "ball_diameter_m": 0.5, "ball_height_m": 0.3}
        found = json.loads(june_shade("hole", "-", given=json.dumps(bare)).stdout)
        self.assertEqual((found["top_diameter_m"], found["base_diameter_m"]), (1.25, 0.6))
        self.assertEqual((found["ball_volume_l"], found["ball_weight_kg"]), (0, 0))
        self.assertAlmostEqual(found["backfill_l"], found["hole_l"])

    def test_a_bad_case_is_told_in_one_line(self):
        self.refused(june_shade("hole", "-", given=json.dumps(HOLE | {"width_ratio": 0.9})), "width_ratio")


if __name__ == "__main__":
    unittest.main()
