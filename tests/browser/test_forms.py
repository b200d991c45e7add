"""Forms and pages for the keyboard and the screen reader: titles, the first wrong field, what is said of it."""

import unittest

from june_shade.launch.browser import WIDE
from tests.browser.harness import BrowserTest, expect


class Told(BrowserTest):
    def test_the_first_wrong_field_is_focused_and_all_are_marked_with_what_is_said_of_them(self):
        page = self.device(WIDE)
        self.open(page, "/weather/stations/new")
        page.get_by_role("button", name="Save").click()
        name = page.get_by_label("Name")
        expect(name).to_be_focused()
        for field in ("Name", "Latitude", "Longitude"):
            control = page.get_by_label(field, exact=True)
            expect(control).to_have_attribute("aria-invalid", "true")
            said = control.get_attribute("aria-describedby")
            expect(page.locator(f"#{said}")).to_have_text("is needed")
        name.fill("Yard")
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_label("Latitude")).to_be_focused()
        expect(name).not_to_have_attribute("aria-invalid", "true")
        self.accessible(page)

    def test_twelve_months_are_all_given_or_none_and_a_row_of_them_is_pasted(self):
        page = self.device(WIDE, units="metric")
        self.open(page, "/weather/stations/new")
        for field, value in (("Name", "Dry creek"), ("Latitude", "40"), ("Longitude", "-105"), ("Elevation", "1500")):
            page.get_by_label(field, exact=True).fill(value)
        page.get_by_label("Jul", exact=True).fill("7.5")
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_label("Jan", exact=True)).to_be_focused()
        page.evaluate(
            """() => {
              const data = new DataTransfer()
              data.setData('text', '1 1.5 2.5 4 5 6.5 7 6 4.5 3 1.5 1')
              document.querySelector('.months').dispatchEvent(
                new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))
            }"""
        )
        expect(page.get_by_label("Dec", exact=True)).to_have_value("1")
        self.fits(page)
        page.get_by_role("button", name="Save").click()
        page.wait_for_url("**/weather")
        stations = page.evaluate("fetch('/api/stations').then((answer) => answer.json())")
        made = next(s for s in stations if s["name"] == "Dry creek")
        self.assertEqual(made["monthly_eto_mm"], [1, 1.5, 2.5, 4, 5, 6.5, 7, 6, 4.5, 3, 1.5, 1])

    def test_each_page_has_a_name(self):
        page = self.device(WIDE)
        seen = set()
        for path in ("/today", "/ahead/work", "/ahead/load", "/trees", "/trees/new", "/sites", "/weather", "/plants"):
            self.open(page, path)
            page.wait_for_function("document.title.includes(' · ')")
            seen.add(page.title())
        self.assertEqual(len(seen), 8, seen)


if __name__ == "__main__":
    unittest.main()
