"""Pictures of trees: taken at what is written down, seen in the tree's history, large, side by side, taken away."""

import re
import unittest

from june_shade.launch.browser import PHONE, WIDE
from tests.browser.harness import BrowserTest, expect
from tests.formats.test_picture import taken


def picture(name: str = "IMG_1.jpg", data: bytes = b"", size=(640, 480)) -> dict:
    return {"name": name, "mimeType": "image/jpeg", "buffer": data or taken(size, day="2026:07:14 07:00:00")}


class Pictures(BrowserTest):
    def tree(self, page, tag: str) -> None:
        self.open(page, f"/trees?q={tag}")
        page.get_by_role("link", name=tag).click()
        page.wait_for_url(re.compile("/water$"))

    def test_a_note_keeps_its_picture_and_a_file_that_is_none_leaves_all_as_typed(self):
        page = self.device(PHONE)
        self.tree(page, "HL-02")
        note = page.get_by_label("Seen something? Write it down")
        note.fill("bark rubbed by the mower")
        page.locator("#note-pictures").set_input_files(picture("page.jpg", b"<svg><script>alert(1)</script></svg>"))
        page.get_by_role("button", name="Keep it").click()
        page.get_by_role("alert").filter(has_text="JPEG, PNG or WebP").wait_for()
        self.provoked(422)
        expect(note).to_have_value("bark rubbed by the mower")
        page.get_by_role("button", name=re.compile("^Leave out")).click()
        page.locator("#note-pictures").set_input_files([picture(), picture("IMG_2.jpg", size=(480, 640))])
        expect(page.get_by_role("button", name=re.compile("^Leave out"))).to_have_count(2)
        self.accessible(page)
        page.get_by_role("button", name="Keep it").click()
        expect(note).to_have_value("")
        page.get_by_role("link", name="History").click()
        row = page.locator(".rows li").filter(has_text="bark rubbed by the mower")
        row.get_by_role("button", name=re.compile("^Picture 1 of")).click()
        expect(page.get_by_role("dialog").locator("img")).to_have_js_property("naturalWidth", 640)
        page.keyboard.press("Escape")
        self.fits(page)

    def test_a_note_whose_answer_was_lost_is_tried_again_and_is_one(self):
        page = self.device(PHONE)
        self.tree(page, "HL-04")
        lost, is_back = [], []

        def lose(route):
            if is_back:
                return route.continue_()
            route.fetch()
            return lost.append(route.abort())

        page.route("**/api/log/*", lose)
        note = page.get_by_label("Seen something? Write it down")
        note.fill("a nest in the crown")
        page.locator("#note-pictures").set_input_files(picture())
        page.get_by_role("button", name="Keep it").click()
        expect(note).to_have_value("")
        page.get_by_text(re.compile("1 waits to be sent|Sending 1")).wait_for()
        self.assertGreaterEqual(len(lost), 3, "tried three times at once")
        is_back.append(True)
        expect(page.locator(".strip")).to_have_count(0)
        self.provoked("net::ERR_FAILED")
        page.get_by_role("link", name="History").click()
        expect(page.locator(".rows li").filter(has_text="a nest in the crown")).to_have_count(1)
        expect(page.locator(".rows li").filter(has_text="a nest in the crown").locator("img")).to_have_count(1)

    def test_then_and_now_stand_side_by_side_and_one_is_taken_away(self):
        page = self.device(WIDE)
        self.tree(page, "HL-03")
        page.get_by_role("link", name="History").click()
        page.get_by_text("None yet.").wait_for()
        page.locator("#add-tree").set_input_files(picture())
        page.get_by_text("Kept.").wait_for()
        page.locator("#add-tree").set_input_files([picture("b.jpg", taken((300, 200), day="2026:07:10 07:00:00"))])
        expect(page.get_by_label("Then", exact=True).locator("option:checked")).to_contain_text("Jul 10, 2026")
        expect(page.get_by_label("Now", exact=True).locator("option:checked")).to_contain_text("Jul 14, 2026")
        self.accessible(page)
        page.get_by_role("button", name=re.compile("^Jul 10, 2026.*show it large")).last.click()
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_role("button", name="Older")).to_be_disabled()
        dialog.get_by_role("button", name="Newer").click()
        expect(dialog).to_contain_text("Jul 14, 2026")
        dialog.get_by_role("button", name="Remove").click()
        dialog.get_by_role("button", name="Remove").click()
        expect(page.get_by_role("dialog")).to_have_count(0)
        expect(page.get_by_label("Then", exact=True)).to_have_count(0)


if __name__ == "__main__":
    unittest.main()
