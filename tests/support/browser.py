"""A headless browser on the running application, and the hands that use it."""

import atexit
import os
import tempfile
import time
import unittest
from pathlib import Path

import httpx2 as httpx
from selenium import webdriver
from selenium.common.exceptions import ElementClickInterceptedException, TimeoutException, WebDriverException
from selenium.webdriver import ActionChains
from selenium.webdriver.chrome.service import Service
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.ui import WebDriverWait

from lumbek.services import demo
from tests.support.stack import Server, new_database

_QUIET = (
    "--headless=new",
    "--disable-gpu",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-quic",
    "--force-prefers-reduced-motion",
    # A process in store for each next page.
    "--disable-features=SpareRendererForSitePerProcess",
)
# What draws no windows does with three fifths of the processor; its command is a shell that outlives a kill.
_WITHOUT_WINDOWS = Path("/usr/lib/chromium/chromium-headless-shell")

# The first element that can be seen and whose text begins so.
_FIRST_THAT_SAYS = """
return [...document.querySelectorAll(arguments[0])].find(
  (each) => each.checkVisibility() && each.getClientRects().length && each.innerText.trim().startsWith(arguments[1])
) ?? null
"""

# Choose an option by how it begins or by its value, in one go: asked option by option it costs more than the page's
# answer does. What cannot be seen or used cannot be chosen from.
_CHOOSE = """
const [name, says, value] = arguments;
const box = document.querySelector(`select[name="${CSS.escape(name)}"]`);
if (!box || box.disabled || !box.checkVisibility()) return false;
const words = (each) => each.textContent.replace(/\\s+/g, " ").trim();
const found = [...box.options].find(
  (each) => !each.disabled && (value === null ? words(each).startsWith(says) : each.value === value));
if (!found) return false;
box.focus();
if (found.selected) return true;
found.selected = true;
for (const kind of ["input", "change"]) box.dispatchEvent(new Event(kind, { bubbles: true }));
return true;
"""

_PRESS = "const found = document.querySelector(arguments[0]); found?.click(); return found !== null"

# A job's id, and its circuit's by number or name: by the same addresses as the pages ask.
_FIND = """
const [job, circuit, done] = arguments;
const got = async (path) => (await fetch(path)).json();
(async () => {
  const { id } = (await got("/api/jobs")).find((each) => each.name === job);
  const circuits = circuit ? (await got(`/api/jobs/${id}`)).circuits : [];
  done([id, circuits.find((each) => `${each.number}` === circuit || each.name === circuit)?.id ?? ""]);
})();
"""
HOUSE = "The old signal box"
CABIN = "Lakeside boathouse cabin"

# How often one looks whether it is there: looking more often takes from the page what it needs to get there.
_LOOK_S = 0.2
# Browsers that nobody uses just now: to start one takes as long as a test.
_idle: list[webdriver.Chrome] = []


def open_browser(downloads: Path, width: int = 1280, height: int = 800) -> webdriver.Chrome:
    """Return a browser that knows of nothing."""
    browser = _idle.pop() if _idle else _start_browser()
    browser.execute_cdp_cmd("Browser.setDownloadBehavior", {"behavior": "allow", "downloadPath": str(downloads)})
    resize(browser, width, height)
    return browser


def _start_browser() -> webdriver.Chrome:
    options = webdriver.ChromeOptions()
    for argument in _QUIET:
        options.add_argument(argument)
    options.binary_location = str(_WITHOUT_WINDOWS) if _WITHOUT_WINDOWS.exists() else ""
    if os.geteuid() == 0:
        options.add_argument("--no-sandbox")
    return webdriver.Chrome(options=options, service=Service("/usr/bin/chromedriver"))


def give_back(browser: webdriver.Chrome) -> None:
    """Let a browser forget everything, for whoever opens one next; one that cannot is ended."""
    try:
        kept, *others = browser.window_handles
        for each in others:
            browser.switch_to.window(each)
            browser.close()
        browser.switch_to.window(kept)
        browser.delete_network_conditions()
        origin = browser.execute_script("return location.origin")
        browser.execute_cdp_cmd("Storage.clearDataForOrigin", {"origin": origin, "storageTypes": "all"})
        browser.execute_cdp_cmd("Network.clearBrowserCookies", {})
        browser.execute_cdp_cmd("Browser.resetPermissions", {})
        browser.get("about:blank")
    except WebDriverException:
        browser.quit()
    else:
        _idle.append(browser)


@atexit.register
def _end_browsers() -> None:
    for each in _idle:
        each.quit()


def resize(browser: webdriver.Chrome, width: int, height: int) -> None:
    """Give the page another size, as if it were on another screen."""
    size = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": False}
    browser.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", size)


class Page:
    """One person at one browser."""

    def __init__(self, server: Server, width: int = 1280, height: int = 800) -> None:
        self.server = server
        self.folder = tempfile.TemporaryDirectory()
        self.downloads = Path(self.folder.name)
        self.browser = open_browser(self.downloads, width, height)

    def close(self) -> None:
        give_back(self.browser)
        self.folder.cleanup()

    def until(self, true, what: str = "", seconds: float = 90):
        wait = WebDriverWait(self.browser, seconds, _LOOK_S, ignored_exceptions=(Exception,))
        try:
            return wait.until(lambda _: true(), what)
        except TimeoutException as error:
            # What was there instead says more than that something was not.
            seen = " ".join(self.browser.find_element(By.CSS_SELECTOR, "body").text.split())[:400]
            error.msg = f"{what or 'it never came'}, on {self.browser.current_url}: {seen}"
            raise

    def all(self, css: str) -> list[WebElement]:
        return self.browser.find_elements(By.CSS_SELECTOR, css)

    def one(self, css: str) -> WebElement:
        return self.until(lambda: self.browser.find_element(By.CSS_SELECTOR, css), f"nothing at {css}")

    def click(self, css: str) -> None:
        def press() -> bool:
            self.browser.find_element(By.CSS_SELECTOR, css).click()
            return True

        self.until(press, f"cannot click {css}")

    def button(self, words: str) -> None:
        def press() -> bool:
            # Asked of the page in one go: one by one, buttons cost more time than all else in a test.
            found = self.browser.execute_script(_FIRST_THAT_SAYS, "button, a, summary", words)
            try:
                found.click()
            except ElementClickInterceptedException:
                # Under what is fixed at the foot of a phone: a person scrolls on.
                self.browser.execute_script("arguments[0].scrollIntoView({ block: 'center' })", found)
                found.click()
            return True

        self.until(press, f"no button {words}")

    def type(self, css: str, text: str) -> None:
        box = self.one(css)
        box.send_keys(Keys.CONTROL, "a")
        box.send_keys(text)

    def keys(self, *keys: str) -> None:
        ActionChains(self.browser).send_keys(*keys).perform()

    def tap(self, css: str, key: str) -> None:
        """Press a key on something for as long as a finger does."""
        self.browser.execute_script("arguments[0].focus()", self.one(css))
        ActionChains(self.browser).key_down(key).pause(0.08).key_up(key).perform()

    def arrow(self, css: str, key: str) -> None:
        """Hold an arrow key on one of several until another has the focus: on a busy machine that takes a while."""
        on = self.one(css)
        self.browser.execute_script("arguments[0].focus()", on)
        ActionChains(self.browser).key_down(key).perform()
        self.until(lambda: self.browser.switch_to.active_element != on, f"{css} keeps the focus")
        ActionChains(self.browser).key_up(key).perform()

    def chord(self, hold: str, key: str) -> None:
        ActionChains(self.browser).key_down(hold).send_keys(key).key_up(hold).perform()

    def choose(self, name: str, words: str | None = None, value: str | None = None) -> None:
        """Choose the option that begins with these words, or has this value."""
        self.until(
            lambda: self.browser.execute_script(_CHOOSE, name, words, value), f"no {words or value} to choose in {name}"
        )

    def chosen(self, *names: str) -> dict[str, str]:
        """Return the value that stands chosen by each name."""
        value = "return document.querySelector(`select[name=\"${CSS.escape(arguments[0])}\"]`)?.value ?? ''"
        return {name: self.browser.execute_script(value, name) for name in names}

    def choose_at_once(self, *choices: tuple[str, str]) -> None:
        """Choose these values, each by its name, before any is answered: as on a slow line."""
        each = f"arguments[0].every(([name, value]) => (function () {{ {_CHOOSE} }})(name, null, value))"
        self.until(lambda: self.browser.execute_script(f"return {each}", choices), f"not to be chosen: {choices}")

    def start_circuit(self, kind: str = "Socket-outlets") -> None:
        """Start a circuit of a kind in the open job."""
        self.button("+ Start a circuit")
        self.button(kind)
        self.one("[data-shape=empty]")

    def sees(self, words: str) -> None:
        self.until(
            lambda: self.browser.execute_script("return document.body.innerText.includes(arguments[0])", words),
            f"never saw {words!r}",
        )

    def fits(self, width_px: int) -> None:
        """Wait until nothing on the page is wider than the screen."""
        wide = "return document.documentElement.scrollWidth"
        self.until(lambda: self.browser.execute_script(wide) <= width_px, f"wider than {width_px}", 5)

    def saved(self) -> None:
        """Wait until the page says that everything is saved."""
        time.sleep(0.1)
        self.until(lambda: self.browser.find_element(By.CSS_SELECTOR, "[data-saved=true]"), "not saved")

    def sign_in(self, email: str = demo.EMAIL) -> "Page":
        """Be somebody who has signed in, on no page yet; how that is done has its own tests."""
        with httpx.Client(base_url=self.server.address, timeout=60) as client:
            client.post("/api/session", json={"email": email, "password": demo.PASSWORD}).raise_for_status()
            for name, value in client.cookies.items():
                cookie = {"url": self.server.address, "name": name, "value": value, "httpOnly": True}
                self.browser.execute_cdp_cmd("Network.setCookie", cookie)
        # What asks of the application must come from there: a page that is never looked at costs as much as any.
        self.browser.get(f"{self.server.address}/mark.svg")
        return self

    def home(self) -> "Page":
        """Come to the first page."""
        self.browser.get(self.server.address)
        self.one("input[name=search]")
        return self

    def go(self, stage: str, job: str = HOUSE, circuit: str = "", view: str = "") -> str:
        """Go straight to a stage of a job, or to a circuit in it; return the job's id.

        How one comes there by hand has its own tests: from the list over the survey it takes three pages.
        """
        job_id, circuit_id = self.browser.execute_async_script(_FIND, job, circuit)
        self.browser.get("/".join(filter(None, (self.server.address, "jobs", job_id, stage, circuit_id, view))))
        return str(job_id)

    def downloaded(self, ending: str) -> bytes:
        def there() -> bytes | None:
            found = list(self.downloads.glob(f"*{ending}"))
            return found[0].read_bytes() if found and found[0].stat().st_size else None

        return self.until(there, f"no {ending} came down")


class BrowserCase(unittest.TestCase):
    """Tests on one running application with the demo's data, at a desk unless another size is said."""

    size = (1280, 800)
    server: Server
    page: Page

    @classmethod
    def setUpClass(cls) -> None:
        cls.server = Server(new_database(demo=True)).start()
        cls.page = Page(cls.server, *cls.size).sign_in()

    def press(self, selector: str) -> None:
        """Press something by script: on a phone the bar below covers what was not scrolled to."""
        self.page.until(lambda: self.page.browser.execute_script(_PRESS, selector), f"no {selector} to press")

    def tearDown(self) -> None:
        """Hold what a test ends on to the width of a phone, where it is on one."""
        if self.size[0] < 500:
            self.page.fits(self.size[0])

    @classmethod
    def tearDownClass(cls) -> None:
        cls.page.close()
        cls.server.stop()
