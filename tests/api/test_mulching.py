"""Mulch over HTTP: choices, looks, layings, a day's work, the yard, the order list."""

import unittest
from datetime import timedelta

from sqlalchemy import text

from june_shade.store.session import transaction
from tests.api.test_trees import RegisterTest
from tests.support import DAY, new_id, tree_body

PLANTED = DAY - timedelta(days=400)


class MulchTest(RegisterTest):
    def tree(self, **changed) -> str:
        made = new_id()
        body = tree_body(self.site_id, self.plant, planted_on=PLANTED.isoformat()) | changed
        answer = self.client.put(f"/api/trees/{made}", json=body)
        self.assertEqual(answer.status_code, 200, answer.text)
        return made

    def mulched(self, depth_m: float = 0.03, **changed) -> str:
        ring = {"mulch_material": "wood_chips", "mulch_depth_m": depth_m, "mulch_outer_radius_m": 0.9}
        return self.tree(**ring | {"mulch_measured_on": DAY.isoformat()} | changed)

    def page(self, tree: str) -> dict:
        answer = self.client.get(f"/api/trees/{tree}/mulch")
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def look(self, *depths: float, bark: str = "clear", flare: bool = True, **more) -> dict:
        return {"depths_m": list(depths), "bark": bark, "flare_seen": flare} | more

    def keep(self, tree: str, entry: str | None = None, **body):
        return self.client.put(f"/api/mulch-entries/{entry or new_id()}", json={"tree_id": tree} | body)

    def yard(self) -> dict:
        return {row["material"]: row["litres"] for row in self.client.get("/api/yard").json()}

    def saving(self, tree: str, choice: dict):
        return self.client.post(f"/api/trees/{tree}/mulch/saving", json=choice).json()

    def count(self, material: str, litres: float, reason: str = "counted"):
        body = {"material": material, "reason": reason, "litres": litres}
        return self.client.put(f"/api/yard-moves/{new_id()}", json=body)


class OneRing(MulchTest):
    def test_a_thin_ring_is_due_and_a_deep_enough_one_is_not(self):
        self.assertTrue(self.page(self.mulched(0.03, tag="A"))["due"])
        self.assertFalse(self.page(self.mulched(0.06, tag="B"))["due"])
        self.assertTrue(self.page(self.tree(tag="C"))["due"])

    def test_the_page_says_what_a_season_saves(self):
        tree = self.mulched()
        saving = self.saving(tree, self.page(tree)["choice"])
        self.assertGreater(saving["saved_l"], 0)
        self.assertAlmostEqual(saving["saved_l"], saving["without_l"] - saving["with_l"])
        self.assertEqual(saving["days"], 60)

    def test_a_wider_ring_is_bare_where_it_is_new(self):
        tree = self.mulched(0.075, mulch_outer_radius_m=0.6)
        same = self.page(tree)["choice"]
        wider = self.client.post(f"/api/trees/{tree}/mulch/look", json=same | {"outer_radius_m": 0.9}).json()
        self.assertGreater(wider["laid"]["missing_settled_l"], 0.9 * (
            wider["laid"]["full_settled_l"] - self.page(tree)["laid"]["full_settled_l"]))  # fmt: skip

    def test_every_figure_opens(self):
        tree = self.mulched()
        page = self.page(tree)
        saving = self.saving(tree, page["choice"])
        values = {line["key"]: line["value"] for line in [*page["working"], *saving["working"]]}
        self.assertAlmostEqual(values["mulch.loose"], page["laid"]["missing_loose_l"])
        self.assertAlmostEqual(values["mulch.saved"], saving["saved_l"])

    def test_a_choice_stays_until_it_is_as_suggested_again(self):
        tree = self.mulched()
        body = {"tree_ids": [tree], "choice": self.page(tree)["choice"] | {"material": "bark", "underlay": "card"}}
        self.assertEqual(self.client.put("/api/mulch-choices", json=body).status_code, 200)
        page = self.page(tree)
        self.assertEqual((page["choice"]["material"], page["suggested"]), ("bark", False))
        self.assertGreater(page["laid"]["underlay"]["sheets"], 0)
        self.client.put("/api/mulch-choices", json={"tree_ids": [tree]})
        self.assertEqual(self.page(tree)["choice"]["material"], "wood_chips")

    def test_what_can_not_be_laid_names_its_field(self):
        tree = self.mulched()
        choice = self.page(tree)["choice"]
        for changed, field in (({"depth_m": 0.12}, "depth_m"), ({"outer_radius_m": 0.1}, "outer_radius_m")):
            answer = self.client.post(f"/api/trees/{tree}/mulch/look", json=choice | changed)
            self.assertEqual((answer.status_code, answer.json()["field"]), (422, field))
        many = {"tree_ids": [tree, self.tree(tag="X")], "choice": choice | {"depth_m": 0.12}}
        answer = self.client.put("/api/mulch-choices", json=many)
        self.assertEqual(answer.json()["field"], "trees[0].depth_m")

    def test_a_wall_takes_its_part_of_the_ring(self):
        tree = self.mulched()
        before = self.page(tree)["laid"]
        wall = {"obstacles": [{"kind": "wall", "bearing_deg": 90, "distance_m": 0.5}]}
        self.client.put(f"/api/trees/{tree}/obstacles", json=wall)
        page = self.page(tree)
        self.assertTrue(page["laid"]["cut"])
        self.assertLess(page["laid"]["full_settled_l"], before["full_settled_l"])
        self.assertIn("ring_cut", [f["code"] for f in page["findings"]])


class Looks(MulchTest):
    def test_a_look_is_judged_before_it_is_kept(self):
        tree = self.mulched()
        answer = self.client.post(f"/api/trees/{tree}/mulch/check", json=self.look(0.02, 0.03, 0.04, 0.03)).json()
        self.assertEqual(answer["verdict"], "top_up")
        self.assertGreater(answer["loose_l"], 0)
        self.assertEqual(self.page(tree)["history"], [])

    def test_a_kept_look_sets_the_depth_and_can_be_taken_back(self):
        tree = self.mulched(0.03)
        entry = new_id()
        for _ in range(2):
            kept = self.keep(tree, entry, look=self.look(0.08, 0.08, 0.06, 0.06))
            self.assertEqual(kept.status_code, 200, kept.text)
        page = self.page(tree)
        self.assertAlmostEqual(page["depth_now_m"], 0.07)
        self.assertEqual(len(page["history"]), 1)
        self.client.post(f"/api/mulch-entries/{entry}/withdraw")
        self.assertAlmostEqual(self.page(tree)["depth_now_m"], 0.03)
        self.assertTrue(self.page(tree)["history"][0]["withdrawn"])

    def test_depth_goes_into_the_water_plan_and_a_wiped_cache_says_the_same(self):
        tree = self.mulched(0.01)
        bare = self.client.get(f"/api/trees/{tree}/water").json()
        self.keep(tree, look=self.look(0.08, 0.08, 0.08, 0.08))
        covered = self.client.get(f"/api/trees/{tree}/water").json()
        self.assertAlmostEqual(covered["section"]["mulch_depth_m"], 0.08)
        first = next(i for i, day in enumerate(bare["chart"]) if day["planned_l"] > 0)
        before = [page["chart"][first - 1]["dryness"] for page in (bare, covered)]
        self.assertLess(before[1], before[0], "on the evening before the first visit")
        visits = [[i for i, day in enumerate(page["chart"]) if day["planned_l"] > 0] for page in (bare, covered)]
        self.assertGreaterEqual(visits[1][0], visits[0][0])
        with transaction(self.client.app.state.sessions) as session:
            session.execute(text("DELETE FROM tree_state"))
        self.assertEqual(self.client.get(f"/api/trees/{tree}/water").json(), covered)

    def test_weeds_that_came_through_call_for_card(self):
        tree = self.mulched()
        self.assertIsNone(self.page(tree)["choice"]["underlay"])
        self.keep(tree, look=self.look(0.03, 0.03, 0.03, 0.03, weeds=True))
        page = self.page(tree)
        self.assertEqual((page["choice"]["underlay"], page["weeds"]), ("card", True))
        self.assertGreater(page["laid"]["underlay"]["sheets"], 0)
        self.keep(tree)
        self.assertIsNone(self.page(tree)["choice"]["underlay"])

    def test_readings_of_two_years_correct_the_pace(self):
        tree = self.mulched(0.10, mulch_measured_on=PLANTED.isoformat())
        usual = self.page(tree)["half_life_months"]
        self.keep(tree, look=self.look(0.04, 0.04, 0.04, 0.04))
        page = self.page(tree)
        self.assertTrue(page["measured"])
        self.assertLess(page["half_life_months"], usual)

    def test_a_heaped_trunk_asks_for_its_work_at_once(self):
        tree = self.mulched()
        self.keep(tree, look=self.look(0.15, 0.15, 0.15, 0.15, bark="touches"))
        self.assertEqual(self.page(tree)["verdict"], "pull_back")
        kinds = [t["kind"] for t in self.client.get(f"/api/care?tree_id={tree}").json()["tasks"]]
        self.assertIn("mulch_pull_back", kinds)

    def test_readings_that_can_not_be(self):
        tree = self.mulched()
        for look in (
            self.look(0.05, 0.05, 0.05), self.look(-0.01, 0.05, 0.05, 0.05), self.look(0.05, 0.05, 0.05, 5.0),
            self.look(0.05, 0.05, 0.05, 0.05, bark="near"),
        ):  # fmt: skip
            self.assertEqual(self.keep(tree, look=look).status_code, 422)
        later = (DAY + timedelta(days=1)).isoformat()
        self.assertEqual(self.keep(tree, look=self.look(*[0.05] * 4), day=later).json()["field"], "day")
        self.assertEqual(self.page(tree)["history"], [])


class DaysWork(MulchTest):
    def street(self, count: int = 3) -> list[str]:
        return [self.mulched(0.02, tag=f"S-{n}", stop="Elm Street") for n in range(count)]

    def order(self, **query) -> dict:
        answer = self.client.get("/api/order", params={"site_id": str(self.site_id)} | query)
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def job(self, trees: list[str], job: str | None = None, **changed):
        body = {"tree_ids": trees, "material": "wood_chips", "taken_l": 500.0, "left_l": 20.0} | changed
        return self.client.put(f"/api/mulch-jobs/{job or new_id()}", json=body)

    def test_a_list_is_the_sum_of_its_trees(self):
        trees = self.street()
        self.mulched(0.07, tag="deep", stop="Elm Street")
        (chips,) = self.order(stop="Elm Street")["materials"]
        self.assertEqual(set(chips["tree_ids"]), set(trees))
        rows = self.order(stop="Elm Street")["mulched"]
        self.assertAlmostEqual(sum(row["loose_l"] for row in rows), chips["order"]["loose_l"])
        alone = self.page(trees[0])["laid"]["missing_loose_l"]
        self.assertAlmostEqual(rows[0]["loose_l"], alone)
        job = chips["job"]
        self.assertAlmostEqual(
            job["taken_l"] / chips["order"]["loose_l"], 1.05, delta=0.01
        )  # 5 % spare (common practice)
        self.assertGreaterEqual(job["taken_l"] - job["left_l"], chips["order"]["loose_l"])
        self.assertEqual(len(self.order(stop="Elm Street", mulch="all")["mulched"]), 4)
        self.assertEqual(self.order(stop="Oak Street")["materials"], [])

    def test_what_lies_in_the_yard_is_not_bought(self):
        self.street()
        without = self.order()["materials"][0]["order"]
        self.count("wood_chips", 100)
        with_it = self.order()["materials"][0]["order"]
        self.assertAlmostEqual(without["buy_l"] - with_it["buy_l"], 100)

    def test_laid_it_is_on_the_trees_and_the_rest_in_the_yard(self):
        trees = self.street()
        self.count("wood_chips", 2000)
        needed = self.order()["materials"][0]["order"]["loose_l"]
        job = new_id()
        for _ in range(2):
            done = self.job(trees, job, taken_l=needed + 50, left_l=50)
            self.assertEqual(done.status_code, 200, done.text)
        self.assertAlmostEqual(self.yard()["wood_chips"], 2000 - needed)
        for tree in trees:
            page = self.page(tree)
            self.assertAlmostEqual(page["depth_now_m"], page["choice"]["depth_m"], places=6)
            self.assertFalse(page["due"])
        self.assertEqual(self.order()["materials"], [])

    def test_half_a_load_lies_half_as_deep(self):
        (tree,) = self.street(1)
        needed = self.order()["materials"][0]["order"]["loose_l"]
        target = self.page(tree)["choice"]["depth_m"]
        self.job([tree], bought_l=needed / 2, taken_l=needed / 2, left_l=0)
        self.assertAlmostEqual(self.page(tree)["depth_now_m"], 0.02 + (target - 0.02) / 2, places=4)

    def test_more_than_there_is_is_refused_and_nothing_is_kept(self):
        trees = self.street()
        self.count("wood_chips", 100)
        for changed, field in (
            ({"taken_l": 200.0, "left_l": 0.0}, "taken_l"),
            ({"taken_l": 50.0, "left_l": 60.0}, "left_l"),
            ({"material": "bark"}, "material"),
        ):
            answer = self.job(trees, **changed)
            self.assertEqual((answer.status_code, answer.json()["field"]), (422, field), answer.text)
        self.assertEqual(self.yard()["wood_chips"], 100)
        self.assertEqual(self.page(trees[0])["history"], [])

    def test_water_and_plantings_are_on_the_list(self):
        planting = new_id()
        body = {
            "site_id": str(self.site_id), "planned_on": DAY.isoformat(), "plant_id": str(self.plant),
            "kind": "container", "caliper_m": 0.03, "ball_diameter_m": 0.44, "ball_height_m": 0.395, "count": 5,
            "tag": "N-1", "stop": "Elm Street",
        }  # fmt: skip
        made = self.client.put(f"/api/plantings/{planting}", json=body).json()
        found = self.order(planting_id=planting)
        self.assertAlmostEqual(found["water"]["first_l"], 5 * made["figures"]["first"]["litres"])
        self.assertAlmostEqual(found["spoil_loose_l"], made["figures"]["totals"]["spoil_loose_l"])
        (chips,) = found["materials"]
        self.assertAlmostEqual(chips["order"]["loose_l"], found["plantings"][0]["mulch_loose_l"])
        self.assertEqual(chips["trees"], 5)

    def test_lists_that_can_not_be(self):
        site = str(self.site_id)
        for query in ({"site_id": new_id()}, {"site_id": site, "tree_id": new_id()}):
            self.assertEqual(self.client.get("/api/order", params=query).status_code, 404)
        self.assertEqual(self.client.get("/api/order", params={"site_id": site, "truck_l": 0}).status_code, 422)

    def test_the_yard_counts_and_never_goes_below_nothing(self):
        self.count("bark", 300, "bought")
        self.count("bark", 120, "thrown")
        self.assertEqual(self.yard()["bark"], 180)
        self.assertEqual(self.count("bark", 200, "used").json()["field"], "litres")
        self.count("bark", 90)
        self.assertEqual(self.yard()["bark"], 90)


if __name__ == "__main__":
    unittest.main()
