"""A city over HTTP: many sites, years of log and weather, drip on some."""

import statistics
import threading
import time
from collections.abc import Callable
from datetime import date, timedelta
from itertools import count
from uuid import UUID, uuid4

import httpx
from sqlalchemy import insert, select, text
from sqlalchemy.orm import Session

from june_shade.demo import scenario
from june_shade.launch import cluster, serving
from june_shade.launch.bench.tell import tell
from june_shade.launch.processes import weather_stand_in
from june_shade.plans import clock, water
from june_shade.plans.drip import layouts
from june_shade.settings import Settings
from june_shade.store.migrate import upgrade
from june_shade.store.session import SessionMaker, make_engine, make_sessions, transaction
from june_shade.store.site_tables import Line, Site
from june_shade.store.tree_tables import Tree

SITES, TREES_EACH, LAID_SITES, LAID_EACH = 50, 100, 5, 40
LOG_YEARS, WEATHER_YEARS = 3, 10
EVERY_DAYS = 7
LOG = """
INSERT INTO log_entry (id, tree_id, kind, happened_at, local_date, local_time, device_id, volume_l)
SELECT gen_random_uuid(), tree.id, 'water', d + interval '12 hours', d::date, '06:00', 'bench', 40
FROM tree JOIN site ON site.id = tree.site_id,
     generate_series(CAST(:first AS date), CAST(:last AS date), CAST(:every AS interval)) d
WHERE site.name LIKE :names AND d::date >= tree.planted_on AND extract(month FROM d) BETWEEN 4 AND 10
"""
WEATHER = """
INSERT INTO station_day (station_id, day, tmin_c, tmax_c, rain_mm, rh_percent, wind_m_s, radiation_mj_m2)
SELECT station_id, (day - make_interval(years => 2 * back))::date, tmin_c, tmax_c, rain_mm, rh_percent, wind_m_s,
       radiation_mj_m2
FROM station_day, generate_series(1, :times) back
ON CONFLICT DO NOTHING
"""


def sites_like(session: Session, pattern: str, count: int, trees: int, *, old: bool = False) -> list[UUID]:
    """Sites made after the demo's, with trees made after the demo's; old: half of them three years here. Ids."""
    models = session.scalars(select(Site).order_by(Site.name)).all()
    patterns = session.scalars(select(Tree).where(Tree.line_id.is_(None)).order_by(Tree.tag)).all()
    columns = [c.name for c in Site.__table__.columns if c.name not in ("id", "name", "revision")]
    left = ("id", "site_id", "stop_id", "line_id", "tag", "layout_id", "planting_id")
    kept = [c.name for c in Tree.__table__.columns if c.name not in left]
    made = []
    for n in range(count):
        like = models[n % len(models)]
        site = Site(name=pattern.format(n=n), **{name: getattr(like, name) for name in columns})
        session.add(site)
        session.flush()
        made.append(site.id)
        rows = []
        for i in range(trees):
            tree = patterns[i % len(patterns)]
            values = {name: getattr(tree, name) for name in kept}
            if old and i % 2:
                earlier = date(2023, 5, 2) + timedelta(days=i % 30)
                values |= {"planted_on": earlier, "opened_on": earlier}
            rows.append(values | {"id": uuid4(), "site_id": site.id, "tag": f"{n:02d}-{i:05d}"})
        session.execute(insert(Tree), rows)
    return made


def write_log(session: Session, names: str, first: date, every_days: int) -> None:
    """A watering of each tree of these sites every so many days of the season, until yesterday."""
    last = scenario.DAY - timedelta(days=1)
    session.execute(text(LOG), {"names": names, "first": first, "last": last, "every": f"{every_days} days"})


def fill(sessions: SessionMaker) -> None:
    """The whole city."""
    with transaction(sessions) as session:
        ids = sites_like(session, "Ward {n:02d}", SITES, TREES_EACH, old=True)
        session.execute(text(WEATHER), {"times": WEATHER_YEARS // 2})
        write_log(session, "Ward%", scenario.DAY.replace(year=scenario.DAY.year - LOG_YEARS), EVERY_DAYS)
        for site_id in ids[:LAID_SITES]:
            line = Line(site_id=site_id, name="Bench valve", static_head_m=35.0, open_flow_l_per_h=3000.0, lead_m=4.0,
                        regulator_head_m=14.0, spacing_m=6.0, bore_mm=13.6)  # fmt: skip
            session.add(line)
            session.flush()
            trees = session.scalars(select(Tree).where(Tree.site_id == site_id).order_by(Tree.tag)).all()
            for place, tree in enumerate(trees[:LAID_EACH]):
                tree.method, tree.line_id, tree.row_place = "emitters", line.id, place
                tree.emitter_count, tree.emitter_flow_l_per_h, tree.obstacles = 2, 4.0, []
        session.flush()
        lines = session.scalars(select(Line.id).where(Line.name == "Bench valve")).all()
    for line_id in lines:
        with transaction(sessions) as session:
            layouts.save_line(session, uuid4(), line_id, scenario.DAY - timedelta(days=30))
    with transaction(sessions) as session:  # yesterday's round was asked for: its evening is what today begins with
        clock.pin(session, scenario.DAY - timedelta(days=1))
    for site_id in ids:
        with transaction(sessions) as session:
            water.plan_site(session, session.get_one(Site, site_id))
    with transaction(sessions) as session:
        clock.pin(session, scenario.DAY)
        session.execute(text("ANALYZE"))


def timed_ms(ask: Callable[[], httpx.Response]) -> float:
    """How long one answer takes [ms]; it must be a good one."""
    began = time.perf_counter()
    answer = ask()
    if answer.status_code != 304:
        answer.raise_for_status()
    return 1000 * (time.perf_counter() - began)


def median_ms(ask: Callable[[], httpx.Response], times: int, between: Callable[[], object] | None = None) -> float:
    """Median of so many answers, the first left out; between: done before each, not counted."""
    taken = []
    for _ in range(times + 1):
        if between is not None:
            between()
        taken.append(timed_ms(ask))
    return statistics.median(taken[1:])


def _moved(client: httpx.Client, tree_id: str) -> Callable[[], httpx.Response]:
    """An emitter of a layout moved a little each time, and all that is shown of it."""
    look = client.get(f"/api/trees/{tree_id}/drip").json()["looks"][0]["look"]
    choice, first = look["choice"], look["emitters"][0]
    places = count(1)

    def move() -> httpx.Response:
        edit = {"kind": "move", "number": 1, "x_m": first["x_m"] * (1 + 0.001 * next(places)), "y_m": first["y_m"]}
        body = {"choice": choice | {"edits": [edit]}}
        return client.post(f"/api/trees/{tree_id}/drip/look", json=body).raise_for_status()

    return move


def watering(client: httpx.Client, tree_id: str) -> Callable[[], httpx.Response]:
    """A new entry each time it is asked for."""
    now = client.get("/api/clock").json()["now"]
    body = {"tree_id": tree_id, "kind": "water", "happened_at": now, "device_id": "bench", "volume_l": 20.0}
    return lambda: client.put(f"/api/log/{uuid4()}", json=body)


def measure() -> None:
    """All that a city's pages take."""
    with cluster.throw_away() as server, weather_stand_in() as forecast_url:
        url = server.ensure_database("city")
        upgrade(url)
        serving.prepare(url, demo=True)
        engine = make_engine(url)
        fill(make_sessions(engine))
        engine.dispose()
        settings = Settings(database_url=url, forecast_url=forecast_url, forecast_made_up=True, demo=True, works=False)
        with serving.background(settings) as address, httpx.Client(base_url=address, timeout=120) as client:
            pages(client)


def pages(client: httpx.Client) -> None:
    """Ask for each."""
    tree = client.get("/api/trees", params={"limit": 1, "q": "07-"}).json()["trees"][0]
    log = watering(client, tree["id"])
    waited: list[float] = []

    def write() -> None:
        time.sleep(0.5)
        waited.extend(timed_ms(log) for _ in range(10))

    beside = threading.Thread(target=write)
    beside.start()
    tell("today_cold_ms", timed_ms(lambda: client.get("/api/today")), "ms")
    beside.join()
    tell("log_first_minute_ms", max(waited), "ms")
    client.get("/api/today")
    tell("today_after_log_ms", median_ms(lambda: client.get("/api/today"), 7, log), "ms")
    tag = client.get("/api/today").headers["etag"]
    tell("today_unchanged_ms", median_ms(lambda: client.get("/api/today", headers={"If-None-Match": tag}), 15), "ms")
    dry = {"sort": "dry", "limit": "60"}
    tell("driest_first_ms", median_ms(lambda: client.get("/api/trees", params=dry), 7, log), "ms")
    tell("sites_list_ms", median_ms(lambda: client.get("/api/sites"), 15), "ms")
    tell("tree_page_ms", median_ms(lambda: client.get(f"/api/trees/{tree['id']}/water"), 40), "ms")
    laid = client.get("/api/trees", params={"limit": 1, "q": "00-00003"}).json()["trees"][0]["id"]
    tell("drip_page_ms", median_ms(lambda: client.get(f"/api/trees/{laid}/drip"), 15), "ms")
    tell("drip_moved_alone_ms", median_ms(_moved(client, tree["id"]), 20), "ms")
    tell("drip_moved_on_line_ms", median_ms(_moved(client, laid), 20), "ms")
    tell("log_put_ms", median_ms(log, 60), "ms")
    ward = next(s for s in client.get("/api/sites").json() if s["name"] == "Ward 00")
    known = set(client.get("/api/openapi.json").json()["components"]["schemas"]["SiteIn"]["properties"]) - {"version"}
    body = {name: value for name, value in ward.items() if name in known}
    names = iter(range(1000))
    tell("save_site_ms", median_ms(
        lambda: client.put(f"/api/sites/{ward['id']}", json=body | {"name": f"Ward 00 {next(names)}"}), 7
    ), "ms")  # fmt: skip
    textures = iter(["loam", "clay_loam"] * 10)
    tell("save_site_40_layouts_ms", median_ms(
        lambda: client.put(f"/api/sites/{ward['id']}", json=body | {"texture": next(textures)}), 5
    ), "ms")  # fmt: skip
