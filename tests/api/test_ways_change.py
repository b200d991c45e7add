"""A tree moves from any way of pouring to any other: in the form, for many at once, and by laying drip."""

import itertools
import unittest
from datetime import timedelta

from june_shade.plans import clock
from june_shade.store.session import transaction
from tests.api.test_drip import FAR_RING, ON_BALL, DripTest
from tests.support import DAY, new_id, tree_body, water_body

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
        answer = self.accept(tree, {"pattern": "row_lines", "flow_l_per_h": 4.0, "spacing_m": 0.0001})
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


class FromADayOn(DripTest):
    """How a tree is watered holds from a day on: a change today moves nothing of what was poured before."""

    def grown(self) -> tuple[str, dict]:
        """A tree whose record reaches back a month, watered now and then."""
        with transaction(self.sessions) as session:
            clock.pin(session, DAY - timedelta(days=30))
        tree = new_id()
        body = tree_body(self.site_id, self.plant, planted_on=(DAY - timedelta(days=30)).isoformat(), method="hose")
        self.change(tree, body)
        with transaction(self.sessions) as session:
            clock.pin(session, DAY)
        for back in (20, 12, 8, 5, 2):
            entry = water_body(tree, 25.0, day=DAY - timedelta(days=back))
            self.assertEqual(self.client.put(f"/api/log/{new_id()}", json=entry).status_code, 201)
        return tree, body

    def past(self, tree: str) -> list[float]:
        days = self.water(tree)["chart"]
        return [round(d["dryness"], 9) for d in days if d["day"] < DAY.isoformat() and d["dryness"] is not None]

    def change(self, tree: str, body: dict, **changed) -> None:
        answer = self.client.put(f"/api/trees/{tree}", json=body | changed)
        self.assertEqual(answer.status_code, 200, answer.text)

    def method(self, tree: str) -> str:
        return self.water(tree)["tree"]["method"]

    def test_a_wider_basin_from_today_leaves_yesterday_as_it_was(self):
        tree, body = self.grown()
        before = self.past(tree)
        self.assertGreater(len(before), 20)
        self.change(tree, body, basin_diameter_m=1.6)
        self.assertEqual(self.past(tree), before)
        self.change(tree, body, basin_diameter_m=1.9)
        self.assertEqual(self.past(tree), before, "twice on one day")

    def test_it_was_always_so_moves_the_past(self):
        tree, body = self.grown()
        before = self.past(tree)
        self.change(tree, body, basin_diameter_m=1.6, way_since="always")
        self.assertNotEqual(self.past(tree), before)
        self.change(tree, body, way_since="always")
        self.assertEqual(self.past(tree), before)

    def test_another_ball_moves_the_past_whatever_is_said_of_the_way(self):
        tree, body = self.grown()
        before = self.past(tree)
        self.change(tree, body, ball_diameter_m=0.5)
        self.assertNotEqual(self.past(tree), before)

    def test_drip_laid_today_moves_nothing_and_taken_back_is_the_hose_again(self):
        tree, _ = self.grown()
        before, layout = self.past(tree), new_id()
        self.assertEqual(self.accept(tree, ON_BALL, layout).status_code, 200)
        self.assertEqual(self.past(tree), before)
        self.assertEqual(self.method(tree), "emitters")
        self.assertEqual(self.client.post(f"/api/drip-layouts/{layout}/withdraw").status_code, 200)
        self.assertEqual(self.method(tree), "hose")
        self.assertEqual(self.past(tree), before)

    def test_drip_laid_a_week_ago_lands_the_water_since(self):
        tree, _ = self.grown()
        before = self.past(tree)
        body = {"tree_id": tree, "choice": FAR_RING, "laid_on": (DAY - timedelta(days=7)).isoformat()}
        self.assertEqual(self.client.put(f"/api/drip-layouts/{new_id()}", json=body).status_code, 200)
        after = self.past(tree)
        self.assertEqual(after[:-7], before[:-7])
        self.assertNotEqual(after[-7:], before[-7:])


if __name__ == "__main__":
    unittest.main()
