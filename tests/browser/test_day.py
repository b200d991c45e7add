"""A working day and the register in the real interface: clocks over a reload, stops, rows, files, first steps."""

import re
import unittest
from datetime import date, timedelta
from importlib import resources
from pathlib import Path

from june_shade.launch import browser
from tests.browser.harness import BrowserTest, expect, scenario
from tests.browser.test_job import WeatherFile, add_tree


class ADay(BrowserTest):
    """Rounds lived through; they share a day, so some of it may be done already."""

    def begin(self, page):
        self.open(page, "/today")
        page.locator("section.yard, section.current").first.wait_for()
        if page.get_by_role("button", name="Start the round").count():
            page.get_by_role("button", name="Start the round").click()

    def test_the_round_with_clocks_over_a_reload(self):
        page = self.device(browser.PHONE)
        self.begin(page)
        current = page.locator("section.current h2 a")
        first = current.inner_text()
        page.get_by_role("button", name="Start the clock").click()
        expect(page.get_by_role("button", name=re.compile(f"off .+ {first}"))).to_be_visible()
        second = current.inner_text()
        self.assertNotEqual(second, first, "while it runs the next tree is shown")
        tapped = page.evaluate("performance.now()")  # a second tap within 0.6 s would be ignored
        page.wait_for_function("since => performance.now() - since > 600", arg=tapped)
        page.get_by_role("button", name="Start the clock").click()
        expect(page.get_by_role("button", name=re.compile(f"off .+ {second}"))).to_be_visible()
        off = page.get_by_role("button", name=re.compile(f"off .+ {first}")).inner_text().split("\n")[0]

        page.reload()
        browser.settle(page)
        expect(current).to_have_text(first)
        expect(page.locator("section.current .clock")).to_contain_text(off)
        expect(page.get_by_role("button", name=re.compile(f"off .+ {second}"))).to_be_visible()
        self.fits(page)
        self.accessible(page)

        page.get_by_role("button", name="Stop", exact=True).click()
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_text("Run so far")).to_be_visible()
        dialog.get_by_role("button", name=re.compile("^Log")).click()
        expect(page.get_by_role("status").filter(has_text=f"{first}: ")).to_be_visible()
        expect(page.locator(".clock")).to_have_count(1)  # the other one runs on, in the list or as the tree in front
        page.get_by_role("button", name=f"Water {second}").click()
        expect(page.locator("section.current .clock")).to_contain_text("off")

        page.get_by_role("button", name=f"Undo {first}").last.click()
        expect(page.get_by_role("status").filter(has_text=f"{first}: undone")).to_be_visible()

    def test_skip_see_and_end_the_day(self):
        page = self.device(browser.PHONE)
        self.begin(page)
        tag = page.locator("section.current h2 a").inner_text()
        page.get_by_role("button", name="Other", exact=True).click()
        page.get_by_role("dialog").get_by_role("button", name="Seen").click()
        page.get_by_role("dialog").get_by_label("In words, if you like").fill("two leaves only")
        self.accessible(page)
        page.get_by_role("dialog").get_by_role("button", name="Scorched leaves").click()
        expect(page.get_by_role("status").filter(has_text=f"{tag}: noted")).to_be_visible()
        page.get_by_role("button", name="Other", exact=True).click()
        page.get_by_role("dialog").get_by_role("button", name="Skip it").click()
        page.get_by_role("dialog").get_by_role("button", name="Could not get to it").click()
        expect(page.get_by_role("status").filter(has_text=f"{tag}: passed over")).to_be_visible()
        expect(page.locator("section.current h2 a")).not_to_have_text(tag)
        page.get_by_role("button", name="End the day").click()
        evening = page.locator(".evening li").filter(has_text=tag)
        expect(evening).to_contain_text(re.compile("% dry by tonight"))
        page.get_by_role("button", name="Back to the round").click()
        page.get_by_role("button", name=f"Undo {tag}").last.click()
        expect(page.get_by_role("status").filter(has_text=f"{tag}: undone")).to_be_visible()

    def test_a_tree_found_wet_asks_how_it_feels(self):
        page = self.device()
        self.begin(page)
        tag = page.locator("section.current h2 a").inner_text()
        page.get_by_role("button", name="Other", exact=True).click()
        page.get_by_role("dialog").get_by_role("button", name="Skip it").click()
        page.get_by_role("dialog").get_by_role("button", name="Soil is wet").click()
        expect(page.get_by_role("status").filter(has_text=f"{tag}: passed over")).to_be_visible()
        page.get_by_role("button", name="End the day").click()
        page.locator(".evening").get_by_role("link", name=tag).click()
        expect(page.get_by_text("while the plan takes it for")).to_be_visible()
        tree = re.search(r"/trees/([0-9a-f-]+)", page.url)[1]
        dryness = lambda: page.request.get(f"{self.address}/api/trees/{tree}/water").json()["dryness"]  # noqa: E731
        before = dryness()
        page.get_by_role("button", name="Tell how it feels").last.click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("Felt with").select_option("trowel")
        for where in ("In the ball", "Beside it"):
            dialog.get_by_role("group", name=where).get_by_role("button", name="wet", exact=True).click()
            expect(dialog.get_by_role("group", name=where).get_by_role("button", name="wet")).to_be_disabled()
        self.assertLess(dryness(), before, "the plan has heard it; on a hot day it may be due all the same")

    def test_another_amount_begins_with_the_tree_in_hand_and_can_be_typed(self):
        page = self.device()
        self.begin(page)
        rows = page.locator(".stops button.pick:not(.done)")
        amounts = rows.locator(".amount").all_inner_texts()
        other = next(n for n, amount in enumerate(amounts) if amount != amounts[0])
        dialog = page.get_by_role("dialog")

        def proposed() -> str:
            page.get_by_role("button", name="Other", exact=True).click()
            return dialog.get_by_role("button", name=re.compile("^Log ")).inner_text().removeprefix("Log ")

        rows.nth(0).click()
        self.assertEqual(proposed(), amounts[0])
        dialog.get_by_role("button", name="More +").click()
        self.closes(page, dialog)
        rows.nth(other).click()
        self.assertEqual(proposed(), amounts[other], "not what was set for the tree before")
        dialog.get_by_label("or type it").fill("11.5")
        dialog.get_by_label("or type it").blur()
        expect(dialog.get_by_role("button", name="Log 11.5 gal")).to_be_visible()
        page.keyboard.press("Escape")

    def test_what_was_seen_is_kept_until_it_is_stored_and_stays_typed_where_it_is_refused(self):
        page = self.device()
        tree = scenario.name_id("tree", "HL", 14)
        self.open(page, f"/trees/{tree}/water")
        words = "two branches broken by the mower"
        page.get_by_label("Seen something? Write it down").fill(words)
        refusal = {"title": "No", "status": 422, "detail": "no such thing", "code": "invalid_input"}
        page.route("**/api/log/**", lambda route: route.fulfill(status=422, json=refusal))
        page.get_by_role("button", name="Keep it").click()
        expect(page.get_by_text("no such thing")).to_be_visible()
        expect(page.get_by_label("Seen something? Write it down")).to_have_value(words)
        page.unroute("**/api/log/**")
        page.route("**/api/log/**", lambda route: route.abort())
        page.get_by_role("button", name="Keep it").click()
        expect(page.get_by_label("Seen something? Write it down")).to_have_value("")
        expect(page.get_by_text(words)).to_be_visible()
        expect(page.get_by_text(re.compile("1 waits to be sent|Sending 1"))).to_be_visible()
        page.unroute("**/api/log/**")
        expect(page.locator(".strip")).to_have_count(0)
        expect(page.get_by_text(words)).to_be_visible()
        self.provoked(422, "net::ERR_FAILED")

    def test_an_ended_day_shows_the_clock_that_still_runs(self):
        page = self.device(browser.PHONE)
        self.begin(page)
        tag = page.locator("section.current h2 a").inner_text()
        page.get_by_role("button", name="Start the clock").click()
        running = page.get_by_role("button", name=re.compile(f"off .+ {tag}"))
        expect(running).to_be_visible()
        page.get_by_role("button", name=f"Water {tag}").click()
        expect(page.locator("section.current .clock")).to_be_visible()
        page.get_by_role("button", name="End the day").click()
        expect(running).to_be_visible()
        page.get_by_role("button", name="Back to the round").click()
        page.get_by_role("button", name=f"Water {tag}").click()
        page.get_by_role("button", name="Stop", exact=True).click()
        page.keyboard.press("Escape")

    def test_on_a_tablet_nothing_is_cut_that_tells_which_tree_it_is(self):
        for size in ((820, 1180), (1024, 768)):
            page = self.device(size)
            self.begin(page)
            self.fits(page)
            cut = page.evaluate(
                "[...document.querySelectorAll('.stops .place')].filter(e => e.scrollWidth > e.clientWidth).length"
            )
            self.assertEqual(cut, 0, size)

    def test_a_whole_stop_and_the_wrong_tree(self):
        page = self.device()
        self.begin(page)
        stop = page.locator(".stops > li").filter(has_text="Trailhead")
        count = stop.locator("button.pick").count()
        stop.get_by_role("button", name=re.compile(f"^All {count}")).click()
        expect(page.get_by_role("status").filter(has_text=f"Trailhead: {count} trees logged")).to_be_visible()
        expect(stop.get_by_role("button", name=re.compile("^Undo"))).to_have_count(count)
        stop.get_by_role("button", name=re.compile("^Wrong tree")).first.click()
        dialog = page.get_by_role("dialog")
        other = dialog.get_by_role("button").filter(has_text="RT-").last
        tag = other.locator("strong").inner_text()
        other.click()
        expect(page.get_by_role("status").filter(has_text=f"Moved to {tag}")).to_be_visible()


class OnPaper(BrowserTest):
    def test_the_round_prints_forty_rows_a_page_and_says_what_was_given(self):
        for units in ("us", "metric"):
            page = self.device(units=units)
            self.open(page, "/today")
            if units == "us":  # what one device has begun the other goes on with
                page.get_by_role("button", name="Start the round").click()
            tag = page.get_by_role("heading", level=2).first.inner_text().split()[0]
            page.get_by_role("button", name=re.compile("^Done")).click()
            expect(page.get_by_role("button", name=f"Undo {tag}")).to_be_visible()
            rows = page.locator(".sheet td.box span")
            for paper in ("Letter", "A4"):
                self.assertLessEqual(self.prints(page, paper), -(-rows.count() // 40), paper)
            given = page.locator(".sheet tr").filter(has_text=tag).first.locator("td").last
            self.assertRegex(given.inner_text() or given.text_content(), r"\d.(gal|L) \d+:\d\d")


class Register(BrowserTest):
    def test_a_row_of_forty(self):
        page = self.device()
        self.open(page, "/trees/new")
        add_tree(page, "LR-01")
        page.get_by_label("Stop (where the truck parks)").fill("Long row")
        page.get_by_label("How many in a row").fill("40")
        page.get_by_label("Place in words").fill("{nth} from the pump")
        page.get_by_label("Ball across").fill("400 in")
        expect(page.locator("#f-ball-say")).to_have_text(re.compile("must be at most 118.11.in"))  # before it is saved
        page.get_by_label("Ball across").fill("-2")
        expect(page.locator("#f-ball-say")).to_have_text(re.compile("must be above 0.in"))
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_role("alert").first).to_be_visible()
        expect(page.locator("#f-ball-say")).to_have_text(re.compile("must be above 0.in"))
        self.provoked(422)
        page.get_by_label("Ball across").fill("24")
        page.get_by_role("button", name="Save").click()
        expect(page).to_have_url(re.compile("/trees\\?"))
        expect(page.get_by_text("40 trees")).to_be_visible()
        expect(page.get_by_text("40th from the pump")).to_be_visible()

    def test_a_change_on_many(self):
        page = self.device()
        self.open(page, "/trees?q=Trestle")
        page.get_by_role("button", name="Select").click()
        page.get_by_role("button", name="All shown").click()
        page.get_by_role("button", name="Change 5 trees").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("What").select_option("surround")
        dialog.get_by_label("Becomes").select_option("paved")
        self.accessible(page)
        dialog.get_by_role("button", name="Change 5 trees").click()
        expect(page.get_by_text("5 trees changed")).to_be_visible()

    def test_many_trees_get_another_way_with_its_measures(self):
        page = self.device()
        self.open(page, "/trees?q=Trestle")
        page.get_by_role("button", name="Select").click()
        page.get_by_role("button", name="All shown").click()
        page.get_by_role("button", name="Change 5 trees").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("What").select_option("method")
        dialog.get_by_label("Becomes").select_option("emitters")
        dialog.get_by_label("Emitters", exact=True).fill("6")
        dialog.get_by_label("Flow of each").fill("0.5")
        self.accessible(page)
        dialog.get_by_role("button", name="Change 5 trees").click()
        expect(page.get_by_text("5 trees changed")).to_be_visible()
        listed = page.request.get(f"{self.address}/api/trees?q=Trestle").json()["trees"]
        for row in listed:
            tree = page.request.get(f"{self.address}/api/trees/{row['id']}").json()
            self.assertEqual((tree["method"], tree["emitter_count"]), ("emitters", 6))
            self.assertAlmostEqual(tree["emitter_flow_l_per_h"], 1.89, 2)

    def test_the_driest_first_and_only_those_that_are_due(self):
        page = self.device()
        self.open(page, "/trees")
        page.get_by_label("Order").select_option("dry")
        with page.expect_response(lambda r: "state=due" in r.url and "sort=dry" in r.url):
            page.get_by_label("State").select_option("due")
        expect(page).to_have_url(re.compile("state=due&sort=dry"))
        shares = [int(s) for s in re.findall(r"(\d+)\s% dry", page.inner_text(".list"))]
        self.assertGreater(len(shares), 3)
        self.assertEqual(shares, sorted(shares, reverse=True))

    def test_out_as_a_file_and_in_again(self):
        page = self.device()
        self.open(page, "/trees/file")
        with page.expect_download() as coming:
            page.get_by_role("link", name="Save all trees as CSV").click()
        text = Path(coming.value.path()).read_text(encoding="utf-8")
        WeatherFile.choose(self, page, "same.csv", text)
        expect(page.get_by_text("This file changes nothing.")).to_be_visible()
        lines = text.splitlines()
        changed = "\n".join([lines[0], lines[1].replace("first from the hydrant", "by the pump"), *lines[2:]])
        WeatherFile.choose(self, page, "changed.csv", changed)
        expect(page.get_by_text("1 changed")).to_be_visible()
        self.accessible(page)
        page.get_by_role("button", name="Bring in 1 tree").click()
        expect(page.get_by_text("1 tree brought in")).to_be_visible()
        self.open(page, "/trees?q=pump")
        expect(page.get_by_text("by the pump").first).to_be_visible()

    def test_two_people_edit_one_tree_and_nothing_is_lost(self):
        path = f"/trees/{scenario.name_id('tree', 'SO', 2)}/edit"
        one, two = self.device(), self.device()
        self.open(one, path)
        self.open(two, path)
        one.get_by_label("Trunk thickness, 6 in up").fill("3")
        one.get_by_role("button", name="Save").click()
        expect(one).to_have_url(re.compile("/water$"))
        two.get_by_label("Trunk thickness, 6 in up").fill("2.75")
        two.get_by_role("button", name="Save").click()
        expect(two.get_by_text(re.compile("they wrote: 3.in"))).to_be_visible()
        expect(two.get_by_label("Trunk thickness, 6 in up")).to_have_value("2.75")
        self.provoked(409)
        two.get_by_role("button", name="Save").click()
        expect(two).to_have_url(re.compile("/water$"))

    def test_stops_change_their_order(self):
        page = self.device()
        self.open(page, "/sites")
        site = page.locator(".sites > li").first
        before = site.locator(".stops li a").all_inner_texts()
        page.get_by_role("button", name=f"{before[1]}: earlier in the round").click()
        expect(site.locator(".stops li a").first).to_have_text(before[1])


class FirstSteps(BrowserTest):
    data = "seeded"

    def test_from_nothing_to_a_first_plan_by_the_steps(self):
        page = self.device(browser.PHONE)
        self.open(page, "/")
        expect(page.get_by_role("heading", name="From nothing to a first plan")).to_be_visible()
        self.accessible(page)
        page.get_by_role("link", name="Add a station").click()
        page.get_by_label("Name").fill("Harbor field")
        page.get_by_label("Latitude").fill("47.45")
        page.get_by_label("Longitude").fill("-122.31")
        page.get_by_label("Elevation").fill("132 m")
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_text("There is weather to plan with.")).to_have_count(0)
        page.get_by_role("link", name="Bring in weather").click()
        page.get_by_role("checkbox", name=re.compile("^Use a made-up forecast")).check()
        expect(page.get_by_role("heading", name="Forecast, made up")).to_be_visible()
        self.accessible(page)
        page.get_by_role("link", name="Today").click()
        expect(page.get_by_text("There is weather to plan with.")).to_be_visible()
        page.get_by_role("link", name="Add a site").click()
        page.get_by_label("Name").fill("Harbor field")
        page.get_by_label("Latitude").fill("47.45")
        page.get_by_label("Longitude").fill("-122.31")
        page.get_by_label("Elevation").fill("132 m")
        page.get_by_label("Texture").select_option("loam")
        page.get_by_label("Hose flow").fill("100 gal/h")
        page.get_by_role("button", name="Save").click()
        page.get_by_role("link", name="Add a tree").click()
        page.get_by_label("Tag").fill("1")
        page.get_by_role("combobox", name="Kind of tree").click()
        page.get_by_role("combobox", name="Kind of tree").fill("bur oak")
        page.get_by_role("option", name=re.compile("Bur oak")).click()
        page.get_by_label("Planted on").fill((date.today() - timedelta(days=20)).isoformat())
        page.get_by_label("Size").select_option(label="2 in balled")
        page.get_by_role("button", name="Save").click()
        expect(page).to_have_url(re.compile("/water$"))
        expect(page.get_by_role("region", name="Water")).to_be_visible()
        expect(page.get_by_text("The forecast is made up")).to_be_visible()
        self.assertTrue(resources.files("june_shade").joinpath("standins").is_dir())


class Keys(BrowserTest):
    def test_single_keys_and_their_switch(self):
        page = self.device()
        self.open(page, "/today")
        page.keyboard.press("g")
        page.keyboard.press("r")
        expect(page).to_have_url(re.compile("/trees$"))
        page.keyboard.press("/")
        expect(page.get_by_role("searchbox")).to_be_focused()
        page.keyboard.type("u g s")
        expect(page.get_by_role("searchbox")).to_have_value("u g s")
        self.open(page, f"/trees/{scenario.name_id('tree', 'HL', 3)}/water")
        page.keyboard.press("w")
        expect(page.get_by_role("dialog").get_by_role("button", name=re.compile("^Log"))).to_be_visible()
        page.keyboard.press("Escape")
        expect(page.get_by_role("dialog")).to_have_count(0)
        page.keyboard.press("?")
        page.get_by_label("Single keys are on").uncheck()
        page.keyboard.press("Escape")
        expect(page.get_by_role("dialog")).to_have_count(0)
        page.keyboard.press("n")
        page.evaluate("new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn)))")
        expect(page).to_have_url(re.compile("/water$"))


if __name__ == "__main__":
    unittest.main()
