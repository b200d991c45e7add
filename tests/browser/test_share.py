"""A site shown to a client: a lead makes the link, the client reads it on a phone, and then it is taken back."""

import re
import unittest

from june_shade.launch.browser import PHONE, settle
from tests.browser.harness import BrowserTest, expect
from tests.browser.test_accounts import SignsIn


class Share(BrowserTest):
    def test_a_link_is_made_read_without_signing_in_and_taken_back(self):
        lead = self.device()
        self.open(lead, "/sites")
        lead.get_by_role("link", name="Hobb Lane School").first.click()
        settle(lead)
        lead.get_by_label("For whom").fill("School office")
        lead.get_by_role("button", name="Make a link").click()
        address = lead.locator("code").filter(has_text="/shared/").inner_text()
        self.accessible(lead)
        client = self.device(PHONE, person=None)
        client.goto(address)
        settle(client)
        expect(client.get_by_role("heading", name="Hobb Lane School")).to_be_visible()
        expect(client.get_by_role("heading", name=re.compile(r"^\d+ trees$"))).to_be_visible()
        self.assertEqual(client.locator("nav").count(), 0, "nothing leads further")
        client.get_by_label("Find a tree").fill("HL-03")
        expect(client.locator(".trees li")).to_have_count(1)
        client.get_by_role("button", name="Month before").click()
        expect(client.get_by_role("heading", name=re.compile("^The book, June 2026"))).to_be_visible()
        self.fits(client)
        self.accessible(client)
        lead.get_by_role("button", name="Take back the link for School office").click()
        lead.get_by_role("button", name="Take back the link for School office").click()
        expect(lead.get_by_text("School office sees nothing any more")).to_be_visible()
        client.reload()
        expect(
            client.get_by_text("There is nothing here").or_(client.get_by_text("this link has ended"))
        ).to_be_visible()
        self.provoked(404)


class Client(SignsIn):
    def test_a_client_who_signs_in_has_one_place(self):
        owner = self.device(person=None)
        self.come_in(owner, "Odile")
        owner.get_by_role("button", name="Add a person").click()
        owner.get_by_label("Name", exact=True).fill("Ilse")
        owner.get_by_label("Name you sign in with").fill("ilse")
        owner.get_by_label("As", exact=True).select_option("Client")
        owner.get_by_role("button", name="Save").click()
        password = owner.locator(".word").inner_text()
        client = self.device(PHONE, person=None)
        self.open(client, "/today")
        client.get_by_label("Name you sign in with").fill("ilse")
        client.get_by_label("Password").fill(password)
        client.keyboard.press("Enter")
        client.get_by_label("The password you were given").fill(password)
        client.get_by_label("New password").fill("seven herons by the canal")
        client.get_by_role("button", name="Use this password").click()
        expect(client.get_by_text("Nothing is shared with you yet")).to_be_visible()
        self.assertEqual(client.locator("nav").count(), 0)
        self.fits(client)


if __name__ == "__main__":
    unittest.main()
