"""Who may come in, how much they may bring, how many at once; and what browsers are told about the answers."""

import asyncio
import threading
import time
import unittest

from fastapi.testclient import TestClient
from starlette.responses import PlainTextResponse

from june_shade.api.app import create_app
from june_shade.api.gate import Gate
from june_shade.settings import Settings
from tests.api.test_trees import RegisterTest
from tests.support import new_id, tree_body, water_body


class Door(RegisterTest):
    def test_another_name_is_not_answered(self):
        for host in ("evil.example", "127.0.0.1.evil.example", "", "[::1", "localhost.evil.example:8640"):
            answer = self.client.get("/api/sites", headers={"Host": host})
            self.assertEqual((answer.status_code, answer.json()["code"]), (421, "host"), host)
        for host in ("localhost:8640", "127.0.0.1", "[::1]:80"):
            self.assertEqual(self.client.get("/api/sites", headers={"Host": host}).status_code, 200, host)

    def test_a_name_of_ones_own_is_answered_once_it_is_set(self):
        app = create_app(Settings(hosts=("trees.example",)))
        with TestClient(app, "http://trees.example") as client:
            self.assertNotEqual(client.get("/").status_code, 421)

    def test_a_foreign_page_can_not_write(self):
        person = f"/api/people/{new_id()}"
        for headers in (
            {"Origin": "http://evil.example"}, {"Origin": "null"}, {"Origin": "http://127.0.0.1:9999"},
            {"Sec-Fetch-Site": "cross-site"}, {"Sec-Fetch-Site": "same-site"},
        ):  # fmt: skip
            for method, path in (
                ("PUT", person),
                ("POST", "/api/clock/step"),
                ("POST", f"/api/imports/{new_id()}/undo"),
            ):
                answer = self.client.request(method, path, json={"name": "Ida"}, headers=headers)
                self.assertEqual((answer.status_code, answer.json()["code"]), (403, "origin"), (headers, path))
        self.assertEqual(self.client.get("/api/people").json(), [])
        own = {"Origin": "http://127.0.0.1", "Sec-Fetch-Site": "same-origin"}
        self.assertEqual(self.client.put(person, json={"name": "Ida"}, headers=own).status_code, 200)

    def test_what_browsers_are_told(self):
        for path in ("/", "/api/sites", "/api/none", "/api/today"):
            headers = self.client.get(path).headers
            self.assertEqual(headers["x-content-type-options"], "nosniff", path)
            self.assertIn("frame-ancestors 'none'", headers["content-security-policy"])
            self.assertIn("script-src 'self';", headers["content-security-policy"])
            self.assertEqual(headers["referrer-policy"], "same-origin")
        self.assertEqual(self.client.get("/api/sites").headers["cache-control"], "no-store")
        self.assertEqual(self.client.get("/api/today").headers["cache-control"], "private, no-cache")


class Bodies(RegisterTest):
    def test_a_body_is_read_up_to_its_limit(self):
        big = b'{"name": "' + b"a" * 1_100_000 + b'"}'
        path = f"/api/people/{new_id()}"
        sent: list[int] = []

        def pieces():
            for start in range(0, 40 * len(big), 100_000):
                sent.append(start)
                yield big[start % len(big) : start % len(big) + 100_000]

        for content in (big, pieces()):
            answer = self.client.put(path, content=content, headers={"Content-Type": "application/json"})
            self.assertEqual(answer.status_code, 413, answer.text)
            self.assertIn("over 1 MB", answer.json()["detail"])

    def test_a_file_may_be_larger_and_has_a_limit_too(self):
        send = lambda size: self.client.put(f"/api/imports/{new_id()}", files={"file": ("t.csv", b"a" * size)})  # noqa: E731
        self.assertNotEqual(send(1_500_000).status_code, 413)
        answer = send(21_000_000)
        self.assertEqual((answer.status_code, answer.json()["field"]), (413, "file"))


class Lag(RegisterTest):
    def setUp(self):
        super().setUp()
        self.tree = new_id()
        self.client.put(f"/api/trees/{self.tree}", json=tree_body(self.site_id, self.plant))

    def litres(self, most_s: int | None = None):
        headers = {} if most_s is None else {"Cache-Control": f"max-age={most_s}"}
        answer = self.client.get("/api/today", headers=headers)
        trees = [t for site in answer.json()["sites"] for stop in site["stops"] for t in stop["trees"]]
        return [e["volume_l"] for t in trees for e in t["entries"]]

    def test_another_ones_entry_may_lag_one_s_own_never(self):
        self.assertEqual(self.litres(), [])
        self.client.put(f"/api/log/{new_id()}", json=water_body(self.tree, 12.0))
        self.assertEqual(self.litres(2), [], "made anew though it need not be")
        self.assertEqual(self.litres(0), [12.0])
        self.assertEqual(self.litres(2), [12.0])

    def test_it_never_lags_longer_whatever_is_allowed(self):
        self.litres()
        self.client.put(f"/api/log/{new_id()}", json=water_body(self.tree, 12.0))
        deadline = time.monotonic() + 2.2
        while time.monotonic() < deadline:
            time.sleep(0.1)
        self.assertEqual(self.litres(3600), [12.0])

    def test_many_at_once_are_one_making(self):
        from unittest import mock

        from june_shade.plans import rounds

        slow = rounds.round_of_site

        def counted(*args):
            time.sleep(0.3)
            return slow(*args)

        with mock.patch("june_shade.plans.rounds.round_of_site", side_effect=counted) as made:
            threads = [threading.Thread(target=self.litres) for _ in range(12)]
            for one in threads:
                one.start()
            for one in threads:
                one.join()
        self.assertLessEqual(made.call_count, 2)


class Turns(unittest.TestCase):
    """The gate before a program that takes its time."""

    def ask(self, gate: Gate, path: str, method: str = "GET"):
        said: list[dict] = []

        async def send(message):
            said.append(message)

        async def receive():
            return {"type": "http.request", "body": b"", "more_body": False}

        scope = {"type": "http", "path": path, "method": method, "headers": [], "query_string": b""}
        return gate(scope, receive, send), said

    def test_pages_wait_for_their_turn_and_too_many_are_sent_off_at_once_entries_pass_them(self):
        async def tried():
            go_on = asyncio.Event()

            async def slow(scope, receive, send):
                if not scope["path"].startswith("/api/log"):
                    await go_on.wait()
                await PlainTextResponse("good")(scope, receive, send)

            gate = Gate(slow, at_once=1)
            gate.pages.waiting = 1
            asked = [self.ask(gate, "/api/trees") for _ in range(3)]
            running = [asyncio.ensure_future(one) for one, _ in asked]
            await asyncio.sleep(0)
            await asyncio.wait_for(running[2], 1)
            entry, said = self.ask(gate, f"/api/log/{new_id()}", "PUT")
            await asyncio.wait_for(entry, 1)
            go_on.set()
            await asyncio.gather(*running)
            return [one[0] for _, one in asked], said[0]

        (first, second, third), entry = asyncio.run(tried())
        self.assertEqual([first["status"], second["status"], entry["status"]], [200, 200, 200])
        self.assertEqual(third["status"], 503)
        self.assertIn((b"retry-after", b"1"), third["headers"])

    def test_no_one_waits_for_ever(self):
        async def tried():
            async def stuck(scope, receive, send):
                await asyncio.sleep(60)

            gate = Gate(stuck, at_once=1)
            gate.pages.patience_s = 0.05
            first = asyncio.ensure_future(self.ask(gate, "/api/trees")[0])
            await asyncio.sleep(0)
            second, said = self.ask(gate, "/api/trees")
            await asyncio.wait_for(second, 2)
            first.cancel()
            return said[0]["status"]

        self.assertEqual(asyncio.run(tried()), 503)


if __name__ == "__main__":
    unittest.main()
