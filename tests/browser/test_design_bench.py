"""The design bench in the browser: kinds, cables, feeds, margins, runs from a file, and a phone."""

from pathlib import Path

from selenium.webdriver.common.keys import Keys

from tests.support.browser import BrowserCase, Page


class OnTheBench(BrowserCase):
    def circuit(self, number: str = "") -> Page:
        page = self.page
        page.go("circuits", circuit=number)
        page.one("[data-drawing]")
        page.until(lambda: page.one("[data-number]").text == number or not number)
        return page

    def verdict(self, name: str) -> str | None:
        return self.page.one(f"[data-check='{name}']").get_attribute("data-verdict")

    def lay_first(self, length: str) -> None:
        self.page.one("[data-drawing]").send_keys("a")
        self.page.one("input[name='Length of L1']").send_keys(length + Keys.ENTER)
        self.page.saved()

    def test_a_kind_brings_its_device_cable_and_load(self) -> None:
        page = self.circuit()
        page.start_circuit("Cooker, hob")
        self.assertEqual(page.one("select[name='Cable size']").get_attribute("value"), "6")
        self.lay_first("12")
        page.until(lambda: self.verdict("load") == "pass")
        self.assertIn("Ib 20.7 A", page.one("[data-check=load]").text)
        page.one("[data-loads='1']")
        page.type("input[name='Load 1 power']", "14000" + Keys.TAB)
        page.until(lambda: "Ib 25.3 A" in page.one("[data-check=load]").text)

    def test_a_departure_asks_for_its_reason(self) -> None:
        page = self.circuit()
        page.start_circuit("Immersion heater")
        self.assertEqual(page.all("input[name=Reason]"), [])
        page.choose("Rating", "25 A")
        page.saved()
        reason = page.one("input[name=Reason]")
        self.assertIn("usual for immersion heater", reason.get_attribute("placeholder"))
        page.type("input[name=Reason]", "Two elements, five kilowatts" + Keys.ENTER)
        page.saved()
        page.until(lambda: "with a reason" in page.one("[data-check=usual]").text)

    def test_a_leg_of_another_cable_behind_a_fuse(self) -> None:
        page = self.circuit()
        page.start_circuit("Boiler")
        self.lay_first("9")
        page.click("[data-point=P1]")
        page.one("[data-point=P1].picked")
        page.button("Add next")
        page.one("input[name='Length of L2']").send_keys("1.5" + Keys.ENTER)
        page.saved()
        page.click("[data-leg=L2]")
        page.button("A cable of its own")
        page.saved()
        page.choose("This cable", "Flexible cord")
        page.saved()
        page.choose("This cable size", "0.75 mm²")
        page.saved()
        page.until(lambda: self.verdict("cable") == "pass")
        page.click("[data-point=P1]")
        page.choose("Fuse", "13 A")
        page.until(lambda: self.verdict("cable") == "fail")
        page.one("[data-leg=L2].failing")

    def test_a_feed_ahead_is_drawn_and_fails_where_it_is_too_thin(self) -> None:
        page = self.circuit("10")
        page.choose("Cable size", "1.5 mm²")
        page.until(lambda: self.verdict("cable") == "fail")
        page.saved()
        page = self.circuit("8")
        page.one("[data-ahead-drawn='2']")
        page.until(lambda: self.verdict("feed") == "fail")
        page.one("[data-ahead-drawn].failing")
        page.click("[data-point=board]")
        page.one("[data-ahead] a[href$='/board']")
        page = self.circuit("10")
        page.choose("Cable size", "10 mm²")
        page.saved()
        page = self.circuit("8")
        page.until(lambda: self.verdict("feed") == "pass")

    def test_margins_stand_on_legs_and_points(self) -> None:
        page = self.circuit("1")
        page.button("Margin")
        page.until(lambda: "+35 %" in page.one("[data-length=L1]").text)
        self.assertRegex(page.one("[data-point=P1]").text, r"(Zs|V) \+\d+ %")

    def test_voltage_drop_with_ct_is_lower_and_says_so(self) -> None:
        page = self.circuit("7")

        def drop() -> str:
            return page.one("[data-check='volt-drop']").text

        before = drop()
        page.button("Earth and surroundings")
        next(each for each in page.all("label") if "with Ct" in each.text).click()
        page.until(lambda: drop() != before)
        page.click("[data-check='volt-drop'] button")
        page.sees("× Ct 0.")
        page.button("Undo")
        page.until(lambda: "× Ct" not in drop())

    def test_others_in_the_group_that_are_lightly_loaded(self) -> None:
        page = self.circuit("5")
        page.click("[data-leg=L1]")
        page.type("input[name='Segment 1 circuits together']", "4" + Keys.TAB)
        page.saved()
        grouped = page.one("[data-check=cable]").text
        page.type("input[name='Segment 1 lightly loaded']", "2" + Keys.TAB)
        page.until(lambda: page.one("[data-check=cable]").text != grouped)
        page.type("input[name='Segment 1 lightly loaded']", "4" + Keys.TAB)
        page.sees("must be fewer than grouped_circuits")
        page.button("Undo")

    def test_a_run_from_a_file_and_help_while_typing(self) -> None:
        page = self.circuit()
        page.start_circuit("Socket-outlets")
        page.button("Type the run")
        page.type("textarea", "9m Den: door tw")
        page.until(lambda: [each.text for each in page.all("[data-offered]")] == ["twin"])
        page.keys(Keys.TAB)
        page.until(lambda: page.one("textarea").get_attribute("value") == "9m Den: door twin ")
        file = Path(page.folder.name, "run.csv")
        file.write_text("length,kind,name,room\n9,twin,Door,Den\n4.5,single,Desk,\n11,back,,\n", encoding="utf-8")
        page.one("input[aria-label='CSV file with a run']").send_keys(str(file))
        page.button("Add 3 cables")
        page.one("[data-shape=ring]")
        page.saved()
        page.until(lambda: "Desk" in page.one("[data-point=P2]").text)

    def test_a_found_ring_is_extended_through_new_points(self) -> None:
        page = self.circuit("2")
        before = len(page.all("[data-point]"))
        page.click("[data-leg=L3]")
        page.one("[data-leg=L3].picked")
        page.button("Through new points")
        page.sees("and back to")
        page.type("textarea", "4m shelf single, back 3m")
        page.button("Add 2 cables")
        page.until(lambda: len(page.all("[data-point]")) == before + 1)
        page.saved()
        self.assertIn("ring", page.one("[data-shape]").get_attribute("data-shape"))
        page.button("Undo")
        page.until(lambda: len(page.all("[data-point]")) == before)
        page.saved()

    def test_loads_are_added_changed_and_dropped(self) -> None:
        page = self.circuit("2")
        page.click("[data-point=P1]")
        page.choose("Appliance", "Washing machine")
        page.one("[data-loads='1']")
        page.choose("Appliance", "Kettle")
        page.one("[data-loads='2']")
        page.choose("Load 1 d.c. part", "smooth d.c.")
        page.until(lambda: self.verdict("rcd-type") == "fail")
        page.choose("Load 1 d.c. part", "pulsed")
        page.until(lambda: self.verdict("rcd-type") == "pass")
        page.click("button[aria-label='Drop load 2']")
        page.one("[data-loads='1']")
        page.click("button[aria-label='Drop load 1']")
        page.one("[data-loads='0']")
        page.saved()

    def test_how_far_it_may_go_and_what_else_would_do(self) -> None:
        page = self.circuit("5")
        page.click("[data-tab=propose]")
        reach = page.one("[data-reach]")
        for words in ("As drawn", "Voltage drop", "Fault loop Zs", "any length"):
            self.assertIn(words, reach.text)
        sizes = [each.text for each in page.all("[data-proposals] li") if " mm², " in each.text]
        self.assertTrue(any("as drawn" in each for each in sizes))
        page.button("Try this protection")
        page.sees("Tried out, not saved")
        page.button("Drop it")
        page.until(lambda: "Tried out" not in page.one("main").text)

    def test_an_edit_waits_while_something_is_tried_out(self) -> None:
        page = self.circuit("4")
        page.click("[data-tab=whatif]")
        page.choose("Rating", "10 A")
        page.sees("Tried out, not saved")
        page.one("[data-drawing]").send_keys("a")
        page.sees("Keep or drop what you are trying first")
        page.button("Drop it")
        page.until(lambda: page.one("select[name=Rating]").get_attribute("value") == "6")

    def test_lengths_and_devices_can_be_undone_and_done_again(self) -> None:
        page = self.circuit("3")
        before = page.one("select[name='Cable size']").get_attribute("value")
        page.choose("Cable size", "2.5 mm²")
        page.saved()
        page.button("Undo")
        page.until(lambda: page.one("select[name='Cable size']").get_attribute("value") == before)
        page.button("Redo")
        page.until(lambda: page.one("select[name='Cable size']").get_attribute("value") == "2.5")
        page.chord(Keys.CONTROL, "z")
        page.until(lambda: page.one("select[name='Cable size']").get_attribute("value") == before)
        page.saved()

    def test_the_rulebook_lists_its_kinds_times_and_devices(self) -> None:
        page = self.page
        page.browser.get(f"{page.server.address}/rulebooks/bs7671")
        for title, words in (
            ("Disconnection times", "0.4"),
            ("Kinds of circuit", "Immersion heater"),
            ("Diversity", "first 10 A"),
            ("Protective devices", "Switch-disconnector"),
            ("Depth in the ground", "0.97"),
        ):
            page.button(title)
            page.sees(words)


class OnAPhone(BrowserCase):
    size = (390, 844)

    def test_the_answer_stands_on_top_and_nothing_is_wider_than_the_screen(self) -> None:
        page = self.page
        page.go("circuits")
        page.one("[data-drawing]")
        page.choose("Circuit to open", "6 Shower")
        page.until(lambda: page.one("[data-overall]").get_attribute("data-overall") == "fail")
        self.assertLess(page.one("[data-overall]").location["y"], 300)
        for there in ("[data-leg=L1]", "[data-point=P1]", "[data-point=board]"):
            page.click(there)
            self.assertLessEqual(page.browser.execute_script("return document.documentElement.scrollWidth"), 390)
