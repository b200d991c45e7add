"""Soil tests as a crew takes them: read, told what it means, shown what it changes, used, taken out again."""

import re
import unittest

from june_shade.launch import browser
from tests.browser.harness import BrowserTest, expect, scenario

SITE = scenario.name_id("site", "SO")


class SoilFlow(BrowserTest):
    def test_a_drain_hole_from_a_slip_to_the_plan_and_out_again(self):
        page = self.device()
        self.open(page, f"/sites/{SITE}")
        page.get_by_role("link", name="Take it: Drain hole").click()
        page.get_by_label("Water depth at the start").fill("10")
        page.get_by_label("Water depth at the end").fill("12")
        page.get_by_label("Time between").fill("60")
        expect(page.get_by_text("the last depth can't be over the first")).to_be_visible()
        page.get_by_label("Water depth at the end").fill("9.95")
        expect(page.get_by_text("Don't plant here without drainage")).to_be_visible()
        expect(page.get_by_text("In the coming 14 days")).to_be_visible()
        self.provoked(422)
        page.get_by_role("button", name="Use it for the plans").click()
        expect(page).to_have_url(re.compile(f"/sites/{SITE}$"))
        drains = page.locator("dd").filter(has_text="Drain hole, Jul 15, 2026")
        expect(drains.first).to_contain_text("5 %")
        page.get_by_role("button", name="Take out: Drain hole, Jul 15, 2026").click()
        expect(page.get_by_text("Taken out; it stays in this list.")).to_be_visible()
        expect(page.get_by_text("taken out", exact=True)).to_be_visible()

    def test_a_jar_waits_for_its_last_mark_over_a_reload(self):
        page = self.device(browser.PHONE, units="metric")
        self.open(page, f"/sites/{SITE}/soil/jar")
        page.get_by_role("button", name="The jar is set down now").click()
        expect(page.get_by_text("Mark the clay at")).to_be_visible()
        page.get_by_label("Top of the sand").fill("3")
        page.reload()
        browser.settle(page)
        expect(page.get_by_label("Top of the sand")).to_have_value("3")
        expect(page.get_by_text("Mark the clay at")).to_be_visible()
        page.get_by_label("Top of the silt").fill("2")
        page.get_by_label("Top of the clay").fill("9")
        expect(page.get_by_text("layers rise").first).to_be_visible()
        self.provoked(422)
        page.get_by_label("Top of the silt").fill("6")
        expect(page.get_by_text("33 % sand, 33 % silt, 33 % clay")).to_be_visible()
        expect(page.get_by_text("it may as well be loam")).to_be_visible()

    def test_the_hand_is_picked_by_picture_and_keyboard(self):
        page = self.device()
        self.open(page, f"/sites/{SITE}/soil/crumble")
        page.get_by_role("radio", name="Crumbles").focus()
        page.keyboard.press("ArrowRight")
        expect(page.get_by_text("Wait for the end of a sunny or windy day")).to_be_visible()
        expect(page.get_by_role("button", name="Use it for the plans")).to_have_count(0)
        page.get_by_role("button", name="Keep it only").click()
        expect(page.get_by_text("kept only").first).to_be_visible()


if __name__ == "__main__":
    unittest.main()
