"""Boxes at valves over HTTP, against the stand-in: scheduled from the plan, metered into the log, stopped."""

import unittest
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from itertools import pairwise
from unittest import mock
from uuid import UUID

from fastapi.testclient import TestClient

from june_shade.demo import scenario
from june_shade.outside.valve_box import HttpValveBox
from june_shade.plans import clock
from june_shade.plans.boxes import talk
from june_shade.standins import valve_box
from june_shade.store.session import reading
from tests.support import client, new_id

SITE = str(scenario.name_id("site", "RT"))


class BoxTest(unittest.TestCase):
    """The demo's boulevard on outlet 1 of a box whose clock is the program's."""

    def setUp(self):
        self.client = self.enterContext(client("demo"))
        self.sessions = self.client.app.state.sessions
        self.later = timedelta(0)
        now = mock.patch.object(clock, "now", self.now)
        self.real = clock.now
        now.start()
        self.addCleanup(now.stop)
        line = next(one for one in self.client.get(f"/api/sites/{SITE}/lines").json() if one["laid"])
        page = self.client.get(f"/api/lines/{line['id']}").json()
        self.line, self.trees = line["id"], [tree["id"] for tree in page["trees"]]
        self.flow = page["flow"]["flow_l_per_h"]
        with reading(self.sessions) as session:
            self.begins = clock.now(session)
        self.device = valve_box.Box({1: self.flow / 60, 2: 3.0}, lambda: self.begins + self.later)
        web = self.enterContext(TestClient(valve_box.create(self.device)))
        patched = mock.patch.object(talk, "reach", return_value=HttpValveBox("http://testserver", client=web))
        patched.start()
        self.addCleanup(patched.stop)
        self.box = new_id()
        put = self.put()
        self.assertEqual(put.status_code, 200, put.text)

    def now(self, session):
        return self.real(session) if not hasattr(self, "begins") else self.begins + self.later

    def put(self, **changed):
        body = {
            "site_id": SITE, "name": "Depot box", "address": "http://127.0.0.1:9", "hours": [[0, 1440]],
            "outlets": [{"number": 1, "line_id": self.line}],
        }  # fmt: skip
        return self.client.put(f"/api/boxes/{self.box}", json=body | changed)

    def goes_on(self, minutes: float) -> dict:
        self.later += timedelta(minutes=minutes)
        return self.ask()

    def ask(self) -> dict:
        told = self.client.post(f"/api/boxes/{self.box}/ask")
        self.assertEqual(told.status_code, 200, told.text)
        return told.json()

    def until(self, state: str, most: int = 60) -> dict:
        """The first run that gets into a state, the clock going on by half hours."""
        for _ in range(most):
            for run in self.ask()["runs"]:
                if run["state"] == state:
                    return run
            self.later += timedelta(minutes=30)
        self.fail(f"no run was {state}")

    def metered(self) -> list[dict]:
        rows = [self.client.get(f"/api/trees/{tree}/log").json() for tree in self.trees]
        return [one for row in rows for one in row if one["device_id"].startswith("box ")]


class Runs(BoxTest):
    def test_the_plan_s_run_is_sent_read_back_run_and_metered_into_the_log_once(self):
        sent = self.until("sent")
        self.assertEqual(sent["line_id"], self.line)
        self.assertEqual({run.outlet for run in self.device.runs}, {1})
        done = self.until("done")
        self.assertEqual(done["verdict"], "fine")
        self.assertAlmostEqual(done["litres"], done["expected_l"], delta=0.02 * done["expected_l"])
        logged = self.metered()
        self.assertEqual(len(logged), len(self.trees))
        self.assertAlmostEqual(sum(one["volume_l"] for one in logged), done["litres"], places=3)
        book = self.client.get("/api/book", params={"kind": "water", "site": SITE, "limit": 60}).json()["rows"]
        marked = [row for row in book if row["person"] == "Depot box"]
        self.assertEqual(len(marked), len(self.trees))
        for _ in range(3):
            self.ask()
        self.assertEqual(len(self.metered()), len(self.trees))

    def test_what_happened_while_it_was_away_is_caught_up_without_doubling(self):
        self.until("sent")
        self.device.fail(valve_box.Faults(silent=True))
        for _ in range(48):
            away = self.goes_on(30)
        self.assertIsNotNone(away["silent_since"])
        self.device.fail(valve_box.Faults())
        back = self.ask()
        self.assertIsNone(back["silent_since"])
        done = [run for run in back["runs"] if run["state"] == "done"]
        self.assertTrue(done)
        self.assertAlmostEqual(sum(one["volume_l"] for one in self.metered()), sum(run["litres"] for run in done), 3)

    def test_two_lines_run_one_after_the_other_so_that_the_meter_is_nobody_s_twice(self):
        lines = [one["id"] for one in self.client.get(f"/api/sites/{SITE}/lines").json() if one["laid"]]
        self.assertGreater(len(lines), 1)
        self.put(outlets=[{"number": n, "line_id": line} for n, line in enumerate(lines[:2], 1)])
        self.until("sent")
        spans = sorted((run.starts_at, run.ends_at) for run in self.device.runs)
        self.assertGreater(len(spans), 1)
        self.assertTrue(all(a[1] <= b[0] for a, b in pairwise(spans)))
        told = self.goes_on(40 * 60)
        self.assertEqual({run["number"] for run in told["runs"] if run["state"] == "done"}, {1, 2})
        self.assertLessEqual(sum(run["litres"] or 0 for run in told["runs"]), self.device.total_l + 0.01)

    def test_a_person_stops_a_run_and_it_is_not_begun_again_that_day(self):
        self.until("sent")
        start = self.device.runs[0].starts_at
        self.later = start - self.begins + timedelta(minutes=4)
        running = [run for run in self.ask()["runs"] if run["state"] == "running"]
        self.assertEqual(len(running), 1)
        told = self.client.post(f"/api/boxes/{self.box}/stop", json={"run_id": running[0]["id"]})
        self.assertEqual(told.status_code, 200, told.text)
        states = {run["id"]: run["state"] for run in told.json()["runs"]}
        self.assertEqual(states[running[0]["id"]], "stopped")
        self.assertLess(sum(one["volume_l"] for one in self.metered()), running[0]["expected_l"])
        later = self.goes_on(60)
        self.assertEqual({run["id"]: run["state"] for run in later["runs"]}[running[0]["id"]], "stopped")
        self.device.fail(valve_box.Faults(silent=True))
        refused = self.client.post(f"/api/boxes/{self.box}/stop", json={})
        self.assertEqual(refused.status_code, 409)
        self.assertIn("by hand", refused.text)

    def test_one_that_is_still_to_come_is_taken_off_the_box(self):
        self.put(hours=[[1200, 1440]])
        sent = self.until("sent")
        self.device.fail(valve_box.Faults(silent=True))
        told = self.client.post(f"/api/boxes/{self.box}/stop", json={"run_id": sent["id"]})
        self.assertEqual(told.status_code, 409)
        states = {run["id"]: run["state"] for run in self.ask()["runs"]}
        self.assertEqual(states[sent["id"]], "sent", "it may still run: nothing is said to be stopped")
        self.device.fail(valve_box.Faults())
        told = self.client.post(f"/api/boxes/{self.box}/stop", json={"run_id": sent["id"]})
        self.assertEqual({run["id"]: run["state"] for run in told.json()["runs"]}[sent["id"]], "stopped")
        self.assertNotIn(sent["id"], [run.id for run in self.device.runs])
        self.assertEqual(self.client.post(f"/api/boxes/{self.box}/stop", json={"run_id": sent["id"]}).status_code, 404)

    def test_nothing_is_sent_outside_its_hours_nor_on_a_day_that_an_order_closes(self):
        self.put(hours=[[180, 300]])
        for run in self.until("sent"), *self.ask()["runs"]:
            start = run["starts_at"]
            with self.subTest(start):
                local = self.device.runs[0].starts_at.astimezone(clock.DEMO_ZONE)
                self.assertTrue(3 <= local.hour < 5)
        order = {"name": "Nothing at all", "stage": 5, "sites": [SITE], "rules": {"weekdays": []}}
        put = self.client.put(f"/api/restrictions/{new_id()}", json=order)
        self.assertEqual(put.status_code, 200, put.text)
        self.ask()
        ahead = [run for run in self.device.runs if run.starts_at > self.begins + self.later + timedelta(minutes=5)]
        self.assertEqual(ahead, [])


class Faults(BoxTest):
    def after(self, **faults) -> dict:
        self.until("sent")
        self.device.fail(valve_box.Faults(**faults))
        return self.until("done")

    def test_a_clog_and_a_leak_are_told_by_size_and_what_flowed_is_logged(self):
        found = self.after(clogged_share=0.2)
        self.assertEqual(found["verdict"], "clogging")
        self.assertAlmostEqual(found["off_l_per_h"], -0.2 * self.flow, delta=0.02 * self.flow)
        self.assertTrue(self.metered())

    def test_what_the_meter_asks_for_is_a_dated_task_until_a_run_is_as_it_should_be(self):
        def asked():
            tasks = self.client.get("/api/care", params={"site_id": SITE}).json()["tasks"]
            return [(one["kind"], one["tree_id"]) for one in tasks if one["kind"].startswith("line_")]

        self.assertEqual(asked(), [])
        self.after(clogged_share=0.2)
        self.assertEqual(asked(), [("line_test", self.trees[0])])
        self.device.fail(valve_box.Faults())
        for _ in range(120):
            if any(run["verdict"] == "fine" for run in self.goes_on(60)["runs"]):
                break
        else:
            self.fail("no run was as it should be")
        self.assertEqual(asked(), [])

    def test_a_meter_that_runs_backwards_makes_no_entry(self):
        found = self.after(backwards=True)
        self.assertFalse(found["believed"])
        self.assertIsNone(found["verdict"])
        self.assertEqual(self.metered(), [])

    def test_a_valve_stuck_open_is_told_after_ten_minutes(self):
        self.put(hours=[[1200, 1440]])
        self.until("sent")
        self.device.fail(valve_box.Faults(stuck_open=[1]))
        self.assertIsNone(self.goes_on(1)["idle"])
        told = self.goes_on(11)["idle"]
        self.assertEqual(told["outlet"], 1)
        self.assertAlmostEqual(told["flow_l_per_h"], self.flow, delta=1)

    def test_one_that_forgot_its_schedule_gets_it_again(self):
        self.until("sent")
        self.device.fail(valve_box.Faults(forgets=True))
        self.assertEqual(self.device.runs, [])
        self.device.fail(valve_box.Faults())
        self.ask()
        self.assertTrue(self.device.runs)

    def test_a_clock_that_stays_off_schedules_nothing(self):
        self.until("sent")
        self.device.fail(valve_box.Faults(clock_off_min=45))
        self.device.set_clock(self.begins + self.later)
        told = self.ask()
        self.assertTrue(told["clock_doubted"])
        self.assertEqual([run for run in told["runs"] if run["state"] in ("planned", "sent")], [])


class AtOnce(BoxTest):
    def test_asked_by_two_at_once_nothing_is_there_twice(self):
        self.until("sent")
        self.later += timedelta(hours=26)
        with ThreadPoolExecutor(4) as pool:
            told = list(pool.map(lambda _: talk.one_box(self.sessions, UUID(self.box)), range(4)))
        self.assertEqual(told, [None] * 4)
        done = [run for run in self.ask()["runs"] if run["state"] == "done"]
        self.assertTrue(done)
        self.assertAlmostEqual(sum(one["volume_l"] for one in self.metered()), sum(run["litres"] for run in done), 3)

    def test_a_form_that_was_open_while_it_was_asked_is_not_stale(self):
        version = self.ask()["version"]
        for _ in range(3):
            self.ask()
        self.assertEqual(self.put(hours=[[60, 300]], version=version).status_code, 200)
        self.assertEqual(
            self.put(hours=[[90, 300]], version=version).status_code, 409, "by then another has changed it"
        )


class Left(BoxTest):
    def test_what_does_not_fit_its_hours_or_an_order_s_litres_is_a_person_s_and_is_said(self):
        self.until("sent")
        self.put(hours=[[180, 181]])
        told = self.ask()
        self.assertEqual({one["why"] for one in told["left"]}, {"hours"})
        self.assertEqual([run for run in told["runs"] if run["state"] in ("planned", "sent")], [])
        self.put(hours=[[0, 1440]])
        order = {"name": "A sip", "stage": 4, "sites": [SITE], "rules": {"event_l": 0.5}}
        self.assertEqual(self.client.put(f"/api/restrictions/{new_id()}", json=order).status_code, 200)
        self.assertLessEqual({one["why"] for one in self.ask()["left"]}, {"order"})

    def test_a_tree_that_was_taken_out_meanwhile_holds_nothing_up(self):
        self.until("sent")
        gone = self.trees[0]
        end = {"tree_id": gone, "kind": "removed"}
        self.assertEqual(self.client.put(f"/api/tree-ends/{new_id()}", json=end).status_code, 200)
        done = self.until("done")
        self.assertGreater(done["litres"], 0)
        self.assertGreaterEqual(len({one["id"] for one in self.metered()}), len(self.trees) - 1)

    def test_an_outlet_that_the_box_has_not_is_said_and_nothing_runs(self):
        self.put(outlets=[{"number": 9, "line_id": self.line}])
        for _ in range(8):
            told = self.goes_on(180)
        self.assertIn("there is no outlet 9", told["said"])
        self.assertEqual(self.device.runs, [])
        self.assertIsNone(told["silent_since"], "it answers")

    def test_one_that_counts_anew_is_said_and_nothing_is_made_of_it(self):
        self.until("done")
        before = len(self.metered())
        other = valve_box.Box({1: 5.0}, lambda: self.begins + self.later)
        web = self.enterContext(TestClient(valve_box.create(other)))
        with mock.patch.object(talk, "reach", return_value=HttpValveBox("http://testserver", client=web)):
            self.assertIn("counts its events anew", self.ask()["said"])
        self.assertEqual(len(self.metered()), before)


class CrewsHours(BoxTest):
    """Nobody comes for what a box runs; what it can not do is a person's, with its minutes."""

    def minutes(self) -> float:
        """Of the site's fortnight."""
        told = self.client.get("/api/fortnight", params={"site_id": SITE}).json()
        return sum(sum(crew["minutes"]) for crew in told["crews"])

    def test_they_shrink_by_what_a_box_runs_and_grow_again_while_it_is_silent(self):
        before = self.minutes()
        self.ask()
        relied = self.minutes()
        self.assertLess(relied, before)
        self.assertTrue(self.ask()["relied_on"])
        self.device.fail(valve_box.Faults(silent=True))
        self.goes_on(5)
        self.assertAlmostEqual(self.minutes(), relied, places=6, msg="it may only be slow")
        self.assertFalse(self.goes_on(20)["relied_on"])
        self.assertAlmostEqual(self.minutes(), before, places=6)
        self.device.fail(valve_box.Faults())
        self.ask()
        self.assertAlmostEqual(self.minutes(), relied, places=6)
        self.client.put(f"/api/boxes/{self.box}/closed", json={"closed": True})
        self.assertAlmostEqual(self.minutes(), before, places=6)

    def test_what_finds_no_room_within_its_hours_is_in_them(self):
        self.until("sent")
        relied = self.minutes()
        self.put(hours=[[180, 181]])
        left = self.ask()["left"]
        self.assertTrue(left)
        self.assertGreater(self.minutes(), relied)

    def test_one_that_takes_no_run_is_not_relied_on(self):
        before = self.minutes()
        self.put(outlets=[{"number": 9, "line_id": self.line}])
        self.assertFalse(self.ask()["relied_on"], "it answers, but Today must not say that nobody has to come")
        self.assertAlmostEqual(self.minutes(), before, places=6)


class Entered(BoxTest):
    def test_what_can_not_be_is_refused_by_its_field(self):
        other = self.client.get(f"/api/sites/{scenario.name_id('site', 'HL')}/lines").json()[0]["id"]
        for changed, field in (
            ({"address": "ftp://box/status"}, "address"), ({"address": "http://"}, "address"),
            ({"address": "http://[box"}, "address"), ({"address": "http://a b"}, "address"),
            ({"hours": [[300, 200]]}, "hours"),
            ({"outlets": [{"number": 1, "line_id": other}]}, "outlets[1]"),
            ({"outlets": [{"number": 1, "line_id": self.line}, {"number": 2, "line_id": self.line}]}, "outlets"),
        ):  # fmt: skip
            told = self.put(**changed)
            self.assertEqual(told.status_code, 422, told.text)
            self.assertTrue(told.json()["field"].startswith(field), told.text)

    def test_one_that_is_closed_is_asked_no_more(self):
        told = self.client.put(f"/api/boxes/{self.box}/closed", json={"closed": True})
        self.assertIsNotNone(told.json()["closed_on"])
        self.assertEqual(self.client.get("/api/boxes").json(), [])


if __name__ == "__main__":
    unittest.main()
