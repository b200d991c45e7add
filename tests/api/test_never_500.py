"""Whatever comes in, the answer says what was wrong: no error that was not foreseen, nothing half stored."""

import json
import os
import re
import subprocess
import sys
import tempfile
import unittest
from datetime import timedelta
from pathlib import Path
from uuid import UUID

import httpx

from june_shade.api.context import COOKIE
from june_shade.api.schemas.weather import StationIn
from june_shade.demo import people
from june_shade.launch import serving
from june_shade.settings import Settings
from june_shade.store.session import make_engine, make_sessions, transaction
from tests.api.test_drip import EMITTERS
from tests.api.test_trees import RegisterTest
from tests.support import DAY, bring, everything, fresh_database, new_id, plant_id, small_site, tree_body, water_body

CALLS_EACH = {"owner": 1, "lead": 1, "technician": 1, "client": 1, "stranger": 1}
"""Made up of each route; a stranger is an owner who knows the ids of another firm's things."""
TIMES = int(os.environ.get("JUNE_CALLS_TIMES", "1"))
"""So many times as many, for a long run."""
SHARED = ("lead", "technician", "client")
"""Roles that differ in what they are let in to, which tests/api/test_accounts.py looks at route by route: each has its
part of the addresses made up for it; in a long run all."""
SEED = 20261127
MARK = "Heron7f3a"
"""Stands in all that the other firm has."""
OUT = ("DELETE /api/session", "POST /api/devices/{device_id}/sign-out")
"""Whoever does this is out, and all that follows is refused."""
FEW_OF = {
    "PUT /api/lines/{line_id}/layouts/{batch_id}": 8, "POST /api/trees/{tree_id}/mulch/saving": 8,
    "PUT /api/stations/{station_id}": 10, "PUT /api/lines/{line_id}/supply": 10,
    "GET /api/plantings/{planting_id}/when": 3, "GET /api/savings": 3,
}  # fmt: skip
"""Calls of what takes half a second each."""
NUL = "\0"
FORM, NO_TYPE = "PUT /api/imports/{import_id}", "ST201 Schema-violating request accepted"


class Typed(RegisterTest):
    """What was once an error that was not foreseen, by hand."""

    def setUp(self):
        super().setUp()
        self.tree = new_id()
        self.body = tree_body(self.site_id, self.plant)
        self.client.put(f"/api/trees/{self.tree}", json=self.body)
        self.station = self.client.get("/api/stations").json()[0]["id"]

    def refused(self, answer, field: str = ""):
        """An answer that names what was wrong, and a program that goes on."""
        self.assertIn(answer.status_code, (400, 404, 409, 413, 414, 422), answer.text)
        self.assertEqual(answer.headers["content-type"], "application/problem+json")
        if field:
            self.assertIn(field, [answer.json()["field"], *(e["field"] for e in answer.json()["errors"])], answer.text)
        self.assertEqual(self.client.get("/api/today").status_code, 200)

    def put_tree(self, **changed):
        return self.client.put(f"/api/trees/{self.tree}", json=self.body | changed)

    def test_a_nul_anywhere(self):
        for name in ("tag", "place", "side", "note_for_crew", "stop", "line"):
            self.refused(self.put_tree(**{name: f"a{NUL}b"}), name)
        self.refused(self.client.put(f"/api/people/{new_id()}", json={"name": NUL}), "name")
        for path in ("/%00", "/api/trees?q=%00", "/api/%00", "/assets/%00.js", "/api/trees/%00"):
            self.refused(self.client.get(path))
        files = {"file": ("t.csv", f"site,tag\nA{NUL},1\n".encode())}
        self.assertIn(bring(self.client, files["file"][1], name=f"a{NUL}.csv")["state"], ("refused", "read"))
        for text in (f"site,tag,b{NUL}\nA,1,2\n", f"date,tmax_c,b{NUL}\n2026-07-01,30,{NUL}\n", f"{NUL}\n"):
            for station in (None, self.station):
                found = bring(self.client, text.encode(), station=station)
                self.assertNotIn("went wrong in the program", found["problem"], (text, station))
        answer = self.client.put(
            f"/api/imports/{new_id()}", params={"station_id": self.station}, files=files,
            data={"mapping": json.dumps({f"a{NUL}": "date"})},
        )  # fmt: skip
        self.assertLess(answer.status_code, 500, answer.text)

    def test_days_before_and_after_all_records(self):
        for day in ("0001-01-01", "9999-12-31", "1849-12-31"):
            for name in ("planted_on", "bud_break_on", "mulch_measured_on"):
                self.refused(self.put_tree(**{name: day}), name)
            self.refused(self.client.get(f"/api/stations/{self.station}/days/{day}/eto"))
            self.refused(self.client.get("/api/order", params={"day": day}))
            entry = water_body(self.tree, 3.0) | {"happened_at": f"{day}T00:00:00Z"}
            self.refused(self.client.put(f"/api/log/{new_id()}", json=entry), "happened_at")
            gauge = {"readings": [{"day": day, "rain_mm": 3.0}]}
            self.refused(self.client.put(f"/api/sites/{self.site_id}/gauge", json=gauge))

    def test_addresses_and_pages_out_of_all_measure(self):
        self.refused(self.client.get("/api/trees", params={"offset": 2**63}), "offset")
        self.refused(self.client.get("/api/trees", params={"limit": 10**30}), "limit")
        for path in ("/" + "a" * 7000, "/" + "a" * 9000, "/api/trees/" + "9" * 5000, "/..%2f..%2fetc/passwd"):
            self.assertLess(self.client.get(path).status_code, 500, path[:20])

    def test_another_method_is_told_what_the_address_answers_to(self):
        answer = self.client.delete("/api/stations")
        self.assertEqual((answer.status_code, answer.headers["allow"]), (405, "GET, POST"))
        self.assertEqual(self.client.get("/api/trees/same").headers["allow"], "POST")
        self.assertEqual(self.client.put("/api/nothing/here").status_code, 404)

    def test_a_soil_that_the_equations_do_not_hold_for(self):
        for sand, silt, clay, organic in ((97, 1, 2, 0), (99, 1, 0, 0), (100, 0, 0, 0)):
            reading = {"kind": "percentages", "sand_percent": sand, "silt_percent": silt, "clay_percent": clay,
                       "organic_percent": organic, "packing": "compacted"}  # fmt: skip
            body = {"day": "2026-07-01", "reading": reading, "used": True}
            answer = self.client.put(f"/api/sites/{self.site_id}/soil-tests/{new_id()}", json=body)
            self.assertLess(answer.status_code, 500, answer.text)

    def test_numbers_that_are_none(self):
        send = lambda text: self.client.put(  # noqa: E731
            f"/api/trees/{self.tree}",
            content=json.dumps(self.body).replace('"caliper_m": 0.0508', f'"caliper_m": {text}'),
            headers={"Content-Type": "application/json"},
        )
        self.assertEqual(send("0.0508").status_code, 200)
        for text in (
            "1e999",
            "-1e999",
            "NaN",
            "Infinity",
            "true",
            "false",
            "1e-60",
            "0",
            "null",
            '"x"',
            "[]",
            "1" * 400,
        ):
            self.refused(send(text), "caliper_m")
        for name, value in (("emitter_count", True), ("row_place", False), ("basin_diameter_m", 1e-60)):
            self.refused(self.put_tree(**{name: value}), name)
        station = self.client.get("/api/stations").json()[0]
        body = {name: value for name, value in station.items() if name in StationIn.model_fields and name != "version"}
        monthly = body | {"monthly_eto_mm": [True] * 12}
        self.refused(self.client.put(f"/api/stations/{self.station}", json=monthly), "monthly_eto_mm")

    def test_files_that_are_none(self):
        deep = "[" * 100_000 + "]" * 100_000
        long_cell = "site,tag\n" + "a" * 200_000 + ",1\n"
        for station in (None, self.station):
            for data in (long_cell.encode(), b"\xff\xfe\x00\x00", b'"' + b"\n" * 50_000, b"a,b\n" * 50_000, b""):
                found = bring(self.client, data, station=station)
                self.assertTrue(found.get("status", 500) < 500 or found["state"] in ("refused", "read"), found)
                self.assertNotIn("went wrong in the program", found.get("problem", ""), (station, data[:20]))
            found = bring(self.client, b"date,tmax_c\n", station=station, mapping=deep)
            self.assertLess(found["status"], 500)


class Fuzzed(unittest.TestCase):
    """Calls made up from the API's own description under every role, with all checks of the library that makes them."""

    def test_nothing_that_fits_the_description_or_breaks_it_goes_wrong(self):
        address = fresh_database("firms")
        with tempfile.TemporaryDirectory() as folder, serving.background(Settings(database_url=address)) as at:
            self.at, self.folder = f"{at}/api", Path(folder)
            self.owner, other = self.come_in("Odile"), self.come_in("Tove")
            ours = self.a_little_of_all(address, self.owner, people.FIRM)
            theirs = self.a_little_of_all(address, other, people.OTHER_FIRM, MARK)
            calls = 0
            for name, client in (
                ("owner", self.owner), ("lead", self.come_in("Noor")), ("technician", self.come_in("Tavi")),
                ("client", self.a_client()), ("stranger", self.owner),
            ):  # fmt: skip
                with self.subTest(role=name):
                    calls += self.called(name, client, theirs if name == "stranger" else ours, self.asked_of(name))
                    self.assertEqual(self.owner.get("/sites").status_code, 200, "nobody was let in any more")
            print(f"{calls} calls made up", file=sys.__stderr__)  # told also where all went well
            self.assertGreater(calls, 500)
            self.assertIn(MARK, other.get("/sites").text, "what is the other firm's is still theirs")

    def asked_of(self, name: str) -> list[str]:
        """The addresses that are called under a role: all, where a role shares them with others its part of them."""
        every = sorted(self.owner.get("/openapi.json").json()["paths"])
        return every[SHARED.index(name) :: len(SHARED)] if name in SHARED and TIMES == 1 else every

    def called(self, name: str, client: httpx.Client, ids: dict[str, str], paths: list[str]) -> int:
        """How many calls were made under a role; nothing went wrong, and nothing was told of another firm."""
        folder = self.folder / name
        folder.mkdir()
        config, told = folder / "schemathesis.toml", folder / "told.har"
        config.write_text(self.config(ids, client.cookies[COOKIE]))
        done = subprocess.run(
            [Path(sys.executable).with_name("st"), "--config-file", config, "run", f"{self.at}/openapi.json",
             "--phases", "fuzzing", "--max-examples", str(CALLS_EACH[name] * TIMES), "--seed", str(SEED),
             *(word for path in paths for word in ("--include-path", path)), "--checks", "all", "--no-color",
             "--generation-database", "none", "--report-har-path", told],
            cwd=folder, capture_output=True, text=True, timeout=900 * TIMES,
        )  # fmt: skip
        broken = done.stdout.partition("= ERRORS =")[2].partition("= FAILURES =")[0].partition("= WARNINGS =")[0]
        failures = done.stdout.partition("= FAILURES =")[2].partition("= WARNINGS =")[0]
        found = set(re.findall(r"^- (.+)$", failures, re.MULTILINE))
        of = set(re.findall(r"^_{3,} (.+?) _{3,}$", failures, re.MULTILINE))
        formless = of == {FORM} and found == {NO_TYPE}  # what a form sends as its file is bytes, whatever was meant
        wrong = (broken + failures)[:8000] or done.stdout[-6000:] + done.stderr[-2000:]
        self.assertTrue(done.returncode == 0 or formless, wrong)
        entries = json.loads(told.read_text(encoding="utf-8"))["log"]["entries"]
        for entry in entries:
            self.assertNotIn(MARK, entry["response"]["content"].get("text", ""), entry["request"]["url"])
        return len(entries)

    def come_in(self, name: str) -> httpx.Client:
        """Somebody who signed in."""
        client = self.enterContext(httpx.Client(base_url=self.at, timeout=60))
        known = next(one for one in people.PEOPLE if one["name"] == name)
        body = {field: known[field] for field in ("sign_in", "password")}
        self.assertEqual(client.post("/session", json=body).status_code, 204)
        return client

    def a_client(self) -> httpx.Client:
        """Somebody who only reads what is shared with them."""
        made = self.owner.put(f"/accounts/{new_id()}", json={"name": "Ilse", "sign_in": "ilse", "role": "client"})
        client = self.enterContext(httpx.Client(base_url=self.at, timeout=60))
        first, own = made.json()["password"], "seven herons by the canal"
        self.assertEqual(client.post("/session", json={"sign_in": "ilse", "password": first}).status_code, 204)
        self.assertEqual(client.put("/session/password", json={"old": first, "new": own}).status_code, 204)
        return client

    def a_little_of_all(self, address: str, client: httpx.Client, firm: str, mark: str = "") -> dict[str, str]:
        """A site with trees by hand, on a line, poured and let go, a crew, an order, a batch, a note, and the ids of
        such things. Few of each, since whatever is written has all of it reckoned again. mark: stands in all names."""
        with everything(address) as connection:
            row = connection.execute("SELECT id FROM organisation WHERE name = %s", (firm,)).fetchone()
        engine = make_engine(address)
        with transaction(make_sessions(engine).of(row[0])) as session:
            made = small_site(session)
            made.name = f"{mark} {made.name}".strip()
            site, plant = str(made.id), plant_id(session)
        engine.dispose()

        def put(path: str, body: dict) -> None:
            answer = client.put(path, json=body)
            self.assertLess(answer.status_code, 300, answer.text)

        trees = [new_id() for _ in range(4)]
        planted = (DAY - timedelta(days=40)).isoformat()
        for n, tree in enumerate(trees):
            line = EMITTERS | {"line": f"{mark}A", "row_place": n} if n > 1 else {}
            put(f"/trees/{tree}", tree_body(site, plant, tag=f"{mark}T-{n}", planted_on=planted, stop="Gate") | line)
        put(f"/log/{new_id()}", water_body(trees[0], 30.0))
        put(f"/log/{new_id()}", water_body(trees[0], None) | {"kind": "note", "note": f"{mark} sapsucker holes"})
        put(f"/crews/{new_id()}", {"name": f"{mark}North", "people": 2, "hours": 2.0})
        put(f"/let-go/{new_id()}", {"tree_id": trees[1], "by_name": f"{mark}Noor"})
        order = {"name": f"{mark}Stage 3", "stage": 3, "first_day": DAY.isoformat(), "rules": {"weekdays": [3, 6]}}
        put(f"/restrictions/{new_id()}", order | {"sites": [site], "week_l": 400.0})
        batch = {"count": 3, "tag": f"{mark}L-1", "site_id": site, "plant_id": str(plant), "kind": "container"}
        measures = {"caliper_m": 0.03, "ball_diameter_m": 0.4, "ball_height_m": 0.3}
        put(f"/plantings/{new_id()}", batch | measures | {"planned_on": (DAY + timedelta(days=60)).isoformat()})
        spare = new_id()
        put(f"/accounts/{spare}", {"name": f"{mark}Ari", "sign_in": f"{mark}ari", "role": "lead"})
        return self.ids(client, site) | {"account_id": spare}

    def ids(self, client: httpx.Client, site: str) -> dict[str, str]:
        """Ids that are there, so that calls get past the door."""
        get = lambda path: client.get(path).json()  # noqa: E731
        get("/openapi.json")  # made once; who asks first waits longer than the tool would
        ids = {
            "tree_id": get("/trees?limit=1")["trees"][0]["id"], "site_id": site,
            "station_id": get("/stations")[0]["id"],
            "plant_id": get("/plants")[0]["id"], "planting_id": get("/plantings")[0]["id"],
            "crew_id": get("/crews")[0]["id"], "order_id": get("/restrictions")[0]["id"],
            "line_id": next(line["id"] for s in get("/sites") for line in get(f"/sites/{s['id']}/lines")),
        }  # fmt: skip
        self.assertTrue(all(UUID(one) for one in ids.values()))
        return ids

    def config(self, ids: dict[str, str], cookie: str) -> str:
        """Which ids are called; which refusals are not faults.

        422 may follow from rules that a schema can't say (a basin round a tree on a bag); a field of a form has no
        type that could be wrong; an address may be too long before it is anything else. Whose account is changed is
        not the owner's: with a new password nobody is in any more.
        """
        few: list[str] = []
        for name in OUT:
            few += ["[[operations]]", f'include-name = "{name}"', "enabled = false"]
        for name, calls in FEW_OF.items():
            few += ["[[operations]]", f'include-name = "{name}"', "[operations.generation]", f"max-examples = {calls}"]
        return "\n".join((
            "request-timeout = 60", "[headers]", f'Cookie = "{COOKIE}={cookie}"', "[checks]",
            "max_response_time = 60.0", "[parameters]", *(f'"path.{name}" = "{value}"' for name, value in ids.items()),
            "[checks.positive_data_acceptance]",
            'expected-statuses = ["2xx", "401", "403", "404", "409", "413", "414", "422", "429"]',
            "[checks.negative_data_rejection]",
            'expected-statuses = ["400", "401", "403", "404", "405", "406", "409", "413", "414", "415", "422", "429"]',
            *few,
        ))  # fmt: skip


if __name__ == "__main__":
    unittest.main()
