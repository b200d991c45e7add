"""The register as CSV: every unit of every measure, there and back; cells that can't be, by line and column."""

import csv
import unittest
from datetime import date
from uuid import uuid4

from hypothesis import given
from hypothesis import strategies as st

from june_shade.core import fields
from june_shade.core.errors import InputError
from june_shade.core.units import LITRES_PER_US_GALLON, METRES_PER_FOOT, METRES_PER_INCH
from june_shade.formats import trees_csv

MEASURED = sorted(f.name for f in fields.TREE if f.unit in ("m", "L", "L/h", "L/h/m"))


def read(text):
    return trees_csv.read(text.encode())


def within(field):
    found = fields.limits_of(field)
    low = max(found.low or 0.0, fields.least_of(fields.BY_NAME[field].unit))
    return st.floats(low, found.high if found.high is not None else 1e3)


class RoundTrip(unittest.TestCase):
    @given(st.data())
    def test_any_tree_comes_back_as_it_was_written(self, data):
        tree = dict.fromkeys(trees_csv.FIELDS)
        tree |= {"id": uuid4(), "site": "Hill", "tag": "H, 1", "place": 'by the "gate"', "planted_on": date(2026, 4, 1)}
        tree |= {name: data.draw(within(name), name) for name in MEASURED}
        found = read(trees_csv.write([tree]))
        self.assertEqual((found.refused, found.ignored), ((), ()))
        self.assertEqual(found.rows[0].values, tree)

    @given(st.floats(0.05, 2.5))
    def test_a_length_means_the_same_in_every_unit(self, metres):
        for unit, factor in (("cm", 0.01), ("mm", 0.001), ("in", METRES_PER_INCH), ("ft", METRES_PER_FOOT)):
            found = read(f"site,tag,ball_diameter_{unit}\nHill,1,{metres / factor!r}\n")
            self.assertAlmostEqual(found.rows[0].values["ball_diameter_m"], metres, places=9)

    @given(st.floats(0.1, 190))
    def test_so_does_a_volume_and_a_flow(self, litres):
        gallons = litres / LITRES_PER_US_GALLON
        volume = read(f"site,tag,reservoir_gal\nHill,1,{gallons!r}\n").rows[0].values["reservoir_l"]
        flow = read(f"site,tag,emitter_flow_gal_per_h\nHill,1,{gallons!r}\n").rows[0].values["emitter_flow_l_per_h"]
        self.assertAlmostEqual(volume, litres, places=9)
        self.assertAlmostEqual(flow, litres, places=9)

    def test_a_flow_a_meter_is_no_length(self):
        self.assertIn("soaker_flow_l_per_h_m", trees_csv.COLUMNS)
        self.assertNotIn("soaker_flow_l_per_h_cm", trees_csv.COLUMNS)


class Template(unittest.TestCase):
    def test_its_columns_are_enough_for_a_tree_and_all_are_understood(self):
        for units, measures in (("us", "2,24,16"), ("metric", "5.08,60.96,40.64")):
            line = f"Hill,1,north,Gate,Quercus macrocarpa,balled,{measures},2026-04-12\n"
            found = read(trees_csv.template(units) + line)
            self.assertEqual((found.ignored, found.refused), ((), ()))
            values = found.rows[0].values
            self.assertAlmostEqual(values["caliper_m"], 0.0508)
            needed = {f.name for f in fields.TREE if f.empty is fields.GIVEN}
            self.assertLessEqual(needed, set(values))


class Spreadsheets(unittest.TestCase):
    """Words that a spreadsheet would take for a formula (OWASP, CSV injection)."""

    def test_they_are_defused_and_come_back_as_they_were(self):
        for words in ('=HYPERLINK("http://x","y")', "+1", "-2+3", "@SUM(A1)", "\t=1", "'quoted'", "plain", "O'Hara"):
            row = dict.fromkeys(trees_csv.FIELDS) | {"site": "Hill", "tag": words, "note_for_crew": words}
            row |= {"longitude_deg": -105.0}
            told = trees_csv.write([row])
            cells = dict(zip(*csv.reader(told.splitlines()), strict=True))
            self.assertFalse(cells["tag"].startswith(("=", "+", "-", "@", "\t")), told)
            self.assertEqual(cells["longitude_deg"], "-105.0")
            self.assertEqual(read(told).rows[0].values["tag"], words, told)


class BadCells(unittest.TestCase):
    def test_each_is_named_by_line_and_column_and_the_others_stay(self):
        text = "site,tag,caliper_cm,planted_on,emitter_count\nHill,1,5,2026-04-01,4\n"
        for line, column in (
            ("Hill,2,thick,2026-04-01,4", "caliper_cm"), ("Hill,2,-5,2026-04-01,4", "caliper_cm"),
            ("Hill,2,5,last spring,4", "planted_on"), ("Hill,2,5,2026-04-01,2.5", "emitter_count"),
            ("Hill,2,5", ""), ("Hill,2,nan,2026-04-01,4", "caliper_cm"),
        ):  # fmt: skip
            found = read(text + line + "\n")
            self.assertEqual([(i.line, i.column) for i in found.refused], [(3, column)], line)
            self.assertEqual(len(found.rows), 1)

    def test_files_that_can_not_be_read_at_all(self):
        for data, words in (
            (b"", "empty"), (b"tag,caliper_cm\n1,5\n", "needs a column id"),
            (b"id,caliper_cm,caliper_in\n", "both give caliper_m"), (b"\xff\xfe\x00", "UTF-8"),
        ):  # fmt: skip
            with self.assertRaises(InputError) as caught:
                trees_csv.read(data)
            self.assertIn(words, caught.exception.message)


if __name__ == "__main__":
    unittest.main()
