"""One browser for all, one server a class; each test gets a device of its own and ends with a quiet console."""

import atexit
import re
import unittest
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager
from functools import cache

from playwright.sync_api import Browser, BrowserContext, Locator, Page, expect

from june_shade.demo import scenario
from june_shade.launch import browser, serving
from june_shade.launch.processes import weather_stand_in
from june_shade.settings import ROOT, Settings
from tests.support import fresh_database

NOOR = {"id": str(scenario.name_id("person", "Noor")), "name": "Noor"}
AXE = ROOT / "web/node_modules/axe-core/axe.min.js"
SHIFT = """globalThis.__shift = 0; new PerformanceObserver(list => { for (const e of list.getEntries())
if (!e.hadRecentInput) globalThis.__shift += e.value }).observe({ type: 'layout-shift', buffered: true })"""
STILL = """() => Promise.all(document.getAnimations().filter(a => a.effect.getComputedTiming().endTime < Infinity)
.map(a => a.finished.catch(() => null)))"""
"""What fades in or out has come to rest."""
AXE_RULES = {"label-content-name-mismatch": {"enabled": True}}
BLINK_MS = 150
AXE_TAGS = ["wcag2a", "wcag2aa", "wcag21aa", "wcag22aa"]


expect.set_options(timeout=20_000)


@cache
def shared() -> tuple[Browser, str]:
    """One browser and one weather stand-in for the whole process, and the stand-in's address."""
    stack = ExitStack()
    atexit.register(stack.close)
    return stack.enter_context(browser.chromium()), stack.enter_context(weather_stand_in())


_devices: dict[tuple, BrowserContext] = {}
"""Devices of this process that no test holds, by size, units and person: the program lies there for the next."""
_ports: list[int] = []
"""The port that all servers of this process have, one after the other."""


@contextmanager
def serving_at(settings: Settings) -> Iterator[str]:
    """A server, at the same address as all before it."""
    with serving.background(settings, port=_ports[0] if _ports else 0) as address:
        _ports[:] = [int(address.rsplit(":", 1)[1])]
        yield address


class BrowserTest(unittest.TestCase):
    """A server on a copy of `data`, as tests/support.py has them, for all tests of the class."""

    data = "ready"

    @classmethod
    def setUpClass(cls):
        cls._stack = ExitStack()
        cls.addClassCleanup(cls._stack.close)
        cls.chromium, forecast_url = shared()
        cls.database = fresh_database(cls.data)
        settings = Settings(
            database_url=cls.database,
            forecast_url=forecast_url,
            forecast_made_up=True,
            demo=cls.data != "seeded",
            chooses=False,
            choose_seconds=2.0,
        )
        cls.address = cls._stack.enter_context(serving_at(settings))

    def setUp(self):
        self.complaints: list[str] = []
        self._noted: set[str] = set()
        self.addCleanup(self._quiet)

    def device(self, size=browser.WIDE, units="us", person=NOOR, *, carried=False, locale="en-US") -> Page:
        """A page of a device that holds nothing of a test before; errors on its console fail the test. carried: a phone
        that has the program along, and complains of what it asks for in vain."""
        key = (size, units, person and person["id"], carried, locale)
        context = _devices.pop(key, None)
        if context is None:
            context = browser.context(self.chromium, size, units, person, carried=carried, locale=locale)
            context.add_init_script(SHIFT)
        page = context.new_page()
        self.addCleanup(self._emptied, key, context, page)
        page.on("pageerror", lambda error: self.complaints.append(str(error)))
        page.on("console", lambda m: self.complaints.append(m.text) if m.type == "error" else None)
        if carried:
            self.provoked("net::ERR_INTERNET_DISCONNECTED")
        return page

    def provoked(self, *ends: int | str) -> None:
        """Requests that a test has refused or lost on purpose: their statuses, or what the network says. The browser
        notes them by itself, at its own time; no such line counts at the end."""
        self._noted |= {f"the server responded with a status of {one}" if isinstance(one, int) else one for one in ends}

    def _quiet(self) -> None:
        told = re.compile("Failed to load resource: (" + "|".join(sorted(self._noted)) + r")( \(.*\))?$")
        self.assertEqual([line for line in self.complaints if not told.match(line)], [])

    def _emptied(self, key: tuple, context: BrowserContext, page: Page) -> None:
        """Take what a test left on its device away, and put it back."""
        page.goto("about:blank")  # what is kept when a page is left is kept by now
        context.new_cdp_session(page).send("Storage.clearDataForOrigin", {
            "origin": self.address, "storageTypes": "cookies,local_storage,indexeddb,service_workers,cache_storage"
        })  # fmt: skip
        for one in context.pages:
            one.close()
        browser.forget(context)
        if key in _devices:
            context.close()
        else:
            _devices[key] = context

    def open(self, page: Page, path: str) -> None:
        """Go to a path of the interface and wait until it rests."""
        page.goto(self.address + path)
        browser.settle(page)

    def closes(self, page: Page, dialog: Locator) -> None:
        """Escape closes a dialog, and it may be opened again, as nobody does within a blink."""
        page.keyboard.press("Escape")
        expect(dialog).to_be_hidden()
        page.wait_for_timeout(BLINK_MS)

    def still(self, page: Page) -> None:
        """What came while the page was loaded moved nothing that was shown: a cumulative layout shift under 0.1."""
        self.assertLess(page.evaluate("globalThis.__shift ?? 0"), 0.1, "the page jumped while it came")

    def fits(self, page: Page) -> None:
        """Nothing is wider than the window."""
        width = page.evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth")
        self.assertLessEqual(width, 0, "the page scrolls sideways")

    def prints(self, page: Page, paper: str) -> int:
        """How many sheets a page prints on, margins 10 mm; nothing on them is set smaller than 10 pt."""
        page.emulate_media(media="print")
        small = page.evaluate(
            """() => [...document.querySelectorAll('main *')].filter(e => e.offsetParent &&
            [...e.childNodes].some(n => n.nodeType === 3 && n.textContent.trim()) &&
            parseFloat(getComputedStyle(e).fontSize) < 13.3).map(e => e.outerHTML.slice(0, 120))"""
        )
        self.assertEqual(small, [], "print of less than 10 pt")
        margins = dict.fromkeys(("top", "right", "bottom", "left"), "10mm")
        printed = page.pdf(format=paper, margin=margins)
        page.emulate_media(media="screen")
        return len(re.findall(rb"/Type\s*/Page\b", printed))

    def accessible(self, page: Page) -> None:
        """axe-core finds nothing serious or critical."""
        browser.answered(page)
        page.evaluate(STILL)
        if not page.evaluate("'axe' in globalThis"):
            page.evaluate(AXE.read_text())
        options = {"runOnly": AXE_TAGS, "rules": AXE_RULES, "resultTypes": ["violations"]}
        for again in (False, True):  # what is busy for a moment is pale for a moment: only what stays is wrong
            found = page.evaluate("options => axe.run(options)", options)
            bad = [
                f"{v['id']} ({v['impact']}): {v['nodes'][0]['html'][:160]} {v['nodes'][0]['failureSummary'][:200]}"
                for v in found["violations"]
                if v["impact"] in ("serious", "critical")
            ]
            if not bad or again:
                break
            browser.settle(page)
        self.assertEqual(bad, [])
        self.assertGreater(len(found["passes"]), 5, "axe looked at the page")


__all__ = ["NOOR", "BrowserTest", "expect", "scenario"]
