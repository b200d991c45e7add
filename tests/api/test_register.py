"""The register at work: many trees at once, stale writes, files in and out, order, filters and sorts."""

import csv
import io
import unittest
from datetime import timedelta

from june_shade.formats import trees_csv
from june_shade.plans import changes
from june_shade.store.session import transaction
from tests.api.test_trees import RegisterTest
from tests.support import DAY, SITE_SHOWN, bring, client, new_id, plant_id, small_site, tree_body, water_body


class Many(RegisterTest):
    def row(self, count=40):
        return [
            tree_body(self.site_id, self.plant, tag=f"R-{i + 1:02d}", row_place=i, stop="Long row") | {"id": new_id()}
            for i in range(count)
        ]

    def put_all(self, trees):
        return self.client.put("/api/trees", json={"trees": trees})

    def test_a_row_of_forty_goes_in_at_once_and_once(self):
        row = self.row()
        self.assertEqual(self.put_all(row).status_code, 200)
        self.assertEqual(self.put_all(row).status_code, 200)
        self.assertEqual(self.count(), 40)
        self.assertEqual([s["name"] for s in self.client.get("/api/sites").json()[0]["stops"]], ["Long row"])

    def test_all_or_none_and_the_fault_is_named(self):
        row = self.row(5)
        row[3]["tag"] = "R-01"
        answer = self.put_all(row)
        self.assertEqual((answer.status_code, answer.json()["field"]), (409, "trees[3].tag"))
        self.assertEqual(self.count(), 0)
        self.assertEqual(self.client.get("/api/sites").json()[0]["stops"], [])
        row[3]["tag"], row[2]["caliper_m"] = "R-04", -1
        self.assertEqual(self.put_all(row).json()["field"], "trees.2.caliper_m")

    def test_tags_may_change_places_in_one_go(self):
        row = self.row(2)
        self.put_all(row)
        row[0]["tag"], row[1]["tag"] = "R-99", "R-01"
        self.assertEqual(self.put_all(row).status_code, 200)


class RowsAndMany(RegisterTest):
    def send_row(self, row_id, **changed):
        first = tree_body(self.site_id, self.plant, tag="R-08", place="{nth} from the hydrant", stop="Long row")
        body = {"first": first | {"latitude_deg": 40.0, "longitude_deg": -105.0}, "count": 40, "spacing_m": 8.0}
        return self.client.put(f"/api/tree-rows/{row_id}", json=body | {"bearing_deg": 90} | changed)

    def test_a_row_counts_on_and_is_there_once(self):
        row = new_id()
        self.assertEqual(self.send_row(row).json(), self.send_row(row).json())
        trees = self.client.get("/api/trees", params={"sort": "tag"}).json()["trees"]
        self.assertEqual(len(trees), 40)
        self.assertEqual((trees[0]["tag"], trees[-1]["tag"]), ("R-08", "R-47"))
        self.assertEqual(trees[-1]["place"], "40th from the hydrant")
        last = self.client.get(f"/api/trees/{trees[-1]['id']}").json()
        self.assertGreater(last["longitude_deg"], -105.0)
        self.assertAlmostEqual(last["latitude_deg"], 40.0)

    def test_a_row_that_meets_a_tag_is_refused_whole(self):
        self.put(tag="R-20")
        answer = self.send_row(new_id())
        self.assertEqual((answer.status_code, answer.json()["field"]), (409, "trees[12].tag"))
        self.assertEqual(self.count(), 1)

    def test_one_change_on_many(self):
        ids = self.send_row(new_id(), count=5).json()
        changes = {"method": "bag", "basin_diameter_m": None, "stop": "Other end"}
        answer = self.client.post("/api/trees/same", json={"trees": ids, "set": changes})
        self.assertEqual(answer.status_code, 200, answer.text)
        for tree_id in ids:
            tree = self.client.get(f"/api/trees/{tree_id}").json()
            self.assertEqual((tree["method"], tree["basin_diameter_m"], tree["stop"]), ("bag", None, "Other end"))
            self.assertEqual(tree["caliper_m"], 0.0508, "the rest stays")
        bad = self.client.post("/api/trees/same", json={"trees": ids, "set": {"method": "emitters"}})
        self.assertEqual((bad.status_code, bad.json()["field"]), (422, "emitter_count"))
        lost = self.client.post("/api/trees/same", json={"trees": [*ids, new_id()], "set": {"method": "hose"}})
        self.assertEqual(lost.status_code, 404)
        self.assertEqual(self.client.get(f"/api/trees/{ids[0]}").json()["method"], "bag", "all or none")


class Stale(RegisterTest):
    def test_a_write_on_an_older_version_is_refused_with_both_values(self):
        tree = self.put().json()
        body = tree_body(self.site_id, self.plant) | {"version": tree["version"]}
        other = self.client.put(f"/api/trees/{tree['id']}", json=body | {"caliper_m": 0.06, "stop": "Gate"})
        self.assertEqual(other.status_code, 200)
        late = self.client.put(f"/api/trees/{tree['id']}", json=body | {"caliper_m": 0.07})
        self.assertEqual((late.status_code, late.json()["code"]), (409, "stale"))
        found = {d["field"]: (d["sent"], d["stored"]) for d in late.json()["differences"]}
        self.assertEqual(found["caliper_m"], (0.07, 0.06))
        self.assertEqual(found["stop"], (None, "Gate"))
        self.assertEqual(self.client.get(f"/api/trees/{tree['id']}").json()["caliper_m"], 0.06)
        again = self.client.put(
            f"/api/trees/{tree['id']}", json=body | {"caliper_m": 0.07, "version": late.json()["version"]}
        )
        self.assertEqual((again.status_code, again.json()["caliper_m"]), (200, 0.07))

    def test_the_same_write_sent_again_is_no_conflict(self):
        tree = self.put().json()
        body = tree_body(self.site_id, self.plant, caliper_m=0.06) | {"version": tree["version"]}
        path = f"/api/trees/{tree['id']}"
        first, second = self.client.put(path, json=body), self.client.put(path, json=body)
        self.assertEqual((first.status_code, second.status_code), (200, 200))
        self.assertEqual(first.json()["version"], second.json()["version"])

    def test_sites_and_stations_too(self):
        site = self.client.get("/api/sites").json()[0]
        drop = SITE_SHOWN
        body = {k: v for k, v in site.items() if k not in drop}
        path = f"/api/sites/{site['id']}"
        self.assertEqual(self.client.put(path, json=body | {"texture": "sand"}).status_code, 200)
        self.assertEqual(self.client.put(path, json=body | {"texture": "clay"}).json()["code"], "stale")
        station = self.client.get("/api/stations").json()[0]
        keys = ("name", "latitude_deg", "longitude_deg", "elevation_m", "wind_height_m", "monthly_eto_mm", "version")
        body = {k: station[k] for k in keys}
        path = f"/api/stations/{station['id']}"
        self.assertEqual(self.client.put(path, json=body | {"wind_height_m": 10}).status_code, 200)
        self.assertEqual(self.client.put(path, json=body | {"wind_height_m": 3}).status_code, 409)


class Files(RegisterTest):
    def send(self, text, *, accept=False):
        return bring(self.client, text, store=accept)

    def export(self):
        return self.client.get("/api/trees.csv").text

    def fill(self):
        self.put(tag="A", place="1st, by the gate", stop="Gate", line="Valve 2", crown_diameter_m=1.234567890123)
        self.put(tag="B", mulch_material="bark", mulch_depth_m=0.1, mulch_outer_radius_m=1 / 3, surround="turf")
        self.put(tag="C", method="emitters", emitter_count=4, emitter_flow_l_per_h=3.785411784, latitude_deg=40.1)

    def test_a_round_trip_loses_nothing_and_changes_nothing(self):
        self.fill()
        before, text = self.client.get("/api/trees").json(), self.export()
        found = self.send(text, accept=True)["trees"]
        self.assertEqual((found["new"], found["changed"], found["same"], found["refused_count"]), (0, 0, 3, 0))
        self.assertEqual(self.client.get("/api/trees").json(), before)
        self.assertEqual(self.export(), text)

    def test_brought_into_an_empty_program_it_makes_the_same_trees(self):
        self.fill()
        rows = list(csv.DictReader(io.StringIO(self.export())))
        with self.enterContext(client()) as other, transaction(other.app.state.sessions) as session:
            site = small_site(session)
            name = site.name
        out = io.StringIO()
        writer = csv.DictWriter(out, trees_csv.FIELDS, lineterminator="\n")
        writer.writeheader()
        writer.writerows(row | {"site": name} for row in rows)
        found = bring(other, out.getvalue(), store=True)["trees"]
        self.assertEqual((found["new"], found["refused_count"]), (3, 0), found)
        again = list(csv.DictReader(io.StringIO(other.get("/api/trees.csv").text)))
        self.assertEqual([r | {"site": ""} for r in again], [r | {"site": ""} for r in rows])

    def test_what_would_happen_is_told_and_nothing_is_stored(self):
        self.fill()
        rows = list(csv.reader(io.StringIO(self.export())))
        head, tag, caliper = rows[0], rows[0].index("tag"), rows[0].index("caliper_m")
        rows[1][caliper] = "0.06"
        fresh = [*rows[2]]
        fresh[head.index("id")], fresh[tag] = "", "D"
        bad = [*fresh]
        bad[tag], bad[caliper] = "E", "-2"
        taken = [*fresh]
        taken[tag] = "C"
        out = io.StringIO()
        csv.writer(out).writerows([*rows, fresh, bad, taken])
        found = self.send(out.getvalue())["trees"]
        self.assertEqual((found["new"], found["changed"], found["same"]), (1, 1, 2))
        self.assertEqual(found["changes"], [{"line": 2, "tag": "A", "fields": ["caliper_m"]}])
        self.assertEqual([(r["line"], r["column"]) for r in found["refused"]], [(6, "caliper_m"), (7, "tag")])
        self.assertEqual(self.count(), 3)
        self.assertEqual(self.send(out.getvalue(), accept=True)["trees"]["new"], 1)
        self.assertEqual(self.count(), 4)

    def test_many_changed_at_once_are_stored_like_one(self):
        """Forty trees are written in a few statements, three in a statement each: the same is stored."""
        trees = [
            tree_body(self.site_id, self.plant, tag=f"M-{i:02d}", mulch_material="bark", mulch_depth_m=0.05,
                      mulch_outer_radius_m=0.6) | {"id": new_id()}
            for i in range(40)
        ]  # fmt: skip
        self.client.put("/api/trees", json={"trees": trees})
        before = {t["tag"]: self.client.get(f"/api/trees/{t['id']}").json() for t in trees[:4]}
        rows = list(csv.DictReader(io.StringIO(self.export())))
        for row in rows:
            row |= {"place": f"near {row['tag']}", "stop": "New stop", "caliper_m": "0.055", "side": ""}
        for few in (rows[:3], rows):
            out = io.StringIO()
            writer = csv.DictWriter(out, trees_csv.FIELDS, lineterminator="\n")
            writer.writeheader()
            writer.writerows(few)
            self.assertEqual(self.send(out.getvalue(), accept=True)["trees"]["refused_count"], 0)
        after = [self.client.get(f"/api/trees/{t['id']}").json() for t in trees[:4]]
        left = ("place", "stop", "stop_id", "caliper_m", "version", "doubts")
        for tree in after:
            was = before[tree["tag"]]
            self.assertEqual(
                (tree["place"], tree["stop"], tree["caliper_m"]), (f"near {tree['tag']}", "New stop", 0.055)
            )
            self.assertEqual(tree["version"], was["version"] + 1)
            self.assertEqual({k: v for k, v in tree.items() if k not in left},
                             {k: v for k, v in was.items() if k not in left})  # fmt: skip
        stale = {"trees": [trees[5] | {"version": before["M-01"]["version"], "place": "elsewhere"}]}
        self.assertEqual(self.client.put("/api/trees", json=stale).status_code, 409)

    def test_a_look_at_a_file_keeps_nobody_waiting(self):
        self.fill()
        text = self.export().replace("by the gate", "by the well")
        with transaction(self.client.app.state.sessions) as session:  # someone is at work on the site
            changes.hold(session, [self.site_id])
            self.assertEqual(self.send(text)["trees"]["changed"], 1)

    def test_units_names_and_what_is_left_out(self):
        site = self.client.get("/api/sites").json()[0]["name"]
        text = (
            "site,tag,species,kind,caliper_in,ball_diameter_ft,ball_height_cm,bag_capacity_gal,planted_on,color\n"
            f"{site.upper()},X,bur oak,balled,2,2,36,20,2026-06-01,green\n"
        )
        found = self.send(text, accept=True)["trees"]
        self.assertEqual((found["new"], found["ignored"]), (1, ["color"]), found)
        tree = self.client.get("/api/trees").json()["trees"][0]
        stored = self.client.get(f"/api/trees/{tree['id']}").json()
        self.assertAlmostEqual(stored["caliper_m"], 0.0508)
        self.assertAlmostEqual(stored["ball_diameter_m"], 0.6096)
        self.assertAlmostEqual(stored["bag_capacity_l"], 75.708, delta=0.001)
        patch = f"id,place\n{tree['id']},by the well\n"
        self.assertEqual(self.send(patch, accept=True)["trees"]["changed"], 1)
        after = self.client.get(f"/api/trees/{tree['id']}").json()
        changing = ("place", "version")
        self.assertEqual(
            {k: v for k, v in after.items() if k not in changing},
            {k: v for k, v in stored.items() if k not in changing},
        )

    def test_files_and_lines_that_can_not_be(self):
        site = self.client.get("/api/sites").json()[0]["name"]
        for text, words in (
            ("", "empty"),
            ("colour\nred\n", "site and tag"),
            ("id,tag,caliper_m,caliper_in\n", "both give"),
        ):
            answer = self.send(text)
            self.assertEqual(answer["field"], "file")
            self.assertIn(words, answer.get("problem") or answer["detail"])
        head = "id,site,tag,species,kind,caliper_m,ball_diameter_m,ball_height_m,planted_on"
        good = ["", site, "X", "Quercus macrocarpa", "balled", "0.05", "0.61", "0.366", "2026-06-01"]
        for column, value in (
            ("id", "not-an-id"), ("site", "Nowhere"), ("species", "Money tree"), ("kind", "boxed"),
            ("caliper_m", "thick"),
            ("caliper_m", ""), ("planted_on", "1949-01-01"), ("planted_on", "soon"), ("ball_height_m", "9"),
        ):  # fmt: skip
            row = [*good]
            row[head.split(",").index(column)] = value
            found = self.send(f"{head}\n{','.join(row)}\n")["trees"]
            self.assertEqual([r["column"] for r in found["refused"]], [column], (column, value, found["refused"]))
            self.assertEqual(found["new"], 0)


class Finding(RegisterTest):
    def setUp(self):
        super().setUp()
        with transaction(self.sessions) as session:
            self.maple = plant_id(session, "Acer rubrum")
        self.put(tag="dry", planted_on="2026-06-01", feel={"ball": "dry", "ring": "dry"}, stop="Gate")
        self.put(tag="moist", planted_on="2026-06-02", feel={"ball": "moist", "ring": "moist"}, kind="container")
        self.put(tag="new", method="bag", plant_id=str(self.maple), basin_diameter_m=None)

    def tags(self, **query):
        return [t["tag"] for t in self.client.get("/api/trees", params=query).json()["trees"]]

    def test_filters(self):
        self.assertEqual(self.tags(stop="Gate"), ["dry"])
        self.assertEqual(self.tags(kind="container"), ["moist"])
        self.assertEqual(self.tags(method="bag"), ["new"])
        self.assertEqual(self.tags(plant_id=str(self.maple)), ["new"])
        self.assertIn("dry", self.tags(state="due"))
        self.assertNotIn("new", self.tags(state="due"))
        self.assertEqual(self.tags(state="unknown"), [])
        self.assertEqual(self.client.get("/api/trees", params={"state": "sad"}).status_code, 422)

    def test_sorts(self):
        self.assertEqual(self.tags(sort="tag"), ["dry", "moist", "new"])
        self.assertEqual(self.tags(sort="planted"), ["new", "moist", "dry"])
        self.assertEqual(self.tags(sort="species"), ["dry", "moist", "new"])
        self.assertEqual(self.tags(sort="dry"), ["dry", "moist", "new"])
        self.assertEqual(self.tags(sort="next")[0], "dry")
        self.assertEqual(self.tags(sort="dry", limit=1, offset=1), ["moist"])


class TheCrew(RegisterTest):
    def site_body(self, **changed):
        site = next(s for s in self.client.get("/api/sites").json() if s["id"] == str(self.site_id))
        drop = SITE_SHOWN
        return {k: v for k, v in site.items() if k not in drop} | changed

    def change(self, **changed):
        answer = self.client.put(f"/api/sites/{self.site_id}", json=self.site_body(**changed))
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def round(self):
        return self.client.get("/api/today").json()["sites"][0]

    def test_stops_go_in_the_leads_order(self):
        for tag, stop in (("a", "First"), ("b", "Second"), ("c", "Third")):
            self.put(tag=tag, stop=stop, planted_on="2026-06-01", feel={"ball": "dry", "ring": "dry"})
        stops = self.client.get("/api/sites").json()[0]["stops"]
        self.assertEqual([s["trees"] for s in stops], [1, 1, 1])
        turned = [s["id"] for s in reversed(stops)]
        path = f"/api/sites/{self.site_id}/stops"
        self.assertEqual(self.client.put(path, json={"stops": turned}).status_code, 200)
        self.assertEqual([s["name"] for s in self.round()["stops"]], ["Third", "Second", "First"])
        self.assertEqual(self.client.put(path, json={"stops": turned[:2]}).status_code, 409)

    def test_the_tank_says_where_it_must_be_filled(self):
        for i in range(5):
            self.put(tag=f"t{i}", stop="Row", row_place=i, planted_on="2026-06-01", feel={"ball": "dry", "ring": "dry"})
        trees = self.round()["stops"][0]["trees"]
        self.assertEqual(self.client.get("/api/today").json()["fills"], [], "no tank, no refill")
        litres = max(max(t["next"]["us"]["litres"], t["next"]["metric"]["litres"]) for t in trees)
        self.change(tank_l=2.5 * litres)
        trees = [t["id"] for t in self.round()["stops"][0]["trees"]]
        self.assertEqual(self.client.get("/api/today").json()["fills"], [trees[2], trees[4]])

    def test_what_a_valve_runs_takes_nothing_from_the_tank(self):
        drips = {"method": "emitters", "emitter_count": 2, "emitter_flow_l_per_h": 4.0}
        self.put(tag="t0", planted_on="2026-06-01", feel={"ball": "dry", "ring": "dry"}, **drips)
        self.put(tag="t1", planted_on="2026-06-01", feel={"ball": "dry", "ring": "dry"})
        self.change(tank_l=0.5)
        by_tag = {tree["tag"]: tree["id"] for tree in self.round()["stops"][0]["trees"]}
        self.assertEqual(self.client.get("/api/today").json()["fills"], [by_tag["t1"]])

    def test_nobody_is_sent_on_a_day_off(self):
        self.put(planted_on="2026-06-01", feel={"ball": "dry", "ring": "dry"})
        self.assertEqual(len(self.round()["stops"]), 1)
        self.change(working_days=[0, 1, 3, 4])  # the pinned day is a Wednesday
        found = self.round()
        self.assertTrue(found["day_off"])
        self.assertEqual(found["stops"], [])
        tree = self.client.get("/api/trees").json()["trees"][0]
        self.assertEqual(tree["next"]["day"], (DAY + timedelta(days=1)).isoformat())
        self.assertEqual(
            self.client.put(f"/api/sites/{self.site_id}", json=self.site_body(working_days=[])).status_code, 422
        )

    def test_the_day_is_priced_where_there_are_prices(self):
        tree = self.put(planted_on="2026-06-01", feel={"ball": "dry", "ring": "dry"}).json()["id"]
        self.client.put(f"/api/log/{new_id()}", json=water_body(tree, 500.0) | {"duration_min": 30})
        self.assertIsNone(self.round()["cost"])
        self.change(water_price_per_m3=3.0, hour_price=40.0)
        self.assertAlmostEqual(self.round()["cost"], 0.5 * 3.0 + 0.5 * 40.0)

    def test_it_says_what_a_tree_loses_that_is_not_reached(self):
        self.put(planted_on="2026-06-01", feel={"ball": "dry", "ring": "dry"})
        tree = self.round()["stops"][0]["trees"][0]
        self.assertLess(tree["without_ks"], 0.9)
        self.assertGreater(tree["without_dryness"], 0.5)
        self.assertGreater(self.round()["crew"]["minutes"], 1)


if __name__ == "__main__":
    unittest.main()
