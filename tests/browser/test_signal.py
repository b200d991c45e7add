"""A phone without signal: what it shows, what it keeps, what it sends once it is back; never lost, never doubled."""

import json
import re
import time
import urllib.request

from june_shade.demo import scenario
from june_shade.launch.browser import PHONE
from june_shade.plans.work import make_engine, make_sessions
from june_shade.settings import ROOT
from june_shade.store.session import transaction
from tests.browser.harness import NOOR, BrowserTest, expect
from tests.browser.test_pictures import picture
from tests.support import new_id, plant_id, small_site, tree_body

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
PUT = """([path, body]) => fetch(path, { method: 'PUT', body: JSON.stringify(body), headers: { 'Content-Type':
'application/json' } }).then((answer) => answer.status)"""
LOOK_EVERY_MS = 200
TAPS_AGAIN_MS = 700
"""A button that came under a finger just now takes no tap."""
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

    data = "school"

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
        return self.take_along(page, tree)

    def take_along(self, page, tree: str | None = None):
        """Have a phone take along its plans, and a tree's book."""
        self.open(page, "/waiting")
        page.get_by_role("button", name="Take along now").click()
        self.until(page, lambda: page.evaluate(ALONG, tree), "nothing was taken along")
        return page

    def until(self, page, holds, words: str) -> None:
        """Look again and again, for a minute at most, whether something holds."""
        end = time.monotonic() + 60
        while not holds():
            self.assertLess(time.monotonic(), end, words)
            page.wait_for_timeout(LOOK_EVERY_MS)

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
        self.until(page, lambda: not page.evaluate(OUTBOX), "something waits still")


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
        lost, is_back = [], []

        def lose(route):
            if is_back:
                return route.continue_()
            route.fetch()
            return lost.append(route.abort())

        page.context.route("**/api/log/*", lose)
        self.done(page, tag)
        expect(page.get_by_text(re.compile("1 waits to be sent|Sending 1"))).to_be_visible()
        self.assertEqual(len(self.logged(tree["id"])), 1, "it did arrive")
        is_back.append(True)
        expect(page.get_by_text(re.compile("1 waits to be sent|Sending 1"))).to_be_hidden()
        self.emptied(page)
        self.assertEqual(len(self.logged(tree["id"])), 1)
        self.provoked("net::ERR_FAILED")

    def test_a_check_up_without_signal_comes_to_what_the_program_says(self):
        tree = self.round()[0]["id"]
        page = self.along(tree)
        page.context.set_offline(True)
        self.open(page, f"/trees/{tree}/checks")
        page.get_by_role("button", name=re.compile("^Check (this tree|it again)$")).click()
        keep, answers = page.get_by_role("button", name="Keep the check-up"), page.locator("button.answer")
        while not keep.count():
            answers.first.click()
            page.wait_for_timeout(TAPS_AGAIN_MS)
        said = page.locator("section.check h2.act").inner_text()
        keep.click()
        expect(page.get_by_text("1 waits to be sent")).to_be_visible()
        self.back(page)
        kept = self.get(f"/api/trees/{tree}/checks")["checkups"][0]
        self.assertTrue(kept["findings"])
        words = json.loads((ROOT / "web/src/i18n/en.json").read_text())["checks"]["act"]
        self.assertEqual(said, words[kept["water_act"]], "the phone said what the program finds")


class Trouble(Signal):
    def test_two_phones_water_one_tree_and_a_person_says_whether_it_was_one(self):
        noor, tavi = self.along(), self.along(person=TAVI)
        tree = self.round()[0]
        for phone in (noor, tavi):
            phone.context.set_offline(True)
        for phone in (noor, tavi):
            self.done(phone, self.begin(phone))
        self.back(noor)
        self.back(tavi)
        self.assertEqual(len(self.logged(tree["id"])), 2, "nothing is overwritten")
        expect(tavi.get_by_text("1 needs you")).to_be_visible()
        tavi.get_by_role("link", name="Look").click()
        sides = tavi.locator(".sides li")
        expect(sides).to_have_count(2)
        expect(sides.nth(0)).to_contain_text("this phone, Tavi")
        expect(sides.nth(1)).to_contain_text("Noor")
        self.accessible(tavi)
        self.fits(tavi)
        tavi.get_by_role("button", name="One: undo mine").click()
        expect(sides).to_have_count(0)
        self.emptied(tavi)
        left = self.logged(tree["id"])
        self.assertEqual([entry["person"] for entry in left], ["Noor"])

    def test_what_the_program_does_not_take_is_shown_and_never_lost_by_itself(self):
        """As an older version of the program may have left it: with a field that is no more."""
        page = self.along()
        tree = self.round()[0]
        page.context.set_offline(True)
        tag = self.begin(page)
        self.done(page, tag)
        page.evaluate("""async () => {
          const asked = indexedDB.open('june-shade')
          const db = await new Promise((ok) => (asked.onsuccess = () => ok(asked.result)))
          const writing = db.transaction('outbox', 'readwrite')
          const stored = new Promise((ok) => (writing.oncomplete = ok)) // a reload before it would take it back
          const table = writing.objectStore('outbox')
          const all = table.getAll()
          const rows = await new Promise((ok) => (all.onsuccess = () => ok(all.result)))
          for (const row of rows) await table.put({ ...row, shape: 0, body: { ...row.body, hose: 'green' } })
          await stored
          db.close()
        }""")
        page.reload()
        page.context.set_offline(False)
        expect(page.get_by_text("1 needs you")).to_be_visible()
        self.assertEqual(self.logged(tree["id"]), [])
        page.reload()
        page.get_by_role("link", name="Look").click()
        expect(page.get_by_text(re.compile("^Not taken: "))).to_be_visible()
        expect(page.get_by_role("main")).to_contain_text(f"{tag} ")
        page.get_by_role("button", name="Give it up").click()
        page.get_by_role("button", name="Yes, throw it away").click()
        self.emptied(page)
        self.provoked(422)

    def test_a_full_phone_says_so_and_what_was_typed_stays(self):
        page = self.along()
        tree = self.round()[0]["id"]
        self.open(page, f"/trees/{tree}/water")
        page.context.set_offline(True)
        page.evaluate("""() => {
          globalThis.__add = IDBObjectStore.prototype.add
          IDBObjectStore.prototype.add = () => { throw new DOMException('no room', 'QuotaExceededError') }
        }""")
        note = page.get_by_label("Seen something? Write it down")
        note.fill("sapsucker holes")
        page.get_by_role("button", name="Keep it").click()
        expect(page.get_by_role("alert").filter(has_text="This phone is full")).to_be_visible()
        expect(note).to_have_value("sapsucker holes")
        self.fits(page)
        page.evaluate("() => { IDBObjectStore.prototype.add = globalThis.__add }")
        page.get_by_role("button", name="Keep it").click()
        expect(note).to_have_value("")
        self.back(page)
        self.assertIn("sapsucker holes", [e["note"] for e in self.logged(tree, "note")])

    def test_a_browser_that_keeps_nothing_sends_at_once_as_long_as_there_is_signal(self):
        page = self.device(PHONE)
        page.add_init_script("IDBFactory.prototype.open = () => { throw new DOMException('no', 'SecurityError') }")
        tree = self.round()[0]
        self.done(page, self.begin(page))
        self.assertEqual(len(self.logged(tree["id"])), 1)

    def test_a_clock_that_is_wrong_all_along_is_reckoned_with(self):
        page = self.along()
        tree = self.round()[0]
        page.context.set_offline(True)
        page.clock.set_system_time("2019-01-03T05:00:00Z")
        self.done(page, self.begin(page))
        self.back(page)
        [entry] = self.logged(tree["id"])
        self.assertEqual(entry["happened_at"][:13], self.get("/api/clock")["now"][:13])

    def test_a_clock_in_2019_dates_nothing_and_a_person_is_asked(self):
        page = self.along()
        tree = self.round()[0]
        page.context.set_offline(True)
        page.clock.set_system_time("2019-01-03T05:00:00Z")
        tag = self.begin(page)
        expect(page.get_by_text("This phone's clock is wrong")).to_be_visible()
        self.done(page, tag)
        page.clock.set_system_time(time.time())  # as phones do by themselves once there is signal
        page.context.set_offline(False)
        expect(page.get_by_text("1 needs you")).to_be_visible()
        page.get_by_role("link", name="Look").click()
        expect(page.get_by_text("The phone's clock said Jan 2, 2019")).to_be_visible()
        self.accessible(page)
        page.get_by_role("button", name="Send with this time").click()
        self.emptied(page)
        now = self.get("/api/clock")["now"]
        [entry] = self.logged(tree["id"])
        self.assertEqual(entry["happened_at"][:13], now[:13])

    def test_a_clock_a_day_ahead_shows_the_next_day_s_plan_and_is_put_right_before_sending(self):
        page = self.along()
        ahead = self.get("/api/today/ahead")[0]
        open_trees = [t for s in ahead["sites"] for stop in s["stops"] for t in stop["trees"]]
        self.assertTrue(open_trees)
        page.context.set_offline(True)
        page.clock.set_system_time(time.time() + 86400)
        self.open(page, "/today")
        expect(page.get_by_text("before the signal was gone")).to_be_visible()
        tag = self.begin(page)
        self.assertIn(tag, [t["tag"] for t in open_trees])
        page.get_by_role("button", name=re.compile("^Done ")).first.click()
        expect(page.get_by_text("1 waits to be sent")).to_be_visible()
        tree = next(t for t in open_trees if t["tag"] == tag)
        before = len(self.logged(tree["id"]))
        self.back(page)
        self.assertEqual(len(self.logged(tree["id"])), before + 1, "today, not tomorrow")


class SignedOut(Signal):
    data = "firms"

    def come_in(self, page, name: str) -> None:
        self.open(page, "/today")
        page.get_by_role("button", name=re.compile(f"^{name}")).click()
        page.get_by_role("heading", name="Sign in").wait_for(state="detached")

    def test_what_a_signed_out_phone_holds_waits_for_the_owner_s_yes(self):
        with transaction(make_sessions(make_engine(self.database, 1))) as session:
            body = tree_body(small_site(session).id, str(plant_id(session)), tag="T-1", planted_on="2026-06-10")
        phone = self.device(PHONE, person=None, carried=True)
        self.addCleanup(phone.context.set_offline, False)
        self.come_in(phone, "Noor")
        stored = phone.evaluate(PUT, [f"/api/trees/{new_id()}", body | {"feel": {"ball": "dry", "ring": "dry"}}])
        self.assertEqual(stored, 200)
        self.take_along(phone)
        here = phone.evaluate("fetch('/api/session').then((r) => r.json())")["device_id"]
        phone.context.set_offline(True)
        tag = self.begin(phone)
        phone.get_by_role("button", name=re.compile("^Done ")).first.click()
        expect(phone.get_by_text("1 waits to be sent")).to_be_visible()
        owner = self.device(person=None)
        self.come_in(owner, "Odile")
        signed_out = owner.evaluate(
            f"fetch('/api/devices/{here}/sign-out', {{ method: 'POST' }}).then((r) => r.status)"
        )
        self.assertEqual(signed_out, 204)
        phone.context.set_offline(False)
        expect(phone.get_by_text("1 entry waits on this phone")).to_be_visible()
        self.fits(phone)
        phone.get_by_role("button", name=re.compile("^Noor")).click()
        expect(phone.get_by_text("1 needs you")).to_be_visible()
        phone.get_by_role("link", name="Look").click()
        expect(phone.get_by_text("An owner was asked")).to_be_visible()
        self.open(owner, "/people")
        asked = owner.locator("section").filter(has=owner.get_by_role("heading", name="Waits for your yes"))
        expect(asked).to_contain_text(f"{tag}: ")
        self.accessible(owner)
        asked.get_by_role("button", name="Let it in", exact=True).click()
        expect(asked.get_by_role("status")).to_contain_text("Let in")
        phone.get_by_role("button", name="Send again").click()
        self.emptied(phone)
        count = "fetch('/api/book?limit=50').then((r) => r.json()).then((b) => JSON.stringify(b.rows.slice(0, 3)))"
        self.assertIn(tag, phone.evaluate(count))
        self.provoked(401, 403)
