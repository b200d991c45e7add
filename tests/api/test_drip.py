"""Drip over HTTP: a layout is looked at, accepted, taken back; what it does goes into the water plan; lines; paper."""

import csv
import io
import json
import unittest
import xml.etree.ElementTree as ET
from datetime import timedelta
from itertools import pairwise

from tests.api.test_trees import RegisterTest
from tests.support import DAY, new_id, tree_body

ON_BALL = {"pattern": "on_ball", "radius_m": 0.2, "points": 4, "flow_l_per_h": 4.0}
FAR_RING = {"pattern": "ring", "radius_m": 1.2, "spacing_m": 0.5, "flow_l_per_h": 4.0}
EMITTERS = {"method": "emitters", "emitter_count": 4, "emitter_flow_l_per_h": 4.0, "basin_diameter_m": None}
SVG = "{http://www.w3.org/2000/svg}"


class DripTest(RegisterTest):
    def tree(self, **changed) -> str:
        made = new_id()
        planted = (DAY - timedelta(days=30)).isoformat()
        body = tree_body(self.site_id, self.plant, planted_on=planted) | EMITTERS | changed
        answer = self.client.put(f"/api/trees/{made}", json=body)
        self.assertEqual(answer.status_code, 200, answer.text)
        return made

    def row(self, count: int = 4, **changed) -> tuple[list[str], str]:
        """Trees on one valve, and the valve."""
        trees = [self.tree(tag=f"R-{n}", line="Valve 1", row_place=n, **changed) for n in range(count)]
        return trees, self.client.get(f"/api/sites/{self.site_id}/lines").json()[0]["id"]

    def drip(self, tree: str) -> dict:
        answer = self.client.get(f"/api/trees/{tree}/drip")
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def look(self, tree: str, choice: dict, **more):
        return self.client.post(f"/api/trees/{tree}/drip/look", json={"choice": choice} | more)

    def accept(self, tree: str, choice: dict, layout: str | None = None):
        body = {"tree_id": tree, "choice": choice}
        return self.client.put(f"/api/drip-layouts/{layout or new_id()}", json=body)

    def water(self, tree: str) -> dict:
        return self.client.get(f"/api/trees/{tree}/water").json()

    def supply(self, line: str, **changed) -> dict:
        now = self.client.get(f"/api/lines/{line}/supply").json()
        body = {
            name: value for name, value in now.items() if name not in ("id", "site_id", "name", "closed_on")
        } | changed
        answer = self.client.put(f"/api/lines/{line}/supply", json=body)
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()


class OneTree(DripTest):
    def test_a_tree_without_a_layout_is_shown_the_best_one_and_the_others(self):
        page = self.drip(self.tree())
        self.assertFalse(page["accepted"])
        self.assertIsNone(page["layout"])
        self.assertEqual(page["looks"][0]["look"]["choice"]["pattern"], page["suggestions"][0]["choice"]["pattern"])
        self.assertGreater(len(page["suggestions"]), 2)
        self.assertEqual([look["look"]["day"][:4] for look in page["looks"]], [str(DAY.year + n) for n in range(3)])
        self.assertEqual(len(page["looks"][0]["look"]["achievements"]), 6)

    def test_typed_measures_are_drawn_and_nothing_is_stored(self):
        tree = self.tree()
        found = self.look(tree, ON_BALL).json()["looks"][0]["look"]
        self.assertEqual(len(found["emitters"]), 4)
        wide = self.look(tree, FAR_RING).json()["looks"][0]["look"]
        self.assertIn("dry_ball", [f["code"] for f in wide["findings"]])
        self.assertIsNone(self.drip(tree)["layout"])

    def test_what_stands_beside_it_can_be_tried_before_it_is_kept(self):
        tree = self.tree()
        wall = [{"kind": "wall", "bearing_deg": 0.0, "distance_m": 0.5}]
        ring = {"pattern": "ring", "radius_m": 0.7, "spacing_m": 0.4}
        self.assertTrue(self.look(tree, ring, obstacles=wall).json()["looks"][0]["look"]["cut"])
        self.assertFalse(self.look(tree, ring).json()["looks"][0]["look"]["cut"])
        kept = self.client.put(f"/api/trees/{tree}/obstacles", json={"obstacles": wall})
        self.assertEqual(kept.status_code, 200, kept.text)
        self.assertTrue(self.look(tree, ring).json()["looks"][0]["look"]["cut"])

    def test_a_layout_sets_share_flow_and_run_time_of_the_plan(self):
        tree = self.tree()
        layout = new_id()
        first, again = self.accept(tree, ON_BALL, layout), self.accept(tree, ON_BALL, layout)
        self.assertEqual(first.status_code, 200, first.text)
        self.assertEqual(first.json(), again.json())
        page, sheet = self.drip(tree), self.water(tree)
        self.assertTrue(page["accepted"])
        self.assertEqual(sheet["tree"]["emitter_count"], 4)
        share = next(line["value"] for line in sheet["working"] if line["key"] == "ball_share")
        self.assertAlmostEqual(share, page["layout"]["ball_share"], places=6)
        visit = sheet["next"]["metric"]
        self.assertAlmostEqual(visit["run_min"], 60 * visit["litres"] / page["layout"]["flow_l_per_h"], places=3)

    def test_another_layout_under_the_same_id_is_refused(self):
        tree, layout = self.tree(), new_id()
        self.accept(tree, ON_BALL, layout)
        self.assertEqual(self.accept(tree, ON_BALL | {"points": 3}, layout).status_code, 409)

    def test_a_dry_ball_shows_wherever_the_tree_does(self):
        tree = self.tree()
        self.accept(tree, FAR_RING)
        self.assertIn("dry_ball", self.water(tree)["next"]["flags"])
        listed = self.client.get("/api/trees").json()["trees"][0]
        self.assertEqual(listed["drip_flags"], ["dry_ball"])
        self.assertEqual(self.water(tree)["drip_flags"], ["dry_ball"])
        today = self.client.get("/api/today").json()["sites"][0]["stops"]
        flags = [t["next"]["flags"] for stop in today for t in stop["trees"] if t["next"]]
        self.assertTrue(all("dry_ball" in f for f in flags))

    def test_taking_a_layout_back_brings_the_one_before_it(self):
        tree = self.tree()
        first = self.accept(tree, ON_BALL).json()
        second = self.accept(tree, FAR_RING).json()
        self.assertEqual(self.drip(tree)["layout"]["id"], second["id"])
        answer = self.client.post(f"/api/drip-layouts/{second['id']}/withdraw")
        self.assertTrue(answer.json()["withdrawn"])
        page = self.drip(tree)
        self.assertEqual(page["layout"]["id"], first["id"])
        self.assertEqual([h["id"] for h in page["history"]], [second["id"]])

    def test_a_proof_replaces_the_estimate_and_is_kept_with_its_date(self):
        tree = self.tree()
        self.accept(tree, ON_BALL)
        before = self.drip(tree)
        estimated = before["looks"][0]["look"]["emitters"][0]
        proof, body = new_id(), {"tree_id": tree, "minutes": 60, "depth_m": 0.45}
        for _ in range(2):
            answer = self.client.put(f"/api/drip-proofs/{proof}", json=body)
            self.assertEqual(answer.status_code, 200, answer.text)
        after = self.drip(tree)
        measured = after["looks"][0]["look"]["emitters"][0]
        self.assertGreater(measured["depth_m"], estimated["depth_m"])
        self.assertLess(measured["width_m"], estimated["width_m"])
        self.assertEqual([(p["day"], p["withdrawn"]) for p in after["proofs"]], [(DAY.isoformat(), False)])
        self.assertNotEqual(after["layout"]["ball_share"], before["layout"]["ball_share"])
        self.client.post(f"/api/drip-proofs/{proof}/withdraw")
        back = self.drip(tree)
        self.assertAlmostEqual(back["looks"][0]["look"]["emitters"][0]["depth_m"], estimated["depth_m"], places=9)
        self.assertEqual(back["layout"]["ball_share"], before["layout"]["ball_share"])

    def test_another_soil_is_another_bulb_in_a_layout_that_lies(self):
        tree = self.tree()
        self.accept(tree, ON_BALL)
        before = self.drip(tree)["layout"]["ball_share"]
        sand = {"sand_percent": 92.0, "silt_percent": 5.0, "clay_percent": 3.0}
        body = {"day": DAY.isoformat(), "used": True, "reading": {"kind": "percentages"} | sand}
        answer = self.client.put(f"/api/sites/{self.site_id}/soil-tests/{new_id()}", json=body)
        self.assertEqual(answer.status_code, 200, answer.text)
        self.assertGreater(self.drip(tree)["layout"]["ball_share"], before)

    def test_a_sheet_wants_forking_until_it_is_forked(self):
        tree = self.tree(surround="plastic")
        self.accept(tree, ON_BALL)
        page = self.drip(tree)
        self.assertEqual([t["count"] for t in page["tasks"] if t["kind"] == "perforate" and t["year"] == 0], [4])
        self.assertIn("bury", [t["kind"] for t in page["tasks"]])
        self.assertIn("sheet_whole", self.water(tree)["next"]["flags"])
        self.accept(tree, ON_BALL | {"perforated": True, "buried": True})
        self.assertEqual(self.client.get(f"/api/trees/{tree}").json()["surround"], "plastic_holed")
        after = self.drip(tree)
        self.assertNotIn("perforate", [t["kind"] for t in after["tasks"]])
        self.assertNotIn("bury", [t["kind"] for t in after["tasks"]])

    def test_bad_measures_are_refused_by_their_field_and_nothing_is_stored(self):
        tree = self.tree()
        for choice, field in (
            (ON_BALL | {"flow_l_per_h": 0}, "choice.flow_l_per_h"),
            (ON_BALL | {"pattern": "spiral"}, "choice.pattern"),
            (ON_BALL | {"radius_m": 0.01}, "radius_m"),
            (FAR_RING | {"spacing_m": -1}, "choice.spacing_m"),
            ({"pattern": "two_rings", "radius_m": 0.3, "inner_radius_m": 0.4}, "inner_radius_m"),
            ({"pattern": "row_lines", "offset_m": 0.2}, "pattern"),
        ):
            with self.subTest(field):
                for answer in (self.look(tree, choice), self.accept(tree, choice)):
                    self.assertEqual(answer.status_code, 422, answer.text)
                    self.assertEqual(answer.json()["field"], field)
        self.assertIsNone(self.drip(tree)["layout"])
        bad = self.client.put(
            f"/api/trees/{tree}/obstacles", json={"obstacles": [{"kind": "post", "bearing_deg": 0, "distance_m": 1}]}
        )
        self.assertEqual((bad.status_code, bad.json()["field"]), (422, "obstacles[0].across_m"))
        proof = self.client.put(f"/api/drip-proofs/{new_id()}", json={"tree_id": tree, "minutes": 5, "depth_m": 2.5})
        self.assertEqual((proof.status_code, proof.json()["field"]), (422, "depth_m"))
        self.assertEqual(self.client.get(f"/api/trees/{new_id()}/drip").status_code, 404)

    def test_walls_all_round_leave_a_clear_error(self):
        tree = self.tree()
        walls = [{"kind": "wall", "bearing_deg": b, "distance_m": 0.1} for b in (0, 90, 180, 270)]
        answer = self.look(tree, ON_BALL, obstacles=walls)
        self.assertEqual((answer.status_code, answer.json()["field"]), (422, "radius_m"))


class Lines(DripTest):
    def test_a_row_is_laid_out_at_once_and_sending_it_twice_makes_one(self):
        trees, line = self.row()
        self.supply(line, static_head_m=30, open_flow_l_per_h=1200, regulator_head_m=14.06, lead_m=5, spacing_m=6)
        page = self.client.get(f"/api/lines/{line}").json()
        self.assertFalse(page["accepted"])
        batch = new_id()
        for _ in range(2):
            kept = self.client.put(f"/api/lines/{line}/layouts/{batch}", json={})
            self.assertEqual(kept.status_code, 200, kept.text)
        self.assertEqual({k["tree_id"] for k in kept.json()}, set(trees))
        page = self.client.get(f"/api/lines/{line}").json()
        self.assertTrue(page["accepted"])
        self.assertEqual([t["chainage_m"] for t in page["trees"]], [5, 11, 17, 23])
        self.assertEqual(len(self.drip(trees[0])["history"]), 0)
        self.assertAlmostEqual(
            page["flow"]["flow_l_per_h"], sum(t["look"]["figures"]["flow_l_per_h"] for t in page["trees"]), 3
        )

    def test_trees_that_were_measured_stand_there_and_the_others_between_them(self):
        trees, line = self.row()
        lie = [{"tree_id": trees[0], "along_m": 2, "up_m": 1}, {"tree_id": trees[2], "along_m": 30, "up_m": -3}]
        kept = self.supply(
            line, static_head_m=30, open_flow_l_per_h=2000, lead_m=5, spacing_m=6, rise_percent=0, lie=lie
        )
        self.assertEqual([one["along_m"] for one in kept["lie"]], [2, 30])
        self.client.put(f"/api/lines/{line}/layouts/{new_id()}", json={})
        page = self.client.get(f"/api/lines/{line}").json()
        self.assertEqual([t["chainage_m"] for t in page["trees"]], [2, 8, 30, 36])
        self.assertEqual([t["height_m"] for t in page["trees"]], [1, 1, -3, -3])
        falls = [a["tee_head_m"] - b["tee_head_m"] for a, b in pairwise(page["trees"])]
        self.assertAlmostEqual(falls[1], -4, delta=1.0, msg="what it lies lower it has more, less some friction")
        wrong = {"lie": [lie[0], {**lie[1], "along_m": 1}]}
        told = self.client.put(f"/api/lines/{line}/supply", json=wrong)
        self.assertEqual((told.status_code, told.json()["field"]), (422, "lie"))
        told = self.client.put(f"/api/lines/{line}/supply", json={"lie": [{**lie[0], "tree_id": new_id()}]})
        self.assertEqual(told.status_code, 422)

    def test_the_last_tree_under_pressure_shows_at_that_tree(self):
        trees, line = self.row()
        self.supply(line, static_head_m=14, open_flow_l_per_h=2000, lead_m=5, spacing_m=8, rise_percent=0)
        self.client.put(f"/api/lines/{line}/layouts/{new_id()}", json={})
        self.assertNotIn("low_pressure", self.water(trees[-1])["next"]["flags"])
        self.supply(line, rise_percent=35)
        self.assertIn("low_pressure", self.water(trees[-1])["next"]["flags"])
        self.assertNotIn("low_pressure", self.water(trees[0])["next"]["flags"])
        codes = [f["code"] for f in self.client.get(f"/api/lines/{line}").json()["flow"]["findings"]]
        self.assertIn("head_low", codes)

    def test_a_short_supply_shows_at_every_tree(self):
        trees, line = self.row()
        self.client.put(f"/api/lines/{line}/layouts/{new_id()}", json={})
        self.supply(line, static_head_m=20, open_flow_l_per_h=30)
        for tree in trees:
            self.assertIn("short_supply", self.water(tree)["next"]["flags"])
        self.assertIn("short_supply", self.client.get(f"/api/sites/{self.site_id}/lines").json()[0]["codes"])

    def test_no_pressure_at_all_is_a_finding(self):
        trees, line = self.row(2)
        self.client.put(f"/api/lines/{line}/layouts/{new_id()}", json={})
        self.supply(line, static_head_m=1, rise_percent=60, spacing_m=20)
        self.assertIn("low_pressure", self.water(trees[1])["next"]["flags"])
        page = self.client.get(f"/api/lines/{line}").json()
        self.assertIn("no_head", [f["code"] for f in page["flow"]["findings"]])

    def test_a_hedge_is_on_lines_along_it(self):
        small = {"kind": "container", "caliper_m": 0.015, "ball_diameter_m": 0.295, "ball_height_m": 0.28}
        trees, line = self.row(5, **small)
        self.supply(line, spacing_m=1.2, lead_m=3, bearing_deg=90, open_flow_l_per_h=900)
        self.client.put(f"/api/lines/{line}/layouts/{new_id()}", json={})
        page = self.client.get(f"/api/lines/{line}").json()
        self.assertTrue(page["hedge"])
        alone = self.accept(trees[0], ON_BALL)
        self.assertEqual((alone.status_code, alone.json()["field"]), (422, "pattern"))

    def test_a_supply_that_someone_else_changed_is_not_overwritten(self):
        _, line = self.row(2)
        self.supply(line, lead_m=4)
        answer = self.client.put(f"/api/lines/{line}/supply", json={"lead_m": 9, "version": 1})
        self.assertEqual((answer.status_code, answer.json()["code"]), (409, "stale"))

    def test_what_can_not_be_is_refused(self):
        _, line = self.row(2)
        for changed, field in (({"spacing_m": 0}, "spacing_m"), ({"static_head_m": -2}, "static_head_m")):
            answer = self.client.put(f"/api/lines/{line}/supply", json=changed)
            self.assertEqual((answer.status_code, answer.json()["field"]), (422, field))
        self.assertEqual(self.client.get(f"/api/lines/{new_id()}").status_code, 404)


class Paper(DripTest):
    def test_parts_on_paper_are_those_of_the_drawing(self):
        tree = self.tree()
        self.accept(tree, ON_BALL)
        shown = self.drip(tree)["looks"][0]["look"]
        rows = list(csv.DictReader(io.StringIO(self.client.get(f"/api/trees/{tree}/drip.csv").text)))
        own = [row for row in rows if row["for"] == "T-1"]
        self.assertEqual([row["item"] for row in own], [p["item"] for p in shown["parts"]])
        self.assertEqual(next(row["count"] for row in own if row["item"] == "emitter"), str(len(shown["emitters"])))
        pins = sum(f["kind"] == "pin" for f in shown["fittings"])
        self.assertEqual(next(row["count"] for row in own if row["item"] == "pin"), str(pins))

    def test_the_drawing_is_to_scale(self):
        tree = self.tree()
        self.accept(tree, ON_BALL)
        root = ET.fromstring(self.client.get(f"/api/trees/{tree}/drip.svg").text)
        self.assertTrue(root.get("width").endswith("mm"))
        ball = next(c for c in root.iter(f"{SVG}circle") if c.get("class") == "ball")
        self.assertAlmostEqual(float(ball.get("r")), 1000 * 0.305 / 10, places=1)
        self.assertEqual(sum(c.get("class") == "emitter" for c in root.iter(f"{SVG}circle")), 4)

    def test_geojson_lies_where_the_tree_stands(self):
        bare = self.tree(tag="T-2")
        self.assertEqual(self.client.get(f"/api/trees/{bare}/drip.geojson").status_code, 409)
        tree = self.tree(latitude_deg=40.0, longitude_deg=-105.0)
        self.accept(tree, ON_BALL)
        made = json.loads(self.client.get(f"/api/trees/{tree}/drip.geojson").text)
        emitters = [f for f in made["features"] if f["properties"]["part"] == "emitter"]
        self.assertEqual(len(emitters), 4)
        for one in emitters:
            east, north = one["geometry"]["coordinates"]
            metres = ((east + 105.0) * 85_180, (north - 40.0) * 111_195)  # a degree at 40 N on a sphere of 6371 km
            self.assertAlmostEqual((metres[0] ** 2 + metres[1] ** 2) ** 0.5, 0.2, delta=0.005)

    def test_a_line_and_a_site_on_paper(self):
        _, line = self.row()
        text = self.client.get(f"/api/lines/{line}/drip.csv").text
        self.assertIn("Valve 1,valve,", text)
        self.assertEqual(self.client.get(f"/api/sites/{self.site_id}/drip.csv").text, text)
        root = ET.fromstring(self.client.get(f"/api/lines/{line}/drip.svg").text)
        self.assertEqual(sum(c.get("class") == "trunk" for c in root.iter(f"{SVG}circle")), 4)


if __name__ == "__main__":
    unittest.main()
