"""What can be rehearsed of a tree: its seasons north and south, how it opens in them, usual figures, what it costs."""

import unittest
from dataclasses import replace
from datetime import timedelta

from june_shade.core.care import book_rules
from june_shade.core.errors import InputError
from june_shade.core.water.schools import ROUTINES, Routine
from june_shade.demo.names import name_id
from june_shade.plans import rehearse
from june_shade.plans.water.run import prepare
from june_shade.store.session import transaction
from june_shade.store.tree_tables import Tree
from tests.support import database

BALANCE, NONE = Routine("balance"), Routine("none")
OLDER, ON_A_LINE = name_id("tree", "HL", 4), name_id("tree", "RT", 22)


class Rehearsing(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        sessions = cls.enterClassContext(database("demo"))
        cls.session = cls.enterClassContext(transaction(sessions))
        cls.tree = cls.session.get_one(Tree, OLDER)
        cls.made = prepare(cls.session, cls.tree.site, [OLDER])
        cls.at = next(i for i, row in enumerate(cls.made.loaded.trees) if row.id == OLDER)

    def run_of(self, season, *routines, tree=OLDER, **more):
        return rehearse.rehearse(self.session, tree, season, routines or (BALANCE, NONE), **more)


class Seasons(Rehearsing):
    def test_ahead_past_and_whole_measured_years_the_newest_first(self):
        spans = rehearse.seasons(self.made, self.at)
        ahead, past, *years = spans
        self.assertEqual((ahead.key, ahead.first), ("ahead", self.made.loaded.today))
        self.assertEqual(past.last, ahead.first - timedelta(days=1))
        self.assertGreaterEqual(len(years), 1)
        self.assertEqual([year.key for year in years], sorted((year.key for year in years), reverse=True))
        for year in years:
            span = year.first.isoformat(), year.last.isoformat()
            self.assertEqual(span, (f"{year.key}-01-01", f"{year.key}-12-31"))
            self.assertLess(year.last, ahead.first)

    def test_south_of_the_equator_a_season_goes_from_winter_to_winter(self):
        loaded = self.made.loaded
        south = replace(self.made, loaded=replace(loaded, site=replace(loaded.site, latitude_deg=-33.0)))
        _, _, *years = rehearse.seasons(south, self.at)
        self.assertTrue(years)
        for year in years:
            self.assertEqual(((year.first.month, year.first.day), (year.last.month, year.last.day)), ((7, 1), (6, 30)))
            self.assertEqual(year.last.year, year.first.year + 1)
            self.assertLess(year.last, loaded.today)

    def test_in_a_year_before_its_time_it_opens_as_planted_and_in_the_past_as_it_stood(self):
        year = rehearse.seasons(self.made, self.at)[2]
        self.assertLess(year.first, self.tree.opened_on)
        self.assertTrue(self.run_of(year.key).as_planted)
        past = self.run_of("past")
        self.assertFalse(past.as_planted)
        radius = self.made.run.trees.ball_radius_m[self.at]
        self.assertGreater(past.routines[0].root_radius_m, float(radius))

    def test_one_that_it_has_not_is_refused_with_those_it_has(self):
        with self.assertRaisesRegex(InputError, "ahead, past"):
            self.run_of("1066")
        with self.assertRaisesRegex(InputError, "1 to 12"):
            rehearse.rehearse(self.session, OLDER, "past", [])


class WhatItCosts(Rehearsing):
    def test_water_and_hours_at_the_site_s_prices_and_nothing_without_any(self):
        site = self.tree.site
        kept = site.water_price_per_m3, site.hour_price
        try:
            site.water_price_per_m3, site.hour_price = 3.0, 40.0
            priced = self.run_of("past")
            for one in priced.routines:
                expected = 3.0 * one.season.gross_l / 1000 + 40.0 * one.hours
                self.assertAlmostEqual(one.cost, expected, places=6)
            site.water_price_per_m3 = site.hour_price = None
            self.assertEqual([one.cost for one in self.run_of("past").routines], [None, None])
        finally:
            site.water_price_per_m3, site.hour_price = kept

    def test_a_trickle_is_opened_not_stood_by(self):
        trickle, hose = Routine("slow_hose", flow_l_per_h=40.0, hours=2.5), Routine("fixed", litres=100.0, every_days=7)
        slow, quick = self.run_of("past", trickle, hose).routines
        self.assertGreater(slow.season.waterings, 0)
        self.assertLess(slow.hours / slow.season.waterings, quick.hours / quick.season.waterings)


class BesideEachOther(Rehearsing):
    def test_more_water_never_leaves_it_thirstier(self):
        amounts = [Routine("fixed", litres=litres, every_days=3) for litres in (5.0, 20.0, 60.0)]
        thirsty = [one.season.thirsty_days for one in self.run_of("past", *amounts).routines]
        self.assertEqual(thirsty, sorted(thirsty, reverse=True))

    def test_a_routine_alone_is_the_same_as_among_others(self):
        usual = rehearse.usual(self.made.loaded.trees[self.at], self.made.loaded.today)
        together = self.run_of("past", *usual).routines
        for one in together[2:5]:
            alone = self.run_of("past", one.routine).routines[0]
            self.assertEqual((alone.poured_l, alone.fit), (one.poured_l, one.fit), one.routine.name)

    def test_a_tree_on_a_line_is_gone_through_by_itself(self):
        found = self.run_of("past", tree=ON_A_LINE)
        pours = [litres for litres in found.routines[0].poured_l if litres > 0]
        self.assertTrue(pours)
        self.assertEqual(len(found.dates), len(found.rain_mm))

    def test_usual_figures_are_those_of_the_rules_for_its_caliper(self):
        row = self.made.loaded.trees[self.at]
        days = (self.made.loaded.today - row.planted_on).days
        rules = {rule.key: rule for rule in book_rules.rules(row.caliper_m, days)}
        usual = {routine.name: routine for routine in rehearse.usual(row, self.made.loaded.today)}
        self.assertEqual(list(usual), list(ROUTINES))
        self.assertTrue(rules["uf"].litres_low <= usual["fixed"].litres <= rules["uf"].litres_high)
        self.assertAlmostEqual(usual["bare_root"].litres, rules["csu"].litres_low, delta=0.5)


if __name__ == "__main__":
    unittest.main()
