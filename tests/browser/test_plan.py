"""Plans at a desk and on a phone: a room typed, marked by rule, looked at, undone; set out and ticked."""

from tests.support.browser import CABIN, BrowserCase, Page


def typed(page: Page, field: str, said: str) -> None:
    """Say something in words, and wait until it is taken."""
    page.type(f"input[name='{field}']", said)
    page.click(f"input[name='{field}'] ~ button")
    page.until(lambda: page.one(f"input[name='{field}']").get_attribute("value") == "")


class Planning(BrowserCase):
    def test_a_room_is_typed_marked_moved_and_set_out(self) -> None:
        page = self.page
        page.go("plan", CABIN)
        name = f"Nook {self.size[0]}"
        typed(page, "Another room", f"{name} 4.20 x 3.60 h 2.40")
        page.sees("15.1 m²")
        for line in (
            "door 838 s left 100 hinge left",
            "bed 1500 w middle",
            "socket both sides of bed",
            "switch beside door",
        ):
            typed(page, "What is in it", line)
        page.until(lambda: len(page.all("[data-mark]")) == 3)
        page.sees("w 825 ↑ 300")
        # What is not understood stays to be put right, and says why.
        page.type("input[name='What is in it']", "sofa 2000 n left 0")
        page.click("input[name='What is in it'] ~ button")
        page.sees("'sofa' is not known here")
        self.assertEqual(page.one("input[name='What is in it']").get_attribute("value"), "sofa 2000 n left 0")
        page.type("input[name='What is in it']", "radiator 900 w left 400")
        page.click("input[name='What is in it'] ~ button")
        page.sees("behind a radiator")
        page.button("Undo")
        page.until(lambda: not page.all("[data-conflict]"))
        page.click("[data-marks] li:nth-child(2) button")
        page.type("input[name='Height of the mark']", "450")
        page.click("input[name='Name of the mark']")
        page.sees("w 2775 ↑ 450")
        # One thing is said before the other is answered: both hold.
        said = {"Gangs": "2", "How tight": "IP44", "Cable comes in": "left"}
        page.choose_at_once(*said.items())
        page.until(lambda: page.chosen(*said) == said)
        page.saved()
        self.assertEqual(page.chosen(*said), said)
        page.click("nav[aria-label='Plan or set-out'] a:nth-child(2)")
        page.click("[data-set-out] input[type=checkbox]")
        page.one("[data-made=true]")
        page.click("[data-made=false] button")
        page.type("input[name='Right']", "40")
        page.type("input[name='Why moved']", "a stud")
        page.button("Moved by that")
        page.sees("Moved 40 mm right: a stud")


class AtADesk(BrowserCase):
    def test_a_wall_is_moved_for_two_rooms_and_the_storey_shows_both(self) -> None:
        page = self.page
        page.go("plan", CABIN)
        one, other = "Dock 1", "Shed 1"
        typed(page, "Another room", f"{one} 4.20 x 3.60")
        page.sees("15.1 m²")
        typed(page, "Another room", f"{other} 2.00 x 3.60")
        page.sees("7.2 m²")
        page.click("[data-wall=w]")
        page.choose("Behind the wall", f"{one}, wall e")
        page.one("input[name='Thickness of the wall']")
        page.type("input[name='Moves the wall']", "300")
        page.click("input[name='Depth of the wall']")
        page.sees("8.3 m²")
        room = "dock-1"
        page.until(lambda: "14.0 m²" in page.one(f"[data-room='{room}']").text)
        page.click("a[data-storey='']")
        group = f"[data-group]:has([data-drawn='{room}']):has([data-drawn='shed-1'])"
        page.one(group)
        page.click(f"[data-drawn='{room}'] text")
        page.sees("14.0 m²")

    def test_a_moved_wall_changes_a_route_and_the_circuit_takes_it(self) -> None:
        """From marks to metres: a circuit laid through marks, its room's wall moved, its lengths taken anew."""
        page = self.page
        job = page.go("routes")
        page.one("[data-route-circuit='1']")
        page.browser.execute_script("document.querySelector('[data-run-finder]').open = true")
        for css in (
            *(f"input[name='through {mark}']" for mark in ("socket-12", "switch-3")),
            "[data-find]",
            "[data-order=radial] button",
        ):
            page.until(lambda css=css: page.one(css).is_enabled())
            page.browser.execute_script("arguments[0].click()", page.one(css))
        page.one("[data-shape=radial]")
        circuit = page.browser.current_url.rsplit("/", 1)[1]
        page.browser.get(f"{page.server.address}/jobs/{job}/routes?circuit={circuit}")
        before = page.one("[data-routed-m]").get_attribute("data-routed-m")
        page.browser.get(f"{page.server.address}/jobs/{job}/plan/bedroom")
        page.type("input[name='What is in it']", "wall n moves 0.80 out")
        page.click("input[name='What is in it'] ~ button")
        page.until(lambda: page.one("input[name='What is in it']").get_attribute("value") == "")
        page.browser.get(f"{page.server.address}/jobs/{job}/routes?circuit={circuit}")
        page.until(lambda: page.one("[data-routed-m]").get_attribute("data-routed-m") != before)
        page.browser.execute_script("arguments[0].click()", page.one("[data-take]"))
        page.sees(f"drawn {page.all('[data-leg-route] b + b')[0].text.removesuffix(' m')} m")
        # And what it takes, and costs.
        page.browser.get(f"{page.server.address}/jobs/{job}/quote")
        page.one("[data-item='cable:flat-twin-and-earth:2.5']")
        self.assertRegex(page.one("[data-total]").text, r"^\d+\.\d\d$")
        before = page.one("[data-total]").text
        page.type("input[name='Margin']", "15")
        page.click("input[name='It stands for']")
        page.until(lambda: page.one("[data-total]").text != before)
        said = {"Cable is paid by": "no", "Tax is reckoned": "line", "Halves go": "even"}
        page.choose_at_once(*said.items())
        page.until(lambda: page.chosen(*said) == said)


class OnAPhone(Planning):
    size = (390, 844)

    def test_what_is_ticked_without_signal_is_kept_and_sent(self) -> None:
        page = self.page
        page.go("plan/cabin/set-out", CABIN)
        box = "li[data-set-out]:nth-child(2) input[type=checkbox]"
        page.one(box)
        page.browser.set_network_conditions(offline=True, latency=0, throughput=0)
        page.click(box)
        page.sees("Kept on this device")
        page.browser.delete_network_conditions()
        page.until(lambda: not page.all("[data-set-out][data-waiting=true]"))
        page.browser.refresh()
        page.one("li[data-set-out]:nth-child(2)[data-made=true]")


if __name__ == "__main__":
    import unittest

    unittest.main()
