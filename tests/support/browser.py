"""A headless browser on the running application, and the hands that use it."""

import os
import tempfile
import time
import unittest
from pathlib import Path

from selenium import webdriver
from selenium.common.exceptions import ElementClickInterceptedException, TimeoutException
from selenium.webdriver import ActionChains
from selenium.webdriver.chrome.service import Service
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.ui import Select, WebDriverWait

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
)


# The first element that can be seen and whose text begins so.
_FIRST_THAT_SAYS = """
return [...document.querySelectorAll(arguments[0])].find(
  (each) => each.checkVisibility() && each.getClientRects().length && each.innerText.trim().startsWith(arguments[1])
) ?? null
"""


def open_browser(downloads: Path, width: int = 1280, height: int = 800) -> webdriver.Chrome:
    options = webdriver.ChromeOptions()
    for argument in (*_QUIET, f"--window-size={width},{height}"):
        options.add_argument(argument)
    if os.geteuid() == 0:
        options.add_argument("--no-sandbox")
    options.add_experimental_option("prefs", {"download.default_directory": str(downloads)})
    browser = webdriver.Chrome(options=options, service=Service("/usr/bin/chromedriver"))
    resize(browser, width, height)
    return browser


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
        self.browser.quit()
        self.folder.cleanup()

    def until(self, true, what: str = "", seconds: float = 40):
        wait = WebDriverWait(self.browser, seconds, 0.1, ignored_exceptions=(Exception,))
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

    def chord(self, hold: str, key: str) -> None:
        ActionChains(self.browser).key_down(hold).send_keys(key).key_up(hold).perform()

    def choose(self, name: str, words: str) -> None:
        """Choose the option that begins with these words."""
        listed = Select(self.one(f"select[name='{name}']"))
        texts = [" ".join((each.get_attribute("textContent") or "").split()) for each in listed.options]
        listed.select_by_index(next(index for index, text in enumerate(texts) if text.startswith(words)))

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

    def saved(self) -> None:
        """Wait until the page says that everything is saved."""
        time.sleep(0.1)
        self.until(lambda: self.browser.find_element(By.CSS_SELECTOR, "[data-saved=true]"), "not saved")

    def sign_in(self, email: str = demo.EMAIL) -> "Page":
        self.browser.get(self.server.address)
        self.type("input[name=email]", email)
        self.type("input[name=password]", demo.PASSWORD)
        self.button("Sign in")
        self.one("input[name=search]")
        return self

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

    @classmethod
    def tearDownClass(cls) -> None:
        cls.page.close()
        cls.server.stop()
