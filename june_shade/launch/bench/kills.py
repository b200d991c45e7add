"""A hundred kills in random order, of the application, its worker, the database and phones, while phones and writers
enter: what of it was lost, what stands twice.

Each phone is a browser of its own with a profile that stays; it enters notes at a tree as a person does. Each writer
sends waterings as an outbox does: under ids of its own, again until it is answered.
"""

import random
import tempfile
import threading
import time
from collections import Counter
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from uuid import uuid4

import httpx
import psycopg
from playwright.sync_api import Error as BrowserError
from playwright.sync_api import Page, sync_playwright

from june_shade.demo import people, scenario
from june_shade.launch import browser, cluster
from june_shade.launch.bench.program import LATEST_S, Program, kill, processes_of
from june_shade.launch.bench.tell import tell

KILLS, PHONES, WRITERS, SEED = 100, 2, 2, 5
EACH = {"app": 3, "worker": 2, "database": 2, "phone": 3}
"""How often each is killed, against the others."""
PAUSE_S, ENTER_EVERY_S = (0.5, 4.0), 2.0
TECHNICIAN = next(one for one in people.PEOPLE if one["role"] == "technician")
TREE = scenario.name_id("tree", "HL", 5)
OUTBOX = """async () => {
  const asked = indexedDB.open('june-shade')
  const db = await new Promise((ok, no) => { asked.onsuccess = () => ok(asked.result); asked.onerror = no })
  if (!db.objectStoreNames.contains('outbox')) { db.close(); return 0 }
  const count = db.transaction('outbox').objectStore('outbox').count()
  const n = await new Promise((ok) => (count.onsuccess = () => ok(count.result)))
  db.close()
  return n
}"""


class Phone(threading.Thread):
    """A browser with a profile that stays. entered: notes that its page said it has; left: what waits at the end."""

    def __init__(self, address: str, profile: Path, number: int, over: threading.Event) -> None:
        super().__init__(daemon=True)
        self.address, self.profile, self.number, self.over = address, profile, number, over
        self.entered: list[str] = []
        self.left = -1

    def run(self) -> None:
        """Enter notes until it is over, then wait until all of them are sent; begin anew whenever it was killed."""
        until = None
        while until is None or time.monotonic() < until:
            with suppress(BrowserError), sync_playwright() as playwright:
                context = playwright.chromium.launch_persistent_context(
                    self.profile, executable_path=browser.CHROMIUM, chromium_sandbox=False, args=browser.FLAGS,
                    viewport={"width": 390, "height": 844}, is_mobile=True, has_touch=True, locale="en-US",
                )  # fmt: skip
                context.set_default_timeout(30_000)
                page = context.pages[0] if context.pages else context.new_page()
                self._come_in(page)
                while not self.over.is_set():
                    self._enter(page)
                until = until or time.monotonic() + LATEST_S
                page.goto(f"{self.address}/waiting")
                while (left := page.evaluate(OUTBOX)) and time.monotonic() < until:
                    page.wait_for_timeout(500)
                self.left = left
                context.close()
                return
            time.sleep(0.5)

    def _come_in(self, page: Page) -> None:
        page.goto(f"{self.address}/trees/{TREE}/water")
        tap = page.get_by_role("button", name=TECHNICIAN["name"])
        tap.or_(page.get_by_label("Seen something? Write it down")).first.wait_for()
        if tap.count():
            tap.first.click()
        page.get_by_label("Seen something? Write it down").wait_for()

    def _enter(self, page: Page) -> None:
        words = f"phone {self.number} note {len(self.entered)} {uuid4().hex[:8]}"
        field = page.get_by_label("Seen something? Write it down")
        field.fill(words)
        page.get_by_role("button", name="Keep it").click()
        page.wait_for_function(
            "() => [...document.querySelectorAll('input, textarea')].every(e => !/^phone \\d/.test(e.value))"
        )
        self.entered.append(words)
        page.wait_for_timeout(1000 * ENTER_EVERY_S)

    def kill(self) -> None:
        """End its browser at once."""
        kill(processes_of(f"--user-data-dir={self.profile}"))


class Writer(threading.Thread):
    """Sends waterings under ids of its own, again until it is answered. answered: those that were."""

    def __init__(self, address: str, over: threading.Event) -> None:
        super().__init__(daemon=True)
        self.address, self.over = address, over
        self.answered: list[str] = []

    def run(self) -> None:
        """Write until it is over."""
        with httpx.Client(base_url=self.address, timeout=20) as client:
            while not self._sent(lambda: client.post("/api/session", json=people.signs_in_as(TECHNICIAN["role"]))):
                pass
            now = ""
            while not self.over.is_set():
                with suppress(httpx.HTTPError, KeyError):
                    now = client.get("/api/clock").json()["now"]
                entry = str(uuid4())
                body = {"tree_id": str(TREE), "kind": "water", "happened_at": now, "device_id": "writer",
                        "volume_l": 1.0}  # fmt: skip
                while now and not self._sent(lambda: client.put(f"/api/log/{entry}", json=body)):  # noqa: B023
                    if self.over.is_set():
                        return  # never answered: it may be there or not
                if now:
                    self.answered.append(entry)
                time.sleep(0.2)

    @staticmethod
    def _sent(send: Callable[[], httpx.Response]) -> bool:
        with suppress(httpx.HTTPError):
            if send().status_code < 300:
                return True
        time.sleep(0.3)
        return False


def measure(kills: int = KILLS) -> None:
    """Kill, and count what is there afterwards."""
    chance, over, done = random.Random(SEED), threading.Event(), Counter[str]()
    with cluster.throw_away(durable=True) as server, tempfile.TemporaryDirectory() as folder:
        url = server.ensure_database("kills")
        app = Program(url, folder)
        app.start()
        phones = [Phone(app.address, Path(folder) / f"phone{n}", n, over) for n in range(PHONES)]
        writers = [Writer(app.address, over) for _ in range(WRITERS)]
        for thread in (*phones, *writers):
            thread.start()
        time.sleep(10)
        for _ in range(kills):
            what = chance.choices(list(EACH), list(EACH.values()))[0]
            done[what] += 1
            match what:
                case "app":
                    app.kill()
                case "worker":
                    app.kill_worker()
                case "phone":
                    chance.choice(phones).kill()
                case "database":
                    kill([int((server.data / "postmaster.pid").read_text().split()[0])])
                    while server.is_alive():
                        time.sleep(0.05)
                    server.start_again()
            time.sleep(chance.uniform(*PAUSE_S))
        over.set()
        for thread in (*phones, *writers):
            thread.join(LATEST_S + 60)
        with psycopg.connect(url, options="-c june.organisation=all") as connection:
            notes = Counter(note for (note,) in connection.execute("SELECT note FROM log_entry WHERE kind = 'note'"))
            ids = {str(one) for (one,) in connection.execute("SELECT id FROM log_entry WHERE device_id = 'writer'")}
        app.stop()
    for what, count in sorted(done.items()):
        tell(f"kills_of_{what}", count, "kills")
    entered, answered = [n for p in phones for n in p.entered], [i for w in writers for i in w.answered]
    tell("kills_entered", len(entered) + len(answered), "entries")
    tell("kills_waiting_at_the_end", sum(phone.left for phone in phones), "entries")
    tell("kills_lost", sum(not notes[n] for n in entered) + sum(i not in ids for i in answered), "entries")
    tell("kills_doubled", sum(count > 1 for note, count in notes.items() if note.startswith("phone ")), "entries")
