"""Isolation: a board, a lock, an indicator that may be faulty, a second feed that nobody mentioned: prove it dead.

Safe isolation (EAWR 1989 regulations 12 to 14; HSE GS38; EN 50110-1 6.2): find every supply, switch off, lock, prove
the indicator, test, prove the indicator again. The pair that ought to have nothing between it comes first: neutral to
earth.
"""

from typing import ClassVar, NamedTuple

from lumbek.practice.body import DEAD_FIRST, through_a_body
from lumbek.practice.exercise import Act, Ask, CameOf, Choice, Exercise, Kind, Reckoning, School, need_choice, solved
from lumbek.practice.pictures import Picture, box, line, words

_PAIRS = {"NE": "neutral to earth", "LE": "line to earth", "LN": "line to neutral"}
_STEPS = {
    "ask": "Ask, and look, what else feeds it",
    "say": "Say who will be without power, and for how long",
    "off": "Switch the circuit off at the board",
    "second": "Switch the second supply off",
    "lock": "Lock it off, the key in your pocket, and hang the notice",
    "prove": "Prove the indicator on a source that is known",
    **{f"test {pair}": f"Test {words} at the point" for pair, words in _PAIRS.items()},
    "other": "Take another indicator",
    "begin": "Take the plate off and begin",
}
_MINUTES = {"ask": 3, "say": 1, "off": 1, "second": 2, "lock": 2, "prove": 1, "other": 4}
# The second supplies that a house may have, by the level from which they come.
_SECONDS = {
    2: "the timer of the water heater, fed from the neighbour circuit",
    3: "panels on the roof, by an inverter in the loft",
    4: "a battery that keeps this circuit up",
    5: "a neutral borrowed from the lights upstairs",
}


class World(NamedTuple):
    """What is so, whether anybody knows or not."""

    second: str
    # Whether whoever lives there knows of it.
    is_told: bool
    # After how many uses the indicator fails; none where it holds.
    fails_after: int | None


class ProvingDead(Exercise):
    """A circuit to be worked on."""

    kind: ClassVar[Kind] = "isolation"
    title = "Prove it dead"

    def __init__(self, seed: int, level: int, school: School) -> None:
        """Draw what is so."""
        super().__init__(seed, level, school)
        some = [words for at, words in _SECONDS.items() if at <= level]
        second = self.chance.choice(some) if some and self.chance.random() < 0.6 else ""
        fails = self.chance.randint(0, 4) if level >= 2 and self.chance.random() < 0.5 else None
        self.world = World(second, level < 3 or self.chance.random() < 0.5, fails)
        self.story = (
            "A socket is to be changed. The board is in the hall, its ways are written up; somebody is cooking."
        )
        self.done: list[str] = []
        self.is_off = self.is_locked = self.is_second_off = self.knows_second = False
        self.uses = 0
        self.is_other = False
        # Since when the indicator is proved, and what was tested since the last proof before it.
        self.tested: list[str] = []
        self.is_proved_before = self.is_proved_after = False
        self.hurt = self.found_bad = ""
        self.slips: list[str] = []

    @property
    def is_over(self) -> bool:
        """Whether the work was begun."""
        return "begin" in self.done

    def ask(self) -> Ask | None:
        """Return the steps, all of them, all along."""
        if self.is_over:
            return None
        choices = [
            Choice(id=each, words=words, minutes=_MINUTES.get(each, 1))
            for each, words in sorted(_STEPS.items(), key=lambda it: it[1])
            if each != "second" or self.knows_second
        ]
        return Ask(words="What do you do next?", choices=tuple(choices))

    def picture(self) -> Picture:
        """Return the board, and the point that is to be worked on."""
        shapes = [box(20, 20, 300, 110)]
        for at in range(6):
            shapes += [box(36 + 42 * at, 40, 70 + 42 * at, 90, "quiet"), words(53 + 42 * at, 65, str(at + 1))]
        shapes += [line(137, 90, 137, 150, "copper"), box(107, 150, 167, 200), words(137, 175, "socket")]
        return Picture(width=330, height=215, shapes=tuple(shapes), told="The board; the socket is on way 3")

    @property
    def works(self) -> bool:
        """Whether the indicator shows what there is."""
        return self.is_other or self.world.fails_after is None or self.uses < self.world.fails_after

    def live(self, pair: str) -> bool:
        """Whether there is voltage between two conductors at the point."""
        if not self.is_off:
            return pair != "NE"
        if not self.world.second or self.is_second_off:
            return False
        return pair in (("NE", "LN") if "neutral" in self.world.second else ("LE", "LN"))

    @property
    def is_dead(self) -> bool:
        """Whether nothing is live there."""
        return not any(map(self.live, _PAIRS))

    @property
    def is_shown_dead(self) -> bool:
        """Whether it was proved: locked, every pair tested dead, the indicator proved before and after."""
        return self.is_locked and set(self.tested) == set(_PAIRS) and self.is_proved_before and self.is_proved_after

    def more_hints(self) -> tuple[str, ...]:
        """Return the next step of one who knows."""
        step = self.way().choice
        return (f"Next: {_STEPS[step][0].lower()}{_STEPS[step][1:]}.",)

    def take(self, act: Act) -> None:
        """Do a step."""
        chosen = need_choice(self.ask(), act)
        self.minutes += chosen.minutes
        before = len(self.slips)
        came = self._came(chosen.id)
        self.done.append(chosen.id)
        slipped = " ".join(self.slips[before:])
        good = False if slipped or self.hurt else None
        law = "" if good is None else DEAD_FIRST[self.school.rulebook]
        self.seen.append(
            CameOf(did=chosen.words, came=came, good=good, unsafe=bool(self.hurt), why=slipped, clause=law)
        )

    def _came(self, step: str) -> str:
        if step.startswith("test "):
            return self._tested(step.removeprefix("test "))
        return {
            "ask": self._asked,
            "say": lambda: "They turn the hob off, and thank you.",
            "off": self._switched_off,
            "second": self._second_off,
            "lock": self._locked,
            "prove": self._proved,
            "other": self._other,
            "begin": self._begun,
        }[step]()

    def _asked(self) -> str:
        self.knows_second = self.knows_second or bool(self.world.second and self.world.is_told)
        told = f"Something else may feed it: {self.world.second}."
        return told if self.knows_second else "Nothing else feeds it, as far as anybody knows."

    def _switched_off(self) -> str:
        self.is_off = True
        if "say" not in self.done:
            self.slips.append("Switched off without a word to whoever was cooking.")
        return "It is off. It can be switched on again by anybody who passes." if not self.is_locked else "It is off."

    def _second_off(self) -> str:
        self.is_second_off = True
        return "Off, and locked too."

    def _locked(self) -> str:
        if not self.is_off:
            self.slips.append("A lock on a breaker that is on.")
            return "The lock does not go on: the breaker is on."
        self.is_locked = True
        return "Locked. The notice hangs."

    def _proved(self) -> str:
        shows = self.works
        self.uses += 1
        if not shows:
            self.found_bad = "the indicator"
            self.tested, self.is_proved_before, self.is_proved_after = [], False, False
            return "It shows nothing on a source that is live. Whatever it showed before is worth nothing."
        if self.tested:
            self.is_proved_after = self.is_proved_before
        else:
            self.is_proved_before = True
        return "It shows the source."

    def _other(self) -> str:
        self.is_other, self.uses = True, 0
        self.tested, self.is_proved_before, self.is_proved_after = [], False, False
        return "Another one, from its case: nobody has proved it yet."

    def _tested(self, pair: str) -> str:
        if not self.is_proved_before:
            self.slips.append("Tested with an indicator that nobody had proved.")
        if not self.tested and pair != "NE":
            self.slips.append("The pair that ought to have nothing between it comes first: neutral to earth.")
        shows = self.works and self.live(pair)
        self.uses += 1
        self.is_proved_after = False
        if shows:
            self.tested, self.is_proved_before = [], False
            self.knows_second = self.knows_second or (self.is_off and bool(self.world.second))
            return f"It shows {round(self.book.u0_v)} V, {_PAIRS[pair]}. Something feeds this."
        self.tested.append(pair)
        return "It shows nothing."

    def _begun(self) -> str:
        if self.is_dead and self.is_shown_dead:
            return "The plate is off. Nothing happens: it was proved."
        if self.is_dead:
            self.slips.append("Begun on what nobody had proved dead. This time it was.")
            return "Nothing happens, this time. Nobody had proved it."
        what = self.world.second if self.is_off else "the socket, which was still on"
        self.hurt = through_a_body(self.book.u0_v, f"what was fed by {what}" if self.is_off else what)
        return self.hurt

    def reckon(self) -> Reckoning:
        """Return marks: begun on what was not proved is unsafe, whether it was live or not."""
        safe = not self.hurt and self.is_shown_dead
        least = self._least()
        said = [*dict.fromkeys(self.slips)]
        if self.world.second:
            said.append(f"What nobody mentioned: {self.world.second}.")
        if self.world.fails_after is not None:
            said.append(
                "The indicator was faulty." if self.found_bad else "The indicator failed in the end, unnoticed."
            )
        return self.reckoned(safe, int(safe), 1, least, 1 - 0.15 * len(set(self.slips)), said)

    def _least(self) -> int:
        twin = ProvingDead(self.seed, self.level, self.school)
        solved(twin)
        return twin.minutes

    def way(self) -> Act:
        """Do the next step of one who knows."""
        if self.found_bad and not self.is_other:
            return Act(choice="other")
        done = set(self.done)
        for step, is_wanted in (
            ("ask", "ask" not in done),
            ("say", "say" not in done),
            ("off", not self.is_off),
            ("second", self.knows_second and not self.is_second_off),
            ("lock", not self.is_locked),
            ("prove", not self.is_proved_before),
            *((f"test {pair}", pair not in self.tested) for pair in _PAIRS),
            ("prove", not self.is_proved_after),
        ):
            if is_wanted:
                return Act(choice=step)
        return Act(choice="begin")
