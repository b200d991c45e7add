"""Stock, plants, ways of pouring, lines, salty water, modes and the rain gauge over HTTP."""

import unittest
from datetime import timedelta

from sqlalchemy import delete

from june_shade.plans import clock
from june_shade.store.session import transaction
from june_shade.store.weather_tables import StationDay
from tests.api.test_trees import RegisterTest
from tests.support import DAY, SITE_SHOWN, new_id, tree_body

SITE_OUT = SITE_SHOWN


class Pouring(RegisterTest):
    def put_tree(self, tag="T-1", **changed):
        tree = new_id()
        planted = (DAY - timedelta(days=40)).isoformat()
        body = tree_body(self.site_id, self.plant, tag=tag, planted_on=planted) | changed
        answer = self.client.put(f"/api/trees/{tree}", json=body)
        self.assertEqual(answer.status_code, 200, answer.text)
        return tree

    def grown_tree(self, **changed):
        """A tree whose record reaches back to its planting, 40 days ago."""
        with transaction(self.sessions) as session:
            clock.pin(session, DAY - timedelta(days=40))
        tree = self.put_tree(**changed)
        with transaction(self.sessions) as session:
            clock.pin(session, DAY)
        return tree

    def refused(self, field, **changed):
        answer = self.client.put(f"/api/trees/{new_id()}", json=tree_body(self.site_id, self.plant) | changed)
        self.assertEqual(answer.status_code, 422, answer.text)
        self.assertIn(field, answer.text)

    def sheet(self, tree):
        return self.client.get(f"/api/trees/{tree}/water").json()

    def change_site(self, **changed):
        site = self.client.get("/api/sites").json()[0]
        body = {name: value for name, value in site.items() if name not in SITE_OUT} | changed
        return self.client.put(f"/api/sites/{self.site_id}", json=body)


class Ways(Pouring):
    def test_every_way_of_pouring_makes_a_plan_and_comes_back_as_it_was_typed(self):
        own = {
            "hose": {}, "bucket": {}, "tank": {}, "bag": {},
            "emitters": {"emitter_count": 4, "emitter_flow_l_per_h": 4},
            "soaker": {"soaker_across_m": 0.4, "soaker_flow_l_per_h_m": 6},
            "sprinkler": {"sprinkler_across_m": 1.6, "sprinkler_flow_l_per_h": 50}, "wicked": {"reservoir_l": 60},
        }  # fmt: skip
        for number, (method, values) in enumerate(own.items()):
            tree = self.put_tree(f"M-{number}", method=method, **values)
            sheet = self.sheet(tree)
            self.assertEqual(sheet["tree"]["method"], method)
            for name, value in values.items():
                self.assertEqual(sheet["tree"][name], value)
            self.assertIsNotNone(sheet["next"], method)
            self.assertGreater(sheet["next"]["metric"]["litres"], 0)
            self.assertGreater(sheet["next"]["metric"]["run_min"], 0)

    def test_what_a_way_needs_is_asked_for(self):
        first = {"soaker": "soaker_across_m", "sprinkler": "sprinkler_across_m", "wicked": "reservoir_l"}
        for method, field in first.items():
            self.refused(field, method=method)
        self.refused("soaker_flow_l_per_h_m", method="soaker", soaker_across_m=0.4)
        self.refused("reservoir_l", method="wicked", reservoir_l=-5)

    def test_a_box_tells_how_long_it_lasts(self):
        box = self.sheet(self.put_tree(method="wicked", reservoir_l=60))["reservoir"]
        self.assertEqual(box["holds_l"], 60)
        self.assertEqual(box["has_l"], 0)
        self.assertEqual(box["reserve_days"], 0)

    def test_a_bucket_timed(self):
        self.assertEqual(self.client.get("/api/flow", params={"litres": 20, "seconds": 60}).json(), 1200)
        answer = self.client.get("/api/flow", params={"litres": 20, "seconds": 0})
        self.assertEqual((answer.status_code, answer.json()["field"]), (422, "seconds"))

    def test_a_hose_flow_of_zero(self):
        answer = self.change_site(hose_flow_l_per_h=0)
        self.assertEqual(answer.status_code, 422)
        self.assertIn("hose_flow_l_per_h", answer.text)


class Look(Pouring):
    BALL = {"kind": "balled", "ball_diameter_m": 0.61, "ball_height_m": 0.366}

    def look(self, **values):
        return self.client.post("/api/pour-look", json=self.BALL | {"site_id": str(self.site_id)} | values)

    def test_a_narrow_basin_brings_more_onto_the_ball_in_less_time(self):
        wide, narrow = (self.look(method="hose", basin_diameter_m=d).json() for d in (1.4, 0.7))
        self.assertGreater(narrow["ball_share"], wide["ball_share"])
        self.assertLess(narrow["pour"]["litres"], wide["pour"]["litres"])

    def test_a_way_that_misses_the_ball_is_said(self):
        self.assertTrue(
            self.look(method="sprinkler", sprinkler_across_m=3, sprinkler_flow_l_per_h=60).json()["dry_ball"]
        )
        self.assertFalse(self.look(method="bag").json()["dry_ball"])

    def test_what_is_missing_is_named(self):
        for method in ("emitters", "soaker", "sprinkler"):
            self.assertEqual(self.look(method=method).status_code, 422)


class Lines(Pouring):
    def test_one_line_waters_all_of_its_trees_for_the_neediest(self):
        small = self.put_tree("L-1", line="Valve", method="emitters", emitter_count=2, emitter_flow_l_per_h=4)
        large = self.put_tree("L-2", line="Valve", method="emitters", emitter_count=20, emitter_flow_l_per_h=20)
        sheets = {tag: self.sheet(tree) for tag, tree in (("L-1", small), ("L-2", large))}
        runs = {tag: sheet["line"]["run_min"] for tag, sheet in sheets.items()}
        self.assertEqual(runs["L-1"], runs["L-2"])
        self.assertEqual({s["line"]["neediest_tag"] for s in sheets.values()}, {"L-1"})
        self.assertEqual({s["line"]["trees"] for s in sheets.values()}, {2})
        litres = [sheets[tag]["next"]["metric"]["litres"] for tag in ("L-1", "L-2")]
        self.assertAlmostEqual(litres[1] / litres[0], 400 / 8)
        self.assertIn("line_too_wet", sheets["L-2"]["next"]["flags"])
        self.assertGreater(litres[1], sheets["L-2"]["line"]["wants_l"])
        self.assertIn("line_run", [line["key"] for line in sheets["L-2"]["working"]])

    def test_alone_on_its_line_a_tree_is_watered_as_ever(self):
        one = self.put_tree("L-1", line="Valve", method="emitters", emitter_count=2, emitter_flow_l_per_h=4)
        self.assertIsNone(self.sheet(one)["line"])


class SaltyWater(Pouring):
    def test_it_leaches_and_cautions(self):
        tree = self.put_tree()
        sweet = self.sheet(tree)["next"]["metric"]["litres"]
        self.assertEqual(self.change_site(water_source="reclaimed", water_ec_ds_m=2.0).status_code, 200)
        sheet = self.sheet(tree)
        self.assertGreater(sheet["next"]["metric"]["litres"], sweet)
        self.assertIn("reclaimed", sheet["cautions"])
        self.assertIn("salty", sheet["cautions"])
        self.assertIn("leaching", [line["key"] for line in sheet["working"]])

    def test_beyond_the_tree_it_is_said(self):
        tree = self.put_tree()
        self.change_site(water_source="well", water_ec_ds_m=9.0)
        self.assertIn("salt_beyond", self.sheet(tree)["cautions"])
        self.assertEqual(self.change_site(water_ec_ds_m=-1).status_code, 422)


class Plants(Pouring):
    BODY = {"botanical": "Quercus novum", "common": "New oak", "water_need": "low", "mature_height_m": 15,
            "mature_spread_m": 12}  # fmt: skip

    def test_an_own_kind_goes_in_once_and_is_chosen(self):
        plant = new_id()
        for _ in range(2):
            self.assertEqual(self.client.put(f"/api/plants/{plant}", json=self.BODY).status_code, 200)
        named = [p for p in self.client.get("/api/plants").json() if p["botanical"] == "Quercus novum"]
        self.assertEqual(len(named), 1)
        tree = self.put_tree(plant_id=plant)
        self.assertEqual(self.sheet(tree)["tree"]["plant"]["common"], "New oak")

    def test_leaf_dates_count_in_the_plan(self):
        plant = new_id()
        self.client.put(f"/api/plants/{plant}", json=self.BODY)
        tree = self.grown_tree(plant_id=plant)
        in_leaf = self.sheet(tree)["dryness"]
        body = self.BODY | {"leaf_out": "11-01", "leaf_fall": "05-01"}
        self.assertEqual(self.client.put(f"/api/plants/{plant}", json=body).status_code, 200)
        self.assertLess(self.sheet(tree)["dryness"], in_leaf)

    def test_bad_ones_are_refused(self):
        for changed, field in (
            ({"leaf_out": "04-31", "leaf_fall": "10-01"}, "leaf_out"), ({"leaf_out": "04-20"}, "leaf_fall"),
            ({"botanical": "Acer rubrum"}, "botanical"), ({"water_need": "some"}, "water_need"),
        ):  # fmt: skip
            answer = self.client.put(f"/api/plants/{new_id()}", json=self.BODY | changed)
            self.assertIn(answer.status_code, (409, 422))
            self.assertIn(field, answer.text)

    def test_two_people_edit_one(self):
        plant = new_id()
        first = self.client.put(f"/api/plants/{plant}", json=self.BODY).json()
        self.client.put(f"/api/plants/{plant}", json=self.BODY | {"water_need": "high", "version": first["version"]})
        stale = self.client.put(f"/api/plants/{plant}", json=self.BODY | {"version": first["version"]})
        self.assertEqual((stale.status_code, stale.json()["code"]), (409, "stale"))


class Stock(Pouring):
    def test_a_ball_is_weighed_and_its_lifting_told(self):
        query = {"kind": "balled", "caliper_m": 0.0508, "ball_diameter_m": 0.6096, "ball_height_m": 0.3658}
        found = self.client.get("/api/ball", params=query).json()
        self.assertAlmostEqual(found["volume_l"], 71.2, delta=0.1)
        self.assertEqual(found["lift"], "machine")
        self.assertAlmostEqual(found["least_ball_m"], 0.6096, delta=0.001)
        self.assertEqual(self.client.get("/api/ball", params=query | {"caliper_m": 0}).status_code, 422)

    def test_girth(self):
        self.assertAlmostEqual(self.client.get("/api/caliper", params={"girth_m": 0.16}).json(), 0.0509, delta=0.0001)

    def test_bud_break_from_the_log_brings_the_leaf(self):
        tree = self.grown_tree(kind="bare_root")
        waiting = self.sheet(tree)
        self.assertTrue(waiting["awaits_bud_break"])
        when = (DAY - timedelta(days=20)).isoformat() + "T08:00:00-06:00"
        note = {"tree_id": tree, "kind": "note", "seen": "bud_break", "happened_at": when, "device_id": "d"}
        self.assertEqual(self.client.put(f"/api/log/{new_id()}", json=note).status_code, 201)
        broke = self.sheet(tree)
        self.assertFalse(broke["awaits_bud_break"])
        self.assertGreater(broke["dryness"], waiting["dryness"])


class Modes(Pouring):
    def test_each_saves_water_and_costs_growth(self):
        tree = self.put_tree()
        found = self.client.get(f"/api/sites/{self.site_id}/modes").json()
        self.assertEqual([m["name"] for m in found["modes"]], ["grow", "hold", "survive"])
        for better, worse in zip(found["modes"], found["modes"][1:], strict=False):
            self.assertGreaterEqual(better["poured_l"], worse["poured_l"])
            self.assertGreaterEqual(better["drinks"], worse["drinks"])
            self.assertGreaterEqual(better["roots_m"], worse["roots_m"])
        self.assertEqual(found["tender"], [])
        one = self.client.get(f"/api/sites/{self.site_id}/modes", params={"tree_id": tree}).json()
        self.assertEqual(one["trees"], 1)

    def test_a_site_goes_by_it_and_a_tree_by_its_own(self):
        tree = self.put_tree()
        due = self.sheet(tree)["next"]["day"]
        self.change_site(mode="survive")
        sheet = self.sheet(tree)
        self.assertEqual((sheet["mode"], sheet["dryness_limit"]), ("survive", 0.8))
        self.assertTrue(sheet["next"] is None or sheet["next"]["day"] >= due)
        own = self.put_tree("T-2", mode="grow")
        self.assertEqual(self.sheet(own)["mode"], "grow")

    def test_no_trees_no_comparison(self):
        answer = self.client.get(f"/api/sites/{self.site_id}/modes")
        self.assertEqual((answer.status_code, answer.json()["code"]), (409, "no_weather"))


class Gauge(Pouring):
    def put(self, **readings):
        body = {"readings": [{"day": day, "rain_mm": rain} for day, rain in readings.items()]}
        return self.client.put(f"/api/sites/{self.site_id}/gauge", json=body)

    def test_it_counts_in_place_of_the_stations_rain(self):
        tree = self.grown_tree()
        yesterday = (DAY - timedelta(days=1)).isoformat()
        dry = self.sheet(tree)["dryness"]
        rows = self.put(**{yesterday: 30.0}).json()
        self.assertEqual(rows[1], {"day": yesterday, "gauge_mm": 30.0, "station_mm": 0.0})
        self.assertLess(self.sheet(tree)["dryness"], dry)
        self.put(**{yesterday: None})
        self.assertAlmostEqual(self.sheet(tree)["dryness"], dry)

    def test_it_counts_on_days_that_the_station_did_not_measure(self):
        with transaction(self.sessions) as session:
            session.execute(delete(StationDay).where(StationDay.day == DAY - timedelta(days=3)))
        tree = self.grown_tree()
        dry = self.sheet(tree)["dryness"]
        self.put(**{(DAY - timedelta(days=3)).isoformat(): 30.0})
        self.assertLess(self.sheet(tree)["dryness"], dry)

    def test_what_can_not_be(self):
        self.assertEqual(self.put(**{(DAY + timedelta(days=1)).isoformat(): 5.0}).json()["field"], "day")
        self.assertEqual(self.put(**{DAY.isoformat(): -1.0}).status_code, 422)
        self.assertEqual(self.client.put(f"/api/sites/{new_id()}/gauge", json={"readings": []}).status_code, 422)


if __name__ == "__main__":
    unittest.main()
