"""The plan under limits: 500 trees at 60 stops with three crews over a fortnight, and a visit that is moved; 5,000
trees at 600 stops with thirty crews."""

import statistics
import time
from collections.abc import Iterator
from contextlib import contextmanager
from uuid import uuid4

from sqlalchemy import select, update

from june_shade.demo import scenario
from june_shade.launch import cluster
from june_shade.launch.bench.city import sites_like
from june_shade.launch.bench.tell import tell
from june_shade.plans.choosing import work
from june_shade.plans.choosing.work import Chosen
from june_shade.store.crew_tables import Crew
from june_shade.store.migrate import upgrade
from june_shade.store.session import SessionMaker, make_engine, make_sessions, reading, transaction
from june_shade.store.site_tables import Site, Stop
from june_shade.store.tree_tables import Tree

TREES_EACH, STOPS_EACH = 100, 12
SITES, CREWS = 5, 3
CITY_SITES, CITY_CREWS = 50, 30
HOURS = 7.5
"""A day of each crew: about half of the minutes that are wanted."""


def fill(sessions: SessionMaker, sites: int, crews: int) -> None:
    """Sites made after the demo's, each with its stops, shared by the crews; the demo's own are closed."""
    scenario.fill(sessions)
    with transaction(sessions) as session:
        session.execute(update(Site).values(closed_on=scenario.DAY))
        all_crews = [Crew(id=uuid4(), name=f"Crew {n}", people=2, hoses=2, hours=HOURS) for n in range(crews)]
        session.add_all(all_crews)
        session.flush()
        for n, site_id in enumerate(sites_like(session, "Ward {n:02d}", sites, TREES_EACH)):
            site = session.get_one(Site, site_id)
            site.crew_id, site.closed_on = all_crews[n % crews].id, None
            stops = [Stop(id=uuid4(), site_id=site_id, name=f"Stop {k}", position=k) for k in range(STOPS_EACH)]
            session.add_all(stops)
            session.flush()
            trees = session.scalars(select(Tree).where(Tree.site_id == site_id).order_by(Tree.tag)).all()
            for k, tree in enumerate(trees):
                tree.stop_id = stops[k * STOPS_EACH // len(trees)].id


@contextmanager
def planned(sites: int, crews: int) -> Iterator[tuple[Chosen, float]]:
    """A plan for so many sites and crews, and the seconds that it took."""
    with cluster.throw_away() as server:
        url = server.ensure_database("choosing")
        upgrade(url)
        engine = make_engine(url)
        sessions = make_sessions(engine)
        fill(sessions, sites, crews)
        with reading(sessions) as session:
            every = session.scalars(select(Site).where(Site.closed_on.is_(None))).all()
            began = time.perf_counter()
            found = work.chosen(session, every, seconds=work.SECONDS)
            assert found is not None
            yield found, time.perf_counter() - began
        engine.dispose()


def measure() -> None:
    """All of it."""
    with planned(SITES, CREWS) as (found, seconds):
        tell("choose_500_trees_seconds", seconds, "s")
        tell("choose_500_trees_gap_percent", 100 * found.fortnight.choice.gap, "%")
        taken = []
        for n in range(20):
            began = time.perf_counter()
            found.moved(found.sites[0].made.rows[n].id, [2, 9])
            taken.append(1000 * (time.perf_counter() - began))
        tell("move_visit_ms", statistics.median(taken), "ms")
    with planned(CITY_SITES, CITY_CREWS) as (_, seconds):
        tell("choose_5000_trees_seconds", seconds, "s")
