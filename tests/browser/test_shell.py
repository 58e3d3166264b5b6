"""The shell round the stages: a session that ends, undo that outlives a reload, choices by arrow keys, lost answers."""

import time

from selenium.webdriver.common.keys import Keys

from lumbek.services import demo
from tests.support.browser import BrowserCase, Page
from tests.support.stack import run_sql


class Shell(BrowserCase):
    def end_sessions(self) -> None:
        run_sql(self.server.database_url, "delete from signed_in")

    def sign_in_again(self, page: Page) -> None:
        page.one("[data-in-front='Sign in again']")
        page.type("[data-in-front='Sign in again'] input[name=email]", demo.EMAIL)
        page.type("[data-in-front='Sign in again'] input[name=password]", demo.PASSWORD + Keys.ENTER)
        page.until(lambda: not page.all("[data-in-front='Sign in again']"))

    def open(self, stage: str, there: str) -> Page:
        page = self.page.home()
        page.one("main ul a").click()
        page.button(stage)
        page.one(there)
        return page

    def test_a_session_that_ends_while_typing_loses_nothing(self) -> None:
        page = self.open("Tests", "[data-stage]")
        page.button("4")
        page.one("input[name='r1+r2:P1']")
        self.end_sessions()
        page.type("input[name='r1+r2:P1']", "0.37" + Keys.ENTER)
        self.sign_in_again(page)
        page.until(lambda: page.one("[data-item='r1+r2:P1'] [data-state=saved]"))
        self.assertEqual(page.one("input[name='r1+r2:P1']").get_attribute("value"), "0.37")
        page = self.open("Circuits", "[data-drawing]")
        self.end_sessions()
        page.type("input[name='Circuit name']", "Renamed meanwhile" + Keys.ENTER)
        self.sign_in_again(page)
        page.saved()
        page.browser.refresh()
        page.until(lambda: page.one("input[name='Circuit name']").get_attribute("value") == "Renamed meanwhile")

    def test_undo_and_redo_survive_a_reload(self) -> None:
        page = self.open("Circuits", "[data-drawing]")
        page.button("5")
        page.until(lambda: page.one("[data-number]").text == "5")
        page.choose("Rating", "40 A")
        page.saved()
        page.browser.refresh()
        page.one("[data-drawing]")
        page.until(lambda: page.one("[data-point=board]").text.endswith("40 A"))
        page.button("Undo")
        page.until(lambda: page.one("[data-point=board]").text.endswith("32 A"))
        page.saved()
        page.browser.refresh()
        page.one("[data-drawing]")
        page.button("Redo")
        page.until(lambda: page.one("[data-point=board]").text.endswith("40 A"))

    def test_boards_and_survey_are_undone_after_a_reload_as_well(self) -> None:
        page = self.open("Board", "[data-house]")
        page.type("input[name='Place of board']", "In the porch" + Keys.ENTER)
        page.saved()
        page.browser.refresh()
        page.until(lambda: page.one("input[name='Place of board']").get_attribute("value") == "In the porch")
        page.button("Undo")
        page.until(lambda: page.one("input[name='Place of board']").get_attribute("value") != "In the porch")
        page = self.open("Survey", "[data-finding=ze]")
        before = page.one("input[name='Ze']").get_attribute("value")
        page.type("input[name='Ze']", "0.27" + Keys.ENTER)
        page.saved()
        page.browser.refresh()
        page.until(lambda: page.one("input[name='Ze']").get_attribute("value") == "0.27")
        page.button("Undo")
        page.until(lambda: page.one("input[name='Ze']").get_attribute("value") == before)
        page.button("Redo")
        page.until(lambda: page.one("input[name='Ze']").get_attribute("value") == "0.27")

    def test_a_wrong_address_inside_a_job_leads_to_where_it_begins(self) -> None:
        page = self.open("Survey", "[data-finding]")
        job = page.browser.current_url.rsplit("/", 1)[0]
        page.browser.get(f"{job}/nowhere/at/all")
        page.one("[data-finding]")
        self.assertEqual(page.browser.current_url, f"{job}/survey")
        page.browser.get(f"{page.server.address}/jobs/not-a-job/survey")
        page.until(lambda: page.all("[role=alert]"))

    def test_a_stage_chosen_while_another_opens_is_the_one_that_opens(self) -> None:
        page = self.open("Survey", "[data-finding]")
        for first, then, there in (("Tests", "Board", "[data-house]"), ("Switching", "Circuits", "[data-drawing]")):
            # Both in one go: the first has had no time to come.
            page.browser.execute_script(
                "for (const words of arguments) [...document.querySelectorAll('nav a')]"
                ".find((each) => each.textContent.trim() === words).click()",
                first,
                then,
            )
            page.one(there)
            time.sleep(0.5)
            self.assertTrue(page.one(there).is_displayed())
            self.assertIn(f"/{then.lower()}", page.browser.current_url)

    def test_a_page_that_cannot_be_fetched_says_so_and_comes_when_asked_again(self) -> None:
        page = self.open("Survey", "[data-finding]")
        page.browser.execute_cdp_cmd("Network.enable", {})
        page.browser.execute_cdp_cmd("Network.setBlockedURLs", {"urls": ["*/assets/InspectionPage*"]})
        page.button("Inspect")
        page.one("[data-not-fetched]")
        page.sees("could not be fetched")
        # What is above it is still there, and leads elsewhere.
        page.button("Survey")
        page.one("[data-finding]")
        page.button("Inspect")
        page.one("[data-not-fetched]")
        page.browser.execute_cdp_cmd("Network.setBlockedURLs", {"urls": []})
        page.button("Try again")
        page.one("[data-current]")

    def test_choices_and_tabs_answer_to_arrow_keys(self) -> None:
        page = self.open("Survey", "[data-finding=surge]")
        group = "[aria-label='Surge protection']"
        self.assertEqual(page.one(group).get_attribute("role"), "radiogroup")
        page.arrow(f"{group} [aria-checked=true]", Keys.ARROW_RIGHT)
        page.until(lambda: page.one(f"{group} [aria-checked=true]").text == "declined by the owner")
        page.until(lambda: "Declined" in page.one("[data-check=surge]").text)
        page.arrow(f"{group} [aria-checked=true]", Keys.ARROW_LEFT)
        page.until(lambda: page.one(f"{group} [aria-checked=true]").text == "fitted")
        page = self.open("Circuits", "[data-drawing]")
        page.arrow("[role=tab][aria-selected=true]", Keys.ARROW_RIGHT)
        page.until(lambda: page.one("[role=tab][aria-selected=true]").text == "Choose")
        self.assertTrue(page.one("[role=tabpanel][data-state=active]").is_displayed())

    def test_shown_figures_are_the_cores_and_a_failure_never_looks_like_a_pass(self) -> None:
        page = self.open("Circuits", "[data-drawing]")
        page.button("6")
        page.click("[data-check=cable] button")
        held = page.one("[data-check=cable] [data-held]").text
        self.assertEqual(held, "36 A, at least 45 A: FAILS")
