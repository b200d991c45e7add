"""Pictures of every main view from the demo's data: what `./june shots` puts into docs/screenshots."""

import argparse
import re
import sys
import time
from collections.abc import Callable
from dataclasses import dataclass, replace
from pathlib import Path

import httpx
from playwright.sync_api import Page

from june_shade.demo import scenario
from june_shade.launch import browser, cluster, serving
from june_shade.launch.processes import weather_stand_in
from june_shade.settings import ROOT, Settings
from june_shade.store.migrate import upgrade

FOLDER = ROOT / "docs" / "screenshots"

TAKES_ALONG_MS, TAPS_AGAIN_MS = 240_000, 1000


def _nothing(_: Page) -> None:
    pass


def _start_round(page: Page) -> None:
    page.get_by_role("button", name="Start the round").click()


def _moved(page: Page) -> None:
    page.get_by_role("gridcell", name=re.compile(r"^HL-\d+, (Thu|Fri|Sat).*visit, ")).first.click()
    page.get_by_role("button", name="A day later").click()
    page.get_by_role("button", name=re.compile("^Keep ")).wait_for()


def _check_up(page: Page) -> None:
    page.get_by_role("button", name="Check this tree").click()
    page.locator(".answers").get_by_role("button", name="Wet").click()
    page.get_by_text("So far").wait_for()


def _rehearsed(page: Page) -> None:
    page.get_by_role("button", name="Only when dry").wait_for()


def _without_signal(page: Page) -> None:
    page.get_by_role("button", name="Take along now").click()
    page.get_by_role("button", name="Take along now").wait_for(timeout=TAKES_ALONG_MS)
    page.context.set_offline(True)
    page.goto(page.url.replace("/waiting", "/today"))
    page.get_by_role("button", name="Start the round").click()
    for count in range(1, 4):
        page.wait_for_timeout(TAPS_AGAIN_MS)
        page.get_by_role("button", name=re.compile("^Done ")).first.click()
        page.get_by_text(re.compile(f"{count} waits? to be sent")).first.wait_for()
    page.get_by_role("link", name="Look").click()


@dataclass(frozen=True, slots=True)
class Shot:
    """One picture: its name, the path it shows, the window, and what is done before it is taken. carried: of a phone
    that has the program along; signs_in: where people sign in."""

    name: str
    path: str
    size: tuple[int, int]
    before: Callable[[Page], None] = _nothing
    whole: bool = False
    locale: str = "en-US"
    carried: bool = False
    signs_in: bool = False


def _tree(number: int, site: str = "HL") -> str:
    return f"/trees/{scenario.name_id('tree', site, number)}"


SHOTS = (
    Shot("today", "/today", browser.WIDE, _start_round),
    Shot("today-phone", "/today", browser.PHONE, _start_round),
    Shot("fortnight", "/ahead/water", browser.WIDE, _moved),
    Shot("no-signal-phone", "/waiting", browser.PHONE, _without_signal, carried=True),
    Shot("drought", "/ahead/drought", browser.WIDE),
    Shot("trees", "/trees", browser.WIDE),
    Shot("tree-water", f"{_tree(3)}/water", browser.WIDE),
    Shot("tree-water-phone", f"{_tree(3)}/water", browser.PHONE, locale="es-US"),
    Shot("tree-mulch", f"{_tree(19)}/mulch", browser.WIDE),
    Shot("check-up-phone", f"{_tree(6)}/checks", browser.PHONE, _check_up),
    Shot("tree-drip", f"{_tree(20, 'RT')}/drip", browser.WIDE),
    Shot("planting", f"/plantings/{scenario.name_id('planting', 'HL', 'playground')}", browser.WIDE),
    Shot("ground-plan", f"/sites/{scenario.name_id('site', 'SO')}/ground", browser.WIDE),
    Shot("weather", "/weather", browser.WIDE),
    Shot("rehearse", f"/rehearse?tree={scenario.name_id('tree', 'HL', 4)}&season=past", browser.WIDE, _rehearsed),
    Shot("book", "/book?what=felt", browser.WIDE),
    Shot("savings", "/ahead/savings", browser.WIDE),
    Shot("book-sheet", "/book/sheet", browser.WIDE),
    Shot("sign-in", "/today", browser.WIDE, signs_in=True),
)


def _choose(address: str) -> None:
    """Have the plan under limits chosen before pictures of it are taken."""
    with httpx.Client(base_url=address) as client:
        client.post("/api/fortnight/again").raise_for_status()
        while client.get("/api/plan").json()["plan_id"] is None:
            time.sleep(0.5)


def take(shots: list[Shot], folder: Path, units: str) -> None:
    """Take pictures against a demo of their own, thrown away afterwards."""
    folder.mkdir(parents=True, exist_ok=True)
    with cluster.throw_away() as server, weather_stand_in() as forecast_url:
        url = server.ensure_database("shots")
        upgrade(url)
        serving.prepare(url, demo=True)
        settings = Settings(
            database_url=url, forecast_url=forecast_url, forecast_made_up=True, demo=True, chooses=False
        )
        with serving.background(settings) as address, browser.chromium() as chromium:
            _choose(address)
            person = {"id": str(scenario.name_id("person", "Noor")), "name": "Noor"}
            for shot in sorted(shots, key=lambda one: one.signs_in):
                if shot.signs_in:
                    serving.prepare(url, demo=True, with_people=True)
                device = browser.context(
                    chromium, shot.size, units, person, locale=shot.locale, carried=shot.carried
                )  # fmt: skip
                page = device.new_page()
                page.goto(address + shot.path)
                browser.settle(page)
                shot.before(page)
                browser.settle(page)
                target = folder / f"{shot.name}.png"
                page.screenshot(path=target, animations="disabled", full_page=shot.whole)
                print(target.relative_to(ROOT) if target.is_relative_to(ROOT) else target, flush=True)
                device.close()


def main() -> int:
    """Take all pictures, or those named."""
    parser = argparse.ArgumentParser(prog="./june shots", description=main.__doc__)
    parser.add_argument("names", nargs="*", help="pictures by name; all without")
    parser.add_argument("--to", type=Path, default=FOLDER, help="another folder")
    parser.add_argument("--units", choices=("us", "metric"), default="us")
    parser.add_argument("--whole", action="store_true", help="the whole page, not the window")
    chosen = parser.parse_args()
    known = {shot.name: shot for shot in SHOTS}
    unknown = [name for name in chosen.names if name not in known]
    if unknown:
        print(f"no picture is called {', '.join(unknown)}; there are {', '.join(known)}", file=sys.stderr)
        return 2
    picked = [known[name] for name in chosen.names] or list(SHOTS)
    if chosen.whole:
        picked = [replace(shot, whole=True) for shot in picked]
    take(picked, chosen.to, chosen.units)
    return 0


if __name__ == "__main__":
    sys.exit(main())
