"""Check-ups and what readings say, over HTTP: what is asked, kept, held and learned, and how it goes into the plan."""

import unittest
from datetime import date, datetime, timedelta
from uuid import UUID

from june_shade.plans import clock
from june_shade.plans.looking import thirst
from june_shade.store.session import transaction
from tests.api.test_trees import RegisterTest
from tests.support import DAY, DEVICE, ZONE, client, new_id, water_body

PLANTED = DAY - timedelta(days=50)


class Looking(RegisterTest):
    def setUp(self):
        super().setUp()
        for day in (PLANTED, DAY):
            with transaction(self.sessions) as session:
                clock.pin(session, day)
            if day == PLANTED:
                made = self.put(planted_on=day.isoformat()).json()
                self.tree, self.site_id = made["id"], made["site_id"]

    def get(self, path):
        answer = self.client.get(f"/api/{path}")
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def page(self):
        return self.get(f"trees/{self.tree}/checks")

    def visits(self):
        return [day["day"] for day in self.get(f"trees/{self.tree}/water")["chart"] if day["planned_l"] > 0]


class CheckUps(Looking):
    def look(self, **findings):
        return self.client.post(f"/api/trees/{self.tree}/checkup/look", json={"findings": findings})

    def keep(self, identity=None, *, at=f"{DAY}T05:40:00-06:00", **given):
        body = {"tree_id": self.tree, "happened_at": at, "device_id": DEVICE} | given
        return self.client.put(f"/api/checkups/{identity or new_id()}", json=body)

    def test_it_asks_what_would_change_the_act_and_stops_when_nothing_would(self):
        findings, asked = {}, []
        answers = {"ball_feel": "wet", "leaf": "soft_yellow", "ring_feel": "wet", "smell": "sour"}
        while not (found := self.look(**findings).json())["enough"]:
            asked.append(found["asked"][0]["finding"])
            findings[asked[-1]] = answers[asked[-1]]
        self.assertTrue(asked)
        self.assertEqual(found["water_act"], "stop_water")
        self.assertEqual(len(asked), len(set(asked)))
        self.assertEqual(set(found["own"]), {"plan_says", "first_year"})

    def test_what_was_felt_a_moment_ago_is_not_asked_again_and_counts_once(self):
        now = datetime.fromisoformat(self.get("clock")["now"])
        read = {"tree_id": self.tree, "kind": "reading", "device_id": DEVICE, "how": "finger"}
        for ago, felt in ((45, {"ball_feel": "wet"}), (9, {"ball_feel": "dry"}), (8, {"ring_feel": "moist"})):
            body = read | felt | {"happened_at": (now - timedelta(minutes=ago)).isoformat()}
            self.assertEqual(self.client.put(f"/api/log/{new_id()}", json=body).status_code, 201)
        dryness = self.get(f"trees/{self.tree}/water")["dryness"]
        self.assertEqual(self.look().json()["felt_now"], {"ball_feel": "dry", "ring_feel": "moist"})
        findings = {"ball_feel": "dry", "ring_feel": "moist", "leaf": "droop"}
        kept = self.keep(at=now.isoformat(), findings=findings)
        self.assertEqual(kept.status_code, 200, kept.text)
        page = self.get(f"trees/{self.tree}/water")
        self.assertEqual(len(page["readings"]), 3)
        self.assertEqual(page["dryness"], dryness, "felt once, it moves the plan once")

    def test_wilt_of_a_wet_ball_is_never_watered(self):
        found = self.look(ball_feel="wet", leaf="droop", overnight="stays").json()
        self.assertNotIn(found["water_act"], ("water_now", "water_on_ball"))

    def test_kept_it_is_one_with_its_reading_its_hold_and_its_tasks_and_taken_back_nothing_is_left(self):
        before, identity = self.visits(), new_id()
        findings = {"ball_feel": "wet", "ring_feel": "wet", "leaf": "soft_yellow", "smell": "sour"}
        for _ in range(2):
            kept = self.keep(identity, findings=findings, tasks=["drain_test"], hold=True)
            self.assertEqual(kept.status_code, 200, kept.text)
        page = self.page()
        self.assertEqual([c["verdict"] for c in page["checkups"]], [kept.json()["verdict"]])
        self.assertEqual([r["ball_feel"] for r in page["readings"]], ["wet"])
        until = page["hold_until"]
        self.assertEqual(until, kept.json()["look_on"])
        self.assertTrue(all(day >= until for day in self.visits()))
        kinds = [task["kind"] for task in self.get(f"care?tree_id={self.tree}")["tasks"]]
        self.assertIn("drain_test", kinds)
        self.assertIn("look_again", kinds)
        self.assertEqual(self.client.post(f"/api/checkups/{identity}/withdraw").status_code, 200)
        page = self.page()
        self.assertEqual((page["readings"], page["hold_until"], page["look_on"]), ([], None, None))
        self.assertEqual(self.visits(), before)
        self.assertNotIn("drain_test", [task["kind"] for task in self.get(f"care?tree_id={self.tree}")["tasks"]])

    def test_a_dead_tree_is_looked_at_again_before_it_goes(self):
        early = datetime.combine(DAY - timedelta(days=20), datetime.min.time(), ZONE)
        first = self.keep(findings={"scratch": "brown"}, at=early.isoformat())
        self.assertEqual((first.json()["verdict"], first.json()["water_act"]), ("dead", None))
        self.assertEqual(self.look(scratch="brown").json()["actions"], ["remove_and_replant"])

    def test_what_can_not_be_is_refused_by_name(self):
        for given, field in (
            ({"findings": {"leaf": "blue"}}, "findings.leaf"), ({"findings": {"plan_says": "dry"}}, "findings"),
            ({"findings": {}}, "findings"), ({"findings": {"leaf": "fine"}, "hold": True}, "hold"),
            ({"findings": {"leaf": "fine"}, "tasks": ["feed"]}, "tasks"),
            ({"findings": {"leaf": "fine"}, "at": "2019-01-01T09:00:00Z"}, "happened_at"),
            ({"findings": {"leaf": "fine"}, "at": "2031-01-01T09:00:00Z"}, "happened_at"),
        ):  # fmt: skip
            answer = self.keep(**given)
            self.assertEqual(answer.status_code, 422, given)
            self.assertIn(field, answer.text)
        self.assertEqual(self.page()["checkups"], [])


class Thirst(Looking):
    def feel(self, day: date, ball: str, ring: str):
        when = datetime.combine(day, datetime.strptime("05:30", "%H:%M").time(), ZONE)
        body = {"tree_id": self.tree, "kind": "reading", "happened_at": when.isoformat(), "device_id": DEVICE,
                "how": "trowel", "ball_feel": ball, "ring_feel": ring}  # fmt: skip
        self.assertEqual(self.client.put(f"/api/log/{new_id()}", json=body).status_code, 201)

    def dry_weeks(self, weeks=6):
        """Well watered by the book, and found dry week after week."""
        for n in range(0, 49, 2):
            self.client.put(f"/api/log/{new_id()}", json=water_body(self.tree, 25.0, day=PLANTED + timedelta(days=n)))
        self.feel(DAY - timedelta(days=7 * weeks), "wet", "moist")
        for week in range(weeks - 1, -1, -1):
            self.feel(DAY - timedelta(days=7 * week), "dry", "dry")
        thirst.work(self.sessions, UUID(self.site_id))

    def answer(self, what, multiplier=None, identity=None):
        body = {"tree_id": self.tree, "answer": what, "multiplier": multiplier}
        answer = self.client.put(f"/api/thirst-answers/{identity or new_id()}", json=body)
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def dryness_to_come(self):
        return self.get(f"trees/{self.tree}/water")["chart"]

    def test_too_few_readings_say_nothing_and_many_dry_ones_ask_for_the_delivery_first(self):
        self.assertEqual((self.page()["fit"], self.page()["state"]), (None, "none"))
        self.dry_weeks()
        page = self.page()
        self.assertEqual((page["fit"]["occasions"], page["state"]), (7, "ask_delivery"))
        self.assertGreater(page["fit"]["demand"], 1.3)
        self.assertLess(page["fit"]["delivery"], 0.7)
        self.assertEqual(page["lines"][0]["day"], (DAY - timedelta(days=42)).isoformat())
        self.assertGreater(page["lines"][-1]["learned"], page["lines"][-1]["book"])

    def test_a_delivery_that_is_good_makes_it_thirst_and_accepted_it_is_in_the_plan(self):
        self.dry_weeks()
        self.answer("delivery_good")
        thirst.work(self.sessions, UUID(self.site_id))
        page = self.page()
        self.assertEqual((page["fit"]["verdict"], page["state"]), ("drinks_more", "open"))
        before, identity = self.get(f"trees/{self.tree}/water"), new_id()
        for _ in range(2):
            self.answer("accepted", page["fit"]["demand"], identity)
        self.assertEqual(self.page()["state"], "accepted")
        after = self.get(f"trees/{self.tree}/water")
        demands = [next(s["value"] for s in of["working"] if s["key"] == "demand") for of in (before, after)]
        self.assertAlmostEqual(demands[1] / demands[0], page["fit"]["demand"], 6)
        self.client.post(f"/api/thirst-answers/{identity}/withdraw")
        self.assertEqual(self.get(f"trees/{self.tree}/water"), before)

    def test_refused_it_is_quiet_until_somebody_reads_again(self):
        self.dry_weeks()
        self.answer("refused")
        self.assertEqual(self.page()["state"], "refused")
        self.feel(DAY, "dry", "dry")
        self.feel(DAY - timedelta(days=3), "dry", "dry")
        thirst.work(self.sessions, UUID(self.site_id))
        self.assertEqual(self.page()["state"], "ask_delivery")

    def test_a_mended_delivery_begins_anew(self):
        self.dry_weeks()
        self.answer("delivery_mended")
        thirst.work(self.sessions, UUID(self.site_id))
        self.assertEqual(self.page()["state"], "none")

    def test_undone_readings_say_nothing_any_more(self):
        self.dry_weeks()
        entries = [e for e in self.get(f"trees/{self.tree}/log") if e["kind"] == "reading"]
        for left, some in ((3, entries[3:]), (0, entries[:3])):
            for entry in some:
                body = {"tree_id": self.tree, "kind": "void", "happened_at": f"{DAY}T11:45:00Z", "device_id": DEVICE,
                        "voids": entry["id"]}  # fmt: skip
                self.assertEqual(self.client.put(f"/api/log/{new_id()}", json=body).status_code, 201)
            thirst.work(self.sessions, UUID(self.site_id))
            page = self.page()
            self.assertEqual((page["state"], page["lines"]), ("none", []))
            self.assertEqual(page["fit"] and page["fit"]["verdict"], "too_few" if left else None)

    def test_a_row_is_shown_together(self):
        self.dry_weeks()
        (row,) = self.get(f"sites/{self.site_id}/thirst")
        self.assertEqual([tree["id"] for tree in row["trees"]], [self.tree])
        self.assertFalse(row["trees"][0]["odd"])


class WaterNow(unittest.TestCase):
    """A tree of the demo's town that rests."""

    def setUp(self):
        self.client = self.enterContext(client("demo"))
        trees = self.client.get("/api/trees", params={"state": "resting", "limit": 100}).json()["trees"]
        self.tree = next(t["id"] for t in trees if t["next"] and t["next"]["day"] > f"{DAY + timedelta(days=1)}")

    def today_l(self):
        chart = self.client.get(f"/api/trees/{self.tree}/water").json()["chart"]
        return next(day["planned_l"] for day in chart if day["day"] == f"{DAY}")

    def check(self):
        body = {"tree_id": self.tree, "happened_at": f"{DAY}T05:40:00-06:00", "device_id": DEVICE,
                "findings": {"leaf": "droop", "overnight": "recovers", "row": "all_alike"}}  # fmt: skip
        return self.client.put(f"/api/checkups/{new_id()}", json=body).json()

    def test_it_is_a_visit_today_until_it_is_poured_or_taken_back(self):
        self.assertEqual(self.today_l(), 0)
        kept = self.check()
        self.assertIn(kept["water_act"], ("water_now", "water_on_ball"))
        self.assertGreater(self.today_l(), 0)
        self.client.post(f"/api/checkups/{kept['id']}/withdraw")
        self.assertEqual(self.today_l(), 0)
        self.check()
        self.client.put(f"/api/log/{new_id()}", json=water_body(self.tree, 5, at="05:50"))
        self.assertEqual(self.today_l(), 0)


if __name__ == "__main__":
    unittest.main()
