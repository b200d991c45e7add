"""A phone's place, taken once: on a tree, and to find the nearest of the round."""

import re
import unittest

from june_shade.launch.browser import PHONE, WIDE
from tests.browser.harness import BrowserTest, expect

SITE = {"latitude": 40.2, "longitude": -104.7, "accuracy": 5}


class Here(BrowserTest):
    def at(self, page, **place) -> None:
        page.context.grant_permissions(["geolocation"], origin=self.address)
        page.context.set_geolocation(SITE | place)
        self.addCleanup(page.context.clear_permissions)

    def tree(self, page, tag: str) -> None:
        self.open(page, f"/trees?q={tag}")
        page.get_by_role("link", name=tag).click()
        page.wait_for_url(re.compile("/water$"))

    def test_two_trees_get_their_places_and_the_nearer_one_comes_in_hand(self):
        page = self.device(PHONE)
        self.open(page, "/today")
        page.get_by_role("button", name="Nearest tree").click()
        page.get_by_role("alert").filter(has_text=re.compile("has its place set|may not tell|does not find")).wait_for()
        rows = page.locator(".stops li li, .stops .row").all_inner_texts()
        tags = list(dict.fromkeys(re.findall(r"\b[A-Z]{2}-\d{2}\b", " ".join(rows))))
        near, far = tags[1], tags[2]
        for tag, north in ((near, 40.2001), (far, 40.2009)):
            self.tree(page, tag)
            self.at(page, latitude=north)
            page.get_by_role("button", name=re.compile("set its place")).click()
            page.get_by_text("Its place is set.").wait_for()
            page.get_by_text(f"{north:.5f}, -104.70000").wait_for()
        self.accessible(page)
        self.fits(page)
        self.at(page)
        self.open(page, "/today")
        page.get_by_role("button", name="Nearest tree").click()
        told = page.get_by_role("status").filter(has_text=f"{near}, ")
        expect(told).to_contain_text(re.compile(r": 36\sft away"))  # 0.0001 degrees of latitude are 11.1 m
        page.get_by_role("heading", name=re.compile(near)).first.wait_for()
        self.fits(page)

    def test_a_phone_that_is_vague_or_silent_says_why(self):
        page = self.device(WIDE)
        self.tree(page, "HL-05")
        self.at(page, accuracy=90)
        page.get_by_role("button", name=re.compile("set its place")).click()
        page.get_by_role("alert").filter(has_text="only to within 295.3").wait_for()
        denied = "(_, no) => no({ code: 1, PERMISSION_DENIED: 1 })"
        page.add_init_script(f"navigator.geolocation.getCurrentPosition = {denied}")
        self.tree(page, "HL-05")
        page.get_by_role("button", name=re.compile("set its place")).click()
        page.get_by_role("alert").filter(has_text="may not tell where it is").wait_for()
        page.get_by_text("not set").wait_for()
        self.provoked(422)


if __name__ == "__main__":
    unittest.main()
