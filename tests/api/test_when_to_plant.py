"""When to plant over HTTP: the made-up town's batch, and a site of which too little is known."""

import unittest
from unittest import mock

from june_shade.api.schemas.sites import SiteIn
from june_shade.demo import scenario
from tests.support import client, new_id, water_body

BATCH = scenario.name_id("planting", "HL", "playground")


class When(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.client = cls.enterClassContext(client("demo"))

    def when(self, batch=BATCH) -> dict:
        answer = self.client.get(f"/api/plantings/{batch}/when")
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def test_batches_of_all_sites_are_in_one_list_the_next_first_until_they_are_planted(self):
        batch, site = new_id(), str(scenario.name_id("site", "RT"))
        body = {"count": 3, "tag": "L-1", "site_id": site, "kind": "container", "planned_on": "2026-10-20",
                "caliper_m": 0.03, "ball_diameter_m": 0.4, "ball_height_m": 0.3,
                "plant_id": self.client.get("/api/plants").json()[0]["id"]}  # fmt: skip
        self.assertEqual(self.client.put(f"/api/plantings/{batch}", json=body).status_code, 200)
        rows = self.client.get("/api/plantings").json()
        self.assertEqual([row["id"] for row in rows], [str(BATCH), batch])
        self.assertEqual([row["site_name"] for row in rows], ["Hobb Lane School", rows[1]["site_name"]])
        self.assertEqual(rows[1]["site_id"], site)
        self.client.post(f"/api/plantings/{batch}/withdraw")
        self.assertEqual([row["id"] for row in self.client.get("/api/plantings").json()], [str(BATCH)])

    def test_the_share_saved_and_the_nearest_day_are_those_of_its_months_and_days(self):
        found = self.when()
        by_month = {one["month"]: one["litres"] for one in found["months"]}
        self.assertAlmostEqual(
            by_month[found["best_month"]], (1 - found["saved_share"]) * by_month[found["planned_month"]]
        )
        least = min(len(day["against"]) for day in found["days"])
        first = next(day["day"] for day in found["days"] if len(day["against"]) == least)
        self.assertEqual(found["nearest_day"], first)

    def test_months_are_gone_through_again_only_when_what_they_rest_on_changes(self):
        through = "june_shade.plans.planting.when._by_month"
        before = self.when()["months"]
        tree = scenario.name_id("tree", "HL", 3)
        with mock.patch(through, side_effect=AssertionError("gone through again")):
            answer = self.client.put(f"/api/log/{new_id()}", json=water_body(tree, 20.0))
            self.assertEqual(answer.status_code, 201, answer.text)
            self.assertEqual(self.when()["months"], before, "what is done at the site is nothing to the batch")
        row = next(s for s in self.client.get("/api/sites").json() if s["id"] == str(scenario.name_id("site", "HL")))
        body = {name: value for name, value in row.items() if name in set(SiteIn.model_fields) - {"version"}}
        with mock.patch(through, return_value=[7.0] * 12) as again:
            for changed in ({"root_depth_max_m": body["root_depth_max_m"] + 0.05}, {}):
                answer = self.client.put(f"/api/sites/{row['id']}", json=body | changed)
                self.assertEqual(answer.status_code, 200, answer.text)
                self.when()
        self.assertEqual(again.call_count, 1, "back as it was, what was reckoned for it stands")
        self.assertEqual(self.when()["months"], before)

    def test_the_month_that_is_proposed_takes_least_of_those_that_suit(self):
        found = self.when()
        self.assertEqual([one["month"] for one in found["months"]], list(range(1, 13)))
        by_month = {one["month"]: one for one in found["months"]}
        best = by_month[found["best_month"]]
        self.assertEqual(best["against"], [])
        self.assertEqual(best["litres"], min(one["litres"] for one in by_month.values() if not one["against"]))
        self.assertIn("heat", by_month[7]["against"])
        self.assertIn("frost", by_month[1]["against"])
        self.assertGreater(by_month[7]["litres"], by_month[10]["litres"], "what is left of a summer comes on top")

    def test_a_day_that_is_fit_has_hands_for_it_and_neither_frost_nor_heat(self):
        page = self.client.get(f"/api/plantings/{BATCH}").json()
        first = page["figures"]["totals"]["first_water_l"]
        found = self.when()
        self.assertEqual(len(found["days"]), 14)
        for day in found["days"]:
            self.assertEqual("heat" in day["against"], day["high_c"] > 32.0)
            hands = day["left_min"] is not None and day["left_min"] < found["needs_min"]
            self.assertEqual("no_hands" in day["against"], hands)
            self.assertGreater(day["litres"], first)
        fit = [day["day"] for day in found["days"] if not day["against"]]
        self.assertTrue(found["best_day"] in fit if fit else found["best_day"] is None)

    def test_twice_the_trees_take_twice_the_water_and_time(self):
        body = {"count": 2, "tag": "W-1", "site_id": str(scenario.name_id("site", "RT")), "kind": "container",
                "planned_on": scenario.DAY.isoformat(), "caliper_m": 0.03, "ball_diameter_m": 0.4, "ball_height_m": 0.3,
                "plant_id": self.client.get("/api/plants").json()[0]["id"]}  # fmt: skip
        found = []
        for count in (2, 4):
            batch = new_id()
            self.assertEqual(self.client.put(f"/api/plantings/{batch}", json=body | {"count": count}).status_code, 200)
            found.append(self.when(batch))
            self.client.post(f"/api/plantings/{batch}/withdraw")
        one, two = found
        self.assertAlmostEqual(two["needs_min"], 2 * one["needs_min"])
        self.assertAlmostEqual(two["days"][3]["litres"], 2 * one["days"][3]["litres"])
        self.assertEqual(two["months"], one["months"], "water of a month is told for a tree")


if __name__ == "__main__":
    unittest.main()
