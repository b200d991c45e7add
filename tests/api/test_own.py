"""A tree handed over: proofs are asked for and kept, the plan goes by the deep routine, and it comes back."""

import unittest
from datetime import timedelta

from june_shade.plans import clock
from june_shade.store.session import transaction
from tests.api.test_trees import RegisterTest
from tests.support import DAY, DEVICE, new_id, water_body


class OnItsOwn(RegisterTest):
    """A tree that was planted years ago and entered lately, so that its roots are out."""

    def setUp(self):
        super().setUp()
        self.tree = self.enter(DAY - timedelta(days=40), planted_on="2019-04-02")

    def enter(self, entered, **more):
        with transaction(self.sessions) as session:
            clock.pin(session, entered)
        made = self.put(**more)
        self.assertEqual(made.status_code, 200, made.text)
        with transaction(self.sessions) as session:
            clock.pin(session, DAY)
        return made.json()["id"]

    def own(self):
        answer = self.client.get(f"/api/trees/{self.tree}/own")
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def act(self, kind, identity=None, **more):
        body = {"tree_id": self.tree, "kind": kind} | more
        return self.client.put(f"/api/own-acts/{identity or new_id()}", json=body)

    def water(self):
        return self.client.get(f"/api/trees/{self.tree}/water").json()

    def tasks(self):
        found = self.client.get("/api/care", params={"site_id": self.site_id}).json()["tasks"]
        return {task["kind"] for task in found if task["tree_id"] == self.tree}


class Proven(OnItsOwn):
    def setUp(self):
        super().setUp()
        self.tree = self.enter(DAY - timedelta(days=40), tag="Y-1", planted_on=(DAY - timedelta(days=50)).isoformat())

    def test_what_is_missing_is_named_and_asked_for_as_tasks(self):
        refused = self.act("handed")
        self.assertEqual(refused.status_code, 422)
        self.assertIn("dry spell", refused.json()["detail"])
        self.assertFalse({task for task in self.tasks() if task.startswith("prove_")})
        self.act("offered")
        asked = {f"prove_{name}" for name in ("dry_spell", "firm", "growth", "flare", "supports_off")}
        self.assertLessEqual(asked, self.tasks())
        short = self.act("growth", growth_m=0.05)
        self.assertEqual((short.status_code, short.json()["field"]), (422, "growth_m"))
        self.assertIn("0.1\u00a0m", short.json()["detail"], "a length that the interface words in the units chosen")
        self.assertEqual(self.act("dry_spell").status_code, 422)
        checkup = {"tree_id": self.tree, "happened_at": f"{DAY}T05:40:00-06:00", "device_id": DEVICE,
                   "findings": {"push": "firm", "flare": "seen"}}  # fmt: skip
        self.assertEqual(self.client.put(f"/api/checkups/{new_id()}", json=checkup).status_code, 200)
        for kind, more in (
            ("growth", {"growth_m": 0.2}),
            ("supports_off", {}),
            ("dry_spell", {"fine_and_moist": True}),
        ):
            self.assertEqual(self.act(kind, **more).status_code, 200, kind)
        found = self.own()
        self.assertEqual(found["missing"], [])
        self.assertEqual({p["name"] for p in found["proofs"] if p["by_checkup"]}, {"firm", "flare"})
        self.assertIn("hand_over", self.tasks())
        self.assertEqual(self.act("handed").status_code, 200)
        self.assertNotIn("hand_over", self.tasks())
        self.assertIn("own_look", self.tasks())

    def test_a_dry_test_leaves_it_unwatered_for_two_weeks_and_can_be_given_up(self):
        before = self.water()
        test = new_id()
        self.assertEqual(self.act("dry_test", test).json()["hold_until"], f"{DAY + timedelta(days=14)}")
        self.assertFalse([day for day in self.water()["chart"] if day["planned_l"] > 0])
        self.client.post(f"/api/own-acts/{test}/withdraw")
        self.assertEqual(self.water()["chart"], before["chart"])


class Handed(OnItsOwn):
    def test_sent_twice_it_is_one_and_taken_back_the_plan_is_as_before(self):
        before, identity = self.water(), new_id()
        first, again = (self.act("handed", identity) for _ in range(2))
        self.assertEqual((first.status_code, first.json()), (200, again.json()))
        self.assertEqual(self.own()["handed_on"], f"{DAY}")
        self.assertNotEqual(self.water()["chart"], before["chart"])
        self.client.post(f"/api/own-acts/{identity}/withdraw")
        after = self.water()
        self.assertEqual(after["chart"], before["chart"])
        self.assertEqual(after["next"], before["next"])

    def test_on_its_own_it_is_watered_deep_and_never_at_the_trunk(self):
        self.act("handed")
        page = self.water()
        lines = {line["key"]: line for line in page["working"]}
        self.assertGreaterEqual(page["section"]["root_depth_m"], 0.85)
        if page["next"]:
            self.assertEqual(lines["ball_share"]["value"], 0.0)
        own = self.own()
        self.assertAlmostEqual(own["inner_m"], own["roots_m"] / 2)
        self.assertAlmostEqual(own["outer_m"], own["roots_m"] * 4 / 3)

    def test_handed_over_on_the_day_it_was_entered_every_page_stands(self):
        self.tree = self.enter(DAY, tag="N-1", planted_on="2019-04-02", basin_diameter_m=0.7)
        self.assertEqual(self.act("handed").status_code, 200)
        for path in ("today", "trees", f"trees/{self.tree}/water", f"trees/{self.tree}/checks", "care"):
            self.assertEqual(self.client.get(f"/api/{path}").status_code, 200, path)
        page, checks = (self.client.get(f"/api/trees/{self.tree}/{tab}").json() for tab in ("water", "checks"))
        self.assertEqual(page["doubt"], checks["doubt"])
        coming = page["next"]
        self.assertNotIn("slow_ground", coming["flags"], "it is poured on the wide ring, not into the basin")
        self.assertGreaterEqual(coming["proof_depth_m"], 0.6)

    def test_rest_counts_from_water_in_the_log_whether_its_days_are_run_again_or_not(self):
        self.act("handed")
        body = water_body(self.tree, 400.0, at="05:12")
        self.assertEqual(self.client.put(f"/api/log/{new_id()}", json=body).status_code, 201)
        for after in (1, 3):
            with transaction(self.sessions) as session:
                clock.pin(session, DAY + timedelta(days=after))
            listed = next(t for t in self.client.get("/api/trees").json()["trees"] if t["id"] == self.tree)
            page = self.water()
            self.assertEqual(listed["next"], page["next"], "with its days run again, and from yesterday's state")
            planned = [day["day"] for day in page["chart"] if day["planned_l"] > 0]
            self.assertTrue(all(day >= f"{DAY + timedelta(days=10)}" for day in planned), planned)

    def test_one_that_can_not_be_watered_deep_says_what_is_in_the_way_before_and_when_it_is_tried(self):
        self.assertIsNone(self.own()["in_the_way"])
        for tag, changed, held_by in (
            ("L-1", {"method": "emitters", "emitter_count": 4, "emitter_flow_l_per_h": 4.0, "line": "A"}, "line"),
            ("L-2", {"method": "wicked", "reservoir_l": 60.0}, "wicks"),
        ):
            with self.subTest(held_by):
                self.tree = self.enter(DAY - timedelta(days=40), planted_on="2019-04-02", tag=tag, **changed)
                self.assertEqual(self.own()["in_the_way"], held_by)
                refused = self.act("handed")
                self.assertEqual(refused.status_code, 422)
                self.assertIn("first", refused.json()["detail"])

    def test_a_check_up_that_says_water_brings_it_back_and_withdrawn_it_stays_out(self):
        self.act("handed")
        checkup = new_id()
        body = {"tree_id": self.tree, "happened_at": f"{DAY}T05:40:00-06:00", "device_id": DEVICE,
                "findings": {"ball_feel": "dry", "ring_feel": "dry", "leaf": "droop"}}  # fmt: skip
        kept = self.client.put(f"/api/checkups/{checkup}", json=body).json()
        self.assertIn(kept["water_act"], ("water_now", "water_on_ball"))
        self.assertIsNone(self.own()["handed_on"])
        self.client.post(f"/api/checkups/{checkup}/withdraw")
        self.assertEqual(self.own()["handed_on"], f"{DAY}")
        self.assertEqual(self.act("back").status_code, 200)
        self.assertIsNone(self.own()["handed_on"])
        kinds = [row["subject"] for row in self.client.get(f"/api/book?tree_id={self.tree}&kind=own").json()["rows"]]
        self.assertEqual(sorted(kinds), ["back", "handed"])


if __name__ == "__main__":
    unittest.main()
