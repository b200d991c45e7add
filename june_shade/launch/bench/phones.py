"""Many phones on one contract: each logs an entry every 10 s and asks for Today every 30 s.

Run as a module it is a crowd of them, in a process of its own: `phones ADDRESS PHONES SECONDS SEED`.
"""

import asyncio
import json
import random
import subprocess
import sys
import tempfile
import time
from collections.abc import Awaitable, Callable, Sequence
from itertools import chain
from uuid import uuid4

import httpx
import numpy as np

from june_shade.demo import people
from june_shade.launch import cluster, serving
from june_shade.launch.bench.program import Program
from june_shade.launch.bench.tell import tell
from june_shade.launch.processes import weather_stand_in
from june_shade.settings import ROOT, Settings
from june_shade.store.migrate import upgrade

PHONES, CROWDS, PROGRAMS, SECONDS = 200, 2, 2, 60.0
ENTRY_EVERY_S, TODAY_EVERY_S = 10.0, 30.0
LAG_S = 2
TECHNICIAN = people.signs_in_as("technician")


class Phone:
    """One phone: its device, the round it knows, when it last wrote."""

    def __init__(
        self, client: httpx.AsyncClient, name: str, trees: list[str], now: str, chance: random.Random,
        signed_in: dict[str, str],
    ) -> None:  # fmt: skip
        self.client, self.name, self.trees, self.now, self.chance = client, name, trees, now, chance
        self.signed_in = signed_in
        self.etag, self.wrote_s = "", -1e9

    async def entry(self) -> int:
        """Log some water at a tree."""
        body = {"tree_id": self.chance.choice(self.trees), "kind": "water", "happened_at": self.now,
                "device_id": self.name, "volume_l": float(self.chance.randint(5, 60))}  # fmt: skip
        answer = await self.client.put(f"/api/log/{uuid4()}", json=body, headers=self.signed_in)
        self.wrote_s = time.monotonic()
        return answer.status_code

    async def today(self) -> int:
        """Ask for the round as the interface does: it may lag, though not behind this phone's own entries."""
        lag = max(0, min(LAG_S, int(time.monotonic() - self.wrote_s)))
        headers = (
            self.signed_in | {"Cache-Control": f"max-age={lag}"} | ({"If-None-Match": self.etag} if self.etag else {})
        )
        answer = await self.client.get("/api/today", headers=headers)
        self.etag = answer.headers.get("etag", "")
        return answer.status_code


async def every(seconds: float, first_s: float, until_s: float, act: Callable[[], Awaitable[int]]) -> list[float]:
    """Do it every so often; how long each took [ms], -1 for an answer that was no good."""
    taken: list[float] = []
    due_s = first_s
    while due_s < until_s:
        await asyncio.sleep(max(0.0, due_s - time.monotonic()))
        began = time.monotonic()
        try:
            status = await act()
            good = status < 400
            if not good:
                print(f"a phone was answered {status}", file=sys.stderr)
        except httpx.HTTPError as e:
            good = False
            print(f"a phone had no answer: {e!r}", file=sys.stderr)
        taken.append(1000 * (time.monotonic() - began) if good else -1.0)
        due_s += seconds
    return taken


async def _come_in(client: httpx.AsyncClient) -> str:
    """A phone of its own that is signed in: its cookie."""
    answer = await client.post("/api/session", json=TECHNICIAN)
    answer.raise_for_status()
    client.cookies.clear()
    return answer.headers["set-cookie"].partition(";")[0]


async def crowd(address: str, phones: int, seconds: float, seed: int) -> dict[str, list[float]]:
    """So many phones for so long."""
    chance = random.Random(seed)
    limits = httpx.Limits(max_connections=None, max_keepalive_connections=None)
    async with httpx.AsyncClient(base_url=address, timeout=60, limits=limits) as client:
        cookies = [await _come_in(client) for _ in range(phones)]
        first = {"cookie": cookies[0]}
        now = (await client.get("/api/clock", headers=first)).json()["now"]
        listed = (await client.get("/api/trees", params={"limit": 500}, headers=first)).json()["trees"]
        trees = [tree["id"] for tree in listed]
        began = time.monotonic() + 1
        jobs = []
        for n in range(phones):
            chances = random.Random(seed * 1000 + n)
            phone = Phone(client, f"phone {seed}-{n}", trees, now, chances, {"cookie": cookies[n]})
            for every_s, act in ((ENTRY_EVERY_S, phone.entry), (TODAY_EVERY_S, phone.today)):
                jobs.append(every(every_s, began + chance.uniform(0, every_s), began + seconds, act))
        taken = await asyncio.gather(*jobs)
    return {"entries": list(chain(*taken[::2])), "todays": list(chain(*taken[1::2]))}


def _crowds(addresses: Sequence[str], name: str) -> None:
    """As many crowds as there are processes for them, each at one of the addresses, and what they waited."""
    at = [addresses[n % len(addresses)] for n in range(CROWDS)]
    for address in at:
        with httpx.Client(base_url=address, timeout=60) as first:
            first.post("/api/session", json=TECHNICIAN).raise_for_status()
            first.get("/api/today").raise_for_status()
    crowds = [
        subprocess.Popen(
            [sys.executable, "-m", "june_shade.launch.bench.phones", address, str(PHONES // CROWDS), str(SECONDS),
             str(n)],
            stdout=subprocess.PIPE, cwd=ROOT,
        )
        for n, address in enumerate(at)
    ]  # fmt: skip
    said = [json.loads(child.communicate()[0]) for child in crowds]
    for of, one in (("todays", "today"), ("entries", "entry")):
        taken = np.array([ms for each in said for ms in each[of]])
        tell(f"{name}_{one}_p95_ms", float(np.percentile(taken[taken >= 0], 95)), "ms")
    tell(f"{name}_errors", sum(ms < 0 for each in said for of in each.values() for ms in of), "answers")


def measure() -> None:
    """200 phones on the demo, signed in, and what they wait: at one process, then at two behind one database."""
    with cluster.throw_away() as server, weather_stand_in() as forecast_url:
        url = server.ensure_database("phones")
        upgrade(url)
        serving.prepare(url, demo=True, with_people=True)
        settings = Settings(
            database_url=url, forecast_url=forecast_url, forecast_made_up=True, demo=True, warm=True, works=False
        )
        with serving.background(settings) as address:
            _crowds([address], f"phones_{PHONES}")
    with cluster.throw_away() as server, tempfile.TemporaryDirectory() as folder:
        url = server.ensure_database("phones")
        programs = [Program(url, folder) for _ in range(PROGRAMS)]
        try:
            for program in programs:
                program.start()
            _crowds([program.address for program in programs], f"phones_{PHONES}_at_{PROGRAMS}_programs")
        finally:
            for program in programs:
                program.stop()


if __name__ == "__main__":
    to, how_many, for_s, number = sys.argv[1:]
    print(json.dumps(asyncio.run(crowd(to, int(how_many), float(for_s), int(number)))))
