"""An inspection from the walk to the paper that stands, at a desk and on a phone: found, coded, put right, issued."""

from selenium.webdriver.common.keys import Keys

from tests.support.browser import CABIN, BrowserCase, Page
from tests.support.photos import photo

FOUND = "The old signal box, as we found it"


# A circuit that was found gets a device that is too large for its cable.
_TOO_LARGE = """
const [job, done] = arguments;
const got = (path) => fetch(path).then((answer) => answer.json());
(async () => {
  const { csrf_token } = await got("/api/session");
  const at = (await got(`/api/jobs/${job}`)).circuits.find((each) => each.name.includes("lights"));
  const { version } = await got(`/api/circuits/${at.id}`);
  const body = { id: crypto.randomUUID(), version, commands: [{ op: "device", rating_a: 32 }] };
  const headers = { "Content-Type": "application/json", "X-CSRF-Token": csrf_token };
  await fetch(`/api/circuits/${at.id}/commands`, { method: "POST", headers, body: JSON.stringify(body) });
  done(at.id);
})();
"""


class Inspecting(BrowserCase):
    def test_the_walk_item_by_item_and_all_sound(self) -> None:
        page = self.page
        page.go("inspection/walk/loft")
        page.one("[data-item=loft-joints] [data-current]")
        page.button("Sound")
        page.until(lambda: "sound" in page.one("[data-item=loft-joints]").text)
        # The next one is in hand by itself; what was not looked at says why.
        page.one("[data-item=loft-cables] [data-current]")
        page.button("Not looked at")
        page.type("[data-current] form input.input", "boarded over")
        page.button("Keep")
        page.until(lambda: "not looked at" in page.one("[data-item=loft-cables]").text)
        page.click("[data-area=special]")
        page.button("All sound here")
        page.sees("You say that these 2 were looked at")
        page.button("All sound")
        page.until(lambda: page.one("[data-area=special]").text.endswith("✓"))
        page.browser.refresh()
        page.until(lambda: page.one("[data-area=special]").text.endswith("✓"))

    def test_an_offer_is_recorded_and_a_finding_corrected(self) -> None:
        page = self.page
        page.go("inspection/findings", CABIN)
        before = len(page.all("[data-finding]"))
        page.click("[data-offer] button.btn-primary")
        page.until(lambda: len(page.all("[data-finding]")) == before + 1)
        page.button("Correct")
        page.type("textarea[name=Seen]", "Looked at again")
        page.button("Keep the finding")
        page.sees("Said before, 1")
        page.sees("Looked at again")

    def test_what_falls_due_and_the_next_from_the_last(self) -> None:
        page = self.page
        page.browser.get(f"{page.server.address}/due")
        page.sees("2027-03-09")
        page.click(f"button[aria-label='Start the next inspection of {FOUND}']")
        page.until(lambda: "next inspection" in page.one("header").text)
        page.button("Last time")
        page.sees("Readings of The old signal box")

    def test_a_task_changes_the_drawing_by_what_was_tried(self) -> None:
        page = self.page
        job = page.go("inspection/findings", FOUND)
        circuit = page.browser.execute_async_script(_TOO_LARGE, job)
        page.browser.get(f"{page.server.address}/jobs/{job}/inspection/findings")
        before = len(page.all("[data-finding]"))
        # By script: on a phone the bar below covers what was not scrolled to.
        page.browser.execute_script("arguments[0].click()", page.one("[data-offer] button.btn-primary"))
        page.until(lambda: len(page.all("[data-finding]")) > before and not page.all("[data-waiting]"))
        page.browser.get(f"{page.server.address}/jobs/{job}/inspection/remedials")
        page.sees("Cable capacity")
        for line in page.all("label:has(input[type=checkbox])"):
            if "Cable capacity" in line.text:
                page.browser.execute_script("arguments[0].click()", line)
        page.button("One task of 1")
        page.sees("16 A instead of 32 A")
        page.button("Change the drawing")
        page.sees("On the drawing: 16 A instead of 32 A")
        self.assertEqual(page.one("input[name='What is done']").get_attribute("value"), "16 A instead of 32 A")
        page.button("Keep the task")
        page.one("[data-task=proposed]")
        page.browser.get(f"{page.server.address}/jobs/{job}/circuits/{circuit}")
        page.sees("16 A")


class Standing(BrowserCase):
    """A paper signed, issued, verified and corrected, at a desk."""

    def test_signed_issued_verified_and_corrected(self) -> None:
        page = self.page
        job = page.go("documents", FOUND)
        page.sees("Condition report: draft")
        page.button("Inspected and tested by: signature")
        for role in ("inspector", "authoriser"):
            page.click(f"[data-role={role}] button")
            page.until(lambda role=role: "Robin Ash" in page.one(f"[data-role={role}]").text)
        page.browser.get(f"{page.server.address}/jobs/{job}/documents")
        page.sees("UNSATISFACTORY")
        page.button("Issue: condition report")
        # Setting and signing takes seconds of a processor, and on a busy machine as much of a minute as there is.
        page.until(lambda: page.all("[data-issued='1']"), seconds=150)
        page.click("[data-download='condition-issue-1']")
        data = page.downloaded(".pdf")
        page.button("Send")
        page.type("input[name='Hand over to']", "owner@elsewhere.example")
        page.button("Send the link")
        page.one("[data-handed]")
        page.button("Verify")
        page.sees("Is this paper as it was issued?")
        page.button("Ask by code")
        page.one("[data-verified=known]")
        for content, word in ((data, "unaltered"), (data + b"\n", "altered")):
            paper = page.downloads / f"{word}.pdf"
            paper.write_bytes(content)
            page.one("input[type=file]").send_keys(str(paper))
            page.one(f"[data-verified={word}]")
        # What changed since is not what was issued: it is signed anew, and stands instead.
        page.browser.get(f"{page.server.address}/jobs/{job}/inspection/particulars")
        page.type("input[name='Kept on']", "Alarms and the freezer" + Keys.ENTER)
        page.until(lambda: not page.all("[data-waiting]"))
        page.browser.get(f"{page.server.address}/jobs/{job}/inspection/sign")
        page.sees("the job has changed since")
        for role in ("inspector", "authoriser"):
            page.click(f"[data-role={role}] button")
            page.until(lambda role=role: not page.all(f"[data-role={role}] button"))
        page.browser.get(f"{page.server.address}/jobs/{job}/documents")
        page.button("Issue it to correct number 1")
        page.until(lambda: page.all("[data-issued='2']"), seconds=150)
        page.sees("number 2 stands instead")


class StandingOnAPhone(BrowserCase):
    """What is signed and looked at on a phone; setting a paper is the same from there."""

    size = (390, 844)

    def test_signed_and_looked_at_and_a_paper_asked_for_by_its_code(self) -> None:
        page = self.page
        job = page.go("documents", FOUND)
        page.sees("Condition report: draft")
        page.fits(390)
        page.button("Inspected and tested by: signature")
        page.click("[data-role=inspector] button")
        page.until(lambda: "Robin Ash" in page.one("[data-role=inspector]").text)
        page.fits(390)
        page.browser.get(f"{page.server.address}/jobs/{job}/documents")
        page.one("[data-paper]")
        page.fits(390)
        page.browser.get(f"{page.server.address}/verify/some-code")
        page.sees("Is this paper as it was issued?")


class OnAPhone(Inspecting):
    """The same, and what is done without a signal, one-handed."""

    size = (390, 844)

    def test_a_danger_without_a_signal_dealt_with_put_right_and_photographed(self) -> None:
        page = self.page
        job = page.go("inspection/findings")
        page.sees("Nothing is on record yet")
        page.button("Danger")
        page.type("textarea[name=Seen]", "Shower switch broken, brass bare")
        page.one("input[type=file]").send_keys(str(self.picture(page)))
        page.browser.set_network_conditions(offline=True, latency=0, throughput=0)
        page.button("Keep the finding")
        page.sees("DANGER not dealt with")
        page.one("[data-waiting]")
        page.browser.delete_network_conditions()
        page.until(lambda: not page.all("[data-waiting]"))
        # It asks from every page until it is answered.
        page.browser.get(f"{page.server.address}/jobs/{job}/survey")
        page.button("Made safe? Who was told?")
        page.button("Deal with it")
        page.type("input[name='Made safe']", "Circuit 6 off and locked")
        page.type("input[name='Told']", "M. Fallow")
        page.button("Keep the finding")
        page.until(lambda: not page.all("[data-danger]"))
        page.browser.get(f"{page.server.address}/jobs/{job}/inspection/remedials")
        page.click("input[type=checkbox]")
        page.button("One task of 1")
        page.type("input[name='What is done']", "New cord switch")
        page.one("select[name='Task is'] option[value=done]").click()
        page.type("input[name='After, read or seen']", "whole; polarity right")
        page.button("Keep the task")
        page.one("[data-task=done]")
        page.browser.get(f"{page.server.address}/jobs/{job}/inspection/findings")
        page.sees("put right")

    def picture(self, page: Page):
        file = page.downloads / "plate.png"
        file.write_bytes(photo())
        return file


if __name__ == "__main__":
    import unittest

    unittest.main()
