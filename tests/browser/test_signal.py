"""A phone without signal: what it shows, what it keeps, what it sends once it is back; never lost, never doubled."""

import json
import re
import time
import urllib.request

from june_shade.demo import scenario
from june_shade.launch.browser import PHONE
from tests.browser.harness import NOOR, BrowserTest, expect
from tests.browser.test_pictures import picture

TAVI = {"id": str(scenario.name_id("person", "Tavi")), "name": "Tavi"}
ALONG = """async (tree) => {
  const asked = indexedDB.open('june-shade')
  const db = await new Promise((ok) => (asked.onsuccess = () => ok(asked.result)))
  if (!db.objectStoreNames.contains('answers')) return db.close()
  const all = db.transaction('answers').objectStore('answers').getAllKeys()
  const keys = await new Promise((ok) => (all.onsuccess = () => ok(all.result)))
  db.close()
  const installed = (await navigator.serviceWorker.getRegistration())?.active?.state === 'activated'
  const book = `/api/book?tree_id=${tree}&undone=false&limit=100`
  return installed && keys.includes('/api/today/ahead') && (!tree || keys.includes(book))
}"""
OUTBOX = """async () => {
  const asked = indexedDB.open('june-shade')
  const db = await new Promise((ok) => (asked.onsuccess = () => ok(asked.result)))
  const all = db.transaction('outbox').objectStore('outbox').getAll()
  const rows = await new Promise((ok) => (all.onsuccess = () => ok(all.result)))
  db.close()
  return rows.length ? rows.map((row) => `${row.kind} ${row.state} ${row.why?.detail ?? ''}`).join('; ') : ''
}"""


class Signal(BrowserTest):
    """What every test here does: a phone that has the program and its plans along."""

    def get(self, path: str):
        with urllib.request.urlopen(self.address + path) as answer:
            return json.load(answer)

    def logged(self, tree: str, kind: str = "water") -> list[dict]:
        """A tree's standing entries of today as the program has them."""
        today = self.get("/api/clock")["day"]
        entries = self.get(f"/api/trees/{tree}/log")
        return [e for e in entries if e["kind"] == kind and e["local_date"] == today and not e["voided"]]

    def round(self) -> list[dict]:
        """Trees that want water today, in order."""
        sites = self.get("/api/today")["sites"]
        return [t for s in sites for stop in s["stops"] for t in stop["trees"] if t["next"] and not t["skipped"]]

    def along(self, tree: str | None = None, person=NOOR):
        """A phone that took its plans along."""
        page = self.device(PHONE, person=person, carried=True)
        self.addCleanup(page.context.set_offline, False)
        self.open(page, "/waiting")
        page.get_by_role("button", name="Take along now").click()
        until = time.monotonic() + 60
        while not page.evaluate(ALONG, tree):
            self.assertLess(time.monotonic(), until, "nothing was taken along")
            page.wait_for_timeout(200)
        return page

    def begin(self, page) -> str:
        """Start the round; the tag of the tree in hand."""
        self.open(page, "/today")
        page.locator("section.yard, section.current").first.wait_for()
        if page.get_by_role("button", name="Start the round").count():
            page.get_by_role("button", name="Start the round").click()
        return page.locator("section.current h2 a").inner_text()

    def done(self, page, tag: str) -> None:
        """Log what is planned for the tree in hand, and have the next one there."""
        page.get_by_role("button", name=re.compile("^Done ")).first.click()
        expect(page.locator("section.current h2 a")).not_to_have_text(tag)

    def back(self, page) -> None:
        """Signal is back, and everything is sent."""
        page.context.set_offline(False)
        self.emptied(page)
        expect(page.get_by_text("No signal.")).to_be_hidden()

    def emptied(self, page) -> None:
        """Nothing waits to be sent any more."""
        until = time.monotonic() + 30
        while page.evaluate(OUTBOX):
            self.assertLess(time.monotonic(), until, page.evaluate(OUTBOX))
            page.wait_for_timeout(200)


class ADay(Signal):
    def test_a_round_without_signal_is_crossed_off_survives_a_restart_and_arrives_once(self):
        first, second, third, *_ = self.round()
        page = self.along(third["id"])
        page.context.set_offline(True)
        tag = self.begin(page)
        expect(page.get_by_text("No signal.")).to_be_visible()
        self.done(page, tag)
        page.get_by_role("button", name="Other", exact=True).click()
        page.get_by_role("dialog").get_by_role("button", name="Skip it", exact=True).click()
        page.get_by_role("dialog").get_by_role("button", name="Soil is wet").click()
        expect(page.get_by_text("2 wait to be sent")).to_be_visible()
        self.fits(page)
        self.open(page, f"/trees/{third['id']}/water")
        note = page.get_by_label("Seen something? Write it down")
        note.fill("cracks in the clay")
        page.locator("#note-pictures").set_input_files(picture())
        page.get_by_role("button", name="Keep it").click()
        expect(page.get_by_text("4 wait to be sent")).to_be_visible()
        page.reload()
        expect(page.get_by_text("cracks in the clay")).to_be_visible()
        page.goto(self.address + "/today")
        expect(page.locator("section.current h2 a")).to_have_text(third["tag"])
        self.assertEqual(self.logged(first["id"]), [])
        page.get_by_role("link", name="Look").click()
        expect(page.locator("li.waiting")).to_have_count(4)
        self.accessible(page)
        self.fits(page)
        self.back(page)
        self.assertEqual([len(self.logged(first["id"])), len(self.logged(second["id"], "skip"))], [1, 1])
        self.assertEqual([e["note"] for e in self.logged(third["id"], "note")], ["cracks in the clay"])
        self.assertEqual(len(self.get(f"/api/trees/{third['id']}/pictures")), 1)

    def test_an_answer_that_never_came_is_no_second_watering(self):
        tree = self.round()[0]
        page = self.along()
        tag = self.begin(page)
        lost = []

        def lose(route):
            route.fetch()
            lost.append(route.abort())

        page.context.route("**/api/log/*", lose)
        self.done(page, tag)
        expect(page.get_by_text(re.compile("1 waits to be sent|Sending 1"))).to_be_visible()
        self.assertEqual(len(self.logged(tree["id"])), 1, "it did arrive")
        page.context.unroute("**/api/log/*")
        expect(page.get_by_text(re.compile("1 waits to be sent|Sending 1"))).to_be_hidden()
        self.emptied(page)
        self.assertEqual(len(self.logged(tree["id"])), 1)
        self.complaints.clear()  # the browser's own lines about lost answers

    def test_a_check_up_without_signal_comes_to_what_the_program_says(self):
        tree = self.round()[0]["id"]
        page = self.along(tree)
        page.context.set_offline(True)
        self.open(page, f"/trees/{tree}/checks")
        page.get_by_role("button", name=re.compile("^Check (this tree|it again)$")).click()
        keep, answers = page.get_by_role("button", name="Keep the check-up"), page.locator("button.answer")
        while not keep.count():
            answers.first.click()
            page.wait_for_timeout(700)  # a button that came under a finger just now takes no tap
        said = page.locator("section.check h2.act").inner_text()
        keep.click()
        expect(page.get_by_text("1 waits to be sent")).to_be_visible()
        self.back(page)
        kept = self.get(f"/api/trees/{tree}/checks")["checkups"][0]
        self.assertTrue(kept["findings"])
        page.reload()
        expect(page.get_by_text(said).first).to_be_visible()
