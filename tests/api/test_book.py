"""The book over HTTP: everything that happens is in it once, filters narrow it, files and numbers are its rows."""

import csv
import io
import json
import unittest
from datetime import timedelta

from june_shade.demo import scenario
from tests.api.test_looking import Looking
from tests.support import DAY, DEVICE, client, new_id

FELT = {"kind": "reading", "how": "finger", "ball_feel": "dry"}


class Everything(Looking):
    def book(self, **query):
        answer = self.client.get("/api/book", params=query)
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def kinds(self, **query):
        return [row["kind"] for row in self.book(**query)["rows"]]

    def sent(self, method, path, **body):
        answer = self.client.request(method, f"/api/{path}", json=body)
        self.assertIn(answer.status_code, (200, 201), answer.text)
        return answer.json()

    def log(self, **body):
        entry = new_id()
        given = {"tree_id": self.tree, "happened_at": f"{DAY}T05:40:00-06:00", "device_id": DEVICE} | body
        self.sent("PUT", f"log/{entry}", **given)
        return entry

    def test_what_happens_is_in_it_with_what_it_says_and_taken_back_only_when_asked(self):
        self.assertEqual(self.kinds(), ["planted"])
        water = self.log(kind="water", volume_l=16.0, duration_min=40)
        self.log(**FELT)
        self.sent("PUT", f"checkups/{new_id()}", tree_id=self.tree, happened_at=f"{DAY}T05:41:00-06:00",
                  device_id=DEVICE, findings={"ball_feel": "dry", "leaf": "droop"})  # fmt: skip
        self.sent("PUT", f"thirst-answers/{new_id()}", tree_id=self.tree, answer="delivery_good")
        self.sent("PUT", f"routines/{new_id()}", tree_id=self.tree, routine={"name": "none"})
        end = new_id()
        self.sent("PUT", f"tree-ends/{end}", tree_id=self.tree, kind="dead", cause="dry")
        rows = {row["kind"]: row for row in self.book()["rows"]}
        self.assertEqual(set(rows), {"water", "reading", "checkup", "thirst", "routine", "ended", "planted"})
        self.assertEqual((rows["water"]["volume_l"], rows["water"]["duration_min"]), (16.0, 40.0))
        self.assertEqual((rows["reading"]["ball_feel"], rows["reading"]["how"]), ("dry", "finger"))
        self.assertEqual((rows["ended"]["subject"], rows["ended"]["cause"]), ("dead", "dry"))
        self.assertEqual(rows["routine"]["routine"]["name"], "none")
        self.assertEqual({row["tree"]["id"] for row in rows.values()}, {self.tree})
        self.sent("POST", f"tree-ends/{end}/withdraw")
        self.log(kind="void", voids=water)
        left = self.kinds()
        self.assertNotIn("water", left)
        self.assertNotIn("ended", left)
        self.assertEqual(sorted(self.kinds(undone=True)), sorted([*left, "water", "ended"]))

    def test_filters_narrow_it_and_pages_of_it_are_all_of_it(self):
        self.log(kind="water", volume_l=16.0)
        self.log(kind="note", note="leaning")
        early = self.log(kind="water", volume_l=9.0, happened_at=f"{DAY - timedelta(4)}T05:40:00-06:00")
        self.assertEqual(self.kinds(kind=["water"]), ["water", "water"])
        self.assertEqual(
            [row["id"] for row in self.book(kind=["water"], last=f"{DAY - timedelta(1)}")["rows"]], [early]
        )
        self.assertEqual(self.kinds(first=f"{DAY}", kind=["note"]), ["note"])
        self.assertEqual(self.kinds(tree_id=self.tree), self.kinds(site_id=self.site_id))
        self.assertEqual(self.kinds(q="no such tag"), [])
        everything = self.kinds(tree_id=self.tree)
        oak = self.client.get(f"/api/trees/{self.tree}").json()["plant"]["common"]
        self.assertEqual(self.kinds(q=oak), everything)
        self.assertEqual(self.kinds(q="roble", called=[oak]), everything, "as another language calls it")
        self.assertEqual(self.kinds(q="%"), [], "a sign is looked for as it is")
        whole = [row["id"] for row in self.book()["rows"]]
        pages = [row["id"] for at in range(0, len(whole), 2) for row in self.book(limit=2, offset=at)["rows"]]
        self.assertEqual(pages, whole)
        refused = self.client.get("/api/book", params={"first": f"{DAY}", "last": f"{DAY - timedelta(1)}"})
        self.assertEqual((refused.status_code, refused.json()["field"]), (422, "first"))
        self.assertEqual(self.client.get(f"/api/book?tree_id={new_id()}").status_code, 404)


class OfTheTown(unittest.TestCase):
    """The demo's town, its book against itself."""

    def setUp(self):
        self.client = self.enterContext(client("demo"))

    def get(self, path, **query):
        answer = self.client.get(f"/api/{path}", params=query)
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer

    def test_any_kinds_can_be_looked_for_together(self):
        kinds = list(self.get("book/numbers").json()["counts"])
        whole = self.get("book").json()["count"]
        for kind in kinds:
            alone = self.get("book", kind=[kind], undone=True).json()["count"]
            self.assertEqual(self.get("book", kind=[kind, "changed"]).status_code, 200, kind)
            self.assertGreaterEqual(alone, self.get("book", kind=[kind]).json()["count"])
            rest = [other for other in kinds if other != kind]
            self.assertEqual(
                self.get("book", kind=rest).json()["count"] + self.get("book", kind=[kind]).json()["count"], whole
            )

    def test_files_hold_the_rows_and_numbers_are_their_sums(self):
        site = str(scenario.name_id("site", "HL"))
        page = self.get("book", site_id=site, limit=500).json()
        rows = list(csv.DictReader(io.StringIO(self.get("book.csv", site_id=site).text)))
        lines = [json.loads(line) for line in self.get("book.jsonl", site_id=site).text.splitlines()]
        self.assertEqual([len(rows), len(lines)], [page["count"]] * 2)
        self.assertEqual([row["id"] for row in rows], [line["id"] for line in lines])
        self.assertEqual([row["id"] for row in page["rows"]], [line["id"] for line in lines][:500])
        water = [line for line in lines if line["kind"] == "water"]
        found = self.get("book/numbers", site_id=site).json()
        tag = page["rows"][0]["tree"]["tag"]
        of_tag = self.get("book", site_id=site, q=tag, kind=["water"]).json()["count"]
        self.assertEqual(self.get("book/numbers", site_id=site, q=tag).json()["counts"]["water"], of_tag)
        self.assertAlmostEqual(found["litres"], sum(line["volume_l"] for line in water))
        self.assertEqual(found["waterings"], len(water))
        self.assertEqual(found["counts"]["water"], len(water))
        self.assertEqual(found["trees"], len({line["tag"] for line in water}))
        self.assertAlmostEqual(sum(month["litres"] for month in found["by_month"]), found["litres"])
        for groups in found["survival"].values():
            self.assertEqual(sum(group["planted"] for group in groups), found["counts"]["planted"])

    def test_the_clients_month_is_the_same_numbers_day_by_day(self):
        site = str(scenario.name_id("site", "HL"))
        month = self.get("book/month", site_id=site, month="2026-07-09").json()
        self.assertEqual((month["first"], month["last"]), ("2026-07-01", "2026-07-15"))
        numbers = self.get("book/numbers", site_id=site, first="2026-07-01", last="2026-07-15").json()
        self.assertEqual(month["numbers"], numbers)
        self.assertAlmostEqual(sum(day["poured_l"] for day in month["days"]), numbers["litres"])
        self.assertEqual(len(month["days"]), 15)
        self.assertNotIn("water", {row["kind"] for row in month["rows"]})
        self.assertEqual(self.client.get(f"/api/book/month?site_id={site}&month=2027-01-01").status_code, 422)


if __name__ == "__main__":
    unittest.main()
