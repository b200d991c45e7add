"""The end of a tree: out of every round and plan, kept in the book, taken back as it was."""

import unittest
from datetime import timedelta

from tests.api.test_trees import RegisterTest
from tests.support import DAY, new_id, tree_body, water_body


class Ends(RegisterTest):
    def setUp(self):
        super().setUp()
        self.planted = (DAY - timedelta(days=20)).isoformat()
        self.tree, self.other = self.made(tag="E-1"), self.made(tag="E-2")
        self.client.put(f"/api/log/{new_id()}", json=water_body(self.tree, 31.0))

    def made(self, **changed) -> str:
        tree = new_id()
        body = tree_body(self.site_id, self.plant, planted_on=self.planted, **changed)
        answer = self.client.put(f"/api/trees/{tree}", json=body)
        self.assertEqual(answer.status_code, 200, answer.text)
        return tree

    def end(self, end_id: str = "", tree: str = "", **changed):
        body = {"tree_id": tree or self.tree, "kind": "dead", "cause": "drought"} | changed
        return self.client.put(f"/api/tree-ends/{end_id or new_id()}", json=body)

    def tags(self, **query) -> list[str]:
        return [t["tag"] for t in self.client.get("/api/trees", params=query).json()["trees"]]

    def on_the_round(self) -> set[str]:
        sites = self.client.get("/api/today").json()["sites"]
        return {t["tag"] for site in sites for stop in site["stops"] for t in stop["trees"]}

    def test_it_leaves_rounds_lists_and_work_and_stays_in_the_book(self):
        self.assertEqual(self.on_the_round(), {"E-1", "E-2"})
        self.assertEqual(self.end().status_code, 200)
        self.assertEqual(self.on_the_round(), {"E-2"})
        self.assertEqual(self.tags(), ["E-2"])
        self.assertEqual(self.tags(state="ended"), ["E-1"])
        self.assertEqual(self.tags(sort="dry"), ["E-2"])
        self.assertEqual(self.client.get("/api/today").json()["trees"], 1)
        self.assertNotIn(self.tree, [t["tree_id"] for t in self.client.get("/api/care").json()["tasks"]])
        self.assertNotIn("E-1", self.client.get("/api/trees.csv").text)
        shown = self.client.get(f"/api/trees/{self.tree}").json()
        self.assertEqual((shown["end"]["kind"], shown["end"]["cause"]), ("dead", "drought"))
        self.assertEqual(shown["end"]["day"], DAY.isoformat())
        self.assertEqual([e["volume_l"] for e in self.client.get(f"/api/trees/{self.tree}/log").json()], [31.0])
        for page in ("water", "mulch", "planting", "drip"):
            self.assertEqual(self.client.get(f"/api/trees/{self.tree}/{page}").status_code, 404, page)

    def test_sent_twice_it_is_one_and_taken_back_it_stands_as_before(self):
        read = lambda: self.client.get(f"/api/trees/{self.tree}/water").json()  # noqa: E731
        before = read()
        end = new_id()
        first, again = self.end(end), self.end(end)
        self.assertEqual(first.json(), again.json())
        self.assertEqual(self.end().status_code, 409)
        for _ in range(2):
            self.assertEqual(self.client.post(f"/api/tree-ends/{end}/withdraw").status_code, 200)
        after = read()
        for page in (before, after):
            del page["tree"]["version"]
        self.assertEqual(after, before)
        self.assertIsNone(self.client.get(f"/api/trees/{self.tree}").json()["end"])

    def test_its_tag_is_free_for_the_one_that_comes_after_it(self):
        end = new_id()
        self.end(end)
        self.made(tag="E-1")
        self.assertEqual(sorted(self.tags()), ["E-1", "E-2"])
        back = self.client.post(f"/api/tree-ends/{end}/withdraw")
        self.assertEqual((back.status_code, back.json()["field"]), (409, "tag"))

    def test_a_day_that_can_not_be_is_refused(self):
        for day in (DAY + timedelta(days=1), DAY - timedelta(days=21)):
            refused = self.end(day=day.isoformat())
            self.assertEqual((refused.status_code, refused.json()["field"]), (422, "day"))
        self.assertEqual(self.end(tree=new_id()).status_code, 404)
        self.assertEqual(self.end(kind="tired").status_code, 422)
        self.assertEqual(self.on_the_round(), {"E-1", "E-2"})

    def test_an_entry_that_waited_for_signal_still_comes_in(self):
        self.end()
        late = self.client.put(f"/api/log/{new_id()}", json=water_body(self.tree, 5.0, at="05:50"))
        self.assertEqual(late.status_code, 201, late.text)

    def test_a_tag_that_begins_so_is_found_before_words_that_have_it_in_them(self):
        self.made(tag="A-9", place="the fourth, by the yurt")
        self.made(tag="RT-20")
        self.assertEqual(self.tags(q="rt"), ["RT-20", "A-9"])


class Closed(RegisterTest):
    def test_a_closed_site_is_in_the_book_only_and_opens_as_it_was(self):
        tree = new_id()
        self.client.put(f"/api/trees/{tree}", json=tree_body(self.site_id, self.plant))
        names = lambda path: [row["id"] for row in self.client.get(path).json()]  # noqa: E731
        before = self.client.get("/api/today").json()
        for _ in range(2):
            shut = self.client.put(f"/api/sites/{self.site_id}/closed", json={"closed": True})
            self.assertEqual((shut.status_code, shut.json()["closed_on"]), (200, DAY.isoformat()))
        self.assertEqual(names("/api/sites"), [])
        self.assertEqual(names("/api/sites?closed=true"), [str(self.site_id)])
        today = self.client.get("/api/today").json()
        self.assertEqual((today["sites"], today["trees"]), ([], 0))
        self.assertEqual(self.client.get("/api/trees").json()["count"], 0)
        self.assertEqual(self.client.get("/api/trees", params={"site_id": str(self.site_id)}).json()["count"], 1)
        self.assertEqual(self.client.get("/api/care").json()["tasks"], [])
        self.assertEqual(self.client.get(f"/api/trees/{tree}/water").status_code, 200)
        self.client.put(f"/api/sites/{self.site_id}/closed", json={"closed": False})
        self.assertEqual(self.client.get("/api/today").json(), before)

    def test_a_line_that_no_tree_hangs_on_is_closed_and_in_use_again_with_its_next_tree(self):
        tree = new_id()
        put = lambda **more: self.client.put(  # noqa: E731
            f"/api/trees/{tree}", json=tree_body(self.site_id, self.plant, **more)
        )
        self.assertEqual(put(line="Valve 1").status_code, 200)
        lines = lambda **query: self.client.get(f"/api/sites/{self.site_id}/lines", params=query).json()  # noqa: E731
        line = lines()[0]["id"]
        close = lambda closed: self.client.put(f"/api/lines/{line}/closed", json={"closed": closed})  # noqa: E731
        refused = close(True)
        self.assertEqual((refused.status_code, refused.json()["field"]), (409, "line_id"))
        self.assertEqual(put(line=None).status_code, 200)
        for _ in range(2):
            self.assertEqual((close(True).status_code, close(True).json()["closed_on"]), (200, DAY.isoformat()))
        self.assertEqual((lines(), [one["name"] for one in lines(closed=True)]), ([], ["Valve 1"]))
        self.assertEqual(self.client.get("/api/sites").json()[0]["lines"], [])
        self.assertIsNone(close(False).json()["closed_on"])
        close(True)
        self.assertEqual(put(line="Valve 1").status_code, 200)
        self.assertEqual([one["id"] for one in lines()], [line], "the same line, in use again")


if __name__ == "__main__":
    unittest.main()
