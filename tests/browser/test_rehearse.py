"""A lead rehearses a season, takes up a routine, sees it on Today and on the tree, and goes back to the balance."""

import unittest

from june_shade.launch.browser import PHONE, WIDE
from tests.browser.harness import BrowserTest, expect, scenario

TREE = scenario.name_id("tree", "HL", 4)


class Rehearsing(BrowserTest):
    def test_a_routine_is_rehearsed_taken_up_and_given_up(self):
        page = self.device(WIDE)
        self.open(page, "/today")
        page.keyboard.press("g")
        page.keyboard.press("h")
        page.get_by_role("button", name="Another tree").click()
        page.get_by_label("Tag, place, species or stop").fill("HL-04")
        page.get_by_role("button", name="HL-04").click()
        page.get_by_role("heading", name="HL-04").wait_for()
        page.get_by_text("Last 31 days").click()
        page.get_by_text("Jun 14, 2026 to Jul 14, 2026").wait_for()
        page.get_by_role("button", name="Same amount").click()
        row = page.get_by_role("listitem").filter(has=page.get_by_role("button", name="Same amount"))
        row.get_by_text("Change its figures").click()
        row.get_by_label("Days from one to the next").fill("1")
        row.get_by_role("button", name="Rehearse it").click()
        expect(row).to_contain_text("every day")
        self.accessible(page)
        row.get_by_role("button", name="Use this routine").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_text("Hobb Lane School: 23 trees").wait_for()
        self.accessible(page)
        dialog.get_by_role("button", name="From today").click()
        page.get_by_text("from today for 1 tree").wait_for()
        expect(row).to_contain_text("In use since")
        self.open(page, f"/trees/{TREE}/water")
        page.get_by_text("By its routine: Same amount").wait_for()
        page.get_by_text("The balance would water first on").wait_for()
        self.accessible(page)
        page.get_by_role("button", name="Go by the balance again").click()
        expect(page.get_by_text("By its routine")).to_have_count(0)

    def test_on_a_phone_the_answer_is_in_sight_and_a_year_can_be_gone_through(self):
        page = self.device(PHONE, units="metric")
        self.open(page, f"/rehearse?tree={TREE}&season=2025")
        page.get_by_text("did not stand here then").wait_for(timeout=30_000)
        expect(page.locator(".would")).to_be_in_viewport()
        self.fits(page)
        self.accessible(page)


if __name__ == "__main__":
    unittest.main()
