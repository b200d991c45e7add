"""A hand in the soil: two taps from Today and from the tree; the page answers at once, the log keeps it."""

import re
import unittest

from june_shade.launch import browser
from tests.browser.harness import BrowserTest, expect, scenario

OAK = scenario.name_id("tree", "HL", 3)


class Feeling(BrowserTest):
    def test_two_taps_at_the_tree_and_the_page_answers(self):
        for size, units in ((browser.PHONE, "us"), (browser.WIDE, "metric")):
            page = self.device(size, units)
            self.open(page, f"/trees/{OAK}")
            expect(
                page.get_by_text(re.compile("Nobody has felt it for .* days; the plan may be off by"))
            ).to_be_visible()
            page.get_by_role("button", name="Feel it").click()
            dialog = page.get_by_role("dialog")
            dialog.get_by_role("group", name="In the ball").get_by_role("button", name="dry", exact=True).click()
            expect(dialog.get_by_text(re.compile("The plan took it for .* dry, now for"))).to_be_visible()
            expect(dialog.get_by_text("One finger counts little against a plan this sure", exact=False)).to_be_visible()
            dialog.get_by_role("group", name="Beside it").get_by_role("button", name="moist", exact=True).click()
            expect(dialog.get_by_role("group", name="Beside it").get_by_role("button", name="moist")).to_be_disabled()
            self.accessible(page)
            self.fits(page)
            dialog.get_by_role("button", name="Close").last.click()
            expect(page.get_by_text("Felt today; the plan may still be off by")).to_be_visible()
            expect(page.locator("circle.felt")).to_have_count(2)
            expect(page.get_by_text("ball dry (finger)").first).to_be_visible()
            wrong = page.get_by_role("listitem").filter(has_text="ball dry (finger)")
            wrong.get_by_role("button", name="Change").click()
            expect(dialog.get_by_role("group", name="Beside it")).to_have_count(0)
            expect(dialog.get_by_role("button", name="dry", exact=True)).to_have_attribute("aria-pressed", "true")
            dialog.get_by_label("Felt with").select_option("trowel")
            dialog.get_by_role("button", name="drying").click()
            expect(dialog.get_by_text(re.compile("The plan took it for .* dry, "))).to_be_visible()
            dialog.get_by_role("button", name="Close").last.click()
            expect(page.get_by_text("ball drying (trowel)").first).to_be_visible()
            expect(page.locator("circle.felt")).to_have_count(2)
            for left in (1, 0):
                row = page.get_by_role("listitem").filter(has_text=re.compile(r"\((finger|trowel)\)"))
                row = row.filter(has_not_text="undone").first
                row.get_by_role("button", name="Undo").click()
                expect(page.locator("circle.felt")).to_have_count(left)

    def test_two_taps_from_today_and_the_round_says_what_comes_of_it(self):
        page = self.device(browser.PHONE)
        self.open(page, "/today")
        page.get_by_role("button", name="Start the round").click()
        page.get_by_role("button", name="Feel it").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("Felt with").select_option("trowel")
        dialog.get_by_role("group", name="In the ball").get_by_role("button", name="wet", exact=True).click()
        expect(dialog.get_by_text(re.compile("HL-01: the plan now"))).to_be_visible()
        dialog.get_by_role("button", name="Close").last.click()
        expect(page.get_by_text("ball wet").first).to_be_visible()


if __name__ == "__main__":
    unittest.main()
