"""Flow in tubes: against EPANET, a fluids library, published factors by hand, and as relations."""

import contextlib
import io
import itertools
import tempfile
import unittest
import warnings
from pathlib import Path

import fluids
import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from june_shade.core.drip import judge, network, tubes
from june_shade.core.drip.network import Emitter, Supply, Tube
from june_shade.core.drip.tubes import Friction
from june_shade.core.errors import InputError
from tests.support import published


def hazen_williams(c: float) -> Friction:
    return Friction(hazen_williams=c)


def loss(flow: float, length: float, bore_mm: float, friction: Friction | None = None) -> float:
    return float(tubes.loss_and_slope(flow, length, bore_mm / 1000, friction or Friction())[0])


def lateral(n: int, bore_mm: float, length_m: float, flow: float, friction: Friction):
    """A lateral of n outlets at even steps, the first a whole step from the inlet, each giving the same flow."""
    names = ["inlet", *(f"n{i}" for i in range(n))]
    step = length_m / n
    line = [Tube(a, b, step, bore_mm / 1000) for a, b in itertools.pairwise(names)]
    outlets = [Emitter(name, flow_l_per_h=flow / n, min_head_m=1.0) for name in names[1:]]
    return line, outlets, network.solve(line, outlets, 200.0, friction)


def lateral_loss(n: float, bore_mm: float, length: float, flow: float, friction: Friction | None = None) -> float:
    _, _, flowing = lateral(int(n), bore_mm, length, flow, friction or Friction())
    return float(flowing.head_m[0] - flowing.head_m[-1])


def lateral_ratio(n: float, m: float) -> float:
    """Loss of a lateral over that of a plain tube with all its flow; fast enough to be turbulent in its last piece."""
    friction = Friction() if m == 1.75 else hazen_williams(150)
    return lateral_loss(n, 20.0, 20.0, 8000.0, friction) / loss(8000.0, 20.0, 20.0, friction)


QUANTITIES = {
    "hw_loss_m": lambda bore_mm, flow, length, c: loss(flow, length, bore_mm, hazen_williams(c)),
    "dw_loss_m": lambda bore_mm, flow, length: loss(flow, length, bore_mm),
    "dw_speed_m_s": lambda bore_mm, flow: float(tubes.velocity_m_s(flow, bore_mm / 1000)),
    "factor": lambda re: float(tubes.friction_factor(re)),
    "fastest_l_per_h": lambda bore_mm: tubes.FASTEST_M_S / float(tubes.velocity_m_s(1.0, bore_mm / 1000)),
    "eu_percent": lambda cv, n, low, mean: network.emission_uniformity([low, 2 * mean - low], [mean, mean], cv, n),
    "lateral_ratio": lateral_ratio,
    "viscosity_mm2_s": lambda c: 1e6 * tubes.viscosity_m2_s(c),
}


class Published(unittest.TestCase):
    def test_published_values(self):
        seen = set()
        for check in published("drip"):
            if check.quantity in QUANTITIES:
                seen.add(check.quantity)
                with self.subTest(check.source, inputs=check.inputs):
                    self.assertAlmostEqual(
                        QUANTITIES[check.quantity](**check.inputs), check.expected, delta=check.tolerance
                    )
        self.assertEqual(seen, set(QUANTITIES))


class AgainstFluids(unittest.TestCase):
    """The fluids library's own friction factors; its Blasius constant is 0.3164."""

    def test_laminar_and_blasius_losses(self):
        nu = tubes.viscosity_m2_s(20.0)
        for bore, flow, length in (
            (0.004, 8.0, 3.0),
            (0.0043, 20.0, 5.0),
            (0.0136, 300.0, 30.0),
            (0.0178, 900.0, 50.0),
        ):
            speed = float(tubes.velocity_m_s(flow, bore))
            re = fluids.Reynolds(V=speed, D=bore, nu=nu)
            with self.subTest(re=re):
                self.assertFalse(2000 < re < 4000)
                factor = 64 / re if re <= 2000 else fluids.friction.Blasius(re)
                theirs = fluids.head_from_K(fluids.K_from_f(factor, length, bore), speed)
                self.assertAlmostEqual(loss(flow, length, bore * 1000), theirs, delta=0.002 * theirs)

    def test_the_loss_is_continuous_where_regimes_meet(self):
        for re in (tubes.LAMINAR_RE, tubes.TURBULENT_RE):
            below, above = (float(tubes.friction_factor(re * k)) for k in (0.99999, 1.00001))
            self.assertAlmostEqual(below, above, delta=1e-5)

    def test_the_slope_is_the_losses_own(self):
        for friction in (Friction(), hazen_williams(140)):
            for flow in (0.005, 5.0, 60.0, 100.0, 140.0, 400.0):
                ahead, slope = (
                    loss(flow * 1.0001, 3, 13.6, friction),
                    tubes.loss_and_slope(flow, 3, 0.0136, friction)[1],
                )
                self.assertAlmostEqual(
                    (ahead - loss(flow, 3, 13.6, friction)) / (flow * 1e-4), slope, delta=2e-3 * slope
                )


def epanet(line: list[Tube], outlets: list[Emitter], head_m: float, c: float, heights: dict[str, float]):
    """Heads by EPANET, Hazen-Williams, all emitters of the same exponent 0.5."""
    with warnings.catch_warnings(), contextlib.redirect_stdout(io.StringIO()), tempfile.TemporaryDirectory() as folder:
        warnings.simplefilter("ignore")
        import wntr

        made = wntr.network.WaterNetworkModel()
        made.options.hydraulic.headloss = "H-W"
        made.options.hydraulic.emitter_exponent = 0.5
        made.options.hydraulic.accuracy = 1e-6
        made.options.time.duration = 0
        made.add_reservoir("inlet", base_head=head_m)
        for node, height in heights.items():
            if node != "inlet":
                made.add_junction(node, elevation=height)
        for outlet in outlets:
            made.get_node(outlet.node).emitter_coefficient = outlet.k_l_per_h / tubes.L_H_PER_M3_S
        for i, t in enumerate(line):
            made.add_pipe(f"p{i}", t.start, t.end, length=t.length_m, diameter=t.bore_m, roughness=c)
        answer = wntr.sim.EpanetSimulator(made).run_sim(file_prefix=str(Path(folder) / "run"))
        return answer.node["pressure"].iloc[0]


def ring_with_arms() -> tuple[list[Tube], list[Emitter]]:
    """A ring of twelve, fed at one tee, with three arms of two."""
    line = [Tube("inlet", "r0", 5, 0.0136)]
    line += [Tube(f"r{i}", f"r{(i + 1) % 12}", 0.4, 0.004) for i in range(12)]
    for a in (2, 5, 8):
        line += [Tube(f"r{a}", f"a{a}1", 0.5, 0.004), Tube(f"a{a}1", f"a{a}2", 0.5, 0.004)]
    outlets = [Emitter(f"r{i}", k_l_per_h=1.2) for i in range(12)]
    return line, outlets + [Emitter(f"a{a}{j}", k_l_per_h=1.2) for a in (2, 5, 8) for j in (1, 2)]


def sloping_line() -> tuple[list[Tube], list[Emitter]]:
    """Forty outlets on a line that climbs, then falls."""
    names = ["inlet", *(f"n{i}" for i in range(40))]
    rises = [0.12 if i < 15 else -0.1 for i in range(40)]
    line = [Tube(a, b, 1.5, 0.0136, r) for a, b, r in zip(names, names[1:], rises, strict=False)]
    return line, [Emitter(name, k_l_per_h=2.0) for name in names[1:]]


class AgainstEpanet(unittest.TestCase):
    def test_heads_and_flows_within_three_tenths_of_a_percent(self):
        for made in (ring_with_arms, sloping_line):
            line, outlets = made()
            ours = network.solve(line, outlets, 14.0, hazen_williams(150))
            heights = network.heights_m(line)
            theirs = epanet(line, outlets, 14.0, 150, heights)
            self.assertGreater(len(ours.nodes), 15)
            for node, head, height in zip(ours.nodes, ours.head_m, ours.above_inlet_m, strict=True):
                if node != "inlet":
                    with self.subTest(made.__name__, node=node):
                        self.assertAlmostEqual(head, theirs[node], delta=0.003 * theirs[node])
                        lost = 14.0 - theirs[node] - height
                        self.assertAlmostEqual(14.0 - head - height, lost, delta=0.003 * lost + 1e-5)


def shut_out(flowing: network.Flowing, line: list[Tube]) -> np.ndarray:
    """What flows in less what flows out at each node but the inlet [L/h]."""
    at = {node: i for i, node in enumerate(flowing.nodes)}
    left = -flowing.outflow_l_per_h.copy()
    for tube, q in zip(line, flowing.flow_l_per_h, strict=True):
        left[at[tube.end]] += q
        left[at[tube.start]] -= q
    return left[1:]


@st.composite
def networks(draw):
    """A tree of tubes with a loop or two, any slopes, both kinds of emitter."""
    n = draw(st.integers(2, 14))
    heights, line = [0.0], []
    names = ["inlet", *(f"n{i}" for i in range(1, n))]
    bores = st.sampled_from([0.0043, 0.0136, 0.0178])
    for i in range(1, n):
        behind = draw(st.integers(max(0, i - 3), i - 1))
        heights.append(heights[behind] + draw(st.floats(-1, 1)))
        line.append(Tube(names[behind], names[i], draw(st.floats(0.1, 10)), draw(bores), heights[i] - heights[behind]))
    for _ in range(draw(st.integers(0, 2))):
        a, b = draw(st.permutations(range(n)))[:2]
        line.append(Tube(names[a], names[b], draw(st.floats(0.2, 5)), 0.0136, heights[b] - heights[a]))
    outlets = []
    for name in names[1:]:
        if draw(st.booleans()):
            outlets.append(
                Emitter(name, k_l_per_h=draw(st.floats(0.3, 3)), exponent=draw(st.sampled_from([0.5, 0.7, 1.0])))
            )
        else:
            outlets.append(Emitter(name, flow_l_per_h=draw(st.sampled_from([1.0, 2.0, 4.0])), min_head_m=5.0))
    return line, outlets, draw(st.floats(1.0, 30.0))


class Relations(unittest.TestCase):
    @settings(deadline=None, max_examples=60)
    @given(networks(), st.booleans())
    def test_what_flows_in_flows_out_at_every_node(self, made, hw):
        line, outlets, head = made
        flowing = network.solve(line, outlets, head, hazen_williams(150) if hw else Friction())
        scale = 1 + flowing.total_l_per_h
        self.assertLess(np.max(np.abs(shut_out(flowing, line))), 2e-4 * scale)
        at = {node: i for i, node in enumerate(flowing.nodes)}
        total = flowing.head_m + flowing.above_inlet_m
        for tube, lost in zip(line, flowing.loss_m, strict=True):
            self.assertAlmostEqual(total[at[tube.start]] - total[at[tube.end]], lost, delta=2e-3 * (1 + head))
        self.assertTrue(np.all(flowing.emitter_l_per_h >= 0))

    @settings(deadline=None, max_examples=40)
    @given(networks())
    def test_more_pressure_never_gives_less(self, made):
        line, outlets, head = made
        less, more = (network.solve(line, outlets, h) for h in (head, head + 2.0))
        self.assertGreaterEqual(more.total_l_per_h, less.total_l_per_h * (1 - 1e-5) - 1e-4)

    def test_the_two_halves_of_a_ring_meet_opposite_its_tee(self):
        ring = [Tube("inlet", "r0", 1, 0.0136), *(Tube(f"r{i}", f"r{(i + 1) % 8}", 0.3, 0.004) for i in range(8))]
        outlets = [Emitter(f"r{i}", k_l_per_h=1.2) for i in range(8)]
        flowing = network.solve(ring, outlets, 10.0)
        heads = dict(zip(flowing.nodes, flowing.head_m, strict=True))
        self.assertEqual(min(heads, key=heads.get), "r4")
        for i in (1, 2, 3):
            self.assertAlmostEqual(heads[f"r{i}"], heads[f"r{8 - i}"], places=6)
        self.assertAlmostEqual(flowing.flow_l_per_h[1], -flowing.flow_l_per_h[8], places=5)

    def test_a_compensating_emitter_holds_its_flow_and_falls_off_as_the_square_root(self):
        tube = [Tube("inlet", "a", 1, 0.0178)]
        for head, share in ((30.0, 1.0), (5.1, 1.0), (1.25, 0.5)):
            given_ = network.solve(tube, [Emitter("a", flow_l_per_h=4.0, min_head_m=5.0)], head).total_l_per_h
            self.assertAlmostEqual(given_, 4.0 * share, delta=0.01)

    def test_a_line_uphill_of_its_head_gives_nothing_up_there(self):
        line = [Tube("inlet", "a", 5, 0.0136, 1.0), Tube("a", "b", 5, 0.0136, 10.0)]
        flowing = network.solve(line, [Emitter("a", k_l_per_h=1.0), Emitter("b", k_l_per_h=1.0)], 5.0)
        self.assertGreater(flowing.emitter_l_per_h[0], 1.0)
        self.assertEqual(flowing.emitter_l_per_h[1], 0.0)
        self.assertAlmostEqual(flowing.head_m[2], -6.0, delta=0.02)

    def test_without_pressure_nothing_flows(self):
        for friction in (Friction(), hazen_williams(150)):
            flowing = network.solve([Tube("inlet", "a", 5, 0.0136)], [Emitter("a", k_l_per_h=1.0)], 0.0, friction)
            self.assertAlmostEqual(flowing.total_l_per_h, 0.0, places=4)

    def test_a_small_supply_sags_until_it_meets_what_is_drawn(self):
        line, outlets = sloping_line()
        supply = Supply(14.0, 200.0)
        flowing = network.solve_with(line, outlets, supply)
        self.assertLess(flowing.total_l_per_h, 200.0)
        self.assertAlmostEqual(flowing.head_m[0], supply.head_m(flowing.total_l_per_h), delta=1e-3)
        self.assertAlmostEqual(supply.flow_at_l_per_h(flowing.head_m[0]), flowing.total_l_per_h, delta=0.1)
        regulated = network.solve_with(line, outlets, Supply(40.0, 3000.0, regulated_m=14.0))
        self.assertEqual(regulated.head_m[0], 14.0)

    def test_uniformity_is_worst_over_mean_and_emitters_a_tree_help(self):
        self.assertEqual(network.emission_uniformity([2, 2, 2], [2, 2, 2], 0.0, 1), 100.0)
        self.assertAlmostEqual(network.emission_uniformity([1, 3], [2, 2], 0.0, 1), 50.0)
        self.assertAlmostEqual(network.emission_uniformity([2, 4], [2, 4], 0.0, 1), 100.0)
        one, four = (network.emission_uniformity([3, 4], [4, 4], 0.07, n) for n in (1, 4))
        self.assertLess(one, four)
        self.assertEqual(network.emission_uniformity([0, 0], [0, 0], 0.05, 1), 0.0)


class Refusals(unittest.TestCase):
    def refused(self, field: str, line: list[Tube], outlets: list[Emitter] | None = None):
        with self.assertRaises(InputError) as caught:
            network.solve(line, outlets or [Emitter("a", k_l_per_h=1.0)], 10.0)
        self.assertEqual(caught.exception.field, field)

    def test_what_can_not_be_is_refused_where_it_is(self):
        good = Tube("inlet", "a", 5, 0.0136)
        self.refused("tubes[1].from", [good, Tube("x", "y", 5, 0.0136)])
        self.refused("tubes[1].to", [good, Tube("a", "a", 5, 0.0136)])
        self.refused("emitters[0].node", [good], [Emitter("far", k_l_per_h=1.0)])
        loop = [good, Tube("a", "b", 1, 0.0136, 1.0), Tube("b", "inlet", 1, 0.0136, 1.0)]
        with self.assertRaises(InputError) as caught:
            network.solve(loop, [Emitter("a", k_l_per_h=1.0)], 10.0)
        self.assertRegex(caught.exception.field, r"tubes\[[12]\].rise_m")


class Findings(unittest.TestCase):
    def codes(self, line, outlets, head) -> dict[str, judge.Finding]:
        return {f.code: f for f in judge.of_flow(line, outlets, network.solve(line, outlets, head))}

    def test_the_worst_place_is_named(self):
        line = [Tube("inlet", "near", 5, 0.0136), Tube("near", "far", 5, 0.0136, 4.0)]
        held = [Emitter(n, flow_l_per_h=2.0, min_head_m=5.0, max_head_m=35.0) for n in ("near", "far")]
        self.assertEqual(self.codes(line, held, 14.0), {})
        self.assertEqual({k: f.where for k, f in self.codes(line, held, 8.0).items()}, {"head_low": "far"})
        self.assertEqual(
            {k: f.where for k, f in self.codes(line, held, 3.0).items()}, {"head_low": "near", "no_head": "far"}
        )
        self.assertEqual({k: f.where for k, f in self.codes(line, held, 40.0).items()}, {"head_high": "near"})

    def test_a_thin_tube_runs_too_fast(self):
        line = [Tube("inlet", "a", 1, 0.004)]
        self.assertEqual(
            set(self.codes(line, [Emitter("a", flow_l_per_h=90.0, min_head_m=1.0)], 50.0)), {"velocity_high"}
        )

    def test_a_tube_that_leads_nowhere_is_said(self):
        line = [Tube("inlet", "a", 1, 0.0136), Tube("a", "b", 1, 0.0136)]
        found = self.codes(line, [Emitter("a", k_l_per_h=1.0)], 10.0)
        self.assertEqual({k: f.where for k, f in found.items()}, {"dead_end": "b"})


if __name__ == "__main__":
    unittest.main()
