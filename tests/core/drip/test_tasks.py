"""What a layout asks to be done: sheets are forked at each emitter, tubes that lie in the way buried, rings moved."""

import unittest
from dataclasses import replace

from june_shade.core.drip import growth, tasks
from june_shade.core.drip.growth import Move, Stage
from june_shade.core.drip.layout import draw
from tests.core.drip.test_layout import AHEAD, RING, TREE

NOW = Stage(0, 0, RING, draw(RING, TREE), (), ())


def of(scene, choice=RING, steps=()):
    return tasks.of_layout(choice, draw(choice, scene), scene, (NOW, *steps))


def wider(year: int, after_days: int, *changes: Move) -> Stage:
    """A later step with these changes."""
    choice = replace(RING, radius_m=0.4 + 0.2 * year)
    return Stage(year, after_days, choice, draw(choice, TREE), changes, ())


class Now(unittest.TestCase):
    def test_bare_ground_asks_for_nothing(self):
        self.assertEqual(of(TREE), ())

    def test_a_sheet_is_forked_at_each_emitter_until_it_is_said_to_be(self):
        sheet = replace(TREE, cover="plastic")
        forks = [task for task in of(sheet) if task.kind == "perforate"]
        self.assertEqual([(task.count, task.after_days) for task in forks], [(len(draw(RING, sheet).emitters), 0)])
        self.assertNotIn("perforate", [task.kind for task in of(sheet, replace(RING, perforated=True))])
        self.assertNotIn("perforate", [task.kind for task in of(replace(TREE, cover="plastic_holed"))])

    def test_all_tube_is_buried_where_feet_mowers_or_sun_get_at_it(self):
        for cover in sorted(tasks.BURIED_COVERS):
            scene = replace(TREE, cover=cover)
            bury = [task for task in of(scene) if task.kind == "bury"]
            with self.subTest(cover):
                self.assertEqual(len(bury), 1)
                self.assertAlmostEqual(bury[0].tube_m, sum(run.length_m for run in draw(RING, scene).runs))
                self.assertNotIn("bury", [task.kind for task in of(scene, replace(RING, buried=True))])
        for cover in ("bare", "wood_chips"):
            self.assertNotIn("bury", [task.kind for task in of(replace(TREE, cover=cover))])


class Later(unittest.TestCase):
    def test_each_change_is_a_task_on_its_day_the_soonest_first(self):
        steps = (
            wider(2, 700, Move("ring", 0.6, 0.8, 1.3, 2, 3)), wider(1, 330, Move("ring", 0.4, 0.6, 1.2, 2, 3)),
        )  # fmt: skip
        found = of(TREE, steps=steps)
        self.assertEqual([(task.year, task.after_days) for task in found], [(1, 330), (2, 700)])
        self.assertEqual([(task.from_m, task.to_m) for task in found], [(0.4, 0.6), (0.6, 0.8)])

    def test_through_a_sheet_new_emitters_are_forked_too(self):
        sheet = replace(TREE, cover="plastic")
        for emitters in (3, 0):
            step = wider(1, 330, Move("ring", 0.4, 0.6, 1.2, 2, emitters))
            found = of(sheet, replace(RING, perforated=True, buried=True), (step,))
            forked = [task.count for task in found if task.kind == "perforate"]
            self.assertEqual(forked, [emitters] if emitters else [])

    def test_what_to_bring_stands_with_a_step_once(self):
        """Of a layout as it really grows: every new part is brought, none twice."""
        years = [
            replace(TREE, roots_now_m=0.31 + 0.44 * k, roots_next_m=0.53 + 0.44 * k, roots_year_m=0.75 + 0.44 * k,
                    uptake_from_ball=1.0 - 0.4 * k, volume_l=(16.0, 45.0, 90.0)[k])
            for k in range(3)
        ]  # fmt: skip
        steps = growth.steps(RING, years, AHEAD, 120)
        found = tasks.of_layout(RING, steps[0].drawing, TREE, steps)
        self.assertTrue(any(step.changes for step in steps[1:]), "the ring is outgrown within its years")
        brought = [part for task in found for part in task.parts]
        wanted = [part for step in steps[1:] if step.changes for part in step.new_parts]
        self.assertEqual(brought, wanted)
        self.assertEqual(len(found), sum(len(step.changes) for step in steps[1:]))


if __name__ == "__main__":
    unittest.main()
