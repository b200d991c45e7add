"""A hedge as one root zone: its dose per metre, and what changes where a plant died."""

import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from june_shade.core.drip import hedge, row
from june_shade.core.drip.choice import LayoutChoice
from june_shade.core.drip.layout import draw
from june_shade.core.drip.network import Supply
from june_shade.core.drip.row import Lateral, Place
from june_shade.core.drip.scene import Row, Scene

SMALL = Scene("container", 0.15, 0.3, 0.02, 0.15, 0.37, 0.6, 0.3, 1.0, 13.2, 15.0, 6.0, row=Row(0.0, 1.2))
LINES = LayoutChoice("row_lines", lines=2, offset_m=0.2, spacing_m=0.3, bore_mm=13.6)
RING = LayoutChoice("ring", radius_m=0.3, points=4)
PLANTS, FIRST_M, APART_M = 6, 3.0, 1.2


def lateral(without: int | None = None) -> Lateral:
    places = tuple(FIRST_M + APART_M * n for n in range(PLANTS) if n != without)
    return Lateral(places, (0.0,) * len(places), 0.0, 0.2, 13.6, Supply(21.0, 1200.0, 14.06))


def flowing(choice: LayoutChoice, gone: int | None = None, closed: bool = False) -> row.RowFlow:
    along = lateral(gone)
    choices = [choice] * len(along.chainage_m)
    drawing = draw(choice, SMALL)
    gaps = [] if gone is None else [Place(FIRST_M + APART_M * gone, 0.0, choice, drawing, closed)]
    return row.solve(along, choices, [drawing] * len(choices), gaps)


class Gone(unittest.TestCase):
    def test_a_dead_plants_emitters_run_on_and_the_others_are_fed_as_before(self):
        for choice in (LINES, RING):
            whole, without = flowing(choice), flowing(choice, gone=2)
            with self.subTest(choice.pattern):
                self.assertAlmostEqual(without.flow_l_per_h, whole.flow_l_per_h, places=6)
                self.assertEqual(len(without.trees), PLANTS - 1)
                [lost] = without.gaps_l_per_h
                self.assertAlmostEqual(lost, whole.flow_l_per_h / PLANTS, delta=0.01)
                rest = [fed.flow_l_per_h for n, fed in enumerate(whole.trees) if n != 2]
                np.testing.assert_allclose([fed.flow_l_per_h for fed in without.trees], rest)

    def test_closed_they_give_nothing_and_the_line_goes_on_past_them(self):
        for choice in (LINES, RING):
            for gone in (0, 3, PLANTS - 1):
                whole, closed = flowing(choice), flowing(choice, gone=gone, closed=True)
                with self.subTest(choice.pattern, gone=gone):
                    self.assertEqual(closed.gaps_l_per_h, (0.0,))
                    self.assertAlmostEqual(closed.flow_l_per_h, whole.flow_l_per_h * (PLANTS - 1) / PLANTS, delta=0.02)
                    self.assertGreaterEqual(min(closed.tee_head_m) + 1e-9, min(whole.tee_head_m))


class Dose(unittest.TestCase):
    def test_it_is_the_litres_of_a_run_over_the_length(self):
        strip = hedge.strip([3.0, 4.2, 5.4], [1.2] * 3, [0.4, 0.5, 0.3], [16.0] * 3, 45.0)
        self.assertAlmostEqual(strip.length_m, 3.6)
        self.assertAlmostEqual(strip.from_m, 2.4)
        self.assertAlmostEqual(strip.width_m, 1.0)
        self.assertAlmostEqual(strip.dose_l_m, 3 * 16.0 * 0.75 / 3.6)

    @given(st.integers(2, 30), st.integers(0, 29))
    def test_where_one_dies_it_falls_by_that_plants_share_and_the_strip_keeps_its_length(self, plants, gone):
        places, apart = [2.0 + 1.5 * n for n in range(plants)], [1.5] * plants
        whole = hedge.strip(places, apart, [0.4] * plants, [8.0] * plants, 60.0)
        thinned = hedge.strip(places, apart, [0.4] * (plants - 1), [8.0] * (plants - 1), 60.0)
        self.assertAlmostEqual(thinned.length_m, whole.length_m)
        self.assertAlmostEqual(thinned.dose_l_m / whole.dose_l_m, (plants - 1) / plants)

    def test_what_a_gaps_emitters_give_is_lost_until_roots_are_there(self):
        emitters = np.array([(-0.45, 0.2), (-0.15, 0.2), (0.15, 0.2), (0.45, 0.2)])
        beside = [3.0, 5.4]
        self.assertEqual(hedge.lost_share(emitters, 4.2, beside, [0.4, 0.4]), 1.0)
        self.assertEqual(hedge.lost_share(emitters, 4.2, beside, [0.8, 0.4]), 0.75)
        self.assertEqual(hedge.lost_share(emitters, 4.2, beside, [1.4, 1.4]), 0.0)
        self.assertEqual(hedge.lost_share(np.zeros((0, 2)), 4.2, beside, [0.4, 0.4]), 0.0)
