"""The ground plan on screen: trees picked and watered, a row placed and taken back, GeoJSON turned, a picture laid."""

import io
import json
import unittest
from itertools import combinations

from PIL import Image

from june_shade.demo import scenario
from june_shade.launch import browser
from tests.browser.harness import BrowserTest, expect

SITE = scenario.name_id("site", "SO")
PAGE = f"/sites/{SITE}/ground"
SETTLES_MS = 400
"""A map hears of a window's new size within this."""


class Ground(BrowserTest):
    def at(self, page, x: float, y: float) -> None:
        """Tap the map at a share of its width and height."""
        box = page.locator(".ground-map .frame").bounding_box()
        page.mouse.click(box["x"] + x * box["width"], box["y"] + y * box["height"])

    def opened(self, size=browser.WIDE, **more):
        page = self.device(size, **more)
        self.open(page, PAGE)
        expect(page.locator(".ground-map .label span").first).to_be_visible()
        return page

    def test_trees_are_picked_from_map_and_list_and_watered_as_planned(self):
        for size in (browser.WIDE, browser.PHONE):
            with self.subTest(size=size):
                page = self.opened(size)
                self.accessible(page)
                self.fits(page)
                stop = page.locator("details.group", has_text="North wall")
                stop.get_by_role("button", name="Look at it").click()
                tree = page.locator(".ground-map .tree").first
                expect(tree).to_be_visible()
                tree.click()
                expect(page.get_by_text("1 tree picked")).to_be_visible()
                page.get_by_role("button", name="Pick none").first.click()
                page.get_by_role("button", name="due today").click()
                water = page.get_by_role("button", name="Watered as planned")
                expect(water).to_contain_text("gal")
                if size == browser.PHONE:
                    water.click()
                    expect(page.get_by_text("Logged:")).to_be_visible()
                    expect(page.get_by_role("button", name="due today")).to_have_count(0)

    def test_a_row_is_placed_by_its_ends_and_put_back_and_a_hydrant_marked(self):
        for size in (browser.WIDE, browser.PHONE):
            with self.subTest(size=size):
                page = self.opened(size)
                stop = page.locator("details.group", has_text="Lantern Street")
                expect(stop.get_by_text("drawn in a row from their stop")).to_be_visible()
                stop.get_by_role("button", name="Place the row").click()
                expect(page.get_by_text("the first, stands")).to_be_visible()
                page.locator(".ground-map").scroll_into_view_if_needed()
                self.at(page, 0.3, 0.3)
                expect(page.get_by_text("the last, stands")).to_be_visible()
                self.at(page, 0.6, 0.7)
                expect(page.get_by_text("Placed 8 trees.")).to_be_visible()
                expect(stop.get_by_text("drawn in a row from their stop")).to_have_count(0)
                page.get_by_role("button", name="Put them back").click()
                expect(stop.get_by_text("drawn in a row from their stop")).to_be_visible()
                page.get_by_role("button", name="Done").click()
        page.get_by_text("Hydrants, valves, paving").click()
        page.get_by_label("Name").fill("North gate")
        page.get_by_role("button", name="Mark it on the plan").click()
        page.locator(".ground-map").scroll_into_view_if_needed()
        self.at(page, 0.5, 0.5)
        expect(page.get_by_text("Hydrant: North gate")).to_be_visible()
        self.accessible(page)
        page.get_by_role("button", name="Take away: North gate").click()
        expect(page.get_by_text("Hydrant: North gate")).to_have_count(0)

    def test_a_wall_is_shown_by_keys_and_a_bed_by_taps(self):
        for size, kind in ((browser.WIDE, "Wall"), (browser.PHONE, "Bed")):
            with self.subTest(size=size):
                page = self.opened(size)
                page.get_by_text("Hydrants, valves, paving").click()
                page.get_by_label("What").select_option(label=kind)
                page.get_by_label("Name").fill("By hand")
                page.get_by_role("button", name="Mark it on the plan").click()
                finish = page.get_by_role("button", name="Finish it")
                expect(finish).to_be_disabled()
                if kind == "Wall":
                    expect(page.locator(".ground-map .frame")).to_be_focused()
                    page.keyboard.press("Enter")
                    for _ in range(6):
                        page.keyboard.press("ArrowRight")
                    page.wait_for_timeout(SETTLES_MS)
                    page.keyboard.press("Enter")
                else:
                    for x, y in ((0.3, 0.3), (0.6, 0.3), (0.6, 0.7), (0.9, 0.9)):
                        self.at(page, x, y)
                    page.get_by_role("button", name="Take the last spot back").click()
                expect(page.locator(".ground-map .label.pin")).to_have_count(2 if kind == "Wall" else 3)
                self.accessible(page)
                self.fits(page)
                finish.click()
                expect(page.get_by_text(f"{kind}: By hand")).to_be_visible()
                page.get_by_role("button", name="Take away: By hand").click()
                expect(page.get_by_text(f"{kind}: By hand")).to_have_count(0)

    def test_names_of_stops_lie_clear_of_the_buttons_and_of_one_another(self):
        for site in scenario.SITES:
            with self.subTest(site=site.name):
                page = self.device(browser.PHONE, locale="es-ES")
                self.open(page, f"/sites/{scenario.name_id('site', site.prefix)}/ground")
                expect(page.locator(".ground-map .label span").first).to_be_visible()
                boxes = page.evaluate(
                    """() => [...document.querySelectorAll('.ground-map .label.stop span, .leaflet-control-zoom')]
                    .map(e => { const b = e.getBoundingClientRect(); return [b.left, b.top, b.right, b.bottom] })"""
                )
                over = [
                    (a, b) for a, b in combinations(boxes, 2)
                    if a[0] < b[2] - 1 and b[0] < a[2] - 1 and a[1] < b[3] - 1 and b[1] < a[3] - 1
                ]  # fmt: skip
                self.assertEqual(over, [])

    def test_it_is_left_right_after_its_window_changed_and_complains_of_nothing(self):
        page = self.device()
        self.open(page, "/sites")
        goes = (
            "path => { history.pushState({}, '', path); dispatchEvent(new PopStateEvent('popstate', { state: {} })) }"
        )
        page.evaluate(goes, PAGE)
        expect(page.locator(".ground-map .label span").first).to_be_visible()
        page.set_viewport_size({"width": 1000, "height": 700})
        page.evaluate(goes, "/sites")
        expect(page.locator(".ground-map")).to_have_count(0)
        page.wait_for_timeout(SETTLES_MS)

    def test_a_file_with_its_axes_swapped_is_offered_to_be_turned_then_brought_in(self):
        page = self.opened()
        page.get_by_text("GeoJSON, in and out").click()
        point = {"type": "Point", "coordinates": [40.2189, -104.6901]}
        brought = {"type": "FeatureCollection", "features": [
            {"type": "Feature", "properties": {"tag": "SO-03"}, "geometry": point},
        ]}  # fmt: skip
        page.get_by_label("Bring a GeoJSON file in").set_input_files(
            {"name": "plan.geojson", "mimeType": "application/json", "buffer": json.dumps(brought).encode()}
        )
        expect(page.get_by_text("other way round")).to_be_visible()
        page.get_by_role("button", name="Turn them").click()
        expect(page.get_by_text("1 tree is placed: SO-03")).to_be_visible()
        page.get_by_role("button", name="Bring it in").click()
        expect(page.get_by_text("Brought in.")).to_be_visible()

    def test_the_client_s_plan_is_laid_under_it_by_two_points(self):
        page = self.opened()
        page.get_by_text("Client's plan under it").click()
        out = io.BytesIO()
        Image.new("RGB", (600, 400), "beige").save(out, "PNG")
        page.get_by_label("Bring a picture").set_input_files(
            {"name": "plan.png", "mimeType": "image/png", "buffer": out.getvalue()}
        )
        sheet = page.get_by_alt_text("The client's plan")
        for there, here in (((0.1, 0.8), (0.2, 0.8)), ((0.9, 0.8), (0.8, 0.75))):
            expect(page.get_by_text("on the picture")).to_be_visible()
            sheet.scroll_into_view_if_needed()
            box = sheet.bounding_box()
            page.mouse.click(box["x"] + there[0] * box["width"], box["y"] + there[1] * box["height"])
            expect(page.get_by_text("Now tap")).to_be_visible()
            page.locator(".ground-map").scroll_into_view_if_needed()
            self.at(page, *here)
        page.get_by_role("button", name="Lay it so").click()
        expect(page.get_by_text("It lies under the plan.")).to_be_visible()
        expect(page.locator(".ground-map svg.under image")).to_have_count(1)
        self.accessible(page)


if __name__ == "__main__":
    unittest.main()
