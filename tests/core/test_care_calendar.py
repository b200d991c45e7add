"""The care calendar: what each thing done asks for later, keys that stay, what was moved or dismissed."""

import unittest
from dataclasses import replace
from datetime import date, timedelta

from hypothesis import given
from hypothesis import strategies as st

from june_shade.core.care import calendar, cautions, frost
from june_shade.core.care.calendar import Act, Caught, Facts
from june_shade.core.care.frost import Season

PLANTED = date(2026, 4, 24)
TODAY = date(2026, 7, 15)
FACTS = Facts(
    PLANTED,
    support="one_stake",
    wrap=True,
    mulched=True,
    mulch_laid_on=date(2026, 5, 1),
    thin_on=date(2027, 3, 1),
    fruiting=True,
)


def kinds(facts=FACTS, today=TODAY, acts=None):
    return {task.kind: task for task in calendar.tasks(facts, today, acts or {})}


class Tasks(unittest.TestCase):
    def test_days_follow_from_what_was_done(self):
        found = kinds()
        # common practice: stakes off after a year, weeds held 3 months by mulch alone and 12 with card
        self.assertEqual(found["stake_off"].due_on, PLANTED + timedelta(days=365))
        self.assertEqual(found["mulch_top_up"].due_on, FACTS.thin_on)
        self.assertAlmostEqual((found["weeds_through"].due_on - FACTS.mulch_laid_on).days, 91, delta=1)
        card = kinds(replace(FACTS, underlay="card"))
        self.assertAlmostEqual((card["weeds_through"].due_on - FACTS.mulch_laid_on).days, 365, delta=1)
        self.assertEqual(found["mulch_check"].due_on, FACTS.mulch_laid_on + timedelta(days=365))

    def test_nothing_is_asked_for_what_is_not_there(self):
        bare = kinds(Facts(PLANTED))
        self.assertEqual(set(bare), {"flare_check"})

    def test_flowers_come_off_in_the_first_bloom_and_most_in_the_second(self):
        later = kinds(today=date(2027, 5, 1))
        self.assertEqual(later["flowers_off"].due_on.year, 2027)
        self.assertEqual(later["flowers_thin"].due_on.year, 2028)

    def test_leaves_out_on_february_29_have_a_day_in_every_year(self):
        out = replace(FACTS, planted_on=date(2026, 10, 1), leaf_out=(2, 29))
        found = kinds(out, today=date(2027, 2, 20))
        self.assertEqual(found["flowers_off"].due_on, date(2027, 2, 28))
        self.assertEqual(found["flowers_thin"].due_on, date(2028, 2, 29))

    def test_spring_is_half_a_year_away_south_of_the_equator(self):
        self.assertEqual(kinds(today=date(2027, 4, 1))["flowers_off"].due_on, date(2027, 5, 1))
        self.assertEqual(kinds(replace(FACTS, southern=True))["flowers_off"].due_on, date(2026, 11, 1))

    def test_a_verdict_asks_for_its_work(self):
        looked = replace(FACTS, mulch_looked_on=TODAY)
        self.assertIn("mulch_pull_back", kinds(replace(looked, verdict="pull_back")))
        stages = [t for t in calendar.tasks(replace(looked, verdict="in_stages"), TODAY, {}) if t.kind == "mulch_stage"]
        self.assertEqual([t.part for t in stages], [1, 2, 3])
        self.assertNotIn("weeds_through", kinds(looked))

    def test_what_a_catch_test_found_is_asked_for_and_then_a_test(self):
        found = replace(FACTS, caught=Caught(TODAY, "one", clean=(3, 11), mend=(5,)))
        asked = kinds(found)
        self.assertEqual((asked["emitters_clean"].numbers, asked["emitters_mend"].numbers), ((3, 11), (5,)))
        self.assertNotIn("emitters_test", asked)
        done = {asked["emitters_clean"].key: Act("done", TODAY)}
        self.assertNotIn("emitters_test", kinds(found, acts=done), "one of two was done")
        done[asked["emitters_mend"].key] = Act("done", TODAY + timedelta(days=1))
        after = kinds(found, acts=done)
        self.assertEqual(after["emitters_test"].due_on, TODAY + timedelta(days=1))
        self.assertTrue({"emitters_clean", "emitters_mend"}.isdisjoint(after))
        even = kinds(replace(FACTS, caught=Caught(TODAY, "two")), acts=done)
        self.assertTrue(set(calendar.OF_CATCHES).isdisjoint(even), "a test that found nothing asks for nothing")

    def test_what_a_line_s_meter_says_is_a_task_that_stays_one_while_it_says_so(self):
        for verdict, kind in (("clogging", "line_test"), ("blocked", "line_test"), ("leak", "line_walk"),
                              ("burst", "line_walk"), ("stuck_shut", "line_valve"), ("fine", None)):  # fmt: skip
            metered = calendar.Metered(TODAY, "run", verdict)
            found = {k for k in kinds(replace(FACTS, metered=metered)) if k.startswith("line_")}
            self.assertEqual(found, {kind} - {None}, verdict)

    def test_new_mulch_over_a_line_wants_emitters_lifted(self):
        drip = kinds(replace(FACTS, emitters=True, mulch_laid_on=TODAY))
        self.assertEqual(drip["emitters_lift"].due_on, TODAY)
        self.assertNotIn("emitters_lift", kinds())

    def test_the_first_mulch_is_due_with_the_tree_until_it_lies(self):
        new = Facts(PLANTED, mulch_to_come=True)
        self.assertEqual(kinds(new)["mulch_first"].due_on, PLANTED)
        self.assertNotIn("mulch_first", kinds(replace(new, mulch_laid_on=TODAY, mulched=True)))
        self.assertNotIn("mulch_first", kinds(Facts(PLANTED)))

    def test_only_what_bears_loses_its_flowers_and_only_what_is_to_be_fed_is_fed_after_six_weeks(self):
        self.assertNotIn("flowers_off", kinds(replace(FACTS, fruiting=False), date(2027, 5, 1)))
        self.assertNotIn("feed", kinds())
        self.assertEqual(kinds(replace(FACTS, feed=True))["feed"].due_on, PLANTED + timedelta(weeks=6))

    def test_a_look_for_pests_comes_each_year_for_kinds_that_have_them(self):
        look = kinds(replace(FACTS, pests=("borers", "scale")))["pest_look"]
        self.assertEqual((look.due_on, look.detail), (date(2027, 6, 1), ("borers", "scale")))
        south = kinds(replace(FACTS, pests=("mites",), southern=True))
        self.assertEqual(south["pest_look"].due_on, date(2026, 12, 1))
        self.assertNotIn("pest_look", kinds(replace(FACTS, pests=("mites",)), acts={look.key: Act("done", TODAY)}))

    def test_tender_trees_are_covered_while_they_are_young(self):
        tender = replace(FACTS, frost=Season((10, 20), (4, 25)))
        found = kinds(tender)
        self.assertEqual(found["frost_ready"].due_on, date(2026, 10, 6))
        self.assertEqual(found["frost_off"].due_on, date(2027, 5, 2))
        self.assertNotIn("frost_ready", kinds(tender, today=date(2029, 9, 1)))
        self.assertNotIn("frost_ready", kinds())

    def test_before_planting_come_the_call_and_the_water_on_the_stock(self):
        day = date(2026, 10, 10)
        found = {t.kind: t.due_on for t in calendar.planting_tasks(day, "balled", TODAY, {})}
        # common practice: the stock is watered the day before; locating wants some working days' notice
        self.assertEqual(found["water_stock"], day - timedelta(days=1))
        self.assertLessEqual(found["locate_call"], day - timedelta(days=3))
        bare = [t.kind for t in calendar.planting_tasks(day, "bare_root", TODAY, {})]
        self.assertEqual(bare, ["locate_call"])
        said = {"locate_call": Act("done", TODAY), "water_stock": Act("moved", date(2026, 10, 8), "hot")}
        (moved,) = calendar.planting_tasks(day, "box", TODAY, said)
        self.assertEqual((moved.due_on, moved.moved_from), (date(2026, 10, 8), date(2026, 10, 9)))


class Frosts(unittest.TestCase):
    def halves(self, *springs_and_autumns):
        for year, (last, first) in enumerate(springs_and_autumns, 2020):
            spring = last and date(year, *last)
            autumn = first and date(year, *first)
            yield frost.Half(year, False, 181, spring and date(year, 1, 1), spring)
            yield frost.Half(year, True, 184, autumn, autumn and date(year, 12, 30))

    def test_the_middle_year_tells_first_and_last(self):
        years = (((4, 30), (10, 1)), ((5, 10), (10, 20)), ((4, 12), (11, 2)))
        found = frost.usual(list(self.halves(*years)), southern=False)
        self.assertEqual((found.last, found.first), ((4, 30), (10, 20)))
        south = [replace(half, second=not half.second) for half in self.halves(*years)]
        self.assertEqual(frost.usual(south, southern=True), found)

    def test_few_years_mild_years_and_broken_ones_tell_nothing(self):
        two = (((4, 30), (10, 1)), ((5, 10), (10, 20)))
        self.assertIsNone(frost.usual(list(self.halves(*two)), southern=False))
        mild = ((None, None), (None, None), ((4, 30), (10, 1)))
        self.assertIsNone(frost.usual(list(self.halves(*mild)), southern=False))
        broken = [replace(half, nights=90) for half in self.halves(*two, two[0])]
        self.assertIsNone(frost.usual(broken, southern=False))

    def test_a_frosty_night_is_told_where_something_tender_stands(self):
        tonight = {"tonight_c": -1.0, "tmean_c": 8.0}
        self.assertIn("frost_tonight", cautions.for_day(15, True, {"hose"}, tender_c=-1.5, **tonight))
        self.assertNotIn("frost_tonight", cautions.for_day(15, True, {"hose"}, tender_c=-5.0, **tonight))
        self.assertNotIn("frost_tonight", cautions.for_day(15, True, {"hose"}, tender_c=None, **tonight))
        self.assertIn("traffic", cautions.for_day(15, True, {"hose"}, traffic=True))


class Said(unittest.TestCase):
    def test_done_and_dismissed_are_gone_and_moved_is_moved(self):
        self.assertNotIn("stake_off", kinds(acts={"stake_off": Act("done", TODAY)}))
        self.assertNotIn("wrap_off", kinds(today=date(2028, 1, 1), acts={"wrap_off": Act("dismissed", TODAY, "fell")}))
        moved = kinds(acts={"stake_off": Act("moved", date(2027, 6, 1), "windy")})["stake_off"]
        self.assertEqual((moved.due_on, moved.moved_from), (date(2027, 6, 1), PLANTED + timedelta(days=365)))
        self.assertEqual(moved.reason, "windy")

    def test_a_key_stays_when_the_day_changes_and_not_when_the_task_is_another(self):
        before = kinds()["mulch_top_up"]
        measured = kinds(replace(FACTS, thin_on=date(2026, 12, 1)))["mulch_top_up"]
        self.assertEqual(before.key, measured.key)
        self.assertNotEqual(before.due_on, measured.due_on)
        topped = kinds(replace(FACTS, mulch_laid_on=TODAY, thin_on=date(2027, 7, 1)))["mulch_top_up"]
        self.assertNotEqual(before.key, topped.key)

    def test_a_yearly_look_nobody_took_is_let_go(self):
        year_on = PLANTED + timedelta(days=365)
        self.assertIn("flare_check:1", [t.key for t in calendar.tasks(FACTS, year_on + timedelta(days=20), {})])
        self.assertNotIn("flare_check:1", [t.key for t in calendar.tasks(FACTS, year_on + timedelta(days=60), {})])
        self.assertIn("stake_off", [t.key for t in calendar.tasks(FACTS, year_on + timedelta(days=60), {})])

    @given(st.dates(date(2026, 4, 24), date(2030, 1, 1)))
    def test_keys_are_each_tasks_own_and_days_are_in_order(self, today):
        found = calendar.tasks(replace(FACTS, verdict="in_stages", mulch_looked_on=TODAY, emitters=True), today, {})
        keys = [task.key for task in found]
        self.assertEqual(len(set(keys)), len(keys))
        self.assertEqual([t.due_on for t in found], sorted(t.due_on for t in found))
        self.assertTrue(all(t.due_on <= today + timedelta(days=calendar.AHEAD_DAYS) for t in found))
        self.assertTrue(all(t.kind in calendar.KINDS for t in found))


if __name__ == "__main__":
    unittest.main()
