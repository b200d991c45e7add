"""The sheet for a client or an authority over HTTP: ordered, done, against, lost, in days of the made-up town."""

import csv
import io
import unittest
from datetime import timedelta

from tests.api.test_trees import RegisterTest
from tests.support import DAY, new_id, tree_body, water_body

ORDER = {
    "name": "Stage 3", "stage": 3, "first_day": "2026-07-01", "rules": {"methods": ["emitters"]}, "week_l": 70.0,
    "words": "=Drip only.",
}  # fmt: skip


class Sheet(RegisterTest):
    def setUp(self):
        super().setUp()
        self.order, self.trees = new_id(), [new_id(), new_id()]
        for n, tree in enumerate(self.trees):
            planted = (DAY - timedelta(days=60)).isoformat()
            body = tree_body(self.site_id, self.plant, tag=f"S-{n}", planted_on=planted)
            self.assertEqual(self.client.put(f"/api/trees/{tree}", json=body).status_code, 200)

    def order_it(self, **changed):
        body = ORDER | {"sites": [str(self.site_id)]} | changed
        answer = self.client.put(f"/api/restrictions/{self.order}", json=body)
        self.assertEqual(answer.status_code, 200, answer.text)

    def pour(self, tree: str, litres: float, days_ago: int, minutes: float = 30.0):
        body = water_body(tree, litres, day=DAY - timedelta(days=days_ago), at="05:30") | {"duration_min": minutes}
        self.assertEqual(self.client.put(f"/api/log/{new_id()}", json=body).status_code, 201)

    def sheet(self, **query) -> dict:
        answer = self.client.get("/api/book/sheet", params={"site_id": str(self.site_id)} | query)
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def lines(self, **query) -> list[dict]:
        answer = self.client.get("/api/book/sheet.csv", params={"site_id": str(self.site_id)} | query)
        self.assertEqual((answer.status_code, answer.headers["content-type"]), (200, "text/csv; charset=utf-8"))
        return list(csv.DictReader(io.StringIO(answer.text)))

    def test_weeks_and_lines_add_up_to_what_was_logged(self):
        for n, days_ago in enumerate((1, 2, 9, 9, 16)):
            self.pour(self.trees[n % 2], 10.0 + n, days_ago)
        found = self.sheet()
        self.assertEqual((found["first"], found["last"]), ((DAY - timedelta(days=27)).isoformat(), DAY.isoformat()))
        self.assertEqual(found["litres"], 60.0)
        self.assertEqual((found["hours"], found["waterings"], found["watered"], found["trees"]), (2.5, 5, 2, 2))
        self.assertEqual([week["litres"] for week in found["weeks"]], [0.0, 14.0, 25.0, 21.0])
        done = [line for line in self.lines() if line["kind"] == "done"]
        self.assertEqual(sum(float(line["volume_l"]) for line in done), 60.0)
        self.assertEqual(self.sheet(first=(DAY - timedelta(days=5)).isoformat())["litres"], 21.0)

    def test_an_order_stands_with_what_it_allowed_and_what_went_against_it(self):
        self.order_it()
        self.pour(self.trees[0], 12.0, 1)
        self.pour(self.trees[1], 12.0, 20)
        found = self.sheet(first="2026-07-06", last="2026-07-15")
        self.assertEqual([order["name"] for order in found["orders"]], ["Stage 3"])
        self.assertEqual([week["allowed_l"] for week in found["weeks"]], [70.0, 30.0], "three days of seven")
        self.assertEqual([week["counted_l"] for week in found["weeks"]], [0.0, 12.0])
        (broken,) = found["broken"]
        self.assertEqual((broken["tag"], broken["against"][0]["rules"]), ("S-0", ["methods"]))
        self.assertEqual(self.sheet(first="2026-06-01", last="2026-06-30")["orders"], [])
        lines = self.lines(first="2026-07-06")
        self.assertEqual([line["kind"] for line in lines], ["ordered", "done", "against"])
        self.assertEqual(lines[0]["words"], "'=Drip only.", "a spreadsheet takes no words for a formula")
        died = {"tree_id": self.trees[0], "kind": "dead", "cause": "dry"}
        self.assertEqual(self.client.put(f"/api/tree-ends/{new_id()}", json=died).status_code, 200)
        self.assertEqual(self.sheet(first="2026-07-06", last="2026-07-15")["broken"], [broken], "also of a dead tree")

    def test_an_order_that_changes_stays_on_record_as_it_was(self):
        self.order_it()
        self.pour(self.trees[0], 12.0, 9)
        of_form = {"changes_from": "2026-07-13", "week_l": 35.0, "rules": {"methods": ["bag"]}, "version": 1}
        for _ in range(2):  # a phone may send it twice
            self.order_it(**of_form)
        found = self.sheet(first="2026-07-02", last="2026-07-15")
        told = lambda orders: [(one["first_day"], one["last_day"], one["week_l"]) for one in orders]  # noqa: E731
        as_they_came = [("2026-07-01", "2026-07-12", 70.0), ("2026-07-13", None, 35.0)]
        self.assertEqual(told(found["orders"]), as_they_came)
        listed = self.client.get("/api/restrictions").json()
        self.assertEqual(told(listed), as_they_came[::-1], "the one in force stands first")
        self.assertEqual([week["allowed_l"] for week in found["weeks"]], [70.0, 4 * 10.0 + 3 * 5.0])
        self.assertEqual([one["day"] for one in found["broken"]], ["2026-07-06"])
        self.order_it(rules={}, first_day="2026-07-13")  # what was changed, entered wrong
        orders = self.sheet(first="2026-07-02", last="2026-07-15")["orders"]
        self.assertEqual(sorted(order["rules"]["methods"] or [] for order in orders), [[], ["emitters"]])

    def test_an_order_may_change_on_the_same_day_again_and_not_before_it_began(self):
        for week_l in (35.0, 21.0):
            self.order_it()  # put right: it never changed
            self.order_it(changes_from="2026-07-13", week_l=week_l)
        weeks = [order["week_l"] for order in self.client.get("/api/restrictions").json()]
        self.assertEqual(weeks, [21.0, 70.0])
        body = ORDER | {"sites": [str(self.site_id)], "changes_from": "2026-07-02", "week_l": 7.0}
        answer = self.client.put(f"/api/restrictions/{self.order}", json=body)
        self.assertEqual((answer.status_code, answer.json()["field"]), (422, "changes_from"), answer.text)

    def test_an_order_that_says_the_same_has_no_past(self):
        self.order_it()
        self.order_it(words="Drip alone.", changes_from="2026-07-13")
        (order,) = self.client.get("/api/restrictions").json()
        self.assertEqual((order["first_day"], order["words"]), ("2026-07-01", "Drip alone."))

    def test_trees_lost_are_named_with_their_day_and_cause(self):
        body = {"tree_id": self.trees[0], "kind": "dead", "day": DAY.isoformat(), "cause": "drought"}
        answer = self.client.put(f"/api/tree-ends/{new_id()}", json=body)
        self.assertLess(answer.status_code, 300, answer.text)
        found = self.sheet()
        self.assertEqual(
            [(one["tag"], one["end"], one["cause"]) for one in found["lost"]], [("S-0", "dead", "drought")]
        )
        self.assertEqual(found["trees"], 1)
        self.assertEqual(self.lines()[-1]["words"], "dead drought")

    def test_dates_that_can_not_be(self):
        for query, field in (
            ({"first": "2026-07-10", "last": "2026-07-09"}, "last"), ({"first": "2020-01-01"}, "last"),
            ({"first": "2026-08-01", "last": "2026-08-02"}, "first"),
        ):  # fmt: skip
            answer = self.client.get("/api/book/sheet", params=query)
            self.assertEqual((answer.status_code, answer.json()["field"]), (422, field), query)


if __name__ == "__main__":
    unittest.main()
