"""The headless commands, as a process: answers on standard output, one line on standard error and exit 2 else."""

import csv
import io
import json
import subprocess
import sys
import tempfile
import unittest
from datetime import date, timedelta
from pathlib import Path

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
    "date", "net_l", "gross_l", "rain_l", "ball_depletion_l", "ring_depletion_l", "dryness", "ks", "soggy",
    "drained_l", "transpired_l", "evaporated_l", "joined_l", "root_radius_m", "uptake_from_ball",
    "outside_depletion_fraction",
}  # fmt: skip


def june_shade(*words: str, given: str = "") -> subprocess.CompletedProcess:
    return subprocess.run(
        [sys.executable, "-m", "june_shade.cli", *words], input=given, capture_output=True, text=True, cwd="/"
    )


class CommandTest(unittest.TestCase):
    def refused(self, answer: subprocess.CompletedProcess, *words: str) -> None:
        self.assertEqual(answer.returncode, 2, answer.stderr)
        self.assertEqual(answer.stdout, "")
        self.assertEqual(len(answer.stderr.splitlines()), 1, answer.stderr)
        for word in words:
            self.assertIn(word, answer.stderr)


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


if __name__ == "__main__":
    unittest.main()
