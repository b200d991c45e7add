"""What plans rest on is said on screen: stops, a crew's minutes by its log, slack, modes within litres, batches."""

import re
import unittest

from june_shade.launch.browser import PHONE, WIDE
from tests.browser.harness import BrowserTest, expect, scenario

SITE = scenario.name_id("site", "HL")


class Stops(BrowserTest):
    def test_a_stop_s_minutes_are_typed_refused_by_their_field_and_kept(self):
        page = self.device(PHONE)
        self.open(page, f"/sites/{SITE}")
        page.get_by_role("button", name="Edit Bus loop").click()
        form = page.get_by_role("group", name="Bus loop")
        self.accessible(page)
        form.get_by_label("Minutes to set up").fill("soon")
        form.get_by_label("Minutes from the stop before").fill("7")
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_role("alert")).to_be_visible()
        expect(form.get_by_label("Minutes to set up")).to_have_value("soon")
        expect(form.get_by_label("Minutes to set up")).to_be_focused()
        self.provoked(422)
        form.get_by_label("Minutes to set up").fill("4")
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_text("set-up 4 min, way 7 min")).to_be_visible()
        expect(page.get_by_role("status").get_by_text("Bus loop is as you typed it")).to_be_visible()
        self.fits(page)

    def test_a_crew_goes_by_its_log_with_one_tap(self):
        page = self.device(WIDE)
        self.open(page, "/crews")
        page.get_by_role("link", name=re.compile("Edit|North crew")).first.click()
        expect(page.get_by_text(re.compile(r"The log says \d+ min, by the last 20")).first).to_be_visible()
        page.get_by_role("button", name="Go by the log").click()
        expect(page.get_by_label("Minutes to set up at a stop")).to_have_value(re.compile("^[78]$"))
        expect(page.get_by_label("Minutes at a tree beside the water")).to_have_value("2")
        expect(page.get_by_role("button", name="Go by the log")).to_have_count(0)
        self.accessible(page)


class Drought(BrowserTest):
    def test_water_is_weighed_against_harm_by_keys(self):
        page = self.device(WIDE)
        self.open(page, "/ahead/drought")
        slider = page.get_by_role("slider", name="Water against harm")
        expect(slider).to_have_value("2")
        slider.focus()
        page.keyboard.press("ArrowRight")
        expect(page.get_by_role("status").get_by_text("Up to 3 % more harm")).to_be_visible()
        page.reload()
        expect(page.get_by_role("slider", name="Water against harm")).to_have_value("3")
        page.get_by_role("slider", name="Water against harm").focus()
        page.keyboard.press("Home")
        expect(page.get_by_text("however much water it needs")).to_be_visible()
        self.accessible(page)

    def test_an_order_that_changes_stays_on_record_and_one_that_is_over_is_put_right(self):
        page = self.device(PHONE)
        stage_3 = page.get_by_role("heading", name="Ochre Falls stage 3")
        for what, is_over in (("The order changed", False), ("It was entered wrong", True)):
            self.open(page, "/ahead/drought")
            stage_3.first.wait_for()
            page.get_by_role("link", name="Edit").last.click()  # the second time the one that is over
            page.get_by_label("A week at most, all sites together").fill("1000")
            if not is_over:
                self.accessible(page)
                self.fits(page)
                expect(page.get_by_label(re.compile(f"^{what}"))).to_be_checked()
            else:
                expect(page.get_by_text(what)).to_have_count(0)
            page.get_by_role("button", name="Save").click()
            expect(page).to_have_url(re.compile("/ahead/drought$"))
            expect(stage_3).to_have_count(2)
        expect(page.get_by_text("At most 1,000 gal a week, all its sites together.")).to_have_count(2)

    def test_modes_are_worked_out_within_litres_and_taken(self):
        page = self.device(PHONE)
        self.open(page, "/ahead/drought")
        section = page.locator("section.modes")
        week = section.get_by_label("Water a week, all sites together")
        week.fill("much")
        section.get_by_role("button", name="Work it out").click()
        expect(week).to_have_value("much")
        expect(section.get_by_role("button", name=re.compile("^Go by this at"))).to_have_count(0)
        week.fill("1300")
        section.get_by_role("button", name="Work it out").click()
        use = section.get_by_role("button", name=re.compile("^Go by this at"))
        expect(use).to_be_visible(timeout=60_000)
        total = int(re.search(r"\d+", use.inner_text())[0])
        rows = section.get_by_text(re.compile(r": \d+ trees?, "))
        said = [int(re.search(r": (\d+) tree", row.inner_text())[1]) for row in rows.all()]
        self.assertEqual(sum(said), total, "every tree that changes is in a row")
        section.get_by_text("Which trees", exact=True).first.click()
        expect(section.get_by_role("link", name=re.compile(r"^[A-Z]{2}-\d+")).first).to_be_visible()
        self.fits(page)
        self.accessible(page)
        use.click()
        expect(section.get_by_role("status").get_by_text("the program’s choice now")).to_be_visible(timeout=60_000)


class Plant(BrowserTest):
    def test_batches_stand_side_by_side_and_lead_to_their_pages(self):
        page = self.device(PHONE)
        self.open(page, "/ahead/plant")
        row = page.get_by_role("row").filter(has_text="6 common hackberry trees")
        expect(row.get_by_text("% less")).to_be_visible(timeout=60_000)
        self.fits(page)
        self.accessible(page)
        row.get_by_role("link").click()
        expect(page.get_by_text("Dig 6 holes").first).to_be_visible()


if __name__ == "__main__":
    unittest.main()
