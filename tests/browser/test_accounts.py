"""Signing in on a laptop and a phone: by name, by tapping in the demo, with a PIN; and what stays when one is out."""

import re
import unittest

from june_shade.demo import people
from june_shade.launch.browser import PHONE, WIDE
from june_shade.plans.work import make_engine, make_sessions
from tests.browser.harness import BrowserTest, expect, scenario


class SignsIn(BrowserTest):
    """What every test of people who sign in does."""

    data = "firms"

    def setUp(self):
        super().setUp()
        self.provoked(401, 403, 409, 422)

    def come_in(self, page, name: str, path: str = "/people") -> None:
        self.open(page, path)
        page.get_by_role("button", name=re.compile(f"^{name}")).click()
        page.get_by_role("heading", name="Sign in").wait_for(state="detached")


class ComingIn(SignsIn):
    def test_a_wrong_password_is_said_and_the_right_one_leads_to_where_one_wanted(self):
        page = self.device(PHONE, person=None)
        self.open(page, "/people")
        self.accessible(page)
        self.fits(page)
        page.get_by_label("Name you sign in with").fill("NOOR")
        page.get_by_label("Password").fill("not this one")
        page.get_by_role("button", name="Sign in", exact=True).click()
        page.get_by_text("The name or the password is not right").wait_for()
        expect(page.get_by_label("Name you sign in with")).to_have_value("NOOR")
        page.get_by_label("Password").fill(next(p["password"] for p in people.PEOPLE if p["name"] == "Noor"))
        page.keyboard.press("Enter")
        page.get_by_text("Lead at Ochre Falls Tree Crew").wait_for()
        expect(page).to_have_url(re.compile("/people$"))
        expect(page.get_by_role("heading", name="Who may come in")).to_have_count(0)
        self.fits(page)

    def test_who_is_signed_out_meanwhile_comes_back_to_what_they_typed(self):
        page = self.device(WIDE, person=None)
        self.come_in(page, "Noor")
        page.get_by_role("button", name="Change password").click()
        page.get_by_label("New password").fill("a kettle, a moth and rain")
        page.get_by_label("Your password now").fill("something")
        page.context.clear_cookies()
        page.get_by_role("button", name="Use this password").click()
        page.get_by_text("What you typed is still there").wait_for()
        self.accessible(page)
        page.get_by_role("button", name=re.compile("^Noor")).click()
        page.get_by_role("heading", name="Sign in").wait_for(state="detached")
        expect(page.get_by_label("New password")).to_have_value("a kettle, a moth and rain")

    def test_an_owner_adds_somebody_who_chooses_a_password_and_is_no_lead(self):
        page = self.device(WIDE, person=None)
        self.come_in(page, "Odile")
        page.get_by_role("button", name="Add a person").click()
        page.get_by_label("Name", exact=True).fill("Bo")
        page.get_by_label("Name you sign in with").fill("bo")
        page.get_by_role("button", name="Save").click()
        word = page.locator(".word").inner_text()
        self.accessible(page)
        page.get_by_role("button", name="Sign out", exact=True).first.click()
        page.get_by_role("heading", name="Sign in").wait_for()
        page.get_by_label("Name you sign in with").fill("bo")
        page.get_by_label("Password").fill(word)
        page.get_by_role("button", name="Sign in", exact=True).click()
        page.get_by_role("heading", name="Choose a password").wait_for()
        page.get_by_label("The password you were given").fill(word)
        page.get_by_label("New password").fill("short")
        page.get_by_role("button", name="Use this password").click()
        page.get_by_text("must have at least 12 characters").wait_for()
        page.get_by_label("New password").fill("a heron, two spades and a pear")
        page.get_by_role("button", name="Use this password").click()
        page.get_by_role("heading", name="Choose a password").wait_for(state="detached")
        self.open(page, "/sites")
        expect(page.locator("a[href='/sites/new']")).to_have_count(0)
        self.open(page, "/sites/new")
        page.get_by_role("heading", name="This is a lead's to do").wait_for()

    def test_a_crew_s_phone_is_handed_from_one_to_the_next(self):
        page = self.device(PHONE, person=None)
        self.open(page, "/today")
        page.get_by_label(re.compile("This is a crew")).check()
        page.get_by_role("button", name=re.compile("^Noor")).click()
        page.get_by_role("heading", name="Whose turn is it?").wait_for()
        for name in ("Tavi", "Noor"):
            page.get_by_role("button", name=name).click()
            page.get_by_label(f"PIN of {name}").fill("1111")
            page.keyboard.press("Enter")
            page.get_by_text("The PIN is not right").wait_for()
            self.accessible(page)
            page.get_by_label(f"PIN of {name}").fill(people.PIN)
            page.get_by_role("button", name="Begin").click()
            page.get_by_role("heading", name="Whose turn is it?").wait_for(state="detached")
            self.open(page, "/people")
            page.get_by_text("Technician at Ochre Falls Tree Crew").wait_for()
            page.get_by_role("button", name="Hand the phone on").click()
            page.get_by_role("heading", name="Whose turn is it?").wait_for()
        self.fits(page)
        self.each_reads_their_own_language(page)

    def each_reads_their_own_language(self, page) -> None:
        """Tavi chose Spanish, once without signal; Noor, who never chose, and the gate speak as the phone does."""

        def takes_turn(name: str) -> None:
            page.get_by_role("button", name=name).click()
            page.get_by_label(f"PIN of {name}").fill(people.PIN)
            page.get_by_role("button", name="Begin").click()
            page.locator("ul.crew").wait_for(state="detached")

        takes_turn("Tavi")
        self.open(page, "/more")
        address = "**/api/session/language"
        page.context.route(address, lambda route: route.abort())
        with page.expect_event("requestfailed"):
            page.get_by_role("button", name="Español").first.click()
        page.get_by_role("button", name="English").first.wait_for()
        page.context.unroute(address)
        self.provoked(401, "net::ERR_FAILED")
        self.open(page, "/people")
        hand_on = page.get_by_role("button", name="Pasar el teléfono")
        hand_on.wait_for()
        hand_on.click()
        takes_turn("Noor")
        page.get_by_role("button", name="Hand the phone on").click()
        takes_turn("Tavi")
        hand_on.wait_for()


class Offered(SignsIn):
    data = "ready"

    def test_what_a_lead_sets_is_offered_to_leads_only(self):
        offered = {"/ahead/drought": "Take back", "/sites": "Close", "/trees": "Select", "/crews": "Close",
                   f"/sites/{scenario.name_id('site', 'HL')}": "Go by this", "/care": "New address"}  # fmt: skip
        engine = make_engine(self.database, 1)
        self.addCleanup(engine.dispose)
        people.fill(make_sessions(engine))
        for name, is_lead in (("Noor", True), ("Tavi", False)):
            page = self.device(WIDE, person=None)
            self.come_in(page, name)
            for path, words in offered.items():
                with self.subTest(name=name, path=path):
                    self.open(page, path)
                    button = page.get_by_role("button", name=re.compile(f"^{words}"))
                    if is_lead:
                        expect(button.first).to_be_visible()
                    else:
                        expect(button).to_have_count(0)
            self.accessible(page)


class Open(BrowserTest):
    data = "seeded"

    def test_the_first_owner_is_made_where_the_program_is_open(self):
        page = self.device(WIDE, person=None)
        self.open(page, "/people")
        page.get_by_text("nobody signs in yet").wait_for()
        self.accessible(page)
        page.get_by_role("button", name="Make the owner's account").click()
        page.locator(".field.bad").first.wait_for()
        page.get_by_label("Firm or department").fill("Curlew Trees")
        page.get_by_label("Your name").fill("Ada")
        page.get_by_label("Name you sign in with").fill("ada")
        page.get_by_label("Password").fill("eleven crows on a gate")
        page.get_by_role("button", name="Make the owner's account").click()
        page.get_by_text("Owner at Curlew Trees").wait_for()
        other = self.device(PHONE, person=None)
        self.open(other, "/today")
        other.get_by_role("heading", name="Sign in").wait_for()
        self.provoked(401)


if __name__ == "__main__":
    unittest.main()
