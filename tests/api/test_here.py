"""Where a tree stands, as a phone beside it says."""

import unittest
from datetime import timedelta

from june_shade.store.session import transaction
from tests.support import DAY, client, new_id, plant_id, small_site, tree_body


class Here(unittest.TestCase):
    def setUp(self):
        self.client = self.enterContext(client())
        with transaction(self.client.app.state.sessions) as session:
            site, plant = small_site(session), plant_id(session)
            self.site_id = site.id
        self.tree = new_id()
        self.body = tree_body(self.site_id, plant, planted_on=(DAY - timedelta(days=40)).isoformat())
        self.assertEqual(self.client.put(f"/api/trees/{self.tree}", json=self.body).status_code, 200)

    def put(self, latitude: float, longitude: float, accuracy: float = 6.0):
        sent = {"latitude_deg": latitude, "longitude_deg": longitude, "accuracy_m": accuracy}
        return self.client.put(f"/api/trees/{self.tree}/place", json=sent)

    def test_it_is_kept_on_the_tree_and_told_with_the_round_and_nothing_else_changes(self):
        before = self.client.get(f"/api/trees/{self.tree}").json()
        self.assertEqual(self.put(40.0012345678, -105.0009).status_code, 200)
        after = self.client.get(f"/api/trees/{self.tree}").json()
        changed = {name for name in after if after[name] != before[name]}
        self.assertEqual(changed, {"latitude_deg", "longitude_deg", "version"})
        self.assertEqual((after["latitude_deg"], after["longitude_deg"]), (40.001235, -105.0009))
        trees = [
            tree for site in self.client.get("/api/today").json()["sites"] for stop in site["stops"]
            for tree in stop["trees"]
        ]  # fmt: skip
        self.assertEqual(len(trees), 1)
        for tree in trees:
            self.assertEqual((tree["latitude_deg"], tree["longitude_deg"]), (40.001235, -105.0009))
        self.assertEqual(self.put(40.0012345678, -105.0009).json()["version"], after["version"], "twice is once")

    def test_a_phone_that_does_not_know_is_told_what_to_do(self):
        vague = self.put(40.0, -105.0, accuracy=120)
        self.assertEqual((vague.status_code, vague.json()["field"]), (422, "accuracy_m"))
        self.assertIn("120\u00a0m", vague.json()["detail"])
        self.assertIsNone(self.client.get(f"/api/trees/{self.tree}").json()["latitude_deg"])

    def test_a_place_far_from_the_site_and_none_at_all_are_refused(self):
        far = self.put(-40.0, 105.0)
        self.assertEqual((far.status_code, far.json()["field"]), (422, "latitude_deg"))
        for latitude, longitude in ((91, 0), (0, -181)):
            self.assertEqual(self.put(latitude, longitude).status_code, 422)
        self.tree = new_id()
        self.assertEqual(self.put(40.0, -105.0).status_code, 404)


if __name__ == "__main__":
    unittest.main()
