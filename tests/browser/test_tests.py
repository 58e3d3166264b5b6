"""The test bench in a browser: by keyboard alone, by tester, on a phone without signal, and a fault followed."""

import io
import subprocess
import sys
import time
from contextlib import closing, contextmanager

from PIL import Image
from selenium.webdriver.common.keys import Keys
from sqlalchemy import text

from lumbek.ops.cluster import free_port
from lumbek.store.database import Database
from tests.support.browser import BrowserCase, Page, resize
from tests.support.stack import ROOT


def to_tests(page: Page, circuit: str = "", there: str = "[data-stage]") -> None:
    page.go("tests", circuit=circuit)
    page.one("[data-tests]")
    if circuit:
        page.until(lambda: page.one("h1").text.startswith(circuit))
    page.one(there)


@contextmanager
def tester(page: Page, mishap: str = "none"):
    """The simulated tester, and the page told where it listens: others may test on the same machine."""
    port = free_port()
    command = [sys.executable, "-m", "lumbek.standins.tester", "--port", str(port), "--mishap", mishap, "--seed", "5"]
    process = subprocess.Popen(command, cwd=ROOT, stdout=subprocess.PIPE)
    try:
        assert process.stdout is not None
        process.stdout.readline()
        page.browser.execute_script("localStorage.setItem('lumbek.tester-port', arguments[0])", str(port))
        yield
    finally:
        process.terminate()
        process.wait(timeout=60)
        process.stdout.close()


class AtADesk(BrowserCase):
    def test_a_whole_circuit_by_keyboard_alone(self) -> None:
        page = self.page
        to_tests(page, "8")
        page.one("[data-isolation=open]")
        # Tab to each step of the isolation, space to tick it.
        for name in ("Proved before", "Proved after"):
            page.tap(f"[aria-label='{name}']", Keys.SPACE)
        for button in page.all("[data-isolation] [aria-pressed=false]"):
            page.browser.execute_script("arguments[0].focus()", button)
            page.keys(Keys.SPACE)
        page.browser.execute_script("arguments[0].focus()", page.one("[data-isolation] .btn-primary"))
        page.keys(Keys.ENTER)
        page.one("[data-isolation=proved]")
        sheet = [each.get_attribute("name") for each in page.all("[data-stage] input[data-walk]")]
        page.browser.execute_script("arguments[0].focus()", page.one("[data-stage=cpc] input"))
        figures = {"r1+r2": ".12", "insulation-ll": ">999", "insulation-le": "250"}
        for name in sheet:
            quantity = name.split(":")[0]
            if quantity not in figures:
                continue
            self.assertEqual(page.browser.switch_to.active_element.get_attribute("name"), name)
            page.keys(figures[quantity], Keys.ENTER)
        # Polarity is a button: Enter on it, and the live tests are open.
        self.assertIn("Polarity", page.browser.switch_to.active_element.get_attribute("aria-label"))
        self.assertEqual(page.one("[data-live]").get_attribute("data-live"), "closed")
        page.keys(Keys.ENTER)
        page.until(lambda: page.one("[data-live]").get_attribute("data-live") == "open", "live tests never opened")
        page.browser.execute_script("arguments[0].focus()", page.one("[data-stage=zs] input"))
        while (name := page.browser.switch_to.active_element.get_attribute("name") or "").startswith("zs:"):
            page.keys("350m", Keys.ENTER)
        self.assertEqual(name, "rcd-trip:")
        page.keys("24", Keys.ENTER)
        page.keys(Keys.ENTER)
        page.until(lambda: page.one("[data-waiting]").text == "all saved")
        page.until(lambda: "12 of 12" in " ".join(page.one("main").text.split()))
        self.assertEqual(page.one("input[name='zs:P1']").get_attribute("value"), "0.35")

    def test_what_is_not_taken_says_why(self) -> None:
        page = self.page
        to_tests(page, "4")
        page.type("input[name='r1+r2:P3']", "lim" + Keys.ENTER)
        page.one("input[name=Reason]").send_keys("behind the tank" + Keys.ENTER)
        page.until(lambda: "Limitation: behind the tank" in page.one("[data-item='r1+r2:P3']").text)
        page.until(lambda: page.one("[data-item='r1+r2:P3']").get_attribute("data-kept") == "saved")
        page.type("input[name='r1+r2:P2']", ".2" + Keys.ENTER)
        page.until(lambda: page.one("[data-item='r1+r2:P2']").get_attribute("data-kept") == "saved")
        page.type("input[name='r1+r2:P2']", ".21" + Keys.ENTER)
        page.until(lambda: "1 earlier" in page.one("[data-item='r1+r2:P2']").text)

    def test_the_tester_fills_a_ring(self) -> None:
        page = self.page
        with tester(page):
            to_tests(page, "2")
            page.button("Begin the visit")
            page.type("input[name=Instrument]", "Practice tester")
            page.button("Keep for this visit")
            page.until(lambda: page.one("[data-visit]").get_attribute("data-visit") == "begun")
            page.button("Connect a tester")
            page.until(lambda: page.one("[data-tester]").get_attribute("data-tester") == "connected")
            page.sees("SIMULATED")
            page.click("input[name='r1:']")
            for quantity in ("r1", "rn", "r2", "cross-ln", "cross-ln"):
                page.until(lambda q=quantity: q in (page.one("li.bg-base-200[data-item]").get_attribute("data-item")))
                at = page.one("li.bg-base-200[data-item]").get_attribute("data-item")
                page.button("Test:")
                page.until(lambda a=at: page.one(f"[data-item='{a}']").get_attribute("data-kept") == "saved")
            page.until(lambda: page.one("[data-item='r1:']").get_attribute("data-verdict") == "pass")
            value = float(page.one("input[name='r1:']").get_attribute("value"))
            self.assertAlmostEqual(value, 0.27, delta=0.09)

    def test_a_fault_is_found_by_following_the_proposals(self) -> None:
        page = self.page
        with tester(page, "cut core"):
            # A run of which nothing has been read: read with the tester, which knows what is cut.
            to_tests(page, "8")
            page.button("Connect a tester")
            page.until(lambda: page.one("[data-tester]").get_attribute("data-tester") == "connected")
            page.button("Find a fault")
            steps = 0
            while page.until(lambda: self.settled(page)) == "looking" and steps < 12:
                next_test = page.one("[data-next]").get_attribute("data-next")
                page.until(lambda: next(each for each in page.all("[data-next] button") if each.text == "Test")).click()
                page.until(lambda n=next_test: self.gone_on(page, n))
                steps += 1
            self.assertEqual(self.settled(page), "found")
            self.assertLess(steps, 8)
            page.sees("open")
            page.one("[data-remedy]")
            self.assertTrue(page.all("[data-suspicion] .suspect-leg"))

    @staticmethod
    def settled(page: Page) -> str | None:
        shown = page.one("[data-diagnosis]")
        return None if shown.get_attribute("data-busy") == "true" else shown.get_attribute("data-diagnosis")

    @classmethod
    def gone_on(cls, page: Page, before: str) -> bool:
        state = cls.settled(page)
        nexts = page.all("[data-next]")
        return state is not None and (not nexts or nexts[0].get_attribute("data-next") != before)

    def test_an_rcd_that_trips_and_cables_belled_out(self) -> None:
        page = self.page
        to_tests(page)
        page.click("a[href$='tests/house']")
        page.button("RCD trips")
        steps = 0
        while (
            page.until(lambda: page.all("[data-step], [data-trips] .border-error"))
            and page.all("[data-step]")
            and steps < 20
        ):
            step = page.one("[data-step]").get_attribute("data-step")
            # It is what is wired to the kiln: whatever has circuit 7 on trips.
            kind, *rest = step.split("/")
            trips = (
                (kind == "on" and "7" in rest[0].split("+"))
                or (kind == "apart" and rest[0] != "7")
                or kind == "unplugged"
            )
            read = {
                **{"n-earth": "It reads high", "n-bar": "It reads high", "live-earth": "It reads low"},
                **{"ramp": "In order", "clamp": "Yes, over"},
            }
            page.button(read.get(kind) or ("It trips" if trips else "It holds"))
            page.until(lambda s=step: not page.all(f"[data-step='{s}']"))
            steps += 1
        page.sees("Line to earth in the wiring of 7 Kiln")
        page.button("Bell out")
        page.type("textarea[name^=Cables]", "grey\nblack\nbrown")
        page.type("textarea[name^=Far]", "loft\nstair\nporch")
        truth = {"grey": "porch", "black": "loft", "brown": "stair"}
        for number in (1, 2, 3):
            joined = page.one(f"[data-round='{number}'] .text-2xl").text
            last = page.until(
                lambda: next(each for each in page.all("button") if each.text in ("Next round", "Say which is which"))
            )
            # A round that nobody looked at is no round of nothing.
            self.assertFalse(last.is_enabled())
            for near, far in truth.items():
                if far in joined:
                    page.button(near)
            page.click("[data-rest]")
            page.button("Next round" if number < 3 else "Say which is which")
        page.one("[data-told]")
        page.button("Keep this with the job")
        page.one("[data-kept]")
        page.until(lambda: "Belled out" in page.one("[data-found='1']").text)
        rows = page.until(lambda: [each.text for each in page.all("[data-told] tr")])
        self.assertEqual(rows, [f"{near} {far}" for near, far in truth.items()])
        page.button("Trace a board")
        page.button("Studio board")
        page.until(lambda: page.one("textarea[name^=Breakers]").get_attribute("value").startswith("8 "))
        page.type("textarea[name^=Outlets]", "hall @ 1\nstair @ 2")
        page.type("textarea[name^=Breakers]", "1 Sockets\n2 Lights")
        for number in (1, 2):
            if "2 Lights" in page.one(f"[data-round='{number}'] .text-2xl").text:
                page.button("hall")
                page.button("stair")
            else:
                page.click("[data-rest]")
            page.button("Next round" if number == 1 else "Say which is which")
        page.until(lambda: len(page.all("[data-told] .bg-error")) == 1)
        self.assertIn("hall", next(each.text for each in page.all("[data-told] tr") if "wrong" in each.text))
        page.button("Keep this with the job")
        page.until(lambda: "Board traced, Studio board" in page.one("[data-found='2']").text)


class InALoft(BrowserCase):
    size = (390, 844)

    def offline(self, gone: bool) -> None:
        if gone:
            self.page.browser.set_network_conditions(offline=True, latency=0, throughput=0)
        else:
            self.page.browser.delete_network_conditions()

    def key_in(self, figure: str) -> None:
        page = self.page
        here = page.one("[data-one]").get_attribute("data-one")
        for key in figure:
            page.click(f"[aria-label='{'more than' if key == '>' else key}']")
        page.button("Enter")
        page.until(lambda: page.one("[data-one]").get_attribute("data-one") != here)

    def kept(self, circuit_point: str) -> list[float]:
        database = Database(self.server.database_url)
        query = text(
            "select r.value from reading r join circuit c on c.id = r.circuit_id where r.quantity = 'r1+r2' "
            "and r.point = :point and (c.design->>'number')::int = 4 and r.by_id is not null order by r.id"
        )
        with database.transaction() as db:
            rows = db.execute(query, {"point": circuit_point}).scalars().all()
        database.close()
        return list(rows)

    def test_readings_without_signal_arrive_once_after_kill_and_closed_tab(self) -> None:
        page = self.page
        to_tests(page, there="[data-one]")
        page.choose("Circuit to test", "4 Ground")
        # Isolation comes first; it was recorded on paper.
        page.until(lambda: page.one("[data-one]").get_attribute("data-one") == "isolation:")
        page.click("[aria-label='Next place']")
        page.until(lambda: page.one("[data-one]").get_attribute("data-one") == "r1+r2:P1")
        address = page.browser.current_url
        self.key_in("0.11")
        page.until(lambda: page.one("[data-waiting]").get_attribute("data-waiting") == "0")
        self.offline(True)
        for figure in (".22", ".33"):
            self.key_in(figure)
        page.sees("2 on this device, not sent")
        # The tab is closed, the server killed; both come back, and then the signal.
        self.server.kill()
        page.browser.switch_to.new_window("tab")
        new = page.browser.current_window_handle
        for handle in page.browser.window_handles:
            if handle != new:
                page.browser.switch_to.window(handle)
                page.browser.close()
        page.browser.switch_to.window(new)
        # A new tab is as wide as its window until it is told that it is a phone's.
        resize(page.browser, *self.size)
        # Without server and signal the page still opens, and shows what it keeps.
        page.browser.get(address)
        page.sees("2 on this device, not sent")
        self.server.start()
        self.offline(False)
        page.until(lambda: page.one("[data-waiting]").get_attribute("data-waiting") == "0", "they never arrived")
        time.sleep(1)
        self.assertEqual([self.kept(each) for each in ("P1", "P2", "P3")], [[0.11], [0.22], [0.33]])

    def test_a_photo_without_signal_waits_through_a_reload_and_arrives_once(self) -> None:
        page = self.page
        picture = page.downloads / "intake.png"
        Image.new("RGB", (64, 48), "#7a4a21").save(picture)
        page.go("survey")
        page.until(lambda: page.one("[data-photos]").get_attribute("data-photos") == "0")
        # Once more with the worker that keeps the page for when there is no signal.
        page.browser.refresh()
        page.one("[data-photos]")
        self.offline(True)
        page.browser.find_element("css selector", "input[name=photo]").send_keys(str(picture))
        page.until(lambda: page.one("[data-photos]").get_attribute("data-photos-waiting") == "1")
        page.browser.refresh()
        page.until(lambda: page.one("[data-photos]").get_attribute("data-photos-waiting") == "1", "it waits no more")
        page.until(lambda: page.one("[data-photos] figure img").get_property("naturalWidth") == 64, "no picture of it")
        self.offline(False)
        page.until(lambda: page.one("[data-photos]").get_attribute("data-photos") == "1", "it never arrived")
        self.assertEqual(page.one("[data-photos]").get_attribute("data-photos-waiting"), "0")
        page.until(lambda: page.one("[data-photos] a img").get_property("naturalWidth") == 64)
        with closing(Database(self.server.database_url)) as database, database.transaction() as db:
            (kept,) = db.scalars(text("select data from attachment")).all()
        self.assertEqual(Image.open(io.BytesIO(kept)).getpixel((10, 10)), (0x7A, 0x4A, 0x21))

    def test_one_big_reading_at_a_time_fits_a_phone(self) -> None:
        page = self.page
        to_tests(page, there="[data-one]")
        page.choose("Circuit to test", "8 Studio")
        page.click("[aria-label='Next place']")
        page.until(lambda: not page.one("[data-one]").get_attribute("data-one").startswith("isolation"))
        width = page.browser.execute_script("return document.documentElement.scrollWidth")
        self.assertLessEqual(width, 390)
        for view, there in (("Find a fault", "[data-diagnosis]"), ("Readings", "[data-one]")):
            page.button(view)
            page.one(there)
            page.fits(390)
        # A thumb hits them, and they are all above the stages at the foot.
        for key in page.all("[data-one] button"):
            if key.text in "0123456789.>" and key.text:
                box = key.rect
                self.assertGreaterEqual(min(box["width"], box["height"]), 44, key.text)
                self.assertLess(box["y"] + box["height"], 800, key.text)
        self.key_in("0.2")

    def test_a_light_replaced_is_begun_in_one_go(self) -> None:
        page = self.page
        page.browser.get(page.server.address)
        page.click("[data-small=light]")
        form = page.one("[data-quick=light]")
        self.assertFalse(form.find_element("css selector", ".btn-primary.btn-lg").is_enabled())
        said = ("TN-C-S", "10 mm²", "6 A", "30 mA, A", "1.5 mm²")
        groups = ("Earthing", "Main bonding", "Rating", "RCD", "Cable")
        for group, words in zip(groups, said, strict=True):
            choices = form.find_elements("css selector", f"[aria-label='{group}'] button")
            next(each for each in choices if each.text == words).click()
        page.type("input[name='Small job name']", "Signal lamp")
        self.assertLessEqual(page.browser.execute_script("return document.documentElement.scrollWidth"), 390)
        page.button("Go on to the readings")
        # What is left are the readings of what is new, and with those said above they are no more than fifteen entries.
        page.one("[data-one]")
        page.until(lambda: "Signal lamp" in page.one("header").text)
        items = int(page.one("main").text.split(" of ")[1].split()[0])
        self.assertLessEqual(len(said) + 1 + items, 15)

    def test_the_whole_house_fits_a_phone(self) -> None:
        page = self.page
        to_tests(page, there="[data-one]")
        page.choose("Circuit to test", "Whole")
        for view, there in (("RCD trips", "[data-step]"), ("Bell out", "[data-codes]"), ("Trace", "[data-codes]")):
            page.button(view)
            page.one(there)
            page.fits(390)
