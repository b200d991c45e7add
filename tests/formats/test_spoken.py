"""Tables as people's programs write them: days, separators, decimal commas, headers in plain words."""

import unittest
from datetime import date

from june_shade.core.errors import InputError
from june_shade.formats import spoken, trees_csv, weather_csv
from june_shade.formats.weather_csv import HeaderError

TODAY = date(2026, 12, 1)


def read(text: str, **options):
    return weather_csv.read(text.encode(), today=TODAY, **options)


class Days(unittest.TestCase):
    def test_each_way_of_writing_one(self):
        for cell, order in (
            ("20/11/2026", "dmy"), ("11/20/2026", "mdy"), ("20.11.2026", "dmy"), ("20-11-2026", "dmy"),
            ("2026-11-20", "ymd"), ("2026/11/20", "ymd"), ("2026-11-20 00:00", "ymd"), ("20/11/2026 07:00", "dmy"),
        ):  # fmt: skip
            with self.subTest(cell):
                self.assertEqual(spoken.date_order([cell]), order)
                self.assertEqual(spoken.day(cell, order), date(2026, 11, 20))

    def test_one_day_that_can_only_be_one_tells_for_all(self):
        self.assertEqual(spoken.date_order(["07/11/2026", "08/11/2026", "13/11/2026"]), "dmy")
        self.assertEqual(spoken.date_order(["07/11/2026", "07/13/2026"]), "mdy")
        self.assertEqual(spoken.date_order(["07/11/2026"]), "")
        self.assertEqual(spoken.date_order(["13/11/2026", "11/13/2026"]), "")

    def test_a_file_that_does_not_tell_asks_once(self):
        text = "date,tmax_c\n07/11/2026,12\n08/11/2026,13\n"
        with self.assertRaises(HeaderError) as asked:
            read(text)
        self.assertEqual(asked.exception.columns, {"date_order": ""})
        for order, first in (("dmy", "2026-11-07"), ("mdy", "2026-07-11")):
            days = read(text, mapping={"date_order": order}).days
            self.assertEqual(str(days.dates[0]), first)

    def test_trees_too_and_what_could_be_two_days_is_refused_by_line(self):
        header = "site;tag;caliper_cm;planted_on\n"
        found = trees_csv.read((header + "Hill;1;5,08;20.11.2025\n").encode())
        self.assertEqual(found.rows[0].values["planted_on"], date(2025, 11, 20))
        self.assertAlmostEqual(found.rows[0].values["caliper_m"], 0.0508)
        unsure = trees_csv.read((header + "Hill;1;5,08;07/11/2025\n").encode())
        self.assertEqual([(i.line, i.column) for i in unsure.refused], [(2, "planted_on")])


class Numbers(unittest.TestCase):
    def test_semicolons_and_decimal_commas(self):
        days = read("date;tmin_c;tmax_c;rain_mm\n2026-07-01;10,5;30,25;1.012,5\n").days
        self.assertEqual((float(days.tmin_c[0]), float(days.tmax_c[0]), float(days.rain_mm[0])), (10.5, 30.25, 1012.5))
        days = read("date\ttmax_c\n2026-07-01\t30.5\n").days
        self.assertEqual(float(days.tmax_c[0]), 30.5)

    def test_a_comma_file_keeps_its_points(self):
        self.assertEqual(float(read("date,tmax_c\n2026-07-01,30.5\n").days.tmax_c[0]), 30.5)


class Headers(unittest.TestCase):
    def test_plain_words(self):
        for header, meaning in (
            ("Max temp (°C)", "tmax_c"), ("Max temp (F)", "tmax_f"), ("Minimum temperature [degC]", "tmin_c"),
            ("Rainfall (mm)", "rain_mm"), ("Precip in", "rain_in"), ("Relative humidity", "rh_percent"),
            ("Max RH (%)", "rh_max_percent"), ("Wind speed (km/h)", "wind_km_h"), ("Wind gust (mph)", ""),
            ("Dew point (F)", "dew_point_f"), ("Solar radiation (W/m2)", "radiation_w_m2"), ("Sunshine hours", "sun_h"),
            ("ETo (mm)", "eto_mm"), ("Date", "date"), ("Day", "date"), ("Rain", ""), ("Mean temp (C)", ""), ("Sky", ""),
        ):  # fmt: skip
            self.assertEqual(spoken.guess(header, [], []), meaning, header)

    def test_a_temperature_without_a_unit_is_told_by_how_high_it_goes_and_by_its_neighbors(self):
        self.assertEqual(spoken.guess("Max temp", ["71", "88"], []), "tmax_f")
        self.assertEqual(spoken.guess("Max temp", ["21", "33"], ["Rainfall (mm)"]), "tmax_c")
        self.assertEqual(spoken.guess("Min temp", ["21", "33"], ["Rain (in)"]), "tmin_f")

    def test_a_whole_file_in_plain_words(self):
        found = read("Day;Max temp;Min temp;Rainfall (mm);Wind gust (km/h)\n20.11.2026;12,5;3;4,2;60\n")
        self.assertEqual(list(found.columns.values()), ["date", "tmax_c", "tmin_c", "rain_mm", ""])
        self.assertEqual((float(found.days.tmax_c[0]), float(found.days.rain_mm[0])), (12.5, 4.2))

    def test_what_a_person_said_goes_before_any_guess(self):
        found = read("Day,Max temp,High\n2026-07-01,71,30\n", mapping={"Max temp": "", "High": "tmax_c"})
        self.assertEqual(float(found.days.tmax_c[0]), 30.0)

    def test_a_file_without_a_day_is_still_asked_about(self):
        with self.assertRaises(InputError):
            read("Max temp (C)\n30\n")


if __name__ == "__main__":
    unittest.main()
