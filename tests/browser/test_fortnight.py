"""A lead plans two weeks: a visit is moved by keys and by thumb, the day changes, an order and a crew are entered."""

import re
import unittest

from june_shade.launch.browser import PHONE, WIDE
from tests.browser.harness import BrowserTest, expect, scenario

PLANNED = re.compile("^Planned ")


class Fortnight(BrowserTest):
    def plan(self, page) -> None:
        """Have the plan made, as the button does."""
        self.open(page, "/ahead/water")
        page.get_by_role("button", name=re.compile("^Plan again now")).click()
        expect(page.get_by_role("button", name="Planning …")).to_be_visible()
        page.get_by_text(PLANNED).wait_for(timeout=60_000)
        expect(page.get_by_role("button", name="Plan again now")).to_be_visible(timeout=60_000)

    def visit(self, page):
        """The first cell of a coming day that has a visit."""
        return page.get_by_role("gridcell", name=re.compile(r"^HL-\d+, (Thu|Fri|Sat).*visit, ")).first

    def test_a_visit_is_moved_by_keys_and_stays_where_it_was_put(self):
        page = self.device(WIDE)
        self.plan(page)
        cell = self.visit(page)
        name = cell.get_attribute("aria-label") or ""
        tag = name.split(",")[0]
        cell.click()
        page.keyboard.press("Enter")
        page.keyboard.press("ArrowRight")
        panel = page.locator(".panel")
        expect(panel.get_by_role("button", name=re.compile("^Keep "))).to_be_enabled()
        expect(panel).to_contain_text(re.compile("as before|before:"))
        page.keyboard.press("Escape")
        expect(panel.get_by_role("button", name=re.compile("^Keep "))).to_have_count(0)
        page.keyboard.press("Enter")
        page.keyboard.press("ArrowRight")
        expect(panel.get_by_role("button", name=re.compile("^Keep "))).to_be_enabled()
        page.keyboard.press("Enter")
        page.get_by_role("status").get_by_text(f"{tag} is pinned to").wait_for()
        expect(page.get_by_role("gridcell", name=re.compile(f"^{tag},.*visit, .*pinned")).first).to_be_visible()
        self.fits(page)
        self.accessible(page)
        self.open(page, f"/trees/{scenario.name_id('tree', 'HL', int(tag[3:]))}/water")
        self.accessible(page)

    def test_on_a_phone_a_week_is_seen_and_a_visit_moved_by_buttons(self):
        page = self.device(PHONE, units="metric")
        self.plan(page)
        expect(page.get_by_role("columnheader")).to_have_count(8)
        heads = page.locator(".days .day").evaluate_all("all => all.map(one => one.scrollWidth <= one.clientWidth)")
        self.assertEqual(heads, 7 * [True], "days do not run into each other")
        self.visit(page).click()
        page.get_by_role("button", name="A day later").click()
        expect(page.get_by_role("button", name=re.compile("^Keep "))).to_be_enabled()
        page.get_by_role("button", name="Put back").click()
        page.get_by_role("button", name="No visit on this day").click()
        page.get_by_text(re.compile("^No visit to HL-")).wait_for()
        page.get_by_role("button", name="Next week").click()
        self.fits(page)
        self.accessible(page)

    def test_the_day_changed_and_the_rest_is_planned_again(self):
        page = self.device(PHONE)
        self.plan(page)
        self.open(page, "/today")
        expect(page.get_by_role("heading", name=re.compile("trees wait"))).to_be_visible()
        page.get_by_role("button", name="The day changed").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("Ends sooner, at").fill("07:00")
        self.accessible(page)
        dialog.get_by_role("button", name="Plan the rest again").click()
        expect(page.get_by_role("dialog")).to_have_count(0, timeout=60_000)
        page.get_by_label("Round of").select_option("North crew")
        expect(page.get_by_role("heading", name="No watering left for today")).to_be_visible()
        expect(page.locator("main")).not_to_contain_text("Every tree has enough")
        self.fits(page)

    def test_orders_and_who_goes_without(self):
        page = self.device(WIDE)
        self.plan(page)
        self.open(page, "/ahead/drought")
        page.get_by_text("Only on Wednesday and Saturday.").wait_for()
        worst = page.get_by_role("region", name="go without").get_by_role("listitem")
        self.assertEqual(worst.count(), 12, "the worst are in sight first")
        page.get_by_role("button", name=re.compile(r"^Show \d+ more$")).click()
        self.assertGreater(worst.count(), 20)
        page.get_by_role("link", name="Enter an order").click()
        page.get_by_label("Name", exact=True).fill("Supplier's notice")
        page.get_by_label("Days", exact=True).select_option("certain weekdays")
        page.get_by_label("Sun", exact=True).check()
        page.get_by_role("button", name="Add hours").click()
        page.get_by_role("button", name="Add an exemption").click()
        self.accessible(page)
        page.get_by_role("button", name="Save").click()
        page.get_by_role("heading", name="Supplier's notice").wait_for()
        page.get_by_text("Only on Sunday.").wait_for()
        self.fits(page)
        self.accessible(page)
        notice = page.locator("li").filter(has=page.get_by_role("heading", name="Supplier's notice"))
        notice.get_by_role("button", name="Take back").click()
        expect(page.get_by_role("heading", name="Supplier's notice")).to_have_count(0)

    def test_a_crew_is_entered_and_changed(self):
        page = self.device(PHONE)
        self.open(page, "/crews")
        page.get_by_role("link", name="Add a crew").click()
        page.get_by_label("Name", exact=True).fill("South crew")
        page.get_by_label("People").fill("0")
        page.get_by_role("button", name="Save").click()
        expect(page.locator(".field.bad")).to_contain_text("People")
        self.provoked(422)
        page.get_by_label("People").fill("4")
        page.get_by_role("button", name="Save").click()
        page.get_by_role("heading", name="South crew").wait_for()
        expect(page.get_by_text("4 people, 8 h")).to_be_visible()
        self.fits(page)
        self.accessible(page)


class Crews(BrowserTest):
    def test_a_site_is_lent_for_a_day_and_a_crew_closed_and_taken_back(self):
        page = self.device(PHONE)
        self.open(page, "/crews")
        page.get_by_label("Site", exact=True).select_option(label="Old Quarry rail trail")
        page.get_by_label("To", exact=True).select_option(label="North crew")
        page.get_by_role("button", name="Lend it").click()
        expect(page.get_by_role("status")).to_contain_text("Old Quarry rail trail is lent to North crew")
        page.get_by_role("button", name="Take back").click()
        expect(page.get_by_role("button", name="Take back")).to_have_count(0)
        page.get_by_role("listitem").filter(has_text="North crew").get_by_role("button", name="Close it").click()
        expect(page.get_by_role("heading", name="North crew")).to_have_count(0)
        page.get_by_role("button", name="Take it back").click()
        expect(page.get_by_role("heading", name="North crew")).to_be_visible()
        self.fits(page)
        self.accessible(page)


class Saving(BrowserTest):
    def test_what_saves_most_is_put_on_the_list_and_stands_among_the_work(self):
        page = self.device(PHONE)
        self.open(page, "/ahead/savings")
        offer = page.get_by_role("listitem").filter(has_text="Put slow-release bags on").first
        offer.get_by_text("Tree by tree").click()
        button = offer.get_by_role("button", name=re.compile("^Put it on the list of ")).first
        tag = (button.get_attribute("aria-label") or "").rsplit(" ", 1)[1]
        button.click()
        page.get_by_role("status").get_by_text("Put slow-release bags on: on the list of 1 tree.").wait_for()
        page.get_by_role("link", name="See the work ahead").click()
        expect(page.get_by_text("Put a slow-release bag on")).to_be_visible()
        expect(page.locator("main")).to_contain_text(tag)
        self.fits(page)

    def test_the_sheet_prints_on_one_page(self):
        page = self.device(WIDE)
        self.open(page, "/book/sheet")
        page.get_by_label("Site").select_option(label="Hobb Lane School")
        expect(page.get_by_role("heading", level=1)).to_contain_text("Hobb Lane School")
        page.get_by_label("From").fill("2026-07-01")
        page.get_by_label("From").press("Tab")
        expect(page.get_by_role("heading", level=1)).to_contain_text("Jul 1, 2026")
        self.accessible(page)
        self.assertEqual(self.prints(page, "Letter"), 1)

    def test_when_to_plant_stands_with_the_batch(self):
        page = self.device(PHONE)
        self.open(page, f"/plantings/{scenario.name_id('planting', 'HL', 'playground')}")
        when = page.locator(".when")
        expect(when.get_by_role("cell", name="hard frost").first).to_be_visible(timeout=30_000)
        expect(when).to_contain_text("less water to the end of its second summer")
        self.fits(page)
        self.accessible(page)


if __name__ == "__main__":
    unittest.main()
