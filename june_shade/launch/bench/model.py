"""The core alone: the balance, layouts, hydraulics, mulch."""

import itertools
import statistics
import time
from concurrent.futures import ThreadPoolExecutor

import numpy as np
import shapely

from june_shade.core.drip import auto, layout, network, verdict
from june_shade.core.drip.scene import Obstacle, Scene
from june_shade.core.mulch.spread import Rings, spread
from june_shade.core.soil.textures import soil
from june_shade.core.stock.plants import stock_sizes
from june_shade.core.water.balance import grow, pass_day
from june_shade.core.water.stores import some
from june_shade.core.water.trees import TreeSpec, build, reach_of
from june_shade.core.water.walk import opening_state
from june_shade.core.water.weather import Weather
from june_shade.launch.bench.tell import tell

BLOCK = 10_000
"""Trees that are walked together: their arrays stay in the cache of a core."""


def balance_rate(trees: int = 20_000, days: int = 182) -> float:
    """Tree-days a second of the balance alone, on two threads."""
    sizes = stock_sizes()
    specs = [
        TreeSpec(
            kind=s.kind, caliper_m=s.caliper_m, ball_diameter_m=s.ball_diameter_m, ball_height_m=s.ball_height_m,
            crown_diameter_m=36 * s.caliper_m, soil=soil(texture), basin_diameter_m=0.9, ball_share=0.6,
        )
        for s, texture in ((sizes[i % len(sizes)], ("sand", "loam", "clay")[i % 3]) for i in range(trees))
    ]  # fmt: skip
    made, reach = build(specs), reach_of(specs)
    blocks = [slice(at, at + BLOCK) for at in range(0, trees, BLOCK)]
    weather = Weather(eto_mm=6.0, rain_mm=2.0, month_c=24.0, five_days_c=24.0)

    def walk(block: slice) -> None:
        some_trees, some_reach = some(made, block), some(reach, block)
        full = np.ones(len(some_trees))
        state = opening_state(some_trees, some_reach, some_trees.ball_radius_m, full, full, np.zeros(len(full), bool))
        net = np.full(len(full), 8.0)
        for _ in range(days):
            state, now, _ = grow(some_trees, some_reach, state, weather)
            state, _ = pass_day(some_trees, now, state, weather, net)

    began = time.perf_counter()
    with ThreadPoolExecutor(2) as two:
        list(two.map(walk, blocks))
    return trees * days / (time.perf_counter() - began)


def auto_layout_seconds(trees: int = 200) -> float:
    """The best layout for so many trees, none like another: chosen, drawn, fed, judged."""
    ahead = np.cumsum(np.full(3 * 365, 0.0012))
    beside = ((), (Obstacle("paving", 90.0, 0.9),), (Obstacle("wall", 0.0, 1.1), Obstacle("post", 200.0, 0.7, 0.1)))
    scenes = []
    for n in range(trees):
        ball, grown = 0.15 + 0.3 * (n % 17) / 17, 0.9 * n / trees
        scenes.append(Scene(
            ("balled", "container")[n % 2], ball, 0.4, 0.05, ball + grown, ball + grown + 0.22, ball + grown + 0.45,
            0.45, max(0.1, 1.0 - grown), (2.3, 13.2, 26.0)[n % 3], 15.0, 12.0 + 60.0 * grown, beside[n % 3],
        ))  # fmt: skip
    began = time.perf_counter()
    for scene in scenes:
        best = auto.for_tree(scene, roots_ahead_m=ahead)[0]
        drawing = layout.draw(best.choice, scene)
        verdict.judged(best.choice, drawing, scene, verdict.feed(drawing, best.choice), roots_ahead_m=ahead)
    return time.perf_counter() - began


def lateral_ms(nodes: int = 200) -> float:
    """Median time to solve a lateral with an emitter at each of so many nodes."""
    names = ["inlet", *(f"n{i}" for i in range(nodes))]
    tubes = [network.Tube(a, b, 0.5, 0.0178, 0.01) for a, b in itertools.pairwise(names)]
    emitters = [network.Emitter(name, k_l_per_h=1.2, exponent=0.5) for name in names[1:]]
    taken = []
    for _ in range(21):
        began = time.perf_counter()
        network.solve(tubes, emitters, 14.0)
        taken.append(1000 * (time.perf_counter() - began))
    return statistics.median(taken)


def mulch_union_seconds(count: int = 500) -> float:
    """Five hundred rings in rows 1.4 m apart, 0.6 to 1.2 m out, over paving on one side (invented)."""
    rng = np.random.default_rng(7)
    number = np.arange(count)
    x, y = 1.4 * (number % 25) + rng.normal(0, 0.1, count), 1.4 * (number // 25) + rng.normal(0, 0.1, count)
    rings = Rings.of(x, y, 0.06, rng.uniform(0.6, 1.2, count), 0.08)
    paving = [shapely.box(-5, -5, 0, 60)]
    began = time.perf_counter()
    spread(rings, 0.075, obstacles=paving)
    return time.perf_counter() - began


def measure() -> None:
    """All of them."""
    tell("balance_tree_days_per_second", balance_rate(), "1/s")
    tell("auto_layout_200_trees_seconds", auto_layout_seconds(), "s")
    tell("lateral_solve_ms", lateral_ms(), "ms")
    tell("mulch_union_500_rings_seconds", min(mulch_union_seconds() for _ in range(3)), "s")
