"""A tree moves from any way of pouring to any other: in the form, for many at once, and by laying drip."""

import itertools
import unittest
from datetime import timedelta

from tests.api.test_drip import ON_BALL, DripTest
from tests.support import DAY, new_id, tree_body

WAYS = {
    "hose": {}, "bucket": {}, "tank": {}, "bag": {"bag_capacity_l": 75.0},
    "emitters": {"emitter_count": 4, "emitter_flow_l_per_h": 4.0},
    "soaker": {"soaker_across_m": 0.4, "soaker_flow_l_per_h_m": 6.0},
    "sprinkler": {"sprinkler_across_m": 1.6, "sprinkler_flow_l_per_h": 50.0}, "wicked": {"reservoir_l": 60.0},
}  # fmt: skip
"""Each way of pouring with what it needs."""


class AnyWayToAnyOther(DripTest):
    def planted(self, tag: str, way: str) -> tuple[str, dict]:
        tree, day = new_id(), (DAY - timedelta(days=30)).isoformat()
        body = tree_body(self.site_id, self.plant, tag=tag, planted_on=day, method=way) | WAYS[way]
        answer = self.client.put(f"/api/trees/{tree}", json=body)
        self.assertEqual(answer.status_code, 200, answer.text)
        return tree, body

    def assert_watered(self, tree: str, way: str) -> None:
        sheet = self.water(tree)
        self.assertEqual(sheet["tree"]["method"], way)
        self.assertGreater(sheet["next"]["metric"]["run_min"], 0)

    def test_in_the_form(self):
        for n, (was, then) in enumerate(itertools.permutations(WAYS, 2)):
            tree, body = self.planted(f"F-{n}", was)
            answer = self.client.put(f"/api/trees/{tree}", json=body | {"method": then} | WAYS[then])
            self.assertEqual(answer.status_code, 200, f"{was} to {then}: {answer.text}")
            self.assert_watered(tree, then)

    def test_for_many_at_once(self):
        for n, then in enumerate(WAYS):
            trees = [self.planted(f"M-{n}-{was}", was)[0] for was in WAYS if was != then]
            answer = self.client.post("/api/trees/same", json={"trees": trees, "set": {"method": then} | WAYS[then]})
            self.assertEqual(answer.status_code, 200, f"to {then}: {answer.text}")
            for tree in trees:
                self.assert_watered(tree, then)

    def test_by_laying_drip(self):
        for way in WAYS:
            tree, _ = self.planted(f"D-{way}", way)
            answer = self.accept(tree, ON_BALL)
            self.assertEqual(answer.status_code, 200, f"{way}: {answer.text}")
            self.assert_watered(tree, "emitters")
            self.assertEqual(self.water(tree)["tree"]["emitter_count"], 4)

    def test_from_drip_that_lies_to_any_other_and_back(self):
        for way in WAYS:
            tree, body = self.planted(f"B-{way}", "hose")
            self.accept(tree, ON_BALL)
            answer = self.client.put(f"/api/trees/{tree}", json=body | {"method": way} | WAYS[way])
            self.assertEqual(answer.status_code, 200, f"drip to {way}: {answer.text}")
            self.assert_watered(tree, way)
            self.assertEqual(self.accept(tree, ON_BALL).status_code, 200, way)
            self.assert_watered(tree, "emitters")

    def test_a_layout_that_can_not_be_laid_leaves_the_way_as_it_was(self):
        tree, _ = self.planted("N-1", "bucket")
        answer = self.accept(tree, {"pattern": "row_lines", "flow_l_h": 4.0, "spacing_m": 0.0001})
        self.assertEqual(answer.status_code, 422, answer.text)
        self.assert_watered(tree, "bucket")

    def test_what_a_way_lacks_is_named_and_nothing_changes(self):
        for n, (way, needs) in enumerate(WAYS.items()):
            if not needs or way == "bag":
                continue
            tree, body = self.planted(f"L-{n}", "hose")
            for answer in (
                self.client.put(f"/api/trees/{tree}", json=body | {"method": way}),
                self.client.post("/api/trees/same", json={"trees": [tree], "set": {"method": way}}),
            ):
                self.assertEqual(answer.status_code, 422, answer.text)
                self.assertIn(next(iter(needs)), answer.text)
                self.assertNotIn("constraint", answer.text)
            self.assert_watered(tree, "hose")


if __name__ == "__main__":
    unittest.main()
