"""One large site, and files that come in."""

import csv
import io
import time
from datetime import date, timedelta

import httpx
import numpy as np
from sqlalchemy import select, text
from sqlalchemy.orm import Session, sessionmaker

from june_shade.demo import scenario
from june_shade.launch import cluster, serving
from june_shade.launch.bench.city import median_ms, sites_like, write_log
from june_shade.launch.bench.tell import tell
from june_shade.plans import water
from june_shade.settings import Settings
from june_shade.standins.climate import Climate
from june_shade.store.migrate import upgrade
from june_shade.store.session import make_engine, make_sessions, transaction
from june_shade.store.site_tables import Site

TREES = 10_000


def plan_seconds(sessions: sessionmaker[Session], *, cold: bool) -> float:
    """A plan of the site, read to commit; cold: with no computed state left."""
    with transaction(sessions) as session:
        if cold:
            session.execute(text("DELETE FROM tree_state"))
    began = time.perf_counter()
    with transaction(sessions) as session:
        made = water.plan_site(session, session.scalars(select(Site).where(Site.name == "City")).one())
        assert made is not None
        assert len(made.rows) == TREES
    return time.perf_counter() - began


def taken_s(client: httpx.Client, path: str, file: bytes) -> float:
    """How long a file that is sent takes [s]."""
    began = time.perf_counter()
    client.post(path, files={"file": ("file.csv", file)}).raise_for_status()
    return time.perf_counter() - began


def site() -> None:
    """Ten thousand trees with a month of log: their plan, their list, their file."""
    with cluster.throw_away() as server:
        url = server.ensure_database("site")
        upgrade(url)
        serving.prepare(url, demo=True)
        engine = make_engine(url)
        sessions = make_sessions(engine)
        with transaction(sessions) as session:
            sites_like(session, "City", 1, TREES)
            write_log(session, "City", scenario.DAY - timedelta(days=30), 4)
        tell("plan_10000_trees_cold_seconds", plan_seconds(sessions, cold=True), "s")
        tell("plan_10000_trees_seconds", min(plan_seconds(sessions, cold=False) for _ in range(3)), "s")
        engine.dispose()
        settings = Settings(database_url=url, demo=True)
        with serving.background(settings) as address, httpx.Client(base_url=address, timeout=300) as client:
            tell("trees_list_10000_ms", median_ms(lambda: client.get("/api/trees", params={"limit": 60}), 11), "ms")
            city = next(s["id"] for s in client.get("/api/sites").json() if s["name"] == "City")
            rows = list(csv.DictReader(io.StringIO(client.get("/api/trees.csv", params={"site_id": city}).text)))
            assert len(rows) == TREES
            made = io.StringIO()
            writer = csv.DictWriter(made, rows[0])
            writer.writeheader()
            writer.writerows(row | {"place": f"{row['place']} again"} for row in rows)
            file = made.getvalue().encode()
            tell("trees_csv_preview_10000_seconds", taken_s(client, "/api/trees/imports/preview", file), "s")
            tell("trees_csv_10000_seconds", taken_s(client, "/api/trees/imports", file), "s")


def weather() -> None:
    """Thirty years of days into a station that four sites read."""
    rng = np.random.default_rng(3)
    climate, first = Climate.shipped(), date(1995, 1, 1)
    lines = ["date,tmin_c,tmax_c,rain_mm,rh_percent"]
    for n in range(30 * 365):
        year_day = climate.days
        i = n % 365
        low, high = year_day["tmin_c"][i] + rng.normal(), year_day["tmax_c"][i] + 3 + abs(rng.normal())
        lines.append(f"{first + timedelta(days=n)},{low:.1f},{max(low, high):.1f},{year_day['rain_mm'][i]},50")
    file = "\n".join(lines).encode()
    with cluster.throw_away() as server:
        url = server.ensure_database("weather")
        upgrade(url)
        serving.prepare(url, demo=True)
        settings = Settings(database_url=url, demo=True)
        with serving.background(settings) as address, httpx.Client(base_url=address, timeout=300) as client:
            station = client.get("/api/stations").json()[0]["id"]
            tell("weather_30_years_seconds", taken_s(client, f"/api/stations/{station}/imports", file), "s")
