"""A probe in the ground: entered at a tree, asked, calibrated by hand, wide and on a phone."""

from june_shade.demo import scenario
from june_shade.launch import browser
from june_shade.launch.processes import StandIn
from tests.browser.harness import BrowserTest, expect

TREE = scenario.name_id("tree", "SO", 12)


class Probes(BrowserTest):
    def test_one_is_entered_asked_and_read_by_what_a_hand_feels_beside_it(self):
        device = StandIn("soil_probe", "--hours", "100")
        device.start()
        self.addCleanup(device.stop)
        page = self.device(person=None)
        self.open(page, f"/trees/{TREE}/checks")
        page.get_by_role("button", name="Enter a probe").click()
        page.get_by_label("Name", exact=True).fill("In the clay")
        page.get_by_label("Address").fill("under the tree")
        page.get_by_role("button", name="Save", exact=True).click()
        self.provoked(422)
        expect(page.get_by_text("must be an address").first).to_be_visible()
        page.get_by_label("Address").fill(device.address)
        self.accessible(page)
        page.get_by_role("button", name="Save", exact=True).click()
        expect(page.get_by_text("Shown, not counted")).to_be_visible()
        page.get_by_role("button", name="Ask it now").click()
        expect(page.locator("#probes figure")).to_be_visible()
        for size in (browser.WIDE, browser.PHONE):
            with self.subTest(size=size):
                page = self.device(size)
                self.open(page, f"/trees/{TREE}/checks")
                page.get_by_role("button", name="Feel beside it").click()
                page.get_by_role("group", name="Feel beside it").get_by_role("button", name="drying").click()
                expect(page.locator("#probes").get_by_text("Felt drying")).to_be_visible()
                expect(page.get_by_text("Shown, not counted")).to_have_count(0)
                self.accessible(page)
                self.fits(page)
        page.get_by_role("button", name="Take back what was felt").click()
        expect(page.get_by_text("Shown, not counted")).to_be_visible()
