"""The book in the browser: looked for by an address, put right and taken back in place, a month printed."""

import re
import unittest

from june_shade.launch.browser import PHONE, WIDE, settle
from tests.browser.harness import BrowserTest, expect, scenario

TREE = scenario.name_id("tree", "HL", 4)
SITE = scenario.name_id("site", "HL")


class Book(BrowserTest):
    def test_a_lead_finds_puts_right_and_takes_back_in_place(self):
        page = self.device(WIDE)
        self.open(page, "/today")
        page.keyboard.press("g")
        page.keyboard.press("b")
        page.get_by_label("What", exact=True).select_option("felt")
        page.get_by_label("Tag, place or species").fill("RT-22")
        expect(page).to_have_url(re.compile("what=felt.*q=RT-22"))
        reading = page.get_by_role("listitem").filter(has_text="ball dry").first
        expect(reading).to_contain_text("RT-22")
        self.accessible(page)
        before = int(page.get_by_text(re.compile(r"^\d+ entr")).inner_text().split()[0])
        reading.get_by_role("button", name="Undo", exact=False).click()
        page.get_by_text("Taken back").first.wait_for()
        expect(page.get_by_text(f"{before - 1} entr", exact=False)).to_be_visible()
        page.get_by_label("Also what was taken back").check()
        expect(page.locator("li.gone")).to_have_count(1)
        page.reload()
        settle(page)
        expect(page.get_by_label("What", exact=True)).to_have_value("felt")
        expect(page.locator("li.gone")).to_have_count(1)

    def test_water_is_put_right_in_a_trees_history_on_the_phone(self):
        page = self.device(PHONE, units="metric")
        self.open(page, f"/trees/{TREE}/water")
        page.get_by_role("link", name="History").click()
        row = page.get_by_role("listitem").first
        row.get_by_role("button", name="Change", exact=False).click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_role("button", name="Less", exact=False).first.click()
        dialog.get_by_role("button", name=re.compile(r"^Log \d")).click()
        page.get_by_text("Put right").wait_for()
        self.fits(page)
        self.accessible(page)

    def test_numbers_and_the_months_page_that_prints_on_a_sheet(self):
        page = self.device(WIDE)
        self.open(page, f"/book/numbers?site={SITE}")
        page.get_by_role("heading", name="By who planted").wait_for()
        page.get_by_role("link", name="Month", exact=True).click()
        page.get_by_role("heading", name="Hobb Lane School, July 2026").wait_for()
        self.accessible(page)
        self.assertEqual(self.prints(page, "Letter"), 1)
        page.get_by_role("button", name="Month before").click()
        page.get_by_role("heading", name="Hobb Lane School, June 2026").wait_for()
        expect(page).to_have_url(re.compile("month=2026-06"))


if __name__ == "__main__":
    unittest.main()
