"""One large site, and files that come in."""

import csv
import io
import time
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import date, timedelta
from uuid import uuid4

import httpx
import numpy as np
from sqlalchemy import select, text

from june_shade.demo import scenario
from june_shade.launch import cluster, serving
from june_shade.launch.bench.city import median_ms, sites_like, write_log
from june_shade.launch.bench.tell import tell
from june_shade.launch.processes import Worker
from june_shade.plans import water
from june_shade.settings import Settings
from june_shade.standins.climate import Climate
from june_shade.store.migrate import upgrade
from june_shade.store.session import SessionMaker, make_engine, make_sessions, transaction
from june_shade.store.site_tables import Site

TREES = 10_000


def plan_seconds(sessions: SessionMaker, *, cold: bool) -> float:
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


def taken_s(client: httpx.Client, file: bytes, station: str | None = None) -> tuple[float, float]:
    """How long a file takes that is sent, as a page watches it [s]: until it is read; from the yes until it counts."""
    where = f"/api/imports/{uuid4()}"
    began = time.perf_counter()
    given = {"station_id": station} if station else {}
    client.put(where, params=given, files={"file": ("file.csv", file)}).raise_for_status()
    _until(client, where, "read")
    read_s, began = time.perf_counter() - began, time.perf_counter()
    client.post(f"{where}/store").raise_for_status()
    _until(client, where, "stored")
    return read_s, time.perf_counter() - began


@contextmanager
def working(settings: Settings) -> Iterator[None]:
    """The process that does the jobs beside the one that answers, as when it is started."""
    worker = Worker(settings)
    worker.start()
    try:
        yield
    finally:
        worker.stop()


def _until(client: httpx.Client, where: str, state: str) -> None:
    while (found := client.get(where).json())["state"] != state:
        assert not found["problem"], found
        time.sleep(0.05)


def dly(most_bytes: int) -> bytes:
    """A station's days in the archive's fixed width, from 1850 on, up to so many bytes."""
    lines, size, month = [], 0, 0
    while True:
        for element, value in (("TMAX", 250), ("TMIN", 120), ("PRCP", 0), ("SNOW", 0), ("TOBS", 200)):
            days = "".join(f"{value + day % 7 if day < 28 else -9999:5d}  7" for day in range(31))
            lines.append(f"USC00050848{1850 + month // 12}{month % 12 + 1:02d}{element}{days}\n")
            size += len(lines[-1])
        month += 1
        if size > most_bytes or month == 12 * 176:
            return "".join(lines).encode()


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
        settings = Settings(database_url=url, demo=True, works=False)
        with (
            working(settings),
            serving.background(settings) as address,
            httpx.Client(base_url=address, timeout=300) as client,
        ):
            tell("trees_list_10000_ms", median_ms(lambda: client.get("/api/trees", params={"limit": 60}), 11), "ms")
            city = next(s["id"] for s in client.get("/api/sites").json() if s["name"] == "City")
            rows = list(csv.DictReader(io.StringIO(client.get("/api/trees.csv", params={"site_id": city}).text)))
            assert len(rows) == TREES
            made = io.StringIO()
            writer = csv.DictWriter(made, rows[0])
            writer.writeheader()
            writer.writerows(row | {"place": f"{row['place']} again"} for row in rows)
            file = made.getvalue().encode()
            read_s, stored_s = taken_s(client, file)
            tell("trees_csv_read_10000_seconds", read_s, "s")
            tell("trees_csv_10000_seconds", stored_s, "s")
            made = io.StringIO()
            writer = csv.DictWriter(made, rows[0])
            writer.writeheader()
            for i in range(2):
                writer.writerows(row | {"id": "", "tag": f"{row['tag']} {i}"} for row in rows)
            tell("trees_csv_20000_new_seconds", taken_s(client, made.getvalue().encode())[1], "s")


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
        settings = Settings(database_url=url, demo=True, works=False)
        with (
            working(settings),
            serving.background(settings) as address,
            httpx.Client(base_url=address, timeout=300) as client,
        ):
            station = client.get("/api/stations").json()[0]["id"]
            tell("weather_30_years_seconds", taken_s(client, file, station)[1], "s")
            large = dly(19_000_000)
            read_s, stored_s = taken_s(client, large, station)
            tell("weather_19_mb_read_seconds", read_s, "s")
            tell("weather_19_mb_seconds", stored_s, "s")
