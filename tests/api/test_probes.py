"""Probes in the ground over HTTP, against the stand-in: taken in once, calibrated, read each morning, learned from."""

import unittest
from datetime import timedelta
from unittest import mock

from fastapi.testclient import TestClient

from june_shade.demo import scenario
from june_shade.outside.soil_probe import HttpSoilProbe
from june_shade.plans import clock
from june_shade.plans.probes import talk
from june_shade.standins import soil_probe
from june_shade.store.session import reading
from tests.support import client, new_id

SITE = str(scenario.name_id("site", "RT"))
BEFORE_HOURS = 24 * 5


class ProbeTest(unittest.TestCase):
    """A probe beside the ball of a tree of the demo, whose clock is the program's, with five days to tell."""

    def setUp(self):
        self.client = self.enterContext(client("demo"))
        self.sessions = self.client.app.state.sessions
        self.later = timedelta(0)
        self.real = clock.now
        with reading(self.sessions) as session:
            self.begins = clock.now(session)
        self.enterContext(mock.patch.object(clock, "now", self.now))
        self.tree = next(t["id"] for t in self.client.get("/api/trees").json()["trees"] if t["site_id"] == SITE)
        self.device = self.a_device()
        self.web = self.enterContext(TestClient(soil_probe.create(self.device)))
        self.enterContext(mock.patch.object(talk, "reach", self.reach))
        self.probe = new_id()
        put = self.put()
        self.assertEqual(put.status_code, 200, put.text)

    def now(self, session):
        return self.begins + self.later

    def reach(self, address):
        return HttpSoilProbe("http://testserver", client=self.web)

    def a_device(self, told: int = 0) -> soil_probe.Probe:
        return soil_probe.Probe((0.1, 0.2, 0.4), lambda: self.begins + self.later, told=told, hours=BEFORE_HOURS)

    def put(self, **changed):
        body = {"tree_id": self.tree, "name": "In the clay", "address": "http://127.0.0.1:9", "store": "ring"}
        return self.client.put(f"/api/probes/{self.probe}", json=body | changed)

    def ask(self, days: float = 0) -> dict:
        self.later += timedelta(days=days)
        told = self.client.post(f"/api/probes/{self.probe}/ask")
        self.assertEqual(told.status_code, 200, told.text)
        return told.json()

    def point(self, kind: str, feel: str | None = None):
        return self.client.put(f"/api/probes/{self.probe}/points", json={"kind": kind, "feel": feel})

    def logged(self) -> list[dict]:
        rows = self.client.get(f"/api/trees/{self.tree}/log").json()
        return [one for one in rows if one["device_id"] == "probe In the clay"]


class Read(ProbeTest):
    def test_its_hours_are_shown_and_count_only_from_when_something_is_known_of_it(self):
        told = self.ask()
        self.assertEqual(told["depths_m"], [0.1, 0.2, 0.4])
        self.assertEqual(len(told["hours"]), 7 * 24)
        self.assertGreaterEqual(len([n for n in told["nights"] if n["theta_m3_m3"] is not None]), 4)
        self.assertFalse(any(night["logged"] for night in told["nights"]))
        self.assertEqual(self.logged(), [])
        known = self.point("wet").json()
        [wet] = known["points"]
        self.assertAlmostEqual(wet["true_m3_m3"], known["capacity_m3_m3"], places=3)
        after = self.ask(days=2)
        self.assertEqual(len(self.logged()), 2)
        last = after["nights"][-1]
        shifted = self.device.readings[-1].theta_m3_m3[0] + wet["true_m3_m3"] - wet["read_m3_m3"]
        self.assertAlmostEqual(last["theta_m3_m3"], shifted, delta=0.02)
        self.assertLess(after["wetness"], 1)

    def test_each_morning_is_a_reading_once_however_often_it_is_asked(self):
        self.ask()
        self.point("wet")
        self.ask(days=3)
        self.ask()
        self.ask()
        first = self.logged()
        self.assertEqual(len(first), 3)
        self.assertEqual({one["how"] for one in first}, {"probe"})
        self.assertTrue(all(one["ring_theta"] is not None and one["ball_theta"] is None for one in first))
        book = self.client.get("/api/book", params={"kind": "reading", "tree": self.tree, "limit": 60}).json()["rows"]
        self.assertEqual(len([row for row in book if row["person"] == "In the clay"]), 3)

    def test_a_reading_moves_the_plan_of_its_tree(self):
        self.ask()
        before = self.client.get(f"/api/trees/{self.tree}/water").json()["section"]["ring_available_l"]
        self.point("felt", "dry")
        self.ask(days=1)
        after = self.client.get(f"/api/trees/{self.tree}/water").json()["section"]
        self.assertLess(after["ring_available_l"], min(before, 0.6 * after["ring_holds_l"]))

    def test_two_points_scale_it_and_one_can_be_taken_back(self):
        self.ask()
        self.point("felt", "dry")
        self.web.put("/soak", json={"mm": 60})
        self.ask(days=1.5)
        two = self.point("wet")
        self.assertEqual(two.status_code, 200, two.text)
        self.assertEqual({one["kind"] for one in two.json()["points"]}, {"wet", "felt"})
        one = self.client.delete(f"/api/probes/{self.probe}/points/felt").json()
        self.assertEqual([point["kind"] for point in one["points"]], ["wet"])

    def test_two_points_at_one_value_or_the_wrong_way_round_are_refused(self):
        self.ask()
        self.point("wet")
        same = self.point("felt", "dry")
        self.assertEqual((same.status_code, same.json()["field"]), (422, "points"))
        self.web.put("/soak", json={"mm": 60})
        self.ask(days=0.1)
        self.assertEqual(self.point("felt", "dry").json()["field"], "points")


class Faults(ProbeTest):
    def fails(self, **faults) -> None:
        self.assertEqual(self.web.put("/faults", json=faults).status_code, 200)

    def troubles(self) -> list[str]:
        return [one["trouble"] for one in self.client.get("/api/probes/troubles").json() if one["id"] == self.probe]

    def test_a_silent_one_is_said_and_caught_up_without_doubling(self):
        self.ask()
        self.point("wet")
        self.fails(silent=True)
        self.ask(days=1)
        away = self.ask(days=1)
        self.assertIsNotNone(away["silent_since"])
        self.assertEqual(self.troubles(), ["silent"])
        self.fails()
        back = self.ask(days=1)
        self.assertIsNone(back["silent_since"])
        self.assertEqual(len(self.logged()), 3)
        self.assertEqual(self.troubles(), [])

    def test_values_of_no_soil_stuck_ones_and_lost_nights_are_no_readings_and_said_after_two(self):
        for faults, why in (({"on_mars": True}, "mars"), ({"stuck": True}, "stuck"), ({"gap_hours": 13}, "gap")):
            with self.subTest(why=why):
                self.setUp()
                self.ask()
                self.point("wet")
                before = len(self.logged())
                self.fails(**faults)
                self.ask(days=3)
                told = self.ask(days=1)
                self.assertEqual(told["nights"][-1]["why"], why)
                self.assertEqual(self.troubles(), [why])
                self.assertLessEqual(len(self.logged()) - before, 2)

    def test_a_clock_that_is_off_is_put_right_and_said(self):
        self.fails(clock_off_min=60)
        told = self.ask(days=0.5)
        self.assertTrue(told["clock_is_off"])
        with reading(self.sessions) as session:
            now = clock.now(session)
        self.assertLess(
            max(one["at"] for one in told["hours"] if one["theta"][0] is not None),
            (now + timedelta(minutes=31)).isoformat(),
        )

    def test_a_clock_of_another_season_is_set_and_its_hours_are_the_true_ones(self):
        true = self.begins
        self.device = soil_probe.Probe((0.1,), lambda: true + self.later + timedelta(days=130), hours=BEFORE_HOURS)
        self.web = self.enterContext(TestClient(soil_probe.create(self.device)))
        self.ask()
        told = self.ask(days=2)
        self.assertFalse(told["clock_is_off"])
        at = [one["at"] for one in told["hours"] if one["theta"] and one["theta"][0] is not None]
        self.assertGreater(len(at), 7 * 24 - 3)

    def test_a_probe_that_counts_anew_is_not_taken_for_the_same(self):
        self.ask()
        self.device.readings.clear()
        told = self.ask()
        self.assertIn("counts its hours anew", told["said"])

    def test_what_is_entered_wrong_is_named(self):
        bad = self.put(address="the pole")
        self.assertEqual((bad.status_code, bad.json()["field"]), (422, "address"))
        self.assertEqual(self.point("wet").json()["code"], "conflict")  # it told nothing yet
        self.assertEqual(self.point("felt").status_code, 422)
        closed = self.client.put(f"/api/probes/{self.probe}/closed", json={"closed": True})
        self.assertIsNotNone(closed.json()["closed_on"])
        self.assertEqual(self.client.get(f"/api/trees/{self.tree}/probes").json(), [])
