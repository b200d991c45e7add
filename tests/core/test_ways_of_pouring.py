"""Soaker, sprinkler, tank and wicked box; salty water; lines that serve many; modes: closed forms and relations."""

import math
import unittest
from dataclasses import replace

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from june_shade.core.care import cautions
from june_shade.core.errors import InputError
from june_shade.core.water import delivery, modes, salts
from june_shade.core.water.delivery import Delivery
from tests.core.test_planner import TODAY, kept, plan_of, series_of, usual
from tests.support import of_specs, spec

SOAKER = Delivery("soaker", 0.0, soaker_across_m=0.4, soaker_flow_l_per_h_m=6.0)
SPRINKLER = Delivery("sprinkler", 0.0, sprinkler_across_m=2.0, sprinkler_flow_l_per_h=60.0)


class Shares(unittest.TestCase):
    def share(self, how, radius=0.3, ks=13.2, taw=10.0):
        return delivery.ball_share(how, radius, "balled", ks, taw)

    def test_a_sprinkler_gives_the_ball_its_part_of_the_circle(self):
        self.assertAlmostEqual(self.share(SPRINKLER), 0.3**2 / 1.0**2)
        self.assertEqual(self.share(replace(SPRINKLER, sprinkler_across_m=0.4)), 1.0)

    def test_a_ring_on_the_ball_in_closed_form(self):
        self.assertEqual(delivery.ring_share(0.3, 0.1, 0.25), 1.0)
        self.assertEqual(delivery.ring_share(0.3, 0.35, 0.5), 0.0)
        self.assertAlmostEqual(delivery.ring_share(0.3, 0.2, 0.4), (0.09 - 0.04) / (0.16 - 0.04))

    @given(st.floats(0.1, 1.5), st.floats(0.15, 0.6))
    def test_a_wider_soaker_never_gives_the_ball_more(self, across, radius):
        near = self.share(replace(SOAKER, soaker_across_m=across), radius)
        far = self.share(replace(SOAKER, soaker_across_m=across * 1.3), radius)
        self.assertTrue(0 <= far <= 1 and near >= far - 1e-9)

    def test_a_box_gives_all_to_the_ball(self):
        self.assertEqual(self.share(Delivery("wicked", 400.0, reservoir_l=60.0)), 1.0)

    def test_flows(self):
        self.assertAlmostEqual(delivery.flow_l_per_h(SOAKER), math.pi * 0.4 * 6)
        self.assertEqual(delivery.flow_l_per_h(SPRINKLER), 60.0)
        self.assertEqual(delivery.timed_flow_l_per_h(20, 60), 1200.0)  # 20 L in a minute (arithmetic)

    def test_a_bucket_that_never_fills_is_refused(self):
        for litres, seconds, field in ((20, 0, "seconds"), (0, 60, "litres"), (20, -5, "seconds")):
            with self.assertRaises(InputError) as caught:
                delivery.timed_flow_l_per_h(litres, seconds)
            self.assertEqual(caught.exception.field, field)

    def test_a_sprinkler_over_slow_ground_goes_in_several_goes(self):
        # 60 L/h on 3.14 m2 is 19 mm/h: clay takes 3 of it, sand all (arithmetic)
        self.assertGreater(delivery.pour(SPRINKLER, 60, 0.3, 3.0, 1.0).goes.count, 1)
        self.assertEqual(delivery.pour(SPRINKLER, 60, 0.3, 50.0, 1.0).goes.count, 1)

    def test_what_is_missing_is_named(self):
        with self.assertRaises(InputError):
            self.share(Delivery("soaker", 0.0))
        with self.assertRaises(InputError):
            self.share(Delivery("sprinkler", 0.0))


class Salts(unittest.TestCase):
    def test_the_published_example(self):
        # FAO-29: EC_w 1.2, EC_e 2.5 gives a leaching requirement of 0.106; 800 mm of ET then takes 895 mm
        wanted = salts.requirement(1.2, 2.5)
        self.assertAlmostEqual(wanted, 0.106, delta=0.001)
        self.assertAlmostEqual(800 / (1 - wanted), 895, delta=1)

    def test_sweet_water_leaches_nothing_and_salty_water_beyond_a_tree_is_said(self):
        self.assertEqual(salts.for_tree(0.4, "sensitive", newly_planted=True).share, 0)
        beyond = salts.for_tree(4.0, "very_sensitive", newly_planted=True)
        self.assertTrue(beyond.beyond)
        self.assertEqual(beyond.share, salts.MOST_LEACHING)

    @given(st.floats(0, 10), st.sampled_from(salts.TOLERANCES), st.booleans())
    def test_saltier_water_never_leaches_less_and_new_trees_never_less_than_old_ones(self, ec, tolerance, new):
        found = salts.for_tree(ec, tolerance, newly_planted=new)
        self.assertTrue(0 <= found.share <= salts.MOST_LEACHING)
        self.assertGreaterEqual(salts.for_tree(ec + 0.5, tolerance, newly_planted=new).share, found.share)
        self.assertGreaterEqual(salts.for_tree(ec, tolerance, newly_planted=True).share, found.share)

    def test_water_classes(self):
        # FAO-29 table 1: under 0.7 dS/m none, to 3 slight to moderate, above severe; SAR 6 to 12 under 0.5 dS/m seals
        self.assertEqual(salts.judge("potable", 0.5, None), ())
        self.assertEqual(salts.judge("well", 1.5, None), ("salty",))
        self.assertEqual(salts.judge("well", 3.5, None), ("very_salty",))
        self.assertIn("seals", salts.judge("well", 0.4, 8))
        self.assertIn("may_seal", salts.judge("well", 1.0, 8))
        self.assertNotIn("may_seal", salts.judge("well", 2.5, 8))
        self.assertEqual(salts.judge("reclaimed", None, None), ("reclaimed", "ec_assumed", "salty"))

    def test_leaching_is_poured_on_top(self):
        self.assertAlmostEqual(float(delivery.gross_l(9.0, 0.9, 0.0, 0.1)), 9.0 / 0.9 / 0.9)


class Modes(unittest.TestCase):
    def test_a_harder_mode_is_never_due_earlier_and_waters_less(self):
        due, litres = [], []
        for mode in modes.MODES.values():
            made = kept(of_specs(*[spec(dryness_limit=mode.dryness_limit, ks_floor=mode.ks_floor)]), series_of())
            first = int(made.due[0])
            due.append(first if first >= 0 else 10**6)
            litres.append(float(np.nansum(made.visit_net_l)))
        self.assertEqual(due, sorted(due))
        self.assertEqual(litres, sorted(litres, reverse=True))

    def test_a_word_that_is_no_mode(self):
        with self.assertRaises(InputError):
            modes.mode("thrive")


class Lines(unittest.TestCase):
    """Two trees on one valve: a small ball just planted and one with twice its emitters that needs little."""

    def run_line(self, *, together=True, flows=(16.0, 64.0)):
        trees = of_specs(*[spec("#15 container"), spec("2 in balled", plant_factor=0.1)])
        pouring = usual(
            2, efficiency=np.full(2, 0.9),
            line=np.array([0, 0]) if together else np.array([-1, -1]), flow_l_per_h=np.array(flows),
        )  # fmt: skip
        return kept(trees, series_of(), pouring=pouring)

    def test_all_get_water_for_as_long_as_the_neediest_wants(self):
        made = self.run_line()
        day = int(made.visit[0])
        self.assertEqual(int(made.visit[1]), day)
        minutes = 60 * made.visit_gross_l[day] / np.array([16.0, 64.0])
        self.assertAlmostEqual(minutes[0], minutes[1])
        self.assertEqual(list(made.neediest), [0, 0])
        alone = self.run_line(together=False)
        self.assertGreaterEqual(made.visit_gross_l[day, 0], alone.visit_gross_l[day, 0] - 1e-9)

    def test_a_tree_that_gets_more_than_it_takes_is_said(self):
        made = self.run_line(flows=(4.0, 200.0))
        self.assertTrue(made.findings.drowned[1])
        self.assertFalse(made.findings.drowned[0])
        self.assertLess(made.own_gross_l[1], made.visit_gross_l[int(made.visit[1]), 1])

    def test_once_the_line_ran_today_nobody_opens_it_again(self):
        trees = of_specs(*[spec("#15 container"), spec("#15 container")])
        pouring = usual(2, efficiency=np.full(2, 0.9), line=np.array([0, 0]), flow_l_per_h=np.full(2, 16.0))
        dry = plan_of(trees, series_of(), pouring=pouring, watered={-6: 60.0})
        self.assertEqual(int(dry.visit[1]), TODAY)
        ran = plan_of(trees, series_of(), pouring=pouring, watered={-6: 60.0}, poured_today=np.array([True, False]))
        self.assertGreater(int(ran.visit[1]), TODAY)


class Boxes(unittest.TestCase):
    def run_box(self, holds):
        trees = of_specs(*[spec("#15 container", ball_share=1.0)])
        pouring = usual(1, efficiency=np.array([0.95]), reservoir_l=np.array([holds]))
        return plan_of(trees, series_of(), pouring=pouring)

    def test_a_box_never_holds_more_than_it_can_nor_less_than_nothing(self):
        for holds in (5.0, 40.0, 150.0):
            level = self.run_box(holds).reservoir_l
            self.assertTrue(np.nanmin(level) >= 0 and np.nanmax(level) <= holds + 1e-9)

    def test_a_larger_box_is_filled_less_often(self):
        visits = [int(np.sum(self.run_box(holds).visit_gross_l > 0)) for holds in (10.0, 40.0, 150.0)]
        self.assertEqual(visits, sorted(visits, reverse=True))
        self.assertGreater(visits[0], visits[-1])

    def test_a_fill_is_at_most_what_the_box_holds(self):
        made = self.run_box(40.0)
        self.assertLessEqual(np.nanmax(made.visit_gross_l) * 0.95, 40.0 + 1e-6)


class Cautions(unittest.TestCase):
    def test_hot_hoses_and_freezing_lines(self):
        self.assertIn("hot_hose", cautions.for_day(30, True, {"soaker"}))
        self.assertNotIn("hot_hose", cautions.for_day(30, True, {"emitters"}))
        self.assertIn("drain_lines", cautions.for_day(8, True, {"emitters"}, tmean_c=2))
        self.assertNotIn("drain_lines", cautions.for_day(8, True, {"bucket"}, tmean_c=2))


if __name__ == "__main__":
    unittest.main()
