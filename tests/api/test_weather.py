"""Weather over HTTP: import with a preview, nothing stored until accepted, forecasts that fail."""

import csv
import io
import unittest
from datetime import date, timedelta
from importlib import resources

from june_shade.outside.forecast import Forecast, ServiceError, WeatherDay
from june_shade.plans import clock, forecast
from june_shade.store.session import transaction
from june_shade.store.weather_tables import Station
from tests.support import DAY, SITE_SHOWN, bring, client, new_id, plant_id, small_site, tree_body


class Service:
    """A weather service in memory: the same hot day for ever, or a failure."""

    def __init__(self) -> None:
        self.down = self.made_up = False
        self.rain_mm = 0.0

    def _days(self, first: date, count: int) -> tuple[WeatherDay, ...]:
        if self.down:
            raise ServiceError("the weather service failed 3 times: it took too long to answer")
        return tuple(
            WeatherDay(first + timedelta(days=i), 15.0, 33.0, 35.0, 2.5, 26.0, self.rain_mm, 0.9) for i in range(count)
        )

    def forecast(self, latitude_deg, longitude_deg, first):
        from datetime import UTC, datetime, time

        return Forecast(datetime.combine(first, time(4), UTC), self._days(first, 14))

    def observed(self, latitude_deg, longitude_deg, first, last):
        return self._days(first, (last - first).days + 1)


class WeatherTest(unittest.TestCase):
    def setUp(self):
        self.service = Service()
        self.client = self.enterContext(client(service=self.service))
        self.sessions = self.client.app.state.sessions
        with transaction(self.sessions) as session:
            site = small_site(session, history_days=0)
            self.site_id, self.station_id, self.plant = site.id, site.station_id, plant_id(session)

    def send(self, text, *, accept=False, mapping=""):
        return bring(self.client, text, station=self.station_id, mapping=mapping, store=accept)

    def station(self):
        return next(s for s in self.client.get("/api/stations").json() if s["id"] == str(self.station_id))

    def tree(self, **changed):
        tree = new_id()
        body = tree_body(self.site_id, self.plant, **changed)
        self.assertEqual(self.client.put(f"/api/trees/{tree}", json=body).status_code, 200)
        return tree


class Import(WeatherTest):
    FILE = (
        "date,tmin_c,tmax_c,rain_mm\n2026-07-12,12,30,0\n2026-07-13,30,12,0\n2026-07-14,13,31,300\n2026-07-17,1,2,0\n"
    )

    def test_a_preview_says_everything_and_stores_nothing(self):
        found = self.send(self.FILE)["weather"]
        self.assertEqual((found["days"], found["new"], found["changed"]), (2, 2, 0))
        self.assertEqual([r["line"] for r in found["refused"]], [3, 5])
        self.assertIn("has not happened yet", found["refused"][1]["message"])
        self.assertEqual([d["line"] for d in found["doubts"]], [4])
        self.assertEqual(found["methods"], {"hargreaves": 2})
        self.assertEqual(self.station()["days"], 0)

    def test_accepting_stores_the_good_rows_and_twice_is_harmless(self):
        self.assertEqual(self.send(self.FILE, accept=True)["state"], "stored")
        again = self.send(self.FILE, accept=True)["weather"]
        self.assertEqual((again["new"], again["changed"]), (0, 2))
        self.assertEqual(self.station()["days"], 2)
        days = self.client.get(f"/api/stations/{self.station_id}/days").json()["days"]
        self.assertEqual([d["rain_mm"] for d in days if d["measured"]], [0, 300], "300 mm of rain is kept")

    def test_a_mapping_is_remembered_for_the_station(self):
        text = "DAY,LO,HI\n2026-07-12,12,30\n"
        unknown = self.send(text)["weather"]
        self.assertIn("date", unknown["problem"])
        self.assertEqual([c["header"] for c in unknown["columns"]], ["DAY", "LO", "HI"], "to be told by hand")
        refused = self.send(text, accept=True)
        self.assertEqual((refused["status"], refused["field"]), (422, "file"))
        mapping = '{"DAY": "date", "LO": "tmin_c", "HI": "tmax_c"}'
        self.assertEqual(self.send(text, accept=True, mapping=mapping)["state"], "stored")
        self.assertEqual(self.send(text)["weather"]["days"], 1)

    def test_files_that_can_not_be_are_refused_whole(self):
        for data, status in (
            (b"", 422), (b"nonsense", 422), (b"\xff\xfe\x00", 422), (b"date,tmin_c\n" + b" " * 20_000_001, 413),
        ):  # fmt: skip
            answer = self.send(data, accept=True)
            self.assertEqual((answer.get("status", 422), answer["field"]), (status, "file"), answer)
        bad_mapping = self.send(self.FILE, mapping='{"date": "moon"}')
        self.assertEqual((bad_mapping["status"], bad_mapping["field"]), (422, "mapping"))
        self.assertEqual(self.send("date,tmin_c,tmax_c\n2026-07-13,30,12\n", accept=True)["status"], 422)
        self.assertEqual(self.station()["days"], 0)

    def test_the_weather_of_seattle_drives_a_plan(self):
        """vega_datasets' Seattle file (2012 to 2015), its own headers mapped by hand, on a day of its dry July."""
        with transaction(self.sessions) as session:
            clock.pin(session, date(2015, 7, 20))
        text = resources.files("vega_datasets").joinpath("_data/seattle-weather.csv").read_text(encoding="utf-8")
        rows = [r for r in csv.reader(io.StringIO(text)) if r[0] == "date" or r[0] < "2015/07/20"]
        out = io.StringIO()
        csv.writer(out).writerows(rows)
        mapping = '{"precipitation": "rain_mm", "temp_max": "tmax_c", "temp_min": "tmin_c", "wind": "wind_m_s"}'
        found = self.send(out.getvalue(), accept=True, mapping=mapping)["weather"]
        self.assertEqual((found["days"], found["refused_count"]), (1296, 0))
        self.assertEqual([c["header"] for c in found["columns"] if not c["meaning"]], ["weather"])
        self.assertEqual(found["methods"], {"hargreaves": 1296})
        tree = self.tree(planted_on="2015-06-25")
        sheet = self.client.get(f"/api/trees/{tree}/water").json()
        self.assertEqual(sheet["chart"][-1]["day"], "2015-08-02", "four years of July stand in for a forecast")
        self.assertIsNotNone(sheet["next"])
        self.assertGreater(sum(d["eto_mm"] for d in sheet["chart"][:30]), 100, "an inch a week and more of dry July")

    def test_later_weather_changes_the_plan(self):
        first = DAY - timedelta(days=20)
        dry = ["date,tmin_c,tmax_c,rain_mm"] + [f"{first + timedelta(days=i)},14,32,0" for i in range(20)]
        self.send("\n".join(dry), accept=True)
        tree = self.tree(planted_on=(DAY - timedelta(days=8)).isoformat(), feel={"ball": "moist", "ring": "moist"})
        with transaction(self.sessions) as session:
            clock.pin(session, DAY + timedelta(days=2))
        guessed = self.client.get(f"/api/trees/{tree}/water").json()
        wet = f"date,tmin_c,tmax_c,rain_mm\n{DAY},14,25,40\n{DAY + timedelta(days=1)},14,25,10\n"
        self.send(wet, accept=True)
        rained = self.client.get(f"/api/trees/{tree}/water").json()
        self.assertLess(rained["dryness"], guessed["dryness"])


class ForecastFails(WeatherTest):
    def fetch(self):
        return self.client.post(f"/api/stations/{self.station_id}/forecast")

    def test_a_good_forecast_makes_a_plan_without_any_measured_day(self):
        self.assertEqual(self.fetch().status_code, 200)
        tree = self.tree()
        sheet = self.client.get(f"/api/trees/{tree}/water").json()
        self.assertEqual({d["basis"] for d in sheet["chart"]}, {"forecast"})
        self.assertEqual(sheet["forecast"], "fresh")

    def test_when_it_fails_the_last_good_one_stays_and_is_marked_stale(self):
        self.fetch()
        tree = self.tree()
        good = self.client.get(f"/api/trees/{tree}/water").json()
        self.service.down = True
        answer = self.fetch()
        self.assertEqual(answer.status_code, 200)
        self.assertTrue(answer.json()["forecast_stale"])
        self.assertIn("too long", answer.json()["forecast_error"])
        sheet = self.client.get(f"/api/trees/{tree}/water").json()
        self.assertEqual(sheet["forecast"], "stale")
        self.assertEqual(sheet["next"], good["next"])
        self.service.down = False
        self.assertFalse(self.fetch().json()["forecast_stale"])

    def test_an_old_forecast_is_stale_by_itself(self):
        self.fetch()
        with transaction(self.sessions) as session:
            clock.pin(session, DAY + timedelta(days=2))
        self.assertTrue(self.station()["forecast_stale"])

    def test_without_any_forecast_the_plan_is_still_made(self):
        self.service.down = True
        self.fetch()
        first = DAY - timedelta(days=30)
        rows = ["date,tmin_c,tmax_c,rain_mm"] + [f"{first + timedelta(days=i)},14,32,0" for i in range(30)]
        self.send("\n".join(rows), accept=True)
        sheet = self.client.get(f"/api/trees/{self.tree()}/water").json()
        self.assertEqual(sheet["forecast"], "none")
        coming = [d for d in sheet["chart"] if d["day"] >= DAY.isoformat()]
        self.assertEqual((len(coming), {d["rain_mm"] for d in coming}), (14, {0.0}))
        self.assertEqual(self.client.get("/api/today").json()["sites"][0]["forecast"], "none")
        self.assertIsNotNone(sheet["next"])

    def test_with_nothing_at_all_the_state_is_unknown_and_one_figure_mends_it(self):
        tree = self.tree()
        answer = self.client.get(f"/api/trees/{tree}/water")
        self.assertEqual((answer.status_code, answer.json()["code"]), (409, "no_weather"))
        with transaction(self.sessions) as session:
            station = session.get(Station, self.station_id)
            body = {
                n: getattr(station, n)
                for n in ("name", "latitude_deg", "longitude_deg", "elevation_m", "wind_height_m")
            }
        body["monthly_eto_mm"] = [1, 1.5, 2.5, 4, 5, 6.5, 7, 6, 4.5, 3, 1.5, 1]
        self.assertEqual(self.client.put(f"/api/stations/{self.station_id}", json=body).status_code, 200)
        sheet = self.client.get(f"/api/trees/{tree}/water").json()
        self.assertEqual(sheet["chart"][-1]["basis"], "normals")
        self.assertEqual(sheet["chart"][-1]["eto_mm"], 7)
        self.assertEqual(len([d for d in sheet["chart"] if d["day"] >= DAY.isoformat()]), 14)


class MadeUp(WeatherTest):
    """Made-up weather is asked for only where someone switched it on, is named wherever it shows, and goes whole."""

    def setUp(self):
        super().setUp()
        self.service.made_up = True
        first = DAY - timedelta(days=30)
        rows = ["date,tmin_c,tmax_c,rain_mm"] + [f"{first + timedelta(days=i)},14,32,0" for i in range(28)]
        self.send("\n".join(rows), accept=True)
        self.planted = self.tree(planted_on=(DAY - timedelta(days=20)).isoformat())

    def switch(self, on: bool):
        return self.client.put(f"/api/stations/{self.station_id}/made-up-forecast", json={"on": on})

    def water(self):
        return self.client.get(f"/api/trees/{self.planted}/water").json()

    def test_it_is_off_until_it_is_switched_on(self):
        self.assertEqual(self.client.post(f"/api/stations/{self.station_id}/forecast").status_code, 409)
        forecast.refresh_all(self.sessions, self.service)
        found = self.station()
        self.assertEqual((found["forecast_available"], found["made_up_offered"]), (False, True))
        self.assertIsNone(found["forecast_fetched_at"])
        self.assertEqual(self.water()["forecast"], "none")

    def test_it_says_that_it_is_made_up_wherever_it_shows(self):
        self.assertTrue(self.switch(True).json()["forecast_made_up"])
        self.assertEqual(self.water()["forecast"], "made_up")
        self.assertEqual(self.client.get("/api/today").json()["sites"][0]["forecast"], "made_up")

    def test_switched_off_nothing_of_it_is_left(self):
        before = self.water()
        self.switch(True)
        with transaction(self.sessions) as session:  # its days pass unmeasured: it stands in for them
            clock.pin(session, DAY + timedelta(days=1))
        self.assertIn("forecast", {d["basis"] for d in self.water()["chart"]})
        with transaction(self.sessions) as session:
            clock.pin(session, DAY)
        self.assertFalse(self.switch(False).json()["forecast_made_up"])
        self.assertEqual(self.water(), before)

    def test_a_real_one_never_stands_beside_a_made_up_one(self):
        self.switch(True)
        with transaction(self.sessions) as session:
            clock.pin(session, DAY + timedelta(days=3))
        self.service.made_up = False
        self.client.post(f"/api/stations/{self.station_id}/forecast")
        past = [
            d["basis"]
            for d in self.water()["chart"]
            if DAY.isoformat() <= d["day"] < (DAY + timedelta(days=3)).isoformat()
        ]
        self.assertNotIn("forecast", past)
        self.assertEqual(self.water()["forecast"], "fresh")

    def test_it_can_not_be_switched_on_where_there_is_none(self):
        self.service.made_up = False
        self.assertEqual(self.switch(True).status_code, 409)


class TheClock(WeatherTest):
    def test_next_day_brings_a_measured_day_and_a_new_forecast(self):
        self.client.post(f"/api/stations/{self.station_id}/forecast")
        answer = self.client.post("/api/clock/next-day").json()
        self.assertEqual((answer["day"], answer["pinned"]), ((DAY + timedelta(days=1)).isoformat(), True))
        self.assertEqual(self.station()["last_day"], DAY.isoformat())

    def test_a_day_whose_report_fails_is_left_without_one(self):
        self.service.down = True
        self.assertEqual(self.client.post("/api/clock/next-day").status_code, 200)
        self.assertEqual(self.station()["days"], 0)

    def test_the_systems_clock_is_not_stepped(self):
        with transaction(self.sessions) as session:
            from june_shade.store.clock_tables import PinnedClock

            session.delete(session.get(PinnedClock, 1))
        self.assertEqual(self.client.post("/api/clock/next-day").status_code, 409)
        self.assertFalse(self.client.get("/api/clock").json()["pinned"])


class OtherFiles(WeatherTest):
    """Files of archives, from other places, and days that look unlikely: told, never dropped in silence."""

    ARCHIVE = "USX00012345,20260701,TMAX,300,,,W\nUSX00012345,20260701,TMIN,100,,,W\nUSX00012345,20260701,PRCP,51,,,W\n"
    PLACED = '"STATION","NAME","LATITUDE","LONGITUDE","ELEVATION","DATE","PRCP","TMAX","TMIN"\n'

    def row(self, latitude, longitude, values='"0","300","101"', elevation=1500):
        return f'"USX00012345","OLD MILL","{latitude}","{longitude}","{elevation}","2026-07-01",{values}\n'

    def test_an_archive_file_comes_in_as_any_other(self):
        said = self.send(self.ARCHIVE)["weather"]
        self.assertEqual((said["kind"], said["days"], said["problem"]), ("ghcn_csv", 1, ""))
        self.assertEqual(self.send(self.ARCHIVE, accept=True)["state"], "stored")
        self.assertEqual(self.station()["days"], 1)

    def test_a_file_from_the_other_half_of_the_world_is_refused_in_a_sentence(self):
        for latitude, longitude, words in ((-40.0, -105.0, "south"), (40.0, 105.0, "east")):
            text = self.PLACED + self.row(latitude, longitude)
            self.assertIn(words, self.send(text)["weather"]["problem"])
            answer = self.send(text, accept=True)
            self.assertEqual((answer["status"], answer["field"]), (422, "file"))
        self.assertEqual(self.station()["days"], 0)

    def test_a_far_place_is_told(self):
        said = self.send(self.PLACED + self.row(44.0, -105.0, elevation=3100))["weather"]
        self.assertEqual(set(said["place"]), {"far_away", "other_elevation"})
        self.assertEqual(said["file_place"], "OLD MILL")
        self.assertEqual(self.send(self.PLACED + self.row(40.1, -105.1))["weather"]["place"], [])

    def test_units_that_a_file_does_not_say_are_asked_for_and_remembered(self):
        text = self.PLACED + self.row(40.0, -105.0, '"0","45","40"')
        said = self.send(text)["weather"]
        self.assertIn("units", said["problem"])
        self.assertEqual(said["columns"], [{"header": "units", "meaning": ""}])
        answer = self.send(text, accept=True, mapping='{"units": "us"}')
        self.assertEqual(answer["state"], "stored")
        self.assertEqual(self.send(text)["weather"]["problem"], "")
        self.assertEqual(self.send(text, mapping='{"units": "furlongs"}')["status"], 422)

    def test_unlikely_days_are_flagged_and_kept(self):
        rows = "".join(f"2026-07-{i + 1:02d},12,{high}\n" for i, high in enumerate((30, 31, 54, 30, 31)))
        said = self.send("date,tmin_c,tmax_c\n" + rows)["weather"]
        self.assertEqual([f["day"] for f in said["flagged"]], ["2026-07-03"])
        self.assertIn("spike_high", said["flagged"][0]["flags"])
        self.send("date,tmin_c,tmax_c\n" + rows, accept=True)
        days = self.client.get(f"/api/stations/{self.station_id}/days").json()["days"]
        flagged = {d["day"]: d["flags"] for d in days if d["flags"]}
        self.assertEqual(set(flagged), {"2026-07-03"})
        self.assertEqual(next(d["tmax_c"] for d in days if d["day"] == "2026-07-03"), 54)

    def test_the_sum_behind_a_day(self):
        self.send("date,tmin_c,tmax_c\n2026-07-01,12,30\n", accept=True)
        found = self.client.get(f"/api/stations/{self.station_id}/days/2026-07-01/eto").json()
        day = self.client.get(f"/api/stations/{self.station_id}/days").json()["days"][0]
        self.assertEqual(found["method"], "hargreaves")
        self.assertAlmostEqual(found["lines"][-1]["value"], day["eto_mm"])
        nothing = self.client.get(f"/api/stations/{self.station_id}/days/2025-07-01/eto")
        self.assertEqual((nothing.status_code, nothing.json()["field"]), (404, "day"))

    def test_the_season_stands_beside_other_years(self):
        rows = []
        day = date(2025, 1, 1)
        while day < DAY:
            rows.append(f"{day},12,30,{2 if day.year == 2025 else 1}")
            day += timedelta(days=1)
        self.send("date,tmin_c,tmax_c,rain_mm\n" + "\n".join(rows), accept=True)
        season = self.client.get(f"/api/stations/{self.station_id}/days").json()["season"]
        self.assertEqual((season["since"], season["years"]), ("2026-01-01", 1))
        self.assertAlmostEqual(season["rain_usual_mm"], 2 * season["rain_mm"])

    def test_a_site_across_the_equator_or_the_world_from_its_clock(self):
        site = next(s for s in self.client.get("/api/sites").json() if s["id"] == str(self.site_id))
        drop = SITE_SHOWN
        body = {name: value for name, value in site.items() if name not in drop}
        for changed, field in (
            ({"latitude_deg": -40.0}, "latitude_deg"),
            ({"longitude_deg": 105.0}, "longitude_deg"),
            ({"longitude_deg": -90.0}, "longitude_deg"),
        ):
            answer = self.client.put(f"/api/sites/{self.site_id}", json=body | changed)
            self.assertEqual((answer.status_code, answer.json()["field"]), (422, field))


if __name__ == "__main__":
    unittest.main()
