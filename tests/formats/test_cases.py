"""Headless cases of mulch and holes: what is refused, by field, before anything is computed."""

import json
import unittest

from june_shade.core.errors import InputError
from june_shade.formats import hole_json, mulch_json
from tests.test_cli import HOLE, MULCH


class Refused(unittest.TestCase):
    def refused(self, module, case, field: str) -> None:
        with self.subTest(field), self.assertRaises(InputError) as caught:
            module.run(module.parse(json.dumps(case)))
        self.assertEqual(caught.exception.field, field)

    def test_mulch(self):
        tree = MULCH["trees"][0]
        for changed, field in (
            ({"depth_m": 0}, "depth_m"), ({"depth_m": None}, "depth_m"), ({"material": "gold"}, "material"),
            ({"trees": []}, "trees"), ({"trees": [tree, 3]}, "trees[1]"), ({"taper_m": 0}, "taper_m"),
            ({"trees": [tree | {"outer_radius_m": -1}]}, "trees[0].outer_radius_m"),
            ({"trees": [tree | {"trunk_diameter_m": -0.1}]}, "trees[0].trunk_diameter_m"),
            ({"trees": [tree | {"clear_gap_m": "wide"}]}, "trees[0].clear_gap_m"),
            ({"trees": [tree | {"shade": 1}]}, "trees[0].shade"),
            ({"obstacles": [{"type": "Point", "coordinates": [0, 0]}]}, "obstacles[0].type"), ({"depth": 1}, "depth"),
        ):  # fmt: skip
            self.refused(mulch_json, MULCH | changed, field)

    def test_hole(self):
        for changed, field in (
            ({"width_ratio": 0.9}, "width_ratio"), ({"width_ratio": 0}, "width_ratio"), ({"raise_m": 0.5}, "raise_m"),
            ({"raise_m": "high"}, "raise_m"), ({"kind": "cloud"}, "kind"), ({"ball_height_m": 0}, "ball_height_m"),
            ({"ball_diameter_m": -0.6}, "ball_diameter_m"), ({"flare_below_top_m": 0.4}, "flare_below_top_m"),
            ({"flare_below_top_m": -0.1}, "flare_below_top_m"), ({"depth_m": 1}, "depth_m"),
        ):  # fmt: skip
            self.refused(hole_json, HOLE | changed, field)

    def test_a_ring_that_ends_inside_its_gap_covers_nothing(self):
        tree = MULCH["trees"][0] | {"outer_radius_m": 0.05}
        found = mulch_json.run(mulch_json.parse(json.dumps(MULCH | {"trees": [tree]})))
        self.assertAlmostEqual(found["area_m2"], 0.0)
        self.assertAlmostEqual(found["settled_l"], 0.0)
        self.assertEqual([f["code"] for f in found["findings"]], ["ring_small"])


if __name__ == "__main__":
    unittest.main()
