"""Debian's headless Chromium through Playwright, for the browser tests and for pictures."""

import time
from collections.abc import Iterator
from contextlib import contextmanager
from weakref import WeakKeyDictionary

from playwright.sync_api import Browser, BrowserContext, Page, Request, sync_playwright

CHROMIUM = "/usr/bin/chromium-headless-shell"
FLAGS = [
    "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
    "--disable-component-update", "--disable-sync", "--disable-dev-shm-usage",
]  # fmt: skip
UNUSED = (
    "AvoidUnnecessaryBeforeUnloadCheckSync", "DestroyProfileOnBrowserClose", "HttpsUpgrades", "MediaRouter",
    "HttpsFirstBalancedModeAutoEnable", "PaintHolding", "ThirdPartyStoragePartitioning", "OptimizationHints",
    "NetworkTimeServiceQuerying", "AimEnabled", "PreconnectToSearch", "LensOverlay",
    "PreloadTopChromeWebUI", "PreloadTopChromeWebUILessNavigations",
)  # fmt: skip
"""Features of the browser that pages under test have no use for: what Playwright leaves out (a later list of them takes
the place of its own), and pages of the browser's own frame that it would make ready for each new window."""
FLAGS += ["--disable-features=" + ",".join(UNUSED)]
WIDE, PHONE = (1280, 800), (390, 844)
ZONE = "America/Denver"


@contextmanager
def chromium() -> Iterator[Browser]:
    """One browser for as long as the block runs."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, chromium_sandbox=False, args=FLAGS)
        try:
            yield browser
        finally:
            browser.close()


_open: WeakKeyDictionary[BrowserContext, set[Request]] = WeakKeyDictionary()
"""What each device has asked for and not got yet."""
QUIET_S, LOOK_EVERY_MS = 0.25, 50
PATIENCE_S, CARRIED_PATIENCE_S = 30.0, 5.0
"""How long a page's answers are waited for; where a service worker stands between, not every end is told."""
_patience_s: WeakKeyDictionary[BrowserContext, float] = WeakKeyDictionary()


def _watch(made: BrowserContext, patience_s: float) -> None:
    asked: set[Request] = set()
    _open[made], _patience_s[made] = asked, patience_s
    made.on("request", lambda request: asked.add(request))
    made.on("requestfinished", lambda request: asked.discard(request))
    made.on("requestfailed", lambda request: asked.discard(request))


def forget(made: BrowserContext) -> None:
    """Whatever a device has asked for is waited for no longer."""
    _open[made].clear()


def context(
    browser: Browser, size: tuple[int, int], units: str = "us", person: dict | None = None, *, carried: bool = False,
    locale: str = "en-US",
) -> BrowserContext:  # fmt: skip
    """A device: a window size, a unit system, who holds it, what it speaks. carried: a phone with the program along."""
    made = browser.new_context(
        viewport={"width": size[0], "height": size[1]}, locale=locale, timezone_id=ZONE, reduced_motion="reduce",
        has_touch=carried, is_mobile=carried, service_workers="allow" if carried else "block",
    )  # fmt: skip
    kept = {"june-shade-units": units}
    if person is not None:
        import json

        kept["june-shade-person"] = json.dumps(person)
    script = "".join(f"localStorage.getItem({k!r}) ?? localStorage.setItem({k!r}, {v!r});" for k, v in kept.items())
    made.add_init_script("if (location.protocol === 'http:') {" + script + "}")
    made.set_default_timeout(15_000)
    _watch(made, CARRIED_PATIENCE_S if carried else PATIENCE_S)
    return made


def answered(page: Page, quiet_s: float = 0.0) -> None:
    """Wait until nothing is asked for any more, for so long [s]."""
    quiet, began = 0.0, time.monotonic()
    while time.monotonic() - began < _patience_s[page.context]:
        page.wait_for_timeout(LOOK_EVERY_MS)
        quiet = 0.0 if _open[page.context] else quiet + LOOK_EVERY_MS / 1000
        if quiet > 0 and quiet >= quiet_s:
            return


def settle(page: Page) -> None:
    """Wait until answers, fonts and drawings have come to rest."""
    page.wait_for_load_state()
    answered(page, QUIET_S)
    page.evaluate("() => document.fonts.ready.then(() => true)")
    page.mouse.move(0, 0)
    page.wait_for_timeout(50)
