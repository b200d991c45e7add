"""What tests share: published check values, trees, a throw-away PostgreSQL with fresh databases, a client.

The server starts when the first test asks for it and is gone with the process.
"""

import atexit
import csv
import itertools
import os
import shutil
import tempfile
import time
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from functools import cache
from pathlib import Path
from typing import Any
from uuid import UUID, uuid4
from zoneinfo import ZoneInfo

import numpy as np
import psycopg
from fastapi.testclient import TestClient
from sqlalchemy import select
from sqlalchemy.orm import Session

from june_shade.api.app import create_app
from june_shade.api.language import wanted
from june_shade.core.soil.textures import soil
from june_shade.core.stock.plants import stock_sizes
from june_shade.core.water.ground import Ground, ground
from june_shade.core.water.stores import Reach, State, Trees
from june_shade.core.water.trees import TreeSpec, build, reach_of
from june_shade.core.water.walk import opening_state
from june_shade.core.weather.daily import Days
from june_shade.demo import people, scenario
from june_shade.formats.sentences import LANGUAGES, said
from june_shade.jobs import Choosing, Worker
from june_shade.launch import cluster
from june_shade.plans import clock, imports, kinds, places
from june_shade.plans import weather_days as measured_days
from june_shade.plans.pictures import Folder
from june_shade.settings import Settings
from june_shade.store import jobs
from june_shade.store.migrate import upgrade
from june_shade.store.session import SessionMaker, make_engine, make_sessions, transaction
from june_shade.store.site_tables import Site
from june_shade.store.tree_tables import Plant
from june_shade.store.weather_tables import Station
from tests import SHARED

FIRST_WORK_S, QUIET_LOOKS = 300.0, 5
PICTURES = Path(tempfile.mkdtemp(prefix="june-pictures-"))
atexit.register(shutil.rmtree, PICTURES, ignore_errors=True)
os.environ["JUNE_PICTURES"] = str(PICTURES)
PUBLISHED = Path(__file__).parent / "published"
ZONE = ZoneInfo("America/Denver")
DAY = date(2026, 7, 15)
DEVICE = "test device"
SITE_SHOWN = (
    "id", "trees", "stops", "lines", "station_name", "soil", "root_depth_in_force_m", "water_codes", "closed_on",
)  # fmt: skip
"""What a site is shown with and is not typed."""


@dataclass(frozen=True)
class Check:
    """One published value: what it is of, its inputs by name, what was printed and how exactly."""

    quantity: str
    inputs: dict[str, Any]
    expected: float
    tolerance: float
    source: str


def published(name: str) -> list[Check]:
    """All check values of a file; it is an error where there are none."""
    with (PUBLISHED / f"{name}.csv").open(newline="", encoding="utf-8") as file:
        rows = list(csv.DictReader(file))
    if not rows:
        raise AssertionError(f"{name}.csv has no rows")
    return [
        Check(
            row["quantity"],
            {k: _value(v) for k, v in (pair.split("=", 1) for pair in row["inputs"].split())},
            float(row["expected"]),
            float(row["tolerance"]),
            f"{row['source']} ({row['standing']})",
        )
        for row in rows
    ]


def _value(text: str) -> Any:
    try:
        return float(text)
    except ValueError:
        return text


def spec(label: str = "2 in balled", texture: str = "loam", **changed: Any) -> TreeSpec:
    """A tree of a stock size, with its ball share given so that only what a test changes changes."""
    size = next(s for s in stock_sizes() if s.label == label)
    values: dict[str, Any] = {
        "kind": size.kind,
        "caliper_m": size.caliper_m,
        "ball_diameter_m": size.ball_diameter_m,
        "ball_height_m": size.ball_height_m,
        "crown_diameter_m": 36 * size.caliper_m,
        "soil": soil(texture),
        "basin_diameter_m": 0.9,
        "ball_share": 0.6,
    }
    return TreeSpec(**(values | changed))


def full(trees: Trees, reach: Reach, root_radius_m: Any = None) -> State:
    """All stores at field capacity; just planted, or with roots so far out."""
    ones = np.ones(len(trees))
    radius = trees.ball_radius_m if root_radius_m is None else root_radius_m * ones
    return opening_state(trees, reach, radius, ones, ones, np.zeros(len(trees), bool))


def one(**changed: Any) -> tuple[Trees, Reach]:
    """Arrays of a single tree and of how it is watered."""
    return of_specs(spec(**changed))


def of_specs(*specs: TreeSpec) -> tuple[Trees, Reach]:
    """Arrays of some trees and of how they are watered."""
    return build(specs), reach_of(specs)


def dried(trees: Trees, reach: Reach, ball: float, near: float, root_radius_m: Any = None) -> tuple[State, Ground]:
    """Trees with these shares of ball and near ring gone, and their ground."""
    state = full(trees, reach, root_radius_m)
    g = ground(trees, reach, state.root_radius_m)
    return replace(state, ball_depletion_l=ball * trees.ball_taw_l, near_depletion_l=near * g.near_taw_l), g


# --- the database ---------------------------------------------------------------------------------------------

_numbers = itertools.count(1)


@cache
def server() -> cluster.Cluster:
    """The throw-away server."""
    if folder := os.environ.get(SHARED):
        running = cluster.Cluster(Path(folder), keep=False)
        running.start()  # adopts it
        return running
    stack = ExitStack()
    started = stack.enter_context(cluster.throw_away(tidies=False))
    atexit.register(stack.close)
    return started


MADE_FROM = {"ready": "demo", "school": "ready"}


@cache
def _template(kind: str) -> str:
    """A database to copy: `seeded` has plants and stock sizes, `demo` the made-up town, `ready` that as it is some
    minutes after it was begun, `school` with all other sites closed, `firms` the demo's people instead. Made once."""
    name, making = f"template_{kind}", f"making_{kind}"
    from_other = _template(MADE_FROM[kind]) if kind in MADE_FROM else None
    with psycopg.connect(server().url("postgres", cluster.ADMIN), autocommit=True) as connection:
        connection.execute("SELECT pg_advisory_lock(hashtext(%s))", (name,))
        if not connection.execute("SELECT 1 FROM pg_database WHERE datname = %s", (name,)).fetchone():
            if from_other:
                _copy(connection, from_other, making)
            _fill(server().ensure_database(making), kind)
            connection.execute(f'ALTER DATABASE "{making}" RENAME TO "{name}"')
    return name


def _copy(connection: psycopg.Connection, template: str, name: str) -> None:
    connection.execute(f'CREATE DATABASE "{name}" TEMPLATE "{template}" OWNER {cluster.USER}')


def _fill(url: str, kind: str) -> None:
    upgrade(url)
    engine = make_engine(url)
    sessions = make_sessions(engine)
    if kind == "demo":
        scenario.fill(sessions)
    elif kind == "ready":
        _worked(url, sessions)
    elif kind == "school":
        with transaction(sessions) as session:
            for other in scenario.SITES[1:]:
                places.close_site(session, scenario.name_id("site", other.prefix), closed=True)
    else:
        with transaction(sessions) as session:
            kinds.seed_tables(session)
    if kind == "firms":
        people.fill(sessions)
    engine.dispose()


def _worked(url: str, sessions: SessionMaker) -> None:
    """Have all done that the background does when it begins, so that not every test waits for it."""
    worker = Worker(url, sessions, None, Folder(PICTURES), Choosing(by_itself=False))
    worker.start()
    with psycopg.connect(url, autocommit=True) as connection:
        done, until = 0, time.monotonic() + FIRST_WORK_S
        while done < QUIET_LOOKS:  # one job may put in another
            time.sleep(0.1)
            (waits,) = connection.execute(f"SELECT count(*) FROM {jobs.SCHEMA}.procrastinate_jobs").fetchone()
            done = 0 if waits else done + 1
            assert time.monotonic() < until, "the background's first work never ended"
    worker.stop()


def fresh_database(kind: str = "seeded") -> str:
    """Address of a new database like the template."""
    template, name = _template(kind), f"t{os.getpid()}_{next(_numbers)}"
    with psycopg.connect(server().url("postgres", cluster.ADMIN), autocommit=True) as connection:
        _copy(connection, template, name)
    return server().url(name)


def everything(url: str) -> psycopg.Connection:
    """A connection that sees the rows of all organisations."""
    return psycopg.connect(url, options="-c june.organisation=all")


@contextmanager
def database(kind: str = "seeded") -> Iterator[SessionMaker]:
    """Sessions on a new database."""
    engine = make_engine(fresh_database(kind))
    try:
        yield make_sessions(engine)
    finally:
        engine.dispose()


def _sayable(answer: Any) -> None:
    """Whatever is refused is refused in words that there are in every language."""
    spoken = wanted(answer.request.headers.get("accept-language", ""))
    if spoken != LANGUAGES[0] or answer.headers.get("content-type") != "application/problem+json":
        return
    answer.read()
    told = answer.json()
    for sentence in [error["detail"] for error in told["errors"]] or [told["detail"]]:
        for language in LANGUAGES[1:]:
            if said(sentence, language) == sentence:
                raise AssertionError(f"not in words/sentences.{language}.json: {sentence}")


@contextmanager
def client(kind: str = "seeded", service: Any = None) -> Iterator[TestClient]:
    """A client of the whole application on a new database; `client.app.state.sessions` reaches behind it."""
    app = create_app(Settings(database_url=fresh_database(kind)), service)
    made = TestClient(app, "http://127.0.0.1", raise_server_exceptions=False)
    made.event_hooks["response"] = [_sayable]
    try:
        yield made
    finally:
        made.close()
        app.state.sessions.kw["bind"].dispose()
        app.state.door.dispose()


def bring(made: TestClient, data: bytes | str, *, station: Any = None, mapping: str = "", store: bool = False,
          name: str = "file.csv") -> dict[str, Any]:  # fmt: skip
    """Bring a file as a page does, the background's work done at once: the import as it is then."""
    where, given = f"/api/imports/{new_id()}", {"station_id": str(station)} if station else {}
    content = data.encode() if isinstance(data, str) else data
    answer = made.put(where, params=given, files={"file": (name, content)}, data={"mapping": mapping})
    if answer.status_code != 200:
        return answer.json() | {"status": answer.status_code}
    sessions = made.app.state.sessions
    imports.work(sessions, UUID(answer.json()["id"]))
    if store and made.get(where).json()["state"] == "read":
        answer = made.post(f"{where}/store")
        if answer.status_code != 200:
            return answer.json() | {"status": answer.status_code}
        imports.work(sessions, UUID(answer.json()["id"]))
    return made.get(where).json()


# --- a small site -----------------------------------------------------------------------------------------------


def weather_days(first: date, last: date, *, high_c: float = 31.0, rain_mm: float = 0.0) -> Days:
    """Plain days, all alike: what a test of relations needs (invented)."""
    dates = [first + timedelta(days=i) for i in range((last - first).days + 1)]
    n = len(dates)
    return Days.of(
        dates, tmin_c=[high_c - 16] * n, tmax_c=[high_c] * n, rh_percent=[40] * n, wind_m_s=[2.2] * n,
        radiation_mj_m2=[25.0] * n, rain_mm=[rain_mm] * n,
    )  # fmt: skip


def small_site(session: Session, *, today: date = DAY, texture: str = "loam", history_days: int = 60) -> Site:
    """A site with a station and dry days up to yesterday; the clock is pinned to `today`."""
    clock.pin(session, today)
    place = {"latitude_deg": 40.0, "longitude_deg": -105.0, "elevation_m": 1500.0}
    station = Station(name=f"Station {uuid4().hex[:6]}", wind_height_m=2.0, column_mapping={}, **place)
    session.add(station)
    session.flush()
    site = Site(
        name=f"Site {uuid4().hex[:6]}", timezone="America/Denver", texture=texture, hose_flow_l_per_h=400.0,
        station_id=station.id, **place,
    )  # fmt: skip
    session.add(site)
    session.flush()
    session.refresh(site)
    if history_days:
        first = today - timedelta(days=history_days)
        measured_days.store_days(session, station, weather_days(first, today - timedelta(days=1)))
    return site


def plant_id(session: Session, botanical: str = "Quercus macrocarpa") -> UUID:
    """A kind of tree by its botanical name."""
    return session.scalars(select(Plant.id).where(Plant.botanical == botanical)).one()


def tree_body(site: UUID | str, plant: UUID, **changed: Any) -> dict[str, Any]:
    """A tree as the interface sends it: a 2 in balled tree in a 0.9 m basin, planted today."""
    body: dict[str, Any] = {
        "site_id": str(site), "tag": "T-1", "plant_id": str(plant), "kind": "balled", "caliper_m": 0.0508,
        "ball_diameter_m": 0.61, "ball_height_m": 0.366, "planted_on": DAY.isoformat(), "basin_diameter_m": 0.9,
    }  # fmt: skip
    return body | changed


def water_body(tree_id: Any, litres: float, *, day: date = DAY, at: str = "06:12") -> dict[str, Any]:
    """A watering as a phone sends it."""
    when = datetime.combine(day, datetime.strptime(at, "%H:%M").time(), ZONE)
    return {
        "tree_id": str(tree_id), "kind": "water", "happened_at": when.isoformat(), "device_id": DEVICE,
        "volume_l": litres,
    }  # fmt: skip


def new_id() -> str:
    """An id as a client makes it."""
    return str(uuid4())
