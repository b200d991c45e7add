"""What whoever looks after the program asks it, and what it writes down of itself: nothing of a person."""

import json
import logging
import sys
import unittest
from unittest import mock

from fastapi.testclient import TestClient
from prometheus_client.parser import text_string_to_metric_families

from june_shade.api.app import create_app
from june_shade.api.watching import AsJson
from june_shade.plans import watching
from june_shade.settings import Settings
from june_shade.store import jobs
from june_shade.store.session import transaction
from tests.support import client, fresh_database, new_id, plant_id, small_site, tree_body


class Watching(unittest.TestCase):
    def setUp(self):
        self.client = self.enterContext(client())

    def told(self) -> dict[str, list]:
        answer = self.client.get("/api/metrics")
        self.assertEqual(answer.status_code, 200)
        return {family.name: family.samples for family in text_string_to_metric_families(answer.text)}

    def test_it_lives_and_is_ready_without_signing_in(self):
        self.assertEqual(self.client.get("/api/alive").json(), {"status": "alive"})
        self.assertEqual(self.client.get("/api/ready").json(), {"status": "ready"})

    def test_it_is_not_ready_with_another_schema_or_no_database_and_lives_all_the_same(self):
        with mock.patch.object(watching, "_needed", return_value="9999"):
            self.assertEqual(self.client.get("/api/ready").status_code, 503)
        away = create_app(Settings(database_url="postgresql://june@127.0.0.1:1/none", works=False))
        other = TestClient(away, "http://127.0.0.1")
        self.assertEqual(other.get("/api/ready").status_code, 503)
        self.assertEqual(other.get("/api/alive").status_code, 200)

    def test_metrics_count_answers_by_route_and_name_no_row(self):
        tree = new_id()
        for _ in range(3):
            self.client.get(f"/api/trees/{tree}")
        self.client.get("/api/sites")
        counted = {
            (s.labels["route"], s.labels["status"]): s.value for s in self.told()["june_answers"]
            if s.name == "june_answers_total"
        }  # fmt: skip
        self.assertEqual(counted["get_tree", "404"], 3)
        self.assertEqual(counted["list_sites", "200"], 1)
        self.assertNotIn(tree, self.client.get("/api/metrics").text)

    def test_metrics_tell_what_waits_in_the_background(self):
        before = {s.labels["state"]: s.value for s in self.told()["june_jobs"]}
        with transaction(self.client.app.state.sessions) as session:
            jobs.choose_now(session, soon=False)
        after = {s.labels["state"]: s.value for s in self.told()["june_jobs"]}
        self.assertEqual(after["todo"], before["todo"] + 1)
        self.assertGreaterEqual(self.told()["june_oldest_job_seconds"][0].value, 0)

    def test_metrics_are_told_here_or_to_who_has_the_word(self):
        forwarded = self.client.get("/api/metrics", headers={"x-forwarded-for": "203.0.113.9"})
        self.assertEqual(forwarded.status_code, 403)
        app = create_app(Settings(database_url=fresh_database(), metrics_word="heron", works=False))
        other = TestClient(app, "http://127.0.0.1")
        self.assertEqual(other.get("/api/metrics").status_code, 403)
        self.assertEqual(other.get("/api/metrics", headers={"authorization": "Bearer crane"}).status_code, 403)
        self.assertEqual(other.get("/api/metrics", headers={"authorization": "Bearer heron"}).status_code, 200)
        app.state.sessions.kw["bind"].dispose()

    def test_a_line_of_the_log_is_json_and_holds_no_id_name_or_address(self):
        app = create_app(Settings(database_url=fresh_database(), log_json=True, works=False))
        with transaction(app.state.sessions) as session:
            site, plant = small_site(session).id, plant_id(session)
        other = TestClient(app, "http://127.0.0.1")
        body, tree = tree_body(site, plant, tag="Gnarled-1"), new_id()
        with self.assertLogs("june_shade.answers", logging.INFO) as caught:
            other.put(f"/api/trees/{tree}", json=body)
            other.get("/api/trees?q=Gnarled-1")
        lines = [json.loads(AsJson().format(record)) for record in caught.records]
        self.assertEqual([(one["method"], one["route"], one["status"]) for one in lines],
                         [("PUT", "put_tree", 200), ("GET", "list_trees", 200)])  # fmt: skip
        for word in (tree, "Gnarled", "testclient", "127.0.0.1"):
            self.assertNotIn(word, json.dumps(lines))
        app.state.sessions.kw["bind"].dispose()

    def test_a_fault_s_line_keeps_its_place(self):
        try:
            raise ValueError("of two minds")
        except ValueError:
            record = logging.LogRecord("june_shade", logging.ERROR, "x", 1, "error %s", ("ab",), sys.exc_info())
        line = json.loads(AsJson().format(record))
        self.assertEqual((line["level"], line["words"]), ("error", "error ab"))
        self.assertIn("of two minds", line["fault"])


if __name__ == "__main__":
    unittest.main()
