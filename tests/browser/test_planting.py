"""Planting and mulching as a crew meets them: stock check, load list, planted, logged; a street, yard to record."""

import re
import unittest

from june_shade.launch import browser
from tests.browser.harness import BrowserTest, expect, scenario

BATCH = scenario.name_id("planting", "HL", "playground")
SCHOOL = scenario.name_id("site", "HL")
TRAIL = scenario.name_id("site", "RT")
THIN = scenario.name_id("tree", "HL", 19)
OAK = scenario.name_id("tree", "HL", 3)
GOOD = ("firm", "moist", "spread out", "none", "sound", "green", "fine")


def words(page) -> str:
    return page.inner_text("main")


class SchoolBatch(BrowserTest):
    def look_at(self, page, *answers: str) -> None:
        dialog = page.get_by_role("dialog")
        for answer in answers:
            dialog.get_by_role("button", name=answer, exact=True).first.click()
        dialog.get_by_role("button", name="Keep it").click()

    def test_from_the_truck_into_the_ground_and_into_the_log(self):
        page = self.device()
        self.open(page, "/today")
        page.get_by_role("listitem").filter(has_text="Plant 6 common hackberry trees").get_by_role("link").click()
        page.get_by_role("button", name="Look at tree 1 of 6").click()
        expect(page.get_by_role("dialog").get_by_text("7 to answer yet, next: The ball")).to_be_visible()
        expect(page.get_by_role("dialog").get_by_role("button", name="Keep it")).to_be_disabled()
        self.look_at(page, "firm", "moist", "circling", "none", "sound", "green", "fine")
        expect(page.get_by_text("slice circling roots at the sides")).to_be_visible()
        page.get_by_role("button", name="Keep, next tree").click()
        expect(page.get_by_role("dialog").get_by_text("Tree 2 of 6")).to_be_visible()
        self.look_at(page, "firm", "moist", "circling", "over a third of it", "sound", "green", "fine")
        expect(page.get_by_text("Send it back:")).to_be_visible()
        page.get_by_role("button", name="Keep, next tree").click()
        self.look_at(page, *GOOD)
        page.get_by_role("button", name="The same for the other 3").click()
        expect(page.get_by_text("Dig 5 holes")).to_be_visible()
        page.get_by_role("dialog").get_by_role("button", name="Close").first.click()
        expect(page.get_by_text("All 6 looked at.")).to_be_visible()
        page.get_by_role("link", name="Order and load list").click()
        expect(page.get_by_text("5 common hackberry: holes")).to_be_visible()
        expect(page.get_by_text("1 sent back")).to_be_visible()
        expect(page.get_by_text(re.compile("first water")).first).to_be_visible()
        page.get_by_role("link", name=re.compile("5 common hackberry")).click()
        page.get_by_role("button", name="They are planted").click()
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_label("First water, each tree")).not_to_have_value("")
        dialog.get_by_label("First water, each tree").fill("9 gal")
        dialog.get_by_label("First water at").fill("23:59")
        dialog.get_by_role("button", name="Write it down").click()
        expect(dialog.get_by_text("is still to come")).to_be_visible()
        self.provoked(422)
        dialog.get_by_label("First water at").fill("05:30")
        dialog.get_by_role("button", name="Write it down").click()
        expect(page.get_by_text("In the register, first water logged.")).to_be_visible()
        page.get_by_role("link", name="See them").click()
        expect(page.get_by_text("HL-28")).to_be_visible()
        page.get_by_role("link", name=re.compile("HL-24")).first.click()
        expect(page).to_have_url(re.compile("/water$"))
        expect(page.get_by_text(re.compile("poured today|gal")).first).to_be_visible()
        page.get_by_role("link", name="Planting", exact=True).click()
        expect(page.get_by_text("Planted with 4 others.")).to_be_visible()
        expect(page.get_by_text("Loosen the bark wrap")).to_be_visible()


class Sheets(BrowserTest):
    def test_a_school_is_chosen_drawn_and_kept(self):
        page = self.device(units="metric")
        self.open(page, f"/plantings/{BATCH}")
        before = words(page)
        risky = page.get_by_text("This depth is risky in this ground.")
        page.get_by_role("radio", name=re.compile("Sunken")).click()
        expect(risky).to_be_visible()
        page.get_by_role("radio", name=re.compile("Level")).click()
        expect(risky).to_be_hidden()  # a hole was dug here, and it drained
        self.assertNotEqual(words(page), before)
        page.get_by_label("Graft above the flare").fill("2 cm")
        expect(page.get_by_text("under the mulch of")).to_be_visible()
        self.provoked(422)
        page.get_by_label("Graft above the flare").fill("15 cm")
        expect(page.get_by_text("under the mulch of")).to_be_hidden()
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_text("Kept", exact=True)).to_be_visible()
        page.reload()
        expect(page.get_by_role("radio", name=re.compile("Level"))).to_be_checked()

    def test_aids_are_dosed_for_the_batch(self):
        page = self.device()
        self.open(page, f"/plantings/{BATCH}")
        page.get_by_label(re.compile("Succulent pads")).check()
        expect(page.get_by_text("24 pads, wholly covered").first).to_be_visible()

    def test_the_schools_of_firming_and_one_stake_or_two_are_in_the_steps(self):
        page = self.device(browser.PHONE)
        self.open(page, f"/plantings/{BATCH}")
        expect(page.get_by_text("in layers, firmed by hand. Never tread wet soil.")).to_be_visible()
        page.get_by_label("Firming").select_option(label="hardly at all")
        expect(page.get_by_text("hardly firmed, so that air stays in. Never tread wet soil.")).to_be_visible()
        page.get_by_label("Support").select_option(label="one stake, windward")
        expect(page.get_by_text("Drive the stake now, on the windward side")).to_be_visible()
        expect(page.get_by_text(re.compile("and stubs. Clean blades, wiped with alcohol"))).to_be_visible()
        page.get_by_label("Mower that passes, wide").fill("13 ft")
        expect(page.get_by_text("too narrow for a mower")).to_be_visible()

    def test_how_a_tree_was_planted_is_written_down(self):
        page = self.device(browser.PHONE)
        self.open(page, f"/trees/{OAK}/planting")
        page.get_by_label("Support").select_option(label="two posts")
        expect(page.get_by_text("Drive two posts now, outside the ball.")).to_be_visible()
        page.get_by_role("button", name="Write it down").click()
        expect(page.get_by_text("Written down", exact=True)).to_be_visible()
        expect(page.get_by_text("Take off stakes and ties")).to_be_visible()

    def test_a_planting_sheet_is_one_page(self):
        page = self.device()
        self.open(page, f"/plantings/{BATCH}")
        page.emulate_media(media="print")
        expect(page.get_by_text("In this order")).to_be_visible()
        expect(page.get_by_role("button", name="Print the sheet")).to_be_hidden()
        for paper in ("Letter", "A4"):
            self.assertEqual(self.prints(page, paper), 1, paper)

    def test_a_planting_is_planned_from_its_stock(self):
        page = self.device()
        self.open(page, f"/plantings/new?site={SCHOOL}")
        page.get_by_label("Stop (where the truck parks)").fill("Garden")
        page.get_by_label("How many trees").fill("3")
        page.get_by_label("Tag of the first one").fill("HL-90")
        page.get_by_role("combobox", name="Kind of tree").click()
        page.get_by_role("option", name=re.compile("Eastern redbud")).click()
        page.get_by_label("Size").select_option(label="#10 container")
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_text("3 eastern redbud trees, Garden")).to_be_visible()
        expect(page.get_by_text("Dig 3 holes")).to_be_visible()


class StreetsMulch(BrowserTest):
    def test_a_tree_in_grass_is_offered_its_edging_ring(self):
        page = self.device(browser.PHONE)
        self.open(page, f"/trees/{THIN}/mulch")
        expect(page.get_by_text("It stands in grass without an edging ring.")).to_be_visible()
        page.get_by_role("button", name="The ring is in").click()
        expect(page.get_by_text(re.compile("Edging ring, .* across."))).to_be_visible()
        self.accessible(page)

    def test_from_the_yard_to_the_record(self):
        page = self.device()
        self.open(page, "/today")
        row = page.get_by_role("listitem").filter(has_text="Top up the mulch").filter(has_text="Depot Street")
        row.get_by_role("link", name="Do it").click()
        expect(page.get_by_role("heading", name="Order and load")).to_be_visible()
        page.get_by_label("Lies there").fill("20 ft3")
        page.get_by_role("button", name="Count", exact=True).click()
        expect(page.get_by_text(re.compile(r"in the yard 20.ft"))).to_be_visible()
        taken, left = page.get_by_label("Taken along"), page.get_by_label("Came back")
        bought = page.get_by_label("Bought for it")
        self.assertGreater(float(bought.input_value()), 0)
        left.fill("3.5")
        needed = float(taken.input_value())
        page.get_by_role("button", name="It is laid on 8 trees").click()
        expect(page.get_by_text("Logged for 8 trees.")).to_be_visible()
        left_there = 20 + float(bought.input_value() or 0) if bought.count() else 20
        self.assertGreater(needed, left_there - 20)
        self.open(page, f"/trees/{scenario.name_id('tree', 'RT', 22)}/mulch")
        expect(page.get_by_text(re.compile(r"Jul 15, 2026: .* of wood chips laid"))).to_be_visible()
        self.open(page, "/today")
        expect(page.get_by_text("Lift the emitters above the new mulch").first).to_be_visible()
        self.open(page, f"/order?site={TRAIL}&stop=Depot%20Street%20boulevard")
        expect(page.get_by_text("Nothing to load here")).to_be_visible()

    def test_a_look_says_what_to_do_and_is_kept(self):
        page = self.device(browser.PHONE)
        self.open(page, f"/trees/{THIN}/mulch")
        for side in ("North", "East", "South", "West"):
            page.get_by_label(side, exact=True).fill("1 in")
        page.get_by_role("button", name="It touches").click()
        page.get_by_role("button", name="No", exact=True).first.click()
        expect(page.get_by_text("Pull it off the trunk now.")).to_be_visible()
        page.get_by_role("button", name="Keep this look").click()
        expect(page.get_by_text("Jul 15, 2026: measured 1 in")).to_be_visible()
        page.get_by_role("button", name="Take back").click()
        expect(page.get_by_text("Taken back")).to_be_visible()

    def test_a_ring_too_deep_is_refused_at_its_field(self):
        page = self.device()
        self.open(page, f"/trees/{THIN}/mulch")
        page.get_by_label("Settled depth").fill("5 in")
        expect(page.get_by_text("deeper mulch sheds water")).to_be_visible()
        self.provoked(422)
        page.get_by_label("Settled depth").fill("4 in")
        expect(page.get_by_text("deeper mulch sheds water")).to_be_hidden()

    def test_nothing_is_sent_while_a_measure_can_not_be_read(self):
        page = self.device()
        self.open(page, f"/trees/{THIN}/mulch")
        page.get_by_label("Settled depth").fill("three")
        page.get_by_role("button", name="It is laid").click()
        expect(page.get_by_role("alert").filter(has_text="Can't read Settled depth")).to_be_visible()
        expect(page.get_by_label("Settled depth")).to_have_value("three")
        page.get_by_label("Settled depth").fill("3 in")
        page.get_by_role("button", name="It is laid").click()
        expect(page.get_by_text("3 in laid").or_(page.get_by_text(re.compile("laid", re.I))).first).to_be_visible()
        expect(page.get_by_role("alert")).to_have_count(0)

    def test_a_list_is_one_page(self):
        page = self.device()
        self.open(page, f"/order?site={TRAIL}&stop=Depot%20Street%20boulevard")
        page.emulate_media(media="print")
        expect(page.get_by_text("RT-27")).to_be_visible()
        expect(page.get_by_role("button", name="Print the list")).to_be_hidden()
        for paper in ("Letter", "A4"):
            self.assertEqual(self.prints(page, paper), 1, paper)


class Calendar(BrowserTest):
    def test_a_task_says_what_to_look_for_and_its_caution(self):
        page = self.device()
        self.open(page, f"/trees/{scenario.name_id('tree', 'SO', 1)}/planting")
        row = page.get_by_role("listitem").filter(has_text="Look it over for pests")
        row.get_by_role("button", name=re.compile("Why")).click()
        expect(row.get_by_text(re.compile("holes, sawdust or gum|Scale:|Mites:|Aphids:")).first).to_be_visible()
        expect(row.get_by_text("the label decides", exact=False)).to_be_visible()

    def test_a_task_is_done_undone_and_moved_with_a_reason(self):
        page = self.device()
        self.open(page, "/care")
        row = page.get_by_role("listitem").filter(has_text="Take off stakes and ties")
        row.get_by_role("button", name="Tick off all 6").click()
        expect(page.get_by_text("Done: Take off stakes and ties")).to_be_visible()
        expect(row).to_have_count(0)
        page.get_by_role("button", name="Undo").click()
        expect(row).to_be_visible()
        row.get_by_role("button", name="Why").click()
        row.get_by_role("button", name="Move").click()
        row.get_by_label("To", exact=True).fill("2026-08-03")
        row.get_by_label("Say why").fill("windy month")
        row.get_by_role("button", name="Keep").click()
        page.locator("summary", has_text="August 2026").click()
        expect(page.get_by_text("moved from May 6, 2026: windy month")).to_be_visible()

    def test_its_file_is_a_calendar(self):
        page = self.device()
        self.open(page, f"/care?site={SCHOOL}")
        with page.expect_download() as coming:
            page.get_by_role("link", name="Save the file").click()
        content = coming.value.path().read_text(encoding="utf-8")
        self.assertTrue(content.startswith("BEGIN:VCALENDAR"))
        self.assertIn("SUMMARY:Take off stakes and ties: HL-12", content.replace("\r\n ", ""))


if __name__ == "__main__":
    unittest.main()
