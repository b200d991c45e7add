"""Answers that a practitioner would call sane, over nine soils: the specification's "Sane answers", each a test.

Where it prints the second edition's own figures, the range told to people is tested, not the figure.
"""

import itertools
import unittest
from dataclasses import replace
from functools import cache

import numpy as np

from june_shade.core.soil.textures import soil
from june_shade.core.water import refill, routine
from june_shade.core.water.balance import thirsty
from june_shade.core.water.routine import Start
from june_shade.core.water.schools import Routine
from june_shade.core.water.trees import TreeSpec, build, reach_of
from june_shade.core.water.weather import Weather

SOILS = (
    "sand", "loamy_sand", "sandy_loam", "loam", "silt_loam", "sandy_clay_loam", "clay_loam", "silty_clay", "clay",
)  # fmt: skip
BALLED = TreeSpec("balled", 0.0508, 0.61, 0.366, 1.8, soil("loam"), basin_diameter_m=0.9, mulch_cover=1.0)
BIG = replace(BALLED, caliper_m=0.0762, ball_diameter_m=0.81, ball_height_m=0.5, crown_diameter_m=3.0)
ESTABLISHED = Start(root_spread_beyond_ball_m=5.0)
LITRES_PER_GALLON = 3.785411784
BALANCE = Routine("balance")


class Season:
    """A run of one kind of tree over all soils: arrays (days, soils)."""

    def __init__(self, spec, days, eto_mm, followed=BALANCE, start=None, month_c=26.0, rain=(), soils=SOILS):
        specs = [replace(spec, soil=soil(name)) for name in soils]
        self.trees, self.reach = build(specs), reach_of(specs)
        weather = [Weather(eto_mm, rain[i] if i < len(rain) else 0.0, month_c, month_c) for i in range(days)]
        run = routine.run(self.trees, self.reach, start or Start(), weather, followed, 1.0)
        self.net_l = np.array([day.moved.net_l for day in run])
        self.watered = self.net_l > 0
        self.ks = np.array([day.moved.ks for day in run])
        self.thirsty = np.array([thirsty(1.0, day.moved.ks, day.moved.air) for day in run])
        self.soggy = np.array([day.moved.soggy for day in run])
        self.cap_l = np.array([
            refill.refill(day.ground, day.state).cap_l for day in run
        ])  # fmt: skip
        self.run = run

    def days_in_a_row(self):
        """Waterings on consecutive days from the first one on, by soil."""
        found = []
        for column in self.watered.T:
            first = int(np.argmax(column))
            gaps = np.flatnonzero(~column[first:])
            found.append(int(gaps[0]) if len(gaps) else len(column) - first)
        return found


@cache
def season_of(eto_mm, days=182, **changed):
    return Season(replace(BALLED, **changed), days, eto_mm)


class NewTree(unittest.TestCase):
    def test_daily_at_first_the_longer_the_thirstier_the_weather(self):
        for eto_mm, low, high in ((3.0, 7, 21), (6.0, 5 * 7, 14 * 7)):
            for name, days in zip(SOILS, season_of(eto_mm).days_in_a_row(), strict=True):
                self.assertTrue(low <= days <= high, f"{name} at ETo {eto_mm}: {days} days in a row")

    def test_sand_is_watered_daily_the_longest(self):
        days = season_of(6.0).days_in_a_row()
        self.assertEqual(max(days), days[0])

    def test_then_less_and_less_often(self):
        watered = season_of(6.0).watered
        early, middle, late = (np.sum(watered[a:b], axis=0) for a, b in ((0, 42), (70, 112), (140, 182)))
        self.assertTrue(np.all(middle < early))
        self.assertTrue(np.all(late <= middle + 1))

    def test_five_to_nine_gallons_an_inch_a_week(self):
        gallons = np.sum(season_of(6.0).net_l, axis=0) / LITRES_PER_GALLON / 2 / 26
        for name, each in zip(SOILS, gallons, strict=True):
            self.assertTrue(5 <= each <= 9, f"{name}: {each:.1f} gal an inch a week")

    def test_more_eto_turf_or_no_mulch_never_means_fewer_waterings(self):
        counts = [np.sum(season_of(eto).watered, axis=0) for eto in (3.0, 4.0, 5.0, 6.0, 7.0)]
        for less, more in itertools.pairwise(counts):
            self.assertTrue(np.all(more >= less), f"{less} then {more}")
        bare = np.sum(season_of(6.0).watered, axis=0)
        self.assertTrue(np.all(np.sum(season_of(6.0, surround="turf").watered, axis=0) >= bare))
        self.assertTrue(np.all(np.sum(season_of(6.0, mulch_cover=0.0).watered, axis=0) >= bare))

    def test_no_visit_lays_more_than_ball_and_soil_under_its_circle_hold(self):
        for eto in (3.0, 6.0):
            made = season_of(eto)
            for day in made.run:
                g = day.ground
                holds = made.trees.ball_taw_l + g.near_taw_l + 0.5 * g.near_space_l
                self.assertTrue(np.all(day.moved.net_l * (g.share + g.near_lands) <= holds))


class Established(unittest.TestCase):
    def test_within_reach_it_is_watered_every_5_to_39_days_and_never_thirsts(self):
        for eto in (3.0, 5.0, 7.0):
            made = Season(replace(BALLED, basin_diameter_m=1.8), 182, eto, start=ESTABLISHED)
            self.assertFalse(np.any(made.thirsty), f"ETo {eto}")
            for name, column in zip(SOILS, made.watered.T, strict=True):
                gaps = np.diff(np.flatnonzero(column))
                self.assertGreater(len(gaps), 0, name)
                self.assertTrue(np.all((gaps >= 5) & (gaps <= 39)), f"{name} at ETo {eto}: {sorted(set(gaps))}")

    def test_a_ring_off_its_ball_is_no_daily_visit(self):
        spec = replace(BALLED, basin_diameter_m=None, ball_share=0.0, ring_wetted_share=0.6)
        made = Season(spec, 120, 6.0, start=ESTABLISHED, soils=("loam",))
        self.assertEqual(int(np.sum(made.watered)), 11)

    def test_a_three_inch_tree_takes_5_to_13_gallons_an_inch_a_week(self):
        for eto in (3.0, 6.0):
            made = Season(replace(BIG, basin_diameter_m=2.4), 182, eto, start=ESTABLISHED, soils=("loam",))
            gallons = float(np.sum(made.net_l)) / LITRES_PER_GALLON / 3 / 26
            self.assertTrue(5 <= gallons <= 13, f"ETo {eto}: {gallons:.1f}")

    def test_a_rainy_week_puts_it_off(self):
        wide = replace(BALLED, basin_diameter_m=1.8)
        dry = Season(wide, 60, 5.0, start=ESTABLISHED)
        wet = Season(wide, 60, 5.0, start=ESTABLISHED, rain=(12.0,) * 7)
        first = [np.argmax(made.watered, axis=0) for made in (dry, wet)]
        self.assertTrue(np.all(first[1] > first[0]))


class AgainstACalendar(unittest.TestCase):
    def test_no_more_thirst_than_under_ten_gallons_an_inch_a_week_and_no_more_water(self):
        weekly = Routine("fixed", 2 * 10 * LITRES_PER_GALLON, 7)
        balance, calendar = season_of(6.0), Season(BALLED, 182, 6.0, weekly)
        early = [np.sum(made.thirsty[:80], axis=0) for made in (balance, calendar)]
        self.assertTrue(np.all(early[0] <= early[1]), f"{early[0]} against {early[1]}")
        self.assertTrue(np.all(early[1] > 0))
        self.assertTrue(np.all(np.sum(balance.net_l, axis=0) <= np.sum(calendar.net_l, axis=0)))


class WinterAndTooMuch(unittest.TestCase):
    def test_an_evergreen_in_a_cold_dry_winter_gets_one_to_three_visits_a_month(self):
        made = Season(BALLED, 150, 1.2, month_c=3.0)
        visits = np.sum(made.watered, axis=0)
        self.assertTrue(np.all((visits >= 5) & (visits <= 15)), str(visits))

    def test_sixty_litres_a_day_on_clay_drown_a_tree_and_are_never_called_thirst(self):
        made = Season(BALLED, 182, 6.0, Routine("fixed", 60.0, 1), soils=("clay",))
        self.assertEqual(int(np.sum(made.soggy)), 182)
        self.assertEqual(int(np.sum(made.thirsty)), 0)
        self.assertAlmostEqual(float(made.ks[-1, 0]), 0.2, places=9)
        grown = float(made.run[-1].state.root_radius_m[0]) - 0.305
        self.assertTrue(0.05 < grown < 0.12, f"roots {100 * grown:.0f} cm out")


if __name__ == "__main__":
    unittest.main()
