"""The daily weather file: units, mapping, what is refused by line and what is kept with a doubt."""

import unittest
from datetime import date

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from june_shade.core.errors import InputError, TooLargeError
from june_shade.core.units import MJ_PER_M2_DAY_PER_WATT_PER_M2, MM_PER_INCH, MPS_PER_KMH, MPS_PER_MPH
from june_shade.formats import weather_csv

TODAY = date(2026, 7, 15)


def read(text: str, **options):
    return weather_csv.read(text.encode(), today=TODAY, **options)


class Reading(unittest.TestCase):
    def test_every_unit_of_the_format(self):
        us = read(
            "date,tmin_f,tmax_f,dew_point_f,rain_in,wind_mph,radiation_w_m2,eto_in\n2026-07-01,50,86,41,1,10,250,0.25\n"
        ).days
        si = read(
            "date,tmin_c,tmax_c,dew_point_c,rain_mm,wind_m_s,radiation_mj_m2,eto_mm\n"
            "2026-07-01,10,30,5,25.4,4.4704,21.6,6.35\n"
        ).days
        for name in us.__dataclass_fields__:
            if name != "dates":
                np.testing.assert_allclose(getattr(us, name), getattr(si, name), err_msg=name)
        kmh = read("date,wind_km_h\n2026-07-01,36\n").days
        self.assertAlmostEqual(float(kmh.wind_m_s[0]), 10.0)

    def test_units_are_exact(self):
        # NIST SP 811
        self.assertEqual(MM_PER_INCH, 25.4)
        self.assertAlmostEqual(MPS_PER_MPH, 1609.344 / 3600)
        self.assertAlmostEqual(MPS_PER_KMH * 3.6, 1)
        self.assertAlmostEqual(MJ_PER_M2_DAY_PER_WATT_PER_M2, 86400 / 1e6)

    def test_a_blank_cell_is_missing_and_not_zero(self):
        days = read("date,tmin_c,tmax_c,rain_mm\n2026-07-01,10,30,\n").days
        self.assertTrue(np.isnan(days.rain_mm[0]))

    def test_byte_order_mark_capitals_slashes_and_blank_lines(self):
        found = weather_csv.read("\ufeffDate,TMIN_C,Tmax_C\r\n2026/07/01,10,30\r\n\r\n2026-07-02,11,31\r\n".encode())
        self.assertEqual([str(d) for d in found.days.dates], ["2026-07-01", "2026-07-02"])
        self.assertEqual(found.refused, ())

    def test_foreign_headers_are_named_and_can_be_mapped(self):
        text = "WHEN,Lo1,Hi1,Sky\n2026-07-01,10,30,clear\n"
        with self.assertRaises(InputError) as caught:
            read(text)
        self.assertIn("WHEN", caught.exception.message)
        found = read(text, mapping={"WHEN": "date", "Lo1": "tmin_c", "Hi1": "tmax_c"})
        self.assertEqual(found.columns, {"WHEN": "date", "Lo1": "tmin_c", "Hi1": "tmax_c", "Sky": ""})
        self.assertEqual(float(found.days.tmax_c[0]), 30.0)

    @given(st.lists(st.tuples(st.floats(-30, 20), st.floats(0, 25), st.floats(0, 200)), min_size=1, max_size=20))
    def test_what_is_written_is_read(self, rows):
        lines = ["date,tmin_c,tmax_c,rain_mm"]
        dates = np.datetime64("2020-01-01") + np.arange(len(rows))
        for day, (low, spread, rain) in zip(dates, rows, strict=True):
            lines.append(f"{day},{low!r},{low + spread!r},{rain!r}")
        found = read("\n".join(lines))
        self.assertEqual(found.refused, ())
        np.testing.assert_array_equal(found.days.tmin_c, [r[0] for r in rows])
        np.testing.assert_array_equal(found.days.rain_mm, [r[2] for r in rows])


class Refusing(unittest.TestCase):
    def issue(self, header: str, row: str):
        found = read(f"{header}\n2026-06-30,1,2\n{row}\n")
        self.assertEqual(len(found.days), 1, "the good row stays")
        self.assertEqual(len(found.refused), 1)
        return found.refused[0]

    def test_bad_rows_say_line_column_and_why(self):
        for header, row, column, words in (
            ("date,tmin_c,tmax_c", "2026-07-01,30,12", "tmin_c", "tmin_c 30 is over tmax_c 12"),
            ("date,tmin_c,tmax_c", "2026-07-01,warm,12", "tmin_c", "not a number"),
            ("date,tmin_c,tmax_c", "2026-07-17,10,30", "date", "has not happened yet"),
            ("date,tmin_c,tmax_c", "16 Jul 2026,10,30", "date", "not a date"),
            ("date,tmin_c,tmax_c", "1700-07-01,10,30", "date", "before"),
            ("date,tmin_c,tmax_c", "2026-06-30,10,30", "date", "already given in line 2"),
            ("date,tmin_c,tmax_c", "2026-07-01,64,91", "tmin_c", "Fahrenheit"),
            ("date,tmin_c,tmax_c", "2026-07-01,nan,12", "tmin_c", "can't be"),
            ("date,tmin_c,tmax_c", "2026-07-01,1", "", "cells"),
            ("date,rain_mm,wind_m_s", "2026-07-01,-1,2", "rain_mm", "can't be"),
            ("date,rh_min_percent,rh_max_percent", "2026-07-01,80,20", "rh_min_percent", "is over"),
            ("date,rh_percent,rain_mm", "2026-07-01,140,0", "rh_percent", "can't be"),
        ):
            with self.subTest(row):
                issue = self.issue(header, row)
                self.assertEqual((issue.line, issue.column), (3, column))
                self.assertIn(words, issue.message)

    def test_a_file_that_can_not_be_read_at_all(self):
        for text, words in (
            ("", "empty"), ("tmin_c,tmax_c\n1,2\n", "date"), ("date,colour\n2026-07-01,red\n", "no column"),
            ("date,tmin_c,tmin_f\n2026-07-01,1,33\n", "both give"),
        ):  # fmt: skip
            with self.subTest(text), self.assertRaises(InputError) as caught:
                read(text)
            self.assertIn(words, caught.exception.message)
        with self.assertRaises(InputError):
            weather_csv.read(b"date,tmin_c\n2026-07-01,\xff\xfe\n")

    def test_a_file_over_20_megabytes(self):
        with self.assertRaises(TooLargeError):
            weather_csv.read(b"x" * (weather_csv.MOST_BYTES + 1))

    def test_the_unlikely_is_kept_with_a_doubt(self):
        found = read("date,tmin_c,tmax_c,rain_mm\n2026-07-01,10,30,300\n2026-07-02,-10,30,0\n")
        self.assertEqual(len(found.days), 2)
        self.assertEqual([d.line for d in found.doubts], [2, 3])
        self.assertIn("rain_mm 300", found.doubts[0].message)

    @given(st.binary(max_size=300))
    def test_whatever_comes_is_read_or_refused_with_a_sentence(self, data):
        try:
            weather_csv.read(b"date,tmin_c,tmax_c\n" + data, today=TODAY)
        except InputError as e:
            self.assertTrue(e.message)


if __name__ == "__main__":
    unittest.main()
