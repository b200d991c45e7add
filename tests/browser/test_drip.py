"""The Drip page of a tree and of a line, as a technician meets them: drawn, typed, grown, accepted, proved, counted."""

import re
import unittest

from june_shade.api.schemas.trees import TreeIn
from june_shade.launch import browser
from tests.browser.harness import BrowserTest, expect, scenario
from tests.support import new_id

CHANGE = "Change it by hand"
BOULEVARD = scenario.name_id("tree", "RT", 20)
PROVED = scenario.name_id("tree", "RT", 21)
ON_HOSE = scenario.name_id("tree", "HL", 3)
HEDGE = scenario.name_id("line", "RT", "Hedge valve")
STREET = scenario.name_id("line", "RT", "Depot Street valve")


def emitters(page):
    return page.get_by_role("button", name=re.compile(r"^Emitter \d+:"))


class DripPage(BrowserTest):
    def test_what_is_typed_is_drawn_at_once_and_the_slider_goes_through_the_years(self):
        for size in (browser.WIDE, browser.PHONE):
            with self.subTest(size=size):
                page = self.device(size)
                self.open(page, f"/trees/{BOULEVARD}/drip")
                expect(emitters(page).nth(1)).to_be_visible()
                lies = emitters(page).count()
                page.get_by_label("Pattern").select_option(label="on the ball")
                page.get_by_label("Emitters", exact=True).fill("5")
                expect(emitters(page)).to_have_count(5)
                page.get_by_label("Pattern").select_option(label="a ring")
                page.get_by_label("Ring, from the trunk").fill("60 cm")
                page.get_by_label("Emitters apart, at most").fill("18 in")
                expect(emitters(page)).to_have_count(9)  # 2 pi 60 cm in steps of at most 18 in
                page.get_by_role("button", name="Back to what lies there").click()
                expect(emitters(page)).to_have_count(lies)
                slider = page.get_by_label("How it grows")
                slider.focus()
                page.keyboard.press("ArrowRight")
                expect(page.get_by_text(re.compile("In July 2027: "))).to_be_visible()
                self.assertGreaterEqual(emitters(page).count(), lies)
                page.keyboard.press("ArrowLeft")
                expect(page.get_by_text(re.compile("This year: "))).to_be_visible()
                self.fits(page)

    def test_an_emitter_tells_what_it_does_by_tap_and_by_key(self):
        page = self.device(browser.PHONE)
        self.open(page, f"/trees/{BOULEVARD}/drip")
        emitters(page).nth(1).focus()
        expect(page.locator("p.asked")).to_contain_text("Emitter 2:")
        emitters(page).nth(2).click()
        expect(page.locator("p.asked")).to_contain_text("Emitter 3:")

    def test_what_can_not_be_laid_is_said_at_its_field_and_the_drawing_stays(self):
        page = self.device()
        self.open(page, f"/trees/{BOULEVARD}/drip")
        page.get_by_label("Pattern").select_option(label="on the ball")
        page.get_by_label("Emitters", exact=True).fill("4")
        expect(emitters(page)).to_have_count(4)
        lies = emitters(page).count()
        page.get_by_label("From the trunk").fill("0.5 in")
        expect(page.get_by_text("the trunk stands there")).to_be_visible()
        expect(emitters(page)).to_have_count(lies)
        self.provoked(422)

    def test_an_emitter_is_moved_by_keys_and_by_hand_taken_out_added_and_all_of_it_undone(self):
        for size in (browser.WIDE, browser.PHONE):
            with self.subTest(size=size):
                page = self.device(size)
                self.open(page, f"/trees/{BOULEVARD}/drip")
                lies = emitters(page).count()
                self.assertGreater(lies, 3)
                page.get_by_role("button", name=CHANGE).click()
                third = emitters(page).nth(2)
                third.focus()
                away = page.get_by_label("From the trunk", exact=True).last
                before = float(away.input_value())
                page.keyboard.press("ArrowUp")
                page.keyboard.press("ArrowUp")
                expect(away).not_to_have_value(str(before))
                undo, redo = (page.get_by_role("button", name=name, exact=True) for name in ("Undo", "Redo"))
                expect(undo).to_be_enabled()
                expect(third).to_be_focused()
                browser.settle(page)  # what comes with an answer moves the drawing
                third.evaluate("e => e.scrollIntoView({ block: 'center' })")
                box = third.locator(".dot").bounding_box()
                page.mouse.move(box["x"] + 3, box["y"] + 3)
                page.mouse.down()
                page.mouse.move(box["x"] + 33, box["y"] + 3, steps=4)
                page.mouse.up()
                browser.settle(page)
                self.assertAlmostEqual(third.locator(".dot").bounding_box()["x"], box["x"] + 30, delta=12)
                page.get_by_role("button", name="Take out").click()
                expect(emitters(page)).to_have_count(lies - 1)
                undo.click()
                expect(emitters(page)).to_have_count(lies)
                undo.click()  # both steps of the keys and the drag were one emitter's
                expect(undo).to_be_disabled()
                third.focus()
                expect(away).to_have_value(re.compile(f"^{before:g}"))
                redo.click()
                expect(undo).to_be_enabled()
                page.get_by_role("button", name="Add one", exact=True).click()
                drawing = page.get_by_role("group", name=re.compile("Layout from above|emitters"))
                plan = drawing.first.bounding_box()
                page.mouse.click(plan["x"] + plan["width"] * 0.5, plan["y"] + plan["height"] * 0.12)
                expect(emitters(page)).to_have_count(lies + 1)
                self.accessible(page)
                self.fits(page)
                page.get_by_role("button", name="Done", exact=True).click()
                page.get_by_role("button", name="Back to what lies there").click()
                expect(emitters(page)).to_have_count(lies)

    def test_ring_and_paving_are_dragged_by_their_diamonds_and_every_figure_follows(self):
        for size in (browser.WIDE, browser.PHONE):
            with self.subTest(size=size):
                page = self.device(size)
                self.open(page, f"/trees/{BOULEVARD}/drip")
                page.get_by_role("button", name=CHANGE).click()
                ring = page.get_by_role("button", name=re.compile("^Ring, "))
                words = ring.get_attribute("aria-label")
                ring.focus()
                page.keyboard.press("ArrowRight")
                expect(ring).not_to_have_attribute("aria-label", words)
                expect(ring).to_be_focused()
                radius = page.get_by_label("From the trunk", exact=True).last
                page.get_by_label("One step").select_option(index=0)
                ring.focus()
                before = float(radius.input_value())
                page.keyboard.press("ArrowLeft")
                expect(radius).not_to_have_value(f"{before:g}")
                page.get_by_role("button", name="Undo", exact=True).click()  # all steps of the ring are one
                expect(ring).to_have_attribute("aria-label", words)
                browser.settle(page)  # a tee lies where the drawing has it, which comes with the answer
                tee = page.get_by_role("button", name=re.compile("^Tee 1, "))
                words = tee.get_attribute("aria-label")
                tee.focus()
                for _ in range(3):
                    page.keyboard.press("ArrowDown")
                expect(tee).not_to_have_attribute("aria-label", words)
                expect(tee).to_be_focused()
                page.get_by_role("button", name="Undo", exact=True).click()
                expect(tee).to_have_attribute("aria-label", words)
                paving = page.get_by_role("button", name=re.compile("^paving, .*toward 90")).last
                browser.settle(page)  # what comes with an answer moves the drawing
                paving.evaluate("e => e.scrollIntoView({ block: 'center' })")
                box = paving.locator("path").bounding_box()
                x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
                page.mouse.move(x, y)
                page.mouse.down()
                page.mouse.move(x - 40, y - 12, steps=5)
                page.mouse.up()
                turned = page.get_by_role("button", name=re.compile(r"^paving, .*toward (7\d|8\d)"))
                expect(turned).to_have_count(1)
                self.accessible(page)
                self.fits(page)
                page.get_by_role("button", name="Undo", exact=True).click()
                expect(turned).to_have_count(0)

    def test_layouts_are_compared_and_one_is_tried(self):
        for size in (browser.WIDE, browser.PHONE):
            with self.subTest(size=size):
                page = self.device(size)
                self.open(page, f"/trees/{BOULEVARD}/drip")
                page.get_by_role("button", name="Compare them").click()
                cards = page.get_by_role("list", name="Side by side over two years").get_by_role("listitem")
                expect(cards.first).to_be_visible(timeout=20_000)
                expect(cards.filter(has_text="Least harm over two years")).to_have_count(1)
                expect(cards.filter(has_text="What lies there")).to_have_count(1)
                self.accessible(page)
                self.fits(page)
                cards.filter(has_text="a ring with arms").get_by_role("button", name="Try").click()
                expect(page.get_by_text("This year: a ring with arms")).to_be_visible()
                expect(cards).to_have_count(0)

    def test_taking_the_last_emitter_out_by_key_leaves_the_keys_at_the_one_before(self):
        page = self.device()
        self.open(page, f"/trees/{BOULEVARD}/drip")
        page.get_by_role("button", name=CHANGE).click()
        lies = emitters(page).count()
        emitters(page).last.focus()
        page.keyboard.press("Delete")
        expect(emitters(page)).to_have_count(lies - 1)
        expect(emitters(page).last).to_be_focused()

    def test_an_emitter_put_on_paving_is_refused_beside_the_drawing_and_lies_where_it_lay(self):
        page = self.device()
        self.open(page, f"/trees/{BOULEVARD}/drip")
        page.get_by_role("button", name=CHANGE).click()
        first = emitters(page).first
        first.focus()
        was = first.get_attribute("transform")
        page.get_by_label("From the trunk", exact=True).last.fill("5 ft")
        page.get_by_label("Toward (0").fill("90")
        page.get_by_label("Toward (0").press("Tab")
        expect(page.get_by_text("no emitter drips there")).to_be_visible()
        self.assertEqual(first.get_attribute("transform"), was)
        first.focus()
        page.get_by_label("One step").select_option(index=2)
        first.focus()
        for _ in range(4):
            page.keyboard.press("ArrowRight")
        browser.settle(page)
        expect(page.get_by_text("no emitter drips there")).to_be_visible()
        page.get_by_role("button", name="Undo", exact=True).click()
        expect(page.get_by_text("no emitter drips there")).to_have_count(0)
        expect(first).to_have_attribute("transform", was)
        page.get_by_label("Toward (0").fill("0")
        page.get_by_label("Toward (0").press("Tab")
        expect(first).not_to_have_attribute("transform", was)
        self.provoked(422)

    def test_cups_are_timed_typed_marked_on_the_drawing_and_taken_back(self):
        for size, units, unit in ((browser.WIDE, "us", "8 fl oz"), (browser.PHONE, "metric", "240")):
            with self.subTest(size=size):
                page = self.device(size, units)
                self.open(page, f"/trees/{BOULEVARD}/drip")
                test = page.locator("section").filter(has=page.get_by_role("heading", name="Catch test"))
                test.get_by_role("button", name="Start the clock").click()
                expect(test.get_by_role("timer")).to_have_text(re.compile(r"^0:0[1-9]"))
                page.reload()
                test.get_by_role("button", name="Stop").click()
                expect(test.get_by_label("It ran")).not_to_have_value("")
                test.get_by_role("button", name="Keep the test").click()
                expect(test.get_by_text("is needed").first).to_be_visible()
                test.get_by_label("It ran").fill("15")
                cups = test.get_by_label(re.compile(r"^Emitter \d+$"))
                for cup in cups.all():
                    cup.fill(unit)
                cups.nth(2).fill("0")
                self.accessible(page)
                test.get_by_role("button", name="Keep the test").click()
                expect(test.get_by_text("Emitter 3 is blocked.")).to_be_visible()
                expect(page.get_by_text("Clean or change emitter 3, then test again").first).to_be_visible()
                expect(emitters(page).nth(2)).to_have_attribute("aria-label", re.compile("is blocked"))
                expect(cups.first).to_have_value("")
                self.fits(page)
                test.get_by_role("button", name="It was misread").click()
                expect(test.get_by_text("misread", exact=True)).to_have_count(1 + (size is browser.PHONE))
                expect(page.get_by_text("Clean or change emitter 3, then test again")).to_have_count(0)

    def test_cups_typed_so_far_are_kept_with_their_tree(self):
        page = self.device()
        self.open(page, f"/trees/{BOULEVARD}/drip")
        cup = page.get_by_label("Emitter 2", exact=True)
        cup.fill("7.5")
        page.evaluate(
            f"history.pushState({{}}, '', '/trees/{PROVED}/drip'); dispatchEvent(new PopStateEvent('popstate'))"
        )
        expect(page.get_by_text("RT-21").first).to_be_visible()
        expect(cup).to_have_value("")
        self.open(page, f"/trees/{BOULEVARD}/drip")
        expect(cup).to_have_value("7.5")

    def test_a_layout_is_accepted_and_the_plan_goes_by_it(self):
        page = self.device()
        self.open(page, f"/trees/{ON_HOSE}/drip")
        page.get_by_role("button", name="It is laid").click()
        expect(page.get_by_text("Kept: the plan waters by it")).to_be_visible()
        expect(page.get_by_text("Lies here since Jul 15, 2026")).to_be_visible()
        count = emitters(page).count()
        self.open(page, f"/trees/{ON_HOSE}/edit")
        expect(page.get_by_label("Emitters", exact=True)).to_have_value(str(count))

    def test_a_proof_is_kept_with_its_date_and_can_be_taken_back(self):
        page = self.device(browser.PHONE)
        self.open(page, f"/trees/{PROVED}/drip")
        expect(page.get_by_text("Jul 8, 2026: 60 min wet it to 12 in")).to_be_visible()
        page.get_by_label("It had run").fill("60")
        page.get_by_label("Wet down to").fill("16 in")
        page.get_by_role("button", name="Keep it").first.click()
        expect(page.get_by_text("Jul 15, 2026: 60 min wet it to 16 in")).to_be_visible()
        page.get_by_role("button", name="It was misread").first.click()
        expect(page.get_by_text("misread", exact=True)).to_be_visible()

    def test_it_can_be_used_by_everyone_at_both_widths(self):
        for size in (browser.WIDE, browser.PHONE):
            page = self.device(size)
            for path in (f"/trees/{BOULEVARD}/drip", f"/lines/{HEDGE}", f"/lines/{STREET}"):
                with self.subTest(path=path, size=size):
                    self.open(page, path)
                    self.fits(page)
                    self.accessible(page)


class LinePage(BrowserTest):
    def test_the_parts_are_those_on_the_drawing(self):
        page = self.device()
        for line, trees in ((HEDGE, 10), (STREET, 8)):
            self.open(page, f"/lines/{line}")
            parts = page.locator("table.parts").inner_text()
            drawn = emitters(page).count()
            listed = sum(int(n) for n in re.findall(r"(\d+)\s+emitters", parts))
            self.assertEqual(listed, drawn * trees)
            expect(page.locator("svg .dot").first).to_be_visible()

    def test_what_feeds_it_is_typed_and_a_small_supply_is_said(self):
        page = self.device(units="metric")
        self.open(page, f"/lines/{STREET}")
        page.get_by_label("Flow of the open pipe").fill("100 L/h")
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_text("The supply is too small").first).to_be_visible()
        self.open(page, f"/trees/{BOULEVARD}/water")
        expect(page.get_by_text("Its line wants more water than the supply gives").first).to_be_visible()

    def test_where_a_hedge_plant_died_what_is_lost_is_told_until_its_emitters_are_stopped_up(self):
        gone = scenario.name_id("tree", "RT", 31)
        for size in (browser.WIDE, browser.PHONE):
            with self.subTest(size=size):
                page = self.device(size)
                end = page.request.put(
                    f"{self.address}/api/tree-ends/{new_id()}", data={"tree_id": str(gone), "kind": "dead"}
                )
                self.open(page, f"/lines/{HEDGE}")
                expect(page.get_by_text("a ft in a full watering")).to_be_visible()
                expect(page.get_by_text("falls where nobody's roots are")).to_be_visible()
                page.get_by_role("button", name="They're stopped up: RT-31").click()
                expect(page.get_by_text("emitters are stopped up.")).to_be_visible()
                expect(page.get_by_text("Kept: nothing flows at RT-31.")).to_be_visible()
                self.accessible(page)
                self.fits(page)
                page.request.post(f"{self.address}/api/tree-ends/{end.json()['id']}/withdraw")

    def test_a_site_lists_its_lines(self):
        page = self.device()
        self.open(page, f"/sites/{scenario.name_id('site', 'RT')}")
        page.get_by_role("link", name="Hedge valve").click()
        expect(page.get_by_text("a full watering of all 10 trees")).to_be_visible()

    def test_the_printed_page_says_how_to_lay_it(self):
        page = self.device()
        self.open(page, f"/lines/{STREET}")
        page.emulate_media(media="print")
        for words in ("From the valve run 203.4 ft of 0.7 in tube", "What to bring for the whole line", "RT-27"):
            expect(page.get_by_text(words).first).to_be_visible()
        expect(page.get_by_role("button", name="Print the page")).to_be_hidden()
        for paper in ("Letter", "A4"):
            self.assertEqual(self.prints(page, paper), 1, paper)

    def test_forty_trees_of_a_line_print_on_one_sheet(self):
        page = self.device()
        row = page.request.get(f"{self.address}/api/trees?q=RT-20").json()["trees"][0]
        tree = page.request.get(f"{self.address}/api/trees/{row['id']}").json()
        first = {name: value for name, value in tree.items() if name in TreeIn.model_fields} | {
            "plant_id": tree["plant"]["id"], "tag": "QQ-01", "line": "Long valve", "stop": "Long row",
        }  # fmt: skip
        body = {"first": first, "count": 40, "spacing_m": 6, "bearing_deg": 90}
        made = page.request.put(f"{self.address}/api/tree-rows/{new_id()}", data=body)
        self.assertTrue(made.ok, made.text())
        lines = page.request.get(f"{self.address}/api/sites/{tree['site_id']}/lines").json()
        long = next(line["id"] for line in lines if line["name"] == "Long valve")
        self.open(page, f"/lines/{long}")
        for paper in ("Letter", "A4"):
            self.assertEqual(self.prints(page, paper), 1, paper)


if __name__ == "__main__":
    unittest.main()
