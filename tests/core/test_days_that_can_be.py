"""Which days of weather can be: one place says so, for files, services and hands."""

import unittest
from datetime import date, timedelta

from june_shade.core.errors import InputError
from june_shade.core.weather import admit
from june_shade.formats import epw, weather_files

TODAY = date(2026, 7, 15)
DLY = "USC00012345{year}{month:02d}TMAX" + "  250   " * 31


class Measured(unittest.TestCase):
    def test_from_1850_to_tomorrow(self):
        for day in (date(1850, 1, 1), TODAY, TODAY + timedelta(days=1)):
            self.assertEqual(admit.measured_day(day, TODAY), "")
        for day, words in ((date(1849, 12, 31), "weather stations"), (TODAY + timedelta(days=2), "not happened yet")):
            self.assertIn(words, admit.measured_day(day, TODAY))

    def test_every_kind_of_file_refuses_the_same(self):
        csv = "date,tmin_c,tmax_c\n{day},10,25\n2026-07-01,10,25\n"
        elements = "USC00012345,{day:%Y%m%d},TMAX,250,,,\nUSC00012345,20260701,TMAX,250,,,\n"
        for day in (date(1, 1, 1), date(1849, 5, 5), date(9999, 12, 31)):
            files = {
                "csv": csv.format(day=day.isoformat()),
                "dly": f"{DLY.format(year=f'{day.year:04d}', month=day.month)}\n{DLY.format(year=2026, month=6)}\n",
                "elements": elements.replace("{day:%Y%m%d}", f"{day.year:04d}{day.month:02d}{day.day:02d}"),
            }
            for kind, text in files.items():
                with self.subTest(kind=kind, day=day):
                    found = weather_files.read(text.encode(), {}, TODAY)
                    self.assertTrue(all(d.item().year == 2026 for d in found.days.dates))
                    self.assertTrue(found.refused, "and it says so")

    def test_an_hour_of_year_inf_is_refused_by_line(self):
        header = "LOCATION,Yard,-,USA,x,0,40.0,-105.0,-7.0,1600.0\n" + "x\n" * 7
        hour = "{year},7,1,{hour},0,x,25,10,40,101325" + ",0" * 25 + "\n"
        good = "".join(hour.format(year=2025, hour=h) for h in range(1, 25))
        found = epw.read((header + hour.format(year="inf", hour=1) + good).encode(), TODAY)
        self.assertEqual([issue.line for issue in found.refused], [9])


class Forecast(unittest.TestCase):
    def refused(self, days, words):
        with self.assertRaisesRegex(InputError, words):
            admit.forecast_days(days, TODAY)

    def test_it_brings_each_day_once_and_none_from_elsewhere(self):
        ahead = [TODAY + timedelta(days=n) for n in range(14)]
        admit.forecast_days(ahead, TODAY)
        self.refused([*ahead, ahead[3]], "twice")
        self.refused([date(1, 1, 1)], "no day of a forecast")
        self.refused([TODAY + timedelta(days=31)], "no day of a forecast")
        self.refused([TODAY + timedelta(days=n) for n in range(61)], "at most 60")


if __name__ == "__main__":
    unittest.main()
