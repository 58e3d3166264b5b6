"""The work on site in a browser: ticked without a signal, left with a reason, hours; what was used, at a desk."""

from tests.support.browser import BrowserCase


class Working(BrowserCase):
    def open(self, part: str = "") -> str:
        job = self.page.go(f"work{part}")
        self.page.one("[data-work-done]")
        return job

    def done(self) -> int:
        return int(self.page.one("[data-work-done]").get_attribute("data-work-done"))


class OnAPhone(Working):
    size = (390, 844)

    def test_ticked_without_a_signal_and_sent_when_there_is_one(self) -> None:
        page = self.page
        self.open()
        before = self.done()
        self.press("[data-work-room=bedroom]")
        page.one("[data-step='box/socket-10']")
        page.browser.set_network_conditions(offline=True, latency=0, throughput=0)
        self.press("[data-step='box/socket-10'] input[type=checkbox]")
        page.one("[data-step='box/socket-10'][data-status=done]")
        self.assertEqual(self.done(), before + 1)
        page.one("[data-waiting]")
        page.browser.delete_network_conditions()
        page.until(lambda: not page.all("[data-waiting]"), seconds=40)
        page.browser.refresh()
        self.press("[data-work-room=bedroom]")
        page.until(lambda: "Robin Ash" in page.one("[data-step='box/socket-10']").text)

    def test_left_says_why_and_stands_at_the_end_of_the_day(self) -> None:
        page = self.page
        job = self.open()
        self.press("[data-work-room=study]")
        self.press("[data-step='box/switch-5'] button")
        page.type("input[name='Why not']", "no deep boxes in the van")
        page.button("Missing")
        page.one("[data-step='box/switch-5'][data-status=missing]")
        page.until(lambda: not page.all("[data-waiting]"))
        page.browser.get(f"{page.server.address}/jobs/{job}/work/days")
        page.sees("no deep boxes in the van")
        self.press("[data-day='1'] summary")
        page.sees("In the van")
        page.type("input[name=Hours]", "7,5")
        page.button("Keep")
        page.until(lambda: page.all("[data-hours]"))
        page.sees("7 h 30")


class AtADesk(Working):
    def test_used_and_what_holds_up_closing(self) -> None:
        page = self.page
        self.open("/used")
        page.type("[data-used='box:35:2'] input", "400")
        page.browser.execute_script("arguments[0].click()", page.one("[data-used='box:35:2'] button"))
        page.sees("400 more than planned")
        page.until(lambda: not page.all("[data-waiting]"))
        page.go("tests", circuit="Studio sockets")
        page.sees("Before it is closed in: Line and cpc stay joined at the board")
        # Nothing holds up a circuit whose continuity and insulation are read.
        page.go("tests", circuit="Upper floor sockets")
        page.sees("36/36")
        self.assertFalse(page.all("[data-hold]"))


if __name__ == "__main__":
    import unittest

    unittest.main()
