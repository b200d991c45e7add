"""Measurements, printed as `name value unit` lines. They are reported, never asserted.

balance_tree_days_per_second: the daily balance on arrays of many trees, working switched off.
plan_10000_trees_seconds: a 14-day plan of ten thousand trees, database read and write included, best of three,
from yesterday's states; plan_10000_trees_cold_seconds: the same from a month of log with no state left.
tree_page_ms: the Water page of one tree over HTTP from a warm server, median. start_warm_seconds: from the command
to the first answer of the demo's page, with everything installed, built and filled. today_5000_trees_unchanged_ms:
the round of a city of five thousand trees, asked again where nothing changed.
trees_list_10000_ms: the first page of a register of ten thousand, by place. log_put_ms: one watering
into it. All over HTTP from a warm server, median. auto_layout_200_trees_seconds: the best of
the patterns for two hundred different trees, the chosen one drawn, fed and judged. lateral_solve_ms: heads and flows
of a lateral of two hundred nodes, median. mulch_union_500_rings_seconds: area and volume of five hundred rings of
mulch, most of them overlapping, paving cut away, best of three.
"""

import itertools
import statistics
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from uuid import uuid4

import httpx
import numpy as np
import shapely
from sqlalchemy import insert, select, text

from june_shade.core.drip import auto, layout, network, verdict
from june_shade.core.drip.scene import Obstacle, Scene
from june_shade.core.mulch.spread import Rings, spread
from june_shade.core.soil.textures import soil
from june_shade.core.stock.plants import stock_sizes
from june_shade.core.water.balance import Weather, grow, pass_day
from june_shade.core.water.stores import some
from june_shade.core.water.trees import TreeSpec, build, reach_of
from june_shade.core.water.walk import opening_state
from june_shade.demo import scenario
from june_shade.launch import cluster, serving
from june_shade.launch.processes import weather_stand_in
from june_shade.plans import water
from june_shade.settings import ROOT, Settings
from june_shade.store.migrate import upgrade
from june_shade.store.session import make_engine, make_sessions, transaction
from june_shade.store.tables import Site, Tree

TREES = 10_000
PAGES = 60
BLOCK = 10_000
"""Trees that are walked together: their arrays stay in the cache of a core."""


def tell(name: str, value: float, unit: str) -> None:
    """One line, three figures that mean something."""
    print(f"{name} {float(f'{value:.3g}'):g} {unit}", flush=True)


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


def fill_city(sessions, count: int = TREES) -> None:
    """A site of ten thousand trees with a month of log, beside the demo's own."""
    with transaction(sessions) as session:
        model = session.scalars(select(Site).order_by(Site.name)).first()
        assert model is not None
        pattern = session.scalars(select(Tree).where(Tree.site_id == model.id).order_by(Tree.tag)).all()
        columns = [c.name for c in Site.__table__.columns if c.name not in ("id", "name")]
        city = Site(name="City", **{name: getattr(model, name) for name in columns})
        session.add(city)
        session.flush()
        kept = [c.name for c in Tree.__table__.columns if c.name not in ("id", "site_id", "stop_id", "line_id", "tag")]
        rows = []
        for i in range(count):
            like = pattern[i % len(pattern)]
            rows.append(
                {name: getattr(like, name) for name in kept} | {"id": uuid4(), "site_id": city.id, "tag": f"C-{i:05d}"}
            )
        session.execute(insert(Tree), rows)
        session.execute(
            text(
                "INSERT INTO log_entry (id, tree_id, kind, happened_at, local_date, local_time, device_id, volume_l) "
                "SELECT gen_random_uuid(), tree.id, 'water', d + interval '12 hours', d::date, '06:00', 'bench', 40 "
                "FROM tree, generate_series(CAST(:first AS date), CAST(:last AS date), interval '4 days') d "
                "WHERE tree.site_id = :site"
            ),
            {"first": scenario.DAY - timedelta(days=30), "last": scenario.DAY - timedelta(days=1), "site": city.id},
        )


def plan_seconds(sessions, *, cold: bool) -> float:
    """A plan of the city, read to commit; cold: with no computed state left."""
    with transaction(sessions) as session:
        if cold:
            session.execute(text("DELETE FROM tree_state"))
    began = time.perf_counter()
    with transaction(sessions) as session:
        city = session.scalars(select(Site).where(Site.name == "City")).one()
        made = water.plan_site(session, city)
        assert made is not None
        assert len(made.rows) == TREES
    return time.perf_counter() - began


def page_ms(settings: Settings) -> float:
    """Median time of one tree's Water page."""
    tree = scenario.name_id("tree", "HL", 3)
    with serving.background(settings) as address, httpx.Client(base_url=address, trust_env=False) as client:
        taken = []
        for _ in range(PAGES):
            began = time.perf_counter()
            client.get(f"/api/trees/{tree}/water").raise_for_status()
            taken.append(1000 * (time.perf_counter() - began))
    return statistics.median(taken[PAGES // 6 :])


def city_ms(settings: Settings) -> None:
    """The register and the round of a large city, and one entry into its log."""
    with serving.background(settings) as address, httpx.Client(base_url=address, trust_env=False, timeout=60) as client:

        def median(ask: Callable[[], httpx.Response], times: int) -> float:
            taken = []
            for _ in range(times):
                began = time.perf_counter()
                ask().raise_for_status()
                taken.append(1000 * (time.perf_counter() - began))
            return statistics.median(taken[1:])

        page = client.get("/api/trees", params={"limit": 60}).json()["trees"]
        tell("trees_list_10000_ms", median(lambda: client.get("/api/trees", params={"limit": 60}), 12), "ms")
        entry = {
            "tree_id": page[0]["id"], "kind": "water", "happened_at": client.get("/api/clock").json()["now"],
            "device_id": "bench", "volume_l": 20.0,
        }  # fmt: skip
        tell("log_put_ms", median(lambda: client.put(f"/api/log/{uuid4()}", json=entry), 40), "ms")


def today_ms(settings: Settings) -> float:
    """Median time of the whole round."""
    with serving.background(settings) as address, httpx.Client(base_url=address, trust_env=False, timeout=60) as client:
        taken = []
        for _ in range(6):
            began = time.perf_counter()
            client.get("/api/today").raise_for_status()
            taken.append(1000 * (time.perf_counter() - began))
    return statistics.median(taken[1:])


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
    emitters = [network.Emitter(name, k_l_h=1.2, exponent=0.5) for name in names[1:]]
    taken = []
    for _ in range(21):
        began = time.perf_counter()
        network.solve(tubes, emitters, 14.0)
        taken.append(1000 * (time.perf_counter() - began))
    return statistics.median(taken)


def warm_start_seconds() -> float:
    """From `./june demo` to the first page, the second time."""
    with tempfile.TemporaryFile("w+") as said:
        for _ in range(2):
            began = time.perf_counter()
            child = subprocess.Popen(
                [str(ROOT / "june"), "demo"], stdout=subprocess.PIPE, stderr=said, stdin=subprocess.DEVNULL, text=True
            )
            try:
                assert child.stdout is not None
                address = next((line.split()[2] for line in child.stdout if line.startswith("June Shade: http")), "")
                if not address:
                    raise RuntimeError("the demo did not start; is it running already?")
                with urllib.request.urlopen(f"{address}/api/today") as answer:
                    answer.read()
                taken = time.perf_counter() - began
            finally:
                child.terminate()
                child.wait(30)
    return taken


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


def main() -> int:
    """Measure all."""
    tell("balance_tree_days_per_second", balance_rate(), "1/s")
    tell("auto_layout_200_trees_seconds", auto_layout_seconds(), "s")
    tell("lateral_solve_ms", lateral_ms(), "ms")
    tell("mulch_union_500_rings_seconds", min(mulch_union_seconds() for _ in range(3)), "s")
    with cluster.throw_away() as server, weather_stand_in() as forecast_url:
        url = server.ensure_database("bench")
        upgrade(url)
        serving.prepare(url, demo=True)
        tell(
            "tree_page_ms",
            page_ms(Settings(database_url=url, forecast_url=forecast_url, forecast_made_up=True, demo=True)),
            "ms",
        )
        engine = make_engine(url)
        sessions = make_sessions(engine)
        fill_city(sessions)
        tell("plan_10000_trees_cold_seconds", plan_seconds(sessions, cold=True), "s")
        tell("plan_10000_trees_seconds", min(plan_seconds(sessions, cold=False) for _ in range(3)), "s")
        city_ms(Settings(database_url=url, forecast_url=forecast_url, forecast_made_up=True, demo=True))
        engine.dispose()
        smaller = server.ensure_database("bench5000")
        upgrade(smaller)
        serving.prepare(smaller, demo=True)
        engine = make_engine(smaller)
        fill_city(make_sessions(engine), 5000)
        settings = Settings(database_url=smaller, forecast_url=forecast_url, forecast_made_up=True, demo=True)
        tell("today_5000_trees_unchanged_ms", today_ms(settings), "ms")
        engine.dispose()
    tell("start_warm_seconds", warm_start_seconds(), "s")
    return 0


if __name__ == "__main__":
    sys.exit(main())
