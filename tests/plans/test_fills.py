"""Where a crew fills its tank: it runs down on its way, from site to site."""

import unittest
from uuid import UUID

from june_shade.plans.rounds import Pours, fills

NORTH, SOUTH = UUID(int=1), UUID(int=2)


def pours(crew: UUID, *rows: tuple[int, int | None, float], holds_l: float | None = 100.0) -> list[Pours]:
    return [Pours(crew, holds_l, position, UUID(int=tree), litres) for tree, position, litres in rows]


class Fills(unittest.TestCase):
    def told(self, *parts: list[Pours]) -> list[int]:
        return [tree.int for tree in fills(one for part in parts for one in part)]

    def test_what_is_left_after_one_site_is_used_at_the_next(self):
        here, there = pours(NORTH, (10, 0, 60.0)), pours(NORTH, (11, 1, 60.0), (12, 1, 40.0))
        self.assertEqual(self.told(here, there), [11])

    def test_sites_are_taken_as_they_are_driven_not_as_they_stand(self):
        here, there = pours(NORTH, (10, 1, 60.0)), pours(NORTH, (11, 0, 30.0), (12, 2, 60.0))
        self.assertEqual(self.told(here, there), [12])
        self.assertEqual(self.told(there, here), [12])

    def test_stops_that_are_on_no_way_come_last_as_they_stand(self):
        self.assertEqual(self.told(pours(NORTH, (10, None, 80.0)), pours(NORTH, (11, 3, 80.0))), [10])

    def test_each_crew_has_its_own_tank_and_who_has_none_fills_none(self):
        self.assertEqual(self.told(pours(NORTH, (10, 0, 90.0)), pours(SOUTH, (11, 0, 90.0))), [])
        self.assertEqual(self.told(pours(NORTH, (10, 0, 900.0), holds_l=None)), [])


if __name__ == "__main__":
    unittest.main()
