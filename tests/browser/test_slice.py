"""The whole way of a circuit, at the real pages: sign in, survey, build, judge, test, print."""

from selenium.webdriver.common.keys import Keys
from sqlalchemy import text

from lumbek.exchange.job_file import write_job
from lumbek.store.database import Database
from tests.core.test_exchange import finished
from tests.support.browser import BrowserCase, Page

_TAKE_IN = """
const [body, done] = arguments;
fetch("/api/session").then((answer) => answer.json())
  .then((me) => fetch("/api/jobs/file?id=" + crypto.randomUUID(),
    { method: "POST", headers: { "X-CSRF-Token": me.csrf_token }, body }))
  .then((answer) => answer.json()).then((job) => done(job.id), (error) => done(String(error)))
"""


class Way(BrowserCase):
    def start_job(self, page: Page, name: str) -> None:
        page.home()
        page.button("Start a job")
        page.type("input[name='job name']", name)
        page.keys(Keys.ENTER)
        page.one("[data-finding=ze]")

    def survey(self, page: Page) -> None:
        page.button("TN-C-S")
        page.until(lambda: page.one("[data-check=earthing]").get_attribute("data-verdict") == "pass")
        page.type("input[name=Ze]", "0,21" + Keys.ENTER)
        page.until(lambda: page.one("[data-check=ze]").get_attribute("data-verdict") == "pass")
        page.type("input[name='Prospective fault current']", "1.1" + Keys.ENTER)
        page.until(lambda: page.one("[data-check='fault-current']").get_attribute("data-verdict") == "pass")

    def draw_ring(self, page: Page) -> None:
        """Eight points, all by keyboard: A lays the next, the figure is its leg's, Enter goes on."""
        page.button("Circuits")
        page.start_circuit()
        drawing = page.one("[data-drawing]")
        drawing.send_keys("a")
        for number, length in enumerate((9, 4.5, 6, 3, 7.5, 5, 8, 4), start=1):
            page.one(f"input[name='Length of L{number}']").send_keys(str(length) + Keys.ENTER)
            page.until(lambda n=number: page.one(f"[data-point=P{n}].picked"))
            page.saved()
            page.keys("a" if number < 8 else "r")
        page.one("input[name='Length of L9']").send_keys("11" + Keys.ENTER)
        page.saved()

    def overall(self, page: Page) -> str | None:
        return page.one("[data-overall]").get_attribute("data-overall")

    def test_from_survey_to_schedule(self) -> None:
        page = self.page
        self.start_job(page, "Platelayers' hut")
        self.survey(page)
        self.draw_ring(page)
        page.until(lambda: page.one("[data-shape=ring]"))
        self.assertEqual(self.overall(page), "pass")

        # A spur off P4, then its length.
        page.click("[data-point=P4]")
        page.keys("s")
        page.one("input[name='Length of L10']").send_keys("3.5" + Keys.ENTER)
        page.saved()
        page.until(lambda: page.one("[data-shape=ring-with-spurs]"))

        # A length that takes the loop beyond its limit turns the verdict while it is typed, and back.
        page.click("[data-leg=L10]")
        page.type("input[name='Length of L10']", "60")
        page.until(lambda: self.overall(page) == "fail")
        self.assertIn("not saved yet", page.one("aside[aria-live]").text)
        page.keys(Keys.ENTER)
        page.saved()
        self.assertEqual(self.overall(page), "fail")
        failing = page.one("[data-check=volt-drop]")
        self.assertEqual(failing.get_attribute("data-verdict"), "fail")
        failing.find_element("tag name", "button").click()
        page.sees("As a part of the nominal voltage")
        page.button("Undo")
        page.until(lambda: self.overall(page) == "pass")

        # Readings: Enter goes to the next place of the walk.
        page.button("Tests")
        page.one("input[name='r1:']").send_keys("0.43" + Keys.ENTER)
        page.until(lambda: page.one("[data-item='r1:'] [data-state=saved]"))
        self.assertEqual(page.browser.switch_to.active_element.get_attribute("name"), "rn:")
        page.keys("0.5", Keys.ENTER)
        page.until(lambda: page.one("[data-item='rn:']").get_attribute("data-verdict") == "fail")
        page.type("input[name='rn:']", "0.44" + Keys.ENTER)
        page.until(lambda: page.one("[data-item='rn:']").get_attribute("data-verdict") == "pass")
        page.type("input[name='Reason to go live first']", "the freezer stays on" + Keys.ENTER)
        page.until(lambda: page.one("[data-live]").get_attribute("data-live") == "open")
        page.type("input[name='zs:P1']", "1.10" + Keys.ENTER)
        # No cable that was read is long enough for it, whatever the RCD would do.
        page.until(lambda: page.one("[data-item='zs:P1']").get_attribute("data-verdict") == "fail")
        page.type("input[name='zs:P1']", "0.36" + Keys.ENTER)
        page.until(lambda: page.one("[data-item='zs:P1']").get_attribute("data-verdict") == "pass")
        page.type("input[name='insulation-ll:']", ">999" + Keys.ENTER)
        page.until(lambda: page.one("[data-item='insulation-ll:'] [data-state=saved]"))
        page.type("input[name='r2:']", "about")
        page.keys(Keys.ENTER)
        page.sees("a figure, >999, open or lim")
        page.keys(Keys.ESCAPE)

        # The schedule: a draft, as page, PDF and CSV.
        page.button("Documents")
        page.one("select[name='Document shown'] option[value=schedule]").click()
        page.sees("Schedule: draft")
        self.assertIn("0.43", page.one("[data-paper=schedule]").text)
        page.click("[data-download=schedule-pdf]")
        self.assertTrue(page.downloaded(".pdf").startswith(b"%PDF"))
        page.click("[data-download=schedule-csv]")
        self.assertIn("Ring with spurs", page.downloaded(".csv").decode("utf-8"))

    def test_a_job_in_order_is_issued_once(self) -> None:
        page = self.page
        taken = page.browser.execute_async_script(_TAKE_IN, write_job(finished()))
        page.browser.get(f"{page.server.address}/jobs/{taken}/documents")
        page.one("select[name='Document shown'] option[value=schedule]").click()
        page.button("Issue: schedule")
        page.one("[data-issued='1']")
        page.sees("as the job stands")
        # What stands as it was issued is not offered again, and the file is there.
        page.until(lambda: [each.text for each in page.all("button") if each.text.startswith("Issue")] == [])
        page.click("[data-download='schedule-issue-1']")
        self.assertTrue(page.downloaded(".pdf").startswith(b"%PDF"))

    def test_insert_move_take_out_and_undo(self) -> None:
        page = self.page
        self.start_job(page, "Edits")
        page.button("Circuits")
        page.start_circuit()
        page.one("[data-drawing]").send_keys("a")
        for number in (1, 2):
            page.one(f"input[name='Length of L{number}']").send_keys("6" + Keys.ENTER)
            page.saved()
            if number == 1:
                page.keys("a")
        page.click("[data-leg=L1]")
        page.one("[data-leg=L1].picked")
        page.button("Break in a point")
        page.until(lambda: len(page.all("[data-point]")) == 4)
        page.saved()
        page.click("[data-point=P2]")
        page.one("[data-point=P2].picked")
        page.button("Move")
        page.sees("Moving P2")
        page.click("[data-leg=L1]")
        page.saved()
        page.until(lambda: "board to P2" in page.one("main").text.lower() or page.one("[data-point=P2].picked"))
        page.one("[data-drawing]").send_keys(Keys.DELETE)
        page.until(lambda: len(page.all("[data-point]")) == 3)
        page.saved()
        page.chord(Keys.CONTROL, "z")
        page.until(lambda: len(page.all("[data-point]")) == 4)

    def test_bad_lengths_are_told_and_not_saved(self) -> None:
        page = self.page
        self.start_job(page, "Slips")
        page.button("Circuits")
        page.start_circuit()
        page.one("[data-drawing]").send_keys("a")
        box = page.one("input[name='Length of L1']")
        for typed, words in (
            ("nine", "a number, please"),
            ("-4", "must be 0.001 m or more"),
            ("9000", "500 m or less"),
        ):
            page.type("input[name='Length of L1']", typed)
            page.sees(words)
        box.send_keys(Keys.ESCAPE)
        page.browser.refresh()
        page.one("[data-leg=L1].unknown")


class DesignBench(BrowserCase):
    def open_shower(self) -> Page:
        page = self.page
        page.browser.get(page.server.address)
        page.one("main ul a").click()
        page.button("Circuits")
        page.one("[data-overall]")
        page.click("nav[aria-label=Circuits] a:nth-of-type(6)")
        page.until(lambda: page.one("input[name='Circuit name']").get_attribute("value") == "Shower", "no shower")
        page.until(
            lambda: page.one("[data-overall]").get_attribute("data-overall") == "fail", "the shower does not fail"
        )
        return page

    def test_a_failing_circuit_is_mended_by_trying_and_keeping(self) -> None:
        page = self.open_shower()
        page.click("[data-tab=propose]")
        page.sees("What would mend it")
        page.one("[data-reach]")
        page.button("Try")
        page.sees("Tried out, not saved")
        page.until(lambda: page.one("[data-overall]").get_attribute("data-overall") == "pass")
        self.assertIn("Iz 36 A", page.one("[data-changed=cable]").text)
        page.button("Drop it")
        page.until(lambda: page.one("[data-overall]").get_attribute("data-overall") == "fail")
        page.click("[data-tab=whatif]")
        page.choose("Cable size", "16 mm²")
        page.until(lambda: page.one("[data-changed=cable]"))
        page.button("Keep it")
        page.saved()
        page.browser.refresh()
        page.until(lambda: page.one("[data-overall]").get_attribute("data-overall") == "pass")
        page.button("Calculation sheet")
        self.assertTrue(page.downloaded(".pdf").startswith(b"%PDF"))

    def test_a_run_is_typed_copied_and_kept_in_the_library(self) -> None:
        page = self.page
        page.browser.get(page.server.address)
        page.one("main ul a").click()
        page.button("Circuits")
        page.start_circuit()
        page.button("Type the run")
        page.type("textarea", "9m Loft: hatch twin, 4,5m tank single, nonsense, back 11m")
        page.sees("entry 3 has no length")
        page.type("textarea", "9m Loft: hatch twin, 4,5m tank single, back 11m")
        page.button("Add 3 cables")
        page.until(lambda: page.one("[data-shape=ring]"))
        page.saved()
        page.button("To our library")
        page.sees("From our library")
        page.button("Copy")
        page.until(lambda: page.one("input[name='Circuit name']").get_attribute("value") == "Socket-outlets (copy)")
        page.click("[data-point=P2]")
        page.until(lambda: len(page.all("[data-leg].lit")) == 3)

    def test_the_rulebook_is_laid_open(self) -> None:
        page = self.page
        page.browser.get(f"{page.server.address}/rulebooks/bs7671")
        page.sees("Where the two differ")
        page.button("IEC 60364")
        page.sees("parts 4-41")


class TwoPeople(BrowserCase):
    def test_the_second_is_told_and_loses_nothing(self) -> None:
        page = self.page.home()
        page.one("main ul a").click()
        page.button("Circuits")
        page.one("[data-drawing]")
        mate = Page(self.server).sign_in("mate@signalbox.example")
        try:
            mate.browser.get(page.browser.current_url)
            mate.one("[data-drawing]")
            mate.type("input[name='Circuit name']", "Upper ring" + Keys.ENTER)
            mate.saved()
            page.choose("Cable size", "4 mm²")
            page.sees("Kit Marlow changed this circuit")
            page.until(lambda: page.one("input[name='Circuit name']").get_attribute("value") == "Upper ring")
            page.button("Make my change on it")
            page.until(lambda: page.one("select[name='Cable size']").get_attribute("value") == "4")
            page.saved()
            mate.browser.refresh()
            mate.until(lambda: mate.one("select[name='Cable size']").get_attribute("value") == "4")
            self.assertEqual(mate.one("input[name='Circuit name']").get_attribute("value"), "Upper ring")
        finally:
            mate.close()


class Killed(BrowserCase):
    def test_what_was_shown_as_saved_is_there_after_kill_9(self) -> None:
        page = self.page.home()
        page.one("main ul a").click()
        page.button("Tests")
        page.button("4")
        shown = {}
        for number, point in enumerate(("P1", "P2", "P3", "P4"), start=1):
            page.type(f"input[name='r1+r2:{point}']", f"0.{number}1" + Keys.ENTER)
            page.until(lambda p=point: page.one(f"[data-item='r1+r2:{p}'] [data-state=saved]"))
            shown[point] = f"0.{number}1"
        self.server.kill()
        page.type("input[name='r1+r2:P5']", "0.55" + Keys.ENTER)
        page.one("[data-item='r1+r2:P5'] [data-state=queued]")
        page.sees("1 on this device, not sent")
        self.assertEqual(page.one("input[name='r1+r2:P5']").get_attribute("value"), "0.55")
        self.server.start()
        # It goes by itself when the server is back, once.
        page.until(lambda: page.one("[data-item='r1+r2:P5'] [data-state=saved]"))
        shown["P5"] = "0.55"
        page.browser.refresh()
        for point, value in shown.items():
            page.until(lambda p=point, v=value: page.one(f"input[name='r1+r2:{p}']").get_attribute("value") == v)
        database = Database(self.server.database_url)
        with database.transaction() as db:
            kept = db.execute(text("select count(*) from reading where point = 'P5' and value = 0.55")).scalar()
        database.close()
        self.assertEqual(kept, 1)


class OnAPhone(BrowserCase):
    size = (390, 844)

    def test_survey_and_tests_fit_the_width(self) -> None:
        page = self.page.home()
        page.one("main ul a").click()
        for stage, there in (("Survey", "[data-finding=ze]"), ("Tests", "[data-one]")):
            page.button(stage)
            page.one(there)
            width = page.browser.execute_script("return document.documentElement.scrollWidth")
            self.assertLessEqual(width, 390, stage)
        page.choose("Circuit to test", "6 Shower")
        page.sees("does not comply")
