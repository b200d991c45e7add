"""Layouts changed by hand: tubes follow, nothing else moves, what can't be laid is refused; against EPANET, Shapely."""

import math
import unittest
from dataclasses import replace

import numpy as np
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from june_shade.core.drip import edits, network, parts, verdict
from june_shade.core.drip.choice import Edit, LayoutChoice
from june_shade.core.drip.drawing import emitters_of, flows_of, tubes_of
from june_shade.core.drip.layout import checked, draw
from june_shade.core.drip.scene import HAND_DIG_M, Obstacle, Row, shape
from june_shade.core.errors import InputError
from tests.core.drip.test_layout import CHOICES, RING, TREE, length
from tests.core.drip.test_network import epanet, hazen_williams

ARMS = CHOICES[3]
HEDGE = replace(TREE, row=Row(90.0, 1.5))
LINES = LayoutChoice("row_lines", lines=2, offset_m=0.25, spacing_m=0.3)


def by_hand(choice: LayoutChoice, *changes: Edit) -> LayoutChoice:
    return replace(choice, edits=changes)


def places(choice: LayoutChoice, scene=TREE) -> np.ndarray:
    return np.column_stack(draw(choice, scene).places())


class Changed(unittest.TestCase):
    def test_one_that_is_moved_lies_where_it_was_put_and_the_others_stay(self):
        for choice in (*CHOICES, LINES):
            scene = HEDGE if choice is LINES else TREE
            before, after = places(choice, scene), places(by_hand(choice, Edit("move", 2, 0.21, 0.17)), scene)
            with self.subTest(choice.pattern):
                np.testing.assert_allclose(after[1], (0.21, 0.17))
                others = np.arange(len(before)) != 1
                np.testing.assert_allclose(after[others], before[others])

    def test_tubes_lead_through_every_emitter(self):
        changes = (Edit("move", 2, 0.3, 0.3), Edit("add", 0, 0.0, 0.45), Edit("add", 0, -0.6, -0.6), Edit("remove", 1))
        for choice in CHOICES:
            drawing = draw(by_hand(choice, *changes), TREE)
            runs = [shapely.LineString(run.path) for run in drawing.runs]
            for emitter in drawing.emitters:
                gap = min(run.distance(shapely.Point(emitter.x_m, emitter.y_m)) for run in runs)
                self.assertLess(gap, 0.01, (choice.pattern, emitter))
            for run in drawing.runs:
                self.assertGreaterEqual(run.length_m, 0.98 * shapely.LineString(run.path).length)

    def test_an_arm_s_end_that_is_pulled_out_takes_so_much_more_tube(self):
        before = draw(ARMS, TREE)
        last = before.emitters[-1]
        number = len(before.emitters)
        farther = Edit("move", number, last.x_m * 1.25, last.y_m * 1.25)
        after = draw(by_hand(ARMS, farther), TREE)
        self.assertAlmostEqual(length(after, "arm") - length(before, "arm"), 0.25 * math.hypot(last.x_m, last.y_m))
        self.assertAlmostEqual(length(after, "ring"), length(before, "ring"))

    def test_a_tee_that_is_moved_takes_the_tubes_along_that_meet_there_and_nothing_else(self):
        before = draw(ARMS, TREE)
        tee = next(node for node in before.nodes if node.kind == "tee")
        farther = Edit("tee", 1, 1.2 * tee.x_m + 0.05, 1.2 * tee.y_m)
        after = draw(by_hand(ARMS, farther), TREE)
        np.testing.assert_allclose(places(by_hand(ARMS, farther)), places(ARMS))
        here = shapely.Point(farther.x_m, farther.y_m)
        meet = [run for run in after.runs if shapely.LineString(run.path).distance(here) < 1e-9]
        self.assertGreaterEqual(len(meet), 2)
        self.assertGreater(sum(r.length_m for r in after.runs), sum(r.length_m for r in before.runs))
        tees = [[(f.x_m, f.y_m) for f in d.fittings if f.kind == "tee"] for d in (before, after)]
        self.assertEqual(tees[1], [(farther.x_m, farther.y_m), *tees[0][1:]])
        back = draw(by_hand(ARMS, farther, Edit("tee", 1, tee.x_m, tee.y_m)), TREE)
        self.assertEqual([(f.x_m, f.y_m) for f in back.fittings if f.kind == "tee"], tees[0])
        spur = by_hand(RING, Edit("add", 0, 0.0, 0.9), Edit("tee", 2, 0.3, 0.45))
        leads = shapely.LineString(next(run.path for run in draw(spur, TREE).runs if run.kind == "spur"))
        self.assertAlmostEqual(leads.length, math.hypot(0.3, 0.45))

    def test_there_and_back_is_where_it_was(self):
        home = draw(ARMS, TREE).emitters[-1]
        number = len(draw(ARMS, TREE).emitters)
        again = draw(by_hand(ARMS, Edit("move", number, 0.4, 0.4), Edit("move", number, home.x_m, home.y_m)), TREE)
        self.assertAlmostEqual(length(again, "arm"), length(draw(ARMS, TREE), "arm"))

    def test_one_beside_the_tube_goes_into_it_and_one_farther_away_gets_a_thin_tube(self):
        near = draw(by_hand(RING, Edit("add", 0, 0.0, 0.45)), TREE)
        self.assertAlmostEqual(math.hypot(near.emitters[-1].x_m, near.emitters[-1].y_m), 0.4, places=2)
        self.assertAlmostEqual(length(near, "ring"), length(draw(RING, TREE), "ring"))
        self.assertEqual(length(near, "spur"), 0.0)
        far = draw(by_hand(RING, Edit("add", 0, 0.0, 0.9)), TREE)
        self.assertAlmostEqual(length(far, "spur"), 0.5, delta=0.01)
        taken = {(p.item, p.size): p for p in parts.parts_of(far, RING)}
        self.assertIn(("tube", 4.3), taken)
        self.assertEqual(taken["tee", 0.0].count, 2)

    def test_one_that_is_taken_out_leaves_its_tube(self):
        after = draw(by_hand(RING, Edit("remove", 2)), TREE)
        self.assertEqual(len(after.emitters), len(draw(RING, TREE).emitters) - 1)
        self.assertAlmostEqual(length(after, "ring"), length(draw(RING, TREE), "ring"))
        self.assertEqual([p.count for p in parts.parts_of(after, RING) if p.item == "plug"], [1])

    def test_beside_a_buried_line_no_pin_is_driven_and_digging_in_is_told(self):
        scene = replace(TREE, obstacles=(Obstacle("buried_line", 90.0, 0.5, 0.1),))
        drawing = draw(by_hand(RING, Edit("move", 1, 0.1, 0.5)), scene)
        self.assertTrue(all(pin.x_m <= 0.5 - HAND_DIG_M + 0.01 for pin in drawing.pins()))
        self.assertLess(len(drawing.pins()), len(draw(RING, TREE).pins()))
        for buried in (False, True):
            choice = replace(RING, buried=buried)
            found = verdict.judged(choice, draw(choice, scene), scene, verdict.feed(draw(choice, scene), choice))
            self.assertEqual("dug_near_line" in {f.code for f in found.findings}, buried)

    def test_flows_of_their_own_are_what_they_give_and_what_is_bought(self):
        mixed = by_hand(RING, Edit("flow", 3, flow_l_per_h=8.0))
        drawing = draw(mixed, TREE)
        fed = verdict.feed(drawing, mixed)
        np.testing.assert_allclose(fed.emitter_l_per_h, [4, 4, 8, 4, 4, 4])
        bought = {p.size: p.count for p in parts.parts_of(drawing, mixed) if p.item == "emitter"}
        self.assertEqual(bought, {4.0: 5, 8.0: 1})
        found = verdict.judged(mixed, drawing, TREE, fed)
        self.assertGreater(found.widths_m[2], found.widths_m[0])
        self.assertGreater(found.depths_m[2], found.depths_m[0])

    @settings(max_examples=25, deadline=None)
    @given(st.lists(st.one_of(
        st.builds(Edit, st.just("move"), st.integers(1, 9), st.floats(-1, 1), st.floats(-1, 1)),
        st.builds(Edit, st.just("add"), st.just(0), st.floats(-1, 1), st.floats(-1, 1), st.sampled_from([0.0, 2.0])),
        st.builds(Edit, st.just("remove"), st.integers(1, 5)),
        st.builds(Edit, st.just("tee"), st.integers(1, 4), st.floats(-1, 1), st.floats(-1, 1)),
        st.builds(Edit, st.just("flow"), st.integers(1, 9), flow_l_per_h=st.sampled_from([2.0, 8.0])),
    ), max_size=6), st.sampled_from([*CHOICES, LINES]))  # fmt: skip
    def test_whatever_is_changed_every_emitter_is_fed(self, changes, choice):
        drawing = draw(by_hand(choice, *changes), HEDGE)
        if not drawing.emitters:
            return
        names = [node.name for node in drawing.nodes]
        self.assertEqual(len(names), len(set(names)))
        self.assertEqual([e.name for e in drawing.emitters], [f"e{n + 1}" for n in range(len(drawing.emitters))])
        flowing = network.solve(tubes_of(drawing), emitters_of(drawing, choice), 14.0)
        np.testing.assert_allclose(flowing.emitter_l_per_h, flows_of(drawing, choice), rtol=1e-3)


class AgainstEpanet(unittest.TestCase):
    def test_mixed_flows_and_thin_tubes_within_three_tenths_of_a_percent(self):
        choice = by_hand(
            replace(ARMS, compensating=False), Edit("move", 3, 0.5, 0.4), Edit("flow", 1, flow_l_per_h=8.0),
            Edit("add", 0, -0.9, 0.2, 2.0), Edit("remove", 5),
        )  # fmt: skip
        drawing = draw(choice, TREE)
        line, outlets = tubes_of(drawing), [replace(e, exponent=0.5) for e in emitters_of(drawing, choice)]
        self.assertEqual(len({round(e.k_l_per_h, 9) for e in outlets}), 3)
        ours = network.solve(line, outlets, 14.0, hazen_williams(150))
        theirs = epanet(line, outlets, 14.0, 150, network.heights_m(line))
        for node, head in zip(ours.nodes, ours.head_m, strict=True):
            if node != "inlet":
                self.assertAlmostEqual(head, theirs[node], delta=0.003 * theirs[node])


class Refused(unittest.TestCase):
    def refused(self, field: str, choice: LayoutChoice, *obstacles: Obstacle) -> None:
        with self.assertRaises(InputError) as caught:
            checked(choice, replace(TREE, obstacles=obstacles))
        self.assertEqual(caught.exception.field, field)

    def test_what_can_not_be_laid_is_named_by_its_change(self):
        slab, wall = Obstacle("paving", 90.0, 0.7), Obstacle("wall", 0.0, 0.7)
        fine = Edit("move", 1, 0.3, 0.3)
        self.refused("edits[1].x_m", by_hand(RING, fine, Edit("move", 2, 0.9, 0.0)), slab)
        self.refused("edits[0].x_m", by_hand(RING, Edit("add", 0, 0.0, 0.9)), wall)
        self.refused("edits[0].x_m", by_hand(RING, Edit("move", 1, 0.0, 0.01)))
        self.refused("edits[0].x_m", by_hand(RING, Edit("move", 1, 30.0, 0.0)))
        self.refused("edits[0].number", by_hand(RING, Edit("move", 7, 0.3, 0.3)))
        self.refused("edits[0].number", by_hand(RING, Edit("tee", 2, 0.3, 0.3)))
        self.refused("edits[0].x_m", by_hand(RING, Edit("tee", 1, 0.0, 0.01)))
        self.refused("edits[0].x_m", by_hand(RING, Edit("tee", 1, 0.9, 0.0)), slab)
        self.refused("edits[2].number", by_hand(CHOICES[0], *[Edit("remove", 1)] * 3))
        self.refused("inline", by_hand(replace(RING, inline=True), fine))
        checked(by_hand(RING, fine), replace(TREE, obstacles=(slab, wall)))

    def test_a_tube_does_not_cross_what_stands_there(self):
        post = Obstacle("post", 45.0, 0.65, 0.12)
        beyond = Edit("add", 0, 0.75, 0.75)
        self.assertFalse(shape(post).intersects(shapely.Point(0.75, 0.75)))
        self.refused("edits[0].x_m", by_hand(RING, beyond), post)
        checked(by_hand(RING, beyond), TREE)

    def test_what_came_to_stand_there_later_is_said_and_the_layout_stays(self):
        choice = by_hand(RING, Edit("add", 0, 0.9, 0.0))
        later = replace(TREE, obstacles=(Obstacle("paving", 90.0, 0.7),))
        drawing = draw(choice, later)
        found = verdict.judged(choice, drawing, later, verdict.feed(drawing, choice))
        self.assertIn("ground_taken", {f.code for f in found.findings})

    def test_what_finds_its_emitter_no_more_is_left_out(self):
        wide = by_hand(RING, Edit("move", 6, 0.3, -0.3))
        small = replace(wide, radius_m=0.15)
        self.assertEqual(draw(small, TREE).lost, 1)
        self.assertEqual(draw(wide, TREE).lost, 0)
        self.assertGreater(edits.LET_IN_M, 0)


if __name__ == "__main__":
    unittest.main()
