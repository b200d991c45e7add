"""Coming in: roles, passwords, devices, turns on a crew's phone, throttle; nobody does what is not theirs."""

import io
import unittest
import zipfile
from datetime import timedelta
from unittest import mock

from fastapi.testclient import TestClient
from sqlalchemy import select, text

from june_shade.api import access
from june_shade.api.app import create_app
from june_shade.api.context import COOKIE
from june_shade.core.errors import InputError
from june_shade.demo import people as demo
from june_shade.plans import backup, organisations, pictures
from june_shade.plans.accounts import secrets, signing
from june_shade.plans.accounts.roles import LEAD, OWNER, TECHNICIAN
from june_shade.settings import Settings
from june_shade.store.account_tables import AuditEntry
from june_shade.store.log_tables import LogEntry
from june_shade.store.session import transaction
from tests.support import PICTURES, client, fresh_database, new_id, plant_id, small_site, tree_body, water_body

WORDS = "eleven crows on a gate"


def known(name: str) -> dict:
    return next(one for one in demo.PEOPLE if one["name"] == name)


class Accounts(unittest.TestCase):
    """An application with the demo's two firms."""

    def setUp(self):
        self.client = self.enterContext(client("firms"))
        self.sessions = self.client.app.state.sessions
        with transaction(self.sessions) as session:
            self.site = small_site(session).id
            self.plant = plant_id(session)

    def phone(self, name: str | None = None, **more) -> TestClient:
        """A browser of its own, signed in as one of the demo's people."""
        made = TestClient(self.client.app, "http://127.0.0.1", raise_server_exceptions=False)
        if name is not None:
            self.assertEqual(self.come_in(made, name, **more).status_code, 204)
        return made

    def come_in(self, phone: TestClient, name: str, password: str | None = None, **more):
        one = known(name)
        sent = {"sign_in": one["sign_in"], "password": password or one["password"], **more}
        return phone.post("/api/session", json=sent)

    def tree(self, phone: TestClient, tag: str = "T-1") -> str:
        body, tree = tree_body(self.site, self.plant, tag=tag), new_id()
        self.assertEqual(phone.put(f"/api/trees/{tree}", json=body).status_code, 200)
        return tree


class Founding(unittest.TestCase):
    FOUNDER = {"organisation": "Curlew Trees", "name": "Ada", "sign_in": "ada", "password": WORDS}

    def test_without_accounts_it_is_open_and_the_first_owner_closes_it(self):
        here = self.enterContext(client())
        told = here.get("/api/session").json()
        self.assertTrue(told["is_open"])
        self.assertIsNone(told["me"])
        self.assertEqual(here.get("/api/sites").status_code, 200)
        early = here.put(f"/api/accounts/{new_id()}", json={"name": "Bo", "sign_in": "bo", "role": TECHNICIAN})
        self.assertEqual(early.status_code, 409, "the door would close with nobody who has a key")
        self.assertEqual(here.post("/api/owner", json=self.FOUNDER).status_code, 204)
        told = here.get("/api/session").json()
        self.assertEqual((told["organisation"], told["me"]["role"], told["is_open"]), ("Curlew Trees", OWNER, False))
        other = TestClient(here.app, "http://127.0.0.1")
        self.assertEqual(other.get("/api/sites").json()["code"], "sign_in")
        self.assertEqual(other.get("/api/sites").status_code, 401)
        self.assertEqual(other.post("/api/owner", json=self.FOUNDER).status_code, 409)

    def test_a_password_that_is_guessed_soon_founds_nothing(self):
        here = self.enterContext(client())
        for bad in ("short", "password1234", "curlew trees", "aaaaaaaaaaaaaaaa", "adaadaadaada", "1234567890123"):
            with self.subTest(bad):
                answer = here.post("/api/owner", json=self.FOUNDER | {"password": bad})
                self.assertEqual((answer.status_code, answer.json()["field"]), (422, "password"))
        self.assertTrue(here.get("/api/session").json()["is_open"])


class ComingIn(Accounts):
    def test_a_wrong_name_and_a_wrong_password_are_answered_alike(self):
        phone = self.phone()
        wrong = self.come_in(phone, "Noor", "not the password")
        nobody = phone.post("/api/session", json={"sign_in": "nobody", "password": WORDS})
        self.assertEqual(wrong.status_code, 401)
        self.assertEqual(wrong.json(), nobody.json())
        self.assertNotIn(COOKIE, phone.cookies)

    def test_the_cookie_can_not_be_read_by_scripts_and_holds_nothing_that_is_stored(self):
        phone = self.phone()
        told = self.come_in(phone, "Noor").headers["set-cookie"].lower()
        for word in ("httponly", "samesite=lax", "path=/"):
            self.assertIn(word, told)
        secure = TestClient(self.client.app, "https://127.0.0.1")
        self.assertIn("secure", self.come_in(secure, "Noor").headers["set-cookie"].lower())
        with self.sessions.of_all()() as session:
            kept = session.execute(text("SELECT token_sha256 FROM device")).scalars().all()
        self.assertNotIn(phone.cookies[COOKIE], kept)

    def test_after_some_wrong_tries_the_right_one_waits_too(self):
        phone, tries = self.phone(), signing.FREE_TRIES["name"]
        for _ in range(tries):
            self.assertEqual(self.come_in(phone, "Noor", "wrong " + WORDS).status_code, 401)
        locked = self.come_in(phone, "Noor")
        self.assertEqual((locked.status_code, locked.json()["code"]), (429, "too_many_tries"))
        self.assertGreater(int(locked.headers["retry-after"]), 1)
        self.assertEqual(self.come_in(phone, "Tavi").status_code, 204, "others are not kept waiting")
        later = signing.now() + timedelta(minutes=1)
        with mock.patch.object(signing, "now", return_value=later):
            self.assertEqual(self.come_in(phone, "Noor").status_code, 204)
            for _ in range(tries - 1):
                self.come_in(phone, "Noor", "wrong again")
            self.assertEqual(self.come_in(phone, "Noor").status_code, 204, "coming in forgives")

    def test_who_has_an_account_does_not_clear_an_address_by_coming_in(self):
        phone = self.phone()
        for _ in range(3):
            self.come_in(phone, "Tavi", "wrong " + WORDS)
            self.come_in(phone, "Noor")
        with self.sessions.of_all()() as session:
            kept = dict(session.execute(text("SELECT key, failures FROM sign_in_try")).all())
        self.assertEqual([n for key, n in kept.items() if key.startswith("address")], [3])

    def test_the_old_password_is_not_guessed_for_ever_on_a_phone_that_was_left_lying(self):
        phone, wrong = self.phone("Noor"), {"old": "not it at all", "new": WORDS}
        for _ in range(signing.FREE_TRIES["password"]):
            self.assertEqual(phone.put("/api/session/password", json=wrong).status_code, 401)
        right = wrong | {"old": known("Noor")["password"]}
        self.assertEqual(phone.put("/api/session/password", json=right).status_code, 429)
        self.assertEqual(phone.get("/api/sites").status_code, 200)

    def test_tries_are_forgotten_once_they_count_no_more(self):
        self.come_in(self.phone(), "Noor", "wrong " + WORDS)
        left = []
        for later in (timedelta(hours=1), signing.FORGOTTEN + timedelta(hours=1)):
            at = signing.now() + later
            with mock.patch.object(signing, "now", return_value=at), transaction(self.sessions.of_all()) as session:
                signing.forget_tries(session)
                left.append(session.execute(text("SELECT count(*) FROM sign_in_try")).scalar())
        self.assertEqual(left, [2, 0])

    def test_a_phone_in_use_stays_signed_in_beyond_a_month(self):
        phone = self.phone("Noor")
        began = signing.now()
        for days in (20, 40, 60):
            with mock.patch.object(signing, "now", return_value=began + timedelta(days=days)):
                self.assertEqual(phone.get("/api/sites").status_code, 200, days)

    def test_waits_grow_and_end(self):
        waits = [signing.wait_of("name", n) for n in range(40)]
        self.assertEqual(waits, sorted(waits))
        self.assertEqual((waits[0], waits[-1]), (timedelta(0), signing.LONGEST_WAIT))

    def test_a_phone_that_is_not_used_for_long_is_signed_out(self):
        phone = self.phone("Noor")
        for later, status in ((signing.STAYS - timedelta(hours=1), 200), (signing.STAYS * 3, 401)):
            at = signing.now() + later
            with mock.patch.object(signing, "now", return_value=at):
                self.assertEqual(phone.get("/api/sites").status_code, status)

    def test_who_signs_in_anew_leaves_no_device_behind(self):
        phone = self.phone("Noor")
        first = phone.cookies[COOKIE]
        self.come_in(phone, "Tavi")
        thief = TestClient(self.client.app, "http://127.0.0.1", cookies={COOKIE: first})
        self.assertEqual(thief.get("/api/sites").status_code, 401)
        self.assertEqual(phone.get("/api/session").json()["me"]["name"], "Tavi")

    def test_a_cookie_that_was_made_up_or_signed_out_is_none(self):
        phone = self.phone("Noor")
        stolen = phone.cookies[COOKIE]
        thief = TestClient(self.client.app, "http://127.0.0.1", cookies={COOKIE: stolen})
        self.assertEqual(thief.get("/api/sites").status_code, 200)
        self.assertEqual(phone.delete("/api/session").status_code, 204)
        self.assertEqual(thief.get("/api/sites").status_code, 401)
        for token in ("", "x", stolen[:-1], "' OR 1=1 --", "\xe9"):
            other = TestClient(self.client.app, "http://127.0.0.1")
            answer = other.get("/api/sites", headers={"cookie": f"{COOKIE}={token}".encode("latin-1")})
            self.assertEqual(answer.status_code, 401)


class Roles(Accounts):
    def test_every_route_that_writes_is_somebody_s(self):
        """A new route is nobody's but an owner's until it is named; this says so before a technician finds out."""
        names, writes = set(), set()
        for methods in self.client.app.openapi()["paths"].values():
            for method, told in methods.items():
                names.add(told["operationId"])
                if method not in ("get", "head"):
                    writes.add(told["operationId"])
        sets = (access.ANYONE, access.ONESELF, access.TURNS, access.WORK, access.LEADING, access.OWNING)
        named = frozenset().union(*sets)
        self.assertEqual(writes - named, set())
        self.assertEqual(named - names, set(), "names of routes that there are not")
        for one in (access.WORK, access.LEADING, access.OWNING):
            self.assertFalse(one & (access.ANYONE | access.ONESELF))
        self.assertFalse(access.WORK & access.LEADING | access.WORK & access.OWNING | access.LEADING & access.OWNING)

    def test_every_route_asks_who_is_there(self):
        """Without a cookie nothing is answered but what is anyone's, whatever the method and the path."""
        stranger, ids = self.phone(), new_id()
        for path, methods in self.client.app.openapi()["paths"].items():
            where = path.replace("{day}", "2026-07-15").replace("{number}", "1").replace("{secret}", "none")
            for part in {p for p in where.split("/") if p.startswith("{")}:
                where = where.replace(part, ids)
            for method, told in methods.items():
                if told["operationId"] not in access.ANYONE:
                    with self.subTest(path, method=method):
                        self.assertEqual(stranger.request(method, where, json={}).status_code, 401)

    def test_a_technician_works_and_a_lead_sets(self):
        technician, lead, owner = self.phone("Tavi"), self.phone("Noor"), self.phone("Odile")
        tree = self.tree(lead)
        refused = technician.put(f"/api/trees/{new_id()}", json=tree_body(self.site, self.plant, tag="T-2"))
        self.assertEqual((refused.status_code, refused.json()["code"]), (403, "forbidden"))
        self.assertEqual(technician.put(f"/api/log/{new_id()}", json=water_body(tree, 20)).status_code, 201)
        self.assertEqual(technician.get(f"/api/trees/{tree}/water").status_code, 200)
        for path in ("/api/accounts", "/api/audit", "/api/backup"):
            self.assertEqual(lead.get(path).status_code, 403, path)
            self.assertEqual(owner.get(path).status_code, 200, path)

    def test_what_a_technician_enters_is_their_own_work_and_every_entry_carries_who(self):
        technician, lead = self.phone("Tavi"), self.phone("Noor")
        tree, ids = self.tree(lead), [new_id() for _ in range(3)]
        me = {phone: phone.get("/api/session").json()["me"] for phone in (technician, lead)}
        body = water_body(tree, 20) | {"person_id": me[lead]["person_id"]}
        for phone, entry in ((technician, ids[0]), (lead, ids[1])):
            answer = phone.put(f"/api/log/{entry}", json=body | {"person_id": me[lead]["person_id"]})
            self.assertEqual(answer.json()["person"], "Tavi" if phone is technician else "Noor")
        self.assertEqual(technician.put(f"/api/log/{ids[0]}", json=body).status_code, 200, "sent twice it is one")
        self.assertEqual(lead.put(f"/api/log/{ids[2]}", json=water_body(tree, 5, at="05:00")).json()["person"], "Noor")
        with self.sessions() as session:
            by = dict(session.execute(select(LogEntry.id, LogEntry.entered_by)).all())
        self.assertEqual(
            [str(by[next(k for k in by if str(k) == one)]) for one in ids],
            [me[technician]["account_id"], me[lead]["account_id"], me[lead]["account_id"]],
        )


class Apart(Accounts):
    def test_another_firm_sees_and_changes_nothing_through_any_route(self):
        """Every route that names a row is walked by the other firm's owner with ids of ours: nothing is found."""
        owner, stranger = self.phone("Odile"), self.phone("Tove")
        tree = self.tree(owner)
        entry = new_id()
        owner.put(f"/api/log/{entry}", json=water_body(tree, 20))
        crew = next(iter(owner.get("/api/crews").json()), {"id": new_id()})["id"]
        station = owner.get("/api/stations").json()[0]["id"]
        ids = {
            "tree_id": tree, "site_id": str(self.site), "station_id": station, "plant_id": str(self.plant),
            "crew_id": crew, "entry_id": entry, "day": "2026-07-14", "number": "1", "secret": "none",
            "account_id": owner.get("/api/session").json()["me"]["account_id"],
            "device_id": owner.get("/api/devices").json()[0]["id"],
        }  # fmt: skip
        walked = 0
        for path, methods in self.client.app.openapi()["paths"].items():
            if "{" not in path:
                continue
            where = path
            for name in [part[1:-1] for part in path.replace(".", "/").split("/") if part.startswith("{")]:
                where = where.replace(f"{{{name}}}", ids.get(name, tree))
            for method, told in methods.items():
                with self.subTest(path, method=method):
                    answer = stranger.request(method, where, json={} if method in ("put", "post") else None)
                    found = answer.status_code == 200 and answer.text not in ("[]", "null")
                    self.assertFalse(found, f"{told['operationId']}: {answer.text[:200]}")
                    self.assertLess(answer.status_code, 500)
                    walked += 1
        self.assertGreater(walked, 80)
        for path in ("/api/trees", "/api/sites", "/api/stations", "/api/book", "/api/crews", "/api/people"):
            self.assertNotIn(tree, stranger.get(path).text)
            self.assertNotIn(str(self.site), stranger.get(path).text)
        self.assertEqual(stranger.get("/api/today").json()["sites"], [])
        self.assertEqual(len(owner.get("/api/today").json()["sites"]), 1)

    def test_an_entry_that_is_played_back_into_another_firm_is_refused(self):
        owner, stranger = self.phone("Odile"), self.phone("Tove")
        tree, entry = self.tree(owner), new_id()
        body = water_body(tree, 20)
        self.assertEqual(owner.put(f"/api/log/{entry}", json=body).status_code, 201)
        self.assertEqual(stranger.put(f"/api/log/{entry}", json=body).status_code, 404)
        self.assertEqual(stranger.put(f"/api/log/{new_id()}", json=body).status_code, 404)
        self.assertEqual(len(owner.get(f"/api/trees/{tree}/log").json()), 1)

    def test_a_backup_of_one_firm_holds_nothing_of_another(self):
        owner, stranger = self.phone("Odile"), self.phone("Tove")
        tree = self.tree(owner)
        for phone, there in ((owner, True), (stranger, False)):
            with zipfile.ZipFile(io.BytesIO(phone.get("/api/backup").content)) as file:
                whole = b"".join(file.read(name) for name in file.namelist())
            self.assertIs(tree.encode() in whole, there)
            self.assertIs(b"Ochre Falls Tree Crew" in whole, there)

    def test_one_firm_s_backup_is_a_whole_program_somewhere_else(self):
        copy = io.BytesIO(self.phone("Tove").get("/api/backup").content)
        app = create_app(Settings(database_url=fresh_database(), works=False))
        backup.restore(backup.engine_of(app.state.sessions), copy, pictures.folder_at(PICTURES))
        organisations.seed(app.state.sessions)
        there = TestClient(app, "http://127.0.0.1")
        self.assertEqual(self.come_in(there, "Odile").status_code, 401)
        self.assertEqual(self.come_in(there, "Tove").status_code, 204)
        self.assertEqual(there.get("/api/session").json()["organisation"], demo.OTHER_FIRM)
        self.assertTrue(there.get("/api/plants").json())
        app.state.sessions.kw["bind"].dispose()
        app.state.door.dispose()


class People(Accounts):
    def test_an_owner_makes_changes_resets_and_closes(self):
        owner, new = self.phone("Odile"), new_id()
        body = {"name": "Bo", "sign_in": "bo@example.org", "role": TECHNICIAN}
        made = owner.put(f"/api/accounts/{new}", json=body).json()
        phone = self.phone()
        sent = {"sign_in": "BO@example.org", "password": made["password"]}
        self.assertEqual(phone.post("/api/session", json=sent).status_code, 204)
        self.assertEqual(phone.get("/api/sites").json()["detail"], access.MUST_CHANGE)
        change = {"old": made["password"], "new": WORDS}
        self.assertEqual(phone.put("/api/session/password", json=change).status_code, 204)
        self.assertEqual(phone.get("/api/sites").status_code, 200)
        again = owner.put(f"/api/accounts/{new}", json=body | {"role": LEAD, "version": made["version"]})
        self.assertEqual(again.status_code, 409, "it was changed since: another password")
        now = next(one for one in owner.get("/api/accounts").json() if one["id"] == new)
        self.assertIsNone(now["password"])
        closed = owner.put(f"/api/accounts/{new}", json=body | {"closed": True, "version": now["version"]})
        self.assertEqual(closed.status_code, 200)
        self.assertEqual(phone.get("/api/sites").status_code, 401)
        self.assertEqual(phone.post("/api/session", json=sent | {"password": WORDS}).status_code, 401)

    def test_a_reset_ends_what_was_open_and_holds_once(self):
        owner, phone = self.phone("Odile"), self.phone("Noor")
        noor = phone.get("/api/session").json()["me"]["account_id"]
        told = owner.post(f"/api/accounts/{noor}/password").json()["password"]
        self.assertEqual(phone.get("/api/sites").status_code, 401)
        self.assertEqual(self.come_in(phone, "Noor").status_code, 401)
        self.assertEqual(self.come_in(phone, "Noor", told).status_code, 204)
        self.assertTrue(phone.get("/api/session").json()["me"]["must_change"])

    def test_the_last_owner_stays_and_names_are_one_for_all_firms(self):
        owner = self.phone("Odile")
        me = owner.get("/api/session").json()["me"]
        mine = next(one for one in owner.get("/api/accounts").json() if one["id"] == me["account_id"])
        body = {name: mine[name] for name in ("name", "sign_in", "role", "version")}
        for changed in ({"role": LEAD}, {"closed": True}):
            self.assertEqual(owner.put(f"/api/accounts/{me['account_id']}", json=body | changed).status_code, 409)
        taken = {"name": "Bo", "sign_in": "TOVE", "role": TECHNICIAN}
        answer = owner.put(f"/api/accounts/{new_id()}", json=taken)
        self.assertEqual((answer.status_code, answer.json()["field"]), (409, "sign_in"))
        self.assertNotIn("Nightjar", answer.text)

    def test_devices_are_listed_and_signed_out_one_s_own_or_all_by_an_owner(self):
        owner, phone = self.phone("Odile"), self.phone("Tavi")
        mine = phone.get("/api/devices").json()
        self.assertEqual([one["person"] for one in mine], ["Tavi"])
        theirs = [one for one in owner.get("/api/devices").json() if one["person"] == "Tavi"]
        hers = next(one for one in owner.get("/api/devices").json() if one["here"])
        self.assertEqual(phone.post(f"/api/devices/{hers['id']}/sign-out").status_code, 409)
        self.assertEqual(owner.post(f"/api/devices/{theirs[0]['id']}/sign-out").status_code, 204)
        self.assertEqual(phone.get("/api/sites").status_code, 401)

    def test_a_device_is_called_by_names_alone_which_every_language_has(self):
        android = "Mozilla/5.0 (Linux; Android 14) AppleWebKit/537.36 Chrome/130.0 Mobile Safari/537.36"
        for agent, name in ((android, "Chrome, Android"), ("curl/8", "")):
            phone = self.phone()
            phone.headers["user-agent"] = agent
            self.come_in(phone, "Tavi")
            [own] = [one for one in phone.get("/api/devices").json() if one["here"]]
            self.assertEqual(own["name"], name)

    def test_who_changed_a_setting_is_kept_and_secrets_are_not(self):
        owner, lead = self.phone("Odile"), self.phone("Noor")
        site = next(one for one in lead.get("/api/sites").json() if one["id"] == str(self.site))
        from tests.support import SITE_SHOWN

        body = {k: v for k, v in site.items() if k not in ("id", *SITE_SHOWN)} | {"name": "Curlew Lane"}
        self.assertEqual(lead.put(f"/api/sites/{self.site}", json=body).status_code, 200)
        owner.put("/api/session/password", json={"old": known("Odile")["password"], "new": WORDS})
        box = {"site_id": str(self.site), "name": "Depot box", "address": "http://127.0.0.1:9", "hours": [[0, 1440]]}
        self.assertEqual(owner.put(f"/api/boxes/{new_id()}", json=box | {"outlets": []}).status_code, 200)
        told = owner.get("/api/audit").json()
        self.assertEqual([one["name"] for one in told if one["what"] == "valve_box"], ["Depot box"])
        renamed = next(one for one in told if one["what"] == "site")
        self.assertEqual((renamed["by"], renamed["before"], renamed["after"]),
                         ("Noor", {"name": site["name"]}, {"name": "Curlew Lane"}))  # fmt: skip
        self.assertNotIn("argon2", owner.get("/api/audit").text)
        with self.assertRaises(Exception) as caught, transaction(self.sessions) as session:
            session.execute(text("DELETE FROM audit_entry"))
        self.assertIn("append-only", str(caught.exception))
        with self.sessions() as session:
            self.assertTrue(session.scalars(select(AuditEntry.id)).all())


class CrewPhone(Accounts):
    def test_people_take_turns_with_a_pin_and_settings_are_not_changed_there(self):
        refused = self.come_in(self.phone(), "Tavi", shared=True)
        self.assertEqual((refused.status_code, refused.json()["field"]), (403, "shared"))
        phone = self.phone("Noor", shared=True)
        told = phone.get("/api/session").json()
        self.assertIsNone(told["me"])
        crew = {one["name"]: one["account_id"] for one in told["crew"]}
        self.assertEqual(set(crew), {"Noor", "Tavi"})
        self.assertEqual(phone.get("/api/sites").status_code, 401)
        wrong = phone.post("/api/session/turn", json={"account_id": crew["Noor"], "pin": "0000"})
        self.assertEqual(wrong.status_code, 401)
        self.assertEqual(self.turn(phone, crew["Noor"]), 204)
        self.assertEqual(phone.get("/api/sites").status_code, 200)
        self.assertEqual(phone.put("/api/plan/slack", json={"slack": 0.05}).status_code, 403)
        self.assertEqual(phone.delete("/api/session/turn").status_code, 204)
        self.assertEqual(phone.get("/api/sites").status_code, 401)
        self.assertEqual(self.turn(phone, crew["Tavi"]), 204)
        later = signing.now() + signing.TURN + timedelta(minutes=1)
        with mock.patch.object(signing, "now", return_value=later):
            self.assertEqual(phone.get("/api/sites").status_code, 401, "a turn ends with the day")

    def turn(self, phone: TestClient, account: str, pin: str = demo.PIN) -> int:
        return phone.post("/api/session/turn", json={"account_id": account, "pin": pin}).status_code

    def test_a_pin_is_not_tried_for_ever_nor_on_a_phone_of_one_s_own(self):
        phone = self.phone("Noor", shared=True)
        tavi = next(one for one in phone.get("/api/session").json()["crew"] if one["name"] == "Tavi")["account_id"]
        for _ in range(signing.FREE_TRIES["pin"]):
            self.assertEqual(self.turn(phone, tavi, "9173"), 401)
        self.assertEqual(self.turn(phone, tavi), 429)
        self.assertEqual(self.turn(self.phone("Noor"), tavi), 409)

    def test_a_pin_is_some_digits_and_not_the_first_that_are_tried(self):
        for bad in ("", "123", "12a4", "1234", "4321", "0000", "123456789", "٤٤٥٥"):
            with self.subTest(bad), self.assertRaises(InputError):
                secrets.check_pin(bad)
        secrets.check_pin(demo.PIN)
        phone = self.phone("Tavi")
        self.assertEqual(phone.put("/api/session/pin", json={"pin": "8264"}).status_code, 204)
        self.assertTrue(phone.get("/api/session").json()["me"]["has_pin"])


if __name__ == "__main__":
    unittest.main()
