"""The other ways about the pages: finding jobs, the survey, loads, ranges, what stands ahead, dragging, themes."""

import json
from importlib.resources import files

from selenium.webdriver import ActionChains
from selenium.webdriver.common.keys import Keys

from tests.support.browser import BrowserCase, Page

HOUSE = files("lumbek.services") / "demo_data" / "signal_box.json"


class Finding(BrowserCase):
    def test_search_and_open_by_keyboard_alone(self) -> None:
        page = self.page.home()
        page.keys("boathouse")
        page.until(lambda: len(page.all("main ul a")) == 1)
        page.keys(Keys.ENTER)
        page.until(lambda: "Lakeside boathouse cabin" in page.one("header").text)

    def test_nothing_found_is_said(self) -> None:
        page = self.page.home()
        page.keys("no such place")
        page.sees("Nothing found for")

    def test_a_job_file_is_taken_in_and_a_wrong_one_refused(self) -> None:
        page = self.page.home()
        good, bad = page.downloads / "good.json", page.downloads / "bad.json"
        good.write_text(HOUSE.read_text(encoding="utf-8"), encoding="utf-8")
        wrong = json.loads(HOUSE.read_text(encoding="utf-8"))
        wrong["supply"]["ze_ohm"] = -1
        bad.write_text(json.dumps(wrong), encoding="utf-8")
        page.browser.find_element("css selector", "input[type=file]").send_keys(str(bad))
        page.sees("supply.ze_ohm")
        page.browser.find_element("css selector", "input[type=file]").send_keys(str(good))
        page.one("[data-finding=ze]")

    def test_sign_out_and_wrong_password(self) -> None:
        page = Page(self.server)
        try:
            page.browser.get(page.server.address)
            page.type("input[name=email]", "spark@signalbox.example")
            page.type("input[name=password]", "wrong")
            page.button("Sign in")
            page.sees("E-mail and password do not fit together")
            page.button("Fill it in")
            page.button("Sign in")
            page.one("input[name=search]")
            page.click("header summary")
            page.button("Sign out")
            page.one("input[name=password]")
        finally:
            page.close()

    def test_the_theme_is_kept(self) -> None:
        page = self.page.home()
        before = page.one("html").get_attribute("data-theme")
        page.click("header button[title='Light or dark']")
        self.assertNotEqual(page.one("html").get_attribute("data-theme"), before)
        chosen = page.one("html").get_attribute("data-theme")
        page.browser.refresh()
        self.assertEqual(page.one("html").get_attribute("data-theme"), chosen)


class OnTheBench(BrowserCase):
    def circuit(self, number: str) -> Page:
        page = self.page
        page.go("circuits", circuit=number)
        page.until(lambda: page.one("[data-number]").text == number)
        return page

    def check(self, name: str) -> str | None:
        return self.page.one(f"[data-check='{name}']").get_attribute("data-verdict")

    def test_an_unknown_length_as_a_range_then_from_r1(self) -> None:
        page = self.circuit("8")
        self.assertEqual(self.check("volt-drop"), "cannot-tell")
        page.click("[data-leg=L3]")
        page.type("input[name='Segment 1 length']", "3" + Keys.TAB)
        page.saved()
        page.type("input[name='Segment 1 at most']", "6" + Keys.TAB)
        page.saved()
        page.until(lambda: self.check("volt-drop") == "pass")
        page.sees("Bench to Glaze table: 3 to 6 m")
        page.type("input[name='Segment 1 at most']", Keys.BACKSPACE + Keys.TAB)
        page.saved()
        page.type("input[name='Segment 1 length']", Keys.BACKSPACE + Keys.TAB)
        page.saved()
        page.type("input[name='Measured r1 of the cable']", "0,0461" + Keys.TAB)
        page.saved()
        page.sees("10.0 m from r1")

    def test_an_appliance_and_its_rcd(self) -> None:
        page = self.circuit("7")
        page.click("[data-point=P2]")
        page.choose("Appliance", "Heat pump")
        page.saved()
        page.sees("do better behind type F")
        page.choose("RCD type", "type AC")
        page.until(lambda: self.check("rcd-type") == "fail")
        page.choose("RCD type", "type F")
        page.until(lambda: self.check("rcd-type") == "pass")

    def test_what_nobody_has_said_is_not_taken_for_granted(self) -> None:
        page = self.circuit("5")
        page.choose("RCD", "RCD not known")
        page.until(lambda: self.check("rcd") == "cannot-tell")
        self.assertEqual(page.one("[data-overall]").get_attribute("data-overall"), "cannot-tell")
        page.choose("RCD", "30 mA in it")
        page.until(lambda: self.check("rcd") == "pass")
        page.choose("RCD", "no RCD")
        page.until(lambda: self.check("rcd") == "fail")
        page.choose("RCD", "30 mA in it")
        page.until(lambda: self.check("rcd") == "pass")
        page.click("[data-point=P2]")
        page.choose("Load 1 d.c. part", "pulsed")
        page.choose("RCD type", "type AC")
        page.until(lambda: self.check("rcd-type") == "fail")
        page.choose("RCD type", "type F")
        page.until(lambda: self.check("rcd-type") == "pass")

    def test_old_copper_asks_for_its_cpc(self) -> None:
        page = self.circuit("3")
        page.choose("Cable size", "1.3 mm² (3/.029)")
        page.until(lambda: self.check("zs") == "cannot-tell")
        page.click("summary:has(b)")
        page.type("input[name='cpc size']", "1" + Keys.TAB)
        page.until(lambda: self.check("zs") == "pass")
        page.choose("cpc by", "no cpc, found so")
        page.until(lambda: self.check("cpc") == "fail")

    def test_a_socket_in_a_bath_room_asks_how_far_it_is(self) -> None:
        page = self.circuit("2")
        page.click("[data-point=P1]")
        page.choose("Bath zone", "outside the zones")
        page.until(lambda: self.check("bath") == "cannot-tell")
        page.type("input[name='Distance from zone 1']", "2.4" + Keys.TAB)
        page.until(lambda: self.check("bath") == "fail")
        page.type("input[name='Distance from zone 1']", "2.5" + Keys.TAB)
        page.until(lambda: self.check("bath") == "pass")
        page.choose("Bath zone", "no bath or shower")
        page.saved()

    def test_a_vehicle_charger_brings_its_rules_to_a_socket_circuit(self) -> None:
        page = self.circuit("2")
        page.click("[data-point=P1]")
        page.choose("Kind of point", "Vehicle charger")
        page.until(lambda: self.check("charging") == "fail")
        page.sees("Shares its circuit with")
        page.button("Undo")
        page.until(lambda: not page.all("[data-check='charging']"))

    def test_a_switch_with_only_the_main_fuse_ahead_fails(self) -> None:
        page = self.circuit("3")
        page.choose("Device", "switch")
        page.until(lambda: self.check("cable") == "fail")
        page.saved()
        page.button("Undo")
        page.until(lambda: self.check("cable") == "pass")
        page.saved()

    def test_a_point_is_dragged_into_another_leg(self) -> None:
        page = self.circuit("1")
        point, leg = page.one("[data-point=P2]"), page.one("[data-length=L7]")
        ActionChains(page.browser).drag_and_drop(point, leg).perform()
        page.saved()
        page.until(lambda: page.one("[data-point=P2].picked"))
        figures = [each.text for each in page.all("[data-length]")]
        self.assertIn("9.7 m", figures)
        page.button("Undo")
        page.until(lambda: "9.7 m" not in [each.text for each in page.all("[data-length]")])

    def test_the_view_shows_each_figure(self) -> None:
        page = self.circuit("1")
        for view, unit in (("Volt drop", "%"), ("Zs", "Ω"), ("R1+R2", "Ω"), ("Current", "A")):
            page.button(view)
            page.until(lambda u=unit: u in page.one("[data-point=P1]").text)

    def test_own_electrode_in_the_yard(self) -> None:
        page = self.circuit("9")
        page.button("Earth and surroundings")
        page.choose("Earth of the circuit", "electrode of its own")
        page.until(lambda: self.check("zs") == "cannot-tell")
        page.type("input[name=Electrode]", "70" + Keys.TAB)
        # Said before the first is answered, the second takes nothing of it away.
        page.choose("Electrode origin", "measured")
        page.until(lambda: self.check("zs") == "pass")
        page.choose("Electrode origin", "declared")
        page.until(lambda: self.check("zs") == "cannot-tell")
        page.saved()


class AtTheIntake(BrowserCase):
    def test_a_service_is_added_judged_and_taken_off(self) -> None:
        page = self.page
        page.go("survey")
        page.one("[data-finding=ze]")
        page.button("Add an incoming service")
        page.until(lambda: page.one("[data-finding='bonding-3']"))
        page.choose("Service 4", "Gas")
        row = "[data-finding='bonding-3']"
        page.until(lambda: "gas" in page.one(row).text)
        next(each for each in page.all(f"{row} button") if each.text == "metal").click()
        page.choose("Service 4 bonded", "not bonded")
        page.until(lambda: page.one(f"{row} [data-check]").get_attribute("data-verdict") == "fail")
        next(each for each in page.all(f"{row} button") if each.text == "Take off").click()
        page.until(lambda: not page.all(row))

    def test_isolation_and_polarity_are_ticked(self) -> None:
        page = self.page
        page.go("tests", circuit="4")
        page.one("[data-stage=isolation]")
        self.assertFalse(page.one("[data-item='isolation:'] .btn-primary").is_enabled())
        for name in ("Proved before", "Proved after"):
            page.click(f"[aria-label='{name}']")
        for pair in ("L–N", "L–E", "N–E"):
            page.button(pair)
        page.button("Proved dead")
        page.until(lambda: page.one("[data-item='isolation:']").get_attribute("data-verdict") == "pass")
        page.all("[data-item='polarity:'] button")[1].click()
        page.until(lambda: page.one("[data-item='polarity:']").get_attribute("data-verdict") == "fail")
        page.sees("Not correct")
