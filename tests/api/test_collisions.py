"""Writes that meet each other: done again, never doubled, never an error of the database on a page."""

import threading
import unittest
from functools import partial
from unittest import mock

import psycopg
from sqlalchemy.exc import OperationalError

from june_shade.api.schemas.weather import StationIn
from june_shade.plans import log
from tests.api.test_trees import RegisterTest
from tests.support import new_id, tree_body, water_body

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

    def test_a_full_disk_is_said_and_everything_can_still_be_read(self):
        full = OperationalError("INSERT", {}, psycopg.errors.DiskFull("could not extend file"))
        _, answer = self.poured(full, full)
        self.assertEqual((answer.status_code, answer.json()["code"]), (507, "disk_full"))
        self.assertNotIn("extend", answer.text)
        self.assertEqual(self.entries(), [])

    def test_another_error_is_not_tried_again(self):
        with mock.patch("june_shade.plans.log.put", side_effect=ZeroDivisionError) as put:
            self.client.put(f"/api/log/{new_id()}", json=water_body(self.tree, 11.0))
        self.assertEqual(put.call_count, 1)


class SamePerson(RegisterTest):
    def test_a_name_given_on_two_phones_at_once_is_one_person(self):
        answers = []
        ask = lambda name: answers.append(self.client.put(f"/api/people/{new_id()}", json={"name": name}))  # noqa: E731
        threads = [threading.Thread(target=ask, args=[name]) for name in ("Ida", "ida", " Ida ", "IDA", "Ida")]
        for one in threads:
            one.start()
        for one in threads:
            one.join(30)
        self.assertEqual({answer.status_code for answer in answers}, {200})
        self.assertEqual(len({answer.json()["id"] for answer in answers}), 1)
        self.assertEqual(len(self.client.get("/api/people").json()), 1)


class Beside(RegisterTest):
    def test_rounds_and_entries_beside_a_station_that_is_saved(self):
        """Three loops of Today beside one that saves a station and one that logs: every answer is good."""
        trees = [new_id() for _ in range(4)]
        for number, tree in enumerate(trees):
            self.client.put(f"/api/trees/{tree}", json=tree_body(self.site_id, self.plant, tag=f"C-{number}"))
        station = self.client.get("/api/stations").json()[0]
        body = {name: value for name, value in station.items() if name in StationIn.model_fields and name != "version"}
        loops = [[lambda: self.client.get("/api/today")] * 6 for _ in range(3)]
        loops.append([
            partial(self.client.put, f"/api/stations/{station['id']}", json=body | {"wind_height_m": 2.0 + n % 2})
            for n in range(8)
        ])  # fmt: skip
        loops.append([
            partial(self.client.put, f"/api/log/{new_id()}", json=water_body(trees[n % 4], 1.0)) for n in range(12)
        ])  # fmt: skip
        answers: list[int] = []
        threads = [
            threading.Thread(target=lambda asks=asks: answers.extend(ask().status_code for ask in asks))
            for asks in loops
        ]
        for one in threads:
            one.start()
        for one in threads:
            one.join(120)
        self.assertEqual(len(answers), 3 * 6 + 8 + 12)
        self.assertEqual([code for code in answers if code >= 400], [])


if __name__ == "__main__":
    unittest.main()
