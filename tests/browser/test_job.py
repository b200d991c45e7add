"""The job itself, in the real interface: add a tree, see its plan, log water, see the plan change, undo."""

import re
import tempfile
import unittest
from datetime import date, timedelta
from importlib import resources
from pathlib import Path

from playwright.sync_api import Page

from june_shade.launch import browser
from tests.browser.harness import BrowserTest, expect, scenario


def add_tree(page: Page, tag: str) -> None:
    """Fill the form of a balled oak planted three weeks before the demo's day, felt dry."""
    expect(page.get_by_role("heading", name="Add a tree")).to_be_visible()
    page.get_by_label("Site").select_option(label="Hobb Lane School")
    page.get_by_label("Tag").fill(tag)
    page.get_by_label("Place in words").fill("second from the bike rack")
    page.get_by_label("Stop (where the truck parks)").fill("Bike rack")
    page.get_by_role("combobox", name="Kind of tree").click()
    page.get_by_role("combobox", name="Kind of tree").fill("bur oak")
    page.get_by_role("option", name=re.compile("Bur oak")).click()
    page.get_by_label("Planted on").fill((scenario.DAY - timedelta(days=21)).isoformat())
    page.get_by_role("radio", name="balled and burlapped").check()
    page.get_by_label("Size").select_option(label="2 in balled")
    page.get_by_label("In the ball").select_option("dry")
    page.get_by_label("Beside it").select_option("drying")
    page.get_by_label("Basin across").fill("3")


class AddWaterUndo(BrowserTest):
    def live_through(self, size, tag):
        page = self.device(size)
        self.open(page, "/trees")
        page.get_by_role("link", name="Add a tree").click()
        add_tree(page, tag)
        expect(page.get_by_label("Trunk thickness, 6 in up")).to_have_value("2")
        page.get_by_role("button", name="Save").click()

        instruction = page.get_by_role("region", name="Water")
        expect(instruction.get_by_text("due today")).to_be_visible()
        done = instruction.get_by_role("button", name=re.compile(r"^Done [\d.]+\s?gal$"))
        amount = done.inner_text().removeprefix("Done ")
        expect(page.get_by_role("heading", name="How the figure comes about")).to_be_visible()
        self.accessible(page)

        done.click()
        expect(page.get_by_role("status").filter(has_text=f"{tag}: {amount} logged")).to_be_visible()
        expect(instruction.get_by_text(f"{amount} poured today")).to_be_visible()
        expect(done).to_have_count(0)
        expect(instruction.get_by_text("due today")).to_have_count(0)
        log = page.locator("section", has=page.get_by_role("heading", name="Log", exact=True))
        expect(log.get_by_text(amount).first).to_be_visible()
        expect(log.get_by_text("Noor").first).to_be_visible()

        page.reload()
        browser.settle(page)
        expect(instruction.get_by_text(f"{amount} poured today")).to_be_visible()
        page.get_by_role("button", name=re.compile("^Undo")).first.click()
        expect(instruction.get_by_text("due today")).to_be_visible()
        expect(done).to_have_text(f"Done {amount}")
        expect(log.get_by_text("undone").first).to_be_visible()

    def test_wide(self):
        self.live_through(browser.WIDE, "BT-1")

    def test_phone(self):
        self.live_through(browser.PHONE, "BT-2")


class Forms(BrowserTest):
    def test_what_is_refused_is_said_beside_it_and_nothing_typed_is_lost(self):
        page = self.device()
        self.open(page, "/trees/new")
        add_tree(page, "BT-3")
        page.get_by_label("Ball across").fill("-24")
        page.get_by_label("Trunk thickness, 6 in up").fill("thick")
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_text("can't be read; write it like").first).to_be_visible()
        page.get_by_label("Trunk thickness, 6 in up").fill("2")
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_role("alert").first).to_be_visible()
        expect(page.locator("#f-ball-say")).to_have_text(re.compile("must be above 0.in"))
        expect(page.get_by_label("Tag")).to_have_value("BT-3")
        expect(page.get_by_label("Place in words")).to_have_value("second from the bike rack")
        self.provoked(422)
        page.reload()
        browser.settle(page)
        expect(page.get_by_label("Tag")).to_have_value("BT-3")
        page.get_by_label("Ball across").fill("24 in")
        page.get_by_role("button", name="Save").click()
        expect(page).to_have_url(re.compile("/water$"))

    def test_an_unlikely_pot_is_kept_and_doubted_where_it_shows(self):
        page = self.device()
        self.open(page, "/trees/new")
        add_tree(page, "BT-4")
        page.get_by_role("radio", name="container").check()
        page.get_by_label("Trunk thickness, 6 in up").fill("5 cm")
        page.get_by_label("Across the top").fill("18 cm")
        page.get_by_label("Ball height").fill("18 cm")
        page.get_by_role("button", name="Save").click()
        expect(page).to_have_url(re.compile("/water$"))
        expect(page.get_by_text(re.compile("small for", re.I)).first).to_be_visible()

    def test_either_unit_system_can_be_typed(self):
        page = self.device(units="metric")
        self.open(page, "/trees/new")
        field = page.get_by_label("Ball across")
        same = (("24 in", "60.96"), ("2 ft", "60.96"), ("610 mm", "61"), ("1 1/2 ft", "45.72"), ("50", "50"))
        for typed, shown in same:
            field.fill(typed)
            field.blur()
            expect(field).to_have_value(shown)

    def test_a_site_is_changed_and_its_trees_follow(self):
        page = self.device()
        self.open(page, f"/sites/{scenario.name_id('site', 'SO')}/edit")
        page.get_by_label(re.compile("^Texture|soil", re.I)).first.select_option("sand")
        page.get_by_role("button", name="Save").click()
        expect(page).to_have_url(re.compile("/sites$"))
        expect(page.get_by_text(re.compile("sand", re.I)).first).to_be_visible()


class Round(BrowserTest):
    def test_the_round_on_a_phone(self):
        page = self.device(browser.PHONE)
        self.open(page, "/today")
        expect(page.get_by_role("heading", name="Load")).to_be_visible()
        page.get_by_role("button", name="Start the round").click()
        done = page.get_by_role("button", name=re.compile("^Done"))
        first = page.locator("section.current h2 a").inner_text()
        done.click()
        expect(page.get_by_role("status").filter(has_text=f"{first}: ")).to_be_visible()
        expect(page.locator("section.current h2 a")).not_to_have_text(first)
        page.get_by_role("button", name="Other", exact=True).click()
        dialog = page.get_by_role("dialog")
        before = dialog.locator("output").inner_text()
        dialog.get_by_role("button", name="Less", exact=True).click()
        self.assertNotEqual(dialog.locator("output").inner_text(), before)
        second = page.locator("section.current h2 a").inner_text()
        dialog.get_by_role("button", name=re.compile("^Log")).click()
        expect(page.get_by_role("status").filter(has_text=f"{second}: ")).to_be_visible()
        page.reload()
        browser.settle(page)
        expect(page.get_by_role("button", name=f"Undo {first}")).to_be_visible()
        page.get_by_role("button", name=f"Undo {first}").click()
        expect(page.get_by_role("status").filter(has_text=f"{first}: undone")).to_be_visible()
        expect(page.get_by_role("button", name=f"Undo {first}")).to_have_count(0)

    def test_a_new_device_is_asked_who_is_watering_once(self):
        page = self.device(person=None)
        self.open(page, "/today")
        page.get_by_role("button", name="Start the round").click()
        page.get_by_role("button", name=re.compile("^Done")).click()
        dialog = page.get_by_role("dialog", name="Who is at work?")
        expect(dialog).to_be_visible()
        dialog.get_by_label("Another name").fill("Ilse")
        dialog.get_by_role("button", name="That's me").click()
        expect(page.get_by_role("status").filter(has_text="logged")).to_be_visible()
        page.get_by_role("button", name=re.compile("^Done")).click()
        expect(page.get_by_role("dialog", name="Who is at work?")).to_have_count(0)

    def test_the_next_day(self):
        page = self.device()
        self.open(page, "/today")
        page.get_by_role("button", name="Next day").click()
        expect(page.get_by_text("Jul 16, 2026").first).to_be_visible()


class WeatherFile(BrowserTest):
    def choose(self, page: Page, name: str, text: str) -> None:
        folder = Path(tempfile.mkdtemp(prefix="june-"))
        path = folder / name
        path.write_text(text, encoding="utf-8")
        self.addCleanup(lambda: (path.unlink(missing_ok=True), folder.rmdir()))
        page.locator("input[type=file]").set_input_files(path)

    def test_a_file_is_previewed_then_brought_in(self):
        page = self.device()
        self.open(page, "/weather")
        day = scenario.DAY - timedelta(days=1)
        late = scenario.DAY + timedelta(days=3)
        rows = f"date,tmin_f,tmax_f,rain_in\n{day},58,91,0.4\n{day - timedelta(days=1)},91,58,0\n{late},50,80,0\n"
        self.choose(page, "station.csv", rows)
        expect(page.get_by_text("1 day understood")).to_be_visible()
        expect(page.get_by_text("2 lines refused")).to_be_visible()
        expect(page.get_by_text("line 3")).to_be_visible()
        expect(page.get_by_text("has not happened yet")).to_be_visible()
        self.accessible(page)
        page.get_by_role("button", name="Bring in 1 day").click()
        expect(page.get_by_text("1 day brought in")).to_be_visible()
        days = page.get_by_role("table", name="Days")
        expect(days.get_by_role("row").filter(has_text="Jul 14")).to_contain_text(re.compile("0.4.in"))

    def test_a_file_is_undone_and_a_day_put_right(self):
        page = self.device(browser.PHONE)
        self.open(page, "/weather")
        day = scenario.DAY - timedelta(days=1)
        said = page.get_by_role("table", name="Days").get_by_role("row").filter(has_text=f"{day:%b %-d}").first
        before = said.inner_text()
        self.choose(page, "storm.csv", f"date,tmin_f,tmax_f,rain_in\n{day},58,91,3.3\n")
        page.get_by_role("button", name="Bring in 1 day").click()
        expect(said).to_contain_text(re.compile("3.3.in"))
        page.get_by_role("button", name="Undo: storm.csv").click()
        page.get_by_role("button", name="Yes, undo it").click()
        expect(said).not_to_contain_text(re.compile("3.3.in"))
        self.assertEqual(said.inner_text(), before)
        page.get_by_role("button", name=re.compile(f"^Correct: .*{day:%b %-d}")).click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("Rain").fill("-1 in")
        dialog.get_by_role("button", name="Keep these figures").click()
        expect(dialog.get_by_role("alert")).to_be_visible()
        self.provoked(422)
        dialog.get_by_label("Rain").fill("1.25 in")
        self.accessible(page)
        dialog.get_by_role("button", name="Keep these figures").click()
        expect(said).to_contain_text(re.compile("1.25.in"))
        expect(page.get_by_role("button", name=re.compile("Undo: .*by hand")).first).to_be_visible()

    def test_a_file_that_is_none_says_so(self):
        page = self.device(browser.PHONE)
        self.open(page, "/weather")
        self.choose(page, "photo.csv", "not,a,weather,file\n1,2,3,4\n")
        expect(page.get_by_text("The columns are not understood yet")).to_be_visible()
        expect(page.get_by_role("button", name=re.compile("^Bring in"))).to_have_count(0)
        self.choose(page, "nothing.csv", "")
        expect(page.get_by_role("alert").filter(has_text="nothing.csv")).to_be_visible()
        self.provoked(422)


class FromNothing(BrowserTest):
    """The empty program, led through to a first plan on the real weather of Seattle."""

    data = "seeded"

    def test_to_a_plan_on_real_weather(self):
        page = self.device()
        self.open(page, "/")
        expect(page.get_by_role("heading", name="From nothing to a first plan")).to_be_visible()
        self.accessible(page)
        self.open(page, "/weather/stations/new")
        page.get_by_label("Name").fill("Harbor field")
        page.get_by_label("Latitude").fill("47.45")
        page.get_by_label("Longitude").fill("-122.31")
        page.get_by_label("Elevation").fill("132 m")
        page.get_by_label("Height of the wind gauge").fill("10 m")
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_text("There is a station.")).to_be_visible()
        self.open(page, "/weather")
        text = resources.files("vega_datasets").joinpath("_data/seattle-weather.csv").read_text(encoding="utf-8")
        WeatherFile.choose(self, page, "seattle.csv", text)
        for header, meaning in (
            ("precipitation", "rain_mm"), ("temp_max", "tmax_c"), ("temp_min", "tmin_c"), ("wind", "wind_m_s"),
        ):  # fmt: skip
            page.get_by_label(f"{header} means").select_option(meaning)
            browser.settle(page)
        expect(page.get_by_label("weather means")).to_have_value("")
        expect(page.get_by_text("1,461 days understood")).to_be_visible()
        page.get_by_role("button", name=re.compile("^Bring in")).click()
        expect(page.get_by_text("1,461 days brought in")).to_be_visible()

        self.open(page, "/sites/new")
        page.get_by_label("Name").fill("Harbor field")
        page.get_by_label("Time zone").fill("America/Los_Angeles")
        page.get_by_label("Latitude").fill("47.45")
        page.get_by_label("Longitude").fill("-122.31")
        page.get_by_label("Elevation").fill("132 m")
        page.get_by_label("Texture").select_option("loam")
        page.get_by_label("Hose flow").fill("100 gal/h")
        page.get_by_label("Weather station").select_option(label="Harbor field")
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_text("There is a site.")).to_be_visible()

        self.open(page, "/trees/new")
        page.get_by_label("Tag").fill("1")
        page.get_by_role("combobox", name="Kind of tree").click()
        page.get_by_role("combobox", name="Kind of tree").fill("bur oak")
        page.get_by_role("option", name=re.compile("Bur oak")).click()
        page.get_by_label("Planted on").fill((date.today() - timedelta(days=20)).isoformat())
        page.get_by_label("Size").select_option(label="2 in balled")
        page.get_by_role("button", name="Save").click()
        expect(page).to_have_url(re.compile("/water$"))
        expect(page.get_by_role("region", name="Water")).to_be_visible()
        expect(page.get_by_role("heading", name="How the figure comes about")).to_be_visible()


if __name__ == "__main__":
    unittest.main()
