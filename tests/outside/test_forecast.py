"""The weather service as it is asked: time-out, tries, answers that can't be; and the stand-in that ships."""

import unittest
from datetime import date, timedelta
from unittest import mock

import httpx
import numpy as np
from fastapi.testclient import TestClient

from june_shade.core.weather.daily import Days, reference_et
from june_shade.outside import forecast as outside
from june_shade.outside.forecast import HttpWeatherService, ServiceError
from june_shade.standins import weather_service
from june_shade.standins.climate import Climate

DAY = date(2026, 7, 15)
GOOD_DAY = {"date": "2026-07-15", "tmin_c": 12, "tmax_c": 30, "rain_mm": 0, "rain_chance": 0.1}


def service(handler) -> HttpWeatherService:
    client = httpx.Client(transport=httpx.MockTransport(handler))
    return HttpWeatherService("http://forecast.invalid", client=client)


class Asking(unittest.TestCase):
    def setUp(self):
        pause = mock.patch.object(outside, "PAUSE_S", 0.0)
        pause.start()
        self.addCleanup(pause.stop)
        self.asked: list[httpx.Request] = []

    def answers(self, *replies):
        """A service that gives these replies one after the other; an exception is raised."""
        waiting = list(replies)

        def handler(request: httpx.Request) -> httpx.Response:
            self.asked.append(request)
            reply = waiting.pop(0) if len(waiting) > 1 else waiting[0]
            if isinstance(reply, Exception):
                raise reply
            return reply

        return service(handler)

    def good(self):
        return httpx.Response(200, json={"issued_at": "2026-07-15T04:00:00+00:00", "days": [GOOD_DAY]})

    def test_a_good_answer(self):
        found = self.answers(self.good()).forecast(40.0, -105.0, DAY)
        self.assertEqual((found.days[0].day, found.days[0].tmax_c), (DAY, 30.0))
        self.assertIsNone(found.days[0].wind_m_s)
        self.assertEqual(
            dict(self.asked[0].url.params), {"latitude": "40.0", "longitude": "-105.0", "first": "2026-07-15"}
        )

    def test_it_tries_again_after_a_failure(self):
        found = self.answers(httpx.Response(503), httpx.ConnectError("down"), self.good()).forecast(40.0, -105.0, DAY)
        self.assertEqual(len(found.days), 1)
        self.assertEqual(len(self.asked), 3)

    def test_it_gives_up_after_a_few_tries_and_says_why(self):
        for reply, words in (
            (httpx.ReadTimeout("slow"), "too long"), (httpx.Response(500), "500"), (httpx.ConnectError("x"), "reached"),
        ):  # fmt: skip
            self.asked.clear()
            with self.subTest(words), self.assertRaises(ServiceError) as caught:
                self.answers(reply).forecast(40.0, -105.0, DAY)
            self.assertIn(words, caught.exception.message)
            self.assertEqual(len(self.asked), outside.TRIES)

    def test_a_refusal_is_not_asked_again(self):
        with self.assertRaises(ServiceError):
            self.answers(httpx.Response(404)).forecast(40.0, -105.0, DAY)
        self.assertEqual(len(self.asked), 1)

    def test_an_answer_that_can_not_be_is_as_good_as_none(self):
        for change in (
            {"tmin_c": 40}, {"tmax_c": "hot"}, {"rain_chance": 60}, {"rain_mm": -1}, {"date": "someday"},
            {"tmin_c": None},
        ):  # fmt: skip
            body = {"issued_at": "2026-07-15T04:00:00+00:00", "days": [GOOD_DAY | change]}
            with self.subTest(change), self.assertRaises(ServiceError):
                self.answers(httpx.Response(200, json=body)).forecast(40.0, -105.0, DAY)
        with self.assertRaises(ServiceError):
            self.answers(httpx.Response(200, text="<html>")).forecast(40.0, -105.0, DAY)


class StandIn(unittest.TestCase):
    def setUp(self):
        self.climate = Climate.shipped()
        self.client = TestClient(weather_service.create(self.climate))
        self.addCleanup(self.client.close)

    def test_it_answers_what_is_asked_for_in_the_same_words(self):
        asked = HttpWeatherService("http://testserver", client=self.client)
        found = asked.forecast(40.2, -104.7, DAY)
        self.assertEqual([d.day for d in found.days], [DAY + timedelta(days=i) for i in range(14)])
        for day in found.days:
            self.assertLessEqual(day.tmin_c, day.tmax_c)
            self.assertTrue(0 < day.rain_chance < 1)
            self.assertTrue(day.rh_percent and day.wind_m_s and day.radiation_mj_m2)
        seen = asked.observed(40.2, -104.7, DAY, DAY + timedelta(days=2))
        self.assertEqual([d.rain_chance for d in seen], [1.0] * 3)

    def test_it_follows_the_place_its_hemisphere_and_its_season(self):
        def year(latitude_deg, longitude_deg=-104.7):
            rows = self.climate.at(latitude_deg, longitude_deg).observed(date(2026, 1, 1), date(2026, 12, 31))
            at = np.array([r["month"] for r in rows])
            return {
                name: np.array([np.mean([r[name] for r, m in zip(rows, at, strict=True) if m == k]) for k in range(12)])
                for name in ("tmax_c", "radiation_mj_m2")
            }

        home, south, tropics, north = year(40.2), year(-34.0, 149.0), year(4.0), year(62.0)
        self.assertEqual(self.climate.at(40.2, -104.7), self.climate)
        for name in home:
            self.assertIn(int(np.argmax(home[name])), (5, 6, 7), name)
            self.assertIn(int(np.argmax(south[name])), (11, 0, 1), name)
            self.assertLess(np.ptp(tropics[name]), np.ptp(home[name]) / 2, name)
        self.assertLess(north["tmax_c"].mean(), home["tmax_c"].mean() - 8)
        self.assertGreater(tropics["tmax_c"].mean(), home["tmax_c"].mean() + 8)
        self.assertLess(north["radiation_mj_m2"][11], 2.0)
        there = self.climate.at(40.2, -75.0).observed(DAY, DAY + timedelta(days=9))
        self.assertNotEqual(there, self.climate.observed(DAY, DAY + timedelta(days=9)))

    def test_it_is_seeded(self):
        again, other = Climate.shipped(), Climate.shipped(seed=8)
        self.assertEqual(again.forecast(DAY), self.climate.forecast(DAY))
        self.assertNotEqual(other.forecast(DAY), self.climate.forecast(DAY))

    def test_it_can_be_told_to_fail(self):
        self.client.get("/fail", params={"times": 1})
        ask = {"latitude": 40, "longitude": -105, "first": DAY.isoformat()}
        self.assertEqual(self.client.get("/forecast", params=ask).status_code, 503)
        self.assertEqual(self.client.get("/forecast", params=ask).status_code, 200)

    def test_days_outside_the_made_up_years_and_spans_turned_round_are_refused(self):
        place = {"latitude": 40, "longitude": -105}
        self.assertEqual(self.client.get("/forecast", params=place | {"first": "2090-01-01"}).status_code, 404)
        span = {"first": "2026-07-15", "last": "2026-07-01"}
        self.assertEqual(self.client.get("/observed", params=place | span).status_code, 400)

    def test_its_weather_keeps_to_the_normals(self):
        rows = self.climate.observed(date(2021, 1, 1), date(2030, 12, 31))
        for month in range(12):
            days = [r for r in rows if r["month"] == month]
            for name, tolerance in (("tmin_c", 1.5), ("tmax_c", 2.5)):
                mean = float(np.mean([r[name] for r in days]))
                self.assertAlmostEqual(mean, self.climate.normals[name][month], delta=tolerance, msg=f"{name} {month}")
        rain = sum(r["rain_mm"] for r in rows) / 10
        self.assertAlmostEqual(
            rain, sum(self.climate.normals["rain_mm"]), delta=0.25 * sum(self.climate.normals["rain_mm"])
        )

    def test_its_summer_is_dry_and_its_winter_cold(self):
        rows = self.climate.observed(date(2025, 1, 1), date(2025, 12, 31))
        days = Days.of(
            [r["date"] for r in rows],
            **{n: [r[n] for r in rows] for n in ("tmin_c", "tmax_c", "rh_percent", "wind_m_s", "radiation_mj_m2")},
        )
        eto = reference_et(days, 40.2, 1490.0).eto_mm
        july = [i for i, r in enumerate(rows) if r["month"] == 6]
        january = [i for i, r in enumerate(rows) if r["month"] == 0]
        self.assertTrue(5 < eto[july].mean() < 9)
        self.assertLess(sum(rows[i]["rain_mm"] for i in july), eto[july].sum() / 2)
        self.assertLess(np.mean([rows[i]["tmin_c"] for i in january]), -3)


if __name__ == "__main__":
    unittest.main()
