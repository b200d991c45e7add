"""A box at a valve: entered, its runs seen on the site and on Today, stopped at a tap, wide and on a phone."""

import re
import unittest
from uuid import uuid4

from june_shade.demo import scenario
from june_shade.launch import browser
from june_shade.launch.processes import StandIn
from tests.browser.harness import BrowserTest, expect

SITE = scenario.name_id("site", "RT")


class Boxes(BrowserTest):
    def test_one_is_entered_gets_its_runs_and_a_run_is_stopped_from_today(self):
        device = StandIn("valve_box", "--outlet", "3.7")
        device.start()
        self.addCleanup(device.stop)
        owner = self.device(person=None)
        self.open(owner, f"/sites/{SITE}")
        owner.get_by_role("button", name="Enter a box").click()
        owner.get_by_label("Name", exact=True).fill("Depot box")
        owner.get_by_label("Address").fill("box on the pole")
        owner.get_by_label("May run from").fill("00:00")
        owner.get_by_label("until").fill("23:59")
        owner.get_by_label("Depot Street valve: on outlet").fill("1")
        owner.get_by_role("button", name="Save", exact=True).click()
        expect(owner.get_by_text("must be an address").first).to_be_visible()
        owner.get_by_label("Address").fill(device.address)
        self.accessible(owner)
        owner.get_by_role("button", name="Save", exact=True).click()
        expect(owner.get_by_role("heading", name="Depot box")).to_be_visible()
        owner.get_by_role("button", name="Ask it now").click()
        expect(owner.get_by_text("the box has it").first).to_be_visible()
        self.fits(owner)
        for size in (browser.WIDE, browser.PHONE):
            with self.subTest(size=size):
                page = self.device(size)
                self.open(page, "/today")
                runs = page.get_by_role("region", name="Valves that run by themselves")
                expect(runs.get_by_text(re.compile("Depot Street valve")).first).to_be_visible()
                expect(page.get_by_text(re.compile("^by the box, ")).first).to_be_visible()
                self.accessible(page)
                self.fits(page)
                if size == browser.PHONE:
                    runs.get_by_role(
                        "button", name=re.compile("(Stop it|Don't run it): Depot Street valve")
                    ).first.click()
                    expect(runs.get_by_text("stopped after").first).to_be_visible()
                    expect(page.get_by_text(re.compile("^by the box, "))).to_have_count(0)
        self.provoked(422)

    def test_one_that_is_silent_is_not_stopped_and_says_what_to_do(self):
        device = StandIn("valve_box", "--outlet", "3.7")
        device.start()
        self.addCleanup(device.stop)
        owner = self.device(browser.PHONE, person=None)
        self.open(owner, f"/sites/{SITE}")
        owner.get_by_role("button", name="Enter a box").click()
        owner.get_by_label("Name", exact=True).fill("Quarry box")
        owner.get_by_label("Address").fill(device.address)
        owner.get_by_label("May run from").fill("00:00")
        owner.get_by_label("until").fill("23:59")
        line = owner.get_by_label(re.compile("valve: on outlet")).last
        line.fill("1")
        owner.get_by_role("button", name="Save", exact=True).click()
        box = owner.locator("article").filter(has_text="Quarry box")
        box.get_by_role("button", name="Ask it now").click()
        stop = box.get_by_role("button", name=re.compile("^(Stop it|Don't run it): ")).first
        expect(stop).to_be_visible()
        device.stop()
        stop.click()
        expect(box.get_by_text("by hand").first).to_be_visible()
        self.accessible(owner)
        self.fits(owner)
        self.provoked(409)


class AtNight(BrowserTest):
    def test_what_runs_before_anybody_is_up_is_seen_and_stopped_the_day_before(self):
        device = StandIn("valve_box", "--outlet", "3.7")
        device.start()
        self.addCleanup(device.stop)
        page = self.device(browser.PHONE)
        line = next(one for one in page.request.get(f"{self.address}/api/sites/{SITE}/lines").json() if one["laid"])
        body = {"site_id": str(SITE), "name": "Night box", "address": device.address, "hours": [[60, 240]],
                "outlets": [{"number": 1, "line_id": line["id"]}]}  # fmt: skip
        at, origin = f"{self.address}/api/boxes/{uuid4()}", {"Origin": self.address}
        for sent in (page.request.put(at, data=body, headers=origin), page.request.post(f"{at}/ask", headers=origin)):
            self.assertEqual(sent.status, 200, sent.text())
        self.open(page, "/today")
        runs = page.get_by_role("region", name="Valves that run by themselves")
        expect(runs.get_by_text("in the next days")).to_be_visible()
        self.accessible(page)
        self.fits(page)
        runs.get_by_role("button", name=re.compile(f"^Don't run it: {line['name']}")).click()
        expect(runs.get_by_text("in the next days")).to_have_count(0)


if __name__ == "__main__":
    unittest.main()
