"""Today is made once per change: the same answer until something changes, and another one whatever changes."""

import unittest
from datetime import timedelta
from unittest import mock

from fastapi.testclient import TestClient

from june_shade.api.app import create_app
from june_shade.settings import Settings
from tests.api.test_trees import RegisterTest
from tests.support import DAY, SITE_SHOWN, new_id, tree_body, water_body


class Kept(RegisterTest):
    def setUp(self):
        super().setUp()
        self.tree = new_id()
        self.body = tree_body(self.site_id, self.plant, planted_on=(DAY - timedelta(days=9)).isoformat())
        self.put(f"/api/trees/{self.tree}", self.body)

    def put(self, path: str, body: dict):
        answer = self.client.put(path, json=body)
        self.assertLess(answer.status_code, 300, answer.text)
        return answer.json()

    def today(self, etag: str = ""):
        return self.client.get("/api/today", headers={"If-None-Match": etag} if etag else {})

    def test_a_note_for_the_crew_is_on_the_round_at_once(self):
        rows = lambda: [t for site in self.today().json()["sites"] for stop in site["stops"] for t in stop["trees"]]  # noqa: E731
        before = rows()
        self.assertTrue(before)
        self.put(f"/api/trees/{self.tree}", self.body | {"note_for_crew": "gas line on the north side"})
        after = rows()
        self.assertEqual([row["note_for_crew"] for row in after], ["gas line on the north side"])
        self.assertEqual([row | {"note_for_crew": ""} for row in after], before)

    def test_unchanged_it_is_not_made_again(self):
        first = self.today()
        with mock.patch("june_shade.plans.rounds.round_of_site", side_effect=AssertionError("made again")):
            again = self.today()
            self.assertEqual(again.content, first.content)
            unchanged = self.today(first.headers["etag"])
        self.assertEqual((unchanged.status_code, unchanged.content), (304, b""))

    def test_a_program_that_was_begun_anew_answers_whole(self):
        """A backup that was brought in meanwhile may have the same counts of changes and other trees."""
        first = self.today()
        address = self.client.app.state.sessions.kw["bind"].url.render_as_string(hide_password=False)
        begun = create_app(Settings(database_url=address))
        self.addCleanup(begun.state.sessions.kw["bind"].dispose)
        asked = {"If-None-Match": first.headers["etag"]}
        again = TestClient(begun, "http://127.0.0.1").get("/api/today", headers=asked)
        self.assertEqual((again.status_code, again.content), (200, first.content))

    def test_whatever_changes_makes_another(self):
        person, entry = new_id(), new_id()
        site = self.client.get("/api/sites").json()[0]
        kept = SITE_SHOWN
        site_body = {name: value for name, value in site.items() if name not in kept}
        changes = (
            lambda: self.put(f"/api/log/{entry}", water_body(self.tree, 12.0)),
            lambda: self.put(f"/api/trees/{self.tree}", self.body | {"tag": "T-9"}),
            lambda: self.put(f"/api/sites/{self.site_id}", site_body | {"crew_hours": 7.5}),
            lambda: self.put(f"/api/people/{person}", {"name": "Ida"}),
        )
        for n, change in enumerate(changes):
            before = self.today()
            change()
            after = self.today(before.headers["etag"])
            self.assertEqual(after.status_code, 200, f"change {n} was not seen")
            self.assertNotEqual(after.headers["etag"], before.headers["etag"])
        (tree,) = [t for s in self.today().json()["sites"] for stop in s["stops"] for t in stop["trees"]]
        self.assertEqual(tree["tag"], "T-9")
        self.assertEqual([e["volume_l"] for e in tree["entries"]], [12.0])

    def test_one_sites_change_leaves_the_others_as_they_were_made(self):
        from june_shade.plans import rounds
        from june_shade.store.session import transaction
        from tests.support import small_site

        with transaction(self.sessions) as session:
            other = small_site(session)
            other_id = other.id
        self.put(f"/api/trees/{new_id()}", self.body | {"site_id": str(other_id), "tag": "O-1"})
        self.today()
        with mock.patch("june_shade.plans.rounds.round_of_site", side_effect=rounds.round_of_site) as made:
            self.put(f"/api/log/{new_id()}", water_body(self.tree, 3.0))
            self.today()
        self.assertEqual([str(call.args[1].id) for call in made.call_args_list], [str(self.site_id)])

    def test_what_a_day_is_worked_under_is_read_once_however_many_sites_there_are(self):
        from june_shade.plans.choosing import given
        from june_shade.store.session import transaction
        from tests.support import small_site

        with transaction(self.sessions) as session:
            others = [small_site(session).id for _ in range(3)]
        for other in others:
            self.put(f"/api/trees/{new_id()}", self.body | {"site_id": str(other), "tag": "O-1"})
        with mock.patch.object(given, "load", side_effect=given.load) as read:
            self.assertEqual(len([site for site in self.today().json()["sites"] if site["crew"]]), 4)
        self.assertEqual(read.call_count, 1)


if __name__ == "__main__":
    unittest.main()
