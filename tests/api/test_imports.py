"""Files on their way in: watched, ended, undone whole; days put right by hand; the crew's entries in between."""

import csv
import io
import threading
import time
import unittest
from datetime import date
from unittest import mock
from uuid import UUID

from june_shade.formats import trees_csv
from june_shade.plans import clock, imports, trees_file
from june_shade.plans.work import transaction
from tests.api.test_trees import RegisterTest
from tests.api.test_weather import WeatherTest
from tests.support import DAY, bring, new_id, tree_body, water_body


def days(*rows: str) -> str:
    return "date,tmin_c,tmax_c,rain_mm\n" + "\n".join(rows) + "\n"


class Days(WeatherTest):
    def stored(self, text):
        found = bring(self.client, text, station=self.station_id, store=True)
        self.assertEqual(found["state"], "stored", found)
        return found["id"]

    def undo(self, import_id):
        return self.client.post(f"/api/imports/{import_id}/undo").json()

    def rain(self):
        found = self.client.get(f"/api/stations/{self.station_id}/days").json()["days"]
        return {d["day"]: d["rain_mm"] for d in found if d["measured"]}

    def test_an_import_is_undone_whole_and_what_was_there_stands_again(self):
        self.stored(days("2026-07-12,12,30,1", "2026-07-13,12,30,2"))
        before = self.rain()
        second = self.stored(days("2026-07-13,12,30,50", "2026-07-14,12,30,60"))
        self.assertEqual(self.rain(), {"2026-07-12": 1, "2026-07-13": 50, "2026-07-14": 60})
        self.assertEqual(self.undo(second)["state"], "undone")
        self.assertEqual(self.rain(), before)
        self.assertEqual(self.undo(second)["state"], "undone", "said twice it is one")
        self.assertEqual(self.rain(), before)

    def test_the_first_of_two_is_undone_under_the_second(self):
        first = self.stored(days("2026-07-12,12,30,1", "2026-07-13,12,30,2"))
        second = self.stored(days("2026-07-13,12,30,50"))
        self.undo(first)
        self.assertEqual(self.rain(), {"2026-07-13": 50}, "the second one's day stays")
        self.undo(second)
        self.assertEqual(self.rain(), {}, "and gives back nothing of the first")

    def test_what_a_plan_says_follows(self):
        self.stored(days(*(f"2026-07-{d:02d},12,30,0" for d in range(1, 15))))
        with transaction(self.sessions) as session:
            clock.pin(session, date(2026, 7, 1))
        tree = self.tree(planted_on="2026-07-01")
        with transaction(self.sessions) as session:
            clock.pin(session, DAY)
        water = lambda: self.client.get(f"/api/trees/{tree}/water").json()["dryness"]  # noqa: E731
        dry = water()
        wet = self.stored(days("2026-07-13,12,30,60"))
        self.assertLess(water(), dry)
        self.undo(wet)
        self.assertEqual(water(), dry)

    def test_a_day_is_put_right_by_hand_and_back(self):
        self.stored(days("2026-07-12,12,30,1"))
        path, ours = f"/api/stations/{self.station_id}/days/2026-07-12", new_id()
        was = self.client.get(path).json()
        self.assertEqual((was["tmax_c"], was["rh_percent"]), (30, None))
        body = {name: value for name, value in was.items() if name != "day"} | {"rain_mm": 25.4}
        for _ in range(2):  # a phone may send it twice
            answer = self.client.put(f"{path}/corrections/{ours}", json=body)
            self.assertEqual((answer.status_code, answer.json()["kind"]), (200, "day"), answer.text)
        self.assertEqual(self.rain(), {"2026-07-12": 25.4})
        listed = self.client.get("/api/imports", params={"station_id": str(self.station_id)}).json()
        self.assertEqual([one["kind"] for one in listed], ["day", "weather"])
        self.assertEqual({one["first_day"] for one in listed}, {"2026-07-12"})
        self.undo(ours)
        self.assertEqual(self.rain(), {"2026-07-12": 1})

    def test_a_day_that_can_not_be_is_refused_by_name(self):
        self.stored(days("2026-07-12,12,30,1"))
        path = f"/api/stations/{self.station_id}/days"
        for day, body, field in (
            ("2026-07-12", {"tmin_c": 12, "tmax_c": 99}, "tmax_c"), ("2026-07-12", {"rain_mm": -1}, "rain_mm"),
            ("2026-07-12", {"tmin_c": 31, "tmax_c": 30}, "tmin_c"), ("2026-07-12", {}, "day"),
            ("2026-07-12", {"rh_min_percent": 60, "rh_max_percent": 40}, "rh_min_percent"),
            ("2027-07-12", {"tmax_c": 30}, "day"),
        ):  # fmt: skip
            answer = self.client.put(f"{path}/{day}/corrections/{new_id()}", json=body)
            self.assertEqual((answer.status_code, answer.json()["field"]), (422, field), (day, body, answer.text))
            words = answer.json()["detail"].removeprefix(field)
            self.assertNotRegex(words, r"\w+_(c|percent)\b", "a person reads it after the field's own name")
        self.assertEqual(self.rain(), {"2026-07-12": 1})

    def test_a_file_that_can_not_be_a_station_is_refused_at_once(self):
        for data, words in ((b"a," * 200_000, "no table"), (b"2026-07-01,1,2\n" * 80_000, "one line a day")):
            began = time.perf_counter()
            found = bring(self.client, b"" + data, station=self.station_id)
            self.assertEqual((found["state"], found["field"]), ("refused", "file"))
            self.assertIn(words, found["problem"])
            self.assertLess(time.perf_counter() - began, 5)


class Trees(RegisterTest):
    def rows(self, count, **changed):
        site = self.client.get("/api/sites").json()[0]["name"]
        base = {
            "site": site, "species": "Quercus macrocarpa", "kind": "balled", "caliper_m": "0.05", "stop": "Long row",
            "ball_diameter_m": "0.61", "ball_height_m": "0.366", "planted_on": "2026-06-01",
        }  # fmt: skip
        return [base | {"tag": f"N-{i}"} | changed for i in range(count)]

    def text(self, rows):
        out = io.StringIO()
        writer = csv.DictWriter(out, rows[0])
        writer.writeheader()
        writer.writerows(rows)
        return out.getvalue()

    def work(self, import_id):
        imports.work(self.client.app.state.sessions, UUID(import_id))
        return self.client.get(f"/api/imports/{import_id}").json()

    def undo(self, import_id):
        self.client.post(f"/api/imports/{import_id}/undo")
        return self.work(import_id)

    def tags(self):
        return [t["tag"] for t in self.client.get("/api/trees", params={"limit": 500}).json()["trees"]]

    def test_a_file_is_undone_whole(self):
        self.put(tag="A", place="by the gate", method="hose")
        before, text = self.tags(), self.client.get("/api/trees.csv").text
        rows = list(csv.DictReader(io.StringIO(text)))
        changed = [row | {"place": "by the well", "basin_diameter_m": "1.1"} for row in rows]
        fresh = [dict.fromkeys(rows[0], "") | row for row in self.rows(3)]
        found = bring(self.client, self.text(changed + fresh), store=True)
        self.assertEqual((found["trees"]["new"], found["trees"]["changed"]), (3, 1), found)
        self.assertEqual(len(self.tags()), len(before) + 3)
        self.assertEqual(self.undo(found["id"])["state"], "undone")
        self.assertEqual(self.tags(), before)
        self.assertEqual(self.client.get("/api/trees.csv").text, text)
        again = bring(self.client, self.text(fresh), store=True)
        self.assertEqual((again["state"], again["trees"]["new"]), ("stored", 3), "their tags are free again")

    def test_what_was_worked_on_since_is_not_undone_and_named(self):
        found = bring(self.client, self.text(self.rows(3)), store=True)
        rows = {t["tag"]: t["id"] for t in self.client.get("/api/trees").json()["trees"]}
        self.client.put(f"/api/log/{new_id()}", json=water_body(rows["N-1"], 20))
        refused = self.undo(found["id"])
        self.assertEqual(refused["state"], "stored")
        self.assertIn("N-1", refused["problem"])
        self.assertNotIn("N-2", refused["problem"])
        self.assertEqual(len(self.tags()), 3)

    def test_what_is_being_undone_can_not_be_ended_half_way(self):
        found = bring(self.client, self.text(self.rows(2)), store=True)
        where = f"/api/imports/{found['id']}"
        self.assertEqual(self.client.post(f"{where}/undo").json()["state"], "undoing")
        self.assertEqual(self.client.post(f"{where}/cancel").status_code, 409)
        self.assertEqual(self.work(found["id"])["state"], "undone")
        self.assertEqual(self.tags(), [])

    def test_imports_are_undone_one_after_another(self):
        first = bring(self.client, self.text(self.rows(2)), store=True)
        text = self.client.get("/api/trees.csv").text
        rows = list(csv.DictReader(io.StringIO(text)))
        second = bring(self.client, self.text([row | {"place": "moved"} for row in rows]), store=True)
        self.assertIn("N-0", self.undo(first["id"])["problem"], "the second one stands on it")
        self.assertEqual(self.undo(second["id"])["state"], "undone")
        self.assertEqual(self.client.get("/api/trees.csv").text, text)
        self.assertEqual(self.undo(first["id"])["state"], "undone")
        self.assertEqual(self.tags(), [])

    def test_nothing_counts_until_all_is_there_and_nothing_after_it_was_ended(self):
        found = bring(self.client, self.text(self.rows(600)))
        self.assertEqual((found["state"], found["trees"]["new"]), ("read", 600))
        self.assertEqual((found["done"], found["total"]), (1200, 1200))
        seen = []

        def told(work, done, total, was=imports._Work._told):
            seen.append((done, len(self.tags())))
            if done > 300:
                self.client.post(f"/api/imports/{found['id']}/cancel")
            was(work, done, total)

        self.client.post(f"/api/imports/{found['id']}/store")
        with mock.patch.object(imports._Work, "_told", told):
            self.assertEqual(self.work(found["id"])["state"], "cancelled")
        self.assertGreater(len(seen), 2, "it goes in pieces")
        self.assertEqual({count for _, count in seen}, {0})
        self.assertEqual(self.tags(), [])
        answer = self.client.post(f"/api/imports/{found['id']}/store")
        self.assertEqual(answer.status_code, 409, "what was ended is not stored later")

    def test_the_crew_logs_while_a_file_is_worked_on(self):
        self.put(tag="A")
        tree = self.client.get("/api/trees").json()["trees"][0]["id"]
        found = bring(self.client, self.text(self.rows(300)))
        self.client.post(f"/api/imports/{found['id']}/store")
        inside, go_on = threading.Event(), threading.Event()

        def told(work, done, total, was=imports._Work._told):
            was(work, done, total)
            inside.set()
            self.assertTrue(go_on.wait(20))

        with mock.patch.object(imports._Work, "_told", told):
            worker = threading.Thread(target=self.work, args=(found["id"],))
            worker.start()
            self.assertTrue(inside.wait(20))
            answer = self.client.put(f"/api/log/{new_id()}", json=water_body(tree, 20))
            self.assertIn(answer.status_code, (200, 201), answer.text)
            go_on.set()
            worker.join(30)
        self.assertEqual(len(self.tags()), 301)

    def test_a_tree_that_changed_meanwhile_is_looked_at_again(self):
        self.put(tag="A", place="old")
        rows = list(csv.DictReader(io.StringIO(self.client.get("/api/trees.csv").text)))
        text = self.text([row | {"caliper_m": "0.06"} for row in rows])
        was = trees_file.write

        def late(session, prepared):
            tree = self.client.get("/api/trees").json()["trees"][0]["id"]
            body = tree_body(self.site_id, self.plant, tag="A", place="new")
            self.assertEqual(self.client.put(f"/api/trees/{tree}", json=body).status_code, 200)
            return was(session, prepared)

        found = bring(self.client, text)
        self.client.post(f"/api/imports/{found['id']}/store")
        with mock.patch.object(imports.trees_file, "write", late):
            self.assertEqual(self.work(found["id"])["state"], "stored")
        stored = next(csv.DictReader(io.StringIO(self.client.get("/api/trees.csv").text)))
        self.assertEqual((stored["caliper_m"], stored["place"]), ("0.06", "old"), "as the file has it: the later word")

    def test_a_tag_that_was_taken_meanwhile_is_refused_and_the_rest_stored(self):
        found = bring(self.client, self.text(self.rows(3)))
        self.put(tag="N-1")
        self.client.post(f"/api/imports/{found['id']}/store")
        stored = self.work(found["id"])
        self.assertEqual((stored["state"], stored["trees"]["new"]), ("stored", 2))
        self.assertEqual([r["column"] for r in stored["trees"]["refused"]], ["tag"])

    def test_a_way_of_watering_that_a_file_changes_holds_from_today(self):
        self.put(tag="A", planted_on="2026-06-01", method="hose", basin_diameter_m=0.9)
        with transaction(self.client.app.state.sessions) as session:
            from june_shade.store.tree_tables import Tree

            session.query(Tree).update({"opened_on": date(2026, 6, 1)})
        rows = list(csv.DictReader(io.StringIO(self.client.get("/api/trees.csv").text)))
        bring(self.client, self.text([row | {"basin_diameter_m": "1.4"} for row in rows]), store=True)
        with transaction(self.client.app.state.sessions) as session:
            from june_shade.store.tree_tables import FormerWay

            kept = session.query(FormerWay).one()
            self.assertEqual((kept.until, kept.basin_diameter_m), (date(2026, 7, 15), 0.9))

    def test_more_lines_than_are_stored_at_once_are_refused(self):
        head = ",".join(self.rows(1)[0])
        found = bring(self.client, f"{head}\n" + "a\n" * (trees_csv.MOST_LINES + 1))
        self.assertEqual((found["state"], found["field"]), ("refused", "file"))
        self.assertIn("split it", found["problem"])

    def test_sent_twice_it_is_one_and_another_file_is_not(self):
        where = f"/api/imports/{new_id()}"
        data = self.text(self.rows(2)).encode()
        for _ in range(2):
            self.assertEqual(self.client.put(where, files={"file": ("a.csv", data)}).status_code, 200)
        self.assertEqual(self.client.put(where, files={"file": ("b.csv", data)}).status_code, 409)
        self.assertEqual(self.client.get(f"/api/imports/{new_id()}").status_code, 404)
        for act in ("store", "undo"):
            self.assertEqual(self.client.post(f"{where}/{act}").status_code, 409, "it was not read yet")


if __name__ == "__main__":
    unittest.main()
