"""The second language on a phone: a comma is a decimal comma, refusals are said in it, it is switched and stays.

That every view speaks it, and fits, is looked at where every view is (test_views).
"""

import unittest

from june_shade.launch.browser import PHONE
from tests.browser.harness import BrowserTest, expect, scenario

TREES = [scenario.name_id("tree", "HL", number) for number in (9, 10)]
SPAIN = "es-ES"


class Spanish(BrowserTest):
    def test_figures_have_a_comma_and_are_taken_with_one_and_with_a_point(self):
        page = self.device(PHONE, "metric", locale=SPAIN)
        for tree, typed in zip(TREES, ("3,5", "2.5"), strict=True):
            self.open(page, f"/trees/{tree}/water")
            page.get_by_role("button", name="Otro", exact=True).click()
            page.get_by_label("o escríbelo").fill(typed)
            page.get_by_role("button", name=f"Anotar {typed.replace('.', ',')} L").click()
            expect(page.get_by_role("status").filter(has_text=f"{typed.replace('.', ',')}")).to_be_visible()
            self.accessible(page)

    def test_what_the_program_refuses_it_says_in_spanish(self):
        page = self.device(PHONE, "metric", locale=SPAIN)
        self.open(page, f"/trees/{TREES[0]}/edit")
        page.get_by_label("Etiqueta").fill("HL-01")
        page.get_by_role("button", name="Guardar", exact=True).first.click()
        expect(page.get_by_text("'HL-01' ya está tomado").first).to_be_visible()
        self.provoked(409)

    def test_it_is_switched_where_units_are_and_stays(self):
        page = self.device(PHONE)
        self.open(page, "/more")
        page.get_by_role("button", name="Español").click()
        expect(page.get_by_role("heading", name="Más")).to_be_visible()
        page.reload()
        expect(page.get_by_role("button", name="English")).to_be_visible()
        self.accessible(page)
        page.get_by_role("button", name="English").click()
        expect(page.get_by_role("heading", name="More")).to_be_visible()


if __name__ == "__main__":
    unittest.main()
