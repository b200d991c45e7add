"""What a phone takes along for days without signal, and what it may send when it is back."""

import unittest

from june_shade.plans.rounds import TAKEN_ALONG_DAYS
from tests.api.test_accounts import Accounts
from tests.support import client, new_id, water_body


class DaysAhead(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.client = cls.enterClassContext(client("demo"))
        cls.answer = cls.client.get("/api/today/ahead")
        cls.days = cls.answer.json()

    def test_it_is_the_fortnight_s_days_with_the_same_litres(self):
        fortnight = self.client.get("/api/fortnight").json()
        self.assertEqual([day["day"] for day in self.days], fortnight["days"][1 : 1 + TAKEN_ALONG_DAYS])
        planned = {
            (tree["id"], visit["day"]): (visit["litres"], visit["litres_us"])
            for site in fortnight["sites"] for stop in site["stops"] for tree in stop["trees"]
            for visit in tree["visits"] if 1 <= visit["day"] <= TAKEN_ALONG_DAYS
        }  # fmt: skip
        taken = {
            (tree["id"], n): (tree["next"]["metric"]["litres"], tree["next"]["us"]["litres"])
            for n, day in enumerate(self.days, 1) for site in day["sites"] for stop in site["stops"]
            for tree in stop["trees"]
        }  # fmt: skip
        self.assertTrue(taken)
        self.assertEqual(taken, planned)

    def test_its_hours_are_the_crews_of_the_fortnight(self):
        crews = {crew["id"]: crew["minutes"] for crew in self.client.get("/api/fortnight").json()["crews"]}
        for n, day in enumerate(self.days, 1):
            for crew, minutes in crews.items():
                told = sum(s["crew"]["minutes"] for s in day["sites"] if s["crew"] and s["crew"]["id"] == crew)
                self.assertAlmostEqual(told, minutes[n], msg=f"{day['day']}: {crew}")

    def test_nothing_is_said_that_is_not_known_yet(self):
        for day in self.days:
            for site in day["sites"]:
                self.assertEqual((site["waiting"], site["look_at"], site["cost"]), ([], [], None))
                for tree in (tree for stop in site["stops"] for tree in stop["trees"]):
                    self.assertEqual((tree["entries"], tree["skipped"], tree["without_ks"]), ([], False, None))
                    self.assertIsNone(tree["section"]["ball_available_l"])
                    self.assertEqual(tree["next"]["day"], day["day"])

    def test_unchanged_it_is_not_sent_again(self):
        again = self.client.get("/api/today/ahead", headers={"If-None-Match": self.answer.headers["etag"]})
        self.assertEqual((again.status_code, again.content), (304, b""))

    def test_what_a_check_up_without_signal_goes_by_is_what_the_program_answers(self):
        tree = next(tree["id"] for site in self.days[0]["sites"] for stop in site["stops"] for tree in stop["trees"])
        known = self.client.get(f"/api/trees/{tree}/checkup").json()
        looked = self.client.post(f"/api/trees/{tree}/checkup/look", json={"findings": {}}).json()
        self.assertEqual((known["own"], known["in_leaf"]), (looked["own"], looked["in_leaf"]))


class Late(Accounts):
    """A phone that was signed out meanwhile, with entries that it could not send before."""

    def setUp(self):
        super().setUp()
        self.odile, self.noor = self.phone("Odile"), self.phone("Noor")
        self.watered = self.tree(self.noor)
        self.under = self.noor.get("/api/session").json()["device_id"]
        self.entry_id, self.entry = new_id(), water_body(self.watered, 20.0)

    def send(self, phone, under=None):
        headers = {"June-Made-Under": under or self.under}
        return phone.put(f"/api/log/{self.entry_id}", json=self.entry, headers=headers)

    def signed_out(self):
        self.assertEqual(self.odile.post(f"/api/devices/{self.under}/sign-out").status_code, 204)
        self.assertEqual(self.send(self.noor).status_code, 401)
        self.come_in(self.noor, "Noor")

    def ask(self, phone=None):
        items = [{"words": "T-1: 20 L", "made_at": self.entry["happened_at"]}]
        return (phone or self.noor).put(f"/api/devices/{self.under}/late", json={"items": items})

    def logged(self):
        return [entry["id"] for entry in self.noor.get(f"/api/trees/{self.watered}/log").json()]

    def test_they_wait_for_an_owner_s_yes_and_then_count_once(self):
        self.signed_out()
        refused = self.send(self.noor)
        self.assertEqual((refused.status_code, refused.json()["code"]), (403, "late"))
        self.assertEqual(self.logged(), [])
        self.assertEqual(self.ask().json()["said"], None)
        waits = self.odile.get("/api/late").json()
        self.assertEqual([(one["device_id"], one["person"]) for one in waits], [(self.under, "Noor")])
        self.assertEqual(waits[0]["items"][0]["words"], "T-1: 20 L")
        self.assertEqual(self.odile.put(f"/api/devices/{self.under}/late/yes").status_code, 200)
        self.assertEqual([self.send(self.noor).status_code for _ in range(2)], [201, 200])
        self.assertEqual(self.logged(), [self.entry_id])
        self.assertEqual(self.odile.get("/api/late").json(), [])

    def test_after_a_no_they_are_not_let_in(self):
        self.signed_out()
        self.ask()
        self.odile.put(f"/api/devices/{self.under}/late/no")
        refused = self.send(self.noor)
        self.assertEqual((refused.status_code, refused.json()["code"]), (403, "late_refused"))
        self.assertEqual(self.odile.put(f"/api/devices/{self.under}/late/yes").status_code, 409)
        self.assertEqual(self.logged(), [])

    def test_nobody_but_an_owner_says_yes_and_no_other_firm_sees_it(self):
        self.signed_out()
        self.ask()
        tove = self.phone("Tove")
        self.assertEqual(self.noor.get("/api/late").status_code, 403)
        self.assertEqual(self.noor.put(f"/api/devices/{self.under}/late/yes").status_code, 403)
        self.assertEqual(tove.get("/api/late").json(), [])
        self.assertEqual(tove.put(f"/api/devices/{self.under}/late/yes").status_code, 404)
        self.assertEqual(self.ask(tove).status_code, 404)

    def test_a_phone_that_one_signs_out_of_oneself_sends_what_it_holds(self):
        self.noor.delete("/api/session")
        self.come_in(self.noor, "Noor")
        self.assertEqual(self.send(self.noor).status_code, 201)
        self.assertEqual(self.ask().status_code, 409)

    def test_an_entry_of_another_firm_s_sign_in_or_tree_is_not_taken(self):
        tove = self.phone("Tove")
        self.assertEqual(self.send(tove).json()["code"], "late")
        own = tove.get("/api/session").json()["device_id"]
        self.assertEqual(self.send(tove, own).status_code, 404)
        self.assertEqual(self.send(self.noor, "not an id").status_code, 422)
        self.assertEqual(self.logged(), [])
