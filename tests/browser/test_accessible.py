"""Every page in both themes, at a desk and on a phone, held to the rules of axe-core (WCAG 2.2 A and AA)."""

import json

from tests.support.browser import BrowserCase, Page, resize
from tests.support.stack import ROOT

AXE = (ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js").read_text(encoding="utf-8")
RULES = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"]
# A page differs from theme to theme in its colours alone: in the second one what asks of colours is asked.
OF_COLOURS = ["color-contrast", "link-in-text-block"]
ASK = """
const done = arguments[arguments.length - 1];
// Colours that are on their way from one theme to the other are nobody's fault.
document.getAnimations().forEach((each) => each.finish());
axe.run(document, { runOnly: arguments[0], resultTypes: ["violations"] })
  .then((found) => done(found.violations.map((rule) =>
    `${rule.id}: ${rule.nodes.slice(0, 4).map((node) => node.html.slice(0, 160)).join(" | ")}`)))
  .catch((error) => done([String(error)]));
"""
# Pages of the application, and of a job: where each is, and what is there once it is open.
PAGES = {
    "": "main ul",
    "account": "[data-sessions]",
    "people": "[data-people]",
    "audit": "[data-audit]",
    "rulebooks/bs7671": "main table",
    "due": "[data-due]",
    "practice": "[data-rung]",
    "prices": "[data-prices]",
    "verify/some-code": "input[type=file]",
}
STAGES = {
    "survey": "[data-finding]",
    "plan": "[data-marks]",
    "routes": "[data-leg-route]",
    "quote": "[data-total]",
    "work": "[data-step]",
    "work/days": "[data-day]",
    "work/used": "[data-used]",
    "board": "[data-house]",
    "circuits": "[data-drawing]",
    "switching": "[data-proof]",
    "tests": "[data-tests]",
    "inspection": "[data-current]",
    "documents": "[data-paper]",
}


class EveryPage(BrowserCase):
    def wrong(self, page: Page, rules: list[str]) -> list[str]:
        return page.browser.execute_async_script(ASK, rules)

    def walk(self, addresses: dict[str, str], sizes: tuple[tuple[int, int], ...]) -> list[str]:
        page, found = self.page, []
        for address, there in addresses.items():
            for size in sizes:
                resize(page.browser, *size)
                page.browser.get(f"{page.server.address}/{address}")
                page.until(
                    lambda there=there: any(each.is_displayed() for each in page.all(there)), f"{address} {there}"
                )
                page.browser.execute_script(AXE)
                for theme, rules in (("daylight", RULES), ("loft", OF_COLOURS)):
                    page.browser.execute_script("document.documentElement.dataset.theme = arguments[0]", theme)
                    found += [f"{address} {theme} {size[0]}: {each}" for each in self.wrong(page, rules)]
        resize(page.browser, 1280, 800)
        return sorted(set(found))

    def test_the_pages_of_the_application(self) -> None:
        found = self.walk(PAGES, ((1280, 800),))
        self.assertEqual(found, [], json.dumps(found, indent=1))

    def test_the_stages_of_a_job(self) -> None:
        job = self.page.go("survey")
        stages = {f"jobs/{job}/{stage}": there for stage, there in STAGES.items()}
        found = self.walk(stages, ((1280, 800),))
        phone = {address: there for address, there in stages.items() if address.endswith(("survey", "tests"))}
        phone = {address: "[data-one]" if address.endswith("tests") else there for address, there in phone.items()}
        found += self.walk(phone, ((390, 844),))
        self.assertEqual(found, [], json.dumps(found, indent=1))
