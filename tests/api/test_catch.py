"""The catch test over HTTP: kept once, run times and pages go by what was caught; taken back it counts no more."""

import unittest
from datetime import timedelta

from tests.api.test_drip import ON_BALL, DripTest
from tests.support import DAY, new_id

EVEN, CLOGGED = [800, 800, 800, 800], [1000, 0, 990, 1600]
"""Of the four emitters on the ball in 15 min: 3.2 L/h of their 4 each; one blocked, one leaking."""


class CatchTest(DripTest):
    def setUp(self):
        super().setUp()
        self.oak = self.tree()
        laid = (DAY - timedelta(days=25)).isoformat()
        body = {"tree_id": self.oak, "choice": ON_BALL, "laid_on": laid}
        self.assertEqual(self.client.put(f"/api/drip-layouts/{new_id()}", json=body).status_code, 200)

    def send(self, caught: list, test: str | None = None, **changed):
        body = {"tree_id": self.oak, "minutes": 15, "caught_ml": caught} | changed
        return self.client.put(f"/api/drip-catches/{test or new_id()}", json=body)

    def keep(self, caught: list, test: str | None = None, **changed) -> dict:
        answer = self.send(caught, test, **changed)
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()


class OneTree(CatchTest):
    def test_run_times_go_by_what_was_caught(self):
        before, next_before = self.drip(self.oak), self.water(self.oak)["next"]
        self.keep(EVEN)
        after, next_after = self.drip(self.oak), self.water(self.oak)["next"]
        self.assertAlmostEqual(after["layout"]["flow_l_per_h"], 4 * 3.2)
        look = after["looks"][0]["look"]
        self.assertEqual([e["flow_l_per_h"] for e in look["emitters"]], [3.2] * 4)
        self.assertAlmostEqual(look["run"]["run_min"] / before["looks"][0]["look"]["run"]["run_min"], 4 / 3.2, places=6)
        pours = [one["us"] for one in (next_before, next_after)]
        litres, minutes = (pours[1][name] / pours[0][name] for name in ("litres", "run_min"))
        self.assertAlmostEqual(minutes / litres, 4 / 3.2, places=1)

    def test_it_is_dated_work_and_once_done_a_test_is_asked_for(self):
        def work() -> dict[str, dict]:
            found = self.client.get("/api/care", params={"tree_id": self.oak}).json()["tasks"]
            return {task["kind"]: task for task in found if task["kind"].startswith("emitters_")}

        def on_page() -> list[str]:
            return [t["kind"] for t in self.drip(self.oak)["tasks"] if t["kind"].startswith("emitters_")]

        self.keep(CLOGGED)
        asked = work()
        self.assertEqual({k: t["numbers"] for k, t in asked.items()}, {"emitters_clean": [2], "emitters_mend": [4]})
        self.assertEqual({t["due_on"] for t in asked.values()}, {DAY.isoformat()})
        for kind, task in asked.items():
            self.assertIn(kind, on_page())
            said = {"tree_id": self.oak, "key": task["key"], "act": "done"}
            self.assertEqual(self.client.put(f"/api/care-acts/{new_id()}", json=said).status_code, 200)
        self.assertEqual(list(work()), ["emitters_test"], "whether it helped, cups say")
        self.assertEqual(on_page(), ["emitters_test"])
        self.keep(EVEN)
        self.assertEqual(work(), {})

    def test_what_is_blocked_or_leaks_is_a_task_with_its_number_until_a_better_test(self):
        self.keep(CLOGGED)
        page = self.drip(self.oak)
        [test] = page["catches"]
        self.assertEqual((test["blocked"], test["weak"], test["leaking"], test["in_force"]), ([2], [], [4], True))
        asked = {t["kind"]: t["numbers"] for t in page["tasks"] if t["numbers"]}
        self.assertEqual(asked, {"emitters_clean": [2], "emitters_mend": [4]})
        codes = {f["code"]: f["where"] for f in page["looks"][0]["look"]["findings"] if f["where"]}
        self.assertEqual(codes, {"emitter_blocked": "2", "emitter_leaking": "4"})
        evenness = next(a for a in page["looks"][0]["look"]["achievements"] if a["key"] == "evenness")
        self.assertEqual((evenness["value"], evenness["passed"]), (0.0, False))
        said = next(line for line in page["looks"][0]["look"]["working"] if line["key"] == "drip_even")
        self.assertEqual((said["value"], said["source"]), (0.0, "[MK78]"), "told as it was judged")
        tried = self.look(self.oak, ON_BALL | {"points": 5}).json()
        self.assertEqual([t for t in tried["tasks"] if t["numbers"]], [], "another layout has none of these emitters")
        self.keep(EVEN)
        page = self.drip(self.oak)
        self.assertEqual([t for t in page["tasks"] if t["numbers"]], [])
        self.assertEqual(sorted(t["in_force"] for t in page["catches"]), [False, True])

    def test_one_test_is_held_against_the_one_before(self):
        self.keep([1000] * 4, day=(DAY - timedelta(days=20)).isoformat())
        self.assertIsNone(self.drip(self.oak)["catches"][0]["since"], "the first")
        self.keep([1000, 1000, 1000, 600])
        newest, first = self.drip(self.oak)["catches"]
        self.assertAlmostEqual(newest["since"]["changed"], -0.1)
        self.assertEqual(newest["since"]["losing"], [4])
        self.assertEqual((newest["in_force"], first["in_force"]), (True, False))

    def test_sent_twice_it_is_one_and_taken_back_it_counts_no_more(self):
        before = self.drip(self.oak)["layout"]["flow_l_per_h"]
        test = new_id()
        self.assertEqual(self.keep(EVEN, test), self.keep(EVEN, test))
        self.assertEqual(self.send(CLOGGED, test).status_code, 409)
        told = self.client.post(f"/api/drip-catches/{test}/withdraw").json()
        self.assertEqual((told["withdrawn"], told["in_force"]), (True, False))
        page = self.drip(self.oak)
        self.assertEqual(page["layout"]["flow_l_per_h"], before)
        self.assertEqual(len(page["catches"]), 1, "it stays on record")

    def test_another_layout_is_not_judged_by_cups_of_the_former(self):
        self.keep(CLOGGED)
        self.accept(self.oak, ON_BALL | {"points": 3})
        page = self.drip(self.oak)
        self.assertEqual([e["flow_l_per_h"] > 3.9 for e in page["looks"][0]["look"]["emitters"]], [True] * 3)
        self.assertFalse(page["catches"][0]["in_force"])

    def test_it_stands_in_the_book_and_is_undone_there(self):
        test = self.keep(EVEN)["id"]
        rows = self.client.get("/api/book", params={"tree_id": self.oak, "kind": "catch"}).json()["rows"]
        self.assertEqual([(r["id"], r["minutes"], r["emitters"]) for r in rows], [(test, 15, 4)])

    def test_what_can_not_be_is_refused_by_name(self):
        early, later = ((DAY + timedelta(days=d)).isoformat() for d in (-60, 1))
        for sent, field, words in (
            (self.send([800] * 3), "caught_ml", "each of its 4 emitters"),
            (self.send([]), "caught_ml", ""), (self.send([800, 800, 800, -1]), "caught_ml.3", ""),
            (self.send(EVEN, minutes=0), "minutes", ""), (self.send(EVEN, day=later), "day", "still to come"),
            (self.send(EVEN, day=early), "day", "before the layout was laid"),
            (self.send(EVEN, tree_id=self.tree(tag="T-9")), "tree_id", "keep the layout"),
        ):  # fmt: skip
            with self.subTest(field=field, words=words):
                self.assertEqual(sent.status_code, 422, sent.text)
                errors = sent.json()["errors"] or [sent.json()]
                self.assertIn(field, errors[0]["field"])
                self.assertIn(words, errors[0]["detail"])
        self.assertEqual(self.drip(self.oak)["catches"], [])
        self.assertEqual(self.client.post(f"/api/drip-catches/{new_id()}/withdraw").status_code, 404)


class OnALine(CatchTest):
    def test_a_line_s_flow_is_that_of_its_trees_as_they_were_found(self):
        trees, line = self.row(2)
        self.supply(line, static_head_m=30, open_flow_l_per_h=1200, regulator_head_m=14.06)
        self.client.put(f"/api/lines/{line}/layouts/{new_id()}", json={})
        cups = len(self.drip(trees[0])["looks"][0]["look"]["emitters"])
        self.keep([500] * cups, tree_id=trees[0])
        page = self.client.get(f"/api/lines/{line}").json()
        flows = [t["look"]["figures"]["flow_l_per_h"] for t in page["trees"]]
        self.assertAlmostEqual(flows[0], 2.0 * cups)
        self.assertGreater(flows[1], flows[0])
        self.assertAlmostEqual(page["flow"]["flow_l_per_h"], sum(flows))
        self.assertEqual([one["tag"] for one in page["caught"]["trees"]], ["R-0"])
        others = len(self.drip(trees[1])["looks"][0]["look"]["emitters"])
        self.keep([0] + [1000] * (others - 1), tree_id=trees[1])
        caught = self.client.get(f"/api/lines/{line}").json()["caught"]
        self.assertEqual([(one["tag"], one["blocked"]) for one in caught["trees"]], [("R-0", []), ("R-1", [1])])
        mean = 4 * (others - 1) / others
        self.assertEqual(caught["least"], 0)
        self.assertAlmostEqual(caught["uniformity"], 2 / ((2 + mean) / 2))
        self.assertIsNone(self.client.get(f"/api/lines/{line}", params={"anew": True}).json()["caught"])


if __name__ == "__main__":
    unittest.main()
