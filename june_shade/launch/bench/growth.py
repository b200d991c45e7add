"""What grows as a season goes by, and by how much: days of the demo gone through as crews go through them, each day's
water logged, its plan made, the next morning begun; the database's tables before and after.
"""

import tempfile
import time
from uuid import uuid4

import httpx
import psycopg

from june_shade.demo import people
from june_shade.launch import cluster
from june_shade.launch.bench.program import LATEST_S, Program
from june_shade.launch.bench.tell import tell

DAYS, TELL = 14, 6
"""Days gone through; how many of the tables that grow most are told."""
SIZES = """
SELECT relname, pg_total_relation_size(c.oid) FROM pg_class c JOIN pg_namespace n ON n.oid = relnamespace
WHERE relkind = 'r' AND nspname IN ('public', 'jobs')
"""
WAITING = "SELECT count(*) FROM jobs.procrastinate_jobs WHERE status IN ('todo', 'doing')"


def _sizes(connection: psycopg.Connection) -> dict[str, int]:
    """Each table's bytes, with its indexes, as it is after it was tidied."""
    connection.execute("VACUUM (ANALYZE)")
    return dict(connection.execute(SIZES).fetchall())


def _quiet(connection: psycopg.Connection) -> None:
    """Wait until no job waits or is done."""
    until = time.monotonic() + LATEST_S
    while connection.execute(WAITING).fetchone() != (0,):
        if time.monotonic() > until:
            raise RuntimeError("the day's jobs were not done")
        time.sleep(0.2)


def _day(client: httpx.Client) -> int:
    """Log all that Today asks for, and begin the next morning; how many waterings that were."""
    now, logged = client.get("/api/clock").json()["now"], 0
    for site in client.get("/api/today").raise_for_status().json()["sites"]:
        for stop in site["stops"]:
            for tree in stop["trees"]:
                if tree["next"] is None or tree["entries"]:
                    continue
                body = {"tree_id": tree["id"], "kind": "water", "happened_at": now, "device_id": "growth",
                        "volume_l": tree["next"]["metric"]["litres"]}  # fmt: skip
                client.put(f"/api/log/{uuid4()}", json=body).raise_for_status()
                logged += 1
    client.post("/api/clock/next-day").raise_for_status()
    return logged


def measure() -> None:
    """Go through the days, and tell what has grown."""
    with cluster.throw_away() as server, tempfile.TemporaryDirectory() as folder:
        url = server.ensure_database("growth")
        program = Program(url, folder, JUNE_CHOOSE_SECONDS="3")
        program.start()
        try:
            with (
                httpx.Client(base_url=program.address, timeout=120) as client,
                psycopg.connect(server.url("growth", cluster.ADMIN), autocommit=True) as connection,
            ):
                client.post("/api/session", json=people.signs_in_as("lead")).raise_for_status()
                trees = client.get("/api/today").json()["trees"]
                _quiet(connection)
                before, logged = _sizes(connection), 0
                for _ in range(DAYS):
                    logged += _day(client)
                    client.get("/api/today").raise_for_status()
                    _quiet(connection)
                after = _sizes(connection)
        finally:
            program.stop()
    grown = {name: (size - before.get(name, 0)) / DAYS / 1000 for name, size in after.items()}
    tell("growth_trees", trees, "trees")
    tell("growth_waterings_a_day", logged / DAYS, "entries")
    for name in sorted(grown, key=grown.__getitem__, reverse=True)[:TELL]:
        tell(f"growth_{name}_kb_a_day", grown[name], "kB")
    tell("growth_all_kb_a_day", sum(grown.values()), "kB")
