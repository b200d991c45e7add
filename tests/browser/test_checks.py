"""A check-up on the phone, from the first question to what is to be done, kept and taken back."""

import re
import unittest

from june_shade.launch import browser
from tests.browser.harness import BrowserTest, expect, scenario

OAK = scenario.name_id("tree", "HL", 6)


class CheckUp(BrowserTest):
    def test_a_wet_ball_stops_the_water_and_the_page_keeps_it(self):
        page = self.device(browser.PHONE)
        self.open(page, f"/trees/{OAK}/checks")
        page.get_by_role("button", name="Check this tree").click()
        answers = page.locator(".answers")
        expect(page.get_by_role("heading", name="How does the ball feel?")).to_be_visible()
        self.accessible(page)
        self.fits(page)
        answers.get_by_role("button", name="Wet").click()
        expect(page.get_by_text("So far: stop watering")).to_be_visible()
        for _ in range(8):  # skip anything: it asks the next, and ends by itself
            if page.get_by_role("button", name="Keep the check-up").count():
                break
            heading = page.locator(".check h2").inner_text()
            page.get_by_role("button", name="Skip").click()
            expect(page.get_by_role("heading", name=heading, exact=True)).to_have_count(0)
        expect(page.get_by_role("heading", name="Stop watering")).to_be_visible()
        expect(page.get_by_label(re.compile("Hold its water until the next look"))).to_be_checked()
        self.accessible(page)
        self.fits(page)
        page.get_by_role("button", name="Back").click()
        expect(page.get_by_role("heading", name="How does the ball feel?")).to_be_visible()
        answers.get_by_role("button", name="Wet").click()
        page.get_by_role("button", name="Done looking: what to do").click()
        page.get_by_role("button", name="Keep the check-up").click()
        expect(page.get_by_text("Check-up kept.")).to_be_visible()
        expect(page.get_by_text(re.compile("Water is on hold until"))).to_be_visible()
        expect(page.get_by_text("ball wet")).to_be_visible()
        self.accessible(page)
        page.get_by_role("button", name=re.compile("Take back the check-up of")).click()
        expect(page.get_by_text("Check-up taken back.")).to_be_visible()
        expect(page.get_by_text(re.compile("Water is on hold until"))).to_have_count(0)

    def test_a_row_is_felt_on_one_walk(self):
        page = self.device(browser.PHONE)
        self.open(page, f"/walk?site={scenario.name_id('site', 'HL')}&stop=Bus%20loop")
        for tag in ("HL-12", "HL-13"):
            expect(page.get_by_role("heading", name=tag)).to_be_visible()
            for where, felt in (("In the ball", "moist"), ("Beside it", "drying")):
                page.get_by_role("group", name=where).get_by_role("button", name=felt, exact=True).click()
        expect(page.get_by_role("heading", name="HL-14")).to_be_visible()
        page.get_by_role("button", name="Next tree").click()
        expect(page.get_by_role("heading", name="HL-15")).to_be_visible()

    def test_today_asks_for_looks_where_the_plan_may_be_wrong(self):
        page = self.device(browser.PHONE)
        self.open(page, "/today")
        asked = page.get_by_role("region").or_(page.locator("section")).filter(has_text="Look at these today").last
        asked.get_by_role("link", name=re.compile("^Check ")).first.click()
        expect(page.get_by_role("button", name="Check this tree")).to_be_visible()


if __name__ == "__main__":
    unittest.main()
