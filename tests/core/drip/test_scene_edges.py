"""Where paving or a wall begins in a direction: half-planes by exact geometry."""

import math
import unittest

from june_shade.core.drip.scene import Obstacle, edge_along_m, shape
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


if __name__ == "__main__":
    unittest.main()
