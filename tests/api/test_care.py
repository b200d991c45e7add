"""The care calendar over HTTP: tasks, what is said of them, Today, and the iCalendar feed read by a library."""

import unittest
from datetime import date, timedelta

from icalendar import Calendar

from june_shade.plans import clock
from june_shade.store import weather as store
from june_shade.store.session import transaction
from tests.api.test_mulching import MulchTest
from tests.support import DAY, DEVICE, new_id


class CareTest(MulchTest):
    def tasks(self, tree: str) -> dict[str, dict]:
        return {t["kind"]: t for t in self.client.get(f"/api/care?tree_id={tree}").json()["tasks"]}

    def say(self, tree: str, key: str, act: str, identity: str | None = None, **more):
        body = {"tree_id": tree, "key": key, "act": act} | more
        return self.client.put(f"/api/care-acts/{identity or new_id()}", json=body)

    def feed(self, path: str) -> dict[str, dict]:
        answer = self.client.get(path)
        self.assertEqual(answer.status_code, 200, answer.text)
        self.assertTrue(answer.headers["content-type"].startswith("text/calendar"))
        calendar = Calendar.from_ical(answer.content)
        self.assertEqual((str(calendar["version"]), str(calendar["method"])), ("2.0", "PUBLISH"))
        return {str(event["uid"]): event for event in calendar.walk("VEVENT")}

    def events(self, tree: str) -> dict[str, dict]:
        return self.feed(f"/api/trees/{tree}/care.ics")


class Tasks(CareTest):
    def test_a_thin_ring_is_due_today_and_stands_on_the_round(self):
        tree = self.mulched(0.03)
        task = self.tasks(tree)["mulch_top_up"]
        self.assertEqual(task["due_on"], DAY.isoformat())
        (site,) = self.client.get("/api/today").json()["sites"]
        self.assertIn((tree, "mulch_top_up"), [(t["tree_id"], t["kind"]) for t in site["care"]])

    def test_done_moved_and_not_needed(self):
        tree = self.mulched(0.03)
        key = self.tasks(tree)["mulch_top_up"]["key"]
        self.assertEqual(self.say(tree, key, "moved", day=(DAY + timedelta(days=9)).isoformat()).status_code, 422)
        moved = self.say(tree, key, "moved", day=(DAY + timedelta(days=9)).isoformat(), reason="no chips")
        self.assertEqual(moved.status_code, 200, moved.text)
        task = self.tasks(tree)["mulch_top_up"]
        self.assertEqual((task["due_on"], task["reason"]), ((DAY + timedelta(days=9)).isoformat(), "no chips"))
        self.assertEqual(task["moved_from"], DAY.isoformat())
        self.client.post(f"/api/care-acts/{moved.json()['id']}/withdraw")
        self.assertEqual(self.tasks(tree)["mulch_top_up"]["due_on"], DAY.isoformat())
        self.say(tree, key, "dismissed", reason="felled")
        self.assertNotIn("mulch_top_up", self.tasks(tree))

    def test_sent_twice_it_is_said_once(self):
        tree, identity = self.mulched(0.03), new_id()
        key = self.tasks(tree)["mulch_top_up"]["key"]
        self.assertEqual(self.say(tree, key, "done", identity).status_code, 200)
        self.assertEqual(self.say(tree, key, "done", identity).status_code, 200)
        self.assertEqual(self.say(tree, "other", "done", identity).status_code, 409)

    def test_nothing_is_done_before_it_is(self):
        tree = self.mulched(0.03)
        key = self.tasks(tree)["mulch_top_up"]["key"]
        ahead = self.say(tree, key, "done", day=(DAY + timedelta(days=1)).isoformat())
        self.assertEqual((ahead.status_code, ahead.json()["field"]), (422, "day"))
        before = self.say(tree, key, "done", day=(DAY - timedelta(days=1)).isoformat())
        self.assertEqual((before.status_code, before.json()["day"]), (200, str(DAY - timedelta(days=1))))

    def test_what_is_no_task_can_not_be_done_nor_moved_into_the_past(self):
        tree = self.mulched(0.03)
        self.assertEqual(self.say(tree, "nothing", "done").status_code, 404)
        key = self.tasks(tree)["mulch_top_up"]["key"]
        for day in ((DAY - timedelta(days=1)).isoformat(), None, "2099-01-01"):
            self.assertEqual(self.say(tree, key, "moved", day=day, reason="x").json()["field"], "day")

    def test_new_mulch_moves_the_top_up_and_asks_for_emitters(self):
        drip = {"method": "emitters", "emitter_count": 4, "emitter_flow_l_per_h": 4.0, "basin_diameter_m": None}
        tree = self.mulched(0.03, **drip)
        before = self.tasks(tree)["mulch_top_up"]
        self.keep(tree)
        after = self.tasks(tree)
        self.assertGreater(after["mulch_top_up"]["due_on"], before["due_on"])
        self.assertNotEqual(after["mulch_top_up"]["key"], before["key"])
        self.assertEqual(after["emitters_lift"]["due_on"], DAY.isoformat())

    def test_a_planting_brings_its_own(self):
        tree = self.put().json()["id"]
        choice = self.client.get(f"/api/trees/{tree}/planting").json()["figures"]["choice"]
        body = {"choice": choice | {"support": "one_stake", "wrap": True}}
        self.client.put(f"/api/trees/{tree}/planting/{new_id()}", json=body)
        found = self.tasks(tree)
        self.assertEqual(found["stake_off"]["due_on"], (DAY + timedelta(days=365)).isoformat())
        self.assertIn("wrap_check", found)


class Plantings(CareTest):
    def batch(self, **changed) -> str:
        body = {
            "site_id": str(self.site_id), "stop": "Court", "planned_on": (DAY + timedelta(days=1)).isoformat(),
            "plant_id": str(self.plant), "kind": "container", "caliper_m": 0.03, "ball_diameter_m": 0.4,
            "ball_height_m": 0.35, "count": 3, "tag": "C-01",
        } | changed  # fmt: skip
        planting = new_id()
        answer = self.client.put(f"/api/plantings/{planting}", json=body)
        self.assertEqual(answer.status_code, 200, answer.text)
        return planting

    def due(self, planting: str) -> dict[str, dict]:
        found = self.client.get(f"/api/care?site_id={self.site_id}").json()["tasks"]
        return {t["kind"]: t for t in found if t["planting_id"] == planting}

    def test_the_stock_is_watered_the_day_before_and_that_is_said_of_the_batch(self):
        planting = self.batch()
        task = self.due(planting)["water_stock"]
        self.assertEqual((task["due_on"], task["tree_id"], task["tag"]), (DAY.isoformat(), None, "C-01"))
        (site,) = self.client.get("/api/today").json()["sites"]
        self.assertIn("water_stock", [t["kind"] for t in site["care"]])
        (event,) = [
            e for e in self.feed(f"/api/sites/{self.site_id}/care.ics").values() if "Water the stock" in e["summary"]
        ]
        self.assertTrue(str(event["url"]).endswith(f"/plantings/{planting}"))
        identity = new_id()
        for _ in range(2):
            said = self.client.put(
                f"/api/care-acts/{identity}", json={"planting_id": planting, "key": "water_stock", "act": "done"}
            )
            self.assertEqual(said.status_code, 200, said.text)
        self.assertNotIn("water_stock", self.due(planting))
        self.client.post(f"/api/care-acts/{identity}/withdraw")
        self.assertIn("water_stock", self.due(planting))
        self.client.post(f"/api/plantings/{planting}/withdraw")
        self.assertEqual(self.due(planting), {})

    def test_a_task_is_a_trees_or_a_plantings(self):
        planting, tree = self.batch(), self.mulched(0.03)
        for body in ({}, {"tree_id": tree, "planting_id": planting}):
            answer = self.client.put(f"/api/care-acts/{new_id()}", json=body | {"key": "water_stock", "act": "done"})
            self.assertEqual((answer.status_code, answer.json()["field"]), (422, "tree_id"))

    def test_once_planted_the_first_mulch_is_due_and_done_by_laying_it(self):
        planting = self.batch(planned_on=DAY.isoformat())
        self.client.post(f"/api/plantings/{planting}/planted", json={"device_id": DEVICE})
        tree = self.client.get(f"/api/plantings/{planting}").json()["trees"][0]
        self.assertEqual(self.tasks(tree)["mulch_first"]["due_on"], DAY.isoformat())
        self.assertEqual(self.client.put(f"/api/mulch-entries/{new_id()}", json={"tree_id": tree}).status_code, 200)
        self.assertNotIn("mulch_first", self.tasks(tree))


class Tender(CareTest):
    def test_what_frost_hurts_is_covered_by_the_stations_own_years_and_told_on_a_cold_evening(self):
        kind = next(p for p in self.client.get("/api/plants").json() if p["common"] == "Lemon")
        tree = self.put(plant_id=kind["id"], planted_on=DAY.isoformat()).json()["id"]
        self.assertNotIn("frost_ready", self.tasks(tree))
        days = (date(2022, 1, 1) + timedelta(days=n) for n in range(4 * 365))
        with transaction(self.sessions) as session:
            store.save_days(session, self.station_id, [
                {"day": day, **dict.fromkeys(store.QUANTITIES), "tmax_c": 14, "rain_mm": 0,
                 "tmin_c": -2 if day.month in (1, 2, 12) else 4}
                for day in days
            ])  # fmt: skip
        found = self.tasks(tree)
        self.assertEqual(found["frost_ready"]["due_on"], "2026-11-17")  # two weeks before December 1
        self.assertEqual(found["frost_off"]["due_on"], "2027-03-07")  # a week after February 28
        self.assertEqual(
            (found["pest_look"]["caution"], found["pest_look"]["detail"]), ("label", ["scale", "leafminer"])
        )


class Feeds(CareTest):
    def test_a_feed_is_read_by_a_library_and_says_what_the_list_says(self):
        tree = self.mulched(0.03)
        listed = self.client.get(f"/api/care?tree_id={tree}").json()["tasks"]
        events = self.events(tree)
        self.assertEqual(len(events), len(listed))
        self.assertEqual(
            sorted(e.decoded("dtstart") for e in events.values()), [date.fromisoformat(t["due_on"]) for t in listed]
        )
        for event in events.values():
            self.assertEqual(event.decoded("dtend") - event.decoded("dtstart"), timedelta(days=1))
            self.assertTrue(str(event["summary"]) and str(event["description"]))
            self.assertEqual((int(event["sequence"]), str(event["status"])), (0, "CONFIRMED"))
            self.assertIn("dtstamp", event)

    def test_asked_again_nothing_has_changed(self):
        tree = self.mulched(0.03)
        first, second = self.events(tree), self.events(tree)
        same = lambda e: (str(e["summary"]), e.decoded("dtstart"), int(e["sequence"]), e.decoded("last-modified"))  # noqa: E731
        self.assertEqual({u: same(e) for u, e in first.items()}, {u: same(e) for u, e in second.items()})

    def test_a_moved_task_is_the_same_event_changed(self):
        tree = self.mulched(0.03)
        before = self.events(tree)
        later = DAY + timedelta(days=20)
        self.say(tree, self.tasks(tree)["mulch_top_up"]["key"], "moved", day=later.isoformat(), reason="no chips")
        after = self.events(tree)
        self.assertEqual(set(before), set(after))
        (uid,) = [u for u, e in after.items() if int(e["sequence"]) == 1]
        self.assertEqual(after[uid].decoded("dtstart"), later)
        self.assertIn("no chips", str(after[uid]["description"]))

    def test_what_is_gone_is_cancelled_then_forgotten(self):
        tree = self.mulched(0.03)
        before = self.events(tree)
        self.say(tree, self.tasks(tree)["mulch_top_up"]["key"], "done")
        after = self.events(tree)
        self.assertEqual(set(before), set(after))
        gone = [e for e in after.values() if str(e["status"]) == "CANCELLED"]
        self.assertEqual([int(e["sequence"]) for e in gone], [1])
        with transaction(self.client.app.state.sessions) as session:
            clock.pin(session, DAY + timedelta(days=90))
        self.assertNotIn(str(gone[0]["uid"]), self.events(tree))

    def test_a_site_has_all_of_its_trees(self):
        trees = [self.mulched(0.03, tag=f"T{n}") for n in range(2)]
        together = self.feed(f"/api/sites/{self.site_id}/care.ics")
        for tree in trees:
            self.assertTrue(set(self.events(tree)) <= set(together))

    def test_the_calendars_address_is_a_secret_that_can_be_renewed(self):
        tree = self.mulched(0.03)
        (mine,) = [c for c in self.client.get("/api/calendars").json() if c["site_id"] == str(self.site_id)]
        self.assertEqual(set(self.events(tree)), set(self.feed(mine["path"])))
        self.assertEqual(self.client.get("/api/calendars").json()[0]["path"], mine["path"])
        renewed = self.client.post(f"/api/sites/{self.site_id}/calendar/renew").json()
        self.assertNotEqual(renewed["path"], mine["path"])
        self.assertEqual(set(self.events(tree)), set(self.feed(renewed["path"])))
        for path in (mine["path"], "/api/calendars/x/care.ics", f"/api/calendars/{self.site_id}/care.ics"):
            self.assertEqual(self.client.get(path).status_code, 404)

    def test_a_closed_site_has_no_calendar_among_the_others(self):
        self.assertIn(str(self.site_id), [c["site_id"] for c in self.client.get("/api/calendars").json()])
        self.client.put(f"/api/sites/{self.site_id}/closed", json={"closed": True})
        answer = self.client.get("/api/calendars")
        self.assertEqual((answer.status_code, answer.json()), (200, []))

    def test_no_language_that_is_not_there(self):
        tree = self.mulched(0.03)
        self.assertEqual(self.client.get(f"/api/trees/{tree}/care.ics?language=xx").status_code, 422)


if __name__ == "__main__":
    unittest.main()
