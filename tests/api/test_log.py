"""The log over HTTP: once each, undo, correction, and what the plan makes of it."""

import unittest
from datetime import date, timedelta
from uuid import UUID

from june_shade.plans import register
from june_shade.plans import weather_days as measured_days
from june_shade.store.session import transaction
from tests.support import DAY, client, new_id, plant_id, small_site, tree_body, water_body


class LogTest(unittest.TestCase):
    """A site with one balled tree planted five weeks ago and never watered since it was entered."""

    def setUp(self):
        self.client = self.enterContext(client())
        self.sessions = self.client.app.state.sessions
        with transaction(self.sessions) as session:
            site = small_site(session)
            self.site_id, self.plant = site.id, plant_id(session)
        self.tree = self.add_tree()

    def add_tree(self, tag="T-1", **changed):
        tree = new_id()
        body = tree_body(self.site_id, self.plant, tag=tag, planted_on="2026-06-10", **changed)
        body["feel"] = {"ball": "dry", "ring": "dry"}
        answer = self.client.put(f"/api/trees/{tree}", json=body)
        self.assertEqual(answer.status_code, 200, answer.text)
        return tree

    def put(self, entry_id, body):
        return self.client.put(f"/api/log/{entry_id}", json=body)

    def sheet(self, tree=None):
        return self.client.get(f"/api/trees/{tree or self.tree}/water").json()

    def log(self):
        return self.client.get(f"/api/trees/{self.tree}/log").json()


class Once(LogTest):
    def test_new_then_the_same_then_another_under_the_same_id(self):
        entry, body = new_id(), water_body(self.tree, 40.0)
        self.assertEqual(self.put(entry, body).status_code, 201)
        again = self.put(entry, body)
        self.assertEqual(again.status_code, 200)
        self.assertEqual(again.json()["id"], entry)
        other = self.put(entry, body | {"volume_l": 41.0})
        self.assertEqual(other.status_code, 409)
        self.assertIn("volume_l", other.json()["detail"])
        self.assertEqual(len(self.log()), 1)
        self.assertEqual(self.log()[0]["volume_l"], 40.0)

    def test_the_civil_day_is_the_sites_and_stays(self):
        # 05:30 UTC on the 15th is half past eleven in the evening of the 14th at the site
        answer = self.put(new_id(), water_body(self.tree, 40.0) | {"happened_at": "2026-07-15T05:30:00Z"})
        self.assertEqual(answer.json()["local_date"], "2026-07-14")

    def test_who_did_it_is_kept(self):
        person = new_id()
        self.assertEqual(self.client.put(f"/api/people/{person}", json={"name": "Noor"}).status_code, 200)
        self.put(new_id(), water_body(self.tree, 40.0) | {"person_id": person})
        self.assertEqual(self.log()[0]["person"], "Noor")
        twin = self.client.put(f"/api/people/{new_id()}", json={"name": "Noor"}).json()
        self.assertEqual(twin["id"], person, "a name that is there already is that person")


class Again(LogTest):
    def put(self, litres: float, at: str, asking: str = "true"):
        path = f"/api/log/{new_id()}?ask_again={asking}"
        return self.client.put(path, json=water_body(self.tree, litres, at=at))

    def test_the_same_amount_a_moment_later_is_asked_about_and_stored_on_a_yes(self):
        self.assertEqual(self.put(40.0, "06:00").status_code, 201)
        asked = self.put(40.1, "06:09")
        self.assertEqual((asked.status_code, asked.json()["code"]), (409, "again"))
        for litres, at, asking in ((40.0, "05:49", "true"), (30.0, "06:05", "true"), (40.0, "06:05", "false")):
            self.assertEqual(self.put(litres, at, asking).status_code, 201, (litres, at))

    def test_an_answer_that_was_lost_and_an_undo_are_not_asked_about(self):
        entry, body = new_id(), water_body(self.tree, 40.0)
        for status in (201, 200):
            self.assertEqual(self.client.put(f"/api/log/{entry}?ask_again=true", json=body).status_code, status)
        undo = {k: v for k, v in body.items() if k != "volume_l"} | {"kind": "void", "voids": entry}
        self.assertEqual(self.client.put(f"/api/log/{new_id()}", json=undo).status_code, 201)
        self.assertEqual(self.put(40.0, "06:12").status_code, 201)

    def test_a_whole_stop_is_asked_about_once(self):
        send = lambda asking: self.client.put(  # noqa: E731
            f"/api/log?ask_again={asking}", json={"entries": [water_body(self.tree, 40.0) | {"id": new_id()}]}
        )
        self.assertEqual(send("true").status_code, 200)
        self.assertEqual(send("true").json()["code"], "again")
        self.assertEqual(send("false").status_code, 200)


class PlanFollows(LogTest):
    def test_water_moves_the_plan_and_undo_brings_it_back(self):
        before = self.sheet()
        self.assertEqual(before["next"]["day"], DAY.isoformat())
        entry = new_id()
        litres = before["next"]["metric"]["litres"]
        self.put(entry, water_body(self.tree, litres))
        watered = self.sheet()
        self.assertGreater(watered["next"]["day"], DAY.isoformat())
        self.assertEqual(watered["poured_today_l"], litres)
        self.assertLess(watered["dryness"], before["dryness"])
        undo = {"tree_id": self.tree, "kind": "void", "voids": entry, "device_id": "d"}
        self.assertEqual(self.put(new_id(), undo | {"happened_at": "2026-07-15T06:15:00-06:00"}).status_code, 201)
        self.assertEqual(self.sheet(), before)

    def test_a_correction_is_void_and_new_in_one(self):
        wrong, right = new_id(), new_id()
        self.put(wrong, water_body(self.tree, 4.0))
        body = water_body(self.tree, 40.0) | {"corrects": wrong, "void_id": new_id()}
        self.assertEqual(self.put(right, body).status_code, 201)
        self.assertEqual(self.put(right, body).status_code, 200, "a lost answer sent again")
        found = {e["id"]: e for e in self.log()}
        self.assertTrue(found[wrong]["voided"])
        self.assertFalse(found[right]["voided"])
        self.assertEqual(self.sheet()["poured_today_l"], 40.0)
        again = water_body(self.tree, 50.0) | {"corrects": wrong, "void_id": new_id()}
        self.assertEqual(self.put(new_id(), again).status_code, 409)
        self.assertEqual(self.sheet()["poured_today_l"], 40.0, "nothing of a refused correction is stored")

    def test_two_people_undoing_get_the_one_that_stands(self):
        entry, first, second = new_id(), new_id(), new_id()
        self.put(entry, water_body(self.tree, 40.0))
        undo = {
            "tree_id": self.tree, "kind": "void", "voids": entry, "device_id": "d",
            "happened_at": "2026-07-15T06:15:00-06:00",
        }  # fmt: skip
        self.assertEqual(self.put(first, undo).status_code, 201)
        standing = self.put(second, undo)
        self.assertEqual((standing.status_code, standing.json()["id"]), (200, first))

    def test_water_of_an_earlier_day_counts_there(self):
        late = self.add_tree("T-2")
        with transaction(self.sessions) as session:
            from june_shade.plans import clock

            clock.pin(session, DAY + timedelta(days=4))
            where = register.site(session, self.site_id)
            from tests.support import weather_days

            measured_days.store_days(session, where.station, weather_days(DAY, DAY + timedelta(days=3)))
        dry = self.sheet(late)
        answer = self.put(new_id(), water_body(late, 60.0, day=DAY + timedelta(days=2)))
        self.assertEqual(answer.json()["local_date"], (DAY + timedelta(days=2)).isoformat())
        wet = self.sheet(late)
        self.assertLess(wet["dryness"], dry["dryness"])
        self.assertLess(wet["next"]["late_days"] if wet["next"] else 0, dry["next"]["late_days"])
        poured = {d["day"]: d["poured_l"] for d in wet["chart"]}
        self.assertEqual(poured[(DAY + timedelta(days=2)).isoformat()], 60.0)

    def test_the_round_shows_what_was_done(self):
        round_before = self.client.get("/api/today").json()
        tree = round_before["sites"][0]["stops"][0]["trees"][0]
        self.assertEqual(tree["id"], self.tree)
        self.put(new_id(), water_body(self.tree, tree["next"]["metric"]["litres"]))
        tree = self.client.get("/api/today").json()["sites"][0]["stops"][0]["trees"][0]
        self.assertIsNone(tree["next"])
        self.assertEqual(len(tree["entries"]), 1)


class Refused(LogTest):
    def test_what_can_not_be_is_refused_by_name(self):
        good = water_body(self.tree, 40.0)
        for change, status, field in (
            ({"volume_l": -5}, 422, "volume_l"),
            ({"volume_l": "much"}, 422, "volume_l"),
            ({"volume_l": None}, 422, "volume_l"),
            ({"kind": "dance"}, 422, "kind"),
            ({"tree_id": new_id()}, 404, "tree_id"),
            ({"person_id": new_id()}, 422, "person_id"),
            ({"happened_at": "2026-07-15T23:50:00-06:00"}, 422, "happened_at"),
            ({"happened_at": "2026-07-15T06:00:00"}, 422, "happened_at"),
            ({"happened_at": "2026-06-01T06:00:00-06:00"}, 422, "happened_at"),
            ({"duration_min": -1}, 422, "duration_min"),
            ({"color": "green"}, 422, "color"),
            ({"kind": "note", "volume_l": None, "note": "  "}, 422, "note"),
            ({"kind": "void", "volume_l": None, "voids": new_id()}, 422, "voids"),
            ({"corrects": new_id()}, 422, "corrects"),
        ):
            with self.subTest(change):
                answer = self.put(new_id(), good | change)
                self.assertEqual(answer.status_code, status, answer.text)
                self.assertEqual(answer.headers["content-type"], "application/problem+json")
                self.assertEqual(answer.json()["field"], field)
                self.assertGreater(len(answer.json()["detail"]), 10)
        self.assertEqual(self.log(), [])

    def test_an_undo_can_not_be_undone(self):
        entry, undo_id = new_id(), new_id()
        self.put(entry, water_body(self.tree, 40.0))
        undo = {"tree_id": self.tree, "kind": "void", "device_id": "d", "happened_at": "2026-07-15T06:15:00-06:00"}
        self.put(undo_id, undo | {"voids": entry})
        self.assertEqual(self.put(new_id(), undo | {"voids": undo_id}).status_code, 422)

    def test_one_trees_entry_is_not_anothers_to_undo(self):
        entry = new_id()
        self.put(entry, water_body(self.tree, 40.0))
        other = self.add_tree("T-2")
        undo = {
            "tree_id": other, "kind": "void", "voids": entry, "device_id": "d",
            "happened_at": "2026-07-15T06:15:00-06:00",
        }  # fmt: skip
        self.assertEqual(self.put(new_id(), undo).status_code, 422)


class Evening(LogTest):
    def test_evening_water_counts_tomorrow_but_sends_nobody_today(self):
        with transaction(self.sessions) as session:
            from june_shade.store.clock_tables import PinnedClock

            session.get(PinnedClock, 1).shown_at += timedelta(hours=12)
        before = self.sheet()
        self.put(new_id(), water_body(self.tree, 60.0, at="17:30"))
        after = self.sheet()
        self.assertEqual(after["dryness"], before["dryness"], "it counts with the next morning")
        self.assertGreater(after["next"]["day"] if after["next"] else "9999", DAY.isoformat())
        tomorrow = next(d for d in after["chart"] if d["day"] == (DAY + timedelta(days=1)).isoformat())
        same = next(d for d in before["chart"] if d["day"] == tomorrow["day"])
        self.assertLess(tomorrow["dryness"], same["dryness"] + 1e-9)
        self.assertIsInstance(UUID(after["tree"]["id"]), UUID)
        self.assertIsInstance(date.fromisoformat(after["today"]), date)


if __name__ == "__main__":
    unittest.main()


class Twice(LogTest):
    def test_who_logs_what_another_device_logged_within_the_hour_is_told_at_once(self):
        """A phone that comes back from days without signal can ask its person whether it was one watering."""
        other = water_body(self.tree, 12.0, at="05:30") | {"device_id": "another phone"}
        self.assertFalse(self.put(new_id(), water_body(self.tree, 20.0, at="05:10")).json()["twice"])
        told = self.put(new_id(), other).json()
        self.assertTrue(told["twice"])
        batch = {"entries": [water_body(self.tree, 5.0, at="05:40") | {"id": new_id()}]}
        self.assertTrue(self.client.put("/api/log", json=batch).json()[0]["twice"])
        late = water_body(self.tree, 9.0, at="03:50") | {"device_id": "another phone"}
        self.assertFalse(self.put(new_id(), late).json()["twice"])
