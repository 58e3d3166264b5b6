"""People in the browser: invited and let in, held to their roles, asked for the password again, a second factor."""

from datetime import timedelta

import pyotp
from selenium.webdriver.common.keys import Keys

from lumbek.services.clock import now
from lumbek.services.demo import PASSWORD
from tests.support.browser import BrowserCase, Page
from tests.support.client import SECRET
from tests.support.stack import run_sql


class People(BrowserCase):
    def age_proofs(self) -> None:
        run_sql(self.server.database_url, "update signed_in set proved_at = :t", t=now() - timedelta(hours=1))

    def invite(self, name: str, email: str, role: str) -> str:
        page = self.page
        page.browser.get(f"{page.server.address}/people")
        page.type("input[name=invite-name]", name)
        page.type("input[name=invite-email]", email)
        form = page.one("input[name=invite-email]").find_element("xpath", "ancestor::form")
        if role:
            next(each for each in form.find_elements("css selector", "button") if role in each.text).click()
        form.find_element("css selector", ".btn-primary").click()

    def test_somebody_invited_joins_and_may_do_what_their_role_says(self) -> None:
        self.age_proofs()
        self.invite("Sam Reed", "sam@signalbox.example", "Tester")
        page = self.page
        page.type("[data-in-front='Password again'] input[name=password]", PASSWORD + Keys.ENTER)
        link = page.one("[data-handed] input").get_attribute("value")
        page.sees("Invited, not here yet")
        other = Page(self.server)
        self.addCleanup(other.close)
        other.browser.get(link)
        other.one("[data-link=join]")
        other.type("input[name=password]", "short" + Keys.ENTER)
        other.sees("12 characters or more")
        other.type("input[name=password]", SECRET + Keys.ENTER)
        other.one("main ul a").click()
        other.button("Tests")
        other.button("4")
        other.type("input[name='r1+r2:P1']", "0.37" + Keys.ENTER)
        other.until(lambda: other.one("[data-item='r1+r2:P1'] [data-state=saved]"))
        self.assertEqual(other.all("[data-reading-only]"), [])
        other.button("Circuits")
        other.one("[data-reading-only]")
        other.type("input[name='Circuit name']", "Not mine to name" + Keys.ENTER)
        other.sees("for designers and qualified supervisors")
        other.browser.get(link)
        other.sees("has been used")
        page.browser.refresh()
        sam = "[data-person='sam@signalbox.example']"
        page.click(f"{sam} button[aria-pressed=true]")
        page.until(lambda: not page.all(f"{sam} button[aria-pressed=true]"))
        other.browser.get(other.server.address)
        other.sees("Reading only")
        page.click(f"{sam} summary")
        page.button("Lock out, at once")
        page.until(lambda: "LOCKED OUT" in page.one(sam).text)
        other.browser.refresh()
        other.one("input[name=email]")

    def test_a_second_factor_is_set_up_and_asked_for(self) -> None:
        self.age_proofs()
        self.invite("Pat Moss", "pat@signalbox.example", "")
        page = self.page
        page.type("[data-in-front='Password again'] input[name=password]", PASSWORD + Keys.ENTER)
        link = page.one("[data-handed] input").get_attribute("value")
        other = Page(self.server)
        self.addCleanup(other.close)
        other.browser.get(link)
        other.type("input[name=password]", SECRET + Keys.ENTER)
        other.one("input[name=search]")
        other.browser.get(f"{other.server.address}/account")
        self.assertEqual(len(other.one("[data-sessions]").find_elements("css selector", "li")), 1)
        other.button("Set it up")
        squares = other.one("[data-factor] img")
        other.until(lambda: other.browser.execute_script("return arguments[0].naturalWidth > 50", squares))
        made = pyotp.TOTP(other.one("[data-factor] .font-mono").text.replace(" ", ""))
        other.type("input[name=code]", "000000" + Keys.ENTER)
        other.sees("does not fit")
        moment = now()
        other.type("input[name=code]", made.at(moment) + Keys.ENTER)
        other.one("[data-factor=on]")
        other.click("details summary")
        other.button("Sign out")
        other.type("input[name=email]", "pat@signalbox.example")
        other.type("input[name=password]", SECRET + Keys.ENTER)
        other.type("input[name=code]", made.at(moment + timedelta(seconds=30)) + Keys.ENTER)
        other.one("input[name=search]")
        page.browser.get(f"{page.server.address}/audit")
        page.until(lambda: "second factor on" in page.one("[data-audit]").text)
        page.choose("action", "second factor on")
        page.until(lambda: len(page.all("[data-audit] tbody tr")) == 1)
        self.assertIn("Pat Moss", page.one("[data-audit] tbody").text)
