"""The ground plan over HTTP: rows placed and taken back, GeoJSON out and in, a picture under it."""

import io
import json
import os
import time
import unittest
from datetime import timedelta

import numpy as np
from PIL import Image
from shapely.geometry import shape
from sqlalchemy import select

from june_shade.demo import scenario
from june_shade.plans import pictures
from june_shade.store.ground_tables import SitePicture
from june_shade.store.session import transaction
from tests.support import PICTURES, client, new_id

SITE = str(scenario.name_id("site", "SO"))
RAIL = str(scenario.name_id("site", "RT"))


class GroundTest(unittest.TestCase):
    def setUp(self):
        self.client = self.enterContext(client("demo"))

    def ground(self, site: str = SITE) -> dict:
        got = self.client.get(f"/api/sites/{site}/ground")
        self.assertEqual(got.status_code, 200, got.text)
        return got.json()

    def put(self, path: str, body: dict, site: str = SITE):
        return self.client.put(f"/api/sites/{site}/ground/{path}", json=body)

    def file(self, geojson, *, turn: bool = False, store: bool = False, site: str = SITE):
        sent = {"file": ("plan.geojson", geojson if isinstance(geojson, bytes) else json.dumps(geojson).encode())}
        if store:
            return self.client.put(f"/api/sites/{site}/ground/file?turn={turn}", files=sent)
        return self.client.post(f"/api/sites/{site}/ground/look?turn={turn}", files=sent)

    def out(self, site: str = SITE) -> dict:
        return self.client.get(f"/api/sites/{site}/ground.geojson").json()


class Shown(GroundTest):
    def test_trees_stand_in_rows_from_their_stops_and_along_their_lines(self):
        plan = self.ground(RAIL)
        hedge = [tree for tree in plan["trees"] if tree["line"] == "Hedge valve"]
        steps = np.diff([(tree["x_m"], tree["y_m"]) for tree in hedge], axis=0)
        np.testing.assert_allclose(steps, [(1.2, 0.0)] * 9, atol=1e-6)  # as its line is spaced, to the east
        line = next(one for one in plan["lines"] if one["name"] == "Hedge valve")
        lead = np.subtract(line["way"][1], line["valve"])
        np.testing.assert_allclose(lead, (4.0, 0.0), atol=1e-6)
        np.testing.assert_allclose([y for _, y in line["way"]], [hedge[0]["y_m"] - 0.2] * 11, atol=1e-6)
        kinds = {one["kind"] for tree in plan["trees"] for one in tree["beside"]}
        self.assertEqual(kinds, {"paving", "wall"})

    def test_it_says_what_the_other_pages_say(self):
        plan = self.ground()
        for tree in plan["trees"][:5]:
            page = self.client.get(f"/api/trees/{tree['id']}/water").json()
            self.assertEqual(tree["dryness"], page["dryness"])
            self.assertEqual(tree["section"]["ball_available_l"], page["section"]["ball_available_l"])
        today = next(site for site in self.client.get("/api/today").json()["sites"] if site["id"] == SITE)
        stops = sorted(today["stops"], key=lambda stop: (stop["position"] is None, stop["position"]))
        wanted = [tree["id"] for stop in stops for tree in stop["trees"] if tree["next"]]
        turns = sorted((t for t in plan["trees"] if t["turn"]), key=lambda t: t["turn"])
        self.assertEqual([tree["id"] for tree in turns], wanted)


class Placed(GroundTest):
    def row(self) -> list[dict]:
        return [tree for tree in self.ground()["trees"] if tree["stop"] == "Lantern Street"]

    def test_a_row_is_placed_by_its_ends_and_taken_back(self):
        row = self.row()
        ids = [tree["id"] for tree in row]
        put = self.put("row", {"trees": ids, "first": [10.0, 20.0], "last": [10.0, 55.0]})
        self.assertEqual(put.status_code, 200, put.text)
        after = self.row()
        self.assertEqual({tree["basis"] for tree in after}, {"own"})
        np.testing.assert_allclose([t["x_m"] for t in after], 10.0, atol=0.02)
        np.testing.assert_allclose(np.diff([t["y_m"] for t in after]), 35.0 / (len(ids) - 1), atol=0.03)
        tree = self.client.get(f"/api/trees/{ids[0]}").json()
        self.assertIsNotNone(tree["latitude_deg"])
        back = self.put("places", {"places": put.json()["before"]})
        self.assertEqual(back.status_code, 200, back.text)
        self.assertEqual([(t["x_m"], t["basis"]) for t in self.row()], [(t["x_m"], t["basis"]) for t in row])

    def test_what_can_t_be_is_refused_by_its_field_and_nothing_moves(self):
        ids = [tree["id"] for tree in self.row()]
        other = self.ground(RAIL)["trees"][0]["id"]
        for body, status, field in (
            ({"trees": ids, "first": [0, 0], "last": [0, 0.1]}, 422, "last"),
            ({"trees": ids, "first": [30_000, 0], "last": [0, 0]}, 422, "first"),
            ({"trees": [ids[0], ids[0]], "first": [0, 0], "last": [9, 0]}, 422, "trees"),
            ({"trees": [other], "first": [0, 0]}, 404, "trees[0]"),
        ):  # fmt: skip
            with self.subTest(body=body):
                refused = self.put("row", body)
                self.assertEqual((refused.status_code, refused.json()["field"]), (status, field))
        half = {"places": [{"tree_id": ids[0], "latitude_deg": 40.2, "longitude_deg": None}]}
        self.assertEqual(self.put("places", half).status_code, 422)
        self.assertEqual({tree["basis"] for tree in self.row()}, {"stop"})

    def test_a_hydrant_is_put_once_and_taken_away(self):
        thing = new_id()
        for _ in range(2):
            plan = self.put(f"things/{thing}", {"kind": "hydrant", "name": "North gate", "spots": [[5.0, -3.0]]}).json()
        [hydrant] = plan["things"]
        np.testing.assert_allclose(hydrant["paths"][0][0], (5.0, -3.0), atol=0.02)
        for _ in range(2):
            gone = self.client.delete(f"/api/sites/{SITE}/ground/things/{thing}")
        self.assertEqual(gone.json()["things"], [])

    def test_a_wall_and_paving_are_drawn_by_their_spots_and_lie_there_in_the_file_too(self):
        wall, slab = [[0.0, 0.0], [6.0, 0.0], [6.0, 4.0]], [[10.0, 0.0], [14.0, 0.0], [14.0, 3.0], [10.0, 3.0]]
        for kind, spots in (("wall", wall), ("paving", slab)):
            told = self.put(f"things/{new_id()}", {"kind": kind, "spots": spots})
            self.assertEqual(told.status_code, 200, told.text)
        drawn = {one["kind"]: one for one in told.json()["things"]}
        self.assertEqual([drawn[kind]["shape"] for kind in ("wall", "paving")], ["line", "area"])
        np.testing.assert_allclose(drawn["wall"]["paths"][0], wall, atol=0.02)
        np.testing.assert_allclose(drawn["paving"]["paths"][0], [*slab, slab[0]], atol=0.02)
        written = self.client.get(f"/api/sites/{SITE}/ground.geojson").json()["features"]
        kinds = {one["properties"]["what"]: one["geometry"]["type"] for one in written}
        self.assertEqual((kinds["wall"], kinds["paving"]), ("LineString", "Polygon"))

    def test_spots_that_make_no_such_thing_are_refused_in_words_and_nothing_is_kept(self):
        bow = [[0.0, 0.0], [4.0, 4.0], [4.0, 0.0], [0.0, 4.0]]
        for kind, spots, says in (
            ("hydrant", [[0.0, 0.0], [1.0, 0.0]], "one spot"), ("wall", [[0.0, 0.0]], "at least 2"),
            ("wall", [[1.0, 1.0], [1.0, 1.0]], "same"), ("bed", [[0.0, 0.0], [1.0, 0.0]], "at least 3"),
            ("bed", [[0.0, 0.0], [1.0, 0.0], [2.0, 0.0]], "one line"), ("bed", bow, "crosses itself"),
            ("path", [[0.0, 0.0], [40_000.0, 0.0]], "from the site"),
        ):  # fmt: skip
            told = self.put(f"things/{new_id()}", {"kind": kind, "spots": spots})
            self.assertEqual((told.status_code, told.json()["field"]), (422, "spots"), told.text)
            self.assertIn(says, told.text)
        self.assertEqual(self.ground()["things"], [])


class GeoJson(GroundTest):
    def test_what_goes_out_is_sound_and_comes_in_again_as_nothing_new(self):
        ids = [tree["id"] for tree in self.ground()["trees"]]
        self.put("row", {"trees": ids, "first": [0.0, 0.0], "last": [150.0, 20.0]})
        self.put(f"things/{new_id()}", {"kind": "hydrant", "spots": [[5.0, -3.0]]})
        whole = self.out()
        self.assertEqual(whole["type"], "FeatureCollection")
        for one in whole["features"]:
            self.assertTrue(shape(one["geometry"]).is_valid)
            longitude, latitude = shape(one["geometry"]).centroid.coords[0]
            self.assertAlmostEqual(latitude, 40.2, delta=0.1)
            self.assertAlmostEqual(longitude, -104.7, delta=0.1)
        again = self.file(whole).json()
        self.assertEqual((again["trees"], again["stops"], again["things"], again["refused_count"]), (0, 0, 0, 0))
        self.assertEqual(again["same"], len(whole["features"]))

    def test_a_place_that_was_only_drawn_comes_back_as_drawn_and_a_moved_one_as_measured(self):
        whole = self.out()
        again = self.file(whole).json()
        self.assertEqual((again["trees"], again["same"]), (0, len(whole["features"])))
        moved = next(one for one in whole["features"] if one["properties"].get("tag") == "SO-03")
        moved["geometry"]["coordinates"][1] += 0.0001
        self.assertEqual(self.file(whole, store=True).json()["tags"], ["SO-03"])
        self.assertEqual([one["tag"] for one in self.ground()["trees"] if one["basis"] == "own"], ["SO-03"])

    def feature(self, at, **properties):
        return {"type": "Feature", "properties": properties, "geometry": {"type": "Point", "coordinates": at}}

    def test_a_gis_s_file_is_looked_at_then_stored_and_twice_is_once(self):
        path = {"type": "LineString", "coordinates": [[-104.69, 40.219], [-104.6895, 40.2191]]}
        brought = {"type": "FeatureCollection", "features": [
            self.feature([-104.6901, 40.2189], tag="so-03"), self.feature([-104.69, 40.2189], tag="XX-9"),
            {"type": "Feature", "properties": {"kind": "path", "name": "Gravel walk"}, "geometry": path},
            {"type": "Feature", "properties": {}, "geometry": None}, self.feature([2.3, 48.8], tag="SO-04"),
        ]}  # fmt: skip
        look = self.file(brought).json()
        self.assertEqual((look["trees"], look["tags"], look["things"], look["stored"]), (1, ["SO-03"], 1, False))
        self.assertEqual([one["number"] for one in look["refused"]], [2, 4, 5])
        self.assertEqual(self.ground()["things"], [])
        self.assertTrue(self.file(brought, store=True).json()["stored"])
        self.assertEqual(self.file(brought, store=True).json()["things"], 0)
        plan = self.ground()
        [walk] = plan["things"]
        self.assertEqual((walk["kind"], walk["shape"], walk["name"]), ("path", "line", "Gravel walk"))
        self.assertEqual(next(tree for tree in plan["trees"] if tree["tag"] == "SO-03")["basis"], "own")

    def test_swapped_axes_are_seen_offered_to_be_turned_and_stored_only_so(self):
        swapped = {"type": "FeatureCollection", "features": [self.feature([40.2189, -104.6901], tag="SO-03")]}
        look = self.file(swapped).json()
        self.assertEqual((look["turned"], look["trees"]), (True, 0))
        self.assertEqual(self.file(swapped, store=True).status_code, 422)
        self.assertEqual(self.file(swapped, turn=True, store=True).json()["trees"], 1)
        tree = next(tree for tree in self.ground()["trees"] if tree["tag"] == "SO-03")
        at = self.client.get(f"/api/trees/{tree['id']}").json()
        self.assertEqual((at["latitude_deg"], at["longitude_deg"]), (40.2189, -104.6901))

    def test_what_is_no_geojson_or_of_another_place_is_refused_in_words(self):
        far = {"type": "FeatureCollection", "features": [self.feature([500000, 4450000], tag="SO-03")]}
        utm = {"type": "FeatureCollection", "features": [], "crs": {"properties": {"name": "EPSG:32613"}}}
        for brought in (far, utm, b"\xff\xfe", b"[]", b'{"type": "Topology"}', b"{" * 3000):
            with self.subTest(brought=str(brought)[:40]):
                refused = self.file(brought)
                self.assertEqual((refused.status_code, refused.json()["field"]), (422, "file"))


class Picture(GroundTest):
    def bring(self, color="gray", size=(800, 600)):
        out = io.BytesIO()
        Image.new("RGB", size, color).save(out, "PNG")
        return self.client.put(f"/api/sites/{SITE}/ground/picture", files={"file": ("plan.png", out.getvalue())})

    def points(self, *pairs):
        return self.put("picture/points", {"points": [{"px": px, "py": py, "at": at} for (px, py), at in pairs]})

    def test_it_is_brought_placed_by_two_points_shown_and_taken_away(self):
        self.assertIsNone(self.ground()["picture"])
        brought = self.bring().json()["picture"]
        self.assertEqual((brought["width_px"], brought["height_px"], brought["matrix"]), (800, 600, None))
        placed = self.points(((100, 500), [0.0, 0.0]), ((700, 500), [60.0, 0.0])).json()["picture"]
        self.assertAlmostEqual(placed["m_per_px"], 0.1, places=3)
        self.assertAlmostEqual(placed["turned_deg"], 0.0, places=1)
        np.testing.assert_allclose(placed["corners"][0], (-10.0, 50.0), atol=0.1)
        got = self.client.get(f"/api/sites/{SITE}/ground/picture")
        self.assertEqual(got.headers["content-type"], "image/jpeg")
        self.assertEqual(Image.open(io.BytesIO(got.content)).size, (800, 600))
        self.assertIsNotNone(self.bring().json()["picture"]["matrix"])  # the same again
        self.assertIsNone(self.bring("red").json()["picture"]["matrix"])  # another has to be placed anew
        self.assertIsNone(self.client.delete(f"/api/sites/{SITE}/ground/picture").json()["picture"])
        self.assertEqual(self.client.get(f"/api/sites/{SITE}/ground/picture").status_code, 404)

    def test_the_file_of_one_goes_some_days_after_another_came_in_its_place_and_no_other_goes(self):
        def let_go() -> list[str]:
            for file in PICTURES.glob("*/*.jpg"):
                os.utime(file, (time.time() - 3 * 86_400,) * 2)
            with transaction(self.client.app.state.sessions) as session:
                gone = pictures.sweep(session, pictures.Folder(PICTURES))
                for row in session.scalars(select(SitePicture).where(SitePicture.removed_at.is_not(None))):
                    row.removed_at -= timedelta(days=2)
            return [name[:12] for name in gone]

        let_go()
        first, second = (self.bring(color).json()["picture"]["name"] for color in ("teal", "navy"))
        self.assertNotIn(first, let_go(), "it was shown until just now")
        gone = let_go()
        self.assertIn(first, gone)
        self.assertNotIn(second, gone)
        self.assertEqual(self.client.get(f"/api/sites/{SITE}/ground/picture").status_code, 200)

    def test_points_that_say_nothing_and_files_that_are_none_are_refused(self):
        self.assertEqual(self.points(((0, 0), [0, 0]), ((9, 9), [9, 9])).status_code, 404)
        self.bring()
        close = self.points(((100, 500), [0.0, 0.0]), ((700, 500), [0.1, 0.0]))
        self.assertEqual((close.status_code, close.json()["field"]), (422, "points[1]"))
        script = self.client.put(f"/api/sites/{SITE}/ground/picture", files={"file": ("a.svg", b"<svg onload='x'/>")})
        self.assertEqual((script.status_code, script.json()["field"]), (422, "file"))
