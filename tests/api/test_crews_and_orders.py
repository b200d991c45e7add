"""What limits a plan, over HTTP: orders of an authority, crews, what their days take from them, stops."""

import unittest
from datetime import date, timedelta

from tests.api.test_choosing import CREW, TREES, Limited
from tests.support import DAY, new_id, water_body

ORDER = {
    "name": "Stage 3",
    "stage": 3,
    "first_day": "2026-07-01",
    "rules": {"weekdays": [3, 6]},
    "words": "Wed and Sat.",
}


class Orders(Limited):
    def order(self, **changed):
        self.order_id = new_id()
        return self.put(f"/api/restrictions/{self.order_id}", ORDER | {"sites": [self.site]} | changed)

    def test_an_order_closes_days_and_taken_back_it_does_not(self):
        self.assertEqual(self.order().status_code, 200)
        self.choose()
        found = self.fortnight()
        days = {date.fromisoformat(found["days"][v["day"]]).isoweekday() for t in self.rows(found) for v in t["visits"]}
        self.assertLessEqual(days, {3, 6})
        self.assertEqual([o["name"] for o in found["orders"]], ["Stage 3"])
        self.put(f"/api/restrictions/{self.order_id}/withdrawn", {"withdrawn": True})
        self.assertTrue(self.stale())
        self.assertEqual(self.client.get("/api/restrictions").json(), [])

    def test_an_order_that_forbids_everything_leaves_a_plan_that_says_what_it_means(self):
        self.assertEqual(self.order(rules={"weekdays": []}).status_code, 200)
        self.choose()
        found, drought = self.fortnight(), self.client.get("/api/drought").json()
        self.assertEqual(sum(len(t["visits"]) for t in self.rows(found)), 0)
        self.assertEqual({t["word"] for t in drought["without"]}, {"may_die"})
        dying = [t for t in self.rows(found) if t["word"] == "may_die"]
        self.assertEqual({t["none_word"] for t in dying}, {"may_die"}, "no visit at all is what it has")
        self.assertEqual(drought["weeks"][0]["chosen_l"], 0.0)
        self.assertGreater(drought["weeks"][0]["wanted_l"], 0.0)

    def test_litres_of_a_week_count_what_was_poured(self):
        self.assertEqual(self.order(rules={}, week_l=200.0).status_code, 200)
        poured = water_body(self.trees[0], 120.0, at="06:05")
        self.assertEqual(self.put(f"/api/log/{new_id()}", poured).status_code, 201)
        self.choose()
        # weeks begin on the order's first day, Wednesday July 1: today's begins today
        litres = sum(v["litres"] for t in self.rows(self.fortnight()) for v in t["visits"] if v["day"] < 7)
        self.assertLessEqual(litres, 80.0 + TREES, "each is told in whole litres, rounded up")

    def test_a_watering_against_an_order_is_kept_and_marked_with_its_rule(self):
        self.assertEqual(self.order(rules={"weekdays": [3], "windows": [["18:00", "10:00"]]}).status_code, 200)
        for at, rules in (("06:09", None), ("06:08", None)):
            answer = self.put(f"/api/log/{new_id()}", water_body(self.trees[0], 20.0, at=at))
            self.assertEqual(answer.status_code, 201)
            self.assertEqual(answer.json()["against"], rules or [])
        yesterday = water_body(self.trees[1], 20.0, day=DAY - timedelta(days=1), at="11:30")
        answer = self.put(f"/api/log/{new_id()}", yesterday).json()
        self.assertEqual(
            [(a["order"], a["rules"], a["words"]) for a in answer["against"]],
            [("Stage 3", ["weekdays", "windows"], "Wed and Sat.")],
        )
        log = self.client.get(f"/api/trees/{self.trees[1]}/log").json()
        self.assertEqual([len(e["against"]) for e in log], [1])

    def test_what_an_order_can_not_be_is_named(self):
        for changed, field in (
            ({"sites": []}, "sites"), ({"last_day": "2026-06-01"}, "last_day"), ({"stage": 9}, "stage"),
            ({"rules": {"weekdays": [8]}}, "rules"), ({"week_l": -1}, "week_l"),
        ):  # fmt: skip
            answer = self.order(**changed)
            self.assertEqual(answer.status_code, 422, answer.text)
            self.assertTrue(answer.json()["field"].startswith(field), answer.text)


class Crews(Limited):
    def test_a_broken_pump_stops_what_comes_from_the_tank_that_day(self):
        self.of_site(crew_id=self.crew, tank_l=400.0)
        self.put(f"/api/crews/{self.crew}", CREW | {"tank_l": 400.0})
        self.put(f"/api/crews/{self.crew}/days/{DAY}", {"pump_broken": True})
        self.choose()
        found = self.fortnight()
        self.assertEqual([v for t in self.rows(found) for v in t["visits"] if v["day"] == 0], [])
        self.assertTrue([v for t in self.rows(found) for v in t["visits"] if v["day"] == 1])

    def test_a_day_that_ends_early_has_less_in_it_and_a_lent_site_another_crew(self):
        self.put(f"/api/crews/{self.crew}/days/{DAY}", {"ends_min": 405})
        self.assertEqual(self.client.get(f"/api/crews/{self.crew}/days/{DAY}").json()["ends_min"], 405)
        self.assertEqual(self.fortnight()["crews"][0]["limits"][0], 0.0)
        other = new_id()
        self.put(f"/api/crews/{other}", CREW | {"name": "South", "hours": 10.0})
        self.assertEqual(self.put(f"/api/sites/{self.site}/lent/{DAY}", {"crew_id": other}).status_code, 200)
        self.choose()
        found = self.fortnight()
        minutes = {crew["name"]: crew["minutes"][0] for crew in found["crews"]}
        self.assertEqual(minutes["North"], 0.0)
        self.assertGreater(minutes["South"], 0.0)

    def test_what_a_crew_can_not_be_is_named_and_a_name_is_taken_once(self):
        for changed, field in (({"people": 0}, "people"), ({"hours": 25}, "hours"), ({"hoses": 0}, "hoses")):
            answer = self.put(f"/api/crews/{new_id()}", CREW | {"name": "East"} | changed)
            self.assertEqual((answer.status_code, answer.json()["field"]), (422, field))
        self.assertEqual(self.put(f"/api/crews/{new_id()}", CREW).status_code, 409)
        stale = self.put(f"/api/crews/{self.crew}", CREW | {"hours": 3.0, "version": 99})
        self.assertEqual(stale.status_code, 409)
        self.assertEqual(self.put(f"/api/crews/{new_id()}/days/{DAY}", {}).status_code, 404)
        bad = self.put(f"/api/crews/{self.crew}/days/{DAY}", {"starts_min": 600, "ends_min": 500})
        self.assertEqual(bad.json()["field"], "ends_min")

    def test_zero_hours_are_a_plan_all_the_same(self):
        self.assertEqual(self.put(f"/api/crews/{self.crew}", CREW | {"hours": 0}).status_code, 200)
        self.choose()
        self.assertEqual(sum(len(t["visits"]) for t in self.rows(self.fortnight())), 0)

    def test_a_tree_is_let_go_by_name_and_kept_after_all(self):
        self.put(f"/api/crews/{self.crew}", CREW | {"hours": 1.2})
        self.choose()
        let, body = new_id(), {"tree_id": self.trees[0], "by_name": "Noor"}
        for _ in range(2):
            self.assertEqual(self.put(f"/api/let-go/{let}", body).status_code, 200)
        self.choose()
        drought = self.client.get("/api/drought").json()
        self.assertEqual([(t["tag"], t["by_name"]) for t in drought["let_go"]], [("T-00", "Noor")])
        gone = next(t for t in self.rows(self.fortnight()) if t["id"] == self.trees[0])
        self.assertEqual(gone["visits"], [])
        self.assertEqual(self.client.post(f"/api/let-go/{let}/withdraw").status_code, 200)
        self.assertEqual(self.client.get("/api/drought").json()["let_go"], [])

    def test_what_does_not_fit_once_the_way_is_known_leaves(self):
        row = next(s for s in self.client.get("/api/sites").json() if s["id"] == self.site)
        place = {"latitude_deg": 40.0, "longitude_deg": -105.0}
        self.assertEqual(self.put(f"/api/stops/{row['stops'][0]['id']}", place).status_code, 200)
        far = CREW | {"hours": 3.0, "yard_latitude_deg": 40.2, "yard_longitude_deg": -105.0}
        self.assertEqual(self.put(f"/api/crews/{self.crew}", far).status_code, 200)
        # no time to choose again with a longer way: there and back is two hours more than was reckoned
        self.choose(0.01)
        crew = self.fortnight()["crews"][0]
        for day in range(2):
            self.assertLessEqual(crew["minutes"][day], crew["limits"][day] + 0.5, "routed days are within their hours")
        self.assertGreater(crew["minutes"][0], 120.0, "somebody goes there all the same")

    def test_it_is_the_crew_s_tank_that_is_filled_on_the_way(self):
        self.of_site(crew_id=self.crew, tank_l=10_000.0)
        for tank_l, fills in ((10_000.0, False), (60.0, True)):
            self.put(f"/api/crews/{self.crew}", CREW | {"tank_l": tank_l})
            today = self.client.get("/api/today").json()
            trees = [tree for stop in today["sites"][0]["stops"] for tree in stop["trees"]]
            self.assertGreater(len(trees), 3)
            self.assertEqual(bool(today["fills"]), fills)

    def test_minutes_are_learned_from_the_log_and_stand_beside_those_typed(self):
        learned = self.client.get(f"/api/crews/{self.crew}/learned").json()
        self.assertEqual(learned["handling"], {"minutes": None, "of": 0})
        minute = 0
        for day in range(1, 7):
            for n, tree in enumerate(self.trees[:2]):
                minute = 5 + 7 * n  # four minutes of water and three of handling
                body = water_body(tree, 20.0, day=DAY - timedelta(days=day), at=f"06:{minute:02d}") | {
                    "duration_min": 4
                }
                self.assertEqual(self.put(f"/api/log/{new_id()}", body).status_code, 201)
        learned = self.client.get(f"/api/crews/{self.crew}/learned").json()
        self.assertEqual(learned, {"handling": {"minutes": 3.0, "of": 6}, "set_up": {"minutes": None, "of": 0}})
        stops = self.client.get(f"/api/sites/{self.site}/stops").json()
        self.assertEqual([(s["name"], s["trees"], s["arriving"]["of"]) for s in stops], [("Gate", TREES, 0)])
        self.assertEqual(self.client.get(f"/api/crews/{new_id()}/learned").status_code, 404)
        self.assertEqual(self.client.get(f"/api/sites/{new_id()}/stops").status_code, 404)

    def test_a_stop_is_told_where_it_is_whole_or_not_at_all(self):
        row = next(s for s in self.client.get("/api/sites").json() if s["id"] == self.site)
        stop = row["stops"][0]["id"]
        good = self.put(f"/api/stops/{stop}", {"latitude_deg": 40.0, "longitude_deg": -105.0, "set_up_min": 4})
        self.assertEqual((good.status_code, good.json()["set_up_min"]), (200, 4.0))
        bad = self.put(f"/api/stops/{stop}", {"latitude_deg": 40.0})
        self.assertEqual((bad.status_code, bad.json()["field"]), (422, "longitude_deg"))


if __name__ == "__main__":
    unittest.main()
