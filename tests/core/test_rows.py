"""A row of trees counts on: tags, ordinals, positions."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from june_shade.core.errors import InputError
from june_shade.core.stock import series_of_trees


class Tags(unittest.TestCase):
    def test_they_count_on_and_keep_their_width(self):
        self.assertEqual(series_of_trees.tags("HL-08", 3), ["HL-08", "HL-09", "HL-10"])
        self.assertEqual(series_of_trees.tags("99", 2), ["99", "100"])
        self.assertEqual(series_of_trees.tags("A1b", 2), ["A1b", "A2b"])
        self.assertEqual(series_of_trees.tags("Gate", 2), ["Gate-1", "Gate-2"])
        self.assertEqual(series_of_trees.tags("Gate", 1), ["Gate"])

    @given(st.text(min_size=1, max_size=12), st.integers(1, 60))
    def test_they_never_repeat(self, first, count):
        self.assertEqual(len(set(series_of_trees.tags(first, count))), count)

    def test_a_row_of_none_or_too_many_is_refused(self):
        for count in (0, 501):
            with self.assertRaises(InputError) as caught:
                series_of_trees.tags("A1", count)
            self.assertEqual(caught.exception.field, "count")


class Places(unittest.TestCase):
    def test_ordinals(self):
        found = [series_of_trees.ordinal(n) for n in (1, 2, 3, 4, 11, 12, 13, 21, 101, 111)]
        self.assertEqual(found, ["1st", "2nd", "3rd", "4th", "11th", "12th", "13th", "21st", "101st", "111th"])
        self.assertEqual(series_of_trees.place("{nth} from the hydrant, no. {n}", 7), "7th from the hydrant, no. 7")

    def test_positions_lie_along_the_row(self):
        north = series_of_trees.position(40.0, -105.0, 10.0, 0.0, 100)
        self.assertAlmostEqual((north[0] - 40.0) * series_of_trees.METRES_PER_DEGREE, 1000.0, places=6)
        self.assertAlmostEqual(north[1], -105.0)
        east = series_of_trees.position(60.0, 10.0, 10.0, 90.0, 100)
        # at 60 degrees a degree of longitude is half as long as one of latitude
        self.assertAlmostEqual((east[1] - 10.0) * series_of_trees.METRES_PER_DEGREE / 2, 1000.0, delta=0.01)
        self.assertEqual(series_of_trees.position(40.0, -105.0, 10.0, 45.0, 0), (40.0, -105.0))


if __name__ == "__main__":
    unittest.main()
