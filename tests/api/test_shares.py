"""What a client sees by a link or an account, and nothing beside it; a person's calendar; what others did."""

from datetime import UTC, date, datetime, timedelta
from unittest import mock

from june_shade.api.schemas.sites import SiteIn
from june_shade.plans import shares
from tests.api.test_accounts import Accounts
from tests.support import DAY, new_id, water_body


class Sharing(Accounts):
    def setUp(self):
        super().setUp()
        self.noor, self.stranger = self.phone("Noor"), self.phone()
        self.watered = self.tree(self.noor)
        self.share = new_id()

    def make(self, **more):
        body = {"site_id": str(self.site), "name": "Parks desk", "ends_on": str(DAY + timedelta(days=30))} | more
        return self.noor.put(f"/api/shares/{self.share}", json=body)

    def seen(self, path: str, phone=None):
        return (phone or self.stranger).get(path.replace("/shared/", "/api/shared/"))


class Links(Sharing):
    def test_it_shows_trees_plan_and_book_to_whoever_has_it_and_nothing_else(self):
        path = self.make().json()["path"]
        self.noor.put(f"/api/log/{new_id()}", json=water_body(self.watered, 20.0, at="05:30"))
        shown = self.seen(path)
        told = shown.json()
        self.assertEqual([tree["tag"] for tree in told["trees"]], ["T-1"])
        self.assertEqual(told["month"]["numbers"]["litres"], 20.0)
        self.assertEqual((told["organisation"], told["name"]), ("Ochre Falls Tree Crew", "Parks desk"))
        self.assertEqual(shown.headers["x-robots-tag"], "noindex")
        for word in ("Noor", "latitude", "note_for_crew", "device"):
            self.assertNotIn(word, shown.text)
        for other in ("/api/trees", f"/api/trees/{self.watered}", f"/api/sites/{self.site}/shares", "/api/book"):
            self.assertEqual(self.stranger.get(other).status_code, 401, other)

    def test_its_plan_is_the_fortnight_s(self):
        told = self.seen(self.make().json()["path"]).json()
        fortnight = self.noor.get("/api/fortnight", params={"site_id": str(self.site)}).json()
        visits = [v for s in fortnight["sites"] for stop in s["stops"] for t in stop["trees"] for v in t["visits"]]
        self.assertTrue(visits)
        self.assertAlmostEqual(sum(day["litres"] for day in told["plan"]), sum(v["litres"] for v in visits))
        self.assertEqual([day["day"] for day in told["plan"]], fortnight["days"])

    def test_it_ends_by_itself_and_at_once_where_it_is_taken_back(self):
        path = self.make(ends_on=str(DAY)).json()["path"]
        self.assertEqual(self.seen(path).status_code, 200)
        with mock.patch("june_shade.plans.clock.today", return_value=DAY + timedelta(days=1)):
            ended = self.seen(path)
        self.assertEqual((ended.status_code, ended.json()["detail"]), (404, shares.ENDED))
        self.assertEqual(self.noor.put(f"/api/shares/{self.share}/revoked").json()["revoked"], True)
        self.assertEqual(self.seen(path).json(), ended.json())
        self.assertEqual(self.seen("/shared/no-such-thing").json(), ended.json(), "nobody learns which there were")
        self.assertEqual(self.make().status_code, 409)

    def test_written_again_it_is_the_same_link(self):
        first = self.make().json()
        again = self.make(name="Parks and streets", ends_on=str(DAY + timedelta(days=60))).json()
        self.assertEqual((again["path"], again["name"]), (first["path"], "Parks and streets"))
        self.assertEqual(len(self.noor.get(f"/api/sites/{self.site}/shares").json()), 1)
        for day in (DAY - timedelta(days=1), date(2040, 1, 1)):
            self.assertEqual(self.make(ends_on=str(day)).json()["field"], "ends_on")

    def test_a_technician_makes_none_and_another_firm_sees_none(self):
        path = self.make().json()["path"]
        body = {"site_id": str(self.site), "name": "x", "ends_on": str(DAY)}
        for name, status in (("Tavi", 403), ("Tove", 404)):
            phone = self.phone(name)
            self.assertEqual(phone.put(f"/api/shares/{new_id()}", json=body).status_code, status, name)
        tove = self.phone("Tove")
        self.assertEqual(tove.get(f"/api/sites/{self.site}/shares").status_code, 404)
        self.assertEqual(tove.put(f"/api/shares/{self.share}/revoked").status_code, 404)
        self.assertEqual(self.seen(path, tove).status_code, 200, "whoever has the link")


class Clients(Sharing):
    def client_of(self) -> tuple:
        account = new_id()
        sent = {"name": "Ilse", "sign_in": "ilse", "role": "client"}
        made = self.phone("Odile").put(f"/api/accounts/{account}", json=sent).json()
        phone = self.phone()
        self.assertEqual(
            phone.post("/api/session", json={"sign_in": "ilse", "password": made["password"]}).status_code, 204
        )
        words = "seven herons by the canal"
        change = {"old": made["password"], "new": words}
        self.assertEqual(phone.put("/api/session/password", json=change).status_code, 204)
        return account, phone

    def test_a_client_reads_what_is_shared_with_them_and_nothing_else(self):
        account, phone = self.client_of()
        self.assertEqual(phone.get("/api/shared").json(), [])
        path = self.make(account_id=account).json()["path"]
        self.assertEqual([one["path"] for one in phone.get("/api/shared").json()], [path])
        self.assertEqual(self.seen(path, phone).status_code, 200)
        for other in ("/api/trees", "/api/today", "/api/book", f"/api/trees/{self.watered}", "/api/since"):
            self.assertEqual(phone.get(other).status_code, 403, other)
        entry = phone.put(f"/api/log/{new_id()}", json=water_body(self.watered, 20.0))
        self.assertEqual(entry.status_code, 403)
        self.noor.put(f"/api/shares/{self.share}/revoked")
        self.assertEqual(phone.get("/api/shared").json(), [])

    def test_only_a_client_s_account_is_shared_with(self):
        tavi = self.phone("Tavi").get("/api/session").json()["me"]["account_id"]
        self.assertEqual(self.make(account_id=tavi).json()["field"], "account_id")


class Others(Sharing):
    def test_a_person_s_calendar_has_all_sites_and_ends_when_it_is_renewed_or_they_leave(self):
        tavi = self.phone("Tavi")
        path = tavi.put("/api/calendar").json()["path"]
        self.assertEqual(tavi.put("/api/calendar").json()["path"], path)
        told = self.stranger.get(path)
        self.assertTrue(told.text.startswith("BEGIN:VCALENDAR"))
        self.assertIn("T-1", told.text.replace("\r\n ", ""))
        self.assertNotEqual(self.phone("Noor").put("/api/calendar").json()["path"], path)
        other = tavi.put("/api/calendar", params={"renew": True}).json()["path"]
        self.assertEqual([self.stranger.get(one).status_code for one in (path, other)], [404, 200])
        owner = self.phone("Odile")
        [row] = [one for one in owner.get("/api/accounts").json() if one["name"] == "Tavi"]
        kept = {name: row[name] for name in ("name", "sign_in", "role", "version")} | {"closed": True}
        self.assertEqual(owner.put(f"/api/accounts/{row['id']}", json=kept).status_code, 200)
        self.assertEqual(self.stranger.get(other).status_code, 404)

    def test_what_others_did_since_is_told_by_whom_and_one_s_own_is_not(self):
        began = datetime.now(UTC).isoformat()
        tavi = self.phone("Tavi")
        for phone, at in ((tavi, "05:10"), (tavi, "05:30"), (self.noor, "05:50")):
            phone.put(f"/api/log/{new_id()}", json=water_body(self.watered, 20.0, at=at))
        told = self.noor.get("/api/since", params={"moment": began}).json()
        self.assertEqual(told, [{"kind": "water", "by": "Tavi", "count": 2}])
        self.assertEqual(self.phone("Tove").get("/api/since", params={"moment": began}).json(), [])
        [site] = [one for one in self.noor.get("/api/sites").json() if one["id"] == str(self.site)]
        body = {name: value for name, value in site.items() if name in SiteIn.model_fields}
        self.assertEqual(self.noor.put(f"/api/sites/{self.site}", json=body | {"name": "Renamed"}).status_code, 200)
        kinds = {one["kind"] for one in tavi.get("/api/since", params={"moment": began}).json()}
        self.assertEqual(kinds, {"water", "set_site"})
