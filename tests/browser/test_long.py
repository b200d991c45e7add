"""Long things: names of sixty letters, three hundred trees in a stop, waterings of four digits; nothing is cut off."""

import json
import unittest
from datetime import timedelta
from itertools import pairwise
from uuid import UUID

import httpx

from june_shade.launch import browser
from june_shade.plans import clock
from june_shade.plans import weather_days as measured_days
from june_shade.plans.work import make_engine, make_sessions, transaction
from june_shade.store.weather_tables import Station
from tests.browser.harness import BrowserTest, expect
from tests.support import DAY, new_id, plant_id, small_site, tree_body, weather_days

LONG = "Northwest of the old waterworks by the third maintenance gate"
MANY = 300


class Long(BrowserTest):
    data = "seeded"

    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        sessions = make_sessions(make_engine(cls.database))
        cls.addClassCleanup(sessions.kw["bind"].dispose)
        with transaction(sessions) as session:
            site = small_site(session)
            site.name = LONG
            cls.site, station_id, plant = site.id, site.station_id, plant_id(session)
        first = tree_body(
            cls.site, plant, tag="W-001", place=LONG, stop=LONG, planted_on=str(DAY), ball_diameter_m=2.2,
            ball_height_m=1.1, caliper_m=0.2, basin_diameter_m=2.4,
        )  # fmt: skip
        with httpx.Client(base_url=cls.address, timeout=60) as client:
            wide = [first | {"id": new_id(), "tag": f"W-{i:03d}", "row_place": i, "line": None} for i in range(MANY)]
            client.put("/api/trees", json={"trees": wide[:200]}).raise_for_status()
            client.put("/api/trees", json={"trees": wide[200:]}).raise_for_status()
            cls.tree = UUID(wide[0]["id"])
        with transaction(sessions) as session:
            clock.pin(session, DAY + timedelta(days=9))
            station = session.get(Station, station_id)
            measured_days.store_days(session, station, weather_days(DAY, DAY + timedelta(days=8), high_c=36.0))

    def test_nothing_scrolls_sideways_and_nothing_that_names_a_tree_is_cut(self):
        for size in (browser.PHONE, (768, 1024), browser.WIDE):
            page = self.device(size, "metric")
            for path in ("/today", "/trees", f"/trees/{self.tree}/water", "/sites", f"/sites/{self.site}"):
                with self.subTest(path=path, size=size):
                    self.open(page, path)
                    self.fits(page)
                    cut = page.evaluate(
                        """() => [...document.querySelectorAll('main *')].filter(e => e.offsetParent &&
                        [...e.childNodes].some(n => n.nodeType === 3 && n.textContent.trim()) &&
                        getComputedStyle(e).overflow !== 'visible' && e.scrollWidth > e.clientWidth + 1 &&
                        !e.closest('.visually-hidden')).map(e => e.outerHTML.slice(0, 120))"""
                    )
                    self.assertEqual(cut, [])

    def test_three_hundred_trees_of_a_stop_open_on_the_first_and_all_come_at_a_tap(self):
        page = self.device(browser.PHONE, "metric")
        self.open(page, "/today")
        rows = page.locator("li.row")
        before = rows.count()
        self.assertLess(before, 60)
        self.assertGreater(before, 30)
        page.get_by_role("button", name="more at this stop").click()
        expect(rows).to_have_count(MANY)
        rows.last.scroll_into_view_if_needed()
        expect(rows.last.get_by_text(f"W-{MANY - 1:03d}")).to_be_visible()
        self.fits(page)

    def test_figures_of_four_digits_stand_apart_on_the_soil_line(self):
        page = self.device(browser.WIDE, "metric")
        self.open(page, f"/trees/{self.tree}/water")
        boxes = page.evaluate(
            "() => [...document.querySelectorAll('.soilline .figures text')].map(e => {"
            "const b = e.getBoundingClientRect(); return [b.left, b.right, e.textContent.trim()] })"
        )
        self.assertGreater(len(boxes), 0, "something is planned")
        self.assertTrue(any(len(words) >= 3 for *_, words in boxes), json.dumps(boxes))
        for (_, right, _), (left, _, _) in pairwise(boxes):
            self.assertLessEqual(right, left)


if __name__ == "__main__":
    unittest.main()
