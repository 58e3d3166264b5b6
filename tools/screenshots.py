"""Take the pictures of docs/screenshots again from the demo's data: python -m tools.screenshots [name...]."""

import sys
import time
from collections.abc import Callable
from pathlib import Path

from tests.support.browser import Page
from tests.support.stack import Server, new_database, stop_stack

FOLDER = Path(__file__).resolve().parents[1] / "docs" / "screenshots"
DESK, PHONE = (1280, 800), (390, 844)


def in_job(stage: str, there: str, circuit: str = "") -> Callable[[Page], None]:
    def go(page: Page) -> None:
        page.one("main ul a").click()
        page.one("[data-finding]")
        page.button(stage)
        page.one(there)
        if circuit:
            page.button(circuit)
            page.one(there)

    return go


def picked_leg(page: Page) -> None:
    in_job("Circuits", "[data-drawing]")(page)
    page.click("[data-leg=L2]")


def practised(page: Page) -> None:
    page.browser.get(f"{page.server.address}/practice")
    page.click("[data-begin=faults]")
    for done, choice in enumerate(("isolate", "sheet"), start=1):
        page.click(f"[data-choice={choice}]")
        page.one(f"[data-seen='{done}']")


def phone_tests(page: Page) -> None:
    in_job("Tests", "[data-one]")(page)
    page.choose("Circuit to test", "4 Ground")
    page.click("[aria-label='Next place']")
    page.until(lambda: page.one("[data-one]").get_attribute("data-one").startswith("r1+r2"))


def looked_for(page: Page) -> None:
    in_job("Tests", "[data-stage]", "2")(page)
    page.until(lambda: page.one("h1").text.startswith("2"))
    page.button("Find a fault")
    page.one("[data-suspicion] .suspect")


def account(page: Page) -> None:
    page.browser.get(f"{page.server.address}/account")
    page.button("Set it up")
    page.one("[data-factor] img")
    time.sleep(0.3)


def routes(page: Page) -> None:
    in_job("Plan", "[data-marks]")(page)
    page.browser.get(page.browser.current_url.split("/plan")[0] + "/routes")
    page.click("[data-leg-route=L5] button")


def quote(page: Page) -> None:
    in_job("Plan", "[data-marks]")(page)
    page.browser.get(page.browser.current_url.split("/plan")[0] + "/quote")
    page.one("[data-total]")


def work(page: Page) -> None:
    in_job("Plan", "[data-marks]")(page)
    page.browser.get(page.browser.current_url.split("/plan")[0] + "/work")
    page.click("[data-work-room=bedroom]")
    page.one("[data-step='box/socket-10']")


def proposals(page: Page) -> None:
    in_job("Circuits", "[data-drawing]", "6")(page)
    page.click("[data-tab=propose]")
    page.one("[data-reach]")


def volt_drop_of_boathouse(page: Page) -> None:
    page.click("main ul li:nth-child(2) a")
    page.one("[data-finding]")
    page.button("Circuits")
    page.one("[data-drawing]")
    page.button("Volt drop")
    page.click("[data-point=P5]")


def rulebook(page: Page) -> None:
    page.browser.get(f"{page.server.address}/rulebooks/bs7671")
    page.one("[data-differences]")


def stair(page: Page) -> None:
    in_job("Switching", "[data-proof]", "11")(page)
    page.one("[data-box=P1] [data-switch]")


def borrowed(page: Page) -> None:
    page.until(lambda: next(each for each in page.all("main ul a") if "boathouse" in each.text)).click()
    page.button("Switching")
    page.one("[data-proof]")
    page.button("11")
    page.click("[data-hazard=borrowed-neutral]")


def make_off(page: Page) -> None:
    in_job("Switching", "[data-proof]")(page)
    page.choose("Circuit to open", "11")
    page.one("[data-box=P1] [data-switch]")
    page.button("Make-off sheet")
    page.one("[data-sheet=P2]")
    page.browser.execute_script("document.querySelector('[data-sheet=P2]').scrollIntoView()")


VIEWS: dict[str, tuple[tuple[int, int], Callable[[Page], None]]] = {
    "jobs": (DESK, lambda _: None),
    "survey": (DESK, in_job("Survey", "[data-finding]")),
    "circuit": (DESK, picked_leg),
    "practice": (DESK, practised),
    "choose": (DESK, proposals),
    "boathouse": (DESK, volt_drop_of_boathouse),
    "rulebook": (DESK, rulebook),
    "board": (DESK, in_job("Board", "[data-house]")),
    "switching": (DESK, stair),
    "switching-found": (DESK, borrowed),
    "make-off-phone": (PHONE, make_off),
    "tests": (DESK, in_job("Tests", "[data-stage]", "2")),
    "tests-phone": (PHONE, phone_tests),
    "find": (DESK, looked_for),
    "account": (DESK, account),
    "plan": (DESK, in_job("Plan", "[data-marks]")),
    "routes": (DESK, routes),
    "quote": (DESK, quote),
    "work-phone": (PHONE, work),
    "documents": (DESK, in_job("Documents", "[data-paper=schedule]")),
}


def main(names: list[str]) -> None:
    server = Server(new_database(demo=True)).start()
    try:
        for name in names or VIEWS:
            size, go = VIEWS[name]
            page = Page(server, *size)
            try:
                go(page.sign_in().home())
                time.sleep(0.8)
                page.browser.save_screenshot(str(FOLDER / f"{name}.png"))
            finally:
                page.close()
    finally:
        server.stop()
        stop_stack()


if __name__ == "__main__":
    main(sys.argv[1:])
