"""A tree is handed over on the phone, drawn where it is watered from then on, and taken back."""

import re
import unittest

import httpx

from june_shade.launch.browser import PHONE, WIDE
from tests.browser.harness import BrowserTest, expect, scenario
from tests.support import new_id, tree_body

SITE = scenario.name_id("site", "TS")
PLANTED = "2019-04-02"


class HandedOver(BrowserTest):
    def setUp(self):
        super().setUp()
        self.tree = new_id()
        with httpx.Client(base_url=self.address, timeout=60) as client:
            plant = next(p["id"] for p in client.get("/api/plants").json() if p["botanical"] == "Quercus macrocarpa")
            body = tree_body(SITE, plant, tag=f"OLD-{self.tree[:4]}", planted_on=PLANTED)
            client.put(f"/api/trees/{self.tree}", json=body).raise_for_status()

    def test_an_old_tree_goes_to_the_deep_routine_and_comes_back(self):
        page = self.device(PHONE)
        self.open(page, f"/trees/{self.tree}/checks")
        page.get_by_text("without proofs").wait_for()
        page.get_by_role("button", name="Hand it over").click()
        page.get_by_text("Handed over").first.wait_for()
        ring = page.get_by_role("img", name="From above")
        ring.scroll_into_view_if_needed()
        expect(ring).to_be_visible()
        self.fits(page)
        self.accessible(page)
        edges = re.search(r"water (from .+ to .+ from the trunk);", ring.get_attribute("aria-label"))[1]
        self.open(page, f"/trees/{self.tree}/water")
        expect(page.get_by_text("On the ring")).to_contain_text(edges.removeprefix("from "))
        self.open(page, f"/trees/{self.tree}/checks")
        page.get_by_role("button", name="Back into the round").click()
        expect(page.get_by_role("button", name="Hand it over")).to_be_visible()

    def test_a_young_one_is_shown_what_it_lacks(self):
        page = self.device(WIDE, units="metric")
        self.open(page, f"/trees/{scenario.name_id('tree', 'TS', 10)}/checks")
        section = page.locator("section.own")
        expect(section.get_by_role("listitem")).to_have_count(5)
        expect(section.get_by_role("button", name="Hand it over")).to_have_count(0)
        section.get_by_role("button", name="Firm under a push", exact=False).click()
        page.get_by_text("Kept: Firm under a push").wait_for()
        self.accessible(page)


if __name__ == "__main__":
    unittest.main()
