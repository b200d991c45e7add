"""What would save most over HTTP, in the made-up town: wide basins, bare rings and hoses leave something to save."""

import unittest
from datetime import timedelta

from june_shade.demo import scenario
from tests.support import client, new_id, water_body

DAYS = 15


class Town(unittest.TestCase):
    """The made-up town and what is asked of it."""

    @classmethod
    def setUpClass(cls):
        cls.client = cls.enterClassContext(client("demo"))

    def page(self) -> dict:
        answer = self.client.get("/api/savings")
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def offer(self, measure: str) -> dict:
        return max(
            (one for one in self.page()["offers"] if one["measure"] == measure), key=lambda one: len(one["trees"])
        )  # fmt: skip

    def task(self, offer: dict, *trees: str, batch: str = "") -> tuple[str, list[dict]]:
        batch = batch or new_id()
        body = {"measure": offer["measure"], "tree_ids": list(trees)}
        answer = self.client.put(f"/api/savings/tasks/{batch}", json=body)
        self.assertEqual(answer.status_code, 201, answer.text)
        return batch, answer.json()

    def care(self, tree: str) -> dict[str, dict]:
        tasks = self.client.get("/api/care", params={"tree_id": tree}).json()["tasks"]
        return {task["kind"]: task for task in tasks}

    def said(self, tree: str, key: str, act: str, **more) -> str:
        act_id = new_id()
        answer = self.client.put(f"/api/care-acts/{act_id}", json={"tree_id": tree, "key": key, "act": act} | more)
        self.assertEqual(answer.status_code, 200, answer.text)
        return act_id


class Savings(Town):
    def test_offers_add_up_and_their_trees_are_where_they_say(self):
        found = self.page()
        self.assertEqual(found["problems"], [])
        for offer in found["offers"]:
            self.assertAlmostEqual(offer["litres"], sum(t["litres"] for t in offer["trees"]), 6)
            self.assertAlmostEqual(offer["minutes"], sum(t["minutes"] for t in offer["trees"]), 6)
            self.assertLessEqual(offer["low_l"], offer["litres"] + 1e-9)
            self.assertGreaterEqual(offer["high_l"], offer["litres"] - 1e-9)
            for tree in offer["trees"]:
                self.assertGreaterEqual(tree["litres"], 1.0)
        best = max(found["offers"], key=lambda one: one["measure"] != "other_water" and one["litres"])
        self.assertGreaterEqual(found["best"]["litres"], best["litres"] - 1e-9, "no one change beats one at each tree")
        work = [one for one in found["offers"] if one["measure"] != "other_water"]
        a_summer = [one["minutes"] + 13 * max(0.0, -one["minutes_a_week"]) for one in work]
        each = [one["litres"] / taken for one, taken in zip(work, a_summer, strict=True) if taken]
        self.assertEqual(each, sorted(each, reverse=True), "without prices by what a minute of a summer's work saves")

    def test_a_task_is_made_once_done_changes_the_tree_and_undone_changes_it_back(self):
        offer = self.offer("bag")
        tree = offer["trees"][0]["id"]
        batch, made = self.task(offer, tree)
        self.assertEqual(self.task(offer, tree, batch=batch)[1], made)
        self.assertEqual(self.care(tree)["save_bag"]["due_on"], scenario.DAY.isoformat())
        self.assertTrue(next(t for t in self.offer("bag")["trees"] if t["id"] == tree)["tasked"])
        method = self.client.get(f"/api/trees/{tree}").json()["method"]
        act = self.said(tree, self.care(tree)["save_bag"]["key"], "done")
        self.assertEqual(self.client.get(f"/api/trees/{tree}").json()["method"], "bag")
        self.assertNotIn("save_bag", self.care(tree))
        self.client.post(f"/api/care-acts/{act}/withdraw")
        self.assertEqual(self.client.get(f"/api/trees/{tree}").json()["method"], method)
        self.assertIn("save_bag", self.care(tree))
        self.said(tree, self.care(tree)["save_bag"]["key"], "dismissed", reason="stolen last time")
        self.assertFalse(next(t for t in self.offer("bag")["trees"] if t["id"] == tree)["tasked"])

    def test_the_same_id_for_another_change_and_a_tree_that_gains_nothing_are_refused(self):
        bags, rings = self.offer("bag"), self.offer("mulch")
        tree = bags["trees"][-1]["id"]
        batch, _ = self.task(bags, tree)
        body = {"measure": "box", "tree_ids": [tree]}
        self.assertEqual(self.client.put(f"/api/savings/tasks/{batch}", json=body).status_code, 409)
        every = self.offer("other_water")["trees"]
        bagged = {t["id"] for o in self.page()["offers"] if o["measure"] == "bag" for t in o["trees"]}
        body = {"measure": "bag", "tree_ids": [next(t["id"] for t in every if t["id"] not in bagged)]}
        answer = self.client.put(f"/api/savings/tasks/{new_id()}", json=body)
        self.assertEqual((answer.status_code, answer.json()["field"]), (422, "tree_ids"))
        self.assertTrue(rings["parts"]["mulch_m3"] > 0)

    def test_prices_are_kept_and_taken_back_and_bring_days_to_pay(self):
        put = lambda **prices: self.client.put("/api/part-prices", json=prices)  # noqa: E731
        self.assertEqual(put(bag=25.0).json()["bag"], 25.0)
        self.assertEqual(put(box=60.0).json(), put().json())
        self.assertEqual(self.page()["prices"]["box"], 60.0)
        self.assertIsNone(put(bag=None, box=None).json()["bag"])
        self.assertEqual(put(bag=-1.0).status_code, 422)


class Proved(Town):
    def test_after_two_weeks_it_is_told_what_was_really_saved(self):
        offer = self.offer("drip")
        tree = offer["trees"][0]["id"]
        self.task(offer, tree)
        self.said(tree, self.care(tree)["save_drip"]["key"], "done")
        self.assertEqual(self.page()["proved"], [])
        for _ in range(DAYS):
            self.client.post("/api/clock/next-day", json={})
        day = scenario.DAY + timedelta(days=2)
        self.client.put(f"/api/log/{new_id()}", json=water_body(tree, 14.0, at="06:05", day=day))
        (found,) = self.page()["proved"]
        self.assertEqual((found["tree_id"], found["days"]), (tree, DAYS))
        self.assertAlmostEqual(found["poured_l"], 14.0 * 7 / DAYS)
        self.assertAlmostEqual(found["saved_l"], found["without_l"] - found["poured_l"])
        self.assertGreater(found["without_l"], 0)


if __name__ == "__main__":
    unittest.main()
