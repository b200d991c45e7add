"""The plan under limits over HTTP: crews, orders, the fortnight, moves; Today follows it, and what matters to it."""

import unittest
from datetime import date, timedelta
from uuid import UUID

from june_shade.plans.choosing import work
from june_shade.store.session import reading
from june_shade.store.site_tables import Site
from tests.support import DAY, client, new_id, plant_id, small_site, tree_body, water_body

CREW = {"name": "North", "people": 2, "hours": 2.0, "break_min": 45.0, "hoses": 1, "working_days": list(range(7))}
TREES = 12
ORDER = {
    "name": "Stage 3",
    "stage": 3,
    "first_day": "2026-07-01",
    "rules": {"weekdays": [3, 6]},
    "words": "Wed and Sat.",
}


class Limited(unittest.TestCase):
    """A site of a dozen thirsty trees, with a crew that has little more than an hour a day."""

    def setUp(self):
        self.client = self.enterContext(client())
        self.sessions = self.client.app.state.sessions
        with self.sessions.begin() as session:
            site = small_site(session)
            self.site, self.plant = str(site.id), plant_id(session)
        planted = (DAY - timedelta(days=40)).isoformat()
        self.trees = []
        for n in range(TREES):
            self.trees.append(new_id())
            body = tree_body(self.site, self.plant, tag=f"T-{n:02d}", planted_on=planted, stop="Gate")
            answer = self.client.put(f"/api/trees/{self.trees[-1]}", json=body)
            self.assertEqual(answer.status_code, 200, answer.text)
        self.crew = new_id()
        self.assertEqual(self.put(f"/api/crews/{self.crew}", CREW).status_code, 200)
        self.of_site(crew_id=self.crew)

    def put(self, path: str, body: dict):
        return self.client.put(path, json=body)

    def of_site(self, **changed):
        known = set(self.client.get("/api/openapi.json").json()["components"]["schemas"]["SiteIn"]["properties"])
        row = next(s for s in self.client.get("/api/sites").json() if s["id"] == self.site)
        body = {name: value for name, value in row.items() if name in known - {"version"}}
        answer = self.put(f"/api/sites/{self.site}", body | changed)
        self.assertEqual(answer.status_code, 200, answer.text)

    def choose(self, seconds: float = 2.0):
        work.work(self.sessions, seconds=seconds)

    def fortnight(self) -> dict:
        answer = self.client.get("/api/fortnight")
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def rows(self, found: dict) -> list[dict]:
        return [tree for site in found["sites"] for stop in site["stops"] for tree in stop["trees"]]

    def stale(self) -> bool:
        return self.client.get("/api/plan").json()["stale"]

    def wish(self, tree: dict, day: str, wish: str, **more):
        return self.put(f"/api/wishes/{new_id()}", {"tree_id": tree["id"], "day": day, "wish": wish} | more)


class Plan(Limited):
    def test_today_and_the_fortnight_are_one_plan_within_the_hours(self):
        before = self.client.get("/api/today").json()["sites"][0]
        self.choose()
        found, today = self.fortnight(), self.client.get("/api/today").json()["sites"][0]
        crew = found["crews"][0]
        for minutes, limit in zip(crew["minutes"], crew["limits"], strict=True):
            self.assertLessEqual(minutes, limit * 1.5, "a later day may be found longer on the way than was reckoned")
        self.assertLessEqual(crew["minutes"][0], crew["limits"][0] + 0.5, "today is driven within its hours")
        self.assertAlmostEqual(crew["minutes"][0], today["crew"]["minutes"], places=6)
        round_l = {t["id"]: t["next"]["metric"]["litres"] for stop in today["stops"] for t in stop["trees"]}
        planned = {t["id"]: v["litres"] for t in self.rows(found) for v in t["visits"] if v["day"] == 0}
        self.assertEqual(round_l, planned)
        waiting = {t["id"] for t in today["waiting"]}
        self.assertEqual(waiting, {t["id"] for t in self.rows(found) if t["waits"]})
        wanted = {t["id"] for stop in before["stops"] for t in stop["trees"]}
        self.assertEqual(wanted, waiting | (set(round_l) & wanted), "who wanted water gets it or waits")
        self.assertTrue(waiting and round_l)

    def test_the_tree_page_and_the_list_say_the_same(self):
        self.choose()
        tree = next(t for t in self.rows(self.fortnight()) if t["waits"] and t["visits"])
        page = self.client.get(f"/api/trees/{tree['id']}/water").json()
        self.assertEqual(page["section"]["state"], "waits")
        self.assertEqual(page["next"]["day"], (DAY + timedelta(days=tree["visits"][0]["day"])).isoformat())
        self.assertEqual(page["next"]["due_on"], DAY.isoformat())
        listed = self.client.get("/api/trees", params={"state": "waits"}).json()["trees"]
        self.assertIn(tree["id"], {row["id"] for row in listed})

    def test_what_is_logged_as_planned_changes_nothing_and_what_is_not_does(self):
        self.choose()
        self.assertFalse(self.stale())
        first = next(t for t in self.rows(self.fortnight()) if t["visits"] and t["visits"][0]["day"] == 0)
        body = water_body(first["id"], first["visits"][0]["litres"], at="06:05")
        self.assertEqual(self.put(f"/api/log/{new_id()}", body).status_code, 201)
        self.assertFalse(self.stale())
        waits = next(t for t in self.rows(self.fortnight()) if t["waits"])
        self.assertEqual(self.put(f"/api/log/{new_id()}", water_body(waits["id"], 30.0, at="06:08")).status_code, 201)
        self.assertTrue(self.stale())

    def test_a_young_plan_is_left_a_while_and_an_old_one_made_anew(self):
        self.choose()
        self.put(f"/api/crews/{self.crew}", CREW | {"hours": 3.0})
        with reading(self.sessions) as session:
            self.assertTrue(work.is_stale(session, [session.get_one(Site, UUID(self.site))]))
            self.assertFalse(work.is_due(session))
        self.assertEqual(self.client.post("/api/fortnight/again").status_code, 202)

    def test_more_hours_leave_fewer_waiting(self):
        self.choose()
        few = sum(t["waits"] for t in self.rows(self.fortnight()))
        self.put(f"/api/crews/{self.crew}", CREW | {"hours": 12.0})
        self.choose()
        self.assertEqual(sum(t["waits"] for t in self.rows(self.fortnight())), 0)
        self.assertGreater(few, 0)

    def test_without_any_limit_the_balance_decides_and_nothing_is_kept(self):
        self.of_site(crew_id=None)
        self.choose()
        found = self.fortnight()
        self.assertEqual((found["stale"], found["gap"]), (False, None))
        self.assertEqual(sum(t["waits"] for t in self.rows(found)), 0)


class Moves(Limited):
    def test_a_move_is_tried_kept_and_sent_twice_is_one(self):
        self.choose()
        found = self.fortnight()
        tree = next(t for t in self.rows(found) if t["visits"] and 0 < t["visits"][0]["day"] < 12)
        day = tree["visits"][0]["day"]
        days = [v["day"] + (v["day"] == day) for v in tree["visits"]]
        tried = self.client.post("/api/fortnight/try", json={"tree_id": tree["id"], "days": sorted(set(days))}).json()
        self.assertNotEqual(tried["dryness"], tree["dryness"])
        wish, body = new_id(), {
            "tree_id": tree["id"], "day": found["days"][day + 1], "wish": "pin", "instead_of": found["days"][day],
        }  # fmt: skip
        for _ in range(2):
            self.assertEqual(self.put(f"/api/wishes/{wish}", body).status_code, 200)
        self.assertEqual(self.put(f"/api/wishes/{wish}", body | {"wish": "forbid"}).status_code, 409)
        now = next(t for t in self.rows(self.fortnight()) if t["id"] == tree["id"])
        self.assertEqual([v["day"] for v in now["visits"]], [v["day"] for v in tried["visits"]])
        for a, b in zip(now["dryness"], tried["dryness"], strict=True):
            self.assertAlmostEqual(a, b, places=9)
        self.assertEqual([(w["day"], w["wish"]) for w in now["wishes"]], [(day + 1, "pin")])
        self.choose()
        now = next(t for t in self.rows(self.fortnight()) if t["id"] == tree["id"])
        self.assertIn(day + 1, [v["day"] for v in now["visits"]], "a pinned visit stays")

    def test_a_day_that_is_forbidden_has_no_visit_until_it_is_left_free(self):
        self.choose()
        found = self.fortnight()
        tree = next(t for t in self.rows(found) if t["visits"])
        day = tree["visits"][0]["day"]
        self.assertEqual(self.wish(tree, found["days"][day], "forbid").status_code, 200)
        self.choose()
        now = next(t for t in self.rows(self.fortnight()) if t["id"] == tree["id"])
        self.assertNotIn(day, [v["day"] for v in now["visits"]])
        self.assertEqual(self.wish(tree, found["days"][day], "free").status_code, 200)
        self.assertEqual(next(t for t in self.rows(self.fortnight()) if t["id"] == tree["id"])["wishes"], [])

    def test_what_can_not_be_is_named(self):
        tree = {"id": self.trees[0]}
        for day, where in ((DAY - timedelta(days=1), "day"), (DAY + timedelta(days=14), "day")):
            answer = self.wish(tree, day.isoformat(), "pin")
            self.assertEqual((answer.status_code, answer.json()["field"]), (422, where))
        bad = self.client.post("/api/fortnight/try", json={"tree_id": self.trees[0], "days": [3, 3]})
        self.assertEqual((bad.status_code, bad.json()["field"]), (422, "days"))
        self.assertEqual(
            self.client.post("/api/fortnight/try", json={"tree_id": new_id(), "days": []}).status_code, 404
        )
        self.assertEqual(self.wish(tree, DAY.isoformat(), "pin", person_id=new_id()).status_code, 422)


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

    def test_a_stop_is_told_where_it_is_whole_or_not_at_all(self):
        row = next(s for s in self.client.get("/api/sites").json() if s["id"] == self.site)
        stop = row["stops"][0]["id"]
        good = self.put(f"/api/stops/{stop}", {"latitude_deg": 40.0, "longitude_deg": -105.0, "set_up_min": 4})
        self.assertEqual((good.status_code, good.json()["set_up_min"]), (200, 4.0))
        bad = self.put(f"/api/stops/{stop}", {"latitude_deg": 40.0})
        self.assertEqual((bad.status_code, bad.json()["field"]), (422, "longitude_deg"))


if __name__ == "__main__":
    unittest.main()
