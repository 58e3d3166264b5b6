"""The switching bench in a browser: switches pressed, a fault drawn and put right, walls that are closed, the sheet."""

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.support.browser import CABIN, HOUSE, BrowserCase, Page, resize


class Bench(BrowserCase):
    def bench(self, job: str = HOUSE, number: str = "11") -> Page:
        page = self.page
        page.go("switching", job, number)
        page.until(lambda: number in page.one("nav[aria-label^=Circuits] a.font-semibold").text)
        page.one("[data-proof]")
        return page

    def lamp(self, place: str) -> str:
        return str(self.page.one(f"[data-lamp='{place}/L']").get_attribute("data-lit"))

    def press(self, css: str) -> None:
        """Click an element of the drawing where it is, as a finger does."""
        self.page.browser.execute_script(
            "const e = document.querySelector(arguments[0]); e.scrollIntoView({block: 'center'});"
            "e.dispatchEvent(new MouseEvent('click', {bubbles: true}))",
            css,
        )

    def test_switches_are_pressed_and_states_stepped_through(self) -> None:
        page = self.bench()
        self.assertIn("16 states", page.one("h1").text)
        before = self.lamp("P4")
        self.press("[data-box=P1] [data-switch]")
        page.until(lambda: self.lamp("P4") != before)
        page.browser.find_element(By.TAG_NAME, "body").send_keys("2")
        page.until(lambda: self.lamp("P4") == before)
        state = page.one("[data-state]").get_attribute("data-state")
        page.browser.find_element(By.TAG_NAME, "body").send_keys(Keys.ARROW_RIGHT)
        page.until(lambda: page.one("[data-state]").get_attribute("data-state") != state)
        # What is live is told by word too.
        labels = [each.get_attribute("aria-label") for each in page.all("[data-core]")]
        self.assertTrue(any("live" in (each or "") for each in labels))
        # One net alone.
        self.press("[data-box=P1] [data-core]")
        page.one("[data-in-hand]")
        page.browser.find_element(By.TAG_NAME, "body").send_keys("n")
        page.until(lambda: len(page.all(".bench .core.hidden")) > 5)

    def test_a_fault_is_drawn_shown_and_put_right(self) -> None:
        page = self.bench()
        core = page.browser.execute_script(
            "return [...document.querySelectorAll('[data-box=P3] [data-core]')]"
            ".find((each) => each.getAttribute('data-live') === 'L').getAttribute('data-core')"
        )
        self.press(f"[data-box=P3] [data-core='{core}']")
        page.one("[data-in-hand]")
        page.button("Leave it off")
        page.one("[data-proof=fail]")
        page.until(lambda: page.all("[data-hazard]"))
        self.press("[data-hazard]")
        page.button("Put right")
        page.until(lambda: page.one("[data-mended]").get_attribute("data-mended") == "1")
        page.button("Connect it so")
        page.one("[data-proof=pass]")
        page.button("Undo")
        page.one("[data-proof=fail]")
        page.button("Undo")
        page.one("[data-proof=pass]")
        # Taken from its terminal and put into another.
        self.press(f"[data-box=P3] [data-core='{core}']")
        self.press("[data-box=P3] [data-pad='1.L1']")
        page.one("[data-proof=fail]")
        page.button("Undo")
        page.one("[data-proof=pass]")

    def test_a_wall_that_holds_too_little_says_what_is_missing(self) -> None:
        page = self.bench()
        page.button("Cables")
        page.button("Find the least cable")
        page.one("[data-plan=found]")
        # Half landing to stair head held to the three-core that is there.
        run = page.one("[data-route='P2/P3']")
        run.find_element(By.CSS_SELECTOR, "input[type=checkbox]").click()
        page.until(lambda: page.one("[data-route='P2/P3'] input[type=checkbox]").is_selected())
        page.button("Find the least cable")
        page.one("[data-missing='1']")
        page.one("[data-alternative=radio]")
        # A two-core beside it, and it goes.
        page.until(lambda: page.one("[data-saved=true]"))
        page.choose("Cable there already Half landing to Stair head", "2-core: brown, blue")
        page.until(lambda: "2-core: brown, blue there" in page.one("[data-route='P2/P3']").text.replace("add…", ""))
        page.button("Find the least cable")
        page.one("[data-plan=found]")
        # What is changed beside it is not taken back by what was found before.
        self.press("[data-box=P3] [data-core]")
        page.one("[data-in-hand]")
        page.button("Leave it off")
        page.until(lambda: page.one("[data-saved=true]"))
        page.button("Wire it so")
        page.sees("worked out before the last change")
        page.button("Find the least cable")
        page.one("[data-plan=found]")
        page.button("Wire it so")
        page.one("[data-proof=pass]")
        self.assertGreaterEqual(len(page.all("[data-box=P2] .jacket")), 4)

    def test_two_wishes_said_at_once_are_both_meant(self) -> None:
        page = self.bench()
        page.button("Cables")
        ticks = {
            each.find_element(By.XPATH, "..").text: each
            for each in page.all("label input[type=checkbox]")
            if each.find_element(By.XPATH, "..").text in ("neutral at each switch", "a spare core")
        }
        self.assertEqual(len(ticks), 2)
        before = {words: tick.is_selected() for words, tick in ticks.items()}
        for tick in ticks.values():
            page.browser.execute_script("arguments[0].click()", tick)
        for words, tick in ticks.items():
            self.assertNotEqual(tick.is_selected(), before[words])
        page.saved()
        page.browser.refresh()
        page.button("Cables")
        for words, was in before.items():
            kept = f"//label[contains(., '{words}')]/input"
            page.until(lambda at=kept, was=was: page.browser.find_element(By.XPATH, at).is_selected() != was)
            page.browser.find_element(By.XPATH, kept).click()
            page.saved()

    def test_the_make_off_sheet_at_a_desk_and_on_a_phone(self) -> None:
        page = self.bench()
        page.button("Make-off sheet")
        page.one("[data-make-off='6']")
        self.assertIn("intermediate switch", page.one("[data-sheet=P2]").text)
        box = page.one("[data-sheet=P2] input[type=checkbox]")
        box.click()
        page.browser.refresh()
        page.until(lambda: page.one("[data-sheet=P2] input[type=checkbox]").is_selected())
        self.assertTrue(page.one("[data-download=pdf]").get_attribute("data-href").endswith("papers/make-off.pdf"))
        resize(page.browser, 390, 844)
        page.one("[data-make-off]")
        wide = page.browser.execute_script("return document.documentElement.scrollWidth")
        self.assertLessEqual(wide, 390)
        resize(page.browser, 1280, 800)

    def test_a_new_light_is_planned_from_nothing(self) -> None:
        page = self.bench(number="3")
        page.button("Cables")
        for name, what in (("Larder", "light"), ("Larder door", "switch")):
            page.type("input[name=place-name]", name)
            page.choose("What is there", what)
            page.button("Add")
            page.until(lambda wanted=name: any(wanted in each.text for each in page.all("[data-box] .title")))
        page.until(lambda: page.one("[data-saved=true]"))
        page.button("Switch another light")
        page.until(lambda: page.all("[data-control]"))

    def test_it_is_kept_how_it_was_before_it_was_taken_apart(self) -> None:
        page = self.bench()
        page.button("Records")
        page.type("input[name=record-note]", "Before the switch was changed")
        page.button("Keep it")
        page.one("[data-record]")
        core = page.one("[data-box=P1] [data-core]").get_attribute("data-core")
        self.press(f"[data-box=P1] [data-core='{core}']")
        page.button("Leave it off")
        page.one("[data-proof=fail]")
        page.button("Connect it as then")
        page.one("[data-proof=pass]")

    def test_the_borrowed_neutral_shows_with_both_circuits(self) -> None:
        page = self.bench(CABIN)
        page.one("[data-hazard=borrowed-neutral]")
        self.assertIn("Wired into circuit 9", page.one("main").text)
        self.press("[data-hazard=borrowed-neutral]")
        page.until(lambda: page.all(".bench .box.marked"))
