"""Where paving or a wall begins in a direction: half-planes by exact geometry."""

import math
import unittest

import shapely

from june_shade.core.drip.scene import NO_MULCH, Obstacle, check, crossed, edge_along_m, hand_dug, seen, shape
from june_shade.core.errors import InputError
from june_shade.core.geometry.wetting import disc


class Edges(unittest.TestCase):
    def test_straight_ahead_it_is_its_distance_and_aslant_it_is_farther(self):
        east = Obstacle("paving", 90.0, 0.8)
        self.assertAlmostEqual(edge_along_m([east], 90.0), 0.8)
        self.assertAlmostEqual(edge_along_m([east], 30.0), 0.8 / math.cos(math.radians(60)))
        self.assertIsNone(edge_along_m([east], 270.0))
        self.assertIsNone(edge_along_m([east], 0.0))

    def test_the_nearest_counts_and_posts_and_turf_take_no_edge(self):
        some = [Obstacle("wall", 90.0, 1.5), Obstacle("paving", 80.0, 1.2), Obstacle("post", 90.0, 0.3, 0.1),
                Obstacle("turf", 90.0, 0.2)]  # fmt: skip
        self.assertAlmostEqual(edge_along_m(some, 90.0), 1.2 / math.cos(math.radians(10)))

    def test_it_agrees_with_the_ground_that_is_taken(self):
        for bearing in (60.0, 90.0, 123.0):
            wall = Obstacle("wall", bearing, 0.7)
            at = edge_along_m([wall], 90.0)
            self.assertTrue(shape(wall).intersects(disc(at + 0.01, 0.0, 0.005)))
            self.assertFalse(shape(wall).intersects(disc(at - 0.02, 0.0, 0.005)))

    def test_a_pit_is_open_as_far_as_its_edges_on_all_four_sides(self):
        """Edges of a rectangle by plain geometry, and by Shapely's box beside it."""
        pit = Obstacle("pit", 30.0, 0.8, 1.2)
        for bearing, far in (
            (30.0, 0.8),
            (210.0, 0.8),
            (120.0, 0.6),
            (300.0, 0.6),
            (75.0, 0.6 / math.sin(math.pi / 4)),
        ):
            self.assertAlmostEqual(edge_along_m([pit], bearing), far)
        open_m2 = disc(0, 0, 3).difference(shape(pit)).area
        self.assertAlmostEqual(open_m2, shapely.box(-0.6, -0.8, 0.6, 0.8).area)
        pieces = seen(pit, shapely.box(-2, -2, 2, 2))
        self.assertTrue(all(not piece.interiors for piece in pieces))
        self.assertAlmostEqual(sum(piece.area for piece in pieces), 16 - open_m2)

    def test_beyond_a_root_barrier_nothing_is_watered_but_mulch_may_lie(self):
        barrier = Obstacle("root_barrier", 90.0, 0.5)
        self.assertEqual(crossed([(0.0, 0.0), (0.9, 0.0)], [barrier]), ["root_barrier"])
        self.assertIsNone(edge_along_m([barrier], 90.0))
        self.assertNotIn("root_barrier", NO_MULCH)

    def test_roots_and_tubes_pass_a_buried_line_and_nothing_is_driven_in_beside_it(self):
        """Hand digging within 24 in of the mark: common practice, most states' law."""
        pipe = Obstacle("buried_line", 90.0, 0.3, 0.1)
        self.assertEqual(crossed([(0.0, 0.0), (2.0, 0.0)], [pipe]), [])
        near = hand_dug((pipe,))
        for x, inside in ((-0.29, True), (-0.32, False), (0.99, True), (1.02, False)):
            self.assertEqual(near.contains(shapely.Point(x, 0.0)), inside, x)
        self.assertIsNone(hand_dug((Obstacle("wall", 90.0, 0.3),)))

    def test_what_can_t_be_is_refused(self):
        for wrong, field in ((Obstacle("pit", 0.0, 0.6, 0.04), "o.across_m"), (Obstacle("moat", 0.0, 0.6), "o.kind")):
            with self.assertRaises(InputError) as told:
                check(wrong, 0.05, "o")
            self.assertEqual(told.exception.field, field)


if __name__ == "__main__":
    unittest.main()
