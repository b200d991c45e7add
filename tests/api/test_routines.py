"""Routines over HTTP: what is rehearsed is what the plan then does; chosen for a tree or a site, taken back."""

import unittest
from datetime import date

from june_shade.plans import clock
from june_shade.store.session import transaction
from tests.api.test_looking import Looking
from tests.support import new_id

FIXED = {"name": "fixed", "litres": 7.0, "every_days": 4}


class Routines(Looking):
    def rehearse(self, *routines, season="ahead", **more):
        body = {"season": season, "routines": list(routines)} | more
        return self.client.post(f"/api/trees/{self.tree}/rehearsal", json=body)

    def follow(self, routine, identity=None, **whom):
        body = {"routine": routine} | (whom or {"tree_id": self.tree})
        return self.client.put(f"/api/routines/{identity or new_id()}", json=body)

    def water(self):
        return self.get(f"trees/{self.tree}/water")

    def poured(self):
        """Litres by day that the plan pours."""
        return {day["day"]: day["planned_l"] for day in self.water()["chart"] if day["planned_l"] > 0}

    def on(self, day: date) -> None:
        with transaction(self.sessions) as session:
            clock.pin(session, day)


class Rehearsed(Routines):
    def test_the_days_ahead_are_those_of_the_plan(self):
        found = self.rehearse({"name": "balance"}, FIXED).json()
        visits = [{day for day, litres in zip(found["dates"], one["poured_l"], strict=True) if litres > 0}
                  for one in found["routines"]]  # fmt: skip
        self.assertEqual(visits[0], set(self.poured()))
        self.assertEqual(self.follow(FIXED).status_code, 200)
        self.assertEqual(visits[1], set(self.poured()))
        self.assertEqual(set(self.poured().values()), {7.0})

    def test_every_school_on_every_season_that_it_names(self):
        choices = self.get(f"trees/{self.tree}/rehearsal")
        self.assertEqual([one["name"] for one in choices["usual"]][:2], ["balance", "none"])
        self.assertEqual([season["key"] for season in choices["seasons"]][:2], ["ahead", "past"])
        for season in choices["seasons"]:
            found = self.rehearse(*choices["usual"], season=season["key"])
            self.assertEqual(found.status_code, 200, found.text)
            balance, none, *_ = found.json()["routines"]
            self.assertEqual((balance["fit"], balance["more_l"]), ("is_balance", 0.0))
            self.assertEqual((none["waterings"], none["gross_l"], none["hours"]), (0, 0.0, 0.0))
            self.assertLessEqual(balance["thirsty_days"], none["thirsty_days"])
            for one in found.json()["routines"]:
                self.assertEqual(sum(month["waterings"] for month in one["months"]), one["waterings"])
                self.assertAlmostEqual(sum(one["poured_l"]), one["gross_l"])

    def test_a_larger_ball_wants_more_and_opens_as_planted(self):
        sizes = {size["label"]: size["id"] for size in self.get("stock-sizes")}
        small, large = (
            self.rehearse({"name": "balance"}, season="past", stock_size_id=sizes[label]).json()
            for label in ("1 in balled", "3 in balled")
        )
        self.assertTrue(small["as_planted"] and large["as_planted"])
        self.assertGreater(large["routines"][0]["gross_l"], small["routines"][0]["gross_l"])

    def test_what_can_not_be_is_refused_by_name(self):
        for body, name in (
            ({"name": "fixed", "litres": 7.0}, "every_days"), ({"name": "fixed", "every_days": 3}, "litres"),
            ({"name": "when_dry", "dry_limit": 5.0}, "dry_limit"), ({"name": "heat", "litres": 1e6}, "litres"),
        ):  # fmt: skip
            for answer in (self.rehearse(body), self.follow(body)):
                self.assertEqual(answer.status_code, 422, answer.text)
                self.assertIn(name, answer.text)
        self.assertIn("season", self.rehearse({"name": "balance"}, season="1066").text)


class Followed(Routines):
    def test_sent_twice_it_is_one_and_taken_back_the_balance_plans_to_the_last_digit(self):
        before, identity = self.water(), new_id()
        first, again = (self.follow(FIXED, identity) for _ in range(2))
        self.assertEqual(first.json(), again.json())
        self.assertEqual(self.follow(FIXED | {"litres": 8.0}, identity).status_code, 409)
        followed = self.water()
        self.assertEqual(followed["routine"]["routine"]["name"], "fixed")
        self.assertEqual(followed["next"]["routine"], "fixed")
        self.assertTrue(any(line["key"] == "routine" for line in followed["working"]))
        self.assertEqual(self.client.post(f"/api/routines/{identity}/withdraw").status_code, 200)
        after = self.water()
        for name in ("chart", "next", "working", "routine"):
            self.assertEqual(after[name], before[name], name)

    def test_a_missed_day_is_late_by_the_routine_and_the_balance_is_told(self):
        self.follow({"name": "none"})
        self.on(date(2026, 7, 18))
        (site,) = self.get("today")["sites"]
        tag = self.water()["tree"]["tag"]
        self.assertEqual((site["stops"], site["dry_by_balance"]), ([], [tag]))
        self.follow({"name": "fixed", "litres": 7.0, "every_days": 5})
        self.on(date(2026, 7, 20))
        coming = self.water()["next"]
        self.assertEqual((coming["day"], coming["late_days"], coming["metric"]["litres"]), ("2026-07-20", 2, 7.0))
        self.assertEqual(self.get("today")["sites"][0]["dry_by_balance"], [])

    def test_a_site_is_one_choice_without_its_boxes(self):
        boxed = self.put(tag="B-2", method="wicked", reservoir_l=40).json()
        answer = self.follow(FIXED, site_id=self.site_id)
        self.assertEqual((answer.status_code, answer.json()["trees"]), (200, 1), answer.text)
        refused = self.follow(FIXED, tree_id=boxed["id"])
        self.assertEqual(refused.status_code, 422)
        self.assertEqual(self.follow(FIXED, tree_id=self.tree, site_id=self.site_id).status_code, 422)


if __name__ == "__main__":
    unittest.main()
