"""The Board page, driven as one does: looking up, moving, grouping, tripping, a sub-board, labels."""

from selenium.webdriver import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.support.browser import CABIN, HOUSE, BrowserCase, Page

_WAY = "return [...document.querySelectorAll('[data-way]')].find((each) => each.innerText.includes(arguments[0]))"


class BoardPage(BrowserCase):
    def board(self, job: str = CABIN) -> Page:
        self.page.go("board", job)
        self.page.one("[data-house]")
        return self.page

    def verdict(self, check: str) -> str | None:
        return self.page.one(f"[data-check='{check}']").get_attribute("data-verdict")

    def way(self, words: str):
        return self.page.until(lambda: self.page.browser.execute_script(_WAY, words))

    def group_of(self, words: str) -> str | None:
        return self.way(words).find_element(By.XPATH, "ancestor::*[@data-group]").get_attribute("data-group")

    def pick(self, words: str) -> None:
        self.page.until(lambda: self.way(words).click() or True)

    def test_a_way_is_moved_by_keyboard_and_undone(self) -> None:
        page = self.board()
        self.assertEqual(self.verdict("leakage-G2"), "fail")
        self.assertEqual(self.group_of("8 Bilge"), "G2")
        self.pick("8 Bilge")
        ActionChains(page.browser).key_down(Keys.SHIFT).send_keys(Keys.ARROW_RIGHT).key_up(Keys.SHIFT).perform()
        page.until(lambda: self.group_of("8 Bilge") == "G3")
        page.until(lambda: self.verdict("leakage-G2") == "pass")
        page.button("Undo")
        page.until(lambda: self.verdict("leakage-G2") == "fail")
        page.button("Redo")
        page.until(lambda: self.verdict("leakage-G2") == "pass")
        page.saved()
        page.browser.refresh()
        page.until(lambda: self.group_of("8 Bilge") == "G3")
        page.button("Circuits")
        page.until(lambda: page.all("[data-overall]"))
        page = self.board()
        self.pick("8 Bilge")
        page.choose("Group of the way", "Boat store board: RCD 1")
        page.until(lambda: self.group_of("8 Bilge") == "G2")
        page.saved()

    def test_a_way_is_dragged_into_another_group(self) -> None:
        page = self.board()
        here, there = self.way("8 Bilge"), self.way("10 Slipway")
        ActionChains(page.browser).drag_and_drop(here, there).perform()
        page.until(lambda: self.group_of("8 Bilge") == "G3")
        page.button("Undo")
        page.until(lambda: self.group_of("8 Bilge") == "G2")
        page.saved()

    def test_a_device_pressed_as_if_it_tripped_darkens_its_rooms(self) -> None:
        page = self.board()
        self.pick("9 Boat store lights")
        page.keys("t")
        page.one("[data-tripped]")
        dark = page.until(lambda: page.all("[data-room][data-dark=true]"))
        self.assertEqual([each.text.split("\n")[0] for each in dark], ["Boat store"])
        self.assertEqual(len(page.all("[data-way][data-dark=true]")), 1)
        page.keys(Keys.ESCAPE)
        page.until(lambda: not page.all("[data-tripped]"))
        page.click("[data-group=G2] > button")
        page.button("As if it tripped")
        page.until(lambda: len(page.all("[data-way][data-dark=true]")) == 2)
        page.sees("Missed: freezer")
        page.button("Switch it on again")

    def test_rooms_are_said_once_and_heard_everywhere(self) -> None:
        page = self.board(HOUSE)
        page.click("[data-tab=dark]")
        page.type("input[name='Room Study']", "Writing room" + Keys.ENTER)
        page.until(lambda: page.all("[data-room='Writing room']"))
        page.type("input[name='New storey']", "Loft" + Keys.ENTER)
        page.until(lambda: page.all("[data-storey=loft]"))
        page.choose("Storey of the new room", "Loft")
        page.type("input[name='New room']", "Water tank" + Keys.ENTER)
        page.until(lambda: page.all("[data-storey=loft] [data-room='Water tank']"))
        page.choose("Storey of Writing room", "Loft")
        page.until(lambda: page.all("[data-storey=loft] [data-room='Writing room']"))
        page.button("Undo of rooms")
        page.until(lambda: page.all("[data-storey=ground-floor] [data-room='Writing room']"))
        # A name that another room has is refused in words, and nothing is lost.
        page.type("input[name='Room Hall']", "kitchen" + Keys.ENTER)
        page.sees("There is a room called kitchen already")
        page.button("Close")
        # The board hangs in a room, in one's own words there.
        page.button("House board")
        page.type("input[name='Room of board']", "hall" + Keys.ENTER)
        page.sees("Hall, ")
        # A circuit says the same name, and a room that is typed there for the first time is made.
        page.button("Circuits")
        page.sees("Ground floor sockets")
        page.button("2")
        page.click("[data-point=P4]")
        page.until(lambda: page.one("input[name=Room]").get_attribute("value") == "Writing room")
        page.type("input[name=Room]", "Cloakroom" + Keys.ENTER)
        page.saved()
        page.type("input[name=Place]", "behind the door" + Keys.ENTER)
        page.saved()
        page.button("Board")
        page.click("[data-tab=dark]")
        page.until(lambda: page.all("[data-storey=none] [data-room=Cloakroom]"))

    def test_a_group_and_a_sub_board_are_made_and_judged(self) -> None:
        page = self.board(HOUSE)
        before = len(page.all("[data-group]"))
        page.button("House board")
        page.button("Add an RCD and its group")
        page.until(lambda: len(page.all("[data-group]")) == before + 1)
        page.click("[data-board=B1] [data-group]:last-child > button")
        page.type("input[name='Group rating']", "63" + Keys.ENTER)
        page.saved()
        page.button("House board")
        page.button("Add a sub-board")
        page.type("input[name='New board']", "Yard board")
        page.button("Add it")
        page.until(lambda: any("Yard board" in each.text for each in page.all("[data-board]")))
        page.saved()
        self.pick("7 Kiln")
        yard = page.one("select[name='Group of the way']").text
        self.assertIn("Yard board", yard)
        page.choose("Group of the way", next(line.strip() for line in yard.split("\n") if "Yard board" in line))
        page.until(
            lambda: "7 Kiln" in next(each for each in page.all("[data-board]") if "Yard board" in each.text).text
        )
        for _ in range(3):
            page.button("Undo")
            page.saved()

    def test_a_proposal_is_taken_over_and_labels_come_as_pdf(self) -> None:
        page = self.board()
        page.click("[data-tab=propose]")
        page.one("[data-board-proposals]")
        page.sees("Move 8 Bilge pump and ice chest to RCD 2")
        page.button("Do it")
        page.click("[data-tab=checks]")
        page.until(lambda: self.verdict("leakage-G2") == "pass")
        page.button("Undo")
        page.until(lambda: self.verdict("leakage-G2") == "fail")
        page.click("[data-tab=labels]")
        page.sees("Press the button marked T or Test")
        page.click("[data-download=labels]")
        self.assertTrue(page.downloaded(".pdf").startswith(b"%PDF"))
        page.click("[data-tab=room]")
        page.sees("no sharing has a lesser fullest line")

    def test_a_phone_looks_up_and_records(self) -> None:
        page = Page(self.page.server, 390, 844)
        try:
            page.sign_in()
            page.go("board")
            page.one("[data-way]")
            wide = page.browser.execute_script("return document.documentElement.scrollWidth")
            self.assertLessEqual(wide, 390)
            page.type("input[name='Place of board']", "Under the stair, left" + Keys.ENTER)
            page.until(lambda: page.one("[data-saved]").get_attribute("data-saved") == "true")
            page.sees("Under the stair, left")
        finally:
            page.close()
