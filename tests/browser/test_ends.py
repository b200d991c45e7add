"""A tree that is gone, a page that is missing, a program that comes back: seen in the browser."""

import unittest

from june_shade.launch import serving
from june_shade.launch.browser import PHONE, WIDE
from june_shade.settings import Settings
from tests.browser.harness import BrowserTest, expect
from tests.support import fresh_database


class Ends(BrowserTest):
    def test_a_tree_that_died_leaves_the_list_stays_in_the_book_and_comes_back(self):
        page = self.device(WIDE)
        self.open(page, "/trees?q=HL-03")
        page.get_by_role("link", name="HL-03").click()
        page.get_by_role("link", name="Edit", exact=False).first.click()
        page.get_by_role("button", name="Dead or gone").click()
        page.get_by_text("It died").click()
        page.get_by_label("Of what").fill("drought")
        page.get_by_role("button", name="Write it down").click()
        page.get_by_text("Died", exact=False).first.wait_for()
        self.accessible(page)
        self.open(page, "/trees?q=HL-03")
        page.get_by_text("No tree matches").wait_for()
        self.open(page, "/trees?q=HL-03&state=ended")
        page.get_by_role("link", name="HL-03").click()
        page.get_by_role("link", name="Plant another here").wait_for()
        page.get_by_role("button", name="It stands after all").click()
        page.get_by_role("link", name="Water", exact=True).wait_for()

    def test_addresses_that_name_nothing_say_so_with_a_way_back(self):
        page = self.device(PHONE)
        none = "00000000-0000-4000-8000-00000000dead"
        for path, home in (
            (f"/trees/{none}/water", "Trees"), (f"/trees/{none}/edit", "Trees"), ("/trees/typo/mulch", "Trees"),
            (f"/sites/{none}", "Sites"), (f"/sites/{none}/edit", "Sites"), (f"/plantings/{none}", "Sites"),
            (f"/plantings/{none}/edit", "Sites"), (f"/lines/{none}", "Sites"), (f"/plants/{none}/edit", "Trees"),
            (f"/weather/stations/{none}/edit", "Weather"), (f"/sites/{none}/soil/jar", "Sites"), ("/nowhere", "Today"),
        ):  # fmt: skip
            with self.subTest(path):
                page.goto(self.address + path)
                page.get_by_role("heading", name="There is nothing here").first.wait_for()
                page.get_by_role("link", name=f"Go to {home}").wait_for()
        self.provoked(404)


class FoundGone(BrowserTest):
    def test_a_skip_because_the_tree_is_gone_asks_what_became_of_it(self):
        page = self.device(PHONE)
        self.open(page, "/today")
        ended = "fetch('/api/trees?state=ended').then((answer) => answer.json())"
        before = page.evaluate(ended)["count"]
        page.get_by_role("button", name="Start the round").click()
        page.get_by_role("button", name="Other", exact=False).first.click()
        dialog = page.get_by_role("dialog").first
        dialog.get_by_text("Skip it").click()
        dialog.get_by_role("button", name="gone").click()
        asked = page.get_by_role("dialog", name="What became of")
        asked.get_by_text("Removed").click()
        asked.get_by_role("button", name="Write it down").click()
        asked.wait_for(state="hidden")
        self.assertEqual(page.evaluate(ended)["count"], before + 1)


class ComesBack(BrowserTest):
    def test_while_the_program_does_not_answer_the_page_says_so_and_comes_back_by_itself(self):
        page = self.device(PHONE)
        self.open(page, "/trees")
        gone = lambda route: route.fulfill(  # noqa: E731
            status=503, content_type="application/problem+json",
            body='{"title":"","status":503,"detail":"the database does not answer","code":"database_unavailable"}',
        )  # fmt: skip
        page.route("**/api/**", gone)
        page.get_by_role("link", name="Ahead").click()
        page.get_by_text("Back in a moment").wait_for()
        page.unroute("**/api/**", gone)
        page.get_by_role("rowheader", name="Hobb Lane School").wait_for()
        self.assertEqual(page.get_by_text("Back in a moment").count(), 0)
        self.provoked(503)


class Copies(BrowserTest):
    def test_a_copy_goes_out_and_into_an_empty_program(self):
        page = self.device()
        self.open(page, "/copy")
        expect(page.get_by_role("button", name="Bring it back")).to_be_hidden()
        with page.expect_download() as saved:
            page.get_by_role("button", name="Save the file").click()
        self.assertRegex(saved.value.suggested_filename, r"^june-shade-\d{4}-\d\d-\d\d\.zip$")
        expect(page.get_by_role("status").filter(has_text=saved.value.suggested_filename)).to_be_visible()
        with serving.background(Settings(database_url=fresh_database())) as empty:
            page.goto(f"{empty}/copy")
            page.get_by_label("The saved file").set_input_files(saved.value.path())
            page.get_by_role("button", name="Bring it back").click()
            expect(page.get_by_role("status").filter(has_text="96 trees")).to_be_visible()  # one of them died
            page.goto("about:blank")  # it asks nothing of a program that has ended


if __name__ == "__main__":
    unittest.main()
