"""Every view at four widths, in both unit systems and both languages: it opens, fits, reads well to machines, hides no
unit, says nothing in another language."""

import re
import unittest

from june_shade.launch import browser
from tests.browser.harness import BrowserTest, expect, scenario
from tests.browser.languages import english_only

TREE = scenario.name_id("tree", "HL", 3)
FELT = scenario.name_id("tree", "HL", 13)
MULCHED = scenario.name_id("tree", "HL", 19)
SITE = scenario.name_id("site", "HL")
PLANTING = scenario.name_id("planting", "HL", "playground")
STATION = scenario.name_id("station")
VIEWS = {
    "/today": "Hobb Lane", "/trees": "HL-01", f"/trees/{TREE}/water": "HL-03", f"/trees/{MULCHED}/mulch": "HL-19",
    f"/trees/{TREE}/checks": "How is this tree?", f"/trees/{FELT}/checks": "What its readings say",
    f"/trees/{TREE}/edit": "Trunk thickness",
    "/trees/new": "Add a tree", "/sites": "Hobb Lane School",
    f"/sites/{SITE}": "Tests taken here", f"/sites/{SITE}/ground": "Tap trees to pick them",
    f"/sites/{SITE}/soil/jar": "What you read",
    f"/sites/{SITE}/soil/ribbon": "Ribbon and feel", f"/sites/{SITE}/soil/drain_hole": "Water depth at the start",
    f"/trees/{TREE}/planting": "How it was planted", f"/plantings/{PLANTING}": "Dig 6 holes",
    "/plantings/new": "Plan a planting", f"/plantings/{PLANTING}/edit": "Change the planting",
    f"/order?site={SITE}": "To load", "/care": "Overdue",
    "/sites/new": "Add a site", f"/sites/{SITE}/edit": "Edit", "/weather": "Ochre Falls yard",
    "/book": "The book", "/book/numbers": "How many survive", 
    "/book/sheet": "Done by week", f"/book/month?site={SITE}": "What was seen",
    f"/trees/{TREE}/history": "Everything done", f"/rehearse?tree={TREE}": "The balance",
    "/trees/file": "Trees as a file",
    f"/walk?site={SITE}&stop=Bus%20loop": "Feel the row",
    "/ahead/water": "today", "/ahead/drought": "Ochre Falls stage 3",
    "/ahead/savings": "a week less", "/ahead/plant": "6 common hackberry", "/ahead/orders/new": "Enter an order",
    "/crews": "North crew", "/crews/new": "Add a crew", "/people": "nobody signs in yet",
    "/weather/stations/new": "Add a station", f"/weather/stations/{STATION}/edit": "Edit", "/more": "Noor",
    "/waiting": "Nothing waits",
}  # fmt: skip
OPENED = ("/today", "/trees", f"/trees/{TREE}/water", f"/trees/{MULCHED}/mulch", f"/trees/{TREE}/checks", "/waiting")
"""Views of a day's work: a phone loads them anew and nothing may jump; it comes to the others by links."""
A_PAGE = 60
"""Trees that are listed before more are asked for."""
US_UNIT = re.compile(r"\b(gal|in|ft|°F|mph)\b")
POINT = re.compile(r"(?<![\d.])\d+\.\d{1,2}(?![\d.])")
"""A decimal as English writes it; Spain has a comma there."""
SI_UNIT = re.compile(r"\d\s(L|mm|cm|m|°C|km/h)\b")


class Views(BrowserTest):
    def goes(self, page, path: str, *, inside: bool) -> None:
        """Go to a path: by the address bar, where nothing may jump, or inside the page as by a link, where what one
        view shows gives way to another's."""
        if not inside:
            self.open(page, path)
            return self.still(page)
        page.evaluate(
            "path => { history.pushState({}, '', path);"
            " dispatchEvent(new PopStateEvent('popstate', { state: history.state })) }",
            path,
        )
        browser.settle(page)

    def test_every_view_opens_fits_and_is_accessible_at_four_widths_in_both_unit_systems(self):
        """Opened wide in English, come to by links on a phone in Spanish, whose words are longer; turned to a tablet
        and to a large screen, where the other units are shown, in which the next is opened. Every other view is read by
        machines wide, the rest on the phone; pages of the work have tests of their own for both."""
        english = english_only()
        self.assertGreater(len(english), 1000)
        for turn, (size, units, other, locale) in enumerate(
            ((browser.WIDE, "us", (768, 1024), "en-US"), (browser.PHONE, "metric", (1920, 1080), "es-ES"))
        ):
            page = self.device(size, units, locale=locale)
            for number, (path, words) in enumerate(VIEWS.items()):
                with self.subTest(path=path, size=size):
                    page.set_viewport_size({"width": size[0], "height": size[1]})
                    self.goes(page, path, inside=turn == 1 and path not in OPENED)
                    shown = page.inner_text("body") + str(page.title())
                    if locale == "en-US":
                        self.assertIn(words, shown)
                    else:
                        plain = f" {' '.join(shown.split())} "
                        self.assertEqual([one for one in english if f" {one} " in plain], [])
                        formulas = page.locator(".formula").all_inner_texts()
                        told = re.sub("|".join(map(re.escape, formulas)) or "^$", "", shown)
                        self.assertEqual([told[m.start() - 20 : m.end() + 9] for m in POINT.finditer(told)], [])
                    self.fits(page)
                    if number % 2 == turn:
                        self.accessible(page)
                with self.subTest(path=path, size=other):
                    page.set_viewport_size({"width": other[0], "height": other[1]})
                    page.evaluate("document.activeElement.blur()")
                    page.keyboard.press("u")
                    browser.settle(page)
                    self.fits(page)

    def test_one_switch_turns_every_figure(self):
        page = self.device()
        self.open(page, f"/trees/{TREE}/water")
        before = page.inner_text("main")
        self.assertIn("gal", before)
        page.get_by_role("button", name=re.compile("^Units")).first.click()
        after = page.inner_text("main")
        self.assertRegex(after, SI_UNIT)
        instruction = page.get_by_role("region", name="Water").inner_text()
        self.assertNotRegex(instruction, re.compile(r"\d\s*(gal|in|ft)\b"))
        self.open(page, "/weather")
        self.assertNotIn("°F", page.inner_text("main"))

    def test_targets_are_big_enough_for_gloves(self):
        page = self.device(browser.PHONE)
        for path in (
            "/today",
            "/trees",
            f"/trees/{TREE}/water",
            f"/plantings/{PLANTING}",
            "/care",
            f"/order?site={SITE}",
        ):
            self.open(page, path)
            small = page.evaluate(
                """() => [...document.querySelectorAll('button, a.button, select, main input:not([type=file])')]
                .filter(e => e.offsetParent && (e.closest('label, .typed') ?? e).getBoundingClientRect().height < 43.5)
                .map(e => e.outerHTML.slice(0, 120))"""
            )
            self.assertEqual(small, [], path)

    def test_text_is_large_enough_on_a_phone(self):
        page = self.device(browser.PHONE)
        for path in ("/today", "/trees", f"/trees/{TREE}/water", f"/trees/{MULCHED}/mulch", "/sites", "/weather",
                     f"/plantings/{PLANTING}", "/care", f"/order?site={SITE}"):  # fmt: skip
            self.open(page, path)
            small = page.evaluate(
                """() => [...document.querySelectorAll('main *')].filter(e => e.offsetParent &&
                [...e.childNodes].some(n => n.nodeType === 3 && n.textContent.trim()) &&
                parseFloat(getComputedStyle(e).fontSize) < 15.9).map(e => e.outerHTML.slice(0, 120))"""
            )
            self.assertEqual(small, [], path)


class MovingAbout(BrowserTest):
    def test_deep_links_and_the_back_button(self):
        page = self.device()
        self.open(page, f"/trees/{TREE}")
        self.assertTrue(page.url.endswith("/water"))
        page.get_by_role("navigation").get_by_role("link", name="Sites").first.click()
        expect(page).to_have_url(re.compile("/sites$"))
        page.get_by_role("navigation").get_by_role("link", name="Weather").first.click()
        expect(page).to_have_url(re.compile("/weather$"))
        page.go_back()
        expect(page).to_have_url(re.compile("/sites$"))
        page.go_back()
        expect(page).to_have_url(re.compile(f"/trees/{TREE}/water"))
        expect(page.get_by_text("HL-03").first).to_be_visible()

    def test_the_list_leads_to_a_tree_and_back_to_what_was_searched(self):
        page = self.device()
        self.open(page, "/trees")
        page.get_by_role("searchbox").fill("hydrant")
        expect(page).to_have_url(re.compile("q=hydrant"))
        expect(page.get_by_text("RT-24")).to_have_count(0)
        page.get_by_role("link", name="HL-01").first.click()
        expect(page).to_have_url(re.compile("/trees/.+/water"))
        page.go_back()
        expect(page.get_by_role("searchbox")).to_have_value("hydrant")

    def test_a_tap_on_a_tree_right_after_typing_is_not_called_back(self):
        page = self.device()
        page.clock.install()
        self.open(page, "/trees")
        page.get_by_role("searchbox").fill("oak")
        page.get_by_role("link", name="HL-01").first.click()
        page.clock.run_for(600)  # longer than the search waits for more letters
        expect(page).to_have_url(re.compile("/trees/.+/water"))

    def test_the_keyboard_reaches_the_work(self):
        page = self.device()
        self.open(page, "/today")
        page.keyboard.press("Tab")
        skip = page.evaluate("document.activeElement.textContent")
        self.assertIn("Skip", skip)
        page.keyboard.press("Enter")
        page.keyboard.press("Tab")
        focused = page.evaluate("!!document.activeElement.closest('main')")
        self.assertTrue(focused)

    def focused(self, page):
        return page.evaluate(
            "() => { const a = document.activeElement; return a.tagName + ' ' + (a.id || a.textContent.trim()) }"
        )

    def test_the_keys_go_on_where_they_were(self):
        page = self.device()
        self.open(page, "/today")
        page.get_by_role("button", name="Start the round").focus()
        page.keyboard.press("Enter")
        done = page.get_by_role("button", name=re.compile("^Done"))
        done.focus()
        tag = page.get_by_role("heading", level=2).first.inner_text()
        page.keyboard.press("Enter")
        expect(page.get_by_role("heading", level=2).first).not_to_have_text(tag)
        expect(done).to_be_focused()
        other = page.get_by_role("button", name=re.compile("^Other"))
        other.focus()
        page.keyboard.press("Enter")
        expect(page.get_by_role("dialog")).to_be_visible()
        page.keyboard.press("Escape")
        expect(page.get_by_role("dialog")).to_be_hidden()
        expect(other).to_be_focused()
        undo = page.get_by_role("button", name=re.compile("^Undo")).first
        undo.focus()
        page.keyboard.press("Enter")
        expect(undo).to_be_hidden()
        expect(page.locator("*:focus")).to_have_count(1)
        self.assertNotEqual(self.focused(page).split()[0], "MAIN", "near where the entry was")

    def test_a_new_page_is_read_from_its_beginning_and_a_tab_keeps_the_keys(self):
        page = self.device()
        self.open(page, "/trees")
        page.get_by_role("link", name=re.compile("HL-03")).first.focus()
        page.keyboard.press("Enter")
        expect(page).to_have_url(re.compile("/water"))
        expect(page.locator("#main")).to_be_focused()
        tab = page.get_by_role("link", name="Mulch", exact=True)
        tab.focus()
        page.keyboard.press("Enter")
        expect(page).to_have_url(re.compile("/mulch"))
        expect(tab).to_be_focused()

    def test_a_chart_has_all_its_days_as_a_table(self):
        page = self.device()
        self.open(page, "/weather")
        chart = page.get_by_role("img", name=re.compile("measured days"))
        days = int(re.search(r"Over (\d+) measured", chart.get_attribute("aria-label"))[1])
        self.assertGreater(days, 50)
        page.get_by_text("The days as a table").click()
        rows = page.get_by_role("region", name="Rain and what the air took").get_by_role("row")
        self.assertGreaterEqual(rows.count() - 1, days)

    def test_the_list_comes_back_where_it_was_left(self):
        page = self.device(browser.PHONE)
        self.open(page, "/trees")
        links = page.get_by_role("link", name=re.compile("-\\d\\d"))
        expect(links).to_have_count(A_PAGE)  # what fits on a screen is there before the rest
        page.get_by_role("button", name="Show more").click()
        last = links.nth(A_PAGE)
        last.scroll_into_view_if_needed()
        at = page.evaluate("scrollY")
        self.assertGreater(at, 1000)
        last.click()
        expect(page).to_have_url(re.compile("/water"))
        page.go_back()
        expect(last).to_be_visible()
        page.wait_for_function(f"Math.abs(scrollY - {at}) < 80")

    def test_a_note_for_the_crew_is_read_wherever_the_tree_is_met(self):
        for size in (browser.WIDE, browser.PHONE):
            page = self.device(size)
            for path in ("/today", f"/trees/{TREE}/water", f"/trees/{TREE}/mulch"):
                self.open(page, path)
                if path == "/today":
                    page.get_by_role("button", name="Start the round").click()
                expect(page.get_by_text("Gas line 3 ft off").first).to_be_visible()


if __name__ == "__main__":
    unittest.main()
