"""GHCN-Daily in its three shapes and EPW, by the formats' published descriptions; EPW beside pvlib's own reader."""

import io
import unittest
from datetime import date, timedelta

import numpy as np
from pvlib.iotools import read_epw

from june_shade.core.errors import InputError
from june_shade.core.weather import admit
from june_shade.formats import ghcn, weather_files
from june_shade.formats.weather_csv import HeaderError

TODAY = date(2026, 7, 15)
STATION = "USX00012345"


def dly(element, values, *, year=2026, month=6, station=STATION, flags=None):
    """A line of the fixed-width shape: 31 values of five digits, each with three flags."""
    padded = [*values, *[-9999] * (31 - len(values))]
    cells = "".join(f"{v:5d} {(flags or {}).get(i + 1, ' ')} " for i, v in enumerate(padded))
    return f"{station}{year}{month:02d}{element}{cells}"


def read(text, **options):
    return weather_files.read(text.encode(), today=TODAY, **options)


class FixedWidth(unittest.TestCase):
    def test_tenths_become_units_and_elements_meet_in_a_day(self):
        text = "\n".join(
            [dly("TMAX", [300, 312]), dly("TMIN", [101, 95]), dly("PRCP", [0, 254]), dly("AWND", [32, 20])]
        )
        found = read(text)
        self.assertEqual(found.kind, "ghcn_dly")
        self.assertEqual([str(d) for d in found.days.dates], ["2026-06-01", "2026-06-02"])
        np.testing.assert_allclose(found.days.tmax_c, [30.0, 31.2])
        np.testing.assert_allclose(found.days.rain_mm, [0.0, 25.4])
        np.testing.assert_allclose(found.days.wind_m_s, [3.2, 2.0])

    def test_missing_days_of_short_months_and_foreign_elements(self):
        found = read("\n".join([dly("TMAX", [300, -9999, 310]), dly("TMIN", [100, -9999, 90]), dly("SNWD", [5, 5, 5])]))
        self.assertEqual(len(found.days), 2)
        february = read(dly("PRCP", [10] * 31, month=2))
        self.assertEqual(len(february.days), 28)
        self.assertEqual(february.refused, ())

    def test_what_failed_the_archives_check_is_told_and_not_taken(self):
        found = read("\n".join([dly("TMAX", [300, 990], flags={2: "X"}), dly("TMIN", [100, 90])]))
        self.assertTrue(np.isnan(found.days.tmax_c[1]))
        self.assertIn("check 'X'", found.doubts[0].message)

    def test_a_day_to_come_two_stations_and_a_low_over_its_high(self):
        through_tomorrow = read(dly("PRCP", [1] * 31, month=7)).days
        self.assertEqual(len(through_tomorrow), 16)
        with self.assertRaises(InputError) as caught:
            read("\n".join([dly("TMAX", [300]), dly("TMAX", [300], station="USX00099999")]))
        self.assertIn("several stations", caught.exception.message)
        crossed = read("\n".join([dly("TMAX", [100]), dly("TMIN", [200]), dly("PRCP", [5])]))
        self.assertTrue(np.isnan(crossed.days.tmax_c[0]))
        self.assertIn("both left out", crossed.refused[0].message)

    def test_a_torn_line_is_named(self):
        found = read(dly("PRCP", [1, 2]) + "\nUSX0001234")
        self.assertEqual((found.refused[0].line, len(found.days)), (2, 2))


class Elements(unittest.TestCase):
    def test_an_element_a_line(self):
        found = read(
            f"{STATION},20260601,TMAX,300,,,W,\n{STATION},20260601,TMIN,100,,,W,\n{STATION},20260602,PRCP,51,,,W,0700\n"
        )
        self.assertEqual(found.kind, "ghcn_csv")
        np.testing.assert_allclose(found.days.tmax_c, [30.0, np.nan])
        np.testing.assert_allclose(found.days.rain_mm, [np.nan, 5.1])

    def test_both_shapes_say_the_same(self):
        fixed = read("\n".join([dly("TMAX", [300, 312]), dly("TMIN", [101, 95])])).days
        rows = [
            ("20260601", "TMAX", 300),
            ("20260601", "TMIN", 101),
            ("20260602", "TMAX", 312),
            ("20260602", "TMIN", 95),
        ]
        lines = read("".join(f"{STATION},{day},{element},{value},,,S\n" for day, element, value in rows)).days
        np.testing.assert_array_equal(fixed.dates, lines.dates)
        np.testing.assert_allclose(fixed.tmin_c, lines.tmin_c)


class DayALine(unittest.TestCase):
    HEADER = '"STATION","NAME","LATITUDE","LONGITUDE","ELEVATION","DATE","PRCP","TMAX","TMIN"\n'

    def rows(self, *days):
        place = f'"{STATION}","OLD MILL","40.1","-104.6","1480"'
        return self.HEADER + "".join(f'{place},"2026-06-{i + 1:02d}",{d}\n' for i, d in enumerate(days))

    def test_units_are_told_by_the_values_where_they_can_be(self):
        for days, high in (
            (('"0","300","101"', '"254","312","95"'), 30.0), (('"0.0","30.0","10.1"', '"1.0","12.2","3.5"'), 30.0),
            (('"0.00","86","50"', '"0.10","88","51"'), 30.0),
        ):  # fmt: skip
            found = read(self.rows(*days))
            self.assertAlmostEqual(float(found.days.tmax_c[0]), high)
            self.assertEqual(found.place.latitude_deg, 40.1)

    def test_else_they_are_asked_for(self):
        text = self.rows('"0","45","40"', '"0","50","41"')
        with self.assertRaises(HeaderError) as caught:
            read(text)
        self.assertEqual(caught.exception.columns, {"units": ""})
        self.assertAlmostEqual(float(read(text, mapping={"units": "us"}).days.tmax_c[0]), (45 - 32) / 1.8)
        self.assertAlmostEqual(float(read(text, mapping={"units": "tenths"}).days.tmax_c[0]), 4.5)

    def test_quality_flags_of_attributes(self):
        named = ",".join(f"{element},{element}_ATTRIBUTES" for element in ("PRCP", "TMAX", "TMIN"))
        header = f"STATION,DATE,LATITUDE,LONGITUDE,ELEVATION,NAME,{named}\n"
        row = f'{STATION},2026-06-01,40.1,-104.6,1480,"OLD MILL",   13,",,W",  300,",S,W",  100,",,W"\n'
        found = read(header + row)
        self.assertTrue(np.isnan(found.days.tmax_c[0]))
        self.assertAlmostEqual(float(found.days.rain_mm[0]), 1.3)


def epw(days=2, *, year=2025, missing=(), latitude=40.1, rain=0.2):
    """A small file by the format's published description: 8 lines of header, 35 columns an hour."""
    head = [
        f"LOCATION,Old Mill,CO,USA,TMY3,724699,{latitude},-104.6,-7.0,1480.0", "DESIGN CONDITIONS,0",
        "TYPICAL/EXTREME PERIODS,0", "GROUND TEMPERATURES,0", "HOLIDAYS/DAYLIGHT SAVINGS,No,0,0,0",
        "COMMENTS 1,made up", "COMMENTS 2,made up", "DATA PERIODS,1,1,Data,Sunday,6/1,6/2",
    ]  # fmt: skip
    rows = []
    for number in range(days):
        day = date(year, 6, 1) + timedelta(days=number)
        for hour in range(1, 25):
            temperature = 99.9 if (number, hour) in missing else 20 + 8 * np.sin((hour - 9) / 24 * 2 * np.pi)
            sun = max(0.0, 900 * np.sin((hour - 6) / 14 * np.pi)) if 6 <= hour <= 20 else 0.0
            cells = [day.year, day.month, day.day, hour, 0, "?9", f"{temperature:.1f}", 5.5, 40, 84500, 1300, 1367, 330]
            cells += [f"{sun:.0f}", 500, 100, 9999, 9999, 9999, 999, 180, f"{2 + hour / 12:.1f}", 3, 3, 16.0, 77777, 9]
            cells += ["999999999", 10, 0.08, 0, 88, 0.2, rain, 1.0]
            rows.append(",".join(str(c) for c in cells))
    return "\n".join([*head, *rows]) + "\n"


class Epw(unittest.TestCase):
    def test_days_are_what_an_independent_reader_makes_of_the_hours(self):
        text = epw()
        found = read(text)
        self.assertEqual((found.kind, found.place.name, found.wind_height_m), ("epw", "Old Mill", 10.0))
        table, _ = read_epw(io.StringIO(text))
        for i in range(2):
            hours = table.iloc[24 * i : 24 * (i + 1)]
            self.assertAlmostEqual(float(found.days.tmax_c[i]), hours["temp_air"].max())
            self.assertAlmostEqual(float(found.days.tmin_c[i]), hours["temp_air"].min())
            self.assertAlmostEqual(float(found.days.radiation_mj_m2[i]), hours["ghi"].sum() * 3600 / 1e6)
            self.assertAlmostEqual(float(found.days.wind_m_s[i]), hours["wind_speed"].mean())
            self.assertAlmostEqual(float(found.days.rain_mm[i]), hours["liquid_precipitation_depth"].sum())

    def test_a_day_short_of_hours_has_no_temperature(self):
        found = read(epw(missing={(0, h) for h in range(1, 7)}))
        self.assertTrue(np.isnan(found.days.tmax_c[0]))
        self.assertFalse(np.isnan(found.days.tmax_c[1]))
        self.assertFalse(np.isnan(read(epw(missing={(0, 3)})).days.tmax_c[0]))

    def test_a_season_without_a_drop_is_no_record_of_rain(self):
        dry = read(epw(95, year=2024, rain=0))
        self.assertTrue(np.isnan(dry.days.rain_mm).all())
        self.assertIn("no rain on any day", dry.doubts[0].message)
        self.assertEqual(float(read(epw(5, rain=0)).days.rain_mm[0]), 0.0)

    def test_torn_files_say_where(self):
        lines = epw().splitlines()
        with self.assertRaises(InputError):
            read("\n".join(lines[:5]))
        with self.assertRaises(InputError) as caught:
            read("\n".join(["LOCATION,nowhere", *lines[1:]]))
        self.assertIn("line 1", caught.exception.message)
        found = read("\n".join([*lines[:-1], "2025,6,2,24,0"]))
        self.assertEqual(found.refused[0].line, len(lines))


class Others(unittest.TestCase):
    def test_a_daily_csv_is_still_a_daily_csv(self):
        self.assertEqual(read("date,tmin_c,tmax_c\n2026-06-01,10,30\n").kind, "daily")

    def test_packed_files_and_none(self):
        for data in (b"PK\x03\x04zip", b"\x1f\x8bgz"):
            with self.assertRaises(InputError) as caught:
                weather_files.read(data)
            self.assertIn("unpack", caught.exception.message)
        with self.assertRaises(InputError):
            read(dly("SNWD", [5]))

    def test_two_units_in_one_column(self):
        found = read(
            "date,tmin_c,tmax_c,rain_mm\n2026-06-01,10,30,5 mm\n2026-06-02,10,30,0.2 in\n2026-06-03,10,86F,0\n"
        )
        self.assertEqual(float(found.days.rain_mm[0]), 5.0)
        self.assertEqual([(i.line, i.column) for i in found.refused], [(3, "rain_mm"), (4, "tmax_c")])
        self.assertIn("one column, one unit", found.refused[0].message)

    def test_units_of_every_element_are_sane(self):
        for name, element in ghcn.ELEMENTS.items():
            self.assertEqual(element.convert(0.0, "metric"), 0.0, name)
            self.assertIn(element.quantity, admit.LIMITS, name)


if __name__ == "__main__":
    unittest.main()
