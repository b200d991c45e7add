"""Orders: a table of cases made by hand from the rules' own words; relations; what can't be is named."""

import json
import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from june_shade.core.errors import InputError
from june_shade.core.limits.restriction import RULES, Exemption, Restriction, Watering, Window, rule
from june_shade.formats import restriction_json

TUESDAY, WEDNESDAY = "2027-07-06", "2027-07-07"
ASKED = {"date": TUESDAY, "start": "06:30", "minutes": 45, "method": "hose", "litres": 40}
NIGHT = [["18:00", "10:00"]]


def answers(restriction: dict, *asked: dict) -> list[dict]:
    """What an order says to waterings, each the usual one with something changed."""
    case = {"restriction": restriction, "queries": [ASKED | one for one in asked]}
    return restriction_json.run(restriction_json.parse(json.dumps(case)))["answers"]


def broken(restriction: dict, **changed) -> list[str]:
    """Rules that the usual watering breaks, with something of it changed."""
    return answers(restriction, changed)[0]["broken"]


class Days(unittest.TestCase):
    def test_first_and_last_day_are_included_and_open_ends_hold(self):
        order = {"from": TUESDAY, "to": WEDNESDAY, "weekdays": []}
        found = [
            answers(order, {"date": day})[0]["in_force"] for day in ("2027-07-05", TUESDAY, WEDNESDAY, "2027-07-08")
        ]
        self.assertEqual(found, [False, True, True, False])
        self.assertTrue(answers({"weekdays": []}, {})[0]["in_force"])
        (out,) = answers(order, {"date": "2027-07-05"})
        self.assertEqual((out["allowed"], out["broken"], out["exempted"]), (True, [], []))

    def test_weekdays_count_from_monday_and_an_empty_list_allows_none(self):
        self.assertEqual(broken({"weekdays": [2, 5]}), [])
        self.assertEqual(broken({"weekdays": [2, 5]}, date=WEDNESDAY), ["weekdays"])
        self.assertEqual(broken({"weekdays": []}), ["weekdays"])

    def test_by_house_number_and_without_one_it_must_be_a_day_of_both(self):
        sides = {"weekdays": {"even": [2, 3], "odd": [2, 4]}}
        for number, day, against in (
            (12, TUESDAY, []), (12, WEDNESDAY, []), (13, WEDNESDAY, ["weekdays"]), (13, "2027-07-08", []),
            (0, "2027-07-08", ["weekdays"]), (None, TUESDAY, []), (None, WEDNESDAY, ["weekdays"]),
        ):  # fmt: skip
            self.assertEqual(broken(sides, house_number=number, date=day), against, (number, day))


class Hours(unittest.TestCase):
    def test_a_table_of_windows(self):
        for windows, start, minutes, inside in (
            ([["06:00", "09:00"]], "06:00", 180, True), ([["06:00", "09:00"]], "06:00", 181, False),
            ([["06:00", "09:00"]], "05:59", 10, False), ([["06:00", "09:00"]], "09:00", 0, True),
            (NIGHT, "01:00", 60, True), (NIGHT, "09:59", 1, True), (NIGHT, "09:59", 2, False),
            (NIGHT, "18:00", 16 * 60, True), (NIGHT, "17:59", 5, False), (NIGHT, "23:30", 60, True),
            ([["20:00", "24:00"]], "23:00", 60, True), ([["20:00", "24:00"]], "23:30", 60, False),
            ([["20:00", "24:00"], ["00:00", "06:00"]], "23:30", 60, False),  # windows that touch do not merge
            ([["05:00", "07:00"], ["06:00", "08:00"]], "05:30", 120, False),
            ([["05:00", "07:00"], ["06:00", "08:00"]], "06:30", 90, True),
            ([["00:00", "00:00"]], "07:00", 600, True), ([], "07:00", 1, False),
        ):  # fmt: skip
            with self.subTest(windows=windows, start=start, minutes=minutes):
                against = broken({"windows": windows}, start=start, minutes=minutes)
                self.assertEqual(against, [] if inside else ["windows"])

    def test_the_evening_before_the_first_day_counts_for_a_window_past_midnight(self):
        self.assertEqual(broken({"from": TUESDAY, "windows": NIGHT}, start="01:00"), [])

    def test_day_and_weekday_are_those_of_the_start(self):
        order = {"to": TUESDAY, "weekdays": [2], "windows": NIGHT}
        self.assertEqual(broken(order, start="23:30", minutes=120), [])
        self.assertFalse(answers(order, {"date": WEDNESDAY, "start": "00:30"})[0]["in_force"])


class WaysAndLitres(unittest.TestCase):
    def test_a_way_and_litres_strictly_above(self):
        order = {"methods": ["emitters", "bag"], "event_l": 40}
        self.assertEqual(broken(order), ["methods"])
        self.assertEqual(broken(order, method="bag", litres=40.001), ["event_l"])
        self.assertEqual(broken({"methods": []}, method="bag"), ["methods"])

    def test_all_that_is_broken_is_told_in_order(self):
        order = {"event_l": 10, "methods": [], "windows": [], "weekdays": []}
        self.assertEqual(broken(order), list(RULES))


class Exemptions(unittest.TestCase):
    ORDER = {"weekdays": [1], "windows": [["20:00", "22:00"]], "methods": ["bag"]}

    def with_exempt(self, *exempt: dict, **asked):
        (found,) = answers(self.ORDER | {"exempt": list(exempt)}, asked)
        return found["broken"], found["exempted"]

    def test_it_lifts_only_its_own_rules_and_several_add_up(self):
        young = {"planted_within_days": 365, "rules": ["weekdays"]}
        by_hand = {"methods": ["hose"], "rules": ["methods"]}
        self.assertEqual(
            self.with_exempt(young, by_hand, planted_on="2027-04-20"), (["windows"], ["weekdays", "methods"])
        )
        self.assertEqual(self.with_exempt(by_hand), (["weekdays", "windows"], ["methods"]))

    def test_all_its_conditions_must_hold(self):
        both = {"methods": ["hose"], "water": ["reclaimed"], "rules": list(RULES)}
        self.assertEqual(self.with_exempt(both, water="mains")[1], [])
        self.assertEqual(self.with_exempt(both, water="reclaimed")[0], [])
        self.assertEqual(self.with_exempt({"methods": [], "rules": list(RULES)})[1], [])

    def test_days_since_planting_count_to_the_last_and_not_before_it(self):
        for planted, held in (("2026-07-06", True), ("2026-07-05", False), (TUESDAY, True), (WEDNESDAY, False),
                              (None, False)):  # fmt: skip
            lifted = self.with_exempt({"planted_within_days": 365, "rules": ["weekdays"]}, planted_on=planted)[1]
            self.assertEqual(lifted == ["weekdays"], held, planted)


class Relations(unittest.TestCase):
    @settings(max_examples=100, deadline=None)
    @given(st.integers(0, 1439), st.integers(0, 1440), st.integers(0, 1439), st.integers(0, 900))
    def test_a_window_and_its_complement_share_only_their_ends(self, opens, closes, start, minutes):
        window = Window(opens, closes)
        length = (closes - opens - 1) % 1440 + 1
        since = (start - opens) % 1440
        self.assertEqual(window.holds(start, start + minutes), since + minutes <= length)

    @settings(max_examples=60, deadline=None)
    @given(st.sets(st.sampled_from(RULES)), st.sets(st.sampled_from(RULES)))
    def test_an_exemption_never_forbids_what_was_allowed(self, lifted, other):
        from datetime import date

        order = Restriction(None, None, frozenset(), (), frozenset(), 0.0, (Exemption(frozenset(lifted)),))
        more = Restriction(None, None, frozenset(), (), frozenset(), 0.0, (*order.exempt, Exemption(frozenset(other))))
        asked = Watering(date(2027, 7, 6), 390, 45, "hose", 40.0)
        first, second = rule(order, asked), rule(more, asked)
        self.assertLessEqual(set(second.broken), set(first.broken))
        self.assertEqual(set(first.broken) | set(first.exempted), set(RULES))


class Refused(unittest.TestCase):
    def test_what_can_not_be_names_its_field(self):
        for order, asked, field in (
            ({"weekdays": [8]}, {}, "restriction.weekdays[0]"),
            ({"windows": [["24:00", "06:00"]]}, {}, "windows[0][0]"),
            ({"windows": [["6:00", "09:00"]]}, {}, "restriction.windows[0][0]"), ({"windows": [["06:00"]]}, {}, "[0]"),
            ({"methods": ["rain"]}, {}, "restriction.methods[0]"), ({"event_l": -1}, {}, "restriction.event_l"),
            ({"exempt": [{"rules": ["colour"]}]}, {}, "restriction.exempt[0].rules[0]"),
            ({"from": "2027-07-06", "to": "2027-07-05"}, {}, "restriction.to"), ({"stage": 3}, {}, "restriction.stage"),
            ({}, {"date": "July 6"}, "queries[0].date"), ({}, {"start": "24:00"}, "queries[0].start"),
            ({}, {"minutes": -5}, "queries[0].minutes"), ({}, {"house_number": 1.5}, "queries[0].house_number"),
        ):  # fmt: skip
            with self.subTest(field=field), self.assertRaises(InputError) as refused:
                answers(order, asked)
            self.assertIn(field, refused.exception.field)


if __name__ == "__main__":
    unittest.main()
