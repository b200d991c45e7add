"""Trees and sites over HTTP: kept once, refused by name, doubted but kept, planned, searched."""

import unittest
from datetime import timedelta

from june_shade.store.session import transaction
from tests.support import DAY, client, new_id, plant_id, small_site, tree_body


class RegisterTest(unittest.TestCase):
    def setUp(self):
        self.client = self.enterContext(client())
        self.sessions = self.client.app.state.sessions
        with transaction(self.sessions) as session:
            site = small_site(session)
            self.site_id, self.station_id, self.plant = site.id, site.station_id, plant_id(session)

    def put(self, tree_id=None, **changed):
        body = tree_body(self.site_id, self.plant, **changed)
        return self.client.put(f"/api/trees/{tree_id or new_id()}", json=body)

    def count(self):
        return self.client.get("/api/trees").json()["count"]


class Trees(RegisterTest):
    def test_sending_it_twice_makes_one_tree(self):
        tree = new_id()
        first, second = self.put(tree), self.put(tree)
        self.assertEqual((first.status_code, second.status_code), (200, 200))
        self.assertEqual(first.json(), second.json())
        self.assertEqual(self.count(), 1)

    def test_what_is_stored_is_what_was_typed(self):
        typed = {
            "place": "7th from the hydrant, east side", "stop": "Gate", "note_for_crew": "Gate code at the office",
            "crown_diameter_m": 1.4, "microclimate": 1.2,
            "surround": "turf", "method": "bag", "mulch_material": "wood_chips", "mulch_depth_m": 0.06,
            "mulch_outer_radius_m": 0.7, "ball_volume_l": 70.0,
        }  # fmt: skip
        stored = self.put(**typed).json()
        for name, value in typed.items():
            self.assertEqual(stored[name], value, name)
        self.assertEqual(self.client.get(f"/api/trees/{stored['id']}").json(), stored)

    def test_the_impossible_is_refused_by_name_and_nothing_is_stored(self):
        for changed, field in (
            ({"ball_diameter_m": -0.6}, "ball_diameter_m"),
            ({"caliper_m": "two inches"}, "caliper_m"),
            ({"caliper_m": 0}, "caliper_m"),
            ({"planted_on": "1949-05-01"}, "planted_on"),
            ({"planted_on": (DAY + timedelta(days=1)).isoformat()}, "planted_on"),
            ({"planted_on": "last spring"}, "planted_on"),
            ({"kind": "boxed"}, "kind"),
            ({"tag": "  "}, "tag"),
            ({"method": "emitters"}, "emitter_count"),
            ({"mulch_material": "bark"}, "mulch_outer_radius_m"),
            ({"ball_volume_l": 5000.0}, "tree.ball_volume_l"),
            ({"plant_id": new_id()}, "plant_id"),
            ({"site_id": new_id()}, "site_id"),
            ({"colour": "green"}, "colour"),
            ({"feel": {"ball": "crunchy", "ring": "dry"}}, "feel.ball"),
        ):
            with self.subTest(changed):
                answer = self.put(**changed)
                self.assertIn(answer.status_code, (404, 422), answer.text)
                self.assertEqual(answer.json()["field"], field, answer.text)
                self.assertEqual(answer.headers["content-type"], "application/problem+json")
        self.assertEqual(self.count(), 0)
        self.assertEqual(self.client.get("/api/sites").json()[0]["stops"], [], "not even its stop")

    def test_the_unlikely_is_kept_with_a_visible_doubt(self):
        # a 5 cm tree in a 4 L pot
        stored = self.put(kind="container", ball_diameter_m=0.18, ball_height_m=0.18, basin_diameter_m=None).json()
        self.assertIn("ball_small", stored["doubts"])
        sheet = self.client.get(f"/api/trees/{stored['id']}/water").json()
        self.assertIn("ball_small", sheet["tree"]["doubts"])
        self.assertIn("once_is_not_enough", sheet["next"]["flags"])

    def test_a_tag_is_once_in_its_site(self):
        self.put()
        answer = self.put()
        self.assertEqual((answer.status_code, answer.json()["field"]), (409, "tag"))

    def test_how_the_record_opens(self):
        today = self.put(tag="new").json()
        self.assertEqual((today["opening"], today["opened_on"]), ("full", DAY.isoformat()))
        older = self.put(tag="old", planted_on="2026-05-01").json()
        self.assertEqual((older["opening"], older["opened_on"]), ("guessed", DAY.isoformat()))
        felt = self.put(tag="felt", planted_on="2026-05-01", feel={"ball": "dry", "ring": "moist"}).json()
        self.assertEqual(felt["opening"], "reading")
        sheets = {t["tag"]: self.client.get(f"/api/trees/{t['id']}/water").json() for t in (today, older, felt)}
        self.assertTrue(sheets["old"]["guessed"])
        self.assertFalse(sheets["felt"]["guessed"])
        self.assertLess(sheets["new"]["dryness"], sheets["old"]["dryness"])
        self.assertLess(sheets["old"]["dryness"], sheets["felt"]["dryness"])
        self.assertGreater(sheets["old"]["section"]["root_radius_m"], sheets["new"]["section"]["root_radius_m"])

    def test_a_reading_given_later_opens_the_record_anew(self):
        tree = self.put(planted_on="2026-05-01").json()
        body = tree_body(self.site_id, self.plant, planted_on="2026-05-01", feel={"ball": "wet", "ring": "wet"})
        changed = self.client.put(f"/api/trees/{tree['id']}", json=body).json()
        self.assertEqual(changed["opening"], "reading")
        self.assertAlmostEqual(self.client.get(f"/api/trees/{tree['id']}/water").json()["dryness"], 0.0, delta=0.01)

    def test_a_tree_stays_in_its_site(self):
        tree = self.put().json()
        with transaction(self.sessions) as session:
            other = small_site(session).id
        answer = self.client.put(f"/api/trees/{tree['id']}", json=tree_body(other, self.plant))
        self.assertEqual((answer.status_code, answer.json()["field"]), (422, "site_id"))

    def test_search_finds_by_tag_place_species_and_stop(self):
        self.put(tag="HL-01", place="7th from the hydrant", stop="Gate")
        self.put(tag="HL-02", place="by the 100% shade wall", stop="Bus loop")
        find = lambda q: [t["tag"] for t in self.client.get("/api/trees", params={"q": q}).json()["trees"]]  # noqa: E731
        self.assertEqual(find("hydrant"), ["HL-01"])
        self.assertEqual(find("hl-02"), ["HL-02"])
        self.assertEqual(find("loop oak"), ["HL-02"])
        self.assertEqual(find("100%"), ["HL-02"])
        self.assertEqual(find("%"), ["HL-02"], "a percent sign is a percent sign")
        self.assertEqual(find("nothing like it"), [])
        self.assertEqual(len(find("")), 2)
        called = {"q": "roble", "called": ["Bur oak"]}
        self.assertEqual(len(self.client.get("/api/trees", params=called).json()["trees"]), 2, "in another language")

    def test_what_is_not_there_is_404(self):
        for path in (f"/api/trees/{new_id()}", f"/api/trees/{new_id()}/water", f"/api/trees/{new_id()}/log"):
            answer = self.client.get(path)
            self.assertEqual((answer.status_code, answer.json()["code"]), (404, "not_found"), path)
        self.assertEqual(self.client.get("/api/trees/not-an-id").status_code, 404)


class Sheet(RegisterTest):
    def test_every_figure_of_the_visit_has_its_working(self):
        tree = self.put(planted_on="2026-06-10", feel={"ball": "dry", "ring": "drying"}).json()
        sheet = self.client.get(f"/api/trees/{tree['id']}/water").json()
        lines = {line["key"]: line for line in sheet["working"]}
        self.assertEqual(lines["pour"]["value"], sheet["next"]["metric"]["litres"])
        self.assertAlmostEqual(lines["minutes"]["value"], sheet["next"]["metric"]["run_min"])
        for line in lines.values():
            self.assertTrue(line["formula"] and line["source"], line)
        inputs = {i["symbol"]: i["value"] for i in lines["gross"]["inputs"]}
        self.assertAlmostEqual((inputs["N"] + inputs["mulch wetting"]) / inputs["efficiency"], lines["gross"]["value"])
        inputs = {i["symbol"]: i["value"] for i in lines["ball_volume"]["inputs"]}
        by_hand = 1000 * inputs["k"] * 3.141592653589793 * inputs["r_b"] ** 2 * inputs["h_b"]
        self.assertAlmostEqual(by_hand, lines["ball_volume"]["value"])
        inputs = {i["symbol"]: i["value"] for i in lines["minutes"]["inputs"]}
        self.assertAlmostEqual(60 * inputs["litres"] / inputs["flow"], lines["minutes"]["value"])

    def test_litres_and_half_gallons_each_cover_what_is_wanted(self):
        tree = self.put(planted_on="2026-06-10").json()
        sheet = self.client.get(f"/api/trees/{tree['id']}/water").json()
        gross = next(line["value"] for line in sheet["working"] if line["key"] == "gross")
        for system, step in (("metric", 1.0), ("us", 3.785411784 / 2)):
            litres = sheet["next"][system]["litres"]
            self.assertGreaterEqual(litres, gross - 1e-9)
            self.assertLess(litres, gross + step)
            self.assertAlmostEqual(litres / step, round(litres / step))

    def test_the_chart_runs_thirty_days_back_and_as_far_ahead_as_is_known(self):
        tree = self.put(planted_on="2026-05-01").json()
        chart = self.client.get(f"/api/trees/{tree['id']}/water").json()["chart"]
        self.assertEqual(chart[0]["day"], (DAY - timedelta(days=30)).isoformat())
        self.assertIsNone(chart[0]["dryness"], "nothing before the record opens")
        ahead = [d for d in chart if d["day"] >= DAY.isoformat()]
        self.assertTrue(all(d["dryness"] is not None for d in ahead))

    def test_measures_change_the_plan_at_once(self):
        tree = self.put(planted_on="2026-06-10").json()
        before = self.client.get(f"/api/trees/{tree['id']}/water").json()
        self.put(tree["id"], planted_on="2026-06-10", crown_diameter_m=3.5)
        after = self.client.get(f"/api/trees/{tree['id']}/water").json()
        self.assertLessEqual(after["next"]["day"], before["next"]["day"])
        demand = [next(w["value"] for w in s["working"] if w["key"] == "demand") for s in (before, after)]
        self.assertGreater(demand[1], demand[0])

    def test_mulch_says_what_to_bring(self):
        tree = self.put(mulch_material="wood_chips", mulch_depth_m=0.02, mulch_outer_radius_m=0.9).json()
        sheet = self.client.get(f"/api/trees/{tree['id']}/mulch").json()
        self.assertTrue(sheet["has_ring"])
        self.assertGreater(sheet["laid"]["missing_loose_l"], sheet["laid"]["missing_settled_l"])
        self.assertIn("too_shallow", [f["code"] for f in sheet["findings"]])
        bare = self.put(tag="bare").json()
        planned = self.client.get(f"/api/trees/{bare['id']}/mulch").json()
        self.assertFalse(planned["has_ring"])
        self.assertGreater(planned["laid"]["missing_loose_l"], 0)


class Sites(RegisterTest):
    def body(self, **changed):
        return {
            "name": "Rail trail", "timezone": "America/Denver", "latitude_deg": 40.0, "longitude_deg": -105.0,
            "elevation_m": 1500, "texture": "clay", "hose_flow_l_per_h": 400, "station_id": str(self.station_id),
        } | changed  # fmt: skip

    def test_make_and_change(self):
        made = self.client.post("/api/sites", json=self.body())
        self.assertEqual(made.status_code, 201)
        changed = self.client.put(f"/api/sites/{made.json()['id']}", json=self.body(texture="sand"))
        self.assertEqual(changed.json()["soil"]["texture"], "sand")
        self.assertGreater(changed.json()["soil"]["drain_share"], made.json()["soil"]["drain_share"])

    def test_the_impossible_is_refused_by_name(self):
        for changed, field in (
            ({"timezone": "Mars/Olympus"}, "timezone"),
            ({"latitude_deg": 140}, "latitude_deg"),
            ({"texture": "gumbo"}, "texture"),
            ({"hose_flow_l_per_h": 0}, "hose_flow_l_per_h"),
            ({"station_id": new_id()}, "station_id"),
            ({"root_depth_max_m": 0.01}, "root_depth_max_m"),
        ):
            with self.subTest(field):
                answer = self.client.post("/api/sites", json=self.body(**changed))
                self.assertEqual((answer.status_code, answer.json()["field"]), (422, field))

    def test_a_name_is_there_once(self):
        self.client.post("/api/sites", json=self.body())
        self.assertEqual(self.client.post("/api/sites", json=self.body()).json()["field"], "name")

    def test_soil_changes_the_plan(self):
        tree = self.put(planted_on="2026-05-01", feel={"ball": "moist", "ring": "moist"}).json()
        site = next(s for s in self.client.get("/api/sites").json() if s["id"] == str(self.site_id))
        body = {k: site[k] for k in self.body() if k in site} | {"texture": "sand"}
        before = self.client.get(f"/api/trees/{tree['id']}/water").json()
        self.assertEqual(self.client.put(f"/api/sites/{self.site_id}", json=body).status_code, 200)
        after = self.client.get(f"/api/trees/{tree['id']}/water").json()
        self.assertLess(after["section"]["ring_holds_l"], before["section"]["ring_holds_l"])

    def test_slow_ground_says_why_it_is_not_drowned(self):
        tree = self.put(planted_on="2026-06-01").json()["id"]
        drowns = lambda: self.client.get(f"/api/trees/{tree}/water").json()["book"]["can_drown"]  # noqa: E731
        self.assertFalse(drowns())
        sheet = self.client.get(f"/api/trees/{tree}/planting").json()["figures"]["choice"]
        deep = {"choice": sheet | {"depth_school": "sunken", "raise_m": -0.05}, "flare_below_top_m": 0.0}
        self.assertEqual(self.client.put(f"/api/trees/{tree}/planting/{new_id()}", json=deep).status_code, 200)
        self.assertTrue(drowns())
        other = self.put(tag="clay", planted_on="2026-06-01").json()["id"]
        site = next(s for s in self.client.get("/api/sites").json() if s["id"] == str(self.site_id))
        clay = {k: site[k] for k in self.body() if k in site} | {"texture": "clay"}
        self.assertEqual(self.client.put(f"/api/sites/{self.site_id}", json=clay).status_code, 200)
        self.assertTrue(self.client.get(f"/api/trees/{other}/water").json()["book"]["can_drown"])

    def test_a_site_without_a_station_says_so_and_the_rest_goes_on(self):
        site = self.client.post("/api/sites", json=self.body(station_id=None)).json()
        answer = self.client.put(f"/api/trees/{new_id()}", json=tree_body(site["id"], self.plant, tag="lost"))
        sheet = self.client.get(f"/api/trees/{answer.json()['id']}/water")
        self.assertEqual((sheet.status_code, sheet.json()["code"]), (409, "no_weather"))
        self.put(tag="found")
        listed = {t["tag"]: t for t in self.client.get("/api/trees").json()["trees"]}
        self.assertIsNone(listed["lost"]["dryness"])
        self.assertIsNotNone(listed["found"]["dryness"])
        problems = [s["problem"] for s in self.client.get("/api/today").json()["sites"]]
        self.assertEqual(sum(p is not None for p in problems), 1)
        self.assertEqual(self.client.get(f"/api/trees/{answer.json()['id']}/mulch").status_code, 200)


class Application(RegisterTest):
    def test_openapi_describes_every_field_with_its_unit(self):
        described = self.client.get("/api/openapi.json").json()
        tree = described["components"]["schemas"]["TreeIn"]["properties"]
        self.assertIn("[m]", tree["caliper_m"]["description"])
        self.assertEqual(tree["caliper_m"]["unit"], "m")
        for path, verbs in described["paths"].items():
            for verb, operation in verbs.items():
                self.assertTrue(operation.get("description"), f"{verb} {path}")
        for name, schema in described["components"]["schemas"].items():
            for field, shape in schema.get("properties", {}).items():
                unit = next((u for u in ("_m", "_l", "_mm", "_min", "_c", "_l_per_h") if field.endswith(u)), None)
                if unit and shape.get("type") == "number":
                    self.assertTrue("unit" in shape, f"{name}.{field}")

    def test_unknown_paths(self):
        self.assertEqual(self.client.get("/api/nothing").status_code, 404)
        self.assertEqual(self.client.get("/api/nothing").json()["code"], "not_found")
        self.assertEqual(self.client.get("/missing.js").status_code, 404)
        page = self.client.get("/trees/some/deep/link")
        self.assertEqual((page.status_code, page.headers["cache-control"]), (200, "no-cache"))
        self.assertEqual(self.client.get("/..%2f..%2fpyproject.toml").status_code, 404)

    def test_an_unforeseen_error_shows_a_number_and_not_itself(self):
        from unittest import mock

        with mock.patch("june_shade.plans.register.tree", side_effect=RuntimeError("secret detail")):
            answer = self.client.get(f"/api/trees/{new_id()}")
        self.assertEqual((answer.status_code, answer.json()["code"]), (500, "unforeseen"))
        self.assertNotIn("secret", answer.text)

    def test_a_database_that_is_gone_is_said(self):
        from fastapi.testclient import TestClient

        from june_shade.api.app import create_app
        from june_shade.settings import Settings

        dead = TestClient(
            create_app(Settings(database_url="postgresql://june@127.0.0.1:1/none")),
            "http://127.0.0.1",
            raise_server_exceptions=False,
        )
        answer = dead.get("/api/sites")
        self.assertEqual((answer.status_code, answer.json()["code"]), (503, "database_unavailable"))


if __name__ == "__main__":
    unittest.main()
