"""Writes that meet each other: done again, never doubled, never an error of the database on a page."""

import threading
import time
import unittest
from unittest import mock

import psycopg
from sqlalchemy.exc import OperationalError

from june_shade.plans import log
from tests.api.test_trees import RegisterTest
from tests.support import client, new_id, tree_body, water_body

DEADLOCK = psycopg.errors.DeadlockDetected("deadlock detected")
SERIALIZATION = OperationalError("UPDATE", {}, psycopg.errors.SerializationFailure("could not serialize access"))


class DoneAgain(RegisterTest):
    def setUp(self):
        super().setUp()
        self.tree = new_id()
        self.client.put(f"/api/trees/{self.tree}", json=tree_body(self.site_id, self.plant))

    def poured(self, *first):
        """Log water while the store fails so first."""
        real, errors = log.put, list(first)

        def put(*args, **options):
            made = real(*args, **options)
            if errors:
                raise errors.pop(0)
            return made

        entry = new_id()
        with mock.patch("june_shade.plans.log.put", side_effect=put):
            return entry, self.client.put(f"/api/log/{entry}", json=water_body(self.tree, 11.0))

    def entries(self):
        return [e["volume_l"] for e in self.client.get(f"/api/trees/{self.tree}/log").json()]

    def test_a_deadlock_is_tried_again_whichever_driver_says_so(self):
        for error in (DEADLOCK, SERIALIZATION):
            with self.subTest(error=type(error).__name__):
                before = len(self.entries())
                _, answer = self.poured(error, error)
                self.assertEqual(answer.status_code, 201, answer.text)
                self.assertEqual(len(self.entries()), before + 1)

    def test_after_many_tries_it_says_so_and_nothing_is_stored(self):
        _, answer = self.poured(*[DEADLOCK] * 9)
        self.assertEqual((answer.status_code, answer.json()["code"]), (503, "busy"))
        self.assertNotIn("deadlock", answer.text)
        self.assertEqual(self.entries(), [])

    def test_another_error_is_not_tried_again(self):
        with mock.patch("june_shade.plans.log.put", side_effect=ZeroDivisionError) as put:
            self.client.put(f"/api/log/{new_id()}", json=water_body(self.tree, 11.0))
        self.assertEqual(put.call_count, 1)


class Beside(unittest.TestCase):
    def test_rounds_and_entries_beside_a_station_that_is_saved(self):
        """Three loops of Today beside one that saves a station and one that logs: every answer is good."""
        app = self.enterContext(client("demo"))
        station = app.get("/api/stations").json()[0]
        known = app.get("/api/openapi.json").json()["components"]["schemas"]["StationIn"]["properties"]
        body = {name: value for name, value in station.items() if name in known and name != "version"}
        tree = app.get("/api/trees", params={"limit": 1}).json()["trees"][0]["id"]
        now = app.get("/api/clock").json()["now"]
        water = {"tree_id": tree, "kind": "water", "happened_at": now, "device_id": "test", "volume_l": 1.0}
        winds = iter([2.0, 3.0] * 500)
        asks = [lambda: app.get("/api/today")] * 3 + [
            lambda: app.put(f"/api/stations/{station['id']}", json=body | {"wind_height_m": next(winds)}),
            lambda: app.put(f"/api/log/{new_id()}", json=water),
        ]
        answers, stop = [], time.monotonic() + 3.0

        def loop(ask):
            while time.monotonic() < stop:
                answers.append(ask().status_code)

        threads = [threading.Thread(target=loop, args=(ask,)) for ask in asks]
        for one in threads:
            one.start()
        for one in threads:
            one.join(60)
        self.assertGreater(len(answers), 8)
        self.assertEqual([code for code in answers if code >= 400], [])


if __name__ == "__main__":
    unittest.main()
