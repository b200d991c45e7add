"""The first load of pages in a browser whose processor is slowed down four times, wide and on a phone."""

import sys

from june_shade.launch import browser, cluster, serving, shots
from june_shade.launch.bench.tell import tell
from june_shade.settings import Settings
from june_shade.store.migrate import upgrade

SLOWER = 4
REST_MS = 1500
WATCH = """globalThis.__lcp = 0; globalThis.__shift = 0;
new PerformanceObserver(list => { for (const e of list.getEntries()) globalThis.__lcp = e.startTime })
  .observe({ type: 'largest-contentful-paint', buffered: true });
new PerformanceObserver(list => { for (const e of list.getEntries()) if (!e.hadRecentInput)
  globalThis.__shift += e.value }).observe({ type: 'layout-shift', buffered: true });"""
SCRIPT = """performance.getEntriesByType('resource').filter(e => e.name.endsWith('.js'))
.reduce((sum, e) => sum + e.decodedBodySize, 0) / 1000"""


def measure() -> None:
    """Every view of which a picture is kept."""
    paths = list(dict.fromkeys(shot.path for shot in shots.SHOTS))
    slowest, worst_shift, script_kb = (0.0, ""), 0.0, 0.0
    with cluster.throw_away() as server:
        url = server.ensure_database("pages")
        upgrade(url)
        serving.prepare(url, demo=True)
        settings = Settings(database_url=url, demo=True, warm=True, works=False)
        with serving.background(settings) as address, browser.chromium() as chromium:
            for size in (browser.WIDE, browser.PHONE):
                for path in paths:
                    device = browser.context(chromium, size)
                    device.add_init_script(WATCH)
                    page = device.new_page()
                    device.new_cdp_session(page).send("Emulation.setCPUThrottlingRate", {"rate": SLOWER})
                    page.goto(address + path)
                    browser.settle(page)
                    page.wait_for_timeout(REST_MS)
                    slowest = max(slowest, (page.evaluate("globalThis.__lcp"), f"{path} at {size[0]} px"))
                    worst_shift = max(worst_shift, page.evaluate("globalThis.__shift"))
                    if path == "/today":
                        script_kb = page.evaluate(SCRIPT)
                    device.close()
    tell("first_load_slowed_4x_worst_lcp_ms", slowest[0], "ms")
    print(f"slowest: {slowest[1]}", file=sys.stderr)
    tell("first_load_slowed_4x_worst_shift", worst_shift, "CLS")
    tell("today_script_kb", script_kb, "kB")
