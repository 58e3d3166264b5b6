"""The practice house in a browser: one of each kind gone through by hand, at a desk and on a phone."""

import re

from lumbek.practice.exercise import Act, School, solved
from lumbek.practice.make import begin
from lumbek.practice.switching import Switching
from tests.support.browser import BrowserCase

# An exercise by its number, as the page begins one.
_BEGUN = """
const [kind, level, seed, done] = arguments;
const school = { rulebook: "bs7671", colours: "harmonised", loop: "at-switch" };
fetch("/api/session").then((answer) => answer.json()).then((session) =>
  fetch("/api/practice/runs", {
    method: "POST",
    headers: { "Content-Type": "application/json", "X-CSRF-Token": session.csrf_token },
    body: JSON.stringify({ id: crypto.randomUUID(), asked: { kind, level, seed, school } }),
  })).then((answer) => answer.json()).then((run) => done(run.id));
"""
_SORTS = "return [...arguments[0].options].map((each) => each.value).filter(Boolean)"
# Whether more is seen than before, or the end has come.
_GONE_ON = """
return document.querySelector("[data-marks]") !== null ||
  Number(document.querySelector("[data-seen]").dataset.seen) > arguments[0]
"""
KINDS = ("accessories", "isolation", "switching", "testing", "faults", "design", "inspection")


class Practising(BrowserCase):
    """The hands of whoever practises."""

    def begun(self, kind: str) -> tuple[int, int]:
        """Begin an exercise of a kind on the page; return its number, and the level that comes next there."""
        page = self.page
        page.browser.get(f"{page.server.address}/practice")
        self.press(f"[data-begin={kind}]")
        seed = int(page.one(f"[data-exercise={kind}]").get_attribute("data-seed"))
        level = re.search(r"level (\d), number", page.one("main").text)
        assert level is not None
        return seed, int(level.group(1))

    def done(self) -> int:
        return int(self.page.one("[data-seen]").get_attribute("data-seen"))

    def do(self, act: Act) -> None:
        """Do an act as a hand does it."""
        page, before = self.page, self.done()
        if act.figure is not None:
            page.type("input[name=Figure]", f"{act.figure:.4f}")
            self.press("form button.btn-primary")
        elif act.choices:
            for each in act.choices:
                self.press(f"input[type=checkbox][name='{each}']")
            self.press("[data-several]")
        elif act.wired:
            self.wire(act)
        else:
            self.choose(act.choice)
        page.until(lambda: page.browser.execute_script(_GONE_ON, before), str(act))

    def choose(self, choice: str) -> None:
        page = self.page
        page.one("[data-ask]")
        wanted = f"[data-choice='{choice}']"
        if "+" in choice:
            self.together(*choice.rsplit("/", 1))
            return
        if not page.all(wanted):
            for sort in page.browser.execute_script(_SORTS, page.one("select[name=Sort]")):
                page.choose("Sort", value=sort)
                if page.all(wanted):
                    break
        self.press(wanted)

    def together(self, what: str, those: str) -> None:
        """Choose several to be unplugged at once."""
        self.page.choose("Sort", value="Insulation, several unplugged")
        for each in those.split("+"):
            self.press(f"input[name='together {each}']")
        self.press(f"[data-do='{what}/']")

    def wire(self, act: Act) -> None:
        page = self.page
        for each in act.wired:
            key = f"{each.place} {each.leg} {each.core}"
            page.choose(key, value=each.into)
            if each.marked:
                page.choose(f"sleeve {key}", value=each.marked)
        for link in act.links:
            page.choose(f"Wire from {link.place}", value=link.a)
            page.choose(f"Wire to {link.place}", value=link.b)
            self.press(f"[data-box='{link.place}'] button.btn:not([disabled])")
        self.press("form button.btn-primary")


class AtADesk(Practising):
    def test_one_of_each_kind_is_gone_through_to_full_marks(self) -> None:
        page = self.page
        for kind in KINDS:
            seed, level = self.begun(kind)
            acts = solved(begin(kind, seed, level, School()))  # type: ignore[arg-type]
            for act in acts:
                self.do(act)
            self.assertEqual(page.one("[data-marks]").get_attribute("data-marks"), "100", kind)
        page.browser.get(f"{page.server.address}/practice")
        page.until(lambda: int(page.one("[data-record]").get_attribute("data-record")) >= len(KINDS))

    def test_a_wall_of_two_circuits_is_belled_out_given_a_cable_and_wired(self) -> None:
        page = self.page
        exercise = begin("switching", 0, 5, School())
        assert isinstance(exercise, Switching)
        wall = exercise.wall
        self.assertEqual((len(wall.circuits), len(wall.lacks), len(wall.unmarked)), (2, 1, 1))
        run = page.browser.execute_async_script(_BEGUN, "switching", 5, 0)
        page.browser.get(f"{page.server.address}/practice/runs/{run}")
        page.sees("nobody knows where to")
        for act in solved(exercise):
            self.do(act)
        page.sees("Every position is as it should be")
        self.assertEqual(page.one("[data-marks]").get_attribute("data-marks"), "100")
        page.sees("dust 5, 5 by the same")

    def test_several_loads_are_unplugged_for_one_reading(self) -> None:
        """As the finder proposes it at times: more than can be listed."""
        page = self.page
        seed = next(
            seed for seed in range(40) if any("+" in act.choice for act in solved(begin("faults", seed, 1, School())))
        )
        run = page.browser.execute_async_script(_BEGUN, "faults", 1, seed)
        page.browser.get(f"{page.server.address}/practice/runs/{run}")
        for act in solved(begin("faults", seed, 1, School())):
            self.do(act)
        self.assertEqual(page.one("[data-marks]").get_attribute("data-marks"), "100")

    def test_what_bites_says_why_and_marks_outlive_a_reload(self) -> None:
        page = self.page
        self.begun("isolation")
        self.choose("begin")
        page.sees("hand to feet 230 mA")
        page.browser.refresh()
        self.assertEqual(page.one("[data-marks]").get_attribute("data-marks"), "0")
        page.sees("Not safe")
        number = page.one("[data-exercise]").get_attribute("data-seed")
        self.press("[data-another]")
        page.until(lambda: page.one("[data-exercise]").get_attribute("data-seed") != number)
        page.browser.get(f"{page.server.address}/practice")
        page.sees("unsafe")

    def test_a_hint_and_a_supervisors_exercise(self) -> None:
        page = self.page
        self.begun("testing")
        self.press("[data-hint]")
        page.one("[data-hinted]")
        page.browser.get(f"{page.server.address}/practice")
        page.type("input[name='Number to set']", "7")
        page.type("input[name='Word to it']", "By Friday")
        self.press("form[aria-label='Set an exercise to everybody'] button")
        self.press("[data-set] button")
        self.assertEqual(page.one("[data-exercise]").get_attribute("data-seed"), "7")

    def test_a_fault_is_put_into_a_circuit_of_ones_own(self) -> None:
        page = self.page
        page.go("tests", circuit="1", view="find")
        page.one("[data-diagnosis]")
        page.browser.execute_script("arguments[0].open = true", page.all("details")[-1])
        self.press("[data-practise]")
        page.one("[data-exercise=faults]")
        page.sees("What do you do?")


class OnAPhone(Practising):
    size = (390, 844)

    def test_each_kind_is_begun_and_fits_the_screen(self) -> None:
        page = self.page
        for kind in KINDS:
            seed, level = self.begun(kind)
            for act in solved(begin(kind, seed, level, School()))[:2]:  # type: ignore[arg-type]
                wide = page.browser.execute_script("return document.documentElement.scrollWidth")
                self.assertLessEqual(wide, 390, (kind, act))
                self.do(act)
            wide = page.browser.execute_script("return document.documentElement.scrollWidth")
            self.assertLessEqual(wide, 390, kind)

    def test_an_exercise_is_gone_through_to_its_marks(self) -> None:
        seed, level = self.begun("accessories")
        for act in solved(begin("accessories", seed, level, School())):
            self.do(act)
        self.assertEqual(self.page.one("[data-marks]").get_attribute("data-marks"), "100")
        self.page.browser.get(f"{self.page.server.address}/practice")
        self.assertGreaterEqual(int(self.page.one("[data-record]").get_attribute("data-record")), 1)
