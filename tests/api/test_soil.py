"""Soil tests over HTTP: what they say, what they would change, kept once, used, withdrawn."""

import unittest
from datetime import timedelta

from tests.api.test_trees import RegisterTest
from tests.support import DAY, new_id, tree_body, water_body

JAR = {"kind": "jar", "sand_top_m": 0.033, "silt_top_m": 0.066, "clay_top_m": 0.10}
HOLE = {"kind": "drain_hole", "first_depth_m": 0.30, "last_depth_m": 0.29, "minutes": 60}


class SoilOverHttp(RegisterTest):
    def setUp(self):
        super().setUp()
        tree = new_id()
        body = tree_body(self.site_id, self.plant, planted_on=(DAY - timedelta(days=50)).isoformat())
        self.assertEqual(self.client.put(f"/api/trees/{tree}", json=body).status_code, 200)
        self.tree = tree

    def body(self, reading, **changed):
        return {"day": DAY.isoformat(), "place": "by the gate", "reading": reading} | changed

    def preview(self, reading, **changed):
        return self.client.post(f"/api/sites/{self.site_id}/soil-tests/preview", json=self.body(reading, **changed))

    def put(self, reading, test_id=None, **changed):
        return self.client.put(
            f"/api/sites/{self.site_id}/soil-tests/{test_id or new_id()}", json=self.body(reading, **changed)
        )

    def page(self):
        return self.client.get(f"/api/sites/{self.site_id}/soil").json()

    def texture(self):
        return self.page()["in_force"]["soil"]["texture"]

    def test_a_preview_tells_what_it_would_do_and_stores_nothing(self):
        said = self.preview(JAR).json()
        self.assertEqual(said["outcome"]["texture"], "clay_loam")
        self.assertEqual(said["after"]["soil"]["texture"], "clay_loam")
        self.assertEqual(said["change"]["trees"], 1)
        self.assertEqual(self.texture(), "loam")
        self.assertEqual(self.page()["tests"], [])

    def test_a_preview_tells_what_using_it_then_does(self):
        said = self.preview(HOLE).json()
        self.put(HOLE, used=True)
        sheet = self.client.get(f"/api/trees/{self.tree}/water").json()
        told = said["change"]["most"][0]["after"] if said["change"]["changed"] else None
        if told:
            self.assertEqual(told["day"], sheet["next"]["day"])
            self.assertEqual(told["metric_l"], sheet["next"]["metric"]["litres"])
        self.assertEqual(self.page()["in_force"], said["after"])

    def test_used_it_is_in_force_kept_only_it_is_not(self):
        self.put(JAR)
        self.assertEqual(self.texture(), "loam")
        self.put(JAR, used=True)
        page = self.page()
        self.assertEqual(page["in_force"]["soil"]["texture"], "clay_loam")
        self.assertEqual(page["in_force"]["origin"]["texture"], {"kind": "jar", "day": DAY.isoformat()})
        self.assertEqual(self.client.get("/api/sites").json()[0]["soil"]["texture"], "clay_loam")
        self.assertEqual(len(page["tests"]), 2)

    def test_sent_twice_it_is_one_and_an_id_is_never_another_test(self):
        test_id = new_id()
        self.assertEqual(self.put(JAR, test_id, used=True).json(), self.put(JAR, test_id, used=True).json())
        self.assertEqual(len(self.page()["tests"]), 1)
        self.assertEqual(self.put(HOLE, test_id).status_code, 409)

    def test_withdrawn_it_stays_in_the_record_and_out_of_force(self):
        test_id = new_id()
        self.put(JAR, test_id, used=True)
        for _ in range(2):
            page = self.client.post(f"/api/soil-tests/{test_id}/withdraw").json()
        self.assertEqual(page["in_force"]["soil"]["texture"], "loam")
        self.assertIsNotNone(page["tests"][0]["withdrawn_at"])
        self.assertEqual(self.client.post(f"/api/soil-tests/{new_id()}/withdraw").status_code, 404)

    def test_bad_readings_name_the_field_and_leave_nothing(self):
        lab = {"kind": "percentages", "sand_percent": 60, "silt_percent": 40, "clay_percent": 20}
        for reading, field in (
            (lab, "sand_percent"), (JAR | {"silt_top_m": 0.01}, "silt_top_m"), (HOLE | {"minutes": 0}, "minutes"),
            (JAR | {"shaken_at": "2026-07-14T08:00:00Z", "silt_at": "2026-07-14T07:00:00Z"}, "silt_at"),
            (HOLE | {"last_depth_m": 0.4}, "last_depth_m"), ({"kind": "taste"}, "reading"),
        ):  # fmt: skip
            for send in (self.preview, self.put):
                answer = send(reading)
                self.assertEqual(answer.status_code, 422, reading)
                said = answer.json()
                fields = {said.get("field")} | {e["field"] for e in said.get("errors", [])}
                self.assertTrue(any(f and f.split(".")[-1] == field for f in fields), (reading, fields))
        self.assertEqual(self.page()["tests"], [])

    def test_days_to_come_and_tests_that_tell_only_a_day(self):
        late = (DAY + timedelta(days=1)).isoformat()
        self.assertEqual(self.put(HOLE, day=late).json()["field"], "day")
        crumble = {"kind": "crumble", "found": "sticky"}
        self.assertEqual(self.put(crumble, used=True).json()["field"], "used")
        kept = self.put(crumble).json()
        self.assertEqual(kept["tests"][0]["outcome"]["codes"], ["wait"])
        self.assertEqual(kept["dry_on"], late)

    def test_a_plan_made_before_is_made_anew(self):
        self.client.put(f"/api/log/{new_id()}", json=water_body(self.tree, 20.0))
        before = self.client.get(f"/api/trees/{self.tree}/water").json()
        self.put({"kind": "hardpan", "depth_m": 0.4}, used=True)
        after = self.client.get(f"/api/trees/{self.tree}/water").json()
        self.assertLess(after["section"]["ring_holds_l"], before["section"]["ring_holds_l"])


if __name__ == "__main__":
    unittest.main()
