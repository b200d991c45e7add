"""Layouts changed by hand over HTTP: looked at, kept as they lie, on a line and in a hedge, refused by the change."""

import unittest

from tests.api.test_drip import ON_BALL, DripTest
from tests.support import client, new_id

OUT = {"kind": "move", "number": 2, "x_m": 0.3, "y_m": 0.12}
MORE = {"kind": "add", "x_m": -0.5, "y_m": 0.0}
STRONG = {"kind": "flow", "number": 1, "flow_l_per_h": 8.0}


class ByHand(DripTest):
    def emitters(self, page: dict) -> list[dict]:
        return page["looks"][0]["look"]["emitters"]

    def test_it_is_looked_at_kept_as_it_lies_and_sent_twice_is_one(self):
        tree, layout = self.tree(), new_id()
        changed = ON_BALL | {"edits": [OUT, MORE, STRONG]}
        tried = self.emitters(self.look(tree, changed).json())
        self.assertEqual([e["number"] for e in tried], [1, 2, 3, 4, 5])
        self.assertEqual((tried[1]["x_m"], tried[1]["y_m"]), (0.3, 0.12))
        self.assertEqual([e["sold_as_l_per_h"] for e in tried], [8.0, 4.0, 4.0, 4.0, 4.0])
        self.assertEqual([e["by_hand"] for e in tried], [False, True, False, False, True])
        for _ in range(2):
            self.assertEqual(self.accept(tree, changed, layout).status_code, 200)
        page = self.drip(tree)
        self.assertTrue(page["accepted"])
        self.assertEqual(self.emitters(page), tried)
        self.assertAlmostEqual(page["layout"]["flow_l_per_h"], 24.0, places=3)
        self.assertEqual(self.accept(tree, ON_BALL, layout).status_code, 409)
        self.assertAlmostEqual(page["tree"]["emitter_flow_l_per_h"], 24.0 / 5, msg="five of so much in the mean")
        parts = {(p["item"], p["size"]): p["count"] for p in page["looks"][0]["look"]["parts"]}
        self.assertEqual((parts["emitter", 4.0], parts["emitter", 8.0]), (4, 1))

    def test_what_the_water_plan_goes_by_is_what_lies(self):
        plain, changed = self.tree(), self.tree(tag="T-2")
        self.accept(plain, ON_BALL)
        self.accept(changed, ON_BALL | {"edits": [{**STRONG, "number": n + 1} for n in range(4)]})
        pours = [self.water(tree)["next"]["us"] for tree in (plain, changed)]
        litres, minutes = (pours[1][name] / pours[0][name] for name in ("litres", "run_min"))
        self.assertAlmostEqual(minutes / litres, 0.5, places=1)

    def test_cups_are_held_against_what_each_emitter_is_sold_as(self):
        tree = self.tree()
        self.accept(tree, ON_BALL | {"edits": [STRONG]})
        body = {"tree_id": tree, "minutes": 15, "caught_ml": [2000, 1000, 1000, 1000]}
        test = self.client.put(f"/api/drip-catches/{new_id()}", json=body).json()
        self.assertEqual((test["leaking"], test["weak"]), ([], []))
        self.assertAlmostEqual(test["of_nominal"], 1.0)

    def test_one_tree_s_layout_goes_to_the_whole_row_whatever_lay_there(self):
        trees, line = self.row(3)
        self.client.put(f"/api/lines/{line}/layouts/{new_id()}", json={})
        ring = {"pattern": "ring", "radius_m": 0.35, "feed_bearing_deg": 90, "edits": [{**OUT, "number": 1}]}
        lines = {"pattern": "row_lines", "lines": 2, "offset_m": 0.2, "spacing_m": 0.3}
        for choice in (ring, lines, ring):
            batch = new_id()
            for _ in range(2):
                kept = self.client.put(f"/api/lines/{line}/layouts/{batch}", json={"choice": choice})
                self.assertEqual(kept.status_code, 200, kept.text)
            self.assertEqual({k["tree_id"] for k in kept.json()}, set(trees))
            for tree in trees:
                lies = self.drip(tree)["layout"]["choice"]
                self.assertEqual({name: lies[name] for name in choice if name != "edits"},
                                 {name: value for name, value in choice.items() if name != "edits"})  # fmt: skip

    def test_where_it_can_t_be_laid_at_one_tree_none_is_laid_and_the_tree_is_named(self):
        trees, line = self.row(3)
        self.client.put(f"/api/lines/{line}/layouts/{new_id()}", json={})
        wall = {"obstacles": [{"kind": "wall", "bearing_deg": 0, "distance_m": 0.4}]}
        self.client.put(f"/api/trees/{trees[1]}/obstacles", json=wall)
        before = [self.drip(tree)["layout"] for tree in trees]
        choice = {"pattern": "ring", "radius_m": 0.35, "edits": [{**MORE, "x_m": 0, "y_m": 0.6}]}
        told = self.client.put(f"/api/lines/{line}/layouts/{new_id()}", json={"choice": choice})
        self.assertEqual(told.status_code, 422)
        self.assertIn(self.drip(trees[1])["tree"]["tag"], told.text)
        self.assertEqual([self.drip(tree)["layout"] for tree in trees], before)

    def test_on_a_line_it_is_the_tree_s_own(self):
        trees, line = self.row(3)
        self.client.put(f"/api/lines/{line}/layouts/{new_id()}", json={})
        before = self.drip(trees[0])
        choice = self.drip(trees[1])["looks"][0]["look"]["choice"]
        self.assertEqual(self.accept(trees[1], choice | {"edits": [STRONG]}).status_code, 200)
        self.assertEqual(self.drip(trees[1])["looks"][0]["look"]["emitters"][0]["sold_as_l_per_h"], 8.0)
        self.assertEqual(self.emitters(self.drip(trees[0])), self.emitters(before))

    def test_in_a_hedge_the_lines_of_its_neighbours_stay(self):
        small = {"kind": "container", "caliper_m": 0.015, "ball_diameter_m": 0.295, "ball_height_m": 0.28}
        trees, line = self.row(3, **small)
        self.supply(line, spacing_m=1.2, lead_m=3, bearing_deg=90, open_flow_l_per_h=900)
        self.client.put(f"/api/lines/{line}/layouts/{new_id()}", json={})
        choice = self.drip(trees[1])["looks"][0]["look"]["choice"]
        self.assertEqual(choice["pattern"], "row_lines")
        tried = self.look(trees[1], choice | {"edits": [{"kind": "remove", "number": 1}]})
        self.assertEqual(tried.status_code, 200, tried.text)
        self.assertEqual(len(self.emitters(tried.json())), len(self.emitters(self.drip(trees[0]))) - 1)

    def test_what_can_not_be_laid_is_refused_by_its_change_and_nothing_is_stored(self):
        tree = self.tree()
        curb = {"kind": "paving", "bearing_deg": 90, "distance_m": 0.6, "across_m": 0}
        self.client.put(f"/api/trees/{tree}/obstacles", json={"obstacles": [curb]})
        for edits, field in (
            ([OUT, {"kind": "move", "number": 1, "x_m": 0.8, "y_m": 0.0}], "edits[1].x_m"),
            ([{"kind": "move", "number": 9, "x_m": 0.2, "y_m": 0.0}], "edits[0].number"),
            ([{"kind": "remove", "number": 1}] * 4, "edits[3].number"),
        ):
            for answer in (self.look(tree, ON_BALL | {"edits": edits}), self.accept(tree, ON_BALL | {"edits": edits})):
                self.assertEqual((answer.status_code, answer.json()["field"]), (422, field), answer.text)
        bent = self.look(tree, ON_BALL | {"edits": [{"kind": "bend", "number": 1}]})
        self.assertEqual(bent.status_code, 422)
        self.assertIsNone(self.drip(tree)["layout"])


class Beginner(DripTest):
    def test_without_a_year_of_weather_nothing_is_compared(self):
        told = self.client.post(f"/api/trees/{self.tree()}/drip/compare", json={})
        self.assertEqual((told.status_code, told.json()["code"]), (409, "no_weather"))


class SideBySide(DripTest):
    def setUp(self):
        """The demo's school, which knows some years of weather."""
        self.client = self.enterContext(client("demo"))
        first = self.client.get("/api/trees", params={"q": "HL-01"}).json()["trees"][0]
        known = self.client.get(f"/api/trees/{first['id']}").json()
        self.site_id, self.plant = known["site_id"], known["plant"]["id"]

    def compared(self, tree: str, **asked) -> list[dict]:
        told = self.client.post(f"/api/trees/{tree}/drip/compare", json=asked)
        self.assertEqual(told.status_code, 200, told.text)
        return told.json()["layouts"]

    def test_what_lies_what_is_typed_and_each_pattern_once_with_the_least_harmful_marked(self):
        tree = self.tree()
        self.accept(tree, ON_BALL)
        found = self.compared(tree, choice=ON_BALL | {"edits": [MORE]})
        self.assertEqual([one["which"] for one in found[:2]], ["lies", "typed"])
        self.assertEqual(len(found[1]["emitters"]), len(found[0]["emitters"]) + 1)
        patterns = [one["choice"]["pattern"] for one in found if one["which"] == "pattern"]
        self.assertEqual(len(patterns), len(set(patterns)))
        bad = [one["over"]["dry_days"] + one["over"]["wet_days"] for one in found]
        (best,) = [n for n, one in enumerate(found) if one["best"]]
        self.assertLessEqual(bad[best], min(bad) + 2)
        for one in found:
            over = one["over"]
            self.assertAlmostEqual(over["hands_min"], over["lay_min"] + over["stand_min"])
            self.assertGreater(over["waterings"], 0)
        again = self.compared(tree, choice=ON_BALL)
        self.assertEqual([one["which"] for one in again].count("typed"), 0, "what lies there is told once")

    def test_half_the_flow_runs_twice_as_long_for_the_same_water(self):
        tree = self.tree()
        some = [
            next(one for one in self.compared(tree, choice=ON_BALL | {"flow_l_per_h": flow}) if one["which"] == "typed")
            for flow in (3.0, 6.0)
        ]
        hours = [one["over"]["run_h"] / one["over"]["litres"] for one in some]
        self.assertAlmostEqual(hours[0] / hours[1], 2.0, delta=0.4)

    def test_it_begins_with_what_the_water_plan_says_it_reaches(self):
        tree = self.tree()
        self.accept(tree, ON_BALL)
        lies = self.compared(tree)[0]
        self.assertEqual(lies["which"], "lies")
        moved = lies["move_on"] is not None and lies["reach"][0] < 0.75
        self.assertEqual(moved, "roots_outgrown" in self.water(tree)["next"]["flags"])
        self.assertTrue(all(0 < share <= 1 for share in lies["reach"]))

    def test_what_can_t_be_laid_is_refused(self):
        told = self.client.post(
            f"/api/trees/{self.tree()}/drip/compare", json={"choice": ON_BALL | {"radius_m": 0.001}}
        )
        self.assertEqual((told.status_code, told.json()["field"]), (422, "radius_m"))


if __name__ == "__main__":
    unittest.main()
