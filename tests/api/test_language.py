"""The program says things in the language of whoever asks, and each person has their own."""

import unittest

import icalendar

from june_shade.api.language import wanted
from tests.api.test_accounts import Accounts
from tests.api.test_trees import RegisterTest
from tests.support import new_id, tree_body

ES = {"Accept-Language": "es-MX,es;q=0.9,en;q=0.8"}


class Wanted(unittest.TestCase):
    def test_the_most_wanted_that_is_there(self):
        """RFC 9110, 12.5.4: weights from 0 to 1, 1 where none is given; its example asks for Danish first."""
        cases = {
            "": "en", "es": "es", "es-MX,es;q=0.9,en;q=0.8": "es", "da, en-gb;q=0.8, en;q=0.7": "en",
            "en;q=0.4, es;q=0.6": "es", "fr": "en", "*": "en", "ES-419": "es", "es;q=0, en;q=0.1": "en",
            "es;q=x, \0": "en", "es;q=1.2.3": "en",
        }  # fmt: skip
        for header, language in cases.items():
            self.assertEqual(wanted(header), language, header)


class Refusals(RegisterTest):
    def put(self, headers, **changed):
        body = tree_body(self.site_id, self.plant, tag="T-9") | changed
        return self.client.put(f"/api/trees/{new_id()}", json=body, headers=headers).json()

    def test_a_field_and_its_limit(self):
        told = self.put(ES, ball_diameter_m=-1, tag="")
        details = {error["field"]: error["detail"] for error in told["errors"]}
        self.assertIn("debe ser más de 0, no -1", details["ball_diameter_m"])
        self.assertEqual(told["title"], "Algo escrito no puede ser")
        self.assertNotIn("must", str(told))
        self.assertIn("must be above 0", str(self.put({}, ball_diameter_m=-1)))

    def test_codes_fields_and_limits_are_the_same_in_both(self):
        ours, theirs = self.put(ES, ball_diameter_m=-1), self.put({}, ball_diameter_m=-1)
        for told in (ours, theirs):
            told.pop("title"), told.pop("detail"), [error.pop("detail") for error in told["errors"]]
        self.assertEqual(ours, theirs)

    def test_before_anything_is_looked_at(self):
        told = self.client.get("/api/trees?q=%00", headers=ES).json()
        self.assertEqual(told["detail"], "una dirección no puede llevar un carácter NUL")

    def test_why_there_is_no_plan_in_the_round_that_all_share(self):
        """Its bytes are made once for all who ask, in whatever language they ask first."""
        site = {
            "name": "Rail trail", "timezone": "America/Denver", "latitude_deg": 40.0, "longitude_deg": -105.0,
            "elevation_m": 1500, "texture": "clay", "hose_flow_l_per_h": 400,
        }  # fmt: skip
        made = self.client.post("/api/sites", json=site).json()
        self.client.put(f"/api/trees/{new_id()}", json=tree_body(made["id"], self.plant, tag="R-1"))
        for headers, words in ((ES, "no tiene estación de clima"), ({}, "has no weather station"), (ES, "no tiene")):
            answer = self.client.get("/api/today", headers=headers)
            problems = {one["id"]: one["problem"] for one in answer.json()["sites"]}
            self.assertIn(words, problems[made["id"]])
            again = self.client.get("/api/today", headers=headers | {"If-None-Match": answer.headers["etag"]})
            self.assertEqual(again.status_code, 304)
        other = self.client.get("/api/today", headers={"If-None-Match": answer.headers["etag"]})
        self.assertEqual(other.status_code, 200, "another language is another answer")


class Calendars(RegisterTest):
    def test_its_address_is_in_the_language_of_who_asked_for_it(self):
        self.client.put(f"/api/trees/{new_id()}", json=tree_body(self.site_id, self.plant))
        for headers, word in ((ES, "cuello de la raíz"), ({}, "root flare")):
            path = self.client.get("/api/calendars", headers=headers).json()[0]["path"]
            read = icalendar.Calendar.from_ical(self.client.get(path).content)
            titles = " ".join(str(event["summary"]) for event in read.walk("VEVENT"))
            self.assertIn(word, titles.lower())


class EachPerson(Accounts):
    def test_one_s_language_goes_along_to_every_device(self):
        noor, tavi = self.phone("Noor"), self.phone("Tavi")
        self.assertIsNone(noor.get("/api/session").json()["me"]["language"])
        self.assertEqual(noor.put("/api/session/language", json={"language": "es"}).status_code, 204)
        self.assertEqual(self.phone("Noor").get("/api/session").json()["me"]["language"], "es")
        self.assertIsNone(tavi.get("/api/session").json()["me"]["language"], "only theirs")
        self.assertEqual(noor.put("/api/session/language", json={"language": "tlh"}).status_code, 422)

    def test_it_takes_an_account(self):
        self.assertEqual(self.phone().put("/api/session/language", json={"language": "es"}).status_code, 401)
