"""Where a tree of a line dies: its place stays, its emitters run on until someone closes them, the box knows."""

import unittest

from june_shade.demo import scenario
from tests.support import client, new_id

HEDGE = str(scenario.name_id("line", "RT", "Hedge valve"))


class Gaps(unittest.TestCase):
    def setUp(self):
        self.client = self.enterContext(client("demo"))

    def page(self) -> dict:
        got = self.client.get(f"/api/lines/{HEDGE}")
        self.assertEqual(got.status_code, 200, got.text)
        return got.json()

    def ends(self, tree_id: str) -> str:
        end = new_id()
        sent = self.client.put(f"/api/tree-ends/{end}", json={"tree_id": tree_id, "kind": "dead", "cause": "drought"})
        self.assertEqual(sent.status_code, 200, sent.text)
        return end

    def closes(self, tree_id: str, *, closed: bool):
        return self.client.put(f"/api/lines/{HEDGE}/gaps/{tree_id}", json={"closed": closed})

    def test_the_others_keep_their_places_and_what_is_lost_is_told_until_it_is_closed(self):
        before = self.page()
        self.assertTrue(before["hedge"])
        self.assertEqual(before["gaps"], [])
        strip = before["strip"]
        trees_l = sum(tree["look"]["figures"]["flow_l_per_h"] for tree in before["trees"]) * before["run_min"] / 60
        self.assertAlmostEqual(strip["dose_l_m"] * strip["length_m"], trees_l, delta=0.01 * trees_l)
        gone = before["trees"][3]
        end = self.ends(gone["id"])
        after = self.page()
        stood = {tree["id"]: tree["chainage_m"] for tree in before["trees"]}
        self.assertEqual(
            {t["id"]: t["chainage_m"] for t in after["trees"]}, {k: v for k, v in stood.items() if k != gone["id"]}
        )
        [gap] = after["gaps"]
        self.assertEqual((gap["tree_id"], gap["closed"]), (gone["id"], False))
        self.assertGreater(gap["lost_l"], 0)
        self.assertAlmostEqual(after["flow"]["flow_l_per_h"], before["flow"]["flow_l_per_h"], delta=0.5)
        self.assertAlmostEqual(after["strip"]["length_m"], strip["length_m"])
        self.assertAlmostEqual(
            after["strip"]["flow_l_per_h_m"], 0.9 * strip["flow_l_per_h_m"], delta=0.01 * strip["flow_l_per_h_m"]
        )
        closed = self.closes(gone["id"], closed=True).json()
        self.assertEqual([one["flow_l_per_h"] for one in closed["gaps"]], [0])
        self.assertAlmostEqual(closed["flow"]["flow_l_per_h"], 0.9 * before["flow"]["flow_l_per_h"], delta=0.5)
        self.assertGreater(self.closes(gone["id"], closed=False).json()["gaps"][0]["flow_l_per_h"], 0)
        self.closes(gone["id"], closed=True)
        self.client.post(f"/api/tree-ends/{end}/withdraw")
        self.assertEqual(self.page()["gaps"], [])
        self.ends(gone["id"])
        self.assertFalse(self.page()["gaps"][0]["closed"], "what was closed for it was opened when it stood again")

    def test_only_a_gap_of_this_line_is_closed(self):
        self.assertEqual(self.closes(self.page()["trees"][0]["id"], closed=True).status_code, 404)
        self.assertEqual(self.closes(new_id(), closed=True).status_code, 404)
