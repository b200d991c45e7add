"""What a hand felt, over HTTP: it moves the page at once, is undone to the last digit, is refused in a sentence."""

import unittest
from datetime import datetime, timedelta

from june_shade.plans import clock
from june_shade.store.session import transaction
from tests.api.test_trees import RegisterTest
from tests.support import DAY, DEVICE, ZONE, new_id, water_body


class Readings(RegisterTest):
    def setUp(self):
        super().setUp()
        planted = DAY - timedelta(days=20)
        for day in (planted, DAY):
            with transaction(self.sessions) as session:
                clock.pin(session, day)
            if day == planted:
                self.tree = self.put(planted_on=day.isoformat()).json()["id"]

    def feel(self, ball=None, ring=None, *, at="06:00", day=DAY, identity=None, **more):
        when = datetime.combine(day, datetime.strptime(at, "%H:%M").time(), ZONE)
        body = {"tree_id": self.tree, "kind": "reading", "happened_at": when.isoformat(), "device_id": DEVICE,
                "how": "finger", "ball_feel": ball, "ring_feel": ring} | more  # fmt: skip
        return self.client.put(f"/api/log/{identity or new_id()}", json=body)

    def page(self):
        return self.client.get(f"/api/trees/{self.tree}/water").json()

    def void(self, entry):
        body = {"tree_id": self.tree, "kind": "void", "happened_at": f"{DAY}T12:00:00Z", "device_id": DEVICE,
                "voids": entry}  # fmt: skip
        return self.client.put(f"/api/log/{new_id()}", json=body)

    def test_a_moist_ball_moves_the_page_and_an_undo_takes_it_back(self):
        before, entry = self.page(), new_id()
        for expected in (201, 200):  # a phone may send it twice
            answer = self.feel("moist", "moist", identity=entry)
            self.assertEqual((answer.status_code, answer.json()["ball_feel"]), (expected, "moist"))
        after = self.page()
        self.assertLess(after["dryness"], before["dryness"])
        self.assertLess(after["doubt"]["dryness_sd"], before["doubt"]["dryness_sd"])
        self.assertEqual((after["doubt"]["looked_on"], after["doubt"]["days"]), (DAY.isoformat(), 0))
        (shown,) = after["readings"]
        self.assertAlmostEqual(shown["dryness"], 0.25)
        self.assertEqual(self.void(entry).status_code, 201)
        self.assertEqual(self.page(), before)

    def test_a_probe_reads_numbers_that_the_soil_can_hold_and_is_surer_than_a_finger(self):
        before = self.page()
        self.assertEqual(self.feel(how="probe", ball_theta=0.30, ring_theta=0.24).status_code, 201)
        probed = self.page()
        (shown,) = probed["readings"]
        self.assertEqual((shown["ball_theta"], shown["ring_theta"]), (0.30, 0.24))
        self.assertLess(probed["doubt"]["dryness_sd"], 0.6 * before["doubt"]["dryness_sd"])
        self.assertLess(abs(probed["dryness"] - shown["dryness"]), abs(before["dryness"] - shown["dryness"]))
        for given, field in (
            ({"ball_theta": 0.71}, "ball_theta"), ({"ring_theta": 0.66}, "ring_theta"),
            ({"ball_theta": 18}, "ball_theta"), ({"ball": "moist"}, "how"),
            ({"ball": "moist", "ball_theta": 0.2}, "how"),
        ):  # fmt: skip
            ball = given.pop("ball", None)
            refused = self.feel(ball, at="05:40", how="probe", **given)
            self.assertEqual(refused.status_code, 422, given)
            self.assertIn(field, refused.text)
        self.assertEqual(self.feel(ball_theta=0.2).status_code, 422)  # a finger reads no numbers
        self.assertEqual(len(self.page()["readings"]), 1)

    def test_what_the_chart_may_be_off_by_grows_until_someone_looks(self):
        off = [day["dryness_sd"] for day in self.page()["chart"] if day["dryness_sd"] is not None]
        self.assertLess(off[0], off[5])
        self.feel("moist", "moist")
        chart = self.page()["chart"]
        at = next(n for n, day in enumerate(chart) if day["day"] == DAY.isoformat())
        self.assertLess(chart[at]["dryness_sd"], chart[at - 1]["dryness_sd"])

    def test_wet_and_dry_at_one_moment_is_a_slip_that_is_put_right(self):
        entry = new_id()
        self.feel("wet", "wet", at="05:20", identity=entry)
        refused = self.feel("dry", at="05:30")
        self.assertEqual((refused.status_code, refused.json()["field"]), (422, "ball_feel"))
        self.assertIn("was felt wet", refused.json()["detail"])
        self.assertEqual(len(self.page()["readings"]), 1)
        self.assertEqual(self.feel("dry", at="05:20", corrects=entry, void_id=new_id()).status_code, 201)
        self.assertEqual([r["ball_feel"] for r in self.page()["readings"]], ["dry"])
        self.assertEqual(self.feel("wet", at="05:55").status_code, 201)  # later somebody may have poured

    def test_it_says_for_how_long_nobody_looked(self):
        doubt = self.page()["doubt"]
        self.assertIsNone(doubt["looked_on"])
        self.feel("moist", day=DAY - timedelta(days=5), at="11:00")
        self.assertEqual(self.page()["doubt"]["days"], 5)

    def test_a_wet_ball_after_water_says_nothing_against_it(self):
        self.client.put(f"/api/log/{new_id()}", json=water_body(self.tree, 60.0, at="06:00"))
        before = self.page()["dryness"]
        self.feel("wet", "wet", at="07:00")
        self.assertEqual(self.page()["dryness"], before)

    def test_a_reading_of_a_past_day_bends_the_line_from_that_day_on(self):
        line = {d["day"]: d["dryness"] for d in self.page()["chart"]}
        self.feel("dry", "dry", day=DAY - timedelta(days=4), at="06:00")
        bent = {d["day"]: d["dryness"] for d in self.page()["chart"]}
        for days, moved in ((6, False), (5, False), (4, True), (1, True)):
            day = (DAY - timedelta(days=days)).isoformat()
            self.assertEqual(bent[day] != line[day], moved, day)

    def test_a_guess_is_one_no_more_once_somebody_felt(self):
        late = self.put(tag="L-1", planted_on="2025-05-01").json()["id"]
        self.assertTrue(self.client.get(f"/api/trees/{late}/water").json()["guessed"])
        self.assertEqual(self.feel("moist", "moist", tree_id=late).status_code, 201)
        self.assertFalse(self.client.get(f"/api/trees/{late}/water").json()["guessed"])

    def test_it_is_corrected_like_water(self):
        entry = self.feel("dry").json()["id"]
        fixed = self.feel("moist", corrects=entry, void_id=new_id())
        self.assertEqual(fixed.status_code, 201, fixed.text)
        self.assertEqual([r["ball_feel"] for r in self.page()["readings"]], ["moist"])

    def test_what_can_not_be_is_refused_in_a_sentence(self):
        for changed, field in (
            ({"ball": None, "ring": None}, "ball_feel"), ({"ball": "soggy"}, "ball_feel"),
            ({"ball": "dry", "how": None}, "how"), ({"ball": "dry", "day": DAY - timedelta(days=40)}, "happened_at"),
            ({"ball": "dry", "day": DAY + timedelta(days=2)}, "happened_at"),
            ({"ball": "dry", "volume_l": 3}, "volume_l"),
        ):  # fmt: skip
            answer = self.feel(**changed)
            self.assertEqual((answer.status_code, answer.json()["field"]), (422, field), (changed, answer.text))
        self.assertEqual(self.page()["readings"], [])


if __name__ == "__main__":
    unittest.main()
