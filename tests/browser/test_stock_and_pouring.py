"""Stock, ways of pouring, modes, the gauge, own kinds of tree and foreign weather files, as a crew meets them."""

import re
import unittest
from datetime import timedelta

from june_shade.launch import browser
from tests.browser.harness import BrowserTest, expect, scenario
from tests.browser.test_job import add_tree

SITE = scenario.name_id("site", "TS")
BOXED = scenario.name_id("tree", "TS", 1)
ON_LINE = scenario.name_id("tree", "TS", 10)


class TreeForm(BrowserTest):
    def test_stock_by_picture_weight_and_lifting(self):
        page = self.device()
        self.open(page, "/trees/new")
        page.get_by_role("radio", name="box", exact=True).check()
        page.get_by_label("Size").select_option(label="24 in box")
        expect(page.get_by_text("42 gal, 353 lb.")).to_be_visible()
        expect(page.get_by_text("Only with a machine and rated slings")).to_be_visible()
        page.get_by_role("radio", name="container").check()
        page.get_by_label("Size").select_option(label="#5 container")
        expect(page.get_by_text("a #5 is not 5 gallons")).to_be_visible()
        expect(page.get_by_text("One person can lift it")).to_be_visible()

    def test_girth_gives_the_trunk(self):
        page = self.device(units="metric")
        self.open(page, "/trees/new")
        page.get_by_label("or trunk girth").fill("16")
        expect(page.get_by_label("Trunk thickness")).to_have_value("5.09")

    def test_a_way_that_misses_the_ball_is_said_before_it_is_saved(self):
        page = self.device(browser.PHONE)
        self.open(page, "/trees/new")
        add_tree(page, "BT-9")
        page.get_by_role("radio", name="slow sprinkler").check()
        page.get_by_label("Circle it wets, across").fill("8 ft")
        expect(page.get_by_text("Most water misses the ball.")).to_be_visible()
        page.get_by_role("radio", name="slow-release bag").check()
        expect(page.get_by_text("Most water misses the ball.")).to_have_count(0)
        expect(page.get_by_text("Onto the ball goes")).to_be_visible()

    def test_numbers_survive_both_unit_systems(self):
        page = self.device(units="us")
        self.open(page, "/trees/new")
        field = page.get_by_label("Trunk thickness")
        for typed in ("2", "1.75", "0.5"):
            field.fill(typed)
            for _ in range(2):
                page.get_by_role("button", name=re.compile("^Units")).first.click()
            expect(field).to_have_value(typed)


class Sheets(BrowserTest):
    def test_a_box_a_line_and_the_cost_of_holding(self):
        page = self.device()
        self.open(page, f"/trees/{BOXED}/water")
        expect(page.get_by_text("The box had")).to_be_visible()
        self.open(page, f"/trees/{ON_LINE}/water")
        expect(page.get_by_text(re.compile("North valve: run it .* 7 trees get it at once"))).to_be_visible()
        expect(page.get_by_text(re.compile("needs it longest; this tree wants"))).to_be_visible()
        page.get_by_role("button", name=re.compile("^Done")).click()
        expect(page.get_by_text("North valve: 7 trees logged")).to_be_visible()
        self.open(page, f"/trees/{scenario.name_id('tree', 'TS', 11)}/water")
        expect(page.get_by_text(re.compile("gal poured today"))).to_be_visible()
        self.open(page, f"/trees/{ON_LINE}/water")
        page.get_by_text("what would each cost this tree?").click()
        page.get_by_role("button", name="Go by this: survive").click()
        expect(page.get_by_text("What is wanted: survive.")).to_be_visible()

    def test_broken_buds_are_logged_in_one_tap(self):
        page = self.device(browser.PHONE)
        self.open(page, "/trees/new")
        add_tree(page, "BT-8")
        page.get_by_role("radio", name="bare root").check()
        page.get_by_label("Size").select_option(label="1 in bare root")
        page.get_by_role("button", name="Save").click()
        page.get_by_role("button", name="Buds have broken").click()
        expect(page.get_by_text("Bud break noted")).to_be_visible()
        expect(page.get_by_role("button", name="Buds have broken")).to_have_count(0)


class SitePage(BrowserTest):
    def test_a_mode_and_a_gauge(self):
        page = self.device()
        self.open(page, f"/sites/{SITE}")
        page.get_by_role("button", name="Go by this: keep growing").click()
        expect(page.get_by_text("Plans go by “keep growing” now.")).to_be_visible()
        yesterday = (scenario.DAY - timedelta(days=1)).isoformat()
        page.locator(f"#g-{yesterday}").fill("12 mm")
        page.get_by_role("button", name="Keep", exact=True).click()
        expect(page.get_by_text("Gauge kept; plans go by it.")).to_be_visible()
        expect(page.locator(f"#g-{yesterday}")).to_have_value("0.47")

    def test_flow_by_timing_a_bucket(self):
        page = self.device()
        self.open(page, f"/sites/{SITE}/edit")
        page.get_by_label("Fills in").fill("0")
        expect(page.get_by_text("time how long the bucket takes")).to_be_visible()
        self.provoked(422)
        page.get_by_label("Fills in").fill("90")
        page.get_by_role("button", name="Take 200 gal/h").click()
        expect(page.get_by_label("Hose flow")).to_have_value("200")

    def test_an_own_kind_of_tree(self):
        page = self.device()
        self.open(page, "/plants")
        page.get_by_role("link", name="Add a kind of tree").click()
        page.get_by_label("Name", exact=True).fill("Hill plum")
        page.get_by_label("Botanical name").fill("Prunus collina")
        page.get_by_label("Grows to").fill("20")
        page.get_by_label("Spreads to").fill("15")
        page.get_by_label("Comes into leaf").fill("04-31")
        page.get_by_label("Leaves begin to fall").fill("10-10")
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_text("is not a day of the year")).to_be_visible()
        self.provoked(422)
        page.get_by_label("Comes into leaf").fill("04-20")
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_role("link", name="Hill plum")).to_be_visible()
        expect(page.get_by_text("Apr 20 – Oct 10")).to_be_visible()


class WeatherFiles(BrowserTest):
    def choose(self, page, name, text):
        page.locator("input[type=file]").set_input_files(
            {"name": name, "mimeType": "text/plain", "buffer": text.encode()}
        )

    def test_an_archive_file_asks_for_its_units_and_tells_its_place(self):
        page = self.device()
        self.open(page, "/weather")
        head = '"STATION","NAME","LATITUDE","LONGITUDE","ELEVATION","DATE","PRCP","TMAX","TMIN"\n'
        row = '"USX00012345","OLD MILL","40.1","-104.6","1480","2026-06-0{n}","0","{high}","40"\n'
        self.choose(page, "mill.csv", head + row.format(n=1, high=45) + row.format(n=2, high=50))
        page.get_by_label("The figures are in").select_option("us")
        expect(page.get_by_text("2 days understood")).to_be_visible()
        expect(page.get_by_text("GHCN-Daily, CSV")).to_be_visible()
        expect(page.get_by_text("from OLD MILL")).to_be_visible()
        southern = head + row.format(n=1, high=300).replace('"40.1"', '"-40.1"').replace('"40"', '"101"')
        self.choose(page, "south.csv", southern)
        expect(page.get_by_text("a sign of the latitude is wrong")).to_be_visible()
        expect(page.get_by_role("button", name=re.compile("^Bring in"))).to_have_count(0)

    def test_the_sum_behind_an_eto(self):
        page = self.device(browser.PHONE)
        self.open(page, "/weather")
        page.get_by_role("button", name=re.compile("How ETo")).last.click()
        expect(page.get_by_role("dialog").get_by_text("Energy left over (Rn)")).to_be_visible()


if __name__ == "__main__":
    unittest.main()
