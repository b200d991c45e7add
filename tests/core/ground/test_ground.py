"""Where things of a site lie: rows, pictures under the plan, axes of a file. Geometry against Shapely."""

import unittest

import numpy as np
from hypothesis import assume, given
from hypothesis import strategies as st
from shapely.affinity import affine_transform, rotate, scale, translate
from shapely.geometry import LineString, Point, box

from june_shade.core.errors import InputError
from june_shade.core.ground import axes, picture, rows
from june_shade.core.ground.rows import RowOfTrees
from june_shade.core.weather.place import distance_km, flat_m, place_deg

metres = st.floats(-300, 300)


class Rows(unittest.TestCase):
    def test_trees_between_two_that_are_known_stand_on_the_way_each_at_its_part(self):
        along = (0.0, 4.0, 10.0, 20.0)
        found = rows.stand(RowOfTrees(along, ((5.0, 5.0), None, None, (17.0, 21.0)), None, 0.0))
        way = LineString([(5, 5), (17, 21)])
        for far, one in zip(along, found, strict=True):
            self.assertLess(way.interpolate(far / 20, normalized=True).distance(Point(one.at)), 1e-9)
        self.assertEqual([one.basis for one in found], ["own", "row", "row", "own"])

    def test_those_beyond_go_straight_on_by_what_they_stand_apart(self):
        found = rows.stand(RowOfTrees((0.0, 3.0, 6.0, 9.0), (None, (0.0, 0.0), (0.0, 6.0), None), None, 90.0))
        np.testing.assert_allclose([one.at for one in found], [(0, -3), (0, 0), (0, 6), (0, 9)], atol=1e-9)

    def test_one_known_tree_or_a_stop_gives_a_row_its_way(self):
        one = rows.stand(RowOfTrees((2.0, 8.0), (None, (10.0, 0.0)), None, 90.0))
        np.testing.assert_allclose([s.at for s in one], [(4, 0), (10, 0)], atol=1e-9)
        stop = rows.stand(RowOfTrees((2.0, 8.0), (None, None), (1.0, 1.0), 180.0))
        np.testing.assert_allclose([s.at for s in stop], [(1, 1), (1, -5)], atol=1e-9)
        self.assertEqual({s.basis for s in stop}, {"stop"})

    def test_rows_of_which_nothing_is_known_lie_below_all_others_and_apart(self):
        lost = RowOfTrees((0.0, 6.0), (None, None), None, 90.0)
        whole = rows.all_rows([lost, RowOfTrees((0.0,), ((3.0, -40.0),), None, 90.0), lost])
        self.assertEqual({one.basis for one in (*whole[0], *whole[2])}, {"nowhere"})
        self.assertLess(whole[0][0].at[1], -40)
        self.assertGreater(abs(whole[0][0].at[1] - whole[2][0].at[1]), 5)

    def test_a_row_is_placed_by_its_ends(self):
        found = rows.between((0.0, 0.0), (30.0, 0.0), (0.0, 10.0, 20.0, 30.0), 0.0)
        np.testing.assert_allclose(found, [(0, 0), (10, 0), (20, 0), (30, 0)], atol=1e-9)
        for last in ((0.0, 0.1), (1e6, 0.0)):
            with self.assertRaises(InputError) as refused:
                rows.between((0.0, 0.0), last, (0.0, 10.0, 20.0), 0.0)
            self.assertEqual(refused.exception.field, "last")


class Pictures(unittest.TestCase):
    @given(st.floats(0.01, 2), st.floats(-180, 180), metres, metres, st.floats(100, 900), st.floats(50, 700))
    def test_it_lies_as_shapely_turns_scales_and_moves_it(self, size, turned, east, north, px, py):
        assume(np.hypot(px - 10, py - 10) > 60)
        sheet = box(0, -700, 900, 0)

        def on_ground(shape):
            grown = scale(rotate(shape, -turned, origin=(0, 0)), size, size, origin=(0, 0))
            return translate(grown, east, north)

        pairs = [((x, y), on_ground(Point(x, -y)).coords[0]) for x, y in ((10.0, 10.0), (px, py))]
        assume(Point(pairs[0][1]).distance(Point(pairs[1][1])) > 1.5)
        found = picture.lies(pairs, 900, 700)
        self.assertAlmostEqual(found.m_per_px, size, places=6)
        self.assertAlmostEqual((found.turned_deg - turned + 180) % 360 - 180, 0, places=5)
        a, b, c, d, e, f = found.matrix
        by_matrix = affine_transform(box(0, 0, 900, 700), (a, c, b, d, e, f))
        self.assertLess(by_matrix.hausdorff_distance(on_ground(sheet)), 1e-6 * (1 + 900 * size))

    def test_points_that_say_nothing_are_refused_by_name(self):
        here, there = ((10.0, 10.0), (0.0, 0.0)), ((400.0, 10.0), (30.0, 0.0))
        for points, field in (
            ((here,), "points"), ((here, ((12.0, 10.0), (30.0, 0.0))), "points[1]"),
            ((here, ((400.0, 10.0), (0.2, 0.0))), "points[1]"), ((here, ((950.0, 0.0), (30.0, 0.0))), "points[1]"),
        ):  # fmt: skip
            with self.subTest(points=points), self.assertRaises(InputError) as refused:
                picture.lies(points, 900, 700)
            self.assertEqual(refused.exception.field, field)
        self.assertAlmostEqual(picture.lies((here, there), 900, 700).m_per_px, 30 / 390)


class Places(unittest.TestCase):
    @given(st.floats(-60, 60), st.floats(-170, 170), metres, metres)
    def test_metres_become_degrees_and_back(self, latitude, longitude, east, north):
        at = place_deg(latitude, longitude, east, north)
        np.testing.assert_allclose(flat_m(latitude, longitude, *at), (east, north), atol=1e-5)
        self.assertAlmostEqual(1000 * distance_km(latitude, longitude, *at), np.hypot(east, north), delta=0.05)

    def test_axes_the_other_way_round_are_seen(self):
        here = np.array([(-104.7, 40.2), (-104.701, 40.201), (10.0, 10.0)])
        self.assertEqual(axes.axes(here, 40.2, -104.7), axes.HERE)
        self.assertEqual(axes.axes(here[:, ::-1], 40.2, -104.7), axes.TURNED)
        self.assertEqual(axes.axes(np.array([(500000.0, 4450000.0)]), 40.2, -104.7), axes.ELSEWHERE)
        self.assertEqual(axes.axes(np.array([(2.0, 48.0)]), 40.2, -104.7), axes.ELSEWHERE)
