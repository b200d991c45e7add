"""Planting over HTTP: a batch is planned, looked at, planted; its trees open as they stood; a tree's own sheet."""

import unittest
from datetime import timedelta
from uuid import UUID

from june_shade.api.schemas.sites import SiteIn
from june_shade.store.session import transaction
from june_shade.store.tree_tables import Tree
from tests.api.test_trees import RegisterTest
from tests.support import DAY, DEVICE, new_id, tree_body


class PlantingTest(RegisterTest):
    def body(self, **changed) -> dict:
        return {
            "site_id": str(self.site_id), "stop": "Playground", "planned_on": DAY.isoformat(),
            "plant_id": str(self.plant), "kind": "balled", "caliper_m": 0.0508, "ball_diameter_m": 0.61,
            "ball_height_m": 0.366, "count": 4, "tag": "P-07", "place": "{nth} from the gate", "surround": "turf",
        } | changed  # fmt: skip

    def plan(self, planting: str | None = None, **changed):
        return self.client.put(f"/api/plantings/{planting or new_id()}", json=self.body(**changed))

    def look_at(self, planting: str, number: int, flare: float = 0.0, **answers):
        body = {"answers": answers, "flare_below_top_m": flare}
        return self.client.put(f"/api/plantings/{planting}/checks/{number}", json=body)

    def plant_out(self, planting: str, **changed):
        return self.client.post(f"/api/plantings/{planting}/planted", json={"device_id": DEVICE} | changed)

    def undo(self, planting: str):
        return self.client.post(f"/api/plantings/{planting}/planted/undo", json={"device_id": DEVICE})


class Batches(PlantingTest):
    def test_a_batch_gets_its_sheet_by_itself(self):
        made = self.plan().json()
        sheet = made["figures"]
        self.assertFalse(made["chosen"])
        self.assertEqual([d["school"] for d in sheet["depths"] if d["chosen"]], [sheet["choice"]["depth_school"]])
        self.assertEqual(len(sheet["depths"]), 4)
        self.assertAlmostEqual(sheet["hole"]["depth_m"] + sheet["choice"]["raise_m"], 0.366)
        self.assertAlmostEqual(sheet["totals"]["hole_l"], 4 * sheet["hole"]["hole_l"])
        rows = self.client.get(f"/api/sites/{self.site_id}/plantings").json()
        self.assertEqual([(r["id"], r["left"], r["looked_at"]) for r in rows], [(made["id"], 4, 0)])

    def test_way_and_line_wait_with_the_batch_and_come_with_its_trees(self):
        planting = new_id()
        way = {"method": "emitters", "emitter_count": 6, "emitter_flow_l_per_h": 2.0, "line": "Court valve"}
        made = self.plan(planting, **way).json()
        self.assertEqual({name: made[name] for name in way}, way)
        refused = self.plan(planting, **way | {"emitter_count": 0})
        self.assertEqual((refused.status_code, refused.json()["field"]), (422, "emitter_count"))
        stale = self.plan(planting, **way | {"emitter_count": 8}, version=made["version"] - 1)
        self.assertEqual([d["field"] for d in stale.json()["differences"]], ["emitter_count"])
        self.assertEqual(self.plant_out(planting).status_code, 200)
        for tree in self.client.get(f"/api/plantings/{planting}").json()["trees"]:
            stands = self.client.get(f"/api/trees/{tree}").json()
            self.assertEqual({name: stands[name] for name in way}, way)
            self.assertEqual(stands["edging_m"], made["figures"]["choice"]["edging_m"])
        self.assertIn("Court valve", self.client.get("/api/sites").json()[0]["lines"])

    def test_what_was_planted_stays_as_it_was_planted(self):
        planting = new_id()
        self.plan(planting)
        self.assertEqual(self.plant_out(planting).status_code, 200)
        tree = self.client.get(f"/api/plantings/{planting}").json()["trees"][0]
        planned, before = self.plan().json(), self.client.get(f"/api/plantings/{planting}").json()
        sheet = self.client.get(f"/api/trees/{tree}/planting").json()["figures"]
        site = self.client.get("/api/sites").json()[0]
        changed = {name: value for name, value in site.items() if name in SiteIn.model_fields} | {"texture": "clay"}
        answer = self.client.put(f"/api/sites/{self.site_id}", json=changed)
        self.assertEqual(answer.status_code, 200, answer.text)
        self.assertNotEqual(self.client.get(f"/api/plantings/{planned['id']}").json()["figures"], planned["figures"])
        after = self.client.get(f"/api/plantings/{planting}").json()
        self.assertEqual(after["figures"], before["figures"])
        self.assertEqual(after["texture"], before["texture"])
        self.assertEqual(self.client.get(f"/api/trees/{tree}/planting").json()["figures"], sheet)

    def test_it_is_written_down_as_it_came_out(self):
        planting = new_id()
        self.plan(planting)
        day = (DAY - timedelta(days=2)).isoformat()
        self.assertEqual(self.plant_out(planting, day=DAY.isoformat(), at="23:59").json()["field"], "at")
        self.assertEqual(self.plant_out(planting, raise_m=0.7).status_code, 422)
        done = self.plant_out(planting, day=day, at="14:30", raise_m=0.04, water_l=30.0).json()
        self.assertEqual((done["planted_on"], done["figures"]["choice"]["raise_m"]), (day, 0.04))
        self.assertAlmostEqual(done["figures"]["hole"]["depth_m"], 0.366 - 0.04)
        entries = self.client.get(f"/api/trees/{done['trees'][0]}/log").json()
        entries = entries["entries"] if isinstance(entries, dict) else entries
        self.assertEqual([(e["volume_l"], e["happened_at"][11:16]) for e in entries], [(30.0, "20:30")])

    def test_one_that_came_out_too_deep_is_written_down_so(self):
        planting = new_id()
        self.plan(planting)
        self.assertEqual(self.plant_out(planting, raise_m=0.4).json()["field"], "raise_m")
        done = self.plant_out(planting, raise_m=-0.05).json()
        self.assertEqual(done["figures"]["choice"]["depth_school"], "sunken")
        self.assertAlmostEqual(done["figures"]["hole"]["depth_m"], 0.366 + 0.05)
        self.assertIn("depth_risky", [finding["code"] for finding in done["figures"]["findings"]])

    def test_sent_twice_it_is_one_and_an_older_version_is_refused(self):
        planting = new_id()
        first = self.plan(planting).json()
        self.assertEqual(self.plan(planting, version=first["version"]).status_code, 200)
        self.assertEqual(len(self.client.get(f"/api/sites/{self.site_id}/plantings").json()), 1)
        self.plan(planting, count=9, version=first["version"])
        stale = self.plan(planting, count=2, version=first["version"])
        self.assertEqual((stale.status_code, stale.json()["code"]), (409, "stale"))

    def test_what_was_chosen_stays_and_a_look_stores_nothing(self):
        made = self.plan().json()
        choice = made["figures"]["choice"] | {"depth_school": "level", "raise_m": 0.0, "aids": ["succulent_pads"]}
        seen = self.client.post("/api/plantings/look", json=self.body(choice=choice)).json()
        self.assertAlmostEqual(seen["hole"]["depth_m"], 0.366)
        self.assertEqual(seen["doses"][0]["pieces"], 16)
        again = self.client.get(f"/api/plantings/{made['id']}").json()
        self.assertEqual(again["figures"]["choice"]["depth_school"], made["figures"]["choice"]["depth_school"])
        kept = self.plan(made["id"], choice=choice, version=again["version"]).json()
        self.assertTrue(kept["chosen"])
        self.assertEqual(kept["figures"]["choice"]["aids"], ["succulent_pads"])

    def test_a_rejected_tree_is_not_planted(self):
        made = self.plan().json()["id"]
        self.assertEqual(self.look_at(made, 1, roots="radial", bark="sound").json()["verdict"], "sound")
        sent_back = self.look_at(made, 2, girdling="over_third").json()
        self.assertEqual((sent_back["verdict"], sent_back["reasons"]), ("reject", ["girdled"]))
        page = self.client.get(f"/api/plantings/{made}").json()
        self.assertEqual((page["left"], page["figures"]["totals"]["trees"]), (3, 3))
        planted = self.plant_out(made).json()
        self.assertEqual(planted["tags"], ["P-07", "P-08", "P-09"])

    def test_soil_taken_off_the_flare_makes_the_hole_shallower(self):
        made = self.plan().json()
        self.look_at(made["id"], 1, flare=0.05)
        page = self.client.get(f"/api/plantings/{made['id']}").json()
        self.assertAlmostEqual(page["figures"]["hole"]["depth_m"], made["figures"]["hole"]["depth_m"] - 0.05)
        self.look_at(made["id"], 2, flare=0.03)
        marks = [c["stake_mark_m"] for c in self.client.get(f"/api/plantings/{made['id']}").json()["checks"]]
        self.assertAlmostEqual(marks[1] - marks[0], 0.02)
        self.look_at(made["id"], 2, flare=0.05)
        tree = self.plant_out(made["id"]).json()["trees"][0]
        self.assertAlmostEqual(self.client.get(f"/api/trees/{tree}").json()["ball_height_m"], 0.316)

    def test_planted_trees_open_as_ball_and_backfill_stood_and_have_their_first_water(self):
        made = self.plan().json()
        choice = made["figures"]["choice"] | {"ball_feel": "moist", "backfill_feel": "dry"}
        self.plan(made["id"], choice=choice)
        planted = self.plant_out(made["id"]).json()
        litres = planted["figures"]["first"]["litres"]
        self.assertGreater(litres, 0)
        for tree in planted["trees"]:
            log = self.client.get(f"/api/trees/{tree}/log").json()
            self.assertEqual([(e["kind"], e["volume_l"]) for e in log], [("water", round(litres, 1))])
        with transaction(self.client.app.state.sessions) as session:
            tree = session.get(Tree, UUID(planted["trees"][0]))
            self.assertEqual((tree.opening, tree.ball_wetness, tree.ring_wetness), ("reading", 0.75, 0.2))
            self.assertEqual((tree.opened_on, tree.planted_on), (DAY, DAY))
            self.assertEqual(tree.basin_diameter_m, choice["basin_diameter_m"])
        page = self.client.get(f"/api/trees/{planted['trees'][0]}/water").json()
        self.assertFalse(page["guessed"])
        due = self.client.get(f"/api/care?tree_id={planted['trees'][0]}").json()["tasks"]
        self.assertIn("wrap_check", [task["kind"] for task in due])

    def test_planted_twice_is_planted_once(self):
        made = self.plan().json()["id"]
        first, second = self.plant_out(made).json(), self.plant_out(made).json()
        self.assertEqual(first["trees"], second["trees"])
        self.assertEqual(len(self.client.get(f"/api/trees/{first['trees'][0]}/log").json()), 1)
        self.assertEqual(self.client.get(f"/api/trees?site_id={self.site_id}").json()["count"], 4)

    def test_planted_is_undone_like_any_entry_and_can_be_written_down_anew(self):
        planting, said = new_id(), new_id()
        planned = self.plan(planting).json()
        before = self.client.get("/api/today").json()
        done = self.plant_out(planting, id=said, raise_m=0.05, water_l=25.0).json()
        self.assertTrue(done["undoable"])
        for _ in range(2):  # a lost answer, sent again
            undone = self.undo(planting)
            self.assertEqual(undone.status_code, 200, undone.text)
        same = {k: v for k, v in undone.json().items() if k != "version"}
        self.assertEqual(same, {k: v for k, v in planned.items() if k != "version"})
        self.assertEqual(self.client.get("/api/trees").json()["trees"], [])
        self.assertEqual(self.client.get(f"/api/trees/{done['trees'][0]}/water").status_code, 404)
        self.assertEqual(self.client.get("/api/today").json()["sites"], before["sites"])
        self.plant_out(planting, id=said)  # the first message comes once more, late
        self.assertEqual(self.client.get("/api/trees").json()["trees"], [])
        again = self.plant_out(planting, id=new_id(), water_l=10.0).json()
        self.assertEqual(again["tags"], done["tags"])
        self.assertFalse(set(again["trees"]) & set(done["trees"]))
        entries = self.client.get(f"/api/trees/{again['trees'][0]}/log").json()
        entries = entries["entries"] if isinstance(entries, dict) else entries
        self.assertEqual([e["volume_l"] for e in entries], [10.0])

    def test_what_left_the_yard_lies_there_again(self):
        planting = new_id()
        self.plan(planting, ball_diameter_m=0.6)
        move = {"material": "compost", "reason": "counted", "litres": 500}
        self.client.put(f"/api/yard-moves/{new_id()}", json=move)

        def compost() -> float:
            return next(r["litres"] for r in self.client.get("/api/yard").json() if r["material"] == "compost")

        for _ in range(2):
            self.plant_out(planting, taken={"compost": 200}, back={"compost": 30})
            self.assertEqual(compost(), 330)
            self.undo(planting)
            self.assertEqual(compost(), 500)

    def test_planted_is_not_undone_under_later_work(self):
        planting = new_id()
        self.plan(planting)
        tree = self.plant_out(planting).json()["trees"][1]
        entry = new_id()
        water = {"tree_id": tree, "kind": "water", "happened_at": f"{DAY}T12:00:00+00:00", "device_id": DEVICE,
                 "volume_l": 20.0}  # fmt: skip
        self.assertEqual(self.client.put(f"/api/log/{entry}", json=water).status_code, 201)
        refused = self.undo(planting)
        self.assertEqual(refused.status_code, 409)
        self.assertIn("P-08", refused.json()["detail"])
        void = {"tree_id": tree, "kind": "void", "happened_at": f"{DAY}T12:00:00+00:00", "device_id": DEVICE,
                "voids": entry}  # fmt: skip
        self.client.put(f"/api/log/{new_id()}", json=void)
        self.assertEqual(self.undo(planting).status_code, 200)

    def test_a_tree_that_stood_here_before_stays(self):
        tree = self.put().json()["id"]
        sheet = self.client.get(f"/api/trees/{tree}/planting").json()["figures"]
        planting = new_id()
        body = {"choice": sheet["choice"], "flare_below_top_m": 0.0}
        self.client.put(f"/api/trees/{tree}/planting/{planting}", json=body)
        self.assertFalse(self.client.get(f"/api/plantings/{planting}").json()["undoable"])
        self.assertEqual(self.undo(planting).status_code, 409)

    def test_nothing_half_stored_where_a_tag_is_taken(self):
        self.put(tag="P-09")
        made = self.plan().json()["id"]
        refused = self.plant_out(made)
        self.assertEqual(refused.status_code, 409, refused.text)
        self.assertIsNone(self.client.get(f"/api/plantings/{made}").json()["planted_on"])
        self.assertEqual(self.client.get(f"/api/trees?site_id={self.site_id}").json()["count"], 1)

    def test_what_is_mixed_in_leaves_the_yard_and_the_rest_comes_back(self):
        self.client.put(
            f"/api/yard-moves/{new_id()}", json={"material": "compost", "reason": "counted", "litres": 500}
        )  # fmt: skip
        made = self.plan().json()["id"]
        self.plant_out(made, taken={"compost": 200}, back={"compost": 30})
        yard = {row["material"]: row["litres"] for row in self.client.get("/api/yard").json()}
        self.assertEqual(yard["compost"], 330)

    def test_what_the_backfill_takes_leaves_the_yard_by_itself(self):
        self.client.put(f"/api/yard-moves/{new_id()}", json={"material": "compost", "reason": "counted", "litres": 500})
        made = self.plan().json()
        mixed = made["figures"]["choice"] | {"backfill_school": "third_compost"}
        made = self.plan(made["id"], choice=mixed).json()
        took = made["figures"]["totals"]["compost_l"]
        self.assertGreater(took, 0)
        self.plant_out(made["id"])
        yard = {row["material"]: row["litres"] for row in self.client.get("/api/yard").json()}
        self.assertAlmostEqual(yard["compost"], max(0.0, 500 - took), 3)
        self.undo(made["id"])
        yard = {row["material"]: row["litres"] for row in self.client.get("/api/yard").json()}
        self.assertEqual(yard["compost"], 500)

    def test_what_can_not_be_planted(self):
        choice = self.plan().json()["figures"]["choice"]
        for changed, field in (
            ({"count": 0}, "count"),
            ({"ball_height_m": -0.3}, "ball_height_m"),
            ({"flare_below_top_m": 0.5}, "flare_below_top_m"),
            ({"plant_id": new_id()}, "plant_id"),
            ({"choice": choice | {"width_ratio": 0.9}}, "width_ratio"),
            ({"choice": choice | {"graft_m": 0.0, "depth_school": "level", "raise_m": 0.0}}, "graft_m"),
            ({"choice": choice | {"depth_school": "proud", "raise_m": 0.3}}, "raise_m"),
            ({"choice": choice | {"aids": ["magic"]}}, "choice.aids.0"),
            ({"kind": "bare_root", "choice": choice | {"backfill_school": "coir_sand"}}, "backfill_school"),
        ):
            with self.subTest(field):
                refused = self.plan(**changed)
                self.assertEqual(refused.status_code, 422, refused.text)
                problem = refused.json()
                self.assertIn(field, [problem.get("field"), *(e["field"] for e in problem.get("errors", []))])
        self.assertEqual(len(self.client.get(f"/api/sites/{self.site_id}/plantings").json()), 1)

    def test_looks_that_are_none(self):
        made = self.plan().json()["id"]
        for answer in (
            self.look_at(made, 9, bark="sound"), self.look_at(made, 1, bark="purple"), self.look_at(made, 1, flare=0.4),
        ):  # fmt: skip
            self.assertEqual(answer.status_code, 422, answer.text)
        self.assertEqual(self.plant_out(made, day=(DAY + timedelta(days=1)).isoformat()).status_code, 422)
        for n in range(1, 5):
            self.look_at(made, n, scratch="brown")
        self.assertEqual(self.plant_out(made).status_code, 422)

    def test_called_off_it_is_gone_from_the_list(self):
        made = self.plan().json()["id"]
        self.assertEqual(self.client.post(f"/api/plantings/{made}/withdraw").status_code, 200)
        self.assertEqual(self.client.get(f"/api/sites/{self.site_id}/plantings").json(), [])
        self.assertEqual(self.plant_out(made).status_code, 409)


class OneTree(PlantingTest):
    def test_a_tree_nobody_wrote_down_is_shown_what_its_sheet_says(self):
        tree = self.put().json()["id"]
        page = self.client.get(f"/api/trees/{tree}/planting").json()
        self.assertFalse(page["known"])
        self.assertTrue(page["opens_by_it"])
        self.assertGreater(page["figures"]["hole"]["hole_l"], 0)

    def test_written_down_it_opens_by_what_was_written(self):
        tree = self.put().json()["id"]
        full = self.client.get(f"/api/trees/{tree}/water").json()
        choice = self.client.get(f"/api/trees/{tree}/planting").json()["figures"]["choice"]
        body = {"choice": choice | {"ball_feel": "drying", "backfill_feel": "dry"}, "flare_below_top_m": 0.04}
        planting = new_id()
        for _ in range(2):
            answer = self.client.put(f"/api/trees/{tree}/planting/{planting}", json=body)
            self.assertEqual(answer.status_code, 200, answer.text)
            self.assertTrue(answer.json()["known"])
        drier = self.client.get(f"/api/trees/{tree}/water").json()
        self.assertLess(drier["section"]["ball_available_l"], full["section"]["ball_available_l"])
        self.assertLess(drier["section"]["ring_available_l"], full["section"]["ring_available_l"])
        hole = answer.json()["figures"]["hole"]
        self.assertAlmostEqual(hole["depth_m"] + choice["raise_m"], 0.366)

    def test_a_tree_entered_late_keeps_its_own_opening(self):
        body = tree_body(self.site_id, self.plant, planted_on=(DAY - timedelta(days=30)).isoformat())
        tree = new_id()
        self.client.put(f"/api/trees/{tree}", json=body)
        page = self.client.get(f"/api/trees/{tree}/planting").json()
        self.assertFalse(page["opens_by_it"])
        self.client.put(f"/api/trees/{tree}/planting/{new_id()}", json={"choice": page["figures"]["choice"]})
        self.assertEqual(self.client.get(f"/api/trees/{tree}").json()["opening"], "guessed")


if __name__ == "__main__":
    unittest.main()
